from django.apps import AppConfig


class BenchConfig(AppConfig):
    name = "lynxwort.web.bench"
    label = "bench"
