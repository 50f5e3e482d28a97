from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "lynxwort.web.jobs"
    label = "jobs"
