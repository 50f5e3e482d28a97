"""The week before a race in words and as a drawing, and as a calendar."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any

from django.utils import timezone
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from icalendar import Calendar, Event

from lynxwort.core.model.bike.spares import HOUR_S
from lynxwort.core.stations.baseline import asked
from lynxwort.core.stations.baseline.week import Block, Planned
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.week.forms import AwaitForm
from lynxwort.web.ui.drawings.weekplan import Bar, Evening, weekplan
from lynxwort.web.ui.sheets import add_zone, ringing
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import day_text, value_text

#: what a sequence of a calendar is counted from
FIRST = datetime(2026, 1, 1, tzinfo=UTC)
#: chores that the pit card names
MOST_ON_CARD = 6
FIGURES = ("service.week.latest_start", "service.week.slack")


@dataclass(frozen=True, slots=True, kw_only=True)
class JobRow:
    """A job of the week in words. waits: on what; bad: what is wrong with that; chore: id of a chore; form: of what it
    waits for, None for what needs no part.
    """

    number: int
    id: str
    name: str
    when: str
    takes: str
    first_time: bool
    waits: str
    bad: str
    chore: str
    form: AwaitForm | None


def seen_of(bench: Bench) -> asked.WeekSeen:
    """The week of what is kept, as it stands today."""
    seen: asked.WeekSeen = bench.kept.ask(asked.week_seen, timezone.localdate().isoformat())
    return seen


def day_words(day: str) -> str:
    """A day as one says it."""
    return day_text(day, _)


def _name(seen: asked.WeekSeen, identity: str) -> str:
    words = _(TERMS.get(seen.names[identity], seen.names[identity]))
    return words[:1].upper() + words[1:]


def _clock(bench: Bench, block: Block) -> datetime:
    return bench.kept_inputs.race.evening(block.day, block.from_s)


def _when(bench: Bench, planned: Planned) -> str:
    """From which hour of which evening, and until which evening."""
    first, last = planned.blocks[0], planned.blocks[-1]
    words = f"{day_words(first.day)}, {_clock(bench, first):%H:%M}"
    return words if first.day == last.day else _("%(from)s, to %(day)s") % {"from": words, "day": day_words(last.day)}


def _waits(planned: Planned, *, passed: bool) -> tuple[str, str]:
    """What a job waits for in words, and what is wrong with it."""
    task = planned.task
    if task.arrives:
        words = _("its part comes on %(day)s") % {"day": day_words(task.arrives)}
        return words, _("too late") if planned.late else ""
    if planned.order_by:
        words = _("order it by %(day)s") % {"day": day_words(planned.order_by)}
        return words, _("that day is past") if passed else _("too late") if planned.late else ""
    return "", ""


def rows(bench: Bench, units: Units | str, forms: dict[str, AwaitForm]) -> list[JobRow]:
    """The jobs in their order. forms: those that were sent and refused, by job."""
    seen, found = seen_of(bench), []
    said = {a.job: a for a in (bench.kept_inputs.race.week.awaited if bench.kept_inputs.race.week else ())}
    for k, p in enumerate(seen.week.planned, start=1):
        waits, bad = _waits(p, passed=p.task.id in seen.passed)
        kind, _colon, which = p.task.id.partition(":")
        form = forms.get(p.task.id)
        if form is None and which:
            current = said[p.task.id].model_dump(exclude_unset=True) if p.task.id in said else {}
            form = AwaitForm(preset=units, current=current, auto_id=f"id_{k}_%s")
        found.append(
            JobRow(
                number=k, id=p.task.id, name=_name(seen, p.task.id), when=_when(bench, p),
                takes=value_text(p.task.takes_s, "engine_hours", units), first_time=p.task.first_time,
                waits=waits, bad=bad,
                chore=which if kind == "chore" else "", form=form,
            )
        )  # fmt: skip
    return found


def _drawn(bench: Bench, seen: asked.WeekSeen) -> SafeString | str:
    if not seen.week.planned:
        return ""
    bars: dict[str, list[Bar]] = {}
    comes: dict[str, list[str]] = {}
    for k, p in enumerate(seen.week.planned, start=1):
        for b in p.blocks:
            bar = Bar(
                from_h=b.from_s / HOUR_S, to_h=b.to_s / HOUR_S, number=k, name=_name(seen, p.task.id), late=p.late
            )
            bars.setdefault(b.day, []).append(bar)
        if p.comes:
            comes.setdefault(p.comes, []).append(str(k))
    evenings = [Evening(words=day_words(d), bars=bars.get(d, []), comes=comes.get(d, [])) for d in seen.evenings]
    race = bench.kept_inputs.race
    evenings.append(Evening(words=day_words(race.start[:10]), race=f"{race.name}, {race.own_start:%H:%M}"))
    return weekplan(
        evenings, hours=seen.each_s / HOUR_S, latest=_("begin here at the latest"), comes=_("part for {}"),
        label=_("The evenings before the race"), unit=_("h"),
    )  # fmt: skip


def _without(bench: Bench, seen: asked.WeekSeen, units: Units | str) -> dict[str, Any] | None:
    """What becomes of the week without what comes too late."""
    left = seen.without
    if left is None:
        return None
    kept = {p.task.id for p in left.planned}
    gone = [_name(seen, i) for p in seen.week.planned if ":" in (i := p.task.id) and i not in kept]
    return {
        "gone": ", ".join(gone),
        "begins": _when(bench, left.planned[0]) if left.planned else "",
        "work": value_text(left.work_s, "engine_hours", units),
        "slack": None if left.slack_s is None else value_text(left.slack_s, "engine_hours", units),
        "short": left.is_short,
    }


def page(bench: Bench, units: Units | str, forms: dict[str, AwaitForm]) -> dict[str, Any]:
    """All that the room shows."""
    seen = seen_of(bench)
    first = seen.week.planned[0].blocks[0] if seen.week.planned else None
    week = bench.kept_inputs.race.week
    return {
        "week": seen.week,
        "rows": rows(bench, units, forms),
        "drawing": _drawn(bench, seen),
        "begins": f"{day_words(first.day)}, {_clock(bench, first):%H:%M}" if first else "",
        "work": value_text(seen.week.work_s, "engine_hours", units),
        "each": value_text(seen.each_s, "engine_hours", units),
        "without": _without(bench, seen, units),
        "held": seen.held,
        "done": [c for c in (week.chores if week else ()) if c.done],
        "figures": FIGURES,
        "unsaid": seen.begins is None,
    }


def still_to_do(bench: Bench, _preset: Units | str) -> list[str]:
    """What of the chores on the bike is left, for the card; by name, the first few."""
    week = bench.kept_inputs.race.week
    names = [c.name for c in (week.chores if week else ()) if not c.done and not c.at_the_end]
    more = len(names) - MOST_ON_CARD
    told = [*names[:MOST_ON_CARD], *([_("and %(n)s more") % {"n": more}] if more > 0 else [])]
    # a name may hold commas
    return ["; ".join(told)] if told else []


def week_ics(bench: Bench) -> bytes:
    """The week as a calendar: each stretch of work, the last days to order, the race itself; in the race's zone."""
    made, seen, race = Calendar(), seen_of(bench), bench.kept_inputs.race
    made.add("prodid", "-//Lynxwort//race week//EN")
    made.add("version", "2.0")
    whose = f"{bench.race.uid}-{bench.setup.uid}@lynxwort"
    now = datetime.now(UTC)

    def event(name: str, begins: datetime | date, words: str, ends: datetime | None = None) -> Event:
        one = Event()
        one.add("uid", f"{name.replace(':', '-')}-{whose}")
        one.add("dtstamp", now)
        one.add("sequence", int((now - FIRST).total_seconds()))
        one.add("dtstart", begins)
        if ends is not None:
            one.add("dtend", ends)
        one.add("summary", words)
        made.add_component(one)
        return one

    for p in seen.week.planned:
        name = _name(seen, p.task.id)
        for k, b in enumerate(p.blocks):
            words = f"{bench.setup.bike.name}: {name}"
            event(f"{p.task.id}-{k}", race.evening(b.day, b.from_s), words, race.evening(b.day, b.to_s))
        if p.order_by:
            words = _("%(bike)s: order for %(job)s, the last day") % {"bike": bench.setup.bike.name, "job": name}
            ringing(event(f"order-{p.task.id}", date.fromisoformat(p.order_by), words), words)
    takes = bench.kept.ask(asked.service_seen).race_s
    ringing(event("race", race.own_start, race.name, race.clock_at(max(takes, 1.0))), race.name)
    first = race.evening(seen.evenings[0], 0.0) if seen.evenings else race.own_start
    add_zone(made, first, race.clock_at(takes) + timedelta(days=1))
    return bytes(made.to_ical())
