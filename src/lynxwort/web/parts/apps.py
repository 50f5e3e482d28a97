from django.apps import AppConfig


class PartsConfig(AppConfig):
    name = "lynxwort.web.parts"
    label = "parts"
