"""The setup: every value on the bike that a hand can change."""

from pydantic import Field

from lynxwort.core.model.base import Part, quantity


class Setup(Part):
    """All that can be swapped or turned. Fitted parts stand by value; `part_ids` says which part they came from."""

    front_sprocket_teeth: int = quantity(8, 20, "1", "count")
    """teeth of the countershaft sprocket"""
    rear_sprocket_teeth: int = quantity(28, 70, "1", "count")
    """teeth of the wheel sprocket"""
    main_jet: float = quantity(30, 900, "1", "number")
    """number on the main jet"""
    needle_clip: int = quantity(1, 12, "1", "count", 3, source="assumption: middle groove")
    """clip groove counted from the top: 1 = needle lowest = leanest"""
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
    tank_capacity_m3: float = quantity(0.001, 0.04, "m^3", "volume")
    """what the fitted tank holds"""
    fuel_fill_m3: float | None = quantity(0.0005, 0.04, "m^3", "volume", None, source="assumption: tank full")
    """fuel aboard at the start"""
    part_ids: dict[str, str] = Field(default_factory=dict)
    """field name -> id of the part it came from"""

    @property
    def fill_m3(self) -> float:
        return self.tank_capacity_m3 if self.fuel_fill_m3 is None else self.fuel_fill_m3


class PartsBox(Part):
    """What the rider owns, by tunable."""

    front_sprocket_teeth: tuple[float, ...] = ()
    rear_sprocket_teeth: tuple[float, ...] = ()
    main_jet: tuple[float, ...] = ()
    fork_spring_rate_n_per_m: tuple[float, ...] = ()
    shock_spring_rate_n_per_m: tuple[float, ...] = ()
    tank_capacity_m3: tuple[float, ...] = ()

    def owned(self, tunable: str) -> tuple[float, ...]:
        """Values owned for one tunable; empty for a tunable that needs no part."""
        return getattr(self, tunable, ())
