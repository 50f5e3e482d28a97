import sqlite3
import sys
from typing import Any

from django.core.management.base import CommandError
from django.core.management.commands.migrate import Command as Migrate
from django.db import DEFAULT_DB_ALIAS, DatabaseError, connections
from django.db.migrations.executor import MigrationExecutor
from django.utils.translation import gettext as _

from lynxwort.web.machine import shelf
from lynxwort.web.machine.restoring import place


class Command(Migrate):
    help = Migrate.help + " A database that holds something is backed up before its form changes."

    def handle(self, *args: Any, **options: Any) -> str | None:
        if options["database"] == DEFAULT_DB_ALIAS and "pytest" not in sys.argv[0] and self._changes_something():
            try:
                shelf.make("migration")
            except (OSError, sqlite3.Error) as error:
                raise CommandError(
                    _("The database was not changed, since no back-up of it could be written: %(error)s")
                    % {"error": error}
                ) from None
        return super().handle(*args, **options)

    @staticmethod
    def _changes_something() -> bool:
        if not place().exists():
            return False
        try:
            executor = MigrationExecutor(connections[DEFAULT_DB_ALIAS])
        except DatabaseError:
            return False  # migrate itself says what is wrong
        return bool(executor.loader.applied_migrations) and bool(
            executor.migration_plan(executor.loader.graph.leaf_nodes())
        )
