from django.apps import AppConfig


class BikesConfig(AppConfig):
    name = "lynxwort.web.bikes"
    label = "bikes"
