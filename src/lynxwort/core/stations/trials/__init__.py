"""Trials: what a trial can show before anyone rides, and what its runs say afterwards."""

from lynxwort.core.stations.station import Station
from lynxwort.core.stations.trials import figures, findings
from lynxwort.core.stations.trials.input import TrialsInput

TRIALS = Station(name="trials", of=TrialsInput.of, figures=figures.figures, findings=findings.findings)
