from django.urls import path

from lynxwort.web.stations.purpose import views

urlpatterns = [path("<int:setup>/<int:race>/purpose/ground/<int:stage>/", views.ground, name="ground")]
