"""How far it goes: what is aboard, and the stops."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.setup.filled import FilledSetup
from lynxwort.core.model.tunable import SetWhole, Tunable

#: what a notch at one passing is called, before its number; the level that stands for filled up [m3]: the most there is
STOP, FULL_M3 = "stop__", 0.04
#: one passing of a refuel point, see level_at
STOP_AT = Tunable(step=1e-4, station="range", group="stops", shows=("range.p_finish",))


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


def level_at(stops: Sequence[StopFill], passing: int) -> float:
    """What is done at a passing as one number [m3]: the level that is filled to, FULL_M3 = filled up or swapped; below
    zero: so much is poured in; 0 = ridden by.
    """
    stop = next((s for s in stops if s.passing == passing), None)
    if stop is None:
        return 0.0
    if stop.add_m3 is not None:
        return -stop.add_m3
    return FULL_M3 if stop.to_level_m3 is None else stop.to_level_m3


def with_level(stops: Sequence[StopFill], passing: int, level_m3: float) -> tuple[StopFill, ...]:
    """The stops with another number at a passing, as of level_at. Raises pydantic's ValidationError."""
    found = [s for s in stops if s.passing != passing]
    if level_m3 >= FULL_M3:
        found.append(StopFill(passing=passing))
    elif level_m3 > 0.0:
        found.append(StopFill(passing=passing, to_level_m3=level_m3))
    elif level_m3 < 0.0:
        found.append(StopFill(passing=passing, add_m3=-level_m3))
    return tuple(sorted(found, key=lambda s: s.passing))
