"""The bench's own addresses. The stations' come before them (web/stations/urls.py): a station's name would match their
pages too.
"""

from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.bench.views")
urlpatterns = [
    path("put/", views.mount, name="mount"),
    path("document/", views.upload_document, name="upload"),
    path("<int:setup>/<int:race>/", views.bench, name="bench"),
    path("<int:setup>/<int:race>/pit-card.html", views.card_file, name="card-file"),
    path("<int:setup>/<int:race>/document.json", views.document, name="document"),
    path("<int:setup>/<int:race>/why/<str:figure>/", views.why, name="why"),
    path("<int:setup>/<int:race>/along/", views.along, name="along"),
    path("<int:setup>/<int:race>/<slug:station>/", views.station, name="station"),
    path("<int:setup>/<int:race>/<slug:station>/neighbours/", views.neighbours, name="neighbours"),
    path("<int:setup>/<int:race>/<slug:station>/findings/", views.findings, name="findings"),
    path("<int:setup>/<int:race>/<slug:station>/ahead/", views.ahead, name="ahead"),
    path("<int:setup>/<int:race>/<slug:station>/notch/", views.notch, name="notch"),
    path("<int:setup>/<int:race>/<slug:station>/put-back/", views.put_back, name="put-back"),
    path("<int:setup>/<int:race>/<slug:station>/keep/", views.keep, name="keep"),
]
