"""The time card for the bars: one's own start minute, and when each check is due."""

from typing import Any

from django import forms
from django.utils.translation import gettext as _

from lynxwort.core.asks import along
from lynxwort.core.stations.range import checks
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.ribbon import stage_name
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.range.crew import marked_words
from lynxwort.words.formatting import value_text


class MinuteForm(forms.Form):
    """One's own start minute, after the race's."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["minute"] = forms.IntegerField(
            label=_("My minute, after the first"), min_value=0, max_value=600, required=False, initial=0
        )


def card(bench: Bench, minute: int, units: Units | str) -> dict[str, Any]:
    """The card of the race as kept."""
    report = bench.kept
    race, later_s = report.ask(along.document).race, 60.0 * minute
    stages, key = race.stages, race.clock_at(later_s)
    found = report.ask(checks.checks)
    lines = [
        {
            "name": _("start") if c.stage is None else stage_name(stages, c.stage),
            "due": race.clock_at(later_s + c.due_s),
            "allowed": "" if c.allowed_s is None else value_text(c.allowed_s, "minutes", units).split()[0],
            "known": c.known,
        }
        for c in found
    ]
    tight = [stage_name(stages, c.stage) for c in found if c.stage is not None and c.tight]
    return {"key": key, "lines": lines, "tight": ", ".join(tight), "marked": marked_words(report)}
