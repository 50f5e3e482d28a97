"""What a hand feels: the brakes as they are set beside what else could be on, steering, bars and clutch."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.asks.brakes import Choice, choices
from lynxwort.core.stations.kit.input import ENDS
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.tables import Row, Table, moves_text
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import value_text
from lynxwort.words.kit import PADS


def _row(choice: Choice, units: Units | str, *, apart: bool) -> Row:
    """One brake. apart: whether the firmest ground is another than the slickest."""
    parts = [
        _("rotor %(v)s") % {"v": value_text(choice.rotor_m, "travel", units)},
        _("master %(v)s") % {"v": value_text(choice.master_m, "preload", units)},
        _("%(v)s pads") % {"v": _(PADS[choice.pad])},
    ]
    firmest = [value_text(choice.firm_n, "force", units)] if apart else []
    return Row(
        name=", ".join(parts), tag=_("bites as now") if choice.keeps else "", now=not choice.moves,
        moves=moves_text(choice.moves),
        cells=(
            value_text(choice.gain_nm_per_n, "gain", units), value_text(choice.slick_n, "force", units), *firmest,
            value_text(choice.rotor_k, "temperature", units), value_text(choice.fluid_margin_k, "kelvin", units),
        ),
    )  # fmt: skip


def brakes(bench: Bench, units: Units | str) -> dict[str, Any]:
    """Both brakes with their choices."""
    ends = []
    for end in ENDS:
        found = bench.report.ask(choices, end)
        slickest, firmest = _(TERMS[found[0].slickest]), _(TERMS[found[0].firmest])
        apart, name = firmest != slickest, _(TERMS[end])
        heads = (
            _("Brake"), _("Pull per newton"), _("Bite to lock, %(ground)s") % {"ground": slickest},
            *([firmest] if apart else []), _("Rotor, hottest"), _("Fluid, to boiling"),
        )  # fmt: skip
        rows = tuple(_row(c, units, apart=apart) for c in found)
        ends.append({"name": name, "table": Table(label=name, heads=heads, rows=rows)})
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
