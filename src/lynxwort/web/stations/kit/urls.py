from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.kit.views")
urlpatterns = [
    path("<int:setup>/<int:race>/kit/items/", views.items, name="kit-items"),
    path("<int:setup>/<int:race>/kit/items/bolt/", views.bolt, name="kit-bolt"),
    path("<int:setup>/<int:race>/kit/items/drop/", views.drop, name="kit-drop"),
    path("<int:setup>/<int:race>/kit/items.csv", views.items_csv, name="kit-items-csv"),
    path("<int:setup>/<int:race>/kit/items/csv/", views.items_from_csv, name="kit-items-from-csv"),
    path("<int:setup>/<int:race>/kit/wheels/", views.wheels, name="kit-wheels"),
    path("<int:setup>/<int:race>/kit/brakes/", views.brakes, name="kit-brakes"),
    path("<int:setup>/<int:race>/kit/controls/", views.controls, name="kit-controls"),
    path("<int:setup>/<int:race>/kit/cooling/", views.cooling, name="kit-cooling"),
    path("<int:setup>/<int:race>/kit/electrics/", views.electrics, name="kit-electrics"),
    path("<int:setup>/<int:race>/kit/sound/", views.sound, name="kit-sound"),
    path("<int:setup>/<int:race>/kit/build/", views.build, name="kit-build"),
    path("<int:setup>/<int:race>/kit/build/lists/", views.lists, name="kit-lists"),
]
