"""How far the throttle is open for a torque. Power share is not slide lift: a tight course lives below one eighth.

The throttle is an orifice between the air and the engine's inlet: flow goes with area and the compressible flow
function [heywood2018] App. C; a flat slide opens a segment of its round bore, a butterfly 1 - cos of its angle. At full
throttle and the speed of peak power the inlet has 0.95 of the outside pressure, at other speeds the loss goes with
speed squared (assumption).
"""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.bike.engine import Combustion
from lynxwort.core.physics.drive.engine import engine_curve, friction_torque

Array = NDArray[np.float64]
GAMMA = 1.4
FULL_THROTTLE_LOSS = 0.05
#: ends of the bands of lift that riders and jets speak of
BANDS = (0.0, 0.125, 0.25, 0.5, 0.75, 1.0)
_LIFT = np.linspace(0.0, 1.0, 1001)


def flow_function(pressure_ratio: Array) -> Array:
    """Flow per area at an inlet / outside pressure ratio against nothing, up to a constant [1]; choked below 0.528.
    [heywood2018] App. C.
    """
    critical = (2.0 / (GAMMA + 1.0)) ** (GAMMA / (GAMMA - 1.0))
    ratio = np.clip(pressure_ratio, critical, 1.0)
    return np.sqrt(2.0 * GAMMA / (GAMMA - 1.0) * (ratio ** (2.0 / GAMMA) - ratio ** ((GAMMA + 1.0) / GAMMA)))


def slide_area(lift: Array) -> Array:
    """Open share of a round bore under a flat slide lifted by this share of the bore [1]: a circle's segment."""
    angle = 2.0 * np.arccos(np.clip(1.0 - 2.0 * np.asarray(lift), -1.0, 1.0))
    return np.asarray((angle - np.sin(angle)) / (2.0 * np.pi))


def butterfly_area(opening: Array) -> Array:
    """Open share of a bore behind a butterfly turned by this share of a right angle [1]."""
    return np.asarray(1.0 - np.cos(0.5 * np.pi * np.asarray(opening)))


def throttle_lift(engine: Combustion, torque_nm: Array, crank_rad_per_s: Array, full_torque_nm: Array) -> Array:
    """Share of full opening [1] at a torque [Nm], engine speed [rad/s] and the torque that full throttle would give
    there [Nm]; closed on the overrun.
    """
    curve = engine_curve(engine)  # type: ignore[arg-type]
    drag = friction_torque(engine, crank_rad_per_s)
    charge = np.clip((torque_nm + drag) / np.maximum(full_torque_nm + drag, 1e-9), 0.0, 1.0)
    speed = np.clip(crank_rad_per_s, curve.idle_rad_per_s, None) / (engine.peak_power_rpm * 2.0 * np.pi / 60.0)
    inlet = charge * (1.0 - FULL_THROTTLE_LOSS * np.minimum(speed, 1.2) ** 2)
    area = (
        charge
        * speed
        * float(flow_function(np.array(1.0 - FULL_THROTTLE_LOSS)))
        / np.maximum(flow_function(inlet), 1e-9)
    )
    shape = butterfly_area if engine.kind.startswith("injected") else slide_area  # type: ignore[attr-defined]
    lift = np.interp(np.clip(area, 0.0, 1.0), shape(_LIFT), _LIFT)
    return np.where(torque_nm < 0.0, 0.0, np.where(torque_nm >= 0.97 * full_torque_nm, 1.0, lift))
