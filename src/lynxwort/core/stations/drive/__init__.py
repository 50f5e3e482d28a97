"""Drive: does it pull, how fast, how slowly, and where not."""

from lynxwort.core.stations.drive import figures, findings, view
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.station import Station

DRIVE = Station(name="drive", of=DriveInput.of, figures=figures.figures, findings=findings.findings, views=view.VIEWS)
