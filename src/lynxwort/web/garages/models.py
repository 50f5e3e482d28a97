from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils.crypto import salted_hmac
from django.utils.translation import gettext_lazy as _

from lynxwort.web.ui.rows import Travelling
from lynxwort.words import LANGUAGES


class User(AbstractUser):
    """A person. units: the preset in which everything is shown; unit_choices: quantity -> unit, on top of it; theme:
    day, night or the device's; language: a code, empty for the browser's; comforts: what makes pages easier in a van,
    names of Comfort; tour: which of the five first steps is shown, 0 = not offered yet, 6 = left; session_round: raised
    to end every session there is; guest: came in by a code, and has no garage but those that let them in.
    """

    class Units(models.TextChoices):
        METRIC = "metric", _("km, L, kg")
        US = "us", _("mi, gal, lb")

    class Theme(models.TextChoices):
        AUTO = "auto", _("as the device")
        DAY = "day", _("day")
        NIGHT = "night", _("night")

    class Comfort(models.TextChoices):
        LARGE = "large", _("large type")
        GLOVES = "gloves", _("gloves: everything pressed is 56 px or more")
        SUN = "sun", _("sun: black on white, highest contrast")
        LEFT = "left", _("left hand: what is pressed stands on the left")
        STILL = "still", _("nothing moves")

    units = models.CharField(max_length=10, choices=Units.choices, default=Units.METRIC)
    unit_choices = models.JSONField(default=dict, blank=True)
    theme = models.CharField(max_length=5, choices=Theme.choices, default=Theme.AUTO)
    language = models.CharField(max_length=5, choices=list(LANGUAGES.items()), blank=True, default="")
    comforts = models.JSONField(default=list, blank=True)
    tour = models.PositiveSmallIntegerField(default=0)
    session_round = models.PositiveIntegerField(default=0)
    guest = models.BooleanField(default=False)

    def _get_session_auth_hash(self, secret: str | None = None) -> str:
        """As Django's, with the round: another round, and no session holds."""
        plain = super()._get_session_auth_hash(secret=secret)  # type: ignore[misc]
        if not self.session_round:
            return plain
        return salted_hmac(
            "lynxwort.session", f"{plain}{self.session_round}", secret=secret, algorithm="sha256"
        ).hexdigest()


class Garage(Travelling):
    """What belongs together. Nothing of one garage is reachable from another."""

    name = models.CharField(max_length=80)
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """Who may enter a garage, and as what: see roles.py for what each may do there."""

    class Role(models.TextChoices):
        OWNER = "owner", _("owner")
        MECHANIC = "mechanic", _("mechanic")
        RIDER = "rider", _("rider")
        CREW = "crew", _("crew")

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="memberships")
    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.OWNER)
    #: whether the person is let in elsewhere too; told where it was looked up, not stored
    of_several = False

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "garage"], name="one_membership")]

    def __str__(self) -> str:
        return f"{self.user} in {self.garage}"
