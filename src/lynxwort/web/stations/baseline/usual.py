"""What riders usually change where an engine breathes, as choices with the numbers that are assumed of them."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.bike.fittings import UsualChange, usual_for
from lynxwort.core.units.convert import Units
from lynxwort.web.bikes import services as bikes
from lynxwort.web.bikes.models import Bike
from lynxwort.words.bike import USUAL_CHANGES
from lynxwort.words.formatting import difference_text, range_text, value_text
from lynxwort.words.fuelling import PLACES


def usual_page(row: Bike, preset: Units | str) -> dict[str, Any]:
    """Each usual change with its assumed numbers, and whether it is among what fits already."""
    engine = row.document["engine"]
    there = {(f["place"], f["name"]) for f in engine.get("fittings", ())}
    rows = []
    for change in usual_for(engine["kind"]):
        name, what = (str(_(w)) for w in USUAL_CHANGES[change.code])
        low, likely, high = (value_text(v, "richness", preset) for v in change.torque_changes)
        swept = change.swept_m3(engine["displacement_m3"])
        rows.append(
            {
                "code": change.code,
                "name": name[:1].upper() + name[1:],
                "what": what,
                "place": _(PLACES[change.place]),
                "mixture": range_text(*change.richness, "richness", preset, _),
                "power": _("%(likely)s (%(low)s to %(high)s)") % {"likely": likely, "low": low, "high": high},
                "sound": difference_text(change.sound_db, "decibel", preset),
                "swept": "" if change.swept_share == 1.0 else value_text(swept, "engine_size", preset),
                "law": change.law,
                "there": (change.place, name) in there,
            }
        )
    return {"bike": row, "rows": rows}


def add(row: Bike, code: str) -> UsualChange:
    """Put a usual change among what fits a bike. Raises InputRefused for one of another kind, or one too many."""
    change = next((c for c in usual_for(row.document["engine"]["kind"]) if c.code == code), None)
    if change is None:
        raise InputRefused(Refusal(path="bike.engine.fittings", code="not_a_choice"))
    name = str(_(USUAL_CHANGES[code][0]))

    def more(now: dict[str, Any]) -> dict[str, Any]:
        engine = now["engine"]
        held = engine.get("fittings", [])
        if any((f["place"], f["name"]) == (change.place, name) for f in held):
            return now
        fitting = change.fitting(name, engine["displacement_m3"])
        return now | {"engine": engine | {"fittings": [*held, fitting]}}

    bikes.change_bike(row, more)
    return change
