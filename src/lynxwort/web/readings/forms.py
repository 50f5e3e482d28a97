"""Readings as they are taken: a tape, a can, the jets that ran right."""

from dataclasses import dataclass
from typing import get_args

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import metering_of
from lynxwort.core.model.readings import (
    Air,
    ChargeReading,
    FillUpReading,
    FlowReading,
    GeometryOf,
    GeometryReading,
    HillReading,
    KnownGoodReading,
    RollOutReading,
    RpmSpeedReading,
    SagReading,
    SteadyReading,
    TiltReading,
    TopSpeedReading,
    Under,
    WeighingReading,
)  # fmt: skip
from lynxwort.core.model.setup import Setup
from lynxwort.core.units.convert import Units
from lynxwort.web.ui.forms import QuantityField, refusal_words
from lynxwort.words.catalogue import CLIMBS, GEOMETRY_STATES, TERMS

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


class _ReadingForm(forms.Form):
    kind = ""

    def __init__(self, *args, preset: Units | str, metering: str, places: Places, **kwargs):
        super().__init__(*args, auto_id=f"{self.kind}_%s", **kwargs)
        self.preset, self.metering, self.places = preset, metering, places
        self.build()

    def quantity(self, name: str, model, field: str, label, **kwargs) -> None:
        """Add one quantity of a core model."""
        self.fields[name] = QuantityField(field_facts(model, field), self.preset, label=label, **kwargs)

    def air_then(self) -> None:
        """Add the air it was taken in: what it says is reckoned in that air, in the race's where none is typed."""
        self.quantity("temperature_k", Air, "temperature_k", _("Temperature then"), required=False)
        self.quantity("pressure_pa", Air, "pressure_pa", _("Pressure at the place then"), required=False)

    def clean(self):
        cleaned = super().clean()
        for name, other in (("temperature_k", "pressure_pa"), ("pressure_pa", "temperature_k")):
            if cleaned.get(other) is not None and name in self.fields and cleaned.get(name) is None and name not in self.errors:
                self.add_error(name, refusal_words("missing", self.preset))
        return cleaned


class SagForm(_ReadingForm):
    """One sag."""

    kind = "sag"

    def build(self):
        self.fields["which"] = forms.ChoiceField(label=_("Sag"), choices=SAGS)
        self.quantity("value_m", SagReading, "value_m", _("Sank by"))
        self.quantity("fuel_aboard_m3", Under, "fuel_aboard_m3", _("Fuel aboard"), required=False)


class WeighingForm(_ReadingForm):
    """Each wheel on a scale."""

    kind = "weighing"

    def build(self):
        self.quantity("front_kg", WeighingReading, "front_kg", _("Front wheel"))
        self.quantity("rear_kg", WeighingReading, "rear_kg", _("Rear wheel"))
        self.quantity("fuel_aboard_m3", Under, "fuel_aboard_m3", _("Fuel aboard"), required=False)
        self.fields["rider_aboard"] = forms.BooleanField(label=_("Rider aboard, in position"), required=False)


class TiltForm(_ReadingForm):
    """One wheel's scale with the other raised."""

    kind = "tilt"

    def build(self):
        self.fields["raised"] = forms.ChoiceField(label=_("Raised"), choices=[("rear", _("rear axle")), ("front", _("front axle"))])
        self.quantity("raised_m", TiltReading, "raised_m", _("higher by"))
        self.quantity("load_kg", TiltReading, "load_kg", _("Scale under the other wheel"))
        self.quantity("fuel_aboard_m3", Under, "fuel_aboard_m3", _("Fuel aboard"), required=False)


class GeometryForm(_ReadingForm):
    """A measured length or angle."""

    kind = "geometry"

    def build(self):
        self.fields["of"] = forms.ChoiceField(label=_("Measured"), choices=[(k, _(TERMS[k])) for k in get_args(GeometryOf)])
        self.fields["state"] = forms.ChoiceField(label=_("The bike stood"), choices=[(k, _(v)) for k, v in GEOMETRY_STATES.items()])
        self.quantity("value_m", GeometryReading, "value_m", _("Length"), required=False)
        self.quantity("value_rad", GeometryReading, "value_rad", _("or angle"), required=False)
        self.quantity("fuel_aboard_m3", Under, "fuel_aboard_m3", _("Fuel aboard"), required=False)

    def clean(self):
        cleaned = super().clean()
        wanted = "value_rad" if cleaned.get("of") == "rake" else "value_m"
        if cleaned.get(wanted) is None and wanted not in self.errors:
            self.add_error(wanted, refusal_words("missing", self.preset))
        return cleaned


class SteadyForm(_ReadingForm):
    """A setup that ran straight."""

    kind = "steady"

    def build(self):
        self.quantity("speed_m_per_s", SteadyReading, "speed_m_per_s", _("Steady at"))


class FillUpForm(_ReadingForm):
    """One fill-up."""

    kind = "fill_up"

    def build(self):
        self.quantity("fuel_m3", FillUpReading, "fuel_m3", _("Fuel put back"))
        self.quantity("laps", FillUpReading, "laps", _("after laps"))
        self.air_then()


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


#: what may be said besides
ALSO = {"jetted": (("pilot_jet", _("Pilot jet")), ("screw_turns", _("Screw, turns out"))), "rod": (), "injected": (), "electric": ()}


class KnownGoodForm(_ReadingForm):
    """The setting that ran right, and the air of that day."""

    kind = "known_good"

    def build(self):
        for name, label in SETTINGS[self.metering]:
            self.quantity(name, Setup, name, label, required=True)
        for name, label in ALSO[self.metering]:
            self.quantity(name, Setup, name, label, required=False)
        self.quantity("temperature_k", Air, "temperature_k", _("Temperature"))
        self.quantity("pressure_pa", Air, "pressure_pa", _("Pressure at the place"))
        self.quantity("relative_humidity", Air, "relative_humidity", _("Humidity"), required=True)
        self.quantity("longest_full_throttle_s", KnownGoodReading, "longest_full_throttle_s", _("Longest held full open"), required=False)


class FlowForm(_ReadingForm):
    """What runs out of the hose."""

    kind = "flow"

    def build(self):
        self.quantity("volume_m3", FlowReading, "volume_m3", _("Ran out"))
        self.quantity("duration_s", FlowReading, "duration_s", _("in"))


class RollOutForm(_ReadingForm):
    """The rear wheel, rolled."""

    kind = "roll_out"

    def build(self):
        self.quantity("distance_m", RollOutReading, "distance_m", _("Rolled"))
        self.quantity("turns", RollOutReading, "turns", _("in turns"))


class RpmSpeedForm(_ReadingForm):
    """Revs and speed at the same moment."""

    kind = "rpm_speed"

    def build(self):
        self.quantity("rpm", RpmSpeedReading, "rpm", _("Engine speed"))
        self.quantity("speed_m_per_s", RpmSpeedReading, "speed_m_per_s", _("Road speed"))
        self.quantity("gear", RpmSpeedReading, "gear", _("in gear"))


class TopSpeedForm(_ReadingForm):
    """The highest speed seen."""

    kind = "top_speed"

    def build(self):
        self.quantity("speed_m_per_s", TopSpeedReading, "speed_m_per_s", _("Highest speed seen"))
        self.air_then()


class HillForm(_ReadingForm):
    """A climb that was tried."""

    kind = "hill"

    def build(self):
        self.fields["hill"] = forms.ChoiceField(label=_("Hill"), choices=self.places.hills)
        self.fields["outcome"] = forms.ChoiceField(label=_("How it went"), choices=[(k, _(v)) for k, v in CLIMBS.items()])
        self.quantity("entry_speed_m_per_s", HillReading, "entry_speed_m_per_s", _("Speed at its foot"), required=False)
        self.air_then()


class RiddenLapForm(_ReadingForm):
    """A lap really ridden, as the device recorded it."""

    kind = "ridden_lap"

    def build(self):
        self.fields["course"] = forms.ChoiceField(label=_("Course"), choices=self.places.courses)
        self.fields["file"] = forms.FileField(label=_("Recording, GPX with times"))


FORMS = {
    f.kind: f
    for f in (
        SagForm,
        WeighingForm,
        TiltForm,
        GeometryForm,
        SteadyForm,
        FillUpForm,
        ChargeForm,
        KnownGoodForm,
        FlowForm,
        RollOutForm,
        RpmSpeedForm,
        TopSpeedForm,
        HillForm,
        RiddenLapForm,
    )
}


def left_out(kind: str, places: Places) -> set[str]:
    """Readings that make no sense on a kind of engine or in a race without critical hills."""
    out = {"fill_up", "known_good", "rpm_speed", "flow"} if metering_of(kind) == "electric" else {"charge"}
    return out if places.hills else out | {"hill"}


def forms_for(kind: str, preset: Units | str, places: Places) -> dict[str, _ReadingForm]:
    """The readings that make sense on a kind of engine and in a race."""
    out = left_out(kind, places)
    return {k: form(preset=preset, metering=metering_of(kind), places=places) for k, form in FORMS.items() if k not in out}
