"""Kit: what is bolted on, tyres and brakes."""

from lynxwort.core.stations.kit import figures, findings, view
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.stations.station import Station

KIT = Station(name="kit", of=KitInput.of, figures=figures.figures, findings=findings.findings, views=view.VIEWS)
