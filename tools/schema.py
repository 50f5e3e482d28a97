"""Write docs/document.schema.json from the core's models and the tables of docs/figures.md from its registers; --check
fails when either is old.
"""

import json
import re
import sys
from collections.abc import Callable
from pathlib import Path

from lynxwort.core.evaluate import VIEWS
from lynxwort.core.figures import FIGURES
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.tunables import TUNABLES

DOCS = Path(__file__).parents[1] / "docs"


def first_words(question: Callable[..., object]) -> str:
    """The first paragraph of a docstring in one line."""
    return " ".join((question.__doc__ or "").split("\n\n")[0].split())


def figures_page(old: str) -> str:
    """The page of figures with its tables made anew; the words about it stay."""
    views = [f"| `{name.removeprefix('views.')}` | {first_words(question)} |" for name, question in VIEWS.items()]
    old = re.sub(
        r"(\| view \| what \|\n\|---\|---\|\n)(?:\|.*\n)*", lambda m: m.group(1) + "\n".join(views) + "\n", old, count=1
    )
    moved = [
        f"| `{name}` | {facts.unit} | {marker.step:g} | {marker.station} | {facts.help} |"
        for name, marker, facts in ((n, m, field_facts(Setup, n)) for n, m in TUNABLES.items())
    ]
    old = re.sub(
        r"(\| tunable \| unit \| step \| station \| meaning \|\n\|---\|---\|---\|---\|---\|\n)(?:\|.*\n)*",
        lambda m: m.group(1) + "\n".join(moved) + "\n",
        old,
        count=1,
    )
    lines = [f"| `{name}` | {spec.unit} | {spec.meaning} | {spec.better} |" for name, spec in FIGURES.items()]
    return re.sub(
        r"(\|---\|---\|---\|---\|\n)(?:\|.*\n)*", lambda m: m.group(1) + "\n".join(lines) + "\n", old, count=1
    )


def main() -> int:
    page = DOCS / "figures.md"
    wanted = {
        DOCS / "document.schema.json": json.dumps(Inputs.model_json_schema(), indent=1, sort_keys=True) + "\n",
        page: figures_page(page.read_text()),
    }
    for path, text in wanted.items():
        if "--check" not in sys.argv:
            path.write_text(text)
        elif path.read_text() != text:
            sys.stderr.write(f"docs/{path.name} is older than the core: run make schema\n")
            return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
