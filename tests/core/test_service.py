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
from lynxwort.core.physics.service import hours, risk, torque, wear
from lynxwort.core.stations.baseline.due import RaceUse, day_after, due, months_between, risks
from lynxwort.core.stations.baseline.log import Log
from lynxwort.core.stations.baseline.worn import worn

CHECKS = {
    v["name"]: v for v in json.loads((Path(__file__).parents[1] / "data/service-values.json").read_text())["values"]
}
H = 3600.0


def expected(name, got):
    value = CHECKS[name]
    assert got == pytest.approx(value["expected"], rel=value["tolerance"]["rel"]), name


def test_weibull_by_published_bearings_scipy_and_the_handbook():
    turns = CHECKS["S.weibull.bearings.shape"]["inputs"]["million_turns"]
    shape, _zero, scale = weibull_min.fit(turns, floc=0)
    expected("S.weibull.bearings.shape", shape)
    expected("S.weibull.bearings.scale", scale)
    for t in (20.0, 80.0):
        assert risk.failed_by(t, shape, scale) == pytest.approx(weibull_min.cdf(t, shape, scale=scale), rel=1e-9)
    step = 1e-3
    expected("S.weibull.nist.pdf", (risk.failed_by(1000 + step, 1.5, 5000) - risk.failed_by(1000, 1.5, 5000)) / step)
    expected("S.weibull.share_by_scale", risk.failed_by(1.0, 3.1, 1.0))
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
    assert risk.fails_within(run, more, 1.0, eta) == pytest.approx(risk.failed_by(more, 1.0, eta), abs=1e-9)
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
