"""In the process beside the server: the work of a kind of job, with Django and its own connection to the database."""

import time
from collections.abc import Callable
from importlib import import_module
from typing import Any

import django
from django.apps import apps
from django.db import close_old_connections

SAY_EVERY_S = 0.25
#: how far it is when the process stands [1]
BEGUN = 0.01


def work(payload: dict[str, Any], step: Callable[[float, Any], None]) -> Any:
    """What a job of payload["kind"] comes to, whose work registers in payload["home"]: no other page is brought in for
    it. It says no more often how far it is than anybody looks.
    """
    if not apps.ready:
        django.setup()
    step(BEGUN, None)  # what the work needs takes two seconds to bring in
    import_module(payload["home"])
    from lynxwort.web.jobs.worker import work_of

    last = 0.0

    def now_and_then(progress: float, result: Any) -> None:
        nonlocal last
        if progress >= 1.0 or time.monotonic() - last >= SAY_EVERY_S:
            last = time.monotonic()
            step(progress, result)

    try:
        return work_of(payload["kind"])(payload["payload"], now_and_then)
    finally:
        close_old_connections()
