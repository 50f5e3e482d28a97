from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST
from django.views.decorators.vary import vary_on_headers
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench import present
from lynxwort.web.bench.forms import moves_in
from lynxwort.web.bench.views import kept_bench, rows_of
from lynxwort.web.bikes import changes
from lynxwort.web.jobs import worker
from lynxwort.web.races.models import Course, Race
from lynxwort.web.stations.drive import road, sprockets
from lynxwort.web.stations.drive.rooms import OF_THE_CHAIN, chain_drawing
from lynxwort.web.stations.shell import is_part, part, room
from lynxwort.web.ui.typed import Request, place_of, version_of, whole_number
from lynxwort.words.refusals import explain


def course(request: Request, course: int) -> HttpResponse:
    """A course: its heights, where they come from, and the way out."""
    row = get_object_or_404(Course.objects.select_related("garage"), pk=course, garage=request.garage)
    if request.method == "POST":
        try:
            road.change_heights(row, request.POST.get("heights", ""))
            messages.success(request, _("Heights are taken from there now; races on this course are judged anew."))
        except InputRefused as refused:
            messages.error(request, " ".join(explain(r, translate=_) for r in refused.refusals))
        return redirect("bench:course", course=row.pk)
    return render(request, "bench/course.html", road.course_page(row, request.preset))


def _named(response: HttpResponse, name: str) -> HttpResponse:
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@require_GET
def course_gpx(request: Request, course: int) -> HttpResponse:
    """The course as GPX."""
    row = get_object_or_404(Course, pk=course, garage=request.garage)
    return _named(HttpResponse(road.gpx_of(row), content_type="application/gpx+xml"), "course.gpx")


@require_GET
def course_geojson(request: Request, course: int) -> HttpResponse:
    """The course as GeoJSON; ?race= adds what that race says of it."""
    row = get_object_or_404(Course, pk=course, garage=request.garage)
    race = (
        get_object_or_404(Race, pk=whole_number(request.GET["race"]), garage=request.garage)
        if request.GET.get("race")
        else None
    )
    stages = (
        [] if race is None else [i for i, s in enumerate(race.document["stages"]) if s["course_key"] == row.blob_id]
    )
    made = road.geojson_of(row, race, stages[0]) if stages else road.geojson_of(row)
    return _named(JsonResponse(made, content_type="application/geo+json"), "course.geojson")


@require_GET
def metres(request: Request, setup: int, race: int) -> HttpResponse:
    """The lap metre by metre, as a table or as CSV."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if request.GET.get("as") == "csv":
        return _named(
            HttpResponse(road.metre_csv(bench, request.preset), content_type="text/csv; charset=utf-8"), "metres.csv"
        )
    try:
        length = float(request.GET.get("rows", "100"))
    except ValueError:
        length = 100.0
    at = road.on_the_round(bench, place_of(request))
    return room(request, bench, "drive", "metres", road.metre_page(bench, request.preset, length_m=length, from_m=at))


@require_POST
def stand_in_lap(request: Request, setup: int, race: int) -> HttpResponse:
    """Let the stand-in ride a lap of the first stage; its recording becomes a reading."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    try:
        road.stand_in_lap(bench)
        messages.success(request, _("The stand-in rode a lap. It is invented; strike it out when you have your own."))
    except InputRefused as refused:
        messages.error(request, " ".join(explain(r, translate=_) for r in refused.refusals))
    return redirect("bench:readings", setup=setup, race=race)


@require_http_methods(["GET", "POST"])
@vary_on_headers("HX-Request")
def sprocket_table(request: Request, setup: int, race: int) -> HttpResponse:
    """The sprocket table of the draft; POST cancels it or asks for it again."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    job = sprockets.ask(bench, again="again" in request.POST)
    if "cancel" in request.POST:
        worker.stop(job)
    wish = sprockets.WishForm(request.GET, preset=request.preset)
    context = sprockets.table(bench, job, request.preset, request.GET.get("sort", "ratio"), wish)
    if is_part(request):
        return part(request, bench, "bench/_sprockets.html", context)
    return room(request, bench, "drive", "sprockets", context, status=422 if wish.errors else 200)


@require_GET
def chain(request: Request, setup: int, race: int) -> HttpResponse:
    """The chain through the travel: its length, the axle in its adjusters, the slack on the stand."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    report, figures = bench.report, ("links", "axle_move", "adjuster_left", "slack_on_stand", "case_clearance")
    context = {
        "drawing": chain_drawing(bench, request.preset),
        "lines": present.figure_rows(report, [f"drive.chain.{name}" for name in figures]),
        "said": [present.said(report, f, request.preset) for f in report.of("drive") if f.code in OF_THE_CHAIN],
    }
    return room(request, bench, "drive", "chain", context)


@require_POST
def take_pair(request: Request, setup: int, race: int) -> HttpResponse:
    """A pair of the table into the draft, and back to Drive."""
    row, race_row = rows_of(request, setup, race)
    back = redirect("bench:station", setup=row.pk, race=race_row.pk, station="drive")
    try:
        taken = changes.take(row.draft, version_of(request), changes.Moves(tuple(moves_in(request))))
    except (ValueError, TypeError, ValidationError):
        raise Http404 from None
    if not taken.done:
        messages.error(request, taken.words(request.preset))
    return back
