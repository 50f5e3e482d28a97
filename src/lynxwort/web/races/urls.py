from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.races.views")
urlpatterns = [
    path("races/<int:race>/", views.race, name="race"),
    path("races/<int:race>/stages/", views.add_stage, name="add-stage"),
    path("races/<int:race>/stages/<int:stage>/", views.stage, name="stage"),
    path("races/<int:race>/stages/<int:stage>/change/", views.change_stage, name="change-stage"),
    path("races/<int:race>/stages/<int:stage>/paint/", views.paint, name="paint"),
    path("races/<int:race>/stages/<int:stage>/undo/", views.undo, name="undo"),
    path("races/<int:race>/stages/<int:stage>/<slug:where>/", views.item, name="item"),
    path("riders/", views.riders, name="riders"),
    path("riders/<int:rider>/", views.rider, name="rider"),
]
