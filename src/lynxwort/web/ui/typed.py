"""What an address or a form says, read so that nothing it can hold breaks a page."""

import json
import math
import re
from collections.abc import Iterator
from typing import Any, TextIO

from django.http import HttpRequest

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.units.convert import Units
from lynxwort.core.units.tables import MOST_LINE


class Request(HttpRequest):
    """A request as the middleware leaves it. preset: the person's units; garage: whose it is; member: what the person
    is there; htmx: whether a part of a page is asked for.
    """

    preset: Units | str
    garage: Any
    member: Any
    htmx: Any
    user: Any


#: what tells where strings and brackets begin and end; a pattern of whole strings would hold a place for each of their
#: letters
_MARKS = re.compile(r'\\.|["\[\]{}]', re.DOTALL)
#: digits of the largest number that SQLite's integers hold
DIGITS = 18


def whole_number(text: object) -> int | None:
    """A whole number from 0, of plain digits and short enough for a row's number; None for anything else, \u00b2 and
    5,000 digits included.
    """
    plain = text if isinstance(text, str) else ""
    return int(plain) if plain.isascii() and plain.isdigit() and len(plain) <= DIGITS else None


def lines_within(file: TextIO) -> Iterator[str]:
    """The lines of a file, none longer than a table's may be: a longer one is met before all of it is read. Raises
    InputRefused (line_too_long).
    """
    number = 0
    while line := file.readline(MOST_LINE + 1):
        number += 1
        if len(line) > MOST_LINE:
            raise InputRefused(Refusal(path=f"line.{number}", code="line_too_long"))
        yield line


def place_of(request: HttpRequest) -> float | None:
    """The place on the round [m] that a request speaks of."""
    try:
        at = float(request.GET.get("at") or request.POST.get("at") or "")
    except ValueError:
        return None
    return at if math.isfinite(at) and at >= 0 else None


def zoom_of(request: HttpRequest, race: int) -> int:
    """What of this race's round the ribbon shows, as it was last chosen: remembered with the visit; 0 for all of it."""
    chosen = whole_number(request.GET.get("zoom"))
    if chosen is not None:
        request.session["zoom"] = {str(race): chosen}
    return int(request.session.get("zoom", {}).get(str(race), 0))


def version_of(request: HttpRequest) -> int:
    """The version of what a page showed, as it was sent; one that never stands, -1, when it is none."""
    found = whole_number(request.POST.get("version") or request.GET.get("version"))
    return -1 if found is None else found


def json_of(text: str, *, most: int = 100_000, depth: int = 6) -> Any:
    """What JSON text says, met by its limits before any of it is built. Raises ValueError, for NaN and its kin too."""
    if len(text) > most or nested_deeper(text, depth):
        raise ValueError("too much")
    return json.loads(text, parse_constant=_refused)


def _refused(text: str) -> float:
    raise ValueError(text)


def moves_of(text: str) -> list[tuple[str, float]]:
    """Moves as a page sends them: a list of [name, number]. Raises ValueError."""
    said = json_of(text)
    if (
        not isinstance(said, list)
        or not said
        or not all(isinstance(m, list) and len(m) == 2 and isinstance(m[0], str) for m in said)
    ):
        raise ValueError("moves")
    if not all(isinstance(v, int | float) and not isinstance(v, bool) and abs(v) < 1e15 for _name, v in said):
        raise ValueError("moves")
    return [(name, float(value)) for name, value in said]


def nested_deeper(text: str, depth: int) -> bool:
    """Whether JSON text opens more brackets within each other than this, told before any of it is built. Brackets
    inside strings do not count.
    """
    open_now, inside = 0, False
    for mark in _MARKS.finditer(text):
        found = mark.group()
        if found == '"':
            inside = not inside
        elif not inside and len(found) == 1:
            open_now += 1 if found in "[{" else -1
            if open_now > depth:
                return True
    return False
