"""What a notch would answer is made ready while the pointer rests on it: the same answer, of the same moment, or none."""

import json
import re
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest

from lynxwort.web.bench import services
from lynxwort.web.bikes.models import Bike, Draft, Revision
from lynxwort.web.evaluation import ahead
from lynxwort.web.evaluation.assembled import compute_sensitivities
from lynxwort.web.garages import counter

HX = {"HTTP_HX_REQUEST": "true"}
PRESSES = [
    ("chassis", "shock_preload_m", 0.015),
    ("damping", "fork_rebound_clicks", 10),
    ("fuelling", "main_jet", 170.0),
    ("drive", "rear_sprocket_teeth", 50),
    ("range", "tank_capacity_m3", 0.009),
]


@pytest.fixture
def ranged(demo):
    """The demo's bench once the ranges are there, and nothing made ready."""
    compute_sensitivities({"setup": demo.setup.pk, "race": demo.race.pk, "values": Draft.objects.get().values})
    ahead._made.clear()
    return demo


def said(station, tunable, value, version=None):
    version = Draft.objects.get().version if version is None else version
    return {"moves": json.dumps([[tunable, value]]), "version": version, "at": "900"}


def resting(client, station, *move, **more):
    """What the page is given, and the mark by which it says that it shows that."""
    answer = client.get(f"{client.base}{station}/ahead/", said(station, *move), **HX | more)
    return answer.content, answer.get("X-Shown", "")


def press(client, station, *move, version=None, **more):
    return client.post(f"{client.base}{station}/notch/", said(station, *move, version=version), **HX | more)


def undo(client):
    version = Draft.objects.get().version
    client.post(f"{client.base}drive/put-back/", {"version": version, "tunable": "last"}, **HX)


def without_version(page: bytes) -> str:
    return re.sub(r'data-version="\d+"', "", page.decode())


@pytest.mark.parametrize("press_of", PRESSES, ids=lambda p: p[0])
def test_what_was_made_ready_is_what_is_answered_anew(ranged, press_of):
    station, *move = press_of
    ranged.get(f"{ranged.base}{station}/neighbours/", **HX)
    mark, before = counter.mark(), Draft.objects.get()
    shown, _mark = resting(ranged, station, *move)
    after = Draft.objects.get()
    assert (counter.mark(), after.version, after.values) == (mark, before.version, before.values)
    assert len(ahead._made) == 1
    ready = press(ranged, station, *move)
    assert not ahead._made, "the answer in the press's name was the one made ready"
    assert ready.content == shown
    assert ready["HX-Version"] == str(Draft.objects.get().version) == str(before.version + 1)
    assert f'data-version="{before.version + 1}"' in ready.content.decode()
    undo(ranged)
    anew = press(ranged, station, *move)
    assert without_version(ready.content) == without_version(anew.content)


@pytest.mark.parametrize("press_of", PRESSES, ids=lambda p: p[0])
def test_a_page_that_shows_it_already_is_told_that_it_is_written_and_nothing_else(ranged, press_of):
    station, *move = press_of
    before = Draft.objects.get()
    asked = said(station, *move)
    _page, mark = resting(ranged, station, *move)
    told = ranged.get(f"{ranged.base}{station}/neighbours/", asked, **HX)
    assert Draft.objects.get().version == before.version, "nothing is written ahead"
    done = press(ranged, station, *move, HTTP_X_SHOWN=mark)
    draft = Draft.objects.get()
    assert (done.status_code, done.content, draft.version) == (204, b"", before.version + 1)
    assert done["HX-Version"] == told["HX-Version"] == str(draft.version)
    assert draft.values[move[0]] == move[1]
    # what its neighbours would do was told as it is
    assert told.content == ranged.get(f"{ranged.base}{station}/neighbours/", **HX).content
    # a page that shows something else gets the whole answer
    undo(ranged)
    _page, mark = resting(ranged, station, *move)
    other = press(ranged, station, *move, HTTP_X_SHOWN=mark[::-1])
    assert (other.status_code, b'id="bench"' in other.content) == (200, True)
    # and one whose bike was put right meanwhile, though it says what it shows
    undo(ranged)
    _page, mark = resting(ranged, station, *move)
    Bike.objects.update(name="Quern, put right")
    assert "Quern, put right" in press(ranged, station, *move, HTTP_X_SHOWN=mark).content.decode()


def test_neighbours_are_told_ahead_of_what_would_be_taken_and_for_one_at_a_time(ranged, monkeypatch):
    address = f"{ranged.base}drive/neighbours/"
    version = Draft.objects.get().version
    refused = (said("drive", "rear_sprocket_teeth", 5000), said("drive", "rear_sprocket_teeth", 50, version - 1))
    assert [ranged.get(address, asked, **HX).status_code for asked in refused] == [204, 204]
    assert ranged.get(address, {"moves": "[[", "version": 1}, **HX).status_code == 404
    me, other = int(ranged.session["_auth_user_id"]), "another"
    # while another's are made nobody waits for it; one's own older ones are given up
    assert ahead.newest(other, lambda go_on: ahead.newest(me, lambda _go: "mine")) is None
    assert ahead.newest(me, lambda go_on: (ahead.newest(me, lambda _go: "newer"), go_on())) == ("newer", False)
    assert ahead.newest(me, lambda go_on: (ahead.overtake(other), go_on())) == (None, True)

    begun_on = []

    monkeypatch.setattr(services, "_HANDS", ThreadPoolExecutor(1))
    monkeypatch.setattr(services, "_neighbour", lambda *args: (begun_on.append(args), ahead.overtake(me))[1])
    given_up = ranged.get(address, said("drive", "rear_sprocket_teeth", 50), **HX)
    assert (given_up.status_code, len(begun_on)) == (204, 1)


def test_a_station_made_ready_is_what_is_gone_to_unless_the_draft_moved_on(ranged):
    asked = {"at": "900"}
    assert ranged.get(f"{ranged.base}chassis/ahead/", asked, **HX).status_code == 204
    ready = ranged.get(f"{ranged.base}chassis/", asked, **HX)
    assert not ahead._made
    assert ready.content == ranged.get(f"{ranged.base}chassis/", asked, **HX).content
    ranged.get(f"{ranged.base}chassis/ahead/", asked, **HX)
    press(ranged, "drive", "rear_sprocket_teeth", 50)
    moved = ranged.get(f"{ranged.base}chassis/", asked, **HX)
    assert moved["HX-Version"] == str(Draft.objects.get().version)
    assert len(ahead._made) == 1
    # a whole page is never given a part
    ranged.get(f"{ranged.base}fuelling/ahead/", asked, **HX)
    assert b"<!doctype html>" in ranged.get(f"{ranged.base}fuelling/", asked).content


def test_what_no_longer_fits_is_never_given(ranged):
    move = ("rear_sprocket_teeth", 50)
    # another page: another group stands open in it, it has other parts, it looks at another place
    for other in ({"HTTP_X_OPEN": "figures"}, {"HTTP_X_HAVE": "abcdef"}):
        resting(ranged, "drive", *move)
        kept = list(ahead._made)
        press(ranged, "drive", *move, **other)
        assert list(ahead._made) == kept
        undo(ranged)
        ahead._made.clear()
    # a fact of the bike was put right meanwhile
    resting(ranged, "drive", *move)
    bike = Bike.objects.get()
    bike.name = "Quern, put right"
    bike.save()
    assert "Quern, put right" in press(ranged, "drive", *move).content.decode()
    # another window moved the draft
    ahead._made.clear()
    undo(ranged)
    version = Draft.objects.get().version
    resting(ranged, "drive", *move)
    press(ranged, "drive", "rear_sprocket_teeth", 51)
    assert press(ranged, "drive", *move, version=version).status_code == 409
    assert Draft.objects.get().values["rear_sprocket_teeth"] == 51


def test_nothing_is_made_ready_of_what_would_not_be_taken(ranged, stranger):
    draft = Draft.objects.get()
    same = draft.values["rear_sprocket_teeth"]
    for tunable, value, version in (
        ("rear_sprocket_teeth", same, None),
        ("rear_sprocket_teeth", 5000, None),
        ("rear_sprocket_teeth", 50, draft.version - 1),
        ("pack_energy_j", 3.6e6, None),
    ):
        answer = ranged.get(f"{ranged.base}drive/ahead/", said("drive", tunable, value, version), **HX)
        assert (answer.status_code, answer.content, len(ahead._made)) == (204, b"", 0)
    for moves in ("", "[[", '[["no_such", 1]]', '[["rear_sprocket_teeth", "x"]]'):
        assert ranged.get(f"{ranged.base}drive/ahead/", {"moves": moves, "version": 1}, **HX).status_code == 404
    ranged.force_login(stranger, backend="django.contrib.auth.backends.ModelBackend")
    assert ranged.get(f"{ranged.base}drive/ahead/", said("drive", "rear_sprocket_teeth", 50), **HX).status_code == 404
    assert not ahead._made
    assert (Draft.objects.get().version, Revision.objects.count()) == (draft.version, 1)


def test_while_the_ranges_are_worked_out_nothing_is_made_ready(demo):
    ahead._made.clear()
    resting(demo, "drive", "rear_sprocket_teeth", 50)
    assert not ahead._made


def test_a_press_waits_for_its_answer_in_the_making_and_outlives_one_that_fails():
    ahead._made.clear()
    begun, go = threading.Event(), threading.Event()

    def slow():
        begun.set()
        go.wait(5)
        return b"ready"

    making = threading.Thread(target=ahead.make, args=("key", slow))
    making.start()
    begun.wait(5)
    threading.Timer(0.1, go.set).start()
    at = time.monotonic()
    assert ahead.make("key", slow) is None, "nobody else makes it, or waits for it"
    assert ahead.take("key") == b"ready"
    assert time.monotonic() - at > 0.05
    assert ahead.take("key") is None, "each is given out once"
    making.join()

    def fails():
        raise ValueError("a core that cannot")

    with pytest.raises(ValueError, match="cannot"):
        ahead.make("key", fails)
    ahead.make("key", lambda: None)
    assert ahead.take("key") is None
    for k in range(3 * ahead.MOST):
        assert ahead.make(k, lambda: b"x") == b"x"
    assert len(ahead._made) == ahead.MOST
