"""Richness of metering rods and maps against a proven setting: even over the throttle, since one knob or trim moves
the whole.

A metering-rod carburettor evens out a share of the air's change by itself, within limits (compensation: assumption;
"no change of rod from 300 to 3000 m": common practice, no source). Injection that senses no air meters fuel per
cycle, so fuel per air goes with the first power of density; what a sensor sees is corrected. Reference:
[heywood2018] J. B. Heywood, Internal Combustion Engine Fundamentals, 2nd ed., ch. 7 (speed-throttle and
speed-density metering), from memory.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.bike.carburettor import MeteringRodCarburettor
from lynxwort.core.model.bike.injection import Injection
from lynxwort.core.physics.air.moist import AirState, dry_density, vapour_pressure
from lynxwort.core.physics.fuelling.jets import premix_petrol_share
from lynxwort.core.physics.fuelling.richness import LIFT_POINTS, NO_SHIFT, RichnessCurve, Three, air_effect

#: how far the compensation itself may lie off [1]; what a sensor or its table may miss [1] (assumption)
COMPENSATION_SPREAD = 0.15
SENSOR_SPREAD = 0.015
#: revs that are ridden, as shares of the speed of peak power (assumption)
RIDDEN_FROM, RIDDEN_TO = 0.25, 1.1
Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class RodSetting:
    """rod: sizes richer than standard; clicks: of the knob, + = richer; premix_ratio: None = no oil."""

    rod: int
    clicks: int
    premix_ratio: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MapSetting:
    """slot: map in use, from 1; trim [1] over the whole map, + = richer; premix_ratio: None = no oil; trims [1] by
    cell, empty = none.
    """

    slot: int
    trim: float
    premix_ratio: float | None
    trims: tuple[float, ...] = ()


def _even(value: float, low: float, high: float) -> RichnessCurve:
    """The same richness over the whole throttle."""
    throttle = np.linspace(0.0, 1.0, LIFT_POINTS)
    return RichnessCurve(
        throttle=throttle,
        value=np.full(LIFT_POINTS, value),
        low=np.full(LIFT_POINTS, low),
        high=np.full(LIFT_POINTS, high),
    )


def compensated(change: float, share: float, limit: float) -> float:
    """What is left of a mixture change [1] when `share` of it is evened out up to `limit` [1]."""
    return change - share * float(np.clip(change, -limit, limit))


def rod_air_effect(carburettor: MeteringRodCarburettor, air: AirState, proven: AirState) -> tuple[float, float, float]:
    """Richness [1] that the air brings against the proven air: value, low, high."""
    full = float(air_effect(air, proven, np.array([1.0]))[0][0])
    ends = [
        compensated(full, float(np.clip(carburettor.compensation + d, 0.0, 1.0)), carburettor.compensated_change)
        for d in (0.0, -COMPENSATION_SPREAD, COMPENSATION_SPREAD)
    ]
    return ends[0], min(ends), max(ends)


def rod_step_effect(carburettor: MeteringRodCarburettor, draft: RodSetting, proven: RodSetting) -> float:
    """Richness [1] that rod, knob and oil bring against the proven ones."""
    rods = (1.0 + carburettor.rod_step) ** (draft.rod - proven.rod)
    clicks = (1.0 + carburettor.knob_click) ** (draft.clicks - proven.clicks)
    return rods * clicks * premix_petrol_share(draft.premix_ratio) / premix_petrol_share(proven.premix_ratio) - 1.0


def rod_curve(
    carburettor: MeteringRodCarburettor,
    draft: RodSetting,
    air: AirState,
    proven: RodSetting,
    proven_air: AirState,
    shift: Three = NO_SHIFT,
) -> RichnessCurve:
    """Richness [1] of a rod and knob in given air, against a setting known to run right. shift: of other fittings and
    fuel.
    """
    step = 1.0 + rod_step_effect(carburettor, draft, proven)
    return _even(
        *(
            (1.0 + a) * step * (1.0 + c) - 1.0
            for a, c in zip(rod_air_effect(carburettor, air, proven_air), shift, strict=True)
        )
    )


def map_air_effect(injection: Injection, air: AirState, proven: AirState) -> tuple[float, float, float]:
    """Richness [1] that the air brings to a map against the proven air: value, low, high.

    throttle_rpm: dry density ratio to the power -1. air_temperature: the unit corrects 1/T, so dry pressure is
    left. pressure_temperature, closed_loop: total pressure and temperature are corrected, so only the damp is left.
    """
    density = dry_density(air) / dry_density(proven)
    pressure = (air.pressure_pa - vapour_pressure(air)) / (proven.pressure_pa - vapour_pressure(proven))
    damp = (1.0 - vapour_pressure(air) / air.pressure_pa) / (1.0 - vapour_pressure(proven) / proven.pressure_pa)
    left = {"throttle_rpm": density, "air_temperature": pressure}.get(injection.sensors or "throttle_rpm", damp)
    value = 1.0 / left - 1.0
    spread = 0.0 if abs(value) < 1e-12 else SENSOR_SPREAD
    return value, value - spread, value + spread


def map_step_effect(injection: Injection, draft: MapSetting, proven: MapSetting) -> float:
    """Richness [1] that map, trim and oil bring against the proven ones."""

    def whole(setting: MapSetting) -> float:
        return (
            (1.0 + injection.map_shifts[setting.slot - 1])
            * (1.0 + setting.trim)
            * premix_petrol_share(setting.premix_ratio)
        )

    return whole(draft) / whole(proven) - 1.0


def trims_over(
    injection: Injection, trims: tuple[float, ...], then: tuple[float, ...], peak_rpm: float, throttle: Array
) -> tuple[Array, Array, Array]:
    """Richness [1] that one grid of trims brings against another over the throttle: mean, least and most over the
    revs that are ridden.
    """
    shape = len(injection.rpm_axis), len(injection.throttle_axis)
    ratio = (1.0 + (np.reshape(trims, shape) if trims else np.zeros(shape))) / (
        1.0 + (np.reshape(then, shape) if then else np.zeros(shape))
    ) - 1.0
    rpm = np.asarray(injection.rpm_axis)
    ridden = ratio[(rpm >= RIDDEN_FROM * peak_rpm) & (rpm <= RIDDEN_TO * peak_rpm)]
    rows = ridden if ridden.size else ratio
    made = [
        np.interp(throttle, injection.throttle_axis, f) for f in (rows.mean(axis=0), rows.min(axis=0), rows.max(axis=0))
    ]
    return made[0], made[1], made[2]


def map_curve(
    injection: Injection,
    draft: MapSetting,
    air: AirState,
    proven: MapSetting,
    proven_air: AirState,
    shift: Three = NO_SHIFT,
    peak_rpm: float = 9000.0,
) -> RichnessCurve:
    """Richness [1] of a map, its trims and the trim over all in given air, against a setting known to run right. shift:
    of other fittings and fuel.
    """
    step = 1.0 + map_step_effect(injection, draft, proven)
    even = [
        (1.0 + a) * step * (1.0 + c) for a, c in zip(map_air_effect(injection, air, proven_air), shift, strict=True)
    ]
    throttle = np.linspace(0.0, 1.0, LIFT_POINTS)
    cells = trims_over(injection, draft.trims, proven.trims, peak_rpm, throttle)
    value, low, high = (e * (1.0 + c) - 1.0 for e, c in zip(even, cells, strict=True))
    return RichnessCurve(throttle=throttle, value=value, low=low, high=high)


def clicks_wanted(carburettor: MeteringRodCarburettor, draft: RodSetting, low_end: float, limit: float) -> float:
    """Knob clicks [number] at which this low end [1] of richness would stand at the limit [1]."""
    return draft.clicks + float(np.log((1.0 + limit) / (1.0 + low_end)) / np.log(1.0 + carburettor.knob_click))


def trim_wanted(draft: MapSetting, low_end: float, limit: float) -> float:
    """Trim over all [1] at which this low end [1] of richness would stand at the limit [1]."""
    return (1.0 + draft.trim) * (1.0 + limit) / (1.0 + low_end) - 1.0
