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

from lynxwort.core.asks import compromise, tanks
from lynxwort.core.asks import stops as planned_stops
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.readings import FillUpReading
from lynxwort.core.model.setup import StopFill
from lynxwort.core.stations.range import moments as clocked
from lynxwort.core.stations.range import passings
from lynxwort.core.stations.range.chance import chance_of
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.view import ridden_stints
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.ribbon import stage_name
from lynxwort.web.bench.services import Bench
from lynxwort.web.readings import services as readings
from lynxwort.web.ui.drawings import clock
from lynxwort.web.ui.forms import QuantityField, refusal_words
from lynxwort.web.ui.sheets import csv_text
from lynxwort.web.ui.typed import json_of
from lynxwort.words.formatting import value_text
from lynxwort.words.stops import LIGHTS, MOMENTS

#: what may be done with the stops, by the name of its button
KEEP_NONE, KEEP_EVERY = "none", "every"


def _kind(work: Upstream) -> str:
    return "fuel" if work.supply.store.kind == "fuel" else "energy"


def place_words(work: Upstream, passed: passings.Passed, units: Units | str) -> str:
    """Where a passing is: its name, lap or stage, and race distance."""
    name = passed.name or _("after the stage")
    lap = _("lap %(n)s") % {"n": passed.lap} if len(work.around.courses) == 1 else stage_name(work.inputs.race.stages, passed.stage)
    return f"{name}, {lap}, {value_text(passed.race_m, 'distance', units)}"


def _plan(work: Upstream, plan: planned_stops.StopPlan | None, units: Units | str) -> dict[str, Any] | None:
    if plan is None:
        return None
    kind = _kind(work)
    lines = [
        {"where": place_words(work, line.passed, units), "level": value_text(line.stop.level, kind, units), "added": value_text(line.stop.added, kind, units),
         "standing": line.stop.standing_s, "missed": line.missed, "passing": line.passed.number}
        for line in plan.stops
    ]  # fmt: skip
    return {"lines": lines, "standing": plan.standing_s, "chance": plan.chance, "poured": plan.chance_poured,
            "fills": json.dumps([f.model_dump(exclude_none=True) for f in plan.fills])}  # fmt: skip


def plan_page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The stops as kept or in draft, the quickest plan, its alternatives."""
    work = bench.report.work
    given = RangeInput.of(work)
    found = planned_stops.plans(given)
    kept = planned_stops.kept_plan(given)
    places = passings.passed(given, work.clock.laps)
    shown = kept or (found[0] if found else None)
    return {
        "passings": len(places), "kept": _plan(work, kept, units), "plans": [_plan(work, p, units) for p in found], "fuel": work.supply.store.kind == "fuel",
        "certainty": work.inputs.race.certainty, "measured": bool(work.supply.factor.used), "start": value_text(work.supply.store.aboard, _kind(work), units),
        "top_up": float(chance_of(planned_stops.with_stops(given, None), work.supply.store.aboard)[0]) if places else None,
        "none": float(chance_of(planned_stops.with_stops(given, ()), work.supply.store.aboard)[0]),
        "cans": [{"cans": c, "where": c.name or stage_name(work.inputs.race.stages, c.stage)} for c in planned_stops.cans(given)]
        if work.supply.store.kind == "fuel" else [],
        "line": _time_line(work, units) if shown and shown.stops else "",
    }  # fmt: skip


def _time_line(work: Upstream, units: Units | str) -> Any:
    """The race on the clock with its stops and levels."""
    levels = {s.opening + 1: s for s in passings.planned(RangeInput.of(work))[0]}
    marks = []
    for m in clocked.moments(RangeInput.of(work)):
        stop = levels.get(m.number) if m.kind == "refuel" else None
        if m.kind in ("start", "finish", "hand_over") or stop is not None:
            words = value_text(stop.added, _kind(work), units) if stop is not None else _(MOMENTS[m.kind])
            marks.append((m.likely_s, m.early_s, m.late_s, words, m.kind, m.light))
    return clock.time_line(marks, start=start_of(work), label=_("Stops on the clock"))


HOW = (("full", gettext_lazy("fill up")), ("level", gettext_lazy("fill to a level")), ("pour", gettext_lazy("pour in")))


class StopForm(forms.Form):
    """A stop of one's own: where, and to a level or so much."""

    def __init__(self, *args: Any, work: Upstream, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        places = [(str(p.number), place_words(work, p, preset)) for p in passings.passed(RangeInput.of(work), work.clock.most_laps)]
        self.fields["passing"] = forms.ChoiceField(label=gettext_lazy("Stop at"), choices=places)
        if work.supply.store.kind == "fuel":
            self.fields["how"] = forms.ChoiceField(label=gettext_lazy("and"), choices=HOW)
            self.fields["amount_m3"] = QuantityField(field_facts(StopFill, "add_m3"), preset, label=gettext_lazy("Level or amount"), required=False)

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        if cleaned.get("how") in ("level", "pour") and not cleaned.get("amount_m3") and "amount_m3" not in self.errors:
            self.add_error("amount_m3", refusal_words("missing", ""))
        return cleaned

    def fills(self, work: Upstream) -> tuple[StopFill, ...]:
        """The setup's stops with this one. Raises InputRefused."""
        how, amount = self.cleaned_data.get("how"), self.cleaned_data.get("amount_m3")
        more = {"to_level_m3": amount} if how == "level" else {"add_m3": amount} if how == "pour" else {}
        return planned_stops.with_stop(RangeInput.of(work), int(self.cleaned_data["passing"]), **more)


def read_fills(text: str) -> tuple[StopFill, ...] | None:
    """Stops of a button: "every", "none", or the fills of a plan. Raises ValueError."""
    if text == KEEP_EVERY:
        return None
    if text == KEEP_NONE:
        return ()
    return tuple(StopFill.model_validate(item) for item in json_of(text))


def with_fills(values: dict[str, Any], fills: tuple[StopFill, ...] | None) -> dict[str, Any]:
    """The draft's values with these stops."""
    kept = {k: v for k, v in values.items() if k != "stops"}
    return kept if fills is None else kept | {"stops": [f.model_dump(exclude_none=True) for f in fills]}


# tanks, packs, modes ----------------------------------------------------------------------------------------------------
def holders_page(bench: Bench) -> dict[str, Any]:
    """Tanks or packs side by side; modes of a motor."""
    work = bench.report.work
    rows = tanks.holders(work)
    best, fuel = tanks.smallest(rows), work.supply.store.kind == "fuel"
    tunable = tanks.TUNABLE[work.supply.store.kind]
    set_full = (tunable, "fuel_fill_m3") if fuel else (tunable,)
    made = [{"holder": h, "best": h is best, "moves": json.dumps([[t, h.holds] for t in set_full])} for h in rows]
    modes = [{"mode": m, "moves": json.dumps([["power_mode", m.number]])} for m in tanks.modes(work)]
    flow = bench.report.value("fuelling.flow_margin") if fuel else None
    return {"rows": made, "flow": flow, "fuel": fuel, "kind": _kind(work), "modes": modes, "measured": bool(work.supply.factor.used)}  # fmt: skip


# the crew's sheet -------------------------------------------------------------------------------------------------------
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


def start_of(work: Upstream) -> datetime:
    """Local time of the start, with its zone."""
    race = work.inputs.race
    moment = datetime.fromisoformat(race.start)
    return moment if moment.tzinfo else moment.replace(tzinfo=ZoneInfo(race.time_zone))


def crew_lines(work: Upstream, units: Units | str) -> list[Line]:
    """Passings, hand-overs, stops and the finish on the race's local clock."""
    start, kind, names = start_of(work), _kind(work), [r.name for r in work.inputs.riders]
    stops = {s.opening + 1: s for s in passings.planned(RangeInput.of(work))[0]}
    found, clock = [], clocked.moments(RangeInput.of(work))
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
        lap = _("lap %(n)s") % {"n": m.lap} if len(work.around.courses) == 1 else stage_name(work.inputs.race.stages, m.stage)
        times = [start + timedelta(seconds=s) for s in (m.early_s, m.likely_s, m.late_s)]
        found.append(
            Line(m.name or _(MOMENTS[m.kind]), f"{lap}, {where}", names[m.rider], times[0], times[1], times[2], _(LIGHTS[m.light]), todo, m.standing_s)
        )
    return found


def legs_page(work: Upstream, units: Units | str) -> list[dict[str, Any]]:
    """Who of a team rides what, with the leg's fuel and how the bike sags under each."""
    if work.clock.stints is None:
        return []
    found, one = [], len(work.around.courses) == 1
    for ridden in ridden_stints(RangeInput.of(work)):
        stint, rider = ridden.stint, work.inputs.riders[ridden.stint.rider]
        stages = range(stint.first, stint.last + 1)
        legs = (
            _("laps %(a)s – %(b)s") % {"a": stint.first + 1, "b": stint.last + 1} if one else ", ".join(stage_name(work.inputs.race.stages, i) for i in stages)
        )
        found.append({"name": rider.name, "legs": legs, "time": ridden.time_s, "used": value_text(ridden.amount, _kind(work), units), "sag": ridden.sag_m,
                      "mass": rider.mass_in_gear_kg, "pace": rider.pace})  # fmt: skip
    return found


def crew_page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The sheet that the crew holds."""
    work = bench.kept.work
    shared = [c for c in (compromise.compromise(work, end) for end in ("rear", "front")) if c] if work.clock.stints else []
    return {"lines": crew_lines(work, units), "zone": work.inputs.race.time_zone, "legs": legs_page(work, units), "compromises": shared,
            "whence": bench.kept.ask(passings.planned)[1],
            "hand_over": work.inputs.race.relay.hand_over_s if work.inputs.race.relay else None}  # fmt: skip


def crew_csv(work: Upstream, units: Units | str) -> str:
    """The sheet as CSV, times in ISO 8601."""
    rows = [["what", "where", "who", "early", "likely", "late", "light", "to do"]]
    for line in crew_lines(work, units):
        times = (t.isoformat(timespec="seconds") for t in (line.early, line.likely, line.late))
        rows.append([line.what, line.where, line.who, *times, line.light, line.todo])
    return csv_text(rows)


def crew_ics(bench: Bench, units: Units | str) -> bytes:
    """The sheet as a calendar: an event from the early to the late moment of each line."""
    calendar = Calendar()
    calendar.add("prodid", "-//Lynxwort//crew sheet//EN")
    calendar.add("version", "2.0")
    stamp = bench.setup.head.created if bench.setup.head else start_of(bench.kept.work)
    for k, line in enumerate(crew_lines(bench.kept.work, units)):
        event = Event()
        event.add("uid", f"{bench.race.uid}-{bench.setup.uid}-{k}@lynxwort")
        event.add("dtstamp", stamp)
        event.add("dtstart", line.early.astimezone(ZoneInfo("UTC")))
        event.add("dtend", line.late.astimezone(ZoneInfo("UTC")))
        event.add("summary", f"{line.what}: {line.todo}" if line.todo else line.what)
        event.add("location", line.where)
        event.add("description", _("%(who)s, likely %(time)s, %(light)s") % {"who": line.who, "time": line.likely.strftime("%H:%M"), "light": line.light})
        calendar.add_component(event)
    return bytes(calendar.to_ical())


# at the pump ------------------------------------------------------------------------------------------------------------
class PumpForm(forms.Form):
    """What went in at a stop, and to what level."""

    def __init__(self, *args: Any, preset: Units | str, places: list[tuple[str, str]], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["passing"] = forms.ChoiceField(label=gettext_lazy("Here"), choices=places)
        self.fields["put_m3"] = QuantityField(field_facts(FillUpReading, "fuel_m3"), preset, label=gettext_lazy("Went in"))
        self.fields["level_m3"] = QuantityField(field_facts(FillUpReading, "fuel_m3"), preset, label=gettext_lazy("Filled to"), required=False)


def _pumped(work: Upstream) -> list[FillUpReading]:
    """Fill-ups of this race at its stops, in order."""
    return sorted((r for r in work.live_readings if isinstance(r, FillUpReading) and r.to_m is not None), key=lambda r: r.to_m or 0.0)


def pump_page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """Where one is, what was put in so far, and what is to come."""
    work = bench.kept.work
    places = bench.kept.ask(passings.passed, work.clock.most_laps)
    done = _pumped(work)
    last = max((p.number for p in places if done and abs(p.race_m - (done[-1].to_m or 0.0)) < 1.0), default=0)
    level = (done[-1].level_m3 if last else None) or work.supply.store.aboard
    coming = bench.kept.ask(planned_stops.to_come, last, level)
    rows = [
        {"n": k + 1, "where": place_words(work, a.passed, units), "put": a.put, "low": a.put_low, "high": a.put_high, "level": a.level, "sag": a.rear_sag_m}
        for k, a in enumerate(coming)
    ]
    return {
        "choices": [(str(p.number), place_words(work, p, units)) for p in places if p.number > last],
        "next": str(coming[0].passed.number) if coming else "", "level": coming[0].level if coming else work.supply.store.aboard,
        "rows": rows, "done": [{"where": value_text(r.to_m or 0.0, "distance", units), "used": r.fuel_m3} for r in done],
        "k": work.supply.factor.median, "k_sd": work.supply.factor.log_sd, "measured": bool(work.supply.factor.used), "last": last, "aboard": level,
        "sag_now": work.stand.sag("rear", race=True, fuel_m3=level)[0], "certainty": work.inputs.race.certainty, "doubted": bool(work.supply.factor.doubted),
    }  # fmt: skip


def keep_pumped(bench: Bench, passing: int, put_m3: float, level_m3: float | None) -> None:
    """Keep what went in at a passing as a fill-up over what was ridden since the last one. Raises InputRefused."""
    work = bench.kept.work
    places = {p.number: p for p in bench.kept.ask(passings.passed, work.clock.most_laps)}
    if passing not in places:
        raise InputRefused(Refusal(path="passing", code="not_a_passing"))
    here, done = places[passing].race_m, _pumped(work)
    before = [r for r in done if (r.to_m or 0.0) < here - 1.0]
    from_m, was = (before[-1].to_m or 0.0, before[-1].level_m3 or work.supply.store.aboard) if before else (0.0, work.supply.store.aboard)
    level = level_m3 or work.supply.store.aboard
    if level > work.supply.store.capacity + 1e-9:
        raise InputRefused(Refusal(path="level_m3", code="fill_over_tank"))
    used = planned_stops.used_since(was, put_m3, level)
    conditions = readings.under(bench.setup.head.values, bench.race.rider.document, bench.race.document["stages"][0]["course_key"], fuel_aboard_m3=was)
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
