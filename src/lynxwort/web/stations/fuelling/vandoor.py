"""Main jets by height and temperature, for a bike without a race: a sheet for the van door."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.asks import jetbox
from lynxwort.core.standin.unraced import unraced
from lynxwort.core.units.convert import Units
from lynxwort.web.bikes.models import Bike
from lynxwort.web.bikes.services import as_it_stands
from lynxwort.web.evaluation import door
from lynxwort.web.readings.services import checked_reading
from lynxwort.words.formatting import number_text, value_text

#: what the sheet is for: heights [m], temperatures [K] and the share of humidity it is reckoned with
HEIGHTS_M = tuple(250.0 * k for k in range(13))
TEMPERATURES_K = tuple(263.15 + 5.0 * k for k in range(11))
HUMIDITY = 0.5


def sheet(row: Bike, preset: Units | str) -> dict[str, Any]:
    """The sheet of a bike: what ran right, and the main jet by height and temperature; without jets, or without a pair
    that ran right, why there is none. Raises InputRefused.
    """
    core, setup = as_it_stands(row)
    known = [r.document for r in row.readings.order_by("pk") if r.document["kind"] == "known_good" and not r.struck_out]
    page: dict[str, Any] = {"bike": row, "two_stroke": core.is_two_stroke}
    if core.metering != "jetted":
        return page | {"why": _("This bike has no main jet.")}
    if not known:
        why = _(
            "Nothing ran right on this bike yet. Ride it, check the plug, and note the setting and its air under "
            "Baseline: then the sheet is worked out from that."
        )
        return page | {"why": why}
    report = door.report_of(unraced(core, setup, (checked_reading(known[-1]),)))
    found = report.ask(jetbox.mains_by_air, HEIGHTS_M, TEMPERATURES_K, HUMIDITY)
    then = checked_reading(known[-1]).under
    return page | {
        "why": "",
        "proven": number_text(then.setup.main_jet or 0.0, "number", preset),
        "proven_air": [
            value_text(then.air.temperature_k, "temperature", preset),
            value_text(then.air.pressure_pa, "pressure", preset),
        ]
        if then.air
        else [],
        "heads": [value_text(t, "temperature", preset) for t in TEMPERATURES_K],
        "rows": [
            (
                value_text(h, "height", preset),
                [("" if c.number is None else number_text(c.number, "number", preset), c.below_too) for c in cells],
            )
            for h, cells in zip(HEIGHTS_M, found, strict=True)
        ],
    }
