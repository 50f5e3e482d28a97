"""The air of the race's day, and of the days on which readings were taken."""

from dataclasses import field
from functools import cached_property

from lynxwort.core.cache import StageCache, keyed
from lynxwort.core.derived.track import Round
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import Air, Under
from lynxwort.core.physics.air.along import DayAir, RaceAirStates, race_air_states
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.air.standard import standard_pressure


def state_of(air: Air) -> AirState:
    """The air of a reading as the air model takes it."""
    return AirState(
        pressure_pa=air.pressure_pa, temperature_k=air.temperature_k, relative_humidity=air.relative_humidity
    )


def outside_of(under: Under, home_height_m: float) -> float:
    """Pressure [Pa] outside when a reading was taken: of its air, else that of home."""
    return standard_pressure(home_height_m) if under.air is None else under.air.pressure_pa


@keyed
class Day:
    """The race's air where it was read, and between which heights [m] the round lies. said: as the race has it, where
    another was drawn.
    """

    air: DayAir
    lowest_m: float
    highest_m: float
    said: DayAir | None = None
    cache: StageCache = field(compare=False, repr=False)

    @classmethod
    def of(cls, inputs: Inputs, around: Round, drawn: DayAir | None = None) -> "Day":
        air, course = inputs.race.air, around.whole
        height = air.reading_height_m
        day = DayAir(
            pressure_kind=air.pressure_kind,
            pressure_pa=air.pressure_pa,
            pressure_spread_pa=air.pressure_spread_pa,
            reading_height_m=float(course.height_m[0]) if height is None else height,
            temperature_low_k=air.temperature_low_k,
            temperature_high_k=air.temperature_high_k,
            relative_humidity_low=air.relative_humidity_low,
            relative_humidity_high=air.relative_humidity_high,
        )
        return cls(
            air=drawn or day,
            lowest_m=float(course.height_m.min()),
            highest_m=float(course.height_m.max()),
            said=None if drawn is None else day,
            cache=around.cache,
        )

    @cached_property
    def states(self) -> RaceAirStates:
        """Densest, thinnest and middle air of the race."""
        return self.cache.get(
            "air", self, lambda: race_air_states(self.air, lowest_m=self.lowest_m, highest_m=self.highest_m)
        )

    @property
    def outside_pa(self) -> float:
        """Pressure [Pa] where the weather is read, in its mean air: what pushes on a fork from outside."""
        return self.states.middle_at_reading.pressure_pa

    def when(self, under: Under) -> DayAir:
        """The day on which a reading was taken, read where the race's weather is; that of the race when its air was not
        noted.
        """
        if under.air is None:
            return self.said or self.air
        air = under.air
        return DayAir(
            pressure_kind="station",
            pressure_pa=air.pressure_pa,
            pressure_spread_pa=0.0,
            reading_height_m=self.air.reading_height_m,
            temperature_low_k=air.temperature_k,
            temperature_high_k=air.temperature_k,
            relative_humidity_low=air.relative_humidity,
            relative_humidity_high=air.relative_humidity,
        )
