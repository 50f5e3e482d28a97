"""The rooms that the stations give to the bench: how each draws itself."""

from collections.abc import Callable
from typing import Any

import numpy as np
from django.utils.module_loading import import_string

from lynxwort.core.units.convert import Units, to_shown
from lynxwort.web.bench import registry
from lynxwort.web.bench.services import Bench

Draw = Callable[[Bench, Units | str, float | None], dict[str, Any]]


def drawn(station: str, bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """A station's drawings. at_m: place of the course that is looked at [m]."""
    draw: Draw = import_string(registry.draw_of(station))
    return draw(bench, preset, at_m)


def shown_values(values: Any, kind: str, preset: Units | str) -> np.ndarray:
    """Values of a kind as they are shown."""
    zero, one = to_shown(0.0, kind, preset).value, to_shown(1.0, kind, preset).value
    return zero + (one - zero) * np.asarray(values, dtype=float)
