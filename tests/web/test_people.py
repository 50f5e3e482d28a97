"""A shared garage: what each role may do, codes to join by, who did what, and going from one garage to another."""

import io
import json
import re
from datetime import UTC, datetime, timedelta
from importlib import import_module

import pytest
from django.apps import apps
from django.core.cache import cache
from django.db import IntegrityError, connection, transaction
from django.test import Client, override_settings
from django.urls import resolve, reverse

from lynxwort.web.bikes.models import Bike, Draft, Revision
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.garages.roles import ALLOWED, Role, Verb
from lynxwort.web.garages.services import add_user
from lynxwort.web.machine import garage_lines, merging
from lynxwort.web.people import services
from lynxwort.web.people.models import Deed, Invitation
from lynxwort.web.people.verbs import NOBODYS, VERBS, verb_of
from lynxwort.web.people.wording import DEEDS
from lynxwort.web.readings.models import Reading
from lynxwort.web.ui import security
from tests import hostile
from tests.people import a_code, a_member, an_invitation
from tests.web.forms import forms_of
from tests.web.test_meanwhile import at_once

BACKEND = "django.contrib.auth.backends.ModelBackend"
#: what is written while a page is only read: sessions, and what is worked out once and kept to be quick
ASIDE = {"session", "pairing", "deed", "job"}


@pytest.fixture(autouse=True)
def _nothing_remembered():
    cache.clear()


def entering(user, **where) -> Client:
    client = Client(**where)
    client.force_login(user, backend=BACKEND)
    return client


def everything() -> dict:
    return {
        m: list(m.objects.order_by("pk").values())
        for m in apps.get_models()
        if m._meta.model_name not in ASIDE and m._meta.app_label != "contenttypes"
    }


@pytest.mark.parametrize("role", [Role.CREW, Role.RIDER, Role.MECHANIC])
def test_no_address_lets_a_role_do_what_is_not_its_own(demo, role):
    garage, ids = demo.setup.bike.garage, hostile.known(demo)
    demo.get(demo.base)  # what is worked out once is there
    demo.get(f"{demo.base}card/")
    client = entering(a_member(garage, role))
    before, written, closed, opened = everything(), connection.connection.total_changes, 0, 0

    def unchanged() -> bool:
        nonlocal written
        wrote, written = connection.connection.total_changes != written, connection.connection.total_changes
        return not wrote or everything() == before

    for name, route in hostile.routes():
        path = hostile.filled(route, ids)
        if name in NOBODYS or "^" in path or not getattr(resolve(path).func, "login_required", True):
            continue
        if verb_of(name, "GET") in ALLOWED[role]:
            assert client.get(path).status_code < 500, name
        else:
            assert client.get(path).status_code == 403, name
        assert unchanged(), name
        if verb_of(name, "POST") in ALLOWED[role]:
            opened += 1
            continue
        answer = client.post(path, {"version": "1", "moves": "[]", "role": "crew", "many": "many", "struck": "1"})
        assert answer.status_code == 403, name
        assert unchanged(), name
        closed += 1
    assert closed >= {Role.CREW: 55, Role.RIDER: 35, Role.MECHANIC: 3}[role]
    assert opened >= {Role.CREW: 2, Role.RIDER: 20, Role.MECHANIC: 50}[role]


def test_every_address_that_takes_something_has_its_verb_and_its_words(demo):
    ids, unnamed = hostile.known(demo), []
    before = everything()
    for name, route in hostile.routes():
        path = hostile.filled(route, ids)
        if "^" in path or name in NOBODYS or name in VERBS or name == "None":
            continue
        with transaction.atomic():
            written = connection.connection.total_changes
            answer = demo.post(path, {"version": "1"})
            if answer.status_code != 405 and connection.connection.total_changes != written and everything() != before:
                unnamed.append(name)
            transaction.set_rollback(True)
    assert unnamed == []
    assert set(VERBS) <= set(DEEDS)
    there = {name for name, _route in hostile.routes()}
    assert set(VERBS) | NOBODYS <= there | {"people:join"}
    with pytest.raises(IntegrityError), transaction.atomic():
        Invitation.objects.filter(pk=an_invitation(demo.setup.bike.garage).pk).update(role="owner")
    with pytest.raises(ValueError, match="owner"):
        a_code(demo.setup.bike.garage, "owner")


def test_what_a_role_may_not_send_is_there_to_read_and_has_no_button(demo):
    crew = entering(a_member(demo.setup.bike.garage, "crew"))
    for path in (f"{demo.base}drive/", reverse("bikes:facts", args=[demo.setup.bike_id]), "/riders/", "/parts/"):
        page = crew.get(path).content.decode()
        tags = [t for t in re.findall(r"<form\b[^>]*>", page) if "hx-post" in t or 'method="post"' in t]
        left = [t for t in tags if "data-not-yours" not in t and "/out/" not in t and "/tour/" not in t]
        assert tags, path
        assert left == [], path
        assert "data-not-yours" not in demo.get(path).content.decode()
    assert "Demo garage" in page
    # a page that answers a press is closed like any other
    rider = entering(a_member(demo.setup.bike.garage, "rider"))
    again = rider.post(f"{demo.base}baseline/gate/brakes/", {})
    assert again.status_code == 403
    stepped = {"moves": '[["shock_preload_m", 0.006]]', "version": Draft.objects.get(setup=demo.setup).version}
    said = rider.post(f"{demo.base}chassis/notch/", stepped, **{"HTTP_HX-Request": "true"}).content.decode()
    assert re.search(r'<form[^>]*chassis/keep/"[^>]* data-not-yours>', said)
    assert not re.search(r'<form[^>]*chassis/notch/"[^>]* data-not-yours>', said)
    part = crew.post(f"{demo.base}drive/notch/", {"moves": "[]", "version": "1"}, **{"HTTP_HX-Request": "true"})
    assert part.status_code == 403
    assert "Crew read everything" in part.content.decode()


def test_a_code_lets_one_person_in_once_and_only_by_sending(demo, settings, tmp_path, caplog):
    settings.DATA_DIR = tmp_path
    garage = demo.setup.bike.garage
    page = demo.post(reverse("people:invite"), {"role": "crew", "many": "one", "label": "Sorrel"}).content.decode()
    path = re.search(r"/join/([\w-]{22})<", page)
    assert path
    way, token = path.group(0)[:-1], path.group(1)
    phone = Client()
    for _look in range(3):  # a preview, a second look
        shown = phone.get(way).content.decode()
        assert "Join Demo garage as crew" in shown
    assert garage.memberships.count() == 1
    assert phone.post(way, {"username": " "}).status_code == 422
    assert phone.post(way, {"username": "Sorrel", "password": "short"}).status_code == 422
    assert phone.post(way, {"username": "DEMO"}).status_code == 422  # as somebody is called already
    assert garage.memberships.count() == 1
    assert phone.post(way, {"username": "Sorrel"})["Location"] == "/"
    assert phone.get(f"{demo.base}range/crew/").status_code == 200
    assert garage.memberships.get(user__username="Sorrel").role == "crew"
    assert not User.objects.get(username="Sorrel").has_usable_password()
    other = Client()
    for answer in (other.get(way), other.post(way, {"username": "Late"})):
        assert answer.status_code == 404
        assert "lets nobody in" in answer.content.decode()
    assert garage.memberships.count() == 2
    # nothing that is kept knows the token
    assert token not in json.dumps({str(m): str(rows) for m, rows in everything().items()})
    assert token not in str(list(Deed.objects.values())) + caplog.text + security.path().read_text()
    assert "joined by a code" in security.path().read_text()
    assert token not in demo.get(reverse("people:people")).content.decode()


def test_a_code_ends_by_its_owner_by_its_hour_and_for_whom_nothing_is_there(demo):
    garage, phone = demo.setup.bike.garage, Client()
    ended, late = a_code(garage), a_code(garage, now=datetime.now(UTC) - timedelta(days=1, seconds=1))
    assert demo.post(reverse("people:end", args=[ended.invitation.pk])).status_code == 302
    for code in (ended, late):
        assert phone.post(code.address[code.address.index("/join/") :], {"username": "x"}).status_code == 404
    many = a_code(garage, single=False)
    way = many.address[many.address.index("/join/") :]
    for name in ("Ada", "Bo", "Cy"):
        assert Client().post(way, {"username": name}).status_code == 302
    assert many.invitation.until - datetime.now(UTC) < timedelta(hours=1)
    # whoever is in stays what they are, and uses nothing up
    demo.post(way)
    assert garage.memberships.get(user__username="demo").role == "owner"
    many.invitation.refresh_from_db()
    assert many.invitation.joined == 3
    for _code in range(services.MOST_OPEN - len(services.open_invitations(garage))):
        a_code(garage)
    assert demo.post(reverse("people:invite"), {"role": "crew", "many": "one"}).status_code == 422
    wrong = [phone.get("/join/aaaaaaaaaaaaaaaaaaaaaa").status_code for _ in range(services.MOST_WRONG + 1)]
    assert wrong == [404] * services.MOST_WRONG + [429]
    assert phone.get(way).status_code == 429
    assert Client(REMOTE_ADDR="192.0.2.8").get(way).status_code == 200


def test_of_two_phones_at_the_same_moment_one_comes_in(transactional_db):
    garage = add_user("ash", "cold greasy hands", "Lean-to").memberships.get().garage
    for _round in range(4):
        code = a_code(garage)
        way = code.address[code.address.index("/join/") :]
        names = [f"{_round} phone {k}" for k in range(4)]
        sent = at_once(*(lambda n=n, way=way: Client().post(way, {"username": n}).status_code for n in names))
        assert sorted(sent) == [302, 404, 404, 404]
        code.invitation.refresh_from_db()
        assert code.invitation.joined == 1
    assert garage.memberships.count() == 5
    assert User.objects.count() == 5  # and nobody is left over


def test_the_code_says_what_this_machine_is_and_never_what_it_was_called(demo, settings):
    settings.HOST, settings.PORT = "192.0.2.40", 8123
    said = {"role": "rider", "many": "many"}
    settings.ALLOWED_HOSTS = ["*"]
    page = demo.post(reverse("people:invite"), said, HTTP_HOST="evil.example").content.decode()
    assert "http://192.0.2.40:8123/join/" in page
    assert "evil.example" not in page
    assert services.address_here() == ("http://192.0.2.40:8123", True)
    with override_settings(HOST="127.0.0.1"):
        assert services.address_here() == ("http://127.0.0.1:8123", False)
    with override_settings(TLS=True, HOST="fd00::2"):
        assert services.address_here() == ("https://[fd00::2]:8123", True)
    with override_settings(FRONT=True):
        assert not services.address_here()[1]
    with override_settings(FRONT=True, ADDRESS="https://van.example"):
        assert services.address_here() == ("https://van.example", True)
    # ISO/IEC 18004, capacities at level M (checks W.qr.*): version 3 to 42 bytes, 5 to 84; 17 + 4 v modules, 4 quiet
    for length, version in ((42, 3), (84, 5)):
        side = 17 + 4 * version + 8
        assert f'viewBox="0 0 {side} {side}"' in services.qr_svg("a" * length)


def test_a_part_in_the_garage_is_looked_up_at_every_press(demo):
    garage = demo.setup.bike.garage
    user = a_member(garage, "mechanic", "Tansy")
    tansy, member = entering(user), garage.memberships.get(user=user)
    assert tansy.get(f"{demo.base}drive/").status_code == 200
    moves = {"moves": json.dumps([["main_jet", 170.0]]), "version": demo.setup.draft.version}
    assert tansy.post(f"{demo.base}fuelling/notch/", moves).status_code == 200
    change = reverse("people:role", args=[member.pk])
    assert tansy.post(change, {"role": "owner"}).status_code == 403
    assert demo.post(change, {"role": "crew"}).status_code == 302
    now = Draft.objects.get(setup=demo.setup)
    assert tansy.post(f"{demo.base}fuelling/keep/", {"version": now.version, "reason": "mine"}).status_code == 403
    assert Revision.objects.filter(setup=demo.setup).count() == 1
    assert demo.post(change, {"role": "out"}).status_code == 302
    assert tansy.get(f"{demo.base}drive/")["Location"] == reverse("people:nowhere")
    assert "in no garage" in tansy.get(reverse("people:nowhere")).content.decode()
    assert tansy.post("/parts/", {"text": "170"}).status_code == 302
    assert not Membership.objects.filter(user=user).exists()
    # a garage keeps an owner
    own = garage.memberships.get()
    for wanted in ("crew", "out"):
        page = demo.post(reverse("people:role", args=[own.pk]), {"role": wanted})
        assert (page.status_code, "keeps an owner" in page.content.decode()) == (422, True)
    assert demo.post(reverse("people:role", args=[own.pk]), {"role": "king"}).status_code == 422
    assert demo.post(reverse("people:leave")).status_code == 422
    assert garage.memberships.get().role == "owner"


def test_who_did_what_stands_once_and_names_nothing_of_elsewhere(demo, stranger):
    garage = demo.setup.bike.garage
    wren = entering(a_member(garage, "rider", "Wren"))
    for _press in range(3):
        version = Draft.objects.get(setup=demo.setup).version
        wren.post(f"{demo.base}chassis/notch/", {"moves": '[["shock_preload_m", 0.006]]', "version": version})
    wren.post(f"{demo.base}drive/notch/", {"moves": "[", "version": "1"})  # not taken
    deed = Deed.objects.get()
    assert (deed.name, deed.role, deed.what, deed.garage) == ("Wren", "rider", "bench:notch", garage)
    assert deed.about == f"{demo.setup.title}, {demo.race.name}"
    page = demo.get(reverse("people:people")).content.decode()
    assert "stepped notches in draft" in page
    assert "Wren" not in entering(stranger).get(reverse("people:people")).content.decode()
    User.objects.get(username="Wren").delete()
    assert Deed.objects.get().name == "Wren"


def test_a_rider_strikes_out_what_they_took_themselves(demo):
    garage = demo.setup.bike.garage
    wren = entering(a_member(garage, "rider", "Wren"))
    theirs = Reading.objects.first()
    said = {"which": "rear_race", "value_m": "100 mm", "fuel_aboard_m3": "6"}
    form = {
        f: v
        for _a, fields in forms_of(wren.get(f"{demo.base}baseline/readings/").content.decode())
        for f, v in fields.items()
    }
    prefix = next((f.removesuffix("value_m") for f in form if f.endswith("value_m")), "")
    assert wren.post(f"{demo.base}readings/sag/", {prefix + k: v for k, v in said.items()}).status_code == 302
    mine = Reading.objects.order_by("-pk").first()
    assert mine.by == User.objects.get(username="Wren")
    for row in (theirs, mine):
        wren.post(reverse("bench:strike", args=[demo.setup.pk, demo.race.pk, row.pk]), {"struck": "1"})
        row.refresh_from_db()
    assert (theirs.struck_out, mine.struck_out) == (False, True)
    demo.post(reverse("bench:strike", args=[demo.setup.pk, demo.race.pk, theirs.pk]), {"struck": "1"})
    assert Reading.objects.get(pk=theirs.pk).struck_out


def test_in_two_garages_nothing_goes_to_the_wrong_one(demo, stranger):
    garage = demo.setup.bike.garage
    own = stranger.memberships.get().garage
    client = Client(enforce_csrf_checks=True)
    client.force_login(stranger, backend=BACKEND)
    code = a_code(garage, "mechanic")
    way = code.address[code.address.index("/join/") :]

    def token(path: str) -> str:
        return re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', client.get(path).content.decode()).group(1)

    old = token("/parts/")  # a tab of one's own garage, open all along
    assert client.post(way, {"csrfmiddlewaretoken": token(way)}).status_code == 302
    assert client.get(demo.base, follow=True).status_code == 200
    assert "elsewhere" in client.get(reverse("people:people")).content.decode()
    late = client.post("/parts/", {"csrfmiddlewaretoken": old, "kind": "main_jet", "text": "170"})
    assert (late.status_code, "from before" in late.content.decode()) == (403, True)
    back = token(reverse("people:people"))
    assert client.post(reverse("people:choose"), {"garage": own.pk, "csrfmiddlewaretoken": back}).status_code == 302
    assert client.get(f"{demo.base}drive/").status_code == 404
    third = add_user("third", "a long enough one", "third").memberships.get().garage
    for odd in (str(third.pk), "x", "²", "9" * 40, ""):
        sent = {"garage": odd, "csrfmiddlewaretoken": token(reverse("people:people"))}
        assert client.post(reverse("people:choose"), sent).status_code == 404
    # out of the one that was chosen, one is in one's own
    client.post(reverse("people:choose"), {"garage": garage.pk, "csrfmiddlewaretoken": token(reverse("people:people"))})
    Membership.objects.filter(garage=garage, user=stranger).delete()
    assert client.get(f"{demo.base}drive/").status_code == 404
    assert client.get("/parts/").status_code == 200


def test_whoever_came_in_by_a_code_never_keeps_the_machine(demo):
    mechanic = entering(a_member(demo.setup.bike.garage, "mechanic"), HTTP_HOST="localhost:8000")
    assert mechanic.post(reverse("machine:make")).status_code == 403
    assert "Write a back-up now" not in mechanic.get(reverse("machine:backups")).content.decode()
    assert "Write garage.jsonl" not in mechanic.get(reverse("machine:backups")).content.decode()


def test_members_of_before_are_mechanics(demo):
    user = a_member(demo.setup.bike.garage, "crew")
    Membership.objects.filter(user=user).update(role="member")
    assert entering(user).get("/").status_code == 403  # a part that nobody knows may nothing
    import_module("lynxwort.web.garages.migrations.0007_roles").members_were_mechanics(apps, None)
    assert Membership.objects.get(user=user).role == "mechanic"
    assert Verb.KEEP in ALLOWED["mechanic"]


def test_an_owner_puts_a_garage_away_for_good_and_nobody_else_does(demo, client, settings):
    """Typed by its name; everybody is out, nothing of it is left, and its owner begins an empty one."""
    garage, owner = Garage.objects.get(), User.objects.get(username="demo")
    mechanic = Client()
    mechanic.force_login(a_member(garage, "mechanic", "Tansy"), backend=BACKEND)
    other = add_user("stranger", "a long enough password", "elsewhere").memberships.get().garage
    lines = "".join(garage_lines.lines(garage)).encode()
    away = reverse("people:put-away")
    # a demo that anybody may enter is not put away by one of them
    assert client.post(away, {"name": garage.name}).status_code == 422
    settings.DEMO = False
    assert mechanic.post(away, {"name": garage.name}).status_code == 403
    assert client.post(away, {"name": "another name"}).status_code == 422
    assert Bike.objects.count() == 1
    answer = client.post(away, {"name": garage.name}, follow=True)
    assert "The garage is put away." in answer.content.decode()
    for model in apps.get_models():
        if any(f.name in ("garage", "bike", "setup", "race") for f in model._meta.get_fields() if f.concrete):
            left = [r for r in model.objects.all() if r.__class__ is not Membership]
            assert not left, model
    assert set(Garage.objects.values_list("name", flat=True)) == {garage.name, other.name}
    assert mechanic.get("/").headers["Location"] == reverse("people:nowhere")
    # from its file it comes back into the empty one
    fresh = owner.memberships.get().garage
    assert merging.merge(fresh, io.BytesIO(lines)).many("same", "ours", "theirs") == 0
    assert Bike.objects.get().garage == fresh
