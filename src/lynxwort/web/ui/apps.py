from django.apps import AppConfig


class UiConfig(AppConfig):
    name = "lynxwort.web.ui"
    label = "ui"
