"""Purpose's rooms: ground and points."""

from django.http import HttpResponse

from lynxwort.web.bench.views import base_of, kept_bench
from lynxwort.web.races.views import stage_context
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.typed import Request


def ground(request: Request, setup: int, race: int, stage: int) -> HttpResponse:
    """Ground, points and zones of one stage, painted on its ribbon."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    context = stage_context(request, bench.race, stage)
    stages = [(i, s.name, i == stage) for i, s in enumerate(bench.inputs.race.stages)]
    behind = f"{base_of(setup, race)}purpose/ground/{stage}/"
    return room(request, bench, "purpose", "ground", context | {"stages": stages, "behind": behind})
