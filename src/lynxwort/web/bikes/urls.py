from django.urls import path

from lynxwort.web.bikes import views

app_name = "bikes"
urlpatterns = [
    path("bikes/new/<int:page>/", views.new_bike, name="new"),
    path("bikes/<int:bike>/facts/", views.facts, name="facts"),
    path("setups/<int:setup>/history/", views.history, name="history"),
    path("revisions/<int:revision>/return/", views.return_to, name="return"),
]
