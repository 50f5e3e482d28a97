"""Doors: accounts, garages kept apart, files and forms that are wrong."""

import json
import re

import pytest
from django.test import override_settings
from django.urls import get_resolver, reverse

from lynxwort.core.model.bike.patterns import PATTERNS
from lynxwort.web.bikes.models import Bike, Revision, Setup
from lynxwort.web.garages.models import User
from lynxwort.web.garages.services import first_account_token
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.readings.models import Reading
from lynxwort.web.ui.stale import mark_of
from tests.demo import load
from tests.logged import a_part
from tests.people import an_invitation
from tests.trials import a_trial
from tests.web.forms import sent_back

#: asked for at the machine itself
HERE = {"HTTP_HOST": "127.0.0.1:8000"}
BACKEND = "django.contrib.auth.backends.ModelBackend"
#: addresses that anybody may see or that carry no id of a garage
OPEN = {
    "health",
    "garages:sign-in",
    "garages:sign-out",
    "garages:first-account",
    "garages:enter-demo",
    "garages:units",
    "stand",
    "new-bike",
    "how-to-write",
    "words",
    "word",
    "tour",
    "first-facts",
    "races:new",
    "parts:box",
    "bench:mount",
    "bench:upload",
    "bench:search",
    "garages:settings",
    "garages:password",
    "garages:sign-out-everywhere",
    "parts:export",
    "parts:file",
    "races:riders",
    "machine:backups",
    "machine:make",
    "machine:put-back",
    "machine:leave",
    "machine:garage-out",
    "machine:garage-in",
    "machine:merge",
    "machine:merge-leave",
    "people:put-away",
    "machine:take",
    "authority",
    "authority-file",
    "sheet-worker",
    "manifest",
    "people:people",
    "people:invite",
    "people:leave",
    "people:choose",
    "people:nowhere",
    "people:join",
}


def patterns(resolver=None, namespace=""):
    for item in (resolver or get_resolver()).url_patterns:
        if hasattr(item, "url_patterns"):
            yield from patterns(item, f"{item.namespace}:" if item.namespace else namespace)
        elif item.name:  # without a name: an old address, which leads on whoever asks
            yield f"{namespace}{item.name}", re.findall(r"<\w+:(\w+)>", str(item.pattern))


def test_nothing_of_one_garage_is_reachable_from_another(demo, client, stranger):
    reading = Reading.objects.first()
    ids = {
        "setup": demo.setup.pk,
        "race": demo.race.pk,
        "bike": demo.setup.bike_id,
        "revision": Revision.objects.get().pk,
        "part": OwnedPart.objects.first().pk,
        "reading": reading.pk,
        "trial": a_trial(demo.setup).uid,
        "station": "drive",
        "figure": "drive.top_speed",
        "kind": "sag",
        "action": "split",
        "where": "hills",
        "page": 1,
        "stage": 0,
        "end": "rear",
        "course": demo.race.course_id,
        "rider": Rider.objects.get().pk,
        "check": "brakes",
        "what": "hours",
        "line": a_part(demo.setup.bike).uid,
        "member": demo.setup.bike.garage.memberships.get().pk,
        "invitation": an_invitation(demo.setup.bike.garage).pk,
    }
    client.force_login(stranger, backend=BACKEND)
    before = {m: list(m.objects.values()) for m in (Bike, Setup, Race, OwnedPart, Reading, Revision, Rider)}
    crawled = 0
    for name, arguments in patterns():
        if name in OPEN:
            continue
        address = reverse(name, kwargs={a: ids[a] for a in arguments})
        assert client.get(address).status_code in (404, 405), name
        assert client.post(address, {"version": 1, "moves": "[]"}).status_code in (404, 405), name
        crawled += 1
    assert crawled >= 15
    assert client.post(reverse("bench:mount"), {"setup": demo.setup.pk, "race": demo.race.pk}).status_code == 404
    assert {m: list(m.objects.values()) for m in before} == before
    for page in ("stand", "parts:box", "parts:export", "races:riders", "races:new", "bench:search"):
        answer = client.get(reverse(page), {"q": "e"}).content.decode()
        assert not any(name in answer for name in ("Quern", "Wren", "Brackenmere", "main_jet,")), page
    course = Course.objects.get()
    assert client.post(reverse("races:new"), RACE | {"known": str(course.pk)}).status_code == 422
    assert not Race.objects.filter(garage__memberships__user=stranger).exists()


def test_old_addresses_of_tools_lead_to_their_rooms(demo):
    for old, new in (
        ("valving/shock/?place=piston", "damping/valving/shock/?place=piston"),
        ("sag/rear/", "chassis/sag/rear/"),
        ("map/trims.csv", "fuelling/map/trims.csv"),
        ("metres/?at=3000", "drive/metres/?at=3000"),
        ("stops/take/", "range/stops/take/"),
    ):
        answer = demo.get(f"{demo.base}{old}")
        assert (answer.status_code, answer["Location"]) == (308, f"{demo.base}{new}")
    assert demo.get(f"{demo.base}jets/", follow=True).status_code == 200


def test_everything_but_the_doors_wants_signing_in(db, client):
    for address in ("/", "/parts/", "/races/new/", "/bikes/new/", "/bench/document/"):
        answer = client.get(address)
        assert answer.status_code == 302
        assert answer["Location"].startswith("/in/")


@override_settings(DEMO=False)
def test_the_first_account_comes_from_loopback_or_with_the_token_and_only_once(db, client):
    data = {"username": "Ash", "password": "cold greasy hands", "garage": "Lean-to"}
    assert client.post("/first-account/", data, REMOTE_ADDR="192.0.2.7").status_code == 403
    assert client.post("/first-account/", data | {"token": "guess"}, REMOTE_ADDR="192.0.2.7").status_code == 403
    assert (
        client.post("/first-account/", data).status_code == 403
    )  # from here, but by a name that is not this machine's
    assert client.post("/first-account/", data | {"token": "ü"}, REMOTE_ADDR="192.0.2.7").status_code == 403
    with override_settings(FRONT=True):
        assert client.post("/first-account/", data, **HERE).status_code == 403
    short = client.post("/first-account/", data | {"password": "short"}, **HERE)
    assert short.status_code == 422
    alike = client.post("/first-account/", data | {"username": "Fernbrake", "password": "fernbrake-1"}, **HERE)
    assert "too similar" in alike.content.decode()
    assert (
        client.post("/first-account/", data | {"token": first_account_token()}, REMOTE_ADDR="192.0.2.7").status_code
        == 302
    )
    assert User.objects.get().memberships.get().garage.name == "Lean-to"
    assert client.post("/first-account/", data | {"username": "Elm"}, **HERE).status_code == 403


def test_the_demo_button_is_a_post_from_loopback(demo, client):
    client.logout()
    assert client.get("/demo/").status_code == 405
    assert client.post("/demo/", REMOTE_ADDR="192.0.2.7").status_code == 403
    assert client.post("/demo/", HTTP_HOST="rebound.example").status_code == 403
    assert client.post("/demo/", REMOTE_ADDR="127.0.0.1", **HERE).status_code == 302


def first_facts(client, pattern="two_stroke_125", engine="jetted_two_stroke", **changes):
    said = {
        "bike.name": "Barrow 125",
        "sprockets": "13T-50T",
        "setup.main_jet": "160",
        "setup.tank_capacity_m3": "2 gal",
        "setup.fork_spring_rate_n_per_m": "0.42 kgf/mm",
    } | changes
    sent = {k: v for k, v in said.items() if v is not None}
    return client.post(reverse("first-facts", args=[pattern, engine]), sent)


def test_a_bike_of_six_facts_stands_says_what_it_assumes_and_takes_what_is_known(demo):
    kinds = demo.get(reverse("new-bike")).content.decode()
    assert kinds.count('class="card kind"') == len(PATTERNS) == 12
    assert demo.get("/bikes/new/2/")["Location"] == reverse("new-bike")
    assert first_facts(demo, carried="12 lb").status_code == 302
    bike = Bike.objects.get(name="Barrow 125")
    values = bike.setups.get().draft.values
    assert values["fork_spring_rate_n_per_m"] == pytest.approx(4118.8, rel=1e-4)
    assert values["assumed"] == ["shock_spring_rate_n_per_m"]
    assert bike.document["frame"]["payload"][0]["mass_kg"] == pytest.approx(5.443, rel=1e-3)
    assert {"engine.peak_power_w", "frame.mass_dry_kg"} <= set(bike.document["assumed"])
    facts = reverse("bikes:facts", args=[bike.pk])
    page = demo.get(facts).content.decode()
    assert "94.0 kg, as such a bike usually has it" in page
    # nothing of it is asked for; what is typed is known, what is emptied is assumed again
    sent = sent_back(page, "")
    assert sent["bike.frame.mass_dry_kg"] == ""
    assert demo.post(facts, sent | {"bike.frame.mass_dry_kg": "200 lb"}).status_code == 302
    bike.refresh_from_db()
    assert bike.document["frame"]["mass_dry_kg"] == pytest.approx(90.718, rel=1e-4)
    assert "frame.mass_dry_kg" not in bike.document["assumed"]
    assert "engine.peak_power_w" in bike.document["assumed"]
    again = sent_back(demo.get(facts).content.decode(), "") | {"bike.frame.mass_dry_kg": ""}
    assert demo.post(facts, again).status_code == 302
    bike.refresh_from_db()
    assert bike.document["frame"]["mass_dry_kg"] == 94.0
    assert "frame.mass_dry_kg" in bike.document["assumed"]


#: kind of bike and engine, what its page asks besides
OTHER_KINDS = [
    ("two_stroke_300", "rod_two_stroke", {}),
    ("four_stroke_450", "injected_four_stroke", {}),
    ("electric_light", "electric", {"setup.tank_capacity_m3": None, "setup.pack_energy_j": "2.4 kWh"}),
]


@pytest.mark.parametrize(("pattern", "engine", "changes"), OTHER_KINDS)
def test_a_bike_of_another_kind_is_asked_other_facts_and_rides(demo, pattern, engine, changes):
    assert first_facts(demo, pattern, engine, **{"setup.main_jet": None} | changes).status_code == 302
    bike = Bike.objects.get(name="Barrow 125")
    assert bike.document["engine"]["kind"] == engine
    facts = demo.get(reverse("bikes:facts", args=[bike.pk])).content.decode()
    assert ("Main jets are numbered by" in facts) is False
    assert demo.post(reverse("bench:mount"), {"setup": bike.setups.get().pk, "race": demo.race.pk}).status_code == 302
    base = f"/bench/{bike.setups.get().pk}/{demo.race.pk}/"
    for station in ("purpose", "baseline", "chassis", "fuelling", "drive", "range", "card"):
        page = demo.get(f"{base}{station}/")
        assert page.status_code == 200, station
        assert "None" not in re.sub(r"<[^>]+>", " ", page.content.decode()), station
    assert demo.get(f"{base}pit-card.html").status_code == 200
    # a spring that nobody read is marked at its notch; to type what stands there is to say it
    assert ">assumed</span>" in demo.get(f"{base}chassis/").content.decode()
    line = bike.setups.get()
    now = line.draft.values["shock_spring_rate_n_per_m"]
    assert line.draft.values["assumed"] == ["shock_spring_rate_n_per_m"]
    moves = json.dumps([["shock_spring_rate_n_per_m", now]])
    demo.post(f"{base}chassis/notch/", {"moves": moves, "version": line.draft.version})
    line.draft.refresh_from_db()
    assert (line.draft.values["assumed"], line.draft.values["shock_spring_rate_n_per_m"]) == ([], now)


@pytest.mark.parametrize(
    ("field", "typed", "words"),
    [
        ("sprockets", "", "required"),
        ("sprockets", "13.5", "like 13/50"),
        ("sprockets", "50/13", "too large: at most 20"),
        ("setup.main_jet", "", "required"),
        ("setup.tank_capacity_m3", "8 buckets", "not known here"),
        ("setup.shock_spring_rate_n_per_m", "100 mm", "measures something else"),
        ("carried", "-4", "Too small"),
        ("bike.engine.displacement_m3", "two", "Not a number"),
        ("bike.engine.displacement_m3", "9 L", "Too large: at most 800 cm³."),
        ("bike.engine.peak_power_w", "-4", "Too small: at least 1.5 kW."),
        ("bike.transmission.gear_ratios", "1 2 3", "smaller than the one before"),
        ("bike.transmission.gear_ratios", "2.1 fast", "like 2.40 1.80 1.40"),
        ("bike.frame.mass_dry_kg", "1e9", "Too large"),
    ],
)
def test_a_wrong_fact_is_said_at_its_field_and_stays_typed(demo, field, typed, words):
    bike, before = Bike.objects.get(), Bike.objects.count()
    facts = reverse("bikes:facts", args=[bike.pk])
    if field.startswith("bike."):
        answer = demo.post(facts, sent_back(demo.get(facts).content.decode(), "") | {field: typed})
    else:
        answer = first_facts(demo, **{field: typed})
    page = answer.content.decode()
    assert answer.status_code == 422
    at = re.search(
        rf'<div class="field bad">(?:(?!<div class="field).)*?name="{re.escape(field)}".*?</div>', page, re.S
    )
    assert at
    assert words.lower() in at.group(0).lower()
    assert not typed or f'value="{typed}"' in at.group(0)
    assert Bike.objects.count() == before
    assert Bike.objects.get(pk=bike.pk).document == bike.document


def test_facts_sent_back_untouched_keep_every_digit(demo):
    bike = Bike.objects.get()
    bike.document["frame"]["mass_dry_kg"] = 104.123456
    bike.save()
    page = demo.get(reverse("bikes:facts", args=[bike.pk])).content.decode()
    fields = dict(re.findall(r'<input type="text" name="([^"]+)" value="([^"]*)"', page))
    assert fields["bike.frame.mass_dry_kg"] == "104.1"
    fields |= {
        "bike.engine.kind": "jetted_two_stroke",
        "bike.engine.carburettor.jet_numbering": "diameter",
        "bike.frame.cg_height_m": "0.92",
    }
    assert demo.post(reverse("bikes:facts", args=[bike.pk]), fields).status_code == 302
    bike.refresh_from_db()
    assert bike.document["frame"]["mass_dry_kg"] == 104.123456
    assert bike.document["frame"]["cg_height_m"] == 0.92
    assert "wheelbase_m" not in bike.document["frame"]


def crooked(item):
    """The same document with digits that no page shows."""
    if isinstance(item, dict):
        return {k: crooked(v) for k, v in item.items()}
    if isinstance(item, list):
        return [crooked(v) for v in item]
    return item * 0.999876543211 if isinstance(item, float) and item != 1.0 else item


@pytest.mark.parametrize("units", ["metric", "us"])
def test_pages_of_facts_sent_back_untouched_change_nothing(db, client, units):
    load()
    user = User.objects.get(username="demo")
    user.units, user.unit_choices = units, {}
    user.save()
    client.force_login(user, backend=BACKEND)
    for model, name in ((Bike, "bikes:facts"), (Bike, "bikes:dampers"), (Rider, "races:rider"), (Race, "races:race")):
        for row in model.objects.all():
            row.document = before = row.document | {k: crooked(v) for k, v in row.document.items() if k != "stages"}
            row.save()
            address = reverse(name, args=[row.pk])
            answer = client.post(address, sent_back(client.get(address).content.decode()))
            assert answer.status_code == 302, (name, answer.context["form"].errors)
            row.refresh_from_db()
            assert row.document == before  # no digit lost, nothing assumed turned into given


RACE = {
    "race.name": "Fen sprint",
    "stage.laps": "4",
    "rider": "",
    "known": "",
    "race.start": "2027-05-02T09:00",
    "race.time_zone": "Europe/London",
    "rider.name": "Teal",
    "rider.mass_in_gear_kg": "85",
    "rider.pace": "0.6",
    "rider.posture": "seated",
    "race.air.temperature_low_k": "8",
    "race.air.temperature_high_k": "19",
    "race.air.pressure_kind": "station",
    "race.air.pressure_pa": "1002",
    "race.air.pressure_spread_pa": "",
    "race.air.reading_height_m": "",
    "race.air.relative_humidity_low": "40",
    "race.air.relative_humidity_high": "90",
    "race.certainty": "",
    "heights": "barometer",
}
GPX = (
    b'<gpx version="1.1"><trk><trkseg>'
    + b"".join(b'<trkpt lat="%.5f" lon="-2"><ele>%d</ele></trkpt>' % (54 + i / 2000, 300 + i) for i in range(90))
    + b"</trkseg></trk></gpx>"
)


def send_race(client, tmp_path, content=GPX, **changes):
    path = tmp_path / "course.gpx"
    path.write_bytes(content)
    with path.open("rb") as file:
        return client.post(reverse("races:new"), RACE | changes | {"file": file})


@pytest.mark.parametrize(
    ("content", "changes", "words"),
    [
        (b"", {}, "empty"),
        (GPX[:300], {}, "not a readable GPX"),
        (b'<!DOCTYPE gpx [<!ENTITY a "b">]><gpx>&a;</gpx>', {}, "declares its own entities"),
        (b"<gpx></gpx>", {}, "No track or route points"),
        (b"<gpx>" + b" " * 26_000_000, {}, "over 25 MB"),
        (GPX, {"stage.laps": "0"}, "at least 1"),
        (GPX, {"race.air.temperature_low_k": "30"}, "hotter than the hottest"),
        (GPX, {"race.time_zone": "Mars"}, "A zone like"),
        (GPX, {"race.start": "soon"}, "Date and time like"),
        (GPX, {"rider.mass_in_gear_kg": ""}, "required"),
        (GPX, {"race.air.pressure_pa": "30 psi"}, "Too large"),
    ],
)
def test_a_wrong_race_is_refused_and_keeps_what_was_typed_and_the_file_that_was_read(
    demo, tmp_path, content, changes, words
):
    answer = send_race(demo, tmp_path, content, **changes)
    page = answer.content.decode()
    assert answer.status_code == 422
    assert words in page
    assert 'value="Fen sprint"' in page
    assert Race.objects.count() == 1
    # a file that was read stays, so that it need not be sent again
    assert Course.objects.count() == (2 if content == GPX else 1)
    assert ("The course file is kept as" in page) == (content == GPX)


def test_a_50_mb_upload_is_turned_away_as_a_page(demo):
    answer = demo.post(reverse("races:new"), RACE, CONTENT_LENGTH="52428800")
    assert answer.status_code == 413
    assert "25 MB" in answer.content.decode()


def test_a_race_its_ground_points_zones_and_undo(demo, tmp_path):
    assert send_race(demo, tmp_path).status_code == 302
    race = Race.objects.get(name="Fen sprint")
    assert (race.document["stages"][0]["laps"], race.rider.name, race.start.hour) == (4, "Teal", 8)
    here = f"/races/{race.pk}/stages/0/"

    def stage():
        race.refresh_from_db()
        return race.document["stages"][0]

    assert (
        demo.post(f"{here}paint/", {"from": "2000", "to": "9000", "ground": "mud"}, HTTP_HX_REQUEST="true").status_code
        == 200
    )
    assert [g["ground"] for g in stage()["ground"]] == ["single_track", "mud"]
    assert demo.post(f"{here}paint/", {"from": "2000", "to": "2001", "ground": "mud"}).status_code == 422
    assert demo.post(f"{here}paint/", {"from": "0", "to": "900", "ground": "lava"}).status_code == 422
    demo.post(f"{here}hills/", {"at_m": "1.2", "length_m": "60", "grade": "45", "ground": "rock"})
    assert (
        demo.post(f"{here}hills/", {"at_m": "99", "length_m": "60", "grade": "45", "ground": "rock"}).status_code == 422
    )
    demo.post(f"{here}refuel_points/", {"at_m": "0.5", "name": "van"})
    demo.post(f"{here}crew_points/", {"at_m": "0.3 mi", "name": "gate"})
    demo.post(f"{here}zones/", {"kind": "speed_limit", "from_m": "0", "to_m": "0.2", "limit_m_per_s": "30 km/h"})
    for bad in (
        {"kind": "speed_limit", "from_m": "0", "to_m": "0.2"},
        {"kind": "night", "from_m": "2", "to_m": "1"},
        {"kind": "night", "from_m": "77", "to_m": "78"},
    ):
        assert demo.post(f"{here}zones/", bad).status_code == 422
    found = stage()
    assert found["hills"][0]["grade"] == pytest.approx(0.45)
    assert found["refuel_points"][0]["name"] == "van"
    assert found["crew_points"][0]["at_m"] == pytest.approx(482.8, abs=0.1)
    assert found["zones"][0]["limit_m_per_s"] == pytest.approx(30 / 3.6)
    demo.post(f"{here}undo/", HTTP_HX_REQUEST="true")
    assert not stage().get("zones")
    demo.post(f"{here}hills/", {"drop": mark_of(Race.objects.get(pk=race.pk).document["stages"][0]["hills"][0])})
    assert stage()["hills"] == []
    changed = demo.post(
        f"/races/{race.pk}/",
        {k: v for k, v in RACE.items() if k != "rider"} | {"rider": race.rider_id, "race.name": "Fen long"},
    )
    assert changed.status_code == 302
    assert demo.post(f"/races/{race.pk}/stages/0/change/", {"stage.laps": "6", "stage.kind": "race"}).status_code == 302
    assert (stage()["laps"], race.name) == (6, "Fen long")
    assert stage()["refuel_points"]


def test_stages_are_added_moved_and_taken_away(demo, tmp_path):
    race, course = demo.race, Course.objects.get()
    here = f"/races/{race.pk}/stages/"
    assert (
        demo.post(
            here, {"known": course.pk, "stage.name": "back", "stage.kind": "liaison", "stage.allowed_s": "95"}
        ).status_code
        == 302
    )
    race.refresh_from_db()
    assert [s.get("name", "") for s in race.document["stages"]] == ["", "back"]
    assert race.document["stages"][1]["allowed_s"] == 5700.0
    assert demo.get(f"{demo.base}purpose/").status_code == 200
    assert demo.post(here, {"stage.name": "no course"}).status_code == 422
    both = demo.post(f"{here}1/change/", {"stage.kind": "race", "stage.laps": "2", "stage.hours_s": "2"})
    assert "Either laps or hours" in both.content.decode()
    alone = demo.post(f"{here}1/change/", {"stage.kind": "race", "stage.hours_s": "2 h"})
    assert "has one stage" in alone.content.decode()
    demo.post(f"{here}1/change/", {"earlier": "1"})
    race.refresh_from_db()
    assert race.document["stages"][0]["name"] == "back"
    demo.post(f"{here}0/change/", {"drop": "1"})
    race.refresh_from_db()
    assert len(race.document["stages"]) == 1
    demo.post(f"{here}0/change/", {"drop": "1"})
    race.refresh_from_db()
    assert len(race.document["stages"]) == 1
    assert demo.get(f"{here}7/").status_code == 404
    assert demo.post(f"{here}0/change/", {"stage.kind": "race", "stage.hours_s": "3"}).status_code == 302
    assert "3.00 h" in demo.get(f"{demo.base}purpose/").content.decode()


def test_riders_are_shared_by_races_and_a_change_is_seen_at_once(demo):
    assert demo.post("/riders/", {"rider.name": "Teal", "rider.mass_in_gear_kg": "160 lb"}).status_code == 302
    teal = Rider.objects.get(name="Teal")
    assert teal.document["mass_in_gear_kg"] == pytest.approx(72.575, rel=1e-4)
    assert demo.post("/riders/", {"rider.name": "", "rider.mass_in_gear_kg": "1600"}).status_code == 422
    before = demo.get(f"{demo.base}chassis/").content.decode()
    wren = Rider.objects.get(name="Wren")
    assert demo.post(f"/riders/{wren.pk}/", {"rider.name": "Wren", "rider.mass_in_gear_kg": "99"}).status_code == 302
    after = demo.get(f"{demo.base}chassis/").content.decode()
    sag = 'data-figure="chassis.rear.race_sag" data-si="([^"]+)"'
    assert float(re.search(sag, after).group(1)) > float(re.search(sag, before).group(1)) + 0.005


def test_an_account_made_outside_the_pages_gets_a_garage(client, db):
    outsider = User.objects.create_superuser("outsider", password="a long enough one")
    client.force_login(outsider, backend=BACKEND)
    for _ in range(2):
        assert client.get(reverse("parts:box")).status_code == 200
    assert [m.garage.name for m in outsider.memberships.all()] == ["outsider"]
