"""Critical hills: the steepest that engine, grip and front wheel allow, and the speed needed at the foot.

References: [wong2008] ch. 3 (gradeability); [cossalter2006] ch. 6 (traction and wheelie limits on a slope). Grips:
core.model.defaults.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import asin, atan, hypot, tan

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.defaults import GRAVITY_M_PER_S2, GRIP_RANGE, GRIP_SPREAD, GROUND, WALKING_SPEED_M_PER_S
from lynxwort.core.physics.course.prepare import Course
from lynxwort.core.physics.drive import kernel
from lynxwort.core.physics.drive.engine import engine_curve
from lynxwort.core.physics.drive.pull import force_at
from lynxwort.core.physics.drive.simulation import RideInput, clutched, headwind, machine_vector

Array = NDArray[np.float64]
#: run-up speeds beyond this are no speed for a foot of a hill [m/s] (assumption)
MOST_RUN_UP_M_PER_S = 30.0
#: drive grip at which nothing spins any more; traction grows without bound beyond L / h (assumption)
ENDLESS_GRIP = 1.4


@dataclass(frozen=True, slots=True, kw_only=True)
class Grades:
    """Steepest slopes held at walking pace, rise / run [1]: by engine, by the front wheel, by grip at the low and high
    end of what is known.
    """

    engine: float
    wheelie: float
    grip_low: float
    grip: float
    grip_high: float

    @property
    def limit(self) -> str:
        """Which rules: "engine", "grip" or "wheelie"."""
        return min((self.engine, "engine"), (self.grip, "grip"), (self.wheelie, "wheelie"))[1]

    @property
    def steepest(self) -> float:
        return min(self.engine, self.grip, self.wheelie)


def grip_range(ground: str) -> tuple[float, float]:
    """Drive grip [1] that hills of this ground may give: lowest and highest."""
    drive = GROUND[ground][2]
    return GRIP_RANGE.get(ground, (drive * (1.0 - GRIP_SPREAD), drive * (1.0 + GRIP_SPREAD)))


def grade_by_force(force_over_weight: float, rolling: float) -> float:
    """Steepest slope, rise / run [1], that a drive force of so many weights holds: F = m g (c cos + sin). Closed form;
    infinite when it lifts the bike.
    """
    reach = force_over_weight / hypot(1.0, rolling)
    return tan(asin(reach) - atan(rolling)) if reach < 1.0 else float("inf")


def grade_by_grip(grip: float, rolling: float, ride_input: RideInput) -> float:
    """Steepest slope [1] by traction, (mu b / L - c) / (1 - mu h / L), b from the front axle; infinite when the
    load behind outgrows the slope.
    """
    share, height = (
        ride_input.cg_to_front_axle_m / ride_input.wheelbase_m,
        ride_input.cg_height_m / ride_input.wheelbase_m,
    )
    return (grip * share - rolling) / (1.0 - grip * height) if grip * height < 1.0 else float("inf")


def steepest(
    ride_input: RideInput, surface: Sequence[float], *, power_share: float, grips: tuple[float, float, float]
) -> Grades:
    """What a bike holds at walking pace on a surface. grips: low, likely, high [1]."""
    curve = engine_curve(ride_input.engine, ride_input.mode_share)
    # the clutch holds the engine at its engagement speed; the force is read there, not at a speed turned back
    # into revs
    crank = max(
        curve.engagement_rad_per_s, WALKING_SPEED_M_PER_S / ride_input.rolling_radius_m * ride_input.overall_ratios[0]
    )
    best = force_at(curve, ride_input, ride_input.overall_ratios[0], crank, power_share=power_share)
    weight = ride_input.mass_kg * GRAVITY_M_PER_S2
    low, likely, high = (grade_by_grip(mu, surface[0], ride_input) for mu in grips)
    wheelie = 0.9 * (ride_input.wheelbase_m - ride_input.cg_to_front_axle_m) / ride_input.cg_height_m
    return Grades(
        engine=grade_by_force(best / weight, surface[0]), wheelie=wheelie, grip_low=low, grip=likely, grip_high=high
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Ramp:
    """The steps of a hill as the kernel rides them. curvature is left out: the answer is about the slope."""

    sine: Array
    surface: NDArray[np.int64]
    rows: Array
    headwind: Array
    spacing_m: float
    power_share: Array


def ramp_of(course: Course, power_share: Array, ride_input: RideInput, *, at_m: float, length_m: float) -> Ramp:
    """The stretch [at_m, at_m + length_m] of a course."""
    middle = 0.5 * (course.distance_m[1:] + course.distance_m[:-1])
    on = (middle >= at_m) & (middle < at_m + length_m)
    if not on.any():
        on[int(np.argmin(np.abs(middle - at_m)))] = True
    return Ramp(
        sine=course.sine[on].copy(),
        surface=course.surface[on].copy(),
        rows=course.rows,
        headwind=headwind(course, ride_input)[on],
        spacing_m=course.spacing_m,
        power_share=power_share[on] * ride_input.power_scale,
    )


Climber = Callable[[float, float], bool]


def climber(ramp: Ramp, ride_input: RideInput) -> Climber:
    """Asks whether the bike that arrives at a speed [m/s] rides up without stopping, with a drive grip [1]."""
    curve, steps, ratios = engine_curve(ride_input.engine, ride_input.mode_share), ramp.sine.size, clutched(ride_input)
    machine, straight, free = machine_vector(ride_input, curve), np.zeros(steps), np.full(steps + 1, 1e9)
    rows = ramp.rows[:, :5].copy()

    def climbs(speed_m_per_s: float, grip: float) -> bool:
        rows[:, 2] = min(grip, 0.99 * ride_input.wheelbase_m / ride_input.cg_height_m)
        forces = [kernel.gear_force(speed_m_per_s, r, 0.0, 1.0, curve.torque_nm, machine) for r in ratios]
        out = kernel.empty_outputs(steps)
        kernel.ride(
            ramp.sine,
            straight,
            ramp.surface,
            ramp.headwind,
            ramp.spacing_m,
            rows.ravel(),
            np.ones(1),
            free[:-1],
            ramp.power_share,
            ratios,
            curve.torque_nm,
            machine,
            free,
            speed_m_per_s,
            int(np.argmax(forces)),
            *out,
        )
        return not bool((out[5] >= kernel.STUCK_POWER).any())

    return climbs


def _least(works: Callable[[float], bool], low: float, high: float, tolerance: float) -> float | None:
    """Least value in [low, high] for which `works` holds, by bisection; None when it never does."""
    if works(low):
        return low
    if not works(high):
        return None
    while high - low > tolerance:
        middle = 0.5 * (low + high)
        low, high = (low, middle) if works(middle) else (middle, high)
    return high


def run_up(climbs: Climber, grip: float = ENDLESS_GRIP) -> float | None:
    """Least speed at the foot [m/s] that carries the bike up; walking pace when it needs none, None when no run-up does
    it.
    """
    return _least(lambda v: climbs(v, grip), WALKING_SPEED_M_PER_S, MOST_RUN_UP_M_PER_S, 0.05)


def needs_run_up(speed_m_per_s: float | None) -> bool:
    """Whether a run-up [m/s] is more than walking pace; None, which no speed does, counts."""
    return speed_m_per_s is None or speed_m_per_s > WALKING_SPEED_M_PER_S + 0.1


def grip_needed(climbs: Climber, speed_m_per_s: float) -> float | None:
    """Least drive grip [1] with which the bike arrives at the top from this speed at the foot [m/s]; None when the
    engine gives out first.
    """
    return _least(lambda mu: climbs(speed_m_per_s, mu), 0.05, ENDLESS_GRIP, 0.002)


def with_gearing(ride_input: RideInput, factor: float) -> RideInput:
    """The same bike with its final drive times a factor [1]."""
    return replace(ride_input, overall_ratios=tuple(r * factor for r in ride_input.overall_ratios))
