"""Readings of the standing bike: sags, scales, lengths, and what ran straight."""

from typing import Literal

from pydantic import model_validator

from lynxwort.core.model.base import choice, quantity
from lynxwort.core.model.readings.base import FUEL, BaseReading


class SagReading(BaseReading):
    """Free or race sag of one end: front along the leg, rear vertical at the axle."""

    kind: Literal["sag"] = "sag"
    asked = ("end", "state", "value_m")
    also = (FUEL,)
    end: Literal["front", "rear"] = choice()
    state: Literal["free", "race"] = choice()
    """free: bike alone; race: rider in position, in gear"""
    value_m: float = quantity(0.0, 0.25, "m", "travel")
    """how far it sank from topped out, mean of settling from above and from below"""
    apart_m: float | None = quantity(0.0, 0.1, "m", "travel", None, source="measured one way only")
    """how far apart the two settled: twice the friction's share"""

    @property
    def narrows(self) -> str:
        """The same sag, reckoned."""
        return f"chassis.{self.end}.{self.state}_sag"


class WeighingReading(BaseReading):
    """Each wheel on a scale, bike upright and level."""

    kind: Literal["weighing"] = "weighing"
    asked = ("front_kg", "rear_kg", "rider_aboard")
    also = (FUEL,)
    figure = "chassis.axle_load.front"
    front_kg: float = quantity(5.0, 250.0, "kg", "mass")
    """front wheel's scale"""
    rear_kg: float = quantity(5.0, 350.0, "kg", "mass")
    """rear wheel's scale"""
    rider_aboard: bool = False
    """rider in position and in gear, or the bike alone"""


class TiltReading(BaseReading):
    """The scale of one wheel, bike alone, suspension strapped, with the other wheel raised: it tells how high the
    weight sits.
    """

    kind: Literal["tilt"] = "tilt"
    asked = ("raised", "raised_m", "load_kg")
    also = (FUEL,)
    figure = "chassis.cg_height"
    raised: Literal["front", "rear"] = choice()
    """which axle is raised"""
    raised_m: float = quantity(0.1, 1.0, "m", "length")
    """how much higher that axle stands than on the level"""
    load_kg: float = quantity(5.0, 350.0, "kg", "mass")
    """scale under the wheel that stays down"""


GeometryOf = Literal["wheelbase", "rake", "seat_height", "ground_clearance"]


class GeometryReading(BaseReading):
    """A measured length or angle of the standing bike."""

    kind: Literal["geometry"] = "geometry"
    asked = ("of", "state", "value_m", "value_rad")
    also = (FUEL,)
    of: GeometryOf = choice()
    state: Literal["topped_out", "free", "race"] = choice("topped_out", source="assumption")
    """topped out, bike alone on its wheels, or rider aboard"""
    value_m: float | None = quantity(0.1, 2.0, "m", "length", None, source="needed unless it is an angle")
    value_rad: float | None = quantity(0.26, 0.7, "rad", "tilt", None, source="needed for an angle")

    @model_validator(mode="after")
    def _whole(self) -> "GeometryReading":
        name = "value_rad" if self.of == "rake" else "value_m"
        if getattr(self, name) is None:
            raise ValueError(f"{name}:missing")
        return self

    @property
    def narrows(self) -> str:
        """The same length or angle, reckoned."""
        return f"chassis.{self.of}"


class SteadyReading(BaseReading):
    """It ran straight at this speed with the setup under which it was noted."""

    kind: Literal["steady"] = "steady"
    asked = ("speed_m_per_s",)
    figure = "chassis.trail"
    speed_m_per_s: float = quantity(10.0, 60.0, "m/s", "speed")
