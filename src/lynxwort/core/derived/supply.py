"""What is aboard against what the race takes: the bike's own factor, the stops as planned, the legs between two fillings."""

from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.use import Riders, Store, store_of
from lynxwort.core.evidence import LogNormal
from lynxwort.core.learned.consumption import FillUp, fill_up_sd, learn_factor, prior_factor
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import ChargeReading, FillUpReading, Under
from lynxwort.core.model.setup import StopFill
from lynxwort.core.physics.air.along import DayAir
from lynxwort.core.physics.reach.finish import Piece, legs_over, sections_over, use_between
from lynxwort.core.physics.reach.stops import Fill

Array = NDArray[np.float64]
#: what is said at most of a bike whose consumption was never measured (HANDBOOK 5: no 99 % there); the figure itself: assumption
UNMEASURED_MOST = 0.98


@keyed
class Supply:
    """clock: the race as it goes; store: what is aboard; stops: as planned, None = filled to the starting level at every refuel point; readings: fill-ups or
    charges that count, of this kind of store.
    """

    clock: Clock
    store: Store
    stops: tuple[StopFill, ...] | None
    readings: tuple[FillUpReading | ChargeReading, ...]

    @classmethod
    def of(cls, inputs: Inputs, clock: Clock) -> "Supply":
        store = store_of(inputs.bike, inputs.setup, clock.riders.use.day.air.temperature_low_k)
        kind = ChargeReading if store.kind == "energy" else FillUpReading
        found = tuple(r for r in inputs.readings if isinstance(r, kind) and not r.struck_out)
        return cls(clock=clock, store=store, stops=inputs.setup.stops, readings=found)

    @property
    def _riders(self) -> Riders:
        return self.clock.riders

    @property
    def round_use(self) -> float:
        """Use of the round, each stage once, at factor 1."""
        return float(sum(u[-1] for u in self._riders.along()))

    @cached_property
    def fill_ups(self) -> tuple[list[FillUp], list[str]]:
        """Fill-ups (or charges) with what the model computes for the same ride, and the ids of those on another course."""
        road, use = self._riders.use.road, self._riders.use
        usable, other = list[FillUp](), list[str]()
        for reading in self.readings:
            under = reading.under
            if under.course_key is not None and under.course_key not in road.course_keys:
                other.append(reading.id)
                continue
            index = 0 if under.course_key is None else road.course_keys.index(under.course_key)
            charge = isinstance(reading, ChargeReading)
            measured = reading.energy_j if isinstance(reading, ChargeReading) else reading.fuel_m3
            fuel = 0.0 if isinstance(reading, ChargeReading) else 0.5 * max(under.fuel_aboard_m3, reading.fuel_m3)
            day, like = use.day.when(under), False
            if isinstance(reading, FillUpReading) and reading.from_m is not None and reading.to_m is not None:
                computed, like = self._use_between(reading.from_m, reading.to_m, under, fuel, day), True
                if computed <= 0.0:
                    other.append(reading.id)
                    continue
            else:
                ride = road.lap(under.setup, under.rider or road.rider, fuel, day).rides[index]
                computed = float(use.of_ride(ride, under.setup, index, as_ridden=day).sum()) * reading.laps
            error = fill_up_sd(measured, reading.laps, fuel=not charge, like=like)
            usable.append(FillUp(reading_id=reading.id, measured=measured, computed=computed, log_sd=error))
        return usable, other

    def _use_between(self, from_m: float, to_m: float, under: Under, fuel_m3: float, day: DayAir) -> float:
        """Use [m3 or J] between two distances of this race [m] at factor 1, as it was ridden; of a relay, by those who ride there."""
        along: dict[int, tuple[Array, ...]] = {}
        road, relay = self._riders.use.road, self.clock.stints

        def used(piece: Piece) -> Array:
            rider = self._riders.riders[piece.rider] if relay is not None else under.rider or road.rider
            if piece.rider not in along:
                along[piece.rider] = self._riders.use.along(road.lap(under.setup, rider, fuel_m3, day), under.setup, as_ridden=day)
            return along[piece.rider][piece.stage]

        return use_between([replace(p, used=used(p)) for p in self.clock.pieces(self.clock.laps)], from_m, to_m)

    @cached_property
    def prior(self) -> LogNormal:
        """The factor before any fill-up."""
        if self.store.kind == "energy":
            return prior_factor(0.0)
        ride = self._riders.lap().whole
        return prior_factor(float((ride.time_s * (ride.throttle_share > 0.97)).sum() / ride.time_s.sum()))

    @cached_property
    def factor(self) -> LogNormal:
        """This bike's factor on the computed use."""
        return learn_factor(self.prior, self.fill_ups[0])

    @property
    def most_sure(self) -> float:
        """The highest chance [1] that may be said of this bike: one never measured is never called sure."""
        return 1.0 if self.factor.used else UNMEASURED_MOST

    @cached_property
    def taken(self) -> dict[int, Fill] | None:
        """What is done at which passing of a refuel point, as planned; None without a plan: filled to the starting level at each."""
        if self.stops is None:
            return None
        fuel, full = self.store.kind == "fuel", self._full
        fills = {}
        for s in self.stops:
            adds = fuel and s.add_m3 is not None
            amount = s.add_m3 if adds else s.to_level_m3 if fuel and s.to_level_m3 is not None else full
            fills[s.passing] = Fill(amount=min(amount or 0.0, full), add=adds)
        return fills

    @property
    def _full(self) -> float:
        return self.store.capacity if self.store.kind == "fuel" else self.store.aboard

    def fills_of_extra(self, laps: int) -> dict[int, Fill]:
        """What is done at the passings beyond the likely laps, when there is time for more: filled up. Nothing without a plan, or for fewer laps."""
        if self.taken is None or laps <= self.clock.laps:
            return {}
        planned, whole = (len(sections_over(self.clock.pieces(n))) - 1 for n in (self.clock.laps, laps))
        return {n: Fill(amount=self._full) for n in range(planned + 1, whole + 1)}

    def _taken_of(self, laps: int) -> Mapping[int, Fill] | None:
        """What is done at which passing of a race of so many laps; None without a plan."""
        return None if self.taken is None else self.taken | self.fills_of_extra(laps)

    @cached_property
    def cases(self) -> tuple[tuple[float, tuple[tuple[float, ...], ...]], ...]:
        """How the race may go: the chance of each number of laps, and its legs between two fillings."""
        return tuple(
            (chance, tuple(tuple(leg) for leg in legs_over(self.clock.pieces(laps), self._taken_of(laps)) if leg)) for laps, chance in self.clock.lap_chances
        )

    @cached_property
    def legs(self) -> tuple[tuple[float, ...], ...]:
        """The legs at the median number of laps."""
        return tuple(tuple(leg) for leg in legs_over(self.clock.pieces(self.clock.laps), self.taken) if leg)

    @cached_property
    def largest_leg(self) -> float:
        """Likely use of the longest leg."""
        return max(sum(leg) for leg in self.legs) * self.factor.median
