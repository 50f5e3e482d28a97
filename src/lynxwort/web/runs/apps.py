from django.apps import AppConfig


class RunsConfig(AppConfig):
    name = "lynxwort.web.runs"
    label = "runs"
