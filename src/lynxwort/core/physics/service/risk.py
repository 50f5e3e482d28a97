"""How likely a part fails in so many more hours: Weibull, with what its forerunners lived.

Reference: Weibull's law by NIST/SEMATECH e-Handbook 8.1.6.2; the update of scale^shape by an inverse gamma law for a
known shape is conjugate (derivation checked against the integral over the prior, checks/trials.json).
"""

from collections.abc import Iterable, Sequence
from math import expm1, log, log1p, prod

#: an interval is the life at which so many have failed [1] (assumption: B2), and the weight of that belief [failures]
INTERVAL_SHARE, PRIOR_FAILURES = 0.02, 3.0


def scale_of(life_s: float, shape: float, share: float = INTERVAL_SHARE) -> float:
    """The scale at which a share has failed by a life, in the unit of that."""
    return life_s / (-log(1.0 - share)) ** (1.0 / shape)


def fails_within(run_s: float, more_s: float, shape: float, scale: float) -> float:
    """Chance [1] that what has run so long fails in the time that comes."""
    return -expm1(-((((run_s + more_s) / scale) ** shape) - (run_s / scale) ** shape))


def learned(
    run_s: float,
    more_s: float,
    shape: float,
    scale: float,
    *,
    lives: Sequence[float] = (),
    failures: int = 0,
    prior_n: float = PRIOR_FAILURES,
) -> float:
    """The same when the scale is only believed: scale^shape by an inverse gamma law of so much weight about it; lives:
    of those that were pulled, and the one in use where it shall count; failures: how many of them failed.
    """
    a, b = prior_n + failures, prior_n * scale**shape + sum(t**shape for t in lives)
    return -expm1(-a * log1p(((run_s + more_s) ** shape - run_s**shape) / b))


def any_of(chances: Iterable[float]) -> float:
    """Chance [1] that at least one happens."""
    return 1.0 - prod(1.0 - p for p in chances)
