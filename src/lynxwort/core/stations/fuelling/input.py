"""All that Fuelling reads."""

from lynxwort.core.cache import Once, StageCache, keyed
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.mixture import Mixture, Richness
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.bike import Carburettor, Engine, Jetted, metering_of
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.readings import FeelReading, FlowReading
from lynxwort.core.model.setup import FuellingSetup
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.fuelling.richness import Jetting


@keyed
class FuellingInput(Once):
    """richness: the mixture of this setup in the air of the race; lap: the round as it is ridden; factor: the bike's
    own on computed fuel; fill_m3: fuel at the start [m3]; readings: what was felt, and what flowed.
    """

    richness: Richness
    lap: Lap
    factor: LogNormal
    fill_m3: float
    box: PartsBox
    readings: tuple[FeelReading | FlowReading, ...]

    @classmethod
    def of(cls, up: Upstream) -> "FuellingInput":
        readings = tuple(r for r in up.live_readings if isinstance(r, FeelReading | FlowReading))
        return up.once(
            "fuelling",
            lambda: cls(
                richness=up.richness,
                lap=up.lap,
                factor=up.supply.factor,
                fill_m3=up.inputs.setup.fill_m3,
                box=up.inputs.parts,
                readings=readings,
            ),
        )

    @property
    def mixture(self) -> Mixture:
        return self.richness.mixture

    @property
    def setup(self) -> FuellingSetup:
        return self.richness.setup

    @property
    def day(self) -> Day:
        return self.richness.day

    @property
    def engine(self) -> Engine:
        return self.mixture.engine

    @property
    def proven_jets(self) -> tuple[Carburettor, Jetting, AirState]:
        """The carburettor with the jets that ran right in it and their air: for those who ask only where there are
        some.
        """
        assert isinstance(self.engine, Jetted)
        assert self.mixture.proven is not None
        setting, air = self.mixture.proven
        assert isinstance(setting, Jetting)
        return self.engine.carburettor, setting, air

    @property
    def metering(self) -> str:
        """How the engine is fed: "jetted", "rod", "injected" or "electric"."""
        return metering_of(self.engine.kind)

    @property
    def two_stroke(self) -> bool:
        return self.engine.kind.endswith("two_stroke")

    @property
    def cache(self) -> StageCache:
        return self.lap.cache
