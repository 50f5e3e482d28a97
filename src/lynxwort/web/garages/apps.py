from django.apps import AppConfig
from django.db.models.signals import post_migrate


class GaragesConfig(AppConfig):
    name = "lynxwort.web.garages"
    label = "garages"

    def ready(self) -> None:
        from lynxwort.web.garages import counter, watching

        watching.connect()
        post_migrate.connect(counter.arm, sender=self)
