"""Dynamometer runs: to the crank on a standard day, how well they repeat, and what they would be in other air.

References: [j1349], [iso1585], [din70020] through core.physics.air.power; repeatability: sample standard deviation over
runs, its confidence limit by chi squared (any text on statistics).
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import chdtri

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.physics.air.moist import AirState, dry_pressure
from lynxwort.core.physics.air.power import din70020_factor, iso1585_factor, j1349_factor

Array = NDArray[np.float64]
#: the air that a standard speaks of: dry pressure [Pa] and temperature [K]; DIN's is total pressure, taken as
#: dry (from
#: memory)
REFERENCE = {"sae_j1349": (99_000.0, 298.0), "iso_1585": (99_000.0, 298.0), "din_70020": (101_300.0, 293.0)}
FACTORS = {
    "sae_j1349": lambda air: j1349_factor(dry_pressure(air), air.temperature_k),
    "iso_1585": lambda air: iso1585_factor(dry_pressure(air), air.temperature_k),
    "din_70020": lambda air: din70020_factor(air.pressure_pa, air.temperature_k),
}


def to_standard_factor(standard: str, air: AirState | None) -> float:
    """Factor [1] that brings a sheet's torque to 990 hPa dry and 25 °C, SAE J1349. standard: what the sheet has done
    already.

    "none" needs the air of the run; raises ValueError without it.
    """
    if standard == "none":
        if air is None:
            raise ValueError("the air of the run")
        return FACTORS["sae_j1349"](air)
    pressure, temperature = REFERENCE[standard]
    return j1349_factor(pressure, temperature)


def crank_torque(torque_nm: Array, *, place: str, standard: str, air: AirState | None, efficiency: float) -> Array:
    """Torque at the crank on a standard day [Nm]. place: "crank" or "wheel" (divided by the efficiency up to the
    wheel).
    """
    return np.asarray(torque_nm * to_standard_factor(standard, air) / (efficiency if place == "wheel" else 1.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class Band:
    """A band of revs of one run: mean torque [Nm], mean power [W], and where the highest power lies [rpm]."""

    torque_nm: float
    power_w: float
    peak_power_w: float
    peak_rpm: float


#: revs that a rider holds, as shares of those of the highest power (common practice, no source)
HELD = (0.6, 1.05)


def band_of(rpm: Array, torque_nm: Array, low_rpm: float, high_rpm: float) -> Band:
    """Means over a band of revs [rpm], evenly in revs; the highest power is that of the whole run."""
    grid = np.linspace(max(low_rpm, float(rpm[0])), min(high_rpm, float(rpm[-1])), 201)
    torque = np.interp(grid, rpm, torque_nm)
    power = torque_nm * rpm * 2.0 * np.pi / 60.0
    peak = int(np.argmax(power))
    return Band(
        torque_nm=float(torque.mean()),
        power_w=float((torque * grid * 2.0 * np.pi / 60.0).mean()),
        peak_power_w=float(power[peak]),
        peak_rpm=float(rpm[peak]),
    )


def repeatability(runs: Sequence[tuple[Array, Array]]) -> tuple[float, float] | None:
    """Relative standard deviation of mean torque [1] over the revs that all runs share, and its upper 90 % limit; None
    of fewer than two.
    """
    if len(runs) < 2:
        return None
    low, high = max(float(r[0]) for r, _t in runs), min(float(r[-1]) for r, _t in runs)
    if high <= low:
        return None
    grid = np.linspace(low, high, 101)
    means = np.array([float(np.interp(grid, r, t).mean()) for r, t in runs])
    sd = float(means.std(ddof=1) / means.mean())
    freedom = len(runs) - 1
    return sd, sd * float(np.sqrt(freedom / chdtri(freedom, 0.90)))


#: columns a sheet may have: what it is, and words its heading may hold
HEADINGS = {
    "rpm": ("rpm", "revs", "engine speed", "1/min", "u/min"),
    "torque": ("torque", "nm", "n·m", "ft-lb", "lbf", "drehmoment"),
    "power": ("power", "hp", "kw", "ps", "leistung"),
    "lambda": ("lambda", "λ"),
    "afr": ("afr", "air fuel"),
}


def power_of(torque_nm: Array, rpm: Array) -> Array:
    """Power [W] from torque [Nm] and revs."""
    return np.asarray(torque_nm * rpm * 2.0 * np.pi / 60.0)


def from_power(power_w: Array, rpm: Array) -> Array:
    """Torque [Nm] from power [W] and revs."""
    return np.asarray(power_w / (rpm * 2.0 * np.pi / 60.0))


def run_columns(columns: dict[str, Array], *, power_unit_w: float = 1000.0) -> tuple[Array, Array, Array | None]:
    """Revs, torque [Nm] and lambda of a run from a file's columns: torque as it stands, else from power. Raises
    InputRefused.
    """
    if "rpm" not in columns or not {"torque", "power"} & set(columns):
        raise InputRefused(
            Refusal(path="file", code="column_missing", message="rpm" if "rpm" not in columns else "torque")
        )
    turning = columns["rpm"] > 300.0
    rpm = columns["rpm"][turning]
    torque = (
        columns["torque"][turning] if "torque" in columns else from_power(columns["power"][turning] * power_unit_w, rpm)
    )
    seen = columns.get("lambda", columns["afr"] / 14.7 if "afr" in columns else None)
    if rpm.size < 4:
        raise InputRefused(Refusal(path="file", code="run_too_short"))
    return thinned(rpm, torque, None if seen is None else seen[turning])


def thinned(rpm: Array, torque_nm: Array, seen: Array | None, most: int = 120) -> tuple[Array, Array, Array | None]:
    """A run by rising revs [rpm, N m], averaged in even steps when there are more than `most` rows; steps
    nobody saw are left out.

    Raises InputRefused when fewer than four steps are left.
    """
    order = np.argsort(rpm, kind="stable")
    rpm, torque_nm = rpm[order], torque_nm[order]
    seen = None if seen is None else seen[order]
    count = min(most, np.unique(rpm).size)
    edges = np.linspace(float(rpm[0]), float(rpm[-1]) + 1e-9, count + 1)
    at = np.clip(np.searchsorted(edges, rpm, side="right") - 1, 0, count - 1)
    hits = np.bincount(at, minlength=count)
    full = hits > 0

    def mean(values: Array) -> Array:
        return np.bincount(at, weights=values, minlength=count)[full] / hits[full]

    if int(full.sum()) < 4:
        raise InputRefused(Refusal(path="file", code="run_too_short"))
    return mean(rpm), mean(torque_nm), None if seen is None else mean(seen)
