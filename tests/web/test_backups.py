"""Back-ups: whole under constant writes, put back or nothing, and one garage there and back as lines."""

import fcntl
import io
import json
import os
import re
import shutil
import sqlite3
import subprocess
import sys
import threading
import time
import zipfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import Client
from django.urls import reverse

from lynxwort.core.errors import InputRefused
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.evaluation import door
from lynxwort.web.garages.models import Garage, User
from lynxwort.web.garages.services import add_user
from lynxwort.web.machine import archive, garage_lines, lock, merging, restoring, shelf
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Race
from lynxwort.web.readings.models import Reading
from tests.demo import load
from tests.logged import a_part
from tests.served import environment_of, prepare

ROOT = Path(__file__).parents[2]
BACKEND = "django.contrib.auth.backends.ModelBackend"


def python(folder: Path, *command: str, **more: str) -> subprocess.CompletedProcess:
    clean = {k: v for k, v in os.environ.items() if not k.startswith(("LYNXWORT", "DJANGO", "PORT"))}
    return subprocess.run(
        [sys.executable, "manage.py", *command],
        cwd=ROOT,
        env=clean | {"LYNXWORT_DATA": str(folder)} | more,
        capture_output=True,
        text=True,
        timeout=120,
    )


@pytest.fixture(scope="module")
def installed(tmp_path_factory):
    """An installation with the demo in it, as a database file beside nothing else."""
    folder = tmp_path_factory.mktemp("installed")
    prepare(environment_of(folder), "--only", "brackenmere")
    shutil.rmtree(folder / "static")
    with sqlite3.connect(folder / "lynxwort.sqlite3") as base:
        base.execute("INSERT INTO django_session VALUES ('a-session-that-must-not-travel', 'signed', '2030-01-01')")
    return folder


@pytest.fixture
def own(installed, tmp_path):
    """A copy of it for one test, made while nobody writes."""
    folder = tmp_path / "own"
    shutil.copytree(installed, folder)
    return folder


def rows(database: Path, query: str) -> list:
    with sqlite3.connect(database) as base:
        return base.execute(query).fetchall()


# a back-up ------------------------------------------------------------------------------------------------------------------
def test_a_back_up_holds_everything_but_key_and_sessions_and_is_its_owners(own):
    target = own / "away.zip"
    contents = archive.write(own / "lynxwort.sqlite3", target)
    assert target.stat().st_mode & 0o777 == 0o600
    assert sorted(p.name for p in own.glob("away*")) == ["away.zip"]
    with zipfile.ZipFile(target) as packed:
        assert set(packed.namelist()) == {"manifest.json", "lynxwort.sqlite3"}
        said = json.loads(packed.read("manifest.json"))
        laid = packed.read("lynxwort.sqlite3")
    assert (said["format"], said["counts"]["bikes_revision"], said["counts"]["django_session"]) == (1, 1, 0)
    assert b"must-not-travel" not in laid
    assert (own / "secret-key").read_text().encode() not in laid
    assert archive.read(target) == contents


def test_25_back_ups_under_constant_writes_are_whole(own, tmp_path):
    """In each of them what was written together stands together, and no keep that was answered before it began is missing."""
    database, stop, answered = own / "lynxwort.sqlite3", threading.Event(), []

    def write():
        with sqlite3.connect(database, timeout=20, isolation_level=None) as base:
            base.execute("CREATE TABLE pairs_a (n INTEGER)")
            base.execute("CREATE TABLE pairs_b (n INTEGER, pad TEXT)")
            n = 0
            while not stop.is_set():
                n += 1
                base.execute("BEGIN IMMEDIATE")
                base.execute("INSERT INTO pairs_a VALUES (?)", (n,))
                base.execute("INSERT INTO pairs_b VALUES (?, ?)", (n, "x" * 300))
                base.execute("COMMIT")
                answered.append(n)
                time.sleep(0.001)  # or the database grows faster than anybody can read it

    writer = threading.Thread(target=write)
    writer.start()
    while not answered:
        time.sleep(0.01)
    whole = 0
    try:
        for turn in range(25):
            before = answered[-1]
            archive.write(database, tmp_path / f"{turn}.zip")
            archive.read(tmp_path / f"{turn}.zip", tmp_path / "laid.sqlite3")
            with sqlite3.connect(tmp_path / "laid.sqlite3") as laid:
                a, b = (laid.execute(f"SELECT COUNT(*), MAX(n) FROM {t}").fetchone() for t in ("pairs_a", "pairs_b"))
                whole += (
                    laid.execute("PRAGMA integrity_check").fetchone()[0] == "ok" and a == b and a[0] == a[1] >= before
                )
            (tmp_path / "laid.sqlite3").unlink()
    finally:
        stop.set()
        writer.join()
    assert whole == 25
    assert answered[-1] > 25


def spoiled(source: Path, target: Path, **said) -> Path:
    """A back-up with another manifest."""
    with zipfile.ZipFile(source) as old, zipfile.ZipFile(target, "w") as new:
        new.writestr("manifest.json", json.dumps(json.loads(old.read("manifest.json")) | said))
        new.writestr("lynxwort.sqlite3", old.read("lynxwort.sqlite3"))
    return target


def test_what_cannot_be_put_back_is_refused_and_nothing_changes(
    own, tmp_path, settings, monkeypatch, django_db_blocker
):
    settings.DATA_DIR = own
    monkeypatch.setattr(restoring, "place", lambda: own / "lynxwort.sqlite3")
    good = tmp_path / "good.zip"
    archive.write(own / "lynxwort.sqlite3", good)
    (tmp_path / "cut.zip").write_bytes(good.read_bytes()[: good.stat().st_size // 2])
    flipped = bytearray(good.read_bytes())
    flipped[len(flipped) // 2] ^= 0xFF
    (tmp_path / "flipped.zip").write_bytes(flipped)
    (tmp_path / "text.zip").write_text("a letter")
    with zipfile.ZipFile(tmp_path / "other.zip", "w") as other:
        other.writestr("../escaped", "x")
    spoiled(good, tmp_path / "newer.zip", format=2)
    spoiled(good, tmp_path / "counts.zip", counts={"bikes_bike": 5})
    spoiled(good, tmp_path / "files.zip", files={"lynxwort.sqlite3": {"sha256": "0" * 64, "bytes": 1}})
    future = tmp_path / "future.sqlite3"
    archive.read(good, future)
    with sqlite3.connect(future) as base:
        base.execute(
            "INSERT INTO django_migrations (app, name, applied) VALUES ('bikes', '0999_from_the_future', '2030-01-01')"
        )
    archive.write(future, tmp_path / "future.zip")
    before, key = (own / "lynxwort.sqlite3").read_bytes(), (own / "secret-key").read_text()
    for name, words in (
        ("cut", "not whole"),
        ("flipped", "not whole"),
        ("text", "not whole"),
        ("other", "not a back-up"),
        ("newer", "newer Lynxwort"),
        ("counts", "what it says"),
        ("files", "what it says"),
        ("future", "newer Lynxwort"),
        ("absent", "Nothing was changed"),
    ):
        with pytest.raises(CommandError, match=words), django_db_blocker.unblock():
            call_command("restore", str(tmp_path / f"{name}.zip"))
        assert (own / "lynxwort.sqlite3").read_bytes() == before, name
        assert (own / "secret-key").read_text() == key
        assert not list(own.glob("*put-back*"))


def test_a_back_up_goes_to_another_machine_and_the_old_one_is_kept(own, tmp_path):
    good, other = tmp_path / "good.zip", tmp_path / "other"
    assert python(own, "backup", str(good)).returncode == 0
    assert python(other, "migrate", "--verbosity", "0").returncode == 0
    with sqlite3.connect(other / "lynxwort.sqlite3") as base:
        base.execute("INSERT INTO garages_garage (name, created, uid) VALUES ('stood here before', '2026-01-01', 'u')")
    key = (other / "secret-key").read_text()
    with open(other / "serving", "w") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        refused = python(other, "restore", str(good))
        assert "is serving" in refused.stderr
        assert refused.returncode != 0
    done = python(other, "restore", str(good))
    assert done.returncode == 0, done.stderr
    for query in (
        "SELECT name, document FROM bikes_bike",
        "SELECT number, report FROM bikes_revision",
        "SELECT uid FROM readings_reading",
    ):
        assert rows(other / "lynxwort.sqlite3", query) == rows(own / "lynxwort.sqlite3", query)
    assert rows(other / "lynxwort.sqlite3", "SELECT * FROM django_session") == []
    assert (other / "secret-key").read_text() != key
    kept = list((other / "backups").glob("replaced-*.sqlite3"))
    assert [rows(k, "SELECT name FROM garages_garage") for k in kept] == [[("stood here before",)]]
    assert not list(other.glob("lynxwort.sqlite3-*"))
    assert all(p.stat().st_mode & 0o077 == 0 for p in other.rglob("*"))


@pytest.mark.skipif(os.geteuid() != 0, reason="mounting a small disk needs root")
def test_a_full_disk_leaves_no_half_back_up_and_no_half_restore(own, tmp_path):
    good = tmp_path / "good.zip"
    archive.write(own / "lynxwort.sqlite3", good)
    small = tmp_path / "small"
    small.mkdir()
    if subprocess.run(
        ["mount", "-t", "tmpfs", "-o", "size=1200k", "tmpfs", str(small)], check=False, capture_output=True
    ).returncode:
        pytest.skip("no mounting here")
    try:
        (small / "lynxwort.sqlite3").write_bytes((own / "lynxwort.sqlite3").read_bytes())
        before = (small / "lynxwort.sqlite3").read_bytes()
        for command in (["backup"], ["restore", str(good)]):
            done = python(small, *command)
            assert done.returncode != 0, command
            assert "Traceback" not in done.stderr
            assert (small / "lynxwort.sqlite3").read_bytes() == before
            assert not [p for p in small.rglob("*") if p.suffix in (".zip", ".unfinished", ".put-back", ".database")]
    finally:
        subprocess.run(["umount", str(small)], check=True)


def test_before_its_form_changes_a_database_is_backed_up(own):
    with sqlite3.connect(own / "lynxwort.sqlite3") as base:  # as if the last one had not been made yet
        base.execute("DELETE FROM django_migrations WHERE app = 'people'")
        base.execute("DROP TABLE people_deed")
        base.execute("DROP TABLE people_invitation")
    for _ in range(2):  # the second changes nothing
        assert python(own, "migrate", "--verbosity", "0").returncode == 0
    made = list((own / "backups").glob("*-migration.zip"))
    assert len(made) == 1
    assert archive.read(made[0]).counts["bikes_revision"] == 1


# the shelf and its page ------------------------------------------------------------------------------------------------------
@pytest.fixture
def shelved(own, settings, monkeypatch):
    """The shelf of an installation of its own."""
    settings.DATA_DIR = own
    monkeypatch.setattr(shelf, "place", lambda: own / "lynxwort.sqlite3")
    return own


def test_daily_when_quiet_and_seven_are_kept(shelved, settings, monkeypatch):
    settings.DEMO = False
    monkeypatch.setattr(shelf.gate, "quiet_s", lambda: 5.0)
    shelf.daily()
    assert shelf.on_shelf() == []
    monkeypatch.setattr(shelf.gate, "quiet_s", lambda: 500.0)
    shelf.make("asked")
    for day in range(9):
        for path in shelf.folder().glob("*-daily.zip"):  # a day goes by
            stamp = path.name.split("-")[1]
            path.rename(
                path.with_name(
                    path.name.replace(
                        stamp, f"202601{int(stamp[6:8]) if stamp.startswith('202601') else 10 + day:02}T{day:02}0000Z"
                    )
                )
            )
        shelf.daily()
        shelf.daily()
    kinds = [b.kind for b in shelf.on_shelf()]
    assert (kinds.count("daily"), kinds.count("asked")) == (7, 1)

    def full(*_args, **_more):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(shelf, "EVERY", shelf.timedelta(0))
    monkeypatch.setattr(archive, "write", full)
    shelf.daily()  # noted, and tried again another time
    assert len(shelf.on_shelf()) == 8


def test_the_page_is_the_keepers_at_the_machine_itself(demo, shelved, stranger):
    here, page = {"HTTP_HOST": "127.0.0.1:8000"}, reverse("machine:backups")
    assert "Write a back-up now" not in demo.get(page).content.decode()  # asked for by another name than this machine's
    assert demo.post(reverse("machine:make")).status_code == 403
    assert demo.get(page, **here, REMOTE_ADDR="192.0.2.7").content.decode().count("Write a back-up") == 0
    assert demo.post(reverse("machine:make"), **here).status_code == 302
    (made,) = shelf.on_shelf()
    assert "None has been taken off" in demo.get(page, **here).content.decode()
    taken = demo.get(reverse("machine:take", args=[made.name]), **here)
    assert b"".join(taken.streaming_content) == (shelf.folder() / made.name).read_bytes()
    assert "Last taken away" in demo.get(page, **here).content.decode()
    assert "more than a week ago" not in demo.get(page, **here).content.decode()
    (shelf.folder() / shelf.TAKEN_AWAY).write_text((datetime.now(UTC) - timedelta(days=8)).isoformat())
    assert "more than a week ago" in demo.get(page, **here).content.decode()
    for name in ("..%2Fsecret-key", "secret-key", "lynxwort-x-asked.zip"):
        assert demo.get(f"/back-ups/take/{name}/", **here).status_code == 404
    assert "Choose a back-up" in demo.post(reverse("machine:put-back"), **here).content.decode()
    broken = SimpleUploadedFile("b.zip", b"PK not at all")
    assert "not whole" in demo.post(reverse("machine:put-back"), {"file": broken}, **here).content.decode()
    assert shelf.waiting() is None
    assert demo.post(reverse("machine:put-back"), {"name": made.name}, **here).status_code == 302
    assert "lies ready" in demo.get(page, **here).content.decode()
    assert demo.post(reverse("machine:leave"), **here).status_code == 302
    assert shelf.waiting() is None
    other = Client()
    User.objects.filter(username="demo").update(username="keeper")
    other.force_login(stranger, backend=BACKEND)
    assert other.post(reverse("machine:make"), **here).status_code == 403
    assert other.get(reverse("machine:take", args=[made.name]), **here).status_code == 403


def test_serving_puts_back_what_lies_ready_first(own, tmp_path):
    good = tmp_path / "good.zip"
    archive.write(own / "lynxwort.sqlite3", good)
    with sqlite3.connect(own / "lynxwort.sqlite3") as base:
        base.execute("UPDATE bikes_bike SET name = 'spoiled since'")
    shutil.copy(good, own / shelf.WAITING)
    clean = {k: v for k, v in os.environ.items() if not k.startswith(("LYNXWORT", "DJANGO", "PORT"))} | {
        "LYNXWORT_DATA": str(own),
        "PORT": "1",
    }
    assert python(own, "collectstatic", "--noinput", "--verbosity", "0").returncode == 0
    process = subprocess.Popen(
        [sys.executable, "manage.py", "serve"],
        cwd=ROOT,
        env=clean | {"PORT": "8765"},
        stdout=subprocess.PIPE,
        text=True,
    )
    try:
        assert "Put back as it stood" in process.stdout.readline()
    finally:
        process.kill()
        process.wait(20)
    assert rows(own / "lynxwort.sqlite3", "SELECT name FROM bikes_bike") != [("spoiled since",)]
    assert not (own / shelf.WAITING).exists()


# one garage as lines --------------------------------------------------------------------------------------------------------
def taken(garage, lines: list[str]):
    done = merging.merge(garage, io.BytesIO("".join(lines).encode()))
    return done.many("new"), done.many("same", "ours", "theirs", "remove")


def told(garage) -> list[dict]:
    """What the lines say, without the moment they were written and the garage's name."""
    found = [json.loads(line) for line in garage_lines.lines(garage)]
    rows = [line for line in found[1:] if line["row"] not in ("base", "gone")]
    return [{k: v for k, v in found[0].items() if k not in ("made", "name", "garage")}, *rows]


def test_a_garage_goes_out_and_comes_in_as_it_was_without_anybodys_account(demo):
    garage = Garage.objects.get()
    a_part(demo.setup.bike)
    lines, said = list(garage_lines.lines(garage)), told(garage)
    assert said[0]["counts"]["service"] == 1
    assert "demo" not in {v for line in said for v in line.values() if isinstance(v, str)} - {
        r.author for r in Revision.objects.all()
    }
    assert not any("password" in line for line in lines)
    assert taken(garage, lines)[0] == 0  # there already: once
    before = demo.get(f"{demo.base}fuelling/").content.decode()
    version = Draft.objects.get().version
    for model in (Reading, OwnedPart, Race, Setup, Bike):
        if model is Setup:
            Draft.objects.all().delete()
            Setup.objects.update(head=None)
            Revision.objects.all().delete()
        model.objects.all().delete()
    garage.riders.all().delete()
    garage.courses.all().delete()
    empty = Garage.objects.create(name="the other van")
    new, kept = taken(empty, lines)
    assert (new, kept) == (sum(said[0]["counts"].values()), 0)
    assert told(empty) == said
    assert taken(empty, lines) == (0, new)
    assert told(empty) == said
    demo.user = User.objects.get(username="demo")
    demo.user.memberships.update(garage=empty)
    setup, race = Setup.objects.get(), Race.objects.get()
    door._ready.set()
    after = demo.get(f"/bench/{setup.pk}/{race.pk}/fuelling/")
    assert after.status_code == 200
    figures = r'data-si="([^"]+)"'
    assert re.findall(figures, after.content.decode()) == re.findall(figures, before)
    assert Draft.objects.get().version == version
    assert demo.get(f"/setups/{setup.pk}/history/").status_code == 200


def test_lines_that_are_wrong_are_named_and_nothing_is_taken_in(demo):
    garage = Garage.objects.get()
    lines = list(garage_lines.lines(garage))
    elsewhere = add_user("other", "a long enough one", "elsewhere").memberships.get().garage
    counted = {m: m.objects.count() for m in (Bike, Race, Reading, Revision, OwnedPart)}
    fresh = [line.replace(str(b.uid)[:8], "0000aaaa") for line in lines for b in [Bike.objects.get()]]
    for at, wrong, code in (
        (0, ["{}\n"], "not_a_garage"),
        (0, [json.dumps(json.loads(lines[0]) | {"format": 3}) + "\n"], "newer_format"),
        (0, [], "not_a_garage"),
        (2, [lines[0], "[" * 5000 + "\n"], "not_a_garage_line"),
        (2, [lines[0], "²\n"], "not_a_garage_line"),
        (2, [lines[0], '{"row": "user", "username": "x"}\n'], "not_a_garage_line"),
        (2, [lines[0], '{"row": "blob", "key": "k", "data": "AAAA"}\n'], "not_a_garage_line"),
        (3, [lines[0], lines[1], "x" * (garage_lines.MOST_LINE_BYTES + 5)], "line_too_long"),
        (3, [lines[0], lines[1], lines[2]], "of_another_garage"),
        (len(fresh), [*fresh[:-1], '{"row": "reading"}\n'], ""),
    ):
        with pytest.raises(InputRefused) as refused:
            taken(elsewhere, wrong)
        if code:
            assert refused.value.refusals[0].code == code, (at, wrong[-1][:60])
            assert not at or refused.value.refusals[0].path in (f"line.{at}", "file")
        assert {m: m.objects.count() for m in counted} == counted
    sent = demo.post(reverse("machine:garage-in"), {"file": SimpleUploadedFile("g.jsonl", b"{}\n")})
    assert (sent.status_code, "not the file of a garage" in sent.content.decode()) == (422, True)
    again = demo.post(
        reverse("machine:garage-in"), {"file": SimpleUploadedFile("g.jsonl", "".join(lines).encode())}, follow=True
    )
    assert "Nothing is new in this file" in again.content.decode()


def test_a_race_on_a_course_that_does_not_come_with_it_is_refused(db):
    load("brackenmere")
    lines = list(garage_lines.lines(Garage.objects.get()))
    for row in (Reading, OwnedPart):
        row.objects.all().delete()
    bare = [line for line in lines if json.loads(line).get("row") not in ("blob", "course")]
    with pytest.raises(InputRefused):
        taken(add_user("x", "a long enough one", "x").memberships.get().garage, bare)


def test_the_lock_keeps_a_restore_away_while_serving(settings, tmp_path):
    settings.DATA_DIR = tmp_path
    with lock.alone(), pytest.raises(lock.Served):
        restoring.put_back(tmp_path / "any.zip")
