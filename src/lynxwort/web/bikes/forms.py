"""All facts of a bike on one page, folded by their place on it. What is asked follows the kind of engine."""

from copy import deepcopy
from typing import Any

from django import forms
from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.bike import (
    ENGINE_OF,
    SPEED_SYMBOLS,
    Bike,
    Carburettor,
    Electric,
    Frame,
    Injection,
    MeteringRodCarburettor,
    Needle,
    Transmission,
    Tyre,
    metering_of,
)
from lynxwort.core.model.bike.patterns import PATTERNS, completed, plant
from lynxwort.core.model.damper import PLACES as VALVES
from lynxwort.core.model.damper import STOCK_FACTS, DamperFacts, ValveSeat
from lynxwort.core.physics.drive.gearing import SPEED_OF_SYMBOL
from lynxwort.web.bikes.lists import LISTS
from lynxwort.web.bikes.places import by_place
from lynxwort.web.ui.forms import DocumentForm, dig
from lynxwort.words import bike
from lynxwort.words.catalogue import TUNABLE_NAMES
from lynxwort.words.choices import CLUTCHES, FORK_DAMPINGS, FORK_SPRINGINGS, FORK_SPRINGS, RATE_KINDS, TYRE_FILLINGS
from lynxwort.words.formatting import number_text
from lynxwort.words.fuelling import LUBRICATIONS, POWER_VALVES, PUMPS, SCREWS

CHOICES = {
    "jet_numbering": [("diameter", _("hole diameter, 1/100 mm")), ("flow", _("flow"))],
    "sensors": [
        ("", _("not said")),
        ("throttle_rpm", _("throttle and revs only")),
        ("air_temperature", _("also air temperature")),
        ("pressure_temperature", _("also pressure and temperature")),
        ("closed_loop", _("also the mixture, at part throttle")),
    ],
}
CHOICES |= {
    "screw": [(k, _(v)) for k, v in SCREWS.items()],
    "pump": [(k, _(v)) for k, v in PUMPS.items()],
    "power_valve": [(k, _(v)) for k, v in POWER_VALVES.items()],
    "lubrication": [("", _("not said")), *((k, _(v)) for k, v in LUBRICATIONS.items())],
    "clutch": [(k, _(v)) for k, v in CLUTCHES.items()],
    "inside": [(k, _(v)) for k, v in TYRE_FILLINGS.items()],
    "fork_springing": [(k, _(v)) for k, v in FORK_SPRINGINGS.items()],
    "fork_springs": [(k, _(v)) for k, v in FORK_SPRINGS.items()],
    "fork_damping": [(k, _(v)) for k, v in FORK_DAMPINGS.items()],
    **{key: [(k, _(v)) for k, v in RATE_KINDS.items()] for key in ("fork_rate_is", "shock_rate_is")},
    "speed_symbol": [("", _("not read yet")), *((s, f"{s}: {SPEED_OF_SYMBOL[s]} km/h") for s in SPEED_SYMBOLS)],  # type: ignore[list-item]
}
Spec = tuple[tuple[str, type, object], ...]


_BURNS_ONLY = ("fuel_front_share", "unusable_fuel_m3")
DAMPERS = ("fork_damper", "shock_damper")
#: facts that have pages of their own
ELSEWHERE = (*DAMPERS, "kit")
_STOCK = {f"{end}_damper": facts.model_dump(mode="json") for end, facts in STOCK_FACTS.items()}
#: a fork has no high-speed adjuster here
_NOT_THERE = ("fork_damper.high_speed_turns", "fork_damper.pa_per_turn")


def facts_of(path: str, model: type, words: dict[str, str]) -> Spec:
    """The facts of one part of a bike, as a form asks them."""
    return tuple((f"{path}.{name}", model, _(label)) for name, label in words.items())


def _engine_spec(kind: str) -> Spec:
    """The engine's facts by its kind."""
    engine, place = ENGINE_OF[kind], "bike.engine.carburettor"
    if engine is Electric:
        return facts_of("bike.engine", engine, bike.ELECTRIC)
    burns = facts_of("bike.engine", engine, bike.COMBUSTION | (bike.TWO_STROKE if kind.endswith("two_stroke") else {}))
    fed = metering_of(kind)
    if fed == "jetted":
        return burns + facts_of(place, Carburettor, bike.CARBURETTOR) + facts_of(f"{place}.needle", Needle, bike.NEEDLE)
    if fed == "rod":
        return burns + facts_of(place, MeteringRodCarburettor, bike.ROD_CARBURETTOR)
    return burns + facts_of("bike.engine.injection", Injection, bike.INJECTION)


class FactsPage(DocumentForm):
    """Everything the bike is, given or assumed. The kind of engine stays: another engine is another bike."""

    choice_labels = CHOICES

    def __init__(self, *args: Any, kind: str, row: Any = None, **kwargs: Any) -> None:
        self.kind, self.row = kind, row
        electric = kind == "electric"
        frame = {k: v for k, v in bike.FRAME.items() if not electric or k not in _BURNS_ONLY}
        transmission = {k: v for k, v in bike.TRANSMISSION.items() if not electric or k != "gear_ratios"}
        self.spec = (
            ("bike.name", Bike, _("What you call the bike")),
            *_engine_spec(kind),
            *facts_of("bike.transmission", Transmission, transmission),
            *facts_of("bike.tyre", Tyre, bike.TYRE),
            *facts_of("bike.frame", Frame, frame),
        )
        super().__init__(*args, **kwargs)
        self.of_kind(self.current.get("bike", {}))
        made = {path: make() for path, make in LISTS.items()}
        fed = metering_of(self.kind)
        self.lists = [
            path for path, field in made.items() if field.fed in ("", fed) and (fed != "electric" or not field.burns)
        ]
        for path in self.lists:
            self.fields[path] = made[path]
            self.initial[path] = self.fields[path].known = dig(self.current, path) or []  # type: ignore[attr-defined]
        for path, choice in self.fields.items():
            if path.startswith(("bike.frame.", "bike.engine.")) and isinstance(choice, forms.ChoiceField):
                choice.required = False
        # dampers and kit have pages of their own
        self.shown = {k: v for k, v in self.current.get("bike", {}).items() if k not in ELSEWHERE}

    def of_kind(self, known: dict[str, Any]) -> None:
        """What such a bike usually has, where nobody said it of this one: shown as assumed, and not asked for."""
        self.pattern = known.get("pattern") or ""
        if not self.pattern:
            return
        usual = gettext("%(value)s, as such a bike usually has it")
        for within, value in PATTERNS[self.pattern].facts.items():
            field = self.fields.get(path := f"bike.{within}")
            if field is None:
                continue
            field.required = False
            told = field.prepare_value(value)
            unit = getattr(field, "unit", "")
            field.assumed = usual % {"value": f"{told} {unit}".strip()}  # type: ignore[attr-defined]
            if within in known["assumed"]:
                self.initial.pop(path, None)

    def document(self) -> dict[str, Any]:
        made = super().document()
        if self.kind == "electric":
            made["bike"].setdefault("transmission", {})["gear_ratios"] = [1.0]
        for path in self.lists:
            if self.cleaned_data.get(path):
                plant(made, path, self.cleaned_data[path])
        made["bike"].setdefault("engine", {})["kind"] = self.kind
        made["bike"] = completed(made["bike"], self.pattern)
        made["bike"] |= {k: v for k, v in self.current.get("bike", {}).items() if k in ELSEWHERE}
        return made

    def grouped(self) -> list[Any]:
        """Places of the bike with their facts: name, title, fields."""
        found = by_place(self.fields, self.kind)
        return [(name, title, [self[n] for n in names]) for name, title, names in found]


def bike_facts(kind: str) -> dict[str, tuple[str, str]]:
    """Every fact of a bike with this kind of engine: path -> label and how it is found."""
    form = FactsPage(preset="metric", kind=kind)
    return {path: (str(field.label), str(field.help_text)) for path, field in form.fields.items()}


class DampersPage(DocumentForm):
    """The insides of fork and shock; what is blank is as stock, which is from memory."""

    def __init__(self, *args: Any, row: Any = None, **kwargs: Any) -> None:
        self.row = row
        spec = [fact for end in ("fork", "shock") for fact in facts_of(f"{end}_damper", DamperFacts, bike.DAMPER)]
        spec += [
            fact
            for end in ("fork", "shock")
            for place in VALVES
            for fact in facts_of(f"{end}_damper.{place}", ValveSeat, bike.SEAT)
        ]
        self.spec = tuple(fact for fact in spec if fact[0] not in _NOT_THERE)
        super().__init__(*args, **kwargs)
        for path, field in self.fields.items():
            stock = dig(_STOCK, path)
            field.required = False
            field.assumed = (  # type: ignore[attr-defined]
                f"{number_text(stock, field.facts.kind, self.preset)} {field.unit}".strip() if stock is not None else ""  # type: ignore[attr-defined]
            )
            if self.initial.get(path) == stock:
                self.initial.pop(path, None)

    def document(self) -> dict[str, Any]:
        """Both dampers whole, stock where nothing was said; a damper that is all stock is left out."""
        made, given = {}, super().document()
        for key in DAMPERS:
            known = dig(self.current, key) or _STOCK[key]
            whole = deepcopy(_STOCK[key]) | {k: known[k] for k in ("footprint",) if k in known}
            for place, facts in given.get(key, {}).items():
                if isinstance(facts, dict):
                    whole[place] |= facts
                else:
                    whole[place] = facts
            if whole != _STOCK[key]:
                made[key] = whole
        return made

    def grouped(self) -> list[Any]:
        """Sections with their fields, for the page."""
        sections = []
        for end, title in (("fork", _("Fork, each leg")), ("shock", _("Shock"))):
            own = [self[n] for n in self.fields if n.startswith(f"{end}_damper.") and n.count(".") == 1]
            seats = [
                (
                    f"{end}-{p}",
                    _(TUNABLE_NAMES[f"{end}_{p}_stack"]),
                    [self[n] for n in self.fields if n.startswith(f"{end}_damper.{p}.")],
                )
                for p in VALVES
            ]
            sections += [(end, title, own), *seats]
        return sections


class NameForm(forms.Form):
    """A name, for a kept setup or a branch."""

    name = forms.CharField(label=_("Name"), max_length=60, required=False)
