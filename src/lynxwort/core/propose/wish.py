"""What a plan may cost, what it must leave alone, and what the rider likes."""

from typing import Annotated, Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.report import STATIONS
from lynxwort.core.tunables import TUNABLES


class Wish(Part):
    """The limits of a plan, beyond which nothing is looked at, and what the rider likes, see liking."""

    purchases: int = quantity(0, 12, "1", "count", 0, source="assumption: from the box alone")
    """how many parts may be bought"""
    money: float | None = quantity(0.0, 1e6, "1", "number", None, source="assumption: no limit")
    """what may be spent on items and parts, in one's own money; a part without a price is not bought then"""
    work_s: float | None = quantity(0.0, 720_000.0, "s", "hours", None, source="assumption: no limit")
    """how long the work may take"""
    changes: int = quantity(1, 30, "1", "count", 8, source="assumption: what one evening's head holds")
    """how many steps it may have"""
    feel: Literal["even", "plush", "stiff"] = choice("even", source="assumption: the middle")
    """how it should ride over bumps"""
    care: Literal["even", "safe", "fast"] = choice("even", source="assumption: neither")
    """what matters more where both cannot be had"""
    school: Literal["two_sag", "chart", "frequency"] = choice("two_sag", source="assumption: as Chassis judges")
    """by which school a spring is chosen among those that the sags allow"""
    leave: Annotated[tuple[Annotated[str, Field(max_length=80)], ...], Field(max_length=80)] = Field(
        (), json_schema_extra={"unit": "", "kind": "list", "source": "assumption: nothing"}
    )
    """stations and tunables that are not touched"""

    @field_validator("leave")
    @classmethod
    def _known(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        if any(name not in STATIONS and name not in TUNABLES for name in value):
            raise ValueError("leave:not_a_choice")
        return value
