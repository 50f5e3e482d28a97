"""The stand, the search, and what there is to look up."""

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET
from django.views.decorators.vary import vary_on_headers

from lynxwort.web.home import learning, searching, stands
from lynxwort.web.ui.typed import Request


@require_GET
def stand(request: Request) -> HttpResponse:
    """Home: what is on the stand, the races to come with what is unsettled for each, and the next thing to do."""
    rows = stands.stand_rows(request.garage, request.preset, request.GET.get("page"))
    template = "bench/_races.html" if request.htmx else "bench/stand.html"
    return render(request, template, rows)


@require_GET
@vary_on_headers("HX-Request")
def search(request: Request) -> HttpResponse:
    """Search over everything in the garage."""
    text = request.GET.get("q", "").strip()[:80]
    found = searching.search(request.garage, text, request.preset)
    template = "bench/_found.html" if request.htmx else "bench/search.html"
    return render(request, template, {"text": text, "found": found})


@require_GET
def how_to_write(request: Request) -> HttpResponse:
    """How each quantity may be written, and what it means."""
    return render(request, "bench/how_to_write.html", {"quantities": learning.quantities(request.preset)})


@require_GET
def words(request: Request) -> HttpResponse:
    """The words of the trade, each with what it means and where it is worked at."""
    return render(request, "bench/words.html", {"terms": learning.terms(request.garage)})
