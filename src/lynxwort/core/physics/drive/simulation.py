"""The ride of one lap: what the kernel is fed, and what its arrays say.

References: [wong2008] J. Y. Wong, Theory of Ground Vehicles, 4th ed.; [cossalter2006] V. Cossalter, Motorcycle
Dynamics, 2nd ed., ch. 3 and 6 (load transfer, wheelie and traction limits). Paces, grips and the Willans line:
core.model.defaults. Off-road lap times are nearly blind to power; differences under 0.5 % are even.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import pi

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d

from lynxwort.core.model.bike.electric import Electric
from lynxwort.core.model.bike.engine import Engine
from lynxwort.core.model.defaults import (
    ELECTRIC_INERTIA_KG_M2,
    ENGINE,
    GRAVITY_M_PER_S2,
    MASS_PACE_EXPONENT,
    REFERENCE_MASS_KG,
    WALKING_SPEED_M_PER_S,
    WHEEL_INERTIA_KG_M2,
)
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.course.prepare import Course
from lynxwort.core.physics.drive import kernel
from lynxwort.core.physics.drive.engine import EngineCurve, battery_power, engine_curve, fuel_flow, slips_by_itself

Array = NDArray[np.float64]
SHIFT_TIME_S = 0.18
DWELL_S = 1.5
DRAG_HEIGHT_ABOVE_CG_M = 0.0
NOISE_LENGTH_M = 20.0
#: share of full torque from which the throttle counts as full open, and the longest gap that still is one
#: stretch [s]
#: (HANDBOOK 4)
FULL_THROTTLE_SHARE, JOINED_GAP_S = 0.97, 0.4

#: fields of a Ride with one value per step
STEP_ARRAYS = (
    "gear",
    "crank_rad_per_s",
    "torque_nm",
    "time_s",
    "limit",
    "throttle_share",
    "fuel_kg",
    "energy_j",
    "step_m",
    "brake_n",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class RideInput:
    """All that decides a lap. mass_kg: bike, rider and mean fuel; cg_to_front_axle_m, wheelbase_m, cg_height_m [m];
    overall_ratios: engine turns per wheel turn; pace as in Rider; mode_share: of a motor's power mode; wind_m_per_s,
    wind_from_rad: as forecast; pace_by_ground, grip_by_ground: factors on the rider's pace and on drive grip, by index
    into GROUNDS, empty = none; tyre_by_ground: factors of the tyres that are on upon drive and
    lateral grip, and what they add to c0, likewise; wheel_inertia_kg_m2: of both wheels; rolling_scale, power_scale,
    grip_scale, pace_scale: for sensitivities.
    """

    engine: Engine
    overall_ratios: tuple[float, ...]
    efficiency: float
    rolling_radius_m: float
    mass_kg: float
    cg_to_front_axle_m: float
    wheelbase_m: float
    cg_height_m: float
    drag_area_m2: float
    air_density_kg_per_m3: float
    pace: float
    seed: int
    mode_share: float = 1.0
    wind_m_per_s: float = 0.0
    wind_from_rad: float = 0.0
    pace_by_ground: tuple[float, ...] = ()
    grip_by_ground: tuple[float, ...] = ()
    tyre_by_ground: tuple[tuple[float, float, float], ...] = ()
    wheel_inertia_kg_m2: float = WHEEL_INERTIA_KG_M2
    rolling_scale: float = 1.0
    power_scale: float = 1.0
    grip_scale: float = 1.0
    pace_scale: float = 1.0

    def tyre_on(self, ground: str) -> float:
        """Factor of the tyres that are on upon drive grip of a ground [1]."""
        return self.tyre_by_ground[GROUNDS.index(ground)][0] if self.tyre_by_ground else 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Ride:
    """One lap, per step: speed_m_per_s (n + 1), gear (1 = first), crank_rad_per_s, torque_nm, time_s, limit (index into
    LIMITS), throttle_share [1], fuel_kg or energy_j from the pack, step_m: its length, brake_n: force of the brakes;
    accounts_j: energy by name; energy_residual: imbalance / engine work [1].
    """

    speed_m_per_s: Array
    gear: NDArray[np.int64]
    crank_rad_per_s: Array
    torque_nm: Array
    time_s: Array
    limit: NDArray[np.int64]
    throttle_share: Array
    fuel_kg: Array
    energy_j: Array
    accounts_j: dict[str, float]
    energy_residual: float
    step_m: Array
    brake_n: Array

    @property
    def lap_time_s(self) -> float:
        return float(self.time_s.sum())

    @property
    def lap_use(self) -> float:
        """Fuel [kg] or energy [J] of the lap, whichever the engine uses."""
        return float(self.fuel_kg.sum() + self.energy_j.sum())

    def metres(self, *codes: int) -> float:
        """Metres of the lap with one of these limit codes."""
        return float(self.step_m[np.isin(self.limit, codes)].sum())

    @property
    def longest_full_throttle_s(self) -> float:
        """Longest time at full throttle [s], gear changes counted in: the engine does not rest in them."""
        return longest_run(self.throttle_share >= FULL_THROTTLE_SHARE, self.time_s, JOINED_GAP_S)


def longest_run(mask: NDArray[np.bool_], time_s: Array, gap_s: float = 0.0) -> float:
    """Longest time [s] over which mask holds, gaps up to gap_s [s] between two runs counted in."""
    total = np.concatenate([[0.0], np.cumsum(time_s)])
    edges = np.flatnonzero(np.diff(np.concatenate([[False], mask, [False]]).astype(np.int8)))
    starts, ends = total[edges[::2]], total[edges[1::2]]
    if not starts.size:
        return 0.0
    begins = np.concatenate([[True], starts[1:] - ends[:-1] > gap_s + 1e-12])
    return float((ends[np.concatenate([begins[1:], [True]])] - starts[begins]).max())


@lru_cache(maxsize=16)
def pace_noise(length_m: float, seed: int) -> Array:
    """Smooth unit noise [1] on a fixed 1 m grid along a course, so that the spacing of the steps does not change it."""
    raw = np.random.default_rng(seed).standard_normal(int(length_m) + 202)
    smooth = gaussian_filter1d(raw, NOISE_LENGTH_M, mode="nearest")
    # the variance of a Gaussian moving mean of white noise is 1 / (2 sqrt(pi) sigma)
    return np.asarray(smooth[100:] * np.sqrt(2.0 * np.sqrt(pi) * NOISE_LENGTH_M))


def pace_caps(course: Course, ride_input: RideInput) -> Array:
    """Speed [m/s] that the rider's pace allows on each step."""
    middle = 0.5 * (course.distance_m[1:] + course.distance_m[:-1])
    noise = np.interp(
        middle, np.arange(int(course.length_m) + 102, dtype=float), pace_noise(course.length_m, ride_input.seed)
    )
    cap, spread = course.rows[course.surface, 5], course.rows[course.surface, 6]
    mass = (ride_input.mass_kg / REFERENCE_MASS_KG) ** -MASS_PACE_EXPONENT
    own = ride_input.pace * ride_input.pace_scale * cap * np.exp(spread * noise - 0.5 * spread**2) * mass
    if ride_input.pace_by_ground:
        own = own * np.array(ride_input.pace_by_ground)[course.ground]
    return np.asarray(np.minimum(own * course.pace_share, course.limit_m_per_s))


def machine_vector(ride_input: RideInput, curve: EngineCurve) -> Array:
    """The kernel's parameter vector [SI], in the order of kernel.PARAMETERS."""
    if isinstance(ride_input.engine, Electric):
        # a motor has no pumping drag; what it brakes on the overrun it returns, at a tenth of its torque
        # (assumption)
        inertia, drag, drag_per_speed = (
            ELECTRIC_INERTIA_KG_M2,
            0.1 * ride_input.engine.peak_torque_nm if ride_input.engine.regeneration_share else 0.0,
            0.0,
        )
    else:
        known = ENGINE[ride_input.engine.kind]
        per_torque = ride_input.engine.displacement_m3 / (2.0 * pi * known.revolutions_per_cycle)
        inertia, drag = known.torque_inertia_kg_m2, known.fmep_pa * per_torque
        drag_per_speed = known.fmep_pa_per_1000rpm * per_torque * 60.0 / (2.0 * pi) / 1000.0
    vector = np.array(
        [
            ride_input.mass_kg,
            ride_input.rolling_radius_m,
            ride_input.wheel_inertia_kg_m2,
            inertia,
            ride_input.efficiency,
            0.5 * ride_input.air_density_kg_per_m3 * ride_input.drag_area_m2,
            ride_input.cg_to_front_axle_m,
            ride_input.wheelbase_m,
            ride_input.cg_height_m,
            ride_input.cg_height_m + DRAG_HEIGHT_ABOVE_CG_M,
            min(ride_input.pace, 1.0),
            curve.engagement_rad_per_s,
            curve.limiter_rad_per_s,
            curve.step_rad_per_s,
            SHIFT_TIME_S,
            DWELL_S,
            WALKING_SPEED_M_PER_S,
            GRAVITY_M_PER_S2,
            drag,
            drag_per_speed,
            curve.idle_rad_per_s,
        ]
    )
    assert vector.size == len(kernel.PARAMETERS)
    return vector


def surface_table(course: Course, ride_input: RideInput) -> Array:
    """The course's surfaces [SI] as the kernel reads them, with the input's scales on rolling and grip."""
    rows = course.rows[:, :5] * [
        ride_input.rolling_scale,
        ride_input.rolling_scale,
        ride_input.grip_scale,
        ride_input.grip_scale,
        1.0,
    ]
    if ride_input.grip_by_ground or ride_input.tyre_by_ground:
        ground = np.zeros(course.rows.shape[0], dtype=np.int64)
        ground[course.surface] = course.ground
        if ride_input.grip_by_ground:
            rows[:, 2] *= np.array(ride_input.grip_by_ground)[ground]
        if ride_input.tyre_by_ground:
            tyre = np.array(ride_input.tyre_by_ground)[ground]
            rows[:, 2:4] *= tyre[:, :2]
            rows[:, 0] += tyre[:, 2]
    return np.asarray(rows.ravel())


def headwind(course: Course, ride_input: RideInput) -> Array:
    """Wind from ahead at the rider, per step [m/s]."""
    return np.asarray(ride_input.wind_m_per_s * course.exposure * np.cos(course.heading_rad - ride_input.wind_from_rad))


def clutched(ride_input: RideInput) -> Array:
    """Overall ratios [1] as the kernel reads them: positive where a clutch may slip, which is first gear, or
    every gear of an automatic clutch.
    """
    automatic = slips_by_itself(ride_input.engine)
    return np.array([r if i == 0 or automatic else -r for i, r in enumerate(ride_input.overall_ratios)])


def simulate(course: Course, power_share: Array, ride_input: RideInput) -> Ride:
    """Ride one lap from a standing start. power_share: share of standard power per step [1], shape (n,)."""
    curve = engine_curve(ride_input.engine, ride_input.mode_share)
    p = machine_vector(ride_input, curve)
    table, wind = surface_table(course, ride_input), headwind(course, ride_input)
    corner_use = np.array([ride_input.pace * ride_input.pace_scale])
    cap = pace_caps(course, ride_input)
    share = np.ascontiguousarray(power_share * ride_input.power_scale)
    ratios = clutched(ride_input)
    node_limit = np.zeros(course.sine.size + 1)
    kernel.limit_speeds(
        course.sine,
        course.curvature_per_m,
        course.surface,
        wind,
        course.spacing_m,
        table,
        corner_use,
        cap,
        p,
        node_limit,
    )
    out = kernel.empty_outputs(course.sine.size)
    v, gear, crank, torque, time, limit, accounts, brake = out
    kernel.ride(
        course.sine,
        course.curvature_per_m,
        course.surface,
        wind,
        course.spacing_m,
        table,
        corner_use,
        cap,
        share,
        ratios,
        curve.torque_nm,
        p,
        node_limit,
        WALKING_SPEED_M_PER_S,
        0,
        *out,
    )
    full = curve.torque_at(crank) * share
    fuel, energy = np.zeros(time.size), np.zeros(time.size)
    if isinstance(ride_input.engine, Electric):
        energy = battery_power(ride_input.engine, torque, crank) * time
    else:
        fuel = fuel_flow(ride_input.engine, torque, crank, full) * time
    return Ride(
        speed_m_per_s=v,
        gear=gear + 1,
        crank_rad_per_s=crank,
        torque_nm=torque,
        time_s=time,
        limit=limit,
        throttle_share=np.clip(torque / np.maximum(full, 1e-9), 0.0, 1.0),
        fuel_kg=fuel,
        energy_j=energy,
        accounts_j=dict(zip(kernel.ACCOUNTS, accounts.tolist(), strict=True)),
        energy_residual=energy_residual(
            accounts, mass_kg=ride_input.mass_kg, v=v, rise_m=float(course.height_m[-1] - course.height_m[0])
        ),
        step_m=np.full(v.size - 1, course.spacing_m),
        brake_n=brake,
    )


def join_rides(rides: Sequence[Ride]) -> Ride:
    """Rides of stages one after the other as one; energies add up, the worst imbalance stands."""
    if len(rides) == 1:
        return rides[0]
    joined = {name: np.concatenate([getattr(r, name) for r in rides]) for name in STEP_ARRAYS}
    return Ride(
        speed_m_per_s=np.concatenate([*(r.speed_m_per_s[:-1] for r in rides), rides[-1].speed_m_per_s[-1:]]),
        accounts_j={k: sum(r.accounts_j[k] for r in rides) for k in kernel.ACCOUNTS},
        energy_residual=max(r.energy_residual for r in rides),
        **joined,
    )


def energy_residual(accounts: Array, *, mass_kg: float, v: Array, rise_m: float) -> float:
    """Imbalance / engine work [1]: work in against losses plus the kinetic and height energy found at the ends of the
    lap.
    """
    a = dict(zip(kernel.ACCOUNTS, accounts, strict=True))
    stored = 0.5 * mass_kg * (v[-1] ** 2 - v[0] ** 2) + mass_kg * GRAVITY_M_PER_S2 * rise_m + a["rotation"]
    losses = sum(a[k] for k in ("transmission", "clutch", "slip", "rolling", "air", "corner", "brake", "engine_brake"))
    return float(abs(a["engine"] + a["push"] - losses - stored) / max(a["engine"], 1.0))
