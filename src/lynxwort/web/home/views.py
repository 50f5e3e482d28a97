"""The stand, the search, and what there is to look up."""

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST
from django.views.decorators.vary import vary_on_headers

from lynxwort.web.garages import touring
from lynxwort.web.home import learning, searching, stands
from lynxwort.web.ui.typed import Request, whole_number


@require_GET
def stand(request: Request) -> HttpResponse:
    """Home: what is on the stand, the races to come with what is unsettled for each, and the next thing to do."""
    if request.htmx:
        return render(request, "bench/_races.html", stands.stand_rows(request.garage, request.preset, None))
    return render(request, "bench/stand.html", {"stand": stands.page_of(request)})


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


@require_GET
@vary_on_headers("HX-Request")
def word(request: Request, key: str) -> HttpResponse:
    """One word of the trade for its dialog; without a script, its place among all of them."""
    term = next((t for t in learning.terms(request.garage) if t["key"] == key), None)
    if term is None:
        raise Http404
    if not request.htmx:
        return redirect(f"{reverse('words')}#{key}")
    return render(request, "bench/_word.html", {"term": term})


@require_POST
def tour(request: Request) -> HttpResponse:
    """Go to one of the five first steps, on the bench that was open last where something is stepped, or leave them."""
    step = whole_number(request.POST.get("step")) or touring.LEFT
    touring.show(request, step)
    if request.htmx:
        return render(request, "bench/_tour.html", {"tour": touring.step_page(step)})
    there = learning.bench_of(request.garage) if touring.step_page(step) else ""
    return redirect(f"{there}chassis/" if there else "stand")
