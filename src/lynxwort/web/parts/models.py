from django.db import models
from django.utils.translation import gettext_lazy as _

from lynxwort.web.garages.models import Garage
from lynxwort.web.ui.rows import Travelling


class OwnedPart(Travelling):
    """A part in the box, or several alike. value: SI, of kinds with one number; details: needle, wheel or shim as the
    core takes it. One in a shop does not lie in the box: it may be bought.
    """

    class Condition(models.TextChoices):
        NEW = "new", _("new")
        GOOD = "good", _("good")
        WORN = "worn", _("worn")
        SPENT = "spent", _("spent, do not fit")
        SHOP = "shop", _("to buy")

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="parts")
    kind = models.CharField(max_length=40)
    value = models.FloatField(null=True, blank=True)
    details = models.JSONField(default=dict, blank=True)
    label = models.CharField(max_length=60, blank=True)
    count = models.PositiveIntegerField(default=1)
    condition = models.CharField(max_length=5, choices=Condition.choices, default=Condition.GOOD)
    place = models.CharField(max_length=60, blank=True)
    cost = models.FloatField(null=True, blank=True)
    work_s = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["kind", "value", "label", "id"]

    def __str__(self) -> str:
        return f"{self.kind} {self.value or self.label}"

    def as_document(self) -> dict:
        """The part as the core takes it."""
        numbers = {"value": self.value, "cost": self.cost, "work_s": self.work_s}
        return (
            {
                "kind": self.kind,
                "label": self.label,
                "count": self.count,
                "condition": self.condition,
                "place": self.place,
            }
            | {name: number for name, number in numbers.items() if number is not None}
            | self.details
        )
