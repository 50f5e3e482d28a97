"""The stages of the day and what the round is made of."""

from dataclasses import dataclass

import numpy as np

from lynxwort.core.model.race import GROUNDS
from lynxwort.core.stations.purpose.input import PurposeInput


@dataclass(frozen=True, slots=True, kw_only=True)
class StageTime:
    """One stage of the day. from_m: where it begins on the round; time_s: likely, all its laps; start_s: after the
    race's start.
    """

    index: int
    name: str
    kind: str
    from_m: float
    length_m: float
    laps: int
    time_s: float
    allowed_s: float | None
    start_s: float

    @property
    def just_inside_m(self) -> float:
        """A place of the round that is surely on this stage [m]."""
        return self.from_m + 1.0

    @property
    def spare_s(self) -> float | None:
        return None if self.allowed_s is None else self.allowed_s - self.time_s


def ground_shares(given: PurposeInput) -> dict[str, float]:
    """Share of the round on each ground, largest first."""
    counts = np.bincount(given.clock.around.whole.ground, minlength=len(GROUNDS)) / given.clock.around.whole.ground.size
    return {GROUNDS[i]: float(counts[i]) for i in np.argsort(-counts, kind="stable") if counts[i] > 0}


def stage_times(given: PurposeInput) -> list[StageTime]:
    """The stages in order with their likely times; each starts when the one before is over or its allowed time
    is up.
    """
    found, start = [], 0.0
    for i, (stage, ride) in enumerate(zip(given.clock.stages, given.clock.own.rides, strict=True)):
        laps = given.clock.laps if len(given.clock.around.courses) == 1 else stage.laps
        time = ride.lap_time_s * laps
        found.append(
            StageTime(
                index=i,
                name=stage.name,
                kind=stage.kind,
                from_m=float(given.clock.around.starts_m[i]),
                length_m=given.clock.around.courses[i].length_m,
                laps=laps,
                time_s=time,
                allowed_s=stage.allowed_s,
                start_s=start,
            )
        )
        start += time if stage.allowed_s is None else stage.allowed_s
    return found


def tightest(given: PurposeInput) -> StageTime | None:
    """The scheduled stage with least time in hand; None without a schedule."""
    if not any(s.allowed_s for s in given.clock.stages):
        return None
    return min((s for s in stage_times(given) if s.spare_s is not None), key=lambda s: s.spare_s or 0.0, default=None)
