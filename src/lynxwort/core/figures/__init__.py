"""The register of figures: meaning, unit, what better means, and when two values are even. docs/figures.md is checked
against it.
"""

import re
from typing import Any

from lynxwort.core.figures import chassis, damping, drive, fuelling, kit, purpose, service, trials
from lynxwort.core.figures import range as reach
from lynxwort.core.figures.spec import Better, FigureSpec
from lynxwort.core.report import Figure, Step, station_of

__all__ = ["FIGURES", "ON_CARD", "Better", "FigureSpec", "figure", "step", "table_of"]

FIGURES: dict[str, FigureSpec] = (
    purpose.FIGURES
    | chassis.FIGURES
    | damping.FIGURES
    | fuelling.FIGURES
    | drive.FIGURES
    | reach.FIGURES
    | kit.FIGURES
    | trials.FIGURES
    | service.FIGURES
)

#: figures of the pit card, in its order
ON_CARD: tuple[str, ...] = tuple(
    sorted((n for n, spec in FIGURES.items() if spec.card), key=lambda n: FIGURES[n].card or 0)
)


def table_of(station: str) -> list[str]:
    """The figures of the table behind a station, its own first."""
    mine = [
        n for n, spec in FIGURES.items() if station_of(n) == station and (spec.table is None or station in spec.table)
    ]
    return mine + [
        n for n, spec in FIGURES.items() if station_of(n) != station and spec.table and station in spec.table
    ]


#: shares that cannot leave 0 to 1, nor their ranges
SHARES = re.compile(
    r"(\.share\.|lift_share\.|_front_share$|^damping\.wheel_off_ground$|^kit\.tyre\.\w+\.flat_chance$|^range\.(p_finish|joint_risk)$)"
)


def figure(name: str, value: float | None, *, half: float | None = None, **more: Any) -> Figure:
    """A figure of the register. half: half of its 90 % interval. inputs may be paths. An unknown value has status
    unknown.
    """
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
