"""The race on the clock: refuel and crew points, hand-overs, stops."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import exp, radians

import numpy as np

from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.course.sun import light_at
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
    return given.once("moments", lambda: list(_moments(given)))


def _moments(given: RangeInput) -> Iterator[Moment]:
    stands = {s.opening + 1: s.standing_s for s in planned(given)[0]}
    paces = (exp(-Z90 * given.clock.own.pace_log_sd), 1.0, exp(Z90 * given.clock.own.pace_log_sd))
    clock, begun = [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]

    def moment(step: _Step, standing_s: float = 0.0) -> Moment:
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

    flag = given.clock.stages[0].hours_s
    yield moment(_Step("start", 0, 1, 0.0, 0.0, 0.0, given.clock.whose(0)))
    steps = list(_steps(given))
    for k, step in enumerate(steps):
        clock = [c + step.ridden_s * pace for c, pace in zip(clock, paces, strict=True)]
        if step.kind == "stage":
            allowed = given.clock.stages[step.stage].allowed_s
            begun = clock = (
                clock if allowed is None else [max(c, b + allowed) for c, b in zip(clock, begun, strict=True)]
            )
        elif step.kind != "lap":
            if step.kind == "finish" and flag is not None:
                clock = _after_flag(given, clock, flag)
            standing = {
                "refuel": stands.get(step.number, 0.0),
                "hand_over": given.clock.hand_over_time(step.whose, steps[k + 1].whose)
                if step.kind == "hand_over"
                else 0,
                "work": given.clock.stages[step.stage].work_after_s or 0.0,
            }.get(step.kind, 0.0)
            yield moment(step, standing)
            clock = [c + standing for c in clock]


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
