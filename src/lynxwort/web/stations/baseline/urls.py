from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.baseline.views")
urlpatterns = [
    path("<int:setup>/<int:race>/baseline/readings/", views.readings_room, name="readings"),
    path("<int:setup>/<int:race>/readings/<slug:kind>/", views.add_reading, name="add-reading"),
    path("<int:setup>/<int:race>/strike/<int:reading>/", views.strike, name="strike"),
]
