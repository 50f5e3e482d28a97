from django.urls import path

from lynxwort.web.parts import views

app_name = "parts"
urlpatterns = [
    path("", views.box, name="box"),
    path("<int:part>/remove/", views.remove, name="remove"),
]
