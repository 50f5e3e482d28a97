"""Fuelling's own pages: jets and weather, diagnosis, map and logs, dyno; with what a tired hand types wrong."""

import json
import re

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from lynxwort.core.standin import bench_dyno
from lynxwort.demo import scenario
from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.models import Bike, Draft, Setup
from lynxwort.web.jobs import uploads, worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Race
from lynxwort.web.readings.models import Reading
from lynxwort.web.stations.fuelling import maps
from tests.demo import OPEN, load
from tests.support import unled
from tests.web.forms import sent_back

HX = {"HTTP_HX-Request": "true"}


def text(answer) -> str:
    return unled(answer.content.decode())


def upload(name: str, body: str) -> SimpleUploadedFile:
    return SimpleUploadedFile(name, body.encode(), content_type="text/csv")


def bench_of(client):
    return open_bench(
        Setup.objects.select_related("bike__garage", "head", "draft").get(pk=client.setup.pk), client.race
    )


def log_text(rows: int = 1500, head: str = "time s;rpm;throttle %;lambda") -> str:
    lines = [head]
    for i in range(rows):
        lines.append(
            f"{0.05 * i:.2f};{5000 + 1500 * ((i // 40) % 3)};{30 + 20 * ((i // 120) % 3)};{0.93 + 0.002 * (i % 5):.3f}"
        )
    return "\n".join(lines)


def run_jobs() -> None:
    while worker.run_next():
        pass


# jets and weather --------------------------------------------------------------------------------------------------------
def test_the_jets_page_tells_when_and_its_sets_can_be_tried(demo):
    page = text(demo.get(f"{demo.base}fuelling/jets/"))
    assert "168 is safe down to" in page
    assert "colder or higher pressure: 170" in page
    assert "a metering rod that evens out by itself" in page
    assert "196 mL / 6.6 fl oz" in page
    version = Draft.objects.get().version
    answer = demo.post(
        f"{demo.base}fuelling/notch/",
        {"version": version, "moves": json.dumps([["main_jet", 168.0], ["needle_clip", 3], ["pilot_jet", 48.0]])},
    )
    assert answer.status_code == 200
    assert Draft.objects.get().values["main_jet"] == 168.0
    card = text(demo.get(f"{demo.base}card/"))
    assert "If the air changes" in card
    assert "168 is safe down to" in card


def test_jets_open_where_no_set_is_safe(demo):
    """0.8.0: 500."""
    Draft.objects.update(
        values=Draft.objects.get().values | {"main_jet": 105.0, "pilot_jet": 20.0, "needle_clip": 1, "airbox": 2}
    )
    OwnedPart.objects.all().delete()
    page = text(demo.get(f"{demo.base}fuelling/jets/"))
    assert "is safe down to" not in page
    assert text(demo.get(f"{demo.base}card/"))


def test_a_two_strokes_cans_labels_and_card_always_say_where_the_oil_is(demo):
    assert "50 : 1, " in text(demo.get(f"{demo.base}fuelling/jets/"))
    bike = Bike.objects.get()
    values = {k: v for k, v in Draft.objects.get().values.items() if k != "premix_ratio"}
    Draft.objects.update(values=values)
    demo.post(f"{demo.base}fuelling/keep/", {"version": Draft.objects.get().version, "reason": "oil tank"}, **HX)
    for pages in (f"{demo.base}fuelling/jets/", f"{demo.base}card/"):
        assert "ask before filling" in text(demo.get(pages)), pages
    assert any(f.code == "lubrication_unasked" for f in bench_of(demo).kept.findings)
    bike.document["engine"] |= {"lubrication": "oil_tank", "oil_tank_m3": 0.0006}
    bike.save()
    for pages in (f"{demo.base}fuelling/jets/", f"{demo.base}card/"):
        assert "no oil in" in text(demo.get(pages)), pages


@pytest.mark.parametrize(
    ("can", "words"),
    [("0", "Too small"), ("5 kg", "measures something else"), ("x", "Not a number"), ("900 L", "Too large")],
)
def test_a_can_that_cannot_be_is_refused(demo, can, words):
    answer = demo.get(f"{demo.base}fuelling/jets/", {"can": can})
    assert answer.status_code == 422
    assert words in text(answer)
    assert can in text(answer)


def test_an_electric_bike_has_none_of_these_pages(db, client):

    from lynxwort.web.evaluation import door
    from lynxwort.web.garages.models import User

    load("hollowood")
    door._ready.set()
    client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
    base = f"/bench/{Setup.objects.get().pk}/{Race.objects.get().pk}/"
    assert [client.get(f"{base}fuelling/{p}/").status_code for p in ("jets", "diagnose", "map", "dyno")] == [404] * 4


# what was never said, and what is set by slots --------------------------------------------------------------------------------
def test_a_value_never_said_is_typed_once_and_then_steps(demo):
    page = text(demo.get(f"{demo.base}fuelling/", HTTP_X_OPEN=OPEN))
    assert "not said" in page
    version = Draft.objects.get().version
    answer = demo.post(
        f"{demo.base}fuelling/notch/", {"version": version, "tunable": "slide_cutaway", "typed": "6"}, **HX
    )
    assert answer.status_code == 200
    assert Draft.objects.get().values["slide_cutaway"] == 6.0
    assert "Slide cutaway not said → 6" in " ".join(text(answer).split())
    back = {"version": Draft.objects.get().version, "tunable": "slide_cutaway"}
    assert demo.post(f"{demo.base}fuelling/put-back/", back, **HX).status_code == 200
    assert "slide_cutaway" not in Draft.objects.get().values


def test_an_airbox_by_its_name_leans_and_says_so(demo):
    version = Draft.objects.get().version
    page = text(demo.post(f"{demo.base}fuelling/notch/", {"version": version, "moves": '[["airbox", 2]]'}, **HX))
    assert "lid off" in page
    assert "its own → lid off" in " ".join(page.split())
    bench = bench_of(demo)
    assert bench.report.value("fuelling.lean_margin_min") < bench.kept.value("fuelling.lean_margin_min") - 0.03


# diagnosis -----------------------------------------------------------------------------------------------------------------
def test_a_symptom_is_ranked_kept_and_leans_nothing(demo):
    said = {"symptom": "hangs_idle", "zone": "closed", "engine": "hot", "load": "any", "plug": "white"}
    page = text(demo.get(f"{demo.base}fuelling/diagnose/", said))
    assert "It sounds lean" in page
    assert page.index("Air leak") < page.index("Pilot circuit lean")
    assert demo.post(f"{demo.base}fuelling/diagnose/", said).status_code == 302
    assert Reading.objects.filter(document__kind="feel").count() == 1
    assert "Felt: idle hangs" in text(demo.get(f"{demo.base}fuelling/"))
    assert demo.get(f"{demo.base}fuelling/diagnose/", {"symptom": "explodes", "zone": "closed"}).status_code == 422


# map and logs -----------------------------------------------------------------------------------------------------------------
def test_a_log_goes_in_is_kept_and_its_trims_bring_the_error_down(injected):
    answer = injected.post(f"{injected.base}fuelling/map/", {"file": upload("log.csv", log_text()), "gauge": "14.7"})
    assert answer.status_code == 302
    assert "% of the log" in text(injected.get(answer["Location"], **HX))
    run_jobs()
    job = Job.objects.get(kind="log")
    assert not list(uploads.folder().iterdir())
    page = text(injected.get(f"{injected.base}fuelling/map/?job={job.pk}", **HX))
    assert "Keep it as a reading" in page
    assert injected.post(f"{injected.base}fuelling/map/take/", {"keep": job.pk}).status_code == 302
    before = bench_of(injected).report.value("fuelling.trim_rms")
    answer = injected.post(f"{injected.base}fuelling/map/take/", {"trims": "1", "version": Draft.objects.get().version})
    assert answer.status_code == 302
    bench = bench_of(injected)
    assert bench.changed == ["map_trims"]
    assert bench.report.value("fuelling.trim_rms") < before
    assert "cells" in text(injected.get(f"{injected.base}fuelling/"))
    rows = text(injected.get(f"{injected.base}fuelling/map/trims.csv")).splitlines()
    assert len(rows) == 11
    assert len(rows[3].split(",")) == 9


def test_unknown_columns_are_asked_for_and_then_read(injected):
    odd = log_text(head="a;b;c;d")
    answer = injected.post(f"{injected.base}fuelling/map/", {"file": upload("odd.csv", odd), "gauge": "14.7"})
    page = text(answer)
    assert "Which column is what?" in page
    token = page.split('name="token" value="')[1].split('"')[0]
    short = injected.post(f"{injected.base}fuelling/map/", {"token": token, "gauge": "14.7", "time": "0", "rpm": "1"})
    assert short.status_code == 422
    assert "are needed" in text(short)
    answer = injected.post(
        f"{injected.base}fuelling/map/",
        {"token": token, "gauge": "14.7", "time": "0", "rpm": "1", "throttle": "2", "lambda": "3"},
    )
    assert answer.status_code == 302
    run_jobs()
    assert Job.objects.get(kind="log").result["samples"] == 1500


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ("nothing here", "No table in this file"),
        ("", "empty"),
        (log_text(40), "Too short"),
        (log_text() + "\n1.0;5000;30;0.9", "runs backwards"),
        (log_text() + "\n99;quick;30;0.9", "A word where a number should be"),
    ],
)
def test_a_broken_log_is_refused_with_its_row(injected, body, words):
    answer = injected.post(f"{injected.base}fuelling/map/", {"file": upload("log.csv", body), "gauge": "14.7"})
    if answer.status_code == 302:
        run_jobs()
        answer = injected.get(f"{injected.base}fuelling/map/?job={Job.objects.latest('pk').pk}")
        # a row is named where a row is to blame
        assert ("Line 150" in text(answer)) == (words != "Too short")
    else:
        assert answer.status_code == 422
    assert words in text(answer)
    assert (
        not Reading.objects.filter(document__kind="afr_log")
        .exclude(pk__in=Reading.objects.order_by("pk").values("pk")[:9])
        .exists()
    )


def test_another_garages_file_and_job_are_not_found(injected, stranger):
    token = maps.take_file(upload("log.csv", log_text()), garage=injected.setup.bike.garage_id + 1)
    answer = injected.post(
        f"{injected.base}fuelling/map/",
        {"token": token, "gauge": "14.7", "time": "0", "rpm": "1", "throttle": "2", "lambda": "3"},
    )
    assert answer.status_code == 422
    job = Job.objects.create(kind="log", input_key="x", state="done", payload={"setup": 9999}, result={"cells": []})
    assert injected.post(f"{injected.base}fuelling/map/take/", {"keep": job.pk}).status_code == 404
    assert injected.post(f"{injected.base}fuelling/map/take/", {"keep": "abc"}).status_code == 404


def test_the_stand_in_rides_live_is_stopped_and_goes_again(injected, monkeypatch):
    monkeypatch.setattr(maps, "LIVE_PAUSE_S", 0.0)
    answer = injected.post(f"{injected.base}fuelling/map/", {"stand_in": "1"})
    job = Job.objects.get(kind="live_log")
    injected.get(f"{answer['Location']}&cancel=1", **HX)
    run_jobs()
    job.refresh_from_db()
    assert job.state == "cancelled"
    injected.post(f"{injected.base}fuelling/map/", {"stand_in": "1"})
    run_jobs()
    job = Job.objects.filter(kind="live_log").latest("pk")
    assert job.state == "done"
    assert job.result["invented"]
    assert len(job.result["cells"]) > 25


def test_maps_by_ground_go_into_the_draft_or_say_why_not(injected):
    version = Draft.objects.get().version
    injected.post(f"{injected.base}fuelling/map/take/", {"ground": "rock 2\ndeep sand 1", "version": version})
    assert Draft.objects.get().values["map_by_ground"] == {"rock": 2, "deep_sand": 1}
    for typed, words in (("rock", "as ground and map"), ("lava 1", "as ground and map"), ("rock 7", "fewer maps")):
        page = text(
            injected.post(
                f"{injected.base}fuelling/map/take/",
                {"ground": typed, "version": Draft.objects.get().version},
                follow=True,
            )
        )
        assert words in page
    assert Draft.objects.get().values["map_by_ground"] == {"rock": 2, "deep_sand": 1}
    assert "moved on in another window" in text(
        injected.post(f"{injected.base}fuelling/map/take/", {"trims": "1", "version": 0}, follow=True)
    )


# dyno ------------------------------------------------------------------------------------------------------------------------
def test_runs_go_in_one_is_chosen_and_drive_follows(demo):
    engine, air = scenario.inputs().bike.engine, bench_of(demo).report.behind.up.day.states.middle_at_reading
    body = "\n".join(bench_dyno.run(engine, air, efficiency=0.9, seed=11, number=0))
    form = {
        "label": "van, before",
        "place": "wheel",
        "standard": "none",
        "power_unit": "kW",
        "temperature_k": "9",
        "pressure_pa": "955",
        "relative_humidity": "60",
    }
    assert demo.post(f"{demo.base}fuelling/dyno/", form | {"file": upload("run.csv", body)}).status_code == 302
    demo.post(f"{demo.base}fuelling/dyno/", {"stand_in": "1"})
    page = text(demo.get(f"{demo.base}fuelling/dyno/"))
    assert "van, before" in page
    assert "The runs repeat to" in page
    before = bench_of(demo).kept.value("drive.hill.1.run_up_speed")
    assert demo.post(f"{demo.base}fuelling/dyno/", {"choose": "4711"}).status_code == 404
    demo.post(
        f"{demo.base}fuelling/dyno/", {"choose": re.search(r'name="choose" value="([^"]{5,})"', page).group(1)}
    )  # as the page itself presses it
    after = bench_of(demo).kept.value("drive.hill.1.run_up_speed")
    assert after > before
    demo.post(f"{demo.base}fuelling/dyno/", {"choose": "0"})
    assert bench_of(demo).kept.value("drive.hill.1.run_up_speed") == before


@pytest.mark.parametrize(
    ("change", "body", "words"),
    [
        ({"temperature_k": ""}, "rpm,torque\n4000,20\n5000,22\n6000,24\n7000,23", "needs its air"),
        ({}, "hello", "No table"),
        ({}, "rpm,lambda\n4000,0.9\n5000,0.9\n6000,0.9\n7000,0.9", "torque"),
        ({}, "rpm,torque\n4000,20\n5000,21", "four steps"),
        ({"pressure_pa": "9 hPa"}, "rpm,torque\n4000,20\n5000,22\n6000,24\n7000,23", "Too small"),
    ],
)
def test_a_run_that_cannot_be_is_refused(demo, change, body, words):
    form = {
        "label": "",
        "place": "wheel",
        "standard": "none",
        "power_unit": "kW",
        "temperature_k": "12",
        "pressure_pa": "955",
        "relative_humidity": "",
    } | change
    answer = demo.post(f"{demo.base}fuelling/dyno/", form | {"file": upload("run.csv", body)})
    assert answer.status_code == 422
    assert words in text(answer)
    assert not Reading.objects.filter(document__kind="dyno").exists()


# the bike's facts ------------------------------------------------------------------------------------------------------------
def test_facts_of_the_carburettor_go_in_and_come_back(demo):
    address = f"/bikes/{Bike.objects.get().pk}/facts/"
    page = text(demo.get(address))
    assert "lid off; 1; 5; 1.01" in page
    typed = sent_back(page) | {
        "bike.engine.carburettor.needles": "N2; 2.90; 0=2.74 10=2.74 30=1.90",
        "bike.engine.carburettor.float_height_m": "10 mm",
        "bike.engine.head_inserts": "high; 11.3; 1.2\nlow; 9.2;",
    }
    answer = demo.post(address, typed)
    assert answer.status_code == 302, text(answer)
    document = Bike.objects.get().document
    assert document["engine"]["carburettor"]["needles"][0]["name"] == "N2"
    assert [h["compression_ratio"] for h in document["engine"]["head_inserts"]] == [11.3, 9.2]
    assert document["engine"]["fittings"][0]["place"] == "airbox"
    for field, value, words in (
        ("bike.engine.carburettor.needles", "N2; 2.9; 0=2.7 10=2.9", "does not grow thicker"),
        ("bike.engine.fittings", "roof; x; 1; 2; 1", "Write each line as place"),
        (
            "bike.engine.head_inserts",
            "low; 9.2\nhigh; x",
            "Line 2: “x” is not a number. Write each line as name; compression",
        ),
        ("bike.engine.ignition_maps", "soft; x; 1; 1", "degrees earlier"),
    ):
        refused = demo.post(address, sent_back(text(demo.get(address))) | {field: value})
        assert refused.status_code == 422
        assert words in text(refused)
        assert value in text(refused)


def test_the_sheet_for_the_van_door_is_of_the_bike_whatever_race(demo):
    bike = Bike.objects.get()
    assert f"/bikes/{bike.pk}/van-door/" in demo.get(f"/bikes/{bike.pk}/").content.decode()
    page = text(demo.get(f"/bikes/{bike.pk}/van-door/"))
    assert "From 165, which ran right at 8 °C and 960 hPa" in page
    assert page.count('class="kept">165<') > 5
    assert "A lean two-stroke seizes." in page
    # nothing ran right: no jet is said
    bike.readings.all().delete()
    bare = text(demo.get(f"/bikes/{bike.pk}/van-door/"))
    assert "Nothing ran right on this bike yet." in bare
    assert "<table" not in bare


def test_a_bike_without_jets_has_no_sheet_of_them(injected):
    page = text(injected.get(f"/bikes/{Bike.objects.get().pk}/van-door/"))
    assert "This bike has no main jet." in page


def test_a_usual_change_is_added_put_on_and_leans_the_engine(demo):
    """From the page of usual changes to its notch: once, with the law where the press is; a code of no list is refused."""
    address = f"/bikes/{demo.setup.bike_id}/changes/"
    page = demo.get(address).content.decode()
    assert page.count("Check your local rules.") >= 5
    assert "Swept volume" in page
    for _twice in range(2):
        assert demo.post(address, {"code": "lid_off"}).status_code == 302
    assert [f["name"] for f in Bike.objects.get().document["engine"]["fittings"]].count("airbox without its lid") == 1
    assert "Choose one of the list" in demo.post(address, {"code": "turbine"}, follow=True).content.decode()
    slot = 1 + sum(f["place"] == "airbox" for f in Bike.objects.get().document["engine"]["fittings"])
    version = Draft.objects.get(setup=demo.setup).version
    answer = demo.post(
        f"{demo.base}fuelling/notch/", {"version": version, "moves": f'[["airbox", {slot}]]'}, HTTP_HX_REQUEST="true"
    ).content.decode()
    assert "airbox without its lid" in answer
    assert "Lean margin" in answer.split('class="effects"')[1]
