"""A new race, and the bike that it is for; Purpose's rooms: ground and points."""

from django.http import HttpResponse

from lynxwort.web.bench.views import base_of, kept_bench, put_on, rows_of
from lynxwort.web.races import views as races
from lynxwort.web.races.models import Race
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.typed import Request, whole_number


def new_race(request: Request) -> HttpResponse:
    """A race; with a bike said, that bike is put on the bench for it."""

    def then(race: Race) -> HttpResponse | None:
        setup = whole_number(request.POST.get("setup"))
        return None if setup is None else put_on(request, *rows_of(request, setup, race.pk))

    return races.new_race(request, then)


def ground(request: Request, setup: int, race: int, stage: int) -> HttpResponse:
    """Ground, points and zones of one stage, painted on its ribbon."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    context = races.stage_context(request, bench.race, stage)
    stages = [(i, s.name, i == stage) for i, s in enumerate(bench.inputs.race.stages)]
    behind = f"{base_of(setup, race)}purpose/ground/{stage}/"
    return room(request, bench, "purpose", "ground", context | {"stages": stages, "behind": behind})
