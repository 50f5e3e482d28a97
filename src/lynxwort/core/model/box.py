"""What lies in the parts box, by what it could be fitted as."""

from typing import Annotated

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.damper import StackShim


class Priced(Part):
    """What was said of a part, whether it lies in the box or in a shop. tunable: what it is fitted as; value: as a
    tunable's [SI].
    """

    tunable: str = Field(max_length=40)
    value: float
    cost: float | None = quantity(0.0, 1e6, "1", "number", None, source="not said")
    """its price, in one's own money"""
    work_s: float | None = quantity(0.0, 360_000.0, "s", "minutes", None, source="not said")
    """how long fitting it takes, with opening and closing what must be"""


class PartsBox(Part):
    """What the rider owns, by tunable."""

    front_sprocket_teeth: tuple[float, ...] = ()
    rear_sprocket_teeth: tuple[float, ...] = ()
    main_jet: tuple[float, ...] = ()
    pilot_jet: tuple[float, ...] = ()
    fork_spring_rate_n_per_m: tuple[float, ...] = ()
    shock_spring_rate_n_per_m: tuple[float, ...] = ()
    tank_capacity_m3: tuple[float, ...] = ()
    metering_rod: tuple[float, ...] = ()
    pack_energy_j: tuple[float, ...] = ()
    front_rotor_m: tuple[float, ...] = ()
    rear_rotor_m: tuple[float, ...] = ()
    front_master_m: tuple[float, ...] = ()
    shims: Annotated[tuple[StackShim, ...], Field(max_length=400)] = ()
    """shims lying about, by size"""
    priced: Annotated[tuple[Priced, ...], Field(max_length=400)] = ()
    """parts with a price or a time, and parts that a shop has"""

    @model_validator(mode="after")
    def _fitted(self) -> "PartsBox":
        if any(p.tunable not in PartsBox.model_fields or p.tunable in ("shims", "priced") for p in self.priced):
            raise ValueError("priced:not_a_choice")
        return self

    def owned(self, tunable: str) -> tuple[float, ...]:
        """Values owned for one tunable; empty for a tunable that needs no part."""
        return getattr(self, tunable, ())

    def sold(self, tunable: str) -> tuple[float, ...]:
        """Values that a shop is known to have for one tunable, and that do not lie in the box."""
        has = self.owned(tunable)
        return tuple(p.value for p in self.priced if p.tunable == tunable and p.value not in has)
