"""What lies in the parts box, by what it could be fitted as."""

from typing import Annotated

from pydantic import Field

from lynxwort.core.model.base import Part
from lynxwort.core.model.damper import StackShim


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

    def owned(self, tunable: str) -> tuple[float, ...]:
        """Values owned for one tunable; empty for a tunable that needs no part."""
        return getattr(self, tunable, ())
