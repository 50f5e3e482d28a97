"""Who comes in and who does not, into the security log."""

from datetime import UTC, datetime
from typing import Any

from axes.signals import user_locked_out
from django.contrib.auth import get_user_model
from django.contrib.auth.signals import user_logged_in, user_logged_out, user_login_failed
from django.http import HttpRequest

from lynxwort.web.ui.security import say

#: in a session: when it was signed in
SIGNED_IN_AT = "signed_in_at"


def _address(request: HttpRequest | None) -> str:
    return "" if request is None else str(request.META.get("REMOTE_ADDR", ""))


def _came_in(sender: Any, request: HttpRequest, user: Any, **_more: Any) -> None:
    request.session[SIGNED_IN_AT] = datetime.now(UTC).timestamp()
    say("signed in", user=user.get_username(), address=_address(request))


def _went(sender: Any, request: HttpRequest, user: Any, **_more: Any) -> None:
    if user is not None:
        say("signed out", user=user.get_username(), address=_address(request))


def _failed(sender: Any, credentials: dict, request: HttpRequest | None = None, **_more: Any) -> None:
    name = str(credentials.get("username", ""))
    known = (
        get_user_model().objects.filter(username=name[:150]).exists()
    )  # a password typed at the wrong field must not be written down
    say("sign-in failed", user=name if known else "(no such name)", address=_address(request))


def _locked(sender: Any, request: HttpRequest | None = None, username: str = "", **_more: Any) -> None:
    say("locked out", user=username, address=_address(request))


def connect() -> None:
    """Listen."""
    user_logged_in.connect(_came_in, dispatch_uid="security log")
    user_logged_out.connect(_went, dispatch_uid="security log")
    user_login_failed.connect(_failed, dispatch_uid="security log")
    user_locked_out.connect(_locked, dispatch_uid="security log")
