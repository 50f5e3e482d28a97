from django.urls import path

from lynxwort.web.ui.lazily import Views

views = Views("lynxwort.web.stations.proposing.views")
urlpatterns = [
    path("<int:setup>/<int:race>/card/plan/", views.plan, name="plan"),
    path("<int:setup>/<int:race>/card/plan/take/", views.take, name="take-plan"),
    path("<int:setup>/<int:race>/card/plan/week/", views.to_week, name="plan-week"),
    path("<int:setup>/<int:race>/card/plan/sure/", views.sure, name="plan-sure"),
    path("<int:setup>/<int:race>/card/season/", views.season, name="season"),
    path("<int:setup>/<int:race>/card/season/buy/", views.to_buy, name="season-buy"),
]
