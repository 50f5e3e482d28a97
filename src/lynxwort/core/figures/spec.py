"""What is said of a figure: meaning, unit, what better means, when two values are even, where it stands."""

from dataclasses import dataclass
from typing import Any, Literal

Better = Literal["higher", "lower", "band", "target", "margin", ""]


@dataclass(frozen=True, slots=True, kw_only=True)
class FigureSpec:
    """unit: SI; kind: for showing; better: which way is better ("target": nearer 0 but never leaner than a limit,
    "margin": up to 0); even_rel, even_abs: differences below are even; table: stations in whose table it stands, None =
    its own; card: its place among those on the pit card.
    """

    unit: str
    kind: str
    meaning: str
    better: Better = ""
    even_rel: float = 0.0
    even_abs: float = 0.0
    table: tuple[str, ...] | None = None
    card: int | None = None


def told(unit: str, kind: str, meaning: str, better: Better = "", **more: Any) -> FigureSpec:
    """A figure in the register's order of words."""
    return FigureSpec(unit=unit, kind=kind, meaning=meaning, better=better, **more)
