"""What was put back, against what the model computes for the same ride."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.mixture import Mixture
from lynxwort.core.derived.road import Road
from lynxwort.core.derived.use import Burn
from lynxwort.core.learned.consumption import FillUp, fill_up_sd
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import ChargeReading, FillUpReading, Under
from lynxwort.core.physics.air.along import DayAir
from lynxwort.core.physics.reach.finish import Piece, use_between

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Refilled:
    """usable: fill-ups or charges with what is computed for their ride at factor 1; elsewhere: ids of those on another
    course.
    """

    usable: tuple[FillUp, ...]
    elsewhere: tuple[str, ...]


def refilled(inputs: Inputs, road: Road, mixture: Mixture, clock: Clock, day: Day) -> Refilled:
    """All fill-ups of this kind of store that are not struck out, each reckoned as it was ridden."""
    kind = ChargeReading if isinstance(inputs.bike.engine, Electric) else FillUpReading
    found = tuple(r for r in inputs.readings if isinstance(r, kind) and not r.struck_out)
    # the race as it goes now is read for a part of it alone
    parts = clock if any(isinstance(r, FillUpReading) and _is_part(r) for r in found) else None
    key = (found, road, mixture, day, parts)
    return road.cache.get("refilled", key, lambda: _refilled(found, road, mixture, clock, day))


def _is_part(reading: FillUpReading) -> bool:
    return reading.from_m is not None and reading.to_m is not None


def _refilled(
    found: tuple[FillUpReading | ChargeReading, ...], road: Road, mixture: Mixture, clock: Clock, day: Day
) -> Refilled:
    usable, other = list[FillUp](), list[str]()
    for reading in found:
        under = reading.under
        if under.course_key is not None and under.course_key not in road.course_keys:
            other.append(reading.id)
            continue
        index = 0 if under.course_key is None else road.course_keys.index(under.course_key)
        charge = isinstance(reading, ChargeReading)
        measured = reading.energy_j if isinstance(reading, ChargeReading) else reading.fuel_m3
        fuel = 0.0 if isinstance(reading, ChargeReading) else 0.5 * max(under.fuel_aboard_m3, reading.fuel_m3)
        when, like = day.when(under), False
        if isinstance(reading, FillUpReading) and reading.from_m is not None and reading.to_m is not None:
            computed, like = (
                _use_between(reading.from_m, reading.to_m, under, fuel, when, road=road, mixture=mixture, clock=clock),
                True,
            )
            if computed <= 0.0:
                other.append(reading.id)
                continue
        else:
            lap = road.lap(under.setup, under.rider or road.rider, fuel, when)
            burn = Burn.of(mixture, under.setup, when, as_ridden=True)
            computed = float(burn.of_ride(lap.rides[index], lap.around.courses[index].ground).sum()) * reading.laps
        error = fill_up_sd(measured, reading.laps, fuel=not charge, like=like)
        usable.append(FillUp(reading_id=reading.id, measured=measured, computed=computed, log_sd=error))
    return Refilled(usable=tuple(usable), elsewhere=tuple(other))


def _use_between(
    from_m: float,
    to_m: float,
    under: Under,
    fuel_m3: float,
    when: DayAir,
    *,
    road: Road,
    mixture: Mixture,
    clock: Clock,
) -> float:
    """Use [m3 or J] between two distances of this race [m] at factor 1, as it was ridden; of a relay, by those who ride
    there.
    """
    along: dict[int, tuple[Array, ...]] = {}
    burn = Burn.of(mixture, under.setup, when, as_ridden=True)

    def used(rider: int, stage: int) -> Array:
        if rider not in along:
            who = clock.riders[clock.numbers.index(rider)] if clock.relay is not None else under.rider or road.rider
            along[rider] = burn.along(road.lap(under.setup, who, fuel_m3, when))
        return along[rider][stage]

    pieces = [
        Piece(
            used=used(run.rider, run.stage),
            distance_m=clock.around.courses[run.stage].distance_m,
            laps=run.laps,
            stage=run.stage,
            rider=run.rider,
        )
        for run in clock.runs(clock.laps)
    ]
    return use_between(pieces, from_m, to_m)
