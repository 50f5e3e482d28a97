"""The bike's own factor on computed fuel, learned from fill-ups, blunder-proof (core.evidence). Prior and spreads:
assumption.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from math import log, sqrt

from lynxwort.core.evidence import LogNormal, Measured, learn
from lynxwort.core.physics.reach.finish import PER_LAP_SD

PRIOR_SD = 0.25
PRIOR_OPEN_MEAN = 1.15
#: error of one fill-up: of the ride and its reckoning, of brimming [m3]; and what another day or course adds (HANDBOOK
#: 5: assumption)
RIDE_SD, BRIMMED_M3, OTHER_DAY_SD = 0.05, 0.0002, 0.10


@dataclass(frozen=True, slots=True, kw_only=True)
class FillUp:
    """Fuel put back and what the model computes for the same ride at factor 1 [same unit]. log_sd: how much the ratio
    may lie off, of its logarithm.
    """

    reading_id: str
    measured: float
    computed: float
    log_sd: float


def fill_up_sd(measured: float, laps: float, *, fuel: bool, like: bool) -> float:
    """Standard deviation of the logarithm of what a fill-up (a charge, when not fuel) says of today's consumption [1].
    measured [m3 or J]; like: made in this very race, else another day adds to it.
    """
    brimmed = BRIMMED_M3 / measured if fuel else 0.0
    return sqrt(RIDE_SD**2 + PER_LAP_SD**2 / laps + brimmed**2 + (0.0 if like else OTHER_DAY_SD**2))


def prior_factor(full_throttle_share: float) -> LogNormal:
    """Prior: mean 1 in tight ground, rising to 1.15 where 40 % of the time is full throttle (the model is thrifty in
    the open).
    """
    openness = min(max((full_throttle_share - 0.1) / 0.3, 0.0), 1.0)
    return LogNormal(log_mean=openness * log(PRIOR_OPEN_MEAN), log_sd=PRIOR_SD)


def learn_factor(prior: LogNormal, fill_ups: Iterable[FillUp]) -> LogNormal:
    """The factor after the fill-ups."""
    return learn(
        prior, [Measured(reading_id=f.reading_id, value=f.measured / f.computed, log_sd=f.log_sd) for f in fill_ups]
    )
