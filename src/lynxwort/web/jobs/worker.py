"""One worker thread. Kinds of work register here; cancel is looked at between their steps."""

import logging
import threading
import time
from collections.abc import Callable, Mapping
from importlib import import_module
from typing import Any

from django.conf import settings
from django.db import DatabaseError, close_old_connections, connection
from django.utils.translation import gettext as _

from lynxwort.web.jobs import apart, uploads
from lynxwort.web.jobs.models import Job
from lynxwort.web.ui import lazily
from lynxwort.web.ui.health import register as register_look

log = logging.getLogger(__name__)
Upstream = Callable[[dict[str, Any]], Any]
Step = Callable[[float, Any], None]
_kinds: dict[str, Callable[[dict[str, Any], Step], Any]] = {}
_wake = threading.Event()
_thread: threading.Thread | None = None
POLL_S = 0.25
#: states of a job that has not ended; who stops one waits for it so long at most, looking so often [s]
AT_WORK = ("waiting", "running")
STOP_S, LOOK_S = 0.8, 0.03
#: between two tries of a database that will not, at most [s]; and how often a job is begun anew for its sake
LONGEST_WAIT_S, MOST_TRIES = 5.0, 3
_tried: dict[int, int] = {}
_apart: set[str] = set()
_chores: list[Callable[[], None]] = []
_starting = threading.Lock()
#: when the worker last showed that it is at work; how long it may not [s]: longer than any step of it
_beaten, LONGEST_BEAT_S = 0.0, 180.0


class Cancelled(Exception):
    """The job was cancelled between two steps."""


def register(kind: str, *, apart: bool = False) -> Callable[[Upstream], Upstream]:
    """Make a function the work of a kind of job. apart: it is long, and done in a process of its own."""

    def keep(work: Upstream) -> Upstream:
        def done(payload: dict[str, Any], _step: Step) -> Any:
            return work(payload)

        done.__module__ = work.__module__  # where the process beside finds it
        _kinds[kind] = done
        if apart:
            _apart.add(kind)
        return work

    return keep


def register_stepping(kind: str) -> Callable[[Any], Any]:
    """As register, for long work in steps: it calls step(progress, result so far), which raises Cancelled when that was
    asked for.
    """

    def keep(work: Any) -> Any:
        _kinds[kind] = work
        _apart.add(kind)
        return work

    return keep


def work_of(kind: str) -> Callable[[dict[str, Any], Step], Any]:
    """What is done for a kind of job."""
    if kind not in _kinds:  # with the pages the kinds register
        import_module(settings.ROOT_URLCONF)
        lazily.load()
    return _kinds[kind]


def when_idle(chore: Callable[[], None]) -> None:
    """Call this whenever nothing waits: it looks by itself whether its time has come."""
    _chores.append(chore)


def cancel(job: Job) -> None:
    """Ask a job to stop at its next step; one that only waits is done with."""
    mine = Job.objects.filter(pk=job.pk)
    if not mine.filter(state="waiting").update(state="cancelled"):
        mine.filter(state="running").update(cancel=True)


def stop(job: Job) -> None:
    """As cancel, for who looks on: comes back once the job has stopped, or after STOP_S as it then is."""
    cancel(job)
    until = time.monotonic() + STOP_S
    while True:
        job.refresh_from_db()
        if job.state not in AT_WORK or time.monotonic() > until:
            return
        time.sleep(LOOK_S)


def _stepper(pk: int) -> Step:
    """What a stepping job calls: at most every POLL_S it stores the result so far and looks at cancel."""
    last = 0.0

    def step(progress: float, result: Any) -> None:
        nonlocal last
        _beat()
        if last and time.monotonic() - last < POLL_S and progress < 1.0:
            return
        last = time.monotonic()
        Job.objects.filter(pk=pk).update(progress=progress, result=result)
        if Job.objects.filter(pk=pk, cancel=True).exists():
            raise Cancelled

    return step


#: how a job may have ended that is asked for again
UNDONE = ("failed", "interrupted", "cancelled")


def submit(kind: str, input_key: str, payload: dict[str, Any]) -> Job:
    """Ask for work once per input; a failed or interrupted one is asked for again."""
    job, made = Job.objects.get_or_create(kind=kind, input_key=input_key, defaults={"payload": payload})
    if not made and job.state in UNDONE:
        Job.objects.filter(pk=job.pk).update(state="waiting", cancel=False, payload=payload, error="")
    _call()
    return job


def submit_all(kind: str, asked: Mapping[str, dict[str, Any]]) -> None:
    """As submit, for several at once: what is asked by the key of its input, which says all of it."""
    jobs = [Job(kind=kind, input_key=key, payload=payload) for key, payload in asked.items()]
    Job.objects.bulk_create(jobs, ignore_conflicts=True)
    again = Job.objects.filter(kind=kind, input_key__in=asked, state__in=UNDONE)
    again.update(state="waiting", cancel=False, error="")
    _call()


def _call() -> None:
    """Something waits for the worker."""
    if _thread is not None:
        start()  # should it ever have ended
    _wake.set()


def ask(kind: str, input_key: str, payload: dict[str, Any], *, again: bool) -> Job:
    """The job of this input as it stands. again: one that was cancelled is asked for anew, otherwise it stays so."""
    known = Job.objects.filter(kind=kind, input_key=input_key).first()
    if known is not None and known.state == "cancelled" and not again:
        return known
    job = submit(kind, input_key, payload)
    job.refresh_from_db()
    return job


def _beat() -> None:
    """The worker is at work."""
    global _beaten
    _beaten = time.monotonic()


def _settle(pk: int, **values: Any) -> None:
    """Write how a job ended, however long the database will not take it: nobody else will."""
    wait = POLL_S
    while True:
        _beat()
        try:
            Job.objects.filter(pk=pk).update(**values)
            return
        except DatabaseError as error:
            log.warning("job %s: %s; tried again", pk, error)
            connection.close()
            time.sleep(wait)
            wait = min(2.0 * wait, LONGEST_WAIT_S)


def _done(job: Job) -> Any:
    """What the work of a job comes to, done here or in the process beside."""
    step, work = _stepper(job.pk), work_of(job.kind)
    if not (settings.JOBS_APART and job.kind in _apart):
        return work(job.payload, step)

    def watch() -> None:
        _beat()
        if Job.objects.filter(pk=job.pk, cancel=True).exists():
            raise Cancelled

    asked = {"kind": job.kind, "payload": job.payload, "home": work.__module__}
    return apart.jobs.ask("lynxwort.web.jobs.beside:work", asked, step=step, watch=watch)


def run_next() -> bool:
    """Run the oldest waiting job; False when there is none. Raises DatabaseError when none can be looked for."""
    job = Job.objects.filter(state="waiting").first()
    if job is None or not Job.objects.filter(pk=job.pk, state="waiting").update(state="running"):
        return False
    if job.cancel:
        _settle(job.pk, state="cancelled")
        return True
    try:
        result = _done(job)
    except Cancelled:
        _settle(job.pk, state="cancelled")
    except DatabaseError as error:  # not the job's fault: once more, but not for ever
        _tried[job.pk] = _tried.get(job.pk, 0) + 1
        again = _tried[job.pk] < MOST_TRIES
        log.warning("job %s: %s", job.pk, error)
        connection.close()
        _settle(job.pk, state="waiting" if again else "failed", error="" if again else str(error)[:300])
    except apart.Ended as ended:
        log.warning("job %s: %s", job.pk, ended)
        words = _("It took more memory than it may.") if str(ended) == "memory" else _("The process that did it ended.")
        _settle(job.pk, state="failed", error=words)
    except Exception as error:  # the worker must outlive any one job; the job says what happened
        log.exception("job %s failed", job.pk)
        _settle(job.pk, state="failed", error=str(error)[:300] or _("failed"))
    else:
        _tried.pop(job.pk, None)
        _settle(job.pk, state="done", progress=1.0, result=result)
    return True


def _loop() -> None:
    """Upstream for ever: whatever the database says, it is asked again."""
    taken_up = False
    while True:
        wait = POLL_S * 20
        _beat()
        try:
            close_old_connections()
            if not taken_up:
                Job.objects.filter(state="running").update(state="interrupted")
                taken_up = True
            while run_next():
                _beat()
            apart.rest()
            uploads.tidy()
            for chore in _chores:
                chore()
        except Exception:  # a locked, full or vanished database must not end the thread: others wait for it
            log.exception("the jobs go on")
            connection.close()
            wait = LONGEST_WAIT_S
        _wake.wait(wait)
        _wake.clear()


def look() -> str:
    """What the worker says of itself: ok, stopped, or stuck when its heart has not beaten for long."""
    if _thread is None:
        return "ok"
    if not _thread.is_alive():
        return "stopped"
    return "stuck" if time.monotonic() - _beaten > LONGEST_BEAT_S else "ok"


def start() -> None:
    """Start the worker thread, once as long as it lives."""
    global _thread
    with _starting:
        if _thread is None or not _thread.is_alive():
            _beat()
            _thread = threading.Thread(target=_loop, name="jobs", daemon=True)
            _thread.start()
    register_look("jobs", look)
