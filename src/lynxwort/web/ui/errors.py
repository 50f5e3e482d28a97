"""Errors as pages of ours."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _


def _page(request: HttpRequest, status: int, title: str, words: str) -> HttpResponse:
    return render(request, "ui/error.html", {"title": title, "words": words, "status": status}, status=status)


def bad_request(request, exception=None):
    return _page(request, 400, _("That did not arrive whole"), _("Go back and send it once more. Nothing was changed."))


def forbidden(request, exception=None):
    return _page(request, 403, _("Not from here"), _("This door opens only on the machine that Lynxwort runs on, or with the printed token."))


def not_found(request, exception=None):
    return _page(request, 404, _("Nothing here"), _("It may have been put away, or it belongs to another garage."))


def server_error(request):
    return _page(request, 500, _("Something broke"), _("What was kept is safe. The log says more."))
