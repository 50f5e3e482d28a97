"""What can be bolted on or put in: airboxes, exhausts, heads, ignition maps."""

from dataclasses import dataclass
from typing import Literal

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, choice, quantity

FittingPlace = Literal["airbox", "exhaust", "exhaust_insert", "reeds", "air_filter", "cylinder", "emission"]
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
    displacement_m3: float | None = quantity(
        4.5e-5, 8e-4, "m^3", "engine_size", None, source="assumption: as the engine has it"
    )
    """swept volume with it: a big bore"""
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


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualChange:
    """Something that riders often change where the engine breathes, with the numbers that are assumed of it until a
    reading or a dyno run says better (common practice, no source).

    leaner: least and most that it leans the mixture [1], - = richens; power: least, likely and most torque with it /
    without; sound_db: what it adds; swept_share: swept volume with it / without; law: whether road law, noise rules or
    the class may forbid it.
    """

    code: str
    place: FittingPlace
    leaner: tuple[float, float]
    power: tuple[float, float, float]
    sound_db: float
    swept_share: float = 1.0
    law: bool = True

    @property
    def richness(self) -> tuple[float, float]:
        """Leanest and richest that the mixture comes to [1], nothing else moved."""
        return -self.leaner[1], -self.leaner[0]

    @property
    def torque_changes(self) -> tuple[float, float, float]:
        """Least, likely and most torque gained [1]."""
        least, likely, most = (p - 1.0 for p in self.power)
        return least, likely, most

    def swept_m3(self, displacement_m3: float) -> float:
        """Swept volume [m3] of an engine with it."""
        return round(self.swept_share * displacement_m3, 9)

    def fitting(self, name: str, displacement_m3: float) -> dict[str, str | float]:
        """It as a fitting of an engine of this swept volume [m3]."""
        made: dict[str, str | float] = {
            "place": self.place, "name": name, "leaner_low": self.leaner[0], "leaner_high": self.leaner[1],
            "power_scale": self.power[1], "sound_db": self.sound_db,
        }  # fmt: skip
        if self.swept_share != 1.0:
            made["displacement_m3"] = self.swept_m3(displacement_m3)
        return made


USUAL_CHANGES: tuple[UsualChange, ...] = (
    UsualChange(code="lid_off", place="airbox", leaner=(0.01, 0.06), power=(1.0, 1.01, 1.03), sound_db=1.5),
    UsualChange(code="intake_opened", place="airbox", leaner=(0.01, 0.05), power=(1.0, 1.02, 1.05), sound_db=1.0),
    UsualChange(
        code="oiled_foam", place="air_filter", leaner=(-0.02, 0.02), power=(0.99, 1.0, 1.01), sound_db=0.0, law=False
    ),
    UsualChange(code="silencer", place="exhaust", leaner=(0.0, 0.04), power=(0.98, 1.01, 1.03), sound_db=2.0),
    UsualChange(code="whole_exhaust", place="exhaust", leaner=(0.01, 0.06), power=(1.0, 1.04, 1.08), sound_db=3.0),
    UsualChange(
        code="quiet_insert", place="exhaust_insert", leaner=(-0.03, 0.01), power=(0.94, 0.98, 1.0), sound_db=-2.5,
        law=False,
    ),
    UsualChange(
        code="stiffer_reeds", place="reeds", leaner=(-0.02, 0.02), power=(0.98, 1.0, 1.02), sound_db=0.0, law=False
    ),
    UsualChange(
        code="big_bore", place="cylinder", leaner=(-0.02, 0.03), power=(1.04, 1.10, 1.14), sound_db=1.0,
        swept_share=1.12,
    ),
    UsualChange(code="emission_off", place="emission", leaner=(0.0, 0.03), power=(1.0, 1.01, 1.03), sound_db=0.0),
)  # fmt: skip


def usual_for(engine_kind: str) -> tuple[UsualChange, ...]:
    """Usual changes of an engine kind: reeds are a two-stroke's, and nothing breathes on an electric bike."""
    if engine_kind == "electric":
        return ()
    return tuple(c for c in USUAL_CHANGES if c.place != "reeds" or engine_kind.endswith("two_stroke"))
