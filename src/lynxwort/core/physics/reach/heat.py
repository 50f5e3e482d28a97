"""How warm a motor and a pack get along a ride: one heat each, air about it.

C dT/dt = P - G (T - T_air), exact for each step with its own P and G.
"""

import math

import numpy as np
from numba import float64, njit, void
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: motor: winding that a maker lets it reach [K], air it is rated in [K], heat of copper and iron [J/(kg K)], mass by
#: peak power [kg/W], continuous over peak power, speed of the air at which it is rated [m/s], share of its cooling that
#: stays at a standstill (assumptions; the plate or the maker's sheet says better)
MOTOR_LIMIT_K, RATED_AIR_K, MOTOR_J_PER_KG_K, MOTOR_KG_PER_W = 413.15, 313.15, 450.0, 4.0e-4
CONTINUOUS_SHARE, RATED_M_PER_S, STILL_SHARE = 0.5, 15.0, 0.4
#: pack: warmest that its guard lets it work at [K], how cool it must be to be charged [K], heat of cells with their
#: case [J/(kg K)], what it gives to the air standing [W/(kg K)], and riding, by the root of the speed (assumptions)
PACK_LIMIT_K, PACK_CHARGE_K, PACK_J_PER_KG_K = 333.15, 318.15, 950.0
PACK_STILL_W_PER_KG_K, PACK_BY_SPEED = 0.08, 0.03


@njit(
    void(float64[::1], float64[::1], float64[::1], float64[::1], float64, float64, float64[::1]),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def along(time, power, gives, air, holds, start, out):  # type: ignore[no-untyped-def]
    """Fills out: temperature [K] at the end of each step. power [W]; gives [W/K]; air [K]; holds [J/K]."""
    hot = start
    for i in range(time.size):
        settles = air[i] + power[i] / gives[i]
        hot = settles + (hot - settles) * math.exp(-gives[i] * time[i] / holds)
        out[i] = hot


def warmed(
    time_s: Array, power_w: Array, gives_w_per_k: Array, air_k: Array, *, holds_j_per_k: float, start_k: float
) -> Array:
    """Temperature [K] at the end of each step; all of one shape (n,)."""
    out = np.empty(time_s.size)
    time, power, gives, air = (np.ascontiguousarray(a) for a in (time_s, power_w, gives_w_per_k, air_k))
    along(time, power, gives, air, holds_j_per_k, start_k, out)
    return out


def motor_gives(speed_m_per_s: Array, loss_at_continuous_w: float) -> Array:
    """What a motor gives to the air [W/K] at a speed: its continuous power holds it at its limit in the air that
    it is rated in.
    """
    rated = loss_at_continuous_w / (MOTOR_LIMIT_K - RATED_AIR_K)
    return rated * (STILL_SHARE + (1.0 - STILL_SHARE) * np.sqrt(np.maximum(speed_m_per_s, 0.0) / RATED_M_PER_S))


def pack_gives(speed_m_per_s: Array, pack_kg: float) -> Array:
    """What a pack gives to the air [W/K] at a speed."""
    return pack_kg * (PACK_STILL_W_PER_KG_K + PACK_BY_SPEED * np.sqrt(np.maximum(speed_m_per_s, 0.0)))


def rest_until(hot_k: float, air_k: float, wanted_k: float = PACK_CHARGE_K) -> float:
    """Time [s] that a pack stands until it is cool enough to be charged; inf where the air is too warm for it."""
    if hot_k <= wanted_k:
        return 0.0
    if air_k >= wanted_k:
        return math.inf
    return PACK_J_PER_KG_K / PACK_STILL_W_PER_KG_K * math.log((hot_k - air_k) / (wanted_k - air_k))
