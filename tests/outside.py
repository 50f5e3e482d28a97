"""Every outside check has its row on docs/validation.md, with what was expected and what was found: `make validation`
writes it from what the tests themselves did, and a check without its row fails.
"""

import os
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

PAGE = Path(__file__).parents[1] / "docs/validation.md"
#: what this process has checked; module of the test -> rows, each once
SEEN: dict[str, dict["Row", None]] = {}


def told(value: Any) -> str:
    """A value as the page has it: six figures."""
    if isinstance(value, list | tuple):
        return " ".join(told(v) for v in value)
    return f"{float(value):.6g}"


@dataclass(frozen=True)
class Row:
    """what: the quantity or the test that asks; source: where the expected value is from, and of what kind it is;
    within: how near it must be.
    """

    what: str
    source: str
    expected: str
    within: str
    found: str

    @property
    def name(self) -> str:
        """What does not change with the machine."""
        return " | ".join((_cell(self.what), _cell(self.source), self.expected, self.within))

    def line(self) -> str:
        return f"| {self.name} | {self.found} |"


def _cell(text: str) -> str:
    return " ".join(text.replace("|", "/").replace("<", "&lt;").split())


def _within(rel: float | None, near: float | None) -> str:
    told = (f"{100 * rel:.2g} %" if rel else "", f"{near:.2g}" if near else "")
    return " or ".join(filter(None, told))


@cache
def _page() -> str:
    return PAGE.read_text() if PAGE.exists() else ""


def seen(
    what: str, source: str, expected: Any, found: Any, *, rel: float | None = None, near: float | None = None
) -> None:
    """Set down a check that has passed."""
    module, _, test = os.environ["PYTEST_CURRENT_TEST"].split(" ")[0].partition("::")
    if "tests/core/" not in module:
        return  # lent to another test, which asks something else of it: set down where it stands
    row = Row(what or _words(test), source, told(expected), _within(rel, near), told(found))
    SEEN.setdefault(Path(module).stem, {}).setdefault(row)
    if "LYNXWORT_VALIDATION" not in os.environ:
        assert row.name in _page(), f"{row.name}: not on docs/validation.md; make validation"


def _words(test: str) -> str:
    return test.split("[")[0].removeprefix("test_").replace("_", " ")


def seen_value(value: dict[str, Any], found: Any) -> None:
    """Set down one of the shared check values; one that restates a formula guards the coding only and is no outside check."""
    kind = value.get("kind", "")
    if kind == "formula":
        return
    source = f"{value.get('source', '')} ({kind})" if kind else value.get("source", "")
    tolerance = value["tolerance"]
    unit = value.get("unit", "1")
    what = f"`{value['name']}`" + (f" [{unit}]" if unit not in ("", "1") else "")
    seen(what, source, value["expected"], found, rel=tolerance.get("rel"), near=tolerance.get("abs"))
