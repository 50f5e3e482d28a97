"""What a bench reads is kept as long as the database says that none of it was written, whoever wrote it."""

import re

import pytest
from django.apps import apps
from django.conf import settings
from django.db import connection, transaction
from django.http import Http404

from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.evaluation import mounted
from lynxwort.web.garages import counter
from lynxwort.web.home import stands
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Race
from lynxwort.web.readings.models import Reading
from tests.demo import OPEN
from tests.logged import a_part
from tests.trials import a_day, a_trial

HX = {"HTTP_HX_REQUEST": "true"}


def page(client, station="drive", **more):
    return client.get(f"{client.base}{station}/", **HX, **more).content.decode()


@pytest.mark.parametrize("place", counter.WATCHED, ids=".".join)
def test_a_row_written_past_all_code_changes_the_mark(demo, place):
    model = apps.get_model(*place)
    table, key = model._meta.db_table, model._meta.pk.column
    if place[0] == "runs":
        a_trial(demo.setup)
        a_day(demo.setup, demo.race)
    if place[0] == "service":
        a_part(demo.setup.bike)
    before = counter.mark()
    assert before
    assert counter.mark() == before
    with connection.cursor() as cursor:
        if not model.objects.exists():
            assert place == ("races", "Race_others")
            race = Race.objects.get()
            race.others.add(race.rider)
            assert counter.mark() != before
            before = counter.mark()
        cursor.execute(f'UPDATE "{table}" SET {key} = {key}')
        assert counter.mark() != before
    if model in (OwnedPart, Reading):
        before = counter.mark()
        model.objects.bulk_create([*model.objects.all()[:1]], ignore_conflicts=True)
        model.objects.all()._raw_delete(model.objects.db)
        assert counter.mark() != before


def test_a_notch_leaves_it_and_a_write_that_came_to_nothing_is_never_seen_again(demo):
    before = counter.mark()
    Draft.objects.update(version=7)
    assert counter.mark() == before
    with transaction.atomic():
        Bike.objects.update(name="Never")
        seen = counter.mark()
        assert mounted.mounted(demo.setup.bike.garage, demo.setup.pk, demo.race.pk)[0].bike.name == "Never"
        transaction.set_rollback(True)
    assert counter.mark() == before != seen
    assert mounted.mounted(demo.setup.bike.garage, demo.setup.pk, demo.race.pk)[0].bike.name != "Never"


def test_what_is_kept_is_everybodys_own_and_of_ones_own_garage(demo, stranger):
    garage = demo.setup.bike.garage
    one, race = mounted.mounted(garage, demo.setup.pk, demo.race.pk)
    one.bike.document["name"] = race.document["name"] = "scrawled over"
    other, its_race = mounted.mounted(garage, demo.setup.pk, demo.race.pk)
    assert other.bike.document["name"] != "scrawled over"
    assert its_race.document["name"] != "scrawled over"
    with pytest.raises(Http404):
        mounted.mounted(stranger.memberships.get().garage, demo.setup.pk, demo.race.pk)


@pytest.mark.parametrize("armed", [True, False])
def test_a_page_says_at_once_what_was_written_beside_it(demo, armed):
    if not armed:
        with connection.cursor() as cursor:
            cursor.execute("DROP TRIGGER counted_bikes_bike_update")
        assert counter.mark() is None
    assert "in the box" not in page(demo).split('id="more-rear_sprocket_teeth"')[1][:600]
    OwnedPart.objects.create(garage=demo.setup.bike.garage, kind="rear_sprocket_teeth", value=49)
    assert "in the box" in page(demo).split('id="more-rear_sprocket_teeth"')[1][:600]
    Bike.objects.update(name="Renamed beside")
    assert "Renamed beside" in demo.get(f"{demo.base}drive/").content.decode()
    Setup.objects.filter(pk=demo.setup.pk).update(head=None)
    assert demo.get(f"{demo.base}drive/", **HX).status_code == 302
    assert Revision.objects.exists()


def stand(client):
    """The stand's page without its token, which is another one each time."""
    html = client.get("/").content.decode().split("<main")[1]
    token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', html)[1]
    assert stands._TOKEN not in html
    return html.replace(token, "")


def test_the_stand_is_kept_until_something_on_it_is_written_and_then_says_it(demo, stranger, monkeypatch):
    made, real = [], stands.stand_rows
    monkeypatch.setattr(stands, "stand_rows", lambda *asked: (made.append(asked), real(*asked))[1])
    Bike.objects.update(name="Quern, as it stood")
    assert stand(demo) == stand(demo)
    assert len(made) == 1
    for model, fields, words in (
        (Bike, {"name": "Heath 200"}, "Heath 200"),
        (Revision, {"reason": "softer for the heath"}, "softer for the heath"),
        (Race, {"name": "Heath night"}, "Heath night"),
        (Pairing, {"standing": None}, "it was not judged yet"),
    ):
        assert words not in stand(demo)
        model.objects.update(**fields)
        assert words in stand(demo)
    # another language, other units, another garage: never this one's
    before = len(made)
    demo.cookies[settings.LANGUAGE_COOKIE_NAME] = "es"
    assert 'lang="es"' in demo.get("/", HTTP_ACCEPT_LANGUAGE="es").content.decode()
    demo.force_login(stranger, backend="django.contrib.auth.backends.ModelBackend")
    assert "Heath" not in demo.get("/").content.decode()
    assert len(made) == before + 2
    # the clock alone takes a race away
    monkeypatch.setattr(stands, "KEPT_S", 1e-6)
    demo.get("/")
    assert len(made) == before + 3


def test_after_a_migration_the_triggers_stand_again(demo):
    with connection.cursor() as cursor:
        cursor.execute("DROP TRIGGER counted_races_race_delete")
    assert counter.mark() is None
    counter.arm()
    assert counter.mark()


def test_nothing_is_made_of_what_is_closed_until_it_opens(demo):
    closed, opened = page(demo, "chassis"), page(demo, "chassis", HTTP_X_OPEN=OPEN)
    assert "data-later" in closed
    assert "data-later" not in opened
    assert closed.count('class="notch-row"') < opened.count('class="notch-row"')
    # the page opens what has a change in it, and says so
    names = [re.findall(r'data-tunable="(\w+)"', html) for html in (closed, opened)]
    shut = next(t for t in names[1] if t not in names[0] and f'id="more-{t}"' in opened)
    moves = re.search(rf"""value='([^']+)'><button id="more-{shut}\"""", opened)[1]
    version = Draft.objects.get().version
    assert demo.post(f"{demo.base}chassis/notch/", {"version": version, "moves": moves}, **HX).status_code == 200
    before = page(demo, "chassis").split(f'data-tunable="{shut}"')[0]
    assert " data-open" in before[before.rindex('<details class="notch-group') :].split(">")[0]
    # outcomes are worked out for what stands open in the page, and for nothing else
    shown = demo.get(f"{demo.base}chassis/neighbours/", HTTP_X_OPEN=OPEN, **HX).content.decode()
    assert "data-stale" not in shown
    hidden = demo.get(f"{demo.base}chassis/neighbours/", HTTP_X_OPEN="", **HX).content.decode()
    assert hidden.count("data-stale") == hidden.count("notch-group") > 1
