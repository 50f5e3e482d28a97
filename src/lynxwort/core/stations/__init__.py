"""The stations: what is said of a setup, each from its own input. STATIONS is the only list of them, in the order of
the bench.
"""

from lynxwort.core.stations.baseline import BASELINE
from lynxwort.core.stations.chassis import CHASSIS
from lynxwort.core.stations.damping import DAMPING
from lynxwort.core.stations.drive import DRIVE
from lynxwort.core.stations.fuelling import FUELLING
from lynxwort.core.stations.kit import KIT
from lynxwort.core.stations.purpose import PURPOSE
from lynxwort.core.stations.range import RANGE
from lynxwort.core.stations.trials import TRIALS

STATIONS = (PURPOSE, BASELINE, CHASSIS, DAMPING, FUELLING, DRIVE, RANGE, KIT, TRIALS)
