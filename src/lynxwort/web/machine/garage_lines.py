"""One garage as JSON lines: what it says of itself first, then a row a line, named by uid, its courses with it and
nobody's account; what was put away, and what it knows of the copies that it was merged with.
"""

import base64
import json
import zlib
from collections.abc import Iterator
from datetime import UTC, datetime
from typing import Any, BinaryIO

from lynxwort.core import CORE_VERSION
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.web.garages.models import Garage
from lynxwort.web.machine.models import Gone, Taken
from lynxwort.web.machine.travel import TABLES, rows_of, said_of
from lynxwort.web.races.models import CourseBlob
from lynxwort.web.ui.typed import json_of

FORMAT = 2
KIND = "lynxwort garage"
MOST_BYTES, MOST_LINE_BYTES, MOST_LINES, MOST_DEPTH = 78_000_000, 12_000_000, 200_000, 40


def lines(garage: Garage) -> Iterator[str]:
    """The lines of a garage, each with its line end."""
    about = {
        "kind": KIND,
        "format": FORMAT,
        "core_version": CORE_VERSION,
        "made": datetime.now(UTC).isoformat(timespec="seconds"),
        "garage": str(garage.uid),
        "name": garage.name,
        "counts": {table.name: rows_of(table, garage).count() for table in TABLES},
    }
    yield json.dumps(about) + "\n"
    for taken in Taken.objects.filter(garage=garage).order_by("origin"):
        yield json.dumps({"row": "base", "of": str(taken.origin), "marks": marks_in(taken)}) + "\n"
    for gone in Gone.objects.filter(garage=garage).order_by("pk"):
        yield json.dumps({"row": "gone", "table": gone.table, "uid": str(gone.uid)}) + "\n"
    for blob in CourseBlob.objects.filter(course__garage=garage).distinct().iterator(chunk_size=4):
        yield json.dumps({"row": "blob", "key": blob.pk, "data": base64.b64encode(blob.data).decode()}) + "\n"
    for table in TABLES:
        for row in rows_of(table, garage).iterator(chunk_size=50):
            yield json.dumps(said_of(table, row)) + "\n"


def marks_in(taken: Taken) -> dict[str, str]:
    """Marks of the rows of another garage as they came in last, by uid."""
    found: dict[str, str] = json.loads(zlib.decompress(taken.marks))
    return found


def note_taken(garage: Garage, origin: str, marks: dict[str, str]) -> None:
    """Remember how the rows of another garage came in."""
    packed = zlib.compress(json.dumps(marks, sort_keys=True).encode())
    Taken.objects.update_or_create(garage=garage, origin=origin, defaults={"marks": packed})


def refuse(line: int, code: str, message: str = "", high: float | None = None) -> InputRefused:
    return InputRefused(Refusal(path=f"line.{line}" if line else "file", code=code, message=message, high=high))


def read_lines(file: BinaryIO) -> Iterator[tuple[int, dict[str, Any]]]:
    """The lines as objects, each met by its limits before anything is built from it. Raises InputRefused."""
    size = number = 0
    while raw := file.readline(MOST_LINE_BYTES + 1):
        number, size = number + 1, size + len(raw)
        if size > MOST_BYTES or number > MOST_LINES:
            raise refuse(0, "file_too_large", high=MOST_BYTES / 1e6)
        if len(raw) > MOST_LINE_BYTES:
            raise refuse(number, "line_too_long")
        if not raw.strip():
            continue
        try:
            said = json_of(raw.decode("utf-8"), most=MOST_LINE_BYTES, depth=MOST_DEPTH)
        except (ValueError, RecursionError):
            said = None
        if not isinstance(said, dict):
            raise refuse(number, "not_a_garage_line")
        yield number, said


def head_of(found: Iterator[tuple[int, dict[str, Any]]]) -> dict[str, Any]:
    """The first line, which says what the file is. Raises InputRefused."""
    first = next(found, (1, {}))[1]
    if first.get("kind") != KIND or not isinstance(first.get("format"), int):
        raise refuse(0, "not_a_garage")
    if first["format"] > FORMAT:
        raise refuse(0, "newer_format")
    return first
