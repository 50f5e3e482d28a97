"""Two sessions, or two days, of the garage side by side."""

from dataclasses import dataclass
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.stations.trials.answer import question_fields
from lynxwort.core.stations.trials.compare import compared, told_days
from lynxwort.core.tunables import TUNABLES, item_of, said_value
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.models import Felt
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_name, tunable_text
from lynxwort.web.bikes.services import checked_bike, checked_setup
from lynxwort.web.runs.models import RiddenDay, Trial
from lynxwort.web.stations.trials import answering, days
from lynxwort.web.stations.trials.planning import share_words
from lynxwort.web.ui.drawings import trials as drawings
from lynxwort.words.formatting import value_text
from lynxwort.words.trials import ASPECTS, ENDED, SIDE_BY_SIDE, SOILS, WEATHERS

#: of each kind the newest are offered; what was felt on a bike, the newest of it
MOST_OFFERED, MOST_FELT = 60, 4


@dataclass(frozen=True, slots=True)
class Told:
    """A session that may be compared: its name in a list, its row, "A" or "B" of a trial."""

    name: str
    row: Trial | RiddenDay
    setting: str


def _tried(row: Trial, preset: Units | str) -> str:
    """What a trial changed, in words of its bike."""
    bike, words = checked_bike(row.setup.bike.document), []
    setup = checked_setup(row.values)
    for name in question_fields(row.document["question"]):
        if name in TUNABLES or item_of(name):
            said = tunable_text(bike, name, said_value(setup, name), preset)
            words.append(f"{tunable_name(name, bike).lower()} {said}")
        else:
            words.append(name)
    return ", ".join(words)


def sessions_of(bench: Bench, preset: Units | str) -> dict[str, Told]:
    """All of the garage by what the page calls them, the newest first."""
    found = {}
    garage = bench.setup.bike.garage
    trials = Trial.objects.filter(setup__bike__garage=garage).select_related("setup__bike").prefetch_related("runs")
    ridden = RiddenDay.objects.filter(setup__bike__garage=garage).select_related("setup__bike")
    for row in trials.order_by("-created")[:MOST_OFFERED]:
        for setting, words in (("A", _("before")), ("B", _("after"))):
            told = {
                "bike": row.setup.bike.name, "rider": row.document["rider"], "day": row.created.strftime("%Y-%m-%d"),
                "what": _tried(row, preset), "setting": words,
            }  # fmt: skip
            found[f"{row.uid}:{setting}"] = Told(
                _("%(rider)s, %(bike)s, %(day)s: %(what)s, %(setting)s") % told, row, setting
            )  # fmt: skip
    for day in ridden.prefetch_related("clicks").order_by("-created")[:MOST_OFFERED]:
        told = {"bike": day.setup.bike.name, "rider": day.document["rider"], "name": day.document["name"]}
        told["day"] = day.created.strftime("%Y-%m-%d")
        found[f"{day.uid}:day"] = Told(_("day of %(rider)s, %(bike)s, %(day)s: %(name)s") % told, day, "")
    return found


class PairForm(forms.Form):
    """Which two."""

    one = forms.ChoiceField(label=gettext_lazy("The first"))
    two = forms.ChoiceField(label=gettext_lazy("The second"))

    def __init__(self, data: Any, *, sessions: dict[str, Told]) -> None:
        super().__init__(data)
        self.sessions = sessions
        for name in ("one", "two"):
            self.fields[name].choices = [(k, t.name) for k, t in sessions.items()]  # type: ignore[attr-defined]

    def clean(self) -> dict[str, Any]:
        said = super().clean() or {}
        pair = [self.sessions[said[name]] for name in ("one", "two") if name in said]
        if len(pair) == 2 and said["one"] == said["two"]:
            raise forms.ValidationError(_("These are the same."))
        if len(pair) == 2 and type(pair[0].row) is not type(pair[1].row):
            raise forms.ValidationError(_("A session has laps and a day has none: choose two of a kind."))
        return said


def compare_page(form: PairForm, preset: Units | str) -> dict[str, Any]:
    """The two side by side, once they are chosen."""
    if not form.is_bound or not form.is_valid():
        return {"form": form}
    first, second = (form.sessions[form.cleaned_data[name]] for name in ("one", "two"))
    context = {"form": form, "first": first, "second": second}
    if isinstance(first.row, Trial) and isinstance(second.row, Trial):
        return context | _laps(first, second, preset)
    return context | {"rows": _days(first, second, preset)}


def _laps(first: Told, second: Told, preset: Units | str) -> dict[str, Any]:
    """Laps by Welch, scores and words beside each other."""
    of = [(answering.core_of(t.row), t.setting) for t in (first, second)]  # type: ignore[arg-type]
    found = compared(of[0], of[1])  # type: ignore[arg-type]
    both = (found.first, found.second)
    ruler = None
    if found.effect is not None:
        e = found.effect
        bars = [drawings.Bar(_("second less first"), e.share, e.low_share, e.high_share, "seen")]
        ends = (_("quicker"), _("slower"), _("even"))
        ruler = drawings.ruler(bars, of[0][0].even_share, ends, _("Second session less the first, a share of the lap"))
    return {
        "found": found,
        "apart": _(SIDE_BY_SIDE[found.verdict]),
        "share": None if found.effect is None else share_words(found.effect.share),
        "low": None if found.effect is None else share_words(found.effect.low_share),
        "high": None if found.effect is None else share_words(found.effect.high_share),
        "ruler": ruler,
        "other_question": of[0][0].question != of[1][0].question,
        "rows": [
            (_("Laps that count"), *(str(s.laps) for s in both)),
            (_("A lap, on average"), *(_or_dash(s.mean_s, "lap_time", preset) for s in both)),
            (_("Laps spread"), *(_or_dash(s.sd_s, "seconds", preset) for s in both)),
            *(
                (_(words), *(_or_dash(s.scores.get(a), "number", preset) for s in both))
                for a, words in ASPECTS.items()
                if any(a in s.scores for s in both)
            ),
        ],
        "felt": [_felt(t) for t in (first, second)],
    }  # fmt: skip


def _or_dash(value: float | None, kind: str, preset: Units | str) -> str:
    return "–" if value is None else value_text(value, kind, preset)


def _felt(told: Told) -> list[str]:
    """What was said of the bike in the rider's own words, the newest first."""
    return [f.words for f in Felt.objects.filter(setup=told.row.setup).exclude(words="").order_by("-id")[:MOST_FELT]]


def _days(first: Told, second: Told, preset: Units | str) -> list[tuple[str, str, str]]:
    """A row for each thing, what neither day says left out."""
    both = told_days([days.core_of(t.row) for t in (first, second)])  # type: ignore[arg-type]
    each = [t.day for t in both]
    rows = [
        (_("Laps ridden"), *(str(d.laps) for d in each)),
        (_("Bikes past in all"), *(str(t.passes) for t in both)),
        (_("Whoops in the morning"), *(_or_dash(t.morning_m, "travel", preset) for t in both)),
        (_("Whoops at the end"), *(_or_dash(t.evening_m, "travel", preset) for t in both)),
        (_("Whoops made of"), *(_(SOILS[d.soil]) for d in each)),
        (_("Weather"), *(_(WEATHERS[d.weather]) for d in each)),
        (_("Watered"), *(_("after lap %(n)s") % {"n": d.watered[0].lap} if d.watered else "–" for d in each)),
        (_("Front tyre, cold"), *(_or_dash(d.tyre_front_pa, "tyre_pressure", preset) for d in each)),
        (_("Rear tyre, cold"), *(_or_dash(d.tyre_rear_pa, "tyre_pressure", preset) for d in each)),
        (_("Rear tyre ridden before"), *(_or_dash(d.tyre_hours_s, "hours", preset) for d in each)),
        (_("Clicks turned"), *(_turned(t.day) or "–" for t in both)),
        (_("How it ended"), *(_(ENDED[d.ended]) for d in each)),
        (_("Result"), *(days.result_words(d, preset) or "–" for d in each)),
    ]
    return [(name, a, b) for name, a, b in rows if (a, b) != ("–", "–")]


def _turned(day: Any) -> str:
    live = sorted((c for c in day.clicks if not c.struck_out), key=lambda c: c.lap)
    return "; ".join(f"{days.when_words(c.lap)} {days.turn_words(c.end, c.way, c.clicks)}" for c in live)
