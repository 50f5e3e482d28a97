"""Kit's rooms: things put on the list, weighed, put on and taken off; sheets; wheels and brakes; what is sent wrong."""

import csv
import io

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from lynxwort.web.bikes.changes import Moves, PutBack, take
from lynxwort.web.bikes.models import Bike, Draft
from lynxwort.web.bikes.services import changed_fields
from lynxwort.web.readings.services import add_reading

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
    for wrong, said in (
        (f"{head}\nlamp,electrics,nice,heavy,,1300,1000,,,,,,", "line.2"),
        (f"{head}\nlamp,electrics,nice,-4,,1300,1000,,,,,,", "line.2"),
        ("what;ever\n1;2", "Each line is name"),
        (b"\x00\xff" * 90, "Each line is name"),
        (b"name,kg\n" + b"a,1\n" * 90_000, "MB"),
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


def test_another_garage_finds_nothing_there(demo):
    client = Client()
    for path in ("kit/items/", "kit/wheels/", "kit/brakes/", "kit/items.csv"):
        assert client.get(f"{demo.base}{path}").status_code in (302, 404)
    assert client.post(f"{demo.base}kit/items/drop/", {"id": "bags"}).status_code in (302, 403, 404)
    assert "bags" in items()
    assert demo.post(f"{demo.base}kit/items/bolt/", {"id": "no such thing"}).status_code == 404
