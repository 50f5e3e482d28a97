from django.db import models

from lynxwort.web.garages.models import Garage


class Gone(models.Model):
    """A row that was put away: another copy of the garage does not bring it back. table: as lines call it."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="+")
    table = models.CharField(max_length=20)
    uid = models.UUIDField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["garage", "uid"], name="gone_once")]

    def __str__(self) -> str:
        return f"{self.table} {self.uid}"


class Taken(models.Model):
    """How the rows of another copy stood when it was merged last. origin: uid of its garage; marks: uid -> mark, JSON,
    compressed: where a row still has it, nobody has changed it since.
    """

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="+")
    origin = models.UUIDField()
    marks = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["garage", "origin"], name="taken_last")]

    def __str__(self) -> str:
        return f"{self.origin} in {self.garage}"
