"""Set it up for me: one plan across all stations."""

from collections.abc import Callable
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.utils.translation import ngettext
from django.views.decorators.http import require_http_methods, require_POST, require_safe
from django.views.decorators.vary import vary_on_headers

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.views import base_of, kept_bench
from lynxwort.web.bikes import changes
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.races import weeks
from lynxwort.web.stations.proposing import planning, seasons, sureness
from lynxwort.web.stations.proposing.forms import SeasonForm, WishForm
from lynxwort.web.stations.shell import behind, is_part, part
from lynxwort.web.ui.typed import Request, version_of
from lynxwort.words.refusals import explain

Page = Callable[[Bench, Job, Any], dict[str, Any]]


def _shown(request: Request, bench: Bench, room: str, context: dict[str, Any], job: Job, page: Page) -> HttpResponse:
    """A job as far as it is, stopped where that is asked: whole, or the part that fetches itself anew."""
    if "cancel" in request.POST:
        worker.stop(job)
    context |= page(bench, job, request.preset)
    if is_part(request):
        return part(request, bench, f"bench/_{room}.html", context | {"renewed": True})
    return behind(request, bench, room, context)


@require_http_methods(["GET", "POST"])
@vary_on_headers("HX-Request")
def plan(request: Request, setup: int, race: int) -> HttpResponse:
    """The plan for the draft; POST cancels it or asks for it again."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = WishForm(request.GET, preset=request.preset)
    context: dict[str, Any] = {"wish": form, "query": form.query, "asked": bool(form.query)}
    if not form.is_valid():
        return behind(request, bench, "plan", context, 422)
    job = planning.ask(bench, form.wish(), again="again" in request.POST)
    return _shown(request, bench, "plan", context, job, planning.page)


@require_safe
def sure(request: Request, setup: int, race: int) -> HttpResponse:
    """How sure the plan is, while it is reckoned and after: a part of its page."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = WishForm(request.GET, preset=request.preset)
    if not form.is_valid():
        raise Http404
    plan_ = planning.ask(bench, form.wish())
    data = (plan_.result or {}).get("plan")
    context: dict[str, Any] = {"wish": form, "query": form.query, "plan": data}
    if data is not None:
        context |= sureness.page(bench, sureness.ask(plan_), request.preset)
    return part(request, bench, "bench/_plan_sure.html", context)


def _numbers(request: Request, name: str) -> list[int]:
    return [int(i) for i in request.POST.getlist(name) if i.isascii() and i.isdigit() and len(i) < 4]


def _planned(request: Request, setup: int, race: int) -> tuple[Bench, HttpResponse, dict[str, Any]] | HttpResponse:
    """The bench, the way back to the plan that something is sent from, and the plan; the way back alone where it was
    for another draft.
    """
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = WishForm(request.POST, preset=request.preset)
    back = redirect(f"{base_of(setup, race)}card/plan/{'?' + form.query if form.query else ''}")
    if not form.is_valid():
        return back
    job = planning.ask(bench, form.wish())
    data = planning.standing(job)
    if data is not None and ("first" in request.POST) == planning.is_first(job):
        return bench, back, data
    moved_on = version_of(request) != bench.draft.version
    messages.error(
        request,
        _("The draft has moved on since; this plan was for another one. Here is the new one.")
        if moved_on
        else _("The search for a plan went on since. This is how far it is; nothing was changed."),
    )
    return back


@require_POST
def to_week(request: Request, setup: int, race: int) -> HttpResponse:
    """The work of the steps that are ticked onto the list of the race's week, in the place of that of another plan."""
    found = _planned(request, setup, race)
    if isinstance(found, HttpResponse):
        return found
    bench, back, data = found
    steps = _numbers(request, "step")
    work = planning.work_of(bench, data, steps)
    if not work:
        messages.error(request, _("No step with work was ticked. What is bolted on or off comes there by itself."))
        return back
    try:
        planning.check(bench, planning.moves_of(data, steps))
        weeks.change(bench.race, lambda week: weeks.with_plan(week, work))
    except InputRefused as refused:
        messages.error(request, " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals))
        return back
    words = _("The plan’s work is on the list of the week and on the pit card. Values stand there once it is kept.")
    messages.success(request, words)
    return redirect(f"{base_of(setup, race)}card/week/#jobs")


@require_POST
def take(request: Request, setup: int, race: int) -> HttpResponse:
    """The steps that are ticked into the draft, as one change."""
    found = _planned(request, setup, race)
    if isinstance(found, HttpResponse):
        return found
    bench, back, data = found
    ways = _numbers(request, "way")
    moves = planning.moves_of_way(data, ways[0]) if ways else planning.moves_of(data, _numbers(request, "step"))
    try:
        planning.check(bench, moves)
    except InputRefused as refused:
        messages.error(request, " ".join(explain(r, translate=_) for r in refused.refusals))
        return back
    if not moves:
        messages.error(request, _("No step was ticked. Nothing was changed."))
        return back
    done = changes.take(bench.draft, version_of(request), changes.Moves(tuple((m.tunable, m.value) for m in moves)))
    if not done.done:
        messages.error(request, done.words(request.preset))
        return back
    messages.success(request, _("The plan is in the draft. Look it over, then keep it or put it back."))
    return redirect(f"{base_of(setup, race)}card/plan/")


@require_http_methods(["GET", "POST"])
@vary_on_headers("HX-Request")
def season(request: Request, setup: int, race: int) -> HttpResponse:
    """What to buy for several races; POST cancels it or asks for it again."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    races = seasons.choices(bench)
    asked = "for" in request.GET
    form = SeasonForm(request.GET if asked else None, preset=request.preset, races=races, initial=seasons.ticked(bench))
    context: dict[str, Any] = {"wish": form, "asked": asked, "query": request.GET.urlencode()}
    if not asked or not form.is_valid():
        return behind(request, bench, "season", context, 422 if asked else 200)
    try:
        job = seasons.ask(bench, form.races, form.wish(), again="again" in request.POST)
    except InputRefused as refused:
        for refusal in refused.refusals:
            form.add_error("race", explain(refusal, preset=request.preset, translate=_))
        return behind(request, bench, "season", context, 422)
    return _shown(request, bench, "season", context, job, seasons.page)


@require_POST
def to_buy(request: Request, setup: int, race: int) -> HttpResponse:
    """The parts of a set onto the list of what to buy."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = SeasonForm(request.POST, preset=request.preset, races=seasons.choices(bench))
    back = redirect(f"{base_of(setup, race)}card/season/")
    if not form.is_valid():
        return back
    found = (seasons.ask(bench, form.races, form.wish()).result or {}).get("season")
    ways = _numbers(request, "way")
    if found is None or not ways:
        messages.error(request, _("The draft has moved on since; this plan was for another one. Here is the new one."))
        return redirect(f"{back.url}?for=1&{form.query}")
    count = seasons.to_buy(bench, found, ways[0])
    words = ngettext("%(n)s part is on the list of what to buy.", "%(n)s parts are on the list of what to buy.", count)
    if count:
        messages.success(request, words % {"n": count} + " " + _("Say their prices here, and when they are bought."))
    else:
        messages.success(request, _("They stand on the list of what to buy already."))
    return redirect("parts:box")
