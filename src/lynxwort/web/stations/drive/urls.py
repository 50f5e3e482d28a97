from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.drive.views")
urlpatterns = [
    path("courses/<int:course>/", views.course, name="course"),
    path("courses/<int:course>/course.gpx", views.course_gpx, name="course-gpx"),
    path("courses/<int:course>/course.geojson", views.course_geojson, name="course-geojson"),
    path("<int:setup>/<int:race>/drive/metres/", views.metres, name="metres"),
    path("<int:setup>/<int:race>/stand-in-lap/", views.stand_in_lap, name="stand-in-lap"),
    path("<int:setup>/<int:race>/drive/chain/", views.chain, name="chain"),
    path("<int:setup>/<int:race>/drive/sprockets/", views.sprocket_table, name="sprockets"),
    path("<int:setup>/<int:race>/drive/sprockets/take/", views.take_pair, name="take-pair"),
]
