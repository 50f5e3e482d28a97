"""Purpose: what race, how far, what ground, what air, what schedule."""

from lynxwort.core.stations.purpose import figures, findings, view
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.station import Station

PURPOSE = Station(
    name="purpose", of=PurposeInput.of, figures=figures.figures, findings=findings.findings, views=view.VIEWS
)
