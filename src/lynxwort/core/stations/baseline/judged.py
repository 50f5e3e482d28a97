"""What is said of the log: what is due, worn, loose, and what the gate found."""

from collections.abc import Callable

from lynxwort.core.stations.baseline.bolts import bolts
from lynxwort.core.stations.baseline.due import RISK_ACT, RISK_LOOK, Due, due, race_risk, risks
from lynxwort.core.stations.baseline.gate import checked
from lynxwort.core.stations.baseline.input import BaselineInput
from lynxwort.core.stations.baseline.log import Log
from lynxwort.core.stations.baseline.week import can_be_left_out, name_of, week
from lynxwort.core.stations.baseline.worn import Worn, worn

Add = Callable[..., None]
_LOCKER = {
    "locked_there": "locker_locked_there", "high_strength": "locker_high_strength", "unlocked": "locker_unlocked",
}  # fmt: skip


def service_findings(given: BaselineInput, add: Add) -> None:
    """Of the gate, the clocks, wear and bolts, nothing of a bike without a log; of the week."""
    if given.log.begun:
        _logged(given, add)
    _week(given, add)


def _logged(given: BaselineInput, add: Add) -> None:
    _gate(given.log, given.use.start, add)
    listed = due(given.log, given.use)
    _clocks(listed, add)
    whole = race_risk(found := risks(given.log, listed))
    if whole is not None and whole[0] > RISK_LOOK:
        grave = "act" if whole[0] > RISK_ACT else "look"
        add("risk_high", grave, "service.risk_race", one_in=1.0 / whole[0], part=f"part.{found[0].kind}")
    finish = given.log.line.now_s + given.log.service.practice_s + given.use.takes_s
    for measure, seen in worn(given.log).items():
        _worn(measure, seen, finish, add)
    _bolts(given.log, add)
    for _place, off in given.log.line.gaps[-1:]:
        add("hours_gap", "look", "service.hours_bike", off_share=off)


def _week(given: BaselineInput, add: Add) -> None:
    seen = week(given.before, given.log, given.use)
    short = seen.is_short
    for late in seen.late[:1]:
        # a part that comes late may be what makes the week short: without it, what is left may fit
        left = week(given.before, given.log, given.use, without=frozenset(p.task.id for p in seen.late))
        short = left.is_short
        left_out = can_be_left_out(seen.late, given.log, given.before.start)
        add("part_late" if left_out else "mending_late", "act", "service.week.slack",
            part=name_of(given.before, late.task.id), comes=late.comes or "", needed=late.begins)  # fmt: skip
    if short:
        add("week_short", "act", "service.week.slack")
    elif not seen.late and seen.slack_s is not None and seen.slack_s < given.before.plan.evening_s:
        add("week_tight", "look", "service.week.slack")
    if seen.circle:
        add("week_circle", "look", "service.week.latest_start")


def _gate(log: Log, start: str, add: Add) -> None:
    seen = checked(log, start)
    for c in seen:
        if c.state == "fail":
            add("gate_no_riding" if c.check.do_not_ride else "gate_failed", "act", "baseline.gate.failed",
                check=f"check.{c.check.name}")  # fmt: skip
        elif c.state == "look":
            add("gate_look", "look", "baseline.gate.checked", check=f"check.{c.check.name}")
    counts = sum(c.state != "unchecked" for c in seen)
    if 2 * counts < len(seen):
        add("gate_unchecked", "unknown", "baseline.gate.checked", count=float(counts), of=float(len(seen)))


def _clocks(listed: list[Due], add: Add) -> None:
    for d in listed:
        kind = d.part.kind
        if d.state == "unknown":
            add("age_unsaid", "unknown", f"service.hours.{kind}", part=f"part.{kind}")
        elif d.because == "boiled":
            add("boiled_once", "act", f"service.hours.{kind}", part=f"part.{kind}")
        elif d.because == "calendar" and d.state == "overdue":
            add("aged", "act", f"service.hours.{kind}", part=f"part.{kind}", months=float(d.age or 0))
        elif d.because == "calendar" and d.state == "soon":
            add("ages_soon", "look", f"service.hours.{kind}", part=f"part.{kind}", months=float(d.age or 0))
        elif d.state == "overdue":
            add("overdue", "act", f"service.left_after_race.{kind}", part=f"part.{kind}", run_s=d.run_s,
                left_s=-(d.left_s or 0.0))  # fmt: skip
        elif d.state == "exceeds_during_race":
            add("exceeds_during_race", "act", f"service.left_after_race.{kind}", part=f"part.{kind}",
                left_s=d.left_s or 0.0)  # fmt: skip
        elif d.state == "soon":
            add("soon", "look", f"service.left_after_race.{kind}", part=f"part.{kind}", left_s=d.left_after_s or 0.0)


def _worn(measure: str, seen: Worn, finish_s: float, add: Add) -> None:
    if measure.startswith("spokes"):
        if seen.state in ("look", "act"):
            add(
                "spokes_uneven",
                seen.state,
                "service.spoke_evenness",
                measure=f"measure.{measure}",
                off_share=seen.value or 0.0,
            )
        return
    if measure in ("chain_length", "tight_spots", "hooked_tooth"):
        if seen.state in ("look", "act"):
            add("chain_worn", seen.state, "service.chain_stretch", measure=f"measure.{measure}")
        return
    figure = "service.compression_sea" if measure == "compression" else f"service.limit_at.{measure}"
    if seen.state == "act":
        add("worn_faster" if seen.because == "faster" else "worn_out", "act", figure, measure=f"measure.{measure}")
    elif seen.state == "look":
        add("worn", "look", figure, measure=f"measure.{measure}")
    if seen.state != "act" and seen.earliest_s is not None and seen.earliest_s <= finish_s:
        add("limit_before_race_end", "act", figure, measure=f"measure.{measure}", earliest_s=seen.earliest_s)


def _bolts(log: Log, add: Add) -> None:
    for b in bolts(log):
        name = b.bolt.name
        if b.moved:
            add("mark_moved", "act", "service.hours_bike", what=name)
        if b.open:
            add("torque_open", "act", "service.hours_bike", what=name)
        elif b.again:
            add("retorque_due", "look", "service.hours_bike", what=name)
        if b.odd_locker:
            add(_LOCKER[b.odd_locker], "look", "service.hours_bike", what=name)
