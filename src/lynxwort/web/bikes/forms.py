"""A bike in three pages of at most 14 facts, and all its facts on one."""

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.bike import Bike, Carburettor, Frame, Needle, Transmission, TwoStrokeJetted, Tyre
from lynxwort.core.model.setup import Setup
from lynxwort.web.ui.forms import DocumentForm

KINDS = [("jetted_two_stroke", _("Two-stroke, carburettor")), ("jetted_four_stroke", _("Four-stroke, carburettor"))]
NUMBERINGS = [("diameter", _("hole diameter, 1/100 mm")), ("flow", _("flow"))]


class _KindMixin(DocumentForm):
    choice_labels = {"jet_numbering": NUMBERINGS}

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["bike.engine.kind"] = forms.ChoiceField(label=_("Engine"), choices=KINDS, initial=self.initial.get("bike.engine.kind"))
        self.order_fields(["bike.name", "bike.engine.kind"])

    def document(self):
        made = super().document()
        made["bike"]["engine"]["kind"] = self.cleaned_data["bike.engine.kind"]
        return made


class EnginePage(_KindMixin):
    """Page 1: five facts."""

    spec = (
        ("bike.name", Bike, _("What you call the bike")),
        ("bike.engine.displacement_m3", TwoStrokeJetted, _("Engine size")),
        ("bike.engine.peak_power_w", TwoStrokeJetted, _("Highest power")),
        ("bike.engine.peak_power_rpm", TwoStrokeJetted, _("at engine speed")),
    )


class GearsPage(DocumentForm):
    """Page 2: four facts."""

    spec = (
        ("bike.transmission.primary_ratio", Transmission, _("Primary ratio")),
        ("bike.transmission.gear_ratios", Transmission, _("Gear ratios, first to top")),
        ("setup.front_sprocket_teeth", Setup, _("Front sprocket, teeth")),
        ("setup.rear_sprocket_teeth", Setup, _("Rear sprocket, teeth")),
    )


class WeightPage(DocumentForm):
    """Page 3: five facts."""

    spec = (
        ("bike.frame.mass_dry_kg", Frame, _("Weight without fuel")),
        ("setup.fork_spring_rate_n_per_m", Setup, _("Fork spring, each leg")),
        ("setup.shock_spring_rate_n_per_m", Setup, _("Shock spring")),
        ("setup.main_jet", Setup, _("Main jet, number")),
        ("setup.tank_capacity_m3", Setup, _("Tank holds")),
    )


PAGES = (EnginePage, GearsPage, WeightPage)
PAGE_TITLES = (_("Engine"), _("Gears"), _("Weight, springs, fuel"))

_FRAME_LABELS = {
    "mass_dry_kg": _("Weight without fuel"), "front_share": _("Share on the front wheel"), "wheelbase_m": _("Wheelbase"),
    "cg_height_m": _("Height of centre of gravity"), "rake_rad": _("Rake"), "drag_area_m2": _("Drag area, m²"),
    "unsprung_front_kg": _("Unsprung, front"), "unsprung_rear_kg": _("Unsprung, rear"), "fork_travel_m": _("Fork travel"),
    "fork_air_diameter_m": _("Fork air column, diameter"), "fork_air_gap_m": _("Fork air left at full travel"), "fork_friction_n": _("Fork friction"),
    "rear_travel_m": _("Rear travel"), "link_ratio_start": _("Wheel / shock ratio, topped out"),
    "link_ratio_end": _("Wheel / shock ratio, full travel"), "shock_friction_n": _("Shock friction"),
    "fuel_front_share": _("Share of fuel on the front wheel"), "unusable_fuel_m3": _("Fuel that stays in the tank"),
}  # fmt: skip
_NEEDLE_LABELS = {
    "jet_bore_m": _("Needle jet, bore"), "straight_diameter_m": _("Needle, straight part"), "taper_start_lift_m": _("Lift where the taper begins"),
    "taper_half_angle_rad": _("Taper, half angle"), "clip_pitch_m": _("Between clip grooves"),
}  # fmt: skip


class FactsPage(_KindMixin):
    """Everything the bike is, given or assumed."""

    spec = (
        ("bike.name", Bike, _("What you call the bike")),
        ("bike.engine.displacement_m3", TwoStrokeJetted, _("Engine size")),
        ("bike.engine.peak_power_w", TwoStrokeJetted, _("Highest power")),
        ("bike.engine.peak_power_rpm", TwoStrokeJetted, _("at engine speed")),
        ("bike.engine.limiter_rpm", TwoStrokeJetted, _("Rev limit")),
        ("bike.engine.idle_rpm", TwoStrokeJetted, _("Idle")),
        ("bike.engine.engagement_rpm", TwoStrokeJetted, _("Pulls from")),
        ("bike.engine.carburettor.jet_numbering", Carburettor, _("Main jets are numbered by")),
        ("bike.engine.carburettor.full_lift_m", Carburettor, _("Slide lift at full throttle")),
        ("bike.engine.carburettor.clip_positions", Carburettor, _("Clip grooves")),
        *((f"bike.engine.carburettor.needle.{k}", Needle, v) for k, v in _NEEDLE_LABELS.items()),
        ("bike.transmission.primary_ratio", Transmission, _("Primary ratio")),
        ("bike.transmission.gear_ratios", Transmission, _("Gear ratios, first to top")),
        ("bike.transmission.efficiency", Transmission, _("Power that reaches the wheel")),
        ("bike.tyre.marking", Tyre, _("Rear tyre marking")),
        ("bike.tyre.rolling_radius_m", Tyre, _("Rolling radius, measured")),
        *((f"bike.frame.{k}", Frame, v) for k, v in _FRAME_LABELS.items()),
    )
    sections = (
        (_("Engine and carburettor"), "bike.engine.", "bike.name"), (_("Gears and tyre"), "bike.transmission.", "bike.tyre."),
        (_("Weights, frame and suspension"), "bike.frame.", "bike.frame."),
    )  # fmt: skip

    def grouped(self):
        """Sections with their fields, for the page."""
        return [(title, [self[n] for n in self.fields if n.startswith((a, b))]) for title, a, b in self.sections]
