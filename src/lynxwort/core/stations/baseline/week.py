"""The week before the race, worked backward from it: what is still to do on the bike, on which evening, what must be
ordered by when, and which part comes too late.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor, inf

import numpy as np

from lynxwort.core.figures import figure
from lynxwort.core.model.bike import Item
from lynxwort.core.model.days import days_between
from lynxwort.core.model.race import Awaited, WeekPlan, evening_clock
from lynxwort.core.physics.kit.work import LAST_STEPS, UNSAID_S, InACircle, Job
from lynxwort.core.physics.service.week import Laid, lay
from lynxwort.core.report import Figure
from lynxwort.core.stations.baseline.due import due
from lynxwort.core.stations.baseline.gate import checked, to_sound, work_of
from lynxwort.core.stations.baseline.log import Log, RaceUse

#: work takes so much longer the first time [1] (assumption)
FIRST_TIME = 1.5
#: work takes from so much of what was said to so much of it, nine times in ten [1] (assumption)
QUICK, SLOW = 0.8, 1.3
#: work inside the engine, after which it is run in
ENGINE = ("piston", "crank", "cam_chain")
#: running in [s] (common practice, no source)
RUN_IN_S = 3600.0
DAY_S = 86_400.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Before:
    """The race as the week sees it. start: its day; start_s: its start [s since 1970, universal]; zone: its clock's;
    plan: what was said of the evenings; items: what is put on and not done.
    """

    start: str
    start_s: float
    zone: str
    plan: WeekPlan
    items: tuple[Item, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """A job of the week. id: "item:skid_plate", "part:piston", "check:frame", "chore:van", or that of a last step;
    first_time: never done on this bike by what was written down; arrives: day its part comes; order_days: from ordering
    until it is here, where it was not ordered.
    """

    id: str
    takes_s: float
    after: tuple[str, ...] = ()
    first_time: bool = False
    arrives: str | None = None
    order_days: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Block:
    """A stretch of work on one evening [s from when its work begins]."""

    day: str
    from_s: float
    to_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """A task in its place. blocks: its evenings; comes: day its part is here; order_by: last day to order it; late: it
    comes after the work must begin; in_hand_s: work that could still be done before it [s], None where nobody said from
    when.
    """

    task: Task
    blocks: tuple[Block, ...]
    comes: str | None
    order_by: str | None
    late: bool
    in_hand_s: float | None

    @property
    def begins(self) -> str:
        """Its first evening."""
        return self.blocks[0].day


@dataclass(frozen=True, slots=True, kw_only=True)
class Week:
    """planned: in the order of work; last: the day before which all is done; work_s: all of it; latest_start_s: how
    long before the start it must begin [s]; slack_s: the least in hand [s of work], None where nobody said from when;
    circle: what comes after what goes round in a circle, so that nothing can be laid.
    """

    planned: tuple[Planned, ...]
    last: str
    work_s: float
    latest_start_s: float
    slack_s: float | None
    circle: bool = False

    @property
    def is_short(self) -> bool:
        """Whether the evenings do not hold the work."""
        return self.slack_s is not None and self.slack_s < 0.0

    @property
    def late(self) -> tuple[Planned, ...]:
        """What its part comes too late for, the worst first."""
        return tuple(sorted((p for p in self.planned if p.late), key=lambda p: p.in_hand_s or 0.0))


def can_be_left_out(late: Sequence[Planned], log: Log, start: str) -> bool:
    """Whether a race may be planned without these: what mends a failed check is never left out."""
    failed = {f"check:{c.check.name}" for c in checked(log, start) if c.state == "fail"}
    return not failed.intersection(p.task.id for p in late)


def _left_out(items: tuple[Item, ...], without: frozenset[str]) -> frozenset[str]:
    """What is left out, with the items that must come after what is left out."""
    gone = set(without)
    while more := {f"item:{i.id}" for i in items if any(f"item:{a}" in gone for a in i.after)} - gone:
        gone |= more
    return frozenset(gone)


def tasks_of(before: Before, log: Log, use: RaceUse, without: frozenset[str] = frozenset()) -> list[Task]:
    """All that is left to do: the build, what falls due by the finish, what the gate found, chores, and the last
    steps where there is anything at all. without: ids of what is left out.
    """
    plan = before.plan
    found = [
        Task(
            id=f"item:{i.id}", takes_s=FIRST_TIME * (UNSAID_S if i.work_s is None else i.work_s), first_time=True,
            after=tuple(f"item:{a}" for a in i.after), arrives=i.arrives,
        )
        for i in before.items
    ]  # fmt: skip
    done_before = {p.kind for p in log.service.parts if p.fate != "fitted"}
    for d in due(log, use) if log.begun else ():
        lasts = log.lasts(d.part.kind)
        if d.state in ("overdue", "exceeds_during_race") and lasts is not None:
            first = d.part.kind not in done_before
            takes = lasts.takes_s * (FIRST_TIME if first else 1.0)
            found.append(Task(id=f"part:{d.part.kind}", takes_s=takes, first_time=first))
    if log.begun:
        sound = to_sound(checked(log, before.start)).lines
        found += [Task(id=f"check:{c.check.name}", takes_s=work_of(c)) for c in sound if work_of(c) > 0.0]
    gone = _left_out(before.items, without)
    chores = [c for c in plan.chores if not c.done and f"chore:{c.id}" not in gone]
    found = [t for t in found if t.id not in gone]
    found += [Task(id=f"chore:{c.id}", takes_s=c.takes_s) for c in chores if not c.at_the_end]
    if found:
        engine, so_far = any(t.id in {f"part:{k}" for k in ENGINE} for t in found), tuple(t.id for t in found)
        for identity, takes in LAST_STEPS:
            found.append(Task(id=identity, takes_s=takes, after=so_far))
            so_far = (identity,)
            if identity == "baseline_gate" and engine:
                found.append(Task(id="run_in", takes_s=RUN_IN_S, after=so_far))
                so_far = ("run_in",)
    everything = tuple(t.id for t in found)
    found += [Task(id=f"chore:{c.id}", takes_s=c.takes_s, after=everything) for c in chores if c.at_the_end]
    awaited = {a.job: a for a in plan.awaited}
    return [_awaited(t, awaited.get(t.id)) for t in found]


def _awaited(task: Task, said: Awaited | None) -> Task:
    if said is None:
        return task
    return Task(
        id=task.id, takes_s=task.takes_s, after=task.after, first_time=task.first_time, arrives=said.arrives,
        order_days=None if said.arrives else said.order_days,
    )  # fmt: skip


def _day(day: str, more: int) -> str:
    return str(np.datetime64(day, "D") + np.timedelta64(more, "D"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Evenings:
    """The evenings before a day, counted backward from it. each_s: work that one has; away: days without."""

    last: str
    each_s: float
    away: frozenset[str]

    def between(self, day: str) -> float:
        """Work [s] from an evening to the end."""
        spare = sum(day <= a < self.last for a in self.away)
        return self.each_s * max(days_between(day, self.last) - spare, 0)

    def blocks(self, begins_s: float, ends_s: float, days: Sequence[str]) -> tuple[Block, ...]:
        """Evenings of work between two places [s of work before the end]. days: evenings, the last one first."""
        first, found = ceil(begins_s / self.each_s - 1e-9), list[Block]()
        for k in range(first, floor(ends_s / self.each_s + 1e-9), -1):
            top = k * self.each_s
            found.append(
                Block(day=days[k - 1], from_s=top - min(begins_s, top), to_s=top - max(ends_s, top - self.each_s))
            )
        return tuple(found)

    def back(self, count: int) -> list[str]:
        """So many evenings, the last one first."""
        found, day = list[str](), self.last
        while len(found) < count:
            day = _day(day, -1)
            if day not in self.away:
                found.append(day)
        return found


def evenings_of(before: Before) -> Evenings:
    """Those of a race: none on its day, nor from the day one leaves."""
    plan = before.plan
    last = min(plan.leaves or before.start, before.start)
    return Evenings(last=last, each_s=plan.evening_s, away=frozenset(plan.away))


def week(before: Before, log: Log, use: RaceUse, *, without: frozenset[str] = frozenset()) -> Week:
    """The week as one pair of hands works it. without: as in tasks_of."""
    return laid_out(before, tasks_of(before, log, use, without))


def laid_out(before: Before, todo: Sequence[Task], *, hands_share: float = 1.0) -> Week:
    """Tasks on the evenings before the race. hands_share: so much longer or shorter everything takes [1]."""
    nights, plan = evenings_of(before), before.plan
    tasks = {t.id: t for t in todo}
    jobs = [Job(id=t.id, takes_s=hands_share * t.takes_s, after=t.after) for t in tasks.values()]
    from_s = inf if plan.begins is None else nights.between(plan.begins)
    comes = {t.id: _comes(t, plan.begins) for t in tasks.values()}
    here = {i: inf if day is None else nights.between(day) for i, day in comes.items()}
    work_s = sum(j.takes_s for j in jobs)
    try:
        laid = lay(jobs, {i: min(s, from_s) for i, s in here.items()})
    except InACircle:
        return Week(planned=(), last=nights.last, work_s=work_s, latest_start_s=0.0, slack_s=None, circle=True)
    days = nights.back(ceil(work_s / nights.each_s))
    planned = tuple(
        _planned(
            one, tasks[one.job.id], comes[one.job.id], here[one.job.id], nights.blocks(one.begins_s, one.ends_s, days)
        )
        for one in laid
    )
    in_hand = [p.in_hand_s for p in planned if p.in_hand_s is not None]
    return Week(
        planned=planned, last=nights.last, work_s=work_s,
        latest_start_s=_before_start(planned, before) if planned else 0.0,
        slack_s=min(in_hand, default=None),
    )  # fmt: skip


def name_of(before: Before, identity: str) -> str:
    """What a task is called: the name one gave it, or the term that it is known by."""
    kind, _colon, which = identity.partition(":")
    if kind == "item":
        return next((i.name for i in before.items if i.id == which), which)
    if kind == "chore":
        return next((c.name for c in before.plan.chores if c.id == which), which)
    return f"{kind}.{which}" if which else kind


def _comes(task: Task, begins: str | None) -> str | None:
    """Day its part is here, if ordered on the first evening at the latest; None where it waits for none that is
    known.
    """
    if task.arrives is None and task.order_days is not None and begins is not None:
        return _day(begins, ceil(task.order_days))
    return task.arrives


def _planned(one: Laid, task: Task, comes: str | None, here_s: float, blocks: tuple[Block, ...]) -> Planned:
    order_by = None if task.order_days is None else _day(blocks[0].day, -ceil(task.order_days))
    return Planned(
        task=task, blocks=blocks, comes=comes, order_by=order_by, late=here_s < one.begins_s - 1e-6,
        in_hand_s=None if one.in_hand_s == inf else one.in_hand_s,
    )  # fmt: skip


def _before_start(planned: tuple[Planned, ...], before: Before) -> float:
    first = planned[0].blocks[0]
    begins = evening_clock(first.day, before.plan.evening_at, before.zone, first.from_s)
    return before.start_s - begins.timestamp()


def figures(before: Before, log: Log, use: RaceUse) -> list[Figure]:
    """When the work must begin, and what is in hand; with what quicker and slower hands would make of it."""
    todo = tasks_of(before, log, use)
    seen = laid_out(before, todo)
    if not seen.planned:
        reason = "week_circle" if seen.circle else "nothing_to_do"
        return [figure(f"service.week.{n}", None, status="not_applicable", reason=reason) for n in
                ("latest_start", "slack")]  # fmt: skip
    quick, slow = (laid_out(before, todo, hands_share=h) for h in (QUICK, SLOW))
    said = (("race.week.evening_s", before.plan != WeekPlan()), ("service.parts", log.begun))
    paths = ("setup.kit_on", *(path for path, is_said in said if is_said))
    found = [
        figure(
            "service.week.latest_start", seen.latest_start_s, low=quick.latest_start_s, high=slow.latest_start_s,
            basis="assumed", inputs=paths, source="critical path, backward; hours as said or by practice, no source",
            formula="start - the evening on which all work, packed to the last evening before the race, begins",
        )
    ]  # fmt: skip
    if seen.slack_s is None or quick.slack_s is None or slow.slack_s is None:
        return [*found, figure("service.week.slack", None, status="unknown", reason="week_unsaid")]
    found.append(
        figure(
            "service.week.slack", seen.slack_s, low=slow.slack_s, high=quick.slack_s, basis="assumed", inputs=paths,
            formula="least over the jobs of work from its part's evening, or the first one, to the race - work from it "
                    "on", source="order by Lawler 1973; hours as said or by practice, no source",
        )
    )  # fmt: skip
    return found
