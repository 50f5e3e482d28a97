"""Fuelling's drawings."""

from typing import Any

import numpy as np
from django.utils.translation import gettext as _

from lynxwort.core.asks import jetbox
from lynxwort.core.stations.fuelling import leanness
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import needles
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import charts


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Richness along the throttle at the densest and the thinnest air."""
    work = bench.report.work
    if work.inputs.bike.metering == "electric":
        return {"drawings": [], "empty": _("The motor burns no fuel, so there is nothing to jet, map or trim here."), "elsewhere": ("drive", "range")}
    dense, thin = work.richness.densest, work.richness.thinnest
    if dense is None or thin is None:
        return {"drawings": [], "empty": _("No mixture is known to run right on this bike yet, so nothing can be compared. Enter one under Baseline."),
                "elsewhere": ("baseline",)}  # fmt: skip
    curves = [(100 * c.value, 100 * c.low, 100 * c.high, css, words)
              for c, css, words in ((dense, "densest", _("cold low point")), (thin, "thinnest", _("hot high point")))]  # fmt: skip
    kept = bench.kept.work.richness.densest
    if kept is not None and bench.changed and not np.allclose(kept.value, dense.value):
        curves.append((100 * kept.value, 100 * kept.value, 100 * kept.value, "ghost", _("as kept, cold")))
    floors = [(r.low, r.high, 100 * r.look) for r in bench.report.ask(leanness.limits_of)]
    drawing = charts.richness(
        list(dense.throttle), curves, floors, axis=_("too lean"), unit=_("% richer than the proven pair, over throttle"), label=_("Richness along the throttle"),
        used_share=list(bench.report.ask(jetbox.lift_weights)), share_words=_("how much of the lap"),
    )  # fmt: skip
    drawings = [(_("Richness along the throttle"), drawing)]
    found = needles.needle_at(work, at_m, preset)
    drawings += [found] if found else []
    return {"drawings": drawings}
