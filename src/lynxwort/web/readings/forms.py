"""Readings as they are taken: a tape, a can, the jets that ran right."""

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import metering_of
from lynxwort.core.model.readings import Air, ChargeReading, FillUpReading, SagReading, Under
from lynxwort.core.model.setup import Setup
from lynxwort.core.units.convert import Units
from lynxwort.web.ui.forms import QuantityField

SAGS = [
    ("rear_free", _("rear, bike alone")),
    ("rear_race", _("rear, rider aboard")),
    ("front_free", _("front, bike alone")),
    ("front_race", _("front, rider aboard")),
]


class _ReadingForm(forms.Form):
    kind = ""

    def __init__(self, *args, preset: Units | str, metering: str, **kwargs):
        super().__init__(*args, auto_id=f"{self.kind}_%s", **kwargs)
        self.preset, self.metering = preset, metering
        self.build()

    def quantity(self, name: str, model, field: str, label, **kwargs) -> None:
        """Add one quantity of a core model."""
        self.fields[name] = QuantityField(field_facts(model, field), self.preset, label=label, **kwargs)


class SagForm(_ReadingForm):
    """One sag."""

    kind = "sag"

    def build(self):
        self.fields["which"] = forms.ChoiceField(label=_("Sag"), choices=SAGS)
        self.quantity("value_m", SagReading, "value_m", _("Sank by"))
        self.quantity("fuel_aboard_m3", Under, "fuel_aboard_m3", _("Fuel aboard"), required=False)


class FillUpForm(_ReadingForm):
    """One fill-up."""

    kind = "fill_up"

    def build(self):
        self.quantity("fuel_m3", FillUpReading, "fuel_m3", _("Fuel put back"))
        self.quantity("laps", FillUpReading, "laps", _("after laps"))


class ChargeForm(_ReadingForm):
    """One charge."""

    kind = "charge"

    def build(self):
        self.quantity("energy_j", ChargeReading, "energy_j", _("Charged back"))
        self.quantity("laps", ChargeReading, "laps", _("after laps"))


#: what a proven setting consists of, by how the engine is fed
SETTINGS = {
    "jetted": (("main_jet", _("Main jet")), ("needle_clip", _("Needle clip from the top"))),
    "rod": (("metering_rod", _("Metering rod, sizes richer than standard")), ("knob_clicks", _("Knob, clicks richer than base"))),
    "injected": (("map_slot", _("Fuel map")), ("fuel_trim", _("Map trim"))),
    "electric": (),
}


class KnownGoodForm(_ReadingForm):
    """The setting that ran right, and the air of that day."""

    kind = "known_good"

    def build(self):
        for name, label in SETTINGS[self.metering]:
            self.quantity(name, Setup, name, label, required=True)
        self.quantity("temperature_k", Air, "temperature_k", _("Temperature"))
        self.quantity("pressure_pa", Air, "pressure_pa", _("Pressure at the place"))
        self.quantity("relative_humidity", Air, "relative_humidity", _("Humidity"), required=True)


FORMS = {f.kind: f for f in (SagForm, FillUpForm, ChargeForm, KnownGoodForm)}


def forms_for(kind: str, preset: Units | str) -> dict[str, _ReadingForm]:
    """The readings that make sense on a kind of engine."""
    metering = metering_of(kind)
    left_out = ("fill_up", "known_good") if metering == "electric" else ("charge",)
    return {k: form(preset=preset, metering=metering) for k, form in FORMS.items() if k not in left_out}
