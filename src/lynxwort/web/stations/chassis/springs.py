"""The sag clinic and the springs page: what is typed there, and what the core says of it."""

import json
from dataclasses import dataclass
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, pgettext

from lynxwort.core.asks import clinic as clinics
from lynxwort.core.asks import compromise
from lynxwort.core.errors import OutOfModelRange
from lynxwort.core.learned import clinic
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.parts import CoilDimensions, StackedSprings, TapeReading
from lynxwort.core.model.readings import Under
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.chassis.springs import Spring, rate_by_calliper, stacked
from lynxwort.core.stations.chassis import schools, view
from lynxwort.core.stations.chassis import springs as wanted_springs
from lynxwort.core.units.convert import Units, to_shown
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import charts
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.choices import CLINIC, POSTURES, SCHOOLS
from lynxwort.words.formatting import number_text, unit_text, value_text

ENDS = {"rear": gettext_lazy("Rear"), "front": gettext_lazy("Front")}
STATES = (("free", gettext_lazy("bike alone")), ("race", gettext_lazy("rider aboard")))
SETTLED = (("pushed", gettext_lazy("pushed down")), ("lifted", gettext_lazy("lifted")))


class ClinicForm(forms.Form):
    """The tape at one end: topped out, and settled from above and below, alone and with the rider aboard."""

    def __init__(self, *args: Any, preset: Units | str, posture: str = "standing", **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        facts = field_facts(TapeReading, "tape_m")
        self.fields["topped_out"] = QuantityField(facts, preset, label=_("Topped out, wheel off the ground"))
        for state, who in STATES:
            for way, how in SETTLED:
                self.fields[f"{state}_{way}"] = QuantityField(facts, preset, label=f"{str(who).capitalize()}, {how}")
        self.fields["posture"] = forms.ChoiceField(
            label=_("Rider"), choices=[(k, _(v)) for k, v in POSTURES.items()], initial=posture, required=False
        )
        self.fields["fuel_aboard_m3"] = QuantityField(
            field_facts(Under, "fuel_aboard_m3"), preset, label=_("Fuel aboard"), required=False
        )

    def taken(self, state: str) -> clinic.Taken:
        """The readings of one state."""
        typed = self.cleaned_data
        return clinic.Taken(
            topped_out_m=typed["topped_out"], pushed_m=typed[f"{state}_pushed"], lifted_m=typed[f"{state}_lifted"]
        )


class CoilForm(forms.Form):
    """A spring by calliper."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, auto_id="coil_%s", **kwargs)  # type: ignore[misc]
        self.fields["kind"] = forms.ChoiceField(
            label=_("Spring"),
            choices=[("shock_spring_rate_n_per_m", _("of the shock")), ("fork_spring_rate_n_per_m", _("of the fork"))],
        )
        for name, label in (("wire_m", _("Wire")), ("outer_m", _("Outer diameter")), ("turns", _("Turns in all"))):
            self.fields[name] = QuantityField(field_facts(CoilDimensions, name), preset, label=label)
        self.fields["closed"] = forms.BooleanField(label=_("Ends closed and ground"), required=False, initial=True)


class StackForm(forms.Form):
    """Two springs end to end."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, auto_id="stack_%s", **kwargs)  # type: ignore[misc]
        self.fields["end"] = forms.ChoiceField(label=_("At the"), choices=[("shock", _("rear")), ("fork", _("front"))])
        for name, label in (
            ("soft_n_per_m", _("Soft spring")),
            ("main_n_per_m", _("Main spring")),
            ("soft_stroke_m", _("Soft spring is solid after")),
        ):
            self.fields[name] = QuantityField(field_facts(StackedSprings, name), preset, label=label)


def say_coil(form: CoilForm, preset: Units | str) -> dict[str, Any] | None:
    """The rate of a measured spring; None with the refusal on the form."""
    typed = form.cleaned_data
    try:
        rate = rate_by_calliper(
            wire_m=typed["wire_m"], outer_m=typed["outer_m"], turns=typed["turns"], ground_ends=typed["closed"]
        )
    except OutOfModelRange:
        form.add_error(
            None, _("No spring is wound like that: the coil must be 3 to 16 wires wide, with at least one turn free.")
        )
        return None
    facts = field_facts(Setup, typed["kind"])
    fits = (facts.low or 0.0) <= rate <= (facts.high or rate)
    return {
        "rate": rate,
        "kind": typed["kind"],
        "line": f"{number_text(rate, 'spring_rate', preset)} {unit_text('spring_rate', preset)}",
        "fits": fits,
    }


def say_stack(form: StackForm) -> dict[str, Any]:
    """What two springs end to end are, and the moves that put them on the bike."""
    typed = form.cleaned_data
    made: Spring = stacked(
        soft_n_per_m=typed["soft_n_per_m"], main_n_per_m=typed["main_n_per_m"], soft_stroke_m=typed["soft_stroke_m"]
    )
    name = (
        f"{typed['end']}_spring_rate_n_per_m",
        f"{typed['end']}_second_rate_n_per_m",
        f"{typed['end']}_second_from_m",
        f"{typed['end']}_second_at_m",
    )
    values = (made.rate_n_per_m, made.second_n_per_m, made.from_m, made.to_m)
    return {
        "first": made.rate_n_per_m,
        "second": made.second_n_per_m,
        "at": made.to_m,
        "moves": json.dumps([list(m) for m in zip(name, values, strict=True)]),
    }


@dataclass(frozen=True, slots=True)
class Judged:
    """The clinic's answer in words. sags: free and race [m]; documents: the two readings, to be kept."""

    title: str
    text: str
    leaf: str
    lines: list[tuple[str, str]]
    sags: tuple[float, float]
    documents: list[dict[str, Any]]


LEAVES = {"right": "ok", "preload": "look", "soft": "act", "stiff": "act", "unsure": "unknown", "impossible": "act"}


def judge(bench: Bench, end: str, form: ClinicForm, preset: Units | str) -> Judged:
    """What the tape says of one end of the kept bike."""
    typed = form.cleaned_data
    rider, fuel = bench.kept.ask(clinics.rider_as, typed["posture"]), typed["fuel_aboard_m3"] or 0.0
    free, race = form.taken("free"), form.taken("race")
    found = bench.kept.ask(clinics.judge, end, race, free, rider, fuel)

    def val(value: float, kind: str) -> str:
        return value_text(value, kind, preset)

    lines = [
        (_("free sag"), val(free.sag_m, "travel")),
        (_("race sag"), val(race.sag_m, "travel")),
        (_("friction: settles apart by"), val(max(0.5 * (free.apart_m + race.apart_m), 0.0), "travel")),
    ]
    if found.rate_n_per_m is not None:
        rate, half = bench.kept.ask(wanted_springs.one_spring, end, found.rate_n_per_m, found.half_rate_n_per_m or 0.0)
        lines.append((_("true rate"), f"{number_text(rate, 'spring_rate', preset)} ± {val(half, 'spring_rate')}"))
    if found.preload_m is not None:
        lines.append((_("preload as it works"), val(found.preload_m, "preload")))
    if found.free_at_target_m is not None:
        lines.append(
            (
                _("free sag once race sag is set"),
                f"{number_text(found.free_at_target_m, 'travel', preset)} ± {val(found.half_free_m or 0.0, 'travel')}",
            )
        )
    base = {"kind": "sag", "end": end}
    conditions = {
        "setup": bench.kept_values,
        "rider": rider.model_dump(mode="json", exclude_unset=True),
        "fuel_aboard_m3": fuel,
        "course_key": bench.race.document["stages"][0]["course_key"],
    }
    documents = [
        base | {"state": s, "value_m": max(t.sag_m, 0.0), "apart_m": max(t.apart_m, 0.0), "under": conditions}
        for s, t in (("free", free), ("race", race))
    ]
    return Judged(
        title=_(CLINIC[found.verdict]),
        text=_(CLINIC[found.because]),
        leaf=LEAVES[found.verdict],
        lines=lines,
        sags=(free.sag_m, race.sag_m),
        documents=[] if found.verdict == "impossible" else documents,
    )


def picture(bench: Bench, end: str, judged: Judged | None, preset: Units | str) -> Any:
    """A soft, a right and a stiff spring with race sag set, and what was measured above them."""
    found = bench.kept.ask(wanted_springs.examples, end)
    rows = [] if judged is None else [_row(_("yours"), *judged.sags, bench, end, preset)]
    rows += [_row(_(CLINIC[f"row_{code}"]), f, r, bench, end, preset) for code, f, r in found]
    return charts.rulers(
        rows,
        unit=unit_text("travel", preset),
        label=_("Free and race sag of a soft, a right and a stiff spring, race sag set"),
    )


def _row(name: str, free_m: float, race_m: float, bench: Bench, end: str, preset: Units | str) -> dict[str, Any]:
    """A ruler's row of plain sags."""
    t = bench.kept.ask(wanted_springs.targets, end)

    def shown(value: float) -> float:
        return to_shown(value, "travel", preset).value

    row: dict[str, Any] = {"name": name, "travel": shown(bench.kept.ask(view.travel, end))}
    for state, value, low, high, words in (
        ("free", free_m, t.free_low_m, t.free_high_m, pgettext("on a ruler", "free")),
        ("race", race_m, t.race_low_m, t.race_high_m, pgettext("on a ruler", "race")),
    ):
        row[state] = (shown(value), shown(value), shown(value), shown(low), shown(high), None)
        row[f"{state}_name"], row[f"{state}_words"] = words, value_text(value, "travel", preset)
    return row


def choices(bench: Bench, end: str) -> list[dict[str, Any]]:
    """Springs that meet both sags, those in the box first, with the moves that try them."""
    found = sorted(
        bench.report.ask(wanted_springs.spring_choices, end),
        key=lambda c: (not c.owned, abs(c.rate_n_per_m - bench.report.ask(wanted_springs.wanted, end)[0])),
    )[:6]
    rows = []
    for c in found:
        moves = [[wanted_springs.RATE_FIELD[end], c.rate_n_per_m], [wanted_springs.PRELOAD_FIELD[end], c.preload_m]]
        rows.append(
            {
                "rate": c.rate_n_per_m,
                "low": c.preload_low_m,
                "high": c.preload_high_m,
                "owned": c.owned,
                "moves": json.dumps(moves),
            }
        )
    return rows


def schools_of(bench: Bench) -> list[dict[str, Any]]:
    """The three schools at both ends."""
    rows = []
    for end, name in ENDS.items():
        for s in bench.report.ask(schools.schools, end):
            rows.append(
                {
                    "end": name,
                    "school": _(SCHOOLS[s.name]),
                    "rate": s.rate_n_per_m,
                    "low": s.low_n_per_m,
                    "high": s.high_n_per_m,
                    "says": "" if s.name == "two_sag" else _(SCHOOLS[s.says]),
                    "because": _(SCHOOLS[s.because]) if s.because else "",
                }
            )
    return rows


def compromises(bench: Bench) -> list[dict[str, Any]]:
    """Per end the least wrong springs for all who share the bike."""
    rows = []
    for end, name in ENDS.items():
        found = bench.report.ask(compromise.compromise, end)
        if found is not None:
            moves = [
                [wanted_springs.RATE_FIELD[end], found.rate_n_per_m],
                [wanted_springs.PRELOAD_FIELD[end], found.preload_m],
            ]
            rows.append({"end": name, "found": found, "moves": json.dumps(moves)})
    return rows
