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
) -> list[NDArray[np.float64]]:  # fmt: skip
    """Temperature of the core [K] along each of the laps, one after the other. load_kg: on the wheel with the rider;
    made_for_kg: load that the foam was made for.
    """
    per_speed, start, found = loss_w(load_kg, made_for_kg, 1.0), float(air_k[0]), list[NDArray[np.float64]]()
    for _lap in range(laps):
        found.append(core_along(time_s, speed_m_per_s, air_k, per_speed, TAU_S, start))
        start = float(found[-1][-1])
    return found
