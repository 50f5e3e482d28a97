"""Fuelling: richness in the densest and the thinnest air, lean side first, for whatever meters the fuel."""

from lynxwort.core.stations.fuelling.figures import figures
from lynxwort.core.stations.fuelling.findings import findings
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.station import Station

FUELLING = Station(name="fuelling", of=FuellingInput.of, figures=figures, findings=findings)
