"""A satellite logger that is not one: a lap ridden by the model with a hidden pace, written as a device would write it.

Noise 2 m with a drift of some seconds, 5 points a second thinned to one, lost points, a clock that starts somewhere:
assumption.
"""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.export import write_gpx
from lynxwort.core.physics.course.prepare import Course, track_distance
from lynxwort.core.physics.drive.simulation import Ride, simulate

Array = NDArray[np.float64]
NOISE_M, DRIFT_S, LOST_SHARE = 2.0, 8.0, 0.02
#: spread of the hidden pace from ground to ground
HIDDEN_LOG_SD = 0.10


def hidden_pace(seed: int) -> tuple[float, ...]:
    """The truth that a ridden lap hides: factors on the pace by index into GROUNDS."""
    return tuple(np.exp(np.random.default_rng([seed, 4]).normal(0.0, HIDDEN_LOG_SD, len(GROUNDS))).tolist())


def ridden_gpx(track: Track, course: Course, ride: Ride, *, start: str, seed: int) -> bytes:
    """One lap of a ride as GPX 1.1 with times, once a second. start: ISO 8601 in UTC, without offset."""
    rng = np.random.default_rng([seed, 5])
    clock = np.concatenate([[0.0], np.cumsum(ride.time_s)])
    at = np.arange(0.0, clock[-1], 1.0)
    at = np.append(at[rng.uniform(size=at.size) > LOST_SHARE], clock[-1])
    place = np.interp(at, clock, course.distance_m)
    along = track_distance(track)[0]
    lat, lon = (np.interp(place, along, v) for v in (track.latitude_deg, track.longitude_deg))
    # a receiver's error wanders: white noise smoothed over some seconds
    drift = [
        gaussian_filter1d(rng.standard_normal(at.size), DRIFT_S) * np.sqrt(2.0 * np.sqrt(np.pi) * DRIFT_S) * NOISE_M
        for _ in range(2)
    ]
    lat = lat + drift[0] / 111_195.0
    lon = lon + drift[1] / (111_195.0 * np.cos(np.radians(lat)))
    height = np.interp(place, course.distance_m, course.height_m) + rng.normal(0.0, 1.5, at.size)
    moments = np.datetime64(start, "ms") + (at * 1000.0).astype("timedelta64[ms]")
    made = Track(
        name=f"{track.name}, ridden",
        heights="satellite",
        latitude_deg=tuple(lat.tolist()),
        longitude_deg=tuple(lon.tolist()),
        height_m=tuple(height.tolist()),
    )
    return write_gpx(made, times=tuple(f"{m}Z" for m in moments))


def stand_in_lap(up: Upstream, *, stage: int, start: str, seed: int) -> bytes:
    """A lap of one stage of a race, ridden with a hidden pace and recorded. up: of an evaluated report; start: ISO 8601
    in UTC.
    """
    truth = replace(up.lap.ride_input, pace_by_ground=hidden_pace(seed))
    track = up.inputs.courses[up.inputs.race.stages[stage].course_key]
    return ridden_gpx(
        track,
        up.around.courses[stage],
        simulate(up.around.courses[stage], up.lap.power_shares[stage], truth),
        start=start,
        seed=seed,
    )
