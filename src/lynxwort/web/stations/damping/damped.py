"""Force against shaft speed, and the pieces of the course as ridden: drawn for the station, the valving bench and the
sheet.
"""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.stations.damping.rides import Feature
from lynxwort.core.stations.damping.view import force_of
from lynxwort.core.stations.damping.view import pieces as seen_pieces
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import dampers as drawings
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import plain_number, value_text


def force_drawing(bench: Bench, end: str) -> Any:
    """Force against shaft speed of fork or shock, both ways, the kept one as ghost."""
    now, was = bench.report.ask(force_of, end), bench.kept.ask(force_of, end)
    return drawings.forces(
        now.speed_m_per_s,
        (now.inward_n, now.outward_n),
        None if now.same_as(was) else (was.inward_n, was.outward_n),
        now.reached_m_per_s,
        words={
            "in": _("in"),
            "out": _("out"),
            "reached": _("reached in the rides"),
            "x": _("shaft speed, m/s"),
            "y": _("force, N"),
        },
        label=_("Fork, force against shaft speed, both legs")
        if end == "fork"
        else _("Shock, force against shaft speed"),
    )


def _size(feature: Feature, preset: Units | str) -> str:
    """How long and how high a piece is, in words."""
    if feature.kind == "rocks":
        return ""
    if feature.kind == "landing":
        return value_text(feature.size[0], "travel", preset)
    long, high = feature.size if feature.kind == "whoops" else feature.size[::-1]
    return f"{value_text(long, 'span', preset)} × {value_text(high, 'travel', preset)}"


def pieces(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """The pieces of the course with what each does, for the table beside the drawing."""
    found = []
    for piece in bench.report.ask(seen_pieces):
        found.append(
            {
                "name": _(TERMS[piece.feature.kind]),
                "size": _size(piece.feature, preset),
                "at_m": piece.feature.at_m,
                "speed": piece.speed_m_per_s,
                "slower": piece.slower,
                "holds": piece.holds,
                "front": piece.front_used_m,
                "rear": piece.rear_used_m,
                "front_metal": plain_number(piece.front_hits, 1),
                "rear_metal": plain_number(piece.rear_hits, 1),
                "air": piece.air_share,
                "packing": piece.rear_packing_m,
                "pegs": piece.peg_m_per_s2,
                "rider": piece.rider_m_per_s2,
                "rim": piece.rim,
            }
        )
    return found
