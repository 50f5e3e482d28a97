"""Baseline's: what is fitted."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.tunables import kind_of, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.words.catalogue import TUNABLE_NAMES
from lynxwort.words.formatting import value_text


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """What is on the bike, as kept."""
    setup = bench.kept_inputs.setup
    tunables = tunables_of(bench.kept_inputs.bike)
    said = [(t, said_value(setup, t)) for t in tunables]
    fitted = [
        (t, _(TUNABLE_NAMES[t]), value_text(v, kind_of(t), preset), t in setup.model_fields_set)
        for t, v in said
        if v is not None
    ]
    return {"drawings": [], "fitted": fitted}
