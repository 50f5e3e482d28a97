"""The standard atmosphere's troposphere.

References: ISO 2533 / ICAO Doc 7488; constants from memory, checked in tests against the libraries ambiance and fluids.
"""

from lynxwort.core.errors import require_range

T0_K = 288.15
P0_PA = 101_325.0
RHO0_KG_PER_M3 = 1.225
LAPSE_K_PER_M = 0.0065
G_M_PER_S2 = 9.80665
R_DRY_J_PER_KG_K = 287.05287
EXPONENT = G_M_PER_S2 / (R_DRY_J_PER_KG_K * LAPSE_K_PER_M)


def standard_temperature(height_m: float) -> float:
    """Temperature [K] at geopotential height_m [m]. Validity: -500 to 11 000 m."""
    require_range("height_m", height_m, -500.0, 11_000.0, "m")
    return T0_K - LAPSE_K_PER_M * height_m


def standard_pressure(height_m: float) -> float:
    """Pressure [Pa] at geopotential height_m [m]."""
    return P0_PA * (standard_temperature(height_m) / T0_K) ** EXPONENT


def pressure_altitude(pressure_pa: float) -> float:
    """Height [m] at which the standard atmosphere has pressure_pa [Pa]."""
    require_range("pressure_pa", pressure_pa, 25_000.0, 110_000.0, "Pa")
    return T0_K / LAPSE_K_PER_M * (1.0 - (pressure_pa / P0_PA) ** (1.0 / EXPONENT))


def density_altitude(density_kg_per_m3: float) -> float:
    """Height [m] at which the standard atmosphere has that density [kg/m3]."""
    require_range("density_kg_per_m3", density_kg_per_m3, 0.3, 1.6, "kg/m3")
    return T0_K / LAPSE_K_PER_M * (1.0 - (density_kg_per_m3 / RHO0_KG_PER_M3) ** (1.0 / (EXPONENT - 1.0)))
