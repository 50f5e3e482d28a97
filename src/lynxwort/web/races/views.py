from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.races import forms, services, tracks
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.races.painting import weather_drawing
from lynxwort.web.races.staging import own_race
from lynxwort.web.ui.forms import refusal_words
from lynxwort.web.ui.stale import StaleFacts, edited
from lynxwort.web.ui.typed import Request, whole_number
from lynxwort.words.refusals import explain


def _too_large(request: Request) -> HttpResponse | None:
    """The page for an upload that is far too large, before it is read."""
    if request.method != "POST" or (whole_number(request.META.get("CONTENT_LENGTH")) or 0) <= settings.MAX_COURSE_BYTES:
        return None
    words = refusal_words("too_large", request.preset, high=25.0)
    return render(request, "ui/error.html", {"title": _("Too much at once"), "words": words, "status": 413}, status=413)


def _courses(request: Request, form: forms.CourseForm) -> list[Any]:
    """The chosen course of the garage, or the tracks of the files, a list; empty with the refusal on the form."""
    if not form.is_valid():
        return []
    kept = [whole_number(k) for k in request.POST.getlist("kept")]
    if kept and not form.cleaned_data.get("file"):
        return [get_object_or_404(Course, pk=k, garage=request.garage) for k in kept]
    if form.cleaned_data.get("known"):
        return [get_object_or_404(Course, pk=form.cleaned_data["known"], garage=request.garage)]
    try:
        return tracks.read_course_files(form.cleaned_data["file"], form.cleaned_data["heights"] or "satellite")
    except InputRefused as refused:
        for refusal in refused.refusals:
            form.add_error("file", explain(refusal, preset=request.preset, translate=_))
    return []


def _course_form(request: Request, *, bound: bool) -> forms.CourseForm:
    courses = Course.objects.filter(garage=request.garage)
    return forms.CourseForm(request.POST if bound else None, request.FILES if bound else None, courses=courses)


def _say_flat(request: Request, found: list[Any]) -> None:
    """A course without heights says so at once: nothing on it climbs."""
    if any(getattr(track, "heights", "") == "none" for track in found):
        messages.warning(
            request, _("This file holds no heights: every climb is flat. Take one that does, or enter the steep hills.")
        )


def _kept(request: Request, found: list[Any]) -> list[Course]:
    """What was read once stays in the garage over a refusal: a browser never sends a file twice."""
    if all(isinstance(f, Course) for f in found):
        return found if len(found) > 1 else []
    return [f if isinstance(f, Course) else tracks.add_course(request.garage, f) for f in found]


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
        found = _courses(request, course)
        sound = form.is_valid() & stage.is_valid() & (chosen is not None or rider.is_valid())
        if sound and found:
            facts = {k: v for k, v in stage.facts().items() if v is not None}
            try:
                others = [r for r in riders.filter(pk__in=form.cleaned_data.get("others") or []) if r != chosen]
                made = services.make_race(
                    request.garage,
                    form.document()["race"],
                    [(track, facts) for track in found],
                    chosen or rider.document()["rider"],
                    others,
                )
                _say_flat(request, found)
                return then(made) or redirect("races:race", race=made.pk)
            except InputRefused as refused:
                form.refuse(refused.refusals)
    bad = bool(form.errors or course.errors or stage.errors or rider.errors)
    kept = _kept(request, found) if post else []
    if len(kept) == 1:
        courses = Course.objects.filter(garage=request.garage)
        course = forms.CourseForm(courses=courses, initial={"known": str(kept[0].pk)})
    if kept:
        names = ", ".join(c.name for c in kept)
        messages.info(request, _("The course file is kept as %(name)s, and chosen below.") % {"name": names})
    return render(
        request,
        "races/new.html",
        {
            "course": course,
            "kept": kept if len(kept) > 1 else [],
            "forms": (form, course, stage, rider),
            "setup": request.POST.get("setup", request.GET.get("setup", "")),
        }
        | forms.new_race_parts(form, stage, rider),
        status=422 if bad else 200,
    )


def race(request: Request, race: int, more: dict[str, Any] | None = None) -> HttpResponse:
    """A race: its day, rider and air, and its stages. more: what its page shows besides."""
    riders = Rider.objects.filter(garage=request.garage)

    def make(air: dict | None = None) -> forms.RaceForm:
        row = own_race(request, race)
        shown = row.document | ({"air": air} if air else {})
        return forms.RaceForm(
            request.POST or None, preset=request.preset, current={"race": shown}, riders=riders, row=row
        )

    def save(form: forms.RaceForm) -> None:
        rider = get_object_or_404(riders, pk=form.cleaned_data["rider"])
        others = list(riders.filter(pk__in=form.cleaned_data.get("others") or []))
        services.change_race(form.row, form.document()["race"], rider, others, seen=form.shown)  # type: ignore[arg-type]

    if request.method == "GET" and "weather" in request.GET:
        row = own_race(request, race)
        day, hours_s, air = services.invented_weather(row)
        drawing = weather_drawing(day, hours_s, request.preset)
        return _race_page(request, row, form=make(row.document["air"] | air), weather=drawing, **(more or {}))
    form, status = edited(request, make, save)
    if status == 302:
        messages.success(request, _("Kept."))
        return redirect("races:race", race=race)
    return _race_page(request, form.row, form=form, status=status, **(more or {}))  # type: ignore[arg-type]


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
    row = own_race(request, race)
    form = forms.StageForm(request.POST, preset=request.preset, auto_id="new_%s")
    course = _course_form(request, bound=True)
    found = _courses(request, course)
    if form.is_valid() and found:
        try:
            services.add_stages(row, found, {k: v for k, v in form.facts().items() if v is not None})
            _say_flat(request, found)
            return redirect("races:race", race=row.pk)
        except InputRefused as refused:
            form.refuse(refused.refusals)
    return _race_page(request, row, status=422, new_stage=form, course=course)


@require_POST
def change_stage(request: Request, race: int, stage: int) -> HttpResponse:
    """Change how a stage is ridden, ride it earlier, or take it away."""
    row, layout = own_race(request, race), request.POST.get("layout", "")
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
    row = own_race(request, race)
    current = {"stage": row.document["stages"][stage]}
    return forms.StageForm(request.POST, preset=request.preset, current=current, auto_id=f"stage{stage}_%s", row=row)


@require_POST
def copy(request: Request, race: int) -> HttpResponse:
    """The race once more, a year on."""
    made = services.copy_race(own_race(request, race))
    messages.success(request, _("Copied for next year: look at its day, its air and its rules."))
    return redirect("races:race", race=made.pk)


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
