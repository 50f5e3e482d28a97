"""What can be bolted on or put in: airboxes, exhausts, heads, ignition maps."""

from typing import Literal

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, choice, quantity

FittingPlace = Literal["airbox", "exhaust", "exhaust_insert", "reeds", "air_filter", "cylinder"]
FITTING_PLACES: tuple[str, ...] = FittingPlace.__args__  # type: ignore[attr-defined]


class Fitting(Part):
    """Something else that can be fitted where the engine breathes, and what it does until a reading pins it."""

    place: FittingPlace = choice()
    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    """what it is called"""
    leaner_low: float | None = quantity(-0.3, 0.3, "1", "richness", None, source="assumption by its place")
    """least that it leans the mixture, - = richens"""
    leaner_high: float | None = quantity(-0.3, 0.3, "1", "richness", None, source="assumption by its place")
    """most that it leans the mixture"""
    power_scale: float = quantity(0.6, 1.5, "1", "factor", 1.0, source="assumption: no change until a dyno run")
    """torque with it / torque without"""

    sound_db: float | None = quantity(-12.0, 12.0, "1", "decibel", None, source="assumption by its place")
    """what it adds to the sound, - = quieter"""

    @model_validator(mode="after")
    def _ordered(self) -> "Fitting":
        if self.leaner_low is not None and self.leaner_high is not None and self.leaner_low > self.leaner_high:
            raise ValueError("leaner_high:leaner_order")
        return self


class HeadInsert(Part):
    """A cylinder head or head insert that fits."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    compression_ratio: float = quantity(4.0, 16.0, "1", "number")
    """swept + clearance volume / clearance volume, the whole stroke"""
    squish_m: float | None = quantity(3e-4, 6e-3, "m", "bore", None, source="to measure with solder")
    """squish clearance"""


class IgnitionMap(Part):
    """Another ignition map."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    advance_rad: float = quantity(-0.35, 0.35, "rad", "angle")
    """spark earlier than in the bike's own map, at full load"""
    low_scale: float = quantity(0.7, 1.2, "1", "factor", 1.0, source="assumption: no change")
    """torque at half the speed of peak power / with its own map"""
    high_scale: float = quantity(0.7, 1.2, "1", "factor", 1.0, source="assumption: no change")
    """torque at the speed of peak power / with its own map"""
