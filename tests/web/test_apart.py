"""Work in processes of their own: what they answer, how they end, and that memory and uploads come back."""

import os
import time
from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError
from django.urls import reverse

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.units.tables import MOST_COLUMNS, MOST_LINE
from lynxwort.web.jobs import apart, uploads, worker
from lynxwort.web.jobs.models import Job

HERE = "tests.beside"
BIG = (
    b'<gpx version="1.1"><trk><name>Long fen</name><trkseg>'
    + b"".join(
        b'<trkpt lat="%.6f" lon="-2.0"><ele>%.1f</ele><time>2027-01-01T00:00:00Z</time></trkpt>'
        % (54 + i / 40_000, 300 + i % 7)
        for i in range(20_000)
    )
    + b"</trkseg></trk></gpx>"
)


@pytest.fixture
def mill(monkeypatch, settings, tmp_path):
    settings.DATA_DIR = tmp_path
    monkeypatch.setenv("PYTHONPATH", str(Path(__file__).parents[2]))
    monkeypatch.setenv("NUMBA_CACHE_DIR", os.environ["NUMBA_CACHE_DIR"])
    made = apart.Mill("test", 700_000_000)
    yield made
    made.end()


def alive(pid: int) -> bool:
    return Path(f"/proc/{pid}").exists()


def test_a_process_beside_answers_refuses_and_outlives_what_fails(mill):
    said = []
    first = mill.ask(f"{HERE}:doubled", {"n": 21}, step=lambda progress, result: said.append((progress, result)))
    assert (first["twice"], said) == (42, [(0.5, ["half"])])
    with pytest.raises(InputRefused) as refusal:
        mill.ask(f"{HERE}:refused", {})
    assert refusal.value.refusals[0] == Refusal(path="file", code="too_large", high=2.0)
    with pytest.raises(OperationalError, match="locked"):
        mill.ask(f"{HERE}:locked", {})
    with pytest.raises(RuntimeError, match="nothing"):
        mill.ask(f"{HERE}:broken", {})
    assert mill.ask(f"{HERE}:doubled", {"n": 1})["pid"] == first["pid"] != os.getpid()


def test_what_takes_too_much_is_ended_and_another_begins(mill):
    pid = mill.ask(f"{HERE}:doubled", {"n": 1})["pid"]
    with pytest.raises(apart.Ended, match="memory"):
        mill.ask(f"{HERE}:greedy", {})
    assert not alive(pid)
    with pytest.raises(apart.Ended, match="time"):
        mill.ask(f"{HERE}:for_ever", {}, most_s=0.6)
    with pytest.raises(apart.Ended, match="killed"):
        mill.ask(f"{HERE}:gone", {})

    def cancelled():
        raise worker.Cancelled

    with pytest.raises(worker.Cancelled):
        mill.ask(f"{HERE}:for_ever", {}, watch=cancelled)
    assert mill._process is None
    pid = mill.ask(f"{HERE}:doubled", {"n": 3})["pid"]
    mill.rest()
    assert alive(pid)  # asked a moment ago
    mill._last -= apart.IDLE_S
    mill.rest()
    assert not alive(pid)
    with mill._turn, pytest.raises(InputRefused) as refusal:
        mill.ask_soon(f"{HERE}:doubled", {"n": 1}, wait_s=0.05, most_s=1.0)
    assert refusal.value.refusals[0].code == "not_now"


def test_a_large_file_is_read_beside_as_it_would_be_here_and_does_not_stay(settings, tmp_path, monkeypatch):
    settings.DATA_DIR = tmp_path
    from lynxwort.web.jobs import reading
    from lynxwort.web.races.tracks import read_course_file

    sent = SimpleUploadedFile("c.gpx", BIG)
    assert sent.size > apart.SMALL_BYTES
    beside = read_course_file(sent, "barometer")
    monkeypatch.setattr(apart, "SMALL_BYTES", 10_000_000)
    monkeypatch.setattr(apart.reader, "ask_soon", None)
    here = read_course_file(SimpleUploadedFile("c.gpx", BIG), "barometer")
    assert beside == here
    assert beside.content_key() == here.content_key()
    assert beside.name == "Long fen"
    assert list(uploads.folder().iterdir()) == []
    apart.reader.end()
    with pytest.raises(InputRefused) as refusal:
        apart.read("", SimpleUploadedFile("c.gpx", b"<gpx></gpx>"), {"heights": "none"}, here=reading.course)
    assert refusal.value.refusals[0].code == "no_points"
    assert list(uploads.folder().iterdir()) == []


def test_a_job_that_took_too_much_says_so_and_the_next_one_runs(db, settings, monkeypatch):
    settings.JOBS_APART = True
    monkeypatch.setitem(worker._kinds, "test-apart", lambda payload, step: {"here": True})
    worker._apart.add("test-apart")
    ends = iter((apart.Ended("memory"), apart.Ended("killed"), OperationalError("database is locked"), None))

    def ask(verb, payload, *, step, watch):
        watch()
        error = next(ends)
        if error is not None:
            raise error
        return {"beside": payload["kind"]}

    monkeypatch.setattr(apart.jobs, "ask", ask)
    monkeypatch.setattr(worker.connection, "close", lambda: None)
    found = []
    for key in "abcd":
        job = worker.submit("test-apart", key, {})
        assert worker.run_next()
        job.refresh_from_db()
        found.append((job.state, job.error))
        Job.objects.filter(state="waiting").delete()
    assert [f[0] for f in found] == ["failed", "failed", "waiting", "done"]
    assert "memory" in found[0][1]
    job = worker.submit("test-apart", "e", {})
    monkeypatch.setattr(apart.jobs, "ask", lambda *_a, watch, **_m: (worker.cancel(job), watch()))
    worker.run_next()
    job.refresh_from_db()
    assert job.state == "cancelled"
    worker._apart.discard("test-apart")


# limits met while reading ----------------------------------------------------------------------------------------------------
LOG = "time,rpm,throttle,lambda\n" + "".join(f"{i / 10},{4000 + i},{i % 90},0.9\n" for i in range(50))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("a," * 300_000 + "\n" + LOG, "line is longer"),
        (
            ",".join(f"c{i}" for i in range(MOST_COLUMNS + 1)) + "\n" + ",".join("1" for _ in range(MOST_COLUMNS + 1)),
            "columns",
        ),
        ("x" * 5_000_000, "line is longer"),
        ("", "empty"),
    ],
)
def test_a_log_of_too_long_lines_or_too_many_columns_is_refused_while_read(injected, text, words):
    before = time.perf_counter()
    answer = injected.post(
        f"{injected.base}fuelling/map/", {"file": SimpleUploadedFile("log.csv", text.encode()), "gauge": "14.7"}
    )
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert list(uploads.folder().iterdir()) == []
    assert time.perf_counter() - before < 30.0


def test_a_run_of_a_dynamometer_meets_the_same_limits(demo):
    for text, words in (("1," * MOST_LINE + "\n", "line is longer"), ("rpm,torque\n" + "1,2," * 150 + "\n", "columns")):
        sent = {
            "file": SimpleUploadedFile("run.csv", text.encode()),
            "label": "x",
            "place": "wheel",
            "standard": "sae_j1349",
            "power_unit": "kW",
        }
        answer = demo.post(f"{demo.base}fuelling/dyno/", sent)
        assert answer.status_code == 422
        assert words in answer.content.decode()


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"[" * 400_000, "lists within lists"),
        (b'{"a":' * 300_000, "lists within lists"),
        (b"[" + b"[]," * 900_000 + b"[]]", "lists within lists"),
        (b'{"bike": "' + b"x" * 6_000_000 + b'"}', "over 5 MB"),
        (b'{"seed": NaN}', "not a JSON"),
        (b"\xff\xfe\x00", "not a JSON"),
        (b" " * 26_000_000, "over 25 MB"),
    ],
)
def test_a_document_beyond_its_limits_is_refused(demo, data, words):
    answer = demo.post(reverse("bench:upload"), {"file": SimpleUploadedFile("d.json", data)})
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert list(uploads.folder().iterdir()) == []


def test_uploads_nobody_comes_back_for_go_after_a_day(settings, tmp_path):
    settings.DATA_DIR = tmp_path
    old, new = uploads.folder() / "old", uploads.folder() / "new"
    for path in (old, new):
        path.write_text("x")
    os.utime(old, (time.time() - 90_000,) * 2)
    uploads.tidy()
    assert (old.exists(), new.exists()) == (False, True)


def test_85_mb_get_a_page(demo):
    answer = demo.post(f"{demo.base}fuelling/dyno/", {"label": "x"}, CONTENT_LENGTH="85000000")
    assert answer.status_code == 413
    assert "80 MB" in answer.content.decode()
