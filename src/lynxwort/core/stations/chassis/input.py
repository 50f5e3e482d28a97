"""All that Chassis reads."""

from lynxwort.core.cache import Once, keyed
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.loads import Loads
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.springs import Springs, Stand, StandingReading
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.readings import SteadyReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import StandSetup


@keyed
class ChassisInput(Once):
    """stand: the bike as it stands; lap: the round as it is ridden; radius: of the rear wheel as it rolls [m]; steady:
    the newest setup noted to run straight at speed.
    """

    stand: Stand
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
                stand=up.stand,
                lap=up.lap,
                day=up.day,
                radius=up.road.learned.radius,
                box=up.inputs.parts,
                steady=steady,
            ),
        )

    @property
    def springs(self) -> Springs:
        return self.stand.springs

    @property
    def loads(self) -> Loads:
        return self.stand.springs.loads

    @property
    def setup(self) -> StandSetup:
        return self.stand.setup

    @property
    def rider(self) -> Rider:
        return self.stand.rider

    @property
    def bike(self) -> Bike:
        return self.stand.springs.bike

    @property
    def readings(self) -> tuple[StandingReading, ...]:
        return self.stand.springs.readings
