"""The bike: everything a hand does not change on race day. What can be swapped or turned is in Setup."""

import itertools
import re
from math import pi
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.damper import STOCK_FACTS, DamperFacts


class NeedlePoint(Part):
    """One place of a measured needle."""

    distance_m: float = quantity(0.0, 0.1, "m", "bore")
    """from the top groove towards the tip"""
    diameter_m: float = quantity(5e-4, 6e-3, "m", "bore")
    """needle diameter there"""


class Needle(Part):
    """A measured needle and its jet: as a straight part with one taper (half angle, not full taper), or as a table of diameters."""

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
    table: Annotated[tuple[NeedlePoint, ...], Field(max_length=40)] = ()
    """diameter at distances from the top groove, for two tapers; left out = straight part and one taper"""
    groove_above_jet_m: float = quantity(0.0, 0.09, "m", "bore", 0.028, source="assumption")
    """with a table: the clip's groove above the mouth of the needle jet, slide shut"""

    @field_validator("table")
    @classmethod
    def _tapered(cls, value: tuple[NeedlePoint, ...]) -> tuple[NeedlePoint, ...]:
        if value and len(value) < 2:
            raise ValueError("too_few")
        if any(b.distance_m <= a.distance_m for a, b in itertools.pairwise(value)):
            raise ValueError("distances_not_rising")
        if any(b.diameter_m > a.diameter_m for a, b in itertools.pairwise(value)):
            raise ValueError("needle_not_tapered")
        return value


class OtherNeedle(Part):
    """Another needle that fits this carburettor, measured."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    """what is stamped on it"""
    needle: Needle


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
    needles: Annotated[tuple[OtherNeedle, ...], Field(max_length=8)] = ()
    """other needles that fit; the setup says which is in"""
    screw: Literal["air", "fuel"] = choice("air", source="assumption: ask, it decides which way is richer")
    """air screw: in is richer; fuel screw: out is richer"""
    screw_turn: float = quantity(0.005, 0.3, "1", "richness", 0.10, source="assumption: .05 to .20; a turn is about a pilot size")
    """how much one turn of the screw changes the mixture at small throttle"""
    cutaway_step: float = quantity(0.005, 0.15, "1", "richness", 0.04, source="assumption")
    """how much leaner one size more of slide cutaway makes it at a quarter throttle"""
    float_height_m: float | None = quantity(0.002, 0.05, "m", "bore", None, source="to measure")
    """float height as measured"""
    float_height_right_m: float | None = quantity(0.002, 0.05, "m", "bore", None, source="from the manual")
    """float height as the manual has it"""
    pump: Literal["none", "pump"] = choice("none", source="assumption")
    """whether it has an accelerator pump"""

    @model_validator(mode="before")
    @classmethod
    def _no_longer_asked(cls, data: object) -> object:
        """Facts of 0.8.0 that nothing was reckoned from: read and dropped."""
        return {k: v for k, v in data.items() if k not in ("pump_squirt_s", "leak_jet")} if isinstance(data, dict) else data


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


AXIS_RPM, AXIS_THROTTLE = 24, 16
#: rpm and throttle of a map's cells when nothing else is said (assumption)
MAP_RPM = (1500.0, 2500.0, 3500.0, 4500.0, 5500.0, 6500.0, 7500.0, 8500.0, 9500.0, 10500.0)
MAP_THROTTLE = (0.0, 0.05, 0.1, 0.2, 0.35, 0.5, 0.75, 1.0)


def _rising(value: tuple[float, ...]) -> tuple[float, ...]:
    if any(b <= a for a, b in itertools.pairwise(value)):
        raise ValueError("axis_not_rising")
    return value


Sensors = Literal["throttle_rpm", "air_temperature", "pressure_temperature", "closed_loop"]


class Injection(Part):
    """Fuel injection: what the unit senses of the air, and its switchable maps."""

    sensors: Sensors | None = choice(None, source="assumption: senses no air; ask, it decides what the air does to the mixture")
    """throttle_rpm, or not said: senses no air; air_temperature; pressure_temperature; closed_loop: also a mixture sensor at part throttle"""
    map_shifts: tuple[Annotated[float, Field(ge=-0.3, le=0.5)], ...] = Field(
        (0.0,), min_length=1, max_length=8, json_schema_extra={"unit": "1", "kind": "shares", "source": "assumption: one map"}
    )
    """richness of each switchable map against the first"""
    rpm_axis: tuple[Annotated[float, Field(ge=300.0, le=17_000.0)], ...] = Field(
        MAP_RPM, min_length=2, max_length=AXIS_RPM, json_schema_extra={"unit": "rpm", "kind": "axis", "source": "assumption: thousands and a half"}
    )
    """revs of the map's rows"""
    throttle_axis: tuple[Annotated[float, Field(ge=0.0, le=1.0)], ...] = Field(
        MAP_THROTTLE, min_length=2, max_length=AXIS_THROTTLE, json_schema_extra={"unit": "1", "kind": "axis", "source": "assumption: closer when closed"}
    )
    """throttle openings of the map's columns"""
    target_part: float = quantity(0.7, 1.1, "1", "ratio", 0.95, source="common practice, no source: rideable at part throttle")
    """lambda aimed at where the throttle is little open"""
    target_full: float = quantity(0.7, 1.0, "1", "ratio", 0.87, source="common practice, no source: best torque, cool")
    """lambda aimed at at full throttle"""

    _rising = field_validator("rpm_axis", "throttle_axis")(_rising)


FittingPlace = Literal["airbox", "exhaust", "exhaust_insert", "reeds", "air_filter", "cylinder"]
FITTING_PLACES: tuple[str, ...] = FittingPlace.__args__  # type: ignore[attr-defined]


class Fitting(Part):
    """Something else that can be fitted where the engine breathes, and what it does until a reading pins it."""

    place: FittingPlace = choice()
    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    """what it is called"""
    leaner_low: float | None = quantity(-0.3, 0.3, "1", "richness", None, source="assumption by its place")
    """least that it leans the mixture, - = richens"""
    leaner_high: float | None = quantity(-0.3, 0.3, "1", "richness", None, source="assumption by its place")
    """most that it leans the mixture"""
    power_scale: float = quantity(0.6, 1.5, "1", "factor", 1.0, source="assumption: no change until a dyno run")
    """torque with it / torque without"""

    @model_validator(mode="after")
    def _ordered(self) -> "Fitting":
        if self.leaner_low is not None and self.leaner_high is not None and self.leaner_low > self.leaner_high:
            raise ValueError("leaner_high:leaner_order")
        return self


class HeadInsert(Part):
    """A cylinder head or head insert that fits."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    compression_ratio: float = quantity(4.0, 16.0, "1", "number")
    """swept + clearance volume / clearance volume, the whole stroke"""
    squish_m: float | None = quantity(3e-4, 6e-3, "m", "bore", None, source="to measure with solder")
    """squish clearance"""


class IgnitionMap(Part):
    """Another ignition map."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    advance_rad: float = quantity(-0.35, 0.35, "rad", "angle")
    """spark earlier than in the bike's own map, at full load"""
    low_scale: float = quantity(0.7, 1.2, "1", "factor", 1.0, source="assumption: no change")
    """torque at half the speed of peak power / with its own map"""
    high_scale: float = quantity(0.7, 1.2, "1", "factor", 1.0, source="assumption: no change")
    """torque at the speed of peak power / with its own map"""


class TorquePoint(Part):
    """One line of a typed torque table: full throttle, at the crank, corrected to a standard day."""

    rpm: float = quantity(500, 17000, "rpm", "rpm")
    torque_nm: float = quantity(0.0, 400.0, "N*m", "torque")


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
    """lowest revs from which the engine pulls with the clutch home; of an automatic clutch the revs at which it grips"""
    clutch: Literal["manual", "automatic"] = choice("manual", source="assumption")
    """manual: slipped by hand in first gear only; automatic: slips by itself in every gear below its engagement speed"""
    torque_table: Annotated[tuple[TorquePoint, ...], Field(max_length=60)] = ()
    """measured torque at full throttle; left out = a usual shape through the highest power"""
    compression_ratio: float | None = quantity(4.0, 16.0, "1", "number", None, source="from the manual")
    """swept + clearance volume / clearance volume, the whole stroke, as it came"""
    squish_m: float | None = quantity(3e-4, 6e-3, "m", "bore", None, source="to measure with solder")
    """squish clearance as it came"""
    power_valve: Literal["none", "adjustable"] = choice("none", source="assumption")
    """two-stroke: whether a power valve with a preload that a hand can turn opens the exhaust"""
    fittings: Annotated[tuple[Fitting, ...], Field(max_length=20)] = ()
    """airboxes, exhausts, inserts, reeds, filters, cylinders that fit besides its own; the setup says which are on"""
    head_inserts: Annotated[tuple[HeadInsert, ...], Field(max_length=6)] = ()
    """other heads or inserts that fit; the setup says which is in"""
    ignition_maps: Annotated[tuple[IgnitionMap, ...], Field(max_length=7)] = ()
    """other ignition maps; the setup says which is on"""

    def fittings_of(self, place: str) -> tuple[Fitting, ...]:
        """What else fits at one place."""
        return tuple(f for f in self.fittings if f.place == place)

    @field_validator("torque_table")
    @classmethod
    def _table(cls, value: tuple[TorquePoint, ...]) -> tuple[TorquePoint, ...]:
        if value and len(value) < 3:
            raise ValueError("too_few")
        if any(b.rpm <= a.rpm for a, b in itertools.pairwise(value)):
            raise ValueError("rpm_not_rising")
        return value


class TwoStroke(Combustion):
    """What two-strokes have besides: where their oil comes from."""

    pipe_rpm: float | None = quantity(3000, 15000, "rpm", "rpm", None, source="assumption: the speed of peak power")
    """engine speed that the exhaust pipe is tuned to"""
    lubrication: Literal["premix", "oil_tank"] | None = choice(None, source="to be said: premix when the setup says a ratio")
    """how it gets its oil: mixed into the fuel, or from an oil tank of its own"""
    oil_tank_m3: float | None = quantity(1e-4, 5e-3, "m^3", "oil", None, source="not said")
    """own oil tank: what it holds"""
    oil_tank_ratio: float = quantity(10, 200, "1", "number", 50.0, source="common practice, no source: about one to fifty over a race")
    """own oil tank: litres of fuel burnt to a litre of oil"""


class TwoStrokeJetted(TwoStroke):
    """Two-stroke with a jetted carburettor."""

    kind: Literal["jetted_two_stroke"] = "jetted_two_stroke"
    carburettor: Carburettor = Field(default_factory=Carburettor)


class FourStrokeJetted(Combustion):
    """Four-stroke with a jetted carburettor."""

    kind: Literal["jetted_four_stroke"] = "jetted_four_stroke"
    carburettor: Carburettor = Field(default_factory=Carburettor)


class TwoStrokeRod(TwoStroke):
    """Two-stroke with a metering-rod carburettor."""

    kind: Literal["rod_two_stroke"] = "rod_two_stroke"
    carburettor: MeteringRodCarburettor = Field(default_factory=MeteringRodCarburettor)


class FourStrokeRod(Combustion):
    """Four-stroke with a metering-rod carburettor."""

    kind: Literal["rod_four_stroke"] = "rod_four_stroke"
    carburettor: MeteringRodCarburettor = Field(default_factory=MeteringRodCarburettor)


class TwoStrokeInjected(TwoStroke):
    """Two-stroke with fuel injection."""

    kind: Literal["injected_two_stroke"] = "injected_two_stroke"
    injection: Injection = Field(default_factory=Injection)


class FourStrokeInjected(Combustion):
    """Four-stroke with fuel injection."""

    kind: Literal["injected_four_stroke"] = "injected_four_stroke"
    injection: Injection = Field(default_factory=Injection)


class Pack(Part):
    """Another battery pack that fits, told by its energy."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    energy_j: float = quantity(1e6, 1.2e8, "J", "energy")
    """nominal energy: volts x ampere hours"""
    mass_kg: float = quantity(3.0, 150.0, "kg", "mass")
    rear_share: float = quantity(0.0, 1.0, "1", "share", 0.52, source="assumption")
    """share of its mass on the rear wheel"""
    seat_up_m: float = quantity(-0.05, 0.15, "m", "travel", 0.0, source="assumption: the seat stays")
    """how much higher the seat sits over it"""
    cost: float | None = quantity(0.0, 1e6, "1", "number", None, source="not said")
    """what it costs, in one's own money"""
    fitting_s: float | None = quantity(0.0, 360_000.0, "s", "minutes", None, source="not said")
    """time to fit it"""


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
    cold_share_per_k: float = quantity(0.0, 0.03, "1", "share", 0.006, source="from memory: about a fifth less at -10 °C")
    """share of the usable energy lost per kelvin under 20 °C"""
    internal_ohm: float | None = quantity(0.0, 1.0, "ohm", "factor", None, source="from memory: by the pack's voltage squared over its energy")
    """inner resistance of the pack: what it gets warm with under load"""
    packs: Annotated[tuple[Pack, ...], Field(max_length=8)] = ()
    """other packs that fit"""
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


def _falling_ratios(value: tuple[float, ...]) -> tuple[float, ...]:
    if any(b >= a for a, b in itertools.pairwise(value)):
        raise ValueError("not_falling")
    return value


class Gearbox(Part):
    """Another set of gears, or another primary pair, that fits this engine."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    """what it is called"""
    primary_ratio: float | None = quantity(1.0, 6.0, "1", "ratio", None, source="assumption: as it is")
    """clutch gear teeth / crank gear teeth; left out = as it is"""
    gear_ratios: tuple[Annotated[float, Field(ge=0.4, le=6.0)], ...] = Field(
        (), max_length=8, json_schema_extra={"unit": "1", "kind": "ratios", "source": "assumption: as they are"}
    )
    """ratios from first to top; left out = as they are"""

    _falling = field_validator("gear_ratios")(_falling_ratios)


class Transmission(Part):
    """From crank to countershaft sprocket."""

    primary_ratio: float = quantity(1.0, 6.0, "1", "ratio")
    """clutch gear teeth / crank gear teeth"""
    gear_ratios: tuple[Annotated[float, Field(ge=0.4, le=6.0)], ...] = Field(min_length=1, max_length=8, json_schema_extra={"unit": "1", "kind": "ratios"})
    """gearbox ratios from first to top"""
    efficiency: float = quantity(0.6, 1.0, "1", "share", 0.90, source="from memory: chain and gearbox together")
    """power at the wheel / power at the crank"""
    others: Annotated[tuple[Gearbox, ...], Field(max_length=6)] = ()
    """other gears and primaries that fit; the setup says which is in"""

    _falling = field_validator("gear_ratios")(_falling_ratios)

    def gears(self, slot: int) -> tuple[float, tuple[float, ...]]:
        """Primary ratio and gear ratios of a slot: 1 = its own, 2 and on = the others."""
        if slot <= 1:
            return self.primary_ratio, self.gear_ratios
        other = self.others[slot - 2]
        return other.primary_ratio or self.primary_ratio, other.gear_ratios or self.gear_ratios


TYRE_MARKING = re.compile(r"^\s*(\d{2,3})\s*/\s*(\d{2,3})\s*-\s*(\d{2}(?:\.\d)?)\s*$")


SpeedSymbol = Literal["B", "C", "D", "E", "F", "G", "J", "K", "L", "M", "N", "P", "Q", "R", "S", "T", "U", "H", "V"]
SPEED_SYMBOLS: tuple[str, ...] = SpeedSymbol.__args__  # type: ignore[attr-defined]
TyreInside = Literal["tube", "heavy_tube", "mousse", "two_chamber", "tubeless"]
TYRE_INSIDES: tuple[str, ...] = TyreInside.__args__  # type: ignore[attr-defined]


class Tyre(Part):
    """The rear tyre."""

    marking: str = Field("140/80-18", max_length=20, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"})
    """width / aspect - rim, as on the sidewall"""
    rolling_radius_m: float | None = quantity(0.2, 0.45, "m", "length", None, source="from the marking; a roll-out is better")
    """measured: roll-out distance / 2 pi, rider aboard"""
    speed_symbol: SpeedSymbol | None = choice(None, source="not read off the sidewall yet")
    """letter on the sidewall after the load index"""
    inside: TyreInside = choice("tube", source="assumption")
    """what fills it"""
    inside_speed_m_per_s: float | None = quantity(5.0, 80.0, "m/s", "speed", None, source="assumption: tube and tubeless none, mousse 130 km/h")
    """highest speed its maker allows for what fills it"""

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


def _tyre_marking(value: str) -> str:
    if not TYRE_MARKING.match(value):
        raise ValueError("not_a_tyre_marking")
    return value


class OtherWheel(Part):
    """Another wheel with its tyre that fits."""

    marking: str = Field(max_length=20, json_schema_extra={"unit": "", "kind": "text"})
    """width / aspect - rim"""
    heavier_kg: float = quantity(-8.0, 8.0, "kg", "mass", 0.0, source="assumption: as heavy as the bike's own")
    """how much heavier than the bike's own wheel"""

    _marking = field_validator("marking")(_tyre_marking)


class Payload(Part):
    """Something that rides along: tower, bag, light, plate."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    mass_kg: float = quantity(0.05, 40.0, "kg", "mass")
    ahead_m: float = quantity(-0.6, 2.0, "m", "length")
    """ahead of the rear axle"""
    height_m: float = quantity(0.0, 2.0, "m", "length")
    """above the ground"""


class OtherTank(Part):
    """Another tank that fits, told by what it holds."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    capacity_m3: float = quantity(0.001, 0.04, "m^3", "volume")
    """what it holds"""
    unusable_m3: float = quantity(0.0, 0.006, "m^3", "fuel", 0.0007, source="common practice, no source: more in saddle tanks below the tap")
    """fuel of it that never reaches the engine"""
    front_share: float = quantity(0.0, 1.0, "1", "share", 0.55, source="assumption")
    """share of its fuel carried by the front wheel"""
    heavier_kg: float = quantity(-3.0, 8.0, "kg", "mass", 0.0, source="assumption: as heavy as its own")
    """how much heavier than its own, empty"""
    cost: float | None = quantity(0.0, 1e6, "1", "number", None, source="not said")
    """what it costs, in one's own money"""
    fitting_s: float | None = quantity(0.0, 360_000.0, "s", "minutes", None, source="not said")
    """time to fit it"""

    @model_validator(mode="after")
    def _gives_some(self) -> "OtherTank":
        if self.unusable_m3 >= self.capacity_m3:
            raise ValueError("unusable_m3:tank_under_unusable")
        return self


class LinkPoint(Part):
    """One line of a measured linkage."""

    wheel_m: float = quantity(0.0, 0.45, "m", "travel")
    """wheel travel, vertical at the axle"""
    shock_m: float = quantity(0.0, 0.25, "m", "travel")
    """shock stroke"""


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
    fork_oil_least_m: float = quantity(0.02, 0.3, "m", "travel", 0.080, source="assumption; the manual's rule")
    """least oil level below the tube's top that the maker allows: more oil than that locks the fork"""
    fork_oil_most_m: float = quantity(0.02, 0.3, "m", "travel", 0.150, source="assumption; the manual's rule")
    """lowest oil level below the tube's top that the maker allows: less oil than that draws air"""
    fork_springing: Literal["coil", "air"] = choice("coil", source="assumption")
    """what carries the front: coil springs, or air in a main chamber"""
    fork_springs: Literal["alike", "one", "different"] = choice("alike", source="assumption")
    """coil springs: one in each leg alike, in one leg only, or a different one in each"""
    fork_rate_is: Literal["straight", "changing"] = choice("straight", source="assumption")
    """whether a fork spring has one rate or changes it on the way"""
    shock_rate_is: Literal["straight", "changing"] = choice("straight", source="assumption")
    """whether the shock spring has one rate or changes it on the way"""
    fork_damping: Literal["both", "split"] = choice("both", source="assumption")
    """damping in both legs alike, or compression in one leg and rebound in the other"""
    fork_main_area_m2: float = quantity(2e-4, 4e-3, "m^2", "area", 1.2e-3, source="from memory")
    """air-sprung fork: piston area of the main chamber"""
    fork_main_length_m: float = quantity(0.1, 1.0, "m", "travel", 0.480, source="from memory")
    """air-sprung fork: length of the main chamber, topped out"""
    fork_balance_area_m2: float | None = quantity(1e-4, 4e-3, "m^2", "area", None, source="assumption: no balance chamber")
    """air-sprung fork: piston area of the balance chamber"""
    fork_balance_length_m: float = quantity(0.01, 0.5, "m", "travel", 0.060, source="from memory")
    """air-sprung fork: length of the balance chamber, topped out"""
    fork_top_out_n_per_m: float = quantity(0, 60_000, "N/m", "spring_rate", 0.0, source="assumption: none to speak of")
    """rate of the springs that catch the fork topped out, both legs together"""
    fork_top_out_m: float = quantity(0, 0.08, "m", "preload", 0.0, source="assumption: none to speak of")
    """length over which they work"""
    fork_preload_pitch_m: float | None = quantity(2e-4, 4e-3, "m", "bore", None, source="to be read or measured")
    """thread pitch of the fork's preload adjuster: how far one turn goes"""
    shock_preload_pitch_m: float | None = quantity(2e-4, 4e-3, "m", "bore", None, source="to be read or measured")
    """thread pitch of the shock's preload ring: how far one turn goes"""
    fork_friction_n: float = quantity(0, 300, "N", "force", 40.0, source="from memory")
    """seal friction of both legs"""
    rear_travel_m: float = quantity(0.05, 0.4, "m", "travel", 0.310, source="from memory")
    """vertical travel at the axle"""
    link_ratio_start: float = quantity(1.0, 5.0, "1", "ratio", 2.90, source="from memory")
    """wheel travel / shock travel, topped out"""
    link_ratio_end: float = quantity(1.0, 5.0, "1", "ratio", 2.50, source="from memory")
    """wheel travel / shock travel, at full travel"""
    linkage: Annotated[tuple[LinkPoint, ...], Field(max_length=200)] = ()
    """shock stroke against wheel travel as measured; left out = the two ratios"""
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
    clamp_offset_m: float = quantity(0.0, 0.06, "m", "preload", 0.022, source="from memory")
    """offset of the clamps: steering axis to fork legs"""
    axle_lead_m: float = quantity(0.0, 0.06, "m", "preload", 0.033, source="from memory")
    """axle ahead of the fork legs"""
    front_tyre: str = Field("80/100-21", max_length=20, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"})
    """width / aspect - rim of the front tyre"""
    seat_height_m: float = quantity(0.5, 1.2, "m", "length", 0.960, source="from memory")
    """seat above the ground, topped out"""
    seat_half_width_m: float = quantity(0.03, 0.3, "m", "travel", 0.110, source="assumption")
    """half of the seat's width where the leg goes down"""
    ground_clearance_m: float = quantity(0.1, 0.6, "m", "travel", 0.345, source="from memory")
    """lowest part between the wheels above the ground, topped out"""
    front_guard_gap_m: float | None = quantity(0.0, 0.6, "m", "travel", None, source="to measure")
    """front tyre to the mudguard or lower clamp along the leg, topped out"""
    front_clamp_gap_m: float | None = quantity(0.0, 0.6, "m", "travel", None, source="to measure")
    """front tyre to the lower clamp along the leg, topped out"""
    front_radiator_gap_m: float | None = quantity(0.0, 0.6, "m", "travel", None, source="to measure")
    """front tyre to the radiators along the leg, topped out"""
    bar_gap_m: float | None = quantity(0.0, 0.2, "m", "travel", None, source="to measure")
    """tops of the fork tubes to the bars above them, tubes flush"""
    rear_guard_gap_m: float | None = quantity(0.0, 0.7, "m", "travel", None, source="to measure")
    """rear tyre to the guard straight up, topped out"""
    rear_seat_gap_m: float | None = quantity(0.0, 0.7, "m", "travel", None, source="to measure")
    """rear tyre to the base of the seat straight up, topped out"""
    rear_exhaust_gap_m: float | None = quantity(0.0, 0.7, "m", "travel", None, source="to measure")
    """rear tyre to the exhaust straight up, topped out"""
    bar_height_m: float = quantity(0.7, 1.5, "m", "length", 1.190, source="from memory")
    """grips above the ground, topped out"""
    bar_ahead_m: float = quantity(0.5, 1.6, "m", "length", 1.010, source="from memory")
    """grips ahead of the rear axle"""
    peg_height_m: float = quantity(0.2, 0.7, "m", "length", 0.420, source="from memory")
    """pegs above the ground, topped out"""
    peg_ahead_m: float = quantity(0.2, 1.2, "m", "length", 0.560, source="from memory")
    """pegs ahead of the rear axle"""
    side_stand_m: float | None = quantity(0.1, 0.8, "m", "travel", None, source="to measure")
    """side stand, pivot to foot"""
    payload: Annotated[tuple[Payload, ...], Field(max_length=8)] = ()
    """what can ride along; the setup says how many of them are aboard, in their order"""
    other_front_wheels: Annotated[tuple[OtherWheel, ...], Field(max_length=5)] = ()
    """other front wheels that fit; the setup says which is in"""
    other_rear_wheels: Annotated[tuple[OtherWheel, ...], Field(max_length=5)] = ()
    """other rear wheels that fit; the setup says which is in"""
    home_height_m: float = quantity(-430, 4000, "m", "height", 0.0, source="assumption: sea level")
    """height at which tyres are set and fork legs were closed"""
    home_temperature_k: float = quantity(243.15, 323.15, "K", "temperature", 291.15, source="assumption: a garage")
    """temperature at which tyres are set and fork legs were closed"""
    fuel_front_share: float = quantity(0.0, 1.0, "1", "share", 0.55, source="assumption")
    """share of the fuel's mass carried by the front wheel"""
    other_tanks: Annotated[tuple[OtherTank, ...], Field(max_length=8)] = ()
    """other tanks that fit; the fitted one is told by what it holds"""
    unusable_fuel_m3: float = quantity(0.0, 0.005, "m^3", "fuel", 0.0005, source="common practice, no source: 0.3 to 0.8 L")
    """fuel that never reaches the engine"""

    _front_tyre = field_validator("front_tyre")(_tyre_marking)

    @field_validator("linkage")
    @classmethod
    def _linkage(cls, value: tuple[LinkPoint, ...]) -> tuple[LinkPoint, ...]:
        if value and len(value) < 3:
            raise ValueError("too_few")
        if value and (value[0].wheel_m, value[0].shock_m) != (0.0, 0.0):
            raise ValueError("linkage_not_from_zero")
        if any(b.wheel_m <= a.wheel_m or b.shock_m <= a.shock_m for a, b in itertools.pairwise(value)):
            raise ValueError("linkage_not_rising")
        return value

    @model_validator(mode="after")
    def _whole(self) -> "Frame":
        if self.linkage and self.linkage[-1].wheel_m < self.rear_travel_m - 1e-3:
            raise ValueError("linkage:linkage_too_short")
        if self.fork_oil_least_m >= self.fork_oil_most_m:
            raise ValueError("fork_oil_least_m:oil_order")
        return self


class Bike(Part):
    """One bike."""

    name: str = Field(min_length=1, max_length=60, json_schema_extra={"unit": "", "kind": "text"})
    """what you call it"""
    engine: Engine
    transmission: Transmission
    tyre: Tyre = Field(default_factory=Tyre)
    frame: Frame
    fork_damper: DamperFacts | None = None
    """insides of each fork leg; left out = a stock one, which stands for both legs"""
    shock_damper: DamperFacts = STOCK_FACTS["shock"]

    def damper(self, end: str) -> DamperFacts:
        """What stays in the damper of "fork" or "shock"; stock when nobody described it."""
        return (self.fork_damper or STOCK_FACTS["fork"]) if end == "fork" else self.shock_damper

    @property
    def is_two_stroke(self) -> bool:
        return self.engine.kind.endswith("two_stroke")

    @property
    def metering(self) -> str:
        """How the engine is fed: "jetted", "rod", "injected" or "electric"."""
        return metering_of(self.engine.kind)
