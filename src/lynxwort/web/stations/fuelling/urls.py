from django.urls import path

from lynxwort.web.stations.fuelling import views

urlpatterns = [
    path("<int:setup>/<int:race>/jets/", views.jets_page, name="jets"),
    path("<int:setup>/<int:race>/diagnose/", views.diagnose, name="diagnose"),
    path("<int:setup>/<int:race>/map/", views.map_page, name="map"),
    path("<int:setup>/<int:race>/map/take/", views.map_take, name="map-take"),
    path("<int:setup>/<int:race>/map/trims.csv", views.map_csv, name="map-csv"),
    path("<int:setup>/<int:race>/dyno/", views.dyno_page, name="dyno"),
]
