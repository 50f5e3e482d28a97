"""A trial before anyone rides: what it can show at all, how many pairs it takes, in which order.

Shares are of the lap time [1]. Pairs are one run of each setting, ridden next to each other.
"""

from math import ceil, sqrt

import numpy as np
from scipy.optimize import brentq
from scipy.stats import nct, t

#: share of trials without any effect that may say otherwise, two-sided; how often a real one is to be seen. Assumption
ALPHA, POWER = 0.10, 0.80
#: more pairs than this nobody rides in a day
MOST_PAIRS = 40
#: pairs that prove "even" within half a width E take about this times (sd / E)^2. By simulation
EVEN_FACTOR = 17.0
#: orders that can be asked for: blocks of first, second, second, first; pairs by coin; once there and back
ORDERS = ("blocks", "pairs", "there_and_back")


def power_of(shift: float, df: float, alpha: float = ALPHA) -> float:
    """Chance [1] that a two-sided t test with df degrees of freedom sees a shift [in standard errors].

    Validity: normal noise. Reference: noncentral t; Cohen, Statistical Power Analysis (1988).
    """
    far = float(t.ppf(1.0 - 0.5 * alpha, df))
    return float(nct.sf(far, df, shift) + nct.cdf(-far, df, shift))


def seen_at(df: float, alpha: float = ALPHA, power: float = POWER) -> float:
    """How many standard errors an effect must be to be seen that often, with df degrees of freedom."""
    most = 2.0
    while power_of(most, df, alpha) < power:
        most *= 1.5
    return float(brentq(lambda shift: power_of(shift, df, alpha) - power, 1e-6, most, xtol=1e-9))


def smallest_seen(pairs: int, *, alpha: float = ALPHA, power: float = POWER) -> float:
    """The smallest difference that so many pairs see [in sd of a pair's difference]; infinite for one pair."""
    return seen_at(pairs - 1, alpha, power) / sqrt(pairs) if pairs > 1 else float("inf")


def pairs_needed(
    lap_sd: float, difference_share: float, *, alpha: float = ALPHA, power: float = POWER, most: int = MOST_PAIRS
) -> int | None:
    """How many pairs see a difference of that share of a lap, its sd a share too; None when it is more than `most`."""
    size = abs(difference_share) / (sqrt(2.0) * lap_sd)
    return next((n for n in range(2, most + 1) if power_of(size * sqrt(n), n - 1, alpha) >= power), None)


def pairs_for_even(lap_sd: float, even_share: float) -> int:
    """About how many pairs prove that two settings lie within even_share of each other. Reference: by simulation."""
    return ceil(EVEN_FACTOR * (lap_sd / even_share) ** 2)


def order_of(kind: str, pairs: int, seed: int) -> str:
    """The runs in order as letters, "A" the setting that stands, "B" the other; which comes first is thrown by coin.

    Blocks cancel what drifts evenly (a drying track, a tiring rider); pairs by coin need more changes; there and back
    is one run between two of what stands.
    """
    coin = np.random.default_rng(seed)
    if kind == "there_and_back":
        return "ABA"
    if kind == "pairs":
        return "".join(("AB", "BA")[int(coin.integers(2))] for _ in range(pairs))
    first, second = ("AB", "BA")[:: 1 if coin.integers(2) else -1]
    return "".join((first, second)[k % 2] for k in range(pairs))


def changes_in(order: str) -> int:
    """How often the bike is changed while riding an order, starting as it stands ("A")."""
    return sum(a != b for a, b in zip("A" + order, order, strict=False))


def time_needed(order: str, *, lap_s: float, turn_round_s: float, change_s: float) -> float:
    """How long the runs of an order take [s]: each a lap with the ride to its start, and the changes."""
    return len(order) * (lap_s + turn_round_s) + changes_in(order) * change_s


def pairs_of(order: str) -> list[tuple[int, int]]:
    """Pairs of neighbours (run of A, run of B), counted from 0: each run stands in one pair; of there and back both
    stand with the one between.
    """
    if order == "ABA":
        return [(0, 1), (2, 1)]
    return [(k, k + 1) if order[k] == "A" else (k + 1, k) for k in range(0, len(order) - 1, 2)]
