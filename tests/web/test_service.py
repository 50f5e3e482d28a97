"""Gate and service through their doors: a crack stops everything, hours are typed, a clock moves, photos lose their place."""

import io
import re
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from icalendar import Calendar
from PIL import Image

from lynxwort.core.errors import InputRefused
from lynxwort.core.stations.baseline.asked import gate_seen, service_seen, wear_seen
from lynxwort.core.units.convert import OPTIONS
from lynxwort.web.bench import standing
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bench.standing import standing_key
from lynxwort.web.bench.upload import place_inputs
from lynxwort.web.bikes.services import make_bike
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.runs import days
from lynxwort.web.service import photos, services
from lynxwort.web.service.models import Photo, ServiceLine
from lynxwort.web.stations.baseline import doing
from lynxwort.words.service.checks import CHECKS
from lynxwort.words.service.parts import MEASURES, PARTS
from tests.logged import H, a_log, check, meter, part
from tests.support import demo_inputs
from tests.web.test_trials import bench_of, text


def found(client, check, result, **more):
    form = {"result": result, "name": str(uuid.uuid4())} | more
    return client.post(f"{client.base}baseline/gate/{check}/", form)


def written(client, what, path="", **more):
    return client.post(f"{client.base}baseline/service/{path}", {"what": what, "line": str(uuid.uuid4())} | more)


def pressed(client, line, do, **more):
    return client.post(f"{client.base}baseline/service/line/{line.uid}/", {"do": do} | more)


def report(client):
    return bench_of(client).kept


def test_a_crack_stops_everything_until_it_is_mended(demo):
    """Nothing is judged, the card says so first, no trial begins; mended and checked, all is as it was."""
    found(demo, "frame", "pass")
    before = report(demo).to_json()
    answer = found(demo, "frame", "fail", note="hairline crack, left peg", next="throttle")
    assert answer["Location"].endswith("/gate/throttle/")
    stopped = report(demo)
    assert set(stopped.not_judged) == set(stopped.verdicts) - {"baseline"}
    page = text(demo.get(f"{demo.base}drive/"))
    assert "Not judged: frame, pegs, bolts" in page
    assert "nothing proposed, while this is not sound" in page
    why = text(demo.get(f"{demo.base}why/drive.top_speed/"))
    assert "not judged" in why
    assert "Frame, pegs, bolts failed" in why
    card = text(demo.get(f"{demo.base}card/")).split("card-paper")[1]
    assert card.index("Do not ride: frame") < card.index("too lean")
    assert re.search(r"Before anyone rides: check.*Frame, pegs, bolts.*Brakes", card)
    plan = text(demo.get(f"{demo.base}trials/plan/"))
    assert "nothing is tried on this bike" in plan or "nothing to try" in plan
    gate = text(demo.get(f"{demo.base}baseline/gate/"))
    assert "hairline crack, left peg" in gate
    found(demo, "frame", "pass")
    assert report(demo).to_json() == before


def test_pressed_twice_it_is_one_line_and_a_fail_from_the_page_before_is_never_lost(demo):
    name = str(uuid.uuid4())
    for _twice in range(2):
        found(demo, "brakes", "pass", name=name)
    assert ServiceLine.objects.count() == 1
    found(demo, "brakes", "fail", name=name)
    assert [r.document["result"] for r in ServiceLine.objects.order_by("pk")] == ["pass", "fail"]
    assert report(demo).figures["baseline.gate.failed"].value == 1


def test_the_log_changes_nothing_that_is_ridden(demo):
    setup, race = bench_of(demo).setup, bench_of(demo).race
    before = assembled.assemble(setup, race, setup.draft.values)
    written(demo, "ride", time_s="2.5")
    setup = bench_of(demo).setup
    after = assembled.assemble(setup, race, setup.draft.values)
    assert door.ridden_key(before) == door.ridden_key(after)
    assert after.service.rides[0].time_s == 2.5 * H


def test_hours_are_typed_a_piston_falls_due_is_changed_and_its_clock_goes_to_another_bike(demo):
    bike = demo.setup.bike
    assert written(demo, "ride", meter_s="112 h").status_code == 302
    assert written(demo, "ride", time_s="6", day="2027-04-10", name="sand pit").status_code == 302
    assert written(demo, "part", kind="piston", fitted_s="80", name="single ring").status_code == 302
    page = text(demo.get(f"{demo.base}baseline/service/"))
    assert re.search(r"118.0 h.*Due before.*Piston and rings: single ring.*2.0 h left, the race takes", page, re.DOTALL)
    assert "118.0 h" in text(demo.get(f"/bikes/{bike.pk}/"))
    piston = ServiceLine.objects.get(kind="part")
    assert pressed(demo, piston, "done", fate="sound").status_code == 302
    old, new = ServiceLine.objects.filter(kind="part").order_by("pk")
    assert (old.document["fate"], old.document["ended_s"]) == ("sound", 38 * H)
    assert (new.document["fitted_s"], new.document["name"]) == (118 * H, "single ring")
    # a page that was open elsewhere presses again: the old one came off already
    assert pressed(demo, old, "done", fate="failed").status_code == 302
    old.refresh_from_db()
    assert (old.document["fate"], ServiceLine.objects.filter(kind="part").count()) == ("sound", 2)
    written(demo, "ride", time_s="4")
    other = make_bike(bike.garage, bike.document | {"name": "Second"}, bench_of(demo).setup.head.values)
    services.write(other, "ride", {"meter_s": 20 * H})
    there = services.write(other, "part", {"kind": "piston", "fitted_s": 0.0})
    assert pressed(demo, new, "move", to=other.pk).status_code == 302
    moved = ServiceLine.objects.filter(bike=other, kind="part").order_by("pk")
    assert [(p.document.get("fate"), p.document.get("ended_s"), p.document.get("carried_s")) for p in moved] == [
        ("sound", 20 * H, None), (None, None, 4 * H),
    ]  # fmt: skip
    there.refresh_from_db()
    assert "piston" not in {p.kind for p in report(demo).ask(service_seen).log.parts.values()}
    assert pressed(demo, new, "move", to=other.pk, follow=True).status_code == 302  # gone: said, and nothing done
    assert ServiceLine.objects.filter(bike=other, kind="part").count() == 2


def test_a_day_that_a_part_ended_becomes_that_parts_failure_and_its_hours(demo):
    day = days.begin(
        bench_of(demo).setup, bench_of(demo).race,
        {"rider": "Wren", "name": "autumn round", "time_s": 2 * H, "ended": "part", "ended_part": "piston skirt"},
    )  # fmt: skip
    written(demo, "part", kind="piston", fitted_s="0")
    page = text(demo.get(f"{demo.base}baseline/service/"))
    assert "Write its 2.0 h down" in page
    assert "was ended by piston skirt. Which part failed?" in page
    for _twice in range(2):
        demo.post(f"{demo.base}baseline/service/", {"what": "day", "day": str(day.uid)})
    assert ServiceLine.objects.filter(kind="ride").count() == 1
    piston = ServiceLine.objects.get(kind="part")
    demo.post(f"{demo.base}baseline/service/", {"what": "day", "day": str(day.uid), "part": str(piston.uid)})
    piston.refresh_from_db()
    assert (piston.document["fate"], piston.document["ended_s"]) == ("failed", 2 * H)
    assert "autumn round was ended" not in text(demo.get(f"{demo.base}baseline/service/"))


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"what": "ride"}, "Say how long it was ridden"),
        ({"what": "ride", "time_s": "-3"}, "Too small"),
        ({"what": "ride", "time_s": "4 kg"}, "unit"),
        ({"what": "ride", "meter_s": "1e9"}, "Too large"),
        ({"what": "ride", "time_s": "3", "day": "tomorrow"}, "day"),
        ({"what": "part", "kind": "cam_chain"}, "not one of the available choices"),
        ({"what": "part", "kind": "piston", "fitted_s": "many"}, "number"),
        ({"what": "about", "practice_s": "300 h"}, "Too large"),
    ],
)
def test_what_cannot_be_is_refused_in_words_and_nothing_is_lost(demo, form, words):
    answer = demo.post(f"{demo.base}baseline/service/", form | {"line": str(uuid.uuid4()), "name": "kept words"})
    assert answer.status_code == 422
    assert words in text(answer)
    if form["what"] != "about":
        assert "kept words" in text(answer)
    assert not ServiceLine.objects.exists()


def test_a_track_counts_while_it_moves_and_a_broken_one_says_where(demo):
    def gpx(*seconds):
        points = "".join(
            f'<trkpt lat="{50 + min(k, 20) * 0.0005:.5f}" lon="0"><ele>1</ele><time>2027-04-01T10:{s // 60:02d}:{s % 60:02d}Z</time></trkpt>'
            for k, s in enumerate(seconds)
        )
        return f'<gpx xmlns="x"><trk><trkseg>{points}</trkseg></trk></gpx>'.encode()

    track = SimpleUploadedFile("r.gpx", gpx(*range(0, 300, 10)))  # the last nine fixes stand
    assert written(demo, "ride", track=track).status_code == 302
    assert ServiceLine.objects.get().document["time_s"] == 200.0
    bad = SimpleUploadedFile("r.gpx", b"<gpx><trk><trkseg><trkpt lat='1' lon='2'/><trkpt lat='1.1' lon='2'/>")
    assert written(demo, "ride", track=bad).status_code == 422


def test_laps_of_the_course_are_hours_that_wear_as_it_does(demo):
    assert written(demo, "ride", laps="2").status_code == 302
    ride = ServiceLine.objects.get().document
    assert ride["time_s"] == pytest.approx(2 * report(demo).value("drive.lap_time"))
    assert ride["basis"] == "course"
    assert 0.0 < ride["sand_share"] < 1.0


def a_picture(kind="JPEG", size=(2400, 1800), **more):
    made = io.BytesIO()
    Image.new("RGB", size, (120, 80, 40)).save(made, kind, **more)
    made.seek(0)
    return made


def test_a_photo_is_made_anew_without_its_place(demo):
    exif = Image.Exif()
    exif[0x0112] = 6  # on its side
    exif.get_ifd(0x8825)[2] = (50.0, 0.0, 0.0)
    exif[0x010F] = "Somebody's phone"
    sent = a_picture(exif=exif)
    assert b"phone" in sent.getvalue()
    found(demo, "frame", "fail", photo=SimpleUploadedFile("p.jpg", sent.getvalue()))
    kept = bytes(Photo.objects.get().data)
    seen = Image.open(io.BytesIO(kept))
    assert seen.size == (960, 1280)
    assert not seen.getexif()
    assert b"phone" not in kept
    line = ServiceLine.objects.get()
    answer = demo.get(f"{demo.base}baseline/gate/photo/{line.uid}/")
    assert (answer["Content-Type"], answer.content) == ("image/jpeg", kept)
    assert f"photo/{line.uid}/" in text(demo.get(f"{demo.base}baseline/gate/"))


@pytest.mark.parametrize(
    ("data", "code"), [(b"", "not_a_photo"), (b"GIF89a", "not_a_photo"), (b"\xff\xd8\xff\xe0broken", "not_a_photo")]
)
def test_what_is_no_photo_is_refused(data, code):
    with pytest.raises(InputRefused) as refused:
        photos.anew(data)
    assert refused.value.refusals[0].code == code


def test_a_picture_of_too_many_points_is_met_before_it_is_unpacked(monkeypatch):
    monkeypatch.setattr(photos, "MOST_PLAIN_POINTS", 1000)
    with pytest.raises(InputRefused) as refused:
        photos.anew(a_picture("PNG", (100, 100)).getvalue())
    assert refused.value.refusals[0].code == "photo_too_large"


def test_a_bought_bike_is_checked_as_one_and_says_what_it_still_needs(demo):
    demo.post(f"{demo.base}baseline/gate/", {"bought": "1"})
    page = text(demo.get(f"{demo.base}baseline/gate/"))
    assert "Piston by borescope" in page
    found(demo, "borescope", "fail", work_s="4.5", cost="220")
    found(demo, "bolts_paint", "look", work_s="1", cost="12")
    page = text(demo.get(f"{demo.base}baseline/gate/"))
    assert re.search(r"To sound: <b>5.5 h</b> of work, <b>232</b> of money; before the first ride 4.5 h", page)
    assert report(demo).not_judged["fuelling"] == "borescope"


def test_wear_and_bolts_through_their_forms_and_out_again(demo):
    base = f"{demo.base}baseline/service/"
    written(demo, "ride", meter_s="60")
    for form in (
        {"measure": "compression", "value_si": "11.2", "station_pa": "835"},
        {"measure": "ring_gap", "value_si": "0.36", "limit_si": "0.50 mm", "at_s": "55"},
        {"measure": "big_end", "seen": "not_felt"},
        {"measure": "spokes_rear", "tones_hz": "402, 398; 405 440"},
    ):
        assert demo.post(f"{base}wear/", form | {"line": str(uuid.uuid4())}).status_code == 302, form
    page = text(demo.get(f"{base}wear/"))
    assert re.search(r"11.2 bar, at the sea 13.6 bar", page)
    assert "limit 0.500 mm" in page
    assert demo.post(f"{base}wear/", {"measure": "spokes_rear", "tones_hz": "loud"}).status_code == 422
    assert demo.post(f"{base}wear/", {"measure": "valve_intake", "value_si": "1"}).status_code == 404
    bolt = {"name": "Rear rotor", "place": "rotor", "torque_nm": "14", "thread": "locked", "locker": "removable"}
    assert demo.post(f"{base}bolts/", bolt | {"line": str(uuid.uuid4())}).status_code == 302
    row = ServiceLine.objects.get(kind="bolt")
    pressed(demo, row, "tight")
    row.refresh_from_db()
    assert row.document["tight_s"] == 60 * H
    assert "locked: checked by its mark, not turned" in text(demo.get(f"{base}bolts/"))
    pressed(demo, row, "moved")
    assert "mark moved: out, clean, lock anew" in text(demo.get(f"{base}bolts/"))
    assert "Rear rotor: its paint mark moved" in text(demo.get(f"{demo.base}baseline/"))
    written(demo, "part", kind="brake_fluid", fitted_day="2025-04-01")
    written(demo, "part", kind="piston", fitted_s="10")
    assert "Piston and rings,,50.00,40.00" in text(demo.get(f"{base}hours.csv"))
    assert "compression,60.00,1.12e+06,Pa" in text(demo.get(f"{base}wear.csv"))
    events = Calendar.from_ical(demo.get(f"{base}due.ics").content).walk("VEVENT")
    assert {str(e["UID"]) for e in events} == {
        f"{p.uid}@lynxwort" for p in ServiceLine.objects.filter(kind="part")
    }  # fmt: skip


BENCHES = {"two_stroke": "Quern 293", "four_stroke": "Tarn 350i", "electric": "Vole E"}


def bare(page):
    """A page without its tags: words that are explained are buttons."""
    return re.sub(r"<[^>]+>", "", page)


def bench_on(client, bike):
    """The client on the bench of one of the demo's bikes, its base there."""
    pairing = Pairing.objects.filter(setup__bike__name=bike).order_by("pk").first()
    client.setup, client.race = pairing.setup, pairing.race
    client.base = f"/bench/{pairing.setup_id}/{pairing.race_id}/"
    return client


@pytest.mark.parametrize("kind", BENCHES)
def test_every_check_of_every_kind_of_engine_has_a_screen_and_leads_to_the_next(whole, kind):
    client = bench_on(whole, BENCHES[kind])
    client.post(f"{client.base}baseline/gate/", {"bought": "1"})
    names = [c.check.name for c in report(client).ask(gate_seen).checks]
    assert names[:2] == ["frame", "throttle"]
    name, seen = names[0], []
    while name:
        page = text(client.get(f"{client.base}baseline/gate/{name}/"))
        title, how, fails = CHECKS[name]
        assert all(words in bare(page) for words in (title, how, fails)), name
        assert page.count('name="result"') == 3
        following = re.search(r'name="next" value="(\w*)"', page)[1]
        seen.append(name)
        answer = found(client, name, "pass", next=following)
        assert answer["Location"] == f"{client.base}baseline/gate/{following + '/' if following else ''}"
        name = following
    assert sorted(seen) == sorted(names)
    page = text(client.get(f"{client.base}baseline/gate/"))
    assert "all checked" in page
    assert not report(client).ask(gate_seen).before_riding
    assert (
        client.get(f"{client.base}baseline/gate/{'valves' if kind != 'four_stroke' else 'reeds'}/").status_code == 404
    )


@pytest.mark.parametrize("kind", BENCHES)
def test_every_part_and_measure_of_every_kind_of_engine_can_be_written_down(whole, kind):
    client = bench_on(whole, BENCHES[kind])
    written(client, "ride", meter_s="40")
    seen = report(client).ask(service_seen)
    for kind_of in seen.absent:
        sent = written(client, "part", kind=kind_of, fitted_s="10", fitted_day="2026-05-01")
        assert sent.status_code == 302, kind_of
    seen = report(client).ask(service_seen)
    assert not seen.absent
    assert {d.part.kind for d in seen.due} == {k for k in PARTS if seen.log.lasts(k)}
    page = text(client.get(f"{client.base}baseline/service/"))
    for kind_of in {d.part.kind for d in seen.due}:
        assert PARTS[kind_of][0] in page
    typed = {"big_end": "felt", "tight_spots": "some", "hooked_tooth": "none", "oil_seen": "flakes"}
    for measure, (title, how) in MEASURES.items():
        path = f"{client.base}baseline/service/wear/?measure={measure}"
        form = {"measure": measure, "line": str(uuid.uuid4())}
        if measure in typed:
            form["seen"] = typed[measure]
        elif measure.startswith("spokes"):
            form["tones_hz"] = "400 402 399"
        else:
            form["value_si"] = "0.2"
        answer = client.post(path, form)
        if measure not in report(client).ask(wear_seen).measures:
            assert answer.status_code == 404
            continue
        assert answer.status_code == 302, text(answer)
        page = text(client.get(path))
        assert title in bare(page)
        assert how in bare(page)
    acts = {f.code for f in report(client).of("baseline") if f.severity == "act"}
    assert "chain_worn" in acts


def test_numbers_are_typed_in_the_riders_units(demo):
    choices = {k: v[0] for k, v in OPTIONS.items()} | {"small": "in", "pressure": "psi", "theme": "auto"}
    assert demo.post(reverse("garages:settings"), choices).status_code == 302
    written(demo, "ride", meter_s="40")
    found(demo, "spokes", "pass", value_si="0.2 in")
    found(demo, "tyres", "pass", value_si="3 psi")
    states = {c.check.name: c.state for c in report(demo).ask(gate_seen).checks}
    assert (states["spokes"], states["tyres"]) == ("fail", "look")
    for number, words in (("3 kg", "unit"), ("-1", "Too small"), ("lots", "number"), ("9e9 mm", "Too large")):
        answer = found(demo, "spokes", "pass", value_si=number)
        assert answer.status_code == 422, number
        assert words in text(answer)
    assert demo.post(f"{demo.base}baseline/gate/spokes/", {"name": str(uuid.uuid4())}).status_code == 422
    assert "Press what you found" in text(demo.post(f"{demo.base}baseline/gate/spokes/", {"name": str(uuid.uuid4())}))


def test_the_stand_says_anew_how_a_race_stands_when_the_log_does(demo):
    """What is written down changes what the stand rests on, and lean comes before what is due."""
    before = standing_key(demo.setup, demo.race, standing.written(demo.setup))
    written(demo, "ride", meter_s="118")
    written(demo, "part", kind="piston", fitted_s="70")
    after = standing_key(demo.setup, demo.race, standing.written(demo.setup))
    assert after != before
    line = ServiceLine.objects.get(kind="part")
    services.strike_out(line)
    assert standing_key(demo.setup, demo.race, standing.written(demo.setup)) != after
    services.write(demo.setup.bike, "part", {"kind": "piston", "fitted_s": 70 * H})
    setup, race = bench_of(demo).setup, bench_of(demo).race
    standing.remember(setup, race, report(demo))
    home = text(demo.get("/"))
    assert home.index("Next:") < home.index("too lean") < home.index("overdue: piston and rings")
    found(demo, "throttle", "fail")
    setup = bench_of(demo).setup
    standing.remember(setup, race, report(demo))
    home = text(demo.get("/"))
    assert home.index("Do not ride: throttle, kill switch") < home.index("too lean")


def test_a_document_brings_its_log_line_by_line_and_a_pass_after_a_fail_stays_one(demo):
    """Taken in under another name it is judged the same."""
    lines = [
        meter(118),
        part("piston", 80),
        check("frame", "fail", note="crack"),
        check("frame"),
        check("chain", "look"),
    ]
    inputs = a_log(demo_inputs(), *lines, ridden="trail", bought=True)
    named = inputs.model_copy(update={"bike": inputs.bike.model_copy(update={"name": "Taken in"})})
    bike, _race = place_inputs(demo.setup.bike.garage, named)
    said = services.service_of(bike)
    assert (said["ridden"], said["bought"]) == ("trail", True)
    assert [(c["check"], c["result"]) for c in said["checks"]] == [
        ("frame", "fail"), ("frame", "pass"), ("chain", "look"),
    ]  # fmt: skip
    assert said["parts"][0]["fitted_s"] == 80 * H
    log = doing.bike_log(bike)
    assert log.run_s(log.parts["piston"]) == 38 * H


def test_more_lines_than_are_held_are_refused_and_of_very_many_the_newest_count(demo, monkeypatch):
    bike = demo.setup.bike
    part_of, name, _most = services.LINES["ride"]
    monkeypatch.setitem(services.LINES, "ride", (part_of, name, 3))
    for hours in (1, 2, 3):
        services.write(bike, "ride", {"time_s": hours * H})
    answer = written(demo, "ride", time_s="4")
    assert answer.status_code == 422
    assert "Too many" in text(answer)
    assert ServiceLine.objects.count() == 3
    pressed(demo, ServiceLine.objects.first(), "strike")
    assert written(demo, "ride", time_s="4").status_code == 302
    assert [r["time_s"] / H for r in services.service_of(bike)["rides"]] == [2, 3, 4]
