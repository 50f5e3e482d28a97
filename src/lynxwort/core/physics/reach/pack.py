"""What a pack holds, and what it loses in itself."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
PACK_RESISTANCE_S = 110.0


def pack_energy(volts: float, ampere_hours: float) -> float:
    """Nominal energy of a pack [J]: voltage [V] x charge [Ah]."""
    return volts * ampere_hours * 3600.0


def pack_ohm(voltage_v: float, energy_j: float) -> float:
    """Inner resistance [ohm] of a pack of a voltage [V] and energy [J]: cells in series add theirs, cells side by side
    share it.

    A cell of 5 Ah and 3.6 V with 22 milliohm, from memory: 110 s x V^2 / E, about 5 % lost at race pace.
    """
    return PACK_RESISTANCE_S * voltage_v**2 / energy_j


def pack_heat(energy_j: Array, time_s: Array, voltage_v: float, ohm: float) -> Array:
    """Heat in the pack itself [J] per step: current squared x resistance, at the nominal voltage."""
    current = energy_j / np.maximum(time_s, 1e-9) / voltage_v
    return current**2 * ohm * time_s
