"""What the wheels' room shows: both tyres as they are, and every wheel that is owned."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.model.fitted import inside_of, tyre_on, tyres_of
from lynxwort.core.report import Move
from lynxwort.core.stations.kit import rolling
from lynxwort.core.stations.kit.candidates import pressure
from lynxwort.core.stations.kit.input import ENDS, KitInput
from lynxwort.core.tunables import current_value
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.tables import Row, Table, moves_text
from lynxwort.words.catalogue import TERMS
from lynxwort.words.choices import TYRE_FILLINGS
from lynxwort.words.formatting import value_text
from lynxwort.words.kit import TYRE_KINDS


def _grips(given: KitInput) -> list[tuple[int, float]]:
    return [(slot, rolling.grip_over_time(given, slot)) for slot in rolling.rear_slots(given)]


def shown(bench: Bench, units: Units | str) -> dict[str, Any]:
    """Both ends, and the rear wheels side by side."""
    inputs, ends = bench.inputs, []
    markings = dict(zip(ENDS, tyres_of(inputs.bike, inputs.setup), strict=True))
    for end in ENDS:
        filled = inside_of(inputs.bike, inputs.setup, end)
        foam = filled == "mousse"
        told = [f"kit.tyre.{end}.{n}" for n in ("pressure_wanted", "strike_edge", "flat_chance", "rate")]
        told += [f"kit.mousse.{end}.{n}" for n in ("core_temperature", "load_ratio")]
        moves = () if foam else bench.report.ask(pressure, end)[0]
        ends.append(
            {
                "name": _(TERMS[end]),
                "marking": markings[end],
                "kind": _(TYRE_KINDS[tyre_on(inputs.bike, inputs.setup, end).tyre_kind]),
                "inside": _(TYRE_FILLINGS[filled]),
                "foam": foam,
                "set": None if foam else current_value(inputs.setup, f"{end}_tyre_pressure_pa"),
                "figures": [n for n in told if bench.report.figures[n].status != "not_applicable"],
                "moves": moves_text(moves),
            }
        )
    others, here = inputs.bike.frame.other_rear_wheels, inputs.setup.rear_wheel or 1
    grips = dict(bench.report.ask(_grips))
    best = max(grips.values())
    rows = [
        Row(
            name=inputs.bike.tyre.marking if slot == 1 else others[slot - 2].marking,
            tag=_("grips most here") if grip == best > min(grips.values()) else "", now=slot == here,
            moves="" if slot == here else moves_text((Move(tunable="rear_wheel", value=float(slot)),)),
            cells=(
                _(TYRE_KINDS[(inputs.bike.kit.rear_tyre if slot == 1 else others[slot - 2]).tyre_kind]),
                _("%(share)s of a middling knobby") % {"share": value_text(grip, "share", units)},
            ),
        )
        for slot, grip in grips.items()
    ]  # fmt: skip
    heads = (_("Wheel"), _("Tread"), _("Drive grip over the time of a lap"))
    table = Table(label=_("Rear wheels"), heads=heads, rows=tuple(rows)) if len(rows) > 1 else None
    return {"ends": ends, "rear_wheels": table}
