import time
import uuid

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_GET, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.views import base_of, kept_bench, rows_of
from lynxwort.web.runs import services
from lynxwort.web.stations.shell import room
from lynxwort.web.stations.trials import running
from lynxwort.web.stations.trials.views import MOST_SENT, refusal_words
from lynxwort.web.ui.typed import Request, json_of


@require_GET
def helper(request: Request, setup: int, race: int) -> HttpResponse:
    """One of two helpers at the line: at the start, or at the finish."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    at = request.GET.get("line", "")
    context = {"trial": running.open_trial(bench), "at": at if at in ("start", "finish") else ""}
    return room(request, bench, "trials", "run", context, template="trial_line")


@require_GET
@never_cache
def clock(request: Request, setup: int, race: int) -> HttpResponse:
    """The van's clock [s since 1970]."""
    rows_of(request, setup, race)
    return JsonResponse({"now": time.time()})


@require_POST
def send_tap(request: Request, setup: int, race: int, trial: uuid.UUID) -> HttpResponse:
    """A helper's tap as the phone sends it, as often as it likes: kept once."""
    row, _race = rows_of(request, setup, race)
    found = row.trials.filter(uid=trial).first()
    if found is None:
        raise Http404
    try:
        name = services.add_tap(found, json_of(request.body[:MOST_SENT].decode("utf-8", "replace")))
    except InputRefused as refused:
        return JsonResponse({"refused": refusal_words(request, refused)}, status=422)
    except ValueError:
        return JsonResponse({"refused": _("Not a tap at the line.")}, status=422)
    return JsonResponse({"kept": name})


@require_POST
def call(request: Request, setup: int, race: int) -> HttpResponse:
    """A lap that two helpers tapped is called clean or botched, before anyone has seen its time."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    trial, how = running.open_trial(bench), request.POST.get("how", "")
    place = None if trial is None else running.next_place(trial)
    if trial is None or place is None or how not in ("clean", "botched"):
        raise Http404
    try:
        run = services.call_lap(trial, request.POST.get("lap", ""), place, botched=how == "botched")
    except InputRefused as refused:
        messages.error(request, refusal_words(request, refused))
    else:
        if run is None:
            messages.error(request, _("This lap is called already."))
        else:
            messages.success(request, running.kept_words(run, request.preset))
    return redirect(f"{base_of(setup, race)}trials/run/")
