from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.bikes.views")
urlpatterns = [
    path("setups/<int:setup>/history/", views.history, name="history"),
    path("setups/<int:setup>/compare/", views.compare, name="compare"),
    path("revisions/<int:revision>/name/", views.name_revision, name="name"),
    path("revisions/<int:revision>/branch/", views.branch, name="branch"),
    path("revisions/<int:revision>/return/", views.return_to, name="return"),
]
