"""What a phone asks for to keep sheets and to stand on its home screen."""

from pathlib import Path

from django.contrib.auth.decorators import login_not_required
from django.http import HttpResponse, JsonResponse
from django.templatetags.static import static
from django.utils.translation import gettext as _
from django.views.decorators.cache import cache_control
from django.views.decorators.http import require_GET

from lynxwort.web import ui
from lynxwort.web.ui.typed import Request

WORKER = Path(ui.__file__).parent / "static/lynx/sw.js"


@login_not_required
@require_GET
@cache_control(no_cache=True)
def worker(_request: Request) -> HttpResponse:
    """What keeps the sheets: served at the root, since it serves all pages below where it stands."""
    return HttpResponse(WORKER.read_bytes(), content_type="text/javascript; charset=utf-8")


@login_not_required
@require_GET
def manifest(_request: Request) -> HttpResponse:
    """Name, icon and first page on a home screen."""
    icon = {"src": static("lynx/icon.svg"), "sizes": "any", "type": "image/svg+xml", "purpose": "any"}
    about = {
        "name": "Lynxwort",
        "short_name": "Lynxwort",
        "description": _("An off-road bike set up for one race"),
        "start_url": "/",
        "scope": "/",
        "display": "standalone",
        "background_color": "#efe7d8",
        "theme_color": "#1c2721",
        "icons": [icon],
    }
    return JsonResponse(about, content_type="application/manifest+json")
