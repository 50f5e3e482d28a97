"""The day on the page: laps with what was turned, what the log says, how it went."""

import uuid
from dataclasses import dataclass
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.trials import RiddenDay as CoreDay
from lynxwort.core.model.trials import Tape, Watering
from lynxwort.core.stations.trials import day as days
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.runs import days as services
from lynxwort.web.runs.models import RiddenDay
from lynxwort.web.ui.drawings import day as drawings
from lynxwort.web.ui.forms import DocumentForm, QuantityField
from lynxwort.words.formatting import value_text
from lynxwort.words.trials import ENDED, SOILS, WEATHERS, WHYS

#: adjusters by their tile, in words
ADJUSTERS: dict[str, Any] = {
    "front.compression": gettext_lazy("fork compression"),
    "front.rebound": gettext_lazy("fork rebound"),
    "rear.compression": gettext_lazy("shock compression"),
    "rear.rebound": gettext_lazy("shock rebound"),
}
#: laps that a day may have
MOST_LAPS = 400
#: clicks that are offered
CLICKS = (1, 2, 3, 4, 6)


class TurnForm(forms.Form):
    """Two taps: which adjuster which way, and why. name: of the click, so that it is kept once."""

    name = forms.UUIDField()
    turned = forms.ChoiceField(
        choices=[(f"{a}.{way}", "") for a in ADJUSTERS for way in ("in", "out")],
        error_messages={"required": gettext_lazy("Say first what was turned, and which way.")},
    )
    by = forms.TypedChoiceField(choices=[(n, str(n)) for n in CLICKS], coerce=int)
    lap = forms.IntegerField(min_value=0, max_value=MOST_LAPS)
    why = forms.ChoiceField(choices=[(w, "") for w in WHYS])

    def click(self) -> dict[str, Any]:
        """The click's document."""
        said = self.cleaned_data
        end, way, sense = said["turned"].split(".")
        return {
            "lap": said["lap"], "end": end, "way": way, "why": said["why"],
            "clicks": said["by"] if sense == "in" else -said["by"],
        }  # fmt: skip


class FactsForm(DocumentForm):
    """How the day was, and how it ended."""

    spec = (
        ("starters", CoreDay, gettext_lazy("Bikes on the course")),
        ("laps", CoreDay, gettext_lazy("Laps ridden")),
        ("soil", CoreDay, gettext_lazy("Whoops made of")),
        ("whoop_height_m", CoreDay, gettext_lazy("Whoops in the morning")),
        ("whoop_length_m", CoreDay, gettext_lazy("Crest to crest")),
        ("weather", CoreDay, gettext_lazy("Weather")),
        ("tyre_front_pa", CoreDay, gettext_lazy("Front tyre, cold")),
        ("tyre_rear_pa", CoreDay, gettext_lazy("Rear tyre, cold")),
        ("tyre_hours_s", CoreDay, gettext_lazy("Rear tyre ridden before")),
        ("tyre_why", CoreDay, gettext_lazy("Why these")),
        ("ended", CoreDay, gettext_lazy("How it ended")),
        ("ended_part", CoreDay, gettext_lazy("What stopped it")),
        ("place", CoreDay, gettext_lazy("Place")),
        ("in_class", CoreDay, gettext_lazy("in class")),
        ("time_s", CoreDay, gettext_lazy("Time of the day")),
    )
    choice_labels = {
        "soil": [(k, gettext_lazy(w)) for k, w in SOILS.items()],
        "weather": [(k, gettext_lazy(w)) for k, w in WEATHERS.items()],
        "ended": [(k, gettext_lazy(w)) for k, w in ENDED.items()],
    }

    def facts(self) -> dict[str, Any]:
        """What was said; what was emptied is taken back."""
        return {path: None for path, *_rest in self.spec} | self.document()


class SeenForm(forms.Form):
    """The whoops by the tape, or the course watered, after a number of laps."""

    lap = forms.IntegerField(min_value=0, max_value=MOST_LAPS, label=gettext_lazy("After laps"))

    def __init__(self, data: Any = None, *, preset: Units | str, laps: int) -> None:
        super().__init__(data, initial={"lap": laps})
        self.fields["depth_m"] = QuantityField(
            field_facts(Tape, "depth_m"), preset, label=_("Whoops by the tape"), required=False
        )
        self.fields["watered"] = forms.BooleanField(label=_("Watered"), required=False)
        self.fields["volume_m3"] = QuantityField(
            field_facts(Watering, "volume_m3"), preset, label=_("with"), required=False
        )

    def clean(self) -> dict[str, Any]:
        said = super().clean() or {}
        if not self.errors and not (said.get("depth_m") or said.get("watered") or said.get("volume_m3")):
            raise forms.ValidationError(_("Say how deep the whoops are, or that the course was watered."))
        return said

    def facts(self, day: RiddenDay) -> dict[str, Any]:
        """What the day then says of tape and water."""
        said, found = self.cleaned_data, {}
        if said.get("depth_m"):
            found["tapes"] = [*day.document.get("tapes", []), {"lap": said["lap"], "depth_m": said["depth_m"]}]
        if said.get("watered") or said.get("volume_m3"):
            water = {"lap": said["lap"]} | ({"volume_m3": said["volume_m3"]} if said.get("volume_m3") else {})
            found["watered"] = [*day.document.get("watered", []), water]
        return found


def day_of(bench: Bench, asked: str = "") -> RiddenDay | None:
    """The day that is asked for, else the newest of this setup and race."""
    found = bench.setup.days.prefetch_related("clicks")
    if not asked:
        return found.filter(race=bench.race).last()
    try:
        return found.filter(uid=uuid.UUID(asked)).first()
    except ValueError:
        return None


def begin(bench: Bench) -> RiddenDay:
    """A day of this race. Raises InputRefused."""
    document = days.begun(bench.kept_inputs).model_dump(mode="json", exclude_unset=True, exclude={"id"})
    return services.begin(bench.setup, bench.race, document)


def core_of(row: RiddenDay) -> CoreDay:
    """A day as the core reads it."""
    return CoreDay.model_validate(row.as_document())


def turn_words(end: str, way: str, clicks: float) -> str:
    """What is turned by how many clicks which way."""
    told = {"what": ADJUSTERS[f"{end}.{way}"], "n": f"{abs(clicks):g}"}
    return (_("%(what)s %(n)s in") if clicks > 0 else _("%(what)s %(n)s out")) % told


@dataclass(frozen=True, slots=True)
class Proposed:
    """What the log says of an adjuster, in words. when: at which lap of this race, empty when not in it."""

    what: str
    when: str
    why: str
    basis: str
    depth: str


def when_words(lap: int | None) -> str:
    if lap is None:
        return ""
    return _("before lap %(n)s") % {"n": lap + 1} if lap else _("before the start")


def proposed(bench: Bench, preset: Units | str, besides: str = "") -> list[Proposed]:
    """What the rider's own log proposes for this race, the first first; what does not agree with itself last."""
    found = bench.kept.ask(days.learned, besides)
    lines = []
    for one in sorted(found, key=lambda f: (f.lap is None, f.lap or 0)):
        depth = "" if one.depth_m is None else value_text(one.depth_m, "travel", preset)
        told = {"n": one.logs, "least": abs(one.least), "most": abs(one.most)}
        if not one.agrees:
            basis = _("%(n)s logs, not the same way each time") % told
        elif one.logs == 1:
            basis = _("last time")
        else:
            basis = _("%(n)s logs, %(least)s to %(most)s clicks") % told
        lines.append(
            Proposed(
                turn_words(one.end, one.way, one.clicks) if one.agrees else str(ADJUSTERS[f"{one.end}.{one.way}"]),
                when_words(one.lap), _(WHYS[one.why]), basis, depth,
            )
        )  # fmt: skip
    return lines


def sentences(bench: Bench, preset: Units | str) -> list[str]:
    """What to click when, for the pit card."""
    return [
        _("%(when)s: %(what)s (%(why)s, %(basis)s)") % {"when": p.when, "what": p.what, "why": p.why, "basis": p.basis}
        for p in proposed(bench, preset)
        if p.when
    ]


def day_page(
    bench: Bench,
    row: RiddenDay | None,
    preset: Units | str,
    *,
    turn: TurnForm | None = None,
    facts: FactsForm | None = None,
    seen: SeenForm | None = None,
) -> dict[str, Any]:
    """Laps with what was turned, tiles to log a click, what the log proposes, how it went."""
    context: dict[str, Any] = {
        "logged": row, "proposed": proposed(bench, preset, "" if row is None else str(row.uid)),
        "others": [d for d in bench.setup.days.order_by("-id") if row is None or d.pk != row.pk],
        "through": bench.kept.ask(days.through),
    }  # fmt: skip
    if row is None:
        return context
    day = core_of(row)
    laps = days.laps_of(day)
    return context | {
        "day": day,
        "laps": laps,
        "drawing": drawings.ribbon(
            [
                drawings.Lap(
                    lap.number,
                    lap.depth_m,
                    [turn_words(c.end, c.way, c.clicks) for c in lap.clicks],
                    "" if lap.depth_m is None else value_text(lap.depth_m, "travel", preset),
                )
                for lap in laps
            ],
            _("Laps of the day, the whoops under them, clicks turned before each"),
        ),
        "measured": bool((g := days.growth_of(day)) and g.measured),
        "clicks": [
            (c, turn_words(c.end, c.way, c.clicks), when_words(c.lap), _(WHYS[c.why]))
            for c in sorted(day.clicks, key=lambda c: c.lap)
            if not c.struck_out
        ],
        "adjusters": list(ADJUSTERS.items()),
        "steps": CLICKS,
        "whys": [(code, _(words)) for code, words in WHYS.items()],
        "fresh": uuid.uuid4(),
        "turn": turn,
        "facts": facts or FactsForm(preset=preset, current=row.document),
        "seen": seen or SeenForm(preset=preset, laps=day.laps),
        "ended": _(ENDED[day.ended]) if day.ended != "riding" else "",
        "weather": _(WEATHERS[day.weather]),
        "result": result_words(day, preset),
        "tapes": [(t.lap, value_text(t.depth_m, "travel", preset)) for t in day.tapes],
        "water": [
            (w.lap, "" if w.volume_m3 is None else value_text(w.volume_m3, "volume", preset)) for w in day.watered
        ],
    }


def result_words(day: CoreDay, preset: Units | str) -> str:
    """Place, class and time in a line."""
    parts = []
    if day.place is not None:
        told = {"n": day.place, "class": day.in_class}
        parts.append((_("place %(n)s (%(class)s)") if day.in_class else _("place %(n)s")) % told)
    if day.time_s is not None:
        parts.append(value_text(day.time_s, "hours", preset))
    if day.ended_part:
        parts.append(day.ended_part)
    return " · ".join(parts)
