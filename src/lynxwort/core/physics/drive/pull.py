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
    curve: EngineCurve, what: RideInput, ratio: float, speed_m_per_s: Array, *, slip: float, power_share: float
) -> Array:
    """Drive force [N] at full throttle; none below engagement speed or beyond the limiter."""
    crank = speed_m_per_s * (1.0 + slip) / what.rolling_radius_m * ratio
    torque = curve.torque_at(crank)
    return np.where(
        crank < curve.engagement_rad_per_s,
        0.0,
        power_share * what.power_scale * torque * ratio * what.efficiency / what.rolling_radius_m,
    )


def force_at(curve: EngineCurve, what: RideInput, ratio: float, crank_rad_per_s: float, *, power_share: float) -> float:
    """Drive force [N] at full throttle at an engine speed [rad/s] that the clutch holds."""
    return (
        power_share
        * what.power_scale
        * float(curve.torque_at(crank_rad_per_s))
        * ratio
        * what.efficiency
        / what.rolling_radius_m
    )


def resistance(what: RideInput, surface: Sequence[float], sine: float, speed_m_per_s: Array) -> Array:
    """Rolling, grade and air [N] on a surface (course.surface.COLUMNS, the first two count) at constant speed,
    straight on, no wind.
    """
    c0, c1 = surface[:2]
    weight = what.mass_kg * GRAVITY_M_PER_S2
    rolling = np.maximum(c0 + c1 * speed_m_per_s, 0.5 * c0) * what.rolling_scale * weight * np.sqrt(1.0 - sine**2)
    return np.asarray(rolling + weight * sine + 0.5 * what.air_density_kg_per_m3 * what.drag_area_m2 * speed_m_per_s**2)


def top_speed(what: RideInput, *, ground: str, power_share: float) -> TopSpeed:
    """Highest speed on the level: the last root of force = resistance over the gears; "revs" when the limiter makes
    it.
    """
    curve = engine_curve(what.engine, what.mode_share)
    slip = GROUND[ground][4]
    best = TopSpeed(speed_m_per_s=0.0, gear=1, rpm=0.0, limit="power")
    for gear, ratio in enumerate(what.overall_ratios, start=1):
        highest = curve.limiter_rad_per_s / ratio * what.rolling_radius_m / (1.0 + slip)

        def excess(v: Array | float, ratio: float = ratio) -> Array:
            speed = np.asarray(v, dtype=float)
            force = wheel_force(curve, what, ratio, speed, slip=slip, power_share=power_share)
            return force - resistance(what, GROUND[ground], 0.0, speed)

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
            crank = root * (1.0 + slip) / what.rolling_radius_m * ratio
            limited = crank > (1.0 - 0.015) * curve.limiter_rad_per_s
            best = TopSpeed(
                speed_m_per_s=root, gear=gear, rpm=crank * 60.0 / (2.0 * np.pi), limit="revs" if limited else "power"
            )
    return best


def crawl_speed(what: RideInput) -> float:
    """Slowest speed [m/s] in first gear with the clutch home: at idle, or where an automatic clutch grips."""
    curve = engine_curve(what.engine, what.mode_share)
    return (
        (curve.engagement_rad_per_s if slips_by_itself(what.engine) else curve.idle_rad_per_s)
        / what.overall_ratios[0]
        * what.rolling_radius_m
    )


def first_gear_scale_needed(what: RideInput, *, surface: Sequence[float], sine: float, power_share: float) -> float:
    """Factor on the overall ratio at which first gear just holds walking pace on this slope [1].

    Closed form: at walking pace the clutch holds the engine at engagement speed, so force goes with the ratio.
    """
    curve = engine_curve(what.engine, what.mode_share)
    have = force_at(curve, what, what.overall_ratios[0], curve.engagement_rad_per_s, power_share=power_share)
    return float(resistance(what, surface, sine, np.asarray(WALKING_SPEED_M_PER_S))) / have
