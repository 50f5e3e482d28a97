"""Looking at a trial before it is over: nominal levels that keep the whole to its level, and an interval that holds
whenever one looks.
"""

from collections.abc import Callable, Sequence
from math import e, log, sqrt

import numpy as np
from numpy.polynomial.legendre import leggauss
from numpy.typing import NDArray
from scipy.optimize import brentq
from scipy.stats import norm

from lynxwort.core.physics.trials.design import ALPHA

#: places by which the way of the sum between two looks is integrated
NODES = 160
Array = NDArray[np.float64]
Spending = Callable[[float, float], float]


def cautious(share: float, alpha: float) -> float:
    """How much of alpha may be spent at a share of the runs: little at first (O'Brien and Fleming's kind).

    Reference: Lan, DeMets, Biometrika 70 (1983) 659.
    """
    # each side by itself: half of alpha to either
    return float(4.0 * norm.sf(norm.isf(0.25 * alpha) / sqrt(share)))


def even_handed(share: float, alpha: float) -> float:
    """The same, about alike at every look (Pocock's kind)."""
    return alpha * log(1.0 + (e - 1.0) * share)


def boundaries(shares: Sequence[float], alpha: float = ALPHA, spending: Spending = cautious) -> list[float]:
    """How far out [sd] the sum must lie at each look, two-sided; shares: of the runs ridden by then, rising to 1.

    Accuracy: 1e-6. Reference: Armitage, McPherson, Rowe, J. R. Statist. Soc. A 132 (1969) 235, recursive integration.
    """
    nodes, weights = leggauss(NODES)
    found, spent = list[float](), 0.0
    place, density = np.zeros(1), np.ones(1)
    before = 0.0
    for share in shares:
        wanted, step = spending(share, alpha) - spent, sqrt(share - before)
        z = float(brentq(_beyond, 0.1, 12.0, args=(sqrt(share), place, density, step, wanted), xtol=1e-10))
        edge = z * sqrt(share)
        next_place = nodes * edge
        arrives = norm.pdf((next_place[:, None] - place[None, :]) / step) / step @ density
        place, density = next_place, arrives * weights * edge
        spent, before = spent + wanted, share
        found.append(z)
    return found


def _beyond(z: float, root: float, place: Array, density: Array, step: float, wanted: float) -> float:
    """By how much more than wanted the sum goes beyond z on its way from the last look."""
    edge = z * root
    return float(density @ (norm.sf((edge - place) / step) + norm.cdf((-edge - place) / step))) - wanted


def nominal_levels(looks: Sequence[int], alpha: float = ALPHA) -> list[float]:
    """Two-sided p that each look must go below, looks in pairs ridden, the last all of them."""
    return [float(2.0 * norm.sf(z)) for z in boundaries([n / looks[-1] for n in looks], alpha)]


def always_valid(n: int, sd: float, tau: float, alpha: float = ALPHA) -> float:
    """Half width of an interval of a mean of n differences that holds at whatever n one looks; tau: the size that is
    looked for, all in one unit. Validity: sd known; with it estimated, by simulation, below the level to n = 10.

    Reference: normal mixture, Robbins, Ann. Math. Statist. 41 (1970) 1397.
    """
    s2, nt2 = sd**2, n * tau**2
    return sqrt(s2 * (s2 + nt2) / (n**2 * tau**2) * log((s2 + nt2) / (s2 * alpha**2)))
