"""Delimited text with named columns, whoever wrote it: commas, semicolons, tabs or spaces; points or decimal commas; a
line of units or none.

Rows with a hole in a wanted column are left out and counted; a word where a number should be is refused with its line.
"""

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.errors import InputRefused, Refusal

Array = NDArray[np.float64]
_NUMBER = re.compile(r"^[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?$")
#: lines looked through for the heading
HEAD_LINES = 60
#: of a line: letters, and columns; of a table: rows, a day and more at 20 a second
MOST_LINE, MOST_COLUMNS, MOST_ROWS = 64_000, 200, 2_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Head:
    """How a file is laid out. names: of its columns; first_line: index of the first line of numbers; decimal_comma:
    12,5 means 12.5.
    """

    delimiter: str
    names: tuple[str, ...]
    first_line: int
    decimal_comma: bool


def _split(line: str, delimiter: str) -> list[str]:
    """The words of a line. Raises InputRefused when there are more than any table has."""
    words = line.split() if delimiter == " " else line.split(delimiter)
    if len(words) > MOST_COLUMNS:
        raise InputRefused(Refusal(path="file", code="too_many_columns", high=MOST_COLUMNS))
    return [w.strip().strip('"') for w in words]


def _numeric(words: Sequence[str]) -> int:
    return sum(bool(_NUMBER.match(w)) for w in words)


def short_lines(lines: Iterable[str]) -> Iterator[str]:
    """The lines as they come. Raises InputRefused at one that is too long."""
    for number, line in enumerate(lines, start=1):
        if len(line) > MOST_LINE:
            raise InputRefused(Refusal(path=f"line.{number}", code="line_too_long"))
        yield line


def read_head(lines: Sequence[str]) -> Head:
    """Delimiter, names and first row of the first lines of a file. Raises InputRefused when there is no table of two
    columns in them.
    """
    lines = [line.rstrip("\r\n").lstrip("\ufeff") for line in short_lines(lines[:HEAD_LINES])]
    best: tuple[int, str] = (0, ",")
    for delimiter in (";", "\t", ",", " "):
        rows = sum(
            _numeric(w := _split(line, delimiter)) >= max(2, (len(w) + 1) // 2) for line in lines if line.strip()
        )
        if rows > best[0]:
            best = (rows, delimiter)
    count, delimiter = best
    if not count:
        raise InputRefused(Refusal(path="file", code="no_table"))
    first = next(
        i for i, line in enumerate(lines) if _numeric(w := _split(line, delimiter)) >= max(2, (len(w) + 1) // 2)
    )
    width = len(_split(lines[first], delimiter))
    above = [_split(line, delimiter) for line in lines[:first] if line.strip()]
    heads = [w for w in above if len(w) == width]
    names = tuple(heads[0]) if heads else tuple(str(i + 1) for i in range(width))
    if len(heads) > 1:  # a second line of heading holds the units
        names = tuple(f"{a} [{b}]" if b else a for a, b in zip(heads[0], heads[1], strict=True))
    comma = delimiter != "," and any("," in w for line in lines[first:] for w in _split(line, delimiter))
    return Head(delimiter=delimiter, names=names, first_line=first, decimal_comma=comma)


def guess_columns(names: Sequence[str], headings: Mapping[str, Sequence[str]]) -> dict[str, int]:
    """Which column is what, by words in its heading: what -> index; the first that fits."""
    found: dict[str, int] = {}
    for what, words in headings.items():
        for i, name in enumerate(names):
            if i not in found.values() and any(w in name.lower() for w in words):
                found[what] = i
                break
    return found


def _slowly(lines: Sequence[str], head: Head, columns: Sequence[int], at: int) -> tuple[list[list[float]], int]:
    """Row by row; holes are left out."""
    rows, holes = [], 0
    for k, line in enumerate(lines):
        if not line.strip():
            continue
        words = _split(line, head.delimiter)
        picked = [words[c] if c < len(words) else "" for c in columns]
        if any(w in ("", "-", "NaN", "nan", "NA", "null") for w in picked):
            holes += 1
            continue
        try:
            rows.append([float(w.replace(",", ".") if head.decimal_comma else w) for w in picked])
        except ValueError:
            raise InputRefused(
                Refusal(path=f"line.{at + k + 1}", code="not_a_number_there", message=line.strip()[:60])
            ) from None
    return rows, holes


def read_columns(
    chunks: Iterable[Sequence[str]], head: Head, columns: Mapping[str, int]
) -> tuple[dict[str, Array], int]:
    """The wanted columns as arrays, and how many rows had holes. chunks: lists of lines, from the file's first on.
    Raises InputRefused.
    """
    order, parts, holes, at, held = list(columns), [], 0, 0, 0
    picked = [columns[n] for n in order]
    for lines in chunks:
        body = lines[max(head.first_line - at, 0) :] if at < head.first_line else lines
        start = at + len(lines) - len(body)
        at += len(lines)
        text = [line.replace(",", ".") for line in body] if head.decimal_comma else list(body)
        try:
            made = (
                np.loadtxt(
                    text,
                    delimiter=None if head.delimiter == " " else head.delimiter,
                    usecols=picked,
                    ndmin=2,
                    comments=None,
                )
                if text
                else None
            )
        except (ValueError, IndexError):
            rows, missed = _slowly(body, head, picked, start)
            holes += missed
            made = np.array(rows, dtype=float).reshape(-1, len(picked))
        if made is not None and made.size:
            good = np.isfinite(made).all(axis=1)
            holes += int((~good).sum())
            parts.append(made[good])
            held += parts[-1].shape[0]
            if held > MOST_ROWS:
                raise InputRefused(Refusal(path="file", code="too_many_rows", high=MOST_ROWS))
    if not held:
        raise InputRefused(Refusal(path="file", code="no_rows"))
    return {n: np.concatenate([p[:, i] for p in parts]) for i, n in enumerate(order)}, holes
