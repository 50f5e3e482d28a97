"""Heat into the coolant and out of it again: what an engine gives, what radiators and a fan take, how it settles.

References: [heywood2018] J. B. Heywood, Internal Combustion Engine Fundamentals, 2nd ed., ch. 12 (share of the fuel's
heat that goes into the coolant, greater at low load; from memory); [incropera2007] Incropera et al., Fundamentals of
Heat and Mass Transfer, 6th ed., eq. 11.32 (crossflow, both unmixed; from memory, within 2 % of the exact series).
Constants: HANDBOOK 9, 3, assumption unless said.
"""

from dataclasses import dataclass
from math import inf, log

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.kit import kernel

Array = NDArray[np.float64]
#: share of the fuel's heat at full power, and of it at most; how it grows toward no load; fuel's power over brake power
COOLANT_SHARE = {"two_stroke": 0.22, "four_stroke": 0.27}
MOST_SHARE, LOAD_EXPONENT, FULL_EFFICIENCY = 0.42, -0.2, 0.28
#: air through the face against the bike's speed, and at a standstill [m/s]
FACE_SHARE, STILL_M_PER_S = kernel.FACE_SHARE, kernel.STILL_M_PER_S
#: faces of stock radiators [m2] and their depth [m]; with both, air and pump as at 10 m/s and 6000 rpm, the films of
#: air and coolant [W/K]
FACE_M2, DEPTH_M, AIR_FILM_W_PER_K, COOLANT_FILM_W_PER_K = 0.048, 0.022, 420.0, 900.0
#: air for which the film of air is told [kg/m3]
TOLD_AIR_KG_PER_M3 = 1.2
#: cylinders and hoses give to the air [W/K], standing, and by speed^0.8
SKIN_W_PER_K, SKIN_BY_SPEED = kernel.CASES_W_PER_K, kernel.CASES_BY_SPEED
#: metal that warms with the coolant [J/K]: about five kilograms
METAL_J_PER_K = 5080.0
#: between these the thermostat opens [K]
OPENS_K, OPEN_K = kernel.OPENS_K, kernel.OPEN_K


@dataclass(frozen=True, slots=True, kw_only=True)
class Radiator:
    """face_m2: of all radiators, what is open of it; depth_m; air_share: what guards and mud leave of the air [1];
    film_factor: of the coolant against water [1]; holds: heat of a kilogram of coolant [J/(kg K)]; heat_j_per_k: of
    coolant and metal; thermostat: whether there is one; fan_m3_per_s: of the fan that is on.
    """

    face_m2: float
    depth_m: float
    air_share: float
    film_factor: float
    holds: float
    heat_j_per_k: float
    thermostat: bool
    fan_m3_per_s: float


def coolant_heat(fuel_w: Array, *, full_power_w: float, stroke: str) -> Array:
    """Heat that goes into the coolant [W] of fuel burnt [W]: s (P / P_full)^-0.2 P, at most 0.42 P. full_power_w: the
    engine's highest; stroke: "two_stroke" or "four_stroke".
    """
    burnt = np.asarray(fuel_w, dtype=float)
    load = np.maximum(burnt, 1.0) / (full_power_w / FULL_EFFICIENCY)
    return np.asarray(np.minimum(COOLANT_SHARE[stroke] * load**LOAD_EXPONENT, MOST_SHARE) * burnt)


def air_through(density_kg_per_m3: float, speed_m_per_s: float, radiator: Radiator, *, fan: bool) -> float:
    """Air through the radiators [kg/s]: driven by the way or by the fan, the greater of the two, never both."""
    driven = radiator.face_m2 * radiator.air_share * max(FACE_SHARE * speed_m_per_s, STILL_M_PER_S)
    return density_kg_per_m3 * max(driven, radiator.fan_m3_per_s if fan else 0.0)


def effectiveness(transfer_number: float, ratio: float) -> float:
    """Share of the heat that could go over which does [1]. transfer_number: UA over the lesser stream's heat [1];
    ratio: lesser over greater stream [1]. Reference: [incropera2007].
    """
    return float(kernel.effectiveness(transfer_number, ratio))


def conductance(
    radiator: Radiator, *, density_kg_per_m3: float, speed_m_per_s: float, rpm: float, fan: bool = False
) -> float:
    """Heat that leaves for each kelvin over the air [W/K], the thermostat open."""
    return float(
        kernel.conductance(
            air_through(density_kg_per_m3, speed_m_per_s, radiator, fan=fan), speed_m_per_s, rpm, _vector(radiator)
        )
    )


def _vector(radiator: Radiator) -> Array:
    """The radiator as the kernel reads it: order of kernel.RADIATOR."""
    reference = TOLD_AIR_KG_PER_M3 * radiator.face_m2 * FACE_SHARE * 10.0
    size = radiator.face_m2 / FACE_M2 * radiator.depth_m / DEPTH_M
    return np.array(
        [
            AIR_FILM_W_PER_K * size,
            reference,
            COOLANT_FILM_W_PER_K * size * radiator.film_factor,
            radiator.holds,
            radiator.heat_j_per_k,
            1.0 if radiator.thermostat else 0.0,
            radiator.fan_m3_per_s,
            radiator.face_m2 * radiator.air_share,
        ]
    )


def along(
    radiator: Radiator,
    *,
    time_s: Array,
    heat_w: Array,
    speed_m_per_s: Array,
    rpm: Array,
    air_k: Array,
    density_kg_per_m3: Array,
    fan_from_k: float,
    start_k: float,
    rounds: int = 1,
) -> tuple[Array, Array]:
    """Coolant [K] at the end of each step the last time round, and whether the fan ran in it [1]; arrays per step,
    shape (n,).

    fan_from_k: where a fan that is on starts; it stops 7 K lower. What radiators take is read from a table, within
    0.2 % of the law; steps by Pade, within 1e-6 of the exponential. Within 2 % of LSODA (tests).
    """
    out, fan, vector = np.zeros(time_s.size), np.zeros(time_s.size), _vector(radiator)
    most_air = float(density_kg_per_m3.max()) * max(
        radiator.face_m2 * radiator.air_share * max(FACE_SHARE * float(speed_m_per_s.max()), STILL_M_PER_S),
        radiator.fan_m3_per_s,
    )
    ends = np.array([most_air, max(float(rpm.max()), 1.0), max(float(speed_m_per_s.max()), 1.0), fan_from_k])
    takes, skin, now = kernel.exchange_table(ends[0], ends[1], vector), kernel.skin_table(ends[2]), start_k
    for _round in range(rounds):
        now = kernel.coolant(
            time_s, heat_w, speed_m_per_s, rpm, air_k, density_kg_per_m3, vector, ends, takes, skin, now, out, fan
        )
    return out, fan


def settles_at(heat_w: float, conductance_w_per_k: float, air_k: float) -> float:
    """Where it settles [K]: air + Q / G."""
    return air_k + heat_w / conductance_w_per_k


def time_to(
    to_k: float, *, from_k: float, heat_w: float, conductance_w_per_k: float, heat_j_per_k: float, air_k: float
) -> float:
    """Time [s] until it gets there: tau ln((T_end - T_0) / (T_end - T_b)); infinite when it never does."""
    if to_k <= from_k:
        return 0.0
    end = settles_at(heat_w, conductance_w_per_k, air_k)
    return inf if end <= to_k else heat_j_per_k / conductance_w_per_k * log((end - from_k) / (end - to_k))
