"""Pages in another language: what on them was never translated, and what is written as the other language would."""

import html
import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from unittest import mock

from django.utils.translation import trans_real

from lynxwort.core.units.factors import UNITS
from lynxwort.web.bikes.models import Bike, Revision, Setup
from lynxwort.web.garages.models import Garage, User
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.readings.models import Reading

BEGIN, END = "\u2045", "\u2046"
_INNERMOST = re.compile(f"{BEGIN}[^{BEGIN}{END}]*{END}")
_WORD = re.compile(r"[^\W\d_]{3,}")
#: what nobody reads, what was typed or is to be typed so, and codes
_UNREAD = re.compile(
    r"(?s)<(script|style|textarea|code|template)\b[^>]*>.*?</\1>|<address class=\"own\".*?</address>|<!--.*?-->"
)
_READ_OUT = re.compile(r'\s(?:aria-label|title|placeholder|alt|data-label)="([^"]*)"')
#: in a document of a person, under these names, are words of their own
_OWN = {"name", "label", "place", "title", "words", "marking", "text", "emergency_contacts", "paper", "note", "needle"}
#: units, zones, standards and names that are the same in every language
SAME = {
    *UNITS,
    "Lynxwort",
    "Europe/London",
    "Europe/Madrid",
    "Europe/Zurich",
    "Europe/Berlin",
    "UTC",
    "MPa",
    "rpm",
    "min",
    "kWh",
    "DOT",
    "GPX",
    "CSV",
    "bar",
}
SAME |= {"GeoJSON", "JSON", "English", "Español", "demo", "cm³", "mm²", "psi", "hPa", "kPa", "gal", "imp", "kgf"}
SAME |= {"lbf", "inHg", "stand-in run"}
#: sizes of shims keep the point, since the comma keeps them apart; names of standards and books keep theirs
POINTED = re.compile(
    r"[x×] ?\d+\.\d+|DOT 5\.1|GPX 1\.1|(?:ec|cap|tabla)\. \d+\.\d+|\(\d{4}\) \d\.\d|\d{4}, \d\.\d|8\.1\.6\.2|3x24\.15"
)


@contextmanager
def marked(language: str) -> Iterator[None]:
    """Every text that is translated comes back between marks."""
    speech = trans_real.translation(language)
    plain, counted = type(speech).gettext, type(speech).ngettext
    with (
        mock.patch.object(speech, "gettext", lambda text: f"{BEGIN}{plain(speech, text)}{END}" if text else text),
        mock.patch.object(speech, "ngettext", lambda one, many, n: f"{BEGIN}{counted(speech, one, many, n)}{END}"),
    ):
        yield


def _own(document: Any) -> Iterator[str]:
    if isinstance(document, dict):
        for key, value in document.items():
            if isinstance(value, str) and key in _OWN:
                yield value
            yield from _own(value)
    elif isinstance(document, list):
        for item in document:
            yield from _own(item)


def names() -> list[str]:
    """What people typed, longest first."""
    found = {*SAME, *Garage.objects.values_list("name", flat=True), *User.objects.values_list("username", flat=True)}
    for model in (Bike, Setup, Race, Course, Rider, OwnedPart, Revision, Reading):
        for row in model.objects.all():
            fields = {f.name: getattr(row, f.name) for f in model._meta.concrete_fields}
            found |= set(_own(fields)) | {fields.get("reason") or "", fields.get("race_name") or ""}
    return sorted((n for n in found if n), key=len, reverse=True)


def texts(page: str) -> list[str]:
    """What a page says and what is read out of it."""
    page = _UNREAD.sub(" ", page)
    pieces = [*re.split(r"<[^>]+>", page), *_READ_OUT.findall(page)]
    return [text for p in pieces if (text := " ".join(html.unescape(p).split()))]


def untranslated(page: str, known: list[str]) -> set[str]:
    """The words of a marked page that were never translated. known: what people typed."""
    page = _UNREAD.sub(" ", page)
    while (shorter := _INNERMOST.sub(" ", page)) != page:
        page = shorter
    found = set()
    for text in texts(page):
        left = text
        for name in known:
            left = left.replace(name, " ") if len(name) > 3 else re.sub(rf"(?<!\w){re.escape(name)}(?!\w)", " ", left)
        if _WORD.search(left):
            found.add(text)
    return found


def pointed(page: str) -> set[str]:
    """The texts of a page in which a number has a decimal point."""
    said = (t.replace(BEGIN, "").replace(END, "") for t in texts(page))
    return {t for t in said if re.search(r"\d\.\d", POINTED.sub(" ", t))}
