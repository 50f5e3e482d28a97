"""Moist air by CIPM-2007, and its dry, oxygen-bearing part.

References: [picard2008] Picard, Davis, Gläser, Fujii, Metrologia 45 (2008) 149-155, eq. 1 and appendix A
(constants from memory, checked against CoolProp). Magnus: [wmo8] WMO-No. 8, annex 4.B.
"""

from dataclasses import dataclass

import numpy as np

from lynxwort.core.errors import require_range

_R = 8.314472
_MA = 28.96546e-3
_MV = 18.01528e-3
R_DRY_J_PER_KG_K = 287.05


@dataclass(frozen=True, slots=True, kw_only=True)
class AirState:
    """Air at one place. pressure_pa: station pressure [Pa]; temperature_k [K]; relative_humidity, 0 to 1 [1]."""

    pressure_pa: float
    temperature_k: float
    relative_humidity: float

    def __post_init__(self) -> None:
        require_range("pressure_pa", self.pressure_pa, 40_000.0, 112_000.0, "Pa")
        require_range("temperature_k", self.temperature_k, 223.15, 333.15, "K")
        require_range("relative_humidity", self.relative_humidity, 0.0, 1.0, "1")


def saturation_pressure_cipm(temperature_k: float) -> float:
    """Saturation vapour pressure [Pa] over water at temperature_k [K]. Reference: [picard2008] eq. A1.1."""
    t = temperature_k
    return float(np.exp(1.2378847e-5 * t * t - 1.9121316e-2 * t + 33.93711047 - 6.3431645e3 / t))


def saturation_pressure(temperature_k: float) -> float:
    """Saturation vapour pressure [Pa] over water by the Magnus formula. Accuracy: 0.4 %, -40 to 50 °C. Reference:
    [wmo8].
    """
    t = temperature_k - 273.15
    return float(611.2 * np.exp(17.62 * t / (243.12 + t)))


def moist_density(air: AirState) -> float:
    """Density of moist air [kg/m3]. Validity: 600 to 1100 hPa, 15 to 27 °C stated; used -20 to 45 °C. Reference:
    [picard2008] eq. 1.
    """
    p, temp = air.pressure_pa, air.temperature_k
    t = temp - 273.15
    enhancement = 1.00062 + 3.14e-8 * p + 5.6e-7 * t * t
    x = air.relative_humidity * enhancement * saturation_pressure_cipm(temp) / p
    z = (
        1.0
        - p
        / temp
        * (
            1.58123e-6
            - 2.9331e-8 * t
            + 1.1043e-10 * t * t
            + (5.707e-6 - 2.051e-8 * t) * x
            + (1.9898e-4 - 2.376e-6 * t) * x * x
        )
        + (p / temp) ** 2 * (1.83e-11 - 0.765e-8 * x * x)
    )
    return p * _MA / (z * _R * temp) * (1.0 - x * (1.0 - _MV / _MA))


def vapour_pressure(air: AirState) -> float:
    """Partial pressure of water [Pa]."""
    return air.relative_humidity * saturation_pressure(air.temperature_k)


def dry_pressure(air: AirState) -> float:
    """Partial pressure of the dry part [Pa]."""
    return air.pressure_pa - vapour_pressure(air)


def dry_density(air: AirState) -> float:
    """Density of the dry part [kg/m3]: what carries the oxygen. Ideal gas; accuracy 6e-4 against CIPM-2007."""
    return dry_pressure(air) / (R_DRY_J_PER_KG_K * air.temperature_k)
