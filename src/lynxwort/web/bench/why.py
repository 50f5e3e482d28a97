"""What the Why drawer shows of one figure."""

import re
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.figures import FIGURES
from lynxwort.core.report import Figure
from lynxwort.core.units.convert import KINDS, Units
from lynxwort.web.bench.services import Bench
from lynxwort.words import decimal
from lynxwort.words.catalogue import FIGURE_NAMES, REASONS, input_name
from lynxwort.words.formatting import number_text, short_number, unit_text, value_text
from lynxwort.words.service.checks import CHECKS

#: SI unit -> kind for showing an input or a step whose kind is not told
_BY_UNIT = {
    "m": "length",
    "kg": "mass",
    "N/m": "spring_rate",
    "Pa": "pressure",
    "K": "temperature",
    "m^3": "fuel",
    "m3": "fuel",
    "W": "power",
    "s": "seconds",
    "J": "energy",
    "N*m": "torque",
}
#: what makes a clause a text to translate, and no formula alone
_WORD = re.compile(r"[^\W\d_]{3,}")


def known(figure: str) -> bool:
    """Whether there is such a figure."""
    return figure in FIGURES


def _plain(value: float, unit: str, preset: Units | str) -> str:
    kind = _BY_UNIT.get(unit)
    if kind == "length" and abs(value) >= 50:
        kind = "height"
    if kind == "length" and abs(value) < 0.4:
        kind = "preload"
    if kind:
        return value_text(value, kind, preset)
    return f"{short_number(value, 5)} {unit if unit != '1' else ''}".strip()


def clauses(text: str) -> str:
    """A formula or a source, clause by clause: translated where it holds words, else with the decimal sign alone."""
    said = (_(c) if _WORD.search(c) else decimal(c) for c in text.split("; "))
    return "; ".join(said) if text else ""


def withheld_words(figure: Figure) -> str:
    """Which check of the gate took a figure back."""
    check = _(CHECKS[figure.reason.removeprefix("gate.")][0])
    return _("Not judged: the check %(check)s failed. Once it passes again, it stands as it stood.") % {"check": check}


def why_context(bench: Bench, figure: str, preset: Units | str) -> dict[str, Any]:
    """Formula, inputs with units, source, range, readings of a figure."""
    f = bench.report.figures[figure]
    spec = FIGURES[figure]
    assert spec.kind in KINDS
    bounds = None
    if (f.low is not None or f.high is not None) and not f.withheld:
        ends = (_("open") if v is None else value_text(v, spec.kind, preset) for v in (f.low, f.high))
        bounds = tuple(ends)
    return {
        "figure": f,
        "name": _(FIGURE_NAMES.get(figure, figure)),
        "meaning": _(spec.meaning),
        "basis": _(f.basis),
        "reason": withheld_words(f) if f.withheld else _(REASONS[f.reason]) if f.status == "not_applicable" else "",
        "shown": (
            _("does not apply") if f.status == "not_applicable" else _("not judged") if f.withheld else _("unknown")
        )
        if f.value is None or f.withheld
        else value_text(f.value, spec.kind, preset),
        "number": "" if f.value is None or f.withheld else number_text(f.value, spec.kind, preset),
        "unit": unit_text(spec.kind, preset),
        "bounds": bounds,
        "inputs": [
            (_(input_name(path)), _plain(value, unit, preset), _(basis)) for path, value, unit, basis in f.inputs
        ],
        "formula": clauses(f.formula),
        "source": clauses(f.source),
        "steps": [(clauses(s.symbol), _plain(s.value, s.unit, preset), clauses(s.formula)) for s in f.steps],
    }
