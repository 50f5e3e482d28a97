"""All addresses."""

from django.urls import include, path

from lynxwort.web.stations import urls as stations
from lynxwort.web.ui.health import health
from lynxwort.web.ui.lazily import Views

home = Views("lynxwort.web.home.views")
machine = Views("lynxwort.web.machine.views", open_to_all=("authority", "authority_file"))
baseline = Views("lynxwort.web.stations.baseline.views")
#: one name space for the bench, whoever shows a page of it
bench = [path("search/", home.search, name="search"), *stations.urlpatterns]
urlpatterns = [
    path("", home.stand, name="stand"),
    path("health", health, name="health"),
    path("bikes/<int:bike>/", baseline.bike, name="bike"),
    path("", include("lynxwort.web.bikes.urls")),
    path("", include("lynxwort.web.garages.urls")),
    path("", include("lynxwort.web.races.urls")),
    path("authority/", machine.authority, name="authority"),
    path("authority/lynxwort-authority.crt", machine.authority_file, name="authority-file"),
    path("back-ups/", include("lynxwort.web.machine.urls")),
    path("parts/", include("lynxwort.web.parts.urls")),
    path("bench/", include((bench, "bench"))),
]
handler400 = "lynxwort.web.ui.errors.bad_request"
handler403 = "lynxwort.web.ui.errors.forbidden"
handler404 = "lynxwort.web.ui.errors.not_found"
handler500 = "lynxwort.web.ui.errors.server_error"
