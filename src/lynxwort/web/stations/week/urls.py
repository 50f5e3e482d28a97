from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.week.views")
urlpatterns = [
    path("<int:setup>/<int:race>/card/week/", views.week, name="week"),
    path("<int:setup>/<int:race>/card/week/load/", views.load, name="week-load"),
    path("<int:setup>/<int:race>/card/week.ics", views.calendar, name="week-ics"),
]
