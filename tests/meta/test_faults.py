"""Planted faults: each well-known mistake of the trade, put into the code, must break an existing test."""

import dataclasses

import numpy as np
import pytest

from lynxwort.core import cache as stage_cache
from lynxwort.core import evaluate as evaluation
from lynxwort.core.asks import jetbox
from lynxwort.core.derived import day, mixture, road, springs
from lynxwort.core.derived import loads as bike_loads
from lynxwort.core.model import fitted
from lynxwort.core.physics.air import station
from lynxwort.core.physics.chassis import geometry, loads, pressure, sag
from lynxwort.core.physics.course import sun
from lynxwort.core.physics.damping import orifices, plates, stack
from lynxwort.core.physics.drive import chain, dyno, engine, gearing, hills, lift, pull, simulation
from lynxwort.core.physics.fuelling import fuels, jets, leanness, logs, metering, richness
from lynxwort.core.physics.halfcar import halfcar
from lynxwort.core.physics.kit import brakes, coolant, cooling, electrics, sound
from lynxwort.core.physics.reach import plans, stops
from lynxwort.core.stations.fuelling import candidates as rejet
from lynxwort.core.stations.fuelling import leanness as coupled_leanness
from lynxwort.core.units import written
from lynxwort.core.units.spellings import Spelling
from tests.core import (
    test_attitude,
    test_check_values,
    test_damping,
    test_fuelling,
    test_halfcar,
    test_kinds,
    test_kit,
    test_kit_ready,
    test_leanness,
    test_on_the_road,
    test_outside,
    test_patterns,
    test_ride,
    test_springing,
    test_stations,
    test_stops,
    test_warm,
    test_written,
)
from tests.core.test_check_values import VALUES, check


def values(*prefixes):
    def run():
        for value in VALUES:
            if value["name"].startswith(prefixes) and not value["name"].startswith(test_check_values.LATER):
                check(value)

    return run


def put_on_once_more(bike, setup, right=fitted.aboard_of):
    """What the bike was weighed with taken as put on since."""
    items = tuple(i.model_copy(update={"weighed_with": False}) for i in bike.kit.items)
    on = tuple(i.id for i in items if i.id not in setup.kit_off)
    kit = bike.kit.model_copy(update={"items": items})
    return right(bike.model_copy(update={"kit": kit}), setup.model_copy(update={"kit_on": on}))


def fan_and_way(density, speed, radiator, *, fan, right=cooling.air_through):
    still = dataclasses.replace(radiator, fan_m3_per_s=0.0)
    return right(density, speed, still, fan=False) + (density * radiator.fan_m3_per_s if fan else 0.0)


def by_the_mean(time_s, net_w, *, holds_j, start_j, right=electrics.battery_along):
    mean = (time_s * net_w).sum() / time_s.sum()
    return right(time_s, np.full(time_s.size, mean), holds_j=holds_j, start_j=start_j)


def half_taper_as_full(needle, lift_m, clip, middle):
    along = np.maximum(np.asarray(lift_m) + (clip - middle) * needle.clip_pitch_m - needle.taper_start_lift_m, 0.0)
    return needle.straight_diameter_m - along * np.tan(needle.taper_half_angle_rad)


def needle_moves_the_wrong_way(needle, lift_m, clip, middle, right=jets.needle_diameter):
    return right(needle, lift_m, 2 * middle - clip, middle)


def rider_on_the_front(frame, *, fuel_m3, rider_kg=0.0, posture="standing", share_offset=0.0, right=loads.axle_loads):
    made = right(frame, fuel_m3=fuel_m3, rider_kg=rider_kg, posture=posture, share_offset=share_offset)
    bare = right(frame, fuel_m3=fuel_m3)
    return loads.AxleLoads(
        front_kg=bare.front_kg + made.rear_kg - bare.rear_kg, rear_kg=bare.rear_kg + made.front_kg - bare.front_kg
    )


def only_from_half_up(two_stroke, limit, right=leanness.range_limits):
    lower = ("closed", "eighth", "quarter")
    return tuple(
        dataclasses.replace(r, look=-9.0, act=-9.0, limit=-9.0) if r.name in lower else r
        for r in right(two_stroke, limit)
    )


def walking_speed_turned_back(curve, what, ratio, crank, *, power_share):
    at = np.array([crank / ratio * what.rolling_radius_m])
    return float(pull.wheel_force(curve, what, ratio, at, slip=0.0, power_share=power_share)[0])


def given_as_first_seen(right=evaluation.with_inputs):
    """What 0.8.0 did: a figure out of the cache keeps what it was said to rest on when it was made."""
    known = {}

    def with_inputs(figures, inputs):
        return {k: known.setdefault(id(f), (f, right({k: f}, inputs)[k]))[1] for k, f in figures.items()}

    return with_inputs


FAULTS = [
    (
        "square root on a diameter jet",
        jets,
        "number_for_area_factor",
        lambda n, f, numbering: n * f,
        values("B.main_jet"),
    ),
    (
        "reduced pressure as station pressure",
        station,
        "station_pressure",
        lambda kind, p, **_: p,
        values("A.station_pressure"),
    ),
    (
        "motion ratio not squared",
        sag,
        "shock_force_at_wheel",
        lambda s, w: s.rate_n_per_m * (sag.shock_stroke(s, w) + s.preload_m),
        values("E.sag.rear"),
    ),
    (
        "half taper as full",
        jets,
        "needle_diameter",
        half_taper_as_full,
        values("B.series.A_eff", "B.series.half_angle"),
    ),
    ("needle direction", jets, "needle_diameter", needle_moves_the_wrong_way, values("B.series.pct.needle")),
    (
        "first power for a carburettor",
        richness,
        "area_factor_for_air",
        lambda dry, moist: dry,
        test_stations.test_air_alone_follows_the_altitude_law_and_its_lean_end_is_safe,
    ),
    (
        "share of the rider",
        loads,
        "axle_loads",
        rider_on_the_front,
        test_stations.test_loads_add_up_and_the_rider_sits_behind,
    ),
    (
        "rolling radius forgotten",
        gearing,
        "speed_at",
        lambda crank, ratio, radius: crank / ratio * 0.3,
        values("D.speed"),
    ),
    (
        "grade against the wrong sign",
        pull,
        "resistance",
        lambda what, surface, sine, v, right=pull.resistance: right(what, surface, -sine, v),
        test_ride.test_a_held_climb_stalls_to_walking_pace_exactly_where_first_gear_fails,
    ),
    ("fork load straight down", sag, "cos", lambda angle: 1.0, values("E.sag.front")),
    (
        "square root for an injection that senses no air",
        metering,
        "dry_density",
        lambda air, right=metering.dry_density: np.sqrt(right(air)),
        test_kinds.test_what_the_injection_senses_decides_what_thin_air_does,
    ),
    (
        "compensation without its limit",
        metering,
        "compensated",
        lambda change, share, limit: change * (1.0 - share),
        test_kinds.test_a_metering_rod_evens_out_its_share_up_to_its_limit,
    ),
    (
        "the last lap not finished",
        test_kinds,
        "lap_chances",
        lambda *a, right=test_kinds.lap_chances, **k: tuple((n - 1, c) for n, c in right(*a, **k)),
        test_kinds.test_laps_by_hours_agree_with_a_simulation_of_laps,
    ),
    (
        "motor losses by torque forgotten",
        engine,
        "ELECTRIC_LOSS_PER_TORQUE2",
        0.0,
        test_kinds.test_a_motor_gives_torque_then_power_and_the_battery_pays_for_both,
    ),
    (
        "pitch as circumference of the radius",
        chain,
        "pitch_radius",
        lambda teeth: teeth * chain.CHAIN_PITCH_M / 6.0,
        values("D.chain.length_links"),
    ),
    (
        "chain tightest with the wheel hanging",
        chain,
        "tightest_height",
        lambda arm: arm.axle_low_m,
        values("D.slack.tightest", "D.slack.droop"),
    ),
    (
        "trail with the offset the wrong way",
        geometry,
        "trail",
        lambda radius, rake, offset: (radius * np.sin(rake) + offset) / np.cos(rake),
        values("E.trail"),
    ),
    (
        "tubes up taken as front up",
        geometry,
        "attitude_of",
        lambda view, right=geometry.attitude_of, **k: right(dataclasses.replace(view, fork_up_m=-view.fork_up_m), **k),
        test_attitude.test_what_the_trade_says_of_each_change,
    ),
    (
        "gauge pressure without the air outside",
        pressure,
        "gauge_at",
        lambda p, *, temperature_then_k, temperature_now_k, **_: p * temperature_now_k / temperature_then_k,
        test_attitude.test_closed_air_rises_with_height_as_the_trade_measures,
    ),
    (
        "tail wind as head wind",
        simulation,
        "headwind",
        lambda course, what, right=simulation.headwind: -right(course, what),
        test_on_the_road.test_wind_moves_the_top_speed_to_the_root_with_the_wind_in_it_and_balances,
    ),
    (
        "power share taken as slide lift",
        lift,
        "slide_area",
        lambda share: np.asarray(share),
        test_on_the_road.test_power_share_is_not_slide_lift,
    ),
    (
        "roll-out as a diameter",
        road,
        "radius_of_roll_out",
        lambda distance, turns: distance / np.pi / turns,
        test_on_the_road.test_roll_out_and_revs_with_speed_find_the_same_hidden_wheel,
    ),
    (
        "other fuel through the same jets the wrong way",
        richness,
        "jet_richness",
        lambda fuel, proven, right=fuels.jet_richness: right(proven, fuel),
        lambda: test_fuelling.test_each_circuit_acts_where_it_should_and_the_way_it_should({"fuel": 3}, 0.5, (), -1),
    ),
    (
        "the gauge's lag taken the wrong way",
        logs,
        "lagged",
        lambda log, even, slow: np.interp(log.time_s - even - slow, log.time_s, log.lambda_seen),
        test_fuelling.test_a_hidden_map_error_and_lag_are_recovered_within_their_range,
    ),
    (
        "trims against the error turned round",
        logs,
        "proposed_trims",
        lambda present, binned, right=logs.proposed_trims, **k: right(
            present, dataclasses.replace(binned, error=-binned.error), **k
        ),
        test_fuelling.test_trims_bring_the_map_to_its_target_step_by_step_and_never_too_far,
    ),
    (
        "wheel torque taken as crank torque",
        dyno,
        "crank_torque",
        lambda torque, right=dyno.crank_torque, **k: right(torque, **(k | {"place": "crank"})),
        test_fuelling.test_standards_agree_where_they_speak_of_the_same_air,
    ),
    (
        "each leg alone as sure as the race is wanted",
        test_stops,
        "best_plan",
        lambda course, tank, factor, certainty, right=plans.best_plan, **k: right(
            course, tank, factor, certainty - 0.04, **k
        ),
        lambda: test_stops.test_the_plan_is_the_best_of_all_there_are(0),
    ),
    (
        "poured litres taken as a level",
        test_stops,
        "chance_of",
        lambda start, fills, legs, factor, right=stops.chance_of, **k: right(
            start, [stops.Fill(amount=f.amount) for f in fills], legs, factor, **k
        ),
        lambda: test_stops.test_the_chance_to_finish_over_stops_agrees_with_a_simulation(
            (stops.Fill(amount=2.6, add=True), stops.Fill(amount=6.2, add=True))
        ),
    ),
    ("summer time of the sun", sun, "TWILIGHT_RAD", 0.5, test_stops.test_the_dark_comes_when_it_should),
    (
        "ring load held by the clamp's moment alone",
        plates,
        "_f9",
        lambda x, right=plates._f9: 0.9 * right(x),
        lambda: test_damping.test_plates_agree_with_roark(
            "24.15", 12, (7.5, 10.5), 2.797247, 6665.05, 1.369392, 2524.402, 1.148579
        ),
    ),
    (
        "shims that pull",
        stack,
        "_forces",
        lambda matrix, gap, active: -np.linalg.solve(matrix + 1e-15 * np.eye(gap.size), gap),
        lambda: test_damping.test_a_crossover_opens_soft_and_closes_near_the_clamp(
            "13.20", (0.03114, 0.15570, 0.29495, 0.45453, 0.77480)
        ),
    ),
    (
        "clicks counted the wrong way round",
        orifices.Needle,
        "area_m2",
        lambda self, clicks, right=orifices.Needle.area_m2: right(self, 22 - clicks),
        test_damping.test_the_needle_opens_as_published,
    ),
    ("fork travel taken upright", halfcar.HalfCar, "lean", 1.0, test_halfcar.test_it_stands_as_the_handbook_has_it),
    (
        "leanness looked at from half lift up only",
        leanness,
        "range_limits",
        only_from_half_up,
        test_leanness.test_thresholds_are_the_handbooks,
    ),
    (
        "leanness looked at from half lift up only, on the bike",
        coupled_leanness,
        "range_limits",
        only_from_half_up,
        test_leanness.test_a_starved_pilot_is_told_where_it_starves_and_never_called_safe,
    ),
    (
        "a proposal that leans a range",
        rejet,
        "leans",
        lambda *a: False,
        lambda: test_leanness.test_a_proposal_leans_no_range_below_the_pair_mends_its_finding_and_says_what_it_leaves(
            {"main_jet": 190.0, "needle_clip": 3}
        ),
    ),
    (
        "lean saves fuel",
        mixture.Mixture,
        "richer_mix",
        lambda self, air, setup, *, as_ridden=False, right=mixture.Mixture.richer_mix: right(
            self, air, setup, as_ridden=True
        ),
        lambda: test_leanness.test_running_lean_saves_no_fuel_and_nothing_of_it_is_better(test_leanness.STARVED),
    ),
    (
        "oil that saves litres",
        mixture,
        "premix_petrol_share",
        lambda ratio: 1.0,
        test_leanness.test_oil_in_the_mix_leans_and_saves_no_litres,
    ),
    (
        "the clutch's revs by way of a speed",
        hills,
        "force_at",
        walking_speed_turned_back,
        test_on_the_road.test_the_hill_limit_is_the_least_of_three_and_monotone_over_every_pair_of_sprockets,
    ),
    (
        "a fill-up reckoned in the air of the race",
        day.Day,
        "when",
        lambda self, under: self.air,
        test_on_the_road.test_what_was_seen_in_other_air_is_reckoned_in_that_air,
    ),
    (
        "sea level outside the fork",
        sag,
        "air_force",
        lambda fork, x, exponent=1.0, right=sag.air_force: right(
            dataclasses.replace(fork, outside_pa=101_325.0), x, exponent
        ),
        test_springing.test_thin_air_outside_lets_a_sealed_fork_stand_higher_and_a_bled_one_sink,
    ),
    (
        "sea level outside a sealed fork",
        sag,
        "air_force",
        lambda fork, x, exponent=1.0, right=sag.air_force: right(
            dataclasses.replace(fork, outside_pa=101_325.0), x, exponent
        ),
        values("E.sag.front.rider_at_1830", "E.fork_force_at_300.rider_at_1830"),
    ),
    (
        "given or assumed out of the cache",
        evaluation,
        "with_inputs",
        given_as_first_seen(),
        lambda: test_warm.test_warm_is_fresh("electric"),
    ),
    (
        "rotor by its diameter, not its square",
        brakes,
        "rotor_face",
        lambda rotor_m: 0.1357 * rotor_m / 0.24 * 0.5,
        lambda: test_kit.test_rotor_and_fluid_as_tried_in_the_handbook("brackenmere", (387.0, 335.0), (100.0, 93.0)),
    ),
    (
        "what was weighed with the bike counted twice",
        bike_loads,
        "aboard_of",
        put_on_once_more,
        test_kit.test_an_item_that_was_on_when_weighed_is_counted_once,
    ),
    (
        "mass of a rim taken as sprung",
        bike_loads,
        "on_wheel_kg",
        lambda aboard, end: 0.0,
        lambda: test_kit.test_what_is_on_a_wheel_is_not_sprung_and_no_payload("front"),
    ),
    (
        "an old reading rewritten by a new item",
        bike_loads.Loads,
        "extras",
        lambda self, setup, aboard=None, right=bike_loads.Loads.extras: right(self, setup),
        test_kit.test_a_reading_keeps_what_was_on_whatever_comes_on_later,
    ),
    (
        "decibels averaged",
        sound,
        "added",
        lambda levels: sum(levels) / len(list(levels)) if (levels := list(levels)) else 0.0,
        test_kit_ready.test_levels_are_added_by_power_and_what_is_on_moves_them,
    ),
    (
        "glycol by volume where moles boil",
        coolant,
        "mole_share",
        lambda glycol_share: glycol_share,
        test_kit_ready.test_water_and_mixture_boil_and_hold_heat_as_coolprop_has_them,
    ),
    (
        "the fan's air added to the way's",
        cooling,
        "air_through",
        fan_and_way,
        test_kit_ready.test_the_fan_is_never_added_to_the_air_of_the_way,
    ),
    (
        "the battery by the mean of the lap",
        electrics,
        "battery_along",
        by_the_mean,
        test_kit_ready.test_the_battery_is_judged_at_its_lowest_not_by_the_mean,
    ),
    (
        "a stone of twelve pounds",
        written,
        "POUNDS_PER_STONE",
        12.0,
        lambda: test_written.test_each_spelling_means_what_the_table_says("mass", Spelling("16 st", 224.0, "lb")),
    ),
    (
        "an hour and a half read as ninety seconds",
        written,
        "_time",
        lambda text, by_hours, right=written._time: right(text, False),
        lambda: test_written.test_each_spelling_means_what_the_table_says("minutes", Spelling("1:30", 90.0, "min")),
    ),
    (
        "a spring that nobody read taken as stamped",
        springs.Springs,
        "unread",
        lambda self, end, setup: (),
        test_patterns.test_what_is_said_is_kept_and_narrows_the_answer,
    ),
    (
        "the sheet for the van door four numbers too small",
        jetbox,
        "main_jet_wanted",
        lambda *a, right=richness.main_jet_wanted: (right(*a) or 0.0) - 4.0,
        test_fuelling.test_no_jet_of_the_sheet_leans_the_pair_anywhere_from_half_throttle_up,
    ),
    (
        "temperature of the hypsometric column",
        station,
        "LAPSE_K_PER_M",
        0.1,
        test_outside.test_power_and_pressure_against_published_statements,
    ),
]


@pytest.mark.parametrize(("name", "module", "attribute", "fault", "guard"), FAULTS, ids=[f[0] for f in FAULTS])
def test_a_planted_fault_is_caught(monkeypatch, name, module, attribute, fault, guard):
    guard()
    # what is kept was reckoned without the fault, and what is reckoned with it must not be kept for others
    monkeypatch.setattr(stage_cache, "CORE_VERSION", f"planted: {name}")
    monkeypatch.setattr(module, attribute, fault)
    with pytest.raises(AssertionError):
        guard()
