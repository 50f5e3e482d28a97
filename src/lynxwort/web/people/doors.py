"""At the door of every page: whether the person may do that in this garage, and a line of who did what."""

import re
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import Resolver404, resolve
from django.utils.translation import gettext as _

from lynxwort.web.garages.roles import Verb, may
from lynxwort.web.people import deeds
from lynxwort.web.people.verbs import verb_of
from lynxwort.web.people.wording import MAY
from lynxwort.web.ui.typed import Request

#: a form of ours that sends something, up to the end of its first tag
_FORM = re.compile(r"<form\b[^>]*>")
_SENDS = re.compile(r'\bmethod="post"|\bhx-post="')
_TO = re.compile(r'\b(?:hx-post|action)="([^"?#]*)')


def refused(request: HttpRequest, role: str) -> HttpResponse:
    """What somebody is told who may not do that."""
    words = _("Nothing was changed. %(may)s The owner of the garage can give you another part in it.") % {
        "may": MAY.get(role, "")
    }
    return render(
        request, "ui/error.html", {"title": _("Not yours to do here"), "words": words, "status": 403}, status=403
    )


class Doors:
    """Asks for every request what the person is in the garage: one who was let out a moment ago is out."""

    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> HttpResponse:
        answer = self.get_response(request)
        verb = getattr(request, "verb", None)
        if verb is None or not request.member:
            return answer
        if request.method == "POST" and answer.status_code < 400:
            deeds.note(request)
        if not may(request.member, Verb.KEEP):
            _close(request, answer)
        return answer

    def process_view(self, request: Request, view: Any, _args: Any, _kwargs: Any) -> HttpResponse | None:
        """Nobody of this garage, or not theirs to do: their way ends here."""
        if not request.user.is_authenticated or not getattr(view, "login_required", True):
            return None
        match = request.resolver_match
        verb = verb_of(match.view_name if match else "", request.method or "")
        if verb is None:
            return None
        if not request.member:
            return redirect("people:nowhere")
        if not may(request.member, verb):
            return refused(request, request.member.role)
        request.verb = verb  # type: ignore[attr-defined]
        return None


def _close(request: Request, answer: HttpResponse) -> None:
    """Mark the forms of a page that the person may not send: they stay to be read, and what sends them is not shown."""
    if answer.streaming or not answer.headers.get("Content-Type", "").startswith("text/html"):
        return

    def marked(found: re.Match[str]) -> str:
        tag = found.group()
        if not _SENDS.search(tag):
            return tag
        to = _TO.search(tag)
        try:
            name = resolve((to.group(1) if to else "") or request.path).view_name
        except Resolver404:
            return tag
        verb = verb_of(name, "POST")
        return tag if verb is None or may(request.member, verb) else f"{tag[:-1]} data-not-yours>"

    answer.content = _FORM.sub(marked, answer.content.decode()).encode()
