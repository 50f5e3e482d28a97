"""All addresses."""

from django.urls import include, path

from lynxwort.web.bench.views import stand
from lynxwort.web.machine.views import authority, authority_file
from lynxwort.web.ui.health import health

urlpatterns = [
    path("", stand, name="stand"),
    path("health", health, name="health"),
    path("", include("lynxwort.web.bikes.urls")),
    path("", include("lynxwort.web.garages.urls")),
    path("", include("lynxwort.web.races.urls")),
    path("authority/", authority, name="authority"),
    path("authority/lynxwort-authority.crt", authority_file, name="authority-file"),
    path("back-ups/", include("lynxwort.web.machine.urls")),
    path("parts/", include("lynxwort.web.parts.urls")),
    path("bench/", include("lynxwort.web.stations.urls")),
]
handler400 = "lynxwort.web.ui.errors.bad_request"
handler403 = "lynxwort.web.ui.errors.forbidden"
handler404 = "lynxwort.web.ui.errors.not_found"
handler500 = "lynxwort.web.ui.errors.server_error"
