"""The plan of a trial, out of the draft."""

import secrets
from collections.abc import Iterable
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core import tunables
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.model.trials import Trial as CoreTrial
from lynxwort.core.physics.trials import design
from lynxwort.core.stations.trials import planning
from lynxwort.core.stations.trials.planning import Planned, planned
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.present import ledger
from lynxwort.web.bench.services import Bench
from lynxwort.web.runs import services
from lynxwort.web.runs.models import Trial
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.formatting import number_text, short_number, value_text
from lynxwort.words.trials import ORDERS

#: what one would like to see, in thousandths of a lap
SEEN = (5, 10, 15, 20, 30, 50)
PAIRS = (2, 3, 4, 5, 6, 8, 10, 12, 16, 20)
#: pairs offered at first: at least, and at most
OFFERED = (4, 8)
#: a smaller share is not written with one decimal
LEAST_WRITTEN = 0.0005
#: what tells a draw of the order: kept with the trial, never typed
MOST_SEED = 2**31 - 1


class PlanForm(forms.Form):
    """What one hopes to see, in how many pairs, in which order."""

    see = forms.TypedChoiceField(label=gettext_lazy("What would you like to see?"), coerce=int)
    pairs = forms.TypedChoiceField(
        label=gettext_lazy("Pairs of runs"), coerce=int, choices=[(n, str(n)) for n in PAIRS], required=False
    )
    order = forms.ChoiceField(label=gettext_lazy("Order"), choices=[(k, gettext_lazy(w)) for k, w in ORDERS.items()])

    def __init__(self, data: Any, *, bench: Bench, preset: Units | str) -> None:
        expected = planning.expected(bench.kept, bench.report)
        lap_s = number_text(expected.lap_s, "lap_time", preset)
        started: dict[str, Any] = {"see": 20, "pairs": "", "order": "blocks", "lap_s": lap_s}
        super().__init__(started | ({k: data[k] for k in data} if data is not None else {}))
        share = _("%(n)s %% of the lap")
        self.fields["see"].choices = [(n, share % {"n": short_number(n / 10)}) for n in SEEN]  # type: ignore[attr-defined]
        self.fields["pairs"].choices = [("", _("as many as it takes")), *((n, str(n)) for n in PAIRS)]  # type: ignore[attr-defined]
        noise, lap = field_facts(CoreTrial, "noise_sd"), field_facts(CoreTrial, "lap_s")
        labels = {
            "lap_s": _("A lap of the trial takes"),
            "change_s": _("A change takes"),
            "turn_round_s": _("From a run to the next"),
        }
        for name, label in labels.items():
            facts = lap if name == "lap_s" else field_facts(CoreTrial, name)
            self.fields[name] = QuantityField(facts, preset, label=label, required=False)
        self.fields["noise_sd"] = QuantityField(noise, preset, label=_("This rider's laps spread"), required=False)
        fields = bench.changed
        if planning.may_be_blind(bench.kept_inputs.setup, bench.inputs.setup, fields):
            self.fields["blind"] = forms.BooleanField(
                label=_("Blind: a friend turns it, or not"), required=False,
                help_text=_("The friend's phone says which; the rider scores and guesses. One clicker, a few clicks."),
            )  # fmt: skip
        self.expected, self.noise = expected, bench.report.value("trials.noise") or 0.015

    def plan(self, seed: int) -> tuple[dict[str, Any], Planned]:
        """What a trial's document says of it, and what it can show."""
        said = {k: v for k, v in self.cleaned_data.items() if v not in (None, "")}
        hoped = said["see"] / 1000.0
        noise = said.get("noise_sd", self.noise)
        lap = said.get("lap_s", self.expected.lap_s)
        needed = design.pairs_needed(noise, hoped)
        pairs = said.get("pairs") or min(max(needed or OFFERED[1], OFFERED[0]), OFFERED[1])
        order = design.order_of(said["order"], pairs, seed)
        given: dict[str, Any] = {
            "noise_sd": noise, "hoped_share": hoped, "lap_s": lap,
            **{k: said[k] for k in ("change_s", "turn_round_s") if k in said},
        }  # fmt: skip
        if self.expected.share is not None:
            given["model_share"] = self.expected.share
        full = CoreTrial.model_validate(
            given | {"id": "new", "rider": "-", "question": "-", "changes": 1, "kind": "other", "order": order}
        )
        shown = planned(
            order, noise_sd=noise, hoped_share=hoped, even_share=full.even_share, model_share=full.model_share,
            lap_s=lap, turn_round_s=full.turn_round_s, change_s=full.change_s,
        )  # fmt: skip
        return given | {"order": order} | ({"blind": True} if said.get("blind") else {}), shown


def share_words(share: float) -> str:
    """A small share of a lap with its sign; what is too small to write is said to be."""
    if abs(share) < LEAST_WRITTEN:
        return _("less than 0.1 %")
    return f"{'−' if share < 0 else '+'}{value_text(abs(share), 'chance', 'metric')}"


def question_of(setup: CoreSetup, changed: Iterable[str]) -> str:
    """What changes, the same words whoever asks: fields with their values."""
    parts = []
    for name in sorted(changed):
        value = getattr(setup, name, None) if name not in tunables.TUNABLES else tunables.said_value(setup, name)
        parts.append(f"{name}={value:g}" if isinstance(value, int | float) else f"{name}={value}")
    return "; ".join(parts)[:200]


def refusal(bench: Bench) -> str:
    """Why the draft cannot be tried; empty when it can."""
    if not bench.changed:
        return "trial_nothing"
    return planning.refused(bench.kept, bench.report, bench.changed)


def begin(bench: Bench, given: dict[str, Any]) -> Trial:
    """The trial of the draft begins. Raises InputRefused."""
    document = given | {
        "rider": bench.inputs.rider.name,
        "question": question_of(bench.inputs.setup, bench.changed),
        "changes": len(bench.changed),
        "kind": planning.kind_of_change(bench.changed),
    }
    number = bench.setup.head.number if bench.setup.head else 0
    return services.start(bench.setup, document, values=bench.draft.values, number=number)


def new_seed() -> int:
    """The throw of the coin."""
    return secrets.randbelow(MOST_SEED)


def plan_page(bench: Bench, preset: Units | str, form: PlanForm | None) -> dict[str, Any]:
    """The change, what it takes to see it, the order; why not, where it may not be tried."""
    why = refusal(bench)
    context: dict[str, Any] = {"refused": why, "form": form, "chips": ledger(bench, preset)["chips"]}
    if form is None or not form.is_valid():
        return context
    # the same throw for everyone who looks, another one when it starts
    given, shown = form.plan(seed=1)
    expected = form.expected
    return context | {
        "plan": shown,
        "given": given,
        "tiles": _tiles(given["order"]),
        "model": None if expected.share is None else share_words(expected.share),
        "sent": [(name, form.data.get(name, "")) for name in form.fields if form.data.get(name)],
        "lap_s": given["lap_s"],
        "noise": given["noise_sd"],
        "hoped": given["hoped_share"],
        "two": len(bench.changed) > 1,
    }


def _tiles(order: str) -> list[dict[str, Any]]:
    """The order in groups of two with the changes between."""
    return [{"n": k + 1, "setting": c, "changes": k > 0 and order[k - 1] != c} for k, c in enumerate(order)]
