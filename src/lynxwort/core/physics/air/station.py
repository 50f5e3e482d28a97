"""Station pressure from the three kinds of pressure people read."""

import math

from lynxwort.core.physics.air.standard import (
    EXPONENT,
    G_M_PER_S2,
    LAPSE_K_PER_M,
    R_DRY_J_PER_KG_K,
    pressure_altitude,
    standard_pressure,
)


def station_pressure(kind: str, pressure_pa: float, *, height_m: float, temperature_k: float) -> float:
    """Pressure [Pa] at height_m [m] from a reading of one kind.

    kind: "station" (barometer at the place), "altimeter" (airfield setting: altimeter equation, ICAO Doc 7488) or
    "sea_level" (forecast: hypsometric reduction with the actual temperature_k [K] at the place and the standard lapse).
    Raises ValueError for another kind.
    """
    if kind == "station":
        return pressure_pa
    if kind == "altimeter":
        return standard_pressure(height_m + pressure_altitude(pressure_pa))
    if kind == "sea_level":
        mean_k = temperature_k + 0.5 * LAPSE_K_PER_M * height_m
        return pressure_pa * math.exp(-G_M_PER_S2 * height_m / (R_DRY_J_PER_KG_K * mean_k))
    raise ValueError(f"pressure kind {kind!r}")


def hydrostatic_pressure(pressure_pa: float, *, temperature_k: float, rise_m: float) -> float:
    """Pressure [Pa] rise_m [m] above a place with pressure_pa and temperature_k, standard lapse."""
    return pressure_pa * (1.0 - LAPSE_K_PER_M * rise_m / temperature_k) ** EXPONENT
