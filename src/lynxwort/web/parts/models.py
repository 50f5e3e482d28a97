from django.db import models

from lynxwort.web.garages.models import Garage


class OwnedPart(models.Model):
    """One owned value of one tunable, in SI."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="parts")
    tunable = models.CharField(max_length=40)
    value = models.FloatField()

    class Meta:
        ordering = ["tunable", "value"]
        constraints = [models.UniqueConstraint(fields=["garage", "tunable", "value"], name="one_of_each_part")]

    def __str__(self) -> str:
        return f"{self.tunable} {self.value}"
