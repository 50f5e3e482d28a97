import uuid
from typing import Any

from django.contrib import messages
from django.core.signing import BadSignature
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.utils.translation import ngettext
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.views import base_of, kept_bench, rows_of
from lynxwort.web.bikes import services as bikes
from lynxwort.web.runs import services
from lynxwort.web.stations.shell import is_part, part, room
from lynxwort.web.stations.trials import answering, planning, running, sessions
from lynxwort.web.ui.templatetags.lynx import line_words
from lynxwort.web.ui.typed import Request, json_of, version_of
from lynxwort.words.refusals import explain

#: what a phone sends of a run is no longer than this [bytes]
MOST_SENT = 4_000


def refusal_words(request: Request, refused: InputRefused) -> str:
    """What was refused, in words, each with its line."""
    return " ".join(
        f"{line_words(r.path)} {explain(r, preset=request.preset, translate=_)}".strip() for r in refused.refusals
    )


@require_http_methods(["GET", "POST"])
def plan(request: Request, setup: int, race: int) -> HttpResponse:
    """What it takes to see the draft's difference; POST begins the trial."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    post, why = request.method == "POST", planning.refusal(bench)
    form = None
    if not why:
        sent = request.POST if post else request.GET if "see" in request.GET else None
        form = planning.PlanForm(sent, bench=bench, preset=request.preset)
    if post and form is not None and form.is_valid():
        try:
            planning.begin(bench, form.plan(planning.new_seed())[0])
        except InputRefused as refused:
            form.add_error(None, refusal_words(request, refused))
        else:
            return redirect(f"{base_of(setup, race)}trials/run/")
    context = planning.plan_page(bench, request.preset, form)
    status = 422 if post and (why or (form is not None and form.errors)) else 200
    return room(request, bench, "trials", "plan", context, status=status, template="trial_plan")


@require_http_methods(["GET", "POST"])
def run(request: Request, setup: int, race: int) -> HttpResponse:
    """The trial on the phone; POST keeps a run timed with a watch."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    form = None
    if request.method == "POST":
        trial = running.open_trial(bench)
        if trial is None or running.next_place(trial) is None:
            raise Http404
        if "conditions" in request.POST:
            now = running.ConditionsForm(request.POST, preset=request.preset)
            if now.is_valid():
                try:
                    services.note(trial, now.document(trial))
                except InputRefused as refused:
                    now.add_error(None, refusal_words(request, refused))
                else:
                    return redirect(f"{base_of(setup, race)}trials/run/")
            context = running.run_page(bench, request.preset, now=now)
            return room(request, bench, "trials", "run", context, status=422, template="trial_run")
        form = running.WatchForm(request.POST, preset=request.preset)
        if form.is_valid():
            try:
                services.add_run(trial, form.document(trial), uuid.uuid4())
            except InputRefused as refused:
                form.add_error(None, refusal_words(request, refused))
            else:
                return redirect(f"{base_of(setup, race)}trials/run/")
    context = running.run_page(bench, request.preset, form)
    status = 422 if form is not None and form.errors else 200
    return room(request, bench, "trials", "run", context, status=status, template="trial_run")


@require_POST
def send_run(request: Request, setup: int, race: int, trial: uuid.UUID) -> HttpResponse:
    """A run as the phone sends it, as often as it likes: kept once."""
    row, _race = rows_of(request, setup, race)
    found = row.trials.filter(uid=trial).first()
    if found is None:
        raise Http404
    try:
        sent = json_of(request.body[:MOST_SENT].decode("utf-8", "replace"))
        name = uuid.UUID(str(sent["id"]))
        services.add_run(found, services.run_of_taps(found, sent), name)
    except InputRefused as refused:
        return JsonResponse({"refused": refusal_words(request, refused)}, status=422)
    except (ValueError, KeyError, TypeError):
        return JsonResponse({"refused": _("Not a run.")}, status=422)
    return JsonResponse({"kept": str(name)})


@require_http_methods(["GET", "POST"])
def session(request: Request, setup: int, race: int) -> HttpResponse:
    """Runs out of a recorded session: its file first, then which lap is which run."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    trial = running.open_trial(bench)
    if trial is None or not sessions.is_open(trial):
        return redirect(f"{base_of(setup, race)}trials/run/")
    post = request.method == "POST"
    form = sessions.SessionForm(request.POST if post else None, request.FILES if post else None, bench=bench)
    context: dict[str, Any] = {"trial": trial, "form": form}
    try:
        if post and "laps" in request.POST:
            kept = sessions.keep(trial, request.POST)
            told = ngettext("%(n)s run is kept.", "%(n)s runs are kept.", kept) % {"n": kept}
            messages.success(request, told)
            return redirect(f"{base_of(setup, race)}trials/run/")
        if post and form.is_valid():
            laps = form.laps()
            context |= sessions.session_page(trial, laps, request.preset) if laps else {}
            if not laps:
                form.add_error("file", _("No whole lap of this course lies in the file."))
    except InputRefused as refused:
        form.add_error(None, refusal_words(request, refused))
    except BadSignature:
        form.add_error(None, _("These laps are not the ones that were read here. Send the file again."))
    status = 422 if post and "rows" not in context else 200
    return room(request, bench, "trials", "run", context, status=status, template="trial_session")


@require_GET
def friend(request: Request, setup: int, race: int) -> HttpResponse:
    """What the friend turns before the next run of a blind trial."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    context = running.friend_page(bench, request.preset)
    if is_part(request):
        return part(request, bench, "bench/_trial_friend.html", context)
    return room(request, bench, "trials", "run", context, template="trial_friend")


@require_GET
def answer(request: Request, setup: int, race: int) -> HttpResponse:
    """What the runs say by now, of the open trial or the one asked for."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    asked = request.GET.get("trial", "")
    row = running.trial_in(bench.setup, asked) if asked else running.open_trial(bench) or bench.setup.trials.last()
    if asked and row is None:
        raise Http404
    context: dict[str, Any] = {"trial": None}
    if row is not None:
        context = answering.answer_page(bench, row, request.preset, look="look" in request.GET)
    return room(request, bench, "trials", "answer", context, template="trial_answer")


@require_GET
def laps_csv(request: Request, setup: int, race: int) -> HttpResponse:
    """The laps of a trial as CSV; of a blind one only when it is decided."""
    row, _race = rows_of(request, setup, race)
    found = running.trial_in(row, request.GET.get("trial", ""))
    if found is None:
        raise Http404
    answer = HttpResponse(answering.laps_csv(found), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="laps.csv"'
    return answer


@require_POST
def decide(request: Request, setup: int, race: int) -> HttpResponse:
    """Keep, put back, or leave it."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    row, what = running.trial_in(bench.setup, request.POST.get("trial", "")), request.POST.get("what", "")
    if row is None or what not in ("kept", "put_back", "left"):
        raise Http404
    try:
        why = answering.decide(bench, row, what, version_of(request), request.user.username)
    except bikes.StaleDraft:
        why = _("Another window moved the draft. Nothing was kept; look at it and keep again.")
    if why:
        messages.error(request, why)
    else:
        messages.success(request, _("Done, with the trial as its reason."))
    return redirect(f"{base_of(setup, race)}trials/answer/?trial={row.uid}")
