"""Water and glycol: where the mixture boils under a cap, where it freezes, how much heat it holds.

References: [wagner1993] W. Wagner, A. Pruss, J. Phys. Chem. Ref. Data 22 (1993) 783 (saturation of water, IAPWS
SR1-86); [perry2008] Perry's Chemical Engineers' Handbook, 8th ed., table 2-8 (saturation of ethylene glycol);
Raoult's law. Shares are asked by volume and reckoned by moles.
"""

from functools import lru_cache
from math import exp, log

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

_CRITICAL_K, _CRITICAL_PA = 647.096, 22.064e6
_WAGNER = ((1.0, -7.85951783), (1.5, 1.84408259), (3.0, -11.7866497), (3.5, 22.6807411), (4.0, -15.9618719),
           (7.5, 1.80122502))  # fmt: skip
#: kg/m3 at 20 °C and kg/mol: of water, of ethylene glycol
_WATER, _GLYCOL = (998.2, 0.018015), (1113.2, 0.062068)
#: by the share of glycol in volume: heat held at 90 °C [J/(kg K)] (CoolProp), what it takes up at the wall against
#: water [1] (HANDBOOK 9, 3, assumption), where it freezes [K] (common tables, from memory)
SHARES = (0.0, 0.3, 0.5, 0.7)
_HEAT, _FILM, _FREEZES_K = (4205.0, 3869.0, 3573.0, 3240.0), (1.0, 0.88, 0.78, 0.68), (273.15, 257.15, 236.15, 222.15)
#: a real mixture boils up to this much lower than Raoult's law has it [K] (UNIFAC)
LOWER_K = 2.5


def water_saturation(temperature_k: float) -> float:
    """Pressure [Pa] at which water boils. Reference: [wagner1993]."""
    left = 1.0 - temperature_k / _CRITICAL_K
    return _CRITICAL_PA * exp(_CRITICAL_K / temperature_k * sum(c * left**n for n, c in _WAGNER))


def glycol_saturation(temperature_k: float) -> float:
    """Pressure [Pa] at which ethylene glycol boils. Reference: [perry2008]."""
    return exp(84.09 - 10411.0 / temperature_k - 8.1976 * log(temperature_k) + 1.6536e-18 * temperature_k**6)


def mole_share(glycol_share: float) -> float:
    """Share of glycol in moles [1] from that in volume [1]: a molecule of it is heavy, so they are few."""
    glycol = glycol_share * _GLYCOL[0] / _GLYCOL[1]
    water = (1.0 - glycol_share) * _WATER[0] / _WATER[1]
    return glycol / (glycol + water)


def boils_at(pressure_pa: float, glycol_share: float) -> float:
    """Temperature [K] at which a mixture boils under a pressure [Pa, absolute]. glycol_share: by volume [1]."""
    few = mole_share(glycol_share)

    def over(temperature_k: float) -> float:
        return (1.0 - few) * water_saturation(temperature_k) + few * glycol_saturation(temperature_k) - pressure_pa

    return float(brentq(over, 300.0, 520.0, xtol=1e-6))


#: pressures between which the boiling curve is told [Pa], and its places: within 0.01 K
_LOW_PA, _HIGH_PA, _PLACES = 4e4, 4.5e5, 64


@lru_cache(maxsize=32)
def _curve(glycol_share: float) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    at = np.geomspace(_LOW_PA, _HIGH_PA, _PLACES)
    return at, np.array([boils_at(float(p), glycol_share) for p in at])


def boils_along(pressure_pa: NDArray[np.float64], glycol_share: float) -> NDArray[np.float64]:
    """The same at many pressures at once."""
    return np.interp(pressure_pa, *_curve(glycol_share))


def heat_held(glycol_share: float) -> float:
    """Heat that a kilogram holds at 90 °C [J/(kg K)]."""
    return float(np.interp(glycol_share, SHARES, _HEAT))


def film_factor(glycol_share: float) -> float:
    """How well the wall gives its heat to the mixture, against water [1]."""
    return float(np.interp(glycol_share, SHARES, _FILM))


def freezes_at(glycol_share: float) -> float:
    """Where the first ice forms [K]."""
    return float(np.interp(glycol_share, SHARES, _FREEZES_K))


def density(glycol_share: float) -> float:
    """Of the mixture at 20 °C [kg/m3], volumes added."""
    return glycol_share * _GLYCOL[0] + (1.0 - glycol_share) * _WATER[0]
