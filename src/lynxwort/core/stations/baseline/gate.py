"""The gate: which checks a bike has, how each stands, and what those that failed take back."""

from dataclasses import dataclass
from typing import Literal

from lynxwort.core.model.days import days_between
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.service import GateCheck
from lynxwort.core.model.service.checks import CHECKS, Check
from lynxwort.core.model.service.intervals import HOUR_S
from lynxwort.core.stations.baseline.log import Log
from lynxwort.core.withdraw import Failed

State = Literal["unchecked", "pass", "look", "fail"]
#: a check that passed counts so long (TRIALS 6)
VALID_S = 10.0 * HOUR_S
_WORSE = ("unchecked", "pass", "look", "fail")


@dataclass(frozen=True, slots=True, kw_only=True)
class Checked:
    """A check and how it stands. found: its last result, None before the first; at_s: hours of the bike then; lapsed:
    why what passed counts no more: "hours", "crash", "day" or "work", empty while it counts.
    """

    check: Check
    state: State
    found: GateCheck | None
    at_s: float
    lapsed: str


def checks_of(log: Log) -> tuple[Check, ...]:
    """Those that this bike has: those of nobody's riding first."""
    has = {"": True, "coolant": log.cooled, "battery": log.battery}
    return tuple(
        c
        for c in CHECKS
        if (not c.strokes or log.stroke in c.strokes) and has[c.needs] and (log.service.bought or not c.bought)
    )


def by_number(check: Check, value: float | None) -> State:
    """What its number says by itself."""
    if value is None:
        return "unchecked"
    low, high = check.lowest, check.highest
    if (low is not None and value < low) or (high is not None and value > high):
        return "fail"
    if check.fail is not None and value > check.fail:
        return "fail"
    return "look" if check.look is not None and value > check.look else "pass"


def worse(one: State, other: State) -> State:
    """The graver of two."""
    return max(one, other, key=_WORSE.index)


def checked(log: Log, start: str) -> tuple[Checked, ...]:
    """Every check of the bike. start: day of the race."""
    last: dict[str, GateCheck] = {}
    for found in sorted(log.service.checks, key=lambda c: c.seq):
        last[found.check] = found
    return tuple(_checked(log, start, check, last.get(check.name)) for check in checks_of(log))


def _checked(log: Log, start: str, check: Check, found: GateCheck | None) -> Checked:
    if found is None:
        return Checked(check=check, state="unchecked", found=None, at_s=0.0, lapsed="")
    at, state = log.hours_at(found.seq), worse(found.result, by_number(check, found.value_si))
    # what failed stays so until it is looked at again
    lapsed = _lapsed(log, start, check, found, at) if state == "pass" else ""
    return Checked(check=check, state="unchecked" if lapsed else state, found=found, at_s=at, lapsed=lapsed)


def _lapsed(log: Log, start: str, check: Check, found: GateCheck, at_s: float) -> str:
    since = [r for r in log.rides if r.seq > found.seq]
    if any(r.crashed for r in since):
        return "crash"
    if log.line.now_s - at_s > VALID_S:
        return "hours"
    if not check.do_not_ride:
        return ""
    if any(r.day is None or days_between(r.day, start) > 0 for r in since if r.time_s):
        return "day"
    if any(p.seq > found.seq and _voids(log, p.kind, check.name) for p in log.service.parts):
        return "work"
    return ""


def _voids(log: Log, kind: str, check: str) -> bool:
    lasts = log.lasts(kind)
    return lasts is not None and check in lasts.voids


@dataclass(frozen=True, slots=True, kw_only=True)
class GateSaid:
    """failed: checks that did, with what they falsify; doubts: names of those that only want a look."""

    failed: tuple[Failed, ...]
    doubts: tuple[str, ...]


def gate_of(inputs: Inputs) -> GateSaid:
    """What the gate says of a document; nothing without a log."""
    if inputs.service is None or not inputs.service.checks:
        return GateSaid(failed=(), doubts=())
    log = Log.of(inputs.bike, inputs.service)
    seen = checked(log, inputs.race.start[:10])
    return GateSaid(
        failed=tuple(Failed(check=c.check.name, withdraws=c.check.withdraws) for c in seen if c.state == "fail"),
        doubts=tuple(c.check.name for c in seen if c.state == "look"),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class ToSound:
    """What brings a bike to be sound: work [s] and cost [own money] of all that failed or is to be looked at; before_s:
    of that what comes before the first ride.
    """

    work_s: float
    cost: float
    before_s: float
    lines: tuple[Checked, ...]


def to_sound(all_of: tuple[Checked, ...]) -> ToSound:
    """Sums over the checks that ask for something."""
    lines = tuple(c for c in all_of if c.state in ("fail", "look") and c.found is not None)
    return ToSound(
        work_s=sum(work_of(c) for c in lines),
        cost=sum((c.found.cost or 0.0) for c in lines if c.found),
        before_s=sum(work_of(c) for c in lines if c.state == "fail"),
        lines=lines,
    )


def work_of(line: Checked) -> float:
    """To put it right [s], as said or as usual."""
    said = line.found.work_s if line.found else None
    return line.check.work_s if said is None else said
