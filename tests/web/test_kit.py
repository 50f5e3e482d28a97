"""Kit's rooms: things put on the list, weighed, put on and taken off; sheets; wheels and brakes; what is sent wrong."""

import csv
import io

import pytest
from django.core.exceptions import ValidationError
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from lynxwort.web.bikes.changes import Moves, PutBack, take
from lynxwort.web.bikes.lists import LISTS
from lynxwort.web.bikes.models import Bike, Draft
from lynxwort.web.bikes.services import changed_fields
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.parts.services import parts_box, quick_add, read_csv, write_csv
from lynxwort.web.readings.services import add_reading
from tests.support import unled

OWN = {
    "id": "", "name": "tail pack", "mass_kg": "2,5 kg", "ahead_m": "100 mm", "height_m": "0.9", "on": "sprung",
    "group": "carrying", "need": "nice",
}  # fmt: skip


def items():
    return {i["id"]: i for i in Bike.objects.get().document["kit"]["items"]}


def draft():
    return Draft.objects.get()


def kept(demo):
    return demo.setup.head.values


def room(demo, name, **query):
    return demo.get(f"{demo.base}kit/{name}/", query)


def test_a_tower_of_the_catalogue_is_put_on_tried_and_taken_back(demo):
    assert "tower and navigation" in room(demo, "items").content.decode()
    assert demo.post(f"{demo.base}kit/items/bolt/", {"id": "tower"}).status_code == 302
    assert items()["tower"]["mass_kg"] == 6.0
    # on the list, off the bike: nothing has moved
    assert changed_fields(draft(), kept(demo)) == []
    answer = demo.post(
        f"{demo.base}kit/notch/",
        {"moves": '[["kit_on__tower", 1.0]]', "version": draft().version},
        HTTP_HX_REQUEST="true",
    )
    page = answer.content.decode()
    assert answer.status_code == 200
    assert "tower and navigation 6.0 kg" in page, "called out in the drawing"
    assert changed_fields(draft(), kept(demo)) == ["kit_on__tower"]
    assert "tower and navigation off → on" in page
    # its row offers the way back, and the ledger what it does
    assert 'data-tunable="kit_on__tower"' in page
    assert "Front race sag" in page
    # put back by itself, another change left
    take(draft(), draft().version, Moves((("rear_sprocket_teeth", 50.0),)))
    take(draft(), draft().version, PutBack("kit_on__tower"))
    assert changed_fields(draft(), kept(demo)) == ["rear_sprocket_teeth"]


def test_what_is_taken_off_the_list_leaves_kept_setups_standing(demo):
    demo.post(f"{demo.base}kit/items/bolt/", {"id": "tower"})
    take(draft(), draft().version, Moves((("kit_on__tower", 1.0),)))
    demo.post(f"{demo.base}kit/items/drop/", {"id": "tower"})
    assert "tower" not in items()
    page = demo.get(f"{demo.base}chassis/")
    assert page.status_code == 200
    assert demo.get(f"{demo.base}card/").status_code == 200


def test_one_of_ones_own_is_asked_in_any_unit_and_refused_with_its_field(demo):
    assert demo.post(f"{demo.base}kit/items/", OWN).status_code == 302
    made = items()["tail_pack"]
    assert (made["mass_kg"], made["ahead_m"], made["height_m"]) == (2.5, 0.1, 0.9)
    for field, sent in (("mass_kg", ""), ("mass_kg", "-3"), ("mass_kg", "4000"), ("height_m", "nine"), ("name", "")):
        answer = demo.post(f"{demo.base}kit/items/", OWN | {field: sent})
        assert answer.status_code == 422, (field, sent)
        assert 'role="alert"' in answer.content.decode()
        assert 'value="100 mm"' in answer.content.decode(), "nothing typed is lost"
    # weighed anew: the same thing, another mass
    assert "2.5" in room(demo, "items", item="tail_pack").content.decode()
    demo.post(f"{demo.base}kit/items/", OWN | {"id": "tail_pack", "mass_kg": "3.1", "removed_kg": "0.4"})
    assert len([i for i in items() if i.startswith("tail_pack")]) == 1
    assert (items()["tail_pack"]["mass_kg"], items()["tail_pack"]["removed_kg"]) == (3.1, 0.4)
    # a double press adds one; what another window weighed meanwhile is shown beside, and not lost
    for _press in range(2):
        demo.post(f"{demo.base}kit/items/", OWN | {"name": "rain coat"})
    assert [i["name"] for i in items().values()].count("rain coat") == 1
    stale = demo.post(f"{demo.base}kit/items/", OWN | {"id": "tail_pack", "mass_kg": "2.2", "was": "0" * 16})
    assert stale.status_code == 409
    assert "now stands: 3.1" in stale.content.decode()
    assert items()["tail_pack"]["mass_kg"] == 3.1


def test_what_lies_in_the_parts_box_is_put_on_the_list_by_its_name(demo):
    garage = Bike.objects.get().garage
    quick_add(garage, "kit", "0.85 kg", "metric", label="spare lamp")
    quick_add(garage, "front_rotor_m", "280", "metric")
    assert "spare lamp" in room(demo, "items").content.decode()
    part = OwnedPart.objects.get(kind="kit")
    assert demo.post(f"{demo.base}kit/items/bolt/", {"part": part.pk}).status_code == 302
    assert items()["spare_lamp"] == {
        "id": "spare_lamp", "name": "spare lamp", "mass_kg": 0.85, "ahead_m": 0.74, "height_m": 0.7,
    }  # fmt: skip
    assert "From the parts box" not in room(demo, "items").content.decode()
    assert demo.post(f"{demo.base}kit/items/bolt/", {"part": part.pk}).status_code == 404
    # out as a file and in again, the same box; and a rotor in it is told as owned
    sheet = write_csv(garage)
    OwnedPart.objects.filter(kind__in=("kit", "front_rotor_m")).delete()
    read_csv(garage, sheet.encode(), "metric")
    assert write_csv(garage) == sheet
    assert parts_box(garage).owned("front_rotor_m") == (0.28,)


def test_items_go_out_as_a_sheet_and_come_in_again(demo):
    before = items()
    sheet = demo.get(f"{demo.base}kit/items.csv").content.decode()
    rows = list(csv.DictReader(io.StringIO(sheet)))
    assert [r["name"] for r in rows] == [i["name"] for i in before.values()]

    def send(text, name="kit.csv"):
        file = SimpleUploadedFile(name, text.encode() if isinstance(text, str) else text)
        return demo.post(f"{demo.base}kit/items/csv/", {"file": file}, follow=True).content.decode()

    assert "read." in send(sheet)
    after = items()
    assert {k: after[k]["mass_kg"] for k in after} == {k: before[k]["mass_kg"] for k in before}
    assert {k: round(after[k]["ahead_m"], 9) for k in after} == {k: before[k]["ahead_m"] for k in before}
    head = sheet.splitlines()[0]
    assert "lamp" in {
        i["name"] for i in (send(f"{head}\nlamp,electrics,nice,0.8,,1300,1000,,,,,,"), items())[1].values()
    }
    # what a spreadsheet would take for a formula goes out as text, and comes back as it was
    send(f"{head}\n'=1+1,,,1,,1000,1000,,,,,,")
    assert "=1+1" in {i["name"] for i in items().values()}
    assert "'=1+1" in demo.get(f"{demo.base}kit/items.csv").content.decode()
    for wrong, said in (
        (f"{head}\nlamp,electrics,nice,heavy,,1300,1000,,,,,,", "line.2"),
        (f"{head}\nlamp,electrics,nice,-4,,1300,1000,,,,,,", "line.2"),
        ("what;ever\n1;2", "Each line is name"),
        (b"\x00\xff" * 90, "Each line is name"),
        (b"name,kg\n" + b"a,1\n" * 90_000, "MB"),
        (f"{head}\n" + "lamp,,,1,,1000,1000,,,,,,\n" * 300, "Too many"),
    ):
        count = len(items())
        assert said in send(wrong), wrong[:40]
        assert len(items()) == count


def test_wheels_and_brakes_keep_what_is_known_of_them_and_nothing_else(demo):
    before = Bike.objects.get().document
    assert "Try what this course wants" in room(demo, "wheels").content.decode()
    sent = {"rear_tyre.tyre_kind": "soft_knobby", "rear_tyre.knob_m": "12", "front_wheel_inertia_kg_m2": "0.55"}
    assert demo.post(f"{demo.base}kit/wheels/", sent).status_code == 302
    assert demo.post(f"{demo.base}kit/brakes/", {"front_brake.fluid": "dot5_1"}).status_code == 302
    now = Bike.objects.get().document
    assert now["kit"]["rear_tyre"] == {"tyre_kind": "soft_knobby", "knob_m": 0.012}
    assert now["kit"]["front_brake"] == {"fluid": "dot5_1"}
    assert now["kit"]["items"] == before["kit"]["items"]
    assert {k: v for k, v in now.items() if k != "kit"} == {k: v for k, v in before.items() if k != "kit"}
    for name, wrong in (("wheels", {"rear_tyre.knob_m": "900"}), ("brakes", {"front_brake.fluid_from": "last year"})):
        assert demo.post(f"{demo.base}kit/{name}/", wrong).status_code == 422
    # a page shown before another window kept its facts
    stale = demo.post(f"{demo.base}kit/brakes/", {"was": "0" * 16, "front_brake.fluid": "dot3"})
    assert stale.status_code == 409
    assert Bike.objects.get().document["kit"]["front_brake"] == {"fluid": "dot5_1"}
    # the page of all facts leaves the kit as it is
    page = demo.get(f"/bikes/{Bike.objects.get().pk}/facts/")
    assert page.status_code == 200


def test_a_reading_taken_with_the_bags_on_keeps_them(demo):
    take(draft(), draft().version, Moves((("kit_on__bags", 1.0),)))
    sag = {"kind": "sag", "end": "rear", "state": "race", "value_m": 0.118}
    made = add_reading(Bike.objects.get(), sag | {"under": {"setup": draft().values}})
    (bags,) = made.document["under"]["aboard"]
    assert (bags["name"], bags["mass_kg"], bags["on"]) == ("bags and tools", 7.4, "sprung")
    page = demo.get(f"{demo.base}baseline/readings/").content.decode()
    assert "taken with bags and tools aboard" in page


@pytest.mark.parametrize(
    ("kind", "sent", "said"),
    [
        ("rotor", {"end": "front", "hottest_k": "380 °C"}, "Front rotor to 380"),
        ("lever", {"end": "front", "ground": "hardpack", "force_n": "48"}, "Front locks at 48 N on hardpack"),
        ("flats", {"end": "rear", "flats": "0", "distance_m": "900 km"}, "Rear: 0 flats in 900.0 km"),
        (
            "swing",
            {"end": "rear", "mass_kg": "9", "edge_to_axle_m": "280", "ten_swings_s": "14.8"},
            "ten swings in 14.8 s",
        ),
        ("hands", {"shaking_m_per_s2": "5.5"}, "Hands shaken by 5.5"),
    ],
)
def test_a_reading_of_kit_is_taken_where_all_are(demo, kind, sent, said):
    answer = demo.post(f"{demo.base}readings/{kind}/", sent, follow=True)
    assert answer.status_code == 200
    page = unled(answer.content.decode()).replace("\u202f", " ").replace("\xa0", " ")
    assert said in page
    assert demo.post(f"{demo.base}readings/{kind}/", dict.fromkeys(sent, "")).status_code == 422


def test_another_garage_finds_nothing_there(demo):
    client = Client()
    for path in ("kit/items/", "kit/wheels/", "kit/brakes/", "kit/items.csv"):
        assert client.get(f"{demo.base}{path}").status_code in (302, 404)
    assert client.post(f"{demo.base}kit/items/drop/", {"id": "bags"}).status_code in (302, 403, 404)
    assert "bags" in items()
    assert demo.post(f"{demo.base}kit/items/bolt/", {"id": "no such thing"}).status_code == 404


def test_other_wheels_are_written_with_what_stands_on_them_and_read_again():
    field = LISTS["bike.frame.other_rear_wheels"]()
    wheels = [
        {"marking": "120/90-18", "heavier_kg": -0.6, "tyre_kind": "soft_knobby"},
        {"marking": "140/80-18", "heavier_kg": 2.2, "inside": "mousse", "foam_for_kg": 105.0, "knob_m": 0.012},
        {"marking": "110/100-18", "heavier_kg": 0.4},
    ]
    text = field.prepare_value(wheels)
    assert field.clean(text) == wheels
    assert field.clean("110/100-18 0.4; scoop; a tube") == [
        {"marking": "110/100-18", "heavier_kg": 0.4, "tyre_kind": "scoop", "inside": "tube"}
    ]
    for wrong in ("110/100-18 0.4; slippery", "110/100-18 0.4; scoop; beer", "110/100-18 0.4; ; a foam insert; heavy"):
        with pytest.raises(ValidationError, match="tread"):
            field.clean(wrong)
