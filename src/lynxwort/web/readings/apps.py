from django.apps import AppConfig


class ReadingsConfig(AppConfig):
    name = "lynxwort.web.readings"
    label = "readings"
