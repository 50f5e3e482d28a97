"""Building figures with their working. A figure names the paths that it rests on; whether a value was given or assumed is looked up when the Report is
put together, since a stage's cache knows values only.
"""

import re
from collections.abc import Mapping
from typing import Any

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.figures import FIGURES
from lynxwort.core.model.base import Part, field_facts
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import Figure, Step

#: stands in a path for the place of the rider of the race's first entry
RIDER = "riders.entry."


def looked_up(inputs: Inputs, path: str) -> tuple[str, float, str, str] | None:
    """An input by its path: the path, value, unit, "given" or "assumed" (some parent or the field itself was left out); None when it is no number."""
    path = path.replace(RIDER, f"riders.{inputs.race.entries[0].rider}.")
    item: Any = inputs
    given, unit = True, ""
    for step in path.split("."):
        if isinstance(item, tuple):
            item = item[int(step)]
            continue
        if isinstance(item, Part):
            given = given and step in item.model_fields_set
            unit = field_facts(type(item), step).unit
        item = getattr(item, step)
    return (path, float(item), unit, "given" if given else "assumed") if isinstance(item, int | float) else None


def with_inputs(figures: Mapping[str, Figure], inputs: Inputs) -> dict[str, Figure]:
    """Figures with what they rest on, as it is in these inputs."""
    seen: dict[str, tuple[str, float, str, str] | None] = {}

    def one(path: str) -> tuple[str, float, str, str] | None:
        if path not in seen:
            seen[path] = looked_up(inputs, path)
        return seen[path]

    return {k: _resting_on(f, tuple(i for i in map(one, f.paths) if i is not None)) if f.paths else f for k, f in figures.items()}


def _resting_on(figure: Figure, inputs: tuple[tuple[str, float, str, str], ...]) -> Figure:
    """The figure with its inputs: dataclasses.replace at a fifth of the time, some two hundred times a notch."""
    made = object.__new__(Figure)
    for name in Figure.__slots__:
        object.__setattr__(made, name, inputs if name == "inputs" else getattr(figure, name))
    return made


#: shares that cannot leave 0 to 1, nor their ranges
SHARES = re.compile(r"(\.share\.|lift_share\.|_front_share$|^damping\.wheel_off_ground$|^range\.(p_finish|joint_risk)$)")


def figure(work: Upstream, name: str, value: float | None, *, half: float | None = None, **more: Any) -> Figure:
    """A figure of the register. half: half of its 90 % interval. inputs may be paths. An unknown value has status unknown."""
    spec = FIGURES[name]
    if "inputs" in more:
        more["paths"] = tuple(more.pop("inputs"))
    if value is None:
        more.setdefault("status", "unknown")
    elif half is not None:
        more.setdefault("low", value - half)
        more.setdefault("high", value + half)
    if SHARES.search(name) and value is not None:
        value = min(max(value, 0.0), 1.0)
        more |= {end: min(max(more[end], 0.0), 1.0) for end in ("low", "high") if more.get(end) is not None}
    return Figure(id=name, value=None if value is None else float(value), unit=spec.unit, **more)


def step(symbol: str, value: float, unit: str, formula: str = "", source: str = "") -> Step:
    """One step of the working."""
    return Step(symbol=symbol, value=float(value), unit=unit, formula=formula, source=source)
