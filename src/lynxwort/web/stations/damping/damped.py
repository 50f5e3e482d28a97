"""Force against shaft speed, and the pieces of the course as ridden: drawn for the station, the valving bench and the sheet."""

from typing import Any

import numpy as np
from django.utils.translation import gettext as _

from lynxwort.core.physics.damping.damper import force_at
from lynxwort.core.stations.damping import dampers, rides
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import valving as drawings
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import plain_number, value_text

#: shaft speeds drawn [m/s]: beyond them no shaft comes in use (from memory)
DRAWN_M_PER_S = 3.0
POINTS = 90


def _forces(bench: Bench, end: str, kept: bool) -> tuple[np.ndarray, np.ndarray]:
    inputs = bench.kept_inputs if kept else bench.inputs
    inward, outward = dampers.tables_of(inputs.bike, inputs.setup, end)
    speeds = DRAWN_M_PER_S * np.linspace(0.0, 1.0, POINTS) ** 2
    return force_at(inward, speeds), force_at(outward, speeds)


def force_drawing(bench: Bench, end: str) -> Any:
    """Force against shaft speed of fork or shock, both ways, the kept one as ghost."""
    now, was = _forces(bench, end, kept=False), _forces(bench, end, kept=True)
    same = all(np.array_equal(a, b) for a, b in zip(now, was, strict=True))
    reached = {
        way: max(getattr(getattr(m, "front" if end == "fork" else "rear"), f"{way}_m_per_s") for c in bench.report.ask(rides.ridden) for m in c.runs)
        for way in ("inward", "outward")
    }
    return drawings.forces(
        DRAWN_M_PER_S * np.linspace(0.0, 1.0, POINTS) ** 2,
        now,
        None if same else was,
        (reached["inward"], reached["outward"]),
        words={"in": _("in"), "out": _("out"), "reached": _("reached in the rides"), "x": _("shaft speed, m/s"), "y": _("force, N")},
        label=_("Fork, force against shaft speed, both legs") if end == "fork" else _("Shock, force against shaft speed"),
    )


def pieces(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """The pieces of the course with what each does, for the table beside the drawing."""
    found = []
    for case in bench.report.ask(rides.ridden):
        size = case.feature.size
        what = {
            "whoops": lambda s=size: f"{value_text(s[0], 'span', preset)} × {value_text(s[1], 'travel', preset)}",
            "rocks": lambda: "",
            "dip": lambda s=size: f"{value_text(s[1], 'span', preset)} × {value_text(s[0], 'travel', preset)}",
            "landing": lambda s=size: value_text(s[0], "travel", preset),
        }[case.feature.kind]()
        found.append({
            "name": _(TERMS[case.feature.kind]), "size": what, "at_m": case.feature.at_m, "speed": case.speed_m_per_s, "slower": case.slower,
            "holds": case.holds,
            "front": case.mean("travel_used_m", "front"), "rear": case.mean("travel_used_m", "rear"),
            "front_metal": plain_number(case.mean("metal", "front"), 1), "rear_metal": plain_number(case.mean("metal", "rear"), 1),
            "air": max(case.mean("air_share", e) for e in ("front", "rear")), "packing": case.mean("packing_m", "rear"),
            "pegs": case.mean("peg_m_per_s2"), "rider": case.mean("rider_m_per_s2"), "rim": any(m.rim for m in case.runs),
        })  # fmt: skip
    return found
