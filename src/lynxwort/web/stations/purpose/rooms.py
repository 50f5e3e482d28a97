"""Purpose's drawings."""

import itertools
from typing import Any

import numpy as np
from django.utils.translation import gettext as _

from lynxwort.core.model.race import GROUNDS
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.purpose.times import ground_shares, stage_times
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import charts
from lynxwort.words.catalogue import TERMS


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """The course from above, and its ground by share."""
    work = bench.report.work
    stage = 0 if at_m is None else work.around.stage_at(at_m)
    line, ground = work.around.lines[stage], work.around.courses[stage].ground
    step = max(line.distance_m.size // 1500, 1)
    edges = np.flatnonzero(np.diff(ground)) + 1
    starts = np.concatenate([[0], edges, [ground.size]])
    runs = [(int(a // step), int(b // step), GROUNDS[int(ground[a])]) for a, b in itertools.pairwise(starts)]
    at = None
    if at_m is not None:
        on_stage = at_m - float(work.around.starts_m[stage])
        at = (float(np.interp(on_stage, line.distance_m, line.east_m)), float(np.interp(on_stage, line.distance_m, line.north_m)))
    title = _("From above") if len(work.around.courses) == 1 else _("From above: %(stage)s") % {"stage": ribbons.stage_name(work, stage)}
    shares = [(code, _(TERMS[code]), value) for code, value in ground_shares(PurposeInput.of(work)).items()]
    return {
        "drawings": [(title, charts.plan(line.east_m[::step], line.north_m[::step], runs, at, _("The course from above")))],
        "shares": shares,
        "stages": stage_times(PurposeInput.of(work)) if len(work.around.courses) > 1 else [],
    }
