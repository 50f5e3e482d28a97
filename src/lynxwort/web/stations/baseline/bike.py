"""A bike's own page: what it is, how it stands, what was kept and what was measured."""

from typing import Any

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.bike import Bike as CoreBike
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.bikes.services import checked_bike
from lynxwort.web.evaluation import door
from lynxwort.web.readings.services import checked_reading
from lynxwort.web.stations.baseline.rooms import picture
from lynxwort.words.choices import ENGINES
from lynxwort.words.formatting import value_text

#: kept setups told of one line, and readings; the rest stands in its history and on the bench
NEWEST, NEWEST_READINGS = 5, 10


def what_it_is(bike: CoreBike, preset: Units | str) -> str:
    """A bike in one line: engine, size, weight, travel."""
    frame, size = bike.frame, getattr(bike.engine, "displacement_m3", None)
    parts = [
        _(ENGINES[bike.engine.kind]),
        "" if size is None else value_text(size, "engine_size", preset),
        value_text(frame.mass_dry_kg, "mass", preset),
        _("travel %(front)s in front, %(rear)s behind")
        % {
            "front": value_text(frame.fork_travel_m, "travel", preset),
            "rear": value_text(frame.rear_travel_m, "travel", preset),
        },
    ]
    return ", ".join(p for p in parts if p)


def _picture(line: Setup, pairing: Pairing, preset: Units | str) -> SafeString | str:
    """The kept setup with the rider of its race; nothing of one that cannot be set up as it stands, or before the
    first evaluation could be made.
    """
    if not door.is_warm():
        door.warm_in_background()
        return ""
    try:
        return picture(open_bench(line, pairing.race), preset)
    except InputRefused:
        return ""


def bike_page(row: Bike, preset: Units | str) -> dict[str, Any]:
    """Everything of one bike."""
    core = checked_bike(row.document)
    lines = list(row.setups.select_related("head").order_by("pk"))
    pairings = list(
        Pairing.objects.filter(setup__bike=row)
        .select_related("race__rider", "race__course", "setup")
        .order_by("race__start")
    )
    first = next((p for p in pairings if p.setup.head_id), None)
    readings = list(row.readings.order_by("-created", "-pk"))
    return {
        "bike": row,
        "core": core,
        "what": what_it_is(core, preset),
        "picture": _picture(first.setup, first, preset) if first else "",
        "pairings": pairings,
        "lines": [
            {
                "line": line,
                "newest": line.revisions.defer("report", "document")[:NEWEST],
                "more": max(line.revisions.count() - NEWEST, 0),
            }
            for line in lines
        ],
        "readings": [(r, checked_reading(r.document)) for r in readings[:NEWEST_READINGS]],
        "more_readings": max(len(readings) - NEWEST_READINGS, 0),
    }
