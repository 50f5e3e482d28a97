from django.conf import settings
from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.races import forms, services
from lynxwort.web.races.models import Race
from lynxwort.web.ui.forms import refusal_words
from lynxwort.words.refusals import explain


def _own(request: HttpRequest, race: int) -> Race:
    return get_object_or_404(Race.objects.select_related("course", "rider"), pk=race, garage=request.garage)


def new_race(request: HttpRequest) -> HttpResponse:
    """A race with its course file, on one page; a refused file loses nothing that was typed."""
    if request.method == "POST" and int(request.META.get("CONTENT_LENGTH") or 0) > settings.MAX_UPLOAD_BYTES:
        words = refusal_words("too_large", request.preset, high=25.0)
        return render(request, "ui/error.html", {"title": _("Too much at once"), "words": words, "status": 413}, status=413)
    form = forms.RaceForm(request.POST or None, preset=request.preset)
    course = forms.CourseForm(request.POST or None, request.FILES or None)
    if request.method == "POST" and form.is_valid() & course.is_valid():
        try:
            track = services.read_course_file(course.cleaned_data["file"].read(), course.cleaned_data["heights"])
        except InputRefused as refused:
            for refusal in refused.refusals:
                course.add_error("file", explain(refusal, preset=request.preset, translate=_))
        else:
            try:
                race = services.save_race(request.garage, form.document(), track)
            except InputRefused as refused:
                form.refuse(refused.refusals)
            else:
                return redirect("races:race", race=race.pk)
    bad = bool(form.errors or course.errors)
    return render(request, "races/new.html", {"form": form, "course": course}, status=422 if bad else 200)


def race(request: HttpRequest, race: int) -> HttpResponse:
    """A race: its day, rider and air, and the ground of its course."""
    row = _own(request, race)
    stage = row.document["stages"][0]
    current = {"race": row.document, "stage": stage, "rider": row.rider.document}
    form = forms.RaceForm(request.POST or None, preset=request.preset, current=current)
    if request.method == "POST" and form.is_valid():
        try:
            services.save_race(request.garage, form.document(), row.course, row)
        except InputRefused as refused:
            form.refuse(refused.refusals)
        else:
            messages.success(request, _("Kept."))
            return redirect("races:race", race=row.pk)
    return _race_page(request, row, form=form, status=422 if form.errors else 200)


def _race_page(request: HttpRequest, row: Race, *, status: int = 200, **known) -> HttpResponse:
    stage = row.document["stages"][0]
    current = {"race": row.document, "stage": stage, "rider": row.rider.document}
    context = {
        "race": row,
        "stage": stage,
        "form": forms.RaceForm(preset=request.preset, current=current),
        "split": forms.SplitForm(preset=request.preset, auto_id="split_%s"),
        "hill": forms.HillForm(preset=request.preset, auto_id="hill_%s"),
        "refuel": forms.RefuelForm(preset=request.preset, auto_id="refuel_%s"),
        "ground": services.ground_of(row),
        "grounds": forms.GROUND_CHOICES,
    } | known
    return render(request, "races/race.html", context, status=status)


@require_POST
def ground(request: HttpRequest, race: int, action: str) -> HttpResponse:
    """Split, name or join stretches of ground."""
    row = _own(request, race)
    try:
        if action == "split":
            form = forms.SplitForm(request.POST, preset=request.preset, auto_id="split_%s")
            if form.is_valid() and not services.split_ground(row, form.cleaned_data["at"]):
                form.add_error("at", _("There is a border already, or it lies beyond the course."))
            if form.errors:
                return _race_page(request, row, split=form, status=422)
        elif action == "name":
            services.set_ground(row, int(request.POST.get("index", -1)), request.POST.get("ground", ""))
        elif action == "join":
            services.join_ground(row, int(request.POST.get("index", -1)))
        else:
            raise Http404
    except (IndexError, ValueError):
        messages.error(request, _("The ground changed in another window. Look again."))
    return redirect("races:race", race=row.pk)


@require_POST
def item(request: HttpRequest, race: int, where: str) -> HttpResponse:
    """Add or drop a critical hill or a refuel point."""
    row = _own(request, race)
    kinds = {"hills": ("hill", forms.HillForm), "refuel_points": ("refuel", forms.RefuelForm)}
    if where not in kinds:
        raise Http404
    name, form_class = kinds[where]
    if "drop" in request.POST:
        try:
            services.drop_item(row, where, int(request.POST["drop"]))
        except (IndexError, ValueError):
            messages.error(request, _("It is gone already."))
        return redirect("races:race", race=row.pk)
    form = form_class(request.POST, preset=request.preset, auto_id=f"{name}_%s")
    if form.is_valid():
        try:
            services.add_item(row, where, {k: v for k, v in form.cleaned_data.items() if v not in (None, "")})
        except InputRefused as refused:
            for refusal in refused.refusals:
                form.add_error(None, explain(refusal, kind="distance", preset=request.preset, translate=_))
    return _race_page(request, row, status=422, **{name: form}) if form.errors else redirect("races:race", race=row.pk)
