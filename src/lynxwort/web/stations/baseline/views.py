"""A bike's own page."""

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_GET

from lynxwort.web.bikes.models import Bike
from lynxwort.web.stations.baseline.bike import bike_page
from lynxwort.web.ui.typed import Request


@require_GET
def bike(request: Request, bike: int) -> HttpResponse:
    """What a bike is, how it stands, what was kept and what was measured."""
    row = get_object_or_404(Bike, pk=bike, garage=request.garage)
    return render(request, "bench/bike.html", bike_page(row, request.preset))
