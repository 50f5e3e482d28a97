from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.range.views")
urlpatterns = [
    path("<int:setup>/<int:race>/range/stops/", views.stops_page, name="stops"),
    path("<int:setup>/<int:race>/range/stops/take/", views.take, name="take-stops"),
    path("<int:setup>/<int:race>/range/holders/", views.holders_page, name="holders"),
    path("<int:setup>/<int:race>/range/crew/", views.crew, name="crew"),
    path("<int:setup>/<int:race>/range/crew/came/", views.came, name="came"),
    path("<int:setup>/<int:race>/range/crew/plan/", views.crew_plan, name="crew-plan"),
    path("<int:setup>/<int:race>/range/crew/turned/", views.turned, name="turned"),
    path("<int:setup>/<int:race>/range/crew/phone/", views.phone, name="phone"),
    path("<int:setup>/<int:race>/sheets.html", views.sheets_file, name="sheets-file"),
    path("<int:setup>/<int:race>/range/time-card/", views.time_card, name="time-card"),
    path("<int:setup>/<int:race>/crew.ics", views.crew_ics, name="crew-ics"),
    path("<int:setup>/<int:race>/crew.csv", views.crew_csv, name="crew-csv"),
    path("<int:setup>/<int:race>/range/pump/", views.pump, name="pump"),
]
