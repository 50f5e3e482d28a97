"""Foam in a tyre: how hot its core gets over a whole race.

After one lap it looks harmless: it takes half an hour to warm through. References: heat made evenly in a long cylinder,
H. S. Carslaw and J. C. Jaeger, Conduction of Heat in Solids, from memory (finite differences and the eigenvalue agree).
HANDBOOK 9, 1: constants are assumptions.
"""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.defaults import GRAVITY_M_PER_S2
from lynxwort.core.physics.kit.kernel import CONDUCTIVITY_W_PER_M_K, LOSS, RADIUS_M, VOLUME_M3, core_along, steady

#: density [kg/m3], heat [J/(kg K)], first eigenvalue of a cylinder: time to warm through [s]
DENSITY_KG_PER_M3, HEAT_J_PER_KG_K, EIGENVALUE = 180.0, 1600.0, 2.405
TAU_S = RADIUS_M**2 * DENSITY_KG_PER_M3 * HEAT_J_PER_KG_K / (CONDUCTIVITY_W_PER_M_K * EIGENVALUE**2)


def core_rise(power_w: float) -> float:
    """How much hotter than its skin the core of the foam gets [K] in the end with so much heat made in all of it [W]:
    q r^2 / (4 k).
    """
    return power_w * RADIUS_M**2 / (4.0 * CONDUCTIVITY_W_PER_M_K * VOLUME_M3)


def loss_w(load_kg: float, made_for_kg: float, speed_m_per_s: float) -> float:
    """Heat made in a tyre on foam [W]: c g W v (W / W_r)."""
    return LOSS * GRAVITY_M_PER_S2 * load_kg * speed_m_per_s * load_kg / made_for_kg


def settles_at(power_w: float, speed_m_per_s: float, air_k: float) -> float:
    """Where the core settles [K] at a steady speed with so much heat made in the tyre [W]."""
    return float(steady(speed_m_per_s, power_w / speed_m_per_s, air_k))


def core(
    time_s: NDArray[np.float64], speed_m_per_s: NDArray[np.float64], air_k: NDArray[np.float64], *, load_kg: float,
    made_for_kg: float, laps: int,
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:  # fmt: skip
    """Temperature of the core [K] along the first and the last of so many laps. load_kg: on the wheel with the rider;
    made_for_kg: load that the foam was made for.

    One pass: a warmer start is the same lap and what is left of the difference.
    """
    start = float(air_k[0])
    first = core_along(time_s, speed_m_per_s, air_k, loss_w(load_kg, made_for_kg, 1.0), TAU_S, start)
    fades = np.exp(-np.cumsum(time_s) / TAU_S)
    warmer, gained, kept = 0.0, float(first[-1]) - start, float(fades[-1])
    for _lap in range(laps - 1):
        warmer = gained + kept * warmer
    return first, first + warmer * fades
