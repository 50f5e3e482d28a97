"""A back-up is one zip: what it holds said in manifest.json, and the database by SQLite's own back-up, never a copy of
its file.

Neither the secret key nor sessions, jobs or counted sign-ins are in it. It holds the password hashes: whoever has it
can try to guess passwords.
"""

import hashlib
import json
import sqlite3
import zipfile
from contextlib import closing, suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any, BinaryIO

from lynxwort.core import CORE_VERSION
from lynxwort.web.ui.private import replaced, written

FORMAT = 1
KIND = "lynxwort installation"
DATABASE = "lynxwort.sqlite3"
MANIFEST = "manifest.json"
#: what stays on the machine it was made on
LEFT_OUT = ("django_session", "jobs_job", "axes_accessattempt", "axes_accesslog", "axes_accessfailurelog")
MOST_MANIFEST_BYTES, MOST_DATABASE_BYTES = 1_000_000, 8_000_000_000
CHUNK = 1 << 20


class Unusable(Exception):
    """A back-up that cannot be put back. code: not_whole, not_ours, newer, changed, damaged."""

    def __init__(self, code: str) -> None:
        super().__init__(code)
        self.code = code


@dataclass(frozen=True)
class Contents:
    """What a back-up says of itself. made: UTC; counts: rows by table."""

    made: datetime
    core_version: str
    counts: dict[str, int]
    sha256: str
    size: int


def _tables(database: sqlite3.Connection) -> list[str]:
    rows = database.execute(
        "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name"
    )
    return [name for (name,) in rows]


def counts_of(database: sqlite3.Connection) -> dict[str, int]:
    """Rows by table."""
    return {t: database.execute(f'SELECT COUNT(*) FROM "{t}"').fetchone()[0] for t in _tables(database)}  # noqa: S608 - names come from the schema


def _copy_database(source: Path, target: Path) -> dict[str, int]:
    """The database as it stands at one moment, whoever writes meanwhile, without what is left out. The rows by
    table.
    """
    with closing(sqlite3.connect(source, timeout=60)) as live, closing(sqlite3.connect(target)) as copy:
        live.backup(copy)  # in one step: pieces would begin anew with every write that comes between
        copy.execute("PRAGMA journal_mode=DELETE")
        known = set(_tables(copy))
        for table in LEFT_OUT:
            if table in known:
                copy.execute(f'DELETE FROM "{table}"')  # noqa: S608 - named above
        copy.commit()
        copy.execute("VACUUM")  # what was left out must not stand in free pages either
        return counts_of(copy)


def _hashed(file: BinaryIO, into: BinaryIO | None = None, most: int = MOST_DATABASE_BYTES) -> tuple[str, int]:
    digest, size = hashlib.sha256(), 0
    while chunk := file.read(CHUNK):
        size += len(chunk)
        if size > most:
            raise Unusable("changed")
        digest.update(chunk)
        if into is not None:
            into.write(chunk)
    return digest.hexdigest(), size


def write(database: Path, target: Path, *, now: datetime | None = None) -> Contents:
    """Write a back-up of a database: beside its place, to the disk, then named. Raises OSError, sqlite3.Error; then
    nothing is left of it.
    """
    copy = target.with_suffix(".database")
    try:
        counts = _copy_database(database, copy)
        with copy.open("rb") as file:
            sha256, size = _hashed(file)
        contents = Contents(
            made=now or datetime.now(UTC), core_version=CORE_VERSION, counts=counts, sha256=sha256, size=size
        )
        with replaced(target) as file, zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as archive:  # type: ignore[assignment]
            archive.writestr(MANIFEST, json.dumps(_manifest(contents), indent=1))
            archive.write(copy, DATABASE)
    finally:
        for left in (copy, copy.with_name(copy.name + "-journal")):
            with suppress(OSError):
                left.unlink(missing_ok=True)
    return contents


def _manifest(contents: Contents) -> dict[str, Any]:
    return {
        "kind": KIND,
        "format": FORMAT,
        "made": contents.made.isoformat(),
        "core_version": contents.core_version,
        "counts": contents.counts,
        "files": {DATABASE: {"sha256": contents.sha256, "bytes": contents.size}},
    }


def _read_manifest(archive: zipfile.ZipFile) -> Contents:
    names = set(archive.namelist())
    if MANIFEST not in names or archive.getinfo(MANIFEST).file_size > MOST_MANIFEST_BYTES:
        raise Unusable("not_ours")
    said = json.loads(archive.read(MANIFEST))
    if not isinstance(said, dict) or said.get("kind") != KIND or not isinstance(said.get("format"), int):
        raise Unusable("not_ours")
    if said["format"] > FORMAT:
        raise Unusable("newer")
    if names != {MANIFEST, DATABASE}:
        raise Unusable("not_ours")
    about = said["files"][DATABASE]
    counts = {str(k): int(v) for k, v in said["counts"].items()}
    made = datetime.fromisoformat(said["made"])
    return Contents(
        made=made if made.tzinfo else made.replace(tzinfo=UTC),
        core_version=str(said["core_version"]),
        counts=counts,
        sha256=str(about["sha256"]),
        size=int(about["bytes"]),
    )


def read(source: Path | BinaryIO, database: Path | None = None) -> Contents:
    """What a back-up holds, every byte of it looked at; its database is laid down where `database` says. Raises
    Unusable, OSError.
    """
    try:
        with zipfile.ZipFile(source) as archive:
            contents = _read_manifest(archive)
            with archive.open(DATABASE) as packed:
                if database is None:
                    found = _hashed(packed, most=contents.size)  # type: ignore[arg-type]
                else:
                    with written(database) as into:
                        found = _hashed(packed, into, contents.size)  # type: ignore[arg-type]
    except (zipfile.BadZipFile, EOFError, zipfile.LargeZipFile, NotImplementedError, RuntimeError) as error:
        raise Unusable("not_whole") from error
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError) as error:
        raise Unusable("not_ours") from error
    if found != (contents.sha256, contents.size):
        raise Unusable("changed")
    return contents
