from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.damping.views")
urlpatterns = [
    path("<int:setup>/<int:race>/damping/valving/<slug:end>/", views.valving_page, name="valving"),
    path("<int:setup>/<int:race>/damping/damper-dyno/<slug:end>/", views.damper_dyno, name="damper-dyno"),
    path("<int:setup>/<int:race>/damping/clicks/", views.clicks, name="clicks"),
    path("<int:setup>/<int:race>/damping/felt/", views.felt, name="felt"),
    path("<int:setup>/<int:race>/damping/ride.json", views.ride, name="ride"),
    path("<int:setup>/<int:race>/damping/ride/", views.ride_moved),
    path("<int:setup>/<int:race>/damping/setting-sheet/", views.sheet, name="sheet"),
]
