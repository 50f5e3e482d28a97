"""Every finding the product can say is reached by a scenario, has the verdict it should, and reads as words."""

import math
import re

import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import (
    Carburettor,
    FourStrokeInjected,
    FourStrokeJetted,
    Item,
    Kit,
    Payload,
    Transmission,
    TwoStrokeRod,
)
from lynxwort.core.model.damper import stack_of
from lynxwort.core.model.race import (
    Awaited,
    CrewPlan,
    CriticalHill,
    Drive,
    GroundSegment,
    RaceAir,
    RefuelPoint,
    Relay,
    WeekPlan,
    Zone,
)
from lynxwort.core.model.readings import (
    FeelReading,
    FlowReading,
    GeometryReading,
    HandsReading,
    HillReading,
    LogCell,
    LogReading,
    RiddenLapReading,
    RollOutReading,
    SoundReading,
    SteadyReading,
    Under,
    WeighingReading,
)
from lynxwort.core.model.setup import Setup, StopFill
from lynxwort.core.model.track import Track
from lynxwort.core.model.trials import Trial
from lynxwort.core.report import SEVERITIES
from lynxwort.core.standin.session import ride
from lynxwort.core.stations.chassis.springs import PRELOAD_EXISTS_M
from lynxwort.core.tunables import TUNABLES
from lynxwort.core.withdraw import Failed
from lynxwort.words.catalogue import FINDINGS, INPUT_NAMES, STATION_NAMES, say
from tests.logged import H, a_log, bolt, check, meter, part, wear
from tests.support import CACHE, demo_inputs, demo_report, setup_with, whooped


def with_setup(**changes):
    return demo_inputs().model_copy(update={"setup": setup_with(**changes)})


def oiled(tank_m3):
    """The demo with an oil tank of its own."""
    bike = demo_inputs().bike
    engine = bike.engine.model_copy(update={"lubrication": "oil_tank", "oil_tank_m3": tank_m3})
    return demo_inputs().model_copy(
        update={"bike": bike.model_copy(update={"engine": engine}), "setup": setup_with(premix_ratio=None)}
    )


def with_stage(**changes):
    race = demo_inputs().race
    return demo_inputs().model_copy(
        update={"race": race.model_copy(update={"stages": (race.stages[0].model_copy(update=changes),)})}
    )


def fuelled(laps=3, at_m=20_000.0, **setup):
    """The demo with one refuel point."""
    made = with_stage(laps=laps, refuel_points=(RefuelPoint(at_m=at_m),))
    return made.model_copy(update={"setup": setup_with(**setup)})


def driven(takes_s):
    """The demo, its crew driving for so long between its two points."""
    drives = (Drive(end="ford", takes_s=300.0), Drive(start="ford", end="quarry gate", takes_s=takes_s))
    race = demo_inputs().race.model_copy(update={"crew": CrewPlan(drives=drives)})
    return demo_inputs().model_copy(update={"race": race})


def with_air(**changes):
    race = demo_inputs().race
    return demo_inputs().model_copy(
        update={"race": race.model_copy(update={"air": race.air.model_copy(update=changes)})}
    )


def with_readings(change):
    return demo_inputs().model_copy(update={"readings": tuple(filter(None, map(change, demo_inputs().readings)))})


def with_track(**changes):
    track = demo_inputs().courses["brackenmere"]
    known = {k: getattr(track, k) for k in Track.model_fields}
    return demo_inputs().model_copy(update={"courses": {"brackenmere": Track(**(known | changes))}})


def with_bike(**changes):
    return demo_inputs().model_copy(update={"bike": demo_inputs().bike.model_copy(update=changes)})


def no(kind):
    return with_readings(lambda r: None if r.kind == kind else r)


def odd(kind, **changes):
    return with_readings(lambda r: r.model_copy(update=changes) if r.kind == kind else r)


def elsewhere():
    return with_readings(
        lambda r: (
            r.model_copy(update={"under": r.under.model_copy(update={"course_key": "another"})})
            if r.kind == "fill_up"
            else r
        )
    )


def bare(name):
    """A demo without its readings."""
    return demo_inputs(name).model_copy(update={"readings": ()})


def framed(**changes):
    return with_bike(frame=demo_inputs().bike.frame.model_copy(update=changes))


def with_rider(**changes):
    return demo_inputs().model_copy(update={"riders": (demo_inputs().rider.model_copy(update=changes),)})


def electric(**changes):
    inputs = demo_inputs("hollowood")
    return inputs.model_copy(update={"setup": inputs.setup.model_copy(update=changes)})


def electric_laps(laps):
    """The electric demo over more laps, and nowhere to swap."""
    inputs = demo_inputs("hollowood")
    stage = inputs.race.stages[0].model_copy(update={"laps": laps})
    return inputs.model_copy(update={"race": inputs.race.model_copy(update={"stages": (stage,)})})


def worked(laps=5, **engine):
    """The electric demo over more laps of hard going, a place to swap at its line."""
    inputs = demo_inputs("hollowood")
    bike = inputs.bike.model_copy(update={"engine": inputs.bike.engine.model_copy(update=engine)})
    ground = (GroundSegment(from_m=0.0, to_m=1e6, ground="hardpack"),)
    points = (RefuelPoint(at_m=0.0),) if "packs_alike" in engine else ()
    changes = {"laps": laps, "ground": ground, "hills": (), "refuel_points": points}
    stage = inputs.race.stages[0].model_copy(update=changes)
    return inputs.model_copy(update={"bike": bike, "race": inputs.race.model_copy(update={"stages": (stage,)})})


def shared_and_turned(**rules):
    """Two riders; another wheel for the second takes longer than a hand-over."""
    inputs = demo_inputs()
    setup = Setup.model_validate(
        inputs.setup.model_dump(exclude_unset=True) | {"turned": [{"rider": "Bryn", "values": {"rear_wheel": 2}}]}
    )
    race = inputs.race.model_copy(update={"relay": Relay()} | rules)
    return inputs.model_copy(
        update={
            "riders": (inputs.rider, inputs.rider.model_copy(update={"name": "Bryn"})),
            "race": race,
            "setup": setup,
        }
    )


def fed(engine, *, proven=True, **changes):
    """The first demo with another engine; its jets stay behind, its base setting is the proven one."""
    inputs = demo_inputs()
    setup = inputs.setup.model_copy(update={"main_jet": None})
    readings = [r for r in inputs.readings if r.kind != "known_good" or proven]
    readings = [r.model_copy(update={"under": r.under.model_copy(update={"setup": setup})}) for r in readings]
    bike = inputs.bike.model_copy(update={"engine": engine})
    return inputs.model_copy(
        update={"bike": bike, "setup": setup.model_copy(update=changes), "readings": tuple(readings)}
    )


def muddy():
    """The alpine day in mud from end to end, no hill entered."""
    inputs = demo_inputs("gannach")
    ground = (GroundSegment(from_m=0.0, to_m=99_999.0, ground="mud"),)
    stages = tuple(s.model_copy(update={"hills": (), "ground": ground}) for s in inputs.race.stages)
    return inputs.model_copy(update={"race": inputs.race.model_copy(update={"stages": stages})})


def fed_by(carburettor):
    return with_bike(engine=demo_inputs().bike.engine.model_copy(update={"carburettor": carburettor}))


def and_reading(reading, name="brackenmere"):
    inputs = demo_inputs(name)
    return inputs.model_copy(update={"readings": (*inputs.readings, reading)})


def logged(error):
    inputs = demo_inputs("saltern")
    cell = LogCell(rpm=7500.0, throttle=0.5, hits=200.0, error=error, sd=0.01)
    return and_reading(LogReading(id="l", cells=(cell,), under=Under(setup=inputs.setup)), "saltern")


SIZE = {"displacement_m3": 293e-6, "peak_power_w": 36e3, "peak_power_rpm": 8500.0}
WIDE_BOX = Transmission(primary_ratio=2.667, gear_ratios=(2.6, 1.7, 1.4, 1.2, 1.0))
HIGH_AIR = {
    "temperature_low_k": 295.0,
    "temperature_high_k": 308.0,
    "pressure_kind": "station",
    "pressure_pa": 80_000.0,
}

#: code -> inputs that reach it, and the severity it must have
SCENARIOS = {
    "race_read": (demo_inputs, "ok"),
    "race_read_one": (lambda: with_stage(laps=1), "ok"),
    "heights_missing": (lambda: with_track(heights="none", height_m=()), "look"),
    "ground_unset": (lambda: with_stage(ground=()), "look"),
    "track_gap": (
        lambda: with_track(
            breaks=(5000,),
            latitude_deg=(
                *demo_inputs().courses["brackenmere"].latitude_deg[:5000],
                *(v + 0.004 for v in demo_inputs().courses["brackenmere"].latitude_deg[5000:]),
            ),
        ),
        "look",
    ),
    "thin_air": (lambda: with_air(**HIGH_AIR), "look"),
    "air_read": (demo_inputs, "ok"),
    "readings_used": (demo_inputs, "ok"),
    "sag_missing": (demo_inputs, "unknown"),
    "fill_up_missing": (lambda: no("fill_up"), "unknown"),
    "known_good_missing": (lambda: no("known_good"), "unknown"),
    "sag_questioned": (lambda: odd("sag", value_m=0.21), "look"),
    "fill_up_doubted": (lambda: odd("fill_up", fuel_m3=0.034), "look"),
    "fill_up_elsewhere": (elsewhere, "look"),
    "sag_right": (lambda: with_setup(shock_spring_rate_n_per_m=56000.0, shock_preload_m=0.0078), "ok"),
    "preload_off": (lambda: with_setup(shock_spring_rate_n_per_m=58000.0), "act"),
    "load_wants_spring": (
        lambda: framed(payload=(Payload(name="bags", mass_kg=8.0, ahead_m=0.2, height_m=0.9),)),
        "look",
    ),
    "spring_soft": (demo_inputs, "look"),
    "spring_stiff": (lambda: with_setup(shock_spring_rate_n_per_m=72000.0, shock_preload_m=0.008), "act"),
    "fuel_moves_sag": (demo_inputs, "ok"),
    "no_proven_jetted": (lambda: no("known_good"), "unknown"),
    "too_lean_jetted": (demo_inputs, "act"),
    "lean_side_safe_jetted": (lambda: with_setup(main_jet=170.0), "ok"),
    "lean_below_half": (lambda: with_setup(main_jet=168.0, pilot_jet=30.0, screw_turns=4.0), "act"),
    "far_from_proven": (lambda: with_setup(pilot_jet=55.0), "look"),
    "screw_at_its_end": (lambda: with_setup(screw_turns=2.75), "look"),
    "lubrication_unasked": (lambda: with_setup(premix_ratio=None), "look"),
    "oil_tank_unsaid": (lambda: oiled(None), "unknown"),
    "oil_tank_lasts": (lambda: oiled(0.0006), "ok"),
    "oil_tank_short": (lambda: oiled(0.00015), "act"),
    "marked_swapped": (lambda: shared_and_turned(marked=("wheels",)), "act"),
    "turning_outlasts": (shared_and_turned, "look"),
    "extra_lap": (lambda: demo_inputs("saltern"), "ok"),
    "rich_high_up": (lambda: with_setup(main_jet=180.0), "act"),
    "needle_unmeasured": (demo_inputs, "ok"),
    "float_off": (lambda: fed_by(Carburettor(float_height_m=0.010, float_height_right_m=0.0125)), "look"),
    "detonation_near": (lambda: with_setup(fuel_octane=91.0), "act"),
    "flow_short": (
        lambda: and_reading(FlowReading(id="f", volume_m3=0.0003, duration_s=90.0, under=Under(setup=setup_with()))),
        "act",
    ),
    "window": (demo_inputs, "ok"),
    "map_off": (lambda: logged(0.05), "look"),
    "map_on_target": (lambda: logged(0.005), "ok"),
    "felt": (lambda: and_reading(FeelReading(id="f", symptom="hangs_idle", under=Under(setup=setup_with()))), "look"),
    "fuel_care": (lambda: with_setup(fuel=6), "look"),
    "short_on_climb": (demo_inputs, "look"),
    "pulls_everywhere": (lambda: with_stage(hills=()), "ok"),
    "grip_unknown": (muddy, "look"),
    "wide_first_second": (lambda: with_bike(transmission=WIDE_BOX), "look"),
    "top_speed_revs": (demo_inputs, "ok"),
    "top_speed_power": (lambda: with_setup(front_sprocket_teeth=17, rear_sprocket_teeth=40), "ok"),
    "may_run_dry": (demo_inputs, "act"),
    "no_tank_carries": (lambda: with_stage(laps=18), "act"),
    "no_pack_carries": (lambda: electric_laps(18), "act"),
    "lasts": (lambda: with_setup(tank_capacity_m3=0.02, fuel_fill_m3=0.018), "ok"),
    "fuel_not_measured": (lambda: no("fill_up"), "look"),
    "brimmed_cold": (lambda: with_setup(fuel_fill_m3=None), "ok"),
    "stops_wanted": (lambda: fuelled(), "ok"),
    "stops_kept": (
        lambda: fuelled(stops=(StopFill(passing=1, to_level_m3=0.009), StopFill(passing=2, to_level_m3=0.009))),
        "ok",
    ),
    "plan_runs_dry": (lambda: fuelled(stops=(StopFill(passing=1, to_level_m3=0.002),)), "act"),
    "crew_late": (lambda: driven(2100.0), "act"),
    "crew_tight": (lambda: driven(1500.0), "look"),
    "stop_beyond": (lambda: fuelled(stops=(StopFill(passing=99),)), "look"),
    "no_stop_plan": (lambda: fuelled(fuel_fill_m3=0.0015), "look"),
    "no_stop_needed": (lambda: fuelled(laps=1), "ok"),
    "chain_fits": (demo_inputs, "ok"),
    "chain_no_stretch": (lambda: framed(chain_links=116, swingarm_length_m=0.575), "look"),
    "chain_no_length": (lambda: framed(adjuster_half_range_m=0.001), "act"),
    "chain_other_length": (lambda: framed(chain_links=104), "act"),
    "sprocket_hits_case": (lambda: framed(case_gap_m=0.042), "act"),
    "race_read_hours": (lambda: demo_inputs("saltern"), "ok"),
    "race_read_tests": (lambda: demo_inputs("gannach"), "ok"),
    "race_read_stages": (lambda: demo_inputs("hollowood"), "ok"),
    "schedule_tight": (lambda: demo_inputs("gannach"), "look"),
    "schedule_holds": (lambda: with_stage(allowed_s=40_000.0), "ok"),
    "air_and_motor": (lambda: demo_inputs("hollowood"), "ok"),
    "charge_missing": (lambda: bare("hollowood"), "unknown"),
    "no_proven_rod": (lambda: fed(TwoStrokeRod(**SIZE), proven=False), "unknown"),
    "too_lean_rod": (lambda: fed(TwoStrokeRod(**SIZE), knob_clicks=-4), "act"),
    "lean_side_safe_rod": (lambda: fed(TwoStrokeRod(**SIZE), knob_clicks=8), "ok"),
    "no_proven_injected": (lambda: bare("saltern"), "unknown"),
    "too_lean_injected": (lambda: demo_inputs("saltern"), "act"),
    "lean_side_safe_injected": (lambda: demo_inputs("gannach"), "ok"),
    "sensors_unasked": (lambda: fed(FourStrokeInjected(**SIZE)), "unknown"),
    "nothing_to_meter": (lambda: demo_inputs("hollowood"), "ok"),
    "top_speed_revs_electric": (lambda: demo_inputs("hollowood"), "ok"),
    "top_speed_power_electric": (lambda: electric(power_mode=3, front_sprocket_teeth=18, rear_sprocket_teeth=40), "ok"),
    "stays_cool": (lambda: demo_inputs("hollowood"), "ok"),
    "motor_derates": (lambda: worked(continuous_power_w=700.0), "look"),
    "motor_near_limit": (lambda: worked(continuous_power_w=8000.0), "look"),
    "pack_derates": (lambda: worked(internal_ohm=0.4), "look"),
    "pack_near_limit": (worked, "look"),
    "packs_go_round": (lambda: worked(laps=4, packs_alike=4), "ok"),
    "packs_run_dry": (lambda: worked(laps=30, packs_alike=2, charger_w=200.0), "act"),
    "may_run_dry_energy": (lambda: electric(pack_energy_j=1.2e7), "act"),
    "lasts_energy": (lambda: demo_inputs("hollowood"), "ok"),
    "energy_not_measured": (lambda: bare("hollowood"), "look"),
}


WAY_OUT = {"at_m": 22_060.0, "length_m": 90.0, "grade": 0.53, "ground": "deep_sand"}


def hill(**changes):
    return with_stage(hills=(CriticalHill(**(WAY_OUT | changes)),))


def saw(kind, setup=(), **known):
    """The first demo with more readings, taken with the demo's setup or some values of it changed."""
    inputs = demo_inputs()
    under = Under(setup=setup_with(**dict(setup)), rider=inputs.rider, course_key="brackenmere")
    return inputs.model_copy(
        update={
            "readings": (
                *inputs.readings,
                *(kind(**({"id": f"more-{i}", "under": under} | k)) for i, k in enumerate(known["each"])),
            )
        }
    )


CLIMB = {"at_m": 22_060.0, "entry_speed_m_per_s": 12.0, "outcome": "climbed"}
#: a lap at an even pace, a tenth slower than the model's: 41.5 km in 830 bins of 50 m
EVEN_LAP = tuple(4.4 * i for i in range(831))
SCENARIOS |= {
    "hill_grip": (demo_inputs, "look"),
    "hill_no_run_up": (lambda: hill(grade=1.1, length_m=900.0), "act"),
    "hill_too_slow": (lambda: hill(entry_speed_m_per_s=3.0), "act"),
    "hill_tight": (lambda: hill(entry_speed_m_per_s=4.5), "look"),
    "hill_with_speed": (lambda: hill(entry_speed_m_per_s=28.0), "ok"),
    "stance_read": (demo_inputs, "ok"),
    "travel_limited": (lambda: with_setup(shock_spacer_m=0.008, fork_spacer_m=0.025), "ok"),
    "trail_short": (lambda: framed(clamp_offset_m=0.045), "look"),
    "part_touches": (lambda: framed(rear_seat_gap_m=0.312), "act"),
    "trail_less_than_proven": (
        lambda: saw(
            SteadyReading, setup={"fork_up_m": -0.02, "offset_change_m": -0.006}, each=[{"speed_m_per_s": 28.0}]
        ),
        "look",
    ),
    "balance_off": (lambda: with_setup(fork_spring_rate_n_per_m=1500.0), "look"),
    "front_light": (lambda: framed(cg_height_m=1.25, front_share=0.36), "look"),
    "rear_light": (lambda: framed(cg_height_m=1.5, front_share=0.68), "look"),
    "oil_beyond": (lambda: with_setup(fork_oil_up_m=0.06), "act"),
    "fork_air_off": (lambda: framed(fork_springing="air"), "look"),
    "weighing_doubted": (lambda: saw(WeighingReading, each=[{"front_kg": 90.0, "rear_kg": 91.0}]), "look"),
    "length_questioned": (lambda: saw(GeometryReading, each=[{"of": "wheelbase", "value_m": 1.56}]), "look"),
    "angle_questioned": (lambda: saw(GeometryReading, each=[{"of": "rake", "value_rad": 0.55}]), "look"),
    "reach_short": (lambda: with_rider(inseam_m=0.66), "look"),
    "bottoms_early": (lambda: with_setup(shock_spring_rate_n_per_m=38000.0), "look"),
    "closed_air_rose": (lambda: demo_inputs("gannach"), "look"),
    "closed_air_fell": (lambda: framed(home_height_m=2400.0), "look"),
    "tyre_too_slow": (lambda: with_bike(tyre=demo_inputs().bike.tyre.model_copy(update={"speed_symbol": "K"})), "act"),
    "shakes_long": (
        lambda: with_bike(engine=demo_inputs().bike.engine.model_copy(update={"shake_rpm": 5000.0})),
        "look",
    ),
    "ridden_lap_used": (lambda: saw(RiddenLapReading, each=[{"clock_s": EVEN_LAP}]), "ok"),
    "seen_questioned": (lambda: saw(RollOutReading, each=[{"distance_m": 4.0}]), "look"),
    "seen_elsewhere": (lambda: saw(HillReading, each=[CLIMB | {"at_m": 100.0}]), "ok"),
    "stalled_unexplained": (lambda: saw(HillReading, each=[CLIMB | {"outcome": "stalled"}]), "look"),
    "hills_contradict": (
        lambda: saw(HillReading, each=[CLIMB, CLIMB | {"outcome": "spun", "entry_speed_m_per_s": 16.0}]),
        "look",
    ),
}


def shimmed(name="brackenmere", **stacks):
    """A demo with shims (as they are typed) and clicks."""
    setup = {k: stack_of(v) if isinstance(v, str) else v for k, v in stacks.items()}
    inputs = demo_inputs(name)
    return inputs.model_copy(update={"setup": inputs.setup.model_copy(update=setup)})


def strong_clicker():
    inputs = whooped(0.42, 7.5, shimmed("saltern", shock_compression_clicks=22))
    damper = inputs.bike.shock_damper.model_copy(update={"needle_bore_m": 0.008, "needle_m_per_click": 5e-4})
    return inputs.model_copy(update={"bike": inputs.bike.model_copy(update={"shock_damper": damper})})


def short_thread():
    inputs = demo_inputs("saltern")
    damper = inputs.bike.shock_damper
    seat = damper.piston.model_copy(update={"height_most_m": 1.5e-3})
    return inputs.model_copy(
        update={"bike": inputs.bike.model_copy(update={"shock_damper": damper.model_copy(update={"piston": seat})})}
    )


SCENARIOS |= {
    "rides_well": (demo_inputs, "ok"),
    "bottoms_no_click": (lambda: whooped(0.5, 5.5, demo_inputs("saltern")), "act"),
    "bottoms_anyway": (lambda: whooped(0.7, 7.0, demo_inputs("saltern")), "act"),
    "bottoms_click": (strong_clicker, "act"),
    "packs": (lambda: shimmed(fork_rebound_stack="8x20.30 17.30 13.30", fork_rebound_clicks=0), "look"),
    "little_compression": (
        lambda: shimmed(fork_base_stack="24.05", fork_piston_stack="20.05", fork_compression_clicks=22),
        "look",
    ),
    "much_compression": (lambda: shimmed(shock_piston_stack="12x40.30 36.30 30.30"), "look"),
    "little_rebound": (lambda: shimmed(shock_rebound_stack="36.05", shock_rebound_clicks=22), "look"),
    "much_rebound": (lambda: shimmed(fork_rebound_stack="9x20.30 17.30 13.30", fork_rebound_clicks=2), "look"),
    "shim_stress": (lambda: whooped(0.8, 4.5, demo_inputs()), "look"),
    "stack_too_high": (short_thread, "act"),
    "cavitates": (lambda: shimmed(fork_base_stack="24.05", fork_piston_stack="12x20.30 17.30"), "look"),
    "ridden_slower": (lambda: whooped(1.0, 4.5, demo_inputs()), "look"),
    "beyond_model": (lambda: whooped(2.0, 4.5, demo_inputs()), "look"),
}


def kitted(name="brackenmere", inputs=None, **kit):
    """A demo's bike with facts of its kit, as plain values."""
    inputs = inputs or demo_inputs(name)
    return inputs.model_copy(update={"bike": inputs.bike.model_copy(update={"kit": Kit.model_validate(kit)})})


def on_foam(for_kg=None, **more):
    """The desert on foam behind that was made for so much."""
    foam = {"inside": "mousse"} | ({"foam_for_kg": for_kg} if for_kg else {})
    return kitted("saltern", rear_tyre=foam, **more)


def hot_and_fast(for_kg):
    """Foam that is right, and too much of a pace on too hot a day."""
    inputs, desert = on_foam(for_kg), demo_inputs("saltern")
    rider = desert.rider.model_copy(update={"pace": 1.25})
    air = desert.race.air.model_copy(update={"temperature_high_k": 318.15})
    race = desert.race.model_copy(update={"air": air})
    return inputs.model_copy(update={"race": race, "riders": (rider, *desert.riders[1:])})


def shaken(a_m_per_s2):
    inputs = demo_inputs()
    reading = HandsReading(id="hands", under=Under(setup=inputs.setup), shaking_m_per_s2=a_m_per_s2)
    return inputs.model_copy(update={"readings": (*inputs.readings, reading)})


PLATE = {"id": "plate", "name": "plate", "mass_kg": 2.0, "ahead_m": 0.72, "height_m": 0.28, "need": "must"}
SCENARIOS |= {
    "foam_unsaid": (on_foam, "unknown"),
    "foam_carries": (lambda: on_foam(170.0), "ok"),
    "foam_overloaded": (lambda: on_foam(80.0), "act"),
    "foam_hot": (lambda: hot_and_fast(140.0), "look"),
    "pressure_high": (lambda: with_setup(front_tyre_pressure_pa=90_000.0), "look"),
    "pressure_low": (lambda: with_setup(rear_tyre_pressure_pa=80_000.0), "look"),
    "rim_struck": (lambda: with_setup(front_tyre_pressure_pa=70_000.0), "look"),
    "scoop_on_hard": (lambda: kitted("saltern", rear_tyre={"tyre_kind": "scoop"}), "look"),
    "wheel_grips_more": (lambda: kitted(rear_tyre={"tyre_kind": "rally"}), "look"),
    "knobs_worn": (lambda: kitted("hollowood", rear_tyre={"knob_m": 0.004}), "act"),
    "brake_grabs": (lambda: demo_inputs("hollowood"), "look"),
    "rotor_hot": (lambda: kitted("saltern", inputs=demo_inputs("saltern")), "look"),
    "fluid_old": (lambda: kitted(front_brake={"fluid_from": "2025-01"}), "act"),
    "fluid_close": (lambda: kitted(front_brake={"fluid": "dot3", "fluid_from": "2025-06"}), "look"),
    "fluid_boils": (lambda: kitted("saltern"), "act"),
    "hands_shaken": (lambda: shaken(9.0), "act"),
    "clutch_slips": (lambda: kitted(clutch_plates=8, clutch_spring_n=900.0), "act"),
    "must_off": (lambda: kitted(items=[PLATE]), "act"),
    "kit_bare": (lambda: kitted(), "ok"),
    "kit_on": (lambda: demo_inputs(), "ok"),
}


def raced(inputs=None, stage=None, air=None, **changes):
    """A demo's race with some of it, of its first stage and of its air changed."""
    inputs = inputs or demo_inputs()
    race = inputs.race.model_copy(update=changes)
    stages = (race.stages[0].model_copy(update=stage or {}), *race.stages[1:])
    race = race.model_copy(update={"stages": stages, "air": race.air.model_copy(update=air or {})})
    return inputs.model_copy(update={"race": race})


def thing(identity="thing", **more):
    return {"id": identity, "name": identity, "mass_kg": 0.5, "ahead_m": 0.7, "height_m": 0.6} | more


LAMP = thing("lamp", watts_w=40.0, lamp_cd=6000.0, weighed_with=True)
WEAK = {"low_w": 20.0, "high_w": 48.0, "ignition_from": "battery"}
STRONG = {"low_w": 120.0, "high_w": 260.0, "battery": "lead", "battery_j": 1e5}


def wired(*items, inputs=None, **electrics):
    return kitted(inputs=inputs, items=items or (LAMP,), electrics=electrics)


def sounding(level_db=92.0, background_db=60.0, limit_db=94.0, **kit):
    """One sheet, the event's limit, a test at the sheet's own revs and place; the demo's own sheets left out."""
    reading = SoundReading(id="sheet", under=Under(setup=demo_inputs().setup), level_db=level_db,
                           background_db=background_db, distance_m=0.5, rpm=4250.0)  # fmt: skip
    inputs = raced(no("sound"), sound_limit_db=limit_db, sound_test="rated_half_metre")
    return kitted(inputs=inputs, **kit).model_copy(update={"readings": (*no("sound").readings, reading)})


def building(*jobs, begins="2027-04-10", a_day_s=7200.0):
    """Things put on for it: hours, and what else is said of each."""
    items = [thing(f"job{i}", work_s=3600.0 * hours, **more) for i, (hours, more) in enumerate(jobs)]
    inputs = kitted(items=items, build_from=begins, build_day_s=a_day_s)
    setup = inputs.setup.model_copy(update={"kit_on": tuple(i["id"] for i in items)})
    return inputs.model_copy(update={"setup": setup})


def dark(*items):
    """The first kilometres of the first demo in the dark."""
    zone = {"zones": (Zone(from_m=0.0, to_m=6000.0, kind="night"),)}
    return raced(wired(*items) if items else kitted(items=[thing()]), stage=zone)


FROST = {"temperature_low_k": 253.15, "temperature_high_k": 258.15}
SCENARIOS |= {
    "coolant_boils": (lambda: raced(stage={"crawling_s": 600.0}), "act"),
    "coolant_close": (lambda: demo_inputs("gannach"), "look"),
    "queue_boils": (lambda: raced(stage={"crawling_s": 300.0}), "act"),
    "queue_soon": (lambda: raced(stage={"crawling_s": 0.0, "standing_s": 0.0}), "look"),
    "coolant_cold": (lambda: raced(with_setup(thermostat=0), air=FROST), "act"),
    "coolant_freezes": (lambda: raced(with_setup(glycol_share=0.3), air=FROST), "act"),
    "cap_runs_hot": (lambda: with_setup(cap_pa=1.8e5), "look"),
    "cooling_holds": (lambda: demo_inputs("saltern"), "ok"),
    "generator_unsaid": (lambda: wired(), "unknown"),
    "battery_drains": (demo_inputs, "act"),
    "generator_short": (lambda: wired(**WEAK), "look"),
    "current_holds": (lambda: wired(**STRONG), "ok"),
    "idle_drains": (lambda: wired(**WEAK, inputs=raced(stage={"standing_s": 900.0})), "look"),
    "lamp_wire_thin": (lambda: wired(**STRONG, lamp_wire_m2=3.5e-7, lamp_wire_m=2.0), "act"),
    "fuse_over_wire": (lambda: wired(**STRONG, lamp_wire_m2=5e-7, lamp_fuse_a=15.0), "act"),
    "start_weak": (lambda: raced(wired(**STRONG, starter="electric"), air=FROST), "look"),
    "outruns_light": (lambda: dark(LAMP | {"lamp_cd": 400.0}), "look"),
    "sound_unsaid": (lambda: no("sound"), "unknown"),
    "stroke_unsaid": (lambda: kitted(), "unknown"),
    "too_loud": (lambda: sounding(level_db=95.0), "act"),
    "nearly_too_loud": (lambda: sounding(level_db=93.0), "look"),
    "quiet_enough": (lambda: sounding(level_db=90.0), "ok"),
    "sound_drowned": (lambda: sounding(background_db=92.0), "look"),
    "rules_open": (demo_inputs, "act"),
    "rules_read": (demo_inputs, "ok"),
    "need_off": (lambda: dark(), "act"),
    "build_late": (lambda: building((10.0, {}), (9.0, {})), "act"),
    "build_tight": (lambda: building((10.0, {})), "look"),
    "build_holds": (lambda: building((2.0, {})), "ok"),
    "build_circle": (lambda: building((1.0, {"after": ["job1"]}), (1.0, {"after": ["job0"]})), "act"),
}


def tried(*ridden, riders=(), **facts):
    """A trial of a tooth with a true effect, ridden by a stand-in; riders: another's effect of the same question."""
    inputs, seed = demo_inputs(), facts.pop("seed", 3)
    order = {"order": "ABBA" * 6, "changes": 1, "kind": "gearing", "lap_s": 300.0, "hoped_share": 0.02}
    trial = Trial.model_validate(order | {"id": "t", "rider": inputs.rider.name, "question": "a tooth"} | facts)
    trials = [
        trial.model_copy(update={"runs": ride(trial, seed, effect_share=ridden[0], **ridden[1])} if ridden else {})
    ]
    for effect in riders:
        other = trial.model_copy(update={"id": "o", "rider": "Isk"})
        trials.insert(0, other.model_copy(update={"runs": ride(other, 5, effect_share=effect, lap_sd=0.004)}))
    return inputs.model_copy(update={"trials": tuple(trials)})


def one_of_five():
    """Five sprockets on one day, of which only the last looks like a gain."""
    days = {"day": "2026-10-24", "question": "rear_sprocket_teeth=50", "order": "ABBA" * 2}
    last = tried(-0.012, {"lap_sd": 0.01}, seed=1, **days)
    others = [
        tried(0.0, {"lap_sd": 0.01}, seed=k, **days | {"question": f"rear_sprocket_teeth={k}", "outcome": "left"})
        .trials[0].model_copy(update={"id": f"s{k}"})
        for k in (45, 46, 47, 48)
    ]  # fmt: skip
    return last.model_copy(update={"trials": (*others, *last.trials)})


def blurred(inputs):
    """The same runs, each timed by somebody who looks away."""
    (trial,) = inputs.trials
    runs = tuple(r.model_copy(update={"error_s": 3.0}) for r in trial.runs)
    return inputs.model_copy(update={"trials": (trial.model_copy(update={"runs": runs}),)})


CALM, STORM = {"lap_sd": 0.004}, {"lap_sd": 0.06}
SCENARIOS |= {
    "no_trial": (demo_inputs, "ok"),
    "trial_open": (tried, "ok"),
    "change_keep": (lambda: tried(-0.03, CALM), "ok"),
    "change_put_back": (lambda: tried(0.03, CALM, outcome="kept"), "act"),
    "change_even": (lambda: tried(0.0, {"lap_sd": 0.002}, noise_sd=0.003), "ok"),
    "not_proven": (lambda: tried(-0.02, {"lap_sd": 0.014}, order="ABBA" * 2, seed=2), "look"),
    "not_proven_ever": (lambda: tried(0.0, {"lap_sd": 0.02}), "look"),
    "trial_blind_to_it": (lambda: tried(order="ABBA", model_share=-0.001), "look"),
    "two_things_changed": (lambda: tried(changes=2), "look"),
    "noisy": (lambda: tried(0.0, STORM), "look"),
    "peeked": (lambda: tried(0.0, CALM | {"runs": 14}, outcome="left"), "look"),
    "felt_blind": (lambda: tried(0.0, CALM | {"felt_chance": 0.97}, blind=True, kind="clicks"), "ok"),
    "not_felt": (lambda: tried(0.0, CALM, blind=True, kind="clicks"), "ok"),
    "model_surprised": (lambda: tried(0.05, CALM, model_share=-0.004), "act"),
    "one_of_several": (one_of_five, "look"),
    "conditions_moved": (
        lambda: tried(conditions=[{"ridden": 0, "temperature_k": 285.0}, {"ridden": 6, "temperature_k": 290.0}]),
        "look",
    ),
    "timing_coarse": (lambda: blurred(tried(-0.02, {"lap_sd": 0.014}, order="ABBA" * 2, seed=2)), "look"),
    "riders_differ": (lambda: tried(-0.03, CALM, riders=(0.01,)), "look"),
}


def weekly(**week):
    """The demo with a piston due and the week before it."""

    def make():
        made = a_log(demo_inputs(), meter(118), part("piston", 70))
        return made.model_copy(update={"race": made.race.model_copy(update={"week": WeekPlan(**week)})})

    return make


def mended_late():
    """A cracked frame whose part comes on the eve of the race."""
    made = a_log(demo_inputs(), check("frame", "fail", work_s=6 * H))
    week = WeekPlan(begins="2027-04-12", awaited=(Awaited(job="check:frame", arrives="2027-04-17"),))
    return made.model_copy(update={"race": made.race.model_copy(update={"week": week})})


def in_a_circle():
    """Two things of which each comes after the other."""
    bike = demo_inputs().bike
    items = tuple(
        Item(id=one, name=one, mass_kg=0.1, ahead_m=0.5, height_m=0.5, after=(other,))
        for one, other in (("guard", "plate"), ("plate", "guard"))
    )
    kit = bike.kit.model_copy(update={"items": items})
    setup = setup_with(kit_on=("guard", "plate"))
    return demo_inputs().model_copy(update={"bike": bike.model_copy(update={"kit": kit}), "setup": setup})


def serviced(*lines, **about):
    """The demo with a log of service."""
    return lambda: a_log(demo_inputs(), *lines, **about)


SCENARIOS |= {
    "gate_no_riding": (serviced(check("frame", "fail")), "act"),
    "gate_failed": (serviced(check("air_leak", "fail")), "act"),
    "gate_look": (serviced(check("chain", "look")), "look"),
    "gate_unchecked": (serviced(check("frame")), "unknown"),
    "part_late": (weekly(begins="2027-04-12", awaited=(Awaited(job="part:piston", arrives="2027-04-17"),)), "act"),
    "mending_late": (mended_late, "act"),
    "week_short": (weekly(begins="2027-04-17", evening_s=1800.0), "act"),
    "week_tight": (weekly(begins="2027-04-15"), "look"),
    "week_circle": (in_a_circle, "look"),
    "overdue": (serviced(meter(118), part("piston", 70)), "act"),
    "exceeds_during_race": (serviced(meter(118), part("piston", 80)), "act"),
    "soon": (serviced(meter(118), part("piston", 86)), "look"),
    "aged": (serviced(part("brake_fluid", fitted_day="2025-04-01")), "act"),
    "ages_soon": (serviced(part("brake_fluid", fitted_day="2026-03-01")), "look"),
    "boiled_once": (serviced(part("brake_fluid", fitted_day="2027-03-01", boiled=True)), "act"),
    "age_unsaid": (serviced(part("coolant")), "unknown"),
    "risk_high": (serviced(meter(118), part("piston", 40, interval_s=22 * H)), "look"),
    "worn_out": (serviced(wear("pad_front", 0.0009)), "act"),
    "worn": (serviced(wear("knob_rear", 0.35)), "look"),
    "worn_faster": (
        serviced(*(wear("ring_gap", mm / 1e3, at_s=h * H, limit_si=0.0009)
                 for h, mm in ((0, 0.20), (10, 0.21), (20, 0.22), (30, 0.30)))), "act",
    ),
    "limit_before_race_end": (
        serviced(meter(60), *(wear("rod_play", mm / 1e3, at_s=h * H, limit_si=0.0007)
                            for h, mm in ((0, 0.40), (20, 0.50), (40, 0.59), (60, 0.69)))), "act",
    ),
    "spokes_uneven": (serviced(wear("spokes_rear", tones_hz=[400.0, 402.0, 399.0, 415.0])), "look"),
    "chain_worn": (serviced(wear("tight_spots", seen="some")), "act"),
    "torque_open": (serviced(bolt()), "act"),
    "retorque_due": (serviced(bolt(fresh_s=0.0, tight_s=0.0), meter(2)), "look"),
    "mark_moved": (serviced(bolt(tight_s=0.0, mark="moved")), "act"),
    "locker_locked_there": (serviced(bolt(tight_s=0.0, place="axle", locker="removable")), "look"),
    "locker_high_strength": (serviced(bolt(tight_s=0.0, locker="high_strength")), "look"),
    "locker_unlocked": (serviced(bolt(tight_s=0.0, place="rotor")), "look"),
    "hours_gap": (
        serviced(meter(100), ("ride", {"time_s": 2 * H}), ("ride", {"time_s": 2 * H, "meter_s": 110 * H})), "look",
    ),
}  # fmt: skip


def test_the_scenarios_cover_the_catalogue():
    assert set(SCENARIOS) == set(FINDINGS)


@pytest.mark.parametrize("code", SCENARIOS)
def test_a_finding_is_reached_judged_and_worded(code):
    make, severity = SCENARIOS[code]
    report = evaluate(make(), cache=CACHE)
    found = [f for f in report.findings if f.code == code]
    assert found, sorted({f.code for f in report.findings})
    assert found[0].severity == severity
    worst = max(SEVERITIES.index(f.severity) for f in report.of(found[0].station))
    assert SEVERITIES.index(report.verdicts[found[0].station]) == worst
    for preset in ("metric", "us"):
        words = say(found[0], report, preset)
        for text in (words.answer, words.rail, words.text):
            assert text
            assert not set("{}_") & set(text), text
            assert "nan" not in text.lower()
        assert len(words.rail) <= 34, words.rail
    assert all(name in report.figures for name in found[0].figures)


@pytest.mark.parametrize("code", SCENARIOS)
def test_no_scenario_breaks_a_figure(code):
    """Across all scenarios: finite values inside their ranges, energy in balance, an honest status."""
    report = evaluate(SCENARIOS[code][0](), cache=CACHE)
    for name, figure in report.figures.items():
        if figure.value is None:
            assert figure.status in ("unknown", "not_applicable"), name
            continue
        assert math.isfinite(figure.value), name
        assert figure.status == ("unknown" if figure.withheld else "ok")
        for bound, right in ((figure.low, lambda b, v: b <= v + 1e-12), (figure.high, lambda b, v: b >= v - 1e-12)):
            assert bound is None or right(bound, figure.value), name
    assert report.value("drive.energy_residual") < 1e-9


def test_severities_follow_the_numbers():
    thresholds = [
        (with_setup(main_jet=165.0), "too_lean_jetted", "act"),
        (
            with_bike(engine=FourStrokeJetted(displacement_m3=293e-6, peak_power_w=36e3, peak_power_rpm=8500.0)),
            "lean_side_safe_jetted",
            "ok",
        ),
        (
            with_stage(hills=(CriticalHill(at_m=22_060.0, length_m=220.0, grade=0.6, ground="deep_sand"),)),
            "short_on_climb",
            "act",
        ),
        (with_setup(tank_capacity_m3=0.013, fuel_fill_m3=0.013), "may_run_dry", "look"),
    ]
    for inputs, code, severity in thresholds:
        assert {f.code: f.severity for f in evaluate(inputs, cache=CACHE).findings}[code] == severity, code


def test_a_spring_is_proposed_from_a_measured_sag_only_and_preload_on_a_notch():
    """0.8.0 proposed 2.6 N/mm with 26 mm of preload to a bike whose sags nobody had measured."""
    off = {"shock_spring_rate_n_per_m": 40_000.0, "fork_spring_rate_n_per_m": 6000.0}
    measured = evaluate(with_setup(**off), cache=CACHE)
    bare_ = evaluate(
        with_setup(**off).model_copy(update={"readings": tuple(r for r in demo_inputs().readings if r.kind != "sag")}),
        cache=CACHE,
    )
    for report, knows in ((measured, True), (bare_, False)):
        for finding in report.of("chassis"):
            if not finding.code.startswith(("spring_", "preload_off")):
                continue
            end = finding.parameters["end"]
            moves = [m for moves in finding.proposals for m in moves]
            if not (knows and finding.parameters["measured"] == "yes"):
                assert not any("spring_rate" in m.tunable for m in moves)
                assert "measure both sags first" in say(finding, report, "metric").text
            if finding.code.startswith("spring_"):
                low, high = finding.parameters["softest_rate"], finding.parameters["stiffest_rate"]
                assert (
                    report.figures[f"chassis.{end}.spring_rate_wanted"].low
                    < low
                    <= high
                    < report.figures[f"chassis.{end}.spring_rate_wanted"].high
                )
            low, high = PRELOAD_EXISTS_M[end]
            for m in moves:
                if m.tunable.endswith("_preload_m"):
                    assert low <= m.value <= high
                    assert m.value / TUNABLES[m.tunable].step == pytest.approx(
                        round(m.value / TUNABLES[m.tunable].step)
                    )
    assert any("spring_rate" in m.tunable for f in measured.of("chassis") for moves in f.proposals for m in moves)


def test_a_lean_warning_never_proposes_leaner_and_safety_words_stand_by():
    report = demo_report()
    for finding in report.findings:
        if finding.code == "too_lean_jetted":
            now = demo_inputs().setup
            assert all(move.value > getattr(now, move.tunable) for moves in finding.proposals for move in moves)
            assert "crispest just before it seizes" in say(finding, report).caution
        if finding.code in ("spring_soft", "spring_stiff"):
            assert "under load" in say(finding, report).caution
    for jet in (172.5, 175.0, 180.0):
        rich = evaluate(with_setup(main_jet=jet), cache=CACHE)
        for finding in (f for f in rich.findings if f.code == "rich_high_up"):
            assert len(finding.leaves) == len(finding.proposals)
            for moves in finding.proposals:
                after = evaluate(
                    with_setup(**{m.tunable: round(m.value) if m.tunable == "needle_clip" else m.value for m in moves}),
                    cache=CACHE,
                )
                assert after.value("fuelling.lean_margin_min") >= -1e-9


def test_pressure_kinds_agree_when_they_describe_the_same_air():
    """The same station pressure said in three ways gives the same thinnest air."""
    from lynxwort.core.physics.air.standard import pressure_altitude
    from lynxwort.core.physics.air.station import station_pressure

    height, temperature = 560.0, 283.0
    base = {
        "temperature_low_k": temperature,
        "temperature_high_k": temperature,
        "reading_height_m": height,
        "pressure_spread_pa": 0.0,
        "relative_humidity_low": 0.5,
        "relative_humidity_high": 0.5,
    }
    here = station_pressure("sea_level", 101_800.0, height_m=height, temperature_k=temperature)
    from scipy.optimize import brentq

    setting = brentq(
        lambda q: station_pressure("altimeter", q, height_m=height, temperature_k=temperature) - here, 95_000, 105_000
    )
    found = []
    for kind, pressure in (("sea_level", 101_800.0), ("station", here), ("altimeter", setting)):
        air = RaceAir(pressure_kind=kind, pressure_pa=float(pressure), **base)
        race = demo_inputs().race.model_copy(update={"air": air})
        found.append(
            evaluate(demo_inputs().model_copy(update={"race": race}), cache=CACHE).value("purpose.density_ratio_min")
        )
    assert found == pytest.approx([found[0]] * 3, rel=1e-9)
    assert pressure_altitude(here) == pytest.approx(height, abs=60)


def test_station_and_input_names_are_complete():
    report = demo_report()
    assert {f.station for f in report.findings} < set(STATION_NAMES)
    reports = [
        report,
        *(demo_report(name) for name in ("saltern", "gannach", "hollowood")),
        evaluate(fed(TwoStrokeRod(**SIZE)), cache=CACHE),
    ]
    paths = {path for r in reports for f in r.figures.values() for path, *_rest in f.inputs}
    assert {re.sub(r"^riders\.\d+", "rider", p) for p in paths if not p.startswith("setup.")} <= set(INPUT_NAMES)


def test_a_failed_check_withdraws_what_it_falsifies_and_never_a_warning() -> None:
    inputs = demo_inputs()
    plain = evaluate(inputs)
    leak = Failed(check="air_leak", withdraws=frozenset({"fuelling", "range.fuel_per_lap"}))
    said = evaluate(inputs, gate=[leak])
    for name, figure in said.figures.items():
        was = plain.figures[name]
        gone = name.startswith("fuelling.") or name == "range.fuel_per_lap"
        assert figure.value == was.value
        assert (figure.status, figure.reason) == (
            ("unknown", "gate.air_leak") if gone and was.status == "ok" else (was.status, was.reason)
        )
    assert said.verdicts["fuelling"] in {"unknown", "act"}
    assert all(not f.proposals for f in said.of("fuelling"))
    assert said.verdicts | {"fuelling": ""} == plain.verdicts | {"fuelling": ""}
    # a mixture that is lean stays to be acted on, whatever else is unsure
    lean = inputs.model_copy(update={"setup": setup_with(main_jet=150.0)})
    warned = evaluate(lean, gate=[leak])
    assert evaluate(lean).verdicts["fuelling"] == "act" == warned.verdicts["fuelling"]
    assert [f.code for f in warned.of("fuelling")] == [f.code for f in evaluate(lean).of("fuelling")]
    # the check passed again: back to the last bit
    assert evaluate(inputs, gate=[]).to_json() == plain.to_json()
