from django.conf import settings
from django.http import HttpRequest


def shell(request: HttpRequest) -> dict:
    """What every page's shell shows."""
    return {"demo": settings.DEMO, "preset": getattr(request, "preset", "metric")}
