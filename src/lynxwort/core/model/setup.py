"""The setup: every value on the bike that a hand can change."""

from typing import Annotated

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike import AXIS_RPM, AXIS_THROTTLE
from lynxwort.core.model.damper import ShimStack, StackShim
from lynxwort.core.model.race import Ground


class StopFill(Part):
    """What is done at one passing of a refuel point: filled to a level, or a fixed volume poured in; both left out = filled up."""

    passing: int = quantity(1, 400, "1", "count")
    """which passing of the race, all refuel points counted in order"""
    to_level_m3: float | None = quantity(0.0, 0.04, "m^3", "fuel", None, source="assumption: full")
    add_m3: float | None = quantity(0.0, 0.04, "m^3", "fuel", None, source="assumption: to a level")


class Setup(Part):
    """All that can be swapped or turned. Fitted parts stand by value; `part_ids` says which part they came from."""

    front_sprocket_teeth: int = quantity(8, 20, "1", "count")
    """teeth of the countershaft sprocket"""
    rear_sprocket_teeth: int = quantity(28, 70, "1", "count")
    """teeth of the wheel sprocket"""
    gearbox: int | None = quantity(1, 7, "1", "count", None, source="assumption: the bike's own")
    """which gears are in: 1 = the bike's own, then the others in their order"""
    main_jet: float | None = quantity(30, 900, "1", "number", None, source="needed with a jetted carburettor")
    """number on the main jet"""
    needle_clip: int = quantity(1, 12, "1", "count", 3, source="assumption: middle groove")
    """clip groove counted from the top: 1 = needle lowest = leanest"""
    needle: int | None = quantity(1, 9, "1", "count", None, source="assumption: the bike's own")
    """which needle is in: 1 = the bike's own, then the others in their order"""
    needle_jet_bore_m: float | None = quantity(1e-3, 6e-3, "m", "bore", None, source="assumption: as measured with the needle")
    """bore of the fitted needle jet"""
    pilot_jet: float | None = quantity(10, 400, "1", "number", None, source="assumption: the one it ran right with")
    """number on the pilot jet"""
    screw_turns: float | None = quantity(0.0, 8.0, "1", "factor", None, source="common practice, no source: one and a half")
    """turns of the air or fuel screw out from fully in"""
    slide_cutaway: float | None = quantity(1.0, 12.0, "1", "number", None, source="assumption: the one it ran right with")
    """number on the slide; higher = more cut away = leaner off idle"""
    metering_rod: int | None = quantity(-8, 8, "1", "count", None, source="assumption: the rod it came with")
    """metering rod, in sizes richer than the one it came with"""
    knob_clicks: int | None = quantity(-60, 60, "1", "count", None, source="assumption: the base setting")
    """clicks of the mixture knob from the base setting, + = richer"""
    map_slot: int | None = quantity(1, 8, "1", "count", None, source="assumption: the first map")
    """number of the fuel map in use"""
    fuel_trim: float | None = quantity(-0.4, 0.6, "1", "richness", None, source="assumption: none")
    """trim over the whole map, + = richer"""
    map_trims: tuple[Annotated[float, Field(ge=-0.4, le=0.6)], ...] = Field(
        (), max_length=AXIS_RPM * AXIS_THROTTLE, json_schema_extra={"unit": "1", "kind": "grid", "source": "assumption: none"}
    )
    """trim of each cell of the map in use, row by row of revs, + = richer; left out = none"""
    map_by_ground: dict[Ground, Annotated[int, Field(ge=1, le=8)]] = Field(default_factory=dict)
    """kind of ground -> map that the rider switches to there"""
    fuel: int | None = quantity(1, 8, "1", "count", None, source="assumption: petrol without ethanol")
    """which fuel: 1 petrol, 2 E5, 3 E10, 4 E20, 5 E85, 6 methanol, 7 race fuel"""
    fuel_octane: float | None = quantity(80, 120, "1", "number", None, source="assumption: by the fuel")
    """research octane number of the fuel"""
    airbox: int | None = quantity(1, 20, "1", "count", None, source="assumption: its own")
    """which airbox is on: 1 = its own, then the others in their order"""
    exhaust: int | None = quantity(1, 20, "1", "count", None, source="assumption: its own")
    """which exhaust is on"""
    exhaust_insert: int | None = quantity(1, 20, "1", "count", None, source="assumption: its own")
    """which insert is in the exhaust"""
    reeds: int | None = quantity(1, 20, "1", "count", None, source="assumption: its own")
    """which reeds are in"""
    air_filter: int | None = quantity(1, 20, "1", "count", None, source="assumption: its own")
    """which air filter is in"""
    cylinder: int | None = quantity(1, 20, "1", "count", None, source="assumption: its own")
    """which cylinder is on"""
    head_insert: int | None = quantity(1, 7, "1", "count", None, source="assumption: its own")
    """which head or insert is in"""
    ignition_map: int | None = quantity(1, 8, "1", "count", None, source="assumption: its own")
    """which ignition map is on"""
    power_valve_turns: float | None = quantity(-6.0, 6.0, "1", "factor", None, source="assumption: as it came")
    """preload of the power valve's spring, turns from as it came, + = opens later"""
    premix_ratio: float | None = quantity(10, 120, "1", "number", None, source="assumption: no oil in the fuel")
    """litres of petrol to one litre of oil; left out = none"""
    fork_spring_rate_n_per_m: float = quantity(1000, 20000, "N/m", "spring_rate")
    """rate of the spring in one leg, both legs alike"""
    fork_other_rate_n_per_m: float | None = quantity(0, 20000, "N/m", "spring_rate", None, source="assumption: both legs alike")
    """rate of the spring in the other leg; only asked where the two legs differ"""
    fork_second_rate_n_per_m: float | None = quantity(1000, 40000, "N/m", "spring_rate", None, source="assumption: straight, one rate")
    """rate that a fork spring comes to; left out = straight"""
    fork_second_from_m: float | None = quantity(0.0, 0.4, "m", "travel", None, source="assumption: from the start")
    """deflection of a fork spring from which its rate rises, preload counted in; as the next one = a soft part that goes solid"""
    fork_second_at_m: float | None = quantity(0.002, 0.4, "m", "travel", None, source="assumption: 150 mm")
    """deflection of a fork spring from which it has the second rate, preload counted in"""
    fork_preload_m: float = quantity(0, 0.04, "m", "preload", 0.005, source="assumption")
    """length by which the fork springs are squeezed, topped out"""
    shock_spring_rate_n_per_m: float = quantity(10000, 250000, "N/m", "spring_rate")
    """rate of the shock spring"""
    shock_second_rate_n_per_m: float | None = quantity(10000, 400000, "N/m", "spring_rate", None, source="assumption: straight, one rate")
    """rate that the shock spring comes to; left out = straight"""
    shock_second_from_m: float | None = quantity(0.0, 0.2, "m", "travel", None, source="assumption: from the start")
    """deflection of the shock spring from which its rate rises, preload counted in; as the next one = a soft part that goes solid"""
    shock_second_at_m: float | None = quantity(0.002, 0.2, "m", "travel", None, source="assumption: 30 mm")
    """deflection of the shock spring from which it has the second rate, preload counted in"""
    fork_oil_up_m: float | None = quantity(-0.1, 0.1, "m", "travel", None, source="assumption: as the bike's facts say")
    """oil level raised, legs together, + = more oil, less air"""
    fork_air_pressure_pa: float | None = quantity(1e5, 2.5e6, "Pa", "tyre_pressure", None, source="from memory: 8 bar")
    """air-sprung fork: main chamber by the gauge, topped out"""
    fork_balance_pressure_pa: float | None = quantity(0.0, 2.5e6, "Pa", "tyre_pressure", None, source="from memory: 6 bar")
    """air-sprung fork: balance chamber by the gauge, topped out"""
    shock_preload_m: float = quantity(0, 0.04, "m", "preload", 0.010, source="assumption")
    """length by which the shock spring is squeezed, topped out"""
    fork_up_m: float | None = quantity(-0.02, 0.04, "m", "travel", None, source="assumption: flush, as it was measured")
    """tubes raised through the clamps, + = front goes down"""
    rear_up_m: float | None = quantity(-0.06, 0.06, "m", "travel", None, source="assumption: as it was measured")
    """rear raised at the axle by shock length or link"""
    offset_change_m: float | None = quantity(-0.015, 0.015, "m", "travel", None, source="assumption: the bike's own clamps")
    """offset of the fitted clamps against the bike's own"""
    front_wheel: int | None = quantity(1, 6, "1", "count", None, source="assumption: the bike's own")
    """which front wheel is in: 1 = the bike's own, then the others in their order"""
    rear_wheel: int | None = quantity(1, 6, "1", "count", None, source="assumption: the bike's own")
    """which rear wheel is in: 1 = the bike's own, then the others in their order"""
    bar_up_m: float | None = quantity(-0.06, 0.1, "m", "travel", None, source="assumption: as measured")
    """bars raised"""
    bar_ahead_m: float | None = quantity(-0.06, 0.06, "m", "travel", None, source="assumption: as measured")
    """bars moved ahead"""
    peg_down_m: float | None = quantity(-0.03, 0.06, "m", "travel", None, source="assumption: as measured")
    """pegs lowered"""
    seat_up_m: float | None = quantity(-0.08, 0.08, "m", "travel", None, source="assumption: as measured")
    """seat raised by foam"""
    payload_left: int | None = quantity(0, 8, "1", "count", None, source="assumption: everything rides along")
    """how many of the things that ride along stay at home, the last first"""
    front_tyre_pressure_pa: float | None = quantity(0.0, 4e5, "Pa", "tyre_pressure", None, source="common practice, no source: 0.9 bar")
    """front tyre, by the gauge at home"""
    rear_tyre_pressure_pa: float | None = quantity(0.0, 4e5, "Pa", "tyre_pressure", None, source="common practice, no source: 0.85 bar")
    """rear tyre, by the gauge at home"""
    fork_compression_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the fork's compression adjuster, counted out from fully in"""
    fork_rebound_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the fork's rebound adjuster, counted out from fully in"""
    shock_compression_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the shock's low-speed compression adjuster, counted out from fully in"""
    shock_rebound_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the shock's rebound adjuster, counted out from fully in"""
    shock_high_speed_turns: float | None = quantity(0.0, 6.0, "1", "factor", None, source="assumption: fully out")
    """turns of the shock's high-speed adjuster in from fully out"""
    fork_base_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the fork's base valve, from the face to the clamp"""
    fork_piston_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the fork's compression face of the piston (mid valve), from the face to the clamp"""
    fork_rebound_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the fork's rebound face of the piston, from the face to the clamp"""
    shock_base_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the shock's base valve, from the face to the clamp"""
    shock_piston_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the shock's compression face of the piston (mid valve), from the face to the clamp"""
    shock_rebound_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the shock's rebound face of the piston, from the face to the clamp"""
    tank_capacity_m3: float | None = quantity(0.001, 0.04, "m^3", "volume", None, source="needed with an engine that burns fuel")
    """what the fitted tank holds"""
    fuel_fill_m3: float | None = quantity(0.0005, 0.04, "m^3", "volume", None, source="assumption: tank full")
    """fuel aboard at the start"""
    stops: Annotated[tuple[StopFill, ...], Field(max_length=80)] | None = Field(
        None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: filled to the starting level at every refuel point"}
    )
    """stops planned, in order; empty = none"""
    pack_energy_j: float | None = quantity(1e6, 1.2e8, "J", "energy", None, source="needed with an electric motor")
    """nominal energy of the fitted pack"""
    charge_share: float | None = quantity(0.2, 1.0, "1", "share", None, source="assumption: fully charged")
    """charge at the start"""
    power_mode: int | None = quantity(1, 8, "1", "count", None, source="assumption: the strongest")
    """power mode, 1 = strongest"""
    part_ids: dict[str, str] = Field(default_factory=dict)
    """field name -> id of the part it came from"""

    @model_validator(mode="after")
    def _springs(self) -> "Setup":
        for end in ("fork", "shock"):
            start, at = getattr(self, f"{end}_second_from_m"), getattr(self, f"{end}_second_at_m")
            if start is not None and at is not None and start > at:
                raise ValueError(f"{end}_second_from_m:stretch_order")
        if self.stops and any(b.passing <= a.passing for a, b in zip(self.stops, self.stops[1:], strict=False)):
            raise ValueError("stops:stops_not_in_order")
        return self

    @property
    def fill_m3(self) -> float:
        """Fuel aboard at the start [m3]; none without a tank."""
        return (self.tank_capacity_m3 or 0.0) if self.fuel_fill_m3 is None else self.fuel_fill_m3


class PartsBox(Part):
    """What the rider owns, by tunable."""

    front_sprocket_teeth: tuple[float, ...] = ()
    rear_sprocket_teeth: tuple[float, ...] = ()
    main_jet: tuple[float, ...] = ()
    pilot_jet: tuple[float, ...] = ()
    fork_spring_rate_n_per_m: tuple[float, ...] = ()
    shock_spring_rate_n_per_m: tuple[float, ...] = ()
    tank_capacity_m3: tuple[float, ...] = ()
    metering_rod: tuple[float, ...] = ()
    pack_energy_j: tuple[float, ...] = ()
    shims: Annotated[tuple[StackShim, ...], Field(max_length=400)] = ()
    """shims lying about, by size"""

    def owned(self, tunable: str) -> tuple[float, ...]:
        """Values owned for one tunable; empty for a tunable that needs no part."""
        return getattr(self, tunable, ())
