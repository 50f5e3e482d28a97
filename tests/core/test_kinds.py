"""Every kind of engine in every format of race, and what is true of each: metering, motors, stages, hours, schedules, what to measure."""

import itertools
import json
import math
from dataclasses import replace
from functools import cache
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.core.asks.worth import worth
from lynxwort.core.derived.supply import UNMEASURED_MOST
from lynxwort.core.evaluate import evaluate
from lynxwort.core.figures import FIGURES
from lynxwort.core.judging import consequences
from lynxwort.core.model.bike import ENGINE_KINDS, Electric, Injection, MeteringRodCarburettor
from lynxwort.core.model.inputs import dump_inputs, load_inputs
from lynxwort.core.model.race import GROUNDS, GroundSegment, RefuelPoint, Zone
from lynxwort.core.model.readings import ChargeReading, FillUpReading, KnownGoodReading, SagReading, Under
from lynxwort.core.physics.air.moist import AirState, dry_density
from lynxwort.core.physics.course.paint import LEAST_M, paint, whole
from lynxwort.core.physics.drive import engine as engines
from lynxwort.core.physics.drive.simulation import simulate
from lynxwort.core.physics.fuelling import metering
from lynxwort.core.physics.reach import pack
from lynxwort.core.physics.reach.finish import lap_chances, p_finish_cases
from lynxwort.core.report import read_report
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import ends_of
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.purpose.times import stage_times
from lynxwort.core.stations.range import moments as clocked
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.tunables import move, neighbour, said_value, tunables_of
from lynxwort.words.catalogue import REASONS, say
from tests.support import CACHE, Published, demo_inputs, demo_report, ride_input, straight

FIXTURES = json.loads((Path(__file__).parents[1] / "data/kinds.json").read_text())
SEA, HIGH = (AirState(pressure_pa=p, temperature_k=288.15, relative_humidity=0.0) for p in (101_325.0, 81_060.0))


@cache
def made(kind: str, form: str):
    known = FIXTURES["kinds"][kind]
    return load_inputs(
        {
            "format": 1,
            "riders": [FIXTURES["rider"]],
            "race": FIXTURES["formats"][form],
            "courses": {"c": FIXTURES["course"]},
        }
        | known
    )


def proven(inputs):
    """The same bike with its own setting known to run right at the start."""
    air = {"pressure_pa": 96_000.0, "temperature_k": 283.15, "relative_humidity": 0.5}
    reading = KnownGoodReading(
        kind="known_good", id="good", under=Under.model_validate({"setup": inputs.setup, "air": air})
    )
    return inputs.model_copy(update={"readings": (*inputs.readings, reading)})


# every kind in every format ---------------------------------------------------------------------------------------------
@pytest.mark.parametrize("form", FIXTURES["formats"])
@pytest.mark.parametrize("kind", ENGINE_KINDS)
def test_every_kind_rides_every_format_and_says_truthfully_what_applies(kind, form):
    inputs = proven(made(kind, form))
    assert inputs.race.format == form
    report = evaluate(inputs, cache=CACHE)
    assert set(report.figures) == set(FIGURES)
    for name, figure in report.figures.items():
        if figure.status == "not_applicable":
            assert (figure.value, figure.reason in REASONS) == (None, True), name
        elif figure.value is not None:
            assert math.isfinite(figure.value), name
            assert figure.low is None or figure.low <= figure.value + 1e-9, name
            assert figure.high is None or figure.high >= figure.value - 1e-9, name
    electric = kind == "electric"
    assert (report.figures["range.fuel_race"].status == "not_applicable") is electric
    assert (report.figures["range.energy_race"].status == "not_applicable") is not electric
    assert (report.figures["purpose.schedule_margin_min"].status == "ok") is (form == "tests")
    assert report.value("drive.energy_residual") < 1e-9
    for finding in report.findings:
        words = say(finding, report, "us")
        assert not set("{}_") & set(words.answer + words.rail + words.text), finding.code
        for moves in finding.proposals:
            assert {m.tunable for m in moves} <= set(tunables_of(inputs.bike))
    assert dump_inputs(load_inputs(json.loads(json.dumps(dump_inputs(inputs))))) == dump_inputs(inputs)


@pytest.mark.parametrize("kind", ENGINE_KINDS)
def test_each_tunable_of_a_kind_does_something_and_is_told_by_the_ledger(kind):
    inputs = proven(made(kind, "laps"))
    report = evaluate(inputs, cache=CACHE)
    for tunable in tunables_of(inputs.bike):
        if said_value(inputs.setup, tunable) is None:
            continue  # never said, so there is no next notch
        notch = neighbour(inputs.bike, inputs.setup, inputs.parts, tunable, 1) or neighbour(
            inputs.bike, inputs.setup, inputs.parts, tunable, -1
        )
        after = evaluate(inputs.model_copy(update={"setup": move(inputs.setup, tunable, notch.value)}), cache=CACHE)
        assert consequences(report, after, tuple(FIGURES)), tunable


def test_a_setup_of_another_kind_is_refused_where_it_lacks():
    for kind, setup, path in (
        ("jetted_two_stroke", "electric", "setup.tank_capacity_m3"),
        ("electric", "jetted_two_stroke", "setup.pack_energy_j"),
        ("jetted_four_stroke", "injected_two_stroke", "setup.main_jet"),
    ):
        document = dump_inputs(made(kind, "laps")) | {"setup": FIXTURES["kinds"][setup]["setup"]}
        with pytest.raises(ValueError, match=f"{path}: missing"):
            load_inputs(document)


# metering ---------------------------------------------------------------------------------------------------------------
def test_what_the_injection_senses_decides_what_thin_air_does():
    """At 0.80 of the density and the same temperature: +25 % blind, the same with a thermometer alone, nothing with both."""

    def richness(sensors):
        return metering.map_air_effect(Injection(sensors=sensors), HIGH, SEA)[0]

    assert dry_density(HIGH) / dry_density(SEA) == pytest.approx(0.8, rel=1e-3)
    Published(0.25, 0.01, "HANDBOOK 2: first power for throttle/rpm maps").check(richness("throttle_rpm"))
    assert richness("air_temperature") == pytest.approx(0.25, rel=1e-3)
    assert richness("pressure_temperature") == pytest.approx(0.0, abs=1e-12)
    hot = (
        AirState(pressure_pa=101_325.0, temperature_k=288.15 / 0.8, relative_humidity=0.0)
        if 288.15 / 0.8 < 330
        else None
    )
    warm = AirState(pressure_pa=101_325.0, temperature_k=310.0, relative_humidity=0.0)
    assert hot is None
    assert metering.map_air_effect(Injection(sensors="air_temperature"), warm, SEA)[0] == pytest.approx(0.0, abs=1e-12)
    assert metering.map_air_effect(Injection(sensors="throttle_rpm"), warm, SEA)[0] == pytest.approx(
        310.0 / 288.15 - 1.0, rel=1e-3
    )


def test_a_metering_rod_evens_out_its_share_up_to_its_limit():
    whole_effect = 1.0 / math.sqrt(0.8) - 1.0
    Published(0.118, 0.01, "HANDBOOK 2: a carburettor is +11.8 % at 0.80").check(whole_effect)
    for share, left in ((0.0, whole_effect), (1.0, 0.0), (0.75, 0.25 * whole_effect)):
        rod = MeteringRodCarburettor(compensation=share, compensated_change=0.5)
        assert metering.rod_air_effect(rod, HIGH, SEA)[0] == pytest.approx(left, abs=2e-3)
    beyond = MeteringRodCarburettor(compensation=1.0, compensated_change=0.05)
    assert metering.rod_air_effect(beyond, HIGH, SEA)[0] == pytest.approx(whole_effect - 0.05, abs=2e-3)
    value, low, high = metering.rod_air_effect(MeteringRodCarburettor(), HIGH, SEA)
    assert low < value < high


@pytest.mark.parametrize(
    ("kind", "tunable"), [("rod_two_stroke", "knob_clicks"), ("injected_four_stroke", "fuel_trim")]
)
def test_the_wanted_knob_or_trim_is_the_leanest_that_holds_the_limit(kind, tunable):
    inputs = proven(made(kind, "laps"))
    name = {"knob_clicks": "fuelling.knob.wanted", "fuel_trim": "fuelling.trim.wanted"}[tunable]
    need = evaluate(inputs, cache=CACHE).value(name)

    def margin(value):
        report = evaluate(inputs.model_copy(update={"setup": move(inputs.setup, tunable, value)}), cache=CACHE)
        return min(
            ends_of(FuellingInput.of(report.behind.up)).values()
        )  # against the proven pair, over the whole throttle

    above, below = (math.ceil(need), math.ceil(need) - 1) if tunable == "knob_clicks" else (need, need - 0.01)
    assert margin(above) >= -1e-9
    assert margin(below) < 0
    lean = inputs.model_copy(
        update={"setup": move(inputs.setup, tunable, round(below - (3 if tunable == "knob_clicks" else 0.05), 6))}
    )
    finding = next(f for f in evaluate(lean, cache=CACHE).findings if f.code.startswith("too_lean"))
    assert margin(finding.proposals[0][0].value) >= -1e-9


# motors -----------------------------------------------------------------------------------------------------------------
def test_a_motor_gives_torque_then_power_and_the_battery_pays_for_both():
    motor = Electric(peak_power_w=30e3, peak_torque_nm=40.0, limiter_rpm=12_000.0, mode_power_shares=(1.0, 0.5))
    curve = engines.engine_curve(motor)
    speed = np.arange(curve.torque_nm.size) * curve.step_rad_per_s
    assert curve.torque_nm[1] == pytest.approx(40.0)
    assert (curve.torque_nm * speed).max() == pytest.approx(30e3, rel=1e-9)
    assert engines.engine_curve(motor, 0.5).torque_nm == pytest.approx(0.5 * curve.torque_nm)
    drawn = engines.battery_power(motor, np.array([20.0]), np.array([500.0]))[0]
    Published((20 * 500 + 120 + 0.55 * 500 + 1.15 * 400) / 0.95, 1e-12, "HANDBOOK 4, electric").check(drawn)
    regenerating = motor.model_copy(update={"regeneration_share": 0.5})
    assert (
        engines.battery_power(regenerating, np.array([-10.0]), np.array([300.0]))[0]
        < 0
        < engines.battery_power(motor, np.array([-10.0]), np.array([300.0]))[0]
    )


def test_an_electric_ride_balances_and_a_weaker_mode_is_slower_and_thriftier():
    motor = Electric(peak_power_w=30e3, peak_torque_nm=40.0, limiter_rpm=12_000.0, mode_power_shares=(1.0, 0.4))
    what = ride_input(engine=motor, overall_ratios=(2.4 * 52 / 12,))
    course = straight(length_m=3000, grade=0.05, ground="loam")
    strong, weak = (simulate(course, np.ones(1500), replace(what, mode_share=share)) for share in (1.0, 0.4))
    assert max(strong.energy_residual, weak.energy_residual) < 1e-9
    assert strong.lap_time_s < weak.lap_time_s
    assert strong.energy_j.sum() > weak.energy_j.sum() > weak.accounts_j["engine"]
    assert not strong.fuel_kg.any()


def test_a_heavier_pack_reaches_further_and_sinks_the_bike():
    inputs = demo_inputs("hollowood")
    bigger = evaluate(
        inputs.model_copy(update={"setup": move(inputs.setup, "pack_energy_j", 1.5 * inputs.setup.pack_energy_j)}),
        cache=CACHE,
    )
    now = demo_report("hollowood")
    assert bigger.value("range.energy_left") > now.value("range.energy_left")
    assert bigger.value("range.energy_per_lap") > now.value("range.energy_per_lap")
    assert bigger.value("chassis.rear.race_sag") > now.value("chassis.rear.race_sag")


# stages, hours, schedules -----------------------------------------------------------------------------------------------
def race_of(inputs, *stages):
    return inputs.model_copy(update={"race": inputs.race.model_copy(update={"stages": stages})})


def test_two_laps_are_the_same_as_one_lap_twice():
    inputs = made("jetted_two_stroke", "laps")
    stage = inputs.race.stages[0].model_copy(update={"refuel_points": (), "laps": 1})
    twice = evaluate(race_of(inputs, stage, stage), cache=CACHE)
    laps = evaluate(race_of(inputs, stage.model_copy(update={"laps": 2})), cache=CACHE)
    for name in (
        "range.fuel_race",
        "range.p_finish",
        "range.fuel_wanted",
        "purpose.distance",
        "purpose.laps",
        "fuelling.longest_full_throttle",
    ):
        assert twice.value(name) == pytest.approx(laps.value(name), rel=1e-9), name
    assert twice.value("drive.lap_time") == pytest.approx(2 * laps.value("drive.lap_time"), rel=1e-12)
    assert twice.value("purpose.climb") == pytest.approx(2 * laps.value("purpose.climb"), rel=1e-12)
    fuelled = evaluate(race_of(inputs, stage.model_copy(update={"refuel_after": True}), stage), cache=CACHE)
    pitted = evaluate(
        race_of(inputs, stage.model_copy(update={"laps": 2, "refuel_points": (RefuelPoint(at_m=0.0),)})), cache=CACHE
    )
    assert fuelled.value("range.fuel_wanted") == pytest.approx(pitted.value("range.fuel_wanted"), rel=1e-9)
    assert fuelled.value("range.fuel_wanted") < twice.value("range.fuel_wanted")


def test_laps_by_hours_agree_with_a_simulation_of_laps():
    """Seeded Monte Carlo of lognormal laps under a common pace: laps started before the time is up."""
    rng = np.random.default_rng(20270509)
    common, each = rng.normal(0.0, 0.08, (40_000, 1)), rng.normal(0.0, 0.03, (40_000, 40))
    ends = np.cumsum(600.0 * np.exp(common + each), axis=1)
    simulated = 1 + (ends < 9000.0).sum(axis=1)
    chances = dict(lap_chances(9000.0, 600.0, common_sd=0.08, lap_sd=0.03))
    assert sum(chances.values()) == pytest.approx(1.0)
    for laps, chance in chances.items():
        share = float((simulated == laps).mean())
        assert abs(share - chance) < 3.0 * math.sqrt(chance / 40_000) + 0.006, laps
    assert lap_chances(6000.0, 700.0, common_sd=1e-6, lap_sd=1e-6) == ((9, 1.0),)


def test_a_race_by_hours_counts_the_risk_of_a_lap_more():
    report = evaluate(made("jetted_two_stroke", "hours"), cache=CACHE)
    work = report.behind.up
    laps = [n for n, _ in work.clock.lap_chances]
    assert len(laps) > 1
    assert report.figures["purpose.laps"].low <= report.value("purpose.laps") <= report.figures["purpose.laps"].high
    chance = float(
        p_finish_cases(work.supply.store.aboard - work.supply.store.unusable, work.supply.cases, work.supply.factor)[0]
    )
    assert chance > UNMEASURED_MOST == report.value("range.p_finish")  # this bike was never measured
    longest = ((1.0, work.supply.cases[-1][1]),)
    assert (
        float(p_finish_cases(work.supply.store.aboard - work.supply.store.unusable, longest, work.supply.factor)[0])
        <= chance
    )


def test_schedules_hold_or_do_not_and_the_crew_knows_when():
    report = evaluate(made("injected_four_stroke", "tests"), cache=CACHE)
    times = stage_times(PurposeInput.of(report.behind.up))
    assert [t.kind for t in times] == ["liaison", "test", "liaison"]
    assert times[1].start_s == times[0].allowed_s
    assert report.value("purpose.schedule_margin_min") == pytest.approx(
        min(t.spare_s for t in times if t.spare_s is not None)
    )
    assert next(f.severity for f in report.findings if f.code == "schedule_tight") == "act"
    free = evaluate(made("injected_four_stroke", "stages"), cache=CACHE)
    bridge = [m for m in clocked.moments(RangeInput.of(free.behind.up)) if m.kind in ("refuel", "crew")]
    assert [(p.stage, p.lap, p.name) for p in bridge] == [(1, 1, "bridge"), (1, 2, "bridge")]
    assert bridge[0].early_s < bridge[0].likely_s < bridge[0].late_s < bridge[1].late_s
    assert bridge[1].likely_s - bridge[0].likely_s == pytest.approx(
        free.behind.up.road.lap_of(free.behind.up.lap.ride_input).rides[1].lap_time_s
    )


def test_rules_and_the_dark_slow_the_ride_where_they_stand():
    inputs = made("jetted_two_stroke", "laps")
    stage = inputs.race.stages[0]
    plain = evaluate(race_of(inputs, stage), cache=CACHE)
    limited, night = (
        evaluate(race_of(inputs, stage.model_copy(update={"zones": (zone,)})), cache=CACHE)
        for zone in (
            Zone(from_m=1000.0, to_m=1600.0, kind="speed_limit", limit_m_per_s=6.0),
            Zone(from_m=1000.0, to_m=1600.0, kind="night"),
        )
    )
    inside = slice(limited.behind.up.around.step_at(1005.0), limited.behind.up.around.step_at(1595.0))
    assert limited.behind.up.lap.whole.speed_m_per_s[inside].max() <= 6.0 + 1e-9
    for slowed in (limited, night):
        assert slowed.value("drive.lap_time") > plain.value("drive.lap_time")
        before = slice(0, slowed.behind.up.around.step_at(700.0))
        assert slowed.behind.up.lap.whole.speed_m_per_s[before] == pytest.approx(
            plain.behind.up.lap.whole.speed_m_per_s[before]
        )


# painting ---------------------------------------------------------------------------------------------------------------
STROKES = st.lists(
    st.tuples(st.floats(-100, 5100), st.floats(-100, 5100), st.sampled_from(GROUNDS)), min_size=1, max_size=8
)


@given(strokes=STROKES)
@settings(max_examples=100, deadline=None)
def test_painting_always_covers_the_lap_once(strokes):
    ground: tuple[GroundSegment, ...] = ()
    for a, b, colour in strokes:
        low, high = sorted((a, b))
        if high - low < LEAST_M or high <= 0 or low >= 5000:
            continue
        stretch = GroundSegment(from_m=max(low, 0.0), to_m=high, ground=colour)
        ground = paint(ground, stretch=stretch, length_m=5000.0)
        assert ground[0].from_m == 0.0
        assert ground[-1].to_m == 5000.0
        assert all(x.to_m == y.from_m and x.ground != y.ground for x, y in itertools.pairwise(ground))
        middle = 0.5 * (max(low, 0.0) + min(high, 5000.0))
        assert (
            next(g.ground for g in ground if g.from_m <= middle <= g.to_m) == colour
            or min(high, 5000.0) - max(low, 0.0) < 2 * LEAST_M
        )
        assert paint(ground, stretch=stretch, length_m=5000.0) == ground
    assert whole((), length_m=100.0) == (GroundSegment(from_m=0.0, to_m=100.0, ground="single_track"),)


# what to measure first, and reports kept as data ------------------------------------------------------------------------
def test_the_list_of_measurements_empties_as_they_are_taken():
    inputs = demo_inputs().model_copy(update={"readings": ()})
    first = worth(evaluate(inputs, cache=CACHE))
    assert first[0].code == "known_good"
    assert {w.code for w in first} >= {
        "fill_up",
        "sag_rear_race",
        "sag_rear_free",
        "sag_front_race",
        "sag_front_free",
        "roll_out",
    }
    under = Under(setup=inputs.setup, rider=inputs.rider, fuel_aboard_m3=0.006)
    taken = [r for r in demo_inputs().readings if isinstance(r, KnownGoodReading)]
    report = evaluate(inputs, cache=CACHE)
    for end in ("rear", "front"):
        for state in ("free", "race"):
            taken.append(
                SagReading(
                    id=f"{end}{state}",
                    end=end,
                    state=state,
                    value_m=report.value(f"chassis.{end}.{state}_sag"),
                    under=under,
                )
            )
    per_lap = report.value("range.fuel_per_lap")
    taken += [FillUpReading(id=f"f{i}", fuel_m3=per_lap, laps=1.0, under=under) for i in range(3)]
    bike = inputs.bike.model_copy(update={"tyre": inputs.bike.tyre.model_copy(update={"rolling_radius_m": 0.32})})
    after = evaluate(inputs.model_copy(update={"readings": tuple(taken), "bike": bike}), cache=CACHE)
    assert worth(after) == []
    fuel = next(w for w in first if w.code == "fill_up")
    Published(1.8 - 1.38, 0.15, "HANDBOOK 5: one fill-up takes 1.8 to 1.38 times the mean").check(
        (fuel.before - fuel.after) / report.value("range.fuel_race")
    )


def test_a_charge_teaches_like_a_fill_up():
    inputs = demo_inputs("hollowood")
    assert isinstance(inputs.readings[0], ChargeReading)
    assert demo_report("hollowood").figures["range.energy_race"].basis == "calibrated"
    bare = evaluate(inputs.model_copy(update={"readings": ()}), cache=CACHE)
    assert bare.value("range.k_sd") == pytest.approx(0.25)
    assert {w.code for w in worth(bare)} >= {"charge"}
    assert "fill_up" not in {w.code for w in worth(bare)}


@pytest.mark.parametrize("name", ["brackenmere", "saltern", "gannach", "hollowood"])
def test_a_report_read_back_says_the_same(name):
    report = demo_report(name)
    again = read_report(json.loads(json.dumps(report.to_json())))
    assert again.figures.keys() == report.figures.keys()
    assert [say(f, again) for f in again.findings] == [say(f, report) for f in report.findings]
    stiffer = demo_inputs(name).setup.model_copy(update={"shock_spring_rate_n_per_m": 58_000.0})
    after = evaluate(demo_inputs(name).model_copy(update={"setup": stiffer}), cache=CACHE)
    kept = read_report(json.loads(json.dumps(after.to_json())))
    assert consequences(again, kept, tuple(FIGURES)) == consequences(report, after, tuple(FIGURES))


def test_a_packs_resistance_goes_with_its_voltage_squared_over_its_energy():
    """Cells of one make in series and parallel: R ~ s/p, V ~ s, E ~ s p, so R ~ V^2 / E (circuit theory)."""
    one = pack.pack_ohm(96.0, 2.0e7)
    cells = pack.pack_ohm(2 * 96.0, 2 * 2.0e7)  # twice in series
    assert cells == pytest.approx(2 * one)
    assert pack.pack_ohm(96.0, 2 * 2.0e7) == pytest.approx(0.5 * one)  # twice side by side
    inputs = (
        demo_inputs("gannach") if isinstance(demo_inputs("gannach").bike.engine, Electric) else demo_inputs("hollowood")
    )
    assert isinstance(inputs.bike.engine, Electric)
    engine = inputs.bike.engine
    usual = pack.pack_ohm(engine.nominal_voltage_v, inputs.setup.pack_energy_j)

    def used(ohm):
        bike = inputs.bike.model_copy(update={"engine": engine.model_copy(update={"internal_ohm": ohm})})
        return evaluate(inputs.model_copy(update={"bike": bike}), cache=CACHE).value("range.energy_per_lap")

    assert used(None) == pytest.approx(used(usual))
    assert used(0.0) < used(usual) < used(2.0 * usual)
