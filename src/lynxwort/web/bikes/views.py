from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused
from lynxwort.web.bikes import services
from lynxwort.web.bikes.forms import PAGE_TITLES, PAGES, FactsPage
from lynxwort.web.bikes.models import Bike, Revision, Setup
from lynxwort.web.ui.forms import plant


def new_bike(request: HttpRequest, page: int) -> HttpResponse:
    """One of three pages; what was typed is kept in the session until the bike stands."""
    typed = request.session.get("new_bike", {})
    if page not in (1, 2, 3) or (page > 1 and str(page - 1) not in typed):
        return redirect("bikes:new", page=1)
    data = request.POST if request.method == "POST" else typed.get(str(page))
    form = PAGES[page - 1](data, preset=request.preset)
    if request.method == "POST":
        typed[str(page)] = request.POST.dict()
        request.session["new_bike"] = typed
        if form.is_valid() and page < 3:
            return redirect("bikes:new", page=page + 1)
        if form.is_valid() and _finish(request, typed, form):
            del request.session["new_bike"]
            return redirect("stand")
    status = 422 if request.method == "POST" else 200
    context = {"form": form, "page": page, "title": PAGE_TITLES[page - 1], "titles": PAGE_TITLES}
    return render(request, "bikes/new.html", context, status=status)


def _finish(request: HttpRequest, typed: dict, last_form) -> bool:
    """Make the bike from three pages; a refusal lands on the last page's form."""
    document: dict = {}
    for number, page in enumerate(PAGES, start=1):
        form = page(typed[str(number)], preset=request.preset)
        if not form.is_valid():
            last_form.add_error(None, _("Page %(page)s needs another look.") % {"page": number})
            return False
        for path, value in _flat(form.document()):
            plant(document, path, value)
    try:
        bike = services.make_bike(request.garage, document["bike"], document["setup"])
    except InputRefused as refused:
        last_form.refuse(refused.refusals)
        return False
    messages.success(request, _("%(bike)s stands ready.") % {"bike": bike.name})
    return True


def _flat(document: dict, prefix: str = ""):
    for key, value in document.items():
        if isinstance(value, dict):
            yield from _flat(value, f"{prefix}{key}.")
        else:
            yield f"{prefix}{key}", value


def facts(request: HttpRequest, bike: int) -> HttpResponse:
    """All facts of a bike, given or assumed."""
    row = get_object_or_404(Bike, pk=bike, garage=request.garage)
    form = FactsPage(request.POST or None, preset=request.preset, current={"bike": row.document})
    if request.method == "POST" and form.is_valid():
        try:
            services.change_bike(row, form.document()["bike"])
        except InputRefused as refused:
            form.refuse(refused.refusals)
        else:
            messages.success(request, _("Kept. What was kept before stays as it was."))
            return redirect("bikes:facts", bike=row.pk)
    return render(request, "bikes/facts.html", {"bike": row, "form": form}, status=422 if form.errors else 200)


def history(request: HttpRequest, setup: int) -> HttpResponse:
    """The kept revisions of a setup, newest first."""
    line = get_object_or_404(Setup.objects.select_related("bike", "draft"), pk=setup, bike__garage=request.garage)
    revisions = line.revisions.select_related("parent")
    return render(request, "bikes/history.html", {"line": line, "revisions": revisions, "race": request.GET.get("race", "")})


def return_to(request: HttpRequest, revision: int) -> HttpResponse:
    """Return to a revision: a draft with it as parent (POST)."""
    row = get_object_or_404(Revision.objects.select_related("setup__draft"), pk=revision, setup__bike__garage=request.garage)
    if request.method == "POST":
        try:
            services.return_to(row.setup.draft, int(request.POST.get("version") or 0), row)
            messages.success(request, _("The draft holds No. %(number)s again. Keep it to make it the newest.") % {"number": row.number})
        except (services.StaleDraft, ValueError):
            messages.error(request, _("The draft moved on in another window. Nothing was changed; look and press again."))
    race = request.POST.get("race", "")
    if race.isdigit():
        return redirect("bench:station", setup=row.setup_id, race=int(race), station="chassis")
    return redirect("bikes:history", setup=row.setup_id)
