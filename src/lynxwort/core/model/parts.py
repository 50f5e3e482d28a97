"""What lies in a parts box."""

import itertools
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import FieldFacts, Part, choice, field_facts, quantity
from lynxwort.core.model.bike import Item, Tyre
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.setup import Setup

#: kinds that a notch can move to, by their tunable's name
FITTED_KINDS: tuple[str, ...] = tuple(f for f in PartsBox.model_fields if f not in ("shims", "priced"))
KINDS: tuple[str, ...] = (*FITTED_KINDS[:4], "needle", *FITTED_KINDS[4:], "wheel", "shim", "kit")
Condition = Literal["new", "good", "worn", "spent", "shop"]


class NeedleTable(Part):
    """A measured needle: its diameter [m] at distances [m] from the top groove."""

    distance_m: tuple[Annotated[float, Field(ge=0.0, le=0.1)], ...] = Field(min_length=2, max_length=40)
    diameter_m: tuple[Annotated[float, Field(ge=5e-4, le=6e-3)], ...] = Field(min_length=2, max_length=40)

    @model_validator(mode="after")
    def _tapered(self) -> "NeedleTable":
        if len(self.distance_m) != len(self.diameter_m):
            raise ValueError("lengths_differ")
        if any(b <= a for a, b in itertools.pairwise(self.distance_m)):
            raise ValueError("distances_not_rising")
        if any(b > a for a, b in itertools.pairwise(self.diameter_m)):
            raise ValueError("needle_not_tapered")
        return self


class Wheel(Part):
    """A wheel with its tyre."""

    end: Literal["front", "rear"] = choice()
    marking: str = Field(max_length=20)

    @field_validator("marking")
    @classmethod
    def _marking(cls, value: str) -> str:
        return Tyre(marking=value).marking


class Shim(Part):
    """A shim of a valve stack."""

    diameter_m: float = quantity(5e-3, 6e-2, "m", "bore")
    thickness_m: float = quantity(5e-5, 1e-3, "m", "bore")


class CoilDimensions(Part):
    """A helical spring as a calliper reads it."""

    wire_m: float = quantity(5e-4, 2.5e-2, "m", "bore")
    outer_m: float = quantity(5e-3, 0.15, "m", "preload")
    turns: float = quantity(2.0, 200.0, "1", "number")


class StackedSprings(Part):
    """Two springs end to end, the soft one solid after its stroke."""

    soft_n_per_m: float = quantity(1e3, 4e5, "N/m", "spring_rate")
    main_n_per_m: float = quantity(1e3, 4e5, "N/m", "spring_rate")
    soft_stroke_m: float = quantity(1e-3, 0.2, "m", "travel")


class TapeReading(Part):
    """A tape between two marks."""

    tape_m: float = quantity(0.05, 1.5, "m", "travel")


class BoxPart(Part):
    """One part, or several alike. value: in SI, of kinds that have one number, the mass of what is bolted on; else
    needle, wheel or shim. condition: "shop" where it does not lie in the box and may be bought.
    """

    kind: str = Field(max_length=40)
    value: float | None = None
    needle: NeedleTable | None = None
    wheel: Wheel | None = None
    shim: Shim | None = None
    label: str = Field("", max_length=60)
    count: int = quantity(1, 999, "1", "count", 1, source="assumption")
    condition: Condition = choice("good", source="assumption")
    place: str = Field("", max_length=60)
    cost: float | None = quantity(0.0, 1e6, "1", "number", None, source="not said")
    """its price, in one's own money"""
    work_s: float | None = quantity(0.0, 360_000.0, "s", "minutes", None, source="not said")
    """how long fitting it takes, with opening and closing what must be"""

    @model_validator(mode="after")
    def _whole(self) -> "BoxPart":
        if self.kind not in KINDS:
            raise ValueError("kind:not_a_choice")
        if self.kind in ("needle", "wheel", "shim"):
            if getattr(self, self.kind) is None or self.value is not None:
                raise ValueError("value:missing")
            return self
        if self.value is None:
            raise ValueError("value:missing")
        facts = value_facts(self.kind)
        if (facts.low is not None and self.value < facts.low) or (facts.high is not None and self.value > facts.high):
            raise ValueError("value:out_of_bounds")
        if facts.kind == "count" and self.value != round(self.value):
            raise ValueError("value:not_a_whole_number")
        return self


def value_facts(kind: str) -> FieldFacts:
    """The facts of the field whose bounds and unit a kind's number shares."""
    return field_facts(Item, "mass_kg") if kind == "kit" else field_facts(Setup, kind)
