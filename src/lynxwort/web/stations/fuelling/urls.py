from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.fuelling.views")
urlpatterns = [
    path("<int:setup>/<int:race>/fuelling/jets/", views.jets_page, name="jets"),
    path("<int:setup>/<int:race>/fuelling/diagnose/", views.diagnose, name="diagnose"),
    path("<int:setup>/<int:race>/fuelling/map/", views.map_page, name="map"),
    path("<int:setup>/<int:race>/fuelling/map/take/", views.map_take, name="map-take"),
    path("<int:setup>/<int:race>/fuelling/map/trims.csv", views.map_csv, name="map-csv"),
    path("<int:setup>/<int:race>/fuelling/dyno/", views.dyno_page, name="dyno"),
]
