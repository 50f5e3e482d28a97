"""The setup: every value on the bike that a hand can change."""

from pydantic import Field

from lynxwort.core.model.base import Part, quantity


class Setup(Part):
    """All that can be swapped or turned. Fitted parts stand by value; `part_ids` says which part they came from."""

    front_sprocket_teeth: int = quantity(8, 20, "1", "count")
    """teeth of the countershaft sprocket"""
    rear_sprocket_teeth: int = quantity(28, 70, "1", "count")
    """teeth of the wheel sprocket"""
    main_jet: float | None = quantity(30, 900, "1", "number", None, source="needed with a jetted carburettor")
    """number on the main jet"""
    needle_clip: int = quantity(1, 12, "1", "count", 3, source="assumption: middle groove")
    """clip groove counted from the top: 1 = needle lowest = leanest"""
    metering_rod: int | None = quantity(-8, 8, "1", "count", None, source="assumption: the rod it came with")
    """metering rod, in sizes richer than the one it came with"""
    knob_clicks: int | None = quantity(-60, 60, "1", "count", None, source="assumption: the base setting")
    """clicks of the mixture knob from the base setting, + = richer"""
    map_slot: int | None = quantity(1, 8, "1", "count", None, source="assumption: the first map")
    """number of the fuel map in use"""
    fuel_trim: float | None = quantity(-0.4, 0.6, "1", "richness", None, source="assumption: none")
    """trim over the whole map, + = richer"""
    premix_ratio: float | None = quantity(10, 120, "1", "number", None, source="assumption: no oil in the fuel")
    """litres of petrol to one litre of oil; left out = none"""
    fork_spring_rate_n_per_m: float = quantity(1000, 20000, "N/m", "spring_rate")
    """rate of the spring in one leg, both legs alike"""
    fork_preload_m: float = quantity(0, 0.04, "m", "preload", 0.005, source="assumption")
    """length by which the fork springs are squeezed, topped out"""
    shock_spring_rate_n_per_m: float = quantity(10000, 250000, "N/m", "spring_rate")
    """rate of the shock spring"""
    shock_preload_m: float = quantity(0, 0.04, "m", "preload", 0.010, source="assumption")
    """length by which the shock spring is squeezed, topped out"""
    tank_capacity_m3: float | None = quantity(0.001, 0.04, "m^3", "volume", None, source="needed with an engine that burns fuel")
    """what the fitted tank holds"""
    fuel_fill_m3: float | None = quantity(0.0005, 0.04, "m^3", "volume", None, source="assumption: tank full")
    """fuel aboard at the start"""
    pack_energy_j: float | None = quantity(1e6, 1.2e8, "J", "energy", None, source="needed with an electric motor")
    """nominal energy of the fitted pack"""
    charge_share: float | None = quantity(0.2, 1.0, "1", "share", None, source="assumption: fully charged")
    """charge at the start"""
    power_mode: int | None = quantity(1, 8, "1", "count", None, source="assumption: the strongest")
    """power mode, 1 = strongest"""
    part_ids: dict[str, str] = Field(default_factory=dict)
    """field name -> id of the part it came from"""

    @property
    def fill_m3(self) -> float:
        """Fuel aboard at the start [m3]; none without a tank."""
        return (self.tank_capacity_m3 or 0.0) if self.fuel_fill_m3 is None else self.fuel_fill_m3


class PartsBox(Part):
    """What the rider owns, by tunable."""

    front_sprocket_teeth: tuple[float, ...] = ()
    rear_sprocket_teeth: tuple[float, ...] = ()
    main_jet: tuple[float, ...] = ()
    fork_spring_rate_n_per_m: tuple[float, ...] = ()
    shock_spring_rate_n_per_m: tuple[float, ...] = ()
    tank_capacity_m3: tuple[float, ...] = ()
    metering_rod: tuple[float, ...] = ()
    pack_energy_j: tuple[float, ...] = ()

    def owned(self, tunable: str) -> tuple[float, ...]:
        """Values owned for one tunable; empty for a tunable that needs no part."""
        return getattr(self, tunable, ())
