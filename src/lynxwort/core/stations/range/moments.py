"""The race on the clock: refuel and crew points, hand-overs, stops."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from math import exp, radians

import numpy as np

from lynxwort.core.model.defaults import LAP_TIME_LOG_SD, Z90
from lynxwort.core.physics.course.sun import light_at
from lynxwort.core.physics.reach import arrivals
from lynxwort.core.physics.reach.finish import finish_by_hours
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import planned


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """Something on the clock. kind: "start", "refuel", "crew", "work", "park", "hand_over" or "finish"; number: of the
    passing, 0 elsewhere; at_m: of its stage's lap; early_s, likely_s, late_s: after the race's start, central 90 %;
    standing_s: then stood, likely; rider, leg: who rides up to here, on which of his legs; light: at the likely moment
    ("day", "twilight", "dark").
    """

    kind: str
    name: str
    stage: int
    lap: int
    at_m: float
    race_m: float
    early_s: float
    likely_s: float
    late_s: float
    rider: int
    light: str
    leg: int = 0
    number: int = 0
    standing_s: float = 0.0

    @property
    def key(self) -> str:
        """What the same moment is called whatever it is shown in, as long as course and stages stand."""
        return f"{self.kind}-{self.stage}-{self.lap}-{self.number}-{round(self.at_m)}"


@dataclass(frozen=True, slots=True)
class _Step:
    """What happens next. ridden_s: since the last step, at the model's pace; kind "lap" and "stage": the end of one."""

    kind: str
    stage: int
    lap: int
    at_m: float
    race_m: float
    ridden_s: float
    whose: tuple[int, int]
    name: str = ""
    number: int = 0


def _lap_steps(given: RangeInput, stage: int, lap: int, whose: tuple[int, int], begins: float) -> Iterator[_Step]:
    """The points of one lap, then its end."""
    course, here = given.clock.around.courses[stage], given.clock.stages[stage]
    clock = np.concatenate([[0.0], np.cumsum(given.clock.lap(*whose).rides[stage].time_s)])
    points = sorted(
        [(p.at_m, "refuel", p.name) for p in here.refuel_points] + [(p.at_m, "crew", p.name) for p in here.crew_points]
    )
    ridden = 0.0
    for at, kind, name in points:
        if kind == "crew" or at > 0 or begins > 0:
            now = float(np.interp(at, course.distance_m, clock))
            yield _Step(kind, stage, lap, at, begins + at, now - ridden, whose, name)
            ridden = now
    yield _Step("lap", stage, lap, course.length_m, begins + course.length_m, float(clock[-1]) - ridden, whose)


def _steps(given: RangeInput) -> Iterator[_Step]:
    stages = given.clock.stages
    units = [
        (i, lap)
        for i, s in enumerate(stages)
        for lap in range(1, (given.clock.laps if len(stages) == 1 else s.laps) + 1)
    ]
    begins, number = 0.0, 0
    for k, (i, lap) in enumerate(units):
        whose = given.clock.whose(k if len(stages) == 1 else i)
        for step in _lap_steps(given, i, lap, whose, begins):
            number += step.kind == "refuel"
            yield replace(step, number=number) if step.kind == "refuel" else step
        begins += given.clock.around.courses[i].length_m
        ends = k + 1 == len(units) or units[k + 1][0] != i
        if ends and stages[i].refuel_after:
            number += 1
            yield _Step("refuel", i, lap, given.clock.around.courses[i].length_m, begins, 0.0, whose, number=number)
        if ends and k + 1 < len(units) and stages[i].work_after_s:
            yield _Step("work", i, lap, given.clock.around.courses[i].length_m, begins, 0.0, whose)
        if ends and k + 1 < len(units) and stages[i].park_after:
            yield _Step("park", i, lap, given.clock.around.courses[i].length_m, begins, 0.0, whose)
        if k + 1 < len(units) and given.clock.whose(k + 1 if len(stages) == 1 else units[k + 1][0]) != whose:
            yield _Step("hand_over", i, lap, given.clock.around.courses[i].length_m, begins, 0.0, whose)
        if ends:
            yield _Step(
                "stage" if k + 1 < len(units) else "finish",
                i,
                lap,
                given.clock.around.courses[i].length_m,
                begins,
                0.0,
                whose,
            )


def moments(given: RangeInput) -> list[Moment]:
    """The race on the clock at its median number of laps: standing times of the stops in force and hand-overs counted;
    a stage on a schedule ends with its allowed time, or when it is ridden if that is later.
    """
    return given.once("moments", lambda: list(_moments(given, {})))


def live(given: RangeInput, came_s: Mapping[str, float]) -> list[Moment]:
    """The race on the clock with what came by. came_s: seconds after the start by the moments' keys. A moment that
    came is at its hour; those after the last one follow from it and from the pace that the hours up to it say. An hour
    before that of a moment earlier in the race is passed over: one of the two was tapped in the wrong row.
    """
    return list(_moments(given, came_s)) if came_s else moments(given)


class _Clock:
    """The race as it goes by. base: early, likely and late hour of where it was last certain, with what was stood
    since; riding_s, stood_s: likely riding and standing since then; since_s: from when the next hour that comes counts.
    """

    def __init__(self, given: RangeInput, came_s: Mapping[str, float]) -> None:
        self.given, self.came_s = given, came_s
        self.base, self.begun = [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]
        self.riding_s = self.stood_s = self.since_s = 0.0
        self.ridden: list[float] = []
        self.took: list[float] = []
        self.moved = False

    def now(self, kind: str = "") -> list[float]:
        """Early, likely and late, by the pace that the hours up to here say, else by the one that is believed."""
        own, flag = self.given.clock.own, self.given.clock.stages[0].hours_s
        if self.moved:
            pace = arrivals.pace_given(
                self.ridden, self.took, pace_sd=own.pace_log_sd, lap_sd=LAP_TIME_LOG_SD,
                lap_s=self.given.clock.lap_time_s,
            )  # fmt: skip
            ahead: Sequence[float] = pace.ahead(self.riding_s)
        else:
            wide = exp(Z90 * own.pace_log_sd)
            ahead = (self.riding_s / wide, self.riding_s, self.riding_s * wide)
        clock = [b + a for b, a in zip(self.base, ahead, strict=True)]
        if kind != "finish" or flag is None:
            return clock
        return [max(c, flag) for c in clock] if self.moved else _after_flag(self.given, clock, flag)

    def stage_ends(self, stage: int) -> None:
        """A stage on a schedule ends with its allowed time: where the next begins is certain again."""
        clock, allowed = self.now(), self.given.clock.stages[stage].allowed_s
        if allowed is not None:
            clock = [max(c, b + allowed) for c, b in zip(clock, self.begun, strict=True)]
            self.base, self.riding_s, self.stood_s, self.since_s = clock, 0.0, 0.0, clock[1]
        self.begun = clock

    def comes(self, key: str) -> bool:
        """Whether this moment came by; its hour counts from here on. Told in the race's order."""
        at = self.came_s.get(key)
        took = None if at is None else at - self.since_s - self.stood_s
        if at is None or took is None or (took <= 0.0 and (self.riding_s > 0.0 or self.moved)):
            return False
        if self.riding_s > 0.0:
            self.ridden.append(self.riding_s)
            self.took.append(took)
        self.base, self.riding_s, self.stood_s, self.since_s, self.moved = [at] * 3, 0.0, 0.0, at, True
        return True

    def stands(self, standing_s: float) -> None:
        """Nobody rides for so long."""
        self.base, self.stood_s = [b + standing_s for b in self.base], self.stood_s + standing_s


def _moment(given: RangeInput, step: _Step, clock: Sequence[float], standing_s: float) -> Moment:
    return Moment(
        kind=step.kind,
        name=step.name,
        stage=step.stage,
        lap=step.lap,
        at_m=step.at_m,
        race_m=step.race_m,
        early_s=clock[0],
        likely_s=clock[1],
        late_s=clock[2],
        rider=step.whose[0],
        leg=step.whose[1],
        number=step.number,
        standing_s=standing_s,
        light=light(given, step.stage, clock[1]),
    )


def _standing(given: RangeInput, step: _Step, after: _Step | None, stops: Mapping[int, float]) -> float:
    if step.kind == "refuel":
        return stops.get(step.number, 0.0)
    if step.kind == "hand_over" and after is not None:
        return given.clock.hand_over_time(step.whose, after.whose)
    return given.clock.stages[step.stage].work_after_s or 0.0 if step.kind == "work" else 0.0


def _moments(given: RangeInput, came_s: Mapping[str, float]) -> Iterator[Moment]:
    stops = {s.opening + 1: s.standing_s for s in planned(given)[0]}
    clock = _Clock(given, came_s)
    steps = [_Step("start", 0, 1, 0.0, 0.0, 0.0, given.clock.whose(0)), *_steps(given)]
    for step, after in zip(steps, [*steps[1:], None], strict=True):
        clock.riding_s += step.ridden_s
        if step.kind == "stage":
            clock.stage_ends(step.stage)
        elif step.kind != "lap":
            made = _moment(given, step, clock.now(step.kind), _standing(given, step, after, stops))
            if clock.comes(made.key):
                made = replace(
                    made,
                    early_s=clock.since_s,
                    likely_s=clock.since_s,
                    late_s=clock.since_s,
                    light=light(given, step.stage, clock.since_s),
                )
            yield made
            clock.stands(made.standing_s)


def _after_flag(given: RangeInput, clock: list[float], flag_s: float) -> list[float]:
    """Early, likely and late finish of a race by hours [s]: the lap under way at the flag is the last, so nobody
    finishes before it.
    """
    lap_s = given.clock.lap_time_s
    standing = clock[1] - given.clock.laps * given.clock.own.whole.lap_time_s
    early, late = finish_by_hours(flag_s, lap_s, common_sd=given.clock.own.pace_log_sd)
    likely = max(clock[1], flag_s)
    return [min(early + max(standing, 0.0), likely), likely, max(late + max(standing, 0.0), likely)]


def light(given: RangeInput, stage: int, after_s: float) -> str:
    """What light there is where a stage starts, so long after the race's start."""
    track = given.clock.around.given[stage].track
    return light_at(given.start + after_s / 86_400.0, radians(track.latitude_deg[0]), radians(track.longitude_deg[0]))
