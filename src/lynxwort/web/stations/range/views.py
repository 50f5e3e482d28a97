from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench import card as cards
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.views import base_of, kept_bench, told
from lynxwort.web.bikes import changes
from lynxwort.web.races.models import Race
from lynxwort.web.races.services import OF_CREW, change_facts, facts_of
from lynxwort.web.runs import arrivals
from lynxwort.web.stations.range import arriving, driving, stopping, turning
from lynxwort.web.stations.range import crew as crew_sheet
from lynxwort.web.stations.range import pump as pumping
from lynxwort.web.stations.range import timecard as timecards
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.stale import edited
from lynxwort.web.ui.typed import Request, json_of, version_of, whole_number
from lynxwort.words.refusals import explain

#: bytes of one press
MOST_SENT = 2000


@require_http_methods(["GET", "POST"])
def stops_page(request: Request, setup: int, race: int) -> HttpResponse:
    """Where to stop and for how much: the plan in force, the quickest, alternatives; a stop of one's own goes into the
    draft.
    """
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    report, post = bench.report, request.method == "POST"
    form = stopping.StopForm(request.POST if post else None, report=report, preset=request.preset)
    if post and form.is_valid():
        try:
            taken = changes.take(bench.draft, version_of(request), stopping.with_fills(form.fills(report)))
        except InputRefused as refused:
            form.add_error(None, " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals))
        else:
            if taken.state != "refused":
                told(request, taken)
                return redirect(f"{base_of(setup, race)}range/stops/")
            form.add_error(None, taken.words(request.preset))
    context = {"form": form} | stopping.plan_page(bench, request.preset)
    return room(request, bench, "range", "stops", context, status=422 if form.errors else 200)


@require_POST
def take(request: Request, setup: int, race: int) -> HttpResponse:
    """Take a plan of stops into the draft, or one stop out of it."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if "drop" in request.POST:
        gone = whole_number(request.POST["drop"])
        fills: tuple | None = tuple(f for f in bench.inputs.setup.stops or () if f.passing != gone)
    else:
        try:
            fills = stopping.read_fills(request.POST.get("fills", ""))
        except (ValueError, TypeError, ValidationError):
            raise Http404 from None
    told(request, changes.take(bench.draft, version_of(request), stopping.with_fills(fills)))
    return redirect(f"{base_of(setup, race)}range/stops/")


@require_GET
def holders_page(request: Request, setup: int, race: int) -> HttpResponse:
    """Tanks, or packs and power modes, side by side."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return room(request, bench, "range", "holders", stopping.holders_page(bench))


@require_GET
def crew(request: Request, setup: int, race: int) -> HttpResponse:
    """The crew's sheet, for the screen and for paper."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return _crew(request, bench)


def _crew(request: Request, bench: Bench, status: int = 200, **forms: Any) -> HttpResponse:
    context = crew_sheet.crew_page(bench, request.preset)
    context["form"] = arriving.HourForm(bench=bench, lines=context["lines"])
    context["plan"] = _plan_form(request, bench.race, bench, None)
    context |= forms
    return room(request, bench, "range", "crew", context, status=status)


def _plan_form(request: Request, row: Race, bench: Bench, sent: Any) -> driving.CrewForm:
    asked: Any = {"pairs": driving.pairs_of(bench), "places": driving.places_of(bench)}
    return driving.CrewForm(sent, preset=request.preset, current=facts_of(row, OF_CREW), **asked)


@require_POST
def crew_plan(request: Request, setup: int, race: int) -> HttpResponse:
    """What stands first on the crew's sheets, and its drives: facts of the race."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    row = get_object_or_404(Race, pk=race, garage=request.garage)

    def make() -> driving.CrewForm:
        row.refresh_from_db()
        return _plan_form(request, row, bench, request.POST)

    form, status = edited(request, make, lambda f: change_facts(row, OF_CREW, f.document(), seen=f.shown))
    if status == 302:
        messages.success(request, _("Kept with the race."))
        return redirect(f"{base_of(setup, race)}range/crew/")
    return _crew(request, bench, status, plan=form)


@require_POST
def came(request: Request, setup: int, race: int) -> HttpResponse:
    """Somebody came by: pressed on a phone, or typed as an hour."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if request.content_type == "application/json":
        try:
            arriving.pressed(bench, json_of(request.body[:MOST_SENT].decode("utf-8", "replace")), request.preset)
        except arrivals.AnotherDay:
            # a rehearsal is no mistake
            alone = _("That is not the race's day: it stays in this phone and moves nothing on the sheet.")
            return JsonResponse({"alone": alone})
        except InputRefused as refused:
            return JsonResponse({"refused": explain(refused.refusals[0], translate=_)}, status=422)
        except ValueError:
            return JsonResponse({"refused": _("That did not arrive whole.")}, status=422)
        return JsonResponse({})
    form = arriving.HourForm(request.POST, bench=bench, lines=crew_sheet.crew_lines(bench.kept, request.preset))
    if form.is_valid():
        try:
            form.keep()
            return redirect(f"{base_of(setup, race)}range/crew/#clock")
        except InputRefused as refused:
            form.add_error(None, explain(refused.refusals[0], translate=_))
    return _crew(request, bench, 422, form=form)


@require_http_methods(["GET", "POST"])
def turned(request: Request, setup: int, race: int) -> HttpResponse:
    """What is turned for each rider of a team; one's own goes into the draft."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if not turning.is_team(bench):
        raise Http404
    form = None
    if request.method == "POST":
        rider, leg = (whole_number(request.POST.get(name, "0")) for name in ("rider", "leg"))
        if rider is None or rider not in turning.riders(bench) or leg not in turning.legs(bench, rider):
            raise Http404
        form = turning.TurnedForm(request.POST, bench=bench, preset=request.preset, rider=rider, leg=leg)
        if form.is_valid():
            entry = form.entry(turning.suiting(bench, rider) if "suit" in request.POST else None)
            taken = changes.take(bench.draft, version_of(request), turning.with_entry(bench, entry))
            if taken.state != "refused":
                told(request, taken)
                return redirect(f"{base_of(setup, race)}range/crew/turned/#rider-{rider}")
            form.add_error(None, taken.words(request.preset))
    context = turning.turned_page(bench, request.preset, form)
    status = 422 if form is not None and form.errors else 200
    return room(request, bench, "range", "crew", context, status=status, template="turned")


@require_GET
def time_card(request: Request, setup: int, race: int) -> HttpResponse:
    """The time card for the bars, for one's own start minute."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = timecards.MinuteForm(request.GET if "minute" in request.GET else None)
    sound = not form.is_bound or form.is_valid()
    minute = form.cleaned_data.get("minute") or 0 if form.is_bound and sound else 0
    context = {"form": form} | timecards.card(bench, minute, request.preset)
    return room(request, bench, "range", "time-card", context, status=200 if sound else 422)


def _file(body: str | bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(body, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


#: what a browser counts as secure without a certificate
LOOPBACK = ("localhost", "127.0.0.1", "[::1]")


@require_GET
def phone(request: Request, setup: int, race: int) -> HttpResponse:
    """How the sheets come into a phone: as a file, or kept by the browser where the connection is secure."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    base = base_of(setup, race)
    safe = request.is_secure() or request.get_host().rsplit(":", 1)[0] in LOOPBACK
    sheets = [
        (_("Pit card"), f"{base}card/"),
        (_("Crew sheet"), f"{base}range/crew/"),
        (_("Time card"), f"{base}range/time-card/"),
    ]
    return room(request, bench, "range", "crew", {"sheets": sheets, "safe": safe}, template="phone")


@require_GET
def sheets_file(request: Request, setup: int, race: int) -> HttpResponse:
    """Pit card, crew's sheet and time card as one file that opens with no server."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    timed = timecards.card(bench, 0, request.preset)
    context = {"bench": bench, "as_file": True, "due": timed["lines"], "key": timed["key"]}
    crew = crew_sheet.crew_page(bench, request.preset)
    context |= {"crew": crew, "as_of": timezone.now().astimezone(crew["lines"][0].likely.tzinfo)}
    context |= cards.card(bench, request.preset)
    response = render(request, "bench/sheets_file.html", context)
    response["Content-Disposition"] = 'attachment; filename="sheets.html"'
    return response


@require_GET
def crew_csv(request: Request, setup: int, race: int) -> HttpResponse:
    """The crew's sheet as CSV."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return _file(crew_sheet.crew_csv(bench, request.preset), "text/csv; charset=utf-8", "crew-sheet.csv")


@require_GET
def crew_ics(request: Request, setup: int, race: int) -> HttpResponse:
    """The crew's sheet as a calendar."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return _file(crew_sheet.crew_ics(bench, request.preset), "text/calendar; charset=utf-8", "crew-sheet.ics")


@require_http_methods(["GET", "POST"])
def pump(request: Request, setup: int, race: int) -> HttpResponse:
    """At the pump: what went in, and what that means for the stops to come."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if bench.inputs.bike.metering == "electric":
        raise Http404
    shown, post = pumping.pump_page(bench, request.preset), request.method == "POST"
    initial = {"passing": shown["next"], "level_m3": shown["level"]}
    form = pumping.PumpForm(
        request.POST if post else None, preset=request.preset, places=shown["choices"], initial=initial
    )
    if post and form.is_valid():
        try:
            typed = form.cleaned_data
            pumping.keep_pumped(bench, int(typed["passing"]), typed["put_m3"], typed["level_m3"])
            messages.success(request, _("Kept as a fill-up. What is to come is reckoned anew."))
            return redirect(f"{base_of(setup, race)}range/pump/")
        except InputRefused as refused:
            for r in refused.refusals:
                form.add_error("put_m3", explain(r, kind="fuel", preset=request.preset, translate=_))
    context = {"form": form} | shown
    return room(request, bench, "range", "pump", context, status=422 if form.errors else 200)
