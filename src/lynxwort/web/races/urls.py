from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.races.views")
staging = Views("lynxwort.web.races.staging")
urlpatterns = [
    path("races/<int:race>/stages/", views.add_stage, name="add-stage"),
    path("races/<int:race>/stages/<int:stage>/", staging.stage, name="stage"),
    path("races/<int:race>/stages/<int:stage>/change/", views.change_stage, name="change-stage"),
    path("races/<int:race>/stages/<int:stage>/paint/", staging.paint, name="paint"),
    path("races/<int:race>/stages/<int:stage>/undo/", staging.undo, name="undo"),
    path("races/<int:race>/stages/<int:stage>/pits/", staging.lay_pits, name="pits"),
    path("races/<int:race>/copy/", views.copy, name="copy"),
    path("races/<int:race>/stages/<int:stage>/<slug:where>/", staging.item, name="item"),
    path("riders/", views.riders, name="riders"),
    path("riders/<int:rider>/", views.rider, name="rider"),
]
