"""All that Trials reads."""

from collections.abc import Callable

from lynxwort.core.cache import Once, keyed
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.defaults import USUAL_WHOOP_M
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import Race
from lynxwort.core.model.trials import RiddenDay, Trial


@keyed
class TrialsInput(Once):
    """trials, days: of this bike, the oldest first, whoever rode them; rider: the name of who is entered; courses: keys
    of the race's; laps: of the race that go over its whoops; starters: bikes on the course; whoops: height and length
    of its deepest [m], None without any.
    """

    trials: tuple[Trial, ...]
    days: tuple[RiddenDay, ...]
    rider: str
    courses: tuple[str, ...]
    laps: int
    starters: int
    whoops: tuple[float, float] | None

    @classmethod
    def of(cls, up: Upstream) -> "TrialsInput":
        return up.once("trials", lambda: cls._made(up.inputs, lambda: up.clock.laps))

    @classmethod
    def _made(cls, inputs: Inputs, hours_laps: Callable[[], int]) -> "TrialsInput":
        race = inputs.race
        where = deepest_whoops(race)
        stage = race.stages[where[0] if where else 0]
        return cls(
            trials=inputs.trials,
            days=inputs.days,
            rider=inputs.rider.name,
            courses=tuple(s.course_key for s in race.stages),
            # by hours as many as are likeliest
            laps=stage.laps if stage.hours_s is None else hours_laps(),
            starters=race.starters,
            whoops=where[1:] if where else None,
        )

    @property
    def own(self) -> tuple[Trial, ...]:
        """The rider's own."""
        return tuple(t for t in self.trials if t.rider == self.rider)

    @property
    def own_days(self) -> tuple[RiddenDay, ...]:
        """Days that the rider rode."""
        return tuple(d for d in self.days if d.rider == self.rider)

    @property
    def current(self) -> Trial | None:
        """The trial that is spoken of: the newest that is still open, else the newest."""
        still = [t for t in self.own if t.outcome == "open"]
        found = still or list(self.own)
        return found[-1] if found else None

    @property
    def others(self) -> tuple[Trial, ...]:
        """Trials of the same question by others."""
        now = self.current
        return (
            () if now is None else tuple(t for t in self.trials if t.question == now.question and t.rider != now.rider)
        )


def deepest_whoops(race: Race) -> tuple[int, float, float] | None:
    """The deepest whoops of the race: which stage, height and length [m]."""
    found = [
        (i, part.whoop_height_m or USUAL_WHOOP_M[1], part.whoop_length_m or USUAL_WHOOP_M[0])
        for i, stage in enumerate(race.stages)
        for part in stage.ground
        if part.ground == "whoops"
    ]
    return max(found, key=lambda w: w[1]) if found else None
