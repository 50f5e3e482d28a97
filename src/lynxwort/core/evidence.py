"""A positive quantity learned from measurements of it: a Gaussian update in logarithms, blunder-proof.

Reference for the contaminated-normal update: [box1968] G. E. P. Box, G. C. Tiao, A Bayesian approach to some outlier
problems, Biometrika 55 (1968) 119; without blunders it is [gelman2013] eq. 2.11. Share and spread of blunders:
assumption.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, log, pi, sqrt

BLUNDER_SHARE = 0.05
BLUNDER_SD = 1.2


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """One measurement of the quantity. log_sd: standard deviation of its logarithm."""

    reading_id: str
    value: float
    log_sd: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LogNormal:
    """What is known of the quantity: log_mean, log_sd of its logarithm; used, doubted: reading ids."""

    log_mean: float
    log_sd: float
    used: tuple[str, ...] = ()
    doubted: tuple[str, ...] = ()

    @property
    def median(self) -> float:
        return exp(self.log_mean)


def about(value: float, log_sd: float) -> LogNormal:
    """A prior about a value."""
    return LogNormal(log_mean=log(value), log_sd=log_sd)


def _density(x: float, sd: float) -> float:
    return exp(-0.5 * (x / sd) ** 2) / (sd * sqrt(2.0 * pi))


def learn(prior: LogNormal, measured: Iterable[Measured], *, blunder_share: float = BLUNDER_SHARE) -> LogNormal:
    """Each measurement pulls by its weight, times the probability that it is no blunder (none at 5 sigma). What shaped
    the prior stays named.
    """
    mean, variance = prior.log_mean, prior.log_sd**2
    used, doubted = list(prior.used), list(prior.doubted)
    for item in measured:
        miss = log(item.value) - mean
        good = (1.0 - blunder_share) * _density(miss, sqrt(variance + item.log_sd**2))
        trust = good / (good + blunder_share * _density(miss, BLUNDER_SD)) if blunder_share else 1.0
        precision = trust / item.log_sd**2
        mean += miss * precision / (1.0 / variance + precision)
        variance = 1.0 / (1.0 / variance + precision)
        (used if trust > 0.5 else doubted).append(item.reading_id)
    return LogNormal(log_mean=mean, log_sd=sqrt(variance), used=tuple(used), doubted=tuple(doubted))
