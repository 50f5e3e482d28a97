"""Fuel maps and what they sense."""

import itertools
from typing import Annotated, Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, choice, quantity

AXIS_RPM, AXIS_THROTTLE = 24, 16
#: rpm and throttle of a map's cells when nothing else is said (assumption)
MAP_RPM = (1500.0, 2500.0, 3500.0, 4500.0, 5500.0, 6500.0, 7500.0, 8500.0, 9500.0, 10500.0)
MAP_THROTTLE = (0.0, 0.05, 0.1, 0.2, 0.35, 0.5, 0.75, 1.0)


def _rising(value: tuple[float, ...]) -> tuple[float, ...]:
    if any(b <= a for a, b in itertools.pairwise(value)):
        raise ValueError("axis_not_rising")
    return value


Sensors = Literal["throttle_rpm", "air_temperature", "pressure_temperature", "closed_loop"]


class Injection(Part):
    """Fuel injection: what the unit senses of the air, and its switchable maps."""

    sensors: Sensors | None = choice(
        None, source="assumption: senses no air; ask, it decides what the air does to the mixture"
    )
    """throttle_rpm, or not said: senses no air; air_temperature; pressure_temperature; closed_loop: also a mixture
    sensor at part throttle
    """
    map_shifts: tuple[Annotated[float, Field(ge=-0.3, le=0.5)], ...] = Field(
        (0.0,),
        min_length=1,
        max_length=8,
        json_schema_extra={"unit": "1", "kind": "shares", "source": "assumption: one map"},
    )
    """richness of each switchable map against the first"""
    rpm_axis: tuple[Annotated[float, Field(ge=300.0, le=17_000.0)], ...] = Field(
        MAP_RPM,
        min_length=2,
        max_length=AXIS_RPM,
        json_schema_extra={"unit": "rpm", "kind": "axis", "source": "assumption: thousands and a half"},
    )
    """revs of the map's rows"""
    throttle_axis: tuple[Annotated[float, Field(ge=0.0, le=1.0)], ...] = Field(
        MAP_THROTTLE,
        min_length=2,
        max_length=AXIS_THROTTLE,
        json_schema_extra={"unit": "1", "kind": "axis", "source": "assumption: closer when closed"},
    )
    """throttle openings of the map's columns"""
    target_part: float = quantity(
        0.7, 1.1, "1", "ratio", 0.95, source="common practice, no source: rideable at part throttle"
    )
    """lambda aimed at where the throttle is little open"""
    target_full: float = quantity(0.7, 1.0, "1", "ratio", 0.87, source="common practice, no source: best torque, cool")
    """lambda aimed at at full throttle"""

    _rising = field_validator("rpm_axis", "throttle_axis")(_rising)
