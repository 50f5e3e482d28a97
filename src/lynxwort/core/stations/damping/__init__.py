"""Damping: dampers as set, damping ratios, the ride over this course's ground, and what would cure what it shows."""

from lynxwort.core.stations.damping import figures, findings, view
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.station import Station

DAMPING = Station(
    name="damping",
    of=DampingInput.of,
    figures=figures.figures,
    findings=findings.findings,
    quiet=findings.quiet,
    views=view.VIEWS,
    some=figures.some,
)
