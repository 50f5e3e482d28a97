from django.db import models

from lynxwort.web.garages.models import Garage
from lynxwort.web.ui.rows import Travelling


class CourseBlob(models.Model):
    """Points of a course: compressed arrays keyed by content, shared and never changed."""

    key = models.CharField(max_length=40, primary_key=True)
    data = models.BinaryField()

    def __str__(self) -> str:
        return self.key


class Course(Travelling):
    """A course that a garage has loaded."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="courses")
    name = models.CharField(max_length=120)
    blob = models.ForeignKey(CourseBlob, on_delete=models.PROTECT)
    length_m = models.FloatField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Rider(Travelling):
    """A rider of a garage. document: the core's own Rider."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="riders")
    name = models.CharField(max_length=60)
    document = models.JSONField()

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Race(Travelling):
    """A race. rider: who rides it first; others: more riders who share the bike; document: the core's own Race; course:
    of its first stage; version: raised by every change; past: earlier stages, newest last, for taking changes back.
    """

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="races")
    name = models.CharField(max_length=80)
    course = models.ForeignKey(Course, on_delete=models.PROTECT, related_name="races")
    rider = models.ForeignKey(Rider, on_delete=models.PROTECT, related_name="races")
    others = models.ManyToManyField(Rider, related_name="shared", blank=True)
    document = models.JSONField()
    start = models.DateTimeField()
    version = models.PositiveIntegerField(default=1)
    past = models.JSONField(default=list, blank=True)

    class Meta:
        ordering = ["start", "id"]

    def __str__(self) -> str:
        return self.name
