"""A day as it was ridden: clicks that were turned and why, the ground, water, tyres, how it ended."""

from typing import Annotated, Any, Literal, get_args

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, choice, quantity

End = Literal["front", "rear"]
Way = Literal["compression", "rebound"]
Why = Literal["bottoms", "blows_through", "packs", "harsh", "tired", "other"]
WHYS: tuple[str, ...] = get_args(Why)
Soil = Literal["whoops", "loam", "sand", "gravel", "rock"]
SOILS: tuple[str, ...] = get_args(Soil)
Weather = Literal["dry", "damp", "rain", "mud"]
WEATHERS: tuple[str, ...] = get_args(Weather)
Ended = Literal["riding", "finished", "part", "crash", "fuel", "rider", "time_limit"]
ENDED: tuple[str, ...] = get_args(Ended)


#: clicks of a day, and days of a bike
MOST_CLICKS, MOST_DAYS = 200, 400


def _text(source: str) -> dict[str, Any]:
    return {"unit": "", "kind": "text", "source": f"assumption: {source}"}


class ClickTurn(Part):
    """An adjuster turned during the day."""

    id: str = Field(min_length=1, max_length=40)
    lap: int = quantity(0, 400, "1", "count")
    """laps ridden before it"""
    end: End = choice()
    way: Way = choice()
    clicks: int = quantity(-30, 30, "1", "count")
    """in, minus = out"""
    why: Why = choice("other", source="assumption: not said")
    struck_out: bool = False
    """logged by mistake"""

    @field_validator("clicks")
    @classmethod
    def _turned(cls, value: int) -> int:
        if value == 0:
            raise ValueError("not_turned")
        return value


class Tape(Part):
    """Whoops measured by the tape."""

    lap: int = quantity(0, 400, "1", "count")
    """laps ridden before it"""
    depth_m: float = quantity(0.05, 2.0, "m", "travel")
    """trough to crest"""


class Watering(Part):
    """The course watered."""

    lap: int = quantity(0, 400, "1", "count")
    """laps ridden before it"""
    volume_m3: float | None = quantity(0.0001, 1000.0, "m^3", "volume", None, source="assumption: not said")


class RiddenDay(Part):
    """One day on one course."""

    id: str = Field(min_length=1, max_length=40)
    rider: str = Field(min_length=1, max_length=60)
    """the rider's name"""
    name: str = Field(min_length=1, max_length=80)
    """of the race or practice"""
    course_key: str = Field("", max_length=80, json_schema_extra=_text("not said"))
    """the course that was ridden"""
    starters: int = quantity(1, 2000, "1", "count", 60, source="assumption")
    """bikes on the course: so many go by each lap"""
    laps: int = quantity(0, 400, "1", "count", 0, source="assumption: none ridden yet")
    """ridden by now"""
    soil: Soil = choice("whoops", source="assumption: as loam")
    """what the whoops are made of"""
    whoop_height_m: float | None = quantity(0.05, 2.0, "m", "travel", None, source="assumption: no whoops")
    """trough to crest before the first bike"""
    whoop_length_m: float | None = quantity(1.0, 30.0, "m", "span", None, source="assumption: 4.5 m")
    """crest to crest"""
    weather: Weather = choice("dry", source="assumption")
    watered: Annotated[tuple[Watering, ...], Field(max_length=20)] = ()
    tapes: Annotated[tuple[Tape, ...], Field(max_length=40)] = ()
    tyre_front_pa: float | None = quantity(10_000, 400_000, "Pa", "tyre_pressure", None, source="assumption: as set")
    """cold, before the start"""
    tyre_rear_pa: float | None = quantity(10_000, 400_000, "Pa", "tyre_pressure", None, source="assumption: as set")
    tyre_hours_s: float | None = quantity(0, 3_600_000, "s", "hours", None, source="assumption: not said")
    """ridden on the rear tyre before"""
    tyre_why: str = Field("", max_length=120, json_schema_extra=_text("not said"))
    """why these tyres and pressures"""
    ended: Ended = choice("riding", source="assumption: still ridden")
    """how it ended: finished, or what stopped it"""
    ended_part: str = Field("", max_length=120, json_schema_extra=_text("not said"))
    """which part, or what happened"""
    place: int | None = quantity(1, 5000, "1", "count", None, source="assumption: not said")
    in_class: str = Field("", max_length=60, json_schema_extra=_text("not said"))
    """the class of that place"""
    time_s: float | None = quantity(5.0, 600_000.0, "s", "hours", None, source="assumption: not said")
    """of the whole day"""
    clicks: Annotated[tuple[ClickTurn, ...], Field(max_length=MOST_CLICKS)] = ()

    @property
    def is_watered(self) -> bool:
        """Whether the course was watered at all."""
        return bool(self.watered)
