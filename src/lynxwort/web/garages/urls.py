from django.urls import path

from lynxwort.web.garages import views

app_name = "garages"
urlpatterns = [
    path("in/", views.SignIn.as_view(), name="sign-in"),
    path("out/", views.SignOut.as_view(), name="sign-out"),
    path("first-account/", views.first_account, name="first-account"),
    path("demo/", views.enter_demo, name="enter-demo"),
    path("settings/", views.settings_page, name="settings"),
    path("password/", views.change_password, name="password"),
    path("out/everywhere/", views.sign_out_everywhere, name="sign-out-everywhere"),
    path("units/", views.set_units, name="units"),
]
