"""A bike's own page; Baseline's rooms: what was measured."""

from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench import present, services
from lynxwort.web.bench.views import kept_bench, rows_of
from lynxwort.web.bikes.models import Bike
from lynxwort.web.readings import forms as reading_forms
from lynxwort.web.readings import services as readings
from lynxwort.web.readings.models import Reading
from lynxwort.web.stations.baseline.bike import bike_page
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.typed import Request
from lynxwort.words.refusals import explain


@require_GET
def bike(request: Request, bike: int) -> HttpResponse:
    """What a bike is, how it stands, what was kept and what was measured."""
    row = get_object_or_404(Bike, pk=bike, garage=request.garage)
    return render(request, "bench/bike.html", bike_page(row, request.preset))


def _readings(
    request: Request, setup: int, race: int, *, status: int = 200, refused: dict[str, Any] | None = None
) -> HttpResponse:
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    engine = bench.setup.bike.document["engine"]["kind"]
    measures = present.worth_measuring(bench, request.preset)
    first = [m["form"] for m in measures if m["form"]]
    forms = reading_forms.forms_for(engine, request.preset, services.places_of(bench.race, request.preset))
    context = {
        "reading_forms": forms | (refused or {}),
        "open_forms": [*(refused or {}), *first[:1], request.GET.get("take", "")],
        "readings": services.reading_lines(bench),
    }
    return room(request, bench, "baseline", "readings", context, status=status)


@require_GET
def readings_room(request: Request, setup: int, race: int) -> HttpResponse:
    """What was measured, what each reading is worth, and the forms of those to come."""
    return _readings(request, setup, race)


@require_POST
def add_reading(request: Request, setup: int, race: int, kind: str) -> HttpResponse:
    """Keep a reading taken under the kept setup."""
    row, race_row = rows_of(request, setup, race)
    engine, places = row.bike.document["engine"]["kind"], services.places_of(race_row, request.preset)
    if kind not in reading_forms.kinds_for(engine, places) or row.head is None:
        raise Http404
    form = reading_forms.form_of(kind, request.POST, request.FILES, engine=engine, preset=request.preset, places=places)
    if form.is_valid():
        course_key = race_row.document["stages"][0]["course_key"]
        try:
            document = readings.reading_document(
                kind, form.cleaned_data, values=row.head.values, rider=race_row.rider.document, course_key=course_key
            )
            readings.add_reading(row.bike, document)
            # its form stays open: the other end comes next
            return redirect(f"{reverse('bench:readings', args=[row.pk, race_row.pk])}?take={kind}")
        except InputRefused as refused:
            form.add_error(None, " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals))
    return _readings(request, setup, race, status=422, refused={kind: form})


@require_POST
def strike(request: Request, setup: int, race: int, reading: int) -> HttpResponse:
    """Strike a reading out, or let it count again."""
    row, race_row = rows_of(request, setup, race)
    item = get_object_or_404(Reading, pk=reading, bike=row.bike)
    readings.strike(item, request.POST.get("struck") == "1")
    return redirect("bench:readings", setup=row.pk, race=race_row.pk)
