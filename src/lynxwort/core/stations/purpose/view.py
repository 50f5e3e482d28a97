"""Purpose's drawings: the round along and from above, the power that its air leaves."""

import itertools
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.along import MOST_POINTS, WHOLE, Part, runs, thin
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
    """The round. distance_m, height_m: thinned, shape (POINTS,); lowest_m, highest_m, length_m: of all of it; stages;
    ground: stretches (from m, to m, code); points: (m, "refuel" or "crew", name); zones: (from m, to m, kind).
    """

    distance_m: Array
    height_m: Array
    lowest_m: float
    highest_m: float
    length_m: float
    stages: tuple[Reach, ...]
    ground: tuple[tuple[float, float, str], ...]
    points: tuple[tuple[float, str, str], ...]
    zones: tuple[tuple[float, float, str], ...]


def round_view(given: PurposeInput, part: Part = WHOLE) -> RoundView:
    """The round of the race; its curve of heights over a part of it."""
    around, stages = given.clock.around, given.clock.stages
    course, found = around.whole, list[tuple[float, str, str]]()
    starts = [float(s) for s in around.starts_m]
    for start, stage in zip(starts, stages, strict=False):
        found += [(start + p.at_m, "refuel", p.name) for p in stage.refuel_points] + [
            (start + p.at_m, "crew", p.name) for p in stage.crew_points
        ]
    return RoundView(
        distance_m=thin(course.distance_m, part=part),
        height_m=thin(course.height_m, part=part),
        lowest_m=float(course.height_m.min()),
        highest_m=float(course.height_m.max()),
        length_m=course.length_m,
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Window:
    """A day or a stage of the round by its number, from 1 [m]; part: the shares of the round's points it takes [1]."""

    kind: str
    number: int
    from_m: float
    to_m: float
    part: Part


def windows(given: PurposeInput) -> tuple[Window, ...]:
    """What of the round may be looked at alone: its days, where the bike stands in a closed park between, and its
    stages; none of a single stage.
    """
    around, stages = given.clock.around, given.clock.stages
    if len(stages) < 2:
        return ()
    edges = [*(float(s) for s in around.starts_m), around.whole.length_m]
    ends = [k + 1 for k, s in enumerate(stages) if s.park_after and k + 1 < len(stages)]
    days = list(itertools.pairwise([0, *ends, len(stages)])) if ends else []
    at = around.whole.distance_m
    shares = [int(np.searchsorted(at, e - 1e-6)) / (at.size - 1) for e in edges]

    def window(kind: str, number: int, first: int, last: int) -> Window:
        part = (shares[first], min(shares[last], 1.0))
        return Window(kind=kind, number=number, from_m=edges[first], to_m=edges[last], part=part)

    return (
        *(window("day", n, a, b) for n, (a, b) in enumerate(days, 1)),
        *(window("stage", k + 1, k, k + 1) for k in range(len(stages))),
    )


def power_along(given: PurposeInput, part: Part = WHOLE) -> Array:
    """Share of standard power along the round [1], or a part of it: shape (POINTS,)."""
    return thin(given.clock.own.power_share, part=part)


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
