"""All addresses."""

from django.urls import include, path

from lynxwort.web.home import views as home
from lynxwort.web.machine.views import authority, authority_file
from lynxwort.web.stations import urls as stations
from lynxwort.web.stations.baseline.views import bike as bike_page
from lynxwort.web.ui.health import health

#: one name space for the bench, whoever shows a page of it
bench = [path("search/", home.search, name="search"), *stations.urlpatterns]
urlpatterns = [
    path("", home.stand, name="stand"),
    path("health", health, name="health"),
    path("bikes/<int:bike>/", bike_page, name="bike"),
    path("", include("lynxwort.web.bikes.urls")),
    path("", include("lynxwort.web.garages.urls")),
    path("", include("lynxwort.web.races.urls")),
    path("authority/", authority, name="authority"),
    path("authority/lynxwort-authority.crt", authority_file, name="authority-file"),
    path("back-ups/", include("lynxwort.web.machine.urls")),
    path("parts/", include("lynxwort.web.parts.urls")),
    path("bench/", include((bench, "bench"))),
]
handler400 = "lynxwort.web.ui.errors.bad_request"
handler403 = "lynxwort.web.ui.errors.forbidden"
handler404 = "lynxwort.web.ui.errors.not_found"
handler500 = "lynxwort.web.ui.errors.server_error"
