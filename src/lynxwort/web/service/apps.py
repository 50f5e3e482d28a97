from django.apps import AppConfig


class ServiceConfig(AppConfig):
    name = "lynxwort.web.service"
    label = "service"
