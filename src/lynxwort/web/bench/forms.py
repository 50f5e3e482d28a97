"""What a page sends of notches: moves, or one typed value."""

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.tunables import TUNABLES
from lynxwort.web.ui.forms import QuantityField
from lynxwort.web.ui.typed import Request, moves_of


def moves_in(request: Request) -> list[tuple[str, float]]:
    """The moves of a request: a list of [tunable, SI value], or one tunable with a typed value. Raises ValueError,
    ValidationError.
    """
    if "typed" in request.POST:
        tunable = request.POST.get("tunable", "")
        if tunable not in TUNABLES:
            raise ValueError(tunable)
        field = QuantityField(field_facts(CoreSetup, tunable), request.preset, required=True)
        return [(tunable, float(field.clean(request.POST["typed"]) or 0.0))]
    found = moves_of(request.POST.get("moves", "[]"))
    if any(t not in TUNABLES for t, _v in found):
        raise ValueError("moves")
    return found
