"""Fuelling's drawings."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.asks import jetbox
from lynxwort.core.stations.fuelling.view import richness_view
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.fuelling import needles
from lynxwort.web.ui.drawings import charts


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Richness along the throttle at the densest and the thinnest air."""
    if bench.inputs.bike.metering == "electric":
        return {
            "drawings": [],
            "empty": _("The motor burns no fuel, so there is nothing to jet, map or trim here."),
            "elsewhere": ("drive", "range"),
        }
    seen = bench.report.ask(richness_view)
    if seen is None:
        return {
            "drawings": [],
            "empty": _(
                "No mixture is known to run right on this bike yet, so nothing can be compared. Enter one under "
                "Baseline."
            ),
            "elsewhere": ("baseline",),
        }
    curves = [
        (100 * c.value, 100 * c.low, 100 * c.high, css, words)
        for c, css, words in (
            (seen.densest, "densest", _("cold low point")),
            (seen.thinnest, "thinnest", _("hot high point")),
        )
    ]
    was = bench.kept.ask(richness_view)
    if was is not None and bench.changed and not was.same_as(seen):
        kept = 100 * was.densest.value
        curves.append((kept, kept, kept, "ghost", _("as kept, cold")))
    floors = [(r.low, r.high, 100 * r.look) for r in seen.limits]
    drawing = charts.richness(
        list(seen.densest.throttle),
        curves,
        floors,
        axis=_("too lean"),
        unit=_("% richer than the proven pair, over throttle"),
        label=_("Richness along the throttle"),
        used_share=list(bench.report.ask(jetbox.lift_weights)),
        share_words=_("how much of the lap"),
    )
    drawings = [(_("Richness along the throttle"), drawing)]
    found = needles.needle_at(bench.report, at_m, preset)
    drawings += [found] if found else []
    return {"drawings": drawings}
