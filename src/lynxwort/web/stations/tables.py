"""Tables of what else could be: a row each, what is set marked, the others with a press to try them."""

import json
from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.translation import gettext as _

from lynxwort.core.report import Move
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_name, tunable_text


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """name, and a smaller word under it; cells in the order of the heads; now: as it is set; moves: to it, as JSON."""

    name: str
    cells: tuple[str, ...]
    tag: str = ""
    now: bool = False
    moves: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """label: what it is of; heads: of the first column and of the cells; tries: whether rows are to be tried."""

    label: str
    heads: tuple[str, ...]
    rows: tuple[Row, ...]
    tries: bool = True

    @property
    def labelled(self) -> list[tuple[Row, list[tuple[str, str]]]]:
        """Each row with its cells under their heads."""
        return [(r, list(zip(self.heads[1:], r.cells, strict=True))) for r in self.rows]


def moves_words(bench: Bench, moves: Sequence[Move], units: Units | str) -> str:
    """Some moves in words; as it is set."""
    bike = bench.inputs.bike
    words = [f"{tunable_name(m.tunable, bike)} {tunable_text(bike, m.tunable, m.value, units)}" for m in moves]
    return ", ".join(words) if words else _("as it is set")


def moves_text(moves: Sequence[Move]) -> str:
    """Moves as a form sends them; empty for none."""
    return json.dumps([[m.tunable, m.value] for m in moves]) if moves else ""
