"""Range's drawings."""

from dataclasses import replace
from typing import Any

from django.urls import reverse
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.stations.chassis import view as chassis
from lynxwort.core.stations.range import view
from lynxwort.core.stations.range.chance import chance_of
from lynxwort.core.units.convert import Units, convert, to_shown
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.ui.drawings import charts
from lynxwort.web.ui.drawings.standing import Note, standing
from lynxwort.words.formatting import unit_text, value_text


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Level over the race with its spread, and certainty against fuel or charge."""
    report = bench.report
    store = report.ask(view.store)
    fuel = store.kind == "fuel"
    kind, unit = ("volume", "m^3") if fuel else ("energy", "J")
    distance, level = report.ask(view.level_along)
    per_d, per_v = (
        convert(1.0, "m", to_shown(1, "distance", preset).unit),
        convert(1.0, unit, to_shown(1, kind, preset).unit),
    )
    laps = [per_d * d for d in report.ask(view.lap_ends)]
    shown_unit = unit_text(kind, preset)
    over_race = charts.level(
        per_d * distance,
        per_v * level,
        per_v * store.capacity,
        per_v * store.unusable,
        laps,
        x_axis=unit_text("distance", preset),
        y_axis=_("%(u)s aboard") % {"u": shown_unit},
        words=(_("likely"), _("good day"), _("unusable")),
        lap_words=_("lap %s") if len(bench.inputs.race.stages) == 1 else "%s",
        label=_("Fuel aboard over the race") if fuel else _("Charge aboard over the race"),
    )
    sure_of = report.ask(view.chances)
    ghost = 100 * bench.kept.ask(chance_of, sure_of.amounts) if bench.changed else None
    sure = charts.certainty(
        per_v * sure_of.amounts,
        100 * sure_of.chance,
        ghost,
        (per_v * sure_of.aboard, 100 * (bench.report.value("range.p_finish") or 0.0)),
        100 * bench.inputs.race.certainty,
        x_axis=_("%(u)s at the start") % {"u": shown_unit},
        y_axis=_("% sure to finish"),
        label=_("Certainty against fuel") if fuel else _("Certainty against charge"),
    )
    titles = (
        (_("Fuel over the race"), _("How sure, against fuel at the start"))
        if fuel
        else (_("Charge over the race"), _("How sure, against charge at the start"))
    )
    return {"drawings": [(titles[0], over_race), (titles[1], sure), _aboard(bench, preset, at_m)]}


def _aboard(bench: Bench, preset: Units | str, at_m: float | None) -> tuple[str, SafeString]:
    """The bike with what is aboard at the place, first time round, and what it does to the rear."""
    report, inputs, base = bench.report, bench.inputs, reverse("bench:bench", args=[bench.setup.pk, bench.race.pk])
    store = report.ask(view.store)
    kind = "fuel" if store.kind == "fuel" else "energy"
    here = report.ask(view.aboard_at, at_m or 0.0)
    full, empty = (report.value(f"chassis.rear.race_sag_{which}") for which in ("full", "empty"))
    part = "tank" if store.kind == "fuel" else "pack"
    holds, has = (value_text(v, kind, preset) for v in (store.capacity, here))
    notes = [
        Note(
            _("tank %(v)s") % {"v": holds} if part == "tank" else _("pack %(v)s") % {"v": holds},
            part,
            f"{base}range/holders/",
            "right",
        ),
        Note(_("%(v)s in it") % {"v": has}, part, f"{base}range/", "right"),
    ]
    if full is not None and empty is not None and part == "tank":
        sags = {"full": value_text(full, "travel", preset), "empty": value_text(empty, "travel", preset)}
        notes += [
            Note(_("sag full %(full)s") % sags, "shock", f"{base}chassis/sag/rear/", "left"),
            Note(_("empty %(empty)s") % sags, "shock", f"{base}chassis/sag/rear/", "left"),
        ]
    look = look_of(inputs)
    drawing = standing(
        report.ask(chassis.outline),
        look if look.level is None else replace(look, level=here / store.capacity),
        sprocket=sprocket_of(inputs),
        notes=notes,
        label=_("The bike with what is aboard"),
    )
    if at_m is None:
        return _("Aboard at the start"), drawing
    return _("Aboard at %(place)s, first time round") % {"place": value_text(at_m, "distance", preset)}, drawing
