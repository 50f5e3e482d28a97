"""All that Damping reads."""

from functools import cached_property

from lynxwort.core.cache import Once, keyed
from lynxwort.core.derived.loads import Loads
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.springs import Springs, Stand
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import StandSetup, SuspensionSetup


@keyed
class DampingInput(Once):
    """springs: fork and shock as learned; setup: how it stands and is damped; lap: the round as it is ridden, whose ground a damper feels."""

    springs: Springs
    setup: SuspensionSetup
    rider: Rider
    lap: Lap
    box: PartsBox

    @classmethod
    def of(cls, up: Upstream) -> "DampingInput":
        inputs = up.inputs
        return up.once(
            "damping",
            lambda: cls(springs=up.springs, setup=SuspensionSetup.taken_from(inputs.setup), rider=inputs.rider, lap=up.lap, box=inputs.parts),
        )

    @property
    def bike(self) -> Bike:
        return self.springs.bike

    @property
    def loads(self) -> Loads:
        return self.springs.loads

    @cached_property
    def stand(self) -> Stand:
        """The bike as it stands."""
        return Stand(springs=self.springs, setup=StandSetup.taken_from(self.setup), rider=self.rider)
