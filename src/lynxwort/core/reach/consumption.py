"""The bike's own factor on computed fuel, learned from fill-ups, blunder-proof (core.evidence). Prior and spreads: assumption."""

from collections.abc import Iterable
from dataclasses import dataclass
from math import log

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.evidence import LogNormal, Measured, learn

Array = NDArray[np.float64]
PRIOR_SD = 0.25
PRIOR_OPEN_MEAN = 1.15
FILL_UP_SD = 0.13
PER_LAP_SD = 0.06


@dataclass(frozen=True, slots=True, kw_only=True)
class FillUp:
    """Fuel put back and what the model computes for the same ride at factor 1 [same unit]."""

    reading_id: str
    measured: float
    computed: float


def pack_energy(volts: float, ampere_hours: float) -> float:
    """Nominal energy of a pack [J]: voltage [V] x charge [Ah]."""
    return volts * ampere_hours * 3600.0


def pack_heat(energy_j: Array, time_s: Array, voltage_v: float, ohm: float) -> Array:
    """Heat in the pack itself [J] per step: current squared x resistance, at the nominal voltage."""
    current = energy_j / np.maximum(time_s, 1e-9) / voltage_v
    return current**2 * ohm * time_s


def prior_factor(full_throttle_share: float) -> LogNormal:
    """Prior: mean 1 in tight ground, rising to 1.15 where 40 % of the time is full throttle (the model is thrifty in the open)."""
    openness = min(max((full_throttle_share - 0.1) / 0.3, 0.0), 1.0)
    return LogNormal(log_mean=openness * log(PRIOR_OPEN_MEAN), log_sd=PRIOR_SD)


def learn_factor(prior: LogNormal, fill_ups: Iterable[FillUp]) -> LogNormal:
    """The factor after the fill-ups."""
    return learn(prior, [Measured(reading_id=f.reading_id, value=f.measured / f.computed, log_sd=FILL_UP_SD) for f in fill_ups])
