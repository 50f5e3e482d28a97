from django.db import models

from lynxwort.web.bikes.models import Bike
from lynxwort.web.ui.rows import Travelling


class ServiceLine(Travelling):
    """A line of a bike's log. kind: "about" (one of a bike), "ride", "check", "part", "wear" or "bolt"; document: the
    core's own part of that kind, its id and its place in the log left out. Later lines have higher keys.
    """

    bike = models.ForeignKey(Bike, on_delete=models.CASCADE, related_name="service")
    kind = models.CharField(max_length=8)
    document = models.JSONField()
    struck_out = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.kind} of {self.bike}"

    def as_document(self) -> dict:
        """The line as it stands in the input document."""
        return self.document | {"id": str(self.uid), "seq": self.pk}


class Photo(models.Model):
    """A picture of what was found, made anew when it came in: nothing of where or by whom it was taken is in it."""

    line = models.OneToOneField(ServiceLine, on_delete=models.CASCADE, related_name="photo")
    data = models.BinaryField()

    def __str__(self) -> str:
        return f"photo of {self.line}"
