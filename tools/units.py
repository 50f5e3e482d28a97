"""Write core/units/factors.py from pint: each unit's factor and offset to the base units of its dimension; --check
fails when it is old. Pint's registry takes half a second to make, so pages do without it.
"""

import sys
from pathlib import Path

import pint

FILE = Path(__file__).parents[1] / "src/lynxwort/core/units/factors.py"
#: a unit as it is written here, and as pint knows it
PINT = {
    "mm²": "mm^2", "mm2": "mm^2", "cm²": "cm^2", "m^2": "m^2", "km": "kilometer", "mi": "mile", "m": "meter",
    "ft": "foot", "mm": "millimeter", "in": "inch", "cm": "centimeter", "m/s": "m/s", "km/h": "km/h", "mph": "mph",
    "m^3": "m^3", "L": "liter", "l": "liter", "gal": "gallon", "imp gal": "imperial_gallon", "cm^3": "cm^3",
    "cc": "cm^3", "cm3": "cm^3", "cm³": "cm^3", "mL": "milliliter", "ml": "milliliter", "fl oz": "fluid_ounce",
    "imp fl oz": "imperial_fluid_ounce", "kg": "kilogram", "lb": "pound", "lbs": "pound", "N/m": "N/m",
    "N/mm": "N/mm", "kgf/mm": "kgf/mm", "lbf/in": "lbf/in", "lb/in": "lbf/in", "kg/mm": "kgf/mm", "Pa": "Pa",
    "hPa": "hPa", "mbar": "mbar", "kPa": "kPa", "bar": "bar", "psi": "psi", "inHg": "inHg", "K": "kelvin",
    "°C": "degC", "C": "degC", "degC": "degC", "°F": "degF", "F": "degF", "degF": "degF", "W": "W", "kW": "kW",
    "hp": "hp", "PS": "metric_horsepower", "N": "N", "lbf": "lbf", "s": "s", "min": "minute", "h": "hour",
    "rad": "radian", "°": "degree", "deg": "degree", "%": "percent", "1": "", "": "", "rpm": "rpm",
    "US gal": "gallon", "kgf": "kgf", "N*m": "N*m", "N·m": "N*m", "Nm": "N*m", "V": "volt", "J": "joule", "kJ": "kJ",
    "1/m": "1/m", "/km": "1/km", "/mi": "1/mile", "kWh": "kWh", "Wh": "Wh", "MJ": "MJ", "m^3/s": "m^3/s",
    "L/min": "liter/minute", "US gal/min": "gallon/minute", "imp gal/min": "imperial_gallon/minute",
    "gal/min": "gallon/minute", "L/h": "liter/hour", "US gal/h": "gallon/hour", "imp gal/h": "imperial_gallon/hour",
    "m^3/m": "m^2", "m/m^3": "1/m^2", "L/100 km": "liter/hundred_kilometer", "US gal/100 mi": "gallon/hundred_mile",
    "imp gal/100 mi": "imperial_gallon/hundred_mile", "km/L": "kilometer/liter", "mpg": "mile/gallon",
    "imp mpg": "mile/imperial_gallon", "ohm": "ohm", "m/s^2": "m/s^2", "m/s²": "m/s^2", "MPa": "MPa", "1/s": "1/s",
    "Hz": "Hz", "J/m": "J/m", "Wh/km": "Wh/km", "Wh/mi": "Wh/mile",
    "mL/h": "milliliter/hour", "kN": "kN",
    "A": "ampere", "dB": "", "cd": "", "L/s": "liter/second", "g": "gram", "oz": "ounce",
    "lbf*ft": "lbf*ft", "kgf*m": "kgf*m", "thou": "thou",
    "kg*m^2": "kg*m^2", "kg·m²": "kg*m^2", "N*m/N": "m", "N·m/N": "m",
}  # fmt: skip


def registry() -> pint.UnitRegistry:
    """Pint's registry with the two units of consumption."""
    made = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    made.define("hundred_kilometer = 100 * kilometer")
    made.define("hundred_mile = 100 * mile")
    return made


def written() -> str:
    """The whole file."""
    known, lines = registry(), []
    for name, expression in PINT.items():
        zero, one, thousand = (known.Quantity(v, expression).to_base_units() for v in (0.0, 1.0, 1000.0))
        # what has an offset is told from a step of a thousand, which leaves less to rounding
        factor = (thousand.magnitude - zero.magnitude) / 1000.0 if zero.magnitude else one.magnitude
        lines.append(f'    "{name}": ({factor!r}, {float(zero.magnitude)!r}, "{zero.dimensionality}"),')
    head = '"""Units by name: factor and offset to the base units of their dimension, told. By `make units`."""\n\n'
    return head + "UNITS: dict[str, tuple[float, float, str]] = {\n" + "\n".join(lines) + "\n}\n"


def main() -> int:
    made = written()
    if "--check" not in sys.argv:
        FILE.write_text(made)
    elif FILE.read_text() != made:
        sys.stderr.write("core/units/factors.py is older than pint: run make units\n")
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
