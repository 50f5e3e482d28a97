"""The chance to finish on the fuel aboard, in closed form.

References: [fenton1960] L. F. Fenton, IRE Trans. Commun. Syst. 8 (1960) 57 (sum of lognormals by its first two moments);
[abramowitz1964] 25.4.46 (Gauss-Hermite). Agrees with a Monte Carlo of the same model (tests).
"""

from collections.abc import Sequence
from dataclasses import dataclass
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


@dataclass(frozen=True, kw_only=True)
class Piece:
    """One stage with its laps. used: cumulative fuel or energy at distance_m [m] of a lap, shape (n + 1,), from 0;
    refuel_at_m: places on the lap where the store is filled again; refuel_after: whether it is after the last lap.
    """

    used: NDArray[np.float64]
    distance_m: NDArray[np.float64]
    laps: int = 1
    refuel_at_m: tuple[float, ...] = ()
    refuel_after: bool = False


def legs_over(pieces: Sequence[Piece]) -> list[list[float]]:
    """What is used between two fillings: per leg a list of lap pieces. Without refuelling one leg of all laps of all stages."""
    legs: list[list[float]] = [[]]
    begun = False
    for piece in pieces:
        total = float(piece.used[-1])
        marks = sorted(float(np.interp(m, piece.distance_m, piece.used)) for m in piece.refuel_at_m)
        for _ in range(piece.laps):
            last = 0.0
            for mark in marks:
                if mark > last:
                    legs[-1].append(mark - last)
                if begun or mark > 0:
                    legs.append([])
                last = mark
            if total > last:
                legs[-1].append(total - last)
            begun = True
        if piece.refuel_after:
            legs.append([])
    return [leg for leg in legs if leg]


def lap_chances(hours_s: float, lap_time_s: float, *, common_sd: float, lap_sd: float) -> tuple[tuple[int, float], ...]:
    """Laps of a race by time, with the chance of each: the lap under way when the time is up is the last.

    The time of n laps is lognormal about n x lap_time_s [s]; common_sd: of the day's pace, lap_sd: from lap to lap, both of the
    logarithm. Chances under 0.1 % are left out and the rest made to add up to 1. Independent laps under a common pace: assumption.
    """
    longest = int(hours_s / lap_time_s * exp(4.0 * common_sd)) + 2
    n = np.arange(1, longest + 1)
    sd = np.sqrt(common_sd**2 + lap_sd**2 / n)
    started_next = np.minimum.accumulate(ndtr((log(hours_s) - np.log(n * lap_time_s)) / sd))
    chance = np.concatenate([[1.0], started_next[:-1]]) - started_next
    kept = chance >= 1e-3
    return tuple((int(k), float(c)) for k, c in zip(n[kept], chance[kept] / chance[kept].sum(), strict=True))


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


Cases = Sequence[tuple[float, Sequence[Sequence[float]]]]


def p_finish_cases(usable: NDArray[np.float64] | float, cases: Cases, factor: BikeFactor) -> NDArray[np.float64]:
    """As p_finish, over several ways the race may go, each with its chance."""
    return np.asarray(sum(chance * p_finish(usable, legs, factor) for chance, legs in cases))


def fuel_for(certainty: float, cases: Cases, factor: BikeFactor) -> float:
    """Usable fuel or energy [same unit as legs] that lasts with this certainty. cases: see p_finish_cases."""
    largest = max(sum(leg) for _, legs in cases for leg in legs)
    return float(brentq(lambda x: float(p_finish_cases(x, cases, factor)[0]) - certainty, 0.02 * largest, 20.0 * largest, xtol=1e-9 * largest))
