"""Errors as pages of ours."""

import sys

from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _

from lynxwort.web.ui.trouble import trouble_of, trouble_page


def _page(request: HttpRequest, status: int, title: str, words: str) -> HttpResponse:
    return render(request, "ui/error.html", {"title": title, "words": words, "status": status}, status=status)


def bad_request(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    return _page(request, 400, _("That did not arrive whole"), _("Go back and send it once more. Nothing was changed."))


def forbidden(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    return _page(
        request,
        403,
        _("Not from here"),
        _("This door opens only on the machine that Lynxwort runs on, or with the printed token."),
    )


def not_from_this_page(request: HttpRequest, reason: str = "") -> HttpResponse:
    """A page that was shown before the person came in, changed garage or signed out, or that another site sends."""
    return _page(
        request,
        403,
        _("This page is from before"),
        _("You came in, went to another garage or signed out since it was shown. Nothing was changed: open it anew."),
    )


def not_found(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    return _page(request, 404, _("Nothing here"), _("It may have been put away, or it belongs to another garage."))


def server_error(request: HttpRequest) -> HttpResponse:
    """Trouble of disk or database has a page of its own; any other failure one of ours, as long as that can be made."""
    code = trouble_of(sys.exc_info()[1])
    if code:
        return trouble_page(code)
    try:
        return _page(request, 500, _("Something broke"), _("What was kept is safe. The log says more."))
    except DatabaseError as error:
        return trouble_page(trouble_of(error))
