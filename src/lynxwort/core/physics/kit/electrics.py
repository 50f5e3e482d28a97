"""Current at 12 V: what a generator gives, what copper loses, which fuse, how far a lamp sees.

References: a lossless alternator into a fixed voltage (phasors); [iec60028] copper 1/58 ohm mm2/m at 20 °C; [iso8820]
ISO 8820-3 fuse ratings, from memory; [astmb258] wire gauges, from memory; filament lamps as V^3.4, from memory.
Constants: HANDBOOK 9, 4, assumption unless said.
"""

from dataclasses import dataclass
from math import pi, sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.bike.electrics import FUSES_A
from lynxwort.core.physics.kit import kernel

Array = NDArray[np.float64]
#: resting voltage [V] and resistance [ohm] by kind; the resistance doubles at -10 °C
BATTERIES = {"lead": (12.8, 0.030), "lithium": (13.2, 0.020)}
#: share of what is charged that stays; what a start takes [J] and how much current [A]; least volts under it
CHARGES, START_J, START_A, START_V = 0.9, 1440.0, 60.0, 9.6
COPPER_OHM_M, COPPER_PER_K = 1.7241e-8, 0.00393
#: current over which a fuse is chosen [1]; most fuse [A] by copper [m2] (common practice, no source)
FUSE_OVER = 1.3
WIRE_FUSE = ((0.5e-6, 7.5), (0.75e-6, 10.0), (1.0e-6, 15.0), (1.5e-6, 20.0), (2.5e-6, 30.0))
#: light on a dark obstacle [lx], time to see and act [s], braking at most [g]
SEEN_LUX, REACT_S, SLOWS_G = 3.0, 1.5, 0.35
NOMINAL_V = 12.0
#: fastest [m/s] at which a lamp's reach is looked for
FASTEST_M_PER_S = 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Generator:
    """most_w: what it comes to at very high revs; cut_in_rpm: from where it gives anything."""

    most_w: float
    cut_in_rpm: float

    def power(self, rpm: Array | float) -> Array:
        """Power [W]: P sqrt(1 - (n_c / n)^2), none under the cut-in."""
        n = np.maximum(np.asarray(rpm, dtype=float), 1.0)
        return np.asarray(self.most_w * np.sqrt(np.clip(1.0 - (self.cut_in_rpm / n) ** 2, 0.0, None)))

    def with_turns(self, turns: float) -> "Generator":
        """The same wound with other turns [1 = as now]: more at idle, less on top."""
        return Generator(most_w=self.most_w / turns, cut_in_rpm=self.cut_in_rpm / turns)


def generator(low_rpm: float, low_w: float, high_rpm: float, high_w: float) -> Generator | None:
    """The generator through two points; None when no such generator passes through them (more at the lower revs)."""
    if not 0.0 <= low_w < high_w or low_rpm >= high_rpm:
        return None
    ratio = (low_w / high_w) ** 2
    squared = (1.0 - ratio) / (1.0 / low_rpm**2 - ratio / high_rpm**2)
    cut_in = sqrt(squared)
    return Generator(most_w=high_w / sqrt(1.0 - (cut_in / high_rpm) ** 2), cut_in_rpm=cut_in)


def battery_along(time_s: Array, net_w: Array, *, holds_j: float, start_j: float) -> Array:
    """What is in the battery [J] at the end of each step, floor and ceiling kept. net_w: left over [W]."""
    out = np.empty(time_s.size)
    kernel.battery(np.ascontiguousarray(time_s), np.ascontiguousarray(net_w), holds_j, CHARGES, start_j, out)
    return out


def resting(kind: str, temperature_k: float) -> tuple[float, float]:
    """Voltage [V] and resistance [ohm] of a battery: the resistance is twice as much at -10 °C as at 20 °C."""
    volts, ohm = BATTERIES[kind]
    return volts, ohm * float(2.0 ** np.clip((293.15 - temperature_k) / 30.0, 0.0, 2.0))


def drop(current_a: float, *, length_m: float, copper_m2: float, temperature_k: float) -> float:
    """Voltage [V] lost in a wire there and back. Reference: [iec60028]."""
    ohm_m = COPPER_OHM_M * (1.0 + COPPER_PER_K * (temperature_k - 293.15))
    return 2.0 * length_m * current_a * ohm_m / copper_m2


def gauge_area(gauge_number: float) -> float:
    """Copper [m2] of an American wire gauge. Reference: [astmb258]."""
    return pi / 4.0 * (0.127e-3 * 92.0 ** ((36.0 - gauge_number) / 39.0)) ** 2


def fuse_for(current_a: float) -> float | None:
    """The fuse for a load [A]: the next that is sold at or above 1.3 of it; None beyond them. Reference: [iso8820]."""
    return next((f for f in FUSES_A if f >= FUSE_OVER * current_a - 1e-9), None)


def most_fuse(copper_m2: float) -> float:
    """The most that may protect a wire [A]."""
    return max((fuse for copper, fuse in WIRE_FUSE if copper <= copper_m2 * (1.0 + 1e-6)), default=5.0)


def flux(volts: float, told_v: float) -> float:
    """Light of a filament lamp against that at the voltage it is told for [1]."""
    return (volts / told_v) ** 3.4


def reach(lamp_cd: float, seen_lx: float = SEEN_LUX) -> float:
    """How far a lamp shows a dark obstacle [m]."""
    return sqrt(lamp_cd / seen_lx)


def speed_by_light(reach_m: float, slows_m_per_s2: Array | float, react_s: float = REACT_S) -> Array:
    """Fastest [m/s] from which one stops within what one sees: d = v t + v^2 / 2a."""
    a = np.asarray(slows_m_per_s2, dtype=float)
    return np.asarray(a * (np.sqrt(react_s**2 + 2.0 * reach_m / a) - react_s))
