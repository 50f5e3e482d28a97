"""Range: fuel or charge per lap, what is wanted, chance to finish, stops, level along the race."""

from lynxwort.core.stations.range import figures, findings, view
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.station import Station

RANGE = Station(name="range", of=RangeInput.of, figures=figures.figures, findings=findings.findings, views=view.VIEWS)
