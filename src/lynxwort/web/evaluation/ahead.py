"""Answers made before they are asked for: while a pointer rests on a notch, what a press would answer is made ready.

What is kept here is nothing but that answer. Its key holds all that it depends on, so one that no longer fits is never
found; each is given out once. The page that asked has it too, and shows it as it is pressed: see mark_of.
"""

import hashlib
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import CancelledError, Future
from typing import Any, TypeVar

from django.utils.translation import get_language

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from lynxwort.web.ui.typed import Request, place_of, zoom_of

T = TypeVar("T")
#: what the page asks with when it shows an answer made ready already: that one's mark
SHOWN = "X-Shown"
#: answers kept, some 70 kB each
MOST = 32
#: as many are made at a time: whoever presses meanwhile shares the machine with them
AT_ONCE = 2
#: a press waits this long for its answer in the making [s]; after that it is made anew
PATIENCE_S = 2.0

_made: "OrderedDict[Hashable, Future[bytes]]" = OrderedDict()
_lock = threading.Lock()
#: whose neighbours are told ahead, and by which call
_telling: tuple[Hashable, object] | None = None


class Overtaken(Exception):
    """What nobody has asked for yet is no longer wanted."""


def key_of(
    request: Request, setup: Setup, race: Race, station: str, version: int, moves: list[tuple[str, float]]
) -> tuple[Any, ...]:
    """All that the answer to moves, or to none, depends on: what it is made of, who asks, what the page has of it."""
    whose = (request.user.pk, request.preset, get_language())
    page = (
        place_of(request),
        zoom_of(request, race.pk),
        *(request.headers.get(name, "") for name in ("HX-Request", "X-Open", "X-Have")),
    )
    return (setup.mark, setup.pk, race.pk, station, version, tuple(moves), *whose, *page)


def mark_of(answer: bytes) -> str:
    """What a page that shows an answer says of it, so that it is not sent again."""
    return hashlib.blake2b(answer, digest_size=12).hexdigest()


def newest(who: Hashable, build: Callable[[Callable[[], bool]], T]) -> T | None:
    """What nobody has asked for yet and is dear to make: one in the whole process, somebody's newest. build: is given
    what tells whether to go on, and raises Overtaken where not. None for one overtaken, or while another's is made.
    """
    global _telling
    mine = (who, object())
    with _lock:
        if _telling is not None and _telling[0] != who:
            return None
        _telling = mine
    try:
        return build(lambda: _telling is mine)
    except Overtaken:
        return None
    finally:
        with _lock:
            if _telling is mine:
                _telling = None


def overtake(who: Hashable) -> None:
    """Somebody asks for something else now."""
    global _telling
    with _lock:
        if _telling is not None and _telling[0] == who:
            _telling = None


def make(key: Hashable, build: Callable[[], bytes | None]) -> bytes | None:
    """Make an answer ready, and give it; None where too many, or this one, are in the making. build: gives None where
    nothing can be told ahead.
    """
    answer: Future[bytes] = Future()
    with _lock:
        standing = _made.get(key)
        if standing is not None:
            return standing.result() if standing.done() and not standing.cancelled() else None
        if sum(not a.done() for a in _made.values()) >= AT_ONCE:
            return None
        _made[key] = answer
        while len(_made) > MOST:
            _made.popitem(last=False)
    try:
        found = build()
        if found is not None:
            answer.set_result(found)
        return found
    finally:
        if answer.cancel():  # nothing came of it
            with _lock:
                _made.pop(key, None)


def take(key: Hashable) -> bytes | None:
    """The answer made ready, or in the making; None where there is none."""
    with _lock:
        answer = _made.pop(key, None)
    try:
        return answer.result(timeout=PATIENCE_S) if answer else None
    except (CancelledError, TimeoutError):
        return None
