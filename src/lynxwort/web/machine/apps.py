from django.apps import AppConfig


class MachineConfig(AppConfig):
    name = "lynxwort.web.machine"
    label = "machine"

    def ready(self) -> None:
        from lynxwort.web.jobs import worker
        from lynxwort.web.machine import shelf

        worker.when_idle(shelf.daily)
