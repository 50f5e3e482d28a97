"""The side view as a mechanism, chain pull, ride frequency, bottoming, closed air: against independent solvers, energy, moments, the gas law."""

from math import atan2, cos, degrees, hypot, radians, sin

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import fsolve

from lynxwort.core.errors import OutOfModelRange
from lynxwort.core.physics.air.standard import standard_pressure
from lynxwort.core.physics.chassis import geometry, pressure, ride_quality, sag
from lynxwort.core.physics.drive.chain import pitch_radius, tangents
from lynxwort.core.physics.drive.kernel import LIMITS
from lynxwort.core.stations.chassis import clearances, view
from lynxwort.core.stations.chassis.input import ChassisInput
from tests.support import Published, demo_fork, demo_inputs, demo_report, report_with, setup_with

VIEW = {
    "wheelbase_m": 1.48,
    "rake_rad": radians(26.5),
    "offset_m": 0.055,
    "swingarm_length_m": 0.59,
    "axle_below_pivot_m": 0.17,
    "front_radius_m": 0.345,
    "rear_radius_m": 0.325,
    "front_radius_then_m": 0.345,
    "rear_radius_then_m": 0.325,
}


def stand(fork=0.0, rear=0.0, **changes):
    return geometry.attitude_of(geometry.SideView(**(VIEW | changes)), fork_in_m=fork, rear_in_m=rear)


@given(
    fork=st.floats(0, 0.29),
    rear=st.floats(0, 0.30),
    up=st.floats(-0.01, 0.02),
    offset=st.floats(-0.01, 0.01),
    front=st.floats(0.32, 0.36),
)
@settings(max_examples=60, deadline=None)
def test_the_mechanism_agrees_with_an_independent_solver(fork, rear, up, offset, front):
    """Unknown: the place and turn of the frame. Equations: both wheels touch the ground, the rear axle over the origin; solved by scipy."""
    stands = stand(fork, rear, fork_up_m=up, offset_change_m=offset, front_radius_m=front)
    v = VIEW
    pivot = np.array([np.sqrt(v["swingarm_length_m"] ** 2 - 0.17**2), v["rear_radius_then_m"] + 0.17])
    drop = 0.17 - rear
    rear_axle = pivot - [np.sqrt(v["swingarm_length_m"] ** 2 - drop**2), drop]
    leg = np.array([-sin(v["rake_rad"]), cos(v["rake_rad"])])
    front_axle = (
        np.array([v["wheelbase_m"], v["front_radius_then_m"]])
        + (fork + up) * leg
        + offset * np.array([cos(v["rake_rad"]), sin(v["rake_rad"])])
    )

    def touch(unknown):
        x, z, turn = unknown
        turned = np.array([[cos(turn), -sin(turn)], [sin(turn), cos(turn)]])
        a, b = turned @ rear_axle + [x, z], turned @ front_axle + [x, z]
        return [a[0], a[1] - v["rear_radius_m"], b[1] - front]

    (x, z, turn), *_how = fsolve(
        touch, [0.0, 0.0, 0.0], xtol=1e-13, full_output=True
    )  # it may stop at the last digit: what is left says how well
    assert np.max(np.abs(touch((x, z, turn)))) < 1e-12
    turned = np.array([[cos(turn), -sin(turn)], [sin(turn), cos(turn)]])
    assert stands.rake_rad == pytest.approx(v["rake_rad"] + turn, abs=1e-9)
    assert stands.wheelbase_m == pytest.approx(float((turned @ front_axle + [x, z])[0]), abs=1e-9)
    # trail by its meaning: where the steering axis meets the ground ahead of the contact
    axis = np.array([-sin(stands.rake_rad), cos(stands.rake_rad)])
    foot = np.array(stands.front_axle) - (0.055 + offset) * np.array([cos(stands.rake_rad), sin(stands.rake_rad)])
    assert stands.trail_m == pytest.approx(float(foot[0] - foot[1] / axis[1] * axis[0] - stands.wheelbase_m), abs=1e-9)
    assert stands.place((0.5, 0.9))[0] == pytest.approx(float((turned @ [0.5, 0.9] + [x, z])[0]), abs=1e-9)


def test_what_the_trade_says_of_each_change():
    """HANDBOOK 6: tubes up 5 mm -0.17 degrees and -1.2 mm of trail; clamp offset +2 mm -2.5 mm; rear +10 mm at the axle -0.39 degrees."""
    base = stand()
    Published(-0.17, 0.05, "HANDBOOK 6").check(degrees(stand(fork_up_m=0.005).rake_rad - base.rake_rad))
    Published(-1.2, 0.05, "HANDBOOK 6").check(1e3 * (stand(fork_up_m=0.005).trail_m - base.trail_m))
    Published(-2.5, 0.05, "HANDBOOK 6").check(1e3 * (stand(offset_change_m=0.002).trail_m - base.trail_m))
    Published(-0.39, 0.05, "HANDBOOK 6").check(
        degrees(stand(rear_up_m=0.010, axle_below_pivot_m=-0.005).rake_rad - stand(axle_below_pivot_m=-0.005).rake_rad)
    )
    with pytest.raises(OutOfModelRange):
        stand(rear=0.9)


@given(rear=st.floats(0.0, 0.25), teeth=st.integers(44, 54), front=st.integers(12, 15))
@settings(max_examples=40, deadline=None)
def test_anti_squat_is_the_balance_of_moments_about_the_pivot(rear, teeth, front):
    """Swingarm with its wheel, cut free: chain pull, drive at the contact patch and the load it brings balance about the pivot with the spring unmoved."""
    stands = stand(0.05, rear)
    sprocket = (stands.pivot[0] + 0.075, stands.pivot[1] + 0.005)
    upper, _ = tangents(stands.rear_axle, pitch_radius(teeth), sprocket, pitch_radius(front))
    found = geometry.anti_squat(
        pivot=stands.pivot, rear_axle=stands.rear_axle, chain=upper, cg_height_m=0.9, wheelbase_m=stands.wheelbase_m
    )
    drive = 1000.0
    tension = drive * stands.rear_axle[1] / pitch_radius(teeth)  # the wheel does not spin up
    run = np.array(upper[1]) - np.array(upper[0])
    pull = tension * run / hypot(*run)
    arm_chain, arm_ground = np.array(upper[0]) - stands.pivot, np.array([0.0, 0.0]) - stands.pivot
    cross = lambda r, f: r[0] * f[1] - r[1] * f[0]  # noqa: E731
    load = -(cross(arm_chain, pull) + cross(arm_ground, np.array([drive, 0.0]))) / arm_ground[0]
    assert found == pytest.approx(load / (drive * 0.9 / stands.wheelbase_m), rel=1e-9)
    assert upper[0][1] > stands.rear_axle[1]


def test_frequency_is_that_of_the_moving_mass_and_bottoming_that_of_its_energy():
    shock = sag.Shock(rate_n_per_m=54e3, preload_m=0.0, ratio_start=2.7, ratio_end=2.7, travel_m=0.31)
    assert ride_quality.wheel_rate(shock, 0.1) == pytest.approx(54e3 / 2.7**2)
    assert ride_quality.rear_frequency(shock, 90.0, 0.1) == pytest.approx((54e3 / 2.7**2 / 90.0) ** 0.5 / (2 * np.pi))
    falling = sag.Shock(rate_n_per_m=54e3, preload_m=0.01, ratio_start=2.9, ratio_end=2.4, travel_m=0.31)
    drop = ride_quality.rear_bottoming_drop(falling, 60.0)
    fork = demo_fork(0.005)
    front = ride_quality.front_bottoming_drop(fork, 60.0)
    for height, force, end in (
        (drop, lambda x: sag.shock_force_at_wheel(falling, x), 0.31),
        (
            front,
            lambda x: sag.fork_force(fork, x / cos(fork.rake_rad), 1.25) / cos(fork.rake_rad),
            0.3 * cos(fork.rake_rad),
        ),
    ):
        # dropped from there without damping, the mass comes to rest just at the end of the travel: scipy rides it down
        fall = solve_ivp(
            lambda t, y, f=force: [y[1], 9.80665 - f(max(y[0], 0.0)) / 60.0],
            (0, 1),
            [0.0, (2 * 9.80665 * height) ** 0.5],
            rtol=1e-9,
            atol=1e-10,
            events=[lambda t, y: y[1]],
        )
        assert fall.y_events[0][0][0] == pytest.approx(end, rel=2e-4)


def test_closed_air_rises_with_height_as_the_trade_measures():
    """Trade fact of HANDBOOK 6: sealed legs gain 2.9 psi from sea level to 1830 m and a 13 psi tyre becomes 15.9."""
    psi = 6894.757
    same = {
        "outside_then_pa": 101_325.0,
        "outside_now_pa": standard_pressure(1830.0),
        "temperature_then_k": 288.15,
        "temperature_now_k": 288.15,
    }
    Published(2.9, 0.02, "HANDBOOK 6, trade fact").check(pressure.gauge_at(0.0, **same) / psi)
    Published(15.9, 0.01, "HANDBOOK 6, trade fact").check(pressure.gauge_at(13 * psi, **same) / psi)
    assert pressure.gauge_at(90e3, **(same | {"outside_now_pa": 101_325.0})) == pytest.approx(90e3)
    assert pressure.gauge_at(90e3, **(same | {"temperature_now_k": 268.15})) < pressure.gauge_at(90e3, **same)


def test_the_bike_stands_on_its_sags_and_a_notch_moves_what_it_should():
    base, up = demo_report(), report_with(setup=setup_with(fork_up_m=0.005))
    rear_up = report_with(setup=setup_with(rear_up_m=0.010))
    stiff = report_with(setup=setup_with(shock_spring_rate_n_per_m=58000.0))
    value = lambda r, n: r.value(f"chassis.{n}")  # noqa: E731
    assert value(up, "trail") < value(base, "trail")
    assert value(up, "front.tyre_guard_clearance") == pytest.approx(value(base, "front.tyre_guard_clearance") - 0.005)
    assert value(rear_up, "ground_clearance") > value(base, "ground_clearance")
    assert value(rear_up, "rake") < value(base, "rake")
    assert value(rear_up, "reach_margin") < value(base, "reach_margin")
    assert value(stiff, "rake") < value(base, "rake")  # it sinks less behind
    assert value(stiff, "rear.frequency") > value(base, "rear.frequency")
    assert value(report_with(setup=setup_with(rear_sprocket_teeth=44)), "anti_squat") != pytest.approx(
        value(base, "anti_squat"), rel=1e-3
    )
    assert base.figures["chassis.reach_margin"].status == "ok"
    assert demo_report("hollowood").figures["chassis.reach_margin"].status == "unknown"
    lines = view.outline(ChassisInput.of(base.behind.up))
    legs = atan2(lines.front[0] - lines.leg_top[0], lines.leg_top[1] - lines.front[1])
    assert legs == pytest.approx(lines.rake_rad)
    assert hypot(lines.pivot[0] - lines.rear[0], lines.pivot[1] - lines.rear[1]) == pytest.approx(
        0.59 + base.value("drive.chain.axle_move")
    )


def test_the_axle_goes_back_with_the_chain_and_takes_wheelbase_trail_and_load_along():
    """Two teeth less behind let the axle back by about a quarter of a pitch for each: half the links that come free (chain of fixed length)."""
    bike = demo_inputs().bike
    links = demo_report().behind.up.loads.chain_fit(demo_inputs().setup).links
    held = bike.model_copy(update={"frame": bike.frame.model_copy(update={"chain_links": links})})
    before, after = (report_with(bike=held, setup=setup_with(rear_sprocket_teeth=t)) for t in (48, 46))
    back = after.behind.up.loads.axle_back_m(after.behind.up.inputs.setup) - before.behind.up.loads.axle_back_m(
        before.behind.up.inputs.setup
    )
    Published(
        2 * 0.015875 / 4, 0.15, "a 520 chain's pitch is 15.875 mm; each tooth takes half a link of half the wrap"
    ).check(back)
    assert after.value("chassis.wheelbase") - before.value("chassis.wheelbase") == pytest.approx(back, abs=0.0012)
    front, total = (
        before.value("chassis.axle_load.front"),
        before.value("chassis.axle_load.front") + before.value("chassis.axle_load.rear"),
    )
    assert after.value("chassis.axle_load.front") + after.value("chassis.axle_load.rear") == pytest.approx(total)
    assert (
        0.0 < after.value("chassis.axle_load.front") - front < total * back / 1.4
    )  # all that does not move with the axle comes forward against it
    assert after.value("chassis.trail") != before.value("chassis.trail")


def test_the_share_of_braking_is_that_of_brakings_not_of_one_step():
    work = demo_report().behind.up
    slope, slowing, at = clearances.hardest(ChassisInput.of(work))["braking"]
    forward = np.concatenate([np.diff(r.speed_m_per_s**2) / (2.0 * r.step_m) for r in work.lap.rides])
    assert forward.min() < slowing < -2.0
    assert work.lap.whole.limit[work.around.step_at(at)] == LIMITS.index("brake")
    assert abs(slope) < 0.6
