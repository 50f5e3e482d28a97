from django.contrib import messages
from django.core.paginator import Paginator
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST

from lynxwort.web.bikes import changes, services
from lynxwort.web.bikes.compare import comparison_rows
from lynxwort.web.bikes.forms import NameForm
from lynxwort.web.bikes.models import Revision, Setup
from lynxwort.web.ui.typed import Request, version_of, whole_number


def _own_setup(request: Request, setup: int) -> Setup:
    return get_object_or_404(Setup.objects.select_related("bike", "draft"), pk=setup, bike__garage=request.garage)


def _own_revision(request: Request, revision: int) -> Revision:
    return get_object_or_404(
        Revision.objects.select_related("setup__draft", "setup__bike"), pk=revision, setup__bike__garage=request.garage
    )


def history(request: Request, setup: int) -> HttpResponse:
    """The kept revisions of a setup as readable lines, newest first, a page at a time."""
    line = _own_setup(request, setup)
    revisions = line.revisions.select_related("parent").defer(
        "report", "document", "parent__report", "parent__document"
    )
    context = {
        "line": line,
        "page": Paginator(revisions, 40).get_page(request.GET.get("page")),
        "race": request.GET.get("race", ""),
        "lines": Setup.objects.filter(bike=line.bike).exclude(pk=line.pk).select_related("bike"),
        "others": services.same_kind(line.bike),
    }
    return render(request, "bikes/history.html", context)


def compare(request: Request, setup: int) -> HttpResponse:
    """Two kept setups side by side: what changed, why, every consequence."""
    line = _own_setup(request, setup)
    asked = [whole_number(request.GET.get(n)) or 0 for n in ("a", "b")]
    rows = {r.pk: r for r in Revision.objects.filter(pk__in=asked, setup__bike__garage=request.garage)}
    if any(a not in rows for a in asked) or asked[0] == asked[1]:
        messages.error(request, _("Choose two kept setups to compare."))
        return redirect("bikes:history", setup=line.pk)
    found = services.compare(rows[asked[0]], rows[asked[1]])
    return render(
        request, "bikes/compare.html", {"line": line, "found": found, "rows": comparison_rows(found, request.preset)}
    )


@require_POST
def name_revision(request: Request, revision: int) -> HttpResponse:
    """Name a kept setup."""
    row = _own_revision(request, revision)
    form = NameForm(request.POST)
    if form.is_valid():
        services.name_revision(row, form.cleaned_data["name"])
    else:
        messages.error(request, _("A name has at most 60 letters."))
    return redirect("bikes:history", setup=row.setup_id)


@require_POST
def branch(request: Request, revision: int) -> HttpResponse:
    """A branch from a kept setup: a second line of the same bike."""
    row = _own_revision(request, revision)
    form = NameForm(request.POST)
    if not form.is_valid() or not form.cleaned_data["name"].strip():
        messages.error(request, _("A branch needs a name, like: wet."))
        return redirect("bikes:history", setup=row.setup_id)
    line = services.branch(row, form.cleaned_data["name"])
    messages.success(
        request,
        _("%(name)s starts from No. %(number)s. Put it on the bench for its race.")
        % {"name": line.title, "number": row.number},
    )
    return redirect("stand")


def return_to(request: Request, revision: int) -> HttpResponse:
    """Return to a revision: a draft with it as parent (POST)."""
    row = _own_revision(request, revision)
    if request.method == "POST":
        taken = changes.take(row.setup.draft, version_of(request), changes.Return(row))
        if taken.done:
            messages.success(
                request,
                _("The draft holds No. %(number)s again. Keep it to make it the newest.") % {"number": row.number},
            )
        else:
            messages.error(request, taken.words(request.preset))
    race = whole_number(request.POST.get("race"))
    if race is not None:
        return redirect("bench:station", setup=row.setup_id, race=race, station="chassis")
    return redirect("bikes:history", setup=row.setup_id)
