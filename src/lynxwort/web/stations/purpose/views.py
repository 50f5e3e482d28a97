"""A new race, and the bike that it is for; Purpose's rooms: ground and points."""

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_GET

from lynxwort.web.bench.views import base_of, kept_bench, put_on, rows_of
from lynxwort.web.evaluation import door
from lynxwort.web.races import staging
from lynxwort.web.races import views as races
from lynxwort.web.races.models import Race
from lynxwort.web.stations.purpose import which
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.typed import Request, whole_number


def new_race(request: Request) -> HttpResponse:
    """A race; with a bike said, that bike is put on the bench for it."""

    def then(race: Race) -> HttpResponse | None:
        setup = whole_number(request.POST.get("setup"))
        return None if setup is None else put_on(request, *rows_of(request, setup, race.pk))

    return races.new_race(request, then)


def race(request: Request, race: int) -> HttpResponse:
    """A race, and which bike is put on the bench for it."""
    return races.race(request, race, {"lines": which.lines_of(request.garage)})


def _own_race(request: Request, race: int) -> Race:
    return get_object_or_404(Race.objects.select_related("course", "rider"), pk=race, garage=request.garage)


@require_GET
def which_bike(request: Request, race: int) -> HttpResponse:
    """The garage's bikes side by side for a race; each is judged by itself and comes when it is."""
    row = _own_race(request, race)
    context = {"race": row, "lines": which.lines_of(request.garage), "waiting": True}
    return render(request, "bench/which_bike.html", context)


@require_GET
def bike_judged(request: Request, race: int, setup: int) -> HttpResponse:
    """One of them, judged; a page of its own where no script asks for the part."""
    row = _own_race(request, race)
    line = next((s for s in which.lines_of(request.garage) if s.pk == setup), None)
    if line is None:
        raise Http404
    if not door.is_warm():
        door.warm_in_background()
        return HttpResponse(status=503)
    context = {"race": row, "one": which.judged(line, row, request.preset)}
    return render(request, "bench/_bike_judged.html" if request.htmx else "bench/which_bike.html", context)


def ground(request: Request, setup: int, race: int, stage: int) -> HttpResponse:
    """Ground, points and zones of one stage, painted on its ribbon."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    context = staging.stage_context(request, bench.race, stage)
    stages = [(i, s.name, i == stage) for i, s in enumerate(bench.inputs.race.stages)]
    behind = f"{base_of(setup, race)}purpose/ground/{stage}/"
    return room(request, bench, "purpose", "ground", context | {"stages": stages, "behind": behind})
