"""The stand in words: bikes, races to come, what is unsettled for each, and the next thing to do."""

from typing import Any

from django.core.paginator import Paginator
from django.utils.translation import gettext as _

from lynxwort.core.report import STATIONS, Report
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.present import measures
from lynxwort.web.bench.standing import Standing, standings
from lynxwort.web.bikes.models import Setup
from lynxwort.web.garages.models import Garage
from lynxwort.web.races.models import Race
from lynxwort.words.catalogue import STATION_NAMES, say

BIKES_PER_PAGE = 20
#: unsettled stations named for one race
NAMED = 4


def _lines(report: Report, stations: list[str], preset: Units | str) -> list[dict[str, str]]:
    """The unsettled stations with their one-line answers."""
    rows = []
    for station in stations[:NAMED]:
        first = report.of(station)[0]
        rows.append(
            {
                "id": station,
                "name": _(STATION_NAMES[station]),
                "severity": report.verdicts[station],
                "line": say(first, report, preset, _).rail,
            }
        )
    return rows


def _next(standing: Standing, preset: Units | str) -> dict[str, str]:
    """The next thing to do for a race: act on the worst, else measure what is unknown, else look, else print
    the card.
    """
    if standing.setup is None:
        return {"words": _("Put a bike on the bench for it"), "station": ""}
    if standing.report is None:
        return {"words": _("Open the bench: it was not judged yet"), "station": "purpose"}
    worst = next(iter(standing.unsettled), "")
    if worst and standing.report.verdicts[worst] == "act":
        return {"words": say(standing.report.of(worst)[0], standing.report, preset, _).answer, "station": worst}
    if standing.measures:
        first = measures(standing.measures[:1], preset)[0]
        return {"words": _("Measure: %(what)s, %(before)s to %(after)s") % first, "station": "baseline"}
    if worst:
        return {"words": say(standing.report.of(worst)[0], standing.report, preset, _).answer, "station": worst}
    return {"words": _("All settled: print the pit card"), "station": "card"}


def stand_rows(garage: Garage, preset: Units | str, page: str | None) -> dict[str, Any]:
    """Everything on the stand."""
    setups = (
        Setup.objects.filter(bike__garage=garage)
        .select_related("bike", "head")
        .defer("head__report", "head__document", "bike__document")
    )
    found = standings(garage)
    races = [
        {
            "standing": s,
            "race": s.race,
            "setup": s.setup,
            "next": _next(s, preset),
            "lines": _lines(s.report, s.unsettled, preset) if s.report else [],
            "settled": sum(s.report.verdicts.get(n) == "ok" for n in STATIONS) if s.report else 0,
            "of": len(STATIONS),
        }
        for s in found
    ]
    every = Race.objects.filter(garage=garage)
    choices = list(every.values("pk", "name", "rider__name").order_by("start", "pk"))
    by_race = {c["pk"]: c for c in choices}
    ridden = {s.setup.pk: by_race[s.race.pk] for s in reversed(found) if s.setup}
    return {
        "ridden": ridden,
        "page": Paginator(setups, BIKES_PER_PAGE).get_page(page),
        "races": races,
        "race_choices": choices,
        "more_races": max(len(choices) - len(races), 0),
        "waiting": any(not s.fresh for s in found),
    }
