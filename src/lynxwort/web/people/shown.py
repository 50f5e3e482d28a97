"""What every page's shell shows of the garage and of what the person is there."""

from typing import Any

from django.http import HttpRequest
from django.utils.functional import SimpleLazyObject

from lynxwort.web.garages.roles import ALLOWED, Verb


def _shown(request: HttpRequest) -> dict[str, Any]:
    member = getattr(request, "member", None)
    if not member:
        return {}
    may = ALLOWED.get(member.role, frozenset())
    return {
        "name": member.garage.name,
        "role": member.get_role_display(),
        "may": sorted(may),
        "told": Verb.OWN not in may or member.of_several,
    }


def shell(request: HttpRequest) -> dict[str, Any]:
    """garage_shown: name, role and verbs; told: whether the person may forget where they are, or as what. Looked up
    where a page shows it.
    """
    if not getattr(request, "user", None) or not request.user.is_authenticated:
        return {"garage_shown": {}}
    return {"garage_shown": SimpleLazyObject(lambda: _shown(request))}
