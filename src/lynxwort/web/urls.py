"""All addresses."""

from django.urls import include, path
from django.views.generic import RedirectView

from lynxwort.web.bikes import urls as of_bikes
from lynxwort.web.races import urls as of_races
from lynxwort.web.stations import urls as stations
from lynxwort.web.ui.health import health
from lynxwort.web.ui.lazily import Views

home = Views("lynxwort.web.home.views")
phone = Views("lynxwort.web.home.phone", open_to_all=("worker", "manifest"))
machine = Views("lynxwort.web.machine.views", open_to_all=("authority", "authority_file"))
baseline = Views("lynxwort.web.stations.baseline.views")
fuelling = Views("lynxwort.web.stations.fuelling.views")
purpose = Views("lynxwort.web.stations.purpose.views")
#: one name space for the bench, whoever shows a page of it
bench = [path("search/", home.search, name="search"), *stations.urlpatterns]
#: and one for bikes, and for races
bikes = [
    path("bikes/<int:bike>/facts/", baseline.facts, name="facts"),
    path("bikes/<int:bike>/changes/", baseline.usual, name="usual"),
    path("bikes/<int:bike>/dampers/", baseline.dampers, name="dampers"),
    path("bikes/<int:bike>/van-door/", fuelling.van_door, name="van-door"),
    path("revisions/<int:revision>/copy/", baseline.copy, name="copy"),
    *of_bikes.urlpatterns,
]
races = [
    path("races/new/", purpose.new_race, name="new"),
    path("races/<int:race>/", purpose.race, name="race"),
    path("races/<int:race>/bikes/", purpose.which_bike, name="bikes"),
    path("races/<int:race>/bikes/<int:setup>/", purpose.bike_judged, name="bike-judged"),
    *of_races.urlpatterns,
]
urlpatterns = [
    path("", home.stand, name="stand"),
    path("how-to-write/", home.how_to_write, name="how-to-write"),
    path("tour/", home.tour, name="tour"),
    path("words/", home.words, name="words"),
    path("words/<slug:key>/", home.word, name="word"),
    path("health", health, name="health"),
    path("sheets.js", phone.worker, name="sheet-worker"),
    path("app.webmanifest", phone.manifest, name="manifest"),
    path("bikes/<int:bike>/", baseline.bike, name="bike"),
    path("bikes/new/", baseline.kinds, name="new-bike"),
    path("bikes/new/<slug:pattern>/<slug:engine>/", baseline.first_facts, name="first-facts"),
    # three pages in 0.9 and before
    path("bikes/new/<int:page>/", RedirectView.as_view(url="/bikes/new/", permanent=True)),
    path("", include((bikes, "bikes"))),
    path("", include("lynxwort.web.garages.urls")),
    path("", include("lynxwort.web.people.urls")),
    path("", include((races, "races"))),
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
