"""Purpose: what race, how far, what ground, what air, what schedule."""

from lynxwort.core.stations.purpose.figures import figures
from lynxwort.core.stations.purpose.findings import findings
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.station import Station

PURPOSE = Station(name="purpose", of=PurposeInput.of, figures=figures, findings=findings)
