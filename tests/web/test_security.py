"""Who comes in, who stays in, what is written down of it, and what leaves as a file."""

import csv
import io
import json
import re
import ssl
import urllib.error
import urllib.request
from datetime import UTC, datetime

import pytest
from django.test import Client, override_settings
from django.urls import reverse

from lynxwort.web.garages import middleware, services
from lynxwort.web.garages.models import User
from lynxwort.web.machine import tls
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.ui import security, sheets
from tests.served import environment_of, prepare, serve

AWAY = {"REMOTE_ADDR": "192.0.2.9", "HTTP_HOST": "van.example"}
HERE = {"REMOTE_ADDR": "127.0.0.1", "HTTP_HOST": "localhost:8000"}
PASSWORD = "cold greasy hands"


@pytest.fixture
def ash(db, settings, tmp_path):
    """A person with a password, in an installation whose log begins empty."""
    settings.DATA_DIR, settings.DEMO = tmp_path, False
    return services.add_user("ash", PASSWORD, "Lean-to")


def signed_in(**where) -> Client:
    client = Client(**where)
    answer = client.post(reverse("garages:sign-in"), {"username": "ash", "password": PASSWORD})
    assert answer.status_code == 302, answer.content.decode()[:3000]
    return client


def events() -> list[tuple[str, str]]:
    return [(line["event"], line.get("user", "")) for line in map(json.loads, security.path().read_text().splitlines())]


def test_a_day_of_nobody_ends_a_session_from_elsewhere_but_not_here(ash, monkeypatch):
    away, here = signed_in(**AWAY), signed_in(**HERE)
    assert away.get("/parts/").status_code == 200
    assert middleware.COOKIE in away.cookies
    assert middleware.COOKIE not in here.cookies

    class Later(datetime):
        hours = 0.0

        @classmethod
        def now(cls, tz=None):
            return datetime.fromtimestamp(datetime.now(UTC).timestamp() + 3600 * cls.hours, tz)

    monkeypatch.setattr(middleware, "datetime", Later)
    for hours in (20.0, 40.0, 60.0):  # each within a day of the last
        Later.hours = hours
        assert away.get("/parts/").status_code == 200
    kept = away.cookies[middleware.COOKIE].value
    Later.hours = 85.0
    answer = away.get("/parts/", follow=True)
    assert "away for more than a day" in answer.content.decode()
    assert away.get("/parts/").status_code == 302
    assert here.get("/parts/").status_code == 200
    # somebody who took the session's cookie but not the other is as old as the sign-in, and no cookie is worth anything for another session
    Later.hours = 30.0
    thief = Client(**AWAY)
    thief.force_login(ash, backend="django.contrib.auth.backends.ModelBackend")
    thief.cookies[middleware.COOKIE] = kept
    session = thief.session
    session["signed_in_at"] = 0.0
    session.save()
    assert thief.get("/parts/").status_code == 302


def test_signing_out_everywhere_and_a_new_password_end_every_other_session(ash):
    one, two = signed_in(**HERE), signed_in(**AWAY)
    wrong = one.post(
        reverse("garages:password"),
        {"old_password": "no", "new_password1": "ash-ash-ash-1", "new_password2": "ash-ash-ash-1"},
    )
    assert (wrong.status_code, ash.check_password(PASSWORD)) == (422, True)
    page = one.post(
        reverse("garages:password"),
        {"old_password": PASSWORD, "new_password1": "another long one", "new_password2": "another long one"},
        follow=True,
    )
    assert "Your password is changed" in page.content.decode()
    assert one.get("/parts/").status_code == 200
    assert two.get("/parts/").status_code == 302
    User.objects.get(username="ash").set_password(PASSWORD)
    again = User.objects.get(username="ash")
    again.set_password(PASSWORD)
    again.save()
    three, four = signed_in(**HERE), signed_in(**AWAY)
    assert four.get(reverse("garages:sign-out-everywhere")).status_code == 405
    assert four.post(reverse("garages:sign-out-everywhere")).status_code == 302
    for client in (three, four):
        assert client.get("/parts/").status_code == 302
    assert signed_in(**AWAY).get("/parts/").status_code == 200
    assert [e for e in events() if e[0] in ("password changed", "signed out everywhere")] == [
        ("password changed", "ash"),
        ("signed out everywhere", "ash"),
    ]


def test_the_log_says_who_came_and_who_did_not_and_nothing_that_was_typed(ash):
    client = Client(**AWAY)
    client.post(reverse("garages:sign-in"), {"username": "ash", "password": "a wrong guess"})
    client.post(reverse("garages:sign-in"), {"username": "my secret typed at the name", "password": ""})
    client.post(reverse("garages:sign-in"), {"username": "my secret typed at the name", "password": "x"})
    signed_in(**HERE).post(reverse("garages:sign-out"))
    assert events() == [
        ("sign-in failed", "ash"),
        ("sign-in failed", "(no such name)"),
        ("signed in", "ash"),
        ("signed out", "ash"),
    ]
    text = security.path().read_text()
    assert not any(secret in text for secret in ("guess", "secret", PASSWORD))
    assert security.path().stat().st_mode & 0o077 == 0


def test_a_lock_out_is_of_one_name_at_one_address_and_never_of_this_machine(ash):
    services.add_user("elm", PASSWORD, "Shed")

    def tried(name: str, password: str, **where) -> int:
        return Client(**where).post(reverse("garages:sign-in"), {"username": name, "password": password}).status_code

    for _ in range(10):
        tried("ash", "wrong", **AWAY)
        tried("ash", "wrong", **HERE)
    assert tried("ash", PASSWORD, **AWAY) in (403, 429)
    assert ("locked out", "ash") in events()
    assert tried("elm", PASSWORD, **AWAY) == 302
    assert tried("ash", PASSWORD, **AWAY | {"REMOTE_ADDR": "192.0.2.10"}) == 302
    assert tried("ash", PASSWORD, **HERE) == 302
    with override_settings(FRONT=True):  # everything comes from the front: nothing is trusted for coming from there
        for _ in range(10):
            tried("elm", "wrong", **HERE)
        assert tried("elm", PASSWORD, **HERE) in (403, 429)
        assert tried("ash", PASSWORD, **HERE | {"REMOTE_ADDR": "192.0.2.11"}) == 302


def test_passwords_crossing_the_network_in_clear_are_said_where_they_are_typed(ash):
    assert "in clear" in Client(**AWAY).get("/in/").content.decode()
    assert "in clear" not in Client(**HERE).get("/in/").content.decode()
    assert "in clear" not in Client(**AWAY).get("/in/", secure=True).content.decode()
    assert "TLS=1" in Client(**AWAY).get("/authority/").content.decode()


# what leaves as a file -------------------------------------------------------------------------------------------------------
FORMULAS = ("=1+1", "+CMD()", "-2+3", "@SUM(A1)", "\tx", "'=already", "plain", "-5.2", "+3", "'tis")


@pytest.mark.parametrize("cell", FORMULAS)
def test_no_cell_is_a_formula_and_each_comes_back_as_it_was(cell):
    (row,) = csv.reader(io.StringIO(sheets.csv_text([[cell]])))
    assert not re.match(r"[=@\t]|[+-](?![\d.,]+$)", row[0])
    assert sheets.read_back(row[0]) == cell


def test_parts_with_formulas_for_labels_go_out_and_come_back(demo):
    for n, label in enumerate(("=HYPERLINK(1)", "@x", "-a+b", "'=q")):
        OwnedPart.objects.create(garage=demo.race.garage, kind="main_jet", value=150.0 + n, label=label, place="=1+1")
    told = sorted(OwnedPart.objects.values_list("kind", "value", "label", "place", "count"))
    data = demo.get(reverse("parts:export")).content
    for row in csv.reader(io.StringIO(data.decode())):
        assert not any(cell[:1] in "=@+-" and cell and not re.match(r"[+-]?[\d.]+$", cell) for cell in row)
    OwnedPart.objects.all().delete()
    assert demo.post(reverse("parts:file"), {"file": io.BytesIO(data)}).status_code == 302
    assert sorted(OwnedPart.objects.values_list("kind", "value", "label", "place", "count")) == told
    demo.race.document["stages"][0]["crew_points"] = [{"at_m": 900.0, "name": "=1+1"}]
    demo.race.save()
    crew = demo.get(f"{demo.base}crew.csv").content.decode()
    assert "'=1+1" in crew
    assert not re.search(r"(^|,)=", crew, re.MULTILINE)


def test_the_card_as_a_file_brings_its_policy(demo):
    page = demo.get(f"{demo.base}pit-card.html").content.decode()
    policy = re.search(r'http-equiv="Content-Security-Policy" content="([^"]+)"', page).group(1)
    assert "default-src 'none'" in policy
    assert "<script" not in page
    assert page.index("Content-Security-Policy") < page.index("<style")


# TLS -------------------------------------------------------------------------------------------------------------------------
def test_tls_with_an_authority_of_ones_own(tmp_path):
    """A client that trusts the authority comes in; one that does not is warned; nothing of the authority's key is served."""
    environment = environment_of(tmp_path, LYNXWORT_TLS="1")
    prepare(environment, "--only", "brackenmere")
    process, _visitor = serve(environment)
    try:
        with pytest.raises(urllib.error.URLError):
            urllib.request.urlopen(f"https://127.0.0.1:{environment['PORT']}/in/", timeout=20)
        trusting = ssl.create_default_context(cafile=str(tmp_path / "tls" / "authority.pem"))
        answer = urllib.request.urlopen(f"https://localhost:{environment['PORT']}/in/", context=trusting, timeout=20)
        assert answer.status == 200
        assert "secure" in answer.headers["Set-Cookie"].lower()
        assert answer.headers["Strict-Transport-Security"] is None
        page = (
            urllib.request.urlopen(f"https://localhost:{environment['PORT']}/authority/", context=trusting, timeout=20)
            .read()
            .decode()
        )
        der = urllib.request.urlopen(
            f"https://localhost:{environment['PORT']}/authority/lynxwort-authority.crt", context=trusting, timeout=20
        ).read()
        assert ssl.DER_cert_to_PEM_cert(der).strip() == (tmp_path / "tls" / "authority.pem").read_text().strip()
        assert re.search(r"([0-9A-F]{2}:){31}[0-9A-F]{2}", page)
        assert all(p.stat().st_mode & 0o077 == 0 for p in (tmp_path / "tls").iterdir())
    finally:
        process.kill()
        process.wait(20)


def test_the_authority_stays_and_the_leaf_is_of_today(settings, tmp_path):
    settings.DATA_DIR = tmp_path
    first, second = tls.papers(), tls.papers()
    assert first.fingerprint == second.fingerprint
    assert {"localhost", "127.0.0.1"} <= set(first.names)
    said = ssl._ssl._test_decode_cert(str(second.certificate))
    good_for = ssl.cert_time_to_seconds(said["notAfter"]) - datetime.now(UTC).timestamp()
    assert 300 * 86_400 < good_for < 398 * 86_400
    assert ("DNS", "localhost") in said["subjectAltName"]
