"""Conversion between SI and what a rider reads or types.

The factors stand in units/factors.py, which `make units` makes from pint (BIPM SI brochure and NIST SP 811); nothing is
written by hand here but which unit belongs to which kind of quantity.
"""

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

import numpy as np

from lynxwort.core.units.factors import UNITS
from lynxwort.core.units.written import plainly, special, uncounted, unit_named


@dataclass(frozen=True, slots=True)
class Units:
    """A person's choice of unit for each quantity; every field's options stand in OPTIONS."""

    distance: str = "km"
    height: str = "m"
    small: str = "mm"
    volume: str = "L"
    mass: str = "kg"
    spring_rate: str = "N/mm"
    pressure: str = "hPa"
    temperature: str = "°C"
    power: str = "kW"


#: quantity -> the units one may choose, the first is metric
OPTIONS: dict[str, tuple[str, ...]] = {
    "distance": ("km", "mi"), "height": ("m", "ft"), "small": ("mm", "in"), "volume": ("L", "US gal", "imp gal"),
    "mass": ("kg", "lb"), "spring_rate": ("N/mm", "kgf/mm", "lbf/in"),
    "pressure": ("hPa", "kPa", "bar", "psi", "inHg"), "temperature": ("°C", "°F"), "power": ("kW", "hp", "PS"),
}  # fmt: skip
PRESETS: dict[str, Units] = {
    "metric": Units(),
    "us": Units("mi", "ft", "in", "US gal", "lb", "lbf/in", "inHg", "°F", "hp"),
}


def units_of(choice: "Units | str") -> Units:
    """The units of a choice: itself, or a preset by name ("metric", "us")."""
    return PRESETS[choice] if isinstance(choice, str) else choice


def chosen_units(preset: str, choices: Mapping[str, str]) -> Units:
    """A preset with a person's own choices on top; what is unknown is left out."""
    known = {k: v for k, v in choices.items() if v in OPTIONS.get(k, ())}
    return replace(PRESETS.get(preset, PRESETS["metric"]), **known)


def _fixed(si: str, unit: str, digits: int) -> tuple[str, str, dict[str, tuple[str, int]]]:
    return si, "", {"": (unit, digits)}


#: kind of quantity -> SI unit, the choice that rules it, and per choice the shown unit with digits.
#: Digits follow the accuracy of what is shown, not of the arithmetic.
KINDS: dict[str, tuple[str, str, dict[str, tuple[str, int]]]] = {
    "distance": ("m", "distance", {"km": ("km", 1), "mi": ("mi", 1)}),
    "ribbon": ("m", "distance", {"km": ("km", 2), "mi": ("mi", 2)}),
    "span": ("m", "height", {"m": ("m", 1), "ft": ("ft", 1)}),
    "stretch": ("m", "height", {"m": ("m", 0), "ft": ("ft", 0)}),
    "height": ("m", "height", {"m": ("m", 0), "ft": ("ft", 0)}),
    "travel": ("m", "small", {"mm": ("mm", 0), "in": ("in", 2)}),
    "preload": ("m", "small", {"mm": ("mm", 1), "in": ("in", 3)}),
    "bore": ("m", "small", {"mm": ("mm", 2), "in": ("in", 4)}),
    "clearance": ("m", "small", {"mm": ("mm", 3), "in": ("in", 4)}),
    "length": ("m", "small", {"mm": ("m", 3), "in": ("in", 1)}),
    "speed": ("m/s", "distance", {"km": ("km/h", 1), "mi": ("mph", 1)}),
    "volume": ("m^3", "volume", {"L": ("L", 1), "US gal": ("US gal", 2), "imp gal": ("imp gal", 2)}),
    "fuel": ("m^3", "volume", {"L": ("L", 2), "US gal": ("US gal", 2), "imp gal": ("imp gal", 2)}),
    "oil": ("m^3", "volume", {"L": ("mL", 0), "US gal": ("fl oz", 1), "imp gal": ("imp fl oz", 1)}),
    "small_area": _fixed("m^2", "mm²", 2),
    "area": _fixed("m^2", "mm²", 0),
    "flow": ("m^3/s", "volume", {"L": ("L/min", 1), "US gal": ("US gal/min", 2), "imp gal": ("imp gal/min", 2)}),
    "fuel_flow": ("m^3/s", "volume", {"L": ("L/h", 1), "US gal": ("US gal/h", 2), "imp gal": ("imp gal/h", 2)}),
    "consumption": (
        "m^3/m",
        "volume",
        {"L": ("L/100 km", 1), "US gal": ("US gal/100 mi", 2), "imp gal": ("imp gal/100 mi", 2)},
    ),
    "economy": ("m/m^3", "volume", {"L": ("km/L", 1), "US gal": ("mpg", 1), "imp gal": ("imp mpg", 1)}),
    "engine_size": _fixed("m^3", "cm^3", 0),
    "mass": ("kg", "mass", {"kg": ("kg", 1), "lb": ("lb", 0)}),
    "grams": ("kg", "mass", {"kg": ("g", 0), "lb": ("oz", 1)}),
    "spring_rate": ("N/m", "spring_rate", {"N/mm": ("N/mm", 1), "kgf/mm": ("kgf/mm", 3), "lbf/in": ("lbf/in", 1)}),
    "pressure": (
        "Pa",
        "pressure",
        {"hPa": ("hPa", 0), "kPa": ("kPa", 1), "bar": ("bar", 3), "psi": ("psi", 2), "inHg": ("inHg", 2)},
    ),
    "tyre_pressure": (
        "Pa",
        "pressure",
        {"hPa": ("bar", 2), "kPa": ("kPa", 0), "bar": ("bar", 2), "psi": ("psi", 1), "inHg": ("psi", 1)},
    ),
    "compression": (
        "Pa",
        "pressure",
        {"hPa": ("bar", 1), "kPa": ("kPa", 0), "bar": ("bar", 1), "psi": ("psi", 0), "inHg": ("psi", 0)},
    ),
    "frequency": _fixed("1/s", "Hz", 2),
    "acceleration": _fixed("m/s^2", "m/s²", 1),
    "stress": _fixed("Pa", "MPa", 0),
    "temperature": ("K", "temperature", {"°C": ("°C", 0), "°F": ("°F", 0)}),
    "power": ("W", "power", {"kW": ("kW", 1), "hp": ("hp", 1), "PS": ("PS", 1)}),
    "torque": _fixed("N*m", "N·m", 0),
    "voltage": _fixed("V", "V", 0),
    "watts": _fixed("W", "W", 0),
    "volts": _fixed("V", "V", 1),
    "cell_volts": _fixed("V", "V", 3),
    "seep": ("m^3/s", "", {"": ("mL/h", 0)}),
    "bolt_torque": _fixed("N*m", "N·m", 1),
    "bolt_pull": _fixed("N", "kN", 0),
    "amps": _fixed("A", "A", 1),
    "charge": _fixed("J", "Wh", 0),
    "decibel": _fixed("1", "dB", 0),
    "candela": _fixed("1", "cd", 0),
    "air_flow": _fixed("m^3/s", "L/s", 0),
    "energy": _fixed("J", "kWh", 2),
    "work": _fixed("J", "kJ", 0),
    "per_distance": ("1/m", "distance", {"km": ("/km", 1), "mi": ("/mi", 1)}),
    "energy_rate": ("J/m", "distance", {"km": ("Wh/km", 0), "mi": ("Wh/mi", 0)}),
    "share": _fixed("1", "%", 0),
    "grade": _fixed("1", "%", 0),
    "richness": _fixed("1", "%", 1),
    "ratio": _fixed("1", "", 3),
    "damping": _fixed("1", "%", 1),
    "number": _fixed("1", "", 1),
    "factor": _fixed("1", "", 2),
    "count": _fixed("1", "", 0),
    "chance": _fixed("1", "%", 1),
    "tiny": _fixed("1", "e", 1),
    "duration": _fixed("s", "min:s", 0),
    "lap_time": _fixed("s", "min:s", 1),
    "minutes": _fixed("s", "min", 0),
    "hours": _fixed("s", "h", 2),
    "engine_hours": _fixed("s", "h", 1),
    "seconds": _fixed("s", "s", 1),
    "rpm": _fixed("rpm", "rpm", 0),
    "bearing": _fixed("rad", "°", 0),
    "inertia": _fixed("kg*m^2", "kg·m²", 2),
    "gain": _fixed("N*m/N", "N·m/N", 2),
    "kelvin": _fixed("K", "K", 0),
    "angle": _fixed("rad", "°", 2),
    "tilt": _fixed("rad", "°", 1),
    "force": ("N", "spring_rate", {"N/mm": ("N", 0), "kgf/mm": ("kgf", 1), "lbf/in": ("lbf", 0)}),
}

#: what else a bare number may be meant in: 960 of a seat, 83 of a leg, 90 of a stop
ALSO_MEANT = {"m": ("mm", "cm", "ft"), "m^3": ("mL",), "s": ("s", "min", "h"), "J": ("Wh", "MJ"), "W": ("W",)}
#: how an angle may be written
DEGREES = ("°", "deg")


#: one separator with three figures behind it: a decimal to some, thousands to others
_EITHER = re.compile(r"^[+-]?[1-9]\d{0,2}[.,]\d{3}$")
#: thousands with separators that can be nothing else: another one follows
_THOUSANDS = re.compile(
    r"^\s*[+-]?\d{1,3}(?:(?:,\d{3})+(?=\.\d)|(?:\.\d{3})+(?=,\d)|(?:,\d{3}){2,}(?!\d)|(?:\.\d{3}){2,}(?!\d))"
)
_NUMBER = re.compile(r"^\s*([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?)\s*(.*?)\s*$")
#: thin spaces between groups of three, as the pages write them
_GROUPED = re.compile(r"(?<=\d)[\u202f\u2009](?=\d{3}(?!\d))")


class UnitNotUnderstood(ValueError):
    """The typed text is not a number with a unit of the right kind. code: not_a_number, unknown_unit, wrong_unit,
    ambiguous_number; message: what it may mean.
    """

    def __init__(self, code: str, text: str, message: str = "") -> None:
        self.code, self.text, self.message = code, text, message
        super().__init__(f"{code}: {text!r}")


@dataclass(frozen=True, slots=True)
class Shown:
    """A value as a rider reads it. value: in `unit`; digits: decimals that make sense."""

    value: float
    unit: str
    digits: int


class WrongUnit(ValueError):
    """One unit cannot be told in the other."""


@cache
def _affine(source: str, target: str) -> tuple[float, float]:
    """Factor and offset with target = factor * source + offset. Raises KeyError for an unknown name, WrongUnit."""
    if source == target or (source in ("rpm", "1", "") and target in ("rpm", "1", "", "e")):
        return 1.0, 0.0
    (factor, offset, kind), (per, start, other) = UNITS[source], UNITS[target]
    if kind != other:
        raise WrongUnit(f"{source} in {target}")
    return factor / per, (offset - start) / per


def convert(value: float, source: str, target: str) -> float:
    """Convert a number between two named units. Raises KeyError for an unknown name."""
    factor, offset = _affine(source, target)
    return factor * value + offset


def _shown_as(kind: str, units: Units | str) -> tuple[str, str, int]:
    """SI unit, shown unit and digits of a kind for this choice of units."""
    si_unit, choice, by_choice = KINDS[kind]
    unit, digits = by_choice[getattr(units_of(units), choice) if choice else ""]
    return si_unit, unit, digits


def shown_unit(kind: str, units: Units | str) -> str:
    """Name of the unit in which `kind` is shown. units: a person's Units, or "metric" or "us"."""
    return _shown_as(kind, units)[1]


def to_shown(value_si: float, kind: str, units: Units | str) -> Shown:
    """SI value [SI of the kind] as shown in these units."""
    si_unit, unit, digits = _shown_as(kind, units)
    if unit in ("min:s", "e"):
        return Shown(value_si, unit, digits)
    return Shown(convert(value_si, si_unit, unit), unit, digits)


def shown_values(values: Any, kind: str, units: Units | str) -> np.ndarray:
    """SI values [SI of the kind], shape (n,) or one, as shown in these units."""
    zero, one = to_shown(0.0, kind, units).value, to_shown(1.0, kind, units).value
    return zero + (one - zero) * np.asarray(values, dtype=float)


def difference_to_shown(value_si: float, kind: str, units: Units | str) -> float:
    """A difference (no offset) in shown units."""
    si_unit, unit, _ = _shown_as(kind, units)
    return value_si if unit in ("min:s", "e") else _affine(si_unit, unit)[0] * value_si


def parse_typed(
    text: str, kind: str, units: Units | str, *, low: float | None = None, high: float | None = None
) -> float:
    """Typed text ("54", "5.5 kgf/mm", "1,9 gal", "5'3\"", "16 st", "1h30", "30°" of a grade) to SI. A bare number is in
    the person's unit, and so is a bare gallon.

    "1,200" and "1.500" may mean two things: what lies between low and high [SI] is meant; where both do, it is asked
    back, and so is a bare number that only another unit of its kind would make possible ("0.46" of a fork spring).
    Raises UnitNotUnderstood.
    """
    si_unit, own, digits = _shown_as(kind, units)
    plain = _GROUPED.sub("", text).replace("\u2212", "-").replace("\u00a0", " ").replace("\u202f", " ")
    value = special(plain, kind, si_unit)
    if value is not None:
        return value
    plain = plainly(plain)
    if si_unit == "1" or kind == "rpm":
        plain = uncounted(plain)
    plain = _THOUSANDS.sub(lambda m: re.sub("[.,]", "", m.group(0)), plain)
    match = _NUMBER.match(plain)
    if not match:
        raise UnitNotUnderstood("not_a_number", text)
    number = float(match.group(1).replace(",", "."))
    if not math.isfinite(number):
        raise UnitNotUnderstood("not_a_number", text)
    unit = unit_named(match.group(2)) if match.group(2) else own
    if unit == "gal" and units_of(units).volume == "imp gal":
        unit = "imp gal"
    if unit not in UNITS:
        raise UnitNotUnderstood("unknown_unit", text)
    either = _EITHER.match(match.group(1)) and not ("." in match.group(1) and digits >= 3)  # as the pages write it
    readings = [number, 1000.0 * number] if either else [number]
    values = [_converted(n, unit, si_unit, kind, text) for n in readings]
    possible = [v for v in values if (low is None or v >= low) and (high is None or v <= high)]
    if len(possible) > 1:
        raise UnitNotUnderstood("ambiguous_number", text, f"{readings[0]:g} / {readings[1]:.10g}")
    if not possible and not match.group(2) and (meant := _other_unit(number, kind, si_unit, low, high)):
        raise UnitNotUnderstood("other_unit", text, meant)
    return possible[0] if possible else values[0]


def _other_unit(number: float, kind: str, si_unit: str, low: float | None, high: float | None) -> str:
    """How a bare number that is out of its bounds may be meant: with another unit of its kind; empty for none."""
    named = [unit for unit, _digits in KINDS[kind][2].values() if unit in UNITS]
    for unit in dict.fromkeys((*named, *ALSO_MEANT.get(si_unit, ()))):
        if unit:
            value = convert(number, unit, si_unit)
            if (low is None or value >= low) and (high is None or value <= high):
                return f"{number:g} {unit}"
    return ""


def _converted(number: float, unit: str, si_unit: str, kind: str, text: str) -> float:
    """A number in a unit to SI; degrees of a grade are its tangent."""
    if kind == "grade" and unit in DEGREES:
        if abs(number) >= 89.0:
            raise UnitNotUnderstood("not_a_number", text)
        return math.tan(math.radians(number))
    try:
        return convert(number, unit, si_unit)
    except WrongUnit:
        raise UnitNotUnderstood("wrong_unit", text) from None
