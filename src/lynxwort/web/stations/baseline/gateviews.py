"""The gate: its list, one check a screen, a photo."""

import uuid
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.views import base_of, kept_bench, rows_of
from lynxwort.web.service import photos, services
from lynxwort.web.stations.baseline import gating
from lynxwort.web.stations.shell import room
from lynxwort.web.ui.typed import Request
from lynxwort.words.refusals import explain


def refusal_words(request: Request, refused: InputRefused) -> str:
    """What was refused, in words."""
    return " ".join(explain(r, preset=request.preset, translate=_) for r in refused.refusals)


@require_http_methods(["GET", "POST"])
def gate(request: Request, setup: int, race: int) -> HttpResponse:
    """All checks and how they stand; POST says whether the bike was bought used."""
    if request.method == "POST":
        row, _race = rows_of(request, setup, race)
        services.say(row.bike, bought=request.POST.get("bought") == "1")
        return redirect(f"{base_of(setup, race)}baseline/gate/")
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    return room(request, bench, "baseline", "gate", gating.gate_page(bench, request.preset))


@require_http_methods(["GET", "POST"])
def check(request: Request, setup: int, race: int, check: str) -> HttpResponse:
    """One check; POST keeps what was found and goes on to the next."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    found = gating.check_named(bench, check)
    if found is None:
        raise Http404
    sent = (request.POST, request.FILES) if request.method == "POST" else (None, None)
    form = gating.CheckForm(*sent, check=found, preset=request.preset)
    if request.method == "POST" and form.is_valid():
        try:
            _keep(bench, form, found)
        except InputRefused as refused:
            form.add_error("photo" if refused.refusals[0].path == "photo" else None, refusal_words(request, refused))
        else:
            if form.cleaned_data["result"] == "fail" and found.do_not_ride:
                messages.error(request, _("Do not ride it. Mend it, then check again."))
            name = request.POST.get("next", "")
            ahead = f"{name}/" if gating.check_named(bench, name) else ""
            return redirect(f"{base_of(setup, race)}baseline/gate/{ahead}")
    context = gating.check_page(bench, found, form, request.preset)
    status = 422 if request.method == "POST" else 200
    return room(request, bench, "baseline", "gate", context, status=status, template="gate_check")


def _keep(bench: Bench, form: gating.CheckForm, check: Any) -> None:
    """Keep what was found with its picture. Raises InputRefused."""
    file = form.cleaned_data.get("photo")
    photo = photos.taken_in(file) if file else None
    services.write(bench.setup.bike, "check", form.document(check), photo=photo, name=form.cleaned_data["name"])


@require_GET
def photo(request: Request, setup: int, race: int, line: uuid.UUID) -> HttpResponse:
    """The picture of what was found."""
    bench = kept_bench(request, setup, race)
    if isinstance(bench, HttpResponse):
        return bench
    data = gating.photo_of(bench, line)
    if data is None:
        raise Http404
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400"})
