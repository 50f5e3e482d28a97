from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.purpose.views")
urlpatterns = [path("<int:setup>/<int:race>/purpose/ground/<int:stage>/", views.ground, name="ground")]
