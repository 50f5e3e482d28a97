from typing import Any

from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = "Serve with waitress: one process, 16 threads."

    def handle(self, **options: Any) -> None:
        from lynxwort.web.machine.serve import main

        main()
