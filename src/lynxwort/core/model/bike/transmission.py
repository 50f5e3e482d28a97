"""Gears and final drive."""

import itertools
from typing import Annotated

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, quantity


def _falling_ratios(value: tuple[float, ...]) -> tuple[float, ...]:
    if any(b >= a for a, b in itertools.pairwise(value)):
        raise ValueError("not_falling")
    return value


class Gearbox(Part):
    """Another set of gears, or another primary pair, that fits this engine."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    """what it is called"""
    primary_ratio: float | None = quantity(1.0, 6.0, "1", "ratio", None, source="assumption: as it is")
    """clutch gear teeth / crank gear teeth; left out = as it is"""
    gear_ratios: tuple[Annotated[float, Field(ge=0.4, le=6.0)], ...] = Field(
        (), max_length=8, json_schema_extra={"unit": "1", "kind": "ratios", "source": "assumption: as they are"}
    )
    """ratios from first to top; left out = as they are"""

    _falling = field_validator("gear_ratios")(_falling_ratios)


class Transmission(Part):
    """From crank to countershaft sprocket."""

    primary_ratio: float = quantity(1.0, 6.0, "1", "ratio")
    """clutch gear teeth / crank gear teeth"""
    gear_ratios: tuple[Annotated[float, Field(ge=0.4, le=6.0)], ...] = Field(
        min_length=1, max_length=8, json_schema_extra={"unit": "1", "kind": "ratios"}
    )
    """gearbox ratios from first to top"""
    efficiency: float = quantity(0.6, 1.0, "1", "share", 0.90, source="from memory: chain and gearbox together")
    """power at the wheel / power at the crank"""
    others: Annotated[tuple[Gearbox, ...], Field(max_length=6)] = ()
    """other gears and primaries that fit; the setup says which is in"""

    _falling = field_validator("gear_ratios")(_falling_ratios)

    def gears(self, slot: int) -> tuple[float, tuple[float, ...]]:
        """Primary ratio and gear ratios of a slot: 1 = its own, 2 and on = the others."""
        if slot <= 1:
            return self.primary_ratio, self.gear_ratios
        other = self.others[slot - 2]
        return other.primary_ratio or self.primary_ratio, other.gear_ratios or self.gear_ratios
