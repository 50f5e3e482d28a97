"""The ride of a round: a function of its courses, a day's air and the ride's input, and of nothing else."""

from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import StageCache, keyed
from lynxwort.core.derived.track import Round
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.defaults import PACE_LOG_SD, RIDDEN_PACE_LOG_SD
from lynxwort.core.physics.air.along import DayAir, mean_air, power_share_along
from lynxwort.core.physics.drive.engine import engine_curve
from lynxwort.core.physics.drive.lift import throttle_lift
from lynxwort.core.physics.drive.simulation import Ride, RideInput, join_rides, simulate

Array = NDArray[np.float64]


def power_shares(around: Round, day: DayAir, *, electric: bool) -> tuple[Array, ...]:
    """Share of standard power [1] along each stage in the mean air of a day; an electric motor keeps its own."""

    def along(i: int) -> Array:
        height = around.courses[i].height_m
        if electric:
            return np.ones(height.size - 1)
        middle = 0.5 * (height[1:] + height[:-1])
        return power_share_along(mean_air(day), reading_height_m=day.reading_height_m, height_m=middle)

    return tuple(
        around.cache.get("power_share", (given, day, electric), lambda i=i: along(i))  # type: ignore[misc]
        for i, given in enumerate(around.given)
    )


@keyed
class Lap:
    """The round ridden once. what: the ride's input."""

    around: Round
    day: DayAir
    ride_input: RideInput

    @property
    def cache(self) -> StageCache:
        return self.around.cache

    @cached_property
    def power_shares(self) -> tuple[Array, ...]:
        """Share of standard power along each stage [1]."""
        return power_shares(self.around, self.day, electric=isinstance(self.ride_input.engine, Electric))

    @cached_property
    def power_share(self) -> Array:
        """The same along the round."""
        return self.power_shares[0] if len(self.power_shares) == 1 else np.concatenate(self.power_shares)

    @cached_property
    def rides(self) -> tuple[Ride, ...]:
        """Each stage ridden once."""
        key = _Ridden(day=self.day, ride_input=self.ride_input)

        def one(i: int) -> Ride:
            return self.cache.get(
                "ride",
                (self.around.given[i], key),
                lambda: simulate(self.around.courses[i], self.power_shares[i], self.ride_input),
            )

        return tuple(one(i) for i in range(len(self.around.given)))

    @cached_property
    def whole(self) -> Ride:
        """The stages joined to one ride."""
        return (
            self.rides[0]
            if len(self.rides) == 1
            else self.cache.get("round_ride", self, lambda: join_rides(self.rides))
        )

    @cached_property
    def longest_full_throttle_s(self) -> float:
        """Over the stages, none running into the next [s]."""
        return self.cache.get("longest", self, lambda: max(r.longest_full_throttle_s for r in self.rides))

    @cached_property
    def lift(self) -> Array | None:
        """Share of full throttle opening per step of the round [1]; None of a motor."""
        engine = self.ride_input.engine
        if isinstance(engine, Electric):
            return None

        def make() -> Array:
            full = engine_curve(engine).torque_at(self.whole.crank_rad_per_s)
            return throttle_lift(
                engine,
                self.whole.torque_nm,
                self.whole.crank_rad_per_s,
                full * self.power_share * self.ride_input.power_scale,
            )

        return self.cache.get("lift", self, make)

    @property
    def pace_log_sd(self) -> float:
        """How far the day's pace may lie off [1], of its logarithm: one and the same for a lap, an arrival and the
        finish.
        """
        return RIDDEN_PACE_LOG_SD if self.ride_input.pace_by_ground else PACE_LOG_SD


@keyed
class _Ridden:
    """What of a ride is the same on every stage."""

    day: DayAir
    ride_input: RideInput
