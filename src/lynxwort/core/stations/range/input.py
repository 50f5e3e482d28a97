"""All that Range reads."""

from lynxwort.core.cache import Once, StageCache, keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.springs import LoadedBike
from lynxwort.core.derived.supply import Supply
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Engine, Frame
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.setup import LoadedSetup
from lynxwort.core.physics.air.along import DayAir


@keyed
class RangeInput(Once):
    """supply: what is aboard against what the race takes; loaded: the bike as it stands; day: the air of the race;
    certainty: with which it is to last [1]; start: of the race [Julian days].
    """

    supply: Supply
    loaded: LoadedBike
    day: DayAir
    box: PartsBox
    certainty: float
    start: float

    @classmethod
    def of(cls, up: Upstream) -> "RangeInput":
        race = up.inputs.race
        return up.once(
            "range",
            lambda: cls(
                supply=up.supply,
                loaded=up.loaded,
                day=up.day.air,
                box=up.inputs.parts,
                certainty=race.certainty,
                start=race.start_julian,
            ),
        )

    @property
    def clock(self) -> Clock:
        return self.supply.clock

    @property
    def setup(self) -> LoadedSetup:
        return self.loaded.setup

    @property
    def engine(self) -> Engine:
        return self.loaded.springs.bike.engine

    @property
    def frame(self) -> Frame:
        return self.loaded.springs.bike.frame

    @property
    def cache(self) -> StageCache:
        return self.clock.around.cache
