import sqlite3
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils.translation import gettext as _

from lynxwort.web.machine import archive, shelf
from lynxwort.web.machine.restoring import place


class Command(BaseCommand):
    help = (
        "Write a back-up of the whole installation, also while it is served. It holds the accounts: keep it as "
        "you keep your keys."
    )
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", nargs="?", help="where to write it; without, on the shelf in the data folder")

    def handle(self, **options: Any) -> None:
        if not place().exists():
            raise CommandError(_("There is no database to back up yet."))
        try:
            if options["file"]:
                target = Path(options["file"]).resolve()
                archive.write(place(), target)
            else:
                target = shelf.make("asked")
        except (OSError, sqlite3.Error) as error:
            raise CommandError(_("No back-up was written: %(error)s") % {"error": error}) from None
        self.stdout.write(_("%(file)s: written, and every byte of it counted.") % {"file": target})
