from django.apps import AppConfig


class GaragesConfig(AppConfig):
    name = "lynxwort.web.garages"
    label = "garages"
