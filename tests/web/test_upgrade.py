"""A database that 0.8.0 wrote: it is brought up to date, every kept setup opens as it was kept, and nothing names a primary key outside."""

import gzip
import json
import os
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
OLD = ROOT / "tests/data/database-0.8.0.sqlite3.gz"
VISIT = """
import json, django
django.setup()
from django.conf import settings
settings.ALLOWED_HOSTS = ["*"]
from django.test import Client
from lynxwort.web.evaluation import door
from lynxwort.web.bikes.models import Revision, Setup
from lynxwort.web.garages.models import User
from lynxwort.web.readings.models import Reading
from lynxwort.web.readings.services import by_name
door._ready.set()
client = Client()
client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
setup = Setup.objects.get()
found = {"pages": {}, "revisions": []}
for path in ("/", f"/setups/{setup.pk}/history/", *(f"/bench/{setup.pk}/1/{s}/" for s in ("purpose", "baseline", "chassis", "fuelling", "drive", "range", "card"))):
    found["pages"][path] = client.get(path).status_code
rows = list(Revision.objects.order_by("number"))
for a, b in zip(rows, rows[1:]):
    found["pages"][f"compare {a.number} {b.number}"] = client.get(f"/setups/{setup.pk}/compare/?a={a.pk}&b={b.pk}").status_code
for row in rows:
    answer = client.post(f"/revisions/{row.pk}/return/", {"version": Setup.objects.get().draft.version, "race": "1"})
    found["revisions"].append([row.number, row.reason, row.values, row.report["core_version"], answer.status_code, Setup.objects.get().draft.values == row.values])
document = json.loads(client.get(f"/bench/{setup.pk}/1/document.json").content)
found["ids"] = [r["id"] for r in document["readings"]]
found["legacy"] = {r.legacy_id: str(r.uid) for r in Reading.objects.all()}
found["named"] = sorted(by_name(setup.bike))
found["struck"] = [r["struck_out"] for r in document["readings"]]
calendar = client.get(f"/bench/{setup.pk}/1/crew.ics")
found["calendar"] = [line for line in calendar.content.decode().splitlines() if line.startswith("UID")][:2]
print(json.dumps(found))
"""


@pytest.fixture(scope="module")
def upgraded(tmp_path_factory):
    folder = tmp_path_factory.mktemp("upgraded")
    (folder / "lynxwort.sqlite3").write_bytes(gzip.decompress(OLD.read_bytes()))
    before = sqlite3.connect(folder / "lynxwort.sqlite3")
    kept = [
        (n, reason, json.loads(document)["setup"], json.loads(report))
        for n, reason, document, report in before.execute(
            "SELECT number, reason, document, report FROM bikes_revision ORDER BY number"
        )
    ]
    before.close()
    known = {k: v for k, v in os.environ.items() if not k.startswith(("LYNXWORT", "DJANGO"))}
    known |= {
        "LYNXWORT_DATA": str(folder),
        "LYNXWORT_DEMO": "1",
        "DJANGO_SETTINGS_MODULE": "lynxwort.web.settings",
        "PYTHONPATH": str(ROOT / "src"),
    }
    for command in (
        ["manage.py", "migrate", "--verbosity", "0"],
        ["manage.py", "collectstatic", "--noinput", "--verbosity", "0"],
    ):
        subprocess.run([sys.executable, *command], cwd=ROOT, env=known, check=True, capture_output=True)
    done = subprocess.run(
        [sys.executable, "-c", VISIT], cwd=ROOT, env=known, check=True, capture_output=True, text=True, timeout=300
    )
    return kept, json.loads(done.stdout.strip().splitlines()[-1]), folder


def test_every_revision_of_an_old_database_opens_as_it_was_kept(upgraded):
    kept, found, folder = upgraded
    assert len(kept) == 3
    assert set(found["pages"].values()) == {200}, found["pages"]
    for (number, reason, values, report), now in zip(kept, found["revisions"], strict=True):
        assert now == [number, reason, values, report["core_version"], 302, True]
    after = sqlite3.connect(folder / "lynxwort.sqlite3")
    assert [json.loads(r) for (r,) in after.execute("SELECT report FROM bikes_revision ORDER BY number")] == [
        k[3] for k in kept
    ]
    assert after.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
    for table in (
        "garages_garage",
        "races_course",
        "races_rider",
        "races_race",
        "bikes_bike",
        "bikes_setup",
        "bikes_revision",
        "bikes_draft",
        "parts_ownedpart",
        "readings_reading",
        "bench_felt",
        "bench_pairing",
    ):
        rows, different = after.execute(f"SELECT COUNT(*), COUNT(DISTINCT uid) FROM {table}").fetchone()
        assert rows == different > 0, table


def test_documents_and_calendars_call_rows_by_their_uid_and_old_names_are_still_known(upgraded):
    _kept, found, _folder = upgraded
    assert all(len(i) == 36 for i in found["ids"])
    assert found["struck"] == [False, True, False, False]
    assert set(found["legacy"]) == {"1", "2", "3", "4"}
    assert set(found["legacy"].values()) == set(found["ids"])
    assert found["named"] == sorted([*found["legacy"], *found["legacy"].values()])
    assert len(found["calendar"]) == 2
    assert all("-setup-" not in line and "race-" not in line for line in found["calendar"])
