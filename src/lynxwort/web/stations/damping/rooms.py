"""Damping's drawings: force against shaft speed, where in the travel it is, the pieces ridden."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.stations.damping.view import travel
from lynxwort.core.tunables import fields_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.damping.damped import force_drawing, pieces
from lynxwort.web.ui.drawings import dampers as drawings
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import plain_number, value_text


def travel_drawing(bench: Bench, preset: Units | str) -> Any:
    """Where in its travel each end spends the time over each piece."""
    names, rows = {"rear": _("Rear"), "front": _("Front")}, []
    for seen in bench.report.ask(travel):
        words = (
            _("metal × %(n)s") % {"n": plain_number(seen.metal, 1)}
            if seen.hits_metal
            else value_text(seen.used_m, "travel", preset)
        )
        rows.append(
            (f"{names[seen.end]} · {_(TERMS[seen.kind])}", seen.shares, seen.used_share, words, seen.hits_metal)
        )
    return drawings.travel_shares(
        rows, label=_("Share of the time by travel, front and rear"), left=_("topped out"), right=_("full travel")
    )


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Force against shaft speed, where the travel goes, and the pieces ridden."""
    worst = next((f.parameters.get("end") for f in bench.report.of("damping") if "end" in f.parameters), "rear")
    shock = (_("Shock, force against shaft speed"), force_drawing(bench, "shock"))
    fork = (_("Fork, force against shaft speed, both legs"), force_drawing(bench, "fork"))
    first, last = (fork, shock) if worst == "front" else (shock, fork)
    changed = any(getattr(bench.inputs.setup, f) != getattr(bench.kept_inputs.setup, f) for f in fields_of("damping"))
    return {
        "ghosted": changed,
        "drawings": [
            first,
            (_("Where in the travel it is, by share of the time"), travel_drawing(bench, preset)),
            last,
        ],
        "pieces": pieces(bench, preset),
    }
