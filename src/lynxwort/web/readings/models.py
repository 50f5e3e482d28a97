from django.db import models

from lynxwort.web.bikes.models import Bike
from lynxwort.web.garages.models import User
from lynxwort.web.ui.rows import Travelling


class Reading(Travelling):
    """One measurement on one bike. document: the core's own Reading with all it was taken under, its id and strike left
    out; legacy_id: what documents and kept reports of 0.8 and before call it; by: who took it, where an account did.
    """

    bike = models.ForeignKey(Bike, on_delete=models.CASCADE, related_name="readings")
    document = models.JSONField()
    struck_out = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)
    legacy_id = models.CharField(max_length=20, blank=True, default="", editable=False)
    by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+", editable=False)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.document.get('kind')} of {self.bike}"

    def as_document(self) -> dict:
        """The reading as it stands in the input document."""
        return self.document | {"id": str(self.uid), "struck_out": self.struck_out}
