"""What is said of the week before a race: its evenings, chores, and parts that are to come. Facts of the race."""

import uuid
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.model.race import Awaited, Chore, WeekPlan
from lynxwort.web.ui.forms import DocumentForm

#: what is picked rather than typed, and how a browser calls it
PICKED = {"begins": "date", "leaves": "date", "evening_at": "time", "arrives": "date"}


class WeekForm(DocumentForm):
    """A form whose days and hours are picked."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for path, field in self.fields.items():
            if (kind := PICKED.get(path.rsplit(".", 1)[-1])) is not None:
                field.widget.input_type = kind  # type: ignore[attr-defined]
                field.widget.attrs["type"] = kind


class EveningsForm(WeekForm):
    """From when, until when, how long an evening is, and days without work."""

    spec = (
        ("week.begins", WeekPlan, gettext_lazy("First evening of work")),
        ("week.leaves", WeekPlan, gettext_lazy("Day you leave for the race")),
        ("week.evening_at", WeekPlan, gettext_lazy("Work begins at")),
        ("week.evening_s", WeekPlan, gettext_lazy("Work in an evening")),
    )

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["away"] = forms.CharField(
            required=False, max_length=400, label=_("Days without work"),
            help_text=_("Apart by spaces, like 2027-04-02."),
        )  # fmt: skip
        self.initial["away"] = " ".join(self.current.get("week", {}).get("away", ()))

    def document(self) -> dict[str, Any]:
        """The week as it now stands, its chores and parts untouched."""
        week, said = dict(self.current.get("week", {})), super().document().get("week", {})
        days = sorted(set(self.cleaned_data["away"].replace(",", " ").split()))
        for name, value in {
            **{path.rsplit(".", 1)[-1]: None for path, *_rest in self.spec}, **said, "away": days or None,
        }.items():  # fmt: skip
            week.pop(name, None)
            if value is not None:
                week[name] = value
        return {"week": week} if week else {}


class AwaitForm(WeekForm):
    """What a job waits for; both blank: its part is here."""

    spec = (
        ("arrives", Awaited, gettext_lazy("Ordered: it comes on")),
        ("order_days", Awaited, gettext_lazy("Not ordered: days until it is here")),
    )

    def kept(self, week: dict[str, Any], job: str) -> dict[str, Any]:
        """The week with what was said of a job."""
        others = [a for a in week.get("awaited", ()) if a["job"] != job]
        said = self.document()
        return week | {"awaited": [*others, {"job": job} | said] if said else others}


class ChoreForm(WeekForm):
    """A job of one's own."""

    spec = (("name", Chore, gettext_lazy("What is to be done")), ("takes_s", Chore, gettext_lazy("Takes")))

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["at_the_end"] = forms.BooleanField(
            required=False, label=_("Once the bike is done"), help_text=_("Like loading the van.")
        )

    def kept(self, week: dict[str, Any]) -> dict[str, Any]:
        """The week with one chore more."""
        more = {"at_the_end": True} if self.cleaned_data["at_the_end"] else {}
        return week | {"chores": [*week.get("chores", ()), {"id": uuid.uuid4().hex[:12]} | self.document() | more]}


def chore_done(week: dict[str, Any], chore: str, *, drop: bool) -> dict[str, Any]:
    """The week with a chore done, or taken off the list."""
    chores = [c for c in week.get("chores", ()) if not (drop and c["id"] == chore)]
    return week | {"chores": [c | {"done": True} if c["id"] == chore else c for c in chores]}
