from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import DatabaseError
from django.utils.translation import gettext as _

from lynxwort.web.machine.archive import Unusable
from lynxwort.web.machine.lock import Served
from lynxwort.web.machine.presenting import UNUSABLE
from lynxwort.web.machine.restoring import put_back


class Command(BaseCommand):
    help = (
        "Put a back-up in the place of what stands. Lynxwort must not be running; the old database is kept; "
        "everybody is signed out."
    )
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", help="the back-up's zip")

    def handle(self, **options: Any) -> None:
        try:
            contents, kept = put_back(Path(options["file"]))
        except Served:
            raise CommandError(_("Lynxwort is serving this data folder. Stop it first; nothing was changed.")) from None
        except Unusable as error:
            raise CommandError(f"{UNUSABLE[error.code]} {_('Nothing was changed.')}") from None
        except (OSError, DatabaseError) as error:
            raise CommandError(_("Nothing was changed: %(error)s") % {"error": error}) from None
        self.stdout.write(
            _(
                "Put back as it stood on %(when)s UTC. What stood here before is kept as %(kept)s. Everybody signs in "
                "again."
            )
            % {"when": f"{contents.made:%Y-%m-%d %H:%M}", "kept": kept}
        )
