"""Work apart from the server: long reckoning and the reading of large files in processes of their own, so that pages
stay quick and memory comes back.
"""

import json
import logging
import os
import selectors
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from django.db import OperationalError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.web.jobs import uploads

log = logging.getLogger(__name__)
#: bytes that a process may hold: of long reckoning, of reading a file
MOST_JOBS_BYTES, MOST_READING_BYTES = 1_500_000_000, 900_000_000
#: a file up to here is read where it came in [bytes]; how long one waits for its turn (who waits holds a page's place),
#: and for its end [s]
SMALL_BYTES, TURN_S, READING_S = 1_000_000, 5.0, 90.0
#: a process nobody asks any more ends after this [s]; it looks for cancelling this often [s]
IDLE_S, LOOK_S = 120.0, 0.15
SOURCES = Path(__file__).parents[3]

Step = Callable[[float, Any], None]


class Ended(Exception):
    """The process ended, or was ended, before it answered. why: killed, time, memory."""


class Mill:
    """A process that is begun when it is first asked and ends when nobody asks; one question at a time."""

    def __init__(self, name: str, most_bytes: int) -> None:
        self.name, self.most_bytes = name, most_bytes
        self._turn = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._last = 0.0

    def ask(
        self,
        verb: str,
        payload: dict[str, Any],
        *,
        step: Step | None = None,
        watch: Callable[[], None] | None = None,
        most_s: float | None = None,
    ) -> Any:
        """What the verb answers. step: called with what it says on its way; watch: called every LOOK_S; what either
        raises ends the process.

        Raises InputRefused, OperationalError as the verb did, Ended, RuntimeError.
        """
        with self._turn:
            return self._asked(verb, payload, step, watch, most_s)

    def ask_soon(self, verb: str, payload: dict[str, Any], *, wait_s: float, most_s: float) -> Any:
        """As ask, unless its turn does not come in time. Raises InputRefused (not_now) too."""
        if not self._turn.acquire(timeout=wait_s):
            raise InputRefused(Refusal(path="file", code="not_now"))
        try:
            return self._asked(verb, payload, None, None, most_s)
        finally:
            self._turn.release()

    def _asked(
        self,
        verb: str,
        payload: dict[str, Any],
        step: Step | None,
        watch: Callable[[], None] | None,
        most_s: float | None,
    ) -> Any:
        process = self._running()
        assert process.stdin is not None
        try:
            process.stdin.write(json.dumps({"verb": verb, "payload": payload}).encode() + b"\n")
            process.stdin.flush()
            said = self._listen(process, step, watch, most_s)
        except BrokenPipeError:
            self.end()
            raise Ended("killed") from None
        except BaseException:  # cancelled, out of time, or the server itself ends: it must not go on working for nobody
            self.end()
            raise
        self._last = time.monotonic()
        return self._sorted_out(said)

    def _sorted_out(self, said: dict[str, Any]) -> Any:
        if "done" in said:
            return said["done"]
        if "refused" in said:
            raise InputRefused(*(Refusal(**r) for r in said["refused"]))
        if "database" in said:
            raise OperationalError(said["database"])
        if said.get("failed") == "memory":
            self.end()
            raise Ended("memory")
        raise RuntimeError(said.get("failed", ""))

    def _listen(
        self,
        process: "subprocess.Popen[bytes]",
        step: Step | None,
        watch: Callable[[], None] | None,
        most_s: float | None,
    ) -> dict[str, Any]:
        assert process.stdout is not None
        until = time.monotonic() + most_s if most_s is not None else None
        held, looked = b"", time.monotonic()
        with selectors.DefaultSelector() as ready:
            ready.register(process.stdout, selectors.EVENT_READ)
            while True:
                came_any = ready.select(timeout=LOOK_S)
                if watch is not None and time.monotonic() - looked >= LOOK_S:  # also of a process that says much
                    watch()
                    looked = time.monotonic()
                if not came_any:
                    if until is not None and time.monotonic() > until:
                        raise Ended("time")
                    continue
                came = os.read(
                    process.stdout.fileno(), 1 << 16
                )  # a reader with a buffer would keep back lines that nothing announces any more
                if not came:
                    raise Ended("killed")
                *lines, held = (held + came).split(b"\n")
                for line in lines:
                    said: dict[str, Any] = json.loads(line)
                    if "step" not in said:
                        return said
                    if step is not None:
                        step(*said["step"])

    def _running(self) -> "subprocess.Popen[bytes]":
        if self._process is None or self._process.poll() is not None:
            environment = os.environ | {
                "PYTHONPATH": os.pathsep.join(filter(None, (str(SOURCES), os.environ.get("PYTHONPATH"))))
            }
            command = [sys.executable, "-P", "-m", "lynxwort.web.jobs.mill", str(self.most_bytes)]
            self._process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, env=environment)  # noqa: S603 - ourselves
        return self._process

    def end(self) -> None:
        """End the process now, whatever it does."""
        process, self._process = self._process, None
        if process is None:
            return
        with suppress(OSError):
            process.kill()
        process.wait()
        for pipe in (process.stdin, process.stdout):
            with suppress(OSError):
                if pipe is not None:
                    pipe.close()

    def rest(self) -> None:
        """End the process when nobody has asked it for a while; its memory comes back."""
        if self._process is not None and time.monotonic() - self._last > IDLE_S and self._turn.acquire(blocking=False):
            try:
                self.end()
            finally:
                self._turn.release()


jobs = Mill("jobs", MOST_JOBS_BYTES)
reader = Mill("reader", MOST_READING_BYTES)


def rest() -> None:
    """Let both processes end when nobody needs them."""
    jobs.rest()
    reader.rest()


def read(verb: str, file: Any, payload: dict[str, Any], *, here: Callable[[dict[str, Any], Step], Any]) -> Any:
    """What a verb makes of an uploaded file, whose path it finds in the payload: a small one is read here, a large one
    by the reader, one at a time.

    Raises InputRefused: the verb's refusals, not_now, took_too_much. The file is not kept.
    """
    path = uploads.folder() / f"reading-{os.getpid()}-{threading.get_ident()}"
    try:
        with path.open("wb") as out:
            for chunk in file.chunks():
                out.write(chunk)
        asked = payload | {"path": str(path)}
        if path.stat().st_size <= SMALL_BYTES:
            return here(asked, lambda _progress, _result: None)
        return reader.ask_soon(verb, asked, wait_s=TURN_S, most_s=READING_S)
    except Ended as ended:
        log.warning("a file of %s bytes was not read: %s", file.size, ended)
        raise InputRefused(Refusal(path="file", code="took_too_much")) from None
    finally:
        path.unlink(missing_ok=True)
