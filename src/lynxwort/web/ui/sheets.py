"""Tables and calendars that leave. Tables as CSV: a cell that a spreadsheet would reckon with instead of showing it
gets an apostrophe in front, and loses it when read back.
"""

import csv
import io
import re
from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta
from typing import Any

from icalendar import Alarm, Calendar, Event

#: what a spreadsheet takes for the beginning of a formula; plain numbers with their sign are none
_FORMULA = re.compile(r"^[=+\-@\t\r]")
_NUMBER = re.compile(r"^[+-]?\d+([.,]\d+)?([eE][+-]?\d+)?$")
_KEPT_APART = re.compile(r"^'(?=[=+\-@\t\r'])")


def shown(cell: object) -> str:
    """A cell as it goes out. One that begins with an apostrophe before such a sign gets another, so that it comes back
    as it was.
    """
    text = "" if cell is None else str(cell)
    apart = (_FORMULA.match(text) and not _NUMBER.match(text)) or _KEPT_APART.match(text)
    return f"'{text}" if apart else text


def read_back(text: str) -> str:
    """A cell as it was before it went out."""
    return _KEPT_APART.sub("", text, count=1)


def csv_text(rows: Iterable[Sequence[object]]) -> str:
    """Rows as CSV."""
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows([shown(cell) for cell in row] for row in rows)
    return out.getvalue()


#: how long before it a calendar rings
ALARM, DAY = timedelta(hours=12), timedelta(days=1)


def ringing(event: Event, words: str) -> None:
    """Let a calendar ring half a day before an event."""
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", words)
    alarm.add("trigger", -ALARM)
    event.add_component(alarm)


def add_zone(calendar: Calendar, first: datetime, last: datetime) -> None:
    """The rules of the events' zone for their days alone: long lists of dates are read by few. Where clocks go forward,
    icalendar 7.3.2 writes the new hour; what is meant is the old one (RFC 5545 3.6.5: onset by the offset before it).
    """
    calendar.add_missing_timezones((first - DAY).date(), (last + DAY).date())
    part: Any
    for part in calendar.walk("DAYLIGHT"):
        part["dtstart"].dt -= part["tzoffsetto"].td - part["tzoffsetfrom"].td
