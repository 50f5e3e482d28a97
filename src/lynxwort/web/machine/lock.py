"""One program serves a data folder at a time, and whoever wants to replace what lies in it can tell."""

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings


class Served(Exception):
    """The data folder is being served."""


def _path() -> Path:
    return Path(settings.DATA_DIR) / "serving"


@contextmanager
def alone() -> Iterator[None]:
    """Hold the folder's lock. Raises Served when somebody else does. The system lets go of it when the process ends,
    however it ends.
    """
    descriptor = os.open(_path(), os.O_CREAT | os.O_RDWR, 0o600)
    try:
        try:
            fcntl.flock(descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            raise Served from None
        yield
    finally:
        os.close(descriptor)


@contextmanager
def serving() -> Iterator[None]:
    """Hold the lock while serving; one line when the folder is served already."""
    try:
        with alone():
            yield
    except Served:
        raise SystemExit(f"Lynxwort is serving {settings.DATA_DIR} already.") from None
