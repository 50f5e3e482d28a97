from django.conf import settings
from django.http import HttpRequest

from lynxwort.web.ui.health import troubles


def shell(request: HttpRequest) -> dict:
    """What every page's shell shows."""
    user = getattr(request, "user", None)
    known = user is not None and user.is_authenticated
    theme, comforts = (user.theme, user.comforts) if known else ("auto", [])  # type: ignore[union-attr]
    return {
        "theme": theme,
        "comforts": " ".join(comforts),
        "demo": settings.DEMO,
        "preset": getattr(request, "preset", "metric"),
        "troubles": troubles(),
    }
