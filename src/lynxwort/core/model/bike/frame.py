"""Frame, fork, swingarm, tanks and what rides along."""

import itertools
from math import floor
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.bike.tyre import OtherWheel, tyre_marking


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
    unusable_m3: float = quantity(
        0.0, 0.006, "m^3", "fuel", 0.0007, source="common practice, no source: more in saddle tanks below the tap"
    )
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
    fork_balance_area_m2: float | None = quantity(
        1e-4, 4e-3, "m^2", "area", None, source="assumption: no balance chamber"
    )
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
    chain_play_m: float = quantity(
        0.0, 0.08, "m", "preload", 0.020, source="common practice, no source; never tighter than the manual"
    )
    """play to be left where the chain is tightest"""
    chain_links: int | None = quantity(60, 160, "1", "count", None, source="assumption: the even number that fits best")
    """links of the fitted chain"""
    clamp_offset_m: float = quantity(0.0, 0.06, "m", "preload", 0.022, source="from memory")
    """offset of the clamps: steering axis to fork legs"""
    axle_lead_m: float = quantity(0.0, 0.06, "m", "preload", 0.033, source="from memory")
    """axle ahead of the fork legs"""
    front_tyre: str = Field(
        "80/100-21", max_length=20, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"}
    )
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
    unusable_fuel_m3: float = quantity(
        0.0, 0.005, "m^3", "fuel", 0.0005, source="common practice, no source: 0.3 to 0.8 L"
    )
    """fuel that never reaches the engine"""

    _front_tyre = field_validator("front_tyre")(tyre_marking)

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

    def most_spacer_m(self, end: str) -> float:
        """The thickest spacer [m] that is reckoned with inside a fork leg ("front") or a shock ("rear"): a third of the
        stroke, to the millimetre (assumption; the maker of the kit says less).
        """
        mean = 2.0 / (1.0 / self.link_ratio_start + 1.0 / self.link_ratio_end)
        stroke = self.linkage[-1].shock_m if self.linkage else self.rear_travel_m / mean
        return floor(1000.0 * (self.fork_travel_m if end == "front" else stroke) / 3.0 + 1e-9) / 1000.0
