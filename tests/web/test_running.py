"""Running it: commands, the worker's start, the key in the data directory, two writers at once."""

import os
import stat
import threading

import pytest
from django.conf import settings
from django.core.management import CommandError, call_command
from django.db import connection

from lynxwort.web.bikes import changes
from lynxwort.web.bikes.models import Draft, Revision, Setup
from lynxwort.web.garages import services as garages
from lynxwort.web.garages.models import Garage, User
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from tests.demo import load


def test_the_demo_loads_once(demo, capsys):
    load()
    assert "already" in capsys.readouterr().out
    assert Garage.objects.count() == 1
    assert Revision.objects.get().reason == "as entered"


def test_adduser_asks_for_a_password_that_holds(db, monkeypatch, capsys):
    monkeypatch.setattr("getpass.getpass", lambda prompt: "short")
    with pytest.raises(CommandError):
        call_command("adduser", "Ash")
    monkeypatch.setattr("getpass.getpass", lambda prompt: "cold greasy hands")
    call_command("adduser", "Ash", garage="Lean-to")
    assert User.objects.get(username="Ash").memberships.get().garage.name == "Lean-to"
    with pytest.raises(CommandError):
        call_command("adduser", "Ash")


def test_secrets_are_readable_by_their_owner_only(settings):
    settings.DEMO = False
    for name in ("secret-key",):
        assert stat.S_IMODE(os.stat(settings.DATA_DIR / name).st_mode) == 0o600
    assert len(settings.SECRET_KEY) > 40


def test_the_database_survives_a_pulled_plug(db):
    with connection.cursor() as cursor:
        values = {
            name: cursor.execute(f"PRAGMA {name}").fetchone()[0]
            for name in ("journal_mode", "synchronous", "foreign_keys")
        }
    assert values["synchronous"] == 2
    assert values["foreign_keys"] == 1
    assert values["journal_mode"] in ("wal", "memory")
    assert settings.DATABASES["default"]["OPTIONS"]["transaction_mode"] == "IMMEDIATE"


def test_a_job_is_asked_for_once_and_again_after_a_failure(db):
    runs = []
    worker.register("test-count")(lambda payload: runs.append(payload) or {"n": len(runs)})
    first, second = (worker.submit("test-count", "same", {"a": 1}) for _ in range(2))
    assert first.pk == second.pk
    while worker.run_next():
        pass
    assert Job.objects.get(pk=first.pk).result == {"n": 1}
    worker.submit("test-count", "same", {"a": 1})
    assert not worker.run_next()
    Job.objects.filter(pk=first.pk).update(state="interrupted")
    worker.submit("test-count", "same", {"a": 2})
    assert worker.run_next()
    assert runs[-1] == {"a": 2}


@pytest.mark.django_db(transaction=True)
def test_of_many_writers_with_one_version_exactly_one_wins():
    load("brackenmere")
    version = Draft.objects.get().version
    outcomes = []

    def write(teeth):
        try:
            draft = Draft.objects.select_related("setup__head").get()
            taken = changes.take(draft, version, changes.Moves((("rear_sprocket_teeth", teeth),)))
            outcomes.append(teeth if taken.state == "taken" else taken.state)
        finally:
            connection.close()

    threads = [threading.Thread(target=write, args=(40 + k,)) for k in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    assert len(outcomes) == 8
    won = [o for o in outcomes if o != "stale"]
    assert len(won) == 1
    assert Draft.objects.get().values["rear_sprocket_teeth"] == won[0]
    assert Draft.objects.get().version == version + 1


def test_past_changes_are_kept_within_reason(demo):
    draft = Setup.objects.get().draft
    for k in range(70):
        assert (
            changes.take(draft, draft.version, changes.Moves((("shock_preload_m", 0.001 + k * 1e-4),))).state == "taken"
        )
    assert len(draft.past) == 60
    for _ in range(60):
        assert changes.take(draft, draft.version, changes.TakeBack()).state == "taken"
    assert changes.take(draft, draft.version, changes.TakeBack()).state == "same"


def test_putting_back_a_tank_never_leaves_more_fuel_than_it_holds(demo):
    draft = Setup.objects.get().draft
    assert changes.take(
        draft, draft.version, changes.Moves((("tank_capacity_m3", 0.0145), ("fuel_fill_m3", 0.014)))
    ).done
    assert changes.take(draft, draft.version, changes.PutBack("tank_capacity_m3")).done
    assert draft.values["tank_capacity_m3"] == 0.0115
    assert draft.values["fuel_fill_m3"] == 0.0115


def test_a_change_of_any_kind_is_checked_stored_once_and_refused_in_words(demo):
    draft = Setup.objects.get().draft
    version, before = draft.version, draft.values
    moves = changes.Moves((("rear_sprocket_teeth", 50),))
    assert [changes.take(draft, version, moves).state for _ in range(2)] == ["taken", "same"]
    assert draft.version == version + 1
    told = changes.take(draft, version, changes.Moves((("rear_sprocket_teeth", 52),)))
    assert told.state == "stale"
    assert "another window" in told.words("metric")
    for change, words in (
        (changes.Moves((("rear_sprocket_teeth", 500),)), "70"),
        (changes.Moves((("fuel_trim", 0.1),)), "kind"),
        (changes.Whole({"stops": [{"passing": 2}, {"passing": 1}]}), "order"),
        (changes.Whole({"needle": 7}), "needles"),
    ):
        told = changes.take(draft, draft.version, change)
        assert told.state == "refused"
        assert words in told.words("metric"), told.words("metric")
    assert changes.take(draft, draft.version, changes.Whole({"stops": []})).state == "taken"
    assert draft.values["stops"] == []
    assert changes.take(draft, draft.version, changes.Whole({"stops": None})).state == "taken"
    assert changes.take(draft, draft.version, changes.Return(Setup.objects.get().head)).state == "taken"
    assert draft.values == before
    assert changes.take(draft, version, changes.TakeBack()).state == "stale"


def test_loopback_is_an_address_not_a_header(rf):
    for address, host in (
        ("127.0.0.1", "127.0.0.1:8000"),
        ("::1", "[::1]:8000"),
        ("127.0.0.1", "localhost"),
        ("127.0.0.1", "LOCALHOST:80"),
    ):
        assert garages.is_loopback(rf.get("/", REMOTE_ADDR=address, HTTP_HOST=host)), host
    for host in ("van.example:8000", "127.0.0.1.example", "0.0.0.0", "", "[::1"):
        assert not garages.is_loopback(rf.get("/", REMOTE_ADDR="127.0.0.1", HTTP_HOST=host)), host
    assert not garages.is_loopback(rf.get("/", REMOTE_ADDR="192.0.2.1", HTTP_X_FORWARDED_FOR="127.0.0.1"))
    assert not garages.is_loopback(rf.get("/", REMOTE_ADDR=""))
