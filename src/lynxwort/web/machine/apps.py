from typing import Any

from django.apps import AppConfig

#: tables whose rows can be put away by hand, as lines call them, and the way from a row to its garage; by the model's
#: label, so that nothing is loaded for it
PUT_AWAY = {
    "parts.OwnedPart": ("part", "garage"), "service.ServiceLine": ("service", "bike.garage"),
    "bench.Felt": ("felt", "setup.bike.garage"), "runs.LoadLine": ("load", "race.garage"),
}  # fmt: skip


def bury(sender: Any, instance: Any, origin: Any = None, **_signal: Any) -> None:
    """Remember that a row was put away, so that a copy of its garage does not bring it back."""
    put_away = PUT_AWAY.get(sender._meta.label)
    if put_away is None or getattr(origin, "model", type(origin))._meta.label == "garages.Garage":
        return
    from lynxwort.web.machine.models import Gone

    owner = instance
    for step in put_away[1].split("."):
        owner = getattr(owner, step)
    Gone.objects.get_or_create(garage=owner, uid=instance.uid, defaults={"table": put_away[0]})


class MachineConfig(AppConfig):
    name = "lynxwort.web.machine"
    label = "machine"

    def ready(self) -> None:
        from django.db.models.signals import pre_delete

        from lynxwort.web.jobs import worker
        from lynxwort.web.machine import shelf

        worker.when_idle(shelf.daily)
        pre_delete.connect(bury, dispatch_uid="what is put away")
