"""The demo in a test's database: loaded once a session by the command itself, and laid down again row by row afterwards, which takes a hundredth of it."""

from django.core.management import call_command
from django.db import connection, transaction

from lynxwort.core.model.setup.kit import ITEM_FIELDS
from lynxwort.core.tunables import TUNABLES
from lynxwort.web.garages.models import User

#: what a page sends in which everything is opened
OPEN = " ".join(("figures", "habits", *(f"group-{t}" for t in (*TUNABLES, *ITEM_FIELDS))))
Rows = dict[str, tuple[list[str], list[tuple]]]
_kept: dict[str | None, Rows] = {}


def _taken() -> Rows:
    found: Rows = {}
    with connection.cursor() as cursor:
        for table in connection.introspection.table_names(cursor):
            if not table.startswith(("django_", "auth_", "axes_", "counted")):
                cursor.execute(f'SELECT * FROM "{table}"')
                found[table] = ([column[0] for column in cursor.description], cursor.fetchall())
    return found


def _laid(rows: Rows) -> None:
    with transaction.atomic(), connection.cursor() as cursor:
        # a page of the test before may have been answered, and have asked for work, after its database was emptied
        cursor.execute('DELETE FROM "jobs_job"')
        for table, (columns, values) in rows.items():
            names, places = ", ".join(f'"{c}"' for c in columns), ", ".join(["%s"] * len(columns))
            cursor.executemany(f'INSERT INTO "{table}" ({names}) VALUES ({places})', values)


def load(only: str | None = None) -> None:
    """One demo race with its bike, or all of them, in a database that nobody is in yet; with somebody in it, by the command."""
    empty = not User.objects.exists()
    if empty and only in _kept:
        _laid(_kept[only])
        return
    call_command("load_demo", verbosity=0, bare=True, **({"only": only} if only else {}))
    if empty:
        _kept[only] = _taken()
