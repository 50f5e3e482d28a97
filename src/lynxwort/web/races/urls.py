from django.urls import path

from lynxwort.web.races import views

app_name = "races"
urlpatterns = [
    path("new/", views.new_race, name="new"),
    path("<int:race>/", views.race, name="race"),
    path("<int:race>/ground/<slug:action>/", views.ground, name="ground"),
    path("<int:race>/<slug:where>/", views.item, name="item"),
]
