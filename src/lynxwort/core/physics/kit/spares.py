"""Which spares are worth their grams: expected loss by rates of failure, and the best choice under a weight.

References: Poisson failures; the 0/1 knapsack by dynamic programming, equal to scipy's milp (tests).
"""

from collections.abc import Sequence
from math import exp

import numpy as np

GRAM_KG = 1e-3


def fails(per_hour: float, lasts_s: float, *, times: int = 1) -> float:
    """Chance that a part fails so many times at least [1]: once 1 - exp(-rate t), twice less rate t exp(-rate t)."""
    mean = per_hour * lasts_s / 3600.0
    term, under = exp(-mean), 0.0
    for k in range(times):
        under += term
        term *= mean / (k + 1)
    return 1.0 - under


def best(values: Sequence[float], grams: Sequence[int], capacity: int) -> list[int]:
    """Indices of the choice of the highest value within a weight. grams: whole; what is worth nothing stays out."""
    size = max(capacity, 0)
    worth = np.zeros(size + 1)
    taken = np.zeros((len(values), size + 1), dtype=bool)
    for i, (value, weight) in enumerate(zip(values, grams, strict=True)):
        if value <= 0.0 or weight > size:
            continue
        with_it = np.concatenate([np.full(weight, -np.inf), worth[: size + 1 - weight] + value])
        taken[i] = with_it > worth + 1e-12
        worth = np.where(taken[i], with_it, worth)
    found, left = [], int(worth.argmax())
    for i in reversed(range(len(values))):
        if taken[i, left]:
            found.append(i)
            left -= grams[i]
    return found[::-1]


def by_gram(values: Sequence[float], grams: Sequence[int], capacity: int) -> list[int]:
    """The choice by value for each gram, in turn: never better than the best."""
    found, left = [], capacity
    for i in sorted(range(len(values)), key=lambda i: -values[i] / max(grams[i], 1)):
        if grams[i] <= left and values[i] > 0.0:
            found.append(i)
            left -= grams[i]
    return sorted(found)
