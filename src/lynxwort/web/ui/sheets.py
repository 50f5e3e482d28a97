"""Tables that leave as CSV. A cell that a spreadsheet would reckon with instead of showing it gets an apostrophe in
front, and loses it when read back.
"""

import csv
import io
import re
from collections.abc import Iterable, Sequence

#: what a spreadsheet takes for the beginning of a formula; plain numbers with their sign are none
_FORMULA = re.compile(r"^[=+\-@\t\r]")
_NUMBER = re.compile(r"^[+-]?\d+([.,]\d+)?([eE][+-]?\d+)?$")
_KEPT_APART = re.compile(r"^'(?=[=+\-@\t\r'])")


def shown(cell: object) -> str:
    """A cell as it goes out. One that begins with an apostrophe before such a sign gets another, so that it comes back
    as it was.
    """
    text = "" if cell is None else str(cell)
    apart = (_FORMULA.match(text) and not _NUMBER.match(text)) or _KEPT_APART.match(text)
    return f"'{text}" if apart else text


def read_back(text: str) -> str:
    """A cell as it was before it went out."""
    return _KEPT_APART.sub("", text, count=1)


def csv_text(rows: Iterable[Sequence[object]]) -> str:
    """Rows as CSV."""
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows([shown(cell) for cell in row] for row in rows)
    return out.getvalue()
