"""The chance to finish on the fuel aboard, in closed form.

References: [fenton1960] L. F. Fenton, IRE Trans. Commun. Syst. 8 (1960) 57 (sum of lognormals by its first two
moments); [abramowitz1964] 25.4.46 (Gauss-Hermite). Agrees with a Monte Carlo of the same model (tests).
"""

from collections import Counter
from collections.abc import Container, Sequence
from dataclasses import dataclass
from math import exp, hypot, log, sqrt

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq
from scipy.special import ndtr, ndtri

from lynxwort.core.evidence import LogNormal

HERMITE_NODES, HERMITE_WEIGHTS = np.polynomial.hermite.hermgauss(61)
HERMITE_WEIGHTS = HERMITE_WEIGHTS / np.sqrt(np.pi)
#: how far the use of one lap lies off the mean, of its logarithm (HANDBOOK 5: assumption)
PER_LAP_SD = 0.06


def sum_of_laps(laps: Sequence[float], per_lap_sd: float = PER_LAP_SD) -> tuple[float, float]:
    """Log mean and log sd of the sum of independent lognormal laps with these medians x exp(-sd^2/2). Reference:
    [fenton1960].
    """
    mean = float(np.sum(laps))
    variance = float(np.sum(np.square(laps))) * (exp(per_lap_sd**2) - 1.0)
    log_variance = log(1.0 + variance / mean**2)
    return log(mean) - 0.5 * log_variance, sqrt(log_variance)


@dataclass(frozen=True, kw_only=True)
class Piece:
    """One stage with its laps. used: cumulative fuel or energy at distance_m [m] of a lap, shape (n + 1,), from 0;
    refuel_at_m: places on the lap where the store is filled again; refuel_after: whether it is after the last lap;
    stage, rider, leg: which, who, and on which of his legs.
    """

    used: NDArray[np.float64]
    distance_m: NDArray[np.float64]
    laps: int = 1
    refuel_at_m: tuple[float, ...] = ()
    refuel_after: bool = False
    stage: int = 0
    rider: int = 0
    leg: int = 0


def sections_over(pieces: Sequence[Piece]) -> list[list[float]]:
    """What is used [m3 or J] before each passing of a refuel point and before the finish: per section a list of
    lap pieces, empty where nothing is.
    """
    sections: list[list[float]] = [[]]
    begun = False
    for piece in pieces:
        total = float(piece.used[-1])
        marks = [(m, float(np.interp(m, piece.distance_m, piece.used))) for m in sorted(piece.refuel_at_m)]
        for _ in range(piece.laps):
            last = 0.0
            for at, mark in marks:
                if mark > last:
                    sections[-1].append(mark - last)
                if begun or at > 0:
                    sections.append([])
                last = max(mark, last)
            if total > last:
                sections[-1].append(total - last)
            begun = True
        if piece.refuel_after:
            sections.append([])
    return sections


def legs_over(pieces: Sequence[Piece], taken: Container[int] | None = None) -> list[list[float]]:
    """What is used [m3 or J] between two fillings: per leg a list of lap pieces. taken: numbers of the passings
    where it is filled, from 1; None = all.
    """
    sections = sections_over(pieces)
    legs = [list(sections[0])]
    for number, section in enumerate(sections[1:], start=1):
        if taken is None or number in taken:
            legs.append([])
        legs[-1] += section
    return legs


def use_between(pieces: Sequence[Piece], from_m: float, to_m: float) -> float:
    """What is used between two distances of the race [m]."""
    used, begins = 0.0, 0.0
    for piece in pieces:
        length = float(piece.distance_m[-1])
        for _ in range(piece.laps):
            a, b = (min(max(x - begins, 0.0), length) for x in (from_m, to_m))
            used += float(np.interp(b, piece.distance_m, piece.used) - np.interp(a, piece.distance_m, piece.used))
            begins += length
    return used


def lap_chances(hours_s: float, lap_time_s: float, *, common_sd: float, lap_sd: float) -> tuple[tuple[int, float], ...]:
    """Laps of a race by time, with the chance of each: the lap under way when the time is up is the last.

    The time of n laps is lognormal about n x lap_time_s [s]; common_sd: of the day's pace, lap_sd: from lap to lap,
    both of the logarithm. Chances under 0.1 % are left out and the rest made to add up to 1. Independent laps under a
    common pace: assumption.
    """
    longest = int(hours_s / lap_time_s * exp(4.0 * common_sd)) + 2
    n = np.arange(1, longest + 1)
    sd = np.sqrt(common_sd**2 + lap_sd**2 / n)
    started_next = np.minimum.accumulate(ndtr((log(hours_s) - np.log(n * lap_time_s)) / sd))
    chance = np.concatenate([[1.0], started_next[:-1]]) - started_next
    kept = chance >= 1e-3
    return tuple((int(k), float(c)) for k, c in zip(n[kept], chance[kept] / chance[kept].sum(), strict=True))


def finish_by_hours(hours_s: float, lap_time_s: float, *, common_sd: float) -> tuple[float, float]:
    """Early and late finish [s], central 90 %, of a race by time whose last lap is the one under way at the flag.
    common_sd: of the day's pace, of its logarithm.
    """
    lap = lap_time_s * np.exp(common_sd * ndtri((np.arange(400) + 0.5) / 400))
    ends = np.ceil(hours_s / lap - 1e-9) * lap
    early, late = np.quantile(ends, (0.05, 0.95))
    return max(float(early), hours_s), float(late)


Legs = Sequence[Sequence[float]]
Cases = Sequence[tuple[float, Legs]]


def _grouped(cases: Cases) -> list[tuple[float, list[tuple[float, float, int]]]]:
    """Cases with their equal legs counted: (chance, [(log mean, log sd, how many such legs)])."""
    moments: dict[tuple[float, ...], tuple[float, float]] = {}
    found = []
    for chance, legs in cases:
        counted = Counter(tuple(leg) for leg in legs)
        for leg in counted:
            if leg not in moments:
                moments[leg] = sum_of_laps(leg)
        found.append((chance, [(*moments[leg], count) for leg, count in counted.items()]))
    return found


def _chance(
    amount: NDArray[np.float64], grouped: list[tuple[float, list[tuple[float, float, int]]]], factor: LogNormal
) -> NDArray[np.float64]:
    """Chance [1] for each amount: a leg of the same moments is reckoned once, however often it is ridden."""
    common = factor.log_mean + sqrt(2.0) * factor.log_sd * HERMITE_NODES
    with np.errstate(divide="ignore"):
        over = np.log(np.maximum(amount, 1e-12))[:, None] - common[None, :]
    holds: dict[tuple[float, float], NDArray[np.float64]] = {}
    total = np.zeros(amount.size)
    for chance, legs in grouped:
        product = np.ones(over.shape)
        for mean, sd, count in legs:
            if (mean, sd) not in holds:
                holds[mean, sd] = ndtr((over - mean) / sd)
            product = product * holds[mean, sd] ** count
        total += chance * (product @ HERMITE_WEIGHTS)
    return total


def p_finish_cases(usable: NDArray[np.float64] | float, cases: Cases, factor: LogNormal) -> NDArray[np.float64]:
    """Chance [1] that no leg needs more than `usable` (same unit as legs), over several ways the race may go, each with
    its chance.

    One common factor for all legs. usable: scalar or (k,).
    """
    return _chance(np.atleast_1d(np.asarray(usable, dtype=float)), _grouped(cases), factor)


def p_finish(usable: NDArray[np.float64] | float, legs: Legs, factor: LogNormal) -> NDArray[np.float64]:
    """As p_finish_cases [1], for a race that goes one way."""
    return p_finish_cases(usable, [(1.0, legs)], factor)


def fuel_for(certainty: float, cases: Cases, factor: LogNormal) -> float:
    """Usable fuel or energy [same unit as legs] that lasts with this certainty. cases: see p_finish_cases."""
    grouped = _grouped(cases)

    def _alone(sure: float, mean: float, sd: float) -> float:
        """Of one leg by itself: the quantile of a lognormal."""
        return exp(factor.log_mean + mean + float(ndtri(sure)) * hypot(sd, factor.log_sd))

    # of each case its worst leg alone is too little; so much that all legs together miss it no oftener than
    # allowed
    # (Bonferroni) is enough
    low = min(max((_alone(certainty, m, s) for m, s, _n in legs), default=0.0) for _c, legs in grouped)
    most = max(sum(n for _m, _s, n in legs) for _c, legs in grouped)
    high = max(_alone(1.0 - (1.0 - certainty) / most, m, s) for _c, legs in grouped for m, s, _n in legs)
    if high <= low * (1.0 + 1e-9):
        return high

    def excess(amount: float) -> float:
        return float(_chance(np.array([amount]), grouped, factor)[0]) - certainty

    return float(brentq(excess, 0.999 * low, 1.001 * high, xtol=1e-9 * high))
