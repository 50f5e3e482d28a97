from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.trials.views")
line = Views("lynxwort.web.stations.trials.lineviews")
days = Views("lynxwort.web.stations.trials.dayviews")
urlpatterns = [
    path("<int:setup>/<int:race>/trials/plan/", views.plan, name="trial-plan"),
    path("<int:setup>/<int:race>/trials/run/", views.run, name="trial-run"),
    path("<int:setup>/<int:race>/trials/run/<uuid:trial>/", views.send_run, name="trial-send"),
    path("<int:setup>/<int:race>/trials/line/", line.helper, name="trial-line"),
    path("<int:setup>/<int:race>/trials/line/<uuid:trial>/", line.send_tap, name="trial-tap"),
    path("<int:setup>/<int:race>/trials/clock/", line.clock, name="trial-clock"),
    path("<int:setup>/<int:race>/trials/call/", line.call, name="trial-call"),
    path("<int:setup>/<int:race>/trials/session/", views.session, name="trial-session"),
    path("<int:setup>/<int:race>/trials/friend/", views.friend, name="trial-friend"),
    path("<int:setup>/<int:race>/trials/answer/", views.answer, name="trial-answer"),
    path("<int:setup>/<int:race>/trials/laps.csv", views.laps_csv, name="trial-laps"),
    path("<int:setup>/<int:race>/trials/day/", days.day, name="trial-day"),
    path("<int:setup>/<int:race>/trials/compare/", days.compare, name="trial-compare"),
    path("<int:setup>/<int:race>/trials/decide/", views.decide, name="trial-decide"),
]
