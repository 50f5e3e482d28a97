from django.apps import AppConfig


class GaragesConfig(AppConfig):
    name = "lynxwort.web.garages"
    label = "garages"

    def ready(self) -> None:
        from lynxwort.web.garages import watching

        watching.connect()
