"""What does not fit together: a setup and the bike it is for."""

from lynxwort.core.model.bike import FITTING_PLACES, Bike, Electric, Engine, Injected, Jetted
from lynxwort.core.model.damper import PLACES
from lynxwort.core.model.fitted import unusable_of
from lynxwort.core.model.setup import Setup


def _engine_slot_misfit(engine: Engine, setup: Setup) -> str | None:
    """A slot beyond what the engine has."""
    if isinstance(engine, Electric):
        return None
    for place in FITTING_PLACES:
        if (getattr(setup, place) or 1) > 1 + len(engine.fittings_of(place)):
            return f"setup.{place}:beyond_fittings"
    if (setup.head_insert or 1) > 1 + len(engine.head_inserts):
        return "setup.head_insert:beyond_fittings"
    if (setup.ignition_map or 1) > 1 + len(engine.ignition_maps):
        return "setup.ignition_map:beyond_fittings"
    if isinstance(engine, Jetted) and (setup.needle or 1) > 1 + len(engine.carburettor.needles):
        return "setup.needle:beyond_needles"
    if isinstance(engine, Injected):
        cells = len(engine.injection.rpm_axis) * len(engine.injection.throttle_axis)
        if setup.map_trims and len(setup.map_trims) != cells:
            return "setup.map_trims:trims_of_another_map"
        if any(slot > len(engine.injection.map_shifts) for slot in setup.map_by_ground.values()):
            return "setup.map_by_ground:beyond_maps"
    return None


def _damper_misfit(bike: Bike, setup: Setup) -> str | None:
    """Clicks beyond what an adjuster has, or a stack that its clamp or ports do not take."""
    for end, damper in (("fork", bike.damper("fork")), ("shock", bike.damper("shock"))):
        for way in ("compression", "rebound"):
            if (getattr(setup, f"{end}_{way}_clicks") or 0) > getattr(damper, f"{way}_clicks"):
                return f"setup.{end}_{way}_clicks:beyond_clicks"
        for place in PLACES:
            stack, seat = getattr(setup, f"{end}_{place}_stack"), getattr(damper, place)
            if stack and stack[0].diameter_m < 2.0 * seat.port_outer_m - 1e-9:
                return f"setup.{end}_{place}_stack:face_within_ports"
    return (
        "setup.shock_high_speed_turns:beyond_clicks"
        if (setup.shock_high_speed_turns or 0.0) > bike.shock_damper.high_speed_turns
        else None
    )


def _slot_misfit(bike: Bike, setup: Setup) -> str | None:
    """A slot beyond what the bike has, as "path:code"."""
    if (setup.gearbox or 1) > 1 + len(bike.transmission.others):
        return "setup.gearbox:beyond_gearboxes"
    for end, others in (("front", bike.frame.other_front_wheels), ("rear", bike.frame.other_rear_wheels)):
        if (getattr(setup, f"{end}_wheel") or 1) > 1 + len(others):
            return f"setup.{end}_wheel:beyond_wheels"
    for end, spacer_m in (("fork", setup.fork_spacer_m), ("shock", setup.shock_spacer_m)):
        if (spacer_m or 0.0) > bike.frame.most_spacer_m("front" if end == "fork" else "rear") + 1e-9:
            return f"setup.{end}_spacer_m:spacer_beyond_travel"
    misfit = _engine_slot_misfit(bike.engine, setup) or _damper_misfit(bike, setup)
    if misfit:
        return misfit
    return "setup.payload_left:beyond_payload" if (setup.payload_left or 0) > len(bike.frame.payload) else None


def setup_misfit(bike: Bike, setup: Setup) -> str | None:
    """What keeps a setup from fitting a bike, as "path:code"; None when it fits."""
    engine, slot = bike.engine, _slot_misfit(bike, setup)
    if slot:
        return slot
    if any(_slot_misfit(bike, setup.for_rider(t.rider, t.leg)) for t in setup.turned):
        return "setup.turned:turned_beyond"
    if isinstance(engine, Electric):
        if setup.pack_energy_j is None:
            return "setup.pack_energy_j:missing"
        if (setup.power_mode or 1) > len(engine.mode_power_shares):
            return "setup.power_mode:beyond_modes"
        return None
    if setup.tank_capacity_m3 is None:
        return "setup.tank_capacity_m3:missing"
    if isinstance(engine, Jetted) and setup.main_jet is None:
        return "setup.main_jet:missing"
    if isinstance(engine, Injected) and (setup.map_slot or 1) > len(engine.injection.map_shifts):
        return "setup.map_slot:beyond_maps"
    if setup.fill_m3 > setup.tank_capacity_m3 + 1e-9:
        return "setup.fuel_fill_m3:fill_over_tank"
    if isinstance(engine, Jetted) and setup.needle_clip > engine.carburettor.clip_positions:
        return "setup.needle_clip:clip_beyond_needle"
    if setup.fill_m3 <= unusable_of(bike.frame, setup):
        return "setup.fuel_fill_m3:fill_under_unusable"
    return None
