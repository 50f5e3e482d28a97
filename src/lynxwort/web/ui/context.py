from django.conf import settings
from django.http import HttpRequest

from lynxwort.web.ui.health import troubles


def shell(request: HttpRequest) -> dict:
    """What every page's shell shows."""
    user = getattr(request, "user", None)
    theme = user.theme if user is not None and user.is_authenticated else "auto"
    return {
        "theme": theme,
        "demo": settings.DEMO,
        "preset": getattr(request, "preset", "metric"),
        "troubles": troubles(),
    }
