"""The crew's sheet: who comes by when, what to do, on the screen, as CSV and as a calendar."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.utils.translation import gettext as _
from icalendar import Calendar, Event

from lynxwort.core.asks import along, compromise
from lynxwort.core.model.race import CrewPlan, Post
from lynxwort.core.report import Report
from lynxwort.core.stations.range import moments as clocked
from lynxwort.core.stations.range import passings
from lynxwort.core.stations.range import view as stores
from lynxwort.core.stations.range.crewing import Reach, place_of, wanted_at
from lynxwort.core.stations.range.view import ridden_stints
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.ribbon import stage_name
from lynxwort.web.bench.services import Bench
from lynxwort.web.runs import arrivals
from lynxwort.web.runs.models import Arrival
from lynxwort.web.stations.range import driving
from lynxwort.web.stations.range.stopping import _kind, start_of
from lynxwort.web.stations.range.turning import handed, legs_words
from lynxwort.web.ui.sheets import add_zone, csv_text, ringing
from lynxwort.words.formatting import value_text
from lynxwort.words.range import LIGHTS, MARKED_WORDS, MOMENTS

Came = dict[str, Arrival]


# the crew's sheet
@dataclass(frozen=True, slots=True)
class CrewLine:
    """One line of the crew's sheet. key: what a phone calls it, whatever units and words it is shown in; came, by: when
    it came by and who said so; drive, there: the crew's drive to it, and when it can stand ready; stands,
    bring: who of the crew stands there, and what lies ready.
    """

    what: str
    where: str
    who: str
    early: datetime
    likely: datetime
    late: datetime
    light: str
    todo: str
    standing_s: float
    key: str
    came: datetime | None = None
    by: str = ""
    drive: Reach | None = None
    there: datetime | None = None
    stands: str = ""
    bring: str = ""


def crew_lines(report: Report, units: Units | str, came: Came | None = None) -> list[CrewLine]:
    """Passings, hand-overs, stops and the finish on the race's local clock, moved by what came by."""
    race, kind, names = (
        report.ask(along.document).race,
        _kind(report),
        [r.name for r in report.ask(along.document).riders],
    )
    stops = {s.opening + 1: s for s in report.ask(passings.planned)[0]}
    also = {p.number: p.also for p in report.ask(passings.passed, report.ask(stores.most_laps)) if p.also}
    came = came or {}
    # a moment counts from the rider's own start
    found, clock = (
        [],
        report.ask(clocked.live, {k: (row.at - race.own_start).total_seconds() for k, row in came.items()}),
    )
    drives, crew = driving.reaches(report, clock), race.crew or CrewPlan()
    document, shared = report.ask(along.document), report.ask(stores.shared)
    wanted = report.ask(wanted_at, clock)
    for k, m in enumerate(clock):
        post = crew.post(place_of(m)) if m in wanted else Post()
        stop = stops.get(m.number) if m.kind == "refuel" else None
        todo = ""
        if stop is not None:
            amounts = {"level": value_text(stop.level, kind, units), "add": value_text(stop.added, kind, units)}
            amounts["full"] = value_text(report.ask(stores.held_share, stop.level), "share", units)
            todo = (
                _("fill to %(level)s, likely %(add)s") % amounts
                if kind == "fuel"
                else _("swap the pack, likely %(full)s full") % amounts
            )
            todo = f"{todo}; {also[m.number]}" if m.number in also else todo
        elif m.kind == "refuel":
            todo = _("rides by")
        elif m.kind == "work":
            todo = _("engine off, by the rules of the window")
        elif m.kind == "park":
            todo = _("nobody touches it until the next start")
        elif m.kind == "start" and shared:
            turned = handed(document.setup, document.bike, None, (names[m.rider], m.leg), units)
            todo = _("set for %(name)s: %(turned)s") % {"name": names[m.rider], "turned": turned} if turned else ""
        elif m.kind == "hand_over":
            after, leg = clock[k + 1].rider, clock[k + 1].leg
            hands = (names[m.rider], m.leg), (names[after], leg)
            turned = handed(document.setup, document.bike, *hands, units)
            todo = _("on to %(name)s") % {"name": names[after]} + (f": {turned}" if turned else "")
        where = value_text(m.race_m, "distance", units)
        lap = (
            _("lap %(n)s") % {"n": m.lap}
            if len(report.ask(along.document).race.stages) == 1
            else stage_name(report.ask(along.document).race.stages, m.stage)
        )
        times = [race.clock_at(s) for s in (m.early_s, m.likely_s, m.late_s)]
        found.append(
            CrewLine(
                m.name or _(MOMENTS[m.kind]),
                f"{lap}, {where}",
                names[m.rider],
                times[0],
                times[1],
                times[2],
                _(LIGHTS[m.light]),
                todo,
                m.standing_s,
                m.key,
                came[m.key].at.astimezone(times[1].tzinfo) if m.key in came else None,
                came[m.key].said_by if m.key in came else "",
                drives.get(m.key),
                race.clock_at(drives[m.key].there_s or 0.0) if m.key in drives else None,
                post.who,
                post.bring,
            )
        )
    return found


def came_by(bench: Bench) -> Came:
    """What came by of this bike in this race, by the moments' keys."""
    return arrivals.came(bench.setup, bench.race)


def legs_page(report: Report, units: Units | str) -> list[dict[str, Any]]:
    """Who of a team rides what, with the leg's fuel and how the bike sags under each."""
    if not report.ask(stores.shared):
        return []
    found = []
    for ridden in report.ask(ridden_stints):
        stint, rider = ridden.stint, report.ask(along.document).riders[ridden.stint.rider]
        found.append(
            {
                "name": rider.name,
                "legs": legs_words(report, stint),
                "at": value_text(ridden.begins_m, "distance", units),
                "from": report.ask(along.document).race.clock_at(ridden.begins_s),
                "rested": ridden.rested_s,
                "time": ridden.time_s,
                "used": value_text(ridden.amount, _kind(report), units),
                "sag": ridden.sag_m,
                "mass": rider.mass_in_gear_kg,
                "pace": rider.pace,
            }
        )
    return found


def marked_words(report: Report) -> str:
    """What the event marked, in one line; empty for nothing."""
    return ", ".join(_(MARKED_WORDS[m]) for m in report.ask(along.document).race.marked)


def crew_page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The sheet that the crew holds."""
    report = bench.kept
    lines = crew_lines(report, units, came_by(bench))
    shared = (
        [c for c in (report.ask(compromise.compromise, end) for end in ("rear", "front")) if c]
        if report.ask(stores.shared)
        else []
    )
    return {
        "lines": lines,
        "last": next((line for line in reversed(lines) if line.came), None),
        "marked": marked_words(report),
        "zone": report.ask(along.document).race.time_zone,
        "legs": legs_page(report, units),
        "compromises": shared,
        "crew": report.ask(along.document).race.crew,
        "whence": bench.kept.ask(passings.planned)[1],
        "hand_over": report.ask(along.document).race.relay.hand_over_s  # type: ignore[union-attr]
        if report.ask(along.document).race.relay
        else None,
    }


def crew_csv(bench: Bench, units: Units | str) -> str:
    """The sheet as CSV, times in ISO 8601."""
    rows = [
        [
            _("what"),
            _("where"),
            _("who"),
            _("early"),
            _("likely"),
            _("late"),
            _("daylight"),
            _("to do"),
            _("came by"),
            _("stands there"),
            _("lies ready"),
        ]
    ]
    for line in crew_lines(bench.kept, units, came_by(bench)):
        times = (t.isoformat(timespec="seconds") for t in (line.early, line.likely, line.late))
        came = line.came.isoformat(timespec="seconds") if line.came else ""
        rows.append([line.what, line.where, line.who, *times, line.light, line.todo, came, line.stands, line.bring])
    return csv_text(rows)


#: what ends ends after it began
SECOND = timedelta(seconds=1)


def crew_ics(bench: Bench, units: Units | str) -> bytes:
    """The sheet as a calendar: an event from the early to the late moment of each line, in the race's zone with that
    zone's own rules beside it, since an hour counted off a zoned one is wrong where the clock changes. What was taken
    before is known again by its uid and is older by its sequence.
    """
    calendar, report = Calendar(), bench.kept
    calendar.add("prodid", "-//Lynxwort//crew sheet//EN")
    calendar.add("version", "2.0")
    stamp = bench.setup.head.created if bench.setup.head else start_of(report)
    changes = bench.race.version + bench.setup.revisions.count()
    lines = crew_lines(report, units)
    for line in lines:
        event = Event()
        event.add("uid", f"{line.key}-{bench.race.uid}-{bench.setup.uid}@lynxwort")
        event.add("dtstamp", stamp)
        event.add("sequence", changes)
        event.add("dtstart", line.early)
        event.add("dtend", max(line.late, line.early + SECOND, key=datetime.timestamp))
        event.add("summary", f"{line.what}: {line.todo}" if line.todo else line.what)
        event.add("location", line.where)
        event.add(
            "description",
            _("%(who)s, likely %(time)s, %(light)s")
            % {"who": line.who, "time": line.likely.strftime("%H:%M"), "light": line.light},
        )
        if line.key.startswith("start-"):
            ringing(event, f"{bench.race.name}: {line.what}")
        calendar.add_component(event)
    add_zone(calendar, lines[0].early, lines[-1].late)
    return bytes(calendar.to_ical())
