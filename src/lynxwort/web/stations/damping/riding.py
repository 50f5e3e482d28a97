"""The ride to look at: a piece of the course under the moving bike, the kept one behind it."""

from typing import Any

from django.utils.translation import gettext as _
from numpy.typing import NDArray

from lynxwort.core.stations.chassis import view as chassis
from lynxwort.core.stations.damping.moving import FRAMES_HZ, Moving, kinds, moving
from lynxwort.core.tunables import fields_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.damping.damped import pieces
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.ui.drawings.machine import machine
from lynxwort.web.ui.drawings.plate import as_data
from lynxwort.web.ui.drawings.rider import rider
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import value_text


def choices(bench: Bench) -> list[tuple[str, str]]:
    """The pieces that can be looked at; first the one that a finding speaks of."""
    found = bench.report.ask(kinds)
    told = [f.parameters.get("feature") for f in bench.report.of("damping")]
    found = sorted(found, key=lambda kind: told.index(kind) if kind in told else len(told))
    return [(kind, _(TERMS[kind])) for kind in found]


def _plain(rows: NDArray[Any]) -> Any:
    return rows.round(3).tolist()


def _words(seen: Moving, bench: Bench, preset: Units | str) -> str:
    """What it does there, in a line."""
    piece = next(p for p in pieces(bench, preset) if p["name"] == _(TERMS[seen.kind]))
    line = _("%(speed)s: %(rear)s of rear travel, %(front)s of the fork") % {
        "speed": value_text(seen.speed_m_per_s, "speed", preset),
        "rear": value_text(piece["rear"], "travel", preset),
        "front": value_text(piece["front"], "travel", preset),
    }
    if not piece["holds"]:
        return f"{line}. " + _("It pitches as in a crash: beyond what this model holds for.")
    return f"{line}. " + _("The tyre comes to its rim here: mind the pressure.") if piece["rim"] else f"{line}."


def ride_data(bench: Bench, kind: str, preset: Units | str) -> dict[str, Any]:
    """One piece for the moving picture: metres, shares of travel, the drawn bike's parts, the words."""
    seen = bench.report.ask(moving, kind)
    o, look, (ahead, above) = bench.report.ask(chassis.outline), look_of(bench.inputs), sprocket_of(bench.inputs)
    moves = any(f in bench.changed for f in (*fields_of("damping"), *fields_of("chassis")))
    return {
        "kind": seen.kind,
        "frames": _plain(seen.frames),
        "kept": _plain(bench.kept.ask(moving, kind, seen.speed_m_per_s).frames) if moves else [],
        "hz": FRAMES_HZ,
        "rest": _plain(seen.rest),
        "ground": _plain(seen.ground),
        "ground_from": round(seen.ground_from_m, 3),
        "ground_step": round(seen.ground_step_m, 3),
        "to_front": round(seen.to_front_m, 4),
        "to_rear": round(seen.to_rear_m, 4),
        "bump": [round(seen.bump_rear_share, 3), round(seen.bump_front_share, 3)],
        "lean": round(seen.lean_ratio, 4),
        "parts": as_data([*machine(o, look, (o.pivot[0] + ahead, o.pivot[1] + above)), *rider(o, look)]),
        "pivot": round(o.pivot[0], 3),
        "words": {
            "rear": _("rear"),
            "front": _("fork"),
            "bump": _("bump rubber"),
            "metal": _("metal"),
            "label": _("The bike riding over %(piece)s, a moving picture") % {"piece": _(TERMS[seen.kind])},
            "line": _words(seen, bench, preset),
        },
    }
