import sys
import time
from functools import partial
from importlib import import_module
from typing import Any

from django.core.management.base import BaseCommand
from django.utils.translation import gettext as _

from lynxwort.web.evaluation import kernels


class Command(BaseCommand):
    requires_system_checks = ()  # they import the pages, and with them the kernels, before the line is shown
    help = "Compile the kernels into their cache, with a progress line."

    def handle(self, **options: Any) -> None:
        started = time.monotonic()
        self.stdout.write(_("Compiling the kernels (once, up to a minute)"), ending=" ")
        self.stdout.flush()
        for name in ("lynxwort.core.physics.drive.kernel", "lynxwort.core.evaluate"):
            kernels.loading(partial(import_module, name))
            self.stdout.write(".", ending="")
            self.stdout.flush()
        from lynxwort.web.evaluation.door import warm

        warm()
        self.stdout.write(" " + _("done in %(s)s s") % {"s": f"{time.monotonic() - started:.0f}"})
        sys.stdout.flush()
