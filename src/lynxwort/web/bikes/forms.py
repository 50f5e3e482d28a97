"""A bike in three pages of at most 14 facts, and all its facts on one. What is asked follows the kind of engine."""

from django import forms
from django.utils.text import format_lazy
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.bike import (
    ENGINE_OF,
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
)  # fmt: skip
from lynxwort.core.model.setup import Setup
from lynxwort.web.ui.forms import DocumentForm
from lynxwort.words.catalogue import ENGINES

KINDS = [(k, _(v)) for k, v in ENGINES.items()]
CHOICES = {
    "jet_numbering": [("diameter", _("hole diameter, 1/100 mm")), ("flow", _("flow"))],
    "sensors": [("throttle_rpm", _("throttle and revs only")), ("air_temperature", _("also air temperature")),
                ("pressure_temperature", _("also pressure and temperature")), ("closed_loop", _("also the mixture, at part throttle"))],
}  # fmt: skip
DEFAULT_KIND = "jetted_two_stroke"
Spec = tuple[tuple[str, type, object], ...]


class BikePage(DocumentForm):
    """Page 1: what it is."""

    def __init__(self, *args, kind: str = DEFAULT_KIND, **kwargs):
        self.spec = (("bike.name", Bike, _("What you call the bike")), ("bike.frame.mass_dry_kg", Frame, _("Weight without fuel")))
        super().__init__(*args, **kwargs)
        self.fields["bike.engine.kind"] = forms.ChoiceField(label=_("Engine"), choices=KINDS)
        self.order_fields(["bike.name", "bike.engine.kind"])

    def document(self):
        made = super().document()
        made["bike"]["engine"] = {"kind": self.cleaned_data["bike.engine.kind"]}
        return made


class EnginePage(DocumentForm):
    """Page 2: engine and gears."""

    def __init__(self, *args, kind: str = DEFAULT_KIND, **kwargs):
        engine = ENGINE_OF[kind]
        sprockets = (
            ("setup.front_sprocket_teeth", Setup, _("Front sprocket, teeth")),
            ("setup.rear_sprocket_teeth", Setup, _("Rear sprocket, teeth")),
        )
        if kind == "electric":
            self.spec = (
                ("bike.engine.peak_power_w", engine, _("Highest power")), ("bike.engine.peak_torque_nm", engine, _("Highest torque")),
                ("bike.engine.limiter_rpm", engine, _("Highest motor speed")),
                ("bike.transmission.primary_ratio", Transmission, _("Reduction before the front sprocket")), *sprockets,
            )  # fmt: skip
        else:
            self.spec = (
                ("bike.engine.displacement_m3", engine, _("Engine size")), ("bike.engine.peak_power_w", engine, _("Highest power")),
                ("bike.engine.peak_power_rpm", engine, _("at engine speed")),
                ("bike.transmission.primary_ratio", Transmission, _("Primary ratio")),
                ("bike.transmission.gear_ratios", Transmission, _("Gear ratios, first to top")), *sprockets,
            )  # fmt: skip
        self.one_gear = kind == "electric"
        super().__init__(*args, **kwargs)

    def document(self):
        made = super().document()
        if self.one_gear:
            made["bike"]["transmission"]["gear_ratios"] = [1.0]
        return made


class SpringsPage(DocumentForm):
    """Page 3: springs, and what it runs on."""

    def __init__(self, *args, kind: str = DEFAULT_KIND, **kwargs):
        springs = (
            ("setup.fork_spring_rate_n_per_m", Setup, _("Fork spring, each leg")),
            ("setup.shock_spring_rate_n_per_m", Setup, _("Shock spring")),
        )
        tank = (("setup.tank_capacity_m3", Setup, _("Tank holds")),)
        own = {
            "jetted": (("setup.main_jet", Setup, _("Main jet, number")), *tank),
            "rod": tank,
            "injected": (("bike.engine.injection.sensors", Injection, _("The injection senses")), *tank),
            "electric": (("setup.pack_energy_j", Setup, _("Pack holds")),),
        }[metering_of(kind)]
        self.spec = (*springs, *own)
        self.choice_labels = CHOICES
        super().__init__(*args, **kwargs)
        for name in ("setup.main_jet", "setup.tank_capacity_m3", "setup.pack_energy_j"):
            if name in self.fields:
                self.fields[name].required = True


PAGES = (BikePage, EnginePage, SpringsPage)
PAGE_TITLES = (_("The bike"), _("Engine and gears"), _("Springs, and what it runs on"))

_FRAME_LABELS = {
    "mass_dry_kg": _("Weight without fuel"), "front_share": _("Share on the front wheel"), "wheelbase_m": _("Wheelbase"),
    "cg_height_m": _("Height of centre of gravity"), "rake_rad": _("Rake"), "drag_area_m2": _("Drag area, m²"),
    "unsprung_front_kg": _("Unsprung, front"), "unsprung_rear_kg": _("Unsprung, rear"), "fork_travel_m": _("Fork travel"),
    "fork_air_diameter_m": _("Fork air column, diameter"), "fork_air_gap_m": _("Fork air left at full travel"), "fork_friction_n": _("Fork friction"),
    "rear_travel_m": _("Rear travel"), "link_ratio_start": _("Wheel / shock ratio, topped out"),
    "link_ratio_end": _("Wheel / shock ratio, full travel"), "shock_friction_n": _("Shock friction"),
    "swingarm_length_m": _("Swingarm, pivot to axle"), "sprocket_ahead_m": _("Front sprocket ahead of the pivot"),
    "sprocket_above_m": _("Front sprocket above the pivot"),
    "axle_below_pivot_m": _("Axle below the pivot, topped out"), "adjuster_half_range_m": _("Axle adjusters, each way"),
    "case_gap_m": _("Front sprocket's centre to the case"),
    "chain_play_m": _("Chain play where it is tightest"), "chain_links": _("Links of the chain"),
    "fuel_front_share": _("Share of fuel on the front wheel"), "unusable_fuel_m3": _("Fuel that stays in the tank"),
}  # fmt: skip
_BURNS_ONLY = ("fuel_front_share", "unusable_fuel_m3")
_NEEDLE_LABELS = {
    "jet_bore_m": _("Needle jet, bore"), "straight_diameter_m": _("Needle, straight part"), "taper_start_lift_m": _("Lift where the taper begins"),
    "taper_half_angle_rad": _("Taper, half angle"), "clip_pitch_m": _("Between clip grooves"),
}  # fmt: skip
_COMBUSTION_LABELS = {
    "displacement_m3": _("Engine size"), "peak_power_w": _("Highest power"), "peak_power_rpm": _("at engine speed"), "limiter_rpm": _("Rev limit"),
    "idle_rpm": _("Idle"), "engagement_rpm": _("Pulls from"), "shake_rpm": _("Shakes from"),
}  # fmt: skip
_ELECTRIC_LABELS = {
    "peak_power_w": _("Highest power"), "peak_torque_nm": _("Highest torque"), "limiter_rpm": _("Highest motor speed"),
    "nominal_voltage_v": _("Nominal voltage"), "mode_power_shares": _("Power modes, % of the highest"), "usable_share": _("Usable share of the pack"),
    "regeneration_share": _("Braking that returns to the pack"), "weighed_pack_j": _("Pack it was weighed with"),
}  # fmt: skip


def _engine_spec(kind: str) -> Spec:
    """The engine's facts by its kind."""
    engine = ENGINE_OF[kind]
    if engine is Electric:
        return tuple((f"bike.engine.{k}", engine, v) for k, v in _ELECTRIC_LABELS.items())
    burns = tuple((f"bike.engine.{k}", engine, v) for k, v in _COMBUSTION_LABELS.items())
    place = "bike.engine.carburettor."
    return burns + {
        "jetted": (
            (f"{place}jet_numbering", Carburettor, _("Main jets are numbered by")), (f"{place}full_lift_m", Carburettor, _("Slide lift at full throttle")),
            (f"{place}clip_positions", Carburettor, _("Clip grooves")), *((f"{place}needle.{k}", Needle, v) for k, v in _NEEDLE_LABELS.items()),
        ),
        "rod": (
            (f"{place}knob_click", MeteringRodCarburettor, _("One click of the knob")), (f"{place}rod_step", MeteringRodCarburettor, _("One size of rod")),
            (f"{place}compensation", MeteringRodCarburettor, _("Evens out of the air's change")),
            (f"{place}compensated_change", MeteringRodCarburettor, _("up to a change of density of")),
        ),
        "injected": (
            ("bike.engine.injection.sensors", Injection, _("The injection senses")),
            ("bike.engine.injection.map_shifts", Injection, _("Maps, % richer than the first")),
        ),
    }[metering_of(kind)]  # fmt: skip


class FactsPage(DocumentForm):
    """Everything the bike is, given or assumed. The kind of engine stays: another engine is another bike."""

    choice_labels = CHOICES

    def __init__(self, *args, kind: str, **kwargs):
        self.kind = kind
        gears = () if kind == "electric" else (("bike.transmission.gear_ratios", Transmission, _("Gear ratios, first to top")),)
        frame = {k: v for k, v in _FRAME_LABELS.items() if kind != "electric" or k not in _BURNS_ONLY}
        self.spec = (
            ("bike.name", Bike, _("What you call the bike")),
            *_engine_spec(kind),
            ("bike.transmission.primary_ratio", Transmission, _("Primary ratio")),
            *gears,
            ("bike.transmission.efficiency", Transmission, _("Power that reaches the wheel")),
            ("bike.tyre.marking", Tyre, _("Rear tyre marking")),
            ("bike.tyre.rolling_radius_m", Tyre, _("Rolling radius, measured")),
            *((f"bike.frame.{k}", Frame, v) for k, v in frame.items()),
        )
        super().__init__(*args, **kwargs)

    def document(self):
        made = super().document()
        made["bike"]["engine"]["kind"] = self.kind
        if self.kind == "electric":
            made["bike"]["transmission"]["gear_ratios"] = [1.0]
        return made

    def grouped(self):
        """Sections with their fields, for the page."""
        sections = (
            (format_lazy("{}: {}", _("Engine"), _(ENGINES[self.kind])), "bike.engine.", "bike.name"), (_("Gears and tyre"), "bike.transmission.", "bike.tyre."),
            (_("Weights, frame and suspension"), "bike.frame.", "bike.frame."),
        )  # fmt: skip
        return [(title, [self[n] for n in self.fields if n.startswith((a, b))]) for title, a, b in sections]


class CopyForm(forms.Form):
    """To which other bike a kept setup is copied."""

    def __init__(self, *args, setups, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["setup"] = forms.ChoiceField(label=_("Copy to"), choices=[(s.pk, s.title) for s in setups])


class NameForm(forms.Form):
    """A name, for a kept setup or a branch."""

    name = forms.CharField(label=_("Name"), max_length=60, required=False)
