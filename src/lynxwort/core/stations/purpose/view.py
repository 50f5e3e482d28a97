"""Purpose's drawings: the round along and from above, the power that its air leaves."""

import itertools
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.along import MOST_POINTS, runs, thin
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.purpose.times import ground_shares, stage_times
from lynxwort.core.stations.station import Views

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """One stage of the round. name, kind: as the race has them; from_m: where it begins on the round [m]."""

    name: str
    kind: str
    from_m: float
    length_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RoundView:
    """The round. distance_m, height_m: thinned, shape (POINTS,); lowest_m, highest_m: of all of it; stages;
    ground: stretches (from m, to m, code); points: (m, "refuel" or "crew", name); zones: (from m, to m, kind).
    """

    distance_m: Array
    height_m: Array
    lowest_m: float
    highest_m: float
    stages: tuple[Reach, ...]
    ground: tuple[tuple[float, float, str], ...]
    points: tuple[tuple[float, str, str], ...]
    zones: tuple[tuple[float, float, str], ...]

    @property
    def length_m(self) -> float:
        return float(self.distance_m[-1])


def round_view(given: PurposeInput) -> RoundView:
    """The round of the race."""
    around, stages = given.clock.around, given.clock.stages
    course, found = around.whole, list[tuple[float, str, str]]()
    starts = [float(s) for s in around.starts_m]
    for start, stage in zip(starts, stages, strict=False):
        found += [(start + p.at_m, "refuel", p.name) for p in stage.refuel_points] + [
            (start + p.at_m, "crew", p.name) for p in stage.crew_points
        ]
    return RoundView(
        distance_m=thin(course.distance_m),
        height_m=thin(course.height_m),
        lowest_m=float(course.height_m.min()),
        highest_m=float(course.height_m.max()),
        stages=tuple(
            Reach(name=s.name, kind=s.kind, from_m=start, length_m=c.length_m)
            for s, start, c in zip(stages, starts, around.courses, strict=False)
        ),
        ground=tuple(
            (float(course.distance_m[a]), float(course.distance_m[b]), GROUNDS[c]) for a, b, c in runs(course.ground)
        ),
        points=tuple(sorted(found)),
        zones=tuple(
            (start + z.from_m, start + min(z.to_m, c.length_m), z.kind)
            for s, start, c in zip(stages, starts, around.courses, strict=False)
            for z in s.zones
        ),
    )


def power_along(given: PurposeInput) -> Array:
    """Share of standard power along the round [1]: shape (POINTS,)."""
    return thin(given.clock.own.power_share)


@dataclass(frozen=True, kw_only=True)
class Plan:
    """One stage from above. east_m, north_m: shape (n,), thinned; runs: (from index, to index, ground); at_m: (east,
    north) of the place looked at.
    """

    stage: int
    east_m: np.ndarray
    north_m: np.ndarray
    runs: tuple[tuple[int, int, str], ...]
    at_m: tuple[float, float] | None


def plan(given: PurposeInput, at_m: float | None = None) -> Plan:
    """The stage that has a place of the round [m] from above (the first without one)."""
    around = given.clock.around
    stage = 0 if at_m is None else around.stage_at(at_m)
    line, ground = around.lines[stage], around.courses[stage].ground
    step = -(-line.distance_m.size // MOST_POINTS)
    starts = np.concatenate([[0], np.flatnonzero(np.diff(ground)) + 1, [ground.size]])
    runs = tuple((int(a // step), int(b // step), GROUNDS[int(ground[a])]) for a, b in itertools.pairwise(starts))
    at = None
    if at_m is not None:
        on_stage = at_m - float(around.starts_m[stage])
        at = (
            float(np.interp(on_stage, line.distance_m, line.east_m)),
            float(np.interp(on_stage, line.distance_m, line.north_m)),
        )
    return Plan(stage=stage, east_m=line.east_m[::step], north_m=line.north_m[::step], runs=runs, at_m=at)


VIEWS: Views = {
    "round": round_view,
    "above": plan,
    "power": power_along,
    "ground": ground_shares,
    "stages": stage_times,
}
