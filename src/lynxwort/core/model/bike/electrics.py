"""What makes the current, and what holds it."""

from typing import Literal

from pydantic import model_validator

from lynxwort.core.model.base import Part, choice, quantity

Battery = Literal["none", "lead", "lithium"]
#: fuses that are sold [A] (ISO 8820-3, from memory)
FUSES_A = (1.0, 2.0, 3.0, 4.0, 5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0)


class Electrics(Part):
    """Generator, battery, wires: 12 V. A traction pack is for licensed hands and is not in here."""

    low_rpm: float = quantity(500, 6000, "rpm", "rpm", 1600.0, source="assumption")
    """generator, first point: engine revs"""
    low_w: float | None = quantity(0.0, 2000.0, "W", "watts", None, source="to measure, or from its maker")
    """generator, first point: what it gives"""
    high_rpm: float = quantity(1500, 12000, "rpm", "rpm", 5000.0, source="assumption")
    """generator, second point: engine revs"""
    high_w: float | None = quantity(1.0, 2000.0, "W", "watts", None, source="to measure, or from its maker")
    """generator, second point: what it gives"""
    ignition_from: Literal["own_coil", "battery"] = choice("own_coil", source="assumption")
    """what feeds the ignition"""
    ignition_w: float = quantity(0.0, 100.0, "W", "watts", 20.0, source="assumption")
    """what the ignition draws"""
    injection_w: float = quantity(0.0, 200.0, "W", "watts", 48.0, source="assumption")
    """with injection: what pump, injector and its computer draw"""
    lighting: Literal["ac", "dc"] = choice("dc", source="assumption")
    """ac: lamps straight from the generator; dc: from the battery"""
    battery: Battery = choice("none", source="assumption")
    """kind of battery"""
    battery_j: float | None = quantity(3600.0, 2e6, "J", "charge", None, source="stamped on it, Ah x 12 V")
    """what it holds"""
    starter: Literal["kick", "electric"] = choice("kick", source="assumption")
    """how it is started"""
    lamp_wire_m2: float = quantity(2e-7, 1e-5, "m^2", "small_area", 7.5e-7, source="assumption")
    """copper of the wire to the head lamp"""
    lamp_wire_m: float = quantity(0.2, 6.0, "m", "length", 1.5, source="assumption")
    """its length, one way"""
    lamp_fuse_a: float | None = quantity(1.0, 40.0, "A", "amps", None, source="not said")
    """its fuse"""

    @model_validator(mode="after")
    def _points(self) -> "Electrics":
        if self.high_rpm <= self.low_rpm:
            raise ValueError("high_rpm:rpm_not_rising")
        if self.low_w is not None and self.high_w is not None and self.high_w <= self.low_w:
            raise ValueError("high_w:watts_not_rising")
        return self
