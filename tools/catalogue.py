"""The catalogue of texts to translate: src/lynxwort/locale/lynxwort.pot, from Python, templates, and the core's figures
and fields.

`python tools/catalogue.py` writes it, `--check` fails when it is not current. Formulas and sources in the Why drawer
stay as published and are not translated.
"""

import io
import sys
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract
from babel.messages.pofile import write_po
from django.utils.translation.template import templatize

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src/lynxwort"
POT = SOURCE / "locale/lynxwort.pot"
KEYWORDS = {"_": None, "N_": None, "gettext": None, "gettext_lazy": None, "ngettext": (1, 2), "pgettext": ((1, "c"), 2)}


def _models(base: type) -> set[type]:
    return {m for child in base.__subclasses__() for m in (child, *_models(child))}


def messages() -> Catalog:
    """Every text, with the files it stands in."""
    from lynxwort.core.figures import FIGURES
    from lynxwort.core.model import inputs, parts  # noqa: F401
    from lynxwort.core.model.base import Part
    from lynxwort.core.model.bike import spares  # noqa: F401
    from lynxwort.core.propose import wish  # noqa: F401

    catalog = Catalog(project="Lynxwort", charset="utf-8", fuzzy=False)
    for path in sorted([*SOURCE.rglob("*.py"), *SOURCE.rglob("*.html")]):
        if "migrations" in path.parts:
            continue
        text = path.read_text()
        if path.suffix == ".html":
            # a template's indentation is not Python's
            text = "\n".join(line.lstrip() for line in templatize(text, origin=str(path)).splitlines())
        for _line, message, comments, context in extract("python", io.BytesIO(text.encode()), keywords=KEYWORDS):
            if message:
                catalog.add(
                    message, locations=[(str(path.relative_to(ROOT)), None)], auto_comments=comments, context=context
                )  # type: ignore[list-item]
    for model in sorted(_models(Part), key=lambda m: m.__name__):
        for info in model.model_fields.values():
            if info.description:
                catalog.add(" ".join(info.description.split()), locations=[("src/lynxwort/core/model", None)])  # type: ignore[list-item]
    for spec in FIGURES.values():
        catalog.add(spec.meaning, locations=[("src/lynxwort/core/figures.py", None)])  # type: ignore[list-item]
    return catalog


def written(catalog: Catalog) -> bytes:
    """The catalogue as a file, without dates, so that it changes only with its texts."""
    out = io.BytesIO()
    write_po(out, catalog, omit_header=True, sort_output=True, width=120)
    return out.getvalue()


def main() -> None:
    now = written(messages())
    if "--check" in sys.argv:
        if not POT.exists() or POT.read_bytes() != now:
            sys.exit("the catalogue of texts is not current: run python tools/catalogue.py")
        return
    POT.parent.mkdir(exist_ok=True)
    POT.write_bytes(now)


if __name__ == "__main__":
    main()
