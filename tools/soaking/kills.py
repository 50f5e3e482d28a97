"""Killed at any moment, a thousand times: no setup that was said to be kept is lost or torn.

A process with the pages in it is forked again and again; each keeps one setup after another through the real views,
says so on a pipe when it was answered, and is killed within a fraction of a second. Afterwards the database is looked
at from outside.
"""

import json
import os
import random
import signal
import sqlite3
import sys
import tempfile
import time
from pathlib import Path

KILLS = int(os.environ.get("KILLS", "1000"))


def _child(pipe: int, turn: int) -> None:
    """Keep setups until killed."""
    from django.db import connections
    from django.test import Client

    from lynxwort.web.bikes.models import Draft
    from lynxwort.web.garages.models import User

    connections.close_all()
    client = Client()
    client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
    for n in range(1_000_000):
        draft = Draft.objects.select_related("setup__head").get()
        teeth = (
            47 if draft.setup.head.values["rear_sprocket_teeth"] != 47 else 49
        )  # other than what is kept, whatever the draft of a killed one holds
        moved = client.post(
            "/bench/1/1/drive/notch/",
            {"version": draft.version, "moves": json.dumps([["rear_sprocket_teeth", teeth]])},
            HTTP_HX_REQUEST="true",
        )
        reason = f"kill {turn} {n}"
        kept = client.post(
            "/bench/1/1/drive/keep/", {"version": Draft.objects.get().version, "reason": reason}, HTTP_HX_REQUEST="true"
        )
        if moved.status_code == kept.status_code == 200:
            os.write(pipe, (json.dumps([reason, teeth]) + "\n").encode())


def _fork_and_kill(turn: int, after_s: float) -> list[list]:
    """What one killed process had said to be kept."""
    out, into = os.pipe()
    pid = os.fork()
    if pid == 0:
        os.close(out)
        try:
            _child(into, turn)
        finally:
            os._exit(1)
    os.close(into)
    time.sleep(after_s)
    os.kill(pid, signal.SIGKILL)
    os.waitpid(pid, 0)
    with os.fdopen(out) as said:
        return [json.loads(line) for line in said if line.endswith("\n")]


def run() -> int:
    """Kill and look."""
    folder = Path(tempfile.mkdtemp(prefix="lynxwort-kills-"))
    os.environ |= {
        "LYNXWORT_DATA": str(folder),
        "LYNXWORT_DEMO": "1",
        "DJANGO_SETTINGS_MODULE": "lynxwort.web.settings",
    }
    import django

    django.setup()
    from django.conf import settings
    from django.core.management import call_command
    from django.db import connections

    settings.ALLOWED_HOSTS = ["*"]
    call_command("migrate", verbosity=0)
    call_command("load_demo", only="brackenmere", verbosity=0, bare=True)
    call_command("collectstatic", interactive=False, verbosity=0)
    from lynxwort.web.evaluation import door

    door.warm()
    _one_page()
    connections.close_all()
    rng, said, torn, first = random.Random(2027), [], 0, time.perf_counter()
    for turn in range(KILLS):
        said += _fork_and_kill(turn, rng.uniform(0.05, 0.7))
        if turn % 50 == 49:
            with sqlite3.connect(folder / "lynxwort.sqlite3") as base:
                torn += base.execute("PRAGMA quick_check").fetchone()[0] != "ok"
            print(f"{turn + 1} kills, {len(said)} kept", file=sys.stderr, flush=True)
    with sqlite3.connect(folder / "lynxwort.sqlite3") as base:
        torn += base.execute("PRAGMA integrity_check").fetchone()[0] != "ok"
        rows = {
            reason: (json.loads(document), json.loads(report))
            for reason, document, report in base.execute("SELECT reason, document, report FROM bikes_revision")
        }
        numbers = [n for (n,) in base.execute("SELECT number FROM bikes_revision ORDER BY number")]
        head, last = base.execute(
            "SELECT r.number, (SELECT MAX(number) FROM bikes_revision) FROM bikes_setup s JOIN bikes_revision r "
            "ON r.id = s.head_id"
        ).fetchone()
    lost = sum(reason not in rows or rows[reason][0]["setup"]["rear_sprocket_teeth"] != teeth for reason, teeth in said)
    gaps = numbers != list(range(1, len(numbers) + 1)) or head != last
    print(
        f"{KILLS} kills in {time.perf_counter() - first:.0f} s; {len(said)} setups said to be kept: {lost} lost "
        f"or other than said; {torn} times torn; "
        f"numbers in order: {'no' if gaps else 'yes'}"
    )
    return int(bool(lost or torn or gaps))


def _one_page() -> None:
    """Load what the first page loads, so that a fork begins with it."""
    from django.test import Client

    from lynxwort.web.garages.models import User

    client = Client()
    client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
    assert client.get("/bench/1/1/drive/").status_code == 200
