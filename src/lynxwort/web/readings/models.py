from django.db import models

from lynxwort.web.bikes.models import Bike


class Reading(models.Model):
    """One measurement on one bike. document: the core's own Reading with all it was taken under, its id and strike left out."""

    bike = models.ForeignKey(Bike, on_delete=models.CASCADE, related_name="readings")
    document = models.JSONField()
    struck_out = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.document.get('kind')} of {self.bike}"

    def as_document(self) -> dict:
        """The reading as it stands in the input document."""
        return self.document | {"id": str(self.pk), "struck_out": self.struck_out}
