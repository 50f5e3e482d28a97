"""A stand-in for a dynamometer: it pulls the model's engine through its revs, a little weaker than drawn in a hidden
way, with noise and drift.
"""

from collections.abc import Iterator

import numpy as np

from lynxwort.core.model.bike import Combustion
from lynxwort.core.physics.air.moist import AirState, dry_pressure
from lynxwort.core.physics.air.power import forecast_share
from lynxwort.core.physics.drive.engine import engine_curve, limiter_rpm

NOISE, DRIFT, STEP_RPM = 0.008, 0.006, 100.0
HEAD = "rpm;torque Nm;lambda"


def hidden_factor(seed: int, share: np.ndarray) -> np.ndarray:
    """What this engine really gives / what is drawn [1] over revs as a share of those of peak power."""
    dice = np.random.default_rng(seed)
    level, tilt = dice.uniform(0.92, 0.99), dice.uniform(-0.06, 0.06)
    return np.asarray(level * (1.0 + tilt * (share - 0.8)))


def run(engine: Combustion, air: AirState, *, efficiency: float, seed: int, number: int) -> Iterator[str]:
    """One run at the wheel in some air, line by line, uncorrected. seed: of this engine; number: of the run, which
    brings its own noise.
    """
    dice = np.random.default_rng((seed, number))
    curve, peak = engine_curve(engine), engine.peak_power_rpm  # type: ignore[arg-type]
    rpm = np.arange(0.35 * peak, 0.985 * limiter_rpm(engine), STEP_RPM)  # type: ignore[arg-type]
    share = float(forecast_share(dry_pressure(air), air.temperature_k))
    torque = curve.torque_at(rpm * 2.0 * np.pi / 60.0) * hidden_factor(seed, rpm / peak) * share * efficiency
    torque = torque * (1.0 + dice.normal(0.0, DRIFT)) * (1.0 + dice.normal(0.0, NOISE, rpm.size))
    yield HEAD
    for r, t in zip(rpm, torque, strict=True):
        yield f"{r:.0f};{max(t, 0.0):.2f};{0.88 + dice.normal(0.0, 0.008):.3f}"
