"""Fuelling: richness in the densest and the thinnest air, lean side first, for whatever meters the fuel."""

from lynxwort.core.stations.fuelling import figures, findings, view
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.station import Station

FUELLING = Station(
    name="fuelling", of=FuellingInput.of, figures=figures.figures, findings=findings.findings, views=view.VIEWS
)
