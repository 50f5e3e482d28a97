from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.people.views", open_to_all=("join",))
app_name = "people"
urlpatterns = [
    path("people/", views.people, name="people"),
    path("people/invite/", views.invite, name="invite"),
    path("people/invite/<int:invitation>/end/", views.end, name="end"),
    path("people/<int:member>/role/", views.role, name="role"),
    path("people/put-away/", views.put_away, name="put-away"),
    path("people/leave/", views.leave, name="leave"),
    path("people/choose/", views.choose, name="choose"),
    path("people/nowhere/", views.nowhere, name="nowhere"),
    path("join/<slug:token>", views.join, name="join"),
]
