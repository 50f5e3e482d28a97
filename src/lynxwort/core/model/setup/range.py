"""How far it goes: what is aboard, and the stops."""

from typing import Annotated

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.setup.filled import FilledSetup
from lynxwort.core.model.tunable import SetWhole


class StopFill(Part):
    """What is done at one passing of a refuel point: filled to a level, or a fixed volume poured in; both left out =
    filled up.
    """

    passing: int = quantity(1, 400, "1", "count")
    """which passing of the race, all refuel points counted in order"""
    to_level_m3: float | None = quantity(0.0, 0.04, "m^3", "fuel", None, source="assumption: full")
    add_m3: float | None = quantity(0.0, 0.04, "m^3", "fuel", None, source="assumption: to a level")


class RangeSetup(FilledSetup):
    """Tank or pack, the filling at the start, and the stops planned."""

    stops: Annotated[Annotated[tuple[StopFill, ...], Field(max_length=80)] | None, SetWhole("range")] = Field(
        None,
        json_schema_extra={
            "unit": "",
            "kind": "list",
            "source": "assumption: filled to the starting level at every refuel point",
        },
    )
    """stops planned, in order; empty = none"""

    @model_validator(mode="after")
    def _in_order(self) -> "RangeSetup":
        if self.stops and any(b.passing <= a.passing for a, b in zip(self.stops, self.stops[1:], strict=False)):
            raise ValueError("stops:stops_not_in_order")
        return self
