"""The engine as it is set: a dynamometer run in place of the drawn curve, and what fittings, head, spark and power
valve do to torque.

References: [heywood2018] ch. 5, efficiency of the constant-volume cycle, 1 - r^(1 - gamma) with gamma 1.3 for the burnt
mixture. What an ignition map, a fitting or a power valve's preload does: as said of it, or assumption.
"""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.bike.engine import Combustion, TorquePoint
from lynxwort.core.model.bike.fittings import FITTING_PLACES
from lynxwort.core.model.fitted import compression_of, fitting_on, ignition_on, swept_of
from lynxwort.core.model.setup.fuelling import FuellingSetup
from lynxwort.core.physics.drive.engine import engine_curve, limiter_rpm

Array = NDArray[np.float64]
GAMMA_BURNT = 1.3
#: where a power valve opens, share of the speed of peak power; how wide; revs later per turn of preload (assumption)
VALVE_AT, VALVE_WIDTH, VALVE_RPM_PER_TURN = 0.72, 0.14, 180.0
POINTS = 56


def cycle_efficiency(ratio: float) -> float:
    """Efficiency of the constant-volume cycle [1] at a compression ratio. [heywood2018] ch. 5."""
    return float(1.0 - ratio ** (1.0 - GAMMA_BURNT))


def torque_scale(engine: Combustion, setup: FuellingSetup, rpm: Array) -> Array:
    """Torque / torque as the engine came [1] at engine speeds: fittings, compression, spark. The power valve moves the
    curve instead.
    """
    scale = np.ones(rpm.shape)
    for place in FITTING_PLACES:
        fitting = fitting_on(engine, setup, place)
        scale *= 1.0 if fitting is None else fitting.power_scale
    ratio = compression_of(engine, setup)
    if ratio is not None and engine.compression_ratio is not None:
        scale *= cycle_efficiency(ratio) / cycle_efficiency(engine.compression_ratio)
    ignition = ignition_on(engine, setup)
    if ignition is not None:
        scale *= np.interp(rpm / engine.peak_power_rpm, [0.5, 1.0], [ignition.low_scale, ignition.high_scale])
    return scale


def valve_shift_rpm(engine: Combustion, turns: float, rpm: Array) -> Array:
    """By how much later [rpm] the curve comes about where the power valve opens. Assumption."""
    about = np.exp(-0.5 * ((rpm / engine.peak_power_rpm - VALVE_AT) / VALVE_WIDTH) ** 2)
    return np.asarray(VALVE_RPM_PER_TURN * turns * about)


def engine_as_set(
    engine: Combustion, setup: FuellingSetup, run: tuple[tuple[TorquePoint, ...], FuellingSetup] | None = None
) -> Combustion:
    """The engine with its torque as set. run: a dynamometer run at the crank on a standard day, and the setup it was
    taken with.

    The very same engine when nothing bears on its torque.
    """
    base = engine if run is None else engine.model_copy(update={"torque_table": run[0]})
    swept = swept_of(engine, setup)
    if swept != engine.displacement_m3:
        base = base.model_copy(update={"displacement_m3": swept})
    then = None if run is None else run[1]
    rpm = np.linspace(0.14, 0.998, POINTS) * limiter_rpm(engine)  # type: ignore[arg-type]
    scale = torque_scale(engine, setup, rpm) / (1.0 if then is None else torque_scale(engine, then, rpm))
    turns = (setup.power_valve_turns or 0.0) - (0.0 if then is None else then.power_valve_turns or 0.0)
    if np.all(scale == 1.0) and turns == 0.0:
        return base
    plain = engine_curve(base.model_copy(update={"limiter_rpm": min(1.25 * limiter_rpm(engine), 17_000.0)}))  # type: ignore[arg-type]
    torque = scale * plain.torque_at((rpm - valve_shift_rpm(engine, turns, rpm)) * 2.0 * np.pi / 60.0)
    table = tuple(
        TorquePoint(rpm=round(float(a), 3), torque_nm=round(float(b), 6))
        for a, b in zip(rpm, torque, strict=True)
        if a >= 500.0
    )
    return base.model_copy(update={"torque_table": table})
