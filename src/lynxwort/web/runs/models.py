from django.db import models
from django.utils import timezone

from lynxwort.web.bikes.models import Setup
from lynxwort.web.garages.models import User
from lynxwort.web.races.models import Race
from lynxwort.web.ui.rows import Travelling


class Trial(Travelling):
    """One change on trial. document: the core's own Trial as it was planned, its id, outcome and runs left out; values:
    the draft that was ridden against what was kept; number: of the kept revision that it was ridden against.
    """

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="trials")
    document = models.JSONField()
    values = models.JSONField(default=dict)
    number = models.PositiveIntegerField(default=0)
    outcome = models.CharField(max_length=10, default="open")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.document.get('question')} on {self.setup}"

    def as_document(self) -> dict:
        """The trial as it stands in the input document."""
        runs = [r.as_document() for r in self.runs.all()]
        day = timezone.localdate(self.created).isoformat()
        return self.document | {"id": str(self.uid), "day": day, "outcome": self.outcome, "runs": runs}


class TrialRun(Travelling):
    """One run of a trial, never changed once it is kept. document: the core's own TrialRun, its id left out."""

    trial = models.ForeignKey(Trial, on_delete=models.CASCADE, related_name="runs")
    document = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"run {self.document.get('place')} of {self.trial}"

    def as_document(self) -> dict:
        """The run as it stands in the input document."""
        return self.document | {"id": str(self.uid)}


class RiddenDay(Travelling):
    """A day as it was ridden. document: the core's own RiddenDay, its id and clicks left out; race: the one it was, as
    long as there is one.
    """

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="days")
    race = models.ForeignKey(Race, on_delete=models.SET_NULL, null=True, related_name="days")
    document = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.document.get('name')} on {self.setup}"

    def as_document(self) -> dict:
        """The day as it stands in the input document."""
        return self.document | {"id": str(self.uid), "clicks": [c.as_document() for c in self.clicks.all()]}


class ClickTurn(Travelling):
    """An adjuster turned on a day. document: the core's own ClickTurn, its id left out."""

    day = models.ForeignKey(RiddenDay, on_delete=models.CASCADE, related_name="clicks")
    document = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"click on {self.day}"

    def as_document(self) -> dict:
        """The click as it stands in the input document."""
        return self.document | {"id": str(self.uid)}


class Arrival(Travelling):
    """Somebody came by, as it was tapped or typed at a pit. key: the moment's on the crew's sheet; at: by the van's
    clock; gone: it was taken back. Of one moment the last line counts.
    """

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="arrivals")
    race = models.ForeignKey(Race, on_delete=models.CASCADE, related_name="arrivals")
    key = models.CharField(max_length=60)
    at = models.DateTimeField()
    gone = models.BooleanField(default=False)
    by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+", editable=False)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return f"{self.key} at {self.at:%H:%M}"

    @property
    def said_by(self) -> str:
        """Who said so, as long as there is an account."""
        return self.by.get_username() if self.by else ""


class LoadLine(Travelling):
    """A thing of a race's load list that somebody said something of. key: what the list knows it by, "own:" and its
    name for what somebody wrote down; state: "packed", "open", or "forgotten", which later races' lists remember.
    """

    race = models.ForeignKey(Race, on_delete=models.CASCADE, related_name="load")
    key = models.CharField(max_length=90)
    state = models.CharField(max_length=10, default="open")
    by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+", editable=False)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["race", "key"], name="one_line_a_thing")]

    def __str__(self) -> str:
        return f"{self.key}: {self.state}"

    @property
    def said_by(self) -> str:
        """Who said so, as long as there is an account."""
        return self.by.get_username() if self.by else ""
