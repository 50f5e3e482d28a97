"""Numbers as people write them, beyond a number and its unit: feet and inches, stones, hours and minutes, fractions,
teeth, points of the compass, volts times ampere hours; and the many names of a unit.

Inch, foot, stone, pound and ounce by the International Yard and Pound Agreement of 1959; points of the compass
clockwise from north, 22.5 degrees apart (common practice).
"""

import re
from math import radians

from lynxwort.core.units.factors import UNITS

INCH_M = UNITS["in"][0]
POUND_KG = UNITS["lb"][0]
INCHES_PER_FOOT, POUNDS_PER_STONE, OUNCES_PER_POUND = 12.0, 14.0, 16.0
SECONDS_PER_MINUTE, SECONDS_PER_HOUR = 60.0, 3600.0
COMPASS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")
_VULGAR = {"½": "1/2", "¼": "1/4", "¾": "3/4", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8", "⅞": "7/8", "⅓": "1/3", "⅔": "2/3"}
#: other names of units, in small letters
SYNONYMS: dict[str, str] = {
    **dict.fromkeys(("kms", "kilometre", "kilometres", "kilometer", "kilometers"), "km"),
    **dict.fromkeys(("mile", "miles"), "mi"),
    **dict.fromkeys(("metre", "metres", "meter", "meters", "mtr"), "m"),
    **dict.fromkeys(("'", "′", "’", "feet", "foot"), "ft"),
    **dict.fromkeys(('"', "″", "”", "''", "inch", "inches", "ins"), "in"),
    **dict.fromkeys(("millimetre", "millimetres", "millimeter", "millimeters"), "mm"),
    **dict.fromkeys(("km/hr", "kph", "kmh", "kmph", "km / h"), "km/h"),
    **dict.fromkeys(("mi/h", "miles/h", "miles per hour"), "mph"),
    **dict.fromkeys(("litre", "litres", "liter", "liters", "ltr", "lt"), "L"),
    **dict.fromkeys(("gallon", "gallons", "gals"), "gal"),
    **dict.fromkeys(("us gallon", "us gallons", "usgal"), "US gal"),
    **dict.fromkeys(("imperial gallon", "imperial gallons", "uk gal", "imp gals"), "imp gal"),
    **dict.fromkeys(("ccm", "cu cm", "c.c."), "cc"),
    **dict.fromkeys(("kilo", "kilos", "kgs", "kilogram", "kilograms"), "kg"),
    **dict.fromkeys(("pound", "pounds", "lb.", "lbs."), "lb"),
    **dict.fromkeys(("gram", "grams", "gr"), "g"),
    **dict.fromkeys(("ounce", "ounces", "oz."), "oz"),
    **dict.fromkeys(("lbs/in", "lb/inch", "lbs/inch", "pounds per inch"), "lbf/in"),
    **dict.fromkeys(("kilos/mm", "kg per mm", "kg / mm"), "kgf/mm"),
    **dict.fromkeys(("newton/mm", "n per mm", "n / mm"), "N/mm"),
    **dict.fromkeys(("mb", "millibar", "hectopascal"), "mbar"),
    **dict.fromkeys(("bars",), "bar"),
    **dict.fromkeys(("lb/in2", "lbs/in2", "psi."), "psi"),
    **dict.fromkeys(("in hg", '"hg', "inches of mercury"), "inHg"),
    **dict.fromkeys(("º", "degree", "degrees", "degs"), "°"),
    **dict.fromkeys(("celsius", "deg c", "degrees c", "º c", "ºc", "centigrade"), "°C"),
    **dict.fromkeys(("fahrenheit", "deg f", "degrees f", "º f", "ºf"), "°F"),
    **dict.fromkeys(("bhp", "horsepower", "horse"), "hp"),
    **dict.fromkeys(("cv", "ch", "metric hp"), "PS"),
    **dict.fromkeys(("watt", "watts"), "W"),
    **dict.fromkeys(("newton metre", "newton metres", "n m"), "N*m"),
    **dict.fromkeys(("ft lb", "ft-lb", "ftlb", "lb ft", "lb-ft", "lbft", "ft.lb", "foot pounds"), "lbf*ft"),
    **dict.fromkeys(("kgm", "kg m", "kgf m", "kg-m"), "kgf*m"),
    **dict.fromkeys(("revs", "rev/min", "r/min", "1/min"), "rpm"),
    **dict.fromkeys(("volt", "volts"), "V"),
    **dict.fromkeys(("amp", "amps", "ampere", "amperes"), "A"),
    **dict.fromkeys(("percent", "pct", "per cent"), "%"),
    **dict.fromkeys(("sec", "secs", "second", "seconds"), "s"),
    **dict.fromkeys(("mins", "minute", "minutes"), "min"),
    **dict.fromkeys(("hr", "hrs", "hour", "hours"), "h"),
    **dict.fromkeys(("ohms", "ω"), "ohm"),
    **dict.fromkeys(("thou", "mil", "mils"), "thou"),
    # in Spanish
    **dict.fromkeys(("kilómetro", "kilómetros", "kilometro", "kilometros"), "km"),
    **dict.fromkeys(("metro", "metros"), "m"),
    **dict.fromkeys(("milímetro", "milímetros", "milimetro", "milimetros"), "mm"),
    **dict.fromkeys(("milla", "millas"), "mi"),
    **dict.fromkeys(("pie", "pies"), "ft"),
    **dict.fromkeys(("pulgada", "pulgadas"), "in"),
    **dict.fromkeys(("litro", "litros"), "L"),
    **dict.fromkeys(("galón", "galon", "galones"), "gal"),
    **dict.fromkeys(("kilogramo", "kilogramos"), "kg"),
    **dict.fromkeys(("gramo", "gramos"), "g"),
    **dict.fromkeys(("libra", "libras"), "lb"),
    **dict.fromkeys(("onza", "onzas"), "oz"),
    **dict.fromkeys(("grado", "grados"), "°"),
    **dict.fromkeys(("voltio", "voltios"), "V"),
    **dict.fromkeys(("amperio", "amperios"), "A"),
    **dict.fromkeys(("vatio", "vatios"), "W"),
    **dict.fromkeys(("ohmio", "ohmios"), "ohm"),
    **dict.fromkeys(("por ciento",), "%"),
    **dict.fromkeys(("segundo", "segundos", "seg"), "s"),
    **dict.fromkeys(("minuto", "minutos"), "min"),
    **dict.fromkeys(("hora", "horas"), "h"),
}
#: what is counted, said behind the number
_COUNTED = re.compile(
    r"(?<=\d)\s*(?:t|teeth|tooth|turns?|clicks?|links?|laps?|off|pcs|dientes?|vueltas?|clics?|eslab[oó]n(?:es)?)\.?$",
    re.IGNORECASE,
)
_NAMED = re.compile(r"^(?:#|n\.?º|no\.?|nr\.?|number|size|número)\s*(?=\d)", re.IGNORECASE)
_ABOUT = re.compile(r"^(?:~|≈|about|around|roughly|approx\.?|ca\.?|unos|unas|sobre|aprox\.?)\s*", re.IGNORECASE)
_DECIMAL = r"\d+(?:[.,]\d+)?"
_FRACTION = re.compile(r"^([+-]?)(?:(\d+)(?:\s+|-|(?=\s*$)))?(\d+)\s*/\s*(\d+)(?=\D|$)\s*")
_MIXED = rf"(?:\d+[\s-]+\d+/\d+|\d+/\d+|{_DECIMAL})"
_FEET_INCHES = re.compile(
    rf"^(\d+)\s*(?:'|′|’|ft|feet|foot)\s*({_MIXED})\s*(?:''|\"|″|”|in|inch|inches)?$", re.IGNORECASE
)
_STONES = re.compile(rf"^({_DECIMAL})\s*(?:st|stone|stones)(?:\s*({_DECIMAL})\s*(?:lb|lbs|pounds?)?)?$", re.IGNORECASE)
_POUND_OUNCES = re.compile(rf"^(\d+)\s*(?:lb|lbs|pounds?)\s*({_DECIMAL})\s*(?:oz|ounces?)$", re.IGNORECASE)
_CLOCK = re.compile(r"^(\d{1,3}):([0-5]\d)(?::([0-5]\d))?([.,]\d{1,3})?$")
_HOURS_MINUTES = re.compile(
    r"^(\d{1,3})\s*(?:h|hr|hrs|hours?)\s*([0-5]?\d)\s*(?:m|min|mins|minutes?|')?$", re.IGNORECASE
)
_MINUTES_SECONDS = re.compile(
    r"^(\d{1,4})\s*(?:min|mins|minutes?|m|')\s*([0-5]?\d)\s*(?:s|sec|secs|seconds?|''|\")?$", re.IGNORECASE
)
_RISE = re.compile(rf"^1\s*(?::|in)\s*({_DECIMAL})$", re.IGNORECASE)
_TO_ONE = re.compile(rf"^(?:({_DECIMAL})\s*:\s*1|1\s*:\s*({_DECIMAL}))$")
_PACK = re.compile(rf"^({_DECIMAL})\s*(v|ah)\s*(?:x|×|\*|@|at|,|\s)\s*({_DECIMAL})\s*(v|ah)$", re.IGNORECASE)
_FROM = re.compile(r"^(?:wind\s+)?from\s+(?:the\s+)?", re.IGNORECASE)
_COMPASS_WORDS = {"north": "N", "east": "E", "south": "S", "west": "W", "northeast": "NE", "southeast": "SE"} | {
    "southwest": "SW", "northwest": "NW"
}  # fmt: skip


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _mixed(text: str) -> float:
    """A decimal, a fraction, or a whole number with one."""
    whole, _space, part = text.replace("-", " ").rpartition(" ")
    top, _slash, bottom = part.partition("/")
    return _number(whole or "0") + _number(top) / _number(bottom or "1")


def plainly(text: str) -> str:
    """The text without what only says that it is about so, that it is numbered or what is counted; fractions as
    decimals.
    """
    plain = _ABOUT.sub("", text.strip())
    for sign, written in _VULGAR.items():
        plain = re.sub(rf"(?<=\d)\s*{sign}", f" {written}", plain).replace(sign, written)
    plain = _NAMED.sub("", plain)
    found = _FRACTION.match(plain)
    if found and int(found.group(4)):
        sign, whole, top, bottom = found.groups()
        value = float(whole or 0) + int(top) / int(bottom)
        plain = f"{sign}{value!r} {plain[found.end() :]}".strip()
    return plain


def uncounted(text: str) -> str:
    """A count without the word of what is counted."""
    return _COUNTED.sub("", text)


def _length(text: str) -> float | None:
    found = _FEET_INCHES.match(text)
    return (INCHES_PER_FOOT * int(found.group(1)) + _mixed(found.group(2))) * INCH_M if found else None


def _mass(text: str) -> float | None:
    if found := _STONES.match(text):
        return (POUNDS_PER_STONE * _number(found.group(1)) + _number(found.group(2) or "0")) * POUND_KG
    if found := _POUND_OUNCES.match(text):
        return (int(found.group(1)) + _number(found.group(2)) / OUNCES_PER_POUND) * POUND_KG
    return None


def _time(text: str, by_hours: bool) -> float | None:
    if found := _CLOCK.match(text):
        first, second = int(found.group(1)), int(found.group(2))
        part = _number(f"0{found.group(4)}") if found.group(4) else 0.0
        if found.group(3) is not None or by_hours:
            if part and found.group(3) is None:
                return None  # parts of a minute nobody writes so
            return SECONDS_PER_HOUR * first + SECONDS_PER_MINUTE * second + int(found.group(3) or 0) + part
        return SECONDS_PER_MINUTE * first + second + part
    if found := _HOURS_MINUTES.match(text):
        return SECONDS_PER_HOUR * int(found.group(1)) + SECONDS_PER_MINUTE * int(found.group(2))
    if found := _MINUTES_SECONDS.match(text):
        return SECONDS_PER_MINUTE * int(found.group(1)) + int(found.group(2))
    return None


def _bearing(text: str) -> float | None:
    word = _FROM.sub("", text).replace("-", "").replace(" ", "").lower()
    point = _COMPASS_WORDS.get(word, word.upper())
    return radians(360.0 / len(COMPASS) * COMPASS.index(point)) if point in COMPASS else None


def _energy(text: str) -> float | None:
    found = _PACK.match(text)
    if not found or found.group(2).lower() == found.group(4).lower():
        return None
    return _number(found.group(1)) * _number(found.group(3)) * SECONDS_PER_HOUR


def _to_one(text: str) -> float | None:
    found = _TO_ONE.match(text)
    return _number(found.group(1) or found.group(2)) if found else None


def special(text: str, kind: str, si_unit: str) -> float | None:
    """The SI value of a form that is more than a number with a unit; None when it is none of them. kind: of
    core.units.convert.KINDS, with its SI unit. "1:30" is hours and minutes where a quantity is told in them, else
    minutes and seconds.
    """
    text = text.strip()
    if kind == "bearing":
        return _bearing(text)
    if kind == "grade":
        found = _RISE.match(text)
        return 1.0 / _number(found.group(1)) if found and _number(found.group(1)) else None
    if kind in ("number", "ratio"):
        return _to_one(text)
    by_unit = {"m": _length, "kg": _mass, "J": _energy}
    if si_unit == "s":
        return _time(text, kind in ("hours", "minutes"))
    return by_unit[si_unit](text) if si_unit in by_unit else None


def unit_named(text: str) -> str:
    """The unit of a name that people use for it; the text itself where none is known."""
    if text in UNITS:
        return text
    plain = " ".join(text.split())
    small = {name.lower(): name for name in UNITS}
    return SYNONYMS.get(plain.lower(), small.get(plain.lower(), text))


def numbers_of(text: str) -> list[float]:
    """Some numbers in one line, apart by spaces, semicolons or commas; a comma within a number is a decimal one where
    something else keeps them apart. Quotients of teeth count, like 30/14. Raises ValueError.
    """
    apart = re.split(r"[\s;]+", re.sub(r"\s*/\s*", "/", text.strip()))
    if "." in text or len(apart) == 1:
        apart = [w for part in apart for w in part.split(",")]
    found = []
    for word in (w.strip(",") for w in apart):
        if word:
            top, _slash, bottom = word.partition("/")
            found.append(_number(top) / (_number(bottom) if bottom else 1.0))
    return found
