"""A session on a course cut into its laps, and each lap into its sectors."""

from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.course.prepare import Line
from lynxwort.core.physics.trials.timing import ALONG_SD_M, between_error, sector_count, sector_gates

Array = NDArray[np.float64]

#: speeds are averaged over so much of a course [m]
CELL_M = 20.0
#: a lap is whole when so much of it lies between fixes; fixes further apart than this leave a gate unsure [s]
WHOLE_SHARE, GAP_S = 0.97, 1.0
#: a rider slower than this [m/s] for so long [s] stands: the lap was botched; over how long that is looked at [s]
STANDS_M_PER_S, STANDS_S, LOOKED_S = 1.0, 3.0, 6.0


@dataclass(frozen=True, slots=True, kw_only=True)
class LapTimes:
    """One lap of a session. number: from 0 at the first passing of the start; begins_s: when it was passed; time_s;
    sectors_s: shape (k,); error_s: sd of the lap's time by its fixes and gaps at its ends; stood_s: longest stand
    within it; whole: whether both its ends were passed.
    """

    number: int
    begins_s: float
    time_s: float
    sectors_s: tuple[float, ...]
    error_s: float
    stood_s: float
    whole: bool


def proposed_gates(place_m: Array, time_s: Array, east_m: Array, north_m: Array, spacing_m: float) -> Array:
    """Ends of the sectors of a course [m], out of a session on it: as many as its laps are long enough for, each where
    it was ridden fast and lies straight. place_m, time_s: as `laps_of`; east_m, north_m: the course's even grid.
    """
    length = spacing_m * (east_m.size - 1)
    cells = max(int(length / CELL_M), 2)
    where = np.clip((place_m[:-1] % length) / length * cells, 0, cells - 1).astype(int)
    way, took = np.diff(place_m), np.diff(time_s)
    ridden = (way > 0) & (took > 0)
    metres = np.bincount(where[ridden], way[ridden], cells)
    seconds = np.bincount(where[ridden], took[ridden], cells)
    speed = np.where(seconds > 0, metres / np.maximum(seconds, 1e-9), 0.0)
    at = (np.arange(cells) + 0.5) * length / cells
    heading = np.unwrap(np.arctan2(np.gradient(north_m), np.gradient(east_m)))
    bend = np.abs(np.gradient(heading)) / spacing_m
    smooth = np.convolve(bend, np.ones(9) / 9.0, mode="same")
    lap_s = float(np.ptp(time_s)) * length / max(float(np.ptp(place_m)), 1.0)
    count = sector_count(length, lap_s)
    gates = sector_gates(at, speed, np.interp(at, np.arange(east_m.size) * spacing_m, smooth), count)
    gates[-1] = length
    return gates


def laps_of(
    place_m: Array, time_s: Array, length_m: float, gates_m: Array, *, along_sd_m: float = ALONG_SD_M
) -> list[LapTimes]:
    """Laps of a session, those not whole (out of the pits, in again) among them. place_m: of each fix, going on from
    lap to lap, shape (n,); gates_m: ends of the sectors along a lap, the last its length, shape (k,).
    """
    ahead = np.concatenate([[True], place_m[1:] > np.maximum.accumulate(place_m)[:-1]])
    at, clock = place_m[ahead], time_s[ahead]
    found = []
    for number in range(int(np.floor(at[0] / length_m)), int(np.ceil(at[-1] / length_m))):
        ends = number * length_m + np.concatenate([[0.0], gates_m])
        inside = (at >= ends[0]) & (at <= ends[-1])
        if not inside.any():
            continue
        crossed = np.interp(ends, at, clock, left=np.nan, right=np.nan)
        whole = bool(np.isfinite(crossed).all() and np.ptp(at[inside]) >= WHOLE_SHARE * length_m)
        span = clock[inside]
        found.append(
            LapTimes(
                number=number,
                begins_s=float(crossed[0]) if np.isfinite(crossed[0]) else float(span[0]),
                time_s=float(crossed[-1] - crossed[0]) if whole else float(np.ptp(span)),
                sectors_s=tuple(np.diff(crossed).tolist()) if whole else (),
                error_s=_error(at, clock, ends[[0, -1]], along_sd_m),
                stood_s=_stood(place_m, time_s, ends[0], ends[-1]),
                whole=whole,
            )
        )
    return found


def session_laps(place_m: Array, time_s: Array, line: Line, *, closed: bool) -> list[LapTimes]:
    """Laps of a session on a laid course, with the sectors that it proposes itself. place_m, time_s: as `laps_of`."""
    spacing = float(line.distance_m[1])
    # the last node of a round is its first
    length = line.length_m - (spacing if closed else 0.0)
    gates = proposed_gates(place_m, time_s, line.east_m, line.north_m, spacing)
    gates[-1] = length
    return laps_of(place_m, time_s, length, gates)


def _error(at: Array, clock: Array, ends: Array, along_sd_m: float) -> float:
    """Sd of the time between two places [s]: by the fixes' error at the speed there, and by gaps across them."""
    squares = 0.0
    for end in ends:
        k = int(np.clip(np.searchsorted(at, end), 1, at.size - 1))
        gap = float(clock[k] - clock[k - 1])
        speed = max(float(at[k] - at[k - 1]) / max(gap, 1e-9), 0.5)
        squares += 0.5 * between_error(along_sd_m, speed) ** 2 + (gap**2 / 12.0 if gap > GAP_S + 0.5 else 0.0)
    return sqrt(squares)


def _stood(place_m: Array, time_s: Array, begins_m: float, ends_m: float) -> float:
    """The longest time [s] for which a rider hardly moved between two places: over LOOKED_S a fix's own error does not
    count as riding.
    """
    # a logger that sleeps while one stands leaves two fixes far apart
    since = np.minimum(np.searchsorted(time_s, time_s - LOOKED_S), np.maximum(np.arange(time_s.size) - 1, 0))
    took, way = time_s - time_s[since], place_m - place_m[since]
    slow = (way < STANDS_M_PER_S * took) & (took >= STANDS_S) & (place_m >= begins_m) & (place_m < ends_m)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], slow.astype(int), [0]])))
    spans = [float(time_s[b - 1] - time_s[since[a]]) for a, b in zip(edges[::2], edges[1::2], strict=True)]
    return max(spans, default=0.0)
