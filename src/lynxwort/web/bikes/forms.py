"""A bike in three pages of at most 14 facts, and all its facts on one. What is asked follows the kind of engine."""

from copy import deepcopy
from typing import Any

from django import forms
from django.utils.text import format_lazy
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
)  # fmt: skip
from lynxwort.core.model.damper import PLACES as VALVES
from lynxwort.core.model.damper import STOCK_FACTS, DamperFacts, ValveSeat
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.drive.gearing import SPEED_OF_SYMBOL
from lynxwort.web.bikes.lists import LISTS
from lynxwort.web.ui.forms import DocumentForm, dig, plant
from lynxwort.words.catalogue import CLUTCHES, ENGINES, FORK_DAMPINGS, FORK_SPRINGINGS, FORK_SPRINGS, RATE_KINDS, TUNABLES, TYRE_FILLINGS
from lynxwort.words.formatting import number_text
from lynxwort.words.fuelling import LUBRICATIONS, POWER_VALVES, PUMPS, SCREWS

KINDS = [(k, _(v)) for k, v in ENGINES.items()]
CHOICES = {
    "jet_numbering": [("diameter", _("hole diameter, 1/100 mm")), ("flow", _("flow"))],
    "sensors": [("", _("not said")), ("throttle_rpm", _("throttle and revs only")), ("air_temperature", _("also air temperature")),
                ("pressure_temperature", _("also pressure and temperature")), ("closed_loop", _("also the mixture, at part throttle"))],
}  # fmt: skip
CHOICES |= {
    "screw": [(k, _(v)) for k, v in SCREWS.items()], "pump": [(k, _(v)) for k, v in PUMPS.items()],
    "power_valve": [(k, _(v)) for k, v in POWER_VALVES.items()], "lubrication": [("", _("not said")), *((k, _(v)) for k, v in LUBRICATIONS.items())],
    "clutch": [(k, _(v)) for k, v in CLUTCHES.items()], "inside": [(k, _(v)) for k, v in TYRE_FILLINGS.items()],
    "fork_springing": [(k, _(v)) for k, v in FORK_SPRINGINGS.items()], "fork_springs": [(k, _(v)) for k, v in FORK_SPRINGS.items()],
    "fork_damping": [(k, _(v)) for k, v in FORK_DAMPINGS.items()],
    **{key: [(k, _(v)) for k, v in RATE_KINDS.items()] for key in ("fork_rate_is", "shock_rate_is")},
    "speed_symbol": [("", _("not read yet")), *((s, f"{s}: {SPEED_OF_SYMBOL[s]} km/h") for s in SPEED_SYMBOLS)],
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
    "clamp_offset_m": _("Clamp offset"), "axle_lead_m": _("Axle ahead of the fork legs"), "front_tyre": _("Front tyre marking"),
    "seat_height_m": _("Seat height, topped out"), "seat_half_width_m": _("Half of the seat's width"), "ground_clearance_m": _("Ground clearance, topped out"),
    "front_guard_gap_m": _("Front tyre to guard, topped out"), "front_clamp_gap_m": _("Front tyre to lower clamp, topped out"),
    "front_radiator_gap_m": _("Front tyre to radiators, topped out"), "bar_gap_m": _("Fork tubes to bars, tubes flush"),
    "rear_guard_gap_m": _("Rear tyre to guard, topped out"), "rear_seat_gap_m": _("Rear tyre to seat, topped out"),
    "rear_exhaust_gap_m": _("Rear tyre to exhaust, topped out"), "bar_height_m": _("Grips, height topped out"),
    "bar_ahead_m": _("Grips ahead of the rear axle"),
    "peg_height_m": _("Pegs, height topped out"), "peg_ahead_m": _("Pegs ahead of the rear axle"), "side_stand_m": _("Side stand, pivot to foot"),
    "fork_springing": _("The fork stands on"), "fork_springs": _("Fork springs"), "fork_rate_is": _("A fork spring has"),
    "shock_rate_is": _("The shock spring has"),
    "fork_damping": _("The fork damps"), "fork_oil_least_m": _("Fork oil, least from the top"), "fork_oil_most_m": _("Fork oil, most from the top"),
    "fork_top_out_n_per_m": _("Fork top-out springs"), "fork_top_out_m": _("Fork top-out springs work over"),
    "fork_preload_pitch_m": _("One turn of the fork's preload"), "shock_preload_pitch_m": _("One turn of the shock's preload"),
    "fork_main_area_m2": _("Main chamber, piston area"), "fork_main_length_m": _("Main chamber, length topped out"),
    "fork_balance_area_m2": _("Balance chamber, piston area"), "fork_balance_length_m": _("Balance chamber, length topped out"),
    "home_height_m": _("Height at home"), "home_temperature_k": _("Temperature at home"),
    "fuel_front_share": _("Share of fuel on the front wheel"), "unusable_fuel_m3": _("Fuel that stays in the tank"),
}  # fmt: skip
_BURNS_ONLY = ("fuel_front_share", "unusable_fuel_m3")
_NEEDLE_LABELS = {
    "jet_bore_m": _("Needle jet, bore"), "straight_diameter_m": _("Needle, straight part"), "taper_start_lift_m": _("Lift where the taper begins"),
    "taper_half_angle_rad": _("Taper, half angle"), "clip_pitch_m": _("Between clip grooves"), "groove_above_jet_m": _("Clip groove above the jet's mouth, slide shut"),
}  # fmt: skip
_COMBUSTION_LABELS = {
    "displacement_m3": _("Engine size"), "peak_power_w": _("Highest power"), "peak_power_rpm": _("at engine speed"), "limiter_rpm": _("Rev limit"),
    "idle_rpm": _("Idle"), "engagement_rpm": _("Pulls from"), "shake_rpm": _("Shakes from"), "clutch": _("The clutch works"),
    "compression_ratio": _("Compression ratio"), "squish_m": _("Squish clearance"),
}  # fmt: skip
_TWO_STROKE_LABELS = {
    "power_valve": _("Power valve"), "pipe_rpm": _("The pipe is tuned to"), "lubrication": _("Its oil comes from"), "oil_tank_m3": _("Own oil tank holds"),
    "oil_tank_ratio": _("Fuel burnt to one of oil from it"),
}  # fmt: skip
DAMPERS = ("fork_damper", "shock_damper")
_STOCK = {f"{end}_damper": facts.model_dump(mode="json") for end, facts in STOCK_FACTS.items()}
_DAMPER_LABELS = {
    "bore_m": _("Bore"), "rod_m": _("Rod"), "reservoir_pa": _("Pressure behind the oil, absolute"), "compression_clicks": _("Compression, clicks in all"),
    "rebound_clicks": _("Rebound, clicks in all"), "high_speed_turns": _("High-speed adjuster, turns in all"),
    "pa_per_turn": _("One turn of it holds against"), "needle_bore_m": _("Compression needle, seat"), "rebound_needle_bore_m": _("Rebound needle, seat"),
    "needle_half_angle_rad": _("Needles, half angle"), "needle_m_per_click": _("A click draws a needle by"),
}  # fmt: skip
_SEAT_LABELS = {
    "clamp_m": _("Clamp, diameter"), "port_inner_m": _("Ports, inner radius"), "port_outer_m": _("Ports, outer radius"),
    "port_area_m2": _("Ports, area in all"), "float_m": _("Moves before it bends"), "height_most_m": _("Highest stack the nut holds"),
}  # fmt: skip
#: a fork has no high-speed adjuster here
_NOT_THERE = {("fork_damper", "high_speed_turns"), ("fork_damper", "pa_per_turn")}
_ELECTRIC_LABELS = {
    "peak_power_w": _("Highest power"), "peak_torque_nm": _("Highest torque"), "limiter_rpm": _("Highest motor speed"),
    "nominal_voltage_v": _("Nominal voltage"), "mode_power_shares": _("Power modes, % of the highest"), "usable_share": _("Usable share of the pack"),
    "regeneration_share": _("Braking that returns to the pack"), "weighed_pack_j": _("Pack it was weighed with"),
    "cold_share_per_k": _("Of the pack's charge lost per kelvin under 20 °C"), "internal_ohm": _("Inner resistance of the pack, ohms"),
}  # fmt: skip


def _engine_spec(kind: str) -> Spec:
    """The engine's facts by its kind."""
    engine = ENGINE_OF[kind]
    if engine is Electric:
        return tuple((f"bike.engine.{k}", engine, v) for k, v in _ELECTRIC_LABELS.items())
    burns = tuple((f"bike.engine.{k}", engine, v) for k, v in _COMBUSTION_LABELS.items())
    if kind.endswith("two_stroke"):
        burns += tuple((f"bike.engine.{k}", engine, v) for k, v in _TWO_STROKE_LABELS.items())
    place = "bike.engine.carburettor."
    return burns + {
        "jetted": (
            (f"{place}jet_numbering", Carburettor, _("Main jets are numbered by")), (f"{place}full_lift_m", Carburettor, _("Slide lift at full throttle")),
            (f"{place}clip_positions", Carburettor, _("Clip grooves")), (f"{place}screw", Carburettor, _("The screw is an")),
            (f"{place}screw_turn", Carburettor, _("One turn of the screw")), (f"{place}cutaway_step", Carburettor, _("One size of cutaway")),
            (f"{place}float_height_m", Carburettor, _("Float height, measured")), (f"{place}float_height_right_m", Carburettor, _("Float height by the manual")),
            (f"{place}pump", Carburettor, _("Accelerator pump")), *((f"{place}needle.{k}", Needle, v) for k, v in _NEEDLE_LABELS.items()),
        ),
        "rod": (
            (f"{place}knob_click", MeteringRodCarburettor, _("One click of the knob")), (f"{place}rod_step", MeteringRodCarburettor, _("One size of rod")),
            (f"{place}compensation", MeteringRodCarburettor, _("Evens out of the air's change")),
            (f"{place}compensated_change", MeteringRodCarburettor, _("up to a change of density of")),
        ),
        "injected": (
            ("bike.engine.injection.sensors", Injection, _("The injection senses")),
            ("bike.engine.injection.map_shifts", Injection, _("Maps, % richer than the first")),
            ("bike.engine.injection.target_part", Injection, _("Lambda aimed at, part throttle")),
            ("bike.engine.injection.target_full", Injection, _("Lambda aimed at, full throttle")),
        ),
    }[metering_of(kind)]  # fmt: skip


class FactsPage(DocumentForm):
    """Everything the bike is, given or assumed. The kind of engine stays: another engine is another bike."""

    choice_labels = CHOICES

    def __init__(self, *args, kind: str, row: Any = None, **kwargs):
        self.kind, self.row = kind, row
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
            ("bike.tyre.speed_symbol", Tyre, _("Speed letter on the sidewall")),
            ("bike.tyre.inside", Tyre, _("It is filled with")),
            ("bike.tyre.inside_speed_m_per_s", Tyre, _("Filling made for speeds to")),
            *((f"bike.frame.{k}", Frame, v) for k, v in frame.items()),
        )
        super().__init__(*args, **kwargs)
        made = {path: make() for path, make in LISTS.items()}
        fed = metering_of(self.kind)
        self.lists = [path for path, field in made.items() if field.fed in ("", fed) and (fed != "electric" or not field.burns)]
        for path in self.lists:
            self.fields[path] = made[path]
            self.initial[path] = self.fields[path].known = dig(self.current, path) or []
        for path, choice in self.fields.items():
            if path.startswith(("bike.frame.", "bike.engine.")) and isinstance(choice, forms.ChoiceField):
                choice.required = False
        # the dampers have a page of their own
        self.shown = {k: v for k, v in self.current.get("bike", {}).items() if k not in DAMPERS}

    def document(self):
        made = super().document()
        made["bike"]["engine"]["kind"] = self.kind
        made["bike"] |= {k: v for k, v in self.current.get("bike", {}).items() if k in DAMPERS}  # they have a page of their own
        if self.kind == "electric":
            made["bike"]["transmission"]["gear_ratios"] = [1.0]
        for path in self.lists:
            if self.cleaned_data.get(path):
                plant(made, path, self.cleaned_data[path])
        return made

    def grouped(self):
        """Sections with their fields, for the page."""
        sections = (
            (format_lazy("{}: {}", _("Engine"), _(ENGINES[self.kind])), "bike.engine.", "bike.name"), (_("Gears and tyre"), "bike.transmission.", "bike.tyre."),
            (_("Weights, frame and suspension"), "bike.frame.", "bike.frame."),
        )  # fmt: skip
        return [(title, [self[n] for n in self.fields if n.startswith((a, b))]) for title, a, b in sections]


class DampersPage(DocumentForm):
    """The insides of fork and shock; what is blank is as stock, which is from memory."""

    def __init__(self, *args, row: Any = None, **kwargs):
        self.row = row
        parts = [(f"{end}_damper", DamperFacts, _DAMPER_LABELS) for end in ("fork", "shock")]
        parts += [(f"{end}_damper.{place}", ValveSeat, _SEAT_LABELS) for end in ("fork", "shock") for place in VALVES]
        self.spec = tuple((f"{path}.{name}", model, label) for path, model, labels in parts for name, label in labels.items() if (path, name) not in _NOT_THERE)
        super().__init__(*args, **kwargs)
        for path, field in self.fields.items():
            stock = dig(_STOCK, path)
            field.required = False
            field.assumed = f"{number_text(stock, field.facts.kind, self.preset)} {field.unit}".strip() if stock is not None else ""
            if self.initial.get(path) == stock:
                self.initial.pop(path, None)

    def document(self):
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

    def grouped(self):
        """Sections with their fields, for the page."""
        sections = []
        for end, title in (("fork", _("Fork, each leg")), ("shock", _("Shock"))):
            own = [self[n] for n in self.fields if n.startswith(f"{end}_damper.") and n.count(".") == 1]
            seats = [(_(TUNABLES[f"{end}_{p}_stack"]), [self[n] for n in self.fields if n.startswith(f"{end}_damper.{p}.")]) for p in VALVES]
            sections += [(title, own), *seats]
        return sections


class CopyForm(forms.Form):
    """To which other bike a kept setup is copied."""

    def __init__(self, *args, setups, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["setup"] = forms.ChoiceField(label=_("Copy to"), choices=[(s.pk, s.title) for s in setups])


class NameForm(forms.Form):
    """A name, for a kept setup or a branch."""

    name = forms.CharField(label=_("Name"), max_length=60, required=False)
