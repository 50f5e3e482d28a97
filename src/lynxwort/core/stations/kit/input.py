"""All that Kit reads."""

from dataclasses import dataclass

from lynxwort.core.cache import Once, StageCache, keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.loads import Loads
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.springs import LoadedBike
from lynxwort.core.derived.tyres import on_wheel_kg
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.readings import (
    CoolantReading,
    FlatsReading,
    GeneratorReading,
    HandsReading,
    LeverReading,
    RotorReading,
    SoundReading,
)
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.rules import Asked
from lynxwort.core.model.setup import KitSetup, LoadedSetup

ENDS = ("front", "rear")
#: places of fittings that move the sound
SOUNDING = ("exhaust", "exhaust_insert")
KitReading = (
    RotorReading | LeverReading | FlatsReading | HandsReading | CoolantReading | GeneratorReading | SoundReading
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """What a race says of itself: start, loudest allowed [dB] and how it is tested, what it asks for."""

    start: str
    sound_limit_db: float | None
    sound_test: str
    asked: tuple[Asked, ...]


@keyed
class KitInput(Once):
    """clock: the race as it goes; loaded: the bike as it stands; day: its air; brakes: rotors, masters and pads; wet:
    whether some stage is; month: of the start, counted from the year 0; readings: of brakes, tyres and bars;
    course_keys: of the stages; swung: inertia of the front and the rear wheel [kg m2]; event: the race's rules;
    breath: slots of the places in SOUNDING.
    """

    clock: Clock
    loaded: LoadedBike
    day: Day
    brakes: KitSetup
    box: PartsBox
    wet: bool
    month: int
    readings: tuple[KitReading, ...]
    course_keys: tuple[str, ...]
    swung: tuple[LogNormal, LogNormal]
    event: "Event"
    breath: tuple[int, ...]

    @classmethod
    def of(cls, up: Upstream) -> "KitInput":
        inputs = up.inputs
        return up.once(
            "kit",
            lambda: cls(
                clock=up.clock,
                loaded=up.loaded,
                day=up.day,
                brakes=KitSetup.taken_from(inputs.setup),
                box=inputs.parts,
                wet=up.mount.wet,
                month=month_of(inputs.race.start),
                readings=tuple(r for r in up.live_readings if isinstance(r, KitReading)),
                course_keys=tuple(s.course_key for s in inputs.race.stages),
                swung=(up.mount.swung("front"), up.mount.swung("rear")),
                event=Event(
                    start=inputs.race.start,
                    sound_limit_db=inputs.race.sound_limit_db,
                    sound_test=inputs.race.sound_test,
                    asked=inputs.race.asked,
                ),
                breath=tuple(getattr(inputs.setup, place) or 1 for place in SOUNDING),
            ),
        )

    @property
    def lap(self) -> Lap:
        """The round as who is entered rides it."""
        return self.clock.own

    @property
    def bike(self) -> Bike:
        return self.loaded.springs.bike

    @property
    def setup(self) -> LoadedSetup:
        return self.loaded.setup

    @property
    def cache(self) -> StageCache:
        return self.loaded.springs.cache

    @property
    def loads(self) -> Loads:
        return self.loaded.springs.loads

    @property
    def rider(self) -> Rider:
        return self.loaded.rider

    @property
    def rounds(self) -> int:
        """How often the round is ridden."""
        return max(round(self.clock.race_m / self.lap.around.whole.length_m), 1)

    @property
    def race_s(self) -> float:
        """The race as the round is ridden [s]."""
        return self.lap.whole.lap_time_s * self.clock.race_m / self.lap.around.whole.length_m

    def on_wheel_kg(self, end: str) -> float:
        """Mass on a wheel [kg], rider aboard, half the fill."""
        return on_wheel_kg(self.loads, self.setup, self.rider, end)


def month_of(date: str) -> int:
    """Months from the year 0 to a date like 2026-05, or one that begins so."""
    return 12 * int(date[:4]) + int(date[5:7])
