"""Race week: the evenings before a race, and what is loaded for it."""

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.views import base_of, kept_bench
from lynxwort.web.races import weeks
from lynxwort.web.races.models import Race
from lynxwort.web.races.services import OF_WEEK, change_facts, facts_of
from lynxwort.web.runs import loading
from lynxwort.web.stations.shell import behind
from lynxwort.web.stations.week import forms, packing, planning
from lynxwort.web.ui.stale import edited
from lynxwort.web.ui.typed import Request
from lynxwort.words.refusals import explain


@require_http_methods(["GET", "POST"])
def week(request: Request, setup: int, race: int) -> HttpResponse:
    """The week worked backward; POST says something of its evenings, a chore, or a part that is to come."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    row = get_object_or_404(Race, pk=race, garage=request.garage)
    here, what = f"{base_of(setup, race)}card/week/", request.POST.get("what", "")
    shown: dict[str, Any] = {"evenings": _evenings(request, row, None), "chore": forms.ChoreForm(preset=request.preset)}
    waits, status = dict[str, forms.AwaitForm](), 200
    if request.method == "POST" and what == "evenings":
        form, status = edited(
            request, lambda: _evenings(request, row, request.POST),
            lambda f: change_facts(row, OF_WEEK, f.document(), seen=f.shown),
        )  # fmt: skip
        if status == 302:
            messages.success(request, _("Kept with the race."))
            return redirect(here)
        shown["evenings"] = form
    elif request.method == "POST" and what in ("await", "chore", "done", "drop"):
        refused = _small(request, row, what)
        if refused is None:
            return redirect(f"{here}#jobs")
        status = 422
        if isinstance(refused, forms.AwaitForm):
            waits[request.POST.get("job", "")] = refused
        else:
            shown["chore"] = refused
    elif request.method == "POST":
        raise Http404
    return behind(request, bench, "week", planning.page(bench, request.preset, waits) | shown, status)


def _evenings(request: Request, row: Race, sent: Any) -> forms.EveningsForm:
    row.refresh_from_db()
    return forms.EveningsForm(sent, preset=request.preset, current=facts_of(row, OF_WEEK))


def _small(request: Request, row: Race, what: str) -> forms.WeekForm | None:
    """One small thing said of the week; the form where it was refused."""
    if what in ("done", "drop"):
        name = request.POST.get("chore", "")
        weeks.change(row, lambda week: forms.chore_done(week, name, drop=what == "drop"))
        return None
    form = forms.AwaitForm(request.POST, preset=request.preset) if what == "await" else forms.ChoreForm(
        request.POST, preset=request.preset
    )  # fmt: skip
    if not form.is_valid():
        return form
    try:
        if isinstance(form, forms.AwaitForm):
            job = request.POST.get("job", "")
            weeks.change(row, lambda week: form.kept(week, job))
        else:
            weeks.change(row, form.kept)
    except InputRefused as refused:
        form.add_error(None, " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals))
        return form
    return None


@require_http_methods(["GET", "POST"])
def load(request: Request, setup: int, race: int) -> HttpResponse:
    """The load list; POST ticks a thing, writes one down, or says what was forgotten."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    if request.method == "POST":
        refusal = _loaded(request, bench)
        if not refusal:
            return redirect(f"{base_of(setup, race)}card/week/load/")
        messages.error(request, refusal)
    context = packing.page(bench, request.preset)
    status = 422 if request.method == "POST" else 200
    return behind(request, bench, "week", context, status, template="week_load")


def _loaded(request: Request, bench: Bench) -> str:
    """What was said of a thing is kept; why not, where it is refused."""
    if "let_go" in request.POST:
        loading.let_go(bench.race, request.POST["let_go"])
        return ""
    state = next((s for s in loading.SAID if s in request.POST), request.POST.get("state", ""))
    key = request.POST.get(state, "")
    if "thing" in request.POST:
        key = packing.key_named(bench, request.preset, request.POST["thing"])
        if not key:
            return _("Say what.")
    try:
        loading.say(bench.race, key, state)
    except InputRefused as refused:
        return explain(refused.refusals[0], translate=_)
    return ""


@require_GET
def calendar(request: Request, setup: int, race: int) -> HttpResponse:
    """The week as a calendar."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    response = HttpResponse(planning.week_ics(bench), content_type="text/calendar; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="race-week.ics"'
    return response
