"""The course as a page of its own, what the ground is like, readings from the road, the metre table, the stand-ins: through the pages."""

import csv
import io
import json
import re
import threading
import zipfile

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.course.cut import cut_track
from lynxwort.core.physics.course.export import write_gpx
from lynxwort.core.physics.course.gpx import read_gpx
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.view import metre_rows
from lynxwort.core.stations.purpose.view import windows
from lynxwort.demo.scenario import course_bytes, track
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.evaluation import laying
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.readings.models import Reading
from lynxwort.web.ui.stale import mark_of

PLACE = {"from": "19500", "to": "23000"}


def stage_of(client) -> dict:
    client.race.refresh_from_db()
    return client.race.document["stages"][0]


def bench_of(client):
    return open_bench(Setup.objects.select_related("bike__garage", "head", "draft").get(), Race.objects.get())


def test_a_stretch_is_painted_with_all_that_is_known_of_it(demo):
    address = reverse("races:paint", args=[demo.race.pk, 0])
    before = bench_of(demo).kept.value("drive.lap_time")
    assert (
        demo.post(
            address, PLACE | {"ground": "sand", "depth_m": "12 cm", "state": "wet", "tightness": "tight"}
        ).status_code
        == 200
    )
    part = next(g for g in stage_of(demo)["ground"] if g["ground"] == "sand")
    assert (part["depth_m"], part["state"], part["tightness"]) == (0.12, "wet", "tight")
    assert bench_of(demo).kept.value("drive.lap_time") > before
    page = demo.get(reverse("races:stage", args=[demo.race.pk, 0])).content.decode()
    assert "120 mm deep, tight, wet" in page
    # its neighbours keep their own looks, and painting plain takes it away again
    demo.post(address, PLACE | {"ground": "sand"})
    assert all("depth_m" not in g for g in stage_of(demo)["ground"])


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        ({"depth_m": "3 kg"}, "measures something else"),
        ({"depth_m": "900"}, "Too large"),
        ({"whoop_length_m": "-4"}, "Too small"),
        ({"state": "icy"}, "Select a valid choice"),
        ({"whoop_height_m": "high"}, "Not a number"),
    ],
)
def test_a_stretch_that_cannot_be_is_refused_and_stays_typed(demo, typed, words):
    before = stage_of(demo)
    answer = demo.post(reverse("races:paint", args=[demo.race.pk, 0]), PLACE | {"ground": "sand"} | typed)
    assert answer.status_code == 422
    page = answer.content.decode()
    assert words in page
    # what was typed stays in its field; a choice there is not has no field to stay in
    said = [f'value="{value}"' for name, value in typed.items() if name != "state"]
    assert all(value in page for value in said)
    assert said or typed == {"state": "icy"}
    assert stage_of(demo) == before


def test_a_named_hill_with_its_speed_and_a_reading_of_it(demo):
    item = reverse("races:item", args=[demo.race.pk, 0, "hills"])
    assert (
        demo.post(
            item,
            {
                "at_m": "30.1",
                "length_m": "60",
                "grade": "45",
                "ground": "rock",
                "name": "Stair",
                "entry_speed_m_per_s": "10 km/h",
            },
        ).status_code
        == 302
    )
    bad = demo.post(
        item, {"at_m": "30.1", "length_m": "60", "grade": "45", "ground": "rock", "entry_speed_m_per_s": "fast"}
    )
    assert bad.status_code == 422
    assert 'value="fast"' in bad.content.decode()
    page = demo.get(f"{demo.base}drive/").content.decode()
    assert "Stair" in page
    assert "speed needed at the foot" in page
    key = stage_of(demo)["course_key"]
    taken = demo.post(
        f"{demo.base}readings/hill/", {"hill": f"{key}:30100.0", "outcome": "climbed", "entry_speed_m_per_s": "12 mph"}
    )
    assert taken.status_code == 302
    reading = Reading.objects.last().document
    assert (reading["at_m"], reading["outcome"]) == (30100.0, "climbed")
    assert reading["entry_speed_m_per_s"] == pytest.approx(12 * 0.44704)
    assert "30.1 km, 19.3 km/h at its foot: climbed" in demo.get(f"{demo.base}baseline/readings/").content.decode()
    assert demo.post(f"{demo.base}readings/hill/", {"hill": f"{key}:9.0", "outcome": "flew"}).status_code == 422


@pytest.mark.parametrize(
    ("kind", "typed", "line"),
    [
        ("roll_out", {"distance_m": "6.2 m", "turns": "3"}, "Rolled 6.2 m in 3 turns"),
        ("rpm_speed", {"rpm": "7000", "speed_m_per_s": "75", "gear": "4"}, "75.0 km/h in gear 4"),
        ("top_speed", {"speed_m_per_s": "83 mph"}, "Top speed seen: 133.6 km/h"),
    ],
)
def test_what_was_seen_on_the_road_narrows_the_top_speed(demo, kind, typed, line):
    width = lambda: (lambda f: f.high - f.low)(bench_of(demo).kept.figures["drive.top_speed"])  # noqa: E731
    before = width()
    assert demo.post(f"{demo.base}readings/{kind}/", typed).status_code == 302
    assert width() < before
    assert line in demo.get(f"{demo.base}baseline/readings/").content.decode()
    for bad in ({}, dict.fromkeys(typed, "-1"), dict.fromkeys(typed, "1e9"), dict.fromkeys(typed, "quick")):
        answer = demo.post(f"{demo.base}readings/{kind}/", bad)
        assert answer.status_code == 422
        assert 'class="error"' in answer.content.decode()


def test_a_lap_of_the_stand_in_sets_the_pace_and_is_struck_out_again(demo):
    before = bench_of(demo).kept
    assert demo.post(f"{demo.base}stand-in-lap/").status_code == 302
    ridden = bench_of(demo).kept
    assert len(ridden.behind.up.lap.ride_input.pace_by_ground) == len(GROUNDS)
    assert ridden.value("drive.lap_time") != before.value("drive.lap_time")
    page = demo.get(f"{demo.base}baseline/readings/").content.decode()
    assert "as ridden, to" in page
    assert "A lap ridden in" in page
    reading = Reading.objects.last()
    demo.post(f"{demo.base}strike/{reading.pk}/", {"struck": "1"})
    assert bench_of(demo).kept.value("drive.lap_time") == before.value("drive.lap_time")


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "file is empty"),
        (b"\x89PNG", "not a readable GPX"),
        (course_bytes("brackenmere"), "no readable time"),
        (course_bytes("saltern-ridden"), "somewhere else"),
        (course_bytes("saltern-ridden")[:40_000], "breaks off"),
    ],
)
def test_a_recording_that_is_no_lap_of_this_course_is_refused(demo, content, words):
    key = stage_of(demo)["course_key"]
    count = Reading.objects.count()
    answer = demo.post(
        f"{demo.base}readings/ridden_lap/", {"course": key, "file": SimpleUploadedFile("ride.gpx", content)}
    )
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert Reading.objects.count() == count


def test_a_course_shows_its_heights_changes_their_source_and_goes_out_the_same(demo):
    course = Course.objects.get()
    address = reverse("bench:course", args=[course.pk])
    page = demo.get(address).content.decode()
    assert "as recorded" in page
    assert "If every point were believed" in page
    climb = bench_of(demo).kept.value("purpose.climb")
    fuel = bench_of(demo).kept.figures["range.k"].readings
    assert fuel
    for out, read in (
        ("bench:course-gpx", lambda d: read_gpx(d).latitude_deg),
        ("bench:course-geojson", lambda d: [p[1] for p in json.loads(d)["features"][0]["geometry"]["coordinates"]]),
    ):
        found = read(demo.get(reverse(out, args=[course.pk])).content)
        assert np.abs(np.subtract(found, track().latitude_deg)).max() * 111_195 < 0.01
    told = json.loads(demo.get(reverse("bench:course-geojson", args=[course.pk]) + f"?race={demo.race.pk}").content)
    assert any(f["properties"].get("name") == "Sow's Back" for f in told["features"])
    assert demo.post(address, {"heights": "barometer"}).status_code == 302
    now = bench_of(demo).kept
    assert now.value("purpose.climb") > climb
    assert now.figures["range.k"].readings == fuel  # the fill-up follows its course
    assert now.value("purpose.lap_distance") == pytest.approx(41_530, abs=20)
    demo.post(address, {"heights": "guess"}, follow=True)
    assert Course.objects.get().blob_id == stage_of(demo)["course_key"]


def test_the_metre_table_adds_up_and_its_csv_holds_every_step(demo):
    work = bench_of(demo).kept.behind.up
    rows = metre_rows(DriveInput.of(work), length_m=100.0)
    assert sum((r.to_m - r.from_m) / r.speed_m_per_s for r in rows) == pytest.approx(work.lap.whole.lap_time_s)
    page = demo.get(f"{demo.base}drive/metres/?rows=100&at=21900").content.decode()
    assert "does not pull" in page
    assert demo.get(f"{demo.base}drive/metres/?rows=nonsense&at=-5").status_code == 200
    lines = list(csv.reader(io.StringIO(demo.get(f"{demo.base}drive/metres/?as=csv").content.decode())))
    assert len(lines) == work.around.whole.sine.size + 1
    assert {line[2] for line in lines[1:]} <= set(GROUNDS)
    assert max(float(line[4]) for line in lines[1:]) / 3.6 == pytest.approx(
        work.lap.whole.speed_m_per_s.max(), rel=0.01
    )


def test_invented_weather_fills_the_form_and_keeps_nothing(demo):
    before = Race.objects.get().document
    page = demo.get(reverse("races:race", args=[demo.race.pk]) + "?weather=1").content.decode()
    assert "nobody's forecast" in page
    assert Race.objects.get().document == before
    field = lambda name: re.search(rf'name="race\.air\.{name}" value="([^"]*)"', page)  # noqa: E731
    assert field("wind_m_per_s").group(1) != ""
    assert field("temperature_low_k").group(1) != "3"


def test_later_laps_may_differ(demo):
    change = reverse("races:change-stage", args=[demo.race.pk, 0])
    demo.post(change, {"split": "1"})
    stages = Race.objects.get().document["stages"]
    assert [s.get("laps") for s in stages] == [1, 2]
    assert stages[0]["ground"] == stages[1]["ground"]
    demo.post(
        reverse("races:change-stage", args=[demo.race.pk, 1]),
        {"stage.laps": "2", "stage.state": "cut_up", "stage.name": "after the field"},
    )
    report = bench_of(demo).kept
    first, later = (r.lap_time_s for r in report.behind.up.lap.rides)
    assert later > 1.03 * first
    assert demo.post(change, {"split": "1"}, follow=True).status_code == 200
    assert len(Race.objects.get().document["stages"]) == 2


def facts(client, **typed):
    bike = Bike.objects.get()
    address = reverse("bikes:facts", args=[bike.pk])
    form = client.get(address).context["form"]
    shown = {n: form[n].value() for n in form.fields}
    shown = {
        n: form.fields[n].prepare_value(v) if hasattr(form.fields[n], "prepare_value") else v for n, v in shown.items()
    }
    return client.post(address, {n: v for n, v in shown.items() if v is not None} | typed)


def test_torque_and_gears_are_typed_as_lines_and_stay_when_other_facts_change(demo):
    table = "3000 24\n5000,0 31\n7000 40,5\n8500 38"
    assert (
        facts(
            demo,
            **{
                "bike.engine.torque_table": table,
                "bike.transmission.others": "close; ; 2.0 1.7 1.5 1.3 1.15 1.0",
                "bike.tyre.inside": "mousse",
            },
        ).status_code
        == 302
    )
    document = Bike.objects.get().document
    assert document["engine"]["torque_table"][2] == {"rpm": 7000.0, "torque_nm": 40.5}
    assert document["transmission"]["others"][0]["name"] == "close"
    assert facts(demo, **{"bike.name": "Quern again"}).status_code == 302
    assert Bike.objects.get().document["engine"]["torque_table"] == document["engine"]["torque_table"]
    page = demo.get(f"{demo.base}drive/").content.decode()
    assert "close" in page
    assert "Faster than the rear tyre is made for" in page  # 133 km/h on a foam insert


@pytest.mark.parametrize(
    ("field", "typed", "words"),
    [
        ("bike.engine.torque_table", "4000 22\n3000 21\n5000 25", "Revs must rise"),
        ("bike.engine.torque_table", "4000", "Write each line as revs"),
        ("bike.engine.torque_table", "4000 22\n5000 25", "At least"),
        ("bike.engine.torque_table", "4000 22\n5000 900\n6000 20", "Line 2:"),
        ("bike.transmission.others", "wide 2.9 2.4", "Write each line as name"),
        ("bike.transmission.others", "wide; 2.9; 1.0 2.0", "smaller than the one before"),
    ],
)
def test_lines_that_cannot_be_are_refused_and_stay_typed(demo, field, typed, words):
    before = Bike.objects.get().document
    answer = facts(demo, **{field: typed})
    assert answer.status_code == 422
    page = answer.content.decode()
    assert words in page
    assert typed.splitlines()[0] in page
    assert Bike.objects.get().document == before


# long courses -----------------------------------------------------------------------------------------------------------
def test_the_ribbon_shows_a_day_or_a_stage_alone_and_stays_there(whole):
    """Chosen once it is kept over rooms and stations; words of places are those of what is shown; nonsense is all of it."""
    race = Race.objects.get(name="Gannach timed day")
    stages = race.document["stages"]
    stages[1]["park_after"] = True
    Race.objects.filter(pk=race.pk).update(document=race.document)
    pairing = Pairing.objects.get(race=race)
    base = f"/bench/{pairing.setup_id}/{race.pk}/"
    work = open_bench(pairing.setup, race)
    there = work.report.ask(windows)
    assert [(w.kind, w.number) for w in there] == [("day", 1), ("day", 2), *(("stage", n) for n in range(1, 5))]
    assert there[0].to_m == there[1].from_m == there[3].to_m
    assert (there[0].from_m, there[1].to_m) == (0.0, there[5].to_m)
    assert "day 2" in whole.get(f"{base}chassis/").content.decode()
    for zoom in range(1, 7):
        shown = whole.get(f"{base}drive/?zoom={zoom}").content.decode()
        least, most = map(float, re.search(r'id="scrub"[^>]*? min="([\d.]+)" max="([\d.]+)"', shown).groups())
        assert (least, most) == pytest.approx((there[zoom - 1].from_m, there[zoom - 1].to_m), abs=12.0)
        kept = whole.get(f"{base}range/stops/").content.decode()
        assert f'<option value="{zoom}" selected>' in kept
        words = whole.get(f"{base}along/").json()
        assert len(words) == 121
        for station in ("purpose", "baseline", "damping", "fuelling", "range", "kit", "kit/cooling", "kit/electrics"):
            assert whole.get(f"{base}{station}/").status_code == 200, (zoom, station)
    assert 'min="0"' in whole.get(f"{base}drive/?zoom=99").content.decode()
    single = Pairing.objects.filter(race__name="Brackenmere three-lapper").first()
    assert 'id="zoom"' not in whole.get(f"/bench/{single.setup_id}/{single.race_id}/drive/?zoom=2").content.decode()


def test_a_long_course_is_laid_beside_the_page_that_waits_for_it(whole, monkeypatch):
    """A page of a race that is long waits and says how far it is; then it stands at once. What is refused, the page says."""
    race = Race.objects.get(name="Gannach timed day")
    pairing = Pairing.objects.get(race=race)
    base = f"/bench/{pairing.setup_id}/{race.pk}/"
    monkeypatch.setattr(laying, "LONG_M", 20_000.0)
    monkeypatch.setattr(laying, "_underway", {})
    held, go_on = threading.Event(), threading.Event()
    plain = laying.door.report_of

    def slowly(inputs, *args, **more):
        held.set()
        assert go_on.wait(60.0)
        return plain(inputs, *args, **more)

    with monkeypatch.context() as slow:
        slow.setattr(laying.door, "report_of", slowly)
        page = whole.get(f"{base}chassis/").content.decode()
        assert held.wait(60.0)
        assert "Laying the course" in page
        page = whole.get(f"{base}range/stops/").content.decode()
        assert "4 of 4 stages are laid" in page
        assert 'value="0.8"' in page
        slow.setattr(laying.door, "report_of", plain)
        go_on.set()
        assert laying._underway[race.pk, race.version].ended.wait(60.0)
    assert "Laying the course" not in whole.get(f"{base}chassis/").content.decode()
    # changed, it is another round; one that cannot be laid says so on its page
    Race.objects.filter(pk=race.pk).update(version=race.version + 1)
    Race.objects.filter(pk=race.pk).update(document=race.document | {"relay": {"longest_stint_s": 300.0}})
    whole.get(f"{base}chassis/")
    found = laying._underway[race.pk, race.version + 1]
    assert found.ended.wait(60.0)
    assert whole.get(f"{base}chassis/").status_code in (200, 422)
    assert whole.post(f"{base}chassis/keep/", {"version": "0"}).status_code != 500


def test_pits_are_laid_and_the_course_is_cut_at_them_for_a_team(demo):
    """One file, a pit every ten kilometres, cut: a stage for each piece, hand-overs at each pit; taken back in one press."""
    race = demo.race
    address = reverse("races:pits", args=[race.pk, 0])
    stage = stage_of(demo)
    assert "laps have their pits" in demo.post(address, {"cut": "1"}).content.decode() or not stage.get("refuel_points")
    race.document["stages"][0] = {k: v for k, v in stage.items() if k != "laps"}
    race.save()
    assert "There is no refuel point on it yet" in demo.post(address, {"cut": "1"}).content.decode()
    for typed, words in (("0", "Too small"), ("3 kg", "measures something else"), ("90 km", "Too large")):
        refused = demo.post(address, {"every_m": typed})
        assert (refused.status_code, words in refused.content.decode()) == (422, True), typed
    assert demo.post(address, {"every_m": "10 km", "name": "pit", "rate_m3_per_s": "40 L/min"}).status_code == 302
    points = stage_of(demo)["refuel_points"]
    assert [round(p["at_m"]) for p in points] == [10_000, 20_000, 30_000, 40_000][: len(points)]
    assert [p["name"] for p in points][:2] == ["pit 1", "pit 2"]
    page = demo.get(reverse("races:stage", args=[race.pk, 0])).content.decode()
    assert "Cut it at its pits" in page
    before = len(points)
    assert demo.post(address, {"cut": "1"}).status_code == 302
    race.refresh_from_db()
    stages = race.document["stages"]
    assert len(stages) == before + 1
    assert all(s["refuel_points"][0]["at_m"] == 0.0 for s in stages[1:])
    lengths = [Course.objects.get(garage=race.garage, blob_id=s["course_key"]).length_m for s in stages]
    assert sum(lengths) == pytest.approx(41_520, rel=2e-3)
    assert bench_of(demo).report.value("purpose.distance") == pytest.approx(sum(lengths), rel=1e-3)
    demo.post(reverse("races:undo", args=[race.pk, 0]), {"version": race.version})
    race.refresh_from_db()
    assert len(race.document["stages"]) == 1


def test_a_point_and_a_hill_are_changed_not_entered_anew(demo):
    race = demo.race
    hill = {"at_m": "12 km", "length_m": "60", "grade": "30", "ground": "rock", "name": "chimney"}
    item = reverse("races:item", args=[race.pk, 0, "hills"])
    before = len(stage_of(demo)["hills"])
    demo.post(item, hill)
    made = next(h for h in stage_of(demo)["hills"] if h.get("name") == "chimney")
    page = demo.get(reverse("races:stage", args=[race.pk, 0]), {"change": mark_of(made)}).content.decode()
    assert "Keep the change" in page
    assert 'value="chimney"' in page
    bad = demo.post(item, hill | {"grade": "steep", "mark": mark_of(made)})
    assert bad.status_code == 422
    demo.post(item, hill | {"name": "flue", "mark": mark_of(made)})
    names = [h.get("name") for h in stage_of(demo)["hills"]]
    assert names.count("flue") == 1
    assert "chimney" not in names
    assert len(names) == before + 1
    # changed elsewhere meanwhile: said, and nothing is lost
    assert demo.post(item, hill | {"mark": mark_of(made)}).status_code == 409
    # another one on the same ground is told
    demo.post(item, hill | {"at_m": "12.03 km", "name": "chimney"})
    assert "Two hills lie on the same ground" in demo.get(reverse("races:stage", args=[race.pk, 0])).content.decode()


def test_a_new_race_keeps_its_file_over_a_refusal_and_takes_a_team(demo):
    """Refused for a word elsewhere, the course is kept by its file's name and chosen; a team is ticked on the same page."""
    plain = re.sub(rb"<name>.*?</name>", b"", course_bytes())
    other = Rider.objects.create(
        garage=demo.race.garage, name="Second", document={"name": "Second", "mass_in_gear_kg": 80.0}
    )
    typed = {
        "race.name": "Long one", "race.start": "2027-06-01T06:00", "race.air.temperature_low_k": "10",
        "race.air.temperature_high_k": "warm", "rider": str(demo.race.rider_id), "others": [str(other.pk)], "team": "on",
        "heights": "barometer",
    }  # fmt: skip
    refused = demo.post("/races/new/", typed | {"file": SimpleUploadedFile("gorge-880.gpx", plain)})
    page = refused.content.decode()
    assert refused.status_code == 422
    assert "kept as gorge-880" in page
    known = Course.objects.get(name="gorge-880")
    assert f'<option value="{known.pk}" selected' in page
    demo.post("/races/new/", typed | {"race.air.temperature_high_k": "24", "known": str(known.pk), "stage.laps": "2"})
    race = Race.objects.get(name="Long one")
    assert [o.name for o in race.others.all()] == ["Second"]
    assert race.document["relay"] == {}
    assert Course.objects.filter(name="gorge-880").count() == 1


def test_a_race_is_copied_for_next_year_and_a_flat_file_says_so(demo):
    demo.post(reverse("races:copy", args=[demo.race.pk]))
    copied = Race.objects.exclude(pk=demo.race.pk).get()
    assert copied.start.year == demo.race.start.year + 1
    assert (copied.rider, copied.course) == (demo.race.rider, demo.race.course)
    assert copied.document["stages"] == demo.race.document["stages"]
    flat = SimpleUploadedFile("flat.gpx", re.sub(rb"<ele>.*?</ele>", b"", course_bytes()))
    said = demo.post(reverse("races:add-stage", args=[copied.pk]), {"file": flat, "heights": "barometer"}, follow=True)
    assert "This file holds no heights" in said.content.decode()


def test_several_files_and_an_archive_make_a_stage_each(demo):
    """By their names; kept over a refusal; what is no archive says so; twenty-one are too many."""
    pieces = cut_track(read_gpx(course_bytes(), heights="barometer"), [15_000.0])
    files = {f"{n}.gpx": write_gpx(t) for n, t in zip(("02 col", "01 up"), pieces, strict=True)}
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as out:
        for name, data in files.items():
            out.writestr(name, data)
    typed = {
        "race.name": "Two files", "race.start": "2027-06-01T06:00", "race.air.temperature_low_k": "10",
        "race.air.temperature_high_k": "warm", "rider": str(demo.race.rider_id), "heights": "barometer",
    }  # fmt: skip
    sent = SimpleUploadedFile("days.zip", packed.getvalue())
    refused = demo.post("/races/new/", typed | {"file": sent}).content.decode()
    kept = re.findall(r'name="kept" value="(\d+)"', refused)
    assert len(kept) == 2
    demo.post("/races/new/", typed | {"race.air.temperature_high_k": "24", "kept": kept})
    made = Race.objects.get(name="Two files")
    lengths = [
        Course.objects.get(garage=made.garage, blob_id=s["course_key"]).length_m for s in made.document["stages"]
    ]
    assert lengths == pytest.approx([41_520 - 15_000, 15_000], rel=2e-3)
    both = [SimpleUploadedFile(n, d) for n, d in files.items()]
    demo.post(reverse("races:add-stage", args=[made.pk]), {"file": both, "heights": "barometer"})
    made.refresh_from_db()
    assert len(made.document["stages"]) == 4
    for bad, words in ((b"PK nonsense", "cannot be opened"), (b"", "empty")):
        answer = demo.post("/races/new/", typed | {"file": SimpleUploadedFile("x.zip", bad)})
        assert (answer.status_code, words in answer.content.decode()) == (422, True), words
    many = io.BytesIO()
    with zipfile.ZipFile(many, "w") as out:
        for n in range(21):
            out.writestr(f"{n:02}.gpx", files["01 up.gpx"])
    assert demo.post("/races/new/", typed | {"file": SimpleUploadedFile("m.zip", many.getvalue())}).status_code == 422
