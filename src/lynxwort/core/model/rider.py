"""The rider."""

from typing import Literal

from pydantic import Field

from lynxwort.core.model.base import Part, choice, quantity

Posture = Literal["seated", "standing", "attack"]


class Rider(Part):
    """One rider as he or she sits on the bike."""

    name: str = Field("rider", max_length=60, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"})
    """what to call the rider"""
    mass_in_gear_kg: float = quantity(30, 180, "kg", "mass")
    """rider, helmet, boots, drink and tools"""
    pace: float = quantity(0.2, 1.1, "1", "factor", 0.7, source="assumption: 1 top, 0.8 good amateur, 0.45 trail")
    """1 top professional, 0.8 good amateur, 0.4 to 0.5 trail"""
    posture: Posture = choice("standing", source="assumption")
    """how the rider is placed most of the time"""
