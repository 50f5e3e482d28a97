"""A reading keeps what rode along: bags put on the bike later do not rewrite it."""

from importlib import import_module

from django.apps import apps

from lynxwort.web.bikes.models import Bike
from lynxwort.web.readings.models import Reading
from lynxwort.web.readings.services import add_reading

BAGS = {"name": "bags", "mass_kg": 8.0, "ahead_m": 0.15, "height_m": 0.95}
TOWER = {"name": "tower", "mass_kg": 6.0, "ahead_m": 1.25, "height_m": 1.1}


def carry(*items):
    bike = Bike.objects.get()
    bike.document["frame"]["payload"] = list(items)
    bike.save()
    return bike


def test_a_reading_keeps_what_rode_along_and_says_so_once_that_is_another(demo):
    assert all(r.document["under"]["aboard"] == [] for r in Reading.objects.all())
    room = f"{demo.base}baseline/readings/"
    assert "taken bare" not in demo.get(room).content.decode()
    before = demo.get(f"{demo.base}why/chassis.rear.race_sag/").content.decode()
    carry(TOWER, BAGS)
    page = demo.get(room).content.decode()
    assert page.count("taken bare") == 2, "two sags; the mixture that ran right and the fill-up are of no weight"
    assert demo.get(f"{demo.base}why/chassis.rear.race_sag/").content.decode() != before
    # one taken now, with the bags left at home
    sag = {"kind": "sag", "end": "rear", "state": "race", "value_m": 0.11}
    values = demo.setup.draft.values
    made = add_reading(Bike.objects.get(), sag | {"under": {"setup": values | {"payload_left": 1}}})
    assert made.document["under"]["aboard"] == [TOWER]
    assert "taken with tower aboard" in demo.get(room).content.decode()
    # what a document says of it itself stands
    told = add_reading(Bike.objects.get(), sag | {"under": {"setup": values, "aboard": [BAGS]}})
    assert told.document["under"]["aboard"] == [BAGS]


def test_old_readings_are_given_what_the_bike_carries(demo):
    carry(TOWER, BAGS)
    old = Reading.objects.first()
    old.document["under"].pop("aboard")
    old.document["under"]["setup"]["payload_left"] = 1
    old.save()
    others = {r.pk: r.document for r in Reading.objects.exclude(pk=old.pk)}
    import_module("lynxwort.web.readings.migrations.0003_aboard").fill(apps, None)
    old.refresh_from_db()
    assert old.document["under"]["aboard"] == [TOWER]
    assert {r.pk: r.document for r in Reading.objects.exclude(pk=old.pk)} == others
