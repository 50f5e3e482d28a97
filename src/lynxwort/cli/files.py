"""What the verbs read."""

import json
from pathlib import Path
from typing import Any

from lynxwort.core.errors import InputRefused, Refusal


def read_document(path: str) -> Any:
    """The document in a file. Raises InputRefused (not_json)."""
    try:
        return json.loads(Path(path).read_bytes())
    except (ValueError, RecursionError) as error:
        raise InputRefused(Refusal(path="", code="not_json", message=str(error))) from None


def read_table(
    path: str, headings: dict[str, tuple[str, ...]], chosen: list[str]
) -> tuple[dict[str, Any], dict[str, str], int]:
    """Columns of a delimited file, their headings, and how many rows had holes. chosen: "what=number" of a column, from
    1. Raises InputRefused.
    """
    from lynxwort.core.units.tables import guess_columns, read_columns, read_head

    with Path(path).open(encoding="utf-8-sig", errors="replace") as file:
        text = file.readlines()
    head = read_head(text)
    columns = guess_columns(head.names, headings)
    for item in chosen:
        what, _, number = item.partition("=")
        if what not in headings or not number.isdigit() or not 1 <= int(number) <= len(head.names):
            raise InputRefused(Refusal(path="column", code="not_a_choice"))
        columns = {k: v for k, v in columns.items() if v != int(number) - 1 and k != what} | {what: int(number) - 1}
    found, holes = read_columns([text], head, columns)
    return found, {k: head.names[i] for k, i in columns.items()}, holes
