"""A trial while it is ridden: what is fitted for each run, what to hold, what a phone needs to know."""

import json
import uuid
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.model.trials import ASPECTS, Conditions
from lynxwort.core.model.trials import TrialRun as CoreRun
from lynxwort.core.physics.trials.timing import by_hand_error
from lynxwort.core.tunables import TUNABLES, item_of, said_value
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_name, tunable_text, whole_text
from lynxwort.web.bikes.models import Draft, Setup
from lynxwort.web.bikes.services import changed_fields, checked_setup
from lynxwort.web.runs import services
from lynxwort.web.runs.models import Trial, TrialRun
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.formatting import value_text
from lynxwort.words.trials import ASPECTS as ASPECT_WORDS


def open_trial(bench: Bench) -> Trial | None:
    """The trial that is ridden now."""
    return bench.setup.trials.filter(outcome="open").prefetch_related("runs").last()


def trial_in(setup: Setup, name: str) -> Trial | None:
    """A trial of a setup by its uid as text."""
    try:
        return setup.trials.prefetch_related("runs").filter(uid=uuid.UUID(name)).first()
    except ValueError:
        return None


def _parts(bench: Bench, trial: Trial, preset: Units | str) -> list[tuple[str, str, str]]:
    """What changes: its name, as it stood, as it was tried."""
    kept = bench.setup.revisions.filter(number=trial.number).first()
    before = kept.values if kept else bench.kept_values
    bike, setups = bench.kept_inputs.bike, [checked_setup(v) for v in (before, trial.values)]

    def said(name: str, setup: CoreSetup) -> str:
        if name in TUNABLES or item_of(name):
            return tunable_text(bike, name, said_value(setup, name), preset)
        return whole_text(name, getattr(setup, name))

    names = changed_fields(Draft(values=trial.values), before)
    return [(tunable_name(n, bike).lower(), said(n, setups[0]), said(n, setups[1])) for n in names]


def fitted_words(bench: Bench, trial: Trial, preset: Units | str) -> dict[str, str]:
    """What is fitted for each of the two settings, in words."""
    parts = _parts(bench, trial, preset)
    return {letter: ", ".join(f"{p[0]} {p[k]}" for p in parts) for letter, k in (("A", 1), ("B", 2))}


def change_words(bench: Bench, trial: Trial, preset: Units | str) -> str:
    """What a trial changes, in a line."""
    return ", ".join(f"{name} {before} → {after}" for name, before, after in _parts(bench, trial, preset))


class WatchForm(forms.Form):
    """A run timed with a watch."""

    botched = forms.BooleanField(label=gettext_lazy("Botched: it does not count"), required=False)

    def __init__(self, data: Any = None, *, preset: Units | str) -> None:
        super().__init__(data)
        self.fields = {
            "time_s": QuantityField(field_facts(CoreRun, "time_s"), preset, label=_("Time by the watch"))
        } | self.fields

    def document(self, trial: Trial) -> dict[str, Any]:
        """The run that is next in the order, as typed."""
        made = trial.runs.count()
        return {
            "place": next_place(trial) or 0, "ridden": made, "time_s": self.cleaned_data["time_s"],
            "botched": self.cleaned_data["botched"], "by_watch": True,
            "error_s": by_hand_error(watch=True),
        }  # fmt: skip


class ConditionsForm(forms.Form):
    """How it is now, of what is to be held."""

    def __init__(self, data: Any = None, *, preset: Units | str) -> None:
        super().__init__(data)
        labels = {
            "temperature_k": _("Air now"), "pressure_pa": _("Air pressure now"), "fuel_m3": _("Fuel aboard"),
            "tyre_pa": _("Rear tyre"),
        }  # fmt: skip
        self.fields = {
            name: QuantityField(field_facts(Conditions, name), preset, label=label, required=False)
            for name, label in labels.items()
        }

    def clean(self) -> dict[str, Any]:
        said = super().clean() or {}
        if not self.errors and all(v is None for v in said.values()):
            raise forms.ValidationError(_("Say one of them at least."))
        return said

    def document(self, trial: Trial) -> dict[str, Any]:
        """What is said, after so many laps."""
        return {"ridden": trial.runs.count()} | {k: v for k, v in self.cleaned_data.items() if v is not None}


def kept_words(run: TrialRun, preset: Units | str) -> str:
    """That a run is kept, with its time."""
    return _("Run %(n)s is kept: %(time)s") % {
        "n": run.document["place"] + 1, "time": value_text(run.document["time_s"], "lap_time", preset)
    }  # fmt: skip


def next_place(trial: Trial) -> int | None:
    """The first place of the order that has no run that counts; None when all have."""
    done = {r.document["place"] for r in trial.runs.all() if not r.document.get("botched")}
    return next((k for k in range(len(trial.document["order"])) if k not in done), None)


def run_page(
    bench: Bench, preset: Units | str, form: WatchForm | None = None, now: ConditionsForm | None = None
) -> dict[str, Any]:
    """What the phone shows, and keeps when the van does not answer. A blind trial tells nothing of its order."""
    trial = open_trial(bench)
    if trial is None:
        return {"trial": None}
    order, blind = trial.document["order"], bool(trial.document.get("blind"))
    words = fitted_words(bench, trial, preset)
    place, runs = next_place(trial), list(trial.runs.all())
    known = {
        "trial": str(trial.uid), "runs": len(order), "order": "" if blind else order,
        "done": sorted({r.document["place"] for r in runs if not r.document.get("botched")}), "ridden": len(runs),
    }  # fmt: skip
    return {
        "trial": trial,
        "known": json.dumps(known),
        "blind": blind,
        "fitted": words,
        "tiles": _tiles(order, runs, blind),
        "place": place,
        "aspects": [(a, _(ASPECT_WORDS[a])) for a in ASPECTS],
        "dots": range(1, 11),
        "fitted_now": "" if blind or place is None else f"{order[place]}, {words[order[place]]}",
        "watch": form or WatchForm(preset=preset),
        # the first alone: each lap is the next run, and its time is not told before it is called
        "waiting": [] if blind or place is None else services.waiting_laps(trial)[:1],
        "now": now or ConditionsForm(preset=preset),
        "noted": [
            [
                value_text(c[name], kind, preset)
                for name, kind in (
                    ("temperature_k", "temperature"),
                    ("pressure_pa", "pressure"),
                    ("fuel_m3", "volume"),
                    ("tyre_pa", "tyre_pressure"),
                )
                if name in c
            ]
            for c in trial.document.get("conditions", [])
        ],
    }


def _tiles(order: str, runs: list, blind: bool) -> list[dict[str, Any]]:
    done = {r.document["place"] for r in runs if not r.document.get("botched")}
    return [{"n": k + 1, "setting": "?" if blind else c, "done": k in done} for k, c in enumerate(order)]


def friend_page(bench: Bench, preset: Units | str) -> dict[str, Any]:
    """What a friend turns before the next run of a blind trial, and nothing of the runs after it."""
    trial = open_trial(bench)
    if trial is None or not trial.document.get("blind"):
        return {"trial": None}
    place, order = next_place(trial), trial.document["order"]
    now = None if place is None else order[place]
    before = "A" if not place else order[place - 1]
    return {
        "trial": trial, "place": place, "runs": len(order), "setting": now,
        "words": fitted_words(bench, trial, preset).get(now or "", ""), "stays": now == before,
    }  # fmt: skip
