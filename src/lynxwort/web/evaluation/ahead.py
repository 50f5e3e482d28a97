"""Answers made before they are asked for: while a pointer rests on a notch, what a press would answer is made ready.

What is kept here is nothing but that answer. Its key holds all that it depends on, so one that no longer fits is never
found; each is given out once.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import CancelledError, Future

#: answers kept, some 70 kB each
MOST = 32
#: as many are made at a time: whoever presses meanwhile shares the machine with them
AT_ONCE = 2
#: a press waits this long for its answer in the making [s]; after that it is made anew
PATIENCE_S = 2.0

_made: "OrderedDict[Hashable, Future[bytes]]" = OrderedDict()
_lock = threading.Lock()


def make(key: Hashable, build: Callable[[], bytes | None]) -> None:
    """Make an answer ready, unless it is, or too many are in the making. build: gives None where nothing can be told
    ahead.
    """
    answer: Future[bytes] = Future()
    with _lock:
        if key in _made or sum(not a.done() for a in _made.values()) >= AT_ONCE:
            return
        _made[key] = answer
        while len(_made) > MOST:
            _made.popitem(last=False)
    try:
        found = build()
        if found is not None:
            answer.set_result(found)
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
