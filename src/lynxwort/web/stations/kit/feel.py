"""What a hand feels: the brakes as they are set beside what else could be on, steering, bars and clutch."""

import json
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.asks.brakes import Choice, choices
from lynxwort.core.stations.kit.input import ENDS
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import value_text
from lynxwort.words.kit import PADS


def _row(choice: Choice, units: Units | str) -> dict[str, Any]:
    parts = [
        _("rotor %(v)s") % {"v": value_text(choice.rotor_m, "travel", units)},
        _("master %(v)s") % {"v": value_text(choice.master_m, "preload", units)},
        _("%(v)s pads") % {"v": _(PADS[choice.pad])},
    ]
    moves = [[m.tunable, m.value] for m in choice.moves]
    return {"choice": choice, "name": ", ".join(parts), "moves": json.dumps(moves) if moves else ""}


def brakes(bench: Bench, units: Units | str) -> dict[str, Any]:
    """Both brakes with their choices."""
    ends = []
    for end in ENDS:
        found = bench.report.ask(choices, end)
        ends.append(
            {
                "name": _(TERMS[end]),
                "slickest": _(TERMS[found[0].slickest]),
                "firmest": _(TERMS[found[0].firmest]),
                "rows": [_row(c, units) for c in found],
            }
        )
    return {"ends": ends}


#: what the room of controls tells, in its order
CONTROLS = (
    ("kit.steer.inertia", "kit.steer.kick_time"),
    ("kit.bars.isolation", "kit.hands.exposure", "kit.hands.time_to_action"),
    ("kit.clutch.margin",),
)


def controls(bench: Bench) -> dict[str, Any]:
    """Figures of steering, bars and clutch; those that do not apply left out."""
    told = [[n for n in names if bench.report.figures[n].status != "not_applicable"] for names in CONTROLS]
    titles = (_("Steering"), _("Bars and hands"), _("Clutch"))
    asks = (
        "",
        _("Nobody has measured the shaking: a meter at the grips on one lap tells how long hands may take it."),
        _("Count the friction plates and weigh the springs; then it says whether the clutch holds this engine."),
    )
    unknown = [any(bench.report.figures[n].value is None for n in names) for names in told]
    shown = [asked if missing else "" for asked, missing in zip(asks, unknown, strict=True)]
    return {"groups": list(zip(titles, told, shown, strict=True))}
