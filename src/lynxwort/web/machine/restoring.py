"""Putting a back-up back: looked at, brought up to date as a copy, and only then set in the place of what stands; the
old one is kept.
"""

import os
import secrets
import sqlite3
from contextlib import closing, suppress
from datetime import UTC, datetime
from pathlib import Path

from django.conf import settings
from django.core.management import call_command
from django.db import DatabaseError, connections
from django.db.migrations.loader import MigrationLoader

from lynxwort.web.machine import lock
from lynxwort.web.machine.archive import LEFT_OUT, Contents, Unusable, counts_of, read
from lynxwort.web.ui import security
from lynxwort.web.ui.private import replaced, sync_folder

ALIAS = "put_back"


def place() -> Path:
    """Where the served database lies."""
    return Path(connections["default"].settings_dict["NAME"])


def _sound(database: Path, contents: Contents) -> None:
    """Raises Unusable when the database is not the one that was backed up, or not whole."""
    try:
        with closing(sqlite3.connect(database)) as opened:
            if (
                opened.execute("PRAGMA integrity_check").fetchone()[0] != "ok"
                or opened.execute("PRAGMA foreign_key_check").fetchone()
            ):
                raise Unusable("damaged")
            if counts_of(opened) != contents.counts:
                raise Unusable("changed")
    except sqlite3.DatabaseError as error:
        raise Unusable("damaged") from error


def _brought_up_to_date(database: Path) -> None:
    """Migrate the copy. Raises Unusable (newer), DatabaseError."""
    connections.databases[ALIAS] = connections.databases["default"] | {"NAME": str(database)}
    try:
        loader = MigrationLoader(connections[ALIAS])
        if set(loader.applied_migrations) - set(loader.disk_migrations):
            raise Unusable("newer")
        call_command("migrate", database=ALIAS, verbosity=0, interactive=False)
        with connections[ALIAS].cursor() as cursor:
            for table in LEFT_OUT:
                cursor.execute(f'DELETE FROM "{table}"')  # noqa: S608 - named in the archive
            cursor.execute("PRAGMA journal_mode=DELETE")
            cursor.execute("PRAGMA integrity_check")
            if cursor.fetchone()[0] != "ok":
                raise Unusable("damaged")
    finally:
        connections[ALIAS].close()
        del connections[ALIAS]
        del connections.databases[ALIAS]


def _beside(database: Path, end: str) -> Path:
    return database.with_name(database.name + end)


def _keep_old(database: Path, kept: Path) -> None:
    """Keep what stands under another name, its unwritten pages with it; then nothing of them lies beside the place any
    more.
    """
    with suppress(sqlite3.Error), closing(sqlite3.connect(database, timeout=5)) as opened:
        opened.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    if database.exists():
        os.link(database, kept)
    for end in ("-wal", "-shm"):
        left = _beside(database, end)
        if left.exists() and end == "-wal" and left.stat().st_size:  # it could not be written in: kept as it lies
            left.replace(_beside(kept, end))
        left.unlink(missing_ok=True)


def put_back(source: Path) -> tuple[Contents, Path]:
    """Put a back-up in the place of what stands. Everybody is signed out. What it holds, and where the old database is
    kept.

    Raises lock.Served while the folder is served, Unusable, OSError, DatabaseError; then everything stands as it stood.
    """
    with lock.alone():
        return put_back_held(source)


def put_back_held(source: Path) -> tuple[Contents, Path]:
    """As put_back, by who holds the folder's lock."""
    database = place()
    copy = _beside(database, ".put-back")
    kept = database.parent / "backups" / f"replaced-{datetime.now(UTC):%Y%m%dT%H%M%S%f}.sqlite3"
    try:
        contents = read(source, copy)
        _sound(copy, contents)
        _brought_up_to_date(copy)
        kept.parent.mkdir(mode=0o700, exist_ok=True)
        connections["default"].close()
        _keep_old(database, kept)
        copy.replace(database)
        sync_folder(database.parent)
    except sqlite3.Error as error:
        raise DatabaseError(str(error)) from error
    finally:
        for end in ("", "-journal", "-wal", "-shm"):
            with suppress(OSError):
                _beside(copy, end).unlink(missing_ok=True)
    _new_key()
    security.say("restore", made=contents.made.isoformat())
    return contents, kept


def _new_key() -> None:
    """Another secret key: whatever was signed with the old one is worth nothing."""
    key = secrets.token_urlsafe(50)
    with replaced(settings.DATA_DIR / "secret-key") as file:
        file.write(key.encode())
    settings.SECRET_KEY = key
    (settings.DATA_DIR / "first-account-token").unlink(missing_ok=True)
