"""Coming in: accounts, garages, the demo's door."""

import ipaddress
import secrets
from contextvars import ContextVar
from typing import Any

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import F
from django.http import HttpRequest
from django.http.request import split_domain_port

from lynxwort.core.units.convert import PRESETS, Units, chosen_units
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.ui.stale import StaleFacts

DEMO_USER = "demo"
#: where a session remembers the garage that was chosen
CHOSEN = "garage"
#: who is at it, for what remembers by whom it was written; None outside a request
acting: ContextVar[Any] = ContextVar("acting", default=None)


def author_id() -> int | None:
    """The person whose request is being answered; None where nobody's is."""
    user = acting.get()
    return user.pk if user is not None and user.is_authenticated else None


def _names_this_machine(address: str) -> bool:
    try:
        return ipaddress.ip_address(address).is_loopback
    except ValueError:
        return address == "localhost"


def is_loopback(request: HttpRequest) -> bool:
    """Whether the request comes from this machine itself and was asked of it by such a name: a page elsewhere whose
    name was made to point here asks by another. Behind a front everything seems to come from here, so nothing is.
    """
    if settings.FRONT:
        return False
    host, _port = split_domain_port(request.META.get("HTTP_HOST") or request.META.get("SERVER_NAME", ""))
    return _names_this_machine(request.META.get("REMOTE_ADDR", "")) and _names_this_machine(host.strip("[]"))


def crosses_in_clear(request: HttpRequest) -> bool:
    """Whether what is typed crosses a network that others may listen on."""
    return not request.is_secure() and not is_loopback(request)


def never_locked_out(request: HttpRequest, credentials: Any = None) -> bool:
    """Whoever sits at the machine itself is never locked out of it."""
    return is_loopback(request)


def needs_first_account() -> bool:
    """No account but the demo's yet."""
    return not User.objects.exclude(username=DEMO_USER).exists()


def first_account_token() -> str | None:
    """Token that lets another machine make the first account; None once there is one. Kept in the data directory."""
    if settings.DEMO or not needs_first_account():
        return None
    path = settings.DATA_DIR / "first-account-token"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(24))
    return path.read_text()


def may_make_first_account(request: HttpRequest) -> bool:
    """From loopback, or with the token that the server printed."""
    if settings.DEMO or not needs_first_account():
        return False
    given = request.GET.get("token") or request.POST.get("token") or ""
    return is_loopback(request) or secrets.compare_digest(
        given.encode(), (first_account_token() or secrets.token_hex()).encode()
    )


class TakenAlready(Exception):
    """The first account stands already, or the name is another's."""


def add_first_user(username: str, password: str, garage_name: str) -> User:
    """The first account with its garage, once, whoever asks at the same moment. Raises TakenAlready."""
    try:
        with transaction.atomic():  # IMMEDIATE: who looks also writes
            if not needs_first_account():
                raise TakenAlready
            return add_user(username, password, garage_name)
    except IntegrityError:
        raise TakenAlready from None


def keeps_the_machine(request: HttpRequest) -> bool:
    """The first account, at the machine itself: it may take all of it away and put another in its place. Nobody who
    came in by a code.
    """
    if not is_loopback(request) or not request.user.is_authenticated:
        return False
    own = User.objects.filter(guest=False).exclude(username=DEMO_USER)
    first = own.order_by("pk").values_list("pk", flat=True).first()
    return request.user.pk == first or (settings.DEMO and request.user.get_username() == DEMO_USER)


def sign_out_everywhere(user: User) -> None:
    """Every session of a person ends, this one too."""
    User.objects.filter(pk=user.pk).update(session_round=F("session_round") + 1)


@transaction.atomic
def _own_garage(user: Any, name: str) -> Membership:
    return Membership.objects.create(user=user, garage=Garage.objects.create(name=name))


@transaction.atomic
def add_user(username: str, password: str, garage_name: str) -> User:
    """A new person with a garage of their own."""
    user = User.objects.create_user(username=username, password=password)
    _own_garage(user, garage_name or username)
    return user


def membership_of(user: Any, chosen: object = None) -> Membership | None:
    """What a person is in the garage they are in: in the one last chosen, as long as they are let in there, else in the
    first. An account made outside the pages gets a garage of its own the first time; None of a stranger, and of a guest
    whom no garage lets in any more.
    """
    if not user.is_authenticated:
        return None
    rows = list(Membership.objects.select_related("garage").filter(user=user).order_by("id"))
    found = next((m for m in rows if m.garage_id == chosen), rows[0] if rows else None)
    if found is None and not user.guest:
        found = _own_garage(user, user.get_username())
    if found is not None:
        found.of_several = len(rows) > 1
    return found


def units_of_person(user: Any) -> Units:
    """The units in which a person reads; metric before signing in."""
    return chosen_units(user.units, user.unit_choices) if user.is_authenticated else PRESETS["metric"]


def settings_of(user: User) -> dict[str, Any]:
    """What a person has chosen of units, light, language and comforts."""
    return {
        "units": user.units,
        "choices": dict(user.unit_choices),
        "theme": user.theme,
        "language": user.language,
        "comforts": list(user.comforts),
    }


@transaction.atomic
def change_settings(
    user: User, choices: dict[str, str], theme: str, language: str, comforts: list[str], *, seen: dict[str, Any]
) -> None:
    """Units, light, language and comforts at once. seen: the settings that were edited. Raises StaleFacts."""
    if settings_of(User.objects.get(pk=user.pk)) != seen:
        raise StaleFacts
    set_units(user, user.units, choices)
    set_theme(user, theme)
    user.language, user.comforts = language, sorted(comforts)
    user.save(update_fields=["language", "comforts"])


def set_units(user: User, preset: str, choices: dict[str, str]) -> None:
    """A preset and the quantities in which the person differs from it."""
    user.units, user.unit_choices = preset, {k: v for k, v in choices.items() if v != getattr(PRESETS[preset], k)}
    user.save(update_fields=["units", "unit_choices"])


def set_theme(user: User, theme: str) -> None:
    """Day, night, or as the device."""
    user.theme = theme
    user.save(update_fields=["theme"])


def may_enter_demo(request: HttpRequest) -> bool:
    """The demo's button works in the demo database and from loopback only."""
    return settings.DEMO and is_loopback(request)
