"""Readings of the road: roll-out, revs, speeds, climbs and laps."""

import itertools
from typing import Annotated, Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import choice, quantity
from lynxwort.core.model.readings.base import AIR, BaseReading
from lynxwort.core.model.tunable import BURNS


class RollOutReading(BaseReading):
    """Distance of some turns of the rear wheel, rider aboard, at the pressure it is ridden with."""

    kind: Literal["roll_out"] = "roll_out"
    asked = ("distance_m", "turns")
    figure = "drive.top_speed"
    distance_m: float = quantity(1.0, 60.0, "m", "span")
    """chalk mark to chalk mark"""
    turns: int = quantity(1, 20, "1", "count", 1, source="assumption")
    """turns of the wheel between them"""


class RpmSpeedReading(BaseReading):
    """Engine speed and road speed seen at the same moment, steady, on hard ground."""

    kind: Literal["rpm_speed"] = "rpm_speed"
    asked = ("rpm", "speed_m_per_s", "gear")
    engines = BURNS
    figure = "drive.top_speed"
    rpm: float = quantity(1000, 17000, "rpm", "rpm")
    """engine speed"""
    speed_m_per_s: float = quantity(1.0, 70.0, "m/s", "speed")
    """road speed by satellite receiver"""
    gear: int = quantity(1, 8, "1", "count")
    """gear it was in"""


class TopSpeedReading(BaseReading):
    """The highest speed seen: level, hard, long enough, no wind to speak of."""

    kind: Literal["top_speed"] = "top_speed"
    asked = ("speed_m_per_s",)
    also = (AIR,)
    figure = "drive.top_speed"
    speed_m_per_s: float = quantity(5.0, 70.0, "m/s", "speed")
    """road speed by satellite receiver"""


class HillReading(BaseReading):
    """A climb tried. It says what grip the ground gave, or that the engine gave out."""

    kind: Literal["hill"] = "hill"
    asked = ("at_m", "outcome", "entry_speed_m_per_s")
    also = (AIR,)
    figure = "drive.hill.1.limit"
    at_m: float = quantity(0, 1_000_000, "m", "ribbon")
    """where it begins on its course"""
    outcome: Literal["climbed", "spun", "stalled"] = choice()
    """climbed; spun: the wheel turned and the bike stopped; stalled: the engine gave out"""
    entry_speed_m_per_s: float | None = quantity(1.0, 40.0, "m/s", "speed", None, source="assumption: walking pace")
    """speed at its foot"""


class RiddenLapReading(BaseReading):
    """A lap really ridden: the clock at even steps along its course."""

    kind: Literal["ridden_lap"] = "ridden_lap"
    asked = ("clock_s",)
    figure = "drive.lap_time"
    clock_s: tuple[Annotated[float, Field(ge=0.0, le=86_400.0)], ...] = Field(
        min_length=3, max_length=20_001, repr=False
    )
    """time since the start of the lap at each step, the first at the start, the last at its end"""

    @field_validator("clock_s")
    @classmethod
    def _rising(cls, value: tuple[float, ...]) -> tuple[float, ...]:
        if any(b < a for a, b in itertools.pairwise(value)) or value[-1] - value[0] < 10.0:
            raise ValueError("clock_not_rising")
        return value
