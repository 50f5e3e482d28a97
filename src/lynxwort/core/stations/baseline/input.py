"""All that Baseline reads."""

import numpy as np

from lynxwort.core.cache import keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.road import RoadLearned
from lynxwort.core.derived.springs import Springs
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.fitted import put_on
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import GROUNDS, WeekPlan
from lynxwort.core.model.readings import KnownGoodReading, Reading
from lynxwort.core.model.setup import CarriedSetup
from lynxwort.core.physics.drive.simulation import FULL_THROTTLE_SHARE
from lynxwort.core.stations.baseline.log import Log, RaceUse
from lynxwort.core.stations.baseline.week import Before


@keyed
class BaselineInput:
    """readings: those not struck out; springs, learned, factor, good: what was learned of them; elsewhere: ids
    of fill-ups of another course; store: what is carried, "fuel" or "energy"; log: of service and gate; use: how the
    race wears the bike; before: the week before it.
    """

    readings: tuple[Reading, ...]
    springs: Springs
    learned: RoadLearned
    factor: LogNormal
    good: KnownGoodReading | None
    elsewhere: tuple[str, ...]
    store: str
    log: Log
    use: RaceUse
    before: Before

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
                log=Log.of(up.inputs.bike, up.inputs.service),
                use=race_use(up.lap, up.clock, up.inputs.race.start),
                before=_before(up.inputs),
            ),
        )


def _before(inputs: Inputs) -> Before:
    race = inputs.race
    items = put_on(inputs.bike, CarriedSetup.taken_from(inputs.setup))
    return Before(
        start=race.start[:10],
        start_s=race.own_start.timestamp(),
        zone=race.time_zone,
        plan=race.week or WeekPlan(),
        items=tuple(i for i in items if i.worked_s is None),
    )


def race_use(lap: Lap, clock: Clock, start: str) -> RaceUse:
    """How the race wears a bike."""
    ride, course = lap.whole, lap.around.whole
    times = np.bincount(course.ground, weights=ride.time_s, minlength=len(GROUNDS)) / ride.lap_time_s
    full = float(ride.time_s[ride.throttle_share >= FULL_THROTTLE_SHARE].sum()) / ride.lap_time_s
    return RaceUse(
        takes_s=ride.lap_time_s * clock.race_m / course.length_m,
        sand_share=min(float(times[GROUNDS.index("sand")] + times[GROUNDS.index("deep_sand")]), 1.0),
        mud_share=min(float(times[GROUNDS.index("mud")]), 1.0),
        full_share=full,
        start=start[:10],
        lap_s=ride.lap_time_s,
    )
