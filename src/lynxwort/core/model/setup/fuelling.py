"""What decides the mixture, and all that is bolted on or poured in and moves it."""

from collections.abc import Callable
from functools import partial
from typing import Annotated

from pydantic import Field

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike import AXIS_RPM, AXIS_THROTTLE, Bike, Combustion, Injected, Jetted
from lynxwort.core.model.race import Ground
from lynxwort.core.model.tunable import BURNS, SetWhole, Tunable

MIXTURE = ("fuelling.lean_margin_min", "fuelling.richness_full_thinnest")
SMALL_OPENINGS = ("fuelling.lean_margin.closed", "fuelling.lean_margin.eighth", "fuelling.lean_margin.quarter")
NEEDLE = ("fuelling.lean_margin.quarter", "fuelling.lean_margin.half", "fuelling.richness_full_thinnest")
BREATH = ("fuelling.lean_margin_min", "fuelling.richness_full_thinnest", "drive.metres_short")
HEAD = ("fuelling.detonation_margin", "drive.metres_short", "drive.top_speed")
jetted = partial(Tunable, station="fuelling", engines=("jetted",), by_hand=True)
rodded = partial(Tunable, station="fuelling", engines=("rod",), step=1, unset=0, signed=True, by_hand=True)
injected = partial(Tunable, station="fuelling", engines=("injected",), by_hand=True)
burning = partial(Tunable, station="fuelling", engines=BURNS)
breathing = partial(burning, group="breath", shows=BREATH, step=1, unset=1, as_built=True)
#: fuels that a setup can name (physics.fuelling.fuels.FUELS)
FUEL_COUNT = 7


def _grooves(bike: Bike) -> int:
    return bike.engine.carburettor.clip_positions if isinstance(bike.engine, Jetted) else 0


def _needles(bike: Bike) -> list[str]:
    return [n.name for n in bike.engine.carburettor.needles] if isinstance(bike.engine, Jetted) else []


def _maps(bike: Bike) -> int:
    return len(bike.engine.injection.map_shifts) if isinstance(bike.engine, Injected) else 0


def _fittings(place: str) -> Callable[[Bike], list[str]]:
    return lambda bike: [f.name for f in bike.engine.fittings_of(place)] if isinstance(bike.engine, Combustion) else []


def _head_inserts(bike: Bike) -> list[str]:
    return [x.name for x in bike.engine.head_inserts] if isinstance(bike.engine, Combustion) else []


def _ignition_maps(bike: Bike) -> list[str]:
    return [x.name for x in bike.engine.ignition_maps] if isinstance(bike.engine, Combustion) else []


def _adjustable_valve(bike: Bike) -> bool:
    return isinstance(bike.engine, Combustion) and bike.engine.power_valve == "adjustable"


class FuellingSetup(Part):
    """Jets, rod or map, fuel and oil, fittings and ignition."""

    main_jet: Annotated[float | None, jetted(shows=MIXTURE, step=2.5, flow_step=10.0)] = quantity(
        30, 900, "1", "number", None, source="needed with a jetted carburettor"
    )
    """number on the main jet"""
    needle_clip: Annotated[int, jetted(shows=NEEDLE, step=1, most=_grooves)] = quantity(
        1, 12, "1", "count", 3, source="assumption: middle groove"
    )
    """clip groove counted from the top: 1 = needle lowest = leanest"""
    pilot_jet: Annotated[float | None, jetted(shows=SMALL_OPENINGS, step=2.5)] = quantity(
        10, 400, "1", "number", None, source="assumption: the one it ran right with"
    )
    """number on the pilot jet"""
    screw_turns: Annotated[float | None, jetted(shows=SMALL_OPENINGS, step=0.25, unset=1.5, as_built=True)] = quantity(
        0.0, 8.0, "1", "factor", None, source="common practice, no source: one and a half"
    )
    """turns of the air or fuel screw out from fully in"""
    knob_clicks: Annotated[int | None, rodded(shows=MIXTURE)] = quantity(
        -60, 60, "1", "count", None, source="assumption: the base setting"
    )
    """clicks of the mixture knob from the base setting, + = richer"""
    metering_rod: Annotated[int | None, rodded(shows=MIXTURE)] = quantity(
        -8, 8, "1", "count", None, source="assumption: the rod it came with"
    )
    """metering rod, in sizes richer than the one it came with"""
    fuel_trim: Annotated[float | None, injected(shows=MIXTURE, step=0.01, unset=0.0, signed=True)] = quantity(
        -0.4, 0.6, "1", "richness", None, source="assumption: none"
    )
    """trim over the whole map, + = richer"""
    map_slot: Annotated[
        int | None, injected(shows=MIXTURE, step=1, unset=1, there=lambda bike: _maps(bike) != 1, most=_maps)
    ] = quantity(1, 8, "1", "count", None, source="assumption: the first map")
    """number of the fuel map in use"""
    map_trims: Annotated[tuple[Annotated[float, Field(ge=-0.4, le=0.6)], ...], SetWhole("fuelling")] = Field(
        (),
        max_length=AXIS_RPM * AXIS_THROTTLE,
        json_schema_extra={"unit": "1", "kind": "grid", "source": "assumption: none"},
    )
    """trim of each cell of the map in use, row by row of revs, + = richer; left out = none"""
    map_by_ground: Annotated[dict[Ground, Annotated[int, Field(ge=1, le=8)]], SetWhole("fuelling")] = Field(
        default_factory=dict
    )
    """kind of ground -> map that the rider switches to there"""
    needle: Annotated[
        int | None, jetted(group="needle", shows=NEEDLE, step=1, unset=1, as_built=True, others=_needles)
    ] = quantity(1, 9, "1", "count", None, source="assumption: the bike's own")
    """which needle is in: 1 = the bike's own, then the others in their order"""
    needle_jet_bore_m: Annotated[float | None, jetted(group="needle", shows=NEEDLE, step=2e-5, as_built=True)] = (
        quantity(1e-3, 6e-3, "m", "bore", None, source="assumption: as measured with the needle")
    )
    """bore of the fitted needle jet"""
    slide_cutaway: Annotated[float | None, jetted(group="needle", shows=SMALL_OPENINGS, step=0.5, as_built=True)] = (
        quantity(1.0, 12.0, "1", "number", None, source="assumption: the one it ran right with")
    )
    """number on the slide; higher = more cut away = leaner off idle"""
    premix_ratio: Annotated[
        float | None,
        burning(
            group="fuel",
            shows=("fuelling.lean_margin_min", "fuelling.oil_per_fill"),
            step=5.0,
            there=lambda bike: bike.is_two_stroke,
        ),
    ] = quantity(10, 120, "1", "number", None, source="assumption: no oil in the fuel")
    """litres of petrol to one litre of oil; left out = none"""
    fuel: Annotated[
        int | None,
        burning(
            group="fuel",
            shows=("fuelling.lean_margin_min", "fuelling.detonation_margin", "range.fuel_per_lap"),
            step=1,
            unset=1,
            as_built=True,
            most=lambda _bike: FUEL_COUNT,
        ),
    ] = quantity(1, 8, "1", "count", None, source="assumption: petrol without ethanol")
    """which fuel: 1 petrol, 2 E5, 3 E10, 4 E20, 5 E85, 6 methanol, 7 race fuel"""
    fuel_octane: Annotated[
        float | None, burning(group="fuel", shows=("fuelling.detonation_margin",), step=1.0, as_built=True)
    ] = quantity(80, 120, "1", "number", None, source="assumption: by the fuel")
    """research octane number of the fuel"""
    airbox: Annotated[int | None, breathing(others=_fittings("airbox"))] = quantity(
        1, 20, "1", "count", None, source="assumption: its own"
    )
    """which airbox is on: 1 = its own, then the others in their order"""
    exhaust: Annotated[int | None, breathing(others=_fittings("exhaust"))] = quantity(
        1, 20, "1", "count", None, source="assumption: its own"
    )
    """which exhaust is on"""
    exhaust_insert: Annotated[int | None, breathing(others=_fittings("exhaust_insert"))] = quantity(
        1, 20, "1", "count", None, source="assumption: its own"
    )
    """which insert is in the exhaust"""
    reeds: Annotated[int | None, breathing(others=_fittings("reeds"))] = quantity(
        1, 20, "1", "count", None, source="assumption: its own"
    )
    """which reeds are in"""
    air_filter: Annotated[int | None, breathing(others=_fittings("air_filter"))] = quantity(
        1, 20, "1", "count", None, source="assumption: its own"
    )
    """which air filter is in"""
    cylinder: Annotated[int | None, breathing(others=_fittings("cylinder"))] = quantity(
        1, 20, "1", "count", None, source="assumption: its own"
    )
    """which cylinder is on"""
    emission: Annotated[int | None, breathing(others=_fittings("emission"))] = quantity(
        1, 20, "1", "count", None, source="assumption: as it came"
    )
    """emission parts: 1 = as it came, then the others in their order"""
    head_insert: Annotated[
        int | None, burning(group="head", shows=HEAD, step=1, unset=1, as_built=True, others=_head_inserts)
    ] = quantity(1, 7, "1", "count", None, source="assumption: its own")
    """which head or insert is in"""
    ignition_map: Annotated[
        int | None, burning(group="head", shows=HEAD, step=1, unset=1, as_built=True, others=_ignition_maps)
    ] = quantity(1, 8, "1", "count", None, source="assumption: its own")
    """which ignition map is on"""
    power_valve_turns: Annotated[
        float | None,
        burning(
            group="head",
            shows=("drive.metres_short", "drive.lap_time", "drive.clutch_energy"),
            step=0.25,
            unset=0.0,
            as_built=True,
            there=_adjustable_valve,
        ),
    ] = quantity(-6.0, 6.0, "1", "factor", None, source="assumption: as it came")
    """preload of the power valve's spring, turns from as it came, + = opens later"""
