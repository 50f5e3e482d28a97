from django.db import models


class Job(models.Model):
    """A piece of work. state: waiting, running, done, failed, cancelled, interrupted; progress: 0 to 1."""

    kind = models.CharField(max_length=40)
    input_key = models.CharField(max_length=64)
    state = models.CharField(max_length=12, default="waiting")
    progress = models.FloatField(default=0.0)
    cancel = models.BooleanField(default=False)
    payload = models.JSONField(default=dict)
    result = models.JSONField(null=True, blank=True)
    error = models.CharField(max_length=300, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["kind", "input_key"], name="one_job_per_input")]

    def __str__(self) -> str:
        return f"{self.kind} {self.state}"
