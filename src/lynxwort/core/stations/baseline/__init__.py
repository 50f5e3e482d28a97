"""Baseline: what was measured, and what is still to measure."""

from lynxwort.core.stations.baseline import figures, findings, view
from lynxwort.core.stations.baseline.input import BaselineInput
from lynxwort.core.stations.station import Station

BASELINE = Station(
    name="baseline", of=BaselineInput.of, figures=figures.figures, findings=findings.findings, views=view.VIEWS
)
