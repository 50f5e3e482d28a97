from django.apps import AppConfig


class RacesConfig(AppConfig):
    name = "lynxwort.web.races"
    label = "races"
