"""The valving bench, what was felt, the ride to look at, the setting sheet."""

import json
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from pydantic import ValidationError

from lynxwort.core.asks import complaints
from lynxwort.core.asks import stacks as bending
from lynxwort.core.model.damper import PLACES, STOCK_STACKS, StackShim, read_stack, shim_name, write_stack
from lynxwort.core.physics.halfcar.terrain import GRID_M, WHEEL_RADIUS_M
from lynxwort.core.stations.damping import dampers, rides
from lynxwort.core.stations.damping import figures as damping_figures
from lynxwort.core.stations.damping import findings as damping_findings
from lynxwort.core.tunables import fields_of, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.models import Felt
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_text
from lynxwort.web.bikes.changes import Whole
from lynxwort.web.stations.damping.damped import force_drawing, pieces
from lynxwort.web.ui.drawings import valving as drawings
from lynxwort.words.catalogue import FIGURE_NAMES, POSTURES, TERMS, TUNABLE_NAMES, say
from lynxwort.words.damping import CHECK_WORDS, COMPLAINT_WORDS, MEASURE_WORDS, MESSAGES, SEEN, TOOL_WORDS
from lynxwort.words.formatting import plain_number, value_text

#: shaft speed at which a stack is drawn [m/s]
SHOWN_M_PER_S = 1.0


class StackField(forms.CharField):
    """A stack typed the usual way; empty = as stock."""

    def __init__(self, **kwargs: Any) -> None:
        super().__init__(
            required=False,
            max_length=400,
            widget=forms.Textarea(attrs={"rows": 2, "autocomplete": "off", "spellcheck": "false"}),
            **kwargs,
        )

    def clean(self, value: Any) -> list[dict[str, Any]] | None:
        text = super().clean(value)
        try:
            made = read_stack(text)
            for shim in made:
                StackShim.model_validate(shim)
        except (ValueError, ValidationError):
            raise forms.ValidationError(_(MESSAGES["not_a_stack"])) from None
        return made or None


class StacksForm(forms.Form):
    """The three stacks of one damper."""

    def __init__(self, *args: Any, bench: Bench, end: str, **kwargs: Any) -> None:
        self.end = end
        setup = bench.inputs.setup
        super().__init__(*args, initial={p: write_stack(dampers.shims_of(setup, end, p)) for p in PLACES}, **kwargs)
        for place in PLACES:
            self.fields[place] = StackField(label=_(TUNABLE_NAMES[f"{end}_{place}_stack"]))

    def change(self) -> Whole:
        """The change to these stacks; a stack as stock is left out."""
        made: dict[str, Any] = {}
        for place in PLACES:
            shims = self.cleaned_data[place]
            stock = [s.model_dump(mode="json") for s in STOCK_STACKS[f"{self.end}_{place}"]]
            other = shims and [StackShim.model_validate(s).model_dump(mode="json") for s in shims] != stock
            made[f"{self.end}_{place}_stack"] = shims if other else None
        return Whole(made)


def posted(bench: Bench, end: str, post: Any) -> dict[str, str]:
    """What was sent of the stacks; with `only` one of them, the others as they are."""
    known = (
        {p: write_stack(dampers.shims_of(bench.inputs.setup, end, p)) for p in PLACES}
        if post.get("only") in PLACES
        else {}
    )
    return known | {p: post[p] for p in PLACES if p in post}


class WantedForm(forms.Form):
    """How much more or less of what is wanted of which stack, at which shaft speed."""

    def __init__(self, *args: Any, end: str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["place"] = forms.ChoiceField(
            label=_("Stack"), choices=[(p, _(TUNABLE_NAMES[f"{end}_{p}_stack"])) for p in PLACES], initial="piston"
        )
        self.fields["change"] = forms.FloatField(
            label=_("More force, in % (less with a minus)"),
            min_value=-60.0,
            max_value=150.0,
            initial=10.0,
            localize=True,
        )
        self.fields["speed"] = forms.FloatField(
            label=_("at a shaft speed of, m/s"), min_value=0.05, max_value=4.0, initial=0.5, localize=True
        )


def _stack_view(bench: Bench, end: str, place: str) -> dict[str, Any]:
    setup, bike = bench.inputs.setup, bench.inputs.bike
    found = bending.bent(bike, setup, end, place, SHOWN_M_PER_S)
    seat = getattr(dampers.facts_of(bike, end), place)
    leaves = [
        (
            1000 * leaf.shim.diameter_m / 2,
            1000 * leaf.shim.thickness_m,
            leaf.stress_pa / damping_findings.STRESS_LOOK_PA,
            (
                f"{shim_name(leaf.shim.diameter_m, leaf.shim.thickness_m)}  "
                f"{value_text(leaf.stress_pa, 'stress', 'metric')}"
            ),
        )
        for leaf in found.leaves
    ]
    drawing = drawings.stack(
        leaves,
        clamp=1000 * seat.clamp_m / 2,
        ports=(1000 * seat.port_inner_m, 1000 * seat.port_outer_m),
        touches=[(1000 * r, k) for r, k in found.touches],
        words={"ports": _("ports"), "clamp": _("clamp")},
        label=_("%(name)s, cut through") % {"name": _(TUNABLE_NAMES[f"{end}_{place}_stack"])},
    )
    wide = found.wide_crossover
    return {
        "name": _(TUNABLE_NAMES[f"{end}_{place}_stack"]),
        "drawing": drawing,
        "lift": found.lift_m,
        "height": found.height_m,
        "height_most": seat.height_most_m,
        "pressure": found.pressure_pa,
        "stress": max(leaf.stress_pa for leaf in found.leaves),
        "hard": any(leaf.stress_pa > damping_findings.STRESS_LOOK_PA for leaf in found.leaves),
        "wide": shim_name(wide.diameter_m, wide.thickness_m) if wide else "",
    }


def percent_rows(bench: Bench, end: str) -> list[tuple[str, list[str]]]:
    """The draft against the kept setting in percent, by stroke, at low, middle and high shaft speed."""
    found = bending.compare(bench.inputs.bike, bench.inputs.setup, bench.kept_inputs.setup, end)
    names = {"compression": _("in"), "rebound": _("out")}
    return [
        (names[way], [f"{100 * v:+.0f} %" if abs(v) >= 5e-3 else "±0 %" for v in bands.values()])
        for way, bands in found.items()
    ]


def answers(bench: Bench, end: str, wanted: dict[str, Any]) -> dict[str, Any]:
    """What comes nearest to a wanted change, each stack as it is typed."""
    change = wanted["change"] / 100.0
    found = bench.report.ask(bending.answer, end, wanted["place"], change, wanted["speed"])
    setup = bench.inputs.setup
    rows = []
    for s in found.suggestions:
        moves = []
        for m in s.moves:
            moves += [_("+ %(shim)s") % {"shim": shim_name(m.into.diameter_m, m.into.thickness_m)}] if m.into else []
            moves += [_("− %(shim)s") % {"shim": shim_name(m.out.diameter_m, m.out.thickness_m)}] if m.out else []
        stacks = {p: write_stack(s.shims if p == wanted["place"] else dampers.shims_of(setup, end, p)) for p in PLACES}
        rows.append(
            {
                "moves": ", ".join(moves),
                "text": stacks[wanted["place"]],
                "change": f"{100 * s.change:+.1f} %",
                "stacks": stacks,
            }
        )
    asked, best = f"{wanted['change']:+.0f} %", f"{100 * found.best:+.1f} %"
    return {"rows": rows, "reachable": found.reachable, "short": found.short, "wanted": asked, "best": best}


def valving_page(bench: Bench, end: str, preset: Units | str) -> dict[str, Any]:
    """One damper on the valving bench."""
    place = "front" if end == "fork" else "rear"
    ratios = [
        (
            speed,
            [bench.report.ask(damping_figures.ratio_of, place, way, speed).zeta for way in ("compression", "rebound")],
        )
        for speed in (0.1, 0.2, 0.3, 0.5)
    ]
    return {
        "end": end,
        "other": "shock" if end == "fork" else "fork",
        "title": _("Fork valving") if end == "fork" else _("Shock valving"),
        "stacks": [_stack_view(bench, end, p) for p in PLACES],
        "forces": force_drawing(bench, end),
        "percent": percent_rows(bench, end),
        "ratios": [(plain_number(s, 1), *(plain_number(z, 2) for z in found)) for s, found in ratios],
        "owned": sorted({shim_name(s.diameter_m, s.thickness_m) for s in bench.inputs.parts.shims}),
        "changed": any(f in bench.changed for f in fields_of("damping")),
    }


# what was felt
# ----------------------------------------------------------------------------------------------------------
class FeltForm(forms.Form):
    """What was felt, at which end, where on the course, and whether it came hot or cold."""

    what = forms.ChoiceField(
        choices=[(k, gettext_lazy(v)) for k, v in COMPLAINT_WORDS.items()], label=gettext_lazy("What it does")
    )
    end = forms.ChoiceField(
        choices=(("rear", gettext_lazy("rear")), ("front", gettext_lazy("front"))), label=gettext_lazy("At which end")
    )
    piece = forms.ChoiceField(label=gettext_lazy("Where on the course"), required=False)
    when = forms.ChoiceField(
        choices=(("", gettext_lazy("always")), ("hot", gettext_lazy("only hot")), ("cold", gettext_lazy("only cold"))),
        label=gettext_lazy("When"),
        required=False,
    )

    def __init__(self, *args: Any, bench: Bench, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.features = bench.report.ask(rides.features)
        named = [(f.kind, place_words(f.kind, f.at_m, preset)) for f in self.features]
        self.fields["piece"].choices = [("", _("wherever it shows")), *named]  # type: ignore[attr-defined]

    def at_m(self) -> float | None:
        """Where on the round the chosen piece lies."""
        return next((f.at_m for f in self.features if f.kind == self.cleaned_data["piece"]), None)


class WordsForm(forms.Form):
    """The rider's own words."""

    words = forms.CharField(
        label=gettext_lazy("In your own words: what it does, what you want of it"),
        required=False,
        max_length=300,
        widget=forms.Textarea(attrs={"rows": 2}),
    )


def place_words(kind: str, at_m: float | None, preset: Units | str) -> str:
    """A piece of the course and where it lies."""
    name = _(TERMS[kind])
    return (
        name
        if at_m is None
        else _("%(piece)s at %(place)s") % {"piece": name, "place": value_text(at_m, "distance", preset)}
    )


def felt_lines(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """What was written down as felt with this setup at this race, in words."""
    found = []
    for note in Felt.objects.filter(setup=bench.setup, race=bench.race):
        parts = [_(TERMS[note.end]), _(COMPLAINT_WORDS[note.what])]
        parts += [place_words(note.piece, note.at_m, preset)] if note.piece else []
        parts += [_("only hot") if note.when == "hot" else _("only cold")] if note.when else []
        found.append({"pk": note.pk, "text": ", ".join(parts), "words": note.words, "created": note.created})
    return found


def felt_page(bench: Bench, chosen: dict[str, str], preset: Units | str) -> dict[str, Any]:
    """What to look at first, and what each tool does about a complaint."""
    code, when = chosen["what"], chosen["when"]
    found = bench.report.ask(complaints.advise, code, chosen["end"], chosen["piece"])
    complaint = complaints.COMPLAINTS[code]
    most = max([abs(t.force_share) for t in found.tools] + [1e-3])
    rows = []
    for t in found.tools:
        moves = [[k, v] for k, v in t.changes.items() if isinstance(v, int | float)]
        whole = next((v for v in t.changes.values() if not isinstance(v, int | float)), None)
        name = next(iter(t.changes))
        to = tunable_text(bench.inputs.bike, name, moves[0][1], preset) if moves else write_stack(whole)
        rows.append(
            {
                "name": _(TOOL_WORDS[t.name][0 if t.more else 1]),
                "what": _(TUNABLE_NAMES[name]),
                "to": to,
                "force": f"{100 * t.force_share:+.1f} %",
                "bar": round(100 * abs(t.force_share) / most),
                "seen": t.seen,
                "seen_words": _(SEEN[t.seen]),
                "change": value_text(abs(t.change), complaint.kind, preset),
                "down": t.change < 0,
                "moves": json.dumps(moves) if moves else "",
                "place": name.removeprefix("fork_").removeprefix("shock_").removesuffix("_stack"),
                "stack": write_stack(whole) if whole else "",
                "valving": name.split("_")[0],
            }
        )
    checks = [_(CHECK_WORDS[c]) for c in (*complaints.CHECKS, *([when] if when in ("hot", "cold") else []))]
    return {
        "checks": checks,
        "rows": rows,
        "piece": _(TERMS[found.feature.kind]),
        "speed": found.speed_m_per_s,
        "measure": value_text(found.measure, complaint.kind, preset),
        "measured": _(MEASURE_WORDS[code]),
        "shaft": plain_number(complaint.speed_m_per_s, 1),
        "clicker": found.clicker,
    }


# the ride to look at
# ----------------------------------------------------------------------------------------------------
FRAMES_HZ = 50


def ride_page(bench: Bench, kind: str, preset: Units | str) -> dict[str, Any]:
    """One piece ridden, as points for the moving picture: metres, fifty pictures a second."""
    cases = bench.report.ask(rides.ridden)
    case = next((c for c in cases if c.feature.kind == kind), cases[0])
    car, ride = bench.report.ask(rides.recording, case.feature, case.speed_m_per_s)
    profile, _path = case.feature.profile()
    step = round(1000 / FRAMES_HZ)
    rows = ride.rows[max(ride.judged - 600, 0) :: step][: FRAMES_HZ * 8]
    start = max(ride.judged - 600, 0) / 1000.0 * case.speed_m_per_s
    frames = [
        [
            round(float(start + k / FRAMES_HZ * case.speed_m_per_s), 3),
            *(round(float(v), 4) for v in row[:5]),
            round(float(row[10] / car.value("fork_travel")), 3),
            round(float(row[18] / car.values["rear_travel"]), 3),
        ]
        for k, row in enumerate(rows)
    ]
    first = max(int(start / GRID_M) - 260, 0)
    ground = profile.height_m[first : first + int((frames[-1][0] - start + 8.0) / GRID_M) : 5]
    data = {
        "frames": frames,
        "hz": FRAMES_HZ,
        "ground": [round(float(h), 3) for h in ground],
        "ground_from": round(first * GRID_M, 3),
        "ground_step": 5 * GRID_M,
        "to_front": round(car.value("to_front"), 4),
        "to_rear": round(car.value("to_rear"), 4),
        "radius": WHEEL_RADIUS_M,
        "peg": round(car.value("peg"), 3),
        "words": {"shock": _("shock"), "fork": _("fork")},
    }
    return {
        "kind": case.feature.kind,
        "title": _(TERMS[case.feature.kind]),
        "kinds": [(c.feature.kind, _(TERMS[c.feature.kind])) for c in cases],
        "ride": data,
        "speed": case.speed_m_per_s,
        "pieces": [p for p in pieces(bench, preset) if p["name"] == _(TERMS[case.feature.kind])],
        "seconds": plain_number(len(frames) / FRAMES_HZ, 1),
        "slower": case.slower,
    }


# setting sheet
# ----------------------------------------------------------------------------------------------------------
SHEET_FIELDS = (
    "shock_spring_rate_n_per_m",
    "shock_preload_m",
    "shock_compression_clicks",
    "shock_high_speed_turns",
    "shock_rebound_clicks",
    "fork_spring_rate_n_per_m",
    "fork_preload_m",
    "fork_oil_up_m",
    "fork_compression_clicks",
    "fork_rebound_clicks",
)


def sheet_page(bench: Bench, preset: Units | str) -> dict[str, Any]:
    """All that a suspension shop asks for, on one page."""
    inputs = bench.inputs
    setup, bike, rider = inputs.setup, inputs.bike, inputs.rider
    have = tunables_of(bike)
    settings = [
        (_(TUNABLE_NAMES[f]), tunable_text(bike, f, said_value(setup, f), preset), f in setup.model_fields_set)
        for f in SHEET_FIELDS
        if f in have
    ]
    stacks = [
        (
            _(TUNABLE_NAMES[f"{end}_{p}_stack"]),
            write_stack(dampers.shims_of(setup, end, p)),
            getattr(setup, f"{end}_{p}_stack") is not None,
        )
        for end in ("shock", "fork")
        for p in PLACES
    ]
    sags = [
        (_(FIGURE_NAMES[f]), f)
        for f in ("chassis.rear.race_sag", "chassis.rear.free_sag", "chassis.front.race_sag", "chassis.front.free_sag")
    ]
    found = list(bench.report.of("damping"))
    return {
        "settings": settings,
        "stacks": stacks,
        "sags": sags,
        "pieces": pieces(bench, preset),
        "rider": rider,
        "posture": _(POSTURES[rider.posture]),
        "felt": felt_lines(bench, preset),
        "said": [say(f, bench.report, preset, _) for f in found],
        "rows": table_names(bench.report),
    }


def table_names(report: Any) -> list[tuple[str, str]]:
    """Names and ids of the damping figures."""
    return [(_(FIGURE_NAMES[f]), f) for f in report.figures if f.startswith("damping.")]
