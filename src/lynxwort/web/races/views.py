import re
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST
from django.views.decorators.vary import vary_on_headers

from lynxwort.core.errors import InputRefused
from lynxwort.web.races import forms, painting, services, tracks
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.races.painting import weather_drawing
from lynxwort.web.ui.forms import refusal_words
from lynxwort.web.ui.stale import StaleFacts, edited
from lynxwort.web.ui.typed import Request, whole_number
from lynxwort.words.refusals import explain


def _own(request: Request, race: int) -> Race:
    return get_object_or_404(Race.objects.select_related("course", "rider", "garage"), pk=race, garage=request.garage)


def _too_large(request: Request) -> HttpResponse | None:
    """The page for an upload that is far too large, before it is read."""
    if request.method != "POST" or (whole_number(request.META.get("CONTENT_LENGTH")) or 0) <= settings.MAX_COURSE_BYTES:
        return None
    words = refusal_words("too_large", request.preset, high=25.0)
    return render(request, "ui/error.html", {"title": _("Too much at once"), "words": words, "status": 413}, status=413)


def _course(request: Request, form: forms.CourseForm) -> Any:
    """The chosen course of the garage, or the track of the file; None with the refusal on the form."""
    if not form.is_valid():
        return None
    if form.cleaned_data.get("known"):
        return get_object_or_404(Course, pk=form.cleaned_data["known"], garage=request.garage)
    try:
        return tracks.read_course_file(form.cleaned_data["file"], form.cleaned_data["heights"] or "satellite")
    except InputRefused as refused:
        for refusal in refused.refusals:
            form.add_error("file", explain(refusal, preset=request.preset, translate=_))
    return None


def _course_form(request: Request, *, bound: bool) -> forms.CourseForm:
    courses = Course.objects.filter(garage=request.garage)
    return forms.CourseForm(request.POST if bound else None, request.FILES if bound else None, courses=courses)


def new_race(request: Request, then: Callable[[Race], HttpResponse | None] = lambda _race: None) -> HttpResponse:
    """A race with its first stage, on one page; a refused file loses nothing that was typed. then: where it leads, once
    it stands; None = to the race.
    """
    if (too_large := _too_large(request)) is not None:
        return too_large
    post, preset = request.method == "POST", request.preset
    riders = Rider.objects.filter(garage=request.garage)
    form = forms.RaceForm(request.POST if post else None, preset=preset, riders=riders, new_rider=True)
    stage = forms.StageForm(request.POST if post else None, preset=preset)
    course = _course_form(request, bound=post)
    chosen = riders.filter(pk=whole_number(request.POST.get("rider"))).first()  # type: ignore[misc]
    rider = forms.RiderForm(request.POST if post and chosen is None else None, preset=preset)
    if post:
        track = _course(request, course)
        sound = form.is_valid() & stage.is_valid() & (chosen is not None or rider.is_valid())
        if sound and track is not None:
            facts = {k: v for k, v in stage.facts().items() if v is not None}
            try:
                made = services.make_race(
                    request.garage, form.document()["race"], [(track, facts)], chosen or rider.document()["rider"]
                )
                return then(made) or redirect("races:race", race=made.pk)
            except InputRefused as refused:
                form.refuse(refused.refusals)
    bad = bool(form.errors or course.errors or stage.errors or rider.errors)
    return render(
        request,
        "races/new.html",
        {
            "course": course,
            "forms": (form, course, stage, rider),
            "setup": request.POST.get("setup", request.GET.get("setup", "")),
        }
        | forms.new_race_parts(form, stage, rider),
        status=422 if bad else 200,
    )


def race(request: Request, race: int) -> HttpResponse:
    """A race: its day, rider and air, and its stages."""
    riders = Rider.objects.filter(garage=request.garage)

    def make(air: dict | None = None) -> forms.RaceForm:
        row = _own(request, race)
        shown = row.document | ({"air": air} if air else {})
        return forms.RaceForm(
            request.POST or None, preset=request.preset, current={"race": shown}, riders=riders, row=row
        )

    def save(form: forms.RaceForm) -> None:
        rider = get_object_or_404(riders, pk=form.cleaned_data["rider"])
        others = list(riders.filter(pk__in=form.cleaned_data.get("others") or []))
        services.change_race(form.row, form.document()["race"], rider, others, seen=form.shown)  # type: ignore[arg-type]

    if request.method == "GET" and "weather" in request.GET:
        row = _own(request, race)
        day, hours_s, air = services.invented_weather(row)
        drawing = weather_drawing(day, hours_s, request.preset)
        return _race_page(request, row, form=make(row.document["air"] | air), weather=drawing)
    form, status = edited(request, make, save)
    if status == 302:
        messages.success(request, _("Kept."))
        return redirect("races:race", race=race)
    return _race_page(request, form.row, form=form, status=status)  # type: ignore[arg-type]


def _race_page(request: Request, row: Race, *, status: int = 200, **known: Any) -> HttpResponse:
    stages = [
        {
            "index": i,
            "course": course,
            "document": stage,
            "form": forms.StageForm(preset=request.preset, current={"stage": stage}, auto_id=f"stage{i}_%s"),
        }
        for i, (stage, course) in enumerate(zip(row.document["stages"], services.courses_of(row), strict=True))
    ]
    refused = known.pop("stage_form", None)
    if refused:
        stages[refused[0]]["form"] = refused[1]
    riders = Rider.objects.filter(garage=request.garage)
    context = {
        "race": row,
        "stages": stages,
        "layout": services.layout_of(row.document["stages"]),
        "form": forms.RaceForm(preset=request.preset, current={"race": row.document}, riders=riders, row=row),
        "course": _course_form(request, bound=False),
        "new_stage": forms.StageForm(preset=request.preset, auto_id="new_%s"),
    } | known
    return render(request, "races/race.html", context, status=status)


@require_POST
def add_stage(request: Request, race: int) -> HttpResponse:
    """One more stage, on a known course or a new file."""
    if (too_large := _too_large(request)) is not None:
        return too_large
    row = _own(request, race)
    form = forms.StageForm(request.POST, preset=request.preset, auto_id="new_%s")
    course = _course_form(request, bound=True)
    track = _course(request, course)
    if form.is_valid() and track is not None:
        try:
            services.add_stage(row, track, {k: v for k, v in form.facts().items() if v is not None})
            return redirect("races:race", race=row.pk)
        except InputRefused as refused:
            form.refuse(refused.refusals)
    return _race_page(request, row, status=422, new_stage=form, course=course)


@require_POST
def change_stage(request: Request, race: int, stage: int) -> HttpResponse:
    """Change how a stage is ridden, ride it earlier, or take it away."""
    row, layout = _own(request, race), request.POST.get("layout", "")
    verbs = {"drop": services.drop_stage, "split": services.split_stage, "earlier": services.raise_stage}
    verb = next((verbs[name] for name in verbs if name in request.POST), None)
    try:
        if verb is not None:
            verb(row, stage, layout=layout)
            return redirect("races:race", race=row.pk)
        if layout and layout != services.layout_of(row.document["stages"]):
            raise StaleFacts
        form, status = edited(
            request,
            lambda: _stage_form(request, race, stage),
            lambda form: services.change_stage(form.row, stage, layout=layout, seen=form.shown, **form.facts()),  # type: ignore[arg-type]
        )
        return (
            redirect("races:race", race=row.pk)
            if status == 302
            else _race_page(request, form.row, status=status, stage_form=(stage, form))  # type: ignore[arg-type]
        )
    except (IndexError, StaleFacts):
        messages.error(request, _("The stages changed in another window. Look again."))
        return redirect("races:race", race=row.pk)
    except InputRefused:
        messages.error(request, _("There is only one lap of it: nothing to part."))
        return redirect("races:race", race=row.pk)


def _stage_form(request: Request, race: int, stage: int) -> forms.StageForm:
    """The form of one stage as sent. Raises IndexError beyond the last."""
    row = _own(request, race)
    current = {"stage": row.document["stages"][stage]}
    return forms.StageForm(request.POST, preset=request.preset, current=current, auto_id=f"stage{stage}_%s", row=row)


def _stage(row: Race, stage: int) -> Course:
    """The course of a stage; 404 beyond the last."""
    courses = services.courses_of(row)
    if stage >= len(courses):
        raise Http404
    return courses[stage]


#: the room of the bench in which a stage is painted
_BENCH = re.compile(r"/bench/\d+/\d+/purpose/ground/\d+/")


def stage_context(request: Request, row: Race, stage: int) -> dict[str, Any]:
    """What the painting of a stage shows. Raises Http404 for a stage that is not there."""
    course = _stage(row, stage)
    query = request.GET if request.method == "GET" else request.POST
    chosen = painting.read_selection(query, course.length_m, request.preset)
    ground = services.ground_of(row.document["stages"][stage], course)
    units = request.preset
    back, on = painting.nudges(units)
    place = {
        "at_m": chosen.from_m,
        "from_m": chosen.from_m,
        "to_m": chosen.to_m,
        "length_m": max(chosen.to_m - chosen.from_m, 2.0),
    }
    if place["length_m"] > forms.LONGEST_HILL_M:
        del place["length_m"]  # a stretch that long is no hill
    return {
        "race": row,
        "index": stage,
        "layout": services.layout_of(row.document["stages"]),
        "stage": row.document["stages"][stage],
        "course": course,
        "chosen": chosen,
        "back": back,
        "on": on,
        "grounds": forms.GROUND_CHOICES,
        "surface": forms.SurfaceForm(preset=units),
        "painted": ground,
        "stage_ribbon": painting.stage_ribbon(row, stage, ground, units, selection=chosen, loupe=False),
        "loupe": painting.stage_ribbon(row, stage, ground, units, selection=chosen, loupe=True),
        "placed": {
            where: form(preset=units, initial=place, auto_id=f"{where}_%s") for where, form in forms.PLACED.items()
        },
    }


def _stage_page(request: Request, row: Race, stage: int, *, status: int = 200, **known: Any) -> HttpResponse:
    context = stage_context(request, row, stage)
    refused = known.pop("refused", None)
    if refused:
        context["placed"][refused[0]] = refused[1]
    template = "races/_paint.html" if request.htmx else "races/stage.html"
    return render(request, template, context | known, status=status)


@vary_on_headers("HX-Request")
def stage(request: Request, race: int, stage: int) -> HttpResponse:
    """Ground, points and zones of one stage, on its ribbon."""
    return _stage_page(request, _own(request, race), stage)


@require_POST
def paint(request: Request, race: int, stage: int) -> HttpResponse:
    """Paint the chosen stretch."""
    row = _own(request, race)
    course = _stage(row, stage)
    chosen = painting.read_selection(request.POST, course.length_m, request.preset)
    surface = forms.SurfaceForm(request.POST, preset=request.preset)
    if not surface.is_valid():
        return _stage_page(request, row, stage, status=422, surface=surface)
    known = {k: v for k, v in surface.cleaned_data.items() if v not in (None, "")}
    layout = request.POST.get("layout", "")
    try:
        services.paint_ground(
            row,
            stage,
            course,
            from_m=chosen.from_m,
            to_m=chosen.to_m,
            ground=request.POST.get("ground", ""),
            layout=layout,
            **known,
        )
    except InputRefused as refused:
        words = " ".join(explain(r, kind="stretch", preset=request.preset, translate=_) for r in refused.refusals)
        return _stage_page(request, row, stage, status=422, refusal=words)
    except (StaleFacts, IndexError):
        return _stale_stage(request, race, stage)
    return _stage_page(request, row, stage)


def _stale_stage(request: Request, race: int, stage: int) -> HttpResponse:
    """The stage's page as it stands now: nothing was changed, since what it spoke of has been changed elsewhere."""
    row = _own(request, race)
    words = _("The race was changed in another window. Nothing was changed here; this is how it stands now.")
    if stage >= len(row.document["stages"]):
        messages.error(request, words)
        return redirect("races:race", race=row.pk)
    return _stage_page(request, row, stage, status=409, refusal=words)


@require_POST
def undo(request: Request, race: int, stage: int) -> HttpResponse:
    """Take back the last change of the race's stages; not one that the page does not know of."""
    row = _own(request, race)
    _stage(row, stage)
    try:
        services.take_back(row, whole_number(request.POST.get("version")))
    except StaleFacts:
        return _stale_stage(request, race, stage)
    if stage >= len(row.document["stages"]):
        return redirect("races:race", race=row.pk)
    return _stage_page(request, row, stage)


@require_POST
def item(request: Request, race: int, stage: int, where: str) -> HttpResponse:
    """Add or drop a critical hill, a refuel or crew point, or a zone."""
    row = _own(request, race)
    course = _stage(row, stage)
    if where not in forms.PLACED:
        raise Http404
    layout, back = request.POST.get("layout", ""), request.POST.get("behind", "")
    if not _BENCH.fullmatch(back):
        back = reverse("races:stage", args=[row.pk, stage])
    if "drop" in request.POST:
        try:
            services.drop_item(row, stage, where, request.POST["drop"], layout=layout)
        except IndexError:
            messages.error(request, _("It is gone already."))
        except StaleFacts:
            return _stale_stage(request, race, stage)
        return redirect(back)
    form = forms.PLACED[where](request.POST, preset=request.preset, auto_id=f"{where}_%s")
    if form.is_valid():
        said = {k: v for k, v in form.cleaned_data.items() if v is not False and v not in (None, "")}
        try:
            services.add_item(row, stage, course, where, said, layout=layout)
        except InputRefused as refused:
            for refusal in refused.refusals:
                form.add_error(None, explain(refusal, kind="distance", preset=request.preset, translate=_))
        except StaleFacts:
            return _stale_stage(request, race, stage)
    return _stage_page(request, row, stage, status=422, refused=(where, form)) if form.errors else redirect(back)


def riders(request: Request) -> HttpResponse:
    """The riders of the garage, and one more."""
    form = forms.RiderForm(request.POST or None, preset=request.preset)
    if request.method == "POST" and form.is_valid():
        try:
            services.save_rider(request.garage, form.document()["rider"])
            return redirect("races:riders")
        except InputRefused as refused:
            form.refuse(refused.refusals)
    found = Rider.objects.filter(garage=request.garage).prefetch_related("races")
    return render(request, "races/riders.html", {"form": form, "riders": found}, status=422 if form.errors else 200)


def rider(request: Request, rider: int) -> HttpResponse:
    """One rider's facts."""

    def make() -> forms.RiderForm:
        row = get_object_or_404(Rider, pk=rider, garage=request.garage)
        return forms.RiderForm(request.POST or None, preset=request.preset, current={"rider": row.document}, row=row)

    def save(form: forms.RiderForm) -> None:
        services.save_rider(request.garage, form.document()["rider"], form.row, seen=form.row.document)  # type: ignore[union-attr]

    form, status = edited(request, make, save)
    if status == 302:
        messages.success(request, _("Kept."))
        return redirect("races:riders")
    return render(request, "races/rider.html", {"form": form, "rider": form.row}, status=status)
