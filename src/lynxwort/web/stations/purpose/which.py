"""Which of the garage's bikes for a race: each judged whole on it, side by side."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused
from lynxwort.core.report import STATIONS
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import kept_report
from lynxwort.web.bikes.models import Setup
from lynxwort.web.bikes.services import checked_bike
from lynxwort.web.garages.models import Garage
from lynxwort.web.races.models import Race
from lynxwort.words.catalogue import STATION_NAMES
from lynxwort.words.refusals import explain

#: lines of bikes judged for one race, and the figures that stand side by side
MOST = 8
SHOWN = ("range.p_finish", "drive.lap_time", "drive.metres_short", "drive.top_speed", "chassis.seat_height")


def lines_of(garage: Garage) -> list[Setup]:
    """The lines of the garage's bikes, in their order."""
    return list(Setup.objects.filter(bike__garage=garage).select_related("bike", "head", "draft")[:MOST])


def judged(line: Setup, race: Race, preset: Units | str) -> dict[str, Any]:
    """One line as kept, or as it was entered, judged for a race: its leaves and figures, or why it cannot be."""
    row: dict[str, Any] = {"line": line, "race": race, "assumed": len(checked_bike(line.bike.document).assumed)}
    try:
        report = kept_report(line, race)
    except InputRefused as refused:
        return row | {"why": explain(refused.refusals[0], preset=preset, translate=_)}
    return row | {
        "report": report,
        "leaves": [(report.verdicts[s], _(STATION_NAMES[s])) for s in STATIONS],
        "figures": [name for name in SHOWN if report.figures[name].value is not None],
    }
