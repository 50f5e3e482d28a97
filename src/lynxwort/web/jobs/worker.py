"""One worker thread. Kinds of work register here; cancel is looked at between their steps."""

import logging
import threading
from collections.abc import Callable
from typing import Any

from django.db import close_old_connections
from django.utils.translation import gettext as _

from lynxwort.web.jobs.models import Job

log = logging.getLogger(__name__)
Work = Callable[[dict[str, Any]], Any]
_kinds: dict[str, Work] = {}
_wake = threading.Event()
_thread: threading.Thread | None = None
POLL_S = 0.25


def register(kind: str) -> Callable[[Work], Work]:
    """Make a function the work of a kind of job."""

    def keep(work: Work) -> Work:
        _kinds[kind] = work
        return work

    return keep


def submit(kind: str, input_key: str, payload: dict[str, Any]) -> Job:
    """Ask for work once per input; a failed or interrupted one is asked for again."""
    job, made = Job.objects.get_or_create(kind=kind, input_key=input_key, defaults={"payload": payload})
    if not made and job.state in ("failed", "interrupted", "cancelled"):
        Job.objects.filter(pk=job.pk).update(state="waiting", cancel=False, payload=payload, error="")
    _wake.set()
    return job


def run_next() -> bool:
    """Run the oldest waiting job; False when there is none."""
    job = Job.objects.filter(state="waiting").first()
    if job is None or not Job.objects.filter(pk=job.pk, state="waiting").update(state="running"):
        return False
    if job.cancel:
        Job.objects.filter(pk=job.pk).update(state="cancelled")
        return True
    try:
        result = _kinds[job.kind](job.payload)
        Job.objects.filter(pk=job.pk).update(state="done", progress=1.0, result=result)
    except Exception as error:  # the worker must outlive any one job; the job says what happened
        log.exception("job %s failed", job.pk)
        Job.objects.filter(pk=job.pk).update(state="failed", error=str(error)[:300] or _("failed"))
    return True


def _loop() -> None:
    Job.objects.filter(state="running").update(state="interrupted")
    while True:
        close_old_connections()
        while run_next():
            pass
        _wake.wait(POLL_S * 20)
        _wake.clear()


def start() -> None:
    """Start the worker thread once."""
    global _thread
    if _thread is None:
        _thread = threading.Thread(target=_loop, name="jobs", daemon=True)
        _thread.start()
