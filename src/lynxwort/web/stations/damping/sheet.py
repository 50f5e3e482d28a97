"""The setting sheet for a suspension shop."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.model.damper import PLACES, write_stack
from lynxwort.core.stations.damping import dampers
from lynxwort.core.tunables import said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_text
from lynxwort.web.stations.damping.damped import pieces
from lynxwort.web.stations.damping.felt import felt_lines
from lynxwort.words.catalogue import FIGURE_NAMES, TUNABLE_NAMES, say
from lynxwort.words.choices import POSTURES

# setting sheet
SHEET_FIELDS = (
    "shock_spring_rate_n_per_m",
    "shock_preload_m",
    "shock_compression_clicks",
    "shock_high_speed_turns",
    "shock_rebound_clicks",
    "fork_spring_rate_n_per_m",
    "fork_preload_m",
    "fork_oil_up_m",
    "fork_compression_clicks",
    "fork_rebound_clicks",
)


def sheet_page(bench: Bench, preset: Units | str) -> dict[str, Any]:
    """All that a suspension shop asks for, on one page."""
    inputs = bench.inputs
    setup, bike, rider = inputs.setup, inputs.bike, inputs.rider
    have = tunables_of(bike)
    settings = [
        (_(TUNABLE_NAMES[f]), tunable_text(bike, f, said_value(setup, f), preset), f in setup.model_fields_set)
        for f in SHEET_FIELDS
        if f in have
    ]
    stacks = [
        (
            _(TUNABLE_NAMES[f"{end}_{p}_stack"]),
            write_stack(dampers.shims_of(setup, end, p)),
            getattr(setup, f"{end}_{p}_stack") is not None,
        )
        for end in ("shock", "fork")
        for p in PLACES
    ]
    sags = [
        (_(FIGURE_NAMES[f]), f)
        for f in ("chassis.rear.race_sag", "chassis.rear.free_sag", "chassis.front.race_sag", "chassis.front.free_sag")
    ]
    found = list(bench.report.of("damping"))
    return {
        "settings": settings,
        "stacks": stacks,
        "sags": sags,
        "pieces": pieces(bench, preset),
        "rider": rider,
        "posture": _(POSTURES[rider.posture]),
        "felt": felt_lines(bench, preset),
        "said": [say(f, bench.report, preset, _) for f in found],
        "rows": table_names(bench.report),
    }


def table_names(report: Any) -> list[tuple[str, str]]:
    """Names and ids of the damping figures."""
    return [(_(FIGURE_NAMES[f]), f) for f in report.figures if f.startswith("damping.")]
