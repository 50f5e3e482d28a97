"""The needle in its jet at the lift of the place under the cursor, in words and as a drawing."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.report import Report
from lynxwort.core.stations.fuelling.view import needle_view
from lynxwort.core.units.convert import Units
from lynxwort.web.ui.drawings import fuel
from lynxwort.words.formatting import value_text


def needle_at(report: Report, at_m: float | None, units: Units | str) -> tuple[str, Any] | None:
    """Title and drawing; None without a jetted carburettor."""
    seen = report.ask(needle_view, at_m)
    if seen is None:
        return None
    words = {
        "mouth": _("mouth of the needle jet"),
        "gap": _("ring %(a)s") % {"a": value_text(seen.gap_m2, "small_area", units)},
        "main": _("main jet %(a)s") % {"a": value_text(seen.main_m2, "small_area", units)},
        "lift": _("lift %(v)s") % {"v": value_text(seen.lift_m, "travel", units)},
        "needle": _("needle %(v)s") % {"v": value_text(seen.at_mouth_m, "bore", units)},
        "rules": _("needle rules %(n)s") % {"n": value_text(seen.needle_share, "share", units)},
    }
    title = (
        _("Needle and jet at this place, throttle %(t)s") if at_m is not None else _("Needle and jet, throttle %(t)s")
    )
    title %= {"t": value_text(seen.share, "share", units)}
    if not seen.measured:
        usual = _("(not measured: a usual needle)")
        title = f"{title} {usual}"
    drawing = fuel.needle(
        list(1000 * seen.below_m),
        list(1000 * seen.diameter_m),
        1000 * seen.bore_m,
        1000 * seen.jet_m,
        words=words,
        label=_("The needle in its jet, to scale"),
    )
    return title, drawing
