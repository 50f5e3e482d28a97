"""A new bike from its kind: which there are, and the six facts that its owner knows."""

import re
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Bike, Payload, metering_of
from lynxwort.core.model.bike.patterns import CARRIED_AT, PATTERNS, completed, first_setup
from lynxwort.core.model.setup import Setup
from lynxwort.web.ui.forms import DocumentForm, QuantityField, refusal_words
from lynxwort.words.bike import HOW, KINDS
from lynxwort.words.formatting import number_text, unit_text

_PAIR = re.compile(r"^\s*(\d{1,2})\s*[tT]?\s*(?:/|:|-|x|×|,|\s)\s*(\d{1,2})\s*[tT]?\s*$")


def is_kind(kind: str, engine: str) -> bool:
    """Whether there is such a kind of bike with such an engine."""
    return kind in PATTERNS and engine in PATTERNS[kind].engines


def title(kind: str) -> str:
    """What a kind is called."""
    return _(KINDS[kind][0])


class PairField(forms.CharField):
    """Both sprockets as people write them: 13/50, 13 50, 13T-50T, cleaned to teeth in front and behind."""

    def clean(self, value: Any) -> tuple[int, int]:
        found = _PAIR.match(super().clean(value))
        if not found:
            raise forms.ValidationError(_("Two numbers, the front one first, like 13/50."))
        teeth = []
        for name, text in zip(("front_sprocket_teeth", "rear_sprocket_teeth"), found.groups(), strict=True):
            facts, number = field_facts(Setup, name), int(text)
            if facts.low is not None and number < facts.low:
                raise forms.ValidationError(_("The front one first: %(n)s is too small.") % {"n": number})
            if facts.high is not None and number > facts.high:
                raise forms.ValidationError(refusal_words("too_high", "metric", kind="count", high=facts.high))
            teeth.append(number)
        return teeth[0], teeth[1]


class FirstFacts(DocumentForm):
    """Six facts at most, and a name; the rest is as such a bike usually has it, and marked so."""

    def __init__(self, *args: Any, kind: str, engine: str, **kwargs: Any) -> None:
        self.kind, self.engine = kind, engine
        runs_on = {"electric": ("setup.pack_energy_j", Setup, gettext_lazy("Pack holds"))}.get(
            metering_of(engine), ("setup.tank_capacity_m3", Setup, gettext_lazy("Tank holds"))
        )
        jets = (("setup.main_jet", Setup, gettext_lazy("Main jet, number")),) if metering_of(engine) == "jetted" else ()
        self.spec = (
            ("bike.name", Bike, gettext_lazy("What you call the bike")),
            *jets,
            runs_on,
            ("setup.fork_spring_rate_n_per_m", Setup, gettext_lazy("Fork spring, each leg, if known")),
            ("setup.shock_spring_rate_n_per_m", Setup, gettext_lazy("Shock spring, if known")),
        )
        super().__init__(*args, **kwargs)
        usual = PATTERNS[kind].setup
        self.fields["bike.name"].required = False
        self.fields["bike.name"].help_text = _("Left blank: %(kind)s.") % {"kind": title(kind)}
        self.fields[runs_on[0]].required = True
        self._say(runs_on[0], _("such bikes hold %(usual)s") % {"usual": self._text(runs_on[0], usual)})
        if jets:
            self.fields["setup.main_jet"].required = True
        for path in ("setup.fork_spring_rate_n_per_m", "setup.shock_spring_rate_n_per_m"):
            self.fields[path].required = False
            self.fields[path].assumed = self._text(path, usual)  # type: ignore[attr-defined]
        self.fields["sprockets"] = PairField(
            label=_("Sprockets, front / rear"),
            max_length=20,
            help_text=_("Count the teeth, or read the stamp: 13/50."),
            widget=forms.TextInput(attrs={"autocomplete": "off"}),
        )
        self.fields["carried"] = QuantityField(
            field_facts(Payload, "mass_kg"),
            self.preset,
            label=_("It carries, if anything"),
            required=False,
            help_text=_(HOW["carried"]),
        )
        self.order_fields(["bike.name", "sprockets", *(j[0] for j in jets), runs_on[0]])

    def _text(self, path: str, usual: dict[str, Any]) -> str:
        kind = self.fields[path].facts.kind  # type: ignore[attr-defined]
        return f"{number_text(usual[path.removeprefix('setup.')], kind, self.preset)} {unit_text(kind, self.preset)}"

    def _say(self, path: str, words: str) -> None:
        field = self.fields[path]
        field.help_text = f"{field.help_text} {words[:1].upper()}{words[1:]}.".strip()

    def document(self) -> dict[str, Any]:
        """Bike and first setup, completed by the kind."""
        made = super().document()
        name = self.cleaned_data["bike.name"] or title(self.kind)
        bike = completed({"name": name, "engine": {"kind": self.engine}}, self.kind)
        if self.cleaned_data["carried"]:
            bike["frame"]["payload"] = [
                {"name": _("what it carries"), "mass_kg": self.cleaned_data["carried"], **CARRIED_AT}
            ]
        front, rear = self.cleaned_data["sprockets"]
        said = made.get("setup", {}) | {"front_sprocket_teeth": front, "rear_sprocket_teeth": rear}
        return {"bike": bike, "setup": first_setup(said, self.kind)}
