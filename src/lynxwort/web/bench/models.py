from django.db import models

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from lynxwort.web.ui.rows import Travelling


class Felt(Travelling):
    """What was felt on a ride: a complaint of core.asks.complaints, at which end, on which piece and where, hot or
    cold, in the rider's own words.
    """

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="felt")
    race = models.ForeignKey(Race, on_delete=models.CASCADE, related_name="felt")
    what = models.CharField(max_length=20)
    end = models.CharField(max_length=5)
    when = models.CharField(max_length=4, blank=True)
    piece = models.CharField(max_length=10, blank=True)
    at_m = models.FloatField(null=True, blank=True)
    words = models.CharField(max_length=300, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.what} {self.end}"


class Pairing(Travelling):
    """Which bike a race is ridden with, and how it stood when it was last judged.

    standing: {"verdicts", "findings": the first of each station, "figures": what they speak of}; key: what it was
    judged from.
    """

    race = models.OneToOneField(Race, on_delete=models.CASCADE, related_name="pairing")
    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="pairings")
    standing = models.JSONField(null=True, blank=True)
    key = models.CharField(max_length=64, blank=True)

    def __str__(self) -> str:
        return f"{self.setup} for {self.race}"
