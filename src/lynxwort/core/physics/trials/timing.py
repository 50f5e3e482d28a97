"""Laps and sectors of a trace: when a gate is crossed, and how sure that is."""

from collections.abc import Sequence
from math import sqrt

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicHermiteSpline

Array = NDArray[np.float64]
Point = tuple[float, float]

#: sd of a fix along the way [m] until a stand still measures it, of a tap and of a typed watch [s]. Assumption, memory
ALONG_SD_M, TAP_SD_S, WATCH_SD_S = 2.0, 0.15, 0.2
#: clocks that lie further apart over a lap did not both run [s]
CLOCKS_APART_S = 0.2
#: how alike the errors of fixes a sector apart are [1]; a sector is at least so long and takes so long. Assumption
CORRELATION, LEAST_SECTOR_M, LEAST_SECTOR_S = 0.2, 300.0, 25.0
#: gates are moved so far to where the bike is fast and straight [m]
GATE_MOVES_M = 150.0


def between_taps(steady_s: tuple[float, float], wall_s: tuple[float, float], *, same_page: bool) -> tuple[float, bool]:
    """Time between two taps [s], and whether the clocks lie apart: then the wall clock counts, since the steady one
    stands still while a phone sleeps, and begins anew with every page.
    """
    by_steady, by_wall = steady_s[1] - steady_s[0], wall_s[1] - wall_s[0]
    if not same_page:
        return by_wall, False
    apart = abs(by_steady - by_wall) > CLOCKS_APART_S
    return (by_wall if apart else by_steady), apart


def clock_offset(trips: Sequence[tuple[float, float, float]]) -> tuple[float, float]:
    """What is added to a phone's clock to have the van's, and how far that may be off [s]: by the quickest of some
    round trips (sent, the van's clock, back again), half of which is the error. Raises ValueError without any.

    Reference: Cristian, Distributed Computing 3 (1989) 146, from memory.
    """
    sent, van, back = min(trips, key=lambda trip: trip[2] - trip[0])
    return van - 0.5 * (sent + back), max(0.5 * (back - sent), 0.0)


def pair_taps(starts_s: Sequence[float], ends_s: Sequence[float]) -> list[tuple[int, int]]:
    """Which start goes with which end, by index: the first end after it and before the next start; a start that nobody
    ended, and an end that nobody started, go with none.
    """
    order = sorted([(t, 0, k) for k, t in enumerate(starts_s)] + [(t, 1, k) for k, t in enumerate(ends_s)])
    found, open_start = [], None
    for _t, is_end, k in order:
        if not is_end:
            open_start = k
        elif open_start is not None:
            found.append((open_start, k))
            open_start = None
    return found


def by_two_error(clocks_s: tuple[float, float]) -> float:
    """Sd of a lap's time [s] tapped by two helpers, each with a clock that may be off so far."""
    return sqrt(2.0 * TAP_SD_S**2 + clocks_s[0] ** 2 + clocks_s[1] ** 2)


def by_hand_error(*, watch: bool) -> float:
    """Sd of a lap's time [s] from two taps, or read off a watch by the one who started and stopped it."""
    return WATCH_SD_S if watch else sqrt(2.0) * TAP_SD_S


def crossing(gate: tuple[Point, Point], start: Point, end: Point, t0_s: float, t1_s: float) -> float | None:
    """When the way from start to end [m] crosses a gate between two points [m], straight and even; None beside it."""
    (ax, ay), (bx, by) = gate
    across = (bx - ax, by - ay)

    def off(p: Point) -> float:
        return across[0] * (p[1] - ay) - across[1] * (p[0] - ax)

    d0, d1 = off(start), off(end)
    if d0 == d1 or d0 * d1 > 0:
        return None
    share = d0 / (d0 - d1)
    x, y = (s + share * (e - s) for s, e in zip(start, end, strict=True))
    along = ((x - ax) * across[0] + (y - ay) * across[1]) / (across[0] ** 2 + across[1] ** 2)
    return t0_s + share * (t1_s - t0_s) if 0.0 <= along <= 1.0 else None


def between_error(along_sd_m: float, speed_m_per_s: float, correlation: float = CORRELATION) -> float:
    """Sd of the time between two gates [s] passed at a speed, by fixes whose errors along the way are so much alike."""
    return sqrt(2.0 * (1.0 - correlation)) * along_sd_m / speed_m_per_s


def crossing_by_speed(
    s0_m: float, s1_m: float, v0_m_per_s: float, v1_m_per_s: float, dt_s: float, gate_m: float
) -> float:
    """How long after the first of two fixes dt_s apart a place between them is passed [s], with the speeds at both."""
    way = CubicHermiteSpline([0.0, dt_s], [s0_m, s1_m], [v0_m_per_s, v1_m_per_s])
    inside = [r for r in way.solve(gate_m, extrapolate=False) if 0.0 <= r <= dt_s]
    return float(inside[0]) if inside else dt_s * (gate_m - s0_m) / (s1_m - s0_m)


def sector_gates(distance_m: Array, speed_m_per_s: Array, bend_per_m: Array, count: int) -> Array:
    """Places of `count` sectors' ends along a lap [m], the first at 0 left out: even, each moved within GATE_MOVES_M to
    where the bike is fast and straight. All over the lap's places, shape (n,).
    """
    length = float(distance_m[-1])
    worth = speed_m_per_s / (1.0 + 40.0 * np.abs(bend_per_m))
    found = list[float]()
    for k in range(1, count):
        middle = length * k / count
        near = np.flatnonzero(np.abs(distance_m - middle) <= min(GATE_MOVES_M, 0.25 * length / count))
        found.append(float(distance_m[near[np.argmax(worth[near])]]) if near.size else middle)
    return np.array([*found, length])


def sector_count(length_m: float, lap_s: float) -> int:
    """How many sectors a lap is cut into: none shorter than LEAST_SECTOR_M or LEAST_SECTOR_S."""
    return max(min(int(length_m // (LEAST_SECTOR_M + GATE_MOVES_M)), int(lap_s // LEAST_SECTOR_S), 12), 1)


def sector_times(gates_m: Array, places_m: Sequence[float], times_s: Sequence[float]) -> Array:
    """Times of the sectors of one lap [s], shape (k,): places rising along it with the clock there [s]."""
    return np.diff(np.interp(np.concatenate([[0.0], gates_m]), places_m, times_s))
