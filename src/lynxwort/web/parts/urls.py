from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.parts.views")
app_name = "parts"
urlpatterns = [
    path("", views.box, name="box"),
    path("parts.csv", views.export, name="export"),
    path("file/", views.take_file, name="file"),
    path("<int:part>/", views.change, name="change"),
    path("<int:part>/remove/", views.remove, name="remove"),
]
