"""Purpose's drawings."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.stations.purpose.times import ground_shares, stage_times
from lynxwort.core.stations.purpose.view import plan
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import charts
from lynxwort.words.catalogue import TERMS


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
        "stages": bench.report.ask(stage_times) if len(stages) > 1 else [],
    }
