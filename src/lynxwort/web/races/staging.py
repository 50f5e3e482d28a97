"""One stage on its ribbon: its ground painted, its hills, points and zones placed, its pits laid and cut."""

import re
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST
from django.views.decorators.vary import vary_on_headers

from lynxwort.core.errors import InputRefused
from lynxwort.web.races import forms, painting, pits, services
from lynxwort.web.races.models import Course, Race
from lynxwort.web.ui.stale import StaleFacts, mark_of
from lynxwort.web.ui.typed import Request, whole_number
from lynxwort.words.refusals import explain


def own_race(request: Request, race: int) -> Race:
    """A race of the garage. Raises Http404."""
    return get_object_or_404(Race.objects.select_related("course", "rider", "garage"), pk=race, garage=request.garage)


def _stage(row: Race, stage: int) -> Course:
    """The course of a stage; 404 beyond the last."""
    courses = services.courses_of(row)
    if stage >= len(courses):
        raise Http404
    return courses[stage]


#: the room of the bench in which a stage is painted
_BENCH = re.compile(r"/bench/\d+/\d+/purpose/ground/\d+/")


def _changing(stage: dict[str, Any], mark: str, units: Any) -> tuple[str, str, Any] | None:
    """Where the hill, point or zone stands that is to be changed, its mark, and its form; None for none."""
    found = next(((w, i) for w in forms.PLACED for i in stage.get(w, []) if mark_of(i) == mark), None) if mark else None
    if found is None:
        return None
    where, item = found
    return where, mark, forms.PLACED[where](preset=units, initial=item, auto_id="change_%s")


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
        "pits": forms.PitsForm(preset=units, auto_id="pits_%s"),
        "overlapping": painting.overlapping_hills(row.document["stages"][stage], units),
        "may_cut": pits.may_be_cut(row.document["stages"][stage]),
        "changing": _changing(row.document["stages"][stage], request.GET.get("change", ""), units),
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
    return _stage_page(request, own_race(request, race), stage)


@require_POST
def paint(request: Request, race: int, stage: int) -> HttpResponse:
    """Paint the chosen stretch."""
    row = own_race(request, race)
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
    row = own_race(request, race)
    words = _("The race was changed in another window. Nothing was changed here; this is how it stands now.")
    if stage >= len(row.document["stages"]):
        messages.error(request, words)
        return redirect("races:race", race=row.pk)
    return _stage_page(request, row, stage, status=409, refusal=words)


@require_POST
def undo(request: Request, race: int, stage: int) -> HttpResponse:
    """Take back the last change of the race's stages; not one that the page does not know of."""
    row = own_race(request, race)
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
    row = own_race(request, race)
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
        mark = request.POST.get("mark", "")
        try:
            if mark:
                services.change_item(row, stage, course, where, mark, said, layout=layout)
            else:
                services.add_item(row, stage, course, where, said, layout=layout)
        except IndexError:
            return _stale_stage(request, race, stage)
        except InputRefused as refused:
            for refusal in refused.refusals:
                form.add_error(None, explain(refusal, kind="distance", preset=request.preset, translate=_))
        except StaleFacts:
            return _stale_stage(request, race, stage)
    return _stage_page(request, row, stage, status=422, refused=(where, form)) if form.errors else redirect(back)


@require_POST
def lay_pits(request: Request, race: int, stage: int) -> HttpResponse:
    """A refuel point every so far along a stage, or the stage cut at those it has."""
    row = own_race(request, race)
    course, layout = _stage(row, stage), request.POST.get("layout", "")
    form = forms.PitsForm(request.POST, preset=request.preset, auto_id="pits_%s")
    try:
        if "cut" in request.POST:
            pits.cut_at_pits(row, stage, course, layout=layout)
            messages.success(request, _("Cut: each piece is a stage now, and riders may change at each pit."))
            return redirect("races:race", race=row.pk)
        if form.is_valid():
            said = {k: v for k, v in form.cleaned_data.items() if v is not False and v not in (None, "")}
            pits.add_pits(row, stage, course, said.pop("every_m"), said, layout=layout)
            return redirect("races:stage", race=row.pk, stage=stage)
    except StaleFacts:
        return _stale_stage(request, race, stage)
    except InputRefused as refused:
        for refusal in refused.refusals:
            form.add_error(None, explain(refusal, kind="distance", preset=request.preset, translate=_))
    return _stage_page(request, row, stage, status=422, pits=form)
