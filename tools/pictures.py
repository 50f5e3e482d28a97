"""Write docs/pictures.md, who imports whom as drawings, made from the imports; --check fails when it is old."""

import sys
from pathlib import Path

import grimp

PAGE = Path(__file__).parents[1] / "docs/pictures.md"
#: what is drawn: heading, package, modules that are left out
DRAWN = (
    ("The whole", "lynxwort", ()),
    ("The core", "lynxwort.core", ("lynxwort.core.errors", "lynxwort.core.evidence", "lynxwort.core.units")),
    ("The physics", "lynxwort.core.physics", ()),
    ("The pages", "lynxwort.web", ("lynxwort.web.settings", "lynxwort.web.wsgi")),
)
HEAD = """# Who imports whom

Made by `make pictures` from the imports; an arrow goes from who imports to what is imported, imports for type checking
counted. What is left out is named under its drawing. The rules are in `pyproject.toml`, the words in
`docs/architecture.md`.
"""


def arrows(graph: grimp.ImportGraph, package: str, left_out: tuple[str, ...]) -> list[tuple[str, str]]:
    """Direct imports between the children of a package, everything below a child counted as its."""
    children = sorted(set(graph.find_children(package)) - set(left_out))
    return [
        (a.rpartition(".")[2], b.rpartition(".")[2])
        for a in children
        for b in children
        if a != b and _direct(graph, a, b)
    ]


def _direct(graph: grimp.ImportGraph, importer: str, imported: str) -> bool:
    theirs = {imported, *graph.find_descendants(imported)}
    return any(
        graph.find_modules_directly_imported_by(m) & theirs for m in {importer, *graph.find_descendants(importer)}
    )


def page() -> str:
    """The whole page."""
    graph = grimp.build_graph("lynxwort", exclude_type_checking_imports=False)
    parts = [HEAD]
    for title, package, left_out in DRAWN:
        lines = "\n".join(f"  {a} --> {b}" for a, b in arrows(graph, package, left_out))
        without = ", ".join(f"`{m.rpartition('.')[2]}`" for m in left_out)
        parts.append(
            f"## {title}\n\n```mermaid\nflowchart TD\n{lines}\n```\n" + (f"\nLeft out: {without}.\n" if without else "")
        )
    return "\n".join(parts)


def main() -> int:
    made = page()
    if "--check" not in sys.argv:
        PAGE.write_text(made)
    elif not PAGE.exists() or PAGE.read_text() != made:
        sys.stderr.write("docs/pictures.md is older than the imports: run make pictures\n")
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
