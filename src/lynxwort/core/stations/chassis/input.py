"""All that Chassis reads."""

from lynxwort.core.cache import Once, keyed
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.loads import Loads
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.springs import LoadedBike, Springs, StandingReading
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.fitted import shift_of
from lynxwort.core.model.readings import SteadyReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import LoadedSetup


@keyed
class ChassisInput(Once):
    """loaded: the bike as it stands; lap: the round as it is ridden; radius: of the rear wheel as it rolls [m]; steady:
    the newest setup noted to run straight at speed.
    """

    loaded: LoadedBike
    lap: Lap
    day: Day
    radius: LogNormal
    box: PartsBox
    steady: SteadyReading | None

    @classmethod
    def of(cls, up: Upstream) -> "ChassisInput":
        steady = next((r for r in reversed(up.live_readings) if isinstance(r, SteadyReading)), None)
        return up.once(
            "chassis",
            lambda: cls(
                loaded=up.loaded,
                lap=up.lap,
                day=up.day,
                radius=up.road.learned.radius,
                box=up.inputs.parts,
                steady=steady,
            ),
        )

    @property
    def springs(self) -> Springs:
        return self.loaded.springs

    @property
    def loads(self) -> Loads:
        return self.loaded.springs.loads

    @property
    def setup(self) -> LoadedSetup:
        return self.loaded.setup

    @property
    def rider(self) -> Rider:
        return self.loaded.rider

    @property
    def bike(self) -> Bike:
        return self.loaded.springs.bike

    @property
    def clearance_m(self) -> float:
        """The lowest part above the ground [m], topped out, with what is bolted on."""
        return self.springs.side.ground_clearance_m + shift_of(self.bike, self.setup, "ground_clearance_m")

    @property
    def readings(self) -> tuple[StandingReading, ...]:
        return self.loaded.springs.readings
