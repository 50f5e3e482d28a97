"""One mark of all rows that a bench is put together from. The database itself changes it whenever one of them is
written, by whichever way: triggers see bulk writes, cascades and other programs too. On other databases than SQLite
there is none, and whoever keeps things by it keeps nothing.
"""

from collections.abc import Iterator
from typing import Any

from django.apps import apps
from django.db import connection, transaction

#: drafts and their versions are read anew at every request, so a notch does not change the mark
WATCHED = (
    ("bench", "Pairing"),
    ("bikes", "Bike"),
    ("bikes", "Setup"),
    ("bikes", "Revision"),
    ("readings", "Reading"),
    ("runs", "Trial"),
    ("runs", "TrialRun"),
    ("runs", "RiddenDay"),
    ("runs", "ClickTurn"),
    ("service", "ServiceLine"),
    ("races", "Race"),
    ("races", "Race_others"),
    ("races", "Rider"),
    ("races", "Course"),
    ("parts", "OwnedPart"),
    ("garages", "Garage"),
)
_TRIGGERS = "SELECT count(*) FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'counted_%'"
_RAISE = "UPDATE counted SET mark = hex(randomblob(12)) WHERE id = 1"
_VERBS = ("INSERT", "UPDATE", "DELETE")


def _triggers() -> Iterator[tuple[str, str, str]]:
    """Name, verb and table of each."""
    for app, model in WATCHED:
        table = apps.get_model(app, model)._meta.db_table
        for verb in _VERBS:
            yield f"counted_{table}_{verb.lower()}", verb, connection.ops.quote_name(table)


def arm(**_signal: Any) -> None:
    """Set up mark and triggers. After every migration, since one that makes a table anew drops its triggers."""
    if connection.vendor != "sqlite":
        return
    # in one piece: nothing may be written while a trigger is away
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("CREATE TABLE IF NOT EXISTS counted (id INTEGER PRIMARY KEY, mark TEXT NOT NULL)")
        cursor.execute("INSERT OR IGNORE INTO counted (id, mark) VALUES (1, hex(randomblob(12)))")
        for name, verb, table in _triggers():
            cursor.execute(f"DROP TRIGGER IF EXISTS {name}")
            cursor.execute(f"CREATE TRIGGER {name} AFTER {verb} ON {table} BEGIN {_RAISE}; END")
        cursor.execute(_RAISE)


def mark() -> str | None:
    """The mark as it stands. Random, so that one seen in a transaction that came to nothing is never seen again. None
    where nothing may be kept by it: another database, or a trigger is missing.
    """
    if connection.vendor != "sqlite":
        return None
    with connection.cursor() as cursor:
        if cursor.execute(_TRIGGERS).fetchone()[0] != len(WATCHED) * len(_VERBS):
            return None
        row = cursor.execute("SELECT mark FROM counted WHERE id = 1").fetchone()
    return row[0] if row else None
