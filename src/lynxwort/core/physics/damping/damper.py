"""A damper: base and piston valves, rod, reservoir; force against shaft speed in both directions, by clicks."""

from dataclasses import dataclass
from functools import lru_cache
from math import pi, sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.damping.orifices import Needle
from lynxwort.core.physics.damping.valve import Flow, Valve, pressure_at, valve_flow

Array = NDArray[np.float64]
#: fastest shaft speed of the tables [m/s]; 2.5 to 3 are reached (from memory)
TOP_M_PER_S = 6.0
#: speeds of the tables, close together where the force bends: v = TOP (i / n)^2
COUNT = 241
SPEEDS = TOP_M_PER_S * (np.arange(COUNT) / (COUNT - 1)) ** 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Damper:
    """bore_m, rod_m: diameters; reservoir_pa: absolute; base: valve that the rod's oil passes; piston: compression face
    of the piston (a mid valve); rebound, check: the same on the way out; compression, rebound_needle: the clickers;
    footprint: factor from a damper dyno run.
    """

    bore_m: float
    rod_m: float
    reservoir_pa: float
    base: Valve
    piston: Valve
    rebound: Valve
    check: Valve
    compression_needle: Needle
    rebound_needle: Needle
    footprint: float = 1.0

    @property
    def rod_m2(self) -> float:
        return pi * self.rod_m**2 / 4.0

    @property
    def ring_m2(self) -> float:
        return pi * self.bore_m**2 / 4.0 - self.rod_m2


@dataclass(frozen=True, slots=True, kw_only=True)
class Curve:
    """Force [N] on the way in and out at SPEEDS; pressures [Pa] of each valve there; rod_side_pa: absolute, above zero
    or it cavitates.
    """

    compression_n: Array
    rebound_n: Array
    base_pa: Array
    piston_pa: Array
    rebound_pa: Array
    check_pa: Array
    rod_side_pa: Array
    head_pa: Array
    across_base_pa: Array
    across_piston_pa: Array
    across_rebound_pa: Array

    @property
    def cavitates_m_per_s(self) -> float | None:
        """Slowest shaft speed [m/s] at which a chamber's pressure falls to nothing; None within the tables' range."""
        empty = (self.rod_side_pa <= 0.0) | (self.head_pa <= 0.0)
        return float(SPEEDS[int(np.argmax(empty))]) if bool(empty.any()) else None


@lru_cache(maxsize=256)
def curve(
    damper: Damper,
    compression_clicks: float,
    rebound_clicks: float,
    scales: tuple[float, float, float] = (1.0, 1.0, 1.0),
) -> Curve:
    """Force table [N] over SPEEDS [m/s] at these clicks out. scales: of the lift of base, piston and rebound
    stacks (above 1 = softer), to find a target.
    """
    ring, rod = damper.ring_m2, damper.rod_m2
    through = damper.rebound_needle.area_m2(rebound_clicks)
    base = valve_flow(
        damper.base,
        damper.compression_needle.area_m2(compression_clicks),
        footprint=damper.footprint,
        lift_scale=scales[0],
    )
    piston = valve_flow(damper.piston, through, footprint=damper.footprint, lift_scale=scales[1])
    out = valve_flow(damper.rebound, through, footprint=damper.footprint, lift_scale=scales[2])
    check = valve_flow(damper.check, damper.compression_needle.area_m2(compression_clicks), footprint=damper.footprint)
    base_pa, piston_pa = pressure_at(base, SPEEDS * rod), pressure_at(piston, SPEEDS * ring)
    rebound_pa, check_pa = pressure_at(out, SPEEDS * ring), pressure_at(check, SPEEDS * rod)

    def across(table: Flow, whole: Array) -> Array:
        return np.interp(whole, table.pressure_pa, table.across_pa)

    return Curve(
        compression_n=piston_pa * ring + base_pa * rod,
        rebound_n=rebound_pa * ring + check_pa * rod,
        base_pa=base_pa,
        piston_pa=piston_pa,
        rebound_pa=rebound_pa,
        check_pa=check_pa,
        rod_side_pa=damper.reservoir_pa + base_pa - piston_pa,
        head_pa=damper.reservoir_pa - check_pa,
        across_base_pa=across(base, base_pa),
        across_piston_pa=across(piston, piston_pa),
        across_rebound_pa=across(out, rebound_pa),
    )


def force_at(forces: Array, speed_m_per_s: Array | float) -> Array:
    """Force [N] of a table at shaft speeds [m/s] >= 0."""
    return np.asarray(
        np.interp(np.sqrt(np.asarray(speed_m_per_s) / TOP_M_PER_S) * (COUNT - 1), np.arange(COUNT), forces)
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Ratio:
    """zeta [1]; wheel_n_s_per_m; critical_n_s_per_m at the wheel; wheel_rate_n_per_m."""

    zeta: float
    wheel_n_s_per_m: float
    critical_n_s_per_m: float
    wheel_rate_n_per_m: float


def damping_ratio(
    shaft_n_s_per_m: float, spring_n_per_m: float, wheel_per_shaft: float, mass_kg: float, units: int = 1
) -> Ratio:
    """Damping ratio [1] of one end from F/v at the shaft [N s/m]. wheel_per_shaft: wheel travel / shaft travel;
    units: equal legs; mass on that wheel.

    Textbook: zeta = c / (2 sqrt(k m)), both taken to the wheel.
    """
    rate = units * spring_n_per_m / wheel_per_shaft**2
    wheel = units * shaft_n_s_per_m / wheel_per_shaft**2
    critical = 2.0 * sqrt(rate * mass_kg)
    return Ratio(zeta=wheel / critical, wheel_n_s_per_m=wheel, critical_n_s_per_m=critical, wheel_rate_n_per_m=rate)
