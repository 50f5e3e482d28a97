from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench import present
from lynxwort.web.bench.views import kept_bench
from lynxwort.web.readings import services as readings
from lynxwort.web.stations.chassis import springs
from lynxwort.web.stations.chassis.rooms import both_ends_moves, feet_levels, seated
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.typed import Request
from lynxwort.words.refusals import explain


def clinic(request: Request, setup: int, race: int, end: str) -> HttpResponse:
    """The sag clinic of one end: measure, read what it means, keep the two sags as readings."""
    if end not in springs.ENDS:
        raise Http404
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    post = request.method == "POST"
    form = springs.ClinicForm(
        request.POST if post else None, preset=request.preset, posture=bench.kept_inputs.rider.posture
    )
    judged = springs.judge(bench, end, form, request.preset) if post and form.is_valid() else None
    if judged is not None and judged.documents and "keep" in request.POST:
        try:
            with transaction.atomic():
                for document in judged.documents:
                    readings.add_reading(bench.setup.bike, document)
        except InputRefused as refused:
            form.add_error(None, " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals))
        else:
            messages.success(request, _("Two sags kept as readings."))
            return redirect("bench:station", setup=setup, race=race, station="chassis")
    context = {
        "end": end,
        "ends": springs.ENDS,
        "form": form,
        "judged": judged,
        "choices": springs.choices(bench, end),
        "drawing": springs.picture(bench, end, judged, request.preset),
    }
    return room(request, bench, "chassis", "sag", context, status=422 if form.errors else 200)


def springs_page(request: Request, setup: int, race: int) -> HttpResponse:
    """Schools side by side, the riders' compromise, and springs by calliper or end to end."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    asked = request.GET.get("what")
    coil = springs.CoilForm(request.GET if asked == "coil" else None, preset=request.preset)
    stack = springs.StackForm(request.GET if asked == "stack" else None, preset=request.preset)
    context = {
        "coil": coil,
        "stack": stack,
        "coil_says": springs.say_coil(coil, request.preset) if coil.is_bound and coil.is_valid() else None,
        "stack_says": springs.say_stack(stack) if stack.is_bound and stack.is_valid() else None,
        "schools": springs.schools_of(bench),
        "compromises": springs.compromises(bench),
    }
    return room(request, bench, "chassis", "springs", context, status=422 if coil.errors or stack.errors else 200)


@require_GET
def feet(request: Request, setup: int, race: int) -> HttpResponse:
    """The rider sitting: seat, leg to spare, and both ends lower or higher as one move."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    figures = ("seat_height", "reach_margin", "ground_clearance", "seat_to_peg", "seat_to_bar", "side_stand_cut")
    context = {
        "drawing": seated(bench, request.preset),
        "lines": present.figure_rows(bench.report, [f"chassis.{name}" for name in figures]),
        "both_ends": both_ends_moves(bench, request.preset),
        "levels": feet_levels(bench, request.preset),
    }
    return room(request, bench, "chassis", "feet", context)
