"""The race as it goes: passings of refuel and crew points, hand-overs and stops on the clock; and where to stop, for how much."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil, exp, radians

import numpy as np

from lynxwort.core.cache import Key
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.race import RefuelPoint
from lynxwort.core.physics.course.sun import light_at
from lynxwort.core.physics.reach import stops
from lynxwort.core.physics.reach.finish import finish_by_hours, sections_over
from lynxwort.core.physics.reach.stops import Course, Fill, Opening, Plan, Stop, Tank

#: a refuel point's rate and fixed time when nothing is said (assumption): a dump can; in, off, on, out; a pack is lifted out and in
RATE_M3_PER_S, FIXED_S, SWAP_S = 0.0005, 20.0, 60.0
#: levels are planned in steps of a tenth of a litre [m3]
LEVEL_STEP_M3 = 0.0001


@dataclass(frozen=True, slots=True, kw_only=True)
class Passed:
    """One passing of a refuel point. number: counted from 1 over the race; at_m: of its stage's lap; race_m: of the race; lap: from 1."""

    number: int
    name: str
    stage: int
    lap: int
    at_m: float
    race_m: float
    opening: Opening


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """Something on the clock. kind: "start", "refuel", "crew", "hand_over" or "finish"; number: of the passing, 0 elsewhere; at_m: of its stage's
    lap; early_s, likely_s, late_s: after the race's start, central 90 %; standing_s: then stood, likely; rider: who rides up to here;
    light: at the likely moment ("day", "twilight", "dark").
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
    number: int = 0
    standing_s: float = 0.0


def opening_of(work: Upstream, point: RefuelPoint | None) -> Opening:
    """A refuel point's rate and times; None: fuel after a stage."""
    fuel = work.supply.store.kind == "fuel"
    rate = RATE_M3_PER_S if point is None or point.rate_m3_per_s is None else point.rate_m3_per_s
    fixed = (FIXED_S if fuel else SWAP_S) if point is None or point.fixed_s is None else point.fixed_s
    return Opening(fixed_s=fixed, per_unit_s=1.0 / rate if fuel else 0.0, must=point is not None and point.must_stop)


def passed(work: Upstream, laps: int) -> list[Passed]:
    """Every passing of a refuel point of a race of so many laps, in order: those of finish.sections_over."""
    found: list[Passed] = []
    begins, begun = 0.0, False
    stages = work.inputs.race.stages
    for i, stage in enumerate(stages):
        length = work.around.courses[i].length_m
        for lap in range(1, (laps if len(stages) == 1 else stage.laps) + 1):
            for point in sorted(stage.refuel_points, key=lambda p: p.at_m):
                if begun or point.at_m > 0:
                    found.append(Passed(number=len(found) + 1, name=point.name, stage=i, lap=lap, at_m=point.at_m, race_m=begins + point.at_m,
                                        opening=opening_of(work, point)))  # fmt: skip
            begins, begun = begins + length, True
        if stage.refuel_after:
            found.append(Passed(number=len(found) + 1, name="", stage=i, lap=stage.laps, at_m=length, race_m=begins, opening=opening_of(work, None)))
    return found


def course_of(work: Upstream, laps: int) -> Course:
    """The race as sections between the passings of its refuel points."""
    sections = tuple(tuple(s) for s in sections_over(work.supply.pieces(laps)))
    return Course(openings=tuple(p.opening for p in passed(work, laps)), sections=sections)


def tank_of_work(work: Upstream) -> Tank:
    store = work.supply.store
    return Tank(start=store.aboard, capacity=store.capacity if store.kind == "fuel" else store.aboard, unusable=store.unusable)


def best_plan(work: Upstream) -> Plan | None:
    """The quickest stops that meet the wanted certainty with the tank as filled at the start, for the likely laps; None = none does."""
    course, tank = course_of(work, work.clock.laps), tank_of_work(work)

    def plan() -> Plan | None:
        found = stops.best_plan(course, tank, work.supply.factor, work.inputs.race.certainty)
        return None if found is None else measured_out(work, course, tank, found)

    return work.cache.get("stop_plan", Key(course, tank, work.supply.factor, work.inputs.race.certainty), plan)


def measured_out(work: Upstream, course: Course, tank: Tank, plan: Plan) -> Plan:
    """A plan with its levels in steps that a hand can pour, rounded up: never less sure."""
    if work.supply.store.kind != "fuel":
        return plan
    levels = [(s.opening, min(ceil(round(s.level / LEVEL_STEP_M3, 6)) * LEVEL_STEP_M3, tank.capacity)) for s in plan.stops]
    return stops.plan_of(course, tank, work.supply.factor, levels, plan.quantile)


def planned(work: Upstream) -> tuple[list[Stop], str]:
    """Stops in force at the most likely laps, and whence: "kept" (the setup's), "best" (none kept: the best plan), or "every" (no plan does it)."""
    course, tank = course_of(work, work.clock.laps), tank_of_work(work)
    if work.supply.taken is not None:
        return filled(work, course, tank, work.supply.taken), "kept"
    best = best_plan(work)
    if best is not None:
        return list(best.stops), "best"
    return filled(work, course, tank, {n + 1: Fill(amount=tank.start) for n in range(len(course.openings))}), "every"


def filled(work: Upstream, course: Course, tank: Tank, fills: dict[int, Fill]) -> list[Stop]:
    """Likely level, volume taken and standing time of each stop."""
    found, left = [], tank.start
    for k, opening in enumerate(course.openings):
        left = max(left - sum(course.sections[k]) * work.supply.factor.median, 0.0)
        fill = fills.get(k + 1)
        if fill is None:
            continue
        level = min(left + fill.amount, tank.capacity) if fill.add else max(min(fill.amount, tank.capacity), left)
        found.append(Stop(opening=k, level=level, added=level - left, standing_s=opening.fixed_s + (level - left) * opening.per_unit_s))
        left = level
    return found


def chance_by(work: Upstream, start: float, fills: dict[int, Fill], factor_shift: float = 0.0) -> float:
    """Chance to finish with this at the start and these fills at the passings, over the ways the race may go."""
    tank = tank_of_work(work)
    factor = replace(work.supply.factor, log_mean=work.supply.factor.log_mean + factor_shift * work.supply.factor.log_sd)
    total = 0.0
    for laps, chance in work.clock.lap_chances:
        course = course_of(work, laps)
        fills = fills | work.supply.fills_of_extra(laps)
        used = [n for n in sorted(fills) if n <= len(course.openings)]
        legs = stops.legs_of(course, [n - 1 for n in used])
        total += chance * stops.chance_of(start - tank.unusable, [_usable(fills[n], tank) for n in used], legs, factor, most=tank.capacity - tank.unusable)
    return total


def _usable(fill: Fill, tank: Tank) -> Fill:
    return fill if fill.add else Fill(amount=max(fill.amount - tank.unusable, 0.0))


@dataclass(frozen=True, slots=True)
class _Step:
    """What happens next. ridden_s: since the last step, at the model's pace; kind "lap" and "stage": the end of one."""

    kind: str
    stage: int
    lap: int
    at_m: float
    race_m: float
    ridden_s: float
    rider: int
    name: str = ""
    number: int = 0


def _lap_steps(work: Upstream, stage: int, lap: int, rider: int, begins: float) -> Iterator[_Step]:
    """The points of one lap, then its end."""
    course, here = work.around.courses[stage], work.inputs.race.stages[stage]
    clock = np.concatenate([[0.0], np.cumsum(work.clock.lap(rider).rides[stage].time_s)])
    points = sorted([(p.at_m, "refuel", p.name) for p in here.refuel_points] + [(p.at_m, "crew", p.name) for p in here.crew_points])
    ridden = 0.0
    for at, kind, name in points:
        if kind == "crew" or at > 0 or begins > 0:
            now = float(np.interp(at, course.distance_m, clock))
            yield _Step(kind, stage, lap, at, begins + at, now - ridden, rider, name)
            ridden = now
    yield _Step("lap", stage, lap, course.length_m, begins + course.length_m, float(clock[-1]) - ridden, rider)


def _steps(work: Upstream) -> Iterator[_Step]:
    stages = work.inputs.race.stages
    units = [(i, lap) for i, s in enumerate(stages) for lap in range(1, (work.clock.laps if len(stages) == 1 else s.laps) + 1)]
    begins, number = 0.0, 0
    for k, (i, lap) in enumerate(units):
        rider = work.clock.rider_of(k if len(stages) == 1 else i)
        for step in _lap_steps(work, i, lap, rider, begins):
            number += step.kind == "refuel"
            yield replace(step, number=number) if step.kind == "refuel" else step
        begins += work.around.courses[i].length_m
        ends = k + 1 == len(units) or units[k + 1][0] != i
        if ends and stages[i].refuel_after:
            number += 1
            yield _Step("refuel", i, lap, work.around.courses[i].length_m, begins, 0.0, rider, number=number)
        if k + 1 < len(units) and work.clock.rider_of(k + 1 if len(stages) == 1 else units[k + 1][0]) != rider:
            yield _Step("hand_over", i, lap, work.around.courses[i].length_m, begins, 0.0, rider)
        if ends:
            yield _Step("stage" if k + 1 < len(units) else "finish", i, lap, work.around.courses[i].length_m, begins, 0.0, rider)


def moments(work: Upstream) -> list[Moment]:
    """The race on the clock at its median number of laps: standing times of the stops in force and hand-overs counted; a stage on a schedule ends with its
    allowed time, or when it is ridden if that is later.
    """
    return work.once("moments", lambda: list(_moments(work)))


def _moments(work: Upstream) -> Iterator[Moment]:
    race, stands = work.inputs.race, {s.opening + 1: s.standing_s for s in planned(work)[0]}
    paces = (exp(-Z90 * work.lap.pace_log_sd), 1.0, exp(Z90 * work.lap.pace_log_sd))
    clock, begun = [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]
    hand_over = race.relay.hand_over_s if race.relay is not None else 0.0

    def moment(step: _Step, standing_s: float = 0.0) -> Moment:
        return Moment(kind=step.kind, name=step.name, stage=step.stage, lap=step.lap, at_m=step.at_m, race_m=step.race_m, early_s=clock[0], likely_s=clock[1],
                      late_s=clock[2], rider=step.rider, number=step.number, standing_s=standing_s, light=light(work, step.stage, clock[1]))  # fmt: skip

    flag = race.stages[0].hours_s
    yield moment(_Step("start", 0, 1, 0.0, 0.0, 0.0, work.clock.rider_of(0)))
    for step in _steps(work):
        clock = [c + step.ridden_s * pace for c, pace in zip(clock, paces, strict=True)]
        if step.kind == "stage":
            allowed = race.stages[step.stage].allowed_s
            begun = clock = clock if allowed is None else [max(c, b + allowed) for c, b in zip(clock, begun, strict=True)]
        elif step.kind != "lap":
            if step.kind == "finish" and flag is not None:
                clock = _after_flag(work, clock, flag)
            standing = stands.get(step.number, 0.0) if step.kind == "refuel" else hand_over if step.kind == "hand_over" else 0.0
            yield moment(step, standing)
            clock = [c + standing for c in clock]


def _after_flag(work: Upstream, clock: list[float], flag_s: float) -> list[float]:
    """Early, likely and late finish of a race by hours [s]: the lap under way at the flag is the last, so nobody finishes before it."""
    lap_s = work.clock.lap_time_s
    standing = clock[1] - work.clock.laps * work.lap.whole.lap_time_s
    early, late = finish_by_hours(flag_s, lap_s, common_sd=work.lap.pace_log_sd)
    likely = max(clock[1], flag_s)
    return [min(early + max(standing, 0.0), likely), likely, max(late + max(standing, 0.0), likely)]


def light(work: Upstream, stage: int, after_s: float) -> str:
    """What light there is where a stage starts, so long after the race's start."""
    track = work.inputs.courses[work.inputs.race.stages[stage].course_key]
    return light_at(work.inputs.race.start_julian + after_s / 86_400.0, radians(track.latitude_deg[0]), radians(track.longitude_deg[0]))


def levels(work: Upstream) -> list[tuple[float, float, float]]:
    """Per stop in force: race distance [m], likely level before and after it."""
    course = passed(work, work.clock.most_laps)
    return [(course[s.opening].race_m, s.level - s.added, s.level) for s in planned(work)[0]]
