"""Coming in: accounts, garages, the demo's door."""

import ipaddress
import secrets
from typing import Any

from django.conf import settings
from django.db import transaction
from django.http import HttpRequest

from lynxwort.core.units.convert import PRESETS, Units, chosen_units
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.ui.stale import StaleFacts

DEMO_USER = "demo"


def is_loopback(request: HttpRequest) -> bool:
    """Whether the request comes from this machine itself."""
    try:
        return ipaddress.ip_address(request.META.get("REMOTE_ADDR", "")).is_loopback
    except ValueError:
        return False


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
    return is_loopback(request) or secrets.compare_digest(given, first_account_token() or secrets.token_hex())


@transaction.atomic
def _own_garage(user: Any, name: str) -> Garage:
    garage = Garage.objects.create(name=name)
    Membership.objects.create(user=user, garage=garage)
    return garage


@transaction.atomic
def add_user(username: str, password: str, garage_name: str) -> User:
    """A new person with a garage of their own."""
    user = User.objects.create_user(username=username, password=password)
    _own_garage(user, garage_name or username)
    return user


def garage_of(user: Any) -> Garage | None:
    """The garage a person is in. An account made outside the pages gets one of its own the first time; None of a stranger."""
    if not user.is_authenticated:
        return None
    found = Garage.objects.filter(memberships__user=user).order_by("memberships__id").first()
    return found or _own_garage(user, user.get_username())


def units_of_person(user: Any) -> Units:
    """The units in which a person reads; metric before signing in."""
    return chosen_units(user.units, user.unit_choices) if user.is_authenticated else PRESETS["metric"]


def settings_of(user: User) -> dict[str, Any]:
    """What a person has chosen of units and light."""
    return {"units": user.units, "choices": dict(user.unit_choices), "theme": user.theme}


@transaction.atomic
def change_settings(user: User, choices: dict[str, str], theme: str, *, seen: dict[str, Any]) -> None:
    """Units and light at once. seen: the settings that were edited. Raises StaleFacts."""
    if settings_of(User.objects.get(pk=user.pk)) != seen:
        raise StaleFacts
    set_units(user, user.units, choices)
    set_theme(user, theme)


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
