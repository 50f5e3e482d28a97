from django.urls import path

from lynxwort.web.stations.baseline import views

urlpatterns = [
    path("<int:setup>/<int:race>/baseline/readings/", views.readings_room, name="readings"),
    path("<int:setup>/<int:race>/readings/<slug:kind>/", views.add_reading, name="add-reading"),
    path("<int:setup>/<int:race>/strike/<int:reading>/", views.strike, name="strike"),
]
