"""Torque and fuel of the engine. Shapes and constants: core.model.defaults, assumptions until a dyno run."""

from dataclasses import dataclass
from functools import lru_cache
from math import pi

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator

from lynxwort.core.model.bike.electric import Electric
from lynxwort.core.model.bike.engine import Combustion, Engine, TwoStroke
from lynxwort.core.model.defaults import (
    CONTROLLER_EFFICIENCY,
    ELECTRIC_LOSS_PER_TORQUE2,
    ELECTRIC_LOSS_W,
    ELECTRIC_LOSS_W_S,
    ENGAGEMENT_OVER_PEAK,
    ENGINE,
    FUEL_LHV_J_PER_KG,
    SHORT_CIRCUIT_AT_NO_LOAD,
    SHORT_CIRCUIT_LEAST,
    SHORT_CIRCUIT_MOST,
    SHORT_CIRCUIT_PER_REVS2,
    TORQUE_SHAPE,
)

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

    def torque_at(self, crank_rad_per_s: Array | float) -> Array:
        """Full-throttle torque [Nm] at crank speeds [rad/s]; none beyond the grid."""
        return np.asarray(
            np.interp(crank_rad_per_s, np.arange(self.torque_nm.size) * self.step_rad_per_s, self.torque_nm, right=0.0)
        )


def slips_by_itself(engine: Engine) -> bool:
    """Whether the clutch is automatic: it slips in every gear and grips at its engagement speed."""
    return isinstance(engine, Combustion) and engine.clutch == "automatic"


def limiter_rpm(engine: Engine) -> float:
    """Revs the engine will not pass [rpm]: given, or assumed from the speed of peak power."""
    if isinstance(engine, Electric):
        return engine.limiter_rpm
    return engine.limiter_rpm or ENGINE[engine.kind].limiter_over_peak * engine.peak_power_rpm


def _soft(speed: Array, limiter: float) -> Array:
    """The limiter's hand over the last 1.5 % [1]."""
    return np.clip((limiter - speed) / (0.015 * limiter), 0.0, 1.0)


@lru_cache(maxsize=64)
def engine_curve(engine: Engine, mode_share: float = 1.0) -> EngineCurve:
    """Torque curve, with a soft limiter over the last 1.5 %: from peak power and its speed, or torque then power of a
    motor.

    mode_share: share of the highest power and torque that a motor's power mode gives [1].
    """
    limiter = limiter_rpm(engine) * 2.0 * pi / 60.0
    speed = np.linspace(0.0, 1.02 * limiter, TORQUE_GRID)
    peak = engine.peak_power_rpm * 2.0 * pi / 60.0
    if isinstance(engine, Electric):
        torque = mode_share * np.minimum(engine.peak_torque_nm, engine.peak_power_w / np.maximum(speed, 1e-9))
        engagement = idle = 0.0
    else:
        shape_x, shape_y = np.array(
            TORQUE_SHAPE["two_stroke" if engine.kind.endswith("two_stroke") else "four_stroke"]
        ).T
        torque = engine.peak_power_w / peak * PchipInterpolator(shape_x, shape_y)(np.minimum(speed / peak, shape_x[-1]))
        if engine.torque_table:
            at, measured = np.array([(p.rpm * 2.0 * pi / 60.0, p.torque_nm) for p in engine.torque_table]).T
            # beyond the table's ends the usual shape goes on, scaled to meet it
            ends = np.interp([at[0], at[-1]], speed, torque)
            torque = np.where(
                speed < at[0], torque * measured[0] / max(ends[0], 1e-9), torque * measured[-1] / max(ends[1], 1e-9)
            )
            inside = (speed >= at[0]) & (speed <= at[-1])
            torque[inside] = PchipInterpolator(at, measured)(speed[inside])
        engagement = (engine.engagement_rpm or ENGAGEMENT_OVER_PEAK * engine.peak_power_rpm) * 2.0 * pi / 60.0
        idle = engine.idle_rpm * 2.0 * pi / 60.0
    return EngineCurve(
        torque_nm=torque * _soft(speed, limiter),
        step_rad_per_s=float(speed[1]),
        limiter_rad_per_s=limiter,
        engagement_rad_per_s=engagement,
        idle_rad_per_s=idle,
    )


def friction_torque(engine: Combustion, speed_rad_per_s: Array) -> Array:
    """Mean friction torque [Nm] at crank speed [rad/s] from the friction mean effective pressure."""
    known = ENGINE[engine.kind]  # type: ignore[attr-defined]
    fmep = known.fmep_pa + known.fmep_pa_per_1000rpm * speed_rad_per_s * 60.0 / (2.0 * pi) / 1000.0
    return np.asarray(fmep * engine.displacement_m3 / (2.0 * pi * known.revolutions_per_cycle))


def unburnt_share(engine: Combustion, load: Array, speed_rad_per_s: Array) -> Array:
    """Share of the fuel that leaves a two-stroke unburnt [1]: short circuit and missed beats; none of a four-stroke.

    load: torque asked over full torque there [1]; the speed that the pipe is tuned to is that of peak power unless it
    is said.
    """
    known = ENGINE[engine.kind]  # type: ignore[attr-defined]
    tuned = ((engine.pipe_rpm if isinstance(engine, TwoStroke) else None) or engine.peak_power_rpm) * 2.0 * pi / 60.0
    off = speed_rad_per_s / tuned - 1.0
    share = (
        SHORT_CIRCUIT_LEAST
        + SHORT_CIRCUIT_PER_REVS2 * off**2
        + SHORT_CIRCUIT_AT_NO_LOAD * (1.0 - np.clip(load, 0.0, 1.0))
    )
    return np.asarray(known.short_circuit * np.clip(share, SHORT_CIRCUIT_LEAST, SHORT_CIRCUIT_MOST))


def fuel_flow(engine: Combustion, torque_nm: Array, speed_rad_per_s: Array, full_torque_nm: Array) -> Array:
    """Fuel [kg/s] on the Willans line at brake torque and crank speed, never below the idle floor. full_torque_nm: what
    full throttle gives there.
    """
    known = ENGINE[engine.kind]  # type: ignore[attr-defined]
    per_watt = known.enrichment / (known.indicated_efficiency * FUEL_LHV_J_PER_KG)
    idle_speed = np.asarray(engine.idle_rpm * 2.0 * pi / 60.0)
    floor = (
        friction_torque(engine, idle_speed)
        * idle_speed
        * per_watt
        / (1.0 - unburnt_share(engine, np.asarray(0.0), idle_speed))
    )
    burnt = (torque_nm + friction_torque(engine, speed_rad_per_s)) * speed_rad_per_s * per_watt
    unburnt = unburnt_share(engine, torque_nm / np.maximum(full_torque_nm, 1e-9), speed_rad_per_s)
    return np.asarray(np.maximum(burnt / (1.0 - unburnt), floor))


def motor_loss(torque_nm: Array, speed_rad_per_s: Array) -> Array:
    """What a motor loses in itself [W] at torque and speed: copper by the torque squared, iron and air by the speed."""
    drive = np.maximum(torque_nm, 0.0)
    return np.asarray(ELECTRIC_LOSS_W + ELECTRIC_LOSS_W_S * speed_rad_per_s + ELECTRIC_LOSS_PER_TORQUE2 * drive**2)


def battery_power(engine: Electric, torque_nm: Array, speed_rad_per_s: Array) -> Array:
    """Power drawn from the pack [W] at motor torque and speed; on the overrun the stated share of the braking
    returns.
    """
    drive = np.maximum(torque_nm, 0.0)
    losses = motor_loss(torque_nm, speed_rad_per_s)
    returned = engine.regeneration_share * np.maximum(-torque_nm, 0.0) * speed_rad_per_s
    return np.asarray((drive * speed_rad_per_s + losses) / CONTROLLER_EFFICIENCY - returned)
