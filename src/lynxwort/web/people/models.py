from datetime import datetime

from django.db import models

from lynxwort.web.garages.models import Garage, Membership, User


class Invitation(models.Model):
    """A way into a garage. digest: SHA-256 of the token, which is kept nowhere; role: never owner; single: one person
    alone comes in by it; until: then it ends by itself; ended: when the owner ended it; joined: how many came in.
    """

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="invitations")
    digest = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=10, choices=[c for c in Membership.Role.choices if c[0] != "owner"])
    single = models.BooleanField(default=True)
    label = models.CharField(max_length=60, blank=True, default="")
    made = models.DateTimeField(auto_now_add=True)
    made_by = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    until = models.DateTimeField()
    ended = models.DateTimeField(null=True)
    joined = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ["-id"]
        constraints = [models.CheckConstraint(condition=~models.Q(role="owner"), name="nobody_joins_as_owner")]

    def __str__(self) -> str:
        return f"{self.role} into {self.garage}"

    def is_open(self, now: datetime) -> bool:
        """Whether somebody could still come in by it."""
        return self.ended is None and now < self.until and not (self.single and self.joined)


class Deed(models.Model):
    """What somebody did in a garage: the same thing at the same place within a while is one deed. name: what the person
    was called then; what: the address that took it, by its name; about: which bike, race or person, in words.
    """

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="deeds")
    user = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=150)
    role = models.CharField(max_length=10, choices=Membership.Role.choices)
    what = models.CharField(max_length=60)
    about = models.CharField(max_length=150, blank=True, default="")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.name}: {self.what}"
