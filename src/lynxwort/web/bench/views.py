import json
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from django.contrib import messages
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST
from django.views.decorators.vary import vary_on_headers

from lynxwort.core.errors import InputRefused
from lynxwort.core.report import STATIONS
from lynxwort.core.tunables import TUNABLES, WHOLES, kind_of, said_value
from lynxwort.web.bench import card as cards
from lynxwort.web.bench import present, services, standing, upload
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.forms import moves_in, notches_in
from lynxwort.web.bench.why import known, why_context
from lynxwort.web.bikes import changes
from lynxwort.web.bikes import services as bikes
from lynxwort.web.bikes.models import Draft, Setup
from lynxwort.web.evaluation import ahead as aheads
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.evaluation.laying import waiting_page
from lynxwort.web.evaluation.mounted import mounted
from lynxwort.web.races.models import Race
from lynxwort.web.ui.typed import Request, place_of, version_of, whole_number, zoom_of
from lynxwort.words.refusals import explain


def rows_of(request: Request, setup: int, race: int) -> tuple[Setup, Race]:
    return mounted(request.garage, setup, race)


def told(request: Request, taken: changes.Taken) -> None:
    """Say what became of a change that a tool's page sent."""
    if taken.done:
        messages.success(request, _("In the draft. What it does everywhere stands in the ledger."))
    else:
        messages.error(request, taken.words(request.preset))


def base_of(setup: int, race: int) -> str:
    """The address that a bench's pages begin with."""
    return reverse("bench:bench", kwargs={"setup": setup, "race": race})


def kept_bench(request: Request, setup: int, race: int) -> services.Bench | HttpResponse:
    """The bench of a bike with a kept setup, 404 without one; or the page that says why it cannot be set up."""
    row, race_row = rows_of(request, setup, race)
    if row.head is None:
        raise Http404
    if not request.htmx and (waits := waiting_page(request, row, race_row)):
        return waits
    try:
        return replace(services.open_bench(row, race_row), zoom=zoom_of(request, race))
    except InputRefused as refused:
        return _refused(request, row, race_row, refused)


def room_behind(request: Request, setup: Setup, race: Race) -> str:
    """The address of the room that a change was made in, which is gone back to; empty for one made on the station."""
    back = request.POST.get("back", "")
    return back if back.startswith(base_of(setup.pk, race.pk)) else ""


def opened(request: Request) -> frozenset[str]:
    """Ids of the groups and tables that stand open in the page that asks."""
    return frozenset(request.headers.get("X-Open", "").split())


def _refused(request: Request, setup: Setup, race: Race, refused: InputRefused) -> HttpResponse:
    """The bench cannot be set up from these inputs: say which and where to mend it."""
    words = [(r.path, explain(r, preset=request.preset, translate=_)) for r in refused.refusals]
    return render(request, "bench/refused.html", {"words": words, "setup": setup, "race": race}, status=422)


def _context(request: Request, bench: services.Bench, station: str, **more: Any) -> dict[str, Any]:
    at = place_of(request)
    if at is not None:
        at = services.on_the_round(bench, at)
    context: dict[str, Any] = {
        "base": base_of(bench.setup.pk, bench.race.pk),
        "here": (here := f"{base_of(bench.setup.pk, bench.race.pk)}{station}/"),
        "here_at": f"{here}?at=",
        "room": "",
        "at_query": f"?at={at:g}" if at is not None else "",
    }
    if station == "card":
        context |= {
            "bench": bench,
            "report": bench.kept,
            "station": "card",
            "room": "card",
            "rail": present.rail(bench.report, request.preset, "card"),
            "tabs": present.tabs(bench, "card", ""),
        }
        return context | {"ledger": present.ledger(bench, request.preset)} | cards.card(bench, request.preset) | more
    context |= present.page(bench, station, request.preset, at, opened(request))
    if station == "baseline":
        context["measures"] = present.worth_measuring(bench, request.preset)
    if "tunables" in more:
        more["moved"] = present.moved_words(bench, more.pop("tunables"), request.preset)
    return context | more


def _bench_page(
    request: Request, setup: Setup, race: Race, station: str, *, status: int = 200, **more: Any
) -> HttpResponse:
    back = room_behind(request, setup, race)
    if back:
        if "refusal" in more:
            messages.error(request, more["refusal"])
        return redirect(back)
    try:
        waits = () if station == "card" else tuple(s for s in services.MAY_WAIT if s != station)
        bench = replace(services.open_bench(setup, race, if_known=waits), zoom=zoom_of(request, race.pk))
    except InputRefused as refused:
        return _refused(request, setup, race, refused)
    if not request.htmx:
        standing.remember(setup, race, bench.kept)
    template = "bench/card.html" if station == "card" else "bench/station.html"
    if request.htmx and not request.htmx.boosted and station != "card":
        template = "bench/_bench.html"
    return _of_draft(bench.draft, render(request, template, _context(request, bench, station, **more), status=status))


def _of_draft(draft: Draft, response: HttpResponse) -> HttpResponse:
    """The answer with the version of the draft that it speaks of."""
    response["HX-Version"] = str(draft.version)
    return response


@require_GET
def bench(request: Request, setup: int, race: int) -> HttpResponse:
    """The bench opens on the station that most wants looking at."""
    row, race_row = rows_of(request, setup, race)
    return redirect("bench:station", setup=row.pk, race=race_row.pk, station="purpose")


@require_POST
def mount(request: Request) -> HttpResponse:
    """Put a bike on the bench for a race; keeps No. 1 when nothing is kept yet."""
    ids = whole_number(request.POST.get("setup")), whole_number(request.POST.get("race"))
    if ids[0] is None or ids[1] is None:
        messages.error(request, _("Choose a race first."))
        return redirect("stand")
    return put_on(request, *rows_of(request, ids[0], ids[1]))


def put_on(request: Request, setup: Setup, race: Race) -> HttpResponse:
    """A bike put on the bench for a race, and the way to it."""
    try:
        services.put_on_bench(setup, race, request.user.username)
        services.pair(setup, race)
    except InputRefused as refused:
        return _refused(request, setup, race, refused)
    return redirect("bench:station", setup=setup.pk, race=race.pk, station="purpose")


@require_GET
@vary_on_headers("HX-Request")
def station(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """One station of the bench, whole or as the part that changes."""
    if station not in present.ALL_STATIONS:
        raise Http404
    row, race_row = rows_of(request, setup, race)
    if row.head is None:
        messages.info(request, _("Put the bike on the bench first."))
        return redirect("stand")
    if waits := waiting_page(request, row, race_row):
        return waits
    ready = aheads.take(aheads.key_of(request, row, race_row, station, row.draft.version, [])) if request.htmx else None
    if ready is not None:
        return _of_draft(row.draft, HttpResponse(ready))
    return _bench_page(request, row, race_row, station)


def _asked_ahead(request: Request) -> list[tuple[str, float]]:
    """The moves that a page asks about before they are made; 404 for what is none."""
    try:
        return notches_in(request.GET) if "moves" in request.GET else []
    except ValueError:
        raise Http404 from None


@require_GET
def neighbours(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """The notch rows with their neighbours' outcomes computed; with moves, as they would be after these."""
    row, race_row = rows_of(request, setup, race)
    if station not in STATIONS:
        raise Http404
    moves = _asked_ahead(request)
    if moves and not changes.imagine(row.draft, version_of(request), changes.Moves(tuple(moves))):
        return HttpResponse(status=204)

    def answer(go_on: Callable[[], bool]) -> HttpResponse:
        bench = services.open_bench(row, race_row)
        context = {"base": base_of(setup, race)}
        context |= present.neighbours(bench, station, request.preset, opened(request), go_on)
        return _of_draft(bench.draft, render(request, "bench/_notches.html", context))

    if moves:
        return aheads.newest(request.user.pk, answer) or HttpResponse(status=204)
    aheads.overtake(request.user.pk)
    return answer(lambda: True)


@require_GET
def along(request: Request, setup: int, race: int) -> HttpResponse:
    """What is said of evenly spaced places of the lap, for a drag along the ribbon."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return JsonResponse(ribbons.scrub_words(bench.report, request.preset, bench.zoom), safe=False)


@require_GET
def findings(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """What a station says, its proposals tried."""
    row, race_row = rows_of(request, setup, race)
    if station not in STATIONS:
        raise Http404
    bench = services.open_bench(row, race_row)
    context = {"bench": bench, "report": bench.report, "station": station, "base": base_of(setup, race)}
    context |= present.findings(bench, station, request.preset, compute=True)
    return _of_draft(bench.draft, render(request, "bench/_findings.html", context))


def _conflict(
    request: Request, row: Setup, race_row: Race, station: str, moves: list[tuple[str, float]]
) -> HttpResponse:
    """Another window moved the draft: show both values, pick one; nothing is lost."""
    wanted = [
        {"tunable": t, "theirs": said_value(bikes.checked_setup(row.draft.values), t), "yours": v, "kind": kind_of(t)}
        for t, v in moves
    ]
    more = {"conflict": wanted, "conflict_moves": json.dumps(moves)}
    return _bench_page(request, row, race_row, station, status=409, **more)


@require_GET
def ahead(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """Make ready what a notch would answer, and give it to the page that asks; without one the station, which is kept
    here. Writes nothing.
    """
    row, race_row = rows_of(request, setup, race)
    if station not in STATIONS:
        raise Http404
    moves = _asked_ahead(request)
    version = version_of(request) if moves else row.draft.version
    key = aheads.key_of(request, row, race_row, station, version, moves)

    def answer() -> bytes | None:
        if not services.is_settled(row, race_row):
            return None
        if moves and not changes.imagine(row.draft, version, changes.Moves(tuple(moves))):
            return None
        more: dict[str, Any] = {"tunables": [t for t, _value in moves]} if moves else {}
        response = _bench_page(request, row, race_row, station, **more)
        return response.content if response.status_code == 200 else None

    if row.mark is None or not request.htmx or not door.is_warm():
        return HttpResponse(status=204)
    aheads.overtake(request.user.pk)
    made = aheads.make(key, answer)
    if made is None or not moves:
        return HttpResponse(status=204)
    return HttpResponse(made, headers={aheads.SHOWN: aheads.mark_of(made)})


@require_POST
def notch(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """Move the draft to target values; a double click is harmless, a stale page gets both values."""
    row, race_row = rows_of(request, setup, race)
    if station not in STATIONS:
        raise Http404
    try:
        moves = moves_in(request)
    except (ValueError, TypeError, KeyError, ValidationError) as error:
        words = " ".join(getattr(error, "messages", [])) or _("That is not a notch of this bike.")
        typed = {"typed_at": request.POST.get("tunable"), "typed": request.POST.get("typed", "")}
        return _bench_page(request, row, race_row, station, status=422, refusal=words, **typed)
    version = version_of(request)
    taken = changes.take(row.draft, version, changes.Moves(tuple(moves)))
    if back := room_behind(request, row, race_row):
        told(request, taken)
        return redirect(back)
    if taken.state == "stale":
        return _conflict(request, row, race_row, station, moves)
    if not taken.done:
        words = taken.words(request.preset)
        typed = {"typed_at": moves[0][0], "typed": request.POST.get("typed", "")}
        return _bench_page(request, row, race_row, station, status=422, refusal=words, **typed)
    ready = aheads.take(aheads.key_of(request, row, race_row, station, version, moves))
    if ready is not None and taken.state == "taken":
        shown = request.headers.get(aheads.SHOWN) == aheads.mark_of(ready)
        return _of_draft(row.draft, HttpResponse(status=204) if shown else HttpResponse(ready))
    return _bench_page(request, row, race_row, station, tunables=[t for t, _value in moves])


@require_POST
def put_back(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """Put one change, or all, back to the kept revision; or take back the last change."""
    row, race_row = rows_of(request, setup, race)
    which = request.POST.get("tunable", "")
    if (which not in TUNABLES and which not in (*WHOLES, "all", "last")) or station not in present.ALL_STATIONS:
        raise Http404
    change = changes.TakeBack() if which == "last" else changes.PutBack(which)
    if not changes.take(row.draft, version_of(request), change).done:
        words = _("Another window moved the draft. Nothing was put back; here is how it stands now.")
        return _bench_page(request, row, race_row, station, status=409, refusal=words)
    return _bench_page(request, row, race_row, station, moved=_("Put back as kept") if which != "last" else _("Undone"))


@require_POST
def keep(request: Request, setup: int, race: int, station: str) -> HttpResponse:
    """Keep the draft as the next revision, with its reason."""
    row, race_row = rows_of(request, setup, race)
    if station not in present.ALL_STATIONS:
        raise Http404
    reason = request.POST.get("reason", "").strip()[:200]
    try:
        bench = services.open_bench(row, race_row)
        if bench.changed and reason:
            services.keep(bench, version_of(request), reason=reason, author=request.user.username)
            standing.remember(*rows_of(request, setup, race), bench.report)
    except bikes.StaleDraft:
        wanted = bench.draft.values
        row, race_row = rows_of(request, setup, race)
        if row.head is not None and row.head.reason == reason and bikes.kept_as(row.head, wanted):
            return _bench_page(request, row, race_row, station)  # a double press: the other one kept it
        words = _("Another window moved the draft. Nothing was kept; look at it and keep again.")
        return _bench_page(request, row, race_row, station, status=409, refusal=words, typed_reason=reason)
    except InputRefused as refused:
        return _refused(request, row, race_row, refused)
    if bench.changed and not reason:
        return _bench_page(
            request, row, race_row, station, status=422, refusal=_("Say in a few words why, then keep."), keep_open=True
        )
    row, race_row = rows_of(request, setup, race)
    return _bench_page(request, row, race_row, station, moved=_("Kept"))


@require_GET
def why(request: Request, setup: int, race: int, figure: str) -> HttpResponse:
    """The Why drawer of one figure."""
    if not known(figure):
        raise Http404
    row, race_row = rows_of(request, setup, race)
    bench = services.open_bench(row, race_row)
    return render(request, "bench/_why.html", why_context(bench, figure, request.preset))


@require_GET
def card_file(request: Request, setup: int, race: int) -> HttpResponse:
    """The pit card as a file that opens with no server."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    context = {"bench": bench, "as_file": True} | cards.card(bench, request.preset)
    response = render(request, "bench/card_file.html", context)
    response["Content-Disposition"] = 'attachment; filename="pit-card.html"'
    return response


@require_GET
def document(request: Request, setup: int, race: int) -> HttpResponse:
    """The document of the draft, for `python -m lynxwort evaluate`."""
    row, race_row = rows_of(request, setup, race)
    inputs = services.open_bench(row, race_row).inputs
    response = JsonResponse(assembled.document_of(inputs, with_course=True))
    response["Content-Disposition"] = 'attachment; filename="lynxwort.json"'
    return response


def upload_document(request: Request) -> HttpResponse:
    """A document becomes a bike, a race and a course of this garage."""
    errors: list[tuple[str, str]] = []
    if request.method == "POST":
        try:
            if "look" in request.POST:
                would = upload.would_take(request.garage, request.FILES.get("file"))
                return render(request, "bench/upload.html", {"would": would})
            upload.take_document(request.garage, request.FILES.get("file"))
            messages.success(request, _("The document stands as a bike and a race."))
            return redirect("stand")
        except InputRefused as refused:
            errors = [(r.path, explain(r, preset=request.preset, translate=_)) for r in refused.refusals]
    return render(request, "bench/upload.html", {"errors": errors}, status=422 if errors else 200)
