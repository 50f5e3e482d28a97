"""Two kept setups in words: what changed and what it did, in the person's units."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.figures import FIGURES
from lynxwort.core.report import STATIONS
from lynxwort.core.tunables import item_of, kind_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bikes.services import Comparison, checked_bike
from lynxwort.words.catalogue import FIGURE_NAMES, JUDGEMENTS, STATION_NAMES, tunable_word
from lynxwort.words.formatting import difference_text, value_text
from lynxwort.words.kit import item_state


def comparison_rows(found: Comparison, preset: Units | str) -> dict[str, Any]:
    """Changed tunables, and consequences by station, better and worse before even."""

    def text(value: float | None, kind: str) -> str:
        return _("none") if value is None else value_text(value, kind, preset)

    bike = checked_bike(found.after.document["bike"])

    def told(tunable: str, value: float | None) -> str:
        return _(item_state(tunable, value)) if item_of(tunable) else text(value, kind_of(tunable))

    changed = [(_(tunable_word(t, bike)), told(t, a), told(t, b)) for t, a, b in found.changed]
    order = {"worse": 0, "better": 0, "changed": 1, "even": 2}
    stations = []
    for station in STATIONS:
        mine = sorted(
            (c for c in found.consequences if c.figure.startswith(f"{station}.")), key=lambda c: order[c.judgement]
        )
        rows = [
            {
                "name": _(FIGURE_NAMES[c.figure]),
                "before": value_text(c.before, FIGURES[c.figure].kind, preset),
                "after": value_text(c.after, FIGURES[c.figure].kind, preset),
                "judgement": c.judgement,
                "word": _(JUDGEMENTS[c.judgement]),
                "change": difference_text(c.after - c.before, FIGURES[c.figure].kind, preset),
            }
            for c in mine
        ]
        # what differs by less than is shown says nothing
        rows = [row for row in rows if row["before"] != row["after"]]
        if rows:
            stations.append((_(STATION_NAMES[station]), rows))
    same = found.before.race_name == found.after.race_name and found.before.core_version == found.after.core_version
    return {"changed": changed, "stations": stations, "same_ground": same}
