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
    inseam_m: float | None = quantity(0.5, 1.1, "m", "length", None, source="not measured")
    """inside leg, crotch to floor, without boots"""
    pace: float = quantity(0.2, 1.1, "1", "factor", 0.7, source="assumption: 1 top, 0.8 good amateur, 0.45 trail")
    """1 top professional, 0.8 good amateur, 0.4 to 0.5 trail"""
    longest_stint_s: float | None = quantity(300, 86_400, "s", "minutes", None, source="assumption: as the team's rule")
    """how long the rider can ride at a stretch"""
    posture: Posture = choice("standing", source="assumption")
    """how the rider is placed most of the time"""
