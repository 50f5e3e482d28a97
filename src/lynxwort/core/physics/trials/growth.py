"""Whoops that grow as bikes go by."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, inf, log

import numpy as np
from scipy.optimize import minimize_scalar

#: bikes past by which whoops grow by the e-th part, by soil, none on rock; the deepest as a multiple of the first and
#: as a share of their length; what water and mud do to the number. Assumption
PASSES: dict[str, float] = {"loam": 250.0, "whoops": 250.0, "sand": 150.0, "gravel": 400.0}
DEEPEST_RATIO, DEEPEST_SHARE, WATERED, MUDDY = 2.0, 0.16, 1.3, 0.6
#: what readings of the tape may make of that number
LEAST_PASSES, MOST_PASSES = 10.0, 20_000.0


def deepest(first_m: float, length_m: float) -> float:
    """How deep whoops of a length get [m] that are first_m deep now."""
    return max(min(DEEPEST_RATIO * first_m, DEEPEST_SHARE * length_m), first_m)


def passes_scale(soil: str, *, watered: bool = False, muddy: bool = False) -> float:
    """Bikes past by which whoops grow by the e-th part; infinite where they do not."""
    return PASSES.get(soil, inf) * (WATERED if watered else 1.0) * (MUDDY if muddy else 1.0)


def depth_after(first_m: float, most_m: float, passes: float, scale: float) -> float:
    """Depth trough to crest [m] after so many bikes; scale: bikes by which it grows by the e-th part.

    Validity: form by the washboard instability (Taberlet, Morris, McElwaine, PRL 99 (2007) 068003, from memory) made
    logistic. Reference: numbers are assumptions.
    """
    if most_m <= first_m:
        return first_m
    return most_m / (1.0 + (most_m / first_m - 1.0) * exp(-passes / scale))


def passes_to(first_m: float, most_m: float, ratio: float, scale: float) -> float:
    """After how many bikes whoops are `ratio` times as deep; infinite when they never are."""
    wanted = ratio * first_m
    if wanted >= most_m:
        return inf
    return scale * log((most_m / first_m - 1.0) / (most_m / wanted - 1.0))


def scale_of_tapes(first_m: float, most_m: float, tapes: Sequence[tuple[float, float]]) -> float:
    """The number of bikes by which readings of the tape, (bikes past, depth [m]), say that whoops grow by the e-th
    part: least squares; infinite where they do not grow.
    """
    if most_m <= first_m or not tapes:
        return inf

    def missed(log_scale: float) -> float:
        scale = exp(log_scale)
        return float(sum((depth_after(first_m, most_m, n, scale) - depth) ** 2 for n, depth in tapes))

    tried = np.linspace(log(LEAST_PASSES), log(MOST_PASSES), 80)
    best = float(tried[int(np.argmin([missed(t) for t in tried]))])
    step = float(tried[1] - tried[0])
    found = minimize_scalar(missed, bounds=(best - step, best + step), method="bounded", options={"xatol": 1e-10})
    return exp(float(found.x))


@dataclass(frozen=True, slots=True, kw_only=True)
class Growth:
    """Whoops as they grow: first_m deep before the first bike, most_m in the end; scale: bikes past by which they grow
    by the e-th part; measured: by the tape.
    """

    first_m: float
    most_m: float
    scale: float
    measured: bool

    def depth_m(self, passes: float) -> float:
        """How deep they are [m] after so many bikes."""
        return depth_after(self.first_m, self.most_m, passes, self.scale)

    def ratio(self, passes: float) -> float:
        """The same as a multiple of the first."""
        return self.depth_m(passes) / self.first_m

    def passes_at(self, ratio: float) -> float:
        """After how many bikes they are so many times as deep; infinite when they never are."""
        return 0.0 if ratio <= 1.0 else passes_to(self.first_m, self.most_m, ratio, self.scale)
