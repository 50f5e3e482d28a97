"""What a page sends of notches: moves, or one typed value."""

from django.http import QueryDict

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.tunables import TUNABLES, item_of, passing_of
from lynxwort.web.ui.forms import QuantityField
from lynxwort.web.ui.typed import Request, moves_of


def notches_in(said: QueryDict) -> list[tuple[str, float]]:
    """The moves that a page sends, each of a tunable. Raises ValueError."""
    found = moves_of(said.get("moves") or "[]")
    if any(t not in TUNABLES for t, _v in found):
        raise ValueError("moves")
    return found


def moves_in(request: Request) -> list[tuple[str, float]]:
    """The moves of a request: a list of [tunable, SI value], or one tunable with a typed value. Raises ValueError,
    ValidationError.
    """
    if "typed" in request.POST:
        tunable = request.POST.get("tunable", "")
        if tunable not in TUNABLES or item_of(tunable) or passing_of(tunable):
            raise ValueError(tunable)
        field = QuantityField(field_facts(CoreSetup, tunable), request.preset, required=True)
        return [(tunable, float(field.clean(request.POST["typed"]) or 0.0))]
    return notches_in(request.POST)
