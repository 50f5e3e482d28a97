"""What a shop has, its prices, and what to buy for several races, through the pages."""

import html
import io
import json
import re

from django.urls import reverse

from lynxwort.web.bikes.models import Setup
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.parts import services as parts
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Race

QUICK = {"for": "1", "leave": ["chassis", "damping", "fuelling", "drive", "kit"]}


def worked():
    while worker.run_next():
        pass


def text(answer):
    return html.unescape(answer.content.decode())


def put(demo, kind="tank_capacity_m3", what="15.5", **said):
    return demo.post("/parts/", {"kind": kind, "text": what, "count": 1, "condition": "shop"} | said)


def test_what_is_to_buy_does_not_lie_in_the_box_until_it_is_bought(demo):
    garage = demo.race.garage
    # 168 lies there too: it is not turned into one to buy, nor the other way round
    put(demo, "main_jet", "168", cost="4,50", work_s="1 h")
    assert OwnedPart.objects.filter(kind="main_jet", value=168.0).count() == 2
    assert 168.0 in parts.parts_box(garage).main_jet
    assert put(demo, cost="240", work_s="45").status_code == 302
    box = parts.parts_box(garage)
    assert 0.0155 not in box.tank_capacity_m3
    assert [p.model_dump() for p in box.priced if p.tunable == "tank_capacity_m3"] == [
        {"tunable": "tank_capacity_m3", "value": 0.0155, "cost": 240.0, "work_s": 2700.0}
    ]
    row = OwnedPart.objects.get(kind="tank_capacity_m3", condition="shop")
    # a price that the page shows rounded stays as it was said
    OwnedPart.objects.filter(pk=row.pk).update(cost=239.96)
    page = text(demo.get("/parts/"))
    assert "Bought: it lies in the box" in page
    about = {"count": 2, "condition": "shop", "cost": "240.0", "work_s": "45", "place": "", "label": ""}
    demo.post(f"/parts/{row.pk}/", about)
    row.refresh_from_db()
    assert (row.cost, row.work_s, row.count) == (239.96, 2700.0, 2)
    for wrong, words in (("-3", "Too small: at least 0"), ("lots", "number"), ("9" * 30, "Too large")):
        answer = demo.post(f"/parts/{row.pk}/", about | {"cost": wrong})
        assert answer.status_code == 422
        assert words in text(answer)
    # through a file and a document and back
    written = demo.get(reverse("parts:export")).content
    assert b"shop,,239.96,45" in written
    before = list(OwnedPart.objects.values_list("kind", "value", "condition", "cost", "work_s"))
    OwnedPart.objects.all().delete()
    demo.post(reverse("parts:file"), {"file": io.BytesIO(written)})
    assert list(OwnedPart.objects.values_list("kind", "value", "condition", "cost", "work_s")) == before
    for wrong in ("dear", "-1"):
        broken = io.BytesIO(f"kind,value,price\nmain_jet,165,{wrong}".encode())
        assert demo.post(reverse("parts:file"), {"file": broken}).status_code == 422
    # bought twice over two windows: once
    row = OwnedPart.objects.get(kind="tank_capacity_m3", condition="shop")
    for _press in range(2):
        demo.post(f"/parts/{row.pk}/", {"bought": "1"}, follow=True)
    assert 0.0155 in parts.parts_box(garage).tank_capacity_m3
    jets = OwnedPart.objects.filter(kind="main_jet", value=168.0)
    demo.post(f"/parts/{jets.get(condition='shop').pk}/", {"bought": "1"})
    assert [(j.count, j.condition) for j in jets.all()] == [(2, "good")]


def test_a_document_brings_its_shop_along_and_nonsense_is_refused(demo):
    put(demo, cost="240")
    document = json.loads(demo.get(f"{demo.base}document.json").content)
    assert document["parts"]["priced"][0]["cost"] == 240.0
    OwnedPart.objects.all().delete()
    upload = reverse("bench:upload")

    def sent():
        return demo.post(upload, {"file": io.BytesIO(json.dumps(document).encode())}, follow=True)

    assert sent().status_code == 200
    shop = OwnedPart.objects.get(condition="shop")
    assert (shop.kind, shop.value, shop.cost) == ("tank_capacity_m3", 0.0155, 240.0)
    for bad in ({"tunable": "wings", "value": 1.0}, {"tunable": "main_jet", "value": 1e9}):
        document["parts"]["priced"] = [bad]
        races = Race.objects.count()
        assert sent().status_code == 422
        assert Race.objects.count() == races


def test_what_to_buy_is_told_race_by_race_and_listed(whole):
    demo, race = whole, Race.objects.get(name__startswith="Brackenmere")
    base = reverse("bench:bench", args=[Setup.objects.get(bike__name="Quern 293", name="").pk, race.pk])
    address = f"{base}card/season/"
    first = text(demo.get(address))
    assert "Say for which races" in first
    assert not Job.objects.filter(kind="season").exists()
    other = Race.objects.get(name__startswith="Gannach").pk
    for wrong in ({"purchases": "9"}, {"race": ["99999"]}, {"money": "much"}):
        answer = demo.get(address, QUICK | wrong)
        assert answer.status_code == 422
        assert "error" in text(answer)
    OwnedPart.objects.all().delete()
    put(demo, cost="240")
    asked = QUICK | {"race": [str(other)], "purchases": "1"}
    assert "Working it out for 2 races" in text(demo.get(address, asked))
    worked()
    page = text(demo.get(address, asked))
    assert "Best with one part: tank 15.5 L for 240" in page
    assert re.search(r"Brackenmere three-lapper</b></a> <span>\d+ findings left", page)
    assert re.search(r"It settles: finishes \d+", page)
    # it stands there already; without it a press from a page of before changes nothing
    assert "They stand on the list" in text(demo.post(f"{address}buy/", asked | {"way": "1"}, follow=True))
    for way in ("0", "7", "x"):
        demo.post(f"{address}buy/", asked | {"way": way}, follow=True)
    assert OwnedPart.objects.count() == 1
    # with too little money the box alone is as good as it gets
    poor = asked | {"money": "200"}
    demo.get(address, poor)
    worked()
    assert "Nothing that could be bought does better" in text(demo.get(address, poor))
    # a plan of one race says the price too
    plan = {"purchases": "1", "leave": QUICK["leave"]}
    demo.get(f"{base}card/plan/", plan)
    worked()
    assert re.search(r"1 part to buy, 240 in all", text(demo.get(f"{base}card/plan/", plan)))
