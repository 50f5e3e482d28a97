"""The bike's own factor on computed fuel, learned from fill-ups, blunder-proof (core.evidence). Prior and spreads: assumption."""

from collections.abc import Iterable
from dataclasses import dataclass
from math import log, sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.evidence import LogNormal, Measured, learn

Array = NDArray[np.float64]
PACK_RESISTANCE_S = 110.0
PRIOR_SD = 0.25
PRIOR_OPEN_MEAN = 1.15
#: error of one fill-up: of the ride and its reckoning, of its laps, of brimming [m3]; and what another day or course adds (HANDBOOK 5: assumption)
RIDE_SD, PER_LAP_SD, BRIMMED_M3, OTHER_DAY_SD = 0.05, 0.06, 0.0002, 0.10


@dataclass(frozen=True, slots=True, kw_only=True)
class FillUp:
    """Fuel put back and what the model computes for the same ride at factor 1 [same unit]. log_sd: how much the ratio may lie off, of its logarithm."""

    reading_id: str
    measured: float
    computed: float
    log_sd: float


def fill_up_sd(measured: float, laps: float, *, fuel: bool, like: bool) -> float:
    """Standard deviation of the logarithm of what a fill-up (a charge, when not fuel) says of today's consumption [1]. measured [m3 or J];
    like: made in this very race, else another day adds to it.
    """
    brimmed = BRIMMED_M3 / measured if fuel else 0.0
    return sqrt(RIDE_SD**2 + PER_LAP_SD**2 / laps + brimmed**2 + (0.0 if like else OTHER_DAY_SD**2))


def pack_energy(volts: float, ampere_hours: float) -> float:
    """Nominal energy of a pack [J]: voltage [V] x charge [Ah]."""
    return volts * ampere_hours * 3600.0


def pack_ohm(voltage_v: float, energy_j: float) -> float:
    """Inner resistance [ohm] of a pack of a voltage [V] and energy [J]: cells in series add theirs, cells side by side share it.

    A cell of 5 Ah and 3.6 V with 22 milliohm, from memory: 110 s x V^2 / E, about 5 % lost at race pace.
    """
    return PACK_RESISTANCE_S * voltage_v**2 / energy_j


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
    return learn(prior, [Measured(reading_id=f.reading_id, value=f.measured / f.computed, log_sd=f.log_sd) for f in fill_ups])
