"""What is carried to burn or draw, and how much of it a ride takes."""

from dataclasses import dataclass
from typing import Self

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived.mixture import Mixture
from lynxwort.core.derived.ride import Lap
from lynxwort.core.model.bike import Bike, Electric, Engine
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3
from lynxwort.core.model.fitted import unusable_of
from lynxwort.core.model.race import GROUNDS
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
    """What the bike carries to burn or draw, in m3 of fuel or J of charge. kind: "fuel" or "energy"; unusable: never
    reaches the engine.
    """

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
    return Store(
        kind="fuel",
        aboard=setup.fill_m3,
        unusable=unusable_of(bike.frame, setup),
        capacity=setup.tank_capacity_m3 or 0.0,
    )


@keyed
class Burn:
    """How a setup burns or draws at factor 1. richer_share: more of the mix than with the proven setting [1]; fuel:
    which, None = petrol; pack_j: energy of the fitted pack; by_ground: fuel on a ground / fuel of the map in use [1],
    where the rider switches maps.
    """

    engine: Engine
    richer_share: float
    fuel: int | None
    pack_j: float
    by_ground: tuple[tuple[str, float], ...]

    @classmethod
    def of(cls, mixture: Mixture, setup: Setup, day: DayAir, *, as_ridden: bool = False) -> Self:
        """In the mean air of a day. A leaner mixture than the proven one saves nothing, so nobody leans to get home;
        as_ridden: a fill-up's use, as it was.
        """
        electric = isinstance(mixture.engine, Electric)
        richer = 0.0 if electric else mixture.richer_mix(mean_air(day), setup, as_ridden=as_ridden)
        return cls(
            engine=mixture.engine,
            richer_share=richer,
            fuel=setup.fuel,
            pack_j=setup.pack_energy_j or 1.0,
            by_ground=tuple(mixture.map_ratios(setup).items()),
        )

    def of_ride(self, ride: Ride, ground: NDArray[np.int64]) -> Array:
        """Fuel [m3] or energy [J] per step. Richer mixture burns more in proportion. ground: index into GROUNDS per
        step.
        """
        engine = self.engine
        if isinstance(engine, Electric):
            volts = engine.nominal_voltage_v
            ohm = pack_ohm(volts, self.pack_j) if engine.internal_ohm is None else engine.internal_ohm
            return ride.energy_j + pack_heat(ride.energy_j, ride.time_s, volts, ohm)
        use = ride.fuel_kg / FUEL_DENSITY_KG_PER_M3 * volume_factor(fuel_of(self.fuel)) * (1.0 + self.richer_share)
        ratios = dict(self.by_ground)
        return use * np.array([ratios.get(g, 1.0) for g in GROUNDS])[ground] if ratios else use

    def along(self, lap: Lap) -> tuple[Array, ...]:
        """Cumulative use over one lap of each stage, each shape (n + 1,)."""
        return tuple(
            np.concatenate([[0.0], np.cumsum(self.of_ride(ride, course.ground))])
            for ride, course in zip(lap.rides, lap.around.courses, strict=True)
        )
