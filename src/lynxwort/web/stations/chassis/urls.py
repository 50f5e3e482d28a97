from django.urls import path

from lynxwort.web.stations.chassis import views

urlpatterns = [
    path("<int:setup>/<int:race>/sag/<slug:end>/", views.clinic, name="clinic"),
    path("<int:setup>/<int:race>/springs/", views.springs_page, name="springs"),
]
