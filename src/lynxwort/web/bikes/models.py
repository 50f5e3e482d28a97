from django.db import models
from django.utils.translation import gettext as _

from lynxwort.web.garages.models import Garage
from lynxwort.web.ui.rows import Travelling
from lynxwort.words import N_


class Bike(Travelling):
    """One bike. document: the core's own Bike, validated at the door."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="bikes")
    name = models.CharField(max_length=60)
    document = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Setup(Travelling):
    """The line of kept revisions of one bike, with one draft on top. name: of a branch, empty for the bike's first
    line. mark: of the counter, when it was read together with all that a bench reads.
    """

    mark: str | None = None
    bike = models.ForeignKey(Bike, on_delete=models.CASCADE, related_name="setups")
    name = models.CharField(max_length=60, blank=True)
    head = models.ForeignKey("Revision", null=True, blank=True, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["bike__name", "id"]

    def __str__(self) -> str:
        return self.title

    @property
    def title(self) -> str:
        """The bike, and the branch when it has a name."""
        return f"{self.bike.name}, {self.name}" if self.name else self.bike.name


#: the reason of a bike's first kept setup, which nobody was asked for
AS_ENTERED = N_("as entered")


class Revision(Travelling):
    """A kept setup: frozen input document (course by key), report, core version, parent, reason. Only its name may
    change.
    """

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=60, blank=True)
    parent = models.ForeignKey("self", null=True, blank=True, on_delete=models.PROTECT, related_name="children")
    reason = models.CharField(max_length=200, blank=True)
    document = models.JSONField()
    report = models.JSONField()
    core_version = models.CharField(max_length=20)
    input_key = models.CharField(max_length=64)
    race_name = models.CharField(max_length=80)
    author = models.CharField(max_length=150, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["setup", "number"], name="one_number")]

    def __str__(self) -> str:
        return f"{_('No. %(n)s') % {'n': self.number}} {self.name}".strip()

    @property
    def because(self) -> str:
        """Why it was kept: in the person's words, or as the bench said itself."""
        return _(AS_ENTERED) if self.reason == AS_ENTERED else self.reason

    @property
    def values(self) -> dict:
        """The setup's values as kept."""
        return self.document["setup"]


class Draft(Travelling):
    """What is being tried. version: raised by every change; past: earlier values, newest last, for taking changes
    back.
    """

    setup = models.OneToOneField(Setup, on_delete=models.CASCADE, related_name="draft")
    version = models.PositiveIntegerField(default=1)
    values = models.JSONField()
    past = models.JSONField(default=list)
    parent = models.ForeignKey(Revision, null=True, blank=True, on_delete=models.SET_NULL, related_name="+")
    updated = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"draft of {self.setup}, version {self.version}"


class Sensitivity(models.Model):
    """Stored sensitivities of figures that rest on the ride, by the hash of the inputs they were computed for."""

    input_key = models.CharField(max_length=64, unique=True)
    values = models.JSONField()

    def __str__(self) -> str:
        return self.input_key
