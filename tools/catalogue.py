"""The catalogue of texts to translate, from Python, templates, and the core's figures, fields, formulas and sources:
src/lynxwort/locale/lynxwort.pot, and each language's django.po and django.mo beside it.

`python tools/catalogue.py` writes them: new texts come into a language's file empty, gone ones leave it. `--check`
fails when a file is not current, when a text has no translation, and when one parts from its text in what is put into
it.
`LANGUAGE=es python tools/catalogue.py --list` prints what a language lacks.
"""

import ast
import io
import os
import re
import sys
from collections.abc import Iterator
from pathlib import Path

from babel.messages.catalog import Catalog, Message
from babel.messages.extract import extract
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po
from django.utils.translation.template import templatize

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src/lynxwort"
POT = SOURCE / "locale/lynxwort.pot"
NOTES = ROOT / "tools/translators.txt"
#: formulas and sources that no reading of the code finds: those that are put together on their way to a figure
FORMULAS = SOURCE / "words/explained/formulas.txt"
KEYWORDS = {"_": None, "N_": None, "gettext": None, "gettext_lazy": None, "ngettext": (1, 2), "pgettext": ((1, "c"), 2)}
#: keys of tables that stand inside a call of _()
CODE = re.compile(r"^[a-z0-9]+(_[a-z0-9]+)+$|^code$")
WORDS = re.compile(r"[^\W\d_]{3,}")
#: what is put into a text, and its marks
HOLES = re.compile(r"%\([a-zA-Z_0-9]+\)[sd]|%%|%s|\{[^{}]*\}|</?[^>]*>")


def _models(base: type) -> set[type]:
    return {m for child in base.__subclasses__() for m in (child, *_models(child))}


def _strings(node: ast.AST) -> Iterator[str]:
    if isinstance(node, ast.JoinedStr):
        return
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    for child in ast.iter_child_nodes(node):
        yield from _strings(child)


def _said_of_figures(tree: ast.AST) -> Iterator[str]:
    """What the Why drawer shows of how a figure is reckoned: formula= and source=, steps, and tables named so."""
    for node in ast.walk(tree):
        if isinstance(node, ast.keyword) and node.arg in ("formula", "source"):
            yield from _strings(node.value)
        elif isinstance(node, ast.Call) and getattr(node.func, "id", "") == "step":
            for argument in [*node.args[:1], *node.args[3:]]:
                yield from _strings(argument)
        elif isinstance(node, ast.Assign | ast.AnnAssign) and node.value is not None:
            targets = node.targets if isinstance(node, ast.Assign) else [node.target]
            if any(isinstance(t, ast.Name) and re.search("FORMULA|SOURCE", t.id) for t in targets):
                yield from _strings(node.value)


def formulas() -> Iterator[tuple[str, str]]:
    """Each clause of a formula or source that holds a word, with where it stands."""
    for path in sorted((SOURCE / "core").rglob("*.py")):
        if "model" not in path.parts:
            for text in _said_of_figures(ast.parse(path.read_text())):
                for clause in text.removeprefix("; ").split("; "):
                    yield clause, str(path.relative_to(ROOT))
    for line in FORMULAS.read_text().splitlines():
        yield line, str(FORMULAS.relative_to(ROOT))


def _notes() -> dict[str, str]:
    """What a translator should know of a text that says little by itself."""
    rows = (line.split(" | ", 1) for line in NOTES.read_text().splitlines() if " | " in line)
    return {text: note for text, note in rows if text}


def _within_strings(tree: ast.AST) -> Iterator[str]:
    """Texts that are translated inside an f-string: before Python 3.12 nothing that reads tokens sees them."""
    for joined in ast.walk(tree):
        if isinstance(joined, ast.JoinedStr):
            for node in ast.walk(joined):
                name = getattr(node.func, "id", "") if isinstance(node, ast.Call) else ""
                if name in ("_", "N_", "gettext") and isinstance(node.args[0], ast.Constant):  # type: ignore[attr-defined]
                    yield node.args[0].value  # type: ignore[attr-defined]


def _of_pages() -> Iterator[tuple[str | tuple, str, str | None]]:
    """The texts of Python and templates: (message, file, context)."""
    for path in sorted([*SOURCE.rglob("*.py"), *SOURCE.rglob("*.html")]):
        if "migrations" in path.parts:
            continue
        text = path.read_text()
        if path.suffix == ".html":
            # a template's indentation is not Python's
            text = "\n".join(line.lstrip() for line in templatize(text, origin=str(path)).splitlines())
        place = str(path.relative_to(ROOT))
        for _line, message, _comments, context in extract("python", io.BytesIO(text.encode()), keywords=KEYWORDS):
            if message:
                yield message, place, context
        if path.suffix == ".py":
            yield from ((message, place, None) for message in _within_strings(ast.parse(text)))


def messages() -> Catalog:
    """Every text, with the files it stands in."""
    from lynxwort.core.figures import FIGURES
    from lynxwort.core.model import inputs, parts  # noqa: F401
    from lynxwort.core.model.base import Part
    from lynxwort.core.model.bike import spares  # noqa: F401
    from lynxwort.core.propose import wish  # noqa: F401

    told = list(_of_pages())
    for model in sorted(_models(Part), key=lambda m: m.__name__):
        described = (" ".join(info.description.split()) for info in model.model_fields.values() if info.description)
        told += [(text, "src/lynxwort/core/model", None) for text in described]
    told += [(spec.meaning, "src/lynxwort/core/figures", None) for spec in FIGURES.values()]
    told += [(clause, place, None) for clause, place in formulas() if WORDS.search(clause)]
    catalog, notes = Catalog(project="Lynxwort", charset="utf-8", fuzzy=False), _notes()
    for message, place, context in told:
        first = _forms(message)[0]
        if not CODE.match(first):
            noted = [notes[first]] if first in notes else []
            catalog.add(message, locations=[(place, None)], auto_comments=noted, context=context)  # type: ignore[list-item]
    return catalog


def languages() -> list[Path]:
    """The files of translations."""
    return sorted(POT.parent.glob("*/LC_MESSAGES/django.po"))


def translated(catalog: Catalog, path: Path) -> Catalog:
    """A language's file brought up to the texts there are: what it has stays, what is new is empty."""
    name = path.parts[-3]
    had = read_po(io.BytesIO(path.read_bytes()), locale=name)
    now = Catalog(locale=name, charset="utf-8", fuzzy=False)
    for message in _sorted(catalog):
        kept = had.get(message.id, message.context)  # type: ignore[arg-type]
        now.add(
            message.id,
            kept.string if kept is not None else "",
            auto_comments=message.auto_comments,
            context=message.context,
        )
    return now


def _sorted(catalog: Catalog) -> list[Message]:
    return sorted((m for m in catalog if m.id), key=lambda m: (str(m.id), m.context or ""))


def _forms(texts: str | tuple) -> tuple[str, ...]:
    return tuple(texts) if isinstance(texts, tuple | list) else (texts,)


def lacking(language: Catalog) -> list[str]:
    """The texts without a translation."""
    return [_forms(m.id)[0] for m in language if m.id and not all(_forms(m.string))]


def parted(language: Catalog) -> list[str]:
    """The texts whose translation has other things put into it than they have. A form of a plural may say one in
    words.
    """
    found = []
    for m in language:
        if m.id and all(_forms(m.string)):
            said = [sorted(HOLES.findall(t)) for t in _forms(m.id)]
            found += [t for t in _forms(m.string) if sorted(HOLES.findall(t)) not in said]
    return found


def written(catalog: Catalog) -> bytes:
    """A catalogue as a file, without dates, so that it changes only with its texts."""
    out = io.BytesIO()
    write_po(out, catalog, omit_header=True, sort_output=True, width=120)
    return out.getvalue()


def po_and_mo(language: Catalog) -> tuple[bytes, bytes]:
    """A language's two files; their head says nothing but how it counts."""
    head = (
        '#, python-format\nmsgid ""\nmsgstr ""\n'.replace("#, python-format\n", "")
        + f'"Language: {language.locale}\\n"\n"MIME-Version: 1.0\\n"\n"Content-Type: text/plain; charset=utf-8\\n"\n'
        f'"Content-Transfer-Encoding: 8bit\\n"\n"Plural-Forms: {language.plural_forms}\\n"\n\n'
    ).encode()
    po = head + written(language)
    out = io.BytesIO()
    write_mo(out, read_po(io.BytesIO(po), locale=str(language.locale)))
    return po, _without_dates(out.getvalue())


def _without_dates(mo: bytes) -> bytes:
    """Babel writes the hour into the head: blanked to the same length, so that the file changes only with its texts."""
    return re.sub(
        rb"(POT-Creation-Date: |PO-Revision-Date: )[^\n]*", lambda m: m[1] + b" " * (len(m[0]) - len(m[1])), mo
    )


def main() -> None:
    catalog = messages()
    files = {POT: written(catalog)}
    for path in languages():
        language = translated(catalog, path)
        files[path], files[path.with_suffix(".mo")] = po_and_mo(language)
        missing, odd = lacking(language), parted(language)
        if "--list" in sys.argv and os.environ.get("LANGUAGE") == path.parts[-3]:
            print("\n".join(missing))
        print(f"{path.parts[-3]}: {len(_sorted(language))} texts, {len(missing)} untranslated", file=sys.stderr)
        if "--check" in sys.argv and (missing or odd):
            sys.exit(f"{path.parts[-3]} lacks {missing[:10]}, and parts from its text in {odd[:10]}")
    stale = [p.relative_to(ROOT) for p, now in files.items() if not p.exists() or p.read_bytes() != now]
    if "--check" in sys.argv and stale:
        sys.exit(f"not current: {', '.join(map(str, stale))}: run python tools/catalogue.py")
    if "--check" not in sys.argv:
        for path, now in files.items():
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(now)


if __name__ == "__main__":
    main()
