"""How a part is written in one line: "165", "5.4 kgf/mm", "0=2.74; 10=2.74; 30=1.90", "rear 140/80-18", "24x0.15"."""

import re

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.parts import BoxPart, value_facts
from lynxwort.core.units.convert import UnitNotUnderstood, Units, convert, parse_typed

#: the unit in which a kind is written to a file, whoever writes it
FILE_UNITS = {"N/m": "N/mm", "m^3": "L", "J": "kWh", "m": "mm", "kg": "kg", "1": ""}


def rounded(value: float) -> float:
    """A value to twelve figures, so that what went through a file and back is the same."""
    return float(f"{value:.12g}")


_NEEDLE = re.compile(r"^\s*([\d.,]+)\s*=\s*([\d.,]+)\s*$")
_SHIM = re.compile(r"^\s*([\d.,]+)\s*[x×]\s*([\d.,]+)\s*$")
_WHEEL = re.compile(r"^\s*(front|rear)\s+(\S+)\s*$", re.IGNORECASE)
_APART = re.compile(r"\s*;\s*|,\s+|\n+|(?<=\d)\s+(?=[+-]?\d)")


def _mm(text: str) -> float:
    try:
        return rounded(float(text.replace(",", ".")) / 1000.0)
    except ValueError:
        raise InputRefused(Refusal(path="value", code="not_a_number")) from None


def read_values(kind: str, text: str, units: Units | str) -> list[dict]:
    """The parts that a line of text says, as documents of BoxPart without count and place. Raises InputRefused."""
    if kind == "needle":
        pairs = [_NEEDLE.match(p) for p in text.split(";") if p.strip()]
        if not pairs or any(p is None for p in pairs):
            raise InputRefused(Refusal(path="value", code="not_a_needle"))
        found = [(_mm(p.group(1)), _mm(p.group(2))) for p in pairs if p]
        return [{"kind": kind, "needle": {"distance_m": [a for a, _ in found], "diameter_m": [b for _, b in found]}}]
    if kind == "wheel":
        wheel = _WHEEL.match(text)
        if not wheel:
            raise InputRefused(Refusal(path="value", code="not_a_wheel"))
        return [{"kind": kind, "wheel": {"end": wheel.group(1).lower(), "marking": wheel.group(2)}}]
    words = [w for w in _APART.split(text.strip()) if w]
    if not words:
        raise InputRefused(Refusal(path="value", code="missing"))
    if kind == "shim":
        shims = [_SHIM.match(w) for w in words]
        if any(s is None for s in shims):
            raise InputRefused(Refusal(path="value", code="not_a_shim"))
        return [
            {"kind": kind, "shim": {"diameter_m": _mm(s.group(1)), "thickness_m": _mm(s.group(2))}} for s in shims if s
        ]
    facts = value_facts(kind)
    try:
        return [
            {"kind": kind, "value": rounded(parse_typed(w, facts.kind, units, low=facts.low, high=facts.high))}
            for w in words
        ]
    except UnitNotUnderstood as error:
        raise InputRefused(Refusal(path="value", code=error.code, message=error.message)) from None


def write_value(part: BoxPart) -> tuple[str, str]:
    """A part's value and unit as a file holds them; read_values reads them back the same."""
    if part.needle:
        pairs = zip(part.needle.distance_m, part.needle.diameter_m, strict=True)
        return "; ".join(f"{rounded(a * 1000):g}={rounded(b * 1000):g}" for a, b in pairs), "mm"
    if part.wheel:
        return f"{part.wheel.end} {part.wheel.marking}", ""
    if part.shim:
        return f"{rounded(part.shim.diameter_m * 1000):g}x{rounded(part.shim.thickness_m * 1000):g}", "mm"
    facts = value_facts(part.kind)
    unit = FILE_UNITS[facts.unit]
    value = convert(part.value or 0.0, facts.unit, unit) if unit else part.value or 0.0
    return f"{rounded(value):.12g}", unit
