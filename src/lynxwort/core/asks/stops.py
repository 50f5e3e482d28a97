"""The stop plan as a whole: the quickest, its alternatives, what a missed stop or poured litres cost; and the race as
it goes, stop by stop at the pump.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import exp

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.setup import StopFill
from lynxwort.core.physics.reach import plans as made_plans
from lynxwort.core.physics.reach import stops
from lynxwort.core.physics.reach.stops import FuelCourse, Plan, Stop, Tank
from lynxwort.core.stations.range.chance import chance_of
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import (
    Passed,
    best_plan,
    chance_by,
    course_of,
    filled,
    measured_out,
    passed,
    planned,
    tank_of,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedStop:
    """One stop of a plan. passed: where; stop: how much; missed: chance to finish when this one is missed and the
    others are made.
    """

    passed: Passed
    stop: Stop
    missed: float


@dataclass(frozen=True, slots=True, kw_only=True)
class StopPlan:
    """A plan as the rider reads it. chance: filled to the levels; chance_poured: the likely litres poured in unseen,
    both no surer than may be said of the bike; fills: for the setup.
    """

    stops: tuple[PlannedStop, ...]
    standing_s: float
    chance: float
    chance_poured: float
    fills: tuple[StopFill, ...]


def _shown(given: RangeInput, course: FuelCourse, tank: Tank, plan: Plan, places: Sequence[Passed]) -> StopPlan:
    made = measured_out(given, course, tank, plan)
    most = given.supply.most_sure
    lines = tuple(
        PlannedStop(
            passed=places[s.opening],
            stop=s,
            missed=min(made_plans.missed(course, tank, given.supply.factor, made, k), most),
        )
        for k, s in enumerate(made.stops)
    )
    fills = tuple(
        StopFill(
            passing=s.opening + 1, **({"to_level_m3": round(s.level, 6)} if given.supply.store.kind == "fuel" else {})
        )
        for s in made.stops
    )
    return StopPlan(
        stops=lines,
        standing_s=made.standing_s,
        chance=min(made.chance, most),
        chance_poured=min(made.chance_poured, most),
        fills=fills,
    )


def plans(given: RangeInput) -> list[StopPlan]:
    """The quickest plan that meets the wanted certainty, then others within half a minute; empty when none does, there
    is nowhere to stop, or a few packs go round: what they hold by then depends on every stop before.
    """
    if given.supply.rounds is not None:
        return []
    course, tank, places = course_of(given, given.clock.laps), tank_of(given), passed(given, given.clock.laps)
    best = best_plan(given) if places else None
    if best is None:
        return []
    others = made_plans.alternatives(course, tank, given.supply.factor, given.certainty, best)
    return [_shown(given, course, tank, p, places) for p in (best, *others)]


@dataclass(frozen=True, slots=True, kw_only=True)
class LapMore:
    """The race of one lap more than the likely ones. lap: its number; chance: that it or a later one is ridden [1];
    plan: the quickest stops for it, None where none holds; other_until: race distance [m] up to which it is no other
    than the likely plan, None where it is the same.
    """

    lap: int
    chance: float
    plan: StopPlan | None
    other_until: float | None


def lap_more(given: RangeInput) -> LapMore | None:
    """The unlikely lap beside the likely ones; None of a race that is ridden by laps, or where no lap more is likely
    at all.
    """
    lap = given.clock.laps + 1
    chance = sum(c for laps, c in given.clock.lap_chances if laps >= lap)
    if chance <= 0.0 or given.supply.rounds is not None or not passed(given, lap):
        return None
    found = best_plan(given, lap)
    if found is None:
        return LapMore(lap=lap, chance=chance, plan=None, other_until=None)
    places = passed(given, lap)
    plan = _shown(given, course_of(given, lap), tank_of(given), found, places)
    likely = {(s.opening, s.level) for s in planned(given)[0]}
    other = [p for p in plan.stops if (p.stop.opening, p.stop.level) not in likely]
    return LapMore(lap=lap, chance=chance, plan=plan, other_until=other[0].passed.race_m if other else None)


def kept_plan(given: RangeInput) -> StopPlan | None:
    """The setup's own stops, judged; None when it has none."""
    if given.supply.taken is None:
        return None
    course, tank, places = course_of(given, given.clock.laps), tank_of(given), passed(given, given.clock.laps)
    made, most = filled(given, course, tank, given.supply.taken), given.supply.most_sure
    lines = []
    for stop in made:
        others = {n: f for n, f in given.supply.taken.items() if n != stop.opening + 1}
        lines.append(
            PlannedStop(
                passed=places[stop.opening],
                stop=stop,
                missed=min(chance_by(given, given.supply.store.aboard, others), most),
            )
        )
    poured = {s.opening + 1: stops.Fill(amount=s.added, add=True) for s in made}
    return StopPlan(
        stops=tuple(lines),
        standing_s=sum(s.standing_s for s in made),
        chance=min(chance_by(given, given.supply.store.aboard, given.supply.taken), most),
        chance_poured=min(chance_by(given, given.supply.store.aboard, poured), most),
        fills=given.supply.stops or (),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Cans:
    """What is to stand at one refuel point: likely taken over the race, and at most (one-sided 95 %) [m3]; times: stops
    there.
    """

    name: str
    stage: int
    at_m: float
    times: int
    likely: float
    most: float


def cans(given: RangeInput) -> list[Cans]:
    """Fuel to bring to each refuel point for the stops in force, in the order in which they are first passed."""
    places = passed(given, given.clock.most_laps)
    spread = exp(Z90 * given.supply.factor.log_sd) - 1.0
    found: dict[tuple[int, float], Cans] = {}
    before = given.supply.store.aboard
    for stop in planned(given)[0]:
        place = places[stop.opening]
        burnt = before - (stop.level - stop.added)
        key = (place.stage, place.at_m)
        so_far = found.get(
            key, Cans(name=place.name, stage=place.stage, at_m=place.at_m, times=0, likely=0.0, most=0.0)
        )
        found[key] = Cans(
            name=place.name,
            stage=place.stage,
            at_m=place.at_m,
            times=so_far.times + 1,
            likely=so_far.likely + stop.added,
            most=so_far.most + min(stop.added + burnt * spread, stop.level),
        )
        before = stop.level
    return list(found.values())


def with_stop(
    given: RangeInput, passing: int, *, to_level_m3: float | None = None, add_m3: float | None = None
) -> tuple[StopFill, ...]:
    """The setup's stops with one more, or another in its place. Raises InputRefused for a passing that the race does
    not have, or more than the tank holds.
    """
    if not 1 <= passing <= len(passed(given, given.clock.most_laps)):
        raise InputRefused(Refusal(path="passing", code="not_a_passing"))
    if max(to_level_m3 or 0.0, add_m3 or 0.0) > given.supply.store.capacity + 1e-9:
        raise InputRefused(Refusal(path="amount_m3", code="fill_over_tank"))
    known = {k: v for k, v in (("to_level_m3", to_level_m3), ("add_m3", add_m3)) if v is not None}
    others = [f for f in given.supply.stops or () if f.passing != passing]
    return tuple(sorted([*others, StopFill(passing=passing, **known)], key=lambda f: f.passing))


@dataclass(frozen=True, slots=True, kw_only=True)
class AtPump:
    """One passing as the day goes. here_m: race distance; before, after: likely level there; put: litres to go in,
    likely with its 90 % ends; level: to fill to so that all that follows lasts as surely as wanted; rear_sag_m: race
    sag with that level.
    """

    passed: Passed
    before: float
    level: float
    put: float
    put_low: float
    put_high: float
    rear_sag_m: float


def since(given: RangeInput, from_number: int, to_number: int) -> tuple[float, float]:
    """Race distances [m] of two passings; 0 = the start."""
    places = {p.number: p.race_m for p in passed(given, given.clock.most_laps)}
    return places.get(from_number, 0.0), places[to_number]


def used_since(level_before: float, put: float, level_after: float) -> float:
    """What was burnt since the last filling [m3]: from the level then, what went in, and the level it came to. Raises
    InputRefused when nothing was.
    """
    used = level_before + put - level_after
    if used <= 0.0:
        raise InputRefused(
            Refusal(path="fuel_m3", code="put_too_little", low=max(level_after - level_before, 0.0), unit="m^3")
        )
    return used


def laps_between(given: RangeInput, from_m: float, to_m: float) -> float:
    """Laps between two places of the race, a tenth at least."""
    return max((to_m - from_m) / float(given.clock.around.starts_m[-1]), 0.1)


def to_come(given: RangeInput, after: int, level: float) -> list[AtPump]:
    """The stops still to come after a passing (0 = the start) left with this level [m3]: where, to what level, how much
    is likely to go in.
    """
    # beyond the likely laps there is only the extra one to plan for
    laps = given.clock.laps if after < len(passed(given, given.clock.laps)) else given.clock.most_laps
    course, places = course_of(given, laps), passed(given, laps)
    rest = FuelCourse(openings=course.openings[after:], sections=course.sections[after:])
    tank = Tank(start=level, capacity=tank_of(given).capacity, unusable=given.supply.store.unusable)
    plan = made_plans.best_plan(rest, tank, given.supply.factor, given.certainty)
    if plan is None:
        return []
    plan = measured_out(given, rest, tank, plan)
    found, left = [], level
    spread = [exp(given.supply.factor.log_mean + d * Z90 * given.supply.factor.log_sd) for d in (-1.0, 1.0)]
    for k, stop in enumerate(plan.stops):
        first = plan.stops[k - 1].opening + 1 if k else 0
        burnt = sum(p for s in rest.sections[first : stop.opening + 1] for p in s)
        before = left - burnt * given.supply.factor.median
        ends = [max(stop.level - (left - burnt * x), 0.0) for x in spread]
        found.append(
            AtPump(
                passed=places[after + stop.opening],
                before=before,
                level=stop.level,
                put=max(stop.level - before, 0.0),
                put_low=ends[0],
                put_high=ends[1],
                rear_sag_m=given.loaded.sag_m("rear", race=True, fuel_m3=stop.level),
            )
        )
        left = stop.level
    return found


def with_stops(given: RangeInput, fills: tuple[StopFill, ...] | None) -> RangeInput:
    """The same with other stops."""
    return replace(given, supply=replace(given.supply, stops=fills))


def chance_with(given: RangeInput, fills: tuple[StopFill, ...] | None) -> float:
    """Chance to finish with what is aboard and other stops; None: filled up at every refuel point."""
    return float(chance_of(with_stops(given, fills), given.supply.store.aboard)[0])
