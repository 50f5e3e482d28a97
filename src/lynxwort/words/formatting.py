"""SI values as a rider reads them."""

import re
from collections.abc import Callable
from datetime import date

from lynxwort.core.units.convert import Units, difference_to_shown, shown_unit, to_shown
from lynxwort.words import N_, decimal

THIN = "\u202f"
MINUS = "\u2212"
#: a day as documents write it
DAY = re.compile(r"^\d{4}-\d{2}-\d{2}$")
WEEKDAYS = (N_("Mon"), N_("Tue"), N_("Wed"), N_("Thu"), N_("Fri"), N_("Sat"), N_("Sun"))
MONTHS = (
    N_("Jan"), N_("Feb"), N_("Mar"), N_("Apr"), N_("May"), N_("Jun"), N_("Jul"), N_("Aug"), N_("Sep"), N_("Oct"),
    N_("Nov"), N_("Dec"),
)  # fmt: skip


def day_text(day: str, translate: Callable[[str], str]) -> str:
    """A day of a document, like Fri 16 Apr."""
    there = date.fromisoformat(day)
    return f"{translate(WEEKDAYS[there.weekday()])} {there.day} {translate(MONTHS[there.month - 1])}"


def plain_number(value: float, digits: int) -> str:
    """A number with thin groups of three, the language's decimal sign and a real minus; no negative zero."""
    text = decimal(f"{value:,.{digits}f}".replace(",", THIN))
    if text.startswith("-"):
        text = text[1:] if float(f"{value:.{digits}f}") == 0 else MINUS + text[1:]
    return text


def short_number(value: float, digits: int = 6) -> str:
    """A number with as many digits as it needs and no more than these."""
    return decimal(f"{value:.{digits}g}")


def minutes_seconds(value_s: float, digits: int = 0) -> str:
    """Seconds as h:mm:ss or m:ss, with tenths where they count."""
    if digits:
        tenths = round(10 * abs(value_s))
        text = minutes_seconds(tenths // 10) + decimal(f".{tenths % 10}")
        return MINUS + text if value_s < 0 else text
    whole = round(abs(value_s))
    hours, rest = divmod(whole, 3600)
    text = f"{hours}:{rest // 60:02d}:{rest % 60:02d}" if hours else f"{rest // 60}:{rest % 60:02d}"
    return MINUS + text if value_s < 0 else text


def number_text(value: float, kind: str, preset: Units | str) -> str:
    """The number alone, in the preset's unit for this kind."""
    shown = to_shown(value, kind, preset)
    if shown.unit == "min:s":
        return minutes_seconds(value, shown.digits)
    if shown.unit == "e":
        return f"{value:.0e}"
    if kind == "number" and abs(value - round(value)) < 1e-9:
        return plain_number(value, 0)
    digits = shown.digits
    if kind == "share" and 0.0 < value < 0.005:
        return "<1"
    if kind == "share" and 0.985 < value < 1.0:
        # never round a doubt away: 99.6 % is not 100 %
        return plain_number(min(shown.value, 99.9), 1).removesuffix(decimal(".0"))
    return plain_number(shown.value, digits)


def unit_text(kind: str, preset: Units | str) -> str:
    """The unit's sign, empty for bare numbers."""
    unit = shown_unit(kind, preset)
    return {"min:s": "", "e": "", "cm^3": "cm³"}.get(unit, unit)


def _signed_text(value: float, kind: str, preset: Units | str) -> str:
    """The number, with its sign where more and less of a mixture is meant."""
    number = number_text(value, kind, preset)
    return f"+{number}" if kind == "richness" and value > 0 and not number.startswith(decimal("0.0")) else number


def value_text(value: float, kind: str, preset: Units | str) -> str:
    """Number and unit."""
    unit, number = unit_text(kind, preset), _signed_text(value, kind, preset)
    return f"{number}{THIN if unit in ('%', '°') else ' '}{unit}".strip() if unit else number


def range_text(low: float, high: float, kind: str, preset: Units | str, translate: Callable[[str], str]) -> str:
    """A range with its unit; what carries a sign keeps it at both ends, and what reads the same is said once."""
    first, last = (_signed_text(v, kind, preset) for v in (low, high))
    if first == last:
        return value_text(high, kind, preset)
    signed = any(text.startswith(("+", MINUS)) for text in (first, last))
    return f"{first}{translate(N_(' to ')) if signed else '–'}{value_text(high, kind, preset)}"


def difference_text(value: float, kind: str, preset: Units | str) -> str:
    """A signed difference with its unit."""
    shown = to_shown(value, kind, preset)
    if shown.unit == "min:s":
        number = f"{plain_number(abs(value), 0)} s"
        return (MINUS if value < 0 else "+") + number
    amount = difference_to_shown(value, kind, preset)
    unit = unit_text(kind, preset)
    return f"{MINUS if amount < 0 else '+'}{plain_number(abs(amount), shown.digits)} {unit}".strip()


def percent_change(share: float, digits: int) -> str:
    """A change in percent with its sign; ± where it rounds to nothing."""
    text = plain_number(abs(100.0 * share), digits)
    return f"{'±' if round(abs(100.0 * share), digits) == 0 else MINUS if share < 0 else '+'}{text}{THIN}%"


def short_text(value: float, kind: str, preset: Units | str) -> str:
    """For a notch cell: speeds without unit and, from 20 up, without decimals."""
    if kind == "speed":
        shown = to_shown(value, kind, preset).value
        return plain_number(shown, 0 if shown >= 20 else 1)
    return value_text(value, kind, preset)
