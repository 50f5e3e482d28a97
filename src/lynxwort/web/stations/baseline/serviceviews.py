"""Service: what is due, rides, parts, wear, bolts; a press for what was done."""

import uuid
from collections.abc import Callable
from typing import Any

from django.contrib import messages
from django.forms import Form
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.views import base_of, kept_bench
from lynxwort.web.bikes.models import Bike
from lynxwort.web.stations.baseline import doing, exports, servicing, wearing
from lynxwort.web.stations.baseline.gateviews import refusal_words
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.forms import DocumentForm
from lynxwort.web.ui.typed import Request, whole_number

EXPORTS = {"hours": exports.hours_csv, "wear": exports.wear_csv}


def _tried(request: Request, form: Form, keep: Callable[[], Any]) -> bool:
    """Whether a form was kept; what was refused stands on it."""
    if not form.is_valid():
        return False
    try:
        keep()
    except InputRefused as refused:
        if isinstance(form, DocumentForm):
            form.refuse(refused.refusals)
        else:
            form.add_error(None, refusal_words(request, refused))
        return False
    return True


@require_http_methods(["GET", "POST"])
def service(request: Request, setup: int, race: int) -> HttpResponse:
    """What is due before the race, and the log; POST logs a ride, a part, or how the bike is ridden."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    forms: dict[str, Any] = {}
    if request.method == "POST":
        what = request.POST.get("what", "")
        if what == "day":
            return _day(request, bench)
        form = _form(request, bench, what)
        if form is None:
            raise Http404
        if _tried(request, form, lambda: doing.log(bench, form)):
            messages.success(request, _("Written down."))
            if form.cleaned_data.get("crashed"):
                messages.error(request, _("It fell: look it over. No check of the gate counts until it is done again."))
            return redirect(f"{base_of(setup, race)}baseline/service/")
        forms = {what: form}
    context = servicing.service_page(bench, request.preset, **forms)
    return room(request, bench, "baseline", "service", context, status=422 if forms else 200)


def _day(request: Request, bench: Bench) -> HttpResponse:
    """The hours of a logged day are taken into the log, or the part that ended it comes off as failed."""
    name, part = request.POST.get("day", ""), servicing.line_named(bench, request.POST.get("part", ""))
    try:
        if part is not None:
            said = doing.pressed(bench, part, "done", "failed", of_day=name)
        else:
            said = doing.day_ridden(bench, name)
    except InputRefused as refused:
        messages.error(request, refusal_words(request, refused))
    else:
        if said is None:
            raise Http404
        messages.success(request, said)
    return redirect(f"{base_of(bench.setup.pk, bench.race.pk)}baseline/service/")


def _form(request: Request, bench: Bench, what: str) -> DocumentForm | None:
    """The form that was sent."""
    if what == "ride":
        return servicing.RideForm(request.POST, request.FILES, preset=request.preset)
    if what == "part":
        return servicing.PartForm(request.POST, preset=request.preset, kinds=doing.kinds(bench))
    return servicing.AboutForm(request.POST, preset=request.preset) if what == "about" else None


@require_POST
def line(request: Request, setup: int, race: int, line: uuid.UUID) -> HttpResponse:
    """A press on a line of the log: done, moved to another bike, tightened, its mark, or struck out."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    row = servicing.line_of(bench, line)
    if row is None:
        # pressed twice, or in another window: it is done already
        messages.info(request, _("That line is no longer there."))
        return redirect(f"{base_of(setup, race)}baseline/service/")
    do = request.POST.get("do", "")
    try:
        if do == "move":
            to = get_object_or_404(Bike, pk=whole_number(request.POST.get("to", "")), garage=request.garage)
            said = doing.move(bench, row, to)
        else:
            said = doing.pressed(bench, row, do, request.POST.get("fate", "sound"))
    except InputRefused as refused:
        messages.error(request, refusal_words(request, refused))
    else:
        if said is None:
            raise Http404
        messages.success(request, said)
    back = {"bolt": "bolts/", "wear": "wear/"}.get(row.kind, "")
    return redirect(f"{base_of(setup, race)}baseline/service/{back}")


@require_http_methods(["GET", "POST"])
def wear(request: Request, setup: int, race: int) -> HttpResponse:
    """Measures beside their limits; POST keeps one."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    asked, form = request.POST.get("measure", "") or request.GET.get("measure", ""), None
    if request.method == "POST":
        form = doing.wear_form(bench, asked, request.POST, request.preset)
        if form is None:
            raise Http404
        reading = form
        if _tried(request, form, lambda: doing.log(bench, reading)):
            messages.success(request, _("Written down."))
            return redirect(f"{base_of(setup, race)}baseline/service/wear/")
    context = wearing.wear_page(bench, request.preset, asked, form)
    status = 422 if form is not None else 200
    return room(request, bench, "baseline", "service", context, status=status, template="service_wear")


@require_http_methods(["GET", "POST"])
def bolts(request: Request, setup: int, race: int) -> HttpResponse:
    """The torque list; POST puts a bolt on it."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = None
    if request.method == "POST":
        form = wearing.BoltForm(request.POST, preset=request.preset)
        bolt = form
        if _tried(request, form, lambda: doing.log(bench, bolt)):
            messages.success(request, _("Written down."))
            return redirect(f"{base_of(setup, race)}baseline/service/bolts/")
    context = wearing.bolts_page(bench, request.preset, form)
    status = 422 if form is not None else 200
    return room(request, bench, "baseline", "service", context, status=status, template="service_bolts")


def _file(content: str | bytes, kind: str, name: str) -> HttpResponse:
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@require_GET
def table(request: Request, setup: int, race: int, what: str) -> HttpResponse:
    """Hours or wear as CSV."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if what not in EXPORTS:
        raise Http404
    return _file(EXPORTS[what](bench), "text/csv; charset=utf-8", f"{what}.csv")


@require_GET
def calendar(request: Request, setup: int, race: int) -> HttpResponse:
    """What falls due, as a calendar."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return _file(exports.due_ics(bench), "text/calendar; charset=utf-8", "due.ics")
