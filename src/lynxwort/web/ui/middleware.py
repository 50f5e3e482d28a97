from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware
from django.shortcuts import render
from django.utils import translation
from django.utils.cache import patch_vary_headers
from django.utils.translation import gettext as _

from lynxwort.web.ui.typed import whole_number
from lynxwort.words import written_in


def speak(language: str) -> None:
    """From here on, this request is answered in a language: its words and its numbers."""
    translation.activate(language)
    written_in(language)


class BrowsersLanguage:
    """Answers in the browser's language, until it is known who asks; then in the person's own, where one is chosen (see
    GarageMiddleware).
    """

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        speak(translation.get_language_from_request(request))
        answer = self.get_response(request)
        answer.headers.setdefault("Content-Language", translation.get_language())
        patch_vary_headers(answer, ("Accept-Language",))
        return answer


class SizeLimit:
    """Says on a page that something is far too large, before anything of it is looked at."""

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if (whole_number(request.META.get("CONTENT_LENGTH")) or 0) <= settings.MAX_UPLOAD_BYTES:
            return self.get_response(request)
        words = _("More than %(most)d MB at once is nothing that Lynxwort reads. Nothing was changed.") % {
            "most": settings.MAX_UPLOAD_BYTES // 1_000_000
        }
        return render(
            request, "ui/error.html", {"title": _("Too much at once"), "words": words, "status": 413}, status=413
        )


class PageGzip(GZipMiddleware):
    """Compress whole pages; the parts of a notch go plain, since they travel a room and must be painted at once."""

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        if request.headers.get("HX-Request"):
            return response
        return super().process_response(request, response)
