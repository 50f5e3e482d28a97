"""Flow through ports and bleeds: Q = Cd A sqrt(2 dP / rho) (Bernoulli with a discharge coefficient), and the area that
a needle opens by clicks.
"""

from dataclasses import dataclass
from math import cos, pi, sin

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: discharge coefficient of ports, bleeds and the gap under the shims [1] (from memory; constant)
DISCHARGE = 0.7
#: light damper oil, warm [kg/m3] (from memory)
OIL_KG_PER_M3 = 850.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Needle:
    """A tapered needle in its seat. bore_m: of the seat; half_angle_rad: of the taper; m_per_click: how far a click
    draws it out; fixed_m2: bleed that stays open with it shut.
    """

    bore_m: float
    half_angle_rad: float
    m_per_click: float
    fixed_m2: float

    def area_m2(self, clicks_out: float) -> float:
        """Open area [m2] at so many clicks out from fully in."""
        drawn, angle = clicks_out * self.m_per_click, self.half_angle_rad
        ring = pi * drawn * sin(angle) * (self.bore_m - drawn * sin(angle) * cos(angle))
        full = pi * self.bore_m**2 / 4.0
        widest = self.bore_m / (2.0 * sin(angle) * cos(angle))
        return self.fixed_m2 + (full if drawn >= widest else min(ring, full))


def flow(area_m2: Array | float, pressure_pa: Array | float) -> Array:
    """Flow [m3/s] through an area [m2] under a pressure [Pa]."""
    return np.asarray(DISCHARGE * area_m2 * np.sqrt(2.0 * np.asarray(pressure_pa) / OIL_KG_PER_M3))


def pressure_over(area_m2: float, flow_m3_per_s: Array | float) -> Array:
    """Pressure [Pa] that drives a flow [m3/s] through an area [m2]."""
    return np.asarray(OIL_KG_PER_M3 / 2.0 * (np.asarray(flow_m3_per_s) / (DISCHARGE * area_m2)) ** 2)
