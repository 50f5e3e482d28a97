"""The round as it is looked along: what it is made of, what rules it, what happens at one place."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.road import RiddenSpeed
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.course.prepare import rise_over_run
from lynxwort.core.physics.drive.kernel import LIMITS
from lynxwort.core.physics.drive.simulation import Ride
from lynxwort.core.stations.drive.input import DriveInput

Array = NDArray[np.float64]
#: stretches that are told apart by what rules them, and the share of one from which power or grip rules it (assumption)
STRETCHES, NOTABLE_SHARE = 260, 0.3


def runs(codes: NDArray[np.int64]) -> list[tuple[int, int, int]]:
    """Runs of equal codes: (from, to, code)."""
    edges = np.flatnonzero(np.diff(codes)) + 1
    starts, ends = np.concatenate([[0], edges]), np.concatenate([edges, [codes.size]])
    return [(int(a), int(b), int(codes[a])) for a, b in zip(starts, ends, strict=True)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """One stage of the round. name, kind: as the race has them; from_m: where it begins on the round [m]."""

    name: str
    kind: str
    from_m: float
    length_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RoundView:
    """The round. distance_m, height_m: shape (n + 1,); stages; ground: stretches (from m, to m, code); points: (m, "refuel" or "crew", name);
    zones: (from m, to m, kind).
    """

    distance_m: Array
    height_m: Array
    stages: tuple[Reach, ...]
    ground: tuple[tuple[float, float, str], ...]
    points: tuple[tuple[float, str, str], ...]
    zones: tuple[tuple[float, float, str], ...]

    @property
    def length_m(self) -> float:
        return float(self.distance_m[-1])


def round_view(up: Upstream) -> RoundView:
    """The round of the race."""
    around, stages = up.around, up.inputs.race.stages
    course, found = around.whole, list[tuple[float, str, str]]()
    starts = [float(s) for s in around.starts_m]
    for start, stage in zip(starts, stages, strict=False):
        found += [(start + p.at_m, "refuel", p.name) for p in stage.refuel_points] + [(start + p.at_m, "crew", p.name) for p in stage.crew_points]
    return RoundView(
        distance_m=course.distance_m,
        height_m=course.height_m,
        stages=tuple(Reach(name=s.name, kind=s.kind, from_m=start, length_m=c.length_m) for s, start, c in zip(stages, starts, around.courses, strict=False)),
        ground=tuple((float(course.distance_m[a]), float(course.distance_m[b]), GROUNDS[c]) for a, b, c in runs(course.ground)),
        points=tuple(sorted(found)),
        zones=tuple(
            (start + z.from_m, start + min(z.to_m, c.length_m), z.kind) for s, start, c in zip(stages, starts, around.courses, strict=False) for z in s.zones
        ),
    )


def length_m(up: Upstream) -> float:
    """Length of the round [m]."""
    return up.around.whole.length_m


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """What is at a place of the round and what the model does there. stage: its index; throttle_share: of full opening, None of a motor."""

    at_m: float
    stage: int
    ground: str
    grade: float
    gear: int
    geared: bool
    rpm: float
    speed_m_per_s: float
    throttle_share: float | None
    limit: str


def _place(given: DriveInput, ride: Ride, at_m: float, i: int) -> Place:
    around, lift = given.lap.around, given.lap.lift
    return Place(
        at_m=at_m, stage=around.stage_at(at_m), ground=GROUNDS[int(around.whole.ground[i])], grade=float(rise_over_run(float(around.whole.sine[i]))),
        gear=int(ride.gear[i]), geared=len(given.lap.what.overall_ratios) > 1, rpm=float(ride.crank_rad_per_s[i]) * 60.0 / (2.0 * np.pi),
        speed_m_per_s=float(ride.speed_m_per_s[i]), throttle_share=None if lift is None else float(lift[i]), limit=LIMITS[int(ride.limit[i])],
    )  # fmt: skip


def place(given: DriveInput, at_m: float) -> Place:
    """One place of the round [m]."""
    return _place(given, given.lap.whole, at_m, given.lap.around.step_at(at_m))


def places(given: DriveInput, count: int) -> list[Place]:
    """Evenly spaced places of the round, its ends among them."""
    course = given.lap.around.whole
    at = np.linspace(0.0, course.length_m, count)
    steps = np.minimum(np.searchsorted(course.distance_m, at, side="right") - 1, course.sine.size - 1)
    return [_place(given, given.lap.whole, a, i) for a, i in zip(at.tolist(), steps.tolist(), strict=True)]


def ruled_by(given: DriveInput, groups: Mapping[str, str]) -> list[tuple[float, float, str]]:
    """Stretches of the round by what rules them: (from m, to m, group). groups: limit code -> "power", "grip" or "pace".

    A stretch counts as held up by power or grip when that rules a good part of it; else by corners and pace.
    """
    names = sorted(set(groups.values()))
    table = np.array([names.index(groups[n]) for n in LIMITS])
    bins = np.array_split(table[given.lap.whole.limit], STRETCHES)
    shares = np.array([np.bincount(b, minlength=len(names)) / b.size for b in bins])
    notable = [names.index("power"), names.index("grip")]
    most = np.where(shares[:, notable].max(axis=1) >= NOTABLE_SHARE, np.take(notable, shares[:, notable].argmax(axis=1)), names.index("pace"))
    length = given.lap.around.whole.length_m
    return [(a * length / STRETCHES, b * length / STRETCHES, names[c]) for a, b, c in runs(most)]


def speed_along(given: DriveInput) -> Array:
    """Speed by the model per step of the round [m/s]."""
    return given.lap.whole.speed_m_per_s


def power_along(given: DriveInput) -> Array:
    """Share of standard power per step of the round [1]."""
    return given.lap.power_share


def ridden_speed(up: Upstream) -> RiddenSpeed | None:
    """This rider's newest ridden lap; None without one."""
    return up.road.ridden_speed()


def lap_of(given: DriveInput) -> Lap:
    """The round as it is ridden, as a key of what is made of it."""
    return given.lap


def document(up: Upstream) -> Inputs:
    """The document that a report speaks of."""
    return up.inputs
