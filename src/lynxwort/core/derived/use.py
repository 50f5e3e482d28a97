"""What is carried to burn or draw, and how much of it a ride takes."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.mixture import Mixture
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.road import Road
from lynxwort.core.model.bike import Bike, Electric
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3
from lynxwort.core.model.fitted import unusable_of
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.filled import FilledSetup
from lynxwort.core.physics.air.along import DayAir, mean_air
from lynxwort.core.physics.drive.simulation import Ride
from lynxwort.core.physics.fuelling.fuels import fuel_of, volume_factor
from lynxwort.core.physics.reach.pack import pack_heat, pack_ohm

Array = NDArray[np.float64]
#: temperature from which a pack gives all it has [K] (assumption)
PACK_WARM_K = 293.15


@dataclass(frozen=True, slots=True, kw_only=True)
class Store:
    """What the bike carries to burn or draw, in m3 of fuel or J of charge. kind: "fuel" or "energy"; unusable: never reaches the engine."""

    kind: str
    aboard: float
    unusable: float
    capacity: float


def store_of(bike: Bike, setup: FilledSetup, coldest_k: float) -> Store:
    """What is carried, by the kind of engine. coldest_k: of the day [K]."""
    engine = bike.engine
    if isinstance(engine, Electric):
        pack = setup.pack_energy_j or 0.0
        charge = 1.0 if setup.charge_share is None else setup.charge_share
        usable = engine.usable_share * max(1.0 - engine.cold_share_per_k * max(PACK_WARM_K - coldest_k, 0.0), 0.1)
        return Store(kind="energy", aboard=pack * charge, unusable=pack * (1.0 - usable), capacity=pack)
    return Store(kind="fuel", aboard=setup.fill_m3, unusable=unusable_of(bike.frame, setup), capacity=setup.tank_capacity_m3 or 0.0)


@keyed
class Use:
    """What rides take of the store at factor 1. road: how they are ridden; mixture: how rich."""

    road: Road
    mixture: Mixture
    day: Day

    @classmethod
    def of(cls, road: Road, mixture: Mixture, day: Day) -> "Use":
        return cls(road=road, mixture=mixture, day=day)

    def of_ride(self, ride: Ride, setup: Setup, stage: int | None = None, *, as_ridden: DayAir | None = None) -> Array:
        """Fuel [m3] or energy [J] per step in the mean air. Richer mixture burns more in proportion. stage: whose ride it is.

        A leaner mixture than the proven one saves nothing, so nobody leans to get home; as_ridden: the day of a fill-up, whose use is reckoned as it was.
        """
        engine = self.road.bike.engine
        if isinstance(engine, Electric):
            volts = engine.nominal_voltage_v
            ohm = pack_ohm(volts, setup.pack_energy_j or 1.0) if engine.internal_ohm is None else engine.internal_ohm
            return ride.energy_j + pack_heat(ride.energy_j, ride.time_s, volts, ohm)
        richer = self.mixture.richer_mix(mean_air(as_ridden or self.day.air), setup, as_ridden=as_ridden is not None)
        use = ride.fuel_kg / FUEL_DENSITY_KG_PER_M3 * volume_factor(fuel_of(setup.fuel)) * (1.0 + richer)
        ratios = self.mixture.map_ratios(setup) if stage is not None else {}
        return use * np.array([ratios.get(g, 1.0) for g in GROUNDS])[self.road.around.courses[stage or 0].ground] if ratios else use

    def along(self, lap: Lap, setup: Setup, *, as_ridden: DayAir | None = None) -> tuple[Array, ...]:
        """Cumulative use over one lap of each stage, each shape (n + 1,)."""
        return tuple(np.concatenate([[0.0], np.cumsum(self.of_ride(r, setup, i, as_ridden=as_ridden))]) for i, r in enumerate(lap.rides))


@keyed
class Riders:
    """Each stage ridden once by each of the riders, the bike as it stands, and what that takes. entered: who rides the race."""

    use: Use
    setup: Setup
    riders: tuple[Rider, ...]
    entered: int

    @classmethod
    def of(cls, inputs: Inputs, use: Use) -> "Riders":
        return cls(use=use, setup=inputs.setup, riders=inputs.riders, entered=inputs.race.entries[0].rider)

    @cached_property
    def _laps(self) -> dict[int, Lap]:
        return {}

    @cached_property
    def _uses(self) -> dict[int, tuple[Array, ...]]:
        return {}

    def lap(self, rider: int | None = None) -> Lap:
        """The round as one rides it at half the fill: the mean of the race. None: who is entered."""
        number = self.entered if rider is None else rider
        if number not in self._laps:
            self._laps[number] = self.use.road.lap(self.setup, self.riders[number], 0.5 * self.setup.fill_m3)
        return self._laps[number]

    def along(self, rider: int | None = None) -> tuple[Array, ...]:
        """Cumulative use over one lap of each stage by one of the riders, each shape (n + 1,)."""
        number = self.entered if rider is None else rider
        if number not in self._uses:
            self._uses[number] = self.use.along(self.lap(number), self.setup)
        return self._uses[number]
