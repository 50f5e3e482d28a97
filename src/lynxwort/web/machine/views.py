import sqlite3
from typing import Any

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.core.exceptions import PermissionDenied
from django.http import FileResponse, Http404, HttpResponse, StreamingHttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from lynxwort.core.errors import InputRefused
from lynxwort.web.garages.services import keeps_the_machine
from lynxwort.web.machine import garage_file, garage_lines, presenting, shelf, tls
from lynxwort.web.machine.archive import Unusable
from lynxwort.web.machine.presenting import KINDS, UNUSABLE
from lynxwort.web.ui.security import say
from lynxwort.web.ui.typed import Request
from lynxwort.words.refusals import explain


def _only_its_keeper(request: Request) -> None:
    if not keeps_the_machine(request):
        raise PermissionDenied


def _page(request: Request, status: int = 200, **more: Any) -> HttpResponse:
    keeper = keeps_the_machine(request)
    context: dict[str, Any] = {"keeper": keeper}
    if keeper:
        context |= {
            "shelf": [(b, KINDS[b.kind]) for b in shelf.on_shelf()],
            "waiting": shelf.waiting() is not None,
            "taken_away": shelf.taken_away(),
            "long_ago": shelf.is_long_ago(),
        }
    return render(request, "machine/backups.html", context | more, status=status)


@require_GET
def backups(request: Request) -> HttpResponse:
    """Back-ups of the installation, for its keeper; the garage as a file, for everybody in it."""
    return _page(request)


@require_POST
def make(request: Request) -> HttpResponse:
    """A back-up now."""
    _only_its_keeper(request)
    try:
        shelf.make("asked")
    except sqlite3.Error:
        return _page(
            request,
            503,
            trouble=_(
                "No back-up was written: the database did not let itself be read. Nothing was changed; try again."
            ),
        )
    messages.success(request, _("Back-up written. It lies on this machine only until you take it away."))
    return redirect("machine:backups")


@require_GET
def take(request: Request, name: str) -> FileResponse:
    """A back-up to take away."""
    _only_its_keeper(request)
    path = shelf.path_of(name)
    if path is None:
        raise Http404
    shelf.note_taken_away()
    say("back-up taken away", user=request.user.get_username(), file=name)
    return FileResponse(path.open("rb"), as_attachment=True, filename=path.name)


@require_POST
def put_back(request: Request) -> HttpResponse:
    """Lay a back-up, from the shelf or from a file, ready for the next start."""
    _only_its_keeper(request)
    sent, named = request.FILES.get("file"), request.POST.get("name", "")
    path = None if sent else shelf.path_of(named)
    if sent is None and path is None:
        return _page(request, 422, trouble=_("Choose a back-up."))
    try:
        if path is None:
            shelf.put_by(sent)  # type: ignore[arg-type]
        else:
            with path.open("rb") as file:
                shelf.put_by(file)
    except Unusable as error:
        return _page(request, 422, trouble=UNUSABLE[error.code])
    say("restore laid ready", user=request.user.get_username(), file=named)
    return redirect("machine:backups")


@require_POST
def leave(request: Request) -> HttpResponse:
    """Nothing is put back at the next start."""
    _only_its_keeper(request)
    shelf.let_go()
    return redirect("machine:backups")


@require_GET
def garage_out(request: Request) -> StreamingHttpResponse:
    """The garage as lines."""
    answer = StreamingHttpResponse(garage_lines.lines(request.garage), content_type="application/x-ndjson")
    answer["Content-Disposition"] = 'attachment; filename="garage.jsonl"'
    return answer


@require_POST
def garage_in(request: Request) -> HttpResponse:
    """Lines of a garage, laid by and looked at; merged when somebody says so."""
    file = request.FILES.get("file")
    if file is None:
        return _page(request, 422, refused=_("Choose a file."))
    label = request.POST.get("label", "").strip()[:20]
    try:
        garage_file.lay_by(request.garage, file, label)  # type: ignore[arg-type]
        return _merge_page(request)
    except InputRefused as error:
        garage_file.let_go(request.garage)
        return _page(request, 422, refused=_refusal(request, error))


def _refusal(request: Request, error: InputRefused) -> str:
    first = error.refusals[0]
    where = _("Line {line}: ").format(line=first.path.removeprefix("line.")) if first.path.startswith("line.") else ""
    return where + explain(first, preset=request.preset, translate=_)


def _merge_page(request: Request) -> HttpResponse:
    """What would become of the file that lies by. Raises InputRefused."""
    done = garage_file.merged(request.garage, dry=True)
    if done is None:
        return redirect("machine:backups")
    return render(request, "machine/merge.html", presenting.merge_page(done))


@require_http_methods(["GET", "POST"])
def merge(request: Request) -> HttpResponse:
    """What will become of the two copies; POST makes them one."""
    try:
        if request.method != "POST":
            return _merge_page(request)
        choices = {k.removeprefix("row."): str(v) for k, v in request.POST.items() if k.startswith("row.")}
        done = garage_file.merged(request.garage, choices=choices)
    except InputRefused as error:
        garage_file.let_go(request.garage)
        return _page(request, 422, refused=_refusal(request, error))
    if done is not None:
        messages.success(request, presenting.merged_words(done))
    return redirect("machine:backups")


@require_POST
def merge_leave(request: Request) -> HttpResponse:
    """Nothing becomes of the file that lies by."""
    garage_file.let_go(request.garage)
    return redirect("machine:backups")


@login_not_required
@require_GET
def authority(request: Request) -> HttpResponse:
    """How a phone takes the authority of this installation."""
    return render(request, "machine/authority.html", {"fingerprint": tls.fingerprint(), "secure": request.is_secure()})


@login_not_required
@require_GET
def authority_file(request: Request) -> HttpResponse:
    """The authority's certificate; its key never leaves."""
    der = tls.authority_der()
    if der is None:
        raise Http404
    return HttpResponse(der, content_type="application/x-x509-ca-cert")
