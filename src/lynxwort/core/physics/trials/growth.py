"""Whoops that grow as bikes go by."""

from math import exp, log

#: bikes past by which whoops grow by the e-th part, by ground; the deepest as a multiple of the first and as a share
#: of their length; what water and mud do to the number. Assumption
PASSES = {"loam": 250.0, "whoops": 250.0, "sand": 150.0, "gravel": 400.0}
DEEPEST_RATIO, DEEPEST_SHARE, WATERED, MUDDY = 2.0, 0.16, 1.3, 0.6


def deepest(first_m: float, length_m: float) -> float:
    """How deep whoops of a length get [m] that are first_m deep now."""
    return max(min(DEEPEST_RATIO * first_m, DEEPEST_SHARE * length_m), first_m)


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
        return float("inf")
    return scale * log((most_m / first_m - 1.0) / (most_m / wanted - 1.0))
