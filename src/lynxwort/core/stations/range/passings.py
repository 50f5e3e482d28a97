"""Passings of refuel points, and where to stop for how much."""

from dataclasses import dataclass, replace
from math import ceil

from lynxwort.core.model.race import RefuelPoint
from lynxwort.core.physics.reach import plans as made_plans
from lynxwort.core.physics.reach import stops
from lynxwort.core.physics.reach.finish import sections_over
from lynxwort.core.physics.reach.stops import Fill, FuelCourse, Opening, Plan, Stop, Tank
from lynxwort.core.stations.range.input import RangeInput

#: a refuel point's rate and fixed time when nothing is said (assumption): a dump can; in, off, on, out; a pack is
#: lifted out and in
RATE_M3_PER_S, FIXED_S, SWAP_S = 0.0005, 20.0, 60.0
#: levels are planned in steps of a tenth of a litre [m3]
LEVEL_STEP_M3 = 0.0001


@dataclass(frozen=True, slots=True, kw_only=True)
class Passed:
    """One passing of a refuel point. number: counted from 1 over the race; at_m: of its stage's lap; race_m: of the
    race; lap: from 1; also: what else is done when one stops.
    """

    number: int
    name: str
    stage: int
    lap: int
    at_m: float
    race_m: float
    opening: Opening
    also: str = ""


def opening_of(given: RangeInput, point: RefuelPoint | None) -> Opening:
    """A refuel point's rate and times; None: fuel after a stage."""
    fuel = given.supply.store.kind == "fuel"
    rate = RATE_M3_PER_S if point is None or point.rate_m3_per_s is None else point.rate_m3_per_s
    fixed = (FIXED_S if fuel else SWAP_S) if point is None or point.fixed_s is None else point.fixed_s
    fixed += 0.0 if point is None or point.also_s is None else point.also_s
    return Opening(fixed_s=fixed, per_unit_s=1.0 / rate if fuel else 0.0, must=point is not None and point.must_stop)


def passed(given: RangeInput, laps: int) -> list[Passed]:
    """Every passing of a refuel point of a race of so many laps, in order: those of finish.sections_over."""
    found: list[Passed] = []
    begins, begun = 0.0, False
    stages = given.clock.stages
    for i, stage in enumerate(stages):
        length = given.clock.around.courses[i].length_m
        for lap in range(1, (laps if len(stages) == 1 else stage.laps) + 1):
            for point in sorted(stage.refuel_points, key=lambda p: p.at_m):
                if begun or point.at_m > 0:
                    found.append(
                        Passed(
                            number=len(found) + 1,
                            name=point.name,
                            stage=i,
                            lap=lap,
                            at_m=point.at_m,
                            race_m=begins + point.at_m,
                            opening=opening_of(given, point),
                            also=point.also,
                        )
                    )
            begins, begun = begins + length, True
        if stage.refuel_after:
            found.append(
                Passed(
                    number=len(found) + 1,
                    name="",
                    stage=i,
                    lap=stage.laps,
                    at_m=length,
                    race_m=begins,
                    opening=opening_of(given, None),
                )
            )
    return found


def passings_in(given: RangeInput) -> int:
    """How many passings there are to stop at: of the longest race it may be, and those that stops are planned at beyond
    it.
    """
    return max([len(passed(given, given.clock.most_laps)), *(given.supply.taken or {})])


def course_of(given: RangeInput, laps: int) -> FuelCourse:
    """The race as sections between the passings of its refuel points."""
    sections = tuple(tuple(s) for s in sections_over(given.supply.pieces(laps)))
    return FuelCourse(openings=tuple(p.opening for p in passed(given, laps)), sections=sections)


def tank_of(given: RangeInput) -> Tank:
    store = given.supply.store
    # packs of a few are swapped for whatever they hold by then
    whole = store.kind == "fuel" or given.supply.rounds is not None
    return Tank(start=store.aboard, capacity=store.capacity if whole else store.aboard, unusable=store.unusable)


def best_plan(given: RangeInput, laps: int | None = None) -> Plan | None:
    """The quickest stops that meet the wanted certainty with the tank as filled at the start, for so many laps, left
    out the likely ones; None = none does.
    """
    course, tank = course_of(given, laps or given.clock.laps), tank_of(given)

    def plan() -> Plan | None:
        found = made_plans.best_plan(course, tank, given.supply.factor, given.certainty)
        return None if found is None else measured_out(given, course, tank, found)

    return given.cache.get("stop_plan", (course, tank, given.supply.factor, given.certainty), plan)


def measured_out(given: RangeInput, course: FuelCourse, tank: Tank, plan: Plan) -> Plan:
    """A plan with its levels in steps that a hand can pour, rounded up: never less sure."""
    if given.supply.store.kind != "fuel":
        return plan
    levels = [
        (s.opening, min(ceil(round(s.level / LEVEL_STEP_M3, 6)) * LEVEL_STEP_M3, tank.capacity)) for s in plan.stops
    ]
    return stops.plan_of(course, tank, given.supply.factor, levels, plan.quantile)


def planned(given: RangeInput) -> tuple[list[Stop], str]:
    """Stops in force at the most likely laps, and whence: "kept" (the setup's), "best" (none kept: the best plan), or
    "every" (no plan does it).
    """
    course, tank = course_of(given, given.clock.laps), tank_of(given)
    if given.supply.taken is not None:
        return filled(given, course, tank, given.supply.taken), "kept"
    best = best_plan(given)
    if best is not None:
        return list(best.stops), "best"
    return filled(given, course, tank, {n + 1: Fill(amount=tank.start) for n in range(len(course.openings))}), "every"


def filled(given: RangeInput, course: FuelCourse, tank: Tank, fills: dict[int, Fill]) -> list[Stop]:
    """Likely level, volume taken and standing time of each stop."""
    found, left = [], tank.start
    for k, opening in enumerate(course.openings):
        left = max(left - sum(course.sections[k]) * given.supply.factor.median, 0.0)
        fill = fills.get(k + 1)
        if fill is None:
            continue
        level = min(left + fill.amount, tank.capacity) if fill.add else max(min(fill.amount, tank.capacity), left)
        found.append(
            Stop(
                opening=k,
                level=level,
                added=level - left,
                standing_s=opening.fixed_s + (level - left) * opening.per_unit_s,
            )
        )
        left = level
    return found


def chance_by(given: RangeInput, start: float, fills: dict[int, Fill], factor_shift: float = 0.0) -> float:
    """Chance to finish with this at the start and these fills at the passings, over the ways the race may go."""
    tank = tank_of(given)
    factor = replace(
        given.supply.factor, log_mean=given.supply.factor.log_mean + factor_shift * given.supply.factor.log_sd
    )
    total = 0.0
    for laps, chance in given.clock.lap_chances:
        course = course_of(given, laps)
        fills = fills | given.supply.fills_of_extra(laps)
        used = [n for n in sorted(fills) if n <= len(course.openings)]
        legs = stops.legs_of(course, [n - 1 for n in used])
        total += chance * stops.chance_of(
            start - tank.unusable,
            [_usable(fills[n], tank) for n in used],
            legs,
            factor,
            most=tank.capacity - tank.unusable,
        )
    return total


def _usable(fill: Fill, tank: Tank) -> Fill:
    return fill if fill.add else Fill(amount=max(fill.amount - tank.unusable, 0.0))


def levels(given: RangeInput) -> list[tuple[float, float, float]]:
    """Per stop in force: race distance [m], likely level before and after it."""
    course = passed(given, given.clock.most_laps)
    return [(course[s.opening].race_m, s.level - s.added, s.level) for s in planned(given)[0]]
