"""Service: clocks, risk, wear, bolts, against check values, simulation and laws that hold for every bike."""

import json
from math import inf, isclose
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats import weibull_min

from lynxwort.core.model.service import Service
from lynxwort.core.model.service.checks import BY_NAME
from lynxwort.core.model.service.intervals import PART_KINDS, lasts_of
from lynxwort.core.physics.service import hours, risk, torque, wear
from lynxwort.core.stations.baseline.bolts import bolts
from lynxwort.core.stations.baseline.due import RaceUse, day_after, due, months_between, risks
from lynxwort.core.stations.baseline.log import Log
from lynxwort.core.stations.baseline.worn import worn
from lynxwort.words.service.parts import PARTS
from tests import outside

CHECKS = {
    v["name"]: v for v in json.loads((Path(__file__).parents[1] / "data/service-values.json").read_text())["values"]
}
H = 3600.0


def expected(name, got):
    value = CHECKS[name]
    assert got == pytest.approx(value["expected"], rel=value["tolerance"]["rel"]), name
    outside.seen_value(value, got)


def test_weibull_by_published_bearings_scipy_and_the_handbook():
    turns = CHECKS["S.weibull.bearings.shape"]["inputs"]["million_turns"]
    shape, _zero, scale = weibull_min.fit(turns, floc=0)
    expected("S.weibull.bearings.shape", shape)
    expected("S.weibull.bearings.scale", scale)
    for t in (20.0, 80.0):
        assert risk.fails_within(0.0, t, shape, scale) == pytest.approx(
            weibull_min.cdf(t, shape, scale=scale), rel=1e-9
        )
    step = 1e-3
    expected(
        "S.weibull.nist.pdf",
        (risk.fails_within(0.0, 1000 + step, 1.5, 5000) - risk.fails_within(0.0, 1000, 1.5, 5000)) / step,
    )
    expected("S.weibull.share_by_scale", risk.fails_within(0.0, 1.0, 3.1, 1.0))
    eta = risk.scale_of(40.0, 3.0, 0.1)
    expected("S.weibull.scale_from_b10", eta)
    expected("S.weibull.within_40_3_35_6", risk.fails_within(35, 6, 3.0, eta))
    expected("S.weibull.within_100_2.5_90_3", risk.fails_within(90, 3, 2.5, risk.scale_of(100, 2.5, 0.1)))
    # the one in use has lived to now too
    expected("S.weibull.learned_no_failures", risk.learned(20, 6, 3.0, eta, lives=[38, 41, 44, 20]))
    expected("S.weibull.learned_one_failure", risk.learned(20, 6, 3.0, eta, lives=[30, 20], failures=1))
    # the interval as B2: 40 h, 35 h run, 6 h of race (TRIALS 5)
    assert risk.scale_of(40.0, 3.0) == pytest.approx(146.9, abs=0.05)
    assert risk.fails_within(35, 6, 3.0, risk.scale_of(40.0, 3.0)) == pytest.approx(0.008, abs=5e-4)


def test_a_simulation_of_a_hundred_thousand_pistons_agrees():
    rng = np.random.default_rng(4)
    eta = risk.scale_of(40.0, 3.0, 0.1)
    lives = eta * rng.weibull(3.0, 400_000)
    alive = lives > 35.0
    share = float((lives[alive] < 41.0).mean())
    assert share == pytest.approx(risk.fails_within(35, 6, 3.0, eta), abs=4.0 * np.sqrt(0.042 / alive.sum()))
    # and what is learned: scales drawn from the belief, weighed by the pistons that were seen
    scales = (3.0 * eta**3 / rng.gamma(3.0, 1.0, 400_000)) ** (1.0 / 3.0)
    seen = np.exp(-((20.0 / scales) ** 3 + (38.0 / scales) ** 3 + (41.0 / scales) ** 3 + (44.0 / scales) ** 3))
    told = 1.0 - np.exp((20.0 / scales) ** 3 - (26.0 / scales) ** 3)
    mean = float((seen * told).sum() / seen.sum())
    assert mean == pytest.approx(risk.learned(20, 6, 3.0, eta, lives=[38, 41, 44, 20]), rel=0.01)


@given(
    run=st.floats(0.0, 500.0), more=st.floats(0.0, 50.0), shape=st.floats(1.0, 5.0), life=st.floats(5.0, 300.0),
    later=st.floats(0.1, 50.0),
)  # fmt: skip
def test_a_chance_is_one_rises_with_age_and_is_exponential_without_memory(run, more, shape, life, later):
    eta = risk.scale_of(life, shape)
    for chance in (risk.fails_within, risk.learned):
        p = chance(run, more, shape, eta)
        assert 0.0 <= p <= 1.0
        assert chance(run + later, more, shape, eta) >= p - 1e-9
    assert risk.fails_within(run, more, 1.0, eta) == pytest.approx(risk.fails_within(0.0, more, 1.0, eta), abs=1e-9)
    assert risk.learned(run, more, shape, eta, failures=1) >= risk.learned(run, more, shape, eta) - 1e-12
    assert risk.learned(run, more, shape, eta, lives=[run]) <= risk.learned(run, more, shape, eta) + 1e-12


def test_bolts_by_iso_898_and_vdi_2230():
    for name, d, p in (("M5x0.8", 5, 0.8), ("M8x1", 8, 1), ("M10x1.25", 10, 1.25), ("M14x2", 14, 2), ("M16x2", 16, 2)):
        expected(f"S.bolt.area_{name}", torque.stress_area(d / 1e3, p / 1e3) * 1e6)
    for size in ("M8", "M10", "M12"):
        i = CHECKS[f"S.bolt.torque_{size}"]["inputs"]
        face = 0.5 * (i["head_mm"] + i["hole_mm"]) / 1e3
        bolt = (i["d_mm"] / 1e3, i["pitch_mm"] / 1e3)
        expected(f"S.bolt.torque_{size}", torque.torque(i["preload_n"], *bolt, i["friction"], i["friction"], face))
        assert torque.preload(
            torque.torque(1e4, *bolt, 0.12, 0.12, face), *bolt, 0.12, face
        ) == pytest.approx(1e4)  # fmt: skip
    for size, d, p in (("M10", 0.010, 0.0015), ("M12", 0.012, 0.00175)):
        expected(f"S.bolt.preload_{size}", torque.largest_preload(d, p, 0.12))
    i = CHECKS["S.bolt.preload_oiled_over_dry"]["inputs"]
    oiled, dry = (torque.preload(25.0, 0.008, 0.00125, f, 1.3 * 0.008) for f in i["friction"])
    assert oiled / dry == pytest.approx(1.7, abs=0.05)
    least, likely, most = torque.preload_range(25.0, 0.008, 0.00125, "dry")
    assert least < likely < most < torque.preload_range(25.0, 0.008, 0.00125, "oiled")[2]


def test_spokes_as_string_pinned_and_clamped_bar():
    i = CHECKS["S.spoke.string_hz"]["inputs"]
    expected("S.spoke.string_hz", wear.string_hz(i["tension_n"], i["length_m"], i["diameter_m"]))
    expected("S.spoke.pinned_400", wear.pinned_hz(400, 0.19, 0.0035))
    expected("S.spoke.clamped_400", wear.clamped_hz(400, 0.19, 0.0035))
    expected("S.spoke.clamped_800", wear.clamped_hz(800, 0.19, 0.0035))
    # tone hardly tells tension (TRIALS 5)
    assert wear.clamped_hz(1200, 0.19, 0.0035) / wear.clamped_hz(400, 0.19, 0.0035) == pytest.approx(1.17, abs=0.01)
    assert wear.evenness([300.0, 303.0, 297.0, 330.0]) == (pytest.approx(330 / 301.5 - 1), 3)


def test_valves_reach_their_limit_as_early_as_statsmodels_says():
    i = CHECKS["S.wear.valve_earliest"]["inputs"]
    line = wear.trend(i["hours"], i["clearance_mm"], i["limit_mm"])
    assert line is not None
    assert line.limit_s == pytest.approx(128.0, abs=0.7)
    expected("S.wear.valve_earliest", line.earliest_s)
    up = wear.trend(i["hours"], [1.0 - c for c in i["clearance_mm"]], 1.0 - i["limit_mm"])
    assert up is not None
    assert up.earliest_s == pytest.approx(line.earliest_s, rel=1e-6)
    even = wear.trend([0, 10, 20, 30], [0.2, 0.2, 0.2, 0.2], 0.1)
    assert even is not None
    assert even.limit_s == inf
    assert wear.trend([5.0, 5.0], [0.2, 0.1], 0.0) is None


def test_compression_and_chain():
    assert wear.at_sea_level(11.2e5, 83_500) / 1e5 == pytest.approx(13.6, abs=0.05)
    assert wear.chain_stretch(20 * 0.015875, 20) == 0.0
    assert wear.chain_stretch(0.3229, 20) == pytest.approx(0.017, abs=1e-4)


@given(st.lists(st.floats(60.0, 20_000.0), max_size=8), st.floats(0.0, 4e5), st.floats(1.0, 3.0))
def test_hours_are_the_meters_and_a_part_runs_with_the_bike(rides, first, stretched):
    """However the rides add up, the meter rules; a part fitted at any hour runs what the bike did since."""
    typed = [hours.Ridden(time_s=t, meter_s=None) for t in rides]
    total = sum(rides)
    line = hours.timeline([hours.Ridden(time_s=None, meter_s=first), *typed])
    assert line.now_s == pytest.approx(first + total)
    later = first + total * stretched + 10.0
    met = hours.timeline([hours.Ridden(time_s=None, meter_s=first), *typed, hours.Ridden(time_s=None, meter_s=later)])
    assert met.now_s == pytest.approx(later)
    plain = [1.0] * (len(rides) + 2)
    for fitted in (0.0, 0.5 * later, later):
        assert hours.run_since(met, fitted, plain) == pytest.approx(later - fitted, abs=1e-6)
    assert all(isclose(a.to_s, b.from_s, abs_tol=1e-6) for a, b in zip(met.spans, met.spans[1:], strict=False))


def test_a_meter_that_ran_longer_or_was_changed_is_seen():
    def line(*rides):
        return hours.timeline([hours.Ridden(time_s=t and t * H, meter_s=m and m * H) for t, m in rides])

    even = line((None, 100), (3, None), (3, 106.5))
    assert not even.gaps
    assert even.now_s == 106.5 * H
    off = line((None, 100), (3, None), (3, 109))
    assert [round(share, 2) for _i, share in off.gaps] == [0.5]
    assert line((None, 100), (3, None), (2, 2.0)).now_s == pytest.approx(105 * H)


def log(stroke="two_stroke", **service):
    return Log(
        service=Service.model_validate(service),
        begun=True,
        stroke=stroke,
        small=False,
        bore_m=0.066,
        cooled=True,
        battery=False,
    )


RACE = RaceUse(takes_s=6 * H, sand_share=0.0, mud_share=0.0, full_share=0.0, start="2027-04-02")


def test_due_now_and_during_the_race_by_hours_calendar_and_use():
    def parts(**more):
        return {"id": "p", "seq": 9, "kind": "piston", "fitted_s": 80 * H} | more

    rides = ({"id": "m", "seq": 1, "meter_s": 112 * H}, {"id": "r", "seq": 2, "time_s": 6 * H})
    (found,) = due(log(rides=rides, parts=(parts(),)), RACE)
    assert (found.run_s, found.left_s, found.state) == (38 * H, 2 * H, "exceeds_during_race")
    sandy = RaceUse(takes_s=6 * H, sand_share=1.0, mud_share=0.0, full_share=0.3, start="2027-04-02")
    assert due(log(rides=rides, parts=(parts(),)), sandy)[0].finish_s == pytest.approx((38 + 6 * 1.3 * 1.3) * H)
    assert due(log(rides=rides, parts=(parts(interval_s=30 * H),)), RACE)[0].state == "overdue"
    assert due(log(rides=rides, parts=(parts(interval_s=60 * H),)), RACE)[0].state == "fine"
    assert due(log(rides=rides, parts=(parts(), parts(seq=10, fitted_s=118 * H, id="q"))), RACE)[0].run_s == 0.0
    fluid = {"id": "f", "seq": 3, "kind": "brake_fluid", "fitted_day": "2025-04-03"}
    told = {
        d: due(log(parts=(fluid | {"fitted_day": d},)), RACE)[0].state
        for d in ("2025-04-02", "2025-04-03", "2026-05-01")
    }
    assert told == {"2025-04-02": "overdue", "2025-04-03": "soon", "2026-05-01": "fine"}
    assert due(log(parts=({"id": "f", "seq": 3, "kind": "brake_fluid"},)), RACE)[0].state == "unknown"
    assert day_after("2026-01-31", 1) == "2026-02-28"
    assert months_between("2025-04-03", "2027-04-02") == 23


def test_risk_is_learned_from_pistons_pulled():
    rides, now = ({"id": "m", "seq": 1, "meter_s": 20 * H},), {"id": "p", "seq": 2, "kind": "piston"}

    def one(*before):
        found = log(rides=rides, parts=(*before, now))
        return risks(found, due(found, RACE))[0]

    sound = [
        {"id": f"s{i}", "seq": 0, "kind": "piston", "fate": "sound", "ended_s": t * H}
        for i, t in enumerate((38, 41, 44))
    ]
    alone, after, failed = one(), one(*sound), one(sound[0] | {"fate": "failed", "ended_s": 30 * H})
    assert after.chance < alone.chance < failed.chance
    assert alone.low < alone.chance < alone.high
    assert (after.pulled, after.failed, failed.failed) == (3, 0, 1)


def test_wear_is_judged_by_the_manual_first_and_by_its_own_trend():
    def seen(**reading):
        return worn(log(wear=({"id": "w", "seq": 1} | reading,)))[reading["measure"]]

    assert seen(measure="rod_play", value_si=0.0005).state == "unknown"
    assert seen(measure="rod_play", value_si=0.0005, limit_si=0.0004).state == "act"
    assert seen(measure="ring_gap", value_si=0.0003).state == "ok"
    assert seen(measure="ring_gap", value_si=0.00054).state == "act"
    assert seen(measure="big_end", seen="felt").state == "act"
    assert seen(measure="pad_front", value_si=0.0009).state == "act"
    assert seen(measure="knob_rear", value_si=0.39).state == "look"
    assert seen(measure="chain_length", value_si=0.3229, links=20).state == "act"
    assert seen(measure="spokes_rear", tones_hz=[300.0, 303.0, 299.0, 322.0]).state == "act"
    assert seen(measure="spokes_rear", tones_hz=[300.0, 303.0, 299.0, 300.0], dead=1).because == "dead"
    falls = [
        {"id": f"c{i}", "seq": i, "measure": "compression", "value_si": v * 1e5, "station_pa": 101_325.0}
        for i, v in enumerate((12.0, 11.9, 9.5))
    ]
    assert worn(log(wear=falls))["compression"].state == "act"
    assert worn(log(wear=falls[:1]))["compression"].state == "unknown"
    valves = [
        {"id": f"v{i}", "seq": i, "measure": "valve_intake", "value_si": c / 1e3, "at_s": h * H, "limit_si": 0.0001}
        for i, (h, c) in enumerate(((0, 0.17), (20, 0.155), (42, 0.15), (60, 0.135)))
    ]
    told = worn(log(stroke="four_stroke", wear=valves))["valve_intake"]
    assert told.state == "ok"
    assert told.earliest_s == pytest.approx(92.3 * H, rel=1e-3)
    quick = [*valves, valves[-1] | {"id": "v9", "seq": 9, "at_s": 64 * H, "value_si": 0.000115}]
    assert worn(log(stroke="four_stroke", wear=quick))["valve_intake"].because == "faster"


STROKES = ("two_stroke", "four_stroke", "electric")


@pytest.mark.parametrize(("kind", "stroke"), [(k, s) for k in PART_KINDS for s in STROKES])
def test_every_interval_has_words_and_a_trail_bikes_is_no_shorter(kind, stroke):
    lasts = lasts_of(kind, stroke)
    assert kind in PARTS
    if lasts is None:
        return
    assert lasts.race_h is not None or lasts.months is not None
    if lasts.race_h is not None:
        assert lasts.trail_h is not None
        assert 0.0 < lasts.race_h <= lasts.trail_h
    if lasts.small_race_h is not None:
        assert lasts.small_race_h < lasts.race_h
        assert lasts.small_trail_h < lasts.trail_h
    assert set(lasts.voids) <= set(BY_NAME)
    assert min(lasts.sand_factor, lasts.mud_factor, lasts.full_factor) >= 1.0
    # a chance is told only where a failure ends a race and hours are known
    assert lasts.shape is None or lasts.race_h is not None


def test_every_kind_of_engine_has_its_own_list():
    def kinds(stroke):
        return {k for k in PART_KINDS if lasts_of(k, stroke) is not None}

    two, four, motor = map(kinds, STROKES)
    assert {"reeds", "power_valve"} <= two - four
    assert {"valves", "cam_chain"} <= four - two
    assert {"reduction_oil", "pack_connector", "motor_bearings"} == motor - two - four
    assert not motor & {"piston", "crank", "oil", "clutch", "filter", "coolant", "packing"}


def test_the_intervals_are_those_of_the_page_they_come_from():
    """TRIALS 5, from memory and practice, no source: race / trail, the small ones first."""
    for kind, stroke, small, hours_race, hours_trail in (
        ("piston", "two_stroke", True, 20, 40), ("piston", "two_stroke", False, 40, 80),
        ("piston", "four_stroke", True, 30, 60), ("piston", "four_stroke", False, 60, 100),
        ("crank", "two_stroke", True, 50, 80), ("crank", "two_stroke", False, 90, 160),
        ("crank", "four_stroke", False, 110, 200), ("oil", "four_stroke", False, 8, 15),
        ("valves", "four_stroke", False, 15, 40), ("cam_chain", "four_stroke", False, 60, 120),
        ("wheel_bearings", "electric", False, 60, 120), ("mousse", "two_stroke", False, 10, 25),
    ):  # fmt: skip
        for ridden, wanted in (("race", hours_race), ("trail", hours_trail)):
            made = Log(
                service=Service.model_validate({"ridden": ridden, "parts": [{"id": "p", "kind": kind}]}), begun=True,
                stroke=stroke, small=small, bore_m=None, cooled=True, battery=False,
            )  # fmt: skip
            assert made.interval_s(made.parts[kind]) == wanted * H, (kind, stroke, ridden)


def test_a_new_wheels_spokes_are_gone_over_four_times_then_every_ten_hours():
    due_at = []
    run = 0.0
    for _time in range(6):
        part = {"id": "s", "seq": 1, "kind": "spokes", "new_build": True, "carried_s": run * H}
        made = log(parts=(part,))
        due_at.append(made.interval_s(made.parts["spokes"]) / H)
        run = due_at[-1]
    assert due_at == [0.5, 1.0, 3.0, 5.0, 15.0, 25.0]
    fork = log(parts=({"id": "f", "seq": 1, "kind": "fork_oil", "new_build": True},))
    assert fork.interval_s(fork.parts["fork_oil"]) == 8 * H


@given(
    st.lists(st.tuples(st.floats(60.0, 20_000.0), st.floats(0.0, 1.0), st.floats(0.0, 1.0)), min_size=1, max_size=6),
    st.integers(0, 5),
)
def test_a_line_struck_out_leaves_all_as_it_was_and_wear_counts_each_ride_by_its_ground(rides, which):
    """A part's hours are the sum of its rides, each by its own factor, in whatever order they come."""
    lines = [
        {"id": f"r{k}", "seq": k, "time_s": t, "sand_share": sand, "mud_share": min(mud, 1.0 - sand)}
        for k, (t, sand, mud) in enumerate(rides)
    ]
    part = {"id": "p", "seq": 99, "kind": "chain"}
    made = log(rides=lines, parts=(part,))
    run = made.run_s(made.parts["chain"])
    by_hand = sum(
        r["time_s"] * (1 + r["sand_share"]) * (1 + r["mud_share"]) for r in lines  # chain: sand 2, mud 2
    )  # fmt: skip
    assert run == pytest.approx(by_hand)
    turned = log(rides=[r | {"seq": 50 - r["seq"]} for r in lines], parts=(part,))
    assert turned.run_s(turned.parts["chain"]) == pytest.approx(run)
    without = [r for k, r in enumerate(lines) if k != which % len(lines)]
    left = log(rides=without, parts=(part,))
    gone = lines[which % len(lines)]
    lost = gone["time_s"] * (1 + gone["sand_share"]) * (1 + gone["mud_share"])
    assert left.run_s(left.parts["chain"]) == pytest.approx(run - lost, abs=1e-6)


def test_a_part_that_moves_runs_on_from_what_it_had():
    rides = ({"id": "m", "seq": 1, "meter_s": 20 * H}, {"id": "r", "seq": 3, "time_s": 5 * H})
    moved = {"id": "p", "seq": 2, "kind": "piston", "fitted_s": 20 * H, "carried_s": 33 * H}
    made = log(rides=rides, parts=(moved,))
    assert made.run_s(made.parts["piston"]) == 38 * H
    off = moved | {"fate": "sound", "ended_s": 35 * H}
    assert "piston" not in log(rides=rides, parts=(off,)).parts
    with pytest.raises(ValueError, match="life_unsaid"):
        log(parts=(moved | {"fate": "failed"},))


def test_wear_of_a_part_begins_anew_with_a_new_one_and_compression_is_compared_by_one_gauge():
    gaps = [
        {"id": f"g{k}", "seq": k, "measure": "ring_gap", "value_si": mm / 1e3, "at_s": h * H, "limit_si": 0.0005}
        for k, (h, mm) in enumerate(((10, 0.40), (20, 0.44), (30, 0.25)))
    ]
    new = {"id": "p", "seq": 9, "kind": "piston", "fitted_s": 25 * H}
    assert worn(log(wear=gaps))["ring_gap"].count == 3
    assert worn(log(wear=gaps, parts=(new,)))["ring_gap"].count == 1
    read = [
        {"id": "a", "seq": 1, "measure": "compression", "value_si": 12e5, "gauge": "shop's"},
        {"id": "b", "seq": 2, "measure": "compression", "value_si": 9e5, "gauge": "own"},
    ]
    assert worn(log(wear=read))["compression"].state == "unknown"
    assert worn(log(wear=[r | {"gauge": "own"} for r in read]))["compression"].state == "act"


@pytest.mark.parametrize(
    ("bolt", "asks"),
    [
        ({}, {"open"}),
        ({"tight_s": 0.0}, set()),
        ({"tight_s": 0.0, "fresh_s": 0.0}, {"again"}),
        ({"tight_s": 1.5 * H, "fresh_s": 0.0}, {"again"}),
        ({"tight_s": 3.5 * H, "fresh_s": 0.0}, set()),
        ({"tight_s": 0.0, "fresh_s": 0.0, "thread": "locked", "place": "rotor"}, set()),
        ({"tight_s": 0.0, "mark": "moved"}, {"moved"}),
        ({"tight_s": 0.0, "place": "axle", "locker": "removable"}, {"locked_there"}),
        ({"tight_s": 0.0, "place": "sprocket"}, {"unlocked"}),
        ({"tight_s": 0.0, "locker": "high_strength"}, {"high_strength"}),
    ],
)
def test_a_bolt_asks_for_the_spanner_when_it_settled_and_is_never_turned_when_locked(bolt, asks):
    made = log(
        rides=({"id": "m", "seq": 1, "meter_s": 4 * H},),
        bolts=({"id": "b", "seq": 2, "name": "bolt", "torque_nm": 24.0} | bolt,),
    )
    (found,) = bolts(made)
    said = {n for n in ("open", "again", "moved") if getattr(found, n)} | {found.odd_locker} - {""}
    assert said == asks
    locked = bolt.get("thread") == "locked" or "locker" in bolt
    assert found.turned is not locked
    assert found.preload_n is not None
    in_alloy = log(bolts=({"id": "b", "seq": 2, "name": "bolt", "torque_nm": 12.0, "in_aluminium": True},))
    assert bolts(in_alloy)[0].preload_n is None
