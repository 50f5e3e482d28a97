"""Conversion between SI and what a rider reads or types.

The factors are pint's (BIPM SI brochure and NIST SP 811); nothing is written by hand here but
which unit belongs to which kind of quantity.
"""

import re
from dataclasses import dataclass
from functools import cache

import pint

_REGISTRY: pint.UnitRegistry = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)

#: kind of quantity -> SI unit, and the shown unit (with digits) in each preset.
#: Digits follow the accuracy of what is shown, not of the arithmetic.
KINDS: dict[str, tuple[str, dict[str, tuple[str, int]]]] = {
    "distance": ("m", {"metric": ("km", 1), "us": ("mi", 1)}),
    "ribbon": ("m", {"metric": ("km", 2), "us": ("mi", 2)}),
    "stretch": ("m", {"metric": ("m", 0), "us": ("ft", 0)}),
    "height": ("m", {"metric": ("m", 0), "us": ("ft", 0)}),
    "travel": ("m", {"metric": ("mm", 0), "us": ("in", 2)}),
    "preload": ("m", {"metric": ("mm", 1), "us": ("in", 3)}),
    "bore": ("m", {"metric": ("mm", 2), "us": ("in", 4)}),
    "length": ("m", {"metric": ("m", 3), "us": ("in", 1)}),
    "speed": ("m/s", {"metric": ("km/h", 1), "us": ("mph", 1)}),
    "volume": ("m^3", {"metric": ("L", 1), "us": ("gal", 2)}),
    "fuel": ("m^3", {"metric": ("L", 2), "us": ("gal", 2)}),
    "engine_size": ("m^3", {"metric": ("cm^3", 0), "us": ("cm^3", 0)}),
    "mass": ("kg", {"metric": ("kg", 1), "us": ("lb", 0)}),
    "spring_rate": ("N/m", {"metric": ("N/mm", 1), "us": ("lbf/in", 1)}),
    "pressure": ("Pa", {"metric": ("hPa", 0), "us": ("inHg", 2)}),
    "temperature": ("K", {"metric": ("°C", 0), "us": ("°F", 0)}),
    "power": ("W", {"metric": ("kW", 1), "us": ("hp", 1)}),
    "share": ("1", {"metric": ("%", 0), "us": ("%", 0)}),
    "richness": ("1", {"metric": ("%", 1), "us": ("%", 1)}),
    "ratio": ("1", {"metric": ("", 3), "us": ("", 3)}),
    "number": ("1", {"metric": ("", 1), "us": ("", 1)}),
    "factor": ("1", {"metric": ("", 2), "us": ("", 2)}),
    "count": ("1", {"metric": ("", 0), "us": ("", 0)}),
    "tiny": ("1", {"metric": ("e", 1), "us": ("e", 1)}),
    "duration": ("s", {"metric": ("min:s", 0), "us": ("min:s", 0)}),
    "seconds": ("s", {"metric": ("s", 1), "us": ("s", 1)}),
    "rpm": ("rpm", {"metric": ("rpm", 0), "us": ("rpm", 0)}),
    "angle": ("rad", {"metric": ("°", 2), "us": ("°", 2)}),
    "force": ("N", {"metric": ("N", 0), "us": ("lbf", 0)}),
}

_PINT = {
    "km": "kilometer", "mi": "mile", "m": "meter", "ft": "foot", "mm": "millimeter", "in": "inch",
    "cm": "centimeter", "m/s": "m/s", "km/h": "km/h", "mph": "mph", "m^3": "m^3", "L": "liter",
    "l": "liter", "gal": "gallon", "imp gal": "imperial_gallon", "cm^3": "cm^3", "cc": "cm^3", "cm3": "cm^3",
    "cm³": "cm^3", "mL": "milliliter", "ml": "milliliter", "kg": "kilogram", "lb": "pound", "lbs": "pound",
    "N/m": "N/m", "N/mm": "N/mm", "kgf/mm": "kgf/mm", "lbf/in": "lbf/in", "lb/in": "lbf/in",
    "kg/mm": "kgf/mm", "Pa": "Pa", "hPa": "hPa", "mbar": "mbar", "kPa": "kPa", "bar": "bar", "psi": "psi",
    "inHg": "inHg", "K": "kelvin", "°C": "degC", "C": "degC", "degC": "degC", "°F": "degF", "F": "degF",
    "degF": "degF", "W": "W", "kW": "kW", "hp": "hp", "PS": "metric_horsepower", "N": "N", "lbf": "lbf",
    "s": "s", "min": "minute", "h": "hour", "rad": "radian", "°": "degree", "deg": "degree",
    "%": "percent", "1": "", "": "", "rpm": "rpm", "US gal": "gallon",
}  # fmt: skip

_NUMBER = re.compile(r"^\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?)\s*(.*?)\s*$")


class UnitNotUnderstood(ValueError):
    """The typed text is not a number with a unit of the right kind. code: not_a_number, unknown_unit, wrong_unit."""

    def __init__(self, code: str, text: str) -> None:
        self.code, self.text = code, text
        super().__init__(f"{code}: {text!r}")


@dataclass(frozen=True, slots=True)
class Shown:
    """A value as a rider reads it. value: in `unit`; digits: decimals that make sense."""

    value: float
    unit: str
    digits: int


@cache
def _affine(source: str, target: str) -> tuple[float, float]:
    """Factor and offset with target = factor * source + offset, from pint."""
    if source == target or (source in ("rpm", "1", "") and target in ("rpm", "1", "", "e")):
        return 1.0, 0.0
    zero = _REGISTRY.Quantity(0.0, _PINT[source]).to(_PINT[target]).magnitude
    thousand = _REGISTRY.Quantity(1000.0, _PINT[source]).to(_PINT[target]).magnitude
    return (thousand - zero) / 1000.0, zero


def convert(value: float, source: str, target: str) -> float:
    """Convert a number between two named units. Raises KeyError for an unknown name."""
    factor, offset = _affine(source, target)
    return factor * value + offset


def shown_unit(kind: str, preset: str) -> str:
    """Name of the unit in which `kind` is shown under `preset` ("metric" or "us")."""
    return KINDS[kind][1][preset][0]


def to_shown(value_si: float, kind: str, preset: str) -> Shown:
    """SI value [SI of the kind] as shown under a preset."""
    si_unit, shown = KINDS[kind]
    unit, digits = shown[preset]
    if unit in ("min:s", "e"):
        return Shown(value_si, unit, digits)
    return Shown(convert(value_si, si_unit, unit), unit, digits)


def difference_to_shown(value_si: float, kind: str, preset: str) -> float:
    """A difference (no offset) in shown units."""
    si_unit, shown = KINDS[kind]
    unit = shown[preset][0]
    return value_si if unit in ("min:s", "e") else _affine(si_unit, unit)[0] * value_si


def parse_typed(text: str, kind: str, preset: str) -> float:
    """Typed text ("54", "5.5 kgf/mm", "1,9 gal") to SI. A bare number is in the preset's unit.

    Raises UnitNotUnderstood.
    """
    match = _NUMBER.match(text.replace("\u2212", "-").replace("\u00a0", " "))
    if not match:
        raise UnitNotUnderstood("not_a_number", text)
    number = float(match.group(1).replace(",", "."))
    si_unit, shown = KINDS[kind]
    unit = match.group(2) or shown[preset][0]
    if unit not in _PINT:
        raise UnitNotUnderstood("unknown_unit", text)
    try:
        return convert(number, unit, si_unit)
    except pint.DimensionalityError:
        raise UnitNotUnderstood("wrong_unit", text) from None
