"""What somebody may send: every place of an address and every field of every form, times sixty values that no place expects."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from urllib.parse import quote

from django.db import connection, transaction
from django.test import Client
from django.urls import get_resolver

from lynxwort.web.bench.models import Felt, Pairing
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.people.models import Invitation
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.readings.models import Reading
from lynxwort.web.runs.models import Trial
from lynxwort.web.service.models import ServiceLine
from tests.logged import a_part
from tests.people import an_invitation
from tests.trials import a_trial
from tests.web.forms import forms_of

VALUES = (
    "",
    " ",
    "²",
    "٣",
    "½",
    "１２",
    "1" * 5000,
    "-1",
    "0",
    "-0",
    "1e308",
    "1e309",
    "-1e309",
    "nan",
    "inf",
    "0x10",
    "1_000",
    "1,000,000,000",
    "1.2.3",
    "12:34:56",
    "1/0",
    "0/0",
    "100 %",
    "5 kg",
    "1 furlong",
    "kgf/mm",
    "1;2;3",
    "1 " * 900,
    "9223372036854775808",
    "-9999999999999999999",
    "2027-99-99T99:99",
    "0001-01-01T00:00",
    "9999-12-31T23:59",
    "[" * 6000,
    "{" * 6000,
    "[]",
    "[[]]",
    '[["main_jet", 1e999]]',
    '[["nothing", 1]]',
    '[["main_jet", null]]',
    '[["main_jet", "x"]]',
    "[[null, 1]]",
    '[[["a"], 1]]',
    '{"a": 1}',
    "null",
    "true",
    '"',
    "abc",
    "'; DROP TABLE bikes_bike;--",
    "<script>alert(1)</script>",
    "\x00",
    "ü",
    "😀" * 300,
    "a" * 100_000,
    "../../etc/passwd",
    "%00%ff",
    "\r\nX-Injected: 1",
    "=1+1",
    "\u202e\u2028",
    "all",
)
MODELS = (
    Garage,
    Membership,
    User,
    Bike,
    Setup,
    Revision,
    Draft,
    Course,
    Rider,
    Race,
    OwnedPart,
    Reading,
    Felt,
    Pairing,
    Invitation,
)
#: what addresses may say after their question mark
ASKED = (
    "a",
    "as",
    "at",
    "b",
    "can",
    "change",
    "day",
    "from",
    "job",
    "measure",
    "next",
    "one",
    "open",
    "page",
    "piece",
    "q",
    "race",
    "rows",
    "sort",
    "symptom",
    "tap",
    "token",
    "two",
    "weather",
    "what",
    "zoom",
)


@dataclass(frozen=True)
class Case:
    """One request. data: of a form sent by POST; None for a page asked for."""

    place: str
    path: str
    data: dict | None = None


def routes(resolver=None, before: str = "", namespace: str = "") -> Iterator[tuple[str, str]]:
    """Every address as (name, route)."""
    for item in (resolver or get_resolver()).url_patterns:
        route = before + str(item.pattern)
        if hasattr(item, "url_patterns"):
            yield from routes(item, route, f"{item.namespace}:" if item.namespace else namespace)
        else:
            yield f"{namespace}{item.name}", "/" + route


def known(client: Client) -> dict[str, object]:
    """What stands at the places of addresses in the demo garage."""
    return {
        "setup": client.setup.pk,
        "race": client.race.pk,
        "bike": client.setup.bike_id,
        "revision": Revision.objects.first().pk,
        "part": OwnedPart.objects.first().pk,
        "reading": Reading.objects.first().pk,
        "trial": (Trial.objects.first() or a_trial(client.setup)).uid,
        "station": "fuelling",
        "figure": "drive.top_speed",
        "kind": "sag",
        "key": "race_sag",
        "pattern": "four_stroke_450",
        "engine": "injected_four_stroke",
        "where": "hills",
        "page": 1,
        "stage": 0,
        "end": "rear",
        "course": client.race.course_id,
        "rider": client.race.rider_id,
        "name": "x.zip",
        "check": "brakes",
        "what": "hours",
        "line": (ServiceLine.objects.filter(kind="part").first() or a_part(client.setup.bike)).uid,
        "member": Membership.objects.order_by("-pk").first().pk,
        "invitation": (Invitation.objects.first() or an_invitation(client.setup.bike.garage)).pk,
        "token": "no-such-code-anywhere",
    }


def filled(route: str, ids: dict[str, object], **changed: str) -> str:
    """The address of a route; changed stand as they are, whatever the route expects."""
    return re.sub(r"<\w+:(\w+)>", lambda m: quote(changed[m[1]], safe="") if m[1] in changed else str(ids[m[1]]), route)


def cases(client: Client) -> list[Case]:
    """All of them, in an order that does not change."""
    ids, found, forms = known(client), [], {}
    for name, route in routes():
        if name in ("garages:sign-out", "garages:sign-out-everywhere"):
            continue
        path = filled(route, ids)
        for place in re.findall(r"<\w+:(\w+)>", route):
            for value in VALUES:
                crooked = filled(route, ids, **{place: value[:3000]})
                found += [Case(f"{name} <{place}>", crooked), Case(f"{name} <{place}>", crooked, {"version": "1"})]
        answer = client.get(path)
        for asked in ASKED if answer.status_code == 200 else ():
            found += [Case(f"{name} ?{asked}", f"{path}?{asked}={quote(value[:3000])}") for value in VALUES]
        if answer.status_code == 200 and "html" in answer.headers.get("Content-Type", ""):
            for action, fields in forms_of(answer.content.decode()):
                forms.setdefault((action or path).split("?")[0], {}).update(fields)
        if answer.status_code == 405:
            forms.setdefault(path, {}).update(
                {
                    "version": "1",
                    "moves": "[]",
                    "tunable": "main_jet",
                    "drop": "0",
                    "setup": str(ids["setup"]),
                    "race": str(ids["race"]),
                }
            )
    for path, fields in sorted(forms.items()):
        if "/out/" in path:
            continue
        for field in sorted(fields):
            found += [Case(f"{path} [{field}]", path, fields | {field: value}) for value in VALUES]
    return found


def standing() -> dict:
    """Everything that the garages hold."""
    return {m: list(m.objects.order_by("pk").values()) for m in MODELS}


def wrong(client: Client, case: Case, before: dict) -> str:
    """What is wrong with the answer to a case; "" when nothing is. Whatever it changed is taken back."""
    with transaction.atomic():
        rows_before = connection.connection.total_changes
        answer = client.get(case.path) if case.data is None else client.post(case.path, case.data)
        code, said = answer.status_code, ""
        if code >= 500:
            said = f"{code}"
        elif (
            (case.data is None or code >= 400)
            and connection.connection.total_changes != rows_before
            and standing() != before
        ):
            now = standing()
            apart = {m.__name__: [r for r in now[m] if r not in before[m]][:2] for m in MODELS if now[m] != before[m]}
            said = f"{code}, and something changed: {str(apart)[:600]}"
        elif code == 422 and not re.search(
            r'class="[^"]*(error|refused|message|bad)|role="alert"|^\{"refused": "', answer.content.decode()
        ):
            said = "422 without a word"
        transaction.set_rollback(True)
    return said
