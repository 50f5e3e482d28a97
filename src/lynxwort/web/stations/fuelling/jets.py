"""The jets' page: windows of weather, sets of the box, schools, purchase, cans and labels."""

import json
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.asks import jetbox
from lynxwort.core.derived.mixture import jetting_of
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.fuelling.fuels import FUELS, fuel_of
from lynxwort.core.physics.fuelling.window import COLDEST_K
from lynxwort.core.stations.fuelling import window
from lynxwort.core.stations.fuelling.view import proven, race_air
from lynxwort.core.units.convert import Units, shown_values
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import oil_words
from lynxwort.web.evaluation import door
from lynxwort.web.ui.drawings import fuel
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.diagnosis import BEFORE_ANY_JET
from lynxwort.words.formatting import number_text, unit_text, value_text
from lynxwort.words.fuelling import FUELS as FUEL_WORDS
from lynxwort.words.fuelling import JET_SCHOOLS

#: a can when none is said [m3] (common practice, no source)
CAN_M3 = 0.010


def can_of(text: str, preset: Units | str) -> float | None:
    """What a can holds [m3], as typed. Raises ValidationError."""
    return QuantityField(field_facts(Setup, "tank_capacity_m3"), preset, required=True).clean(text)  # type: ignore[return-value]


def trigger(row: jetbox.JetSet, richer: jetbox.JetSet | None, pressure_pa: float, units: Units | str) -> str:
    """When a set is to be changed, in words."""
    jet = number_text(row.jetting.main_jet, "number", units)
    if row.lowest_k is None or row.lowest_k <= COLDEST_K + 0.1:
        return _("%(jet)s is safe however cold") % {"jet": jet}
    words = _("%(jet)s is safe down to %(t)s at %(p)s") % {
        "jet": jet,
        "t": value_text(row.lowest_k, "temperature", units),
        "p": value_text(pressure_pa, "pressure", units),
    }
    if richer is None:
        return _("%(words)s; colder: none in the box") % {"words": words}
    return _("%(words)s; colder or higher pressure: %(jet)s") % {
        "words": words,
        "jet": number_text(richer.jetting.main_jet, "number", units),
    }


def _moves(row: jetbox.JetSet) -> str:
    jets = row.jetting
    moves: list[list[Any]] = [["main_jet", jets.main_jet], ["needle_clip", jets.needle_clip]]
    moves += [[name, getattr(jets, name)] for name in ("pilot_jet", "screw_turns") if getattr(jets, name) is not None]
    return json.dumps(moves + ([["needle", jets.needle]] if jets.needle > 1 else []))


def _row(row: jetbox.JetSet, richer: jetbox.JetSet | None, bench: Bench, units: Units | str) -> dict[str, Any]:
    now, highest_pa = jetting_of(bench.inputs.setup), bench.report.ask(window.day_pressures)[2]
    return {
        "set": row,
        "pilot": row.jetting.pilot_jet,
        "trigger": trigger(row, richer, highest_pa, units),
        "moves": _moves(row),
        "now": row.jetting == now,
        "buy": [number_text(v, "number", units) for _t, v in row.to_buy],
    }


def sentences(bench: Bench, units: Units | str) -> list[str]:
    """For the pit card: when to change jets, of the kept setup."""
    if bench.kept_inputs.bike.metering != "jetted" or not bench.kept.ask(proven):
        return []
    found = door.cached("jet_ladder", door.ridden_key(bench.kept_inputs), lambda: bench.kept.ask(jetbox.ladder))
    pressure = bench.kept.ask(window.day_pressures)[2]
    return [trigger(r, found[i - 1] if i else None, pressure, units) for i, r in enumerate(found)][:3]


def _window(bench: Bench, rows: list[jetbox.JetSet], units: Units | str) -> Any:
    setup = bench.inputs.setup
    setups = [(number_text(r.jetting.main_jet, "number", units), jetbox.setup_with(setup, r.jetting)) for r in rows]
    pressures, lines = bench.report.ask(jetbox.window_lines, setups or [(_("as it is"), setup)])
    now, day = number_text(setup.main_jet or 0.0, "number", units), bench.report.ask(race_air)
    low, _middle, high = bench.report.ask(window.day_pressures)
    corner = [float(shown_values(p, "pressure", units)) for p in (low, high)]
    corner += [float(shown_values(t, "temperature", units)) for t in (day.temperature_low_k, day.temperature_high_k)]
    drawn = [
        (n, shown_values(v, "temperature", units), "now" if n == now or len(lines) == 1 else "other") for n, v in lines
    ]
    return fuel.window(
        shown_values(pressures, "pressure", units),
        drawn,
        (corner[0], corner[1], corner[2], corner[3]),
        words=_("the race"),
        x_axis=_("station pressure, %(u)s") % {"u": unit_text("pressure", units)},
        y_axis=_("thermometer, %(u)s: safe above its line") % {"u": unit_text("temperature", units)},
        label=_("Coldest safe thermometer over pressure, a line for each main jet"),
    )


def page(bench: Bench, units: Units | str, can_m3: float | None) -> dict[str, Any]:
    """Everything the jets' page shows."""
    setup = bench.inputs.setup
    known = bench.report.ask(window.known_setting, setup)
    ladder = bench.report.ask(jetbox.ladder) if known else []
    bought = bench.report.ask(jetbox.purchase) if known else None
    made = bench.report.ask(jetbox.cans, can_m3 or CAN_M3)
    oil = oil_words(bench.inputs.bike, setup, units)
    label = f"{oil}, " if oil else ""
    octane = setup.fuel_octane or fuel_of(setup.fuel).octane
    return {
        "known": known,
        "rows": [_row(r, ladder[i - 1] if i else None, bench, units) for i, r in enumerate(ladder)],
        "drawing": _window(bench, ladder, units) if known else "",
        "bought": None if bought is None else _row(bench.report.ask(jetbox.with_window, bought), None, bench, units),
        "schools": [
            {"name": _(JET_SCHOOLS[s.name][0]), "text": _(JET_SCHOOLS[s.name][1]), "school": s}
            for s in bench.report.ask(jetbox.schools)
        ]
        if known
        else [],
        "before": [_(v) for v in BEFORE_ANY_JET.values()],
        "cans": made,
        "can_m3": can_m3 or CAN_M3,
        "oil": setup.premix_ratio is not None,
        "label": f"{label}{_(FUEL_WORDS[FUELS[(setup.fuel or 1) - 1].name])} {octane:.0f}, {bench.setup.bike.name}",
    }
