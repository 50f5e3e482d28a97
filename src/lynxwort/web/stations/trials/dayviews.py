from django.contrib import messages
from django.forms import Form
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.views import base_of, kept_bench
from lynxwort.web.runs import days as services
from lynxwort.web.runs.models import RiddenDay
from lynxwort.web.stations.shell import room
from lynxwort.web.stations.trials import comparing, days
from lynxwort.web.stations.trials.views import refusal_words
from lynxwort.web.ui.typed import Request, whole_number


@require_http_methods(["GET", "POST"])
def day(request: Request, setup: int, race: int) -> HttpResponse:
    """The day as it is ridden: POST begins one, counts a lap, logs a click, strikes one out, or says how it was."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    asked = request.POST.get("day", "") or request.GET.get("day", "")
    row = days.day_of(bench, asked)
    if asked and row is None:
        raise Http404
    if request.method != "POST":
        return _shown(request, bench, row)
    do = request.POST.get("do", "")
    if do == "begin":
        # sent twice from one page it is one day: the page says how many there were
        if whole_number(request.POST.get("days", "")) == bench.setup.days.count():
            row = days.begin(bench)
    elif row is None:
        raise Http404
    else:
        answer = _said(request, bench, row, do)
        if answer is not None:
            return answer
    return redirect(f"{base_of(setup, race)}trials/day/{f'?day={row.uid}' if row else ''}")


def _shown(request: Request, bench: Bench, row: RiddenDay | None, **forms: object) -> HttpResponse:
    context = days.day_page(bench, row, request.preset, **forms)  # type: ignore[arg-type]
    return room(request, bench, "trials", "day", context, status=422 if forms else 200, template="day")


def _said(request: Request, bench: Bench, row: RiddenDay, do: str) -> HttpResponse | None:
    """Do what a form of the page says; the page again where it cannot be done."""
    if do == "lap":
        ridden = whole_number(request.POST.get("laps", ""))
        if ridden is None or not 0 <= ridden <= days.MOST_LAPS:
            raise Http404
        services.change(row, laps=ridden)
        return None
    if do == "strike":
        click = next((c for c in row.clicks.all() if str(c.uid) == request.POST.get("click")), None)
        if click is None:
            raise Http404
        services.strike_out(click)
        messages.success(request, _("Struck out."))
        return None
    form = _form(request, row, do)
    if form is None:
        raise Http404
    if form.is_valid():
        try:
            _keep(row, form)
        except InputRefused as refused:
            form.add_error(None, refusal_words(request, refused))
        else:
            return None
    return _shown(request, bench, row, **{do: form})


def _form(request: Request, row: RiddenDay, do: str) -> Form | None:
    """The form that was sent."""
    if do == "turn":
        return days.TurnForm(request.POST)
    if do == "seen":
        return days.SeenForm(request.POST, preset=request.preset, laps=row.document.get("laps", 0))
    return days.FactsForm(request.POST, preset=request.preset, current=row.document) if do == "facts" else None


def _keep(row: RiddenDay, form: Form) -> None:
    """Keep what it says. Raises InputRefused."""
    if isinstance(form, days.TurnForm):
        services.log_click(row, form.click(), form.cleaned_data["name"])
    elif isinstance(form, days.SeenForm):
        services.change(row, **form.facts(row))
    elif isinstance(form, days.FactsForm):
        services.change(row, **form.facts())


@require_GET
def compare(request: Request, setup: int, race: int) -> HttpResponse:
    """Two sessions or two days of the garage side by side."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    asked = request.GET if "one" in request.GET or "two" in request.GET else None
    form = comparing.PairForm(asked, sessions=comparing.sessions_of(bench, request.preset))
    context = comparing.compare_page(form, request.preset)
    status = 422 if form.is_bound and not form.is_valid() else 200
    return room(request, bench, "trials", "compare", context, status=status, template="trial_compare")
