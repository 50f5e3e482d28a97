"""Where to stop and how much to take, so that the joint risk of running dry is what was asked.

Every leg is filled for the same quantile of its use; the quantile is found so that the chance that no leg runs dry is
the one wanted. The stops are a shortest path over (stop, how far it is filled for), the cost being standing time.
Filling to a level forgets what was used before; pouring fixed litres does not: there the use so far is carried along as
a normal truncated at each stop it survived (moment matching, [barr1999] D. R. Barr, E. T. Sherrill, Mean and variance
of truncated normal distributions, The American Statistician 53 (1999) 357). Amounts are in m3 of fuel or J of charge,
whichever the course is given in.
"""

import itertools
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import exp, log, sqrt

import numba
import numpy as np
from numpy.typing import NDArray
from scipy.special import log_ndtr, ndtr

from lynxwort.core.evidence import LogNormal
from lynxwort.core.physics.reach.finish import HERMITE_NODES, HERMITE_WEIGHTS, PER_LAP_SD, sum_of_laps

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """A place where fuel may be taken. fixed_s: standing time whatever is taken [s]; per_unit_s: time per m3 (or J)
    taken [s]; must: whether one must stop there.
    """

    fixed_s: float
    per_unit_s: float
    must: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class FuelCourse:
    """What is used between openings: sections[k] are the lap pieces [median at factor 1] before opening k, the last one
    before the finish.
    """

    openings: tuple[Opening, ...]
    sections: tuple[tuple[float, ...], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Tank:
    """start: aboard at the start; capacity: holds; unusable: never reaches the engine."""

    start: float
    capacity: float
    unusable: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Fill:
    """What is done at a stop: filled to a level, or (add) that much poured in."""

    amount: float
    add: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A stop. opening: index; level: filled to; added: likely taken; standing_s: likely."""

    opening: int
    level: float
    added: float
    standing_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Stops in order, standing time in all [s]; chance that no leg runs dry when filled to the levels, and when what is
    likely taken is poured in unseen; quantile: for which every leg is filled.
    """

    stops: tuple[Stop, ...]
    standing_s: float
    chance: float
    chance_poured: float
    quantile: float


def legs_of(course: FuelCourse, stops: Iterable[int]) -> list[tuple[float, ...]]:
    """Lap pieces [m3 or J] between the start, these openings and the finish."""
    edges = [0, *(s + 1 for s in stops), len(course.sections)]
    return [tuple(p for k in range(a, b) for p in course.sections[k]) for a, b in itertools.pairwise(edges)]


def chance_of(
    start: float, fills: Sequence[Fill], legs: Sequence[Sequence[float]], factor: LogNormal, *, most: float
) -> float:
    """Chance [1] that no leg runs dry. start, fills, most: usable amounts, the unusable part taken off levels;
    most: what the tank holds beyond it.

    A fill to a level starts afresh; one that adds carries the use so far along, as far as the tank holds it.
    """
    log_factor = factor.log_mean + sqrt(2.0) * factor.log_sd * HERMITE_NODES
    size = np.exp(log_factor)
    chance = np.ones(size.size)
    mean, variance, aboard, fresh = np.zeros(size.size), np.zeros(size.size), np.full(size.size, min(start, most)), True
    for k, leg in enumerate(legs):
        if leg:
            log_mean, log_sd = sum_of_laps(leg)
            expected = exp(log_mean + 0.5 * log_sd**2) * size
            if fresh:
                z = (np.log(np.maximum(aboard, 1e-12 * size)) - log_factor - log_mean) / log_sd
                lasts = np.maximum(ndtr(z), 1e-300)
                mean = expected * ndtr(z - log_sd) / lasts
                variance = np.maximum(
                    expected**2 * exp(log_sd**2) * ndtr(z - 2.0 * log_sd) / lasts - mean**2, 1e-12 * expected**2
                )
            else:
                mean = mean + expected
                sd = np.sqrt(variance + expected**2 * np.expm1(log_sd**2))
                z = (aboard - mean) / sd
                lasts = ndtr(z)
                ratio = np.exp(-0.5 * z**2 - 0.5 * log(2.0 * np.pi) - log_ndtr(z))
                mean = mean - sd * ratio
                variance = sd**2 * np.maximum(1.0 - ratio * (z + ratio), 1e-9)
            chance, fresh = chance * lasts, False
        if k < len(fills):
            if fills[k].add:
                aboard = np.minimum(aboard + fills[k].amount, most + mean)
            else:
                aboard, fresh = np.full(size.size, min(fills[k].amount, most)), True
    return float(chance @ HERMITE_WEIGHTS)


def _moments(course: FuelCourse) -> tuple[Array, Array, Array]:
    """Log mean, log sd and mean of the use from node i to node j at factor 1, -inf where none; nodes: start, openings,
    finish. Reference: Fenton 1960.
    """
    sums = np.concatenate([[0.0], np.cumsum([sum(s) for s in course.sections])])
    squares = np.concatenate([[0.0], np.cumsum([sum(p * p for p in s) for s in course.sections])])
    mean = np.maximum(sums[None, :] - sums[:, None], 0.0)
    spread = np.maximum(squares[None, :] - squares[:, None], 0.0) * (exp(PER_LAP_SD**2) - 1.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        log_variance = np.where(mean > 0, np.log1p(spread / mean**2), 0.0)
        return np.log(mean) - 0.5 * log_variance, np.sqrt(log_variance), mean


@numba.njit(cache=True)
def _stop_at(
    i: int,
    c: int,
    j: int,
    left: float,
    need: Array,
    unusable: float,
    capacity: float,
    fixed: float,
    per_unit: float,
    cost: Array,
    level: Array,
    from_node: NDArray[np.int64],
    from_target: NDArray[np.int64],
) -> None:
    """Fill at node j, coming from state (i, c) with so much left: for every farther node that the tank holds enough
    for, and brim full.

    Where more is likely left than the fill asks for, the level is what is likely left: topped up only on a thirsty day.
    """
    n = need.shape[0]
    for d in range(j + 1, n + 1):
        filled = capacity if d == n else need[j, d] + unusable
        if filled > capacity * (1.0 + 1e-9):
            continue
        filled = max(filled, left)
        here = cost[i, c] + fixed + (filled - left) * per_unit
        if here < cost[j, d] - 1e-9 or (here < cost[j, d] + 1e-9 and filled > level[j, d]):
            cost[j, d], level[j, d], from_node[j, d], from_target[j, d] = here, filled, i, c


@numba.njit(cache=True)
def _shortest(
    need: Array,
    need_full: Array,
    likely: Array,
    fixed: Array,
    per_unit: Array,
    must: NDArray[np.bool_],
    closed: NDArray[np.bool_],
    start: float,
    capacity: float,
    unusable: float,
) -> tuple[float, NDArray[np.int64], NDArray[np.int64]]:
    """Least standing time from start to finish, and where each state came from. States: (node, node it is filled for; n
    = brim full).

    need, need_full: use between nodes at the quantile asked of legs that can be filled for it, and of those that
    begin with what they have (the start, brim full).
    """
    n = need.shape[0]
    cost, level = np.full((n, n + 1), np.inf), np.zeros((n, n + 1))
    from_node, from_target = np.full((n, n + 1), -1, np.int64), np.full((n, n + 1), -1, np.int64)
    cost[0, 0], level[0, 0] = 0.0, start
    for i in range(n - 1):
        for c in range(n + 1):
            if cost[i, c] == np.inf:
                continue
            fixed_level = i == 0 or level[i, c] >= capacity * (1.0 - 1e-9)
            for j in range(i + 1, n):
                if level[i, c] + 1e-9 * capacity < (need_full if fixed_level else need)[i, j] + unusable:
                    break
                if j == n - 1:
                    if cost[i, c] < cost[j, 0]:
                        cost[j, 0], from_node[j, 0], from_target[j, 0] = cost[i, c], i, c
                elif not closed[j]:
                    left = level[i, c] - likely[i, j]
                    _stop_at(
                        i,
                        c,
                        j,
                        left,
                        need,
                        unusable,
                        capacity,
                        fixed[j],
                        per_unit[j],
                        cost,
                        level,
                        from_node,
                        from_target,
                    )
                if must[j]:
                    break
    return cost[n - 1, 0], from_node, from_target


def plan_of(
    course: FuelCourse, tank: Tank, factor: LogNormal, chosen: Sequence[tuple[int, float]], quantile: float = 0.0
) -> Plan:
    """A plan from openings and the levels [m3 or J] they are filled to."""
    legs = legs_of(course, [i for i, _l in chosen])
    stops, left, standing = [], tank.start, 0.0
    for (i, level), leg in zip(chosen, legs, strict=False):
        left -= sum(leg) * factor.median
        added = max(level - left, 0.0)
        opening = course.openings[i]
        time = opening.fixed_s + added * opening.per_unit_s
        stops.append(Stop(opening=i, level=max(level, left), added=added, standing_s=time))
        left, standing = max(level, left), standing + time
    most, start = tank.capacity - tank.unusable, tank.start - tank.unusable
    levels = [Fill(amount=level - tank.unusable) for _i, level in chosen]
    poured = [Fill(amount=s.added, add=True) for s in stops]
    return Plan(
        stops=tuple(stops),
        standing_s=standing,
        quantile=quantile,
        chance=chance_of(start, levels, legs, factor, most=most),
        chance_poured=chance_of(start, poured, legs, factor, most=most),
    )


#: nodes of the stops of a plan, each with the node that it is filled for (beyond the last = brim full)
_Shape = tuple[tuple[int, int], ...]
