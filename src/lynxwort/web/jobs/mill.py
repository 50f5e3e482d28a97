"""The process beside the server: does one thing after another that it is asked for, under a memory limit, JSON in and
JSON out.

Asked for by lynxwort.web.jobs.apart, never by hand: a line {"verb": "package.module:function", "payload": {...}} comes
in; lines with "step", and one with "done", "refused", "database" or "failed", go out.
"""

import ctypes
import importlib
import json
import os
import resource
import signal
import sys
import traceback
from collections.abc import Callable
from contextlib import suppress
from dataclasses import asdict
from typing import Any

from lynxwort.core.errors import InputRefused

PARENT_DEATH_SIGNAL = 1  #: prctl's PR_SET_PDEATHSIG


def _end_with_the_server() -> None:
    """A server that is killed takes this process with it, also in the middle of its work."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(PARENT_DEATH_SIGNAL, signal.SIGKILL)


def _limit(most_bytes: int) -> None:
    """What the process may hold of its own: beyond it Python raises MemoryError instead of taking the machine down."""
    resource.setrlimit(resource.RLIMIT_DATA, (most_bytes, most_bytes))


def _function(name: str) -> Callable[..., Any]:
    module, _colon, function = name.partition(":")
    return getattr(importlib.import_module(module), function)  # type: ignore[no-any-return]


def _answer(asked: dict[str, Any], say: Callable[[dict[str, Any]], None]) -> dict[str, Any]:
    try:
        return {
            "done": _function(asked["verb"])(
                asked["payload"], lambda progress, result: say({"step": [progress, result]})
            )
        }
    except InputRefused as refused:
        return {"refused": [asdict(r) for r in refused.refusals]}
    except MemoryError:
        return {"failed": "memory"}
    except Exception as error:
        traceback.print_exc()
        kind = "database" if any("DatabaseError" in c.__name__ for c in type(error).__mro__) else "failed"
        return {kind: str(error)[:300] or type(error).__name__}


def main(most_bytes: int) -> None:
    """Answer until nobody asks any more."""
    _end_with_the_server()
    os.nice(10)  # a page goes before what runs beside it
    _limit(most_bytes)
    out = os.fdopen(os.dup(1), "w")
    os.dup2(2, 1)  # whatever prints, prints beside the answers

    def say(line: dict[str, Any]) -> None:
        out.write(json.dumps(line) + "\n")
        out.flush()

    for line in sys.stdin:
        answer = _answer(json.loads(line), say)
        say(answer)
        if answer.get("failed") == "memory":
            return  # a process that has met its limit is not asked again


if __name__ == "__main__":
    main(int(sys.argv[1]))
