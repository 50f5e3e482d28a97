"""Tank and pack, and what is in them at the start."""

from lynxwort.core.model.base import Part, quantity


class FilledSetup(Part):
    """What holds fuel or charge, and how full it is."""

    tank_capacity_m3: float | None = quantity(0.001, 0.04, "m^3", "volume", None, source="needed with an engine that burns fuel")
    """what the fitted tank holds"""
    fuel_fill_m3: float | None = quantity(0.0005, 0.04, "m^3", "volume", None, source="assumption: tank full")
    """fuel aboard at the start"""
    pack_energy_j: float | None = quantity(1e6, 1.2e8, "J", "energy", None, source="needed with an electric motor")
    """nominal energy of the fitted pack"""
    charge_share: float | None = quantity(0.2, 1.0, "1", "share", None, source="assumption: fully charged")
    """charge at the start"""

    @property
    def fill_m3(self) -> float:
        """Fuel aboard at the start [m3]; none without a tank."""
        return (self.tank_capacity_m3 or 0.0) if self.fuel_fill_m3 is None else self.fuel_fill_m3
