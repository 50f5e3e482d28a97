"""The half car: what it is made of, how it stands, and a ride over a profile.

Masses, springs, linkage and loads come from the chassis, so a ride stands at the same sag; dampers come as force tables
from core.damping.
"""

import copy
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from lynxwort.core.model.defaults import GRAVITY_M_PER_S2
from lynxwort.core.physics.damping.damper import TOP_M_PER_S
from lynxwort.core.physics.halfcar.kernel import (
    COLUMN,
    FORK_SPRING,
    PARAMETERS,
    PLACE,
    RATIOS,
    SHOCK_SPRING,
    STROKES,
    blank,
    ride_over,
)
from lynxwort.core.physics.halfcar.terrain import GRID_M, WHEEL_RADIUS_M, Profile, tyre_path

Array = NDArray[np.float64]
#: steps [s]: of a single ride, of sweeps (RIDE.md 4: 0.12 and 0.2 mm off)
STEP_S, SWEEP_STEP_S = 5e-4, 1e-3
#: rows of a recording per second
RECORD_HZ = 1000
#: points of the spring and linkage tables
POINTS = 241
#: what nobody weighs or measures: estimates, none measured (RIDE.md 2). SI units, by the kernel's names.
ESTIMATES: dict[str, float] = {
    "friction_speed": 0.01,
    "fork_bump_length": 0.030,
    "fork_bump": 10e3,
    "fork_bump_square": 0.0,
    "fork_bump_damping": 1500.0,
    "fork_metal": 400e3,
    "fork_metal_damping": 500.0,
    "shock_bump_length": 0.014,
    "shock_bump": 30e3,
    "shock_bump_square": 20e6,
    "shock_bump_damping": 3000.0,
    "shock_metal": 2.5e6,
    "shock_metal_damping": 3000.0,
    "fork_top_out": 100e3,
    "fork_top_out_damping": 400.0,
    "shock_top_out": 600e3,
    "shock_top_out_damping": 3000.0,
    "front_tyre": 130e3,
    "rear_tyre": 150e3,
    "tyre_damping": 200.0,
    "leg": 14e3,
    "leg_damping": 900.0,
    "seat_after": 0.35,
    "seat": 40e3,
    "seat_damping": 600.0,
    "arm": 2e3,
    "arm_damping": 150.0,
    "body_english": 60.0,
    "body_english_most": 250.0,
    "rim_from": 0.060,
    "rim": 400e3,
}
#: radius of gyration of bike without wheels and rider, pitching [m] (estimate; 11 to 18 kg m2 of 82 kg)
GYRATION_M = 0.398
#: bars ahead of the body's centre of mass [m] (estimate)
BAR_AHEAD_M = 0.45


@dataclass(frozen=True, kw_only=True)
class HalfCar:
    """values: the kernel's parameters by name, SI; rake_rad; fork_spring(stroke) and shock_spring(stroke): force [N];
    ratio(wheel travel): d(shock)/d(wheel); the four damper tables over damper.SPEEDS.
    """

    values: dict[str, float]
    rake_rad: float
    fork_spring: Callable[[float], float]
    shock_spring: Callable[[float], float]
    ratio: Callable[[float], float]
    fork_in: Array
    fork_out: Array
    shock_in: Array
    shock_out: Array
    given: dict[str, float] = field(default_factory=dict)

    @cached_property
    def parameters(self) -> Array:
        known = (
            ESTIMATES
            | {"gravity": GRAVITY_M_PER_S2, "top_speed": TOP_M_PER_S, "arm_rest": 0.0, "lean": self.lean}
            | self.values
            | self.given
        )
        known["shock_stroke"] = float(self.springs[STROKES, -1])
        return np.array([known[name] for name in PARAMETERS])

    @cached_property
    def lean(self) -> float:
        return 1.0 / float(np.cos(self.rake_rad))

    @cached_property
    def springs(self) -> Array:
        """Fork spring over its travel, shock spring over its stroke [N]; strokes [m] and ratios over the rear wheel's
        travel: shape (4, POINTS).
        """
        wheel = np.linspace(0.0, self.values["rear_travel"], POINTS)
        ratios = np.array([self.ratio(w) for w in wheel])
        strokes = np.concatenate([[0.0], np.cumsum(0.5 * (ratios[1:] + ratios[:-1]) * np.diff(wheel))])
        fork = [self.fork_spring(s) for s in np.linspace(0.0, self.values["fork_travel"], POINTS)]
        return np.array([fork, [self.shock_spring(s) for s in np.linspace(0.0, strokes[-1], POINTS)], strokes, ratios])

    @cached_property
    def dampers(self) -> Array:
        """The damper tables as the kernel reads them: shape (4, damper.COUNT)."""
        return np.array([self.fork_in, self.fork_out, self.shock_in, self.shock_out])

    def value(self, name: str) -> float:
        return float(self.parameters[PLACE[name]])

    def with_dampers(self, fork_in: Array, fork_out: Array, shock_in: Array, shock_out: Array) -> "HalfCar":
        """The same bike with other damper tables: it stands as before, so nothing is worked out anew."""
        other = copy.copy(self)
        for name, table in (
            ("fork_in", fork_in),
            ("fork_out", fork_out),
            ("shock_in", shock_in),
            ("shock_out", shock_out),
        ):
            object.__setattr__(other, name, table)
        other.__dict__.pop("dampers", None)
        return other

    def _stops(self, end: str, stroke: float) -> float:
        travel, prefix = (
            (self.value("fork_travel"), "fork") if end == "front" else (self.value("shock_stroke"), "shock")
        )
        x = max(stroke - travel + self.value(f"{prefix}_bump_length"), 0.0)
        bump = x * (self.value(f"{prefix}_bump") + x * self.value(f"{prefix}_bump_square"))
        return (
            bump
            + self.value(f"{prefix}_metal") * max(stroke - travel, 0.0)
            + self.value(f"{prefix}_top_out") * min(stroke, 0.0)
        )

    def stroke_at(self, rear_m: float) -> float:
        """Shock stroke [m] at a wheel travel [m]."""
        wheel = np.linspace(0.0, self.values["rear_travel"], POINTS)
        strokes, ratios = self.springs[STROKES], self.springs[RATIOS]
        inside = min(max(rear_m, 0.0), wheel[-1])
        k = min(int(inside / wheel[-1] * (POINTS - 1)), POINTS - 2)
        t = inside / wheel[-1] * (POINTS - 1) - k
        here = ratios[k] + (ratios[k + 1] - ratios[k]) * t
        return float(
            strokes[k] + wheel[1] * t * (ratios[k] + 0.5 * (ratios[k + 1] - ratios[k]) * t) + (rear_m - inside) * here
        )

    def ratio_at(self, rear_m: float) -> float:
        return float(np.interp(rear_m, np.linspace(0.0, self.values["rear_travel"], POINTS), self.springs[RATIOS]))

    @cached_property
    def loads_n(self) -> tuple[float, float]:
        """What each end carries standing still [N], without its own wheel."""
        v, base = self.value, self.value("to_front") + self.value("to_rear")
        front = v("gravity") * (v("sprung") * v("to_rear") + v("rider") * (v("to_rear") + v("peg"))) / base
        return front, v("gravity") * (v("sprung") + v("rider")) - front

    @cached_property
    def standing(self) -> Array:
        """The ten states at rest on flat ground: shape (10,)."""
        v, (front, rear) = self.value, self.loads_n
        travel = v("fork_travel")

        def fork(s_m: float) -> float:
            return (
                self.lean
                * (
                    float(np.interp(s_m, np.linspace(0.0, travel, POINTS), self.springs[FORK_SPRING]))
                    + self._stops("front", s_m)
                )
                - front
            )

        def shock(w_m: float) -> float:
            q, stroke = self.stroke_at(w_m), v("shock_stroke")
            return (
                self.ratio_at(w_m)
                * (
                    float(np.interp(q, np.linspace(0.0, stroke, POINTS), self.springs[SHOCK_SPRING]))
                    + self._stops("rear", q)
                )
                - rear
            )

        s = float(brentq(fork, -0.05, travel + 0.05, xtol=1e-14, rtol=1e-14))
        w = float(brentq(shock, -0.05, self.values["rear_travel"] + 0.05, xtol=1e-14, rtol=1e-14))
        front_z = -(front + v("front_unsprung") * v("gravity")) / v("front_tyre")
        rear_z = -(rear + v("rear_unsprung") * v("gravity")) / v("rear_tyre")
        at_front, at_rear = front_z - s / self.lean, rear_z - w
        pitch = (at_front - at_rear) / (v("to_front") + v("to_rear"))
        body = at_front - v("to_front") * pitch
        rider = body + v("peg") * pitch - v("rider") * v("gravity") / v("leg")
        return np.array([body, pitch, front_z, rear_z, rider, 0.0, 0.0, 0.0, 0.0, 0.0])

    def ready(self) -> None:
        """Work out once what rides on several threads would share."""
        self.standing, self.springs, self.dampers, self.parameters, self.loads_n  # noqa: B018 - kept once it was asked for

    def at_rest(self) -> tuple[Array, Array]:
        """States at rest and the kernel's parameters, the arms slack there: copies."""
        start, parameters = self.standing.copy(), self.parameters.copy()
        parameters[PLACE["arm_rest"]] = start[0] + parameters[PLACE["bar"]] * start[1] - start[4]
        return start, parameters

    @property
    def sag_m(self) -> tuple[float, float]:
        """Fork sag along the leg and rear sag at the axle [m], standing."""
        y, v = self.standing, self.value
        return float((y[2] - y[0] - v("to_front") * y[1]) * self.lean), float(y[3] - y[0] + v("to_rear") * y[1])


@dataclass(frozen=True, slots=True, kw_only=True)
class Recording:
    """One ride: rows at RECORD_HZ, columns of kernel.RECORDED; judged: first row that counts; whole: whether it came to
    the end.
    """

    rows: Array
    judged: int
    whole: bool
    speed_m_per_s: float

    def column(self, name: str) -> Array:
        """One column of what is judged."""
        return self.rows[self.judged :, COLUMN[name]]


def ride(
    car: HalfCar, profile: Profile, speed_m_per_s: float, *, step_s: float = STEP_S, path: Array | None = None
) -> Recording:
    """Ride over a profile at a constant speed [m/s], from rest in equilibrium. path: the profile through the tyre
    filter, if it is at hand.
    """
    ground = tyre_path(profile.height_m) if path is None else path
    base = car.value("to_front") + car.value("to_rear")
    start, parameters = car.at_rest()
    steps = int((profile.length_m - base - WHEEL_RADIUS_M) / speed_m_per_s / step_s)
    every = max(round(1.0 / RECORD_HZ / step_s), 1)
    out = blank(steps // every + 1)
    filled = ride_over(
        start, parameters, speed_m_per_s, step_s, steps, every, GRID_M, ground, car.springs, car.dampers, out
    )
    judged = min(int(profile.judged_from_m / speed_m_per_s * RECORD_HZ), max(filled - 2, 0))
    return Recording(rows=out[:filled], judged=judged, whole=filled >= steps // every, speed_m_per_s=speed_m_per_s)
