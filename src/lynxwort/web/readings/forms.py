"""Readings as they are taken: a tape, a can, the jets that ran right. What is asked stands at the reading's class, the
labels in the words.
"""

from dataclasses import dataclass
from typing import Any

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import metering_of
from lynxwort.core.model.readings import AIR, FUEL, KINDS, Air, Under
from lynxwort.core.model.setup import Setup
from lynxwort.core.units.convert import Units
from lynxwort.web.ui.forms import QuantityField, refusal_words
from lynxwort.words.readings import ASKED, CHOICES, UNSAID_AT_TIMES, setting_of

SAGS = [
    ("rear_free", _("rear, bike alone")),
    ("rear_race", _("rear, rider aboard")),
    ("front_free", _("front, bike alone")),
    ("front_race", _("front, rider aboard")),
]


@dataclass(frozen=True)
class Places:
    """Of a race: its courses (key, name) and its critical hills ("key:metres", words)."""

    courses: list[tuple[str, str]]
    hills: list[tuple[str, str]]


class ReadingForm(forms.Form):
    """One reading of a kind: what its class asks, then the conditions that it asks."""

    def __init__(
        self, *args: Any, kind: str, preset: Units | str, metering: str, places: Places, **kwargs: Any
    ) -> None:
        super().__init__(*args, auto_id=f"{kind}_%s", **kwargs)  # type: ignore[misc]
        self.kind, self.preset, self.metering, self.places = kind, preset, metering, places
        self.add_fields()

    def quantity(self, name: str, model: Any, label: Any, **kwargs: Any) -> None:
        """Add one quantity of a core model."""
        self.fields[name] = QuantityField(field_facts(model, name), self.preset, label=label, **kwargs)

    def add_fields(self) -> None:
        """Add the fields."""
        reading = KINDS[self.kind]
        for name in reading.asked:
            self.ask(name, reading)
        if FUEL in reading.also:
            self.quantity(FUEL, Under, _("Fuel aboard"), required=False)
        if AIR in reading.also:
            # what it says is reckoned in that air, in the race's where none is typed
            self.quantity("temperature_k", Air, _("Temperature then"), required=False)
            self.quantity("pressure_pa", Air, _("Pressure at the place then"), required=False)

    def ask(self, name: str, reading: Any) -> None:
        """Add one field of the reading."""
        facts, label = field_facts(reading, name), _(ASKED[self.kind][name])
        if (self.kind, name) in CHOICES:
            self.fields[name] = forms.ChoiceField(
                label=label, choices=[(k, _(v)) for k, v in CHOICES[self.kind, name].items()]
            )
        elif facts.annotation is bool:
            self.fields[name] = forms.BooleanField(label=label, required=False)
        else:
            self.quantity(name, reading, label)

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        for name, other in (("temperature_k", "pressure_pa"), ("pressure_pa", "temperature_k")):
            if (
                cleaned.get(other) is not None
                and name in self.fields
                and cleaned.get(name) is None
                and name not in self.errors
            ):
                self.add_error(name, refusal_words("missing", self.preset))
        return cleaned


class SagForm(ReadingForm):
    """One sag: end and state are said in one."""

    def ask(self, name: str, reading: Any) -> None:
        if name == "end":
            self.fields["which"] = forms.ChoiceField(label=_("Sag"), choices=SAGS)
        elif name != "state":
            super().ask(name, reading)


class GeometryForm(ReadingForm):
    """A measured length or angle."""

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean()
        wanted = "value_rad" if cleaned.get("of") == "rake" else "value_m"
        if cleaned.get(wanted) is None and wanted not in self.errors:
            self.add_error(wanted, refusal_words("missing", self.preset))
        return cleaned


class KnownGoodForm(ReadingForm):
    """The setting that ran right, and the air of that day: it must be known."""

    def add_fields(self) -> None:
        for name in setting_of(self.metering):
            self.quantity(name, Setup, _(ASKED[self.kind][name]), required=name not in UNSAID_AT_TIMES)
        self.quantity("temperature_k", Air, _("Temperature"))
        self.quantity("pressure_pa", Air, _("Pressure at the place"))
        self.quantity("relative_humidity", Air, _("Humidity"), required=True)
        for name in KINDS[self.kind].asked:
            self.ask(name, KINDS[self.kind])


class HillForm(ReadingForm):
    """A climb that was tried: one of the race's."""

    def ask(self, name: str, reading: Any) -> None:
        if name == "at_m":
            self.fields["hill"] = forms.ChoiceField(label=_(ASKED["hill"]["at_m"]), choices=self.places.hills)
        else:
            super().ask(name, reading)


class RiddenLapForm(ReadingForm):
    """A lap really ridden, as the device recorded it."""

    def ask(self, name: str, reading: Any) -> None:
        self.fields["course"] = forms.ChoiceField(label=_("Course"), choices=self.places.courses)
        self.fields["file"] = forms.FileField(label=_(ASKED["ridden_lap"][name]))


#: kinds whose form differs from what the class says
_OWN = {
    "sag": SagForm,
    "geometry": GeometryForm,
    "known_good": KnownGoodForm,
    "hill": HillForm,
    "ridden_lap": RiddenLapForm,
}


def form_of(kind: str, *args: Any, engine: str, preset: Units | str, places: Places) -> ReadingForm:
    """The form of a kind of reading. engine: kind of the bike's engine."""
    return _OWN.get(kind, ReadingForm)(*args, kind=kind, preset=preset, metering=metering_of(engine), places=places)


def kinds_for(engine: str, places: Places) -> list[str]:
    """Readings with a form that make sense on a kind of engine and in a race: with critical hills, or without."""
    return [
        k for k, c in KINDS.items() if c.asked and metering_of(engine) in c.engines and (k != "hill" or places.hills)
    ]


def forms_for(engine: str, preset: Units | str, places: Places) -> dict[str, ReadingForm]:
    """Their forms."""
    return {k: form_of(k, engine=engine, preset=preset, places=places) for k in kinds_for(engine, places)}
