"""The valving bench."""

from typing import Any

from django import forms
from django.utils.translation import gettext as _
from pydantic import ValidationError

from lynxwort.core.asks import stacks as bending
from lynxwort.core.model.damper import PLACES, STOCK_STACKS, StackShim, read_stack, shim_name, write_stack
from lynxwort.core.stations.damping import dampers
from lynxwort.core.stations.damping import figures as damping_figures
from lynxwort.core.stations.damping import findings as damping_findings
from lynxwort.core.tunables import fields_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.changes import Whole
from lynxwort.web.stations.damping.damped import force_drawing
from lynxwort.web.ui.drawings import dampers as drawings
from lynxwort.words.catalogue import TUNABLE_NAMES
from lynxwort.words.damping import MESSAGES
from lynxwort.words.formatting import percent_change, plain_number, value_text

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
        super().__init__(*args, initial={p: write_stack(dampers.shims_of(setup, end, p)) for p in PLACES}, **kwargs)  # type: ignore[misc]
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
    names = {"compression": _("compression"), "rebound": _("rebound")}
    return [(names[way], [percent_change(v, 0) for v in bands.values()]) for way, bands in found.items()]


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
                "change": percent_change(s.change, 1),
                "stacks": stacks,
            }
        )
    asked, best = percent_change(change, 0), percent_change(found.best, 1)
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
        "title": _("Fork valving") if end == "fork" else _("Shock valving"),
        "stacks": [_stack_view(bench, end, p) for p in PLACES],
        "forces": force_drawing(bench, end),
        "percent": percent_rows(bench, end),
        "ratios": [(plain_number(s, 1), *(value_text(z, "damping", preset) for z in found)) for s, found in ratios],
        "owned": sorted({shim_name(s.diameter_m, s.thickness_m) for s in bench.inputs.parts.shims}),
        "changed": any(f in bench.changed for f in fields_of("damping")),
    }
