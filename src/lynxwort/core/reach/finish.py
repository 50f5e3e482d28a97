"""The chance to finish on the fuel aboard, in closed form.

References: [fenton1960] L. F. Fenton, IRE Trans. Commun. Syst. 8 (1960) 57 (sum of lognormals by its first two moments);
[abramowitz1964] 25.4.46 (Gauss-Hermite). Agrees with a Monte Carlo of the same model (tests).
"""

from collections.abc import Sequence
from math import exp, log, sqrt

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq
from scipy.special import ndtr

from lynxwort.core.reach.consumption import PER_LAP_SD, BikeFactor

_NODES, _WEIGHTS = np.polynomial.hermite.hermgauss(61)
_WEIGHTS = _WEIGHTS / np.sqrt(np.pi)


def sum_of_laps(laps: Sequence[float], per_lap_sd: float = PER_LAP_SD) -> tuple[float, float]:
    """Log mean and log sd of the sum of independent lognormal laps with these medians x exp(-sd^2/2). Reference: [fenton1960]."""
    mean = float(np.sum(laps))
    variance = float(np.sum(np.square(laps))) * (exp(per_lap_sd**2) - 1.0)
    log_variance = log(1.0 + variance / mean**2)
    return log(mean) - 0.5 * log_variance, sqrt(log_variance)


def legs_between(lap_fuel: NDArray[np.float64], lap_distance: NDArray[np.float64], laps: int, refuel_at_m: Sequence[float]) -> list[list[float]]:
    """Fuel of the pieces ridden between two fillings: per leg a list of lap pieces, computed fuel.

    lap_fuel: cumulative fuel at lap_distance [m], shape (n + 1,), from 0. Without refuel points one leg of all laps.
    """
    total = float(lap_fuel[-1])
    marks = sorted(float(np.interp(m, lap_distance, lap_fuel)) for m in refuel_at_m)
    legs: list[list[float]] = [[]]
    for lap in range(laps):
        last = 0.0
        for mark in marks:
            if mark > last:
                legs[-1].append(mark - last)
            if lap > 0 or mark > 0:
                legs.append([])
            last = mark
        if total > last:
            legs[-1].append(total - last)
    return [leg for leg in legs if leg]


def p_finish(usable: NDArray[np.float64] | float, legs: Sequence[Sequence[float]], factor: BikeFactor) -> NDArray[np.float64]:
    """Chance [1] that no leg needs more than `usable` (same unit as legs), one common factor for all. usable: scalar or (k,)."""
    amount = np.atleast_1d(np.asarray(usable, dtype=float))
    common = factor.log_mean + sqrt(2.0) * factor.log_sd * _NODES
    chance = np.ones((amount.size, common.size))
    for leg in legs:
        mean, sd = sum_of_laps(leg)
        with np.errstate(divide="ignore"):
            chance *= ndtr((np.log(np.maximum(amount, 1e-12))[:, None] - common[None, :] - mean) / sd)
    return np.asarray(chance @ _WEIGHTS)


def fuel_for(certainty: float, legs: Sequence[Sequence[float]], factor: BikeFactor) -> float:
    """Usable fuel [same unit as legs] that lasts with this certainty."""
    largest = max(sum(leg) for leg in legs)
    return float(brentq(lambda x: float(p_finish(x, legs, factor)[0]) - certainty, 0.05 * largest, 20.0 * largest, xtol=1e-9))
