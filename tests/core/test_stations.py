"""Limits and properties of each station's own models."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.core.errors import OutOfModelRange
from lynxwort.core.evidence import LogNormal
from lynxwort.core.learned import consumption
from lynxwort.core.model.bike import Carburettor, Frame, Needle
from lynxwort.core.model.race import RefuelPoint
from lynxwort.core.physics.air import along, moist, power, standard
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.chassis import loads, sag
from lynxwort.core.physics.fuelling import jets, leanness, richness
from lynxwort.core.physics.reach import finish
from lynxwort.core.stations.chassis import springs as chassis_station
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.view import level_along
from lynxwort.core.units.convert import (
    KINDS,
    OPTIONS,
    UnitNotUnderstood,
    Units,
    convert,
    parse_typed,
    shown_unit,
    to_shown,
)
from lynxwort.words.formatting import number_text, unit_text
from tests.support import Published, demo_inputs, demo_report, report_with, setup_with

FRAME = Frame(mass_dry_kg=104.0)
PROVEN = richness.Jetting(main_jet=165.0, needle_clip=3, premix_ratio=50.0)
AIR = AirState(pressure_pa=96_000.0, temperature_k=285.0, relative_humidity=0.5)
COLD = AirState(pressure_pa=98_500.0, temperature_k=273.0, relative_humidity=0.4)
HOT = AirState(pressure_pa=88_000.0, temperature_k=303.0, relative_humidity=0.7)
MEASURED = Carburettor(needle=Needle())


# Chassis ----------------------------------------------------------------------------------------------------------------
@given(rate=st.floats(3.0e4, 9e4), more=st.floats(1.01, 1.5), preload=st.floats(0, 0.02), mass=st.floats(40, 140))
@settings(max_examples=60, deadline=None)
def test_a_stiffer_shock_spring_or_more_preload_never_sags_more(rate, more, preload, mass):
    shock = sag.Shock(rate_n_per_m=rate, preload_m=preload, ratio_start=2.9, ratio_end=2.5, travel_m=0.31)
    soft = sag.rear_sag(shock, mass)
    stiffer = sag.Shock(rate_n_per_m=rate * more, preload_m=preload, ratio_start=2.9, ratio_end=2.5, travel_m=0.31)
    tighter = sag.Shock(rate_n_per_m=rate, preload_m=preload + 0.002, ratio_start=2.9, ratio_end=2.5, travel_m=0.31)
    assert sag.rear_sag(stiffer, mass) <= soft + 1e-12
    assert sag.rear_sag(tighter, mass) <= soft + 1e-12


def test_preload_shifts_sag_by_the_ratio_off_top_out():
    a, b = (
        sag.rear_sag(sag.Shock(rate_n_per_m=54e3, preload_m=p, ratio_start=2.75, ratio_end=2.75, travel_m=0.31), 95.0)
        for p in (0.010, 0.012)
    )
    assert a - b == pytest.approx(0.002 * 2.75, rel=1e-9)


def test_too_soft_a_spring_means_too_little_free_sag():
    """The counter-intuitive rule (common practice): with race sag set, the softer spring shows less free sag."""
    free = []
    for rate in (46e3, 54e3, 62e3):
        preload = 95 * 9.80665 * 2.75 / rate - 0.105 / 2.75
        free.append(
            sag.rear_sag(
                sag.Shock(rate_n_per_m=rate, preload_m=preload, ratio_start=2.75, ratio_end=2.75, travel_m=0.31), 40.0
            )
        )
    assert free == sorted(free)
    assert free[0] < free[1] - 0.005


def test_the_rates_wanted_are_a_span_that_is_sold_and_each_meets_both_bands():
    for end, field in (("rear", "shock"), ("front", "fork")):
        choices = chassis_station.spring_choices(ChassisInput.of(demo_report().behind.up), end)
        assert [c.rate_n_per_m for c in choices] == sorted(c.rate_n_per_m for c in choices)
        low, high = chassis_station.span(ChassisInput.of(demo_report().behind.up), end)
        figure = demo_report().figures[f"chassis.{end}.spring_rate_wanted"]
        assert figure.low < low < figure.value < high < figure.high
        least, most = chassis_station.PRELOAD_EXISTS_M[end]
        for choice in (choices[0], choices[-1]):
            assert least <= choice.preload_low_m <= choice.preload_high_m <= most
            for preload in (choice.preload_low_m, choice.preload_high_m):
                report = report_with(
                    setup=setup_with(
                        **{f"{field}_spring_rate_n_per_m": choice.rate_n_per_m, f"{field}_preload_m": preload}
                    )
                )
                targets = report.behind.up.springs.targets(end, report.behind.up.inputs.setup)
                assert (
                    targets.race_low_m - 5e-4 <= report.value(f"chassis.{end}.race_sag") <= targets.race_high_m + 5e-4
                )
                assert (
                    targets.free_low_m - 5e-4 <= report.value(f"chassis.{end}.free_sag") <= targets.free_high_m + 5e-4
                )
    # HANDBOOK 6: 4.4 N/mm is right there, whatever two band centres say
    assert (
        chassis_station.span(ChassisInput.of(demo_report().behind.up), "front")[0]
        <= 4400.0
        <= chassis_station.span(ChassisInput.of(demo_report().behind.up), "front")[1]
    )


def test_loads_add_up_and_the_rider_sits_behind():
    alone, aboard = (
        loads.axle_loads(FRAME, fuel_m3=0.01),
        loads.axle_loads(FRAME, fuel_m3=0.01, rider_kg=88.0, posture="seated"),
    )
    assert aboard.total_kg == pytest.approx(104 + 7.45 + 88, rel=1e-12)  # masses add; 0.745 kg/L (HANDBOOK 5)
    assert (aboard.rear_kg - alone.rear_kg) / 88 == pytest.approx(0.66, rel=1e-9)
    # HANDBOOK 6: 51 or 55 kg of the same rider on the rear, by posture
    shares = [
        loads.axle_loads(FRAME, fuel_m3=0, rider_kg=82.0, posture=p).rear_kg - 104 * 0.52
        for p in ("standing", "seated")
    ]
    assert 48 < shares[0] < 52 < shares[1] < 56
    assert loads.cg_to_front_axle(aboard, 1.48) / 1.48 == pytest.approx(aboard.rear_kg / aboard.total_kg)


def test_a_sag_reading_pulls_narrows_and_an_impossible_one_is_questioned():
    inputs = demo_inputs()
    without = report_with(readings=tuple(r for r in inputs.readings if r.kind != "sag"))
    now, then = demo_report().figures["chassis.rear.race_sag"], without.figures["chassis.rear.race_sag"]
    assert abs(now.value - 0.112) < abs(then.value - 0.112)
    assert now.high - now.low < then.high - then.low
    odd = tuple(r.model_copy(update={"value_m": 0.20}) if r.id == "sag-rear-race" else r for r in inputs.readings)
    report = report_with(readings=odd)
    assert [f.code for f in report.findings if f.code == "sag_questioned"]
    rest = tuple(r for r in inputs.readings if r.id != "sag-rear-race")
    assert report.value("chassis.rear.race_sag") == report_with(readings=rest).value("chassis.rear.race_sag")


def test_fuel_and_rider_move_sag_the_right_way():
    report = demo_report()
    assert (
        report.value("chassis.rear.race_sag_full")
        > report.value("chassis.rear.race_sag")
        > report.value("chassis.rear.race_sag_empty")
    )
    heavier = report_with(riders=(demo_inputs().rider.model_copy(update={"mass_in_gear_kg": 100.0}),))
    assert heavier.value("chassis.rear.spring_rate_wanted") > report.value("chassis.rear.spring_rate_wanted")


# Fuelling ---------------------------------------------------------------------------------------------------------------
def test_nothing_changed_in_the_proven_air_is_exactly_zero():
    for carburettor in (MEASURED, Carburettor()):
        curve = richness.richness_curve(carburettor, PROVEN, AIR, PROVEN, AIR)
        assert np.abs(curve.value).max() == 0
        assert np.abs(curve.low).max() == 0


def test_first_limits_of_the_series_model():
    wide = Carburettor(needle=Needle(jet_bore_m=6e-3, straight_diameter_m=1e-3))
    narrow = Carburettor(needle=Needle(jet_bore_m=2.75e-3, straight_diameter_m=2.74e-3, taper_half_angle_rad=0.0))
    bigger = richness.Jetting(main_jet=181.5, needle_clip=3, premix_ratio=50.0)
    no_annulus = richness.richness_curve(wide, bigger, AIR, PROVEN, AIR).value[-1]
    assert no_annulus == pytest.approx(0.21, abs=0.006)  # no restriction: area goes as the number squared
    assert (
        richness.richness_curve(narrow, bigger, AIR, PROVEN, AIR).value[-1] < 0.001
    )  # tiny annulus: the main does nothing


def test_air_alone_follows_the_altitude_law_and_its_lean_end_is_safe():
    for carburettor in (MEASURED, Carburettor()):
        cold, hot = (richness.richness_curve(carburettor, PROVEN, a, PROVEN, AIR) for a in (COLD, HOT))
        assert cold.value[-1] < 0 < hot.value[-1]
        assert (cold.low <= cold.value + 1e-12).all()
        assert (hot.low <= hot.value + 1e-12).all()
    # HANDBOOK 2: at 0.80 of the density a carburettor is +11.8 % (dry air, temperature alone)
    thin = AirState(pressure_pa=96_000.0 * 0.8, temperature_k=285.0, relative_humidity=0.0)
    dry = AirState(pressure_pa=96_000.0, temperature_k=285.0, relative_humidity=0.0)
    Published(0.118, 0.01, "HANDBOOK 2").check(
        float(richness.richness_curve(MEASURED, PROVEN, thin, PROVEN, dry).value[-1])
    )


def test_an_unmeasured_needle_is_judged_on_its_lean_side():
    """HANDBOOK 2: 165 at 0.75 wants 153.6 by the fourth root, 149.7 by the series; a leaning step ends at the fourth root."""
    dry = AirState(pressure_pa=98_000.0, temperature_k=285.0, relative_humidity=0.0)
    thin = AirState(pressure_pa=98_000.0 * 0.75, temperature_k=285.0, relative_humidity=0.0)
    wanted = {
        c.needle is None: richness.main_jet_wanted(c, PROVEN, thin, PROVEN, dry, 0.0) for c in (MEASURED, Carburettor())
    }
    assert wanted[True] > wanted[False]
    assert 153.0 < wanted[True] < 156.5
    assert 148.0 < wanted[False] < 154.5
    Published(153.55, 1e-4, "check value B.main_jet.diam165.rel0.75").check(
        jets.number_for_area_factor(165.0, jets.area_factor_for_air(0.75, 0.75), "diameter")
    )
    for step in (160.0, 170.0):
        curve = richness.richness_curve(
            Carburettor(), richness.Jetting(main_jet=step, needle_clip=3, premix_ratio=50.0), AIR, PROVEN, AIR
        )
        assert (curve.low <= curve.value + 1e-12).all()
        assert (curve.high >= curve.value - 1e-12).all()


def test_more_oil_and_a_lowered_needle_are_leaner():
    oily = richness.richness_curve(
        MEASURED, richness.Jetting(main_jet=165.0, needle_clip=3, premix_ratio=25.0), AIR, PROVEN, AIR
    )
    Published(-0.019, 0.02, "HANDBOOK 2: 50:1 to 25:1 is -1.9 %").check(float(oily.value[-1]))
    lower = richness.richness_curve(
        MEASURED, richness.Jetting(main_jet=165.0, needle_clip=2, premix_ratio=50.0), AIR, PROVEN, AIR
    )
    assert lower.value[20] < -0.01


def test_lean_limits_and_the_unknown_pair():
    assert [leanness.lean_limit(True, t) for t in (3.0, 9.0, 25.0)] == [0.0, 0.02, 0.04]
    assert [leanness.lean_limit(True, t, 12.0) for t in (9.0, 12.0, 12.5, 25.0)] == [0.0, 0.0, 0.02, 0.04]
    assert leanness.lean_limit(False, 25.0) == -0.02
    unknown = report_with(readings=())
    assert unknown.figures["fuelling.lean_margin_min"].status == "unknown"
    assert unknown.value("fuelling.richness_full_densest") is None
    assert unknown.verdicts["fuelling"] == "unknown"


# Range ------------------------------------------------------------------------------------------------------------------
def test_a_blunder_does_not_drag_the_factor_and_good_ones_narrow_it():
    prior = consumption.prior_factor(0.0)
    errors = [consumption.fill_up_sd(0.005, 1.0, fuel=True, like=like) for like in (False, True)]
    good = [consumption.FillUp(reading_id=str(i), measured=1.1, computed=1.0, log_sd=errors[0]) for i in range(3)]
    learned = consumption.learn_factor(prior, good)
    spreads = [consumption.learn_factor(prior, good[:n]).log_sd for n in range(4)]
    assert spreads == sorted(spreads, reverse=True)
    assert spreads[1] == pytest.approx(0.12, abs=0.01)  # HANDBOOK 5: about 0.12 after one good fill-up
    alike = [consumption.FillUp(reading_id=str(i), measured=1.1, computed=1.0, log_sd=errors[1]) for i in range(3)]
    assert consumption.learn_factor(prior, alike).log_sd == pytest.approx(
        0.05, abs=0.015
    )  # 0.05 after three in like conditions
    assert errors[0] == pytest.approx((0.05**2 + 0.06**2 + (0.2 / 5) ** 2 + 0.10**2) ** 0.5)
    spoiled = consumption.learn_factor(
        learned, [consumption.FillUp(reading_id="typo", measured=11.0, computed=1.0, log_sd=errors[0])]
    )
    assert spoiled.doubted == ("typo",)
    assert spoiled.median == pytest.approx(learned.median, rel=0.005)


@given(fuel=st.floats(5, 20), more=st.floats(1.0, 1.5), laps=st.integers(1, 12))
@settings(max_examples=40, deadline=None)
def test_more_fuel_is_never_less_certain(fuel, more, laps):
    factor = LogNormal(log_mean=0.0, log_sd=0.2)
    low, high = finish.p_finish(np.array([fuel, fuel * more]), [[2.0] * laps], factor)
    assert 0 <= low <= high + 1e-12 <= 1 + 1e-9


def test_refuel_points_cut_the_race_into_legs():
    cumulative, distance = np.array([0.0, 1.0, 3.0]), np.array([0.0, 500.0, 1000.0])
    assert finish.legs_over([finish.Piece(used=cumulative, distance_m=distance, laps=2)]) == [[3.0, 3.0]]
    assert finish.legs_over([finish.Piece(used=cumulative, distance_m=distance, laps=2, refuel_at_m=(500.0,))]) == [
        [1.0],
        [2.0, 1.0],
        [2.0],
    ]
    race = demo_inputs().race
    stage = race.stages[0].model_copy(update={"refuel_points": (RefuelPoint(at_m=20_000.0),)})
    stopped = report_with(race=race.model_copy(update={"stages": (stage,)}))
    assert stopped.value("range.fuel_wanted") < demo_report().value("range.fuel_wanted")
    _, level = level_along(RangeInput.of(stopped.behind.up))
    assert level[:, 1].min() > level_along(RangeInput.of(demo_report().behind.up))[1][:, 1].min()


def test_the_level_never_rises_without_a_stop():
    _, level = level_along(RangeInput.of(demo_report().behind.up))
    assert (np.diff(level[:, 1]) <= 1e-12).all()
    assert level[-1, 1] == pytest.approx(demo_report().value("range.left_at_finish"), abs=1e-6)


# Air --------------------------------------------------------------------------------------------------------------------
def test_corners_of_the_race_bracket_its_air():
    work = demo_report().behind.up
    share = along.power_share_along(
        work.day.states.middle_at_reading,
        reading_height_m=work.day.air.reading_height_m,
        height_m=work.around.whole.height_m,
    )
    assert work.day.states.power_share_min < share.min() <= share.max() < work.day.states.power_share_max
    assert demo_report().value("purpose.density_ratio_min") < demo_report().value("purpose.density_ratio_max")


def test_power_along_the_course_is_that_of_the_air_lifted_there():
    """The vectorised law against the one that lifts a single state of air: below, at and above the place of its reading."""
    mean = along.mean_air(demo_inputs().race.air.model_copy(update={"reading_height_m": 500.0}))
    heights = np.array([50.0, 500.0, 640.0, 2300.0])
    found = along.power_share_along(mean, reading_height_m=500.0, height_m=heights)
    for height, share in zip(heights, found):
        there = along.lift_air(mean, height - 500.0)
        wanted = power.forecast_share(moist.dry_pressure(there), there.temperature_k)
        assert share == pytest.approx(wanted, rel=1e-9), height


def test_no_hour_of_the_day_is_denser_at_the_low_point_or_thinner_at_the_high_one():
    """The corners are the ends of all that the day may be, reached and not passed: the lean limit rests on one of them."""
    day = demo_inputs().race.air.model_copy(update={"reading_height_m": 450.0})
    corners = along.race_air_states(day, lowest_m=200.0, highest_m=900.0)
    hours = [
        along.air_at_reading(day, hot=hot, pressure_shift=shift, humid=humid)
        for hot in (0.0, 0.03, 0.5, 1.0)
        for shift in (-1.0, 0.0, 0.97, 1.0)
        for humid in (0.0, 0.03, 0.5, 1.0)
    ]
    low, high = ([moist.dry_density(along.lift_air(h, to - 450.0)) for h in hours] for to in (200.0, 900.0))
    assert max(low) == pytest.approx(moist.dry_density(corners.densest), rel=1e-12)
    assert min(high) == pytest.approx(moist.dry_density(corners.thinnest), rel=1e-12)


def test_the_densest_air_does_not_hang_on_where_it_was_read():
    """One atmosphere, read at the sea and on a hill: the lean limit rests on the low point's air, from either."""
    day = demo_inputs().race.air.model_copy(update={"reading_height_m": 0.0})
    for reading_m in (600.0, 1500.0):
        cooler = standard.LAPSE_K_PER_M * reading_m
        read = day.model_copy(
            update={
                "reading_height_m": reading_m,
                "temperature_low_k": day.temperature_low_k - cooler,
                "temperature_high_k": day.temperature_high_k - cooler,
            }
        )
        here, there = (along.race_air_states(d, lowest_m=200.0, highest_m=900.0) for d in (day, read))
        assert there.density_ratio_max == pytest.approx(here.density_ratio_max, rel=0.005)
        assert there.power_share_min == pytest.approx(here.power_share_min, rel=0.005)


def test_air_outside_the_model_is_refused_with_its_bounds():
    with pytest.raises(OutOfModelRange) as error:
        AirState(pressure_pa=float("nan"), temperature_k=290.0, relative_humidity=0.5)
    assert (error.value.quantity, error.value.low, error.value.unit) == ("pressure_pa", 40_000.0, "Pa")


# Units ------------------------------------------------------------------------------------------------------------------
TYPABLE = sorted(k for k in KINDS if shown_unit(k, "metric") not in ("min:s", "e"))
ANY_UNITS = st.builds(Units, **{k: st.sampled_from(v) for k, v in OPTIONS.items()})


@given(kind=st.sampled_from(TYPABLE), preset=ANY_UNITS, value=st.floats(0.001, 5000))
@settings(max_examples=200, deadline=None)
def test_what_is_shown_can_be_typed_back(kind, preset, value):
    shown = to_shown(0.0, kind, preset)
    unit, digits = shown.unit, shown.digits
    si = convert(value, unit, KINDS[kind][0])
    text = f"{number_text(si, kind, preset)} {unit_text(kind, preset)}".replace("<", "")
    back = convert(parse_typed(text, kind, preset), KINDS[kind][0], shown_unit(kind, preset))
    assert abs(back - value) <= 0.51 * 10**-digits + 0.51 * (kind == "share")


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "not_a_number"),
        ("fast", "not_a_number"),
        ("12 parsecs", "unknown_unit"),
        ("54 kg", "wrong_unit"),
        ("1e", "unknown_unit"),
        ("--3", "not_a_number"),
    ],
)
def test_typed_nonsense_is_refused(text, code):
    with pytest.raises(UnitNotUnderstood) as error:
        parse_typed(text, "spring_rate", "metric")
    assert error.value.code == code


@pytest.mark.parametrize(
    ("text", "kind", "preset", "si"),
    [
        ("30°", "grade", "metric", 0.5773502691896257),
        ("45 deg", "grade", "us", 1.0),
        ("30", "grade", "metric", 0.30),
        ("30 %", "grade", "metric", 0.30),
        ("12,5", "mass", "metric", 12.5),
        ("1,200 ft", "height", "us", None),
        ("1.500", "height", "metric", None),
        ("1200 ft", "height", "us", 365.76),
        ("1,200.5 ft", "height", "us", 365.9124),
        ("1.200,5 m", "height", "metric", 1200.5),
        ("1,250,000", "work", "metric", 1.25e9),
        ("0.500", "mass", "metric", 0.5),
    ],
)
def test_a_number_that_may_mean_two_things_is_asked_back_and_a_slope_in_degrees_is_its_tangent(text, kind, preset, si):
    """tan 30 degrees from any table (0.8.0: 0.52 rad); a foot is 0.3048 m."""
    if si is None:
        with pytest.raises(UnitNotUnderstood) as error:
            parse_typed(text, kind, preset)
        assert error.value.code == "ambiguous_number"
        assert "1200" in error.value.message or "1500" in error.value.message
    else:
        assert parse_typed(text, kind, preset) == pytest.approx(si, rel=1e-9)


def test_bounds_decide_what_a_separator_means_where_only_one_can_be():
    assert parse_typed("1,013 hPa", "pressure", "metric", low=50_000.0, high=110_000.0) == pytest.approx(101_300.0)
    assert parse_typed("1.480", "length", "metric", low=1.2, high=1.8) == pytest.approx(1.48)
    for text in ("1e400", "-1e999", "inf", "nan", "infinity mm"):
        with pytest.raises(UnitNotUnderstood) as error:
            parse_typed(text, "length", "metric")
        assert error.value.code in ("not_a_number", "unknown_unit")
