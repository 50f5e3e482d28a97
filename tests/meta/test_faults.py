"""Planted faults: each well-known mistake of the trade, put into the code, must break an existing test."""

import numpy as np
import pytest

from lynxwort.core.air import station
from lynxwort.core.chassis import loads, sag
from lynxwort.core.drive import chain, engine, gearing, pull
from lynxwort.core.fuelling import jets, metering, richness
from tests.core import test_check_values, test_kinds, test_outside, test_ride, test_stations
from tests.core.test_check_values import VALUES, check


def values(*prefixes):
    def run():
        for value in VALUES:
            if value["name"].startswith(prefixes) and not value["name"].startswith(test_check_values.LATER):
                check(value)

    return run


def half_taper_as_full(needle, lift_m, clip, middle):
    along = np.maximum(np.asarray(lift_m) + (clip - middle) * needle.clip_pitch_m - needle.taper_start_lift_m, 0.0)
    return needle.straight_diameter_m - along * np.tan(needle.taper_half_angle_rad)


def needle_moves_the_wrong_way(needle, lift_m, clip, middle, right=jets.needle_diameter):
    return right(needle, lift_m, 2 * middle - clip, middle)


def rider_on_the_front(frame, *, fuel_m3, rider_kg=0.0, posture="standing", share_offset=0.0, right=loads.axle_loads):
    made = right(frame, fuel_m3=fuel_m3, rider_kg=rider_kg, posture=posture, share_offset=share_offset)
    bare = right(frame, fuel_m3=fuel_m3)
    return loads.AxleLoads(front_kg=bare.front_kg + made.rear_kg - bare.rear_kg, rear_kg=bare.rear_kg + made.front_kg - bare.front_kg)


FAULTS = [
    ("square root on a diameter jet", jets, "number_for_area_factor", lambda n, f, numbering: n * f, values("B.main_jet")),
    ("reduced pressure as station pressure", station, "station_pressure", lambda kind, p, **_: p, values("A.station_pressure")),
    ("motion ratio not squared", sag, "shock_force_at_wheel", lambda s, w: s.rate_n_per_m * (sag.shock_stroke(s, w) + s.preload_m), values("E.sag.rear")),
    ("half taper as full", jets, "needle_diameter", half_taper_as_full, values("B.series.A_eff", "B.series.half_angle")),
    ("needle direction", jets, "needle_diameter", needle_moves_the_wrong_way, values("B.series.pct.needle")),
    ("first power for a carburettor", richness, "area_factor_for_air", lambda dry, moist: dry,
     test_stations.test_air_alone_follows_the_altitude_law_and_its_lean_end_is_safe),
    ("share of the rider", loads, "axle_loads", rider_on_the_front, test_stations.test_loads_add_up_and_the_rider_sits_behind),
    ("rolling radius forgotten", gearing, "speed_at", lambda rpm, ratio, radius: rpm * 2 * np.pi / 60 / ratio * 0.3, values("D.speed")),
    ("grade against the wrong sign", pull, "resistance", lambda what, ground, sine, v, right=pull.resistance: right(what, ground, -sine, v),
     test_ride.test_a_held_climb_stalls_to_walking_pace_exactly_where_first_gear_fails),
    ("fork load straight down", sag, "cos", lambda angle: 1.0, values("E.sag.front")),
    ("square root for an injection that senses no air", metering, "dry_density", lambda air, right=metering.dry_density: np.sqrt(right(air)),
     test_kinds.test_what_the_injection_senses_decides_what_thin_air_does),
    ("compensation without its limit", metering, "compensated", lambda change, share, limit: change * (1.0 - share),
     test_kinds.test_a_metering_rod_evens_out_its_share_up_to_its_limit),
    ("the last lap not finished", test_kinds, "lap_chances",
     lambda *a, right=test_kinds.lap_chances, **k: tuple((n - 1, c) for n, c in right(*a, **k)), test_kinds.test_laps_by_hours_agree_with_a_simulation_of_laps),
    ("motor losses by torque forgotten", engine, "ELECTRIC_LOSS_PER_TORQUE2", 0.0,
     test_kinds.test_a_motor_gives_torque_then_power_and_the_battery_pays_for_both),
    ("pitch as circumference of the radius", chain, "pitch_radius", lambda teeth: teeth * chain.CHAIN_PITCH_M / 6.0, values("D.chain.length_links")),
    ("chain tightest with the wheel hanging", chain, "tightest_height", lambda arm: arm.axle_low_m, values("D.slack.tightest", "D.slack.droop")),
    ("temperature of the hypsometric column", station, "LAPSE_K_PER_M", 0.1, test_outside.test_power_and_pressure_against_published_statements),
]  # fmt: skip


@pytest.mark.parametrize(("name", "module", "attribute", "fault", "guard"), FAULTS, ids=[f[0] for f in FAULTS])
def test_a_planted_fault_is_caught(monkeypatch, name, module, attribute, fault, guard):
    guard()
    monkeypatch.setattr(module, attribute, fault)
    with pytest.raises(AssertionError):
        guard()
