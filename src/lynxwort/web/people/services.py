"""Letting people into a garage, what they are there, and letting them out again. Whoever joins is never its owner; a
token is never stored, logged or shown twice.
"""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

import segno
from django.conf import settings
from django.core.cache import cache
from django.db import IntegrityError, transaction
from django.db.models import F, Q
from django.urls import reverse

from lynxwort.web.bikes.models import Revision, Setup
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.garages.roles import Role, Verb, may
from lynxwort.web.machine import tls
from lynxwort.web.people import deeds
from lynxwort.web.people.models import Invitation
from lynxwort.web.races.models import CourseBlob, Race

#: bytes of chance in a token: 22 characters
TOKEN_BYTES = 16
#: one person has a day to come in by a code, a whole crew an hour
SINGLE_FOR, MANY_FOR = timedelta(days=1), timedelta(hours=1)
#: codes that do not exist, asked for from one address before it has to wait, and for how long [s]
MOST_WRONG, WRONG_FOR_S = 20, 900
#: what somebody may join as
JOINED_AS = (Role.MECHANIC, Role.RIDER, Role.CREW)
#: codes of a garage that are open at a time
MOST_OPEN = 20


class NotOpen(Exception):
    """The code was used, has ended, or never was."""


class NameTaken(Exception):
    """Somebody here is called so already."""


class LastOwner(Exception):
    """A garage keeps an owner."""


class TooMany(Exception):
    """No more codes at once."""


@dataclass(frozen=True, slots=True)
class Code:
    """A code to join by, as it is shown once. address: what it says; qr: drawn, as SVG; reachable: whether a phone can
    come to that address at all.
    """

    invitation: Invitation
    address: str
    qr: str
    reachable: bool


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def address_here() -> tuple[str, bool]:
    """Scheme, address and port that a phone finds this installation at, from what it was started with and from its own
    interfaces, never from what a request calls it; and whether a phone can reach it.
    """
    if settings.ADDRESS:
        return settings.ADDRESS, True
    host = settings.HOST
    if host in ("0.0.0.0", "::"):  # noqa: S104 - compared, not bound
        host = tls.address_on_the_network() or "127.0.0.1"
    named = f"[{host}]" if ":" in host else host
    scheme = "https" if settings.TLS else "http"
    return f"{scheme}://{named}:{settings.PORT}", not settings.FRONT and host not in ("127.0.0.1", "localhost", "::1")


def qr_svg(text: str) -> str:
    """A QR code of a text as SVG, at level M, dark on light whatever the page is."""
    return segno.make(text, error="m", boost_error=False, micro=False).svg_inline(  # type: ignore[no-any-return]
        border=4, svgclass="qr", lineclass=None, omitsize=True, dark="#000", light="#fff"
    )


@transaction.atomic
def invite(garage: Garage, by: User, role: str, *, single: bool, label: str, now: datetime | None = None) -> Code:
    """A code to join a garage by. Raises TooMany; ValueError for the owner's role."""
    if role not in JOINED_AS:
        raise ValueError(role)
    now = now or datetime.now(UTC)
    if sum(i.is_open(now) for i in Invitation.objects.filter(garage=garage, ended=None, until__gt=now)) >= MOST_OPEN:
        raise TooMany
    token = secrets.token_urlsafe(TOKEN_BYTES)
    made = Invitation.objects.create(
        garage=garage, digest=_digest(token), role=role, single=single, label=label, made_by=by,
        until=now + (SINGLE_FOR if single else MANY_FOR),
    )  # fmt: skip
    here, reachable = address_here()
    address = here + reverse("people:join", args=[token])
    return Code(made, address, qr_svg(address), reachable)


def end(invitation: Invitation) -> None:
    """Nobody comes in by it any more."""
    Invitation.objects.filter(pk=invitation.pk, ended=None).update(ended=datetime.now(UTC))


def open_invitations(garage: Garage) -> list[Invitation]:
    """Codes that somebody could still come in by."""
    now = datetime.now(UTC)
    return [i for i in Invitation.objects.filter(garage=garage, ended=None, until__gt=now) if i.is_open(now)]


def asked_too_often(address: str) -> bool:
    """Whether an address has asked for too many codes that do not exist."""
    return int(cache.get(f"join-{address}") or 0) >= MOST_WRONG


def find(token: str, address: str) -> Invitation:
    """The open invitation of a token; a wrong one counts against the address that asked. Raises NotOpen."""
    found = Invitation.objects.select_related("garage").filter(digest=_digest(token)).first()
    if found is None:
        cache.add(f"join-{address}", 0, WRONG_FOR_S)
        cache.incr(f"join-{address}")
        raise NotOpen
    if not found.is_open(datetime.now(UTC)):
        raise NotOpen
    return found


def _use(invitation: Invitation) -> None:
    """Take one place of it, whoever asks at the same moment. Raises NotOpen."""
    open_now = Invitation.objects.filter(pk=invitation.pk, ended=None, until__gt=datetime.now(UTC))
    if not open_now.filter(Q(single=False) | Q(joined=0)).update(joined=F("joined") + 1):
        raise NotOpen


@transaction.atomic
def join(invitation: Invitation, user: User) -> bool:
    """Let a person in by it; False when they are in already: their part stays, and nothing is used up. Raises
    NotOpen.
    """
    if Membership.objects.filter(user=user, garage=invitation.garage).exists():
        return False
    _use(invitation)
    Membership.objects.create(user=user, garage=invitation.garage, role=invitation.role)
    deeds.write(invitation.garage, user, invitation.role, "people:join", invitation.label)
    return True


def join_anew(invitation: Invitation, name: str, password: str) -> User:
    """A new person let in by it. password: may be empty, then this device alone stays in. Raises NotOpen, NameTaken."""
    try:
        with transaction.atomic():
            if User.objects.filter(username__iexact=name).exists():
                raise NameTaken
            user = User.objects.create_user(username=name, password=password or None, guest=True)
            join(invitation, user)
            return user
    except IntegrityError:
        raise NameTaken from None


def _keeps_an_owner(member: Membership) -> None:
    member.refresh_from_db(fields=["role"])
    others = Membership.objects.filter(garage=member.garage_id, role=Role.OWNER).exclude(pk=member.pk)
    if member.role == Role.OWNER and not others.exists():
        raise LastOwner


@transaction.atomic
def change_role(member: Membership, role: str) -> None:
    """Give a member another part. Raises LastOwner."""
    if role != Role.OWNER:
        _keeps_an_owner(member)
    Membership.objects.filter(pk=member.pk).update(role=role)


@transaction.atomic
def let_out(member: Membership) -> None:
    """A member is in the garage no more; what they did stays. Raises LastOwner."""
    _keeps_an_owner(member)
    member.delete()


@transaction.atomic
def put_away(member: Membership) -> None:
    """Put a garage away with all that is in it. Whoever is in no other one begins an empty one of that name; whoever it
    let in is in it no more. What protects itself goes first.
    """
    garage, user = member.garage, member.user
    Setup.objects.filter(bike__garage=garage).update(head=None)
    Revision.objects.filter(setup__bike__garage=garage).update(parent=None)
    Race.objects.filter(garage=garage).delete()
    garage.delete()
    CourseBlob.objects.filter(course=None).delete()
    if not user.memberships.exists():
        Membership.objects.create(user=user, garage=Garage.objects.create(name=garage.name))


def people_page(member: Membership) -> dict[str, Any]:
    """What the page of a garage's people shows to one of them."""
    garage, owns = member.garage, may(member, Verb.OWN)
    return {
        "member": member,
        "owns": owns,
        "members": list(garage.memberships.select_related("user").order_by("pk")),
        "mine": list(member.user.memberships.select_related("garage").order_by("pk")),
        "invitations": open_invitations(garage) if owns else [],
        "done": list(garage.deeds.all()[:40]),
    }
