"""Chassis: loads, sag at both ends, springs, and how the bike stands."""

from lynxwort.core.stations.chassis import figures, findings, view
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.station import Station

CHASSIS = Station(
    name="chassis",
    of=ChassisInput.of,
    figures=figures.figures,
    findings=findings.findings,
    views=view.VIEWS,
    some=figures.some,
)
