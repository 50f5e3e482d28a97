"""What must run beside the pages, and whether it does: each part registers a look at itself."""

from collections.abc import Callable

from django.contrib.auth.decorators import login_not_required
from django.db import DatabaseError, connection
from django.db.migrations.recorder import MigrationRecorder
from django.http import HttpRequest, JsonResponse
from django.views.decorators.http import require_GET

#: name -> what it says of itself: "ok", or in a word what is wrong
_looks: dict[str, Callable[[], str]] = {}


def register(name: str, look: Callable[[], str]) -> None:
    """Let a part be looked at. look must be quick and needs no database."""
    _looks[name] = look


def troubles() -> dict[str, str]:
    """The parts that are not well, with what they say."""
    return {name: said for name, look in _looks.items() if (said := look()) != "ok"}


@login_not_required
@require_GET
def health(request: HttpRequest) -> JsonResponse:
    """Whether the pages can read, and what runs beside them: 200, or 503 with what is wrong. It says nothing of
    anybody's garage.
    """
    said = {name: look() for name, look in _looks.items()}
    try:
        MigrationRecorder(connection).migration_qs.exists()
        said["database"] = "ok"
    except DatabaseError:
        said["database"] = "does not answer"
    return JsonResponse(said, status=200 if set(said.values()) <= {"ok"} else 503)
