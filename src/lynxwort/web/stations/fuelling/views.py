from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST
from django.views.decorators.vary import vary_on_headers

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench import services
from lynxwort.web.bench.views import base_of, kept_bench, told
from lynxwort.web.bikes import changes
from lynxwort.web.bikes.models import Bike
from lynxwort.web.evaluation import door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.readings import services as readings
from lynxwort.web.stations.fuelling import diagnosis, dynos, jets, maps, vandoor
from lynxwort.web.stations.shell import is_part, part, room
from lynxwort.web.ui.typed import Request, version_of, whole_number
from lynxwort.words.refusals import explain


def _words(refused: InputRefused) -> str:
    return " ".join(explain(r, translate=_) for r in refused.refusals)


def _burning(
    request: Request, setup: int, race: int, metering: tuple[str, ...] = ("jetted", "rod", "injected")
) -> services.Bench | HttpResponse:
    """The kept bench of a bike that is fed so; 404 of another."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, services.Bench) and bench.inputs.bike.metering not in metering:
        raise Http404
    return bench


@require_GET
def jets_page(request: Request, setup: int, race: int) -> HttpResponse:
    """Sets of jets, their windows of weather, schools, cans."""
    bench = _burning(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    can, error = None, ""
    if request.GET.get("can"):
        try:
            can = jets.can_of(request.GET["can"], request.preset)
        except Exception as refused:  # a form's refusal in words
            error = " ".join(getattr(refused, "messages", [str(refused)]))
    context = {"can_error": error, "can_typed": request.GET.get("can", "")}
    return room(
        request,
        bench,
        "fuelling",
        "jets",
        context | jets.page(bench, request.preset, can),
        status=422 if error else 200,
    )


@require_http_methods(["GET", "POST"])
def diagnose(request: Request, setup: int, race: int) -> HttpResponse:
    """What was felt, ranked causes, and a reading of it."""
    bench = _burning(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    data = request.POST if request.method == "POST" else request.GET if "symptom" in request.GET else diagnosis.FIRST
    form = diagnosis.FeelForm(data)
    context = {"form": form}
    if form.is_valid():
        said = form.said()
        if request.method == "POST":
            under = readings.under(
                bench.kept_values, bench.race.rider.document, bench.race.document["stages"][0]["course_key"]
            )
            readings.add_reading(bench.setup.bike, {"kind": "feel", "under": under} | said)
            messages.success(request, _("Kept as a reading. It ranks causes; it leans nothing."))
            return redirect("bench:station", setup=setup, race=race, station="fuelling")
        context |= {"grip": diagnosis.grip(said, request.path)} | diagnosis.ranked(bench, said, request.preset)
    return room(request, bench, "fuelling", "diagnose", context, status=422 if form.errors else 200)


def _job(request: Request, bench: services.Bench) -> Job | None:
    job = Job.objects.filter(pk=whole_number(request.GET.get("job")), kind__in=("log", "live_log")).first()  # type: ignore[misc]
    return job if job and job.payload.get("setup") == bench.setup.pk else None


@require_http_methods(["GET", "POST"])
@vary_on_headers("HX-Request")
def map_page(request: Request, setup: int, race: int) -> HttpResponse:
    """The fuel map: a log in, its cells, the trims."""
    bench = _burning(request, setup, race, ("injected",))
    if isinstance(bench, HttpResponse):
        return bench
    context = {"form": maps.LogForm(), "ground_lines": maps.ground_lines(bench)}
    status = 200
    if request.method == "POST":
        answer = _take_log(request, bench, context)
        if isinstance(answer, HttpResponse):
            return answer
        status = 422 if answer else 200
    job = _job(request, bench)
    if job is not None and "cancel" in request.GET:
        worker.stop(job)
    result = job.result if job and job.result else None
    working = job is not None and job.state in ("waiting", "running")
    live = result if result and "cells" in result else None
    context |= {
        "job": job,
        "working": working,
        "result": result,
        "percent": round(100 * job.progress) if job else 0,
    } | maps.grid(bench, live)
    if is_part(request):
        return part(request, bench, "bench/_map.html", context)
    return room(request, bench, "fuelling", "map", context, status=status)


def _take_log(request: Request, bench: services.Bench, context: dict) -> HttpResponse | bool:
    """A file, its columns, or the stand-in: on to the job; True when it was refused."""
    here = f"{base_of(bench.setup.pk, bench.race.pk)}fuelling/map/"
    if "stand_in" in request.POST:
        return redirect(f"{here}?job={maps.ask_stand_in(bench).pk}")
    garage = bench.setup.bike.garage_id
    form = maps.LogForm(request.POST, request.FILES if "token" not in request.POST else {"file": None})  # type: ignore[arg-type]
    context["form"] = form
    try:
        if "token" not in request.POST:
            if not form.is_valid():
                return True
            token, gauge = maps.take_file(form.cleaned_data["file"], garage), form.cleaned_data["gauge"] or 14.7
            head = maps.head_of(maps.path_of(token, garage))
            columns = maps.guess(head)
            if maps.enough(columns) and "lambda" in columns:
                return redirect(f"{here}?job={maps.ask(bench, token, columns, gauge).pk}")
            context |= {
                "columns_form": maps.ColumnsForm(names=head.names, guessed=columns),
                "token": token,
                "gauge": gauge,
            }
            return False
        token = request.POST["token"]
        head = maps.head_of(maps.path_of(token, garage))
        chosen = maps.ColumnsForm(request.POST, names=head.names, guessed={})
        gauge = float(request.POST.get("gauge") or 14.7)
        columns = {k: int(v) for k, v in chosen.cleaned_data.items() if v} if chosen.is_valid() else {}
        if not maps.enough(columns):
            context |= {
                "columns_form": chosen,
                "token": token,
                "gauge": gauge,
                "refusal": _("Time, revs, throttle and one of lambda or air/fuel are needed."),
            }
            return True
        return redirect(f"{here}?job={maps.ask(bench, token, columns, gauge).pk}")
    except (InputRefused, ValueError) as refused:
        context["refusal"] = _words(refused) if isinstance(refused, InputRefused) else _("That is not a number.")
        return True


@require_POST
def map_take(request: Request, setup: int, race: int) -> HttpResponse:
    """Keep a judged log as a reading; take the proposed trims, or maps by ground, into the draft."""
    bench = _burning(request, setup, race, ("injected",))
    if isinstance(bench, HttpResponse):
        return bench
    here = redirect(f"{base_of(setup, race)}fuelling/map/")
    try:
        if "keep" in request.POST:
            job = Job.objects.filter(  # type: ignore[misc]
                pk=whole_number(request.POST["keep"]), kind__in=("log", "live_log"), state="done"
            ).first()
            if job is None or job.payload.get("setup") != bench.setup.pk or "cells" not in (job.result or {}):
                raise Http404
            maps.keep_log(bench, job.result)  # type: ignore[arg-type]
            messages.success(request, _("The log is kept as a reading."))
            return here
        if "ground" in request.POST:
            change = changes.Whole({"map_by_ground": maps.by_ground(request.POST["ground"])})
        else:
            change = maps.next_trims(bench)
        told(request, changes.take(bench.draft, version_of(request), change))
    except InputRefused as refused:
        messages.error(request, _words(refused))
    except ValueError:
        raise Http404 from None
    return here


@require_GET
def map_csv(request: Request, setup: int, race: int) -> HttpResponse:
    """The draft's trims as CSV."""
    bench = _burning(request, setup, race, ("injected",))
    if isinstance(bench, HttpResponse):
        return bench
    response = HttpResponse(maps.csv_of(bench), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="map-trims.csv"'
    return response


@require_http_methods(["GET", "POST"])
def dyno_page(request: Request, setup: int, race: int) -> HttpResponse:
    """Dynamometer runs side by side; one of them the bike's curve."""
    bench = _burning(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form, here = dynos.RunForm(preset=request.preset), redirect(f"{base_of(setup, race)}fuelling/dyno/")
    if request.method == "POST":
        try:
            if "stand_in" in request.POST:
                dynos.stand_in(bench)
                messages.success(request, _("Three stand-in runs, marked as invented."))
                return here
            if "choose" in request.POST:
                dynos.choose(bench, request.POST["choose"])
                messages.success(request, _("Drive and Range are judged by it from now on."))
                return here
            form = dynos.RunForm(request.POST, request.FILES, preset=request.preset)
            if form.is_valid():
                dynos.take(bench, form.cleaned_data)
                messages.success(request, _("The run is kept as a reading."))
                return here
        except InputRefused as refused:
            form.add_error(
                "file" if "file" in form.fields and form.is_bound else None, _words(refused)
            ) if form.is_bound else messages.error(request, _words(refused))
        except ValueError:
            raise Http404 from None
    context = {"form": form} | dynos.page(bench, request.preset)
    return room(request, bench, "fuelling", "dyno", context, status=422 if form.errors else 200)


@require_GET
def van_door(request: Request, bike: int) -> HttpResponse:
    """Main jets by height and temperature, for the van door: of a bike, whatever race."""
    row = get_object_or_404(Bike, pk=bike, garage=request.garage)
    if not door.is_warm():
        door.warm_in_background()
        return render(request, "bench/warming.html", status=503)
    try:
        page = vandoor.sheet(row, request.preset)
    except InputRefused as refused:
        page = {"bike": row, "why": _words(refused)}
    return render(request, "bench/van_door.html", page)
