"""All that Damping reads."""

from lynxwort.core.cache import Once, keyed
from lynxwort.core.derived.loads import Loads
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.springs import LoadedBike, Springs
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import SuspensionSetup


@keyed
class DampingInput(Once):
    """loaded: the bike as it stands; setup: how it stands and is damped; lap: the round as it is ridden, whose ground a
    damper feels; force_factor: on the dampers' forces, as drawn.
    """

    loaded: LoadedBike
    setup: SuspensionSetup
    lap: Lap
    box: PartsBox
    force_factor: float = 1.0

    @classmethod
    def of(cls, up: Upstream) -> "DampingInput":
        inputs = up.inputs
        return up.once(
            "damping",
            lambda: cls(
                loaded=up.loaded,
                setup=SuspensionSetup.taken_from(inputs.setup),
                lap=up.lap,
                box=inputs.parts,
                force_factor=up.truth.damping_factor,
            ),
        )

    @property
    def springs(self) -> Springs:
        return self.loaded.springs

    @property
    def rider(self) -> Rider:
        return self.loaded.rider

    @property
    def bike(self) -> Bike:
        return self.springs.bike

    @property
    def loads(self) -> Loads:
        return self.springs.loads
