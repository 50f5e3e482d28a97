"""Stops, tanks and packs, the crew's sheet and the pump: what their pages show."""

import json
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from icalendar import Calendar, Event

from lynxwort.core.asks import along, compromise, tanks
from lynxwort.core.asks import stops as planned_stops
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.readings import FillUpReading
from lynxwort.core.model.setup import StopFill
from lynxwort.core.report import Report
from lynxwort.core.stations.range import moments as clocked
from lynxwort.core.stations.range import passings
from lynxwort.core.stations.range import view as stores
from lynxwort.core.stations.range.view import ridden_stints
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.ribbon import stage_name
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.changes import Whole
from lynxwort.web.readings import services as readings
from lynxwort.web.ui.drawings import clock
from lynxwort.web.ui.forms import QuantityField, refusal_words
from lynxwort.web.ui.sheets import csv_text
from lynxwort.web.ui.typed import json_of
from lynxwort.words.formatting import value_text
from lynxwort.words.stops import LIGHTS, MOMENTS

#: what may be done with the stops, by the name of its button
KEEP_NONE, KEEP_EVERY = "none", "every"


def _kind(report: Report) -> str:
    return "fuel" if report.ask(stores.store).kind == "fuel" else "energy"


def place_words(report: Report, passed: passings.Passed, units: Units | str) -> str:
    """Where a passing is: its name, lap or stage, and race distance."""
    name = passed.name or _("after the stage")
    lap = (
        _("lap %(n)s") % {"n": passed.lap}
        if len(report.ask(along.document).race.stages) == 1
        else stage_name(report.ask(along.document).race.stages, passed.stage)
    )
    return f"{name}, {lap}, {value_text(passed.race_m, 'distance', units)}"


def _plan(report: Report, plan: planned_stops.StopPlan | None, units: Units | str) -> dict[str, Any] | None:
    if plan is None:
        return None
    kind = _kind(report)
    lines = [
        {
            "where": place_words(report, line.passed, units),
            "level": value_text(line.stop.level, kind, units),
            "added": value_text(line.stop.added, kind, units),
            "standing": line.stop.standing_s,
            "missed": line.missed,
            "passing": line.passed.number,
        }
        for line in plan.stops
    ]
    return {
        "lines": lines,
        "standing": plan.standing_s,
        "chance": plan.chance,
        "poured": plan.chance_poured,
        "fills": json.dumps([f.model_dump(exclude_none=True) for f in plan.fills]),
    }


def plan_page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The stops as kept or in draft, the quickest plan, its alternatives."""
    report = bench.report
    store, factor, race = report.ask(stores.store), report.ask(stores.factor), report.ask(along.document).race
    found = report.ask(planned_stops.plans)
    kept = report.ask(planned_stops.kept_plan)
    places = report.ask(passings.passed, report.ask(stores.laps))
    shown = kept or (found[0] if found else None)
    return {
        "passings": len(places),
        "kept": _plan(report, kept, units),
        "plans": [_plan(report, p, units) for p in found],
        "fuel": store.kind == "fuel",
        "certainty": race.certainty,
        "measured": bool(factor.used),
        "start": value_text(store.aboard, _kind(report), units),
        "top_up": report.ask(planned_stops.chance_with, None) if places else None,
        "none": report.ask(planned_stops.chance_with, ()),
        "cans": [
            {"cans": c, "where": c.name or stage_name(race.stages, c.stage)} for c in report.ask(planned_stops.cans)
        ]
        if store.kind == "fuel"
        else [],
        "line": _time_line(report, units) if shown and shown.stops else "",
    }


def _time_line(report: Report, units: Units | str) -> Any:
    """The race on the clock with its stops and levels."""
    levels = {s.opening + 1: s for s in report.ask(passings.planned)[0]}
    marks = []
    for m in report.ask(clocked.moments):
        stop = levels.get(m.number) if m.kind == "refuel" else None
        if m.kind in ("start", "finish", "hand_over") or stop is not None:
            words = value_text(stop.added, _kind(report), units) if stop is not None else _(MOMENTS[m.kind])
            marks.append((m.likely_s, m.early_s, m.late_s, words, m.kind, m.light))
    return clock.time_line(marks, start=start_of(report), label=_("Stops on the clock"))


HOW = (("full", gettext_lazy("fill up")), ("level", gettext_lazy("fill to a level")), ("pour", gettext_lazy("pour in")))


class StopForm(forms.Form):
    """A stop of one's own: where, and to a level or so much."""

    def __init__(self, *args: Any, report: Report, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        places = [
            (str(p.number), place_words(report, p, preset))
            for p in report.ask(passings.passed, report.ask(stores.most_laps))
        ]
        self.fields["passing"] = forms.ChoiceField(label=gettext_lazy("Stop at"), choices=places)
        if report.ask(stores.store).kind == "fuel":
            self.fields["how"] = forms.ChoiceField(label=gettext_lazy("and"), choices=HOW)
            self.fields["amount_m3"] = QuantityField(
                field_facts(StopFill, "add_m3"), preset, label=gettext_lazy("Level or amount"), required=False
            )

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        if cleaned.get("how") in ("level", "pour") and not cleaned.get("amount_m3") and "amount_m3" not in self.errors:
            self.add_error("amount_m3", refusal_words("missing", ""))
        return cleaned

    def fills(self, report: Report) -> tuple[StopFill, ...]:
        """The setup's stops with this one. Raises InputRefused."""
        how, amount = self.cleaned_data.get("how"), self.cleaned_data.get("amount_m3")
        more = {"to_level_m3": amount} if how == "level" else {"add_m3": amount} if how == "pour" else {}
        return report.ask(planned_stops.with_stop, int(self.cleaned_data["passing"]), **more)


def read_fills(text: str) -> tuple[StopFill, ...] | None:
    """Stops of a button: "every", "none", or the fills of a plan. Raises ValueError."""
    if text == KEEP_EVERY:
        return None
    if text == KEEP_NONE:
        return ()
    return tuple(StopFill.model_validate(item) for item in json_of(text))


def with_fills(fills: tuple[StopFill, ...] | None) -> Whole:
    """The change to these stops; None: to no plan at all."""
    return Whole({"stops": None if fills is None else [f.model_dump(exclude_none=True) for f in fills]})


# tanks, packs, modes
# ----------------------------------------------------------------------------------------------------
def holders_page(bench: Bench) -> dict[str, Any]:
    """Tanks or packs side by side; modes of a motor."""
    report = bench.report
    rows = report.ask(tanks.holders)
    best, fuel = tanks.smallest(rows), report.ask(stores.store).kind == "fuel"
    tunable = tanks.TUNABLE[report.ask(stores.store).kind]
    set_full = (tunable, "fuel_fill_m3") if fuel else (tunable,)
    made = [{"holder": h, "best": h is best, "moves": json.dumps([[t, h.holds] for t in set_full])} for h in rows]
    modes = [{"mode": m, "moves": json.dumps([["power_mode", m.number]])} for m in report.ask(tanks.modes)]
    flow = bench.report.value("fuelling.flow_margin") if fuel else None
    return {
        "rows": made,
        "flow": flow,
        "fuel": fuel,
        "kind": _kind(report),
        "modes": modes,
        "measured": bool(report.ask(stores.factor).used),
    }


# the crew's sheet
# -------------------------------------------------------------------------------------------------------
@dataclass(frozen=True, slots=True)
class Line:
    """One line of the crew's sheet."""

    what: str
    where: str
    who: str
    early: datetime
    likely: datetime
    late: datetime
    light: str
    todo: str
    standing_s: float


def start_of(report: Report) -> datetime:
    """Local time of the start, with its zone."""
    race = report.ask(along.document).race
    moment = datetime.fromisoformat(race.start)
    return moment if moment.tzinfo else moment.replace(tzinfo=ZoneInfo(race.time_zone))


def crew_lines(report: Report, units: Units | str) -> list[Line]:
    """Passings, hand-overs, stops and the finish on the race's local clock."""
    start, kind, names = start_of(report), _kind(report), [r.name for r in report.ask(along.document).riders]
    stops = {s.opening + 1: s for s in report.ask(passings.planned)[0]}
    found, clock = [], report.ask(clocked.moments)
    for k, m in enumerate(clock):
        stop = stops.get(m.number) if m.kind == "refuel" else None
        todo = ""
        if stop is not None:
            amounts = {"level": value_text(stop.level, kind, units), "add": value_text(stop.added, kind, units)}
            todo = _("fill to %(level)s, likely %(add)s") % amounts if kind == "fuel" else _("swap the pack")
        elif m.kind == "refuel":
            todo = _("rides by")
        elif m.kind == "hand_over":
            todo = _("on to %(name)s") % {"name": names[clock[k + 1].rider]}
        where = value_text(m.race_m, "distance", units)
        lap = (
            _("lap %(n)s") % {"n": m.lap}
            if len(report.ask(along.document).race.stages) == 1
            else stage_name(report.ask(along.document).race.stages, m.stage)
        )
        times = [start + timedelta(seconds=s) for s in (m.early_s, m.likely_s, m.late_s)]
        found.append(
            Line(
                m.name or _(MOMENTS[m.kind]),
                f"{lap}, {where}",
                names[m.rider],
                times[0],
                times[1],
                times[2],
                _(LIGHTS[m.light]),
                todo,
                m.standing_s,
            )
        )
    return found


def legs_page(report: Report, units: Units | str) -> list[dict[str, Any]]:
    """Who of a team rides what, with the leg's fuel and how the bike sags under each."""
    if not report.ask(stores.shared):
        return []
    race = report.ask(along.document).race
    found, one = [], len(race.stages) == 1
    for ridden in report.ask(ridden_stints):
        stint, rider = ridden.stint, report.ask(along.document).riders[ridden.stint.rider]
        stages = range(stint.first, stint.last + 1)
        legs = (
            _("laps %(a)s – %(b)s") % {"a": stint.first + 1, "b": stint.last + 1}
            if one
            else ", ".join(stage_name(race.stages, i) for i in stages)
        )
        found.append(
            {
                "name": rider.name,
                "legs": legs,
                "time": ridden.time_s,
                "used": value_text(ridden.amount, _kind(report), units),
                "sag": ridden.sag_m,
                "mass": rider.mass_in_gear_kg,
                "pace": rider.pace,
            }
        )
    return found


def crew_page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The sheet that the crew holds."""
    report = bench.kept
    shared = (
        [c for c in (report.ask(compromise.compromise, end) for end in ("rear", "front")) if c]
        if report.ask(stores.shared)
        else []
    )
    return {
        "lines": crew_lines(report, units),
        "zone": report.ask(along.document).race.time_zone,
        "legs": legs_page(report, units),
        "compromises": shared,
        "whence": bench.kept.ask(passings.planned)[1],
        "hand_over": report.ask(along.document).race.relay.hand_over_s
        if report.ask(along.document).race.relay
        else None,
    }


def crew_csv(report: Report, units: Units | str) -> str:
    """The sheet as CSV, times in ISO 8601."""
    rows = [["what", "where", "who", "early", "likely", "late", "light", "to do"]]
    for line in crew_lines(report, units):
        times = (t.isoformat(timespec="seconds") for t in (line.early, line.likely, line.late))
        rows.append([line.what, line.where, line.who, *times, line.light, line.todo])
    return csv_text(rows)


def crew_ics(bench: Bench, units: Units | str) -> bytes:
    """The sheet as a calendar: an event from the early to the late moment of each line."""
    calendar = Calendar()
    calendar.add("prodid", "-//Lynxwort//crew sheet//EN")
    calendar.add("version", "2.0")
    stamp = bench.setup.head.created if bench.setup.head else start_of(bench.kept)
    for k, line in enumerate(crew_lines(bench.kept, units)):
        event = Event()
        event.add("uid", f"{bench.race.uid}-{bench.setup.uid}-{k}@lynxwort")
        event.add("dtstamp", stamp)
        event.add("dtstart", line.early.astimezone(ZoneInfo("UTC")))
        event.add("dtend", line.late.astimezone(ZoneInfo("UTC")))
        event.add("summary", f"{line.what}: {line.todo}" if line.todo else line.what)
        event.add("location", line.where)
        event.add(
            "description",
            _("%(who)s, likely %(time)s, %(light)s")
            % {"who": line.who, "time": line.likely.strftime("%H:%M"), "light": line.light},
        )
        calendar.add_component(event)
    return bytes(calendar.to_ical())


# at the pump
# ------------------------------------------------------------------------------------------------------------
class PumpForm(forms.Form):
    """What went in at a stop, and to what level."""

    def __init__(self, *args: Any, preset: Units | str, places: list[tuple[str, str]], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["passing"] = forms.ChoiceField(label=gettext_lazy("Here"), choices=places)
        self.fields["put_m3"] = QuantityField(
            field_facts(FillUpReading, "fuel_m3"), preset, label=gettext_lazy("Went in")
        )
        self.fields["level_m3"] = QuantityField(
            field_facts(FillUpReading, "fuel_m3"), preset, label=gettext_lazy("Filled to"), required=False
        )


def _pumped(report: Report) -> list[FillUpReading]:
    """Fill-ups of this race at its stops, in order."""
    return sorted(
        (
            r
            for r in report.ask(along.document).readings
            if not r.struck_out and isinstance(r, FillUpReading) and r.to_m is not None
        ),
        key=lambda r: r.to_m or 0.0,
    )


def pump_page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """Where one is, what was put in so far, and what is to come."""
    report = bench.kept
    places = report.ask(passings.passed, report.ask(stores.most_laps))
    done, factor = _pumped(report), report.ask(stores.factor)
    last = max((p.number for p in places if done and abs(p.race_m - (done[-1].to_m or 0.0)) < 1.0), default=0)
    level = (done[-1].level_m3 if last else None) or report.ask(stores.store).aboard
    coming = bench.kept.ask(planned_stops.to_come, last, level)
    rows = [
        {
            "n": k + 1,
            "where": place_words(report, a.passed, units),
            "put": a.put,
            "low": a.put_low,
            "high": a.put_high,
            "level": a.level,
            "sag": a.rear_sag_m,
        }
        for k, a in enumerate(coming)
    ]
    return {
        "choices": [(str(p.number), place_words(report, p, units)) for p in places if p.number > last],
        "next": str(coming[0].passed.number) if coming else "",
        "level": coming[0].level if coming else report.ask(stores.store).aboard,
        "rows": rows,
        "done": [{"where": value_text(r.to_m or 0.0, "distance", units), "used": r.fuel_m3} for r in done],
        "k": factor.median,
        "k_sd": factor.log_sd,
        "measured": bool(factor.used),
        "last": last,
        "aboard": level,
        "sag_now": report.ask(stores.rear_sag, level),
        "certainty": report.ask(along.document).race.certainty,
        "doubted": bool(factor.doubted),
    }


def keep_pumped(bench: Bench, passing: int, put_m3: float, level_m3: float | None) -> None:
    """Keep what went in at a passing as a fill-up over what was ridden since the last one. Raises InputRefused."""
    report = bench.kept
    places = {p.number: p for p in report.ask(passings.passed, report.ask(stores.most_laps))}
    if passing not in places:
        raise InputRefused(Refusal(path="passing", code="not_a_passing"))
    here, done = places[passing].race_m, _pumped(report)
    before = [r for r in done if (r.to_m or 0.0) < here - 1.0]
    from_m, was = (
        (before[-1].to_m or 0.0, before[-1].level_m3 or report.ask(stores.store).aboard)
        if before
        else (0.0, report.ask(stores.store).aboard)
    )
    level = level_m3 or report.ask(stores.store).aboard
    if level > report.ask(stores.store).capacity + 1e-9:
        raise InputRefused(Refusal(path="level_m3", code="fill_over_tank"))
    used = planned_stops.used_since(was, put_m3, level)
    conditions = readings.under(
        bench.setup.head.values,
        bench.race.rider.document,
        bench.race.document["stages"][0]["course_key"],
        fuel_aboard_m3=was,
    )
    made = {
        "kind": "fill_up",
        "fuel_m3": used,
        "laps": bench.kept.ask(planned_stops.laps_between, from_m, here),
        "from_m": from_m,
        "to_m": here,
        "level_m3": level,
        "under": conditions,
    }
    readings.add_reading(bench.setup.bike, made)
