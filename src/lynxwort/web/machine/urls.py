from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.machine.views")
app_name = "machine"
urlpatterns = [
    path("", views.backups, name="backups"),
    path("make/", views.make, name="make"),
    path("take/<str:name>/", views.take, name="take"),
    path("put-back/", views.put_back, name="put-back"),
    path("leave/", views.leave, name="leave"),
    path("garage.jsonl", views.garage_out, name="garage-out"),
    path("garage/", views.garage_in, name="garage-in"),
    path("garage/merge/", views.merge, name="merge"),
    path("garage/leave/", views.merge_leave, name="merge-leave"),
]
