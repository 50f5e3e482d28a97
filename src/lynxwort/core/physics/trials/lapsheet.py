"""A sheet of laps as somebody typed it: lap, time, setting, note."""

import csv
import io
import re
from dataclasses import dataclass
from itertools import islice

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.units.convert import UnitNotUnderstood, parse_typed
from lynxwort.core.units.tables import short_lines

#: what a heading may be called, in the order of the columns where there is none
HEADINGS: dict[str, tuple[str, ...]] = {
    "lap": ("lap", "run", "round", "vuelta", "tanda"),
    "time": ("time", "tiempo"),
    "setting": ("setting", "what", "reglaje"),
    "note": ("note", "remark", "nota"),
}
#: a number alone is seconds
_BARE = re.compile(r"^\d+([.,]\d+)?$")
#: lines and laps of a sheet, and the shortest and longest of them [s]
MOST_LINES, MOST_LAPS, SHORTEST_S, LONGEST_S = 1_000, 200, 5.0, 20_000.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetLap:
    """One lap of a sheet. number: as written, or its line; setting: "A", "B" or empty where it was not said."""

    number: int
    time_s: float
    setting: str
    note: str


def read_sheet(text: str) -> list[SheetLap]:
    """The laps of a sheet, whatever parts its columns; with a heading in any order, without one lap, time, setting,
    note. Times like 5:01.4 or 301.4. Raises InputRefused with the line.
    """
    every = short_lines(io.StringIO(text.lstrip("\ufeff")))
    lines = [line.rstrip("\r\n") for line in islice(every, MOST_LINES + 1)]
    if len(lines) > MOST_LINES:
        raise InputRefused(Refusal(path="file", code="too_many_rows", high=MOST_LAPS))
    parts = next((d for d in (";", "\t") if any(d in line for line in lines)), ",")
    rows = [
        (n, [c.strip() for c in row])
        for n, line in enumerate(lines, start=1)
        for row in csv.reader([line], delimiter=parts)
        if any(c.strip() for c in row)
    ]
    if not rows:
        raise InputRefused(Refusal(path="file", code="no_rows"))
    where = _headed(rows[0][1])
    body = rows[1:] if where else rows
    where = where or {name: k for k, name in enumerate(HEADINGS)}
    if not body:
        raise InputRefused(Refusal(path="file", code="no_rows"))
    if len(body) > MOST_LAPS:
        raise InputRefused(Refusal(path="file", code="too_many_rows", high=MOST_LAPS))
    return [_lap(n, row, where, k) for k, (n, row) in enumerate(body, start=1)]


def _headed(row: list[str]) -> dict[str, int] | None:
    """Which column is what, by a heading; None where the first line is none."""
    found: dict[str, int] = {}
    for k, cell in enumerate(row):
        named = next((n for n, words in HEADINGS.items() if n not in found and cell.lower().startswith(words)), None)
        if named:
            found[named] = k
    return found if "time" in found else None


def _lap(line: int, row: list[str], where: dict[str, int], number: int) -> SheetLap:
    def cell(name: str) -> str:
        k = where.get(name, -1)
        return row[k] if 0 <= k < len(row) else ""

    typed = cell("time")
    try:
        time_s = parse_typed(
            f"{typed} s" if _BARE.match(typed) else typed, "lap_time", "metric", low=SHORTEST_S, high=LONGEST_S
        )
    except UnitNotUnderstood:
        raise InputRefused(Refusal(path=f"line.{line}", code="not_a_lap_time", message=typed[:40])) from None
    if not SHORTEST_S <= time_s <= LONGEST_S:
        raise InputRefused(Refusal(path=f"line.{line}", code="not_a_lap_time", message=typed[:40]))
    setting = cell("setting").upper()
    if setting not in ("", "A", "B"):
        raise InputRefused(Refusal(path=f"line.{line}", code="not_a_setting", message=cell("setting")[:40]))
    said = cell("lap")
    return SheetLap(
        number=int(said) if said.isdigit() and len(said) < 4 else number, time_s=time_s, setting=setting,
        note=cell("note")[:120],
    )  # fmt: skip
