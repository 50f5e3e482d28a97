"""All that Baseline reads."""

from lynxwort.core.cache import keyed
from lynxwort.core.derived.road import RoadLearned
from lynxwort.core.derived.springs import Springs
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.readings import KnownGoodReading, Reading


@keyed
class BaselineInput:
    """readings: those not struck out; springs, learned, factor, good: what was learned of them; elsewhere: ids
    of fill-ups of another course; store: what is carried, "fuel" or "energy".
    """

    readings: tuple[Reading, ...]
    springs: Springs
    learned: RoadLearned
    factor: LogNormal
    good: KnownGoodReading | None
    elsewhere: tuple[str, ...]
    store: str

    @classmethod
    def of(cls, up: Upstream) -> "BaselineInput":
        supply = up.supply
        return up.once(
            "baseline",
            lambda: cls(
                readings=up.live_readings,
                springs=up.springs,
                learned=up.road.learned,
                factor=supply.factor,
                good=up.mixture.good,
                elsewhere=supply.refilled.elsewhere,
                store=supply.store.kind,
            ),
        )
