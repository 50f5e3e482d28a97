"""Baseline's: what is fitted."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.units.convert import Units
from lynxwort.core.units.detents import DETENTS, said_value, tunables_of
from lynxwort.web.bench.services import Bench
from lynxwort.words.catalogue import TUNABLES
from lynxwort.words.formatting import value_text


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """What is on the bike, as kept."""
    setup = bench.kept_inputs.setup
    tunables = tunables_of(bench.kept_inputs.bike)
    said = [(t, said_value(setup, t)) for t in tunables]
    fitted = [(t, _(TUNABLES[t]), value_text(v, DETENTS[t].kind, preset), t in setup.model_fields_set) for t, v in said if v is not None]
    return {"drawings": [], "fitted": fitted}
