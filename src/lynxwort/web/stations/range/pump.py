"""At the pump: what went in, and what that means for the stops to come."""

from typing import Any

from django import forms
from django.utils.translation import gettext_lazy

from lynxwort.core.asks import along
from lynxwort.core.asks import stops as planned_stops
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.readings import FillUpReading
from lynxwort.core.report import Report
from lynxwort.core.stations.range import passings
from lynxwort.core.stations.range import view as stores
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.readings import services as readings
from lynxwort.web.stations.range.stopping import place_words
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.formatting import value_text


# at the pump
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
        bench.kept_values, bench.race.rider.document, bench.race.document["stages"][0]["course_key"], fuel_aboard_m3=was
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
