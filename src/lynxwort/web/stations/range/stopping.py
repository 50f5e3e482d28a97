"""Stops, tanks and packs, the crew's sheet and the pump: what their pages show."""

import json
from datetime import datetime
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.asks import along, tanks
from lynxwort.core.asks import stops as planned_stops
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import StopFill
from lynxwort.core.report import Report
from lynxwort.core.stations.range import charging, passings
from lynxwort.core.stations.range import moments as clocked
from lynxwort.core.stations.range import view as stores
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.ribbon import place_and_lap, stage_name
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.changes import Whole
from lynxwort.web.ui.drawings import clock
from lynxwort.web.ui.forms import QuantityField, refusal_words
from lynxwort.web.ui.typed import json_of
from lynxwort.words.catalogue import FIGURE_NAMES
from lynxwort.words.formatting import value_text
from lynxwort.words.range import MOMENTS

#: what may be done with the stops, by the name of its button
KEEP_NONE, KEEP_EVERY = "none", "every"


def _kind(report: Report) -> str:
    return "fuel" if report.ask(stores.store).kind == "fuel" else "energy"


def place_words(report: Report, passed: passings.Passed, units: Units | str) -> str:
    """Where a passing is: its name, lap or stage, and race distance."""
    name, lap = place_and_lap(report, passed)
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
        "rounds": _rounds(report, units),
        "more": _lap_more(report, units),
        "line": _time_line(report, units) if shown and shown.stops else "",
    }


def _lap_more(report: Report, units: Units | str) -> dict[str, Any] | None:
    """The unlikely lap more with its own plan."""
    found = report.ask(planned_stops.lap_more)
    if found is None:
        return None
    until = None if found.other_until is None else value_text(found.other_until, "distance", units)
    return {"lap": found.lap, "chance": found.chance, "plan": _plan(report, found.plan, units), "until": until}


def _rounds(report: Report, units: Units | str) -> list[dict[str, Any]] | None:
    """Where a few packs go round: each passing, what comes in and what goes out."""
    found = report.ask(stores.rounds)
    if found is None:
        return None
    places = report.ask(passings.passed, report.ask(stores.most_laps))
    return [
        {
            "where": place_words(report, place, units),
            "at_s": swap.at_s,
            "left": value_text(swap.left_share, "share", units),
            "level": value_text(swap.level_share, "share", units) if swap.swapped else "",
        }
        for place, swap in zip(places, found, strict=True)
    ]


def start_of(report: Report) -> datetime:
    """Local time of one's own start, with its zone."""
    return report.ask(along.document).race.own_start


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
def holders_page(bench: Bench) -> dict[str, Any]:
    """Tanks or packs side by side; modes of a motor."""
    report = bench.report
    rows = report.ask(tanks.fitted_stores)
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
        "breaks": None if fuel else report.ask(charging.breaks),
        "lines": []
        if fuel
        else [
            (_(FIGURE_NAMES[name]), name)
            for name in ("range.motor_hottest", "range.motor_holds", "range.pack_hottest", "range.pack_holds")
        ],
    }
