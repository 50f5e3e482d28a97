"""Purpose's drawings."""

from typing import Any

from django.utils.formats import date_format
from django.utils.translation import gettext as _

from lynxwort.core.stations.purpose.times import ground_shares, stage_times
from lynxwort.core.stations.purpose.view import plan
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import charts
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import value_text


def _air(bench: Bench, preset: Units | str) -> list[tuple[str, str]]:
    """The day and its air, as said."""
    race = bench.inputs.race
    air, start = race.air, race.own_start.replace(tzinfo=None)
    gap = {"gap": value_text(race.class_gap_s, "minutes", preset)}
    own = [(_("Own class"), _("%(gap)s after the first") % gap)] if race.class_gap_s else []
    return [
        (_("Start"), date_format(start, "j F Y, H:i")),
        *own,
        (_("Coldest hour"), value_text(air.temperature_low_k, "temperature", preset)),
        (_("Hottest hour"), value_text(air.temperature_high_k, "temperature", preset)),
        (
            _("Pressure, at sea level") if air.pressure_kind == "sea_level" else _("Pressure, at the place"),
            value_text(air.pressure_pa, "pressure", preset),
        ),
    ]


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """The course from above, and its ground by share."""
    seen, stages = bench.report.ask(plan, at_m), bench.inputs.race.stages
    title = (
        _("From above")
        if len(stages) == 1
        else _("From above: %(stage)s") % {"stage": ribbons.stage_name(stages, seen.stage)}
    )
    shares = [(code, _(TERMS[code]), value) for code, value in bench.report.ask(ground_shares).items()]
    return {
        "drawings": [(title, charts.plan(seen.east_m, seen.north_m, seen.runs, seen.at_m, _("The course from above")))],
        "shares": shares,
        "air": _air(bench, preset),
        "stages": bench.report.ask(stage_times) if len(stages) > 1 else [],
    }
