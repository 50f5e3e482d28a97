"""What the pages of gate and service ask: all that a log says of a bike for its race, and what a line would be."""

from dataclasses import dataclass
from typing import Any

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.service import ClockedPart, Service
from lynxwort.core.model.service.intervals import PART_KINDS
from lynxwort.core.model.service.measures import MEASURES
from lynxwort.core.stations.baseline.bolts import Tightened, bolts
from lynxwort.core.stations.baseline.due import Due, Risk, due, race_risk, risks
from lynxwort.core.stations.baseline.gate import Checked, ToSound, checked, to_sound
from lynxwort.core.stations.baseline.input import BaselineInput
from lynxwort.core.stations.baseline.log import Log
from lynxwort.core.stations.baseline.week import Week, can_be_left_out, evenings_of, name_of, week
from lynxwort.core.stations.baseline.worn import Worn, limits_of, worn

#: evenings that are shown
MOST_EVENINGS = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class GateSeen:
    """checks: in their order; counts: how many count now; sound: sums of what is to be mended; bought: whether the
    list is that of a bought bike; before_riding: names of those that must pass first and do not.
    """

    checks: tuple[Checked, ...]
    counts: int
    sound: ToSound
    bought: bool
    before_riding: tuple[str, ...]


def gate_seen(given: BaselineInput) -> GateSeen:
    """How the gate stands for the race."""
    seen = checked(given.log, given.use.start)
    return GateSeen(
        checks=seen,
        counts=sum(c.state != "unchecked" for c in seen),
        sound=to_sound(seen),
        bought=given.log.service.bought,
        before_riding=tuple(c.check.name for c in seen if c.check.do_not_ride and c.state in ("unchecked", "fail")),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class ServiceSeen:
    """log: in line; due: parts on the bike, the most urgent first; risks: of those whose failure ends a race; risk:
    of all together with its range; absent: kinds of parts of such a bike of which nothing was said; race_s: what the
    race takes.
    """

    log: Log
    due: tuple[Due, ...]
    risks: tuple[Risk, ...]
    risk: tuple[float, float, float] | None
    absent: tuple[str, ...]
    race_s: float


def service_seen(given: BaselineInput) -> ServiceSeen:
    """What is due before, during and after the race."""
    log, listed = given.log, due(given.log, given.use)
    found = risks(log, listed)
    return ServiceSeen(
        log=log,
        due=tuple(listed),
        risks=tuple(found),
        risk=race_risk(found),
        absent=tuple(k for k in PART_KINDS if log.lasts(k) is not None and k not in log.parts),
        race_s=given.use.takes_s,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class WearSeen:
    """worn: by measure, the newest of each; measures: those that such a bike has, each with look and act by practice
    [SI] where practice knows them; bolts: the torque list.
    """

    worn: dict[str, Worn]
    measures: dict[str, tuple[float | None, float | None]]
    bolts: tuple[Tightened, ...]


def wear_seen(given: BaselineInput) -> WearSeen:
    """What was measured, what can be, and how the bolts stand."""
    log = given.log
    own = (n for n, m in MEASURES.items() if not m.strokes or log.stroke in m.strokes)
    return WearSeen(worn=worn(log), measures={n: limits_of(log, n) for n in own}, bolts=bolts(log))


def ridden_laps(given: BaselineInput, laps: int) -> dict[str, float | str]:
    """A ride of so many laps of this course, as a line of the log: its time and how it wears."""
    use = given.use
    return {
        "time_s": use.lap_s * laps, "basis": "course", "sand_share": use.sand_share, "mud_share": use.mud_share,
        "full_share": min(use.full_share, 1.0),
    }  # fmt: skip


def renewed(log: Log, part: ClockedPart) -> dict[str, Any]:
    """The line of the one that takes a part's place now: named and timed alike, new. A new wheel goes on settling: its
    spokes are next gone over by what they have run since it was built.
    """
    alike = part.model_dump(mode="json", exclude_unset=True, include={"kind", "name", "interval_s", "months"})
    settles = part.new_build and part.kind == "spokes"
    more = {"new_build": True, "carried_s": log.run_s(part)} if settles else {}
    return alike | {"fitted_s": log.line.now_s} | more


@dataclass(frozen=True, slots=True, kw_only=True)
class WeekSeen:
    """week: as it is planned; evenings: its days, the first one first, those from when one begins and those that work
    lies on; names: of the jobs by id, a term or what one called it; passed: ids of those whose order day is past;
    held: what comes too late mends a failed check, without which nobody rides;
    without: the same without these and what comes too late, None where there are none; begins: from when, None where
    nobody said; at: when an evening's work begins; each_s: work that an evening has.
    """

    week: Week
    evenings: tuple[str, ...]
    names: dict[str, str]
    passed: frozenset[str]
    held: bool
    without: Week | None
    begins: str | None
    at: str
    each_s: float


def week_seen(given: BaselineInput, today: str = "") -> WeekSeen:
    """The week before the race. today: what the last days to order are held against, none where it is empty."""
    before = given.before
    seen, nights, plan = week(before, given.log, given.use), evenings_of(before), before.plan
    used = {b.day for p in seen.planned for b in p.blocks}
    first = min([*used, *([plan.begins] if plan.begins else [])], default=nights.last)
    count = min(round(nights.between(first) / nights.each_s), MOST_EVENINGS)
    passed = frozenset(p.task.id for p in seen.planned if p.order_by is not None and p.order_by < today)
    late = frozenset(p.task.id for p in seen.late) | passed
    left_out = can_be_left_out([p for p in seen.planned if p.task.id in late], given.log, before.start)
    return WeekSeen(
        week=seen, evenings=tuple(reversed(nights.back(count))),
        names={p.task.id: name_of(before, p.task.id) for p in seen.planned},
        passed=passed,
        held=bool(late) and not left_out,
        without=week(before, given.log, given.use, without=late) if late and left_out else None,
        begins=plan.begins, at=plan.evening_at, each_s=plan.evening_s,
    )  # fmt: skip


def log_of(bike: Bike, service: Service | None) -> Log:
    """A bike's log by itself, without a race."""
    return Log.of(bike, service)
