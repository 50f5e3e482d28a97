"""The shelf of back-ups in the data folder: made when asked, once a day when nothing else is to be done, and before the
database changes its form.
"""

import logging
import shutil
import sqlite3
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import BinaryIO

from django.conf import settings

from lynxwort.web.machine import archive
from lynxwort.web.machine.restoring import place
from lynxwort.web.ui import gate
from lynxwort.web.ui.private import replaced

log = logging.getLogger(__name__)
#: how many of a kind are kept; those asked for stay until somebody takes them away
KEPT = {"daily": 7, "migration": 7}
KINDS = ("asked", "daily", "migration")
EVERY, QUIET_S, LONG_AGO = timedelta(days=1), 120.0, timedelta(days=7)
WAITING, TAKEN_AWAY = "put-back-at-start.zip", "taken-away"


@dataclass(frozen=True)
class OnShelf:
    """A back-up on the shelf. kind: asked, daily, migration."""

    name: str
    kind: str
    made: datetime
    size: int


def folder() -> Path:
    """Where back-ups lie; made when it is not there."""
    path = Path(settings.DATA_DIR) / "backups"
    path.mkdir(mode=0o700, exist_ok=True)
    return path


def on_shelf() -> list[OnShelf]:
    """The back-ups, newest first."""
    found = []
    for path in folder().glob("lynxwort-*.zip"):
        _name, stamp, kind = (path.stem + "--").split("-")[:3]
        try:
            made = datetime.strptime(stamp, "%Y%m%dT%H%M%SZ").replace(tzinfo=UTC)
        except ValueError:
            continue
        if kind in KINDS:
            found.append(OnShelf(path.name, kind, made, path.stat().st_size))
    return sorted(found, key=lambda b: b.made, reverse=True)


def path_of(name: str) -> Path | None:
    """The file of a back-up by its name; None when there is none of that name."""
    return next((folder() / b.name for b in on_shelf() if b.name == name), None)


def make(kind: str) -> Path:
    """Make a back-up and take away the oldest of its kind. Raises OSError, sqlite3.Error."""
    now = datetime.now(UTC)
    target = folder() / f"lynxwort-{now:%Y%m%dT%H%M%SZ}-{kind}.zip"
    archive.write(place(), target, now=now)
    of_kind = [b for b in on_shelf() if b.kind == kind]
    for old in of_kind[KEPT.get(kind, len(of_kind)) :]:
        (folder() / old.name).unlink(missing_ok=True)
    return target


def daily() -> None:
    """A back-up when the last is a day old and nobody has asked for a page for a while; trouble is noted and tried
    again later.
    """
    made = [b.made for b in on_shelf() if b.kind == "daily"]
    if settings.DEMO or gate.quiet_s() < QUIET_S or (made and datetime.now(UTC) - made[0] < EVERY):
        return
    try:
        make("daily")
    except (OSError, sqlite3.Error) as error:
        log.warning("no daily back-up: %s", error)


def note_taken_away() -> None:
    """A back-up has left this machine."""
    (folder() / TAKEN_AWAY).write_text(datetime.now(UTC).isoformat())


def taken_away() -> datetime | None:
    """When a back-up last left this machine by the page."""
    try:
        return datetime.fromisoformat((folder() / TAKEN_AWAY).read_text())
    except (OSError, ValueError):
        return None


def is_long_ago() -> bool:
    """Whether the last back-up that left this machine is older than a week."""
    last = taken_away()
    return last is not None and datetime.now(UTC) - last > LONG_AGO


def put_by(source: BinaryIO) -> archive.Contents:
    """Lay a back-up ready for the next start. Raises archive.Unusable, OSError; then what was ready before still is."""
    with replaced(Path(settings.DATA_DIR) / WAITING) as file:
        shutil.copyfileobj(source, file)
        return archive.read(file)


def waiting() -> Path | None:
    """The back-up that the next start puts back."""
    path = Path(settings.DATA_DIR) / WAITING
    return path if path.exists() else None


def let_go() -> None:
    """Nothing is put back at the next start."""
    (Path(settings.DATA_DIR) / WAITING).unlink(missing_ok=True)
