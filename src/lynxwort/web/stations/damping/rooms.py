"""Damping's first room: the ride, where in the travel it is, the pieces ridden."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.stations.damping.view import travel
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.damping.damped import pieces
from lynxwort.web.stations.damping.riding import choices
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
    """What the bike does: the pieces to look at moving, where the travel goes, what each piece asks."""
    return {
        "moving": choices(bench),
        "drawings": [(_("Where in the travel it is, by share of the time"), travel_drawing(bench, preset))],
        "pieces": pieces(bench, preset),
    }
