"""Tank and pack, and what is in them at the start."""

from functools import partial
from typing import Annotated

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.tunable import BURNS, Tunable

_FUEL_SHOWS = ("range.p_finish", "range.left_at_finish", "chassis.rear.race_sag_full")
_CHARGE_SHOWS = ("range.p_finish", "range.energy_left", "chassis.rear.race_sag")
fuelled = partial(Tunable, station="range", shows=_FUEL_SHOWS, engines=BURNS)
charged = partial(Tunable, station="range", shows=_CHARGE_SHOWS, engines=("electric",))


class FilledSetup(Part):
    """What holds fuel or charge, and how full it is."""

    fuel_fill_m3: Annotated[float | None, fuelled(step=0.0005)] = quantity(
        0.0005, 0.04, "m^3", "volume", None, source="assumption: tank full"
    )
    """fuel aboard at the start"""
    tank_capacity_m3: Annotated[float | None, fuelled(step=0.001)] = quantity(
        0.001, 0.04, "m^3", "volume", None, source="needed with an engine that burns fuel"
    )
    """what the fitted tank holds"""
    charge_share: Annotated[float | None, charged(step=0.05, unset=1.0)] = quantity(
        0.2, 1.0, "1", "share", None, source="assumption: fully charged"
    )
    """charge at the start"""
    pack_energy_j: Annotated[float | None, charged(step=1.8e6)] = quantity(
        1e6, 1.2e8, "J", "energy", None, source="needed with an electric motor"
    )
    """nominal energy of the fitted pack"""

    @property
    def fill_m3(self) -> float:
        """Fuel aboard at the start [m3]; none without a tank."""
        return (self.tank_capacity_m3 or 0.0) if self.fuel_fill_m3 is None else self.fuel_fill_m3
