"""What measured sags say about preload and the rider's share: a linear-Gaussian update.

State: offsets of fork preload [m], shock preload [m] and the rider's rear share [1]. Prior spreads and the 3 mm of a tape
reading: assumption and common practice, no source. Reference: [gelman2013] Bayesian Data Analysis, 3rd ed., section 14.8.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
PRIOR_SD = np.array([0.004, 0.003, 0.03])
STEPS = np.array([1e-4, 1e-4, 1e-3])
TAPE_SD_M = 0.003
QUESTION_SD = 4.0
Z90 = 1.6448536269514722


@dataclass(frozen=True, slots=True, kw_only=True)
class SagEvidence:
    """One measured sag. predict: offsets -> sag [m]; friction_m: half band of friction at that end [m]."""

    reading_id: str
    value_m: float
    predict: Callable[[Array], float]
    friction_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Offsets:
    """Posterior mean and covariance of the three offsets; used and questioned: ids of the readings."""

    mean: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]
    used: tuple[str, ...]
    questioned: tuple[str, ...]


def gradient(predict: Callable[[Array], float], at: Array) -> Array:
    """Central differences of a prediction by the three offsets."""
    return np.array([(predict(at + d) - predict(at - d)) / (2.0 * s) for s, d in zip(STEPS, np.diag(STEPS), strict=True)])


def calibrate(evidence: Sequence[SagEvidence]) -> Offsets:
    """Update the offsets by each reading in turn; one more than 4 sd from what the model can explain is questioned, not used."""
    mean, cov = np.zeros(3), np.diag(PRIOR_SD**2)
    used, questioned = [], []
    for item in evidence:
        slope = gradient(item.predict, mean)
        noise = TAPE_SD_M**2 + (0.5 * item.friction_m) ** 2
        spread = slope @ cov @ slope + noise
        miss = item.value_m - item.predict(mean)
        if abs(miss) > QUESTION_SD * np.sqrt(spread):
            questioned.append(item.reading_id)
            continue
        gain = cov @ slope / spread
        mean = mean + gain * miss
        cov = cov - np.outer(gain, slope @ cov)
        used.append(item.reading_id)
    return Offsets(
        mean=tuple(mean.tolist()),
        covariance=tuple(tuple(row) for row in cov.tolist()),
        used=tuple(used),
        questioned=tuple(questioned),
    )


def half_width(predict: Callable[[Array], float], offsets: Offsets, friction_m: float = 0.0) -> float:
    """Half of the central 90 % interval of a prediction under the offsets, friction's band added as a uniform spread."""
    slope = gradient(predict, np.array(offsets.mean))
    variance = float(slope @ np.array(offsets.covariance) @ slope) + friction_m**2 / 3.0
    return Z90 * float(np.sqrt(variance))
