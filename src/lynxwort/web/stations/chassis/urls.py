from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.chassis.views")
urlpatterns = [
    path("<int:setup>/<int:race>/chassis/sag/<slug:end>/", views.clinic, name="clinic"),
    path("<int:setup>/<int:race>/chassis/feet/", views.feet, name="feet"),
    path("<int:setup>/<int:race>/chassis/springs/", views.springs_page, name="springs"),
]
