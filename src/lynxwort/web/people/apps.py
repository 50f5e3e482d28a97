from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "lynxwort.web.people"
    label = "people"
