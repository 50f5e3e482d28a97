"""Disk and database that will not: plain words, nothing half done, notes that no page fails for, and a worker that goes on."""

import os
import stat
import subprocess
import sys
import threading
import time
from pathlib import Path

import pytest
from django.db import DatabaseError, OperationalError, connection
from django.test import Client

from lynxwort.web.bikes import changes
from lynxwort.web.bikes.models import Draft, Revision
from lynxwort.web.evaluation import door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.machine import lock
from lynxwort.web.ui import health
from tests.demo import load

ROOT = Path(__file__).parents[2]
HX = {"HTTP_HX-Request": "true"}


def failing(error):
    def fail(*_args, **_known):
        raise error

    return fail


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ("database or disk is full", "The disk is full"),
        ("database is locked", "The database is busy"),
        ("attempt to write a readonly database", "can only be read"),
        ("database disk image is malformed", "cannot be read"),
        ("no such table: bikes_draft", "another version"),
        ("disk I/O error", "does not answer"),
    ],
)
def test_trouble_is_told_in_plain_words_and_nothing_is_half_done(
    demo, monkeypatch, django_assert_num_queries, said, words
):
    client = Client(raise_request_exception=False)
    client.cookies = demo.cookies
    before = Draft.objects.get()
    monkeypatch.setattr(changes, "_written", failing(OperationalError(said)))
    answer = client.post(
        f"{demo.base}fuelling/notch/", {"version": before.version, "moves": '[["main_jet", 168.0]]'}, **HX
    )
    assert answer.status_code == 503
    assert answer.headers["Retry-After"]
    assert words in answer.content.decode()
    assert Draft.objects.get().values == before.values
    monkeypatch.undo()
    assert (
        client.post(
            f"{demo.base}fuelling/notch/", {"version": before.version, "moves": '[["main_jet", 168.0]]'}, **HX
        ).status_code
        == 200
    )


def test_the_page_of_trouble_needs_no_database(demo, monkeypatch):
    client = Client(raise_request_exception=False)
    client.cookies = demo.cookies
    monkeypatch.setattr(
        "lynxwort.web.garages.middleware.units_of_person", failing(OperationalError("database is locked"))
    )
    monkeypatch.setattr("lynxwort.web.ui.errors.render", failing(OperationalError("database is locked")))
    answer = client.get("/")
    assert answer.status_code == 503
    assert "The database is busy" in answer.content.decode()


def test_no_page_that_only_looks_fails_because_it_cannot_note_something(demo, monkeypatch):
    Job.objects.all().delete()
    full = OperationalError("database or disk is full")
    monkeypatch.setattr(Job.objects, "get_or_create", failing(full))
    monkeypatch.setattr("lynxwort.web.bench.models.Pairing.objects.update_or_create", failing(full))
    for where in (
        "/",
        f"{demo.base}purpose/",
        f"{demo.base}fuelling/",
        f"{demo.base}range/",
        f"{demo.base}card/",
        "/parts/",
        "/riders/",
    ):
        assert demo.get(where).status_code == 200, where


def test_a_keep_that_was_committed_is_said_to_be_kept(demo, monkeypatch):
    demo.post(
        f"{demo.base}fuelling/notch/", {"version": Draft.objects.get().version, "moves": '[["main_jet", 168.0]]'}, **HX
    )
    monkeypatch.setattr(
        "lynxwort.web.bench.models.Pairing.objects.update_or_create",
        failing(OperationalError("database or disk is full")),
    )
    monkeypatch.setattr(Job.objects, "get_or_create", failing(OperationalError("database or disk is full")))
    answer = demo.post(f"{demo.base}fuelling/keep/", {"version": Draft.objects.get().version, "reason": "frost"}, **HX)
    assert answer.status_code == 200
    assert "against No. 2" in answer.content.decode()
    assert Revision.objects.get(number=2).reason == "frost"


# the worker ------------------------------------------------------------------------------------------------------------------
@pytest.mark.django_db(transaction=True)
def test_the_jobs_outlive_a_database_that_will_not(monkeypatch):
    """0.8.0: a lock of 23 s ended the thread, and every job after it waited for ever."""
    load("brackenmere")
    door._ready.set()
    runs, told = [], []
    worker.register("test-lock")(lambda payload: runs.append(payload) or {"done": 1})
    monkeypatch.setattr(worker, "LONGEST_WAIT_S", 0.05)
    monkeypatch.setattr(worker, "POLL_S", 0.01)
    right, thread = worker.run_next, threading.Event()

    def often_locked():
        told.append(1)
        if len(told) <= 3:
            raise OperationalError("database is locked")
        return right()

    class Ended(BaseException):
        """Ends the loop at the end of the test."""

    def wait(_seconds):
        if thread.is_set():
            raise Ended
        time.sleep(0.01)

    monkeypatch.setattr(worker, "run_next", often_locked)
    monkeypatch.setattr(worker._wake, "wait", wait)
    job = Job.objects.create(kind="test-lock", input_key="k")

    def loop():
        try:
            worker._loop()
        except Ended:
            pass
        finally:
            connection.close()

    running = threading.Thread(target=loop)
    running.start()
    for _ in range(400):
        job.refresh_from_db()
        if job.state == "done":
            break
        time.sleep(0.02)
    thread.set()
    running.join(10)
    assert (job.state, len(runs)) == ("done", 1)


def test_a_job_that_met_a_locked_database_is_tried_again_and_its_end_is_written(db, monkeypatch):
    met = []

    @worker.register("test-met")
    def work(_payload):
        met.append(1)
        if len(met) == 1:
            raise OperationalError("database is locked")
        return {"ok": True}

    monkeypatch.setattr(worker.connection, "close", lambda: None)
    job = worker.submit("test-met", "k", {})
    assert worker.run_next()
    job.refresh_from_db()
    assert job.state == "waiting"
    assert worker.run_next()
    job.refresh_from_db()
    assert (job.state, job.result) == ("done", {"ok": True})


def test_health_says_what_has_stopped_and_pages_do_too(demo, monkeypatch):
    assert Client().get("/health").json()["database"] == "ok"
    monkeypatch.setitem(health._looks, "jobs", lambda: "stopped")
    answer = Client().get("/health")
    assert (answer.status_code, answer.json()["jobs"]) == (503, "stopped")
    assert "has stopped" in demo.get("/").content.decode()
    dead = threading.Thread(target=lambda: None)
    dead.start()
    dead.join()
    monkeypatch.setattr(worker, "_thread", dead)
    assert worker.look() == "stopped"
    monkeypatch.setattr(worker, "_thread", threading.current_thread())
    worker._beat()
    assert worker.look() == "ok"
    monkeypatch.setattr(worker, "_beaten", time.monotonic() - worker.LONGEST_BEAT_S - 1.0)
    assert worker.look() == "stuck"


# starting --------------------------------------------------------------------------------------------------------------------
def started(folder, *command, **environment):
    clean = {k: v for k, v in os.environ.items() if not k.startswith(("LYNXWORT", "DJANGO", "PORT"))}
    known = clean | {"LYNXWORT_DATA": str(folder)} | environment
    return subprocess.run(
        [sys.executable, "manage.py", *(command or ("serve",))],
        cwd=ROOT,
        env=known,
        capture_output=True,
        text=True,
        timeout=120,
    )


def last_line(done) -> str:
    assert done.returncode != 0
    assert "Traceback" not in done.stderr
    return done.stderr.strip().splitlines()[-1]


def test_what_cannot_be_served_is_said_in_one_line(tmp_path):
    assert "PORT is a number" in last_line(started(tmp_path / "a", PORT="abc"))
    (tmp_path / "file").write_text("no folder")
    assert "cannot be used" in last_line(started(tmp_path / "file" / "b"))
    empty = tmp_path / "empty"
    assert "another version" in last_line(started(empty))
    (empty / "lynxwort.sqlite3").write_bytes(b"this is not a database at all, not even nearly" * 40)
    assert "cannot be read" in last_line(started(empty))


def test_a_database_of_a_newer_version_is_left_alone(tmp_path):
    assert started(tmp_path, "migrate", "--verbosity", "0").returncode == 0
    import sqlite3

    with sqlite3.connect(tmp_path / "lynxwort.sqlite3") as base:
        base.execute(
            "INSERT INTO django_migrations (app, name, applied) VALUES ('bikes', '0999_from_the_future', '2030-01-01')"
        )
    assert "newer Lynxwort" in last_line(started(tmp_path))


def test_the_folder_and_what_lies_in_it_are_the_owners_alone(tmp_path):
    folder = tmp_path / "own"
    folder.mkdir(mode=0o755)
    (folder / "lynxwort.sqlite3").touch(mode=0o644)
    (folder / "uploads").mkdir(mode=0o755)
    started(folder, "migrate", "--verbosity", "0")
    assert stat.S_IMODE(folder.stat().st_mode) == 0o700
    for path in folder.rglob("*"):
        assert stat.S_IMODE(path.stat().st_mode) & 0o077 == 0, path


def test_one_folder_is_served_once(settings, tmp_path):
    settings.DATA_DIR = tmp_path
    with lock.alone():
        with pytest.raises(lock.Served), lock.alone():
            pass
        with pytest.raises(SystemExit, match="already"), lock.serving():
            pass
    with lock.alone():
        pass


def test_a_note_waits_shortly_and_leaves_the_usual_patience_behind(db):
    from lynxwort.web.ui.trouble import noting

    with noting("a test"):
        assert connection.connection.execute("PRAGMA busy_timeout").fetchone()[0] == 300
        raise DatabaseError("not now")
    assert connection.connection.execute("PRAGMA busy_timeout").fetchone()[0] == 20_000
