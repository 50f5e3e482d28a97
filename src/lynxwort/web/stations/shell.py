"""The shell that stands around a room: rail, ribbon, answer, tabs, ledger."""

from typing import Any

from django.http import HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _

from lynxwort.web.bench import present, registry
from lynxwort.web.bench.services import Bench, on_the_round
from lynxwort.web.bench.views import base_of
from lynxwort.web.ui.typed import Request, place_of
from lynxwort.words.catalogue import say

#: where a room's template has another name than the room
_TEMPLATES = {"sag": "clinic", "damper-dyno": "damper_dyno", "setting-sheet": "sheet", "time-card": "timecard"} | {
    n: f"kit_{n}" for n in ("items", "wheels", "brakes", "controls", "cooling", "electrics", "sound", "build")
}


def is_part(request: Request) -> bool:
    """Whether a part of a room is asked for that fetches itself anew, not the whole of it for another place."""
    return bool(request.htmx) and request.htmx.target != "bench"


def _here(request: Request) -> str:
    """The address of a room without the place on the lap."""
    kept = request.GET.copy()
    kept.pop("at", None)
    return f"{request.path}?{kept.urlencode()}" if kept else request.path


def part(request: Request, bench: Bench, template: str, context: dict[str, Any]) -> HttpResponse:
    """The part of a room that fetches itself anew."""
    own = {"bench": bench, "base": base_of(bench.setup.pk, bench.race.pk), "here": _here(request)}
    return render(request, template, own | context)


def room(
    request: Request,
    bench: Bench,
    station: str,
    room: str,
    context: dict[str, Any],
    *,
    status: int = 200,
    template: str = "",
) -> HttpResponse:
    """A room in its shell. room: its id; context: what its template shows besides; template: another one than the
    room's own.
    """
    at = place_of(request)
    at = None if at is None else on_the_round(bench, at)
    here = _here(request)
    shell = {
        "base": base_of(bench.setup.pk, bench.race.pk),
        "at_query": f"?at={at:g}" if at is not None else "",
        "here": here,
        "here_at": f"{here}{'&' if '?' in here else '?'}at=",
        "room": room,
    }
    shell |= present.shell(bench, station, request.preset, at, room=room)
    return render(request, f"bench/{template or _TEMPLATES.get(room, room)}.html", shell | context, status=status)


def behind(
    request: Request, bench: Bench, room: str, context: dict[str, Any], status: int = 200, *, template: str = ""
) -> HttpResponse:
    """A page behind the pit card: the shell without the lap. template: another one than the room's own."""
    report, preset = bench.report, request.preset
    found = registry.settled_in(report, registry.CARD, room, bench.inputs.bike)
    shell = {
        "bench": bench, "report": report, "station": registry.CARD, "room": room, "here": request.path,
        "base": base_of(bench.setup.pk, bench.race.pk), "tabs": present.tabs(bench, registry.CARD, room),
        "rail": present.rail(report, preset, registry.CARD), "ledger": present.ledger(bench, preset),
        "verdict": found[0].severity if found else "ok", "settled_here": [say(f, report, preset, _) for f in found],
    }  # fmt: skip
    return render(request, f"bench/{template or room}.html", shell | context, status=status)
