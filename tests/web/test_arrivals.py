"""Who came by: pressed on phones whose clocks are wrong, typed as an hour, seen by all, and moving what follows."""

import csv
import io
import json
import re
import uuid
from datetime import UTC, datetime, timedelta

import vobject
from django.test import Client
from django.urls import reverse

from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.moments import moments
from lynxwort.web.bench.services import open_bench
from lynxwort.web.machine import garage_lines
from lynxwort.web.races.models import Race
from lynxwort.web.races.services import change_stages
from lynxwort.web.runs import arrivals
from lynxwort.web.runs.models import Arrival
from lynxwort.web.stations.range.crew import crew_lines
from tests.people import a_member, racing
from tests.web.forms import forms_of, sent_back

BACKEND = "django.contrib.auth.backends.ModelBackend"


def rows(client):
    """The sheet as its CSV says it: where -> row."""
    table = csv.DictReader(io.StringIO(client.get(f"{client.base}crew.csv").content.decode().lstrip("\ufeff")))
    return list(table)


def keys(client):
    return re.findall(r'data-came="([^"]+)"', client.get(f"{client.base}range/crew/").content.decode())


def press(client, row, *, ago_s=0.0, phone_off_s=0.0, **more):
    now = datetime.now(UTC).timestamp() + phone_off_s
    said = {
        "id": str(uuid.uuid4()),
        "key": row,
        "gone": False,
        "at_ms": (now - ago_s) * 1000,
        "now_ms": now * 1000,
    } | more
    return client.post(f"{client.base}range/crew/came/", json.dumps(said), content_type="application/json")


def hour(row, column):
    return datetime.fromisoformat(row[column])


def test_a_press_moves_what_follows_on_every_phone(injected):
    racing(injected.race, minutes_ago=40)
    before, third = rows(injected), keys(injected)[2]
    helper = Client()
    helper.force_login(a_member(injected.race.garage, "crew", "Sorrel"), backend=BACKEND)
    helper.base = injected.base
    # pressed eight minutes ago out of reach, by a phone that is five months off
    assert press(helper, third, ago_s=480.0, phone_off_s=-1.3e7).status_code == 200
    row, after = Arrival.objects.get(), rows(injected)
    assert abs(row.at - (datetime.now(UTC) - timedelta(seconds=480))) < timedelta(seconds=20)
    assert row.said_by == "Sorrel"
    assert hour(after[2], "came by") == row.at.replace(microsecond=0)
    late = (hour(after[2], "likely") - hour(before[2], "likely")).total_seconds()
    assert late > 300.0
    for old, new in zip(before[3:-1], after[3:-1], strict=True):
        assert hour(new, "likely") > hour(old, "likely")
        assert hour(new, "early") <= hour(new, "likely") <= hour(new, "late")
    assert [r["likely"] for r in after[:2]] == [r["likely"] for r in before[:2]]
    page = injected.get(f"{injected.base}range/crew/").content.decode()
    assert "told by Sorrel" in page
    assert "Told anew from" in page
    # a plan is what it was: the calendar and the bike's own verdict know nothing of it
    assert b"DTSTART" in injected.get(f"{injected.base}crew.ics").content
    assert press(helper, third, gone=True).status_code == 200
    assert rows(injected) == before
    assert Arrival.objects.count() == 2


def test_a_press_that_is_nothing_moves_nothing_and_is_told(injected):
    first = keys(injected)[0]
    far = press(injected, first)
    assert (far.status_code, "stays in this phone" in far.json()["alone"]) == (200, True)
    assert not Arrival.objects.exists()
    racing(injected.race)
    key, name = keys(injected)[2], str(uuid.uuid4())
    for _twice in range(2):
        assert press(injected, key, id=name).status_code == 200
    assert Arrival.objects.count() == 1
    assert press(injected, keys(injected)[3], id=name).status_code == 422
    for odd in (
        {"key": "pits-9"},
        {"key": None},
        {"id": "x"},
        {"at_ms": "x"},
        {"at_ms": -1e300},
        {"now_ms": None},
        {"at_ms": float("nan")},
    ):
        answer = press(injected, key, **odd)
        assert (answer.status_code, bool(answer.json()["refused"])) == (422, True), odd
    for body in ("", "[", "[]", "null", "7", "x" * 5000):
        answer = injected.post(f"{injected.base}range/crew/came/", body, content_type="application/json")
        assert answer.status_code == 422, body[:9]
    assert Arrival.objects.count() == 1
    line = crew_lines(open_bench(injected.setup, injected.race).kept, "metric")[2]
    Arrival.objects.bulk_create(
        Arrival(setup=injected.setup, race=injected.race, key=key, at=line.likely) for _k in range(arrivals.MOST)
    )
    assert press(injected, key).status_code == 422


def test_an_hour_that_was_not_tapped_is_typed_by_the_races_clock(injected):
    before, third = rows(injected), keys(injected)[2]
    address = f"{injected.base}range/crew/came/"
    for typed in ("half ten", "25:10", "10:99"):
        answer = injected.post(address, {"key": third, "hour": typed})
        assert answer.status_code == 422
        assert typed in answer.content.decode()
    assert injected.post(address, {"key": "none", "hour": "10:17"}).status_code == 422
    assert injected.post(address, {"key": third, "hour": ""}).status_code == 302  # nothing to take back
    assert not Arrival.objects.exists()
    assert injected.post(address, {"key": third, "hour": "10:19"}).status_code == 302
    after = rows(injected)
    assert after[2]["came by"][11:16] == "10:19"
    assert after[2]["came by"][:10] == before[2]["likely"][:10]
    assert hour(after[3], "likely") > hour(before[3], "likely")
    # an hour before that of an earlier place is one of a wrong row
    fourth = keys(injected)[3]
    assert injected.post(address, {"key": fourth, "hour": "10:05"}).status_code == 302
    assert [r["likely"] for r in rows(injected)] == [r["likely"] for r in after]
    assert injected.post(address, {"key": fourth, "hour": ""}).status_code == 302
    assert injected.post(address, {"key": third, "hour": ""}).status_code == 302
    assert rows(injected) == before
    # it travels with the garage, without who said it
    lines = [json.loads(line) for line in garage_lines.lines(injected.race.garage)]
    told = [line for line in lines if line.get("row") == "arrival"]
    assert len(told) == Arrival.objects.count() == 4
    assert not any("by" in line for line in told)


def test_the_sheets_to_take_along_are_told_anew_too(demo):
    before = rows(demo)
    at = hour(before[1], "late") + timedelta(minutes=7)
    assert demo.post(f"{demo.base}range/crew/came/", {"key": keys(demo)[1], "hour": f"{at:%H:%M}"}).status_code == 302
    after, page = rows(demo), demo.get(f"{demo.base}sheets.html").content.decode()
    # a copy in a phone says of which hour it is, by the race's clock
    assert re.search(r"as it stood on \d{1,2} \w+, \d\d:\d\d</b>", page)
    for old, new in zip(before[2:], after[2:], strict=True):
        assert f"<li><b>{old['likely'][11:16]}</b>" not in page
        assert f"<li><b>{new['likely'][11:16]}</b>" in page


def test_how_the_crew_gets_about_is_said_once_and_stays_with_the_race(demo):
    page = demo.get(f"{demo.base}range/crew/").content.decode()
    form = next(f for a, f in forms_of(page) if a and a.endswith("/plan/"))
    drives = [name for name in form if name.endswith("takes_s")]
    assert len(drives) == 2
    assert "paddock – ford" in page
    address = f"{demo.base}range/crew/plan/"
    for wrong, said in (
        ({drives[0]: "-3"}, "Too small"),
        ({drives[0]: "3 kg"}, "measures something else"),
        ({drives[0]: "", drives[0].replace("takes_s", "distance_m"): "9 km"}, "This is needed"),
        ({"crew.emergency": "x" * 200}, "at most 120"),
        ({"crew.emergency": "x" * 100}, "Too long"),
    ):
        answer = demo.post(address, form | wrong)
        assert (answer.status_code, said in answer.content.decode()) == (422, True), wrong
    said = {"crew.emergency": "start sheet", "crew.silent": "<b>hollow</b>", drives[0]: "12", drives[1]: "35 min"}
    assert demo.post(address, form | said).status_code == 302
    page = demo.get(f"{demo.base}range/crew/").content.decode()
    assert "&lt;b&gt;hollow&lt;/b&gt;" in page
    assert page.count("too late") >= 3
    assert "cannot be at" in demo.get(f"{demo.base}range/").content.decode()
    assert "start sheet" in demo.get(f"{demo.base}sheets.html").content.decode()
    # what was shown before is not sent over it, and the race's own page leaves it alone
    assert demo.post(address, form | {"crew.emergency": "late"}).status_code == 409
    race = reverse("races:race", args=[demo.race.pk])
    assert demo.post(race, sent_back(demo.get(race).content.decode())).status_code == 302
    demo.race.refresh_from_db()
    assert demo.race.document["crew"]["emergency"] == "start sheet"
    assert [d["takes_s"] for d in demo.race.document["crew"]["drives"]] == [720.0, 2100.0]


def test_the_sheet_and_its_calendar_hold_where_the_clock_changes(demo):
    """On 28 March 2027 clocks in London go from one to two at night. Read back by vobject, a reader of calendars."""
    demo.race.document = demo.race.document | {"start": "2027-03-27T23:30", "time_zone": "Europe/London"}
    demo.race.save()
    start = datetime(2027, 3, 27, 23, 30, tzinfo=UTC)
    planned = moments(RangeInput.of(open_bench(demo.setup, demo.race).kept.behind.up))
    sheet = rows(demo)
    for row, moment in zip(sheet, planned, strict=True):
        for column, seconds in (("early", moment.early_s), ("likely", moment.likely_s), ("late", moment.late_s)):
            assert abs((hour(row, column) - start).total_seconds() - seconds) < 1.0
    assert {row["likely"][-6:] for row in sheet} == {"+00:00", "+01:00"}
    said = demo.get(f"{demo.base}crew.ics").content.decode()
    assert max(len(line.encode()) for line in said.split("\r\n")) <= 75
    forward = re.search(r"BEGIN:DAYLIGHT\r\nDTSTART:(\w+)", said)
    assert forward
    assert forward.group(1) == "20270328T010000"  # by the offset before it: RFC 5545 3.6.5
    read = vobject.readOne(said)
    assert [str(z.tzid.value) for z in read.vtimezone_list] == ["Europe/London"]
    for event, moment in zip(read.vevent_list, planned, strict=True):
        assert abs((event.dtstart.value - start).total_seconds() - moment.early_s) < 1.0
        assert abs((event.dtend.value - start).total_seconds() - max(moment.late_s, moment.early_s + 1.0)) < 1.0
        assert event.dtend.value > event.dtstart.value
        assert event.dtstart.params["X-VOBJ-ORIGINAL-TZID"] == ["Europe/London"]
    assert read.vevent_list[0].valarm.trigger.value == timedelta(hours=-12)
    # what is changed is a later version of the same events
    change_stages(demo.race, lambda stages: [stages[0] | {"laps": 2}])
    later = vobject.readOne(demo.get(f"{demo.base}crew.ics").content.decode())
    uids = [e.uid.value for e in read.vevent_list]
    kept = [e for e in later.vevent_list if e.uid.value in uids]
    assert len(set(uids)) == len(uids)
    assert len(kept) >= 4
    assert all(int(e.sequence.value) > int(read.vevent_list[0].sequence.value) for e in kept)


def test_who_stands_where_with_what_is_said_once_and_stands_on_every_sheet(demo):
    page = demo.get(f"{demo.base}range/crew/").content.decode()
    form = next(f for a, f in forms_of(page) if a and a.endswith("/plan/"))
    posts = sorted(name for name in form if name.endswith(".bring"))
    assert len(posts) == 3
    said = form | {posts[1]: "goggles, =1+1", posts[1].replace("bring", "who"): "Sorrel & co"}
    assert demo.post(f"{demo.base}range/crew/plan/", said).status_code == 302
    race = Race.objects.get()
    assert race.document["crew"]["posts"] == [{"place": "ford", "who": "Sorrel & co", "bring": "goggles, =1+1"}]
    for sheet in ("range/crew/", "sheets.html"):
        assert demo.get(demo.base + sheet).content.decode().count("goggles, =1+1") >= 3  # each lap
    assert {r["stands there"] for r in rows(demo)} == {"", "Sorrel & co"}
    # sent back empty it is gone
    form = next(f for a, f in forms_of(demo.get(f"{demo.base}range/crew/").content.decode()) if a.endswith("/plan/"))
    demo.post(f"{demo.base}range/crew/plan/", form | {n: "" for n in form if n.startswith("post")})
    race.refresh_from_db()
    assert "posts" not in race.document.get("crew", {})
