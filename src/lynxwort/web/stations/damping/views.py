"""Rooms of the Damping station: valving, what was felt, damper dyno, clicks, the setting sheet; the moving picture."""

from urllib.parse import urlencode

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.models import Felt
from lynxwort.web.bench.views import base_of, kept_bench, told
from lynxwort.web.bikes import changes
from lynxwort.web.jobs import worker
from lynxwort.web.stations.damping import clickmaps, riding, valving
from lynxwort.web.stations.damping import dyno as damperdyno
from lynxwort.web.stations.damping import felt as feeling
from lynxwort.web.stations.damping import sheet as sheets
from lynxwort.web.stations.shell import is_part, part, room
from lynxwort.web.ui.typed import Request, version_of, whole_number
from lynxwort.words.refusals import explain


@require_http_methods(["GET", "POST"])
def valving_page(request: Request, setup: int, race: int, end: str) -> HttpResponse:
    """The shim stacks of fork or shock: typed, drawn, compared, found."""
    if end not in ("fork", "shock"):
        raise Http404
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    post = request.method == "POST"
    form = valving.StacksForm(valving.posted(bench, end, request.POST) if post else None, bench=bench, end=end)
    if post and form.is_valid():
        taken = changes.take(bench.draft, version_of(request), form.change())
        if taken.state != "refused":
            told(request, taken)
            return redirect(f"{base_of(setup, race)}damping/valving/{end}/")
        form.add_error(None, taken.words(request.preset))
    wanted = valving.WantedForm(request.GET if "change" in request.GET else None, end=end)
    found = valving.answers(bench, end, wanted.cleaned_data) if wanted.is_bound and wanted.is_valid() else None
    context = {"form": form, "wanted": wanted, "found": found} | valving.valving_page(bench, end, request.preset)
    return room(
        request,
        bench,
        "damping",
        "valving",
        context,
        status=422 if form.errors or (wanted.is_bound and wanted.errors) else 200,
    )


@require_http_methods(["GET", "POST"])
def felt(request: Request, setup: int, race: int) -> HttpResponse:
    """What was felt, and what to do about it, each thing tried in the ride; POST writes it down for the setting sheet,
    or strikes a line.
    """
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if "strike" in request.POST:
        Felt.objects.filter(setup=bench.setup, race=bench.race, pk=whole_number(request.POST["strike"])).delete()  # type: ignore[misc]
        return redirect(f"{base_of(setup, race)}damping/felt/")
    post = request.method == "POST"
    form = feeling.FeltForm(
        request.POST if post else request.GET if "what" in request.GET else feeling.foremost(bench),
        bench=bench,
        preset=request.preset,
    )
    own = feeling.WordsForm(request.POST if post else None)
    if post and form.is_valid() and own.is_valid():
        Felt.objects.create(
            setup=bench.setup, race=bench.race, at_m=form.at_m(), words=own.cleaned_data["words"], **form.cleaned_data
        )
        messages.success(request, _("Written down. It stands on the setting sheet."))
        return redirect(f"{base_of(setup, race)}damping/felt/?{urlencode(form.cleaned_data)}")
    context = {"form": form, "own": own, "lines": feeling.felt_lines(bench, request.preset)}
    if form.is_bound and form.is_valid():
        chosen = form.cleaned_data
        context |= {"asked": True, "picture": feeling.picture(bench, chosen, request.path)}
        context |= feeling.felt_page(bench, chosen, request.preset)
    return room(request, bench, "damping", "felt", context, status=422 if form.errors or own.errors else 200)


@require_http_methods(["GET", "POST"])
def damper_dyno(request: Request, setup: int, race: int, end: str) -> HttpResponse:
    """A damper dyno run against the model; what it fits may become this damper's."""
    if end not in ("fork", "shock"):
        raise Http404
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form, found = damperdyno.RunForm(), {}
    if request.method == "POST" and "take" in request.POST:
        try:
            damperdyno.take(bench, end, request.POST["take"])
            messages.success(request, _("This damper is reckoned with it from now on."))
        except (InputRefused, ValueError):
            messages.error(request, _("That factor cannot be taken. Read the run in again."))
        return redirect(f"{base_of(setup, race)}damping/damper-dyno/{end}/")
    if request.method == "POST":
        form = damperdyno.RunForm(request.POST, request.FILES)
        if form.is_valid():
            try:
                found = damperdyno.judge(bench, end, form.cleaned_data)
            except InputRefused as refused:
                form.add_error(
                    "file", " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals)
                )
    context = {"form": form, "end": end} | damperdyno.page(bench, end) | found
    return room(request, bench, "damping", "damper-dyno", context, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
def clicks(request: Request, setup: int, race: int) -> HttpResponse:
    """Compression against rebound as a map that grows; POST stops it or asks for it again. Below, which way as the
    whoops deepen.
    """
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = clickmaps.MapForm(request.GET or None, bench=bench)
    chosen = form.cleaned_data if form.is_bound and form.is_valid() else form.first
    job = clickmaps.ask(bench, chosen, again="again" in request.POST)
    if "cancel" in request.POST:
        worker.stop(job)
    context = {"form": form} | clickmaps.page(bench, job, chosen, request.preset)
    if is_part(request):
        return part(request, bench, "bench/_clicks.html", context)
    return room(
        request,
        bench,
        "damping",
        "clicks",
        context | clickmaps.day(bench, chosen["end"], request.preset),
        status=422 if form.errors else 200,
    )


@require_GET
def ride(request: Request, setup: int, race: int) -> HttpResponse:
    """One piece of the course ridden, as data for the moving picture."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    answer = JsonResponse(riding.ride_data(bench, request.GET.get("piece", ""), request.preset))
    answer["HX-Version"] = bench.draft.version
    return answer


@require_GET
def ride_moved(request: Request, setup: int, race: int) -> HttpResponse:
    """What was a room of its own is the first one now."""
    query = request.META.get("QUERY_STRING", "")
    return redirect(f"{base_of(setup, race)}damping/{'?' + query if query else ''}", permanent=True)


@require_GET
def sheet(request: Request, setup: int, race: int) -> HttpResponse:
    """The setting sheet for a suspension shop."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return room(request, bench, "damping", "setting-sheet", sheets.sheet_page(bench, request.preset))
