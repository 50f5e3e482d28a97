"""What measured sags and weighings say about preload, true spring rate and the rider's share: a linear-Gaussian update.

State: offsets of fork preload [m], shock preload [m], the rider's rear share [1], and logarithms of true over stamped
rate: of the fork spring and the shock spring that were measured, and of any other in their place, of which nothing is
learned. Prior spreads and the 3 mm of a tape reading: assumption and common practice, no source. Reference:
[gelman2013] Bayesian Data Analysis, 3rd ed., section 14.8.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.defaults import Z90

Array = NDArray[np.float64]
PRIOR_SD = np.array([0.004, 0.003, 0.03, 0.03, 0.03, 0.03, 0.03])
STEPS = np.array([1e-4, 1e-4, 1e-3, 1e-3, 1e-3, 1e-3, 1e-3])
PRELOAD, RATE, OTHER_RATE = {"front": 0, "rear": 1}, {"front": 3, "rear": 4}, {"front": 5, "rear": 6}
SHARE = 2
#: a spring that nobody read the rate of, only the kind of bike is known (assumption)
ASSUMED_RATE_SD = 0.10
TAPE_SD_M = 0.003
#: two scales at half a kilogram each (assumption)
SCALE_SD_KG = 0.7
QUESTION_SD = 4.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """One measured quantity. predict: offsets -> quantity; of: the offsets it rests on; sd: of its measuring, in its
    unit.
    """

    reading_id: str
    value: float
    predict: Callable[[Array], float]
    of: tuple[int, ...]
    sd: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Offsets:
    """Posterior mean and covariance of the offsets; used and questioned: ids of the readings."""

    mean: tuple[float, ...]
    covariance: tuple[tuple[float, ...], ...]
    used: tuple[str, ...]
    questioned: tuple[str, ...]


def gradient(predict: Callable[[Array], float], at: Array, of: Sequence[int]) -> Array:
    """Central differences of a prediction by the offsets it rests on; 0 by the others."""
    made = np.zeros(at.size)
    for i in of:
        d = np.zeros(at.size)
        d[i] = STEPS[i]
        made[i] = (predict(at + d) - predict(at - d)) / (2.0 * STEPS[i])
    return made


def calibrate(evidence: Sequence[Evidence], assumed: Sequence[int] = ()) -> Offsets:
    """Update the offsets by each reading in turn; one more than 4 sd from what the model can explain is questioned, not
    used. assumed: which offsets are of springs whose rate nobody read.
    """
    sds = PRIOR_SD.copy()
    sds[list(assumed)] = ASSUMED_RATE_SD
    mean, cov = np.zeros(PRIOR_SD.size), np.diag(sds**2)
    used, questioned = [], []
    for item in evidence:
        slope = gradient(item.predict, mean, item.of)
        spread = slope @ cov @ slope + item.sd**2
        miss = item.value - item.predict(mean)
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


def half_width(
    predict: Callable[[Array], float],
    offsets: Offsets,
    of: Sequence[int],
    friction_m: float = 0.0,
    assumed: Sequence[int] = (),
) -> float:
    """Half of the central 90 % interval of a prediction under the offsets, friction's band added as a uniform
    spread. assumed: which offsets are of springs whose rate nobody read, and nothing was learned of.
    """
    covariance = np.array(offsets.covariance)
    # all known: nothing to ask the model for
    slope = gradient(predict, np.array(offsets.mean), of if covariance.any() or assumed else ())
    covariance[list(assumed), list(assumed)] = ASSUMED_RATE_SD**2
    variance = float(slope @ covariance @ slope) + friction_m**2 / 3.0
    return Z90 * float(np.sqrt(variance))
