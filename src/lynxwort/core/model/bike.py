"""The bike: everything a hand does not change on race day. What can be swapped or turned is in Setup."""

import itertools
import re
from math import pi
from typing import Annotated, Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, choice, quantity


class Needle(Part):
    """A measured needle and its jet. Half angle, not full taper."""

    jet_bore_m: float = quantity(1e-3, 6e-3, "m", "bore", 2.90e-3, source="assumption")
    """bore of the needle jet"""
    straight_diameter_m: float = quantity(1e-3, 6e-3, "m", "bore", 2.74e-3, source="assumption")
    """needle diameter above the taper"""
    taper_start_lift_m: float = quantity(0.0, 0.05, "m", "bore", 10e-3, source="assumption")
    """lift at which the taper reaches the jet with the clip in the middle groove"""
    taper_half_angle_rad: float = quantity(0.0, 0.1, "rad", "angle", 0.01309, source="assumption: 0.75 degrees")
    """half of the included angle of the taper"""
    clip_pitch_m: float = quantity(2e-4, 3e-3, "m", "bore", 0.9e-3, source="common practice, no source: 0.9 to 1.0 mm")
    """distance between two clip grooves"""


class Carburettor(Part):
    """A slide carburettor with pilot, needle and main jet."""

    jet_numbering: Literal["diameter", "flow"] = choice("diameter", source="assumption: ask, it decides the exponent")
    """what the number on a main jet means: hole diameter in 1/100 mm, or flow"""
    full_lift_m: float = quantity(0.02, 0.06, "m", "bore", 0.036, source="assumption: bore of the carburettor")
    """slide lift at full throttle"""
    clip_positions: int = quantity(1, 12, "1", "count", 5, source="common practice, no source")
    """number of clip grooves on the needle"""
    needle: Needle | None = None
    """the measured needle; left out = not measured, and every step is judged on its lean side"""


class MeteringRodCarburettor(Part):
    """A slide carburettor with one metering rod and one knob, which evens out most of the air's change by itself."""

    knob_click: float = quantity(0.002, 0.05, "1", "richness", 0.01, source="assumption")
    """how much richer one click of the knob makes it"""
    rod_step: float = quantity(0.005, 0.15, "1", "richness", 0.03, source="assumption")
    """how much richer the next rod makes it"""
    compensation: float = quantity(0.0, 1.0, "1", "share", 0.85, source="assumption")
    """share of a change of air that it evens out by itself"""
    compensated_change: float = quantity(0.0, 0.5, "1", "share", 0.24, source="common practice, no source: no change of rod from 300 to 3000 m")
    """largest change of air density that it evens out; beyond it nothing is"""


Sensors = Literal["throttle_rpm", "air_temperature", "pressure_temperature", "closed_loop"]


class Injection(Part):
    """Fuel injection: what the unit senses of the air, and its switchable maps."""

    sensors: Sensors = choice("throttle_rpm", source="assumption: ask, it decides what the air does to the mixture")
    """throttle_rpm: senses no air; air_temperature; pressure_temperature; closed_loop: also a mixture sensor at part throttle"""
    map_shifts: tuple[Annotated[float, Field(ge=-0.3, le=0.5)], ...] = Field(
        (0.0,), min_length=1, max_length=8, json_schema_extra={"unit": "1", "kind": "shares", "source": "assumption: one map"}
    )
    """richness of each switchable map against the first"""


class Combustion(Part):
    """What engines that burn fuel have in common."""

    displacement_m3: float = quantity(4.5e-5, 8e-4, "m^3", "engine_size")
    """swept volume of all cylinders"""
    peak_power_w: float = quantity(1.5e3, 8e4, "W", "power")
    """highest power at the crank on a standard day"""
    peak_power_rpm: float = quantity(3000, 15000, "rpm", "rpm")
    """engine speed of the highest power"""
    limiter_rpm: float | None = quantity(3000, 17000, "rpm", "rpm", None, source="assumption: 1.10 x the speed of peak power")
    """revs the engine will not pass"""
    idle_rpm: float = quantity(600, 3000, "rpm", "rpm", 1600.0, source="assumption")
    """idle speed"""
    shake_rpm: float | None = quantity(1500, 15000, "rpm", "rpm", None, source="to be felt")
    """revs from which it shakes the hands"""
    engagement_rpm: float | None = quantity(1000, 8000, "rpm", "rpm", None, source="assumption: 0.38 x the speed of peak power")
    """lowest revs from which the engine pulls with the clutch home"""


class TwoStrokeJetted(Combustion):
    """Two-stroke with a jetted carburettor."""

    kind: Literal["jetted_two_stroke"] = "jetted_two_stroke"
    carburettor: Carburettor = Field(default_factory=Carburettor)


class FourStrokeJetted(Combustion):
    """Four-stroke with a jetted carburettor."""

    kind: Literal["jetted_four_stroke"] = "jetted_four_stroke"
    carburettor: Carburettor = Field(default_factory=Carburettor)


class TwoStrokeRod(Combustion):
    """Two-stroke with a metering-rod carburettor."""

    kind: Literal["rod_two_stroke"] = "rod_two_stroke"
    carburettor: MeteringRodCarburettor = Field(default_factory=MeteringRodCarburettor)


class FourStrokeRod(Combustion):
    """Four-stroke with a metering-rod carburettor."""

    kind: Literal["rod_four_stroke"] = "rod_four_stroke"
    carburettor: MeteringRodCarburettor = Field(default_factory=MeteringRodCarburettor)


class TwoStrokeInjected(Combustion):
    """Two-stroke with fuel injection."""

    kind: Literal["injected_two_stroke"] = "injected_two_stroke"
    injection: Injection = Field(default_factory=Injection)


class FourStrokeInjected(Combustion):
    """Four-stroke with fuel injection."""

    kind: Literal["injected_four_stroke"] = "injected_four_stroke"
    injection: Injection = Field(default_factory=Injection)


class Electric(Part):
    """Electric motor with its controller; the pack stands in the setup."""

    kind: Literal["electric"] = "electric"
    peak_power_w: float = quantity(1.5e3, 1.2e5, "W", "power")
    """highest power at the motor shaft"""
    peak_torque_nm: float = quantity(5.0, 600.0, "N*m", "torque")
    """highest torque at the motor shaft, held up to the speed of highest power"""
    limiter_rpm: float = quantity(1000, 25000, "rpm", "rpm")
    """highest motor speed"""
    nominal_voltage_v: float = quantity(24.0, 800.0, "V", "voltage", 96.0, source="assumption")
    """nominal voltage of the pack"""
    mode_power_shares: tuple[Annotated[float, Field(ge=0.1, le=1.0)], ...] = Field(
        (1.0,), min_length=1, max_length=8, json_schema_extra={"unit": "1", "kind": "shares", "source": "assumption: one mode"}
    )
    """share of the highest power that each power mode gives, the strongest first"""
    usable_share: float = quantity(0.5, 1.0, "1", "share", 0.90, source="assumption")
    """share of the pack's nominal energy that may be drawn"""
    regeneration_share: float = quantity(0.0, 0.9, "1", "share", 0.0, source="assumption: none off road")
    """share of the closed-throttle braking that returns to the pack"""
    weighed_pack_j: float | None = quantity(1e6, 1.2e8, "J", "energy", None, source="assumption: weighed with the pack that is fitted")
    """energy of the pack that was in the bike when it was weighed"""

    @property
    def peak_power_rpm(self) -> float:
        """Motor speed [rpm] from which power, not torque, is the limit."""
        return min(self.peak_power_w / self.peak_torque_nm * 60.0 / (2.0 * pi), self.limiter_rpm)

    @field_validator("mode_power_shares")
    @classmethod
    def _weaker(cls, value: tuple[float, ...]) -> tuple[float, ...]:
        if any(b > a for a, b in itertools.pairwise(value)):
            raise ValueError("modes_not_falling")
        return value


Jetted = TwoStrokeJetted | FourStrokeJetted
Rod = TwoStrokeRod | FourStrokeRod
Injected = TwoStrokeInjected | FourStrokeInjected
Engine = Annotated[Jetted | Rod | Injected | Electric, Field(discriminator="kind")]
ENGINE_KINDS: tuple[str, ...] = (
    "jetted_two_stroke", "jetted_four_stroke", "rod_two_stroke", "rod_four_stroke", "injected_two_stroke", "injected_four_stroke", "electric",
)  # fmt: skip
ENGINE_OF = {m.model_fields["kind"].default: m for m in (TwoStrokeJetted, FourStrokeJetted, TwoStrokeRod, FourStrokeRod, TwoStrokeInjected,
             FourStrokeInjected, Electric)}  # fmt: skip


def metering_of(kind: str) -> str:
    """How an engine kind is fed: "jetted", "rod", "injected" or "electric"."""
    return kind.split("_")[0]


class Transmission(Part):
    """From crank to countershaft sprocket."""

    primary_ratio: float = quantity(1.0, 6.0, "1", "ratio")
    """clutch gear teeth / crank gear teeth"""
    gear_ratios: tuple[Annotated[float, Field(ge=0.4, le=6.0)], ...] = Field(min_length=1, max_length=8, json_schema_extra={"unit": "1", "kind": "ratios"})
    """gearbox ratios from first to top"""
    efficiency: float = quantity(0.6, 1.0, "1", "share", 0.90, source="from memory: chain and gearbox together")
    """power at the wheel / power at the crank"""

    @field_validator("gear_ratios")
    @classmethod
    def _falling(cls, value: tuple[float, ...]) -> tuple[float, ...]:
        if any(b >= a for a, b in itertools.pairwise(value)):
            raise ValueError("not_falling")
        return value


TYRE_MARKING = re.compile(r"^\s*(\d{2,3})\s*/\s*(\d{2,3})\s*-\s*(\d{2}(?:\.\d)?)\s*$")


class Tyre(Part):
    """The rear tyre."""

    marking: str = Field("140/80-18", max_length=20, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"})
    """width / aspect - rim, as on the sidewall"""
    rolling_radius_m: float | None = quantity(0.2, 0.45, "m", "length", None, source="from the marking; a roll-out is better")
    """measured: roll-out distance / 2 pi, rider aboard"""

    @field_validator("marking")
    @classmethod
    def _marking(cls, value: str) -> str:
        match = TYRE_MARKING.match(value)
        if not match:
            raise ValueError("not_a_tyre_marking")
        width, aspect, rim = (float(g) for g in match.groups())
        if not (50 <= width <= 220 and 40 <= aspect <= 110 and 8 <= rim <= 23):
            raise ValueError("not_a_tyre_marking")
        return value


class Frame(Part):
    """Masses, geometry and suspension hardware that stay on the bike."""

    mass_dry_kg: float = quantity(30.0, 350.0, "kg", "mass")
    """mass of the bike ready to ride, without fuel"""
    front_share: float = quantity(0.3, 0.7, "1", "share", 0.48, source="assumption")
    """share of that mass on the front wheel"""
    wheelbase_m: float = quantity(0.9, 1.8, "m", "length", 1.48, source="from memory")
    """axle to axle"""
    cg_height_m: float = quantity(0.4, 1.3, "m", "length", 0.90, source="from memory")
    """height of the centre of gravity with the rider aboard"""
    rake_rad: float = quantity(0.26, 0.7, "rad", "angle", 0.46251, source="from memory: 26.5 degrees")
    """angle of the fork from the vertical"""
    drag_area_m2: float = quantity(0.2, 1.5, "m^2", "ratio", 0.60, source="from memory")
    """drag coefficient x frontal area with the rider"""
    unsprung_front_kg: float = quantity(4, 30, "kg", "mass", 13.0, source="from memory")
    """mass that moves with the front wheel"""
    unsprung_rear_kg: float = quantity(4, 40, "kg", "mass", 17.0, source="from memory")
    """mass that moves with the rear wheel"""
    fork_travel_m: float = quantity(0.05, 0.4, "m", "travel", 0.300, source="from memory")
    """travel along the leg"""
    fork_air_diameter_m: float = quantity(0.02, 0.07, "m", "travel", 0.048, source="from memory")
    """diameter of the air column in one leg"""
    fork_air_gap_m: float = quantity(0.02, 0.3, "m", "travel", 0.110, source="from memory")
    """height of the air column left at full travel"""
    fork_friction_n: float = quantity(0, 300, "N", "force", 40.0, source="from memory")
    """seal friction of both legs"""
    rear_travel_m: float = quantity(0.05, 0.4, "m", "travel", 0.310, source="from memory")
    """vertical travel at the axle"""
    link_ratio_start: float = quantity(1.0, 5.0, "1", "ratio", 2.90, source="from memory")
    """wheel travel / shock travel, topped out"""
    link_ratio_end: float = quantity(1.0, 5.0, "1", "ratio", 2.50, source="from memory")
    """wheel travel / shock travel, at full travel"""
    shock_friction_n: float = quantity(0, 400, "N", "force", 60.0, source="from memory")
    """friction at the shock shaft"""
    swingarm_length_m: float = quantity(0.35, 0.8, "m", "length", 0.590, source="from memory")
    """swingarm pivot to axle, axle in the middle of its adjusters"""
    sprocket_ahead_m: float = quantity(0.03, 0.2, "m", "travel", 0.075, source="from memory")
    """front sprocket's centre ahead of the swingarm pivot"""
    sprocket_above_m: float = quantity(-0.06, 0.06, "m", "travel", 0.005, source="from memory")
    """front sprocket's centre above the swingarm pivot"""
    axle_below_pivot_m: float = quantity(0.0, 0.3, "m", "travel", 0.170, source="from memory")
    """axle below the swingarm pivot, topped out"""
    adjuster_half_range_m: float = quantity(0.0, 0.06, "m", "travel", 0.020, source="from memory")
    """how far the axle goes each way from the middle of its adjusters"""
    case_gap_m: float | None = quantity(0.02, 0.09, "m", "preload", None, source="to measure")
    """front sprocket's centre to the nearest case or guard"""
    chain_play_m: float = quantity(0.0, 0.08, "m", "preload", 0.020, source="common practice, no source; never tighter than the manual")
    """play to be left where the chain is tightest"""
    chain_links: int | None = quantity(60, 160, "1", "count", None, source="assumption: the even number that fits best")
    """links of the fitted chain"""
    fuel_front_share: float = quantity(0.0, 1.0, "1", "share", 0.55, source="assumption")
    """share of the fuel's mass carried by the front wheel"""
    unusable_fuel_m3: float = quantity(0.0, 0.005, "m^3", "fuel", 0.0005, source="common practice, no source: 0.3 to 0.8 L")
    """fuel that never reaches the engine"""


class Bike(Part):
    """One bike."""

    name: str = Field(min_length=1, max_length=60, json_schema_extra={"unit": "", "kind": "text"})
    """what you call it"""
    engine: Engine
    transmission: Transmission
    tyre: Tyre = Field(default_factory=Tyre)
    frame: Frame

    @property
    def is_two_stroke(self) -> bool:
        return self.engine.kind.endswith("two_stroke")

    @property
    def metering(self) -> str:
        """How the engine is fed: "jetted", "rod", "injected" or "electric"."""
        return metering_of(self.engine.kind)
