"""Torque and fuel of the engine. Shapes and constants: core.model.defaults, assumptions until a dyno run."""

from dataclasses import dataclass
from functools import lru_cache
from math import pi

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

from lynxwort.core.model.bike import TwoStrokeJetted
from lynxwort.core.model.defaults import ENGAGEMENT_OVER_PEAK, ENGINE, FUEL_LHV_J_PER_KG, TORQUE_SHAPE

Array = NDArray[np.float64]
TORQUE_GRID = 512


@dataclass(frozen=True, slots=True, kw_only=True)
class EngineCurve:
    """Full-throttle torque on an even grid of speed from 0. torque_nm: shape (TORQUE_GRID,); step_rad_per_s [rad/s]."""

    torque_nm: Array
    step_rad_per_s: float
    limiter_rad_per_s: float
    engagement_rad_per_s: float
    idle_rad_per_s: float


def limiter_rpm(engine: TwoStrokeJetted) -> float:
    """Revs the engine will not pass [rpm]: given, or assumed from the speed of peak power."""
    return engine.limiter_rpm or ENGINE[engine.kind].limiter_over_peak * engine.peak_power_rpm


@lru_cache(maxsize=64)
def engine_curve(engine: TwoStrokeJetted) -> EngineCurve:
    """Torque curve from peak power and its speed, with a soft limiter over the last 1.5 %."""
    limiter = limiter_rpm(engine) * 2.0 * pi / 60.0
    speed = np.linspace(0.0, 1.02 * limiter, TORQUE_GRID)
    peak = engine.peak_power_rpm * 2.0 * pi / 60.0
    shape_x, shape_y = np.array(TORQUE_SHAPE[engine.kind]).T
    shape = PchipInterpolator(shape_x, shape_y)(np.minimum(speed / peak, shape_x[-1]))
    soft = np.clip((limiter - speed) / (0.015 * limiter), 0.0, 1.0)
    return EngineCurve(
        torque_nm=engine.peak_power_w / peak * shape * soft,
        step_rad_per_s=float(speed[1]),
        limiter_rad_per_s=limiter,
        engagement_rad_per_s=(engine.engagement_rpm or ENGAGEMENT_OVER_PEAK * engine.peak_power_rpm) * 2.0 * pi / 60.0,
        idle_rad_per_s=engine.idle_rpm * 2.0 * pi / 60.0,
    )


def friction_torque(engine: TwoStrokeJetted, speed_rad_per_s: Array) -> Array:
    """Mean friction torque [Nm] at crank speed [rad/s] from the friction mean effective pressure."""
    known = ENGINE[engine.kind]
    fmep = known.fmep_pa + known.fmep_pa_per_1000rpm * speed_rad_per_s * 60.0 / (2.0 * pi) / 1000.0
    return np.asarray(fmep * engine.displacement_m3 / (2.0 * pi * known.revolutions_per_cycle))


def fuel_flow(engine: TwoStrokeJetted, torque_nm: Array, speed_rad_per_s: Array) -> Array:
    """Fuel [kg/s] on the Willans line at brake torque and crank speed, never below the idle floor."""
    known = ENGINE[engine.kind]
    per_watt = known.enrichment / (known.indicated_efficiency * FUEL_LHV_J_PER_KG * (1.0 - known.short_circuit))
    idle_speed = np.asarray(engine.idle_rpm * 2.0 * pi / 60.0)
    floor = friction_torque(engine, idle_speed) * idle_speed * per_watt
    return np.asarray(np.maximum((torque_nm + friction_torque(engine, speed_rad_per_s)) * speed_rad_per_s * per_watt, floor))
