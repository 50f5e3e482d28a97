"""What follows from one document, each thing made when it is first asked for."""

from dataclasses import dataclass, replace
from functools import cached_property

from lynxwort.core.cache import Once, StageCache
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.fillups import Refilled, refilled
from lynxwort.core.derived.loads import Loads
from lynxwort.core.derived.mixture import Mixture, Richness
from lynxwort.core.derived.mount import Mount
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.road import Road
from lynxwort.core.derived.springs import LoadedBike, Springs
from lynxwort.core.derived.supply import Supply
from lynxwort.core.derived.track import Round
from lynxwort.core.derived.use import Burn
from lynxwort.core.learned.truth import LEARNED, Truth
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import Reading
from lynxwort.core.model.setup import Setup


@dataclass(frozen=True, kw_only=True)
class Upstream(Once):
    """Each is made from its own input, which alone reads the document. ranges: how far figures may lie off [SI], as
    found by the job that rides for them; truth: what is drawn in the place of what is learned.
    """

    inputs: Inputs
    cache: StageCache
    ranges: tuple[tuple[str, tuple[float, float]], ...] = ()
    truth: Truth = LEARNED

    @classmethod
    def of(cls, inputs: Inputs, cache: StageCache, truth: Truth = LEARNED) -> "Upstream":
        """Of a document, its parts exchanged for equal ones that the cache has met before: keys made of them are told
        apart by a glance.
        """
        one = cache.one
        parts = {
            "bike": one(inputs.bike),
            "setup": one(inputs.setup),
            "parts": one(inputs.parts),
            "riders": tuple(map(one, inputs.riders)),
            "race": one(inputs.race),
            "readings": tuple(map(one, inputs.readings)),
            "trials": tuple(map(one, inputs.trials)),
            "days": tuple(map(one, inputs.days)),
            "service": inputs.service and one(inputs.service),
        }
        return cls(inputs=inputs.model_copy(update=parts), cache=cache, truth=truth)

    def with_setup(self, setup: Setup) -> "Upstream":
        """The same race and bike with another setup."""
        inputs = self.inputs.model_copy(update={"setup": self.cache.one(setup)})
        return Upstream(inputs=inputs, cache=self.cache, truth=self.truth)

    @cached_property
    def live_readings(self) -> tuple[Reading, ...]:
        """Readings that are not struck out."""
        return tuple(r for r in self.inputs.readings if not r.struck_out)

    @cached_property
    def around(self) -> Round:
        return Round.of(self.inputs, self.cache)

    @cached_property
    def day(self) -> Day:
        return Day.of(self.inputs, self.around, self.truth.air)

    @cached_property
    def loads(self) -> Loads:
        return Loads.of(self.inputs, self.cache)

    @cached_property
    def springs(self) -> Springs:
        return Springs.of(self.inputs, self.loads, self.day, self.truth.offsets)

    @cached_property
    def loaded(self) -> LoadedBike:
        return LoadedBike.of(self.inputs, self.springs)

    @cached_property
    def mount(self) -> Mount:
        return Mount.of(self.inputs, self.springs, self.day)

    @cached_property
    def road(self) -> Road:
        return Road.of(self.inputs, self.mount, self.around, self.day, self.truth.ride)

    @cached_property
    def mixture(self) -> Mixture:
        return Mixture.of(self.inputs, self.around)

    @cached_property
    def richness(self) -> Richness:
        return Richness.of(self.inputs, self.mixture, self.day, self.truth.richness)

    @cached_property
    def clock(self) -> Clock:
        return Clock.of(self.inputs, self.road)

    @property
    def lap(self) -> Lap:
        """The round as who is entered rides it, at half the fill."""
        return self.clock.own

    @cached_property
    def burn(self) -> Burn:
        return Burn.of(self.mixture, self.inputs.setup, self.day.air)

    @cached_property
    def refilled(self) -> Refilled:
        return refilled(self.inputs, self.road, self.mixture, self.clock, self.day)

    @cached_property
    def supply(self) -> Supply:
        made = Supply.of(self.inputs, self.clock, self.burn, self.refilled, self.day.air.temperature_low_k)
        use = self.truth.use
        return made if use is None else made.where(use, replace(self, truth=LEARNED).supply)
