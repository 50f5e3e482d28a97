"""What the demo's season leaves on the pages: the bike's own, its history, the card; and a garage with nothing in it."""

import re

import pytest
from django.core.management import call_command

from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.evaluation import door
from lynxwort.web.garages.models import User
from lynxwort.web.races.models import Race
from lynxwort.words.catalogue import say


def words(answer) -> str:
    """A page's text without its markup."""
    page = re.sub(r"<(script|style|svg).*?</\1>", " ", answer.content.decode(), flags=re.S)
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page))


@pytest.fixture
def season(db, client):
    """The first bike with all that happened to it."""
    call_command("load_demo", verbosity=0, only="brackenmere")
    door._ready.set()
    client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
    return client


def test_the_season_stands_in_history_on_the_bikes_page_and_on_the_card(season):
    bike = Bike.objects.get()
    line, wet = Setup.objects.order_by("pk")
    assert [r.number for r in line.revisions.all()] == [5, 4, 3, 2, 1]
    assert wet.head.parent.number == 3
    assert wet.name == "wet"
    assert not line.draft.past
    assert line.draft.values == line.head.values

    page = season.get(f"/bikes/{bike.pk}/").content.decode()
    assert "The bike with its rider from the side" in page
    assert page.count('class="struck"') == 1
    said = words(season.get(f"/bikes/{bike.pk}/"))
    assert "Two-stroke, jetted carburettor, 293 cm³, 104.0 kg" in said
    assert "front harsh on rock: three clicks out" in said

    a, b = line.revisions.get(number=1), line.revisions.get(number=4)
    compared = words(season.get(f"/setups/{line.pk}/compare/?a={a.pk}&b={b.pk}"))
    assert "48.0 N/mm" in compared
    assert "50.0 N/mm" in compared
    base = f"/bench/{line.pk}/{Race.objects.get().pk}/"
    assert "hits the hands on every ledge" in words(season.get(f"{base}damping/felt/"))
    assert words(season.get(f"{base}fuelling/dyno/")).count("Use this run") == 3


def test_the_card_says_first_what_waits_then_what_to_set_and_to_pour(season):
    line = Setup.objects.order_by("pk")[0]
    answer = season.get(f"/bench/{line.pk}/{Race.objects.get().pk}/card/")
    said = words(answer)
    parts = [said.index(f" {name} ") for name in ("Not settled", "Set", "Pour", "If the air changes")]
    assert parts == sorted(parts)
    assert said.index("Main 165 too lean") < said.index("165 was 162.5")
    # 11.5 L of mixture at 50 : 1 is 11.5 / 51 of oil
    assert "225 mL of oil in 11.3 L of petrol" in said
    front = answer.content.decode().split("card-rest")[0]
    assert "Shock spring" not in front
    assert "Top speed" not in front


def test_the_card_never_leaves_out_what_is_said_of_the_mixture(season):
    """However much asks to be looked at: a mixture that nobody proved, a range that runs lean."""
    line, race = Setup.objects.order_by("pk")[0], Race.objects.get()
    address = f"/bench/{line.pk}/{race.pk}/"
    kept = season.get(f"{address}card/").content.decode().split("card-rest")[0]
    bench = open_bench(line, race)
    unsettled = [f for f in bench.kept.of("fuelling") if f.severity != "ok"]
    assert unsettled
    assert all(say(f, bench.kept).answer in kept for f in unsettled)
    for row in line.bike.readings.all():
        if row.document["kind"] == "known_good":
            season.post(f"{address}strike/{row.pk}/", {"struck": "1"})
    front = words(season.get(f"{address}card/")).split("On the way, and every figure")[0]
    assert "Mixture unknown: no proven" in front


def test_what_is_next_leads_to_the_room_that_settles_it(season):
    page = season.get("/").content.decode()
    line, race = Setup.objects.order_by("pk")[0], Race.objects.get()
    assert f'class="next-press" href="/bench/{line.pk}/{race.pk}/fuelling/jets/"' in page


def test_a_garage_with_nothing_says_the_first_step_and_a_race_without_a_bike_its_one_press(client, stranger, season):
    client.force_login(stranger, backend="django.contrib.auth.backends.ModelBackend")
    said = words(client.get("/"))
    assert "An empty garage" in said
    assert said.count("Add a bike") == 1
    assert client.get(f"/bikes/{Bike.objects.get().pk}/").status_code == 404
    garage = stranger.memberships.get().garage
    bike = Bike.objects.get()
    for row, name in ((bike, "garage"), (Race.objects.get(), "garage")):
        setattr(row, name, garage)
        row.save(update_fields=["garage"])
    Race.objects.get().pairing.delete()
    Setup.objects.filter(name="wet").update(head=None)
    Setup.objects.get(name="wet").revisions.all().delete()
    Setup.objects.get(name="wet").delete()
    assert f"Next: put {bike.name} on the bench for it" in words(client.get("/"))
    empty = client.get(f"/bikes/{bike.pk}/").content.decode()
    assert "In no race yet" in empty
    assert "each place leads to its facts" in empty


def test_from_the_card_a_draft_is_kept_or_taken_back_and_the_card_comes_back(demo):
    card = f"{demo.base}card/"
    draft = Draft.objects.get()
    draft.values |= {"rear_sprocket_teeth": 50}
    draft.version += 1
    draft.save()
    page = demo.get(card).content.decode()
    assert "A draft is open" in page
    assert f'name="back" value="{card}"' in page
    sent = {"version": Draft.objects.get().version, "back": card}
    unsaid = demo.post(f"{card}keep/", sent | {"reason": " "})
    assert (unsaid.status_code, unsaid["Location"], Revision.objects.count()) == (302, card, 1)
    assert "Say in a few words why" in demo.get(card).content.decode()
    kept = demo.post(f"{card}keep/", sent | {"reason": "deep sand"})
    assert (kept.status_code, kept["Location"]) == (302, card)
    assert Revision.objects.get(number=2).values["rear_sprocket_teeth"] == 50
    after = demo.get(card).content.decode()
    assert "A draft is open" not in after
    assert "setup No. 2" in after
    draft = Draft.objects.get()
    draft.values |= {"rear_sprocket_teeth": 52}
    draft.version += 1
    draft.save()
    back = demo.post(f"{card}put-back/", {"version": draft.version, "back": card, "tunable": "all"})
    assert (back.status_code, back["Location"]) == (302, card)
    assert Draft.objects.get().values["rear_sprocket_teeth"] == 50
