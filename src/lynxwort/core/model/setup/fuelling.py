"""What decides the mixture, and all that is bolted on or poured in and moves it."""

from typing import Annotated

from pydantic import Field

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike import AXIS_RPM, AXIS_THROTTLE
from lynxwort.core.model.race import Ground


class FuellingSetup(Part):
    """Jets, rod or map, fuel and oil, fittings and ignition."""

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
