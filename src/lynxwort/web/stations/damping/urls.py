from django.urls import path

from lynxwort.web.stations.damping import views

urlpatterns = [
    path("<int:setup>/<int:race>/valving/<slug:end>/", views.valving_page, name="valving"),
    path("<int:setup>/<int:race>/damper-dyno/<slug:end>/", views.damper_dyno, name="damper-dyno"),
    path("<int:setup>/<int:race>/clicks/", views.clicks, name="clicks"),
    path("<int:setup>/<int:race>/felt/", views.felt, name="felt"),
    path("<int:setup>/<int:race>/ride/", views.ride, name="ride"),
    path("<int:setup>/<int:race>/setting-sheet/", views.sheet, name="sheet"),
]
