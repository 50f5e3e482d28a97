"""The stand in words: bikes, races to come, what is unsettled for each, and the next thing to do."""

import secrets
import time
from typing import Any

from django.core.paginator import Paginator
from django.middleware.csrf import get_token
from django.template.loader import render_to_string
from django.utils.safestring import SafeString
from django.utils.translation import get_language
from django.utils.translation import gettext as _

from lynxwort.core.report import STATIONS, Report
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.present import measures, not_judged
from lynxwort.web.bench.registry import room_of
from lynxwort.web.bench.standing import Standing, standings
from lynxwort.web.bikes.models import Setup
from lynxwort.web.bikes.services import checked_bike
from lynxwort.web.evaluation import door
from lynxwort.web.garages import counter
from lynxwort.web.garages.models import Garage
from lynxwort.web.garages.touring import tour_of
from lynxwort.web.races.models import Race
from lynxwort.web.ui.typed import Request
from lynxwort.words.catalogue import STATION_NAMES, say

BIKES_PER_PAGE = 20
#: unsettled stations named for one race
NAMED = 4
#: a race leaves the stand by the clock alone: nothing is kept longer [s]
KEPT_S = 600.0
#: where in what is kept the token of the page that asks goes; a name that nobody can type
_TOKEN = f"place-{secrets.token_hex(12)}"


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
                "line": not_judged(report, station) or say(first, report, preset, _).rail,
            }
        )
    return rows


def _next(standing: Standing, preset: Units | str) -> dict[str, str]:
    """The next thing to do for a race and where: act on the worst, else measure what is unknown, else look, else
    print the card.
    """
    if standing.setup is None:
        return {"words": _("Put a bike on the bench for it"), "where": ""}
    if standing.report is None:
        return {"words": _("Open the bench: it was not judged yet"), "where": "purpose/"}
    worst = next(iter(standing.unsettled), "")
    if standing.measures and not (worst and standing.report.verdicts[worst] == "act"):
        first = measures(standing.measures[:1], preset)[0]
        return {"words": _("Measure: %(what)s, %(before)s to %(after)s") % first, "where": "baseline/"}
    if not worst:
        return {"words": _("All settled: print the pit card"), "where": "card/"}
    found = standing.report.of(worst)[0]
    # straight to the room in which it is settled
    room = room_of(worst, found.code, checked_bike(standing.setup.bike.document))
    return {
        "words": say(found, standing.report, preset, _).answer,
        "where": f"{room.station}/{room.path}" if room else f"{worst}/",
        "severity": found.severity,
    }


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
    shown = Paginator(setups, BIKES_PER_PAGE).get_page(page)
    ridden = {s.setup.pk: by_race[s.race.pk] for s in reversed(found) if s.setup}
    return {
        "ridden": ridden,
        "page": shown,
        "nothing": not shown.object_list and not choices,
        "any_setup": bool(shown.object_list),
        "only_setup": shown.object_list[0] if len(shown.object_list) == 1 else None,
        "races": races,
        "race_choices": choices,
        "more_races": max(len(choices) - len(races), 0),
        "waiting": any(not s.fresh for s in found),
    }


def page_of(request: Request) -> SafeString:
    """The stand's page below the bar, kept while no row that it is made of is written."""
    garage, preset, page, offered = request.garage, request.preset, request.GET.get("page"), tour_of(request) == 0

    def made() -> str:
        rows = stand_rows(garage, preset, page) | {"tour_offered": offered, "csrf_token": _TOKEN}
        return render_to_string("bench/_at_home.html", rows)

    mark = counter.mark()
    key = (mark, garage.pk, preset, get_language(), page, offered, int(time.time() / KEPT_S))
    html = made() if mark is None else door.cached("stand", key, made)
    return SafeString(html.replace(_TOKEN, get_token(request)))
