"""A ridden track laid on its course: the clock at even steps along the lap."""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import EARTH_RADIUS_M, Line

Array = NDArray[np.float64]
#: how far a point may lie off the course [m], share of points that may, share of the lap that must be ridden, step of
#: the clock [m]. Assumption
OFF_M, STRAY_SHARE, LEAST_SHARE, STEP_M = 60.0, 0.15, 0.95, 50.0
#: nobody rides faster off road than this [m/s]
FASTEST_M_PER_S = 70.0


def _refuse(code: str, low: float | None = None) -> InputRefused:
    return InputRefused(Refusal(path="file", code=code, low=low))


def clock_along(line: Line, course: Track, ridden: Track, times_s: Array) -> Array:
    """Clock [s] at even steps of about 50 m along the lap, 0 at its start.

    Each point goes to the nearest place of the course not far ahead of the last one, so that crossing and returning
    legs do not mix. Raises InputRefused: times_missing, times_not_rising, not_this_course, lap_not_whole.
    """
    if times_s.size != len(ridden.latitude_deg) or not np.isfinite(times_s).all():
        raise _refuse("times_missing")
    if (np.diff(times_s) < 0).any() or times_s[-1] <= times_s[0]:
        raise _refuse("times_not_rising")
    lat0 = np.radians(np.asarray(course.latitude_deg))
    lon = np.radians(np.asarray(ridden.longitude_deg)) - np.radians(course.longitude_deg[0])
    east = EARTH_RADIUS_M * np.arctan2(np.sin(lon), np.cos(lon)) * np.cos(lat0.mean())
    north = EARTH_RADIUS_M * (np.radians(np.asarray(ridden.latitude_deg)) - lat0[0])
    spacing, last = line.distance_m[1], line.distance_m.size - 1
    place, seen = 0, times_s[0]
    kept: list[tuple[float, float]] = []
    strays = 0
    for x, y, t in zip(east.tolist(), north.tolist(), times_s.tolist(), strict=True):
        low = max(place - int(30.0 / spacing), 0)
        high = min(place + int((FASTEST_M_PER_S * (t - seen) + 80.0) / spacing), last)
        off = np.hypot(line.east_m[low : high + 1] - x, line.north_m[low : high + 1] - y)
        best = int(np.argmin(off))
        if off[best] > OFF_M:
            strays += 1
            continue
        place, seen = low + best, t
        if not kept or place * spacing > kept[-1][0]:
            kept.append((place * spacing, t))
    if strays > STRAY_SHARE * times_s.size or len(kept) < 10:
        raise _refuse("not_this_course")
    ridden_m = kept[-1][0] - kept[0][0]
    if ridden_m < LEAST_SHARE * line.length_m:
        raise _refuse("lap_not_whole", low=LEAST_SHARE)
    at, clock = np.array(kept).T
    # the few metres before the first and after the last point are ridden at the lap's mean pace
    slowness = (clock[-1] - clock[0]) / ridden_m
    at = np.concatenate([[0.0], at, [line.length_m]]) if at[0] > 0 else np.concatenate([at, [line.length_m]])
    clock = np.concatenate([[clock[0] - slowness * at[1]], clock]) if at.size == clock.size + 2 else clock
    clock = np.concatenate([clock, [clock[-1] + slowness * (line.length_m - at[-2])]])
    steps = max(int(line.length_m / STEP_M), 2)
    return np.interp(np.linspace(0.0, line.length_m, steps + 1), at, clock) - clock[0]
