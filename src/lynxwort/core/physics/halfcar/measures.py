"""What a ride was like: travel, stops, wheels off the ground, packing, landing, what pegs and rider feel.

Weighting Wk: ISO 2631-1:1997, of the pegs' vertical acceleration; relative only, never a statement on health.
"""

import math
from dataclasses import dataclass
from functools import lru_cache
from math import pi, radians

import numpy as np
from numba import float64, int64, njit, void
from numpy.typing import NDArray

from lynxwort.core.physics.halfcar.halfcar import RECORD_HZ, HalfCar, Recording

Array = NDArray[np.float64]
#: pitch beyond which the model does not hold, tyre force at its rim (RIDE.md 8)
CRASH_RAD, RIM_N = radians(38.0), 10e3
#: a stop counts again after the stroke went back by this share of the travel
REARM = 0.05
#: bins of the travel histogram
BINS = 24


@lru_cache(maxsize=2)
def wk_sections(rate_hz: int = RECORD_HZ) -> Array:
    """Second-order sections of Wk [1] at a sampling rate [Hz]: ISO 2631-1, digital by the bilinear transform."""

    def turn(hertz_per_s: float) -> float:  # the bilinear transform bends frequencies: bend them the other way first
        return 2.0 * rate_hz * np.tan(pi * hertz_per_s / rate_hz)

    w1, w2, w3, w5, w6 = (turn(f) for f in (0.4, 100.0, 12.5, 2.37, 3.35))
    q1, q4, q5 = 1.0 / np.sqrt(2.0), 0.63, 0.91
    stages = (
        ([1.0, 0.0, 0.0], [1.0, w1 / q1, w1**2]),
        ([w2**2], [1.0, w2 / q1, w2**2]),
        ([1.0 / w3, 1.0], [1.0 / w3**2, 1.0 / (q4 * w3), 1.0]),
        ([1.0 / w6**2, w5 / (q5 * w6**2), w5**2 / w6**2], [1.0 / w6**2, 1.0 / (q5 * w6), 1.0]),
    )
    from scipy import signal  # it takes half a second to load, and the first ride is soon enough

    return np.concatenate([signal.tf2sos(*signal.bilinear(b, a, rate_hz)) for b, a in stages])


def weighted(acceleration: Array) -> Array:
    """Acceleration [m/s2] at RECORD_HZ through Wk."""
    from scipy.signal import sosfilt

    return np.asarray(sosfilt(wk_sections(), acceleration))


@dataclass(frozen=True, slots=True, kw_only=True)
class End:
    """One end. travel_used_m: the deepest (fork along the leg, rear at the axle); share: of the travel; bumps: entries
    into the rubber; metal: hits; stop_n: hardest push of rubber and metal, of both fork legs along them, of the shock
    at the shock; air_share: share of the time off the ground; packing_m: how much deeper it runs than it stands;
    inward, outward_m_per_s: shaft speed, 99.9 %; histogram: share of the time by travel, BINS bins; load_ratio: of the
    tyre's load, sd / standing.
    """

    travel_used_m: float
    share: float
    bumps: int
    metal: int
    stop_n: float
    air_share: float
    packing_m: float
    inward_m_per_s: float
    outward_m_per_s: float
    histogram: tuple[float, ...]
    load_ratio: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Measures:
    """peg: weighted acceleration of the pegs, r.m.s. [m/s2]; rider: of the rider, r.m.s.; dose: VDV [m/s^1.75];
    pitch_rad: from lowest to highest; overshoot_m: how far the body rises beyond where it rests after its deepest;
    tyre_n: hardest; crash: beyond what the model holds for; rim: the tyre comes to its rim.
    """

    front: End
    rear: End
    peg_m_per_s2: float
    rider_m_per_s2: float
    dose: float
    pitch_rad: float
    pitch_rate_rad_per_s: float
    overshoot_m: float
    tyre_n: float
    crash: bool
    rim: bool

    @property
    def in_envelope(self) -> bool:
        """Whether the model holds: small angles. A rim strike is in the model: its spring stiffens."""
        return not self.crash


@njit(int64(float64[::1], float64, float64), nogil=True, cache=True)
def hits(stroke: Array, at_m: float, rearm_m: float) -> int:
    """How often a stroke [m] goes beyond a place, counted again only after it went back by rearm_m."""
    count, armed = 0, True
    for s in stroke:
        if armed and s > at_m:
            count, armed = count + 1, False
        elif s < at_m - rearm_m:
            armed = True
    return count


@njit(void(float64[::1], float64[::1], float64, float64[::1], int64[::1]), nogil=True, cache=True)
def _tally(travel: Array, load: Array, whole_m: float, sums: Array, counts: NDArray[np.int64]) -> None:
    """In one pass: deepest and mean travel, mean and spread of the tyre's load, share of the time without any, into
    sums; travel by bins into counts.
    """
    n = travel.size
    for k in range(n):
        sums[0] = max(sums[0], travel[k])
        sums[1] += travel[k] / n
        sums[2] += load[k] / n
        if load[k] <= 0.0:
            sums[4] += 1.0 / n
        counts[min(max(int(travel[k] / whole_m * counts.size), 0), counts.size - 1)] += 1
    for k in range(n):
        sums[3] += (load[k] - sums[2]) ** 2 / n
    sums[3] = math.sqrt(sums[3])


def _end(car: HalfCar, ride: Recording, end: str) -> End:
    front = end == "front"
    stroke, speed = ride.column("fork" if front else "shock"), ride.column("fork_v" if front else "shock_v")
    travel = stroke if front else ride.column("wheel")
    whole = car.value("fork_travel") if front else car.values["rear_travel"]
    shaft = car.value("fork_travel") if front else car.value("shock_stroke")
    rubber = car.value("fork_bump_length" if front else "shock_bump_length")
    standing = car.loads_n[0 if front else 1] + car.value(f"{end}_unsprung") * car.value("gravity")
    slowest, inward = np.quantile(speed, (0.001, 0.999))
    sums, counts = np.array([-1.0, 0.0, 0.0, 0.0, 0.0]), np.zeros(BINS, dtype=np.int64)
    _tally(travel, ride.column(f"{end}_tyre"), whole, sums, counts)
    deepest, mean, _load, spread, air = (float(v) for v in sums)
    return End(
        travel_used_m=deepest,
        share=deepest / whole,
        bumps=hits(stroke, shaft - rubber, REARM * shaft),
        metal=hits(stroke, shaft, REARM * shaft),
        stop_n=float(ride.column("fork_stop" if front else "shock_stop").max()),
        air_share=air,
        packing_m=mean - car.sag_m[0 if front else 1],
        inward_m_per_s=float(max(inward, 0.0)),
        outward_m_per_s=float(max(-slowest, 0.0)),
        histogram=tuple(counts / travel.size),
        load_ratio=spread / standing,
    )


def measure(car: HalfCar, ride: Recording) -> Measures:
    """What a ride was like, from the first row that counts."""
    whole = weighted(ride.rows[:, 16])[ride.judged :]
    pitch, body = (
        ride.column("pitch"),
        ride.column("body") - 0.5 * (ride.column("front_ground") + ride.column("rear_ground")),
    )
    deepest = int(np.argmin(body))
    tyre = float(max(ride.column("front_tyre").max(), ride.column("rear_tyre").max()))
    turned = float(pitch.max() - pitch.min())
    return Measures(
        front=_end(car, ride, "front"),
        rear=_end(car, ride, "rear"),
        peg_m_per_s2=float(np.sqrt((whole**2).mean())),
        rider_m_per_s2=float(np.sqrt((ride.column("rider_a") ** 2).mean())),
        dose=float(((whole**4).sum() / RECORD_HZ) ** 0.25),
        pitch_rad=turned,
        pitch_rate_rad_per_s=float(np.abs(ride.column("pitch_v")).max()),
        overshoot_m=float(body[deepest:].max() - car.standing[0]),
        tyre_n=tyre,
        crash=not ride.whole or float(np.abs(pitch).max()) > CRASH_RAD,
        rim=tyre > RIM_N,
    )
