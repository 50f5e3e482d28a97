"""A bike's own page; Baseline's rooms: what was measured."""

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench import present, services
from lynxwort.web.bench.views import kept_bench, rows_of
from lynxwort.web.bikes import changes, starting
from lynxwort.web.bikes import services as bikes
from lynxwort.web.bikes.forms import DAMPERS, DampersPage, FactsPage
from lynxwort.web.bikes.models import Bike, Revision
from lynxwort.web.readings import forms as reading_forms
from lynxwort.web.readings import services as readings
from lynxwort.web.readings.models import Reading
from lynxwort.web.stations.baseline.bike import bike_page, facts_picture
from lynxwort.web.stations.baseline.copying import copy_page, draft_of
from lynxwort.web.stations.baseline.kinds import kind_of_page, kinds_page
from lynxwort.web.stations.baseline.usual import add as add_usual
from lynxwort.web.stations.baseline.usual import usual_page
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.stale import edited
from lynxwort.web.ui.typed import Request, version_of, whole_number
from lynxwort.words.refusals import explain


@require_GET
def bike(request: Request, bike: int) -> HttpResponse:
    """What a bike is, how it stands, what was kept and what was measured."""
    row = get_object_or_404(Bike, pk=bike, garage=request.garage)
    return render(request, "bench/bike.html", bike_page(row, request.preset))


def facts(request: Request, bike: int) -> HttpResponse:
    """All facts of a bike by their place on it, given or assumed."""

    def make() -> FactsPage:
        row = get_object_or_404(Bike, pk=bike, garage=request.garage)
        return FactsPage(
            _sent(request),
            preset=request.preset,
            current={"bike": row.document},
            kind=row.document["engine"]["kind"],
            row=row,
        )

    def save(form: FactsPage) -> None:
        bikes.change_bike(form.row, lambda _now: form.document()["bike"], seen=form.row.document)

    return _edited(request, make, save, "bikes:facts", places=True)


def _sent(request: Request) -> Any:
    return request.POST if request.method == "POST" else None


def _edited(request: Request, make: Any, save: Any, address: str, **known: Any) -> HttpResponse:
    """A page of a bike's facts, shown or saved."""
    form, status = edited(request, make, save)
    if status == 302:
        messages.success(request, _("Kept. What was kept before stays as it was."))
        return redirect(address, bike=form.row.pk)
    if known.get("places"):
        known["picture"] = facts_picture(form.row, request.preset)
        known["there"] = next((a for line in form.row.setups.order_by("pk") if (a := draft_of(line))), "")
    return render(request, "bikes/facts.html", {"bike": form.row, "form": form} | known, status=status)


def dampers(request: Request, bike: int) -> HttpResponse:
    """The insides of a bike's dampers, given or as stock."""

    def make() -> DampersPage:
        row = get_object_or_404(Bike, pk=bike, garage=request.garage)
        return DampersPage(
            _sent(request),
            preset=request.preset,
            current={k: row.document[k] for k in DAMPERS if k in row.document},
            row=row,
        )

    def save(form: DampersPage) -> None:
        bikes.change_bike(
            form.row,
            lambda now: {k: v for k, v in now.items() if k not in DAMPERS} | form.document(),
            seen=form.row.document,
        )

    return _edited(request, make, save, "bikes:dampers", dampers=True)


@require_http_methods(["GET", "POST"])
def usual(request: Request, bike: int) -> HttpResponse:
    """What riders usually change where the engine breathes; a press puts it among what fits."""
    row = get_object_or_404(Bike, pk=bike, garage=request.garage)
    if request.method == "POST":
        try:
            add_usual(row, request.POST.get("code", ""))
            messages.success(
                request, _("It fits now. Put it on at Fuelling, where its notch stands, and see what it moves.")
            )
        except InputRefused as refused:
            messages.error(request, " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals))
        return redirect("bikes:usual", bike=row.pk)
    return render(request, "bikes/usual.html", usual_page(row, request.preset))


@require_GET
def kinds(request: Request) -> HttpResponse:
    """Twelve kinds of bike to begin with."""
    return render(request, "bikes/kinds.html", {"kinds": kinds_page()})


def first_facts(request: Request, pattern: str, engine: str) -> HttpResponse:
    """The six facts of a new bike of one kind; then it stands."""
    if not starting.is_kind(pattern, engine):
        raise Http404
    form = starting.FirstFacts(request.POST or None, preset=request.preset, kind=pattern, engine=engine)
    if request.method == "POST" and form.is_valid():
        document = form.document()
        try:
            made = bikes.make_bike(request.garage, document["bike"], document["setup"])
            return redirect("bike", bike=made.pk)
        except InputRefused as refused:
            form.refuse(refused.refusals)
    context = {"form": form, "kind": kind_of_page(pattern, engine)}
    return render(request, "bikes/first.html", context, status=422 if request.method == "POST" else 200)


def copy(request: Request, revision: int) -> HttpResponse:
    """What of a kept setup another bike would take, each with a tick; what is ticked goes into its draft."""
    row = get_object_or_404(
        Revision.objects.select_related("setup__bike"), pk=revision, setup__bike__garage=request.garage
    )
    asked = whole_number(request.POST.get("setup") or request.GET.get("setup"))
    line = next((s for s in bikes.same_kind(row.setup.bike) if s.pk == asked), None)
    if line is None:
        messages.error(request, _("Choose a bike of the same kind."))
        return redirect("bikes:history", setup=row.setup_id)
    if request.method != "POST":
        return render(request, "bikes/copy.html", copy_page(row, line, request.preset))
    ticked = tuple(request.POST.getlist("take"))
    if not ticked:
        messages.error(request, _("Nothing was ticked, so nothing was copied."))
        return redirect(f"{reverse('bikes:copy', args=[row.pk])}?setup={line.pk}")
    taken = changes.take(line.draft, version_of(request), changes.Copied(row, ticked))
    if not taken.done:
        messages.error(request, taken.words(request.preset))
        return redirect(f"{reverse('bikes:copy', args=[row.pk])}?setup={line.pk}")
    messages.success(request, _("The draft of %(bike)s holds it now. Undo takes it back.") % {"bike": line.title})
    there = draft_of(line)
    return redirect(there) if there else redirect("bikes:history", setup=line.pk)


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
    if not readings.may_strike(request.member, item):
        messages.error(request, _("Nothing was changed: another took this reading. A mechanic strikes it out."))
        return redirect("bench:readings", setup=row.pk, race=race_row.pk)
    readings.strike(item, request.POST.get("struck") == "1")
    return redirect("bench:readings", setup=row.pk, race=race_row.pk)
