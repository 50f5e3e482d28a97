from django.db import models

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race


class Pairing(models.Model):
    """Which bike a race is ridden with, and how it stood when it was last judged.

    standing: {"verdicts", "findings": the first of each station, "figures": what they speak of}; key: what it was judged from.
    """

    race = models.OneToOneField(Race, on_delete=models.CASCADE, related_name="pairing")
    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="pairings")
    standing = models.JSONField(null=True, blank=True)
    key = models.CharField(max_length=64, blank=True)

    def __str__(self) -> str:
        return f"{self.setup} for {self.race}"
