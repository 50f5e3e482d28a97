"""What cools the engine."""

from lynxwort.core.model.base import Part, quantity


class Cooling(Part):
    """Radiators as a tape has them."""

    radiators: int = quantity(0, 4, "1", "count", 2, source="assumption")
    """how many radiators; none = cooled by air"""
    width_m: float = quantity(0.04, 0.5, "m", "travel", 0.12, source="assumption")
    """core of one radiator, across"""
    height_m: float = quantity(0.06, 0.6, "m", "travel", 0.2, source="assumption")
    """core of one radiator, from tank to tank"""
    depth_m: float = quantity(0.01, 0.08, "m", "travel", 0.022, source="assumption")
    """core of one radiator, front to back"""
    coolant_m3: float = quantity(3e-4, 5e-3, "m^3", "fuel", 1.2e-3, source="assumption")
    """coolant that it holds"""
    fan_from_k: float = quantity(333.15, 393.15, "K", "temperature", 368.15, source="assumption")
    """where a fan starts by itself"""

    @property
    def face_m2(self) -> float:
        """Faces of all radiators [m2]."""
        return self.radiators * self.width_m * self.height_m
