"""All addresses under bench/: each station's rooms, then the bench's own; what was a page of its own in 0.9 and before
is led to its room.
"""

from django.http import HttpRequest, HttpResponseRedirect
from django.urls import path, re_path

from lynxwort.web.bench import urls as bench
from lynxwort.web.stations.baseline import urls as baseline
from lynxwort.web.stations.chassis import urls as chassis
from lynxwort.web.stations.damping import urls as damping
from lynxwort.web.stations.drive import urls as drive
from lynxwort.web.stations.fuelling import urls as fuelling
from lynxwort.web.stations.kit import urls as kit
from lynxwort.web.stations.proposing import urls as proposing
from lynxwort.web.stations.purpose import urls as purpose
from lynxwort.web.stations.range import urls as range_
from lynxwort.web.stations.trials import urls as trials
from lynxwort.web.stations.week import urls as week
from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.plain")

#: the station of each room that had an address without it
_OF = {
    "chassis": "sag|springs",
    "damping": "valving|damper-dyno|felt|clicks|ride|setting-sheet",
    "fuelling": "jets|diagnose|map|dyno",
    "drive": "sprockets|metres",
    "range": "stops|holders|crew|pump",
}


class _Moved(HttpResponseRedirect):
    """For good, and what was posted is posted there."""

    status_code = 308


def moved(request: HttpRequest, before: str, station: str, rest: str) -> HttpResponseRedirect:
    """To the room that this address was a page of its own for."""
    query = request.META.get("QUERY_STRING", "")
    return _Moved(f"/bench/{before}/{station}/{rest}{'?' + query if query else ''}")


urlpatterns = [
    *purpose.urlpatterns,
    *baseline.urlpatterns,
    *chassis.urlpatterns,
    *damping.urlpatterns,
    *drive.urlpatterns,
    *fuelling.urlpatterns,
    *range_.urlpatterns,
    *kit.urlpatterns,
    *trials.urlpatterns,
    *proposing.urlpatterns,
    *week.urlpatterns,
    *(
        re_path(rf"^(?P<before>\d+/\d+)/(?P<rest>(?:{rooms})/.*)$", moved, {"station": station})
        for station, rooms in _OF.items()
    ),
    path("<int:setup>/<int:race>/<slug:station>/plain/", views.plain, name="plain"),
    *bench.urlpatterns,
]
