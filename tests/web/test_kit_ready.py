"""Kit's rooms of heat, current, sound, rules and build: what they keep, what is sent wrong, what they print."""

import csv
import io
import json

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from django.utils.html import escape

from lynxwort.cli.main import main
from lynxwort.core.model.inputs import dump_inputs, load_inputs
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.changes import Moves, take
from lynxwort.web.bikes.models import Bike, Draft
from lynxwort.web.races.models import Race
from lynxwort.words.catalogue import say
from tests.support import unled
from tests.web.test_kit import items, room

ROOMS = ("cooling", "electrics", "sound", "build", "build/lists")


def kit():
    return Bike.objects.get().document["kit"]


def plain(text):
    """With plain spaces."""
    return text.replace("\u202f", " ").replace("\xa0", " ")


def words(answer):
    return plain(unled(answer.content.decode()))


def shown(text):
    """A text as a page holds it."""
    return escape(plain(text))


@pytest.mark.parametrize(
    ("name", "sent", "kept", "wrong"),
    [
        ("cooling", {"cooling.width_m": "150 mm", "cooling.coolant_m3": "1.4 L"},
         {"cooling": {"width_m": 0.15, "coolant_m3": 0.0014}}, {"cooling.width_m": "-3", "cooling.coolant_m3": "hot"}),
        ("electrics", {"electrics.low_w": "36", "electrics.high_w": "90 W", "electrics.battery": "lead",
                       "electrics.battery_j": "60 Wh"},
         {"electrics": {"low_w": 36.0, "high_w": 90.0, "battery": "lead", "battery_j": 216_000.0}},
         {"electrics.low_w": "90", "electrics.high_w": "36"}),
        ("build", {"build_from": "2027-04-01", "build_day_s": "1.5", "bag_kg": "2 kg", "chase_truck": "reached"},
         {"build_from": "2027-04-01", "build_day_s": 5400.0, "bag_kg": 2.0, "chase_truck": "reached"},
         {"build_from": "soon"}),
        ("sound", {"stroke_m": "72 mm"}, {"stroke_m": 0.072}, {"stroke_m": "two"}),
    ],
)  # fmt: skip
def test_a_room_keeps_what_is_known_and_refuses_at_its_field(demo, name, sent, kept, wrong):
    before = kit()
    assert demo.post(f"{demo.base}kit/{name}/", sent).status_code == 302
    now = kit()
    for part, value in kept.items():
        assert now[part] == (pytest.approx(value) if isinstance(value, float | dict) and name != "electrics" else value)
    assert now["items"] == before["items"]
    # what the form does not ask, and what stands in other rooms, is as it was
    assert {k: now[k] for k in before if k not in kept} == {k: before[k] for k in before if k not in kept}
    answer = demo.post(f"{demo.base}kit/{name}/", wrong)
    assert answer.status_code == 422
    assert 'role="alert"' in answer.content.decode()
    for typed in wrong.values():
        assert f'value="{typed}"' in answer.content.decode(), "nothing typed is lost"
    assert demo.post(f"{demo.base}kit/{name}/", sent | {"was": "0" * 16}).status_code == 409
    assert kit() == now


def test_what_the_event_asks_for_is_ticked_with_day_and_paper_and_stays_over_an_edit_of_the_race(demo):
    race = Race.objects.get()
    sent = {
        "sound_limit_db": "92", "sound_test": "stroke_revs", "sound_sheet.need": "must", "sound_sheet.done":
        "2027-04-02", "sound_sheet.paper": "no. 14", "mat.need": "nice", "lights.need": "",
    }  # fmt: skip
    assert demo.post(f"{demo.base}kit/sound/", sent).status_code == 302
    race.refresh_from_db()
    assert race.document["asked"] == [
        {"rule": "sound_sheet", "must": True, "done": "2027-04-02", "paper": "no. 14"},
        {"rule": "mat", "must": False},
    ]
    page = words(room(demo, "sound"))
    assert "Too loud" not in page
    assert 'value="no. 14"' in page
    # a day that is none, and a tick for something nobody asked for, are told at their fields
    for wrong in ({"mat.need": "nice", "mat.done": "tomorrow"}, {"mat.need": "", "mat.paper": "x"}):
        answer = demo.post(f"{demo.base}kit/sound/", sent | wrong)
        assert answer.status_code == 422
        assert 'role="alert"' in words(answer)
    stale = demo.post(f"{demo.base}kit/sound/", sent | {"was": "0" * 16})
    assert stale.status_code == 409
    # the page of the race knows nothing of them, and loses none
    page = demo.get(f"/races/{race.pk}/").content.decode()
    assert "Brackenmere" in page
    form = {"race.name": "Brackenmere, moved", "race.start": "2027-04-19T07:30", "race.time_zone": "Europe/London",
            "race.air.temperature_low_k": "3", "race.air.temperature_high_k": "16", "rider": str(race.rider_id)}  # fmt: skip
    assert demo.post(f"/races/{race.pk}/", form).status_code == 302
    race.refresh_from_db()
    assert race.document["name"] == "Brackenmere, moved"
    assert race.document["sound_limit_db"] == 92.0
    assert len(race.document["asked"]) == 2


def test_a_queue_is_said_with_the_race_and_boils_it_there(demo):
    address = reverse("races:change-stage", args=[Race.objects.get().pk, 0])
    plain = {"stage.laps": "3", "stage.kind": "race", "stage.state": "dry"}
    assert demo.post(address, plain | {"stage.crawling_s": "90 min"}).status_code == 422
    assert demo.post(address, plain | {"stage.crawling_s": "5", "stage.queue_at_m": "12.5"}).status_code == 302
    stage = Race.objects.get().document["stages"][0]
    assert (stage["crawling_s"], stage["queue_at_m"]) == (300.0, 12_500.0)
    assert "standing_s" not in stage
    page = words(room(demo, "cooling"))
    assert "5 min at a walking pace" in page
    assert "boils" in page
    assert demo.post(address, plain).status_code == 302
    assert "none said" in words(room(demo, "cooling"))


def test_a_cure_is_tried_from_its_table_and_the_row_is_the_one_that_is_set(demo):
    page = words(room(demo, "electrics"))
    assert "rewound generator on" in page
    draft = Draft.objects.get()
    back = f"{demo.base}kit/electrics/"
    sent = {"moves": '[["kit_on__rewound_generator", 1.0]]', "version": draft.version, "back": back}
    assert demo.post(f"{demo.base}kit/notch/", sent, follow=True).redirect_chain[-1][0] == back
    page = words(room(demo, "electrics"))
    assert "The battery drains" not in page
    assert "rewound generator off" in page


def test_things_know_what_comes_before_them_and_the_sheet_keeps_it(demo):
    own = {"id": "", "name": "hub", "mass_kg": "2", "ahead_m": "0", "height_m": "0.32", "on": "rear_wheel",
           "group": "wheels", "need": "nice", "work_s": "2.5", "after": "Fan, bags and tools", "arrives": "2027-04-10",
           "when": "hot", "because": "worn"}  # fmt: skip
    assert demo.post(f"{demo.base}kit/items/", own).status_code == 302
    assert items()["hub"]["after"] == ["fan", "bags"]
    assert items()["hub"]["arrives"] == "2027-04-10"
    shown = words(room(demo, "items", item="hub"))
    assert 'value="fan, bags and tools"' in shown
    for wrong in ({"after": "wings"}, {"arrives": "on Thursday"}, {"work_s": "-2"}):
        answer = demo.post(f"{demo.base}kit/items/", own | {"name": "other"} | wrong)
        assert answer.status_code == 422, wrong
    sheet = demo.get(f"{demo.base}kit/items.csv").content.decode()
    row = next(r for r in csv.DictReader(io.StringIO(sheet)) if r["name"] == "hub")
    assert (row["after"], row["arrives"], row["draws"]) == ("fan bags", "2027-04-10", "hot")
    before = items()["hub"]
    file = SimpleUploadedFile("kit.csv", sheet.encode())
    assert "read." in words(demo.post(f"{demo.base}kit/items/csv/", {"file": file}, follow=True))
    after = items()["hub"]
    assert {k: after[k] for k in ("after", "arrives", "when", "work_s")} == {
        k: before[k] for k in ("after", "arrives", "when", "work_s")
    }


def test_the_build_stands_in_its_order_and_is_printed_and_on_the_card(demo):
    moves = (("kit_on__fan", 1.0), ("kit_on__rewound_generator", 1.0))
    take(Draft.objects.get(), Draft.objects.get().version, Moves(moves))
    page = words(room(demo, "build"))
    assert page.index(">rewound generator</text>") < page.index(">fan</text>"), "the fan comes after it"
    assert "arrives 2027-04-12" in page
    assert "slow ride, then look again" in page
    printed = words(room(demo, "build/lists"))
    for what in ("Work, in its order", "Bum bag", "first aid", "stamp 2026-114", "Check your local rules"):
        assert what in printed
    card = words(demo.get(f"{demo.base}card/"))
    assert card.index("If the air changes") < card.index("Carried, and still to do") < card.index("Bum bag:")
    assert "Bum bag: tube with levers and pump" in card
    assert "Not seen to: sound sheet" in card


def test_another_garage_finds_none_of_it(demo):
    client = Client()
    for name in ROOMS:
        assert client.get(f"{demo.base}kit/{name}/").status_code in (302, 404)
        assert client.post(f"{demo.base}kit/{name}/", {"stroke_m": "50 mm"}).status_code in (302, 403, 404, 405)
    assert Race.objects.get().document["sound_limit_db"] == 94.0


FIELDS = (
    ("cooling", "cooling.radiators"), ("cooling", "cooling.depth_m"), ("cooling", "cooling.fan_from_k"),
    ("electrics", "electrics.high_rpm"), ("electrics", "electrics.battery_j"), ("electrics", "electrics.lamp_wire_m2"),
    ("electrics", "electrics.lamp_fuse_a"), ("build", "bag_kg"), ("build", "build_day_s"), ("sound", "stroke_m"),
    ("sound", "sound_limit_db"),
)  # fmt: skip


@pytest.mark.parametrize(("name", "field"), FIELDS)
def test_whatever_is_typed_is_taken_or_told_and_nothing_else_is_touched(demo, name, field):
    before, race = kit(), Race.objects.get().document
    for typed in (
        "-1",
        "1e99",
        "nan",
        "inf",
        "ten",
        "5 parsec",
        "<b>1</b>",
        "1,2,3",
        "9" * 60,
        "0x10",
        "12 kg 3",
        "--4",
        "1 000 000",
    ):
        answer = demo.post(f"{demo.base}kit/{name}/", {field: typed})
        assert answer.status_code == 422, typed
        page = answer.content.decode()
        assert 'role="alert"' in page
        assert "<b>1</b>" not in page
    assert kit() == before
    assert Race.objects.get().document == race


@pytest.mark.parametrize(
    ("kind", "sent", "said", "figure"),
    [
        ("coolant", {"hottest_k": "104 °C"}, "Coolant to 104", "kit.cooling.hottest"),
        ("generator", {"rpm": "5000", "volts": "13.1", "current_a": "3,6"}, "Generator: 13.1 V, 3.6 A at 5 000 rpm",
         "kit.elec.surplus_mean"),
        ("sound", {"level_db": "92", "background_db": "61", "distance_m": "0.5", "rpm": "5400"}, "92 dB at 0.5 m",
         "kit.sound.level"),
    ],
)  # fmt: skip
def test_a_reading_of_it_is_taken_where_all_are_and_narrows_its_figure(demo, kind, sent, said, figure):
    before = open_bench(demo.setup, demo.race).report.figures[figure]
    answer = demo.post(f"{demo.base}readings/{kind}/", sent, follow=True)
    assert answer.status_code == 200
    assert said in words(answer)
    after = open_bench(demo.setup, demo.race).report.figures[figure]
    assert len(after.readings) == len(before.readings) + 1
    assert after.high - after.low < before.high - before.low
    assert demo.post(f"{demo.base}readings/{kind}/", dict.fromkeys(sent, "")).status_code == 422
    assert demo.post(f"{demo.base}readings/{kind}/", dict.fromkeys(sent, "-5")).status_code == 422


@pytest.mark.parametrize("name", ROOMS)
def test_a_room_is_read_by_every_bike_of_the_garage(whole, name):
    for pair in Pairing.objects.all():
        address = f"/bench/{pair.setup_id}/{pair.race_id}/kit/{name}/"
        page = words(whole.get(address))
        assert "Traceback" not in page
        assert "None" not in page.split('<main id="main"')[1].split("</main>")[0]
        if name == "cooling" and pair.setup.bike.name.startswith("Vole"):
            assert "no coolant" in page


def test_a_copy_of_the_garage_keeps_what_an_event_asks_for(demo):
    """Out as a document and in again: queue, rules, limit and build."""
    answer = demo.get("/bench/document/", {"setup": demo.setup.pk, "race": demo.race.pk})
    assert answer.status_code == 200
    document = dump_inputs(open_bench(demo.setup, demo.race).inputs)
    again = load_inputs(document)
    assert again.race.asked == open_bench(demo.setup, demo.race).inputs.race.asked
    assert again.race.stages[0].crawling_s == 90.0
    assert again.bike.kit.build_from == "2027-04-05"


def test_the_card_tells_the_mixture_whole_and_of_many_acts_the_first_few(demo):
    """Five acts leave no room for more looks; each is named all the same."""
    front = words(demo.get(f"{demo.base}card/")).split("On the way, and every figure")[0]
    bench = open_bench(demo.setup, demo.race)
    acts = [f for f in bench.kept.findings if f.severity == "act"]
    assert len(acts) > 3
    for finding in acts:
        told = say(finding, bench.kept)
        assert shown(told.answer) in front, told.answer
        if finding.station == "fuelling":
            assert shown(told.text) in front
    told = [f for f in acts if shown(say(f, bench.kept).text) in front]
    assert 3 <= len(told) < len(acts)
    looks = [f for f in bench.kept.findings if f.severity == "look" and shown(say(f, bench.kept).answer) in front]
    assert len(looks) <= 1 + sum(f.station == "fuelling" for f in looks)


@pytest.mark.parametrize("verb", ["build", "spares"])
def test_the_command_line_refuses_what_is_no_document(verb, tmp_path, capsys):
    path = tmp_path / "setup.json"
    for text, code in (("{", "not_json"), ("[]", "not_an_object"), ("{}", "missing")):
        path.write_text(text)
        assert main([verb, str(path)]) == 2
        assert code in {e["code"] for e in json.loads(capsys.readouterr().out)["errors"]}
    assert main([verb, str(tmp_path / "nowhere.json")]) == 2
    assert json.loads(capsys.readouterr().out)["errors"][0]["code"] == "unreadable"


def test_a_proposals_words_keep_their_units(demo):
    page = words(demo.get(f"{demo.base}kit/"))
    judged = words(demo.get(f"{demo.base}kit/findings/")) if "trying" in page else page
    assert "diodes 12 w" not in page + judged
    assert "12 W" in page
