"""The diagnosis: what a symptom may come from, in words, and what each richer change does to the curve."""

import json
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.asks.richer import richer_step
from lynxwort.core.model.readings import FeelReading
from lynxwort.core.physics.fuelling.diagnosis import Suspect, side_of, suspects
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_text
from lynxwort.web.ui.drawings import fuel
from lynxwort.words.catalogue import TUNABLE_NAMES
from lynxwort.words.diagnosis import BEFORE_ANY_JET, CAUSES, HOT, LOADS, PLUGS, ZONES
from lynxwort.words.fuelling import TERMS

SYMPTOMS = FeelReading.model_fields["symptom"].annotation.__args__  # type: ignore[union-attr]
#: what is answered before anything is chosen
FIRST = {"symptom": SYMPTOMS[0], "zone": "quarter"}
#: causes shown
MOST = 6


class FeelForm(forms.Form):
    """What was felt, where, when, and the plug."""

    symptom = forms.ChoiceField(
        label=gettext_lazy("What it does"), choices=[(s, gettext_lazy(TERMS[s])) for s in SYMPTOMS]
    )
    zone = forms.ChoiceField(
        label=gettext_lazy("Throttle"), choices=[(k, gettext_lazy(v)) for k, v in ZONES.items()], initial="quarter"
    )
    engine = forms.ChoiceField(
        label=gettext_lazy("Engine"), choices=[(k, gettext_lazy(v)) for k, v in HOT.items()], required=False
    )
    load = forms.ChoiceField(
        label=gettext_lazy("Load"), choices=[(k, gettext_lazy(v)) for k, v in LOADS.items()], required=False
    )
    plug = forms.ChoiceField(
        label=gettext_lazy("Plug after a chop there"),
        choices=[(k, gettext_lazy(v)) for k, v in PLUGS.items()],
        required=False,
    )

    def said(self) -> dict[str, str]:
        """What was said; what was left out is the first choice."""
        typed = self.cleaned_data
        return {
            k: typed[k] or {"engine": "any", "load": "any", "plug": "unseen"}.get(k, "")
            for k in ("symptom", "zone", "engine", "load", "plug")
        }


def _richer(bench: Bench, suspect: Suspect, units: Any) -> dict[str, Any] | None:
    """The richer step that a cause asks for, in words."""
    step = bench.report.ask(richer_step, suspect.cause)
    if step is None:
        return None
    tunable, value = step.move.tunable, step.move.value
    return {
        "moves": json.dumps([[tunable, value]]),
        "label": f"{_(TUNABLE_NAMES[tunable]).lower()} {tunable_text(bench.inputs.bike, tunable, value, units)}",
        "owned": step.move.owned,
        "effect": step.effect,
    }


def grip(said: dict[str, str], at: str) -> SafeString:
    """The throttle with its zones, each leading to the same question there. at: the room's address."""
    zones = [
        (_(name), f"{at}?{urlencode(said | {'zone': code})}", code == said["zone"]) for code, name in ZONES.items()
    ]
    return fuel.throttle(zones, label=_("Where on the throttle it does it"))


def ranked(bench: Bench, said: dict[str, str], units: Any) -> dict[str, Any]:
    """Causes in words, most likely first, with their side and the richer step where there is one."""
    bike = bench.inputs.bike
    found = suspects(metering=bike.metering, two_stroke=bike.is_two_stroke, **said)
    rows = [
        {
            "name": _(CAUSES[s.cause.code][0]),
            "check": _(CAUSES[s.cause.code][1]),
            "share": s.share,
            "richer": _richer(bench, s, units),
        }
        for s in found[:MOST]
    ]
    return {"causes": rows, "side": side_of(found), "before": [_(v) for v in BEFORE_ANY_JET.values()]}
