"""What the docs' site is given while mkdocs builds it: pages that lie beside docs/, and the tables of each guide made
from the core's own registers.
"""

import re
from pathlib import Path
from typing import Any, get_args

from mkdocs.structure.files import File, Files

from lynxwort.core.figures import FIGURES
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.readings import Reading
from lynxwort.core.model.setup import Setup
from lynxwort.core.tunables import TUNABLES
from lynxwort.words.catalogue import FIGURE_NAMES, TUNABLE_NAMES

ROOT = Path(__file__).parents[1]
BESIDE = {"changelog.md": "CHANGELOG.md", "contributing.md": "CONTRIBUTING.md"}
#: the product's own letters and mark
STATIC = ROOT / "src/lynxwort/web/ui/static/lynx"
OURS = ("archivo-narrow.woff2", "icon.svg")
FIGURES_PAGE = "[what each means](../figures.md)"


def on_config(config: Any) -> Any:
    """The decisions in the order they were taken."""
    pages = sorted(p.name for p in (ROOT / "docs/adr").glob("*.md"))
    config["nav"].append({"Decisions": [f"adr/{name}" for name in pages]})
    return config


def on_files(files: Files, config: Any) -> Files:
    """The pages that lie at the root of the repository."""
    for name, source in BESIDE.items():
        text = (ROOT / source).read_text()
        files.append(File.generated(config, name, content=re.sub(r"\]\(docs/", "](", text)))
    for name in OURS:
        files.append(File(name, str(STATIC), str(config["site_dir"]), use_directory_urls=False))
    return files


def on_page_markdown(markdown: str, **_more: Any) -> str:
    """The tables in place of their marks."""
    return re.sub(r"<!-- (notches|readings|figures): (\w+) -->", lambda m: TABLES[m[1]](m[2]), markdown)


def _table(heading: str, head: tuple[str, ...], rows: list[tuple[str, ...]]) -> str:
    if not rows:
        return ""
    lines = [f"## {heading}", "", f"| {' | '.join(head)} |", "|" + "---|" * len(head)]
    return "\n".join([*lines, *(f"| {' | '.join(' '.join(cell.split()) for cell in row)} |" for row in rows), ""])


def _notches(station: str) -> str:
    rows = []
    for name, marker in TUNABLES.items():
        if marker.station == station:
            facts = field_facts(Setup, name)
            rows.append(
                (str(TUNABLE_NAMES[name]), f"{marker.step:g} {facts.unit if facts.unit != '1' else ''}", facts.help)
            )
    return _table("What can be turned", ("notch", "a step", "what it is"), rows)


def _readings(station: str) -> str:
    union = get_args(Reading)[0]
    rows = [
        (f"`{c.model_fields['kind'].default}`", " ".join((c.__doc__ or "").split("\n\n")[0].split()))
        for c in get_args(union)
        if c.figure.partition(".")[0] == station
    ]
    return _table("What can be measured", ("reading", "what it is"), rows)


def _figures(station: str) -> str:
    rows = [
        (str(FIGURE_NAMES[name]), f"`{name}`", spec.meaning)
        for name, spec in FIGURES.items()
        if name.partition(".")[0] == station and name in FIGURE_NAMES
    ]
    return _table("What it says", ("figure", "in a report", "meaning"), rows) + f"\nAll of them: {FIGURES_PAGE}.\n"


TABLES = {"notches": _notches, "readings": _readings, "figures": _figures}
