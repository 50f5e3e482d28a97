"""Building figures with their working."""

import re
from typing import Any

from lynxwort.core.coupling.stages import Work
from lynxwort.core.figures import FIGURES
from lynxwort.core.model.base import Part, field_facts
from lynxwort.core.report import Figure, Step


def used(work: Work, *paths: str) -> tuple[tuple[str, float, str, str], ...]:
    """Inputs of a figure: path, value, unit, "given" or "assumed" (some parent or the field itself was left out)."""
    found = []
    for path in paths:
        item: Any = work.inputs
        given, unit = True, ""
        for step in path.split("."):
            if isinstance(item, tuple):
                item = item[int(step)]
                continue
            if isinstance(item, Part):
                given = given and step in item.model_fields_set
                unit = field_facts(type(item), step).unit
            item = getattr(item, step)
        if isinstance(item, int | float):
            found.append((path, float(item), unit, "given" if given else "assumed"))
    return tuple(found)


#: shares that cannot leave 0 to 1, nor their ranges
SHARES = re.compile(r"(\.share\.|lift_share\.|_front_share$|^damping\.wheel_off_ground$|^range\.(p_finish|joint_risk)$)")


def figure(work: Work, name: str, value: float | None, *, half: float | None = None, **more: Any) -> Figure:
    """A figure of the register. half: half of its 90 % interval. inputs may be paths. An unknown value has status unknown."""
    spec = FIGURES[name]
    if "inputs" in more:
        more["inputs"] = used(work, *more["inputs"])
    if value is None:
        more.setdefault("status", "unknown")
    elif half is not None:
        more.setdefault("low", value - half)
        more.setdefault("high", value + half)
    if SHARES.search(name):
        more |= {end: min(max(more[end], 0.0), 1.0) for end in ("low", "high") if more.get(end) is not None}
    return Figure(id=name, value=None if value is None else float(value), unit=spec.unit, **more)


def step(symbol: str, value: float, unit: str, formula: str = "", source: str = "") -> Step:
    """One step of the working."""
    return Step(symbol=symbol, value=float(value), unit=unit, formula=formula, source=source)
