"""How many pages are worked on at once: what is more than the machine can carry is asked to wait, instead of queueing
without end.
"""

import threading
import time
from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string

#: what needs no work of the kind that is counted
FREE = ("/static/", "/health")
_lock = threading.Lock()
_inside = 0
_last = time.monotonic()


def quiet_s() -> float:
    """How long nobody has asked for a page."""
    with _lock:
        return 0.0 if _inside else time.monotonic() - _last


def _enter() -> bool:
    global _inside, _last
    with _lock:
        _last = time.monotonic()
        if _inside >= settings.PAGES_AT_ONCE:
            return False
        _inside += 1
        return True


def _leave() -> None:
    global _inside, _last
    with _lock:
        _last = time.monotonic()
        _inside -= 1


def waiting_page(request: HttpRequest) -> HttpResponse:
    """A page that asks again by itself when it was only to be read. It needs no database, no session and nobody signed
    in.
    """
    page = render_to_string("ui/waiting.html", {"again": request.method == "GET"})
    asks_again = {"Refresh": "3"} if request.method == "GET" else {}
    return HttpResponse(page, status=503, headers={"Retry-After": "3", "Cache-Control": "no-store"} | asks_again)


class Gate:
    """Lets in as many at once as there are places; turns the others away at once, while threads are left to do so."""

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path.startswith(FREE):
            return self.get_response(request)
        if not _enter():
            return waiting_page(request)
        try:
            return self.get_response(request)
        finally:
            _leave()
