"""Whittaker smoothing on an even grid.

Reference: [eilers2003] P. H. C. Eilers, A perfect smoother, Anal. Chem. 75 (2003) 3631. The penalty that halves a wave
of length W at spacing h with differences of order d: lambda = (2 sin(pi h / W))^(-2 d).
"""

from math import comb

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import solveh_banded

Array = NDArray[np.float64]


def penalty_for(wavelength_m: float, spacing_m: float, order: int) -> float:
    """Penalty [1] whose gain is one half at wavelength_m [m]."""
    return float((2.0 * np.sin(np.pi * min(spacing_m / wavelength_m, 0.5))) ** (-2 * order))


def whittaker(values: Array, *, wavelength_m: float, spacing_m: float, order: int) -> Array:
    """Smooth values on an even grid of spacing_m [m]; straight ends stay straight.

    values: shape (n,) or (n, k). Polynomials of degree order - 1 pass unchanged.
    """
    n = values.shape[0]
    if n <= order + 1:
        return values.copy()
    stencil = np.array([(-1.0) ** (order - j) * comb(order, j) for j in range(order + 1)])
    bands = np.zeros((order + 1, n))
    for lag in range(order + 1):
        for j in range(order + 1 - lag):
            # contribution of every difference row i to D'D at columns (i + j, i + j + lag)
            bands[lag, j : n - order + j] += stencil[j] * stencil[j + lag]
    bands *= penalty_for(wavelength_m, spacing_m, order)
    bands[0] += 1.0
    return np.asarray(solveh_banded(bands, values, lower=True, overwrite_ab=True, check_finite=False))
