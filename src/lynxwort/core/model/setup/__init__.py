"""The setup: every value on the bike that a hand can change, joined of the parts that the stations read."""

from pydantic import Field

from lynxwort.core.model.setup.chassis import ChassisSetup, LoadedSetup
from lynxwort.core.model.setup.damping import DampingSetup, SuspensionSetup
from lynxwort.core.model.setup.drive import DriveSetup
from lynxwort.core.model.setup.fuelling import FuellingSetup
from lynxwort.core.model.setup.kit import CarriedSetup, KitSetup
from lynxwort.core.model.setup.range import RangeSetup, StopFill
from lynxwort.core.model.setup.turned import QUICK, RiderSettings, TeamSetup

__all__ = [
    "QUICK",
    "CarriedSetup",
    "ChassisSetup",
    "DampingSetup",
    "DriveSetup",
    "FuellingSetup",
    "KitSetup",
    "LoadedSetup",
    "RangeSetup",
    "RiderSettings",
    "Setup",
    "StopFill",
    "SuspensionSetup",
    "TeamSetup",
]


class Setup(RangeSetup, TeamSetup, SuspensionSetup, KitSetup, FuellingSetup):
    """All that can be swapped or turned. Fitted parts stand by value; `part_ids` says which part they came from."""

    part_ids: dict[str, str] = Field(default_factory=dict)
    """field name -> id of the part it came from"""

    def for_rider(self, rider: str, leg: int = 0) -> "Setup":
        """The setup as one rider of a team has it, by his name."""
        return self.model_copy(update=self.turned_for(rider, leg)) if self.turned else self
