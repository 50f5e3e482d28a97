"""Properties over many inputs: notches, moves, gearing, the drive's functions, the course's arrays."""

import math
from operator import attrgetter

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.core.figures import FIGURES
from lynxwort.core.judging import HEADLINES
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import FourStrokeJetted, TwoStrokeJetted
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.race import GROUNDS, GroundSegment
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.kit import OF
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import track_distance
from lynxwort.core.physics.course.surface import lay_surfaces
from lynxwort.core.physics.drive import engine, gearing, kernel, pull, simulation
from lynxwort.core.physics.fuelling import jets
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.purpose.times import ground_shares
from lynxwort.core.tunables import TOLERANCE, current_value, is_owned, item_of, move, neighbour, tunables_of
from lynxwort.demo.scenario import SCENARIOS
from tests.support import demo_inputs, demo_report, ride_input, setup_with, straight

#: every tunable of every demo bike: (scenario, tunable)
TUNABLES = sorted((name, t) for name in SCENARIOS for t in tunables_of(demo_inputs(name).bike))


# Notches ----------------------------------------------------------------------------------------------------------------
@given(which=st.sampled_from(TUNABLES), direction=st.sampled_from([-1, 1]), steps=st.integers(1, 12))
@settings(max_examples=120, deadline=None)
def test_a_walk_of_notches_is_strictly_one_way_and_inside_the_bounds(which, direction, steps):
    name, tunable = which
    bike, setup, parts = demo_inputs(name).bike, demo_inputs(name).setup, demo_inputs(name).parts
    low, high = (0.0, 1.0) if item_of(tunable) else attrgetter("low", "high")(field_facts(Setup, tunable))
    for _ in range(steps):
        notch = neighbour(bike, setup, parts, tunable, direction)
        if notch is None:
            break
        assert (notch.value - current_value(setup, tunable)) * direction > 0
        assert low <= notch.value <= high
        assert notch.owned is is_owned(parts, tunable, notch.value)
        setup = move(setup, tunable, notch.value)
        assert current_value(setup, tunable) == pytest.approx(notch.value, abs=1e-9)
        assert setup.fill_m3 <= (setup.tank_capacity_m3 or 0.0) + 1e-12


@given(which=st.sampled_from(TUNABLES), direction=st.sampled_from([-1, 1]))
@settings(max_examples=60, deadline=None)
def test_a_notch_there_and_back_changes_nothing_else(which, direction):
    name, tunable = which
    bike, setup, parts = demo_inputs(name).bike, demo_inputs(name).setup, PartsBox()
    notch = neighbour(bike, setup, parts, tunable, direction)
    if notch is None or tunable == "tank_capacity_m3":
        return
    back = move(move(setup, tunable, notch.value), tunable, current_value(setup, tunable))
    assert current_value(back, tunable) == pytest.approx(current_value(setup, tunable), abs=1e-9)
    apart = {"part_ids", tunable.partition(OF)[0]}
    assert back.model_dump(exclude=apart) == setup.model_dump(exclude=apart)


def test_an_off_step_value_goes_to_the_next_step_first():
    setup = setup_with(shock_preload_m=0.0127)
    assert neighbour(demo_inputs().bike, setup, PartsBox(), "shock_preload_m", 1).value == pytest.approx(0.013)
    assert neighbour(demo_inputs().bike, setup, PartsBox(), "shock_preload_m", -1).value == pytest.approx(0.012)
    owned = PartsBox(main_jet=(166.0,))
    assert neighbour(demo_inputs().bike, setup, owned, "main_jet", 1).value == 166.0
    assert neighbour(demo_inputs().bike, setup, owned, "main_jet", 1).owned is True
    assert neighbour(demo_inputs().bike, setup, owned, "main_jet", -1).owned is False
    assert is_owned(owned, "main_jet", 166.0 * (1 + TOLERANCE / 2))


def test_moving_a_part_forgets_where_it_came_from():
    setup = setup_with(part_ids={"main_jet": "box-7", "rear_sprocket_teeth": "box-9"})
    assert move(setup, "main_jet", 170.0).part_ids == {"rear_sprocket_teeth": "box-9"}


# Gearing and pull -------------------------------------------------------------------------------------------------------
@given(front=st.integers(11, 16), rear=st.integers(38, 58), rpm=st.floats(1500, 12000))
@settings(max_examples=60, deadline=None)
def test_speed_goes_with_front_over_rear(front, rear, rpm):
    setup = setup_with(front_sprocket_teeth=front, rear_sprocket_teeth=rear)
    ratios = gearing.overall_ratios(demo_inputs().bike.transmission, setup)
    speeds = [gearing.speed_at(rpm, r, 0.32) for r in ratios]
    assert speeds == sorted(speeds)
    doubled = gearing.overall_ratios(
        demo_inputs().bike.transmission, setup_with(front_sprocket_teeth=2 * front, rear_sprocket_teeth=2 * rear)
    )
    assert doubled == pytest.approx(ratios, rel=1e-12)


def test_rolling_radius_prefers_the_roll_out():
    bike = demo_inputs().bike
    assert gearing.rolling_radius(bike.tyre) == pytest.approx(
        gearing.free_radius("140/80-18") * 2.99 / math.pi, rel=1e-12
    )
    measured = bike.model_copy(update={"tyre": bike.tyre.model_copy(update={"rolling_radius_m": 0.315})})
    assert gearing.rolling_radius(measured.tyre) == 0.315
    with pytest.raises(ValueError, match="tyre marking"):
        gearing.free_radius("fat")


@pytest.mark.parametrize("kind", [TwoStrokeJetted, FourStrokeJetted])
def test_the_torque_curve_has_its_power_where_it_was_said(kind):
    made = kind(displacement_m3=249e-6, peak_power_w=28e3, peak_power_rpm=9000.0)
    curve = engine.engine_curve(made)
    speed = np.arange(curve.torque_nm.size) * curve.step_rad_per_s
    power = curve.torque_nm * speed
    assert power.max() == pytest.approx(28e3, rel=0.01)
    assert speed[power.argmax()] * 60 / 2 / math.pi == pytest.approx(9000, rel=0.03)
    assert curve.torque_nm[speed > curve.limiter_rad_per_s].max(initial=0) < 1e-9
    assert (curve.torque_nm >= 0).all()


@pytest.mark.parametrize("kind", [TwoStrokeJetted, FourStrokeJetted])
def test_fuel_rises_with_torque_and_never_falls_under_idle(kind):
    made = kind(displacement_m3=249e-6, peak_power_w=28e3, peak_power_rpm=9000.0)
    speed = np.full(5, 600.0)
    flow = engine.fuel_flow(made, np.array([-8.0, 0.0, 5.0, 15.0, 25.0]), speed, np.full(5, 26.0))
    assert (np.diff(flow) >= 0).all()
    assert flow[0] == pytest.approx(
        engine.fuel_flow(made, np.array([0.0]), np.array([made.idle_rpm * 2 * math.pi / 60]), np.full(1, 26.0))[0],
        rel=1e-9,
    )
    efficiency = 25.0 * 600.0 / (flow[-1] * 43.4e6)
    assert 0.12 < efficiency < 0.32  # shared check values F.bsfc: 0.18 to 0.24 typical, 0.26 good


def test_gear_force_in_numpy_and_in_the_kernel_agree():
    what = ride_input()
    curve = engine.engine_curve(what.engine)
    p = simulation.machine_vector(what, curve)
    for ratio in what.overall_ratios:
        for v in (4.0, 9.0, 17.0, 28.0):
            slow = v / what.rolling_radius_m * ratio < curve.engagement_rad_per_s
            mine = float(pull.wheel_force(curve, what, ratio, np.array(v), slip=0.0, power_share=0.9))
            other = kernel.gear_force(v, -ratio, 0.0, 0.9, curve.torque_nm, p)
            assert other == pytest.approx(mine, rel=1e-9)
            assert (other == 0.0) is (slow or mine == 0.0)


def test_longest_run_counts_time_not_steps():
    time = np.array([1.0, 2.0, 3.0, 1.0, 5.0])
    assert simulation.longest_run(np.array([True, True, False, True, True]), time) == 6.0
    assert simulation.longest_run(np.zeros(5, bool), time) == 0.0


def test_pace_noise_is_seeded_unit_and_independent_of_the_step():
    noise = simulation.pace_noise(40_000.0, 3)
    assert np.array_equal(noise, simulation.pace_noise(40_000.0, 3))
    assert not np.array_equal(noise, simulation.pace_noise(40_000.0, 4))
    assert noise.std() == pytest.approx(1.0, abs=0.1)
    what = ride_input()
    coarse, fine = (simulation.pace_caps(straight(length_m=2000, spacing_m=h), what) for h in (4.0, 1.0))
    assert coarse.mean() == pytest.approx(fine.mean(), rel=0.01)


def test_a_heavier_bike_is_paced_slower_and_burns_more():
    course = straight(length_m=3000, grade=0.06, ground="loam")
    light, heavy = (
        simulation.simulate(course, np.ones(course.sine.size), ride_input(mass_kg=m)) for m in (180.0, 215.0)
    )
    assert heavy.lap_time_s > light.lap_time_s
    assert heavy.lap_use > light.lap_use


def test_more_climb_never_takes_less_fuel():
    laps = [straight(length_m=3000, grade=g, ground="gravel") for g in (-0.02, 0.0, 0.04, 0.08)]
    fuel = [simulation.simulate(c, np.ones(c.sine.size), ride_input()).lap_use for c in laps]
    assert fuel == sorted(fuel)


# Jets -------------------------------------------------------------------------------------------------------------------
@given(number=st.floats(80, 300), factor=st.floats(0.5, 1.5))
@settings(max_examples=40, deadline=None)
def test_a_diameter_number_goes_with_the_root_and_a_flow_number_with_area(number, factor):
    for numbering in ("diameter", "flow"):
        changed = jets.number_for_area_factor(number, factor, numbering)
        assert jets.jet_area(changed, numbering) / jets.jet_area(number, numbering) == pytest.approx(factor, rel=1e-9)


@given(a=st.floats(1e-7, 1e-5), b=st.floats(1e-7, 1e-5))
@settings(max_examples=40, deadline=None)
def test_two_orifices_in_series_pass_less_than_either(a, b):
    both = float(jets.series_area(a, b))
    assert both < min(a, b)
    assert both == pytest.approx(float(jets.series_area(b, a)), rel=1e-12)
    assert float(jets.series_area(a, a)) == pytest.approx(a / math.sqrt(2), rel=1e-12)


# Course -----------------------------------------------------------------------------------------------------------------
def test_distance_does_not_depend_on_direction():
    track = demo_inputs().courses["brackenmere"]
    there = track_distance(track)[0][-1]
    back = track_distance(
        Track(heights="none", latitude_deg=track.latitude_deg[::-1], longitude_deg=track.longitude_deg[::-1])
    )[0][-1]
    assert there == pytest.approx(back, rel=1e-12)


def test_ground_shares_sum_to_one_and_speak_of_known_ground():
    shares = ground_shares(PurposeInput.of(demo_report().behind.up))
    assert sum(shares.values()) == pytest.approx(1.0)
    assert set(shares) <= set(GROUNDS)
    assert list(shares.values()) == sorted(shares.values(), reverse=True)
    parts = (GroundSegment(from_m=10.0, to_m=20.0, ground="mud"),)
    surfaces, index, _ = lay_surfaces(np.array([5.0, 15.0, 25.0]), parts, (), default="single_track", state="dry")
    assert [GROUNDS[i] for i in surfaces.ground[index]] == ["single_track", "mud", "single_track"]


def test_content_keys_name_content_only():
    track = demo_inputs().courses["brackenmere"]
    known = {k: getattr(track, k) for k in Track.model_fields}
    assert Track(**(known | {"name": "another name"})).content_key() == track.content_key()
    assert Track(**(known | {"heights": "barometer"})).content_key() != track.content_key()
    moved = (track.latitude_deg[0] + 1e-7, *track.latitude_deg[1:])
    assert Track(**(known | {"latitude_deg": moved})).content_key() != track.content_key()


def test_headlines_are_figures_that_know_what_better_means():
    # trail is neither better nor worse by itself: more steadies, less turns in
    assert all(FIGURES[name].better for name in HEADLINES if name != "chassis.trail")
