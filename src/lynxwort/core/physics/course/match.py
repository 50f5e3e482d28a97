"""A ridden track laid on its course: the clock at even steps along the lap."""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import EARTH_RADIUS_M, Line
from lynxwort.core.physics.course.viterbi import Matched, matched

Array = NDArray[np.float64]
#: share of points that may lie off the course, share of the lap that must be ridden, step of the clock [m].
#: Assumption
STRAY_SHARE, LEAST_SHARE, STEP_M = 0.15, 0.95, 50.0
#: a course closes where its ends lie no further apart [m]
CLOSES_M = 60.0


def _refuse(code: str, low: float | None = None, message: str = "") -> InputRefused:
    return InputRefused(Refusal(path="file", code=code, low=low, message=message))


def fixes_on(course: Track, ridden: Track) -> tuple[Array, Array]:
    """East and north [m] of a track's points, as the course's own line is laid."""
    lat0 = np.radians(np.asarray(course.latitude_deg))
    lon = np.radians(np.asarray(ridden.longitude_deg)) - np.radians(course.longitude_deg[0])
    east = EARTH_RADIUS_M * np.arctan2(np.sin(lon), np.cos(lon)) * np.cos(lat0.mean())
    return east, EARTH_RADIUS_M * (np.radians(np.asarray(ridden.latitude_deg)) - lat0[0])


def closes(line: Line) -> bool:
    """Whether a course ends where it starts."""
    return float(np.hypot(line.east_m[-1] - line.east_m[0], line.north_m[-1] - line.north_m[0])) <= CLOSES_M


def on_course(line: Line, course: Track, ridden: Track, times_s: Array) -> Matched:
    """Places of a ridden track along its course, lap after lap. Raises InputRefused: times_missing, times_not_rising,
    not_this_course.
    """
    if times_s.size != len(ridden.latitude_deg) or not np.isfinite(times_s).all():
        raise _refuse("times_missing", message="?")
    if (np.diff(times_s) < 0).any() or times_s[-1] <= times_s[0]:
        raise _refuse("times_not_rising")
    east, north = fixes_on(course, ridden)
    found = matched(
        line.east_m, line.north_m, east, north, times_s, spacing_m=float(line.distance_m[1]), closed=closes(line)
    )
    if times_s.size - found.index.size > STRAY_SHARE * times_s.size or found.index.size < 10:
        raise _refuse("not_this_course")
    return found


def clock_along(line: Line, course: Track, ridden: Track, times_s: Array) -> Array:
    """Clock [s] at even steps of about 50 m along the lap, 0 at its start: of the first whole lap that was ridden.

    Raises InputRefused: as `on_course`, and lap_not_whole.
    """
    found = on_course(line, course, ridden, times_s)
    place, times = found.place_m, times_s[found.index]
    if closes(line):
        # a few metres before the line belong to the lap before
        begins = float(np.ceil((place[0] - (1.0 - LEAST_SHARE) * line.length_m) / line.length_m)) * line.length_m
        place = place - begins
    ahead = np.concatenate([[True], place[1:] > np.maximum.accumulate(place)[:-1]])
    inside = ahead & (place >= 0.0) & (place <= line.length_m)
    at, clock = place[inside], times[inside]
    if at.size < 2 or at[-1] - at[0] < LEAST_SHARE * line.length_m:
        raise _refuse("lap_not_whole", low=LEAST_SHARE)
    # the few metres before the first and after the last point are ridden at the lap's mean pace
    slowness = (clock[-1] - clock[0]) / (at[-1] - at[0])
    ends = [clock[0] - slowness * at[0], clock[-1] + slowness * (line.length_m - at[-1])]
    steps = max(int(line.length_m / STEP_M), 2)
    grid = np.linspace(0.0, line.length_m, steps + 1)
    return np.interp(grid, [-1e-6, *at, line.length_m + 1e-6], [ends[0], *clock, ends[1]]) - ends[0]
