from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.baseline.views")
gate = Views("lynxwort.web.stations.baseline.gateviews")
service = Views("lynxwort.web.stations.baseline.serviceviews")
urlpatterns = [
    path("<int:setup>/<int:race>/baseline/readings/", views.readings_room, name="readings"),
    path("<int:setup>/<int:race>/readings/<slug:kind>/", views.add_reading, name="add-reading"),
    path("<int:setup>/<int:race>/strike/<int:reading>/", views.strike, name="strike"),
    path("<int:setup>/<int:race>/baseline/gate/", gate.gate, name="gate"),
    path("<int:setup>/<int:race>/baseline/gate/<slug:check>/", gate.check, name="gate-check"),
    path("<int:setup>/<int:race>/baseline/gate/photo/<uuid:line>/", gate.photo, name="gate-photo"),
    path("<int:setup>/<int:race>/baseline/service/", service.service, name="service"),
    path("<int:setup>/<int:race>/baseline/service/line/<uuid:line>/", service.line, name="service-line"),
    path("<int:setup>/<int:race>/baseline/service/wear/", service.wear, name="service-wear"),
    path("<int:setup>/<int:race>/baseline/service/bolts/", service.bolts, name="service-bolts"),
    path("<int:setup>/<int:race>/baseline/service/<slug:what>.csv", service.table, name="service-csv"),
    path("<int:setup>/<int:race>/baseline/service/due.ics", service.calendar, name="service-ics"),
]
