"""Somebody came by: pressed on a phone, maybe long ago, or typed as an hour."""

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.web.bench.services import Bench
from lynxwort.web.runs import arrivals
from lynxwort.web.stations.range.crew import CrewLine, came_by, crew_lines

#: what a phone may have kept in its pocket before it is sent [ms]
OLDEST_MS = 7 * 86_400_000.0


def _line(lines: list[CrewLine], key: object) -> CrewLine:
    found = next((line for line in lines if line.key == key), None)
    if found is None:
        raise InputRefused(Refusal(path="key", code="not_on_the_sheet"))
    return found


def pressed(bench: Bench, said: Any, units: Any) -> None:
    """Keep a press. said: id, key, gone, and the phone's own clock when it was pressed and when it is sent [ms]: only
    how long ago it was counts, so a phone whose clock is wrong says the right hour. Raises InputRefused.
    """
    try:
        name = uuid.UUID(str(said["id"]))
        ago_ms = float(said["now_ms"]) - float(said["at_ms"])
    except (KeyError, TypeError, ValueError, OverflowError):
        raise InputRefused(Refusal(path="at", code="not_on_the_sheet")) from None
    if not -OLDEST_MS < ago_ms < OLDEST_MS:
        raise InputRefused(Refusal(path="at", code="not_on_the_sheet"))
    line = _line(crew_lines(bench.kept, units), said.get("key"))
    at = datetime.now(UTC) - timedelta(milliseconds=max(ago_ms, 0.0))
    arrivals.tell(bench.setup, bench.race, line.key, at, likely=line.likely, name=name, gone=said.get("gone") is True)


class HourForm(forms.Form):
    """Which row, and the hour by the race's clock; blank takes it back."""

    key = forms.ChoiceField(label=_("What came by"))
    hour = forms.TimeField(
        label=_("At (empty: it did not)"), required=False, widget=forms.TimeInput(attrs={"type": "time"}),
        input_formats=["%H:%M:%S", "%H:%M", "%H.%M"],
    )  # fmt: skip

    def __init__(self, data: Any = None, *, bench: Bench, lines: list[CrewLine]) -> None:
        super().__init__(data)
        self.bench, self.lines = bench, lines
        self.fields["key"].choices = [(line.key, f"{line.what}, {line.where}") for line in self.lines]  # type: ignore[attr-defined]

    def keep(self) -> None:
        """Keep the hour on the day nearest to when it was likely. Raises InputRefused."""
        line, hour = _line(self.lines, self.cleaned_data["key"]), self.cleaned_data["hour"]
        days = (line.likely + timedelta(days=k) for k in (-1, 0, 1))
        hours = (
            [d.replace(hour=hour.hour, minute=hour.minute, second=hour.second, microsecond=0) for d in days]
            if hour
            else [line.likely]
        )
        at = min(hours, key=lambda t: abs(t.timestamp() - line.likely.timestamp()))
        if hour or line.key in came_by(self.bench):
            arrivals.tell(
                self.bench.setup, self.bench.race, line.key, at, likely=line.likely, name=uuid.uuid4(), gone=not hour
            )
