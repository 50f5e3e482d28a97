"""All that Range reads."""

from lynxwort.core.cache import Once, StageCache, keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.springs import LoadedBike
from lynxwort.core.derived.supply import Supply
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Engine, Frame
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.race import CrewPlan
from lynxwort.core.model.setup import LoadedSetup
from lynxwort.core.physics.air.along import DayAir


@keyed
class RangeInput(Once):
    """supply: what is aboard against what the race takes; loaded: the bike as it stands; day: the air of the race;
    certainty: with which it is to last [1]; start: of the race [Julian days]; swaps_marked: whether a wheel is
    swapped for some rider that the event marked; own: the setup of each of a team, by name and leg, for whom something
    is turned; crew: how the crew gets about, None when nothing was said.
    """

    supply: Supply
    loaded: LoadedBike
    day: DayAir
    box: PartsBox
    certainty: float
    start: float
    swaps_marked: bool
    own: tuple[tuple[tuple[str, int], LoadedSetup], ...]
    crew: CrewPlan | None

    @classmethod
    def of(cls, up: Upstream) -> "RangeInput":
        race = up.inputs.race
        team = {r.name for r in up.inputs.riders} if race.relay is not None else set[str]()
        turned = [t for t in up.inputs.setup.turned if t.rider in team]
        return up.once(
            "range",
            lambda: cls(
                supply=up.supply,
                loaded=up.loaded,
                day=up.day.air,
                box=up.inputs.parts,
                certainty=race.certainty,
                crew=race.crew,
                start=race.start_julian,
                own=tuple(
                    ((t.rider, t.leg), LoadedSetup.taken_from(up.inputs.setup.for_rider(t.rider, t.leg)))
                    for t in turned
                ),
                swaps_marked="wheels" in race.marked
                and any({"front_wheel", "rear_wheel"} & set(t.values) for t in turned),
            ),
        )

    @property
    def clock(self) -> Clock:
        return self.supply.clock

    @property
    def setup(self) -> LoadedSetup:
        return self.loaded.setup

    def setup_of(self, rider: int, leg: int) -> LoadedSetup:
        """The setup as one rider of a team has it on one of his legs, by his number in the document."""
        own, name = dict(self.own), self.clock.who(rider).name
        return own.get((name, leg), own.get((name, 0), self.setup))

    @property
    def engine(self) -> Engine:
        return self.loaded.springs.bike.engine

    @property
    def frame(self) -> Frame:
        return self.loaded.springs.bike.frame

    @property
    def cache(self) -> StageCache:
        return self.clock.around.cache
