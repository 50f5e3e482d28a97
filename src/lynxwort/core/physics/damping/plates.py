"""Thin annular plates, clamped at the inner edge and free at the outer.

Kirchhoff plates in Roark's functions (Roark's Formulas for Stress and Strain, annular plates of uniform thickness,
cases 1l and 2l: inner edge fixed, outer edge free). All arguments broadcast; lengths in m, forces in N, pressures in
Pa.
"""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: strip steel of shims [Pa], Poisson's ratio [1] (from memory)
YOUNG_PA = 206e9
POISSON = 0.3


def _f2(x: Array) -> Array:
    return (1.0 - x**2 * (1.0 - 2.0 * np.log(x))) / 4.0


def _f3(x: Array) -> Array:
    return x * ((x**2 + 1.0) * -np.log(x) + x**2 - 1.0) / 4.0


def _f8(x: Array) -> Array:
    return (1.0 + POISSON + (1.0 - POISSON) * x**2) / 2.0


def _f9(x: Array) -> Array:
    return x * (-(1.0 + POISSON) / 2.0 * np.log(x) + (1.0 - POISSON) / 4.0 * (1.0 - x**2))


def _f11(x: Array) -> Array:
    return (1.0 + 4.0 * x**2 - 5.0 * x**4 + 4.0 * x**2 * (2.0 + x**2) * np.log(x)) / 64.0


def _f17(x: Array) -> Array:
    return (1.0 - (1.0 - POISSON) / 4.0 * (1.0 - x**4) - x**2 * (1.0 - (1.0 + POISSON) * np.log(x))) / 4.0


def rigidity(thickness_m: Array | float) -> Array:
    """Bending stiffness D [N m] of a plate."""
    return np.asarray(YOUNG_PA * np.asarray(thickness_m, dtype=float) ** 3 / (12.0 * (1.0 - POISSON**2)))


def ring_deflection(r: Array | float, at: Array | float, outer: Array | float, inner_m: float) -> Array:
    """D x deflection [m3] at radius r per newton in all on the ring at radius `at`."""
    r, at, outer = (np.asarray(v, dtype=float) for v in (r, at, outer))
    line = 1.0 / (2.0 * np.pi * at)
    shear = line * at / inner_m
    moment = line * outer / _f8(inner_m / outer) * (at / inner_m * _f9(inner_m / outer) - _f9(at / outer))
    beyond = np.where(r > at, line * r**3 * _f3(np.minimum(at / r, 1.0)), 0.0)
    return np.asarray(moment * r**2 * _f2(inner_m / r) - shear * r**3 * _f3(inner_m / r) + beyond)


def ring_moment(r: Array | float, at: Array | float, outer: Array | float, inner_m: float) -> Array:
    """Radial bending moment [N m/m] at radius r per newton in all on the ring at radius `at`."""
    r, at, outer = (np.asarray(v, dtype=float) for v in (r, at, outer))
    line = 1.0 / (2.0 * np.pi * at)
    shear = line * at / inner_m
    moment = line * outer / _f8(inner_m / outer) * (at / inner_m * _f9(inner_m / outer) - _f9(at / outer))
    beyond = np.where(r > at, line * r * _f9(np.minimum(at / r, 1.0)), 0.0)
    return np.asarray(moment * _f8(inner_m / r) - shear * r * _f9(inner_m / r) + beyond)


def _pressure_ends(start: Array, outer: Array, inner_m: float) -> tuple[Array, Array]:
    """Moment and shear at the clamp per pascal from `start` to the rim."""
    x, s = inner_m / outer, np.minimum(start / outer, 1.0)
    moment = outer**2 / _f8(x) * (_f9(x) * (outer**2 - start**2) / (2.0 * outer * inner_m) - _f17(s))
    return moment, (outer**2 - start**2) / (2.0 * inner_m)


def _from_start_deflection(r: Array, start: Array, outer: Array, inner_m: float) -> Array:
    moment, shear = _pressure_ends(start, outer, inner_m)
    beyond = np.where(r > start, r**4 * _f11(np.minimum(start / r, 1.0)), 0.0)
    return moment * r**2 * _f2(inner_m / r) - shear * r**3 * _f3(inner_m / r) + beyond


def _from_start_moment(r: Array, start: Array, outer: Array, inner_m: float) -> Array:
    moment, shear = _pressure_ends(start, outer, inner_m)
    beyond = np.where(r > start, r**2 * _f17(np.minimum(start / r, 1.0)), 0.0)
    return moment * _f8(inner_m / r) - shear * r * _f9(inner_m / r) + beyond


def band_deflection(r: Array | float, outer: Array | float, inner_m: float, band: tuple[float, float]) -> Array:
    """D x deflection [m5] at radius r per pascal over the band of radii; the band may end at the rim."""
    r, outer = np.asarray(r, dtype=float), np.asarray(outer, dtype=float)
    first, last = (np.minimum(np.maximum(b, inner_m), outer) for b in band)
    return np.asarray(
        _from_start_deflection(r, first, outer, inner_m) - _from_start_deflection(r, last, outer, inner_m)
    )


def band_moment(r: Array | float, outer: Array | float, inner_m: float, band: tuple[float, float]) -> Array:
    """Radial bending moment [N m/m] at radius r per pascal over the band of radii."""
    r, outer = np.asarray(r, dtype=float), np.asarray(outer, dtype=float)
    first, last = (np.minimum(np.maximum(b, inner_m), outer) for b in band)
    return np.asarray(_from_start_moment(r, first, outer, inner_m) - _from_start_moment(r, last, outer, inner_m))
