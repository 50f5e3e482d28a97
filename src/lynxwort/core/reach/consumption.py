"""The bike's own factor on computed fuel, learned from fill-ups, blunder-proof.

Prior and spreads: assumption. Reference for the contaminated-normal update: [box1968] G. E. P. Box, G. C. Tiao, A Bayesian
approach to some outlier problems, Biometrika 55 (1968) 119.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, log, pi, sqrt

PRIOR_SD = 0.25
PRIOR_OPEN_MEAN = 1.15
FILL_UP_SD = 0.13
BLUNDER_SHARE = 0.05
BLUNDER_SD = 1.2
PER_LAP_SD = 0.06


@dataclass(frozen=True, slots=True, kw_only=True)
class FillUp:
    """Fuel put back and what the model computes for the same ride at factor 1 [same unit]."""

    reading_id: str
    measured: float
    computed: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BikeFactor:
    """Lognormal factor on computed fuel: log_mean, log_sd; used, doubted: reading ids."""

    log_mean: float
    log_sd: float
    used: tuple[str, ...] = ()
    doubted: tuple[str, ...] = ()

    @property
    def median(self) -> float:
        return exp(self.log_mean)


def prior_factor(full_throttle_share: float) -> BikeFactor:
    """Prior: mean 1 in tight ground, rising to 1.15 where 40 % of the time is full throttle (the model is thrifty in the open)."""
    openness = min(max((full_throttle_share - 0.1) / 0.3, 0.0), 1.0)
    return BikeFactor(log_mean=openness * log(PRIOR_OPEN_MEAN), log_sd=PRIOR_SD)


def _density(x: float, sd: float) -> float:
    return exp(-0.5 * (x / sd) ** 2) / (sd * sqrt(2.0 * pi))


def learn(prior: BikeFactor, fill_ups: Iterable[FillUp]) -> BikeFactor:
    """Gaussian update in logs; each fill-up counts by the probability that it is no blunder (none at 5 sigma)."""
    mean, variance = prior.log_mean, prior.log_sd**2
    used: list[str] = []
    doubted: list[str] = []
    for item in fill_ups:
        miss = log(item.measured / item.computed) - mean
        good = (1.0 - BLUNDER_SHARE) * _density(miss, sqrt(variance + FILL_UP_SD**2))
        trust = good / (good + BLUNDER_SHARE * _density(miss, BLUNDER_SD))
        precision = trust / FILL_UP_SD**2
        mean += miss * precision / (1.0 / variance + precision)
        variance = 1.0 / (1.0 / variance + precision)
        (used if trust > 0.5 else doubted).append(item.reading_id)
    return BikeFactor(log_mean=mean, log_sd=sqrt(variance), used=tuple(used), doubted=tuple(doubted))
