"""The parts box as the core knows it."""

from lynxwort.core.model.setup import PartsBox
from lynxwort.core.units.detents import DETENTS
from lynxwort.web.garages.models import Garage
from lynxwort.web.parts.models import OwnedPart


def add_part(garage: Garage, tunable: str, value_si: float) -> bool:
    """Put a part in the box; False when it already lies there."""
    _, made = OwnedPart.objects.get_or_create(garage=garage, tunable=tunable, value=round(float(value_si), 9))
    return made


def parts_box(garage: Garage) -> PartsBox:
    """The box as the core takes it."""
    found: dict[str, list[float]] = {}
    for tunable, value in OwnedPart.objects.filter(garage=garage).values_list("tunable", "value"):
        found.setdefault(tunable, []).append(value)
    return PartsBox(**{k: tuple(v) for k, v in found.items()})


def by_tunable(garage: Garage) -> list[tuple[str, str, list[OwnedPart]]]:
    """Tunable, kind of unit, and the parts, for the page."""
    parts = list(OwnedPart.objects.filter(garage=garage))
    return [(t, d.kind, [p for p in parts if p.tunable == t]) for t, d in DETENTS.items() if d.part]
