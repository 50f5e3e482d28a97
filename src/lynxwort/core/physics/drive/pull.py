"""Pull per gear against resistance: top speed, crawl, what the engine can hold."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from lynxwort.core.model.defaults import GRAVITY_M_PER_S2, GROUND, WALKING_SPEED_M_PER_S
from lynxwort.core.physics.drive.engine import EngineCurve, engine_curve, slips_by_itself
from lynxwort.core.physics.drive.simulation import RideInput

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class TopSpeed:
    """speed_m_per_s [m/s] in `gear` (1 = first) at rpm; limit: "power" or "revs"."""

    speed_m_per_s: float
    gear: int
    rpm: float
    limit: str


def wheel_force(
    curve: EngineCurve, ride_input: RideInput, ratio: float, speed_m_per_s: Array, *, slip: float, power_share: float
) -> Array:
    """Drive force [N] at full throttle; none below engagement speed or beyond the limiter."""
    crank = speed_m_per_s * (1.0 + slip) / ride_input.rolling_radius_m * ratio
    torque = curve.torque_at(crank)
    return np.where(
        crank < curve.engagement_rad_per_s,
        0.0,
        power_share * ride_input.power_scale * torque * ratio * ride_input.efficiency / ride_input.rolling_radius_m,
    )


def force_at(
    curve: EngineCurve, ride_input: RideInput, ratio: float, crank_rad_per_s: float, *, power_share: float
) -> float:
    """Drive force [N] at full throttle at an engine speed [rad/s] that the clutch holds."""
    return (
        power_share
        * ride_input.power_scale
        * float(curve.torque_at(crank_rad_per_s))
        * ratio
        * ride_input.efficiency
        / ride_input.rolling_radius_m
    )


def resistance(
    ride_input: RideInput, surface: Sequence[float] | Array, sine: float | Array, speed_m_per_s: Array
) -> Array:
    """Rolling, grade and air [N] on a surface (course.surface.COLUMNS, the first two count) at constant speed,
    straight on, no wind. Several grounds and slopes at one speed: surface of shape (COLUMNS, n), sine of shape (n,).
    """
    c0, c1 = surface[:2]
    weight = ride_input.mass_kg * GRAVITY_M_PER_S2
    rolling = np.maximum(c0 + c1 * speed_m_per_s, 0.5 * c0) * ride_input.rolling_scale * weight * np.sqrt(1.0 - sine**2)
    return np.asarray(
        rolling + weight * sine + 0.5 * ride_input.air_density_kg_per_m3 * ride_input.drag_area_m2 * speed_m_per_s**2
    )


def top_speed(ride_input: RideInput, *, ground: str, power_share: float) -> TopSpeed:
    """Highest speed [m/s] on the level: the last root of force = resistance over the gears; "revs" when the
    limiter makes it.
    """
    curve = engine_curve(ride_input.engine, ride_input.mode_share)
    slip = GROUND[ground][4]
    best = TopSpeed(speed_m_per_s=0.0, gear=1, rpm=0.0, limit="power")
    for gear, ratio in enumerate(ride_input.overall_ratios, start=1):
        highest = curve.limiter_rad_per_s / ratio * ride_input.rolling_radius_m / (1.0 + slip)

        def excess(v: Array | float, ratio: float = ratio) -> Array:
            speed = np.asarray(v, dtype=float)
            force = wheel_force(curve, ride_input, ratio, speed, slip=slip, power_share=power_share)
            return force - resistance(ride_input, GROUND[ground], 0.0, speed)

        grid = np.linspace(0.05, highest, 400)
        positive = np.flatnonzero(excess(grid) > 0)
        if not positive.size:
            continue
        last = positive[-1]
        root = (
            float(brentq(lambda v, f=excess: float(f(v)), grid[last], grid[last + 1], xtol=1e-12))
            if last + 1 < grid.size
            else highest
        )
        if root > best.speed_m_per_s:
            crank = root * (1.0 + slip) / ride_input.rolling_radius_m * ratio
            limited = crank > (1.0 - 0.015) * curve.limiter_rad_per_s
            best = TopSpeed(
                speed_m_per_s=root, gear=gear, rpm=crank * 60.0 / (2.0 * np.pi), limit="revs" if limited else "power"
            )
    return best


def crawl_speed(ride_input: RideInput) -> float:
    """Slowest speed [m/s] in first gear with the clutch home: at idle, or where an automatic clutch grips."""
    curve = engine_curve(ride_input.engine, ride_input.mode_share)
    return (
        (curve.engagement_rad_per_s if slips_by_itself(ride_input.engine) else curve.idle_rad_per_s)
        / ride_input.overall_ratios[0]
        * ride_input.rolling_radius_m
    )


def first_gear_scale_needed(ride_input: RideInput, *, surface: Array, sine: Array, power_share: Array) -> Array:
    """Factor on the overall ratio at which first gear just holds walking pace on each slope [1], shape (n,). surface:
    rows of ground, shape (n, COLUMNS); sine, power_share: of each slope [1].

    Closed form: at walking pace the clutch holds the engine at engagement speed, so force goes with the ratio.
    """
    curve = engine_curve(ride_input.engine, ride_input.mode_share)
    have = force_at(curve, ride_input, ride_input.overall_ratios[0], curve.engagement_rad_per_s, power_share=1.0)
    return resistance(ride_input, surface.T, sine, np.asarray(WALKING_SPEED_M_PER_S)) / (have * power_share)
