from datetime import UTC, datetime
from typing import Any

from django.contrib import messages
from django.contrib.auth import logout
from django.core import signing
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils.functional import SimpleLazyObject
from django.utils.translation import gettext as _

from lynxwort.web.garages.services import CHOSEN, acting, is_loopback, membership_of, units_of_person
from lynxwort.web.garages.watching import SIGNED_IN_AT
from lynxwort.web.ui.middleware import speak
from lynxwort.web.ui.typed import Request

IDLE_S, REFRESH_S = 24 * 3600.0, 600.0
COOKIE = "lynxwort-seen"


class GarageMiddleware:
    """Puts what the person is, in which garage, and their units on the request; asked anew at every one."""

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> HttpResponse:
        request.member = SimpleLazyObject(lambda: membership_of(request.user, request.session.get(CHOSEN)))
        request.garage = SimpleLazyObject(lambda: request.member.garage if request.member else None)
        request.preset = units_of_person(request.user)
        if request.user.is_authenticated and request.user.language:
            speak(request.user.language)
        token = acting.set(request.user)
        try:
            return self.get_response(request)
        finally:
            acting.reset(token)


def _signer(request: HttpRequest) -> signing.TimestampSigner:
    return signing.TimestampSigner(salt=f"seen {request.session.session_key}")


def _seen_s_ago(request: HttpRequest) -> float:
    """How long ago this session last asked: by its signed cookie, or else since it was signed in. A cookie, since a
    page that is only read writes nothing.
    """
    now = datetime.now(UTC).timestamp()
    try:
        return now - float(_signer(request).unsign(request.COOKIES.get(COOKIE, "")))
    except (signing.BadSignature, ValueError):
        return now - float(request.session.get(SIGNED_IN_AT, 0.0))


class IdleMiddleware:
    """From another machine a session ends when nobody has used it for a day; at the machine itself it does not."""

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if is_loopback(request) or not request.user.is_authenticated:
            return self.get_response(request)
        ago = _seen_s_ago(request)
        if ago > IDLE_S:
            logout(request)
            messages.info(request, _("You were away for more than a day. Please come in again."))
            return redirect("garages:sign-in")
        key = request.session.session_key
        answer = self.get_response(request)
        if (ago > REFRESH_S or COOKIE not in request.COOKIES) and request.session.session_key == key:
            value = _signer(request).sign(str(datetime.now(UTC).timestamp()))
            answer.set_cookie(COOKIE, value, httponly=True, samesite="Lax", secure=request.is_secure())
        return answer
