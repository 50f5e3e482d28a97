"""The half car against closed forms, a general solver, energy, and the words of ISO 2631-1; the ride's directions over nine speeds."""

from math import cos, pi, radians

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.interpolate import CubicHermiteSpline
from scipy.signal import sosfreqz

from lynxwort.core.asks import complaints
from lynxwort.core.model.damper import stack_of
from lynxwort.core.model.defaults import GRAVITY_M_PER_S2
from lynxwort.core.physics.damping.damper import SPEEDS
from lynxwort.core.physics.halfcar import kernel, terrain
from lynxwort.core.physics.halfcar.halfcar import STEP_S, SWEEP_STEP_S, HalfCar, ride
from lynxwort.core.physics.halfcar.kernel import COLUMN, PLACE
from lynxwort.core.physics.halfcar.measures import hits, measure, wk_sections
from lynxwort.core.stations.damping import car, dampers, rides
from lynxwort.core.stations.damping.input import DampingInput
from tests.support import Published, demo_inputs, demo_report

AIR_M2 = 2 * pi / 4 * 0.048**2
NOTHING = np.zeros(SPEEDS.size)


def law(c, knee, stack):
    """Bleed and stack as two lines: the handbook's stand-in damper."""
    beyond = 1 / (1 / c + 1 / stack)
    return np.where(c * SPEEDS < knee, c * SPEEDS, knee + beyond * (SPEEDS - knee / c))


def handbook_car(**given):
    """RIDE.md's reference bike; given: parameters of the kernel changed."""
    turn = 1 / 2.5 - 1 / 2.9
    tables = {
        "fork_in": law(450, 110, 450),
        "fork_out": law(1000, 280, 520),
        "shock_in": law(3200, 350, 4500),
        "shock_out": law(6500, 900, 4200),
    }
    return HalfCar(
        values={
            "sprung": 82,
            "inertia": 13,
            "front_unsprung": 13,
            "rear_unsprung": 17,
            "rider": 88,
            "to_front": 1.485 - 0.739,
            "to_rear": 0.739,
            "peg": -0.12,
            "bar": 0.45,
            "fork_travel": 0.300,
            "fork_friction": 40,
            "shock_friction": 60,
            "rear_travel": 0.310,
        },
        rake_rad=radians(26.5),
        fork_spring=lambda s: 8800 * (s + 0.005) + 101325 * AIR_M2 * ((0.410 / (0.410 - s)) ** 1.3 - 1),
        shock_spring=lambda s: 52000 * (s + 0.011),
        ratio=lambda w: 1 / 2.9 + 1.3 * turn / 0.31 * w - 0.3 * turn / 0.31**2 * w * w,
        **(tables | {k: v for k, v in given.items() if k in tables}),
        given={k: v for k, v in given.items() if k not in tables},
    )


def quiet_car(**given):
    """A symmetric bike without damping and friction, air or linkage: everything linear."""
    values = {
        "sprung": 80.0,
        "inertia": 14.0,
        "front_unsprung": 14.0,
        "rear_unsprung": 14.0,
        "rider": 80.0,
        "to_front": 0.7,
        "to_rear": 0.7,
        "peg": 0.0,
        "bar": 0.0,
        "fork_travel": 0.30,
        "fork_friction": 0.0,
        "shock_friction": 0.0,
        "rear_travel": 0.30,
    }
    zero = {
        "tyre_damping": 0.0,
        "leg_damping": 0.0,
        "arm_damping": 0.0,
        "body_english": 0.0,
        "front_tyre": 150e3,
        "rear_tyre": 150e3,
    }
    return HalfCar(
        values=values,
        rake_rad=0.0,
        fork_spring=lambda s: 9000.0 * s,
        shock_spring=lambda s: 9000.0 * s,
        ratio=lambda w: 1.0,
        fork_in=NOTHING,
        fork_out=NOTHING,
        shock_in=NOTHING,
        shock_out=NOTHING,
        given=zero | given,
    )


FLAT = terrain.Profile(height_m=np.zeros(4000), judged_from_m=0.0)


# standing ---------------------------------------------------------------------------------------------------------------
def test_it_stands_as_the_handbook_has_it():
    car = handbook_car()
    front, rear = car.sag_m
    source = "handbook RIDE 3, sanity numbers at defaults"
    Published(0.062, 0.01, source).check(front)
    Published(0.103, 0.01, source).check(rear)
    Published(887, 0.002, source).check(car.loads_n[0] + 13 * GRAVITY_M_PER_S2)
    Published(1074, 0.002, source).check(car.loads_n[1] + 17 * GRAVITY_M_PER_S2)
    assert sum(car.loads_n) == pytest.approx((82 + 88) * GRAVITY_M_PER_S2, rel=1e-12)


def test_at_rest_nothing_moves():
    flat = ride(handbook_car(), FLAT, 4.0)
    moved = flat.rows[:, :10] - flat.rows[0, :10]
    assert np.abs(moved).max() < 1e-6  # a micrometre, from rounding, in ten seconds
    accelerations = flat.rows[0, [COLUMN["peg_a"], COLUMN["rider_a"]]]
    assert np.abs(accelerations).max() < 1e-12


def test_linear_sag_is_the_closed_form_and_the_symmetric_bike_never_pitches():
    car = quiet_car()
    front, rear = car.sag_m
    each = 0.5 * (80 + 80) * GRAVITY_M_PER_S2
    assert (front, rear) == pytest.approx((each / 9000.0, each / 9000.0), rel=1e-9)
    bumpy = ride(car, FLAT, 4.0)
    assert np.abs(bumpy.rows[:, COLUMN["pitch"]]).max() < 1e-12


def test_in_free_fall_the_whole_follows_the_parabola():
    car = quiet_car()
    start, parameters = car.at_rest()
    start[[0, 2, 3, 4]] += 5.0
    start[[5, 7, 8, 9]] = 0.5
    out = kernel.blank(400)
    kernel.ride_over(start, parameters, 1.0, 5e-4, 800, 2, 0.01, np.zeros(4000), car.springs, car.dampers, out)
    weights = np.array([80.0, 0.0, 14.0, 14.0, 80.0])
    height, t = out[:, :5] @ weights / weights.sum(), np.arange(400) * 1e-3
    assert height == pytest.approx(height[0] + 0.5 * t - 0.5 * GRAVITY_M_PER_S2 * t**2, abs=1e-9)


# moving -----------------------------------------------------------------------------------------------------------------
def test_it_moves_as_a_general_solver_says():
    car, profile = handbook_car(), terrain.whoops(4.5, 0.30, 4)
    path = terrain.tyre_path(profile.height_m)
    ours = ride(car, profile, 10.0, path=path)
    start, parameters = car.at_rest()
    seen = np.zeros(13)

    def slope(t, y):
        dy = np.zeros(10)
        kernel.slopes(y, parameters, t, 10.0, terrain.GRID_M, path, car.springs, car.dampers, dy, seen)
        return dy

    times = np.arange(ours.rows.shape[0])[:2500:25] * 1e-3
    solved = solve_ivp(
        slope, (0.0, times[-1]), start, method="DOP853", t_eval=times, rtol=1e-8, atol=1e-10, max_step=0.01
    )
    error = ours.rows[:2500:25, :5] - solved.y[:5].T
    assert np.sqrt((error[:, 2:4] ** 2).mean()) < 0.3e-3  # the handbook: RK4 at 0.5 ms within 0.12 mm r.m.s.


def test_the_linear_bike_bounces_at_its_own_frequency():
    """Bounce of the symmetric bike: rigid tyres and legs, so that one mass stands on two springs (quarter car)."""
    car = quiet_car(front_tyre=5e7, rear_tyre=5e7, leg=1e7)
    start, parameters = car.at_rest()
    start[0] += 0.02
    start[4] += 0.02
    out = kernel.blank(4000)
    kernel.ride_over(start, parameters, 1.0, 1e-4, 40000, 10, 0.01, np.zeros(4000), car.springs, car.dampers, out)
    body = out[:, 0] - out[:, 0].mean()
    crossings = np.nonzero((body[:-1] < 0) & (body[1:] >= 0))[0]
    period = np.diff(crossings).mean() * 1e-3
    assert 1 / period == pytest.approx(np.sqrt(2 * 9000.0 / 160.0) / (2 * pi), rel=2e-3)


def test_without_dampers_energy_stays():
    car = quiet_car()
    start, parameters = car.at_rest()
    start[0] += 0.03
    out = kernel.blank(5000)
    kernel.ride_over(start, parameters, 1.0, 5e-4, 10000, 2, 0.01, np.zeros(4000), car.springs, car.dampers, out)

    def energy(y):
        body, _pitch, front, rear, rider = y[:, 0], y[:, 1], y[:, 2], y[:, 3], y[:, 4]
        masses = np.array([80.0, 14.0, 14.0, 14.0, 80.0])
        moving = 0.5 * (y[:, 5:10] ** 2) @ masses
        lifted = GRAVITY_M_PER_S2 * (80 * body + 14 * front + 14 * rear + 80 * rider)
        legs, arms = np.maximum(body - rider, 0.0), body - rider - parameters[PLACE["arm_rest"]]
        springs = sum(0.5 * 9000.0 * (w - body) ** 2 for w in (front, rear)) + sum(
            0.5 * 150e3 * np.maximum(-w, 0.0) ** 2 for w in (front, rear)
        )
        return (
            moving
            + lifted
            + springs
            + 0.5 * parameters[PLACE["leg"]] * legs**2
            + 0.5 * parameters[PLACE["arm"]] * arms**2
        )

    held = energy(out)
    assert np.ptp(held) < 0.05  # J, of some hundred that swing


def test_a_finer_step_changes_little_and_dampers_only_take():
    car, profile = handbook_car(), terrain.whoops(4.5, 0.30, 6)
    path = terrain.tyre_path(profile.height_m)
    coarse, fine = (ride(car, profile, 10.0, step_s=s, path=path) for s in (1e-3, 2.5e-4))
    count = min(coarse.rows.shape[0], fine.rows.shape[0])
    error = coarse.rows[:count, 2:4] - fine.rows[:count, 2:4]
    assert np.sqrt((error**2).mean()) < 0.5e-3
    for table in (car.fork_in, car.fork_out, car.shock_in, car.shock_out):
        assert (np.diff(table) > 0).all()


def by_the_book(car, y, time, speed, path):
    """The equations of the handbook's RIDE.md 1 once more, in plain Python with numpy's interpolation: derivative of the ten states."""
    v, d, to_front, to_rear = car.value, car.dampers, car.value("to_front"), car.value("to_rear")
    z, pitch, front, rear, rider, z_v, pitch_v, front_v, rear_v, rider_v = y

    def damper(inward, outward, u):
        return np.interp(u, SPEEDS, inward) if u >= 0 else -np.interp(-u, SPEEDS, outward)

    def end(stroke, u, travel, name, spring):
        last = (spring(travel) - spring(travel * (1 - 1 / 240))) / (
            travel / 240
        )  # a little beyond the end the spring goes on as a line
        force = (
            spring(min(max(stroke, 0), travel))
            + last * min(max(stroke - travel, 0), 0.02 * travel)
            + v(f"{name}_friction") * u / np.hypot(u, v("friction_speed"))
        )
        into = stroke - (travel - v(f"{name}_bump_length"))
        if into > 0:
            force += into * (v(f"{name}_bump") + v(f"{name}_bump_square") * into) + v(f"{name}_bump_damping") * min(
                into / v(f"{name}_bump_length"), 1
            ) * max(u, 0)
        if stroke > travel:
            force += max(v(f"{name}_metal") * (stroke - travel) + v(f"{name}_metal_damping") * u, 0)
        if stroke < 0:
            force += min(v(f"{name}_top_out") * stroke + v(f"{name}_top_out_damping") * u, 0)
        return force

    lean = 1 / cos(car.rake_rad)
    s, s_v = lean * (front - z - to_front * pitch), lean * (front_v - z_v - to_front * pitch_v)
    fork = lean * (end(s, s_v, v("fork_travel"), "fork", car.fork_spring) + damper(d[0], d[1], s_v))
    w, w_v = rear - z + to_rear * pitch, rear_v - z_v + to_rear * pitch_v
    ratio = car.ratio(min(max(w, 0), v("rear_travel")))
    q = car.stroke_at(w)
    shock = ratio * (
        end(q, ratio * w_v, v("shock_stroke"), "shock", car.shock_spring) + damper(d[2], d[3], ratio * w_v)
    )

    def tyre(x, rate, at, at_v):
        grid = np.arange(path.size) * terrain.GRID_M
        high = CubicHermiteSpline(
            grid, path, np.gradient(path, terrain.GRID_M)
        )  # Catmull-Rom is the cubic with these slopes
        push = float(high(x)) - at
        if push <= 0:
            return 0.0
        return max(
            rate * push
            + v("rim") * max(push - v("rim_from"), 0)
            + v("tyre_damping") * (float(high.derivative()(x)) * speed - at_v),
            0.0,
        )

    on_front = tyre(time * speed + to_front + to_rear, v("front_tyre"), front, front_v)
    on_rear = tyre(time * speed, v("rear_tyre"), rear, rear_v)
    legs, legs_v = z + v("peg") * pitch - rider, z_v + v("peg") * pitch_v - rider_v
    leg = max(v("leg") * legs + v("leg_damping") * legs_v, 0) if legs > 0 else 0.0
    leg += max(v("seat") * (legs - v("seat_after")) + v("seat_damping") * legs_v, 0) if legs > v("seat_after") else 0.0
    rest = car.at_rest()[1][PLACE["arm_rest"]]
    arm = v("arm") * (z + v("bar") * pitch - rider - rest) + v("arm_damping") * (z_v + v("bar") * pitch_v - rider_v)
    english = np.clip(v("body_english") * pitch_v, -v("body_english_most"), v("body_english_most"))
    turned = to_front * fork - to_rear * shock - v("peg") * leg - v("bar") * arm - english
    pushed = np.array([fork + shock - leg - arm, turned, on_front - fork, on_rear - shock, leg + arm])
    weights = [v(n) for n in ("sprung", "inertia", "front_unsprung", "rear_unsprung", "rider")]
    return np.concatenate([y[5:], pushed / weights - v("gravity") * np.array([1, 0, 1, 1, 1])])


def test_the_kernel_is_the_handbooks_equations_in_every_state():
    """At rest, topped out, on rubber and metal, airborne, on the seat: random states against the equations written a second time."""
    car, path = handbook_car(), terrain.tyre_path(terrain.whoops(4.5, 0.30, 4).height_m)
    start, parameters = car.at_rest()
    rng, dy, seen_, met = np.random.default_rng(3), np.zeros(10), np.zeros(13), set()
    for _ in range(160):
        y = start + np.concatenate(
            [rng.normal(0, [0.12, 0.12, 0.08, 0.08, 0.25]), rng.normal(0, [0.6, 1.0, 1.2, 1.2, 0.8])]
        )
        time = float(rng.uniform(0.9, 2.0))
        kernel.slopes(y, parameters, time, 10.0, terrain.GRID_M, path, car.springs, car.dampers, dy, seen_)
        wanted = by_the_book(car, y, time, 10.0, path)
        # tables of springs and dampers stand between: a thousandth of what moves there
        assert dy == pytest.approx(wanted, rel=2e-3, abs=2e-3 * np.abs(wanted).max())
        met |= {
            ("top", seen_[0] < 0),
            ("metal", seen_[0] > 0.3),
            ("air", seen_[4] == 0),
            ("shock stop", seen_[12] > 0),
            ("rim", seen_[4] > 9e3),
        }
    assert {name for name, on in met if on} == {"top", "metal", "air", "shock stop", "rim"}


@pytest.mark.parametrize(
    ("drop_m", "front_m", "rear_m", "metal"),
    [(0.6, 0.163, 0.289, 0), (1.0, None, None, 1), (1.25, None, None, 1), (1.5, 0.263, 0.316, 1)],
)
def test_landings_use_the_travel_that_the_handbook_found(drop_m, front_m, rear_m, metal):
    car = handbook_car()
    found = measure(car, ride(car, terrain.landing(drop_m), 10.0))
    assert (found.front.metal, found.rear.metal) == (0, metal)
    if front_m:
        source = "handbook RIDE 3, upright travel on a drop at 10 m/s"
        Published(front_m, 0.01, source).check(found.front.travel_used_m * cos(car.rake_rad))
        Published(rear_m, 0.01, source).check(found.rear.travel_used_m)


def test_a_hollow_uses_the_travel_that_the_handbook_found():
    car, source = handbook_car(), "handbook RIDE 3, g-out 1.0 m over 14 m at 12 m/s"
    found = measure(car, ride(car, terrain.dip(1.0, 14.0), 12.0))
    Published(0.208, 0.01, source).check(found.front.travel_used_m * cos(car.rake_rad))
    Published(0.300, 0.01, source).check(found.rear.travel_used_m)


def test_finer_steps_come_nearer_and_the_sweeps_step_is_near_enough():
    car, profile = handbook_car(), terrain.whoops(4.5, 0.35, 8)
    path = terrain.tyre_path(profile.height_m)

    def fork(step_s):
        return ride(car, profile, 12.0, step_s=step_s, path=path).rows[:3000, COLUMN["fork"]]

    exact = fork(2.5e-5)
    off = [float(np.sqrt(((fork(step_s) - exact) ** 2).mean())) for step_s in (SWEEP_STEP_S, STEP_S, 1e-4)]
    assert off[0] < 0.12e-3  # handbook RIDE 4: whoops at 12 m/s by RK4 at 1 ms within 0.12 mm
    assert off[2] < off[1] < 1.5 * off[0]


# measures ---------------------------------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("hertz", "gain"),
    [
        (0.5, 0.418),
        (1.0, 0.482),
        (2.0, 0.531),
        (4.0, 0.967),
        (6.3, 1.054),
        (8.0, 1.036),
        (16.0, 0.768),
        (31.5, 0.405),
        (63.0, 0.186),
    ],
)
def test_wk_is_the_standards(hertz, gain):
    _w, response = sosfreqz(wk_sections(), worN=[2 * pi * hertz / 1000.0])
    Published(gain, 0.015, "ISO 2631-1:1997 table 3, from memory").check(abs(response[0]))


def test_one_pass_over_a_ride_says_what_numpy_says():
    car = handbook_car()
    rode = ride(car, terrain.rocks(terrain.CLASSES["F"], 40.0, 2), 6.0)
    found = measure(car, rode)
    for end, travel, whole in ((found.front, rode.column("fork"), 0.300), (found.rear, rode.column("wheel"), 0.310)):
        load = rode.column("front_tyre" if end is found.front else "rear_tyre")
        counts, _edges = np.histogram(np.clip(travel, 0, whole), bins=24, range=(0, whole))
        assert end.histogram == pytest.approx(
            counts / travel.size, abs=2 / travel.size
        )  # a point on an edge may fall either way
        assert end.travel_used_m == travel.max()
        assert end.air_share == pytest.approx((load <= 0).mean(), abs=1e-12)
        place = 0 if end is found.front else 1
        standing = car.loads_n[place] + (13, 17)[place] * GRAVITY_M_PER_S2
        assert end.load_ratio == pytest.approx(load.std() / standing, rel=1e-12)
        assert end.packing_m == pytest.approx(travel.mean() - car.sag_m[place], abs=1e-12)
        assert end.inward_m_per_s == pytest.approx(
            np.quantile(rode.column("fork_v" if place == 0 else "shock_v"), 0.999), rel=1e-12
        )


def test_hits_are_counted_once_until_it_goes_back():
    stroke = np.array([0.0, 0.99, 1.01, 0.99, 1.02, 0.5, 1.01, 0.96, 1.01])
    assert hits(stroke, 1.0, 0.05) == 2


def test_rough_ground_has_the_power_of_its_class():
    rough = [terrain.rocks(terrain.CLASSES["F"], 60.0, seed).height_m[1100:-1100].var() for seed in range(8)]
    # ISO 8608: variance of the waves between 0.05 and 4 cycles per metre = integral of G(n0) (n / n0)^-2, by the sum of
    # the drawn waves; each ground by itself, for each begins at a level of its own
    n = np.arange(0.05, 4.0, 0.02)
    drawn = float((terrain.CLASSES["F"] * (n / 0.1) ** -2 * 0.02).sum())
    assert np.mean(rough) == pytest.approx(drawn, rel=0.03)


def test_a_tyre_bridges_a_hole_and_carries_over_a_stone():
    hole, stone = np.zeros(400), np.zeros(400)
    hole[195:205], stone[200] = -0.2, 0.05
    assert terrain.tyre_path(hole).min() > -0.01
    over = terrain.tyre_path(stone)
    assert over.max() == pytest.approx(0.05, abs=0.004)
    reach = np.count_nonzero(over > 1e-6) * terrain.GRID_M
    assert reach == pytest.approx(2 * np.sqrt(2 * 0.34 * 0.05 - 0.05**2) + 0.10, abs=0.04)


# directions over nine speeds --------------------------------------------------------------------------------------------
def seen(measure_of, now, after, feature):
    """The change of a measure over nine speeds, as the product judges it."""
    told = [
        np.array(
            [
                measure_of(m)
                for m in rides.ride_feature(car, feature, feature.speed_m_per_s, spread=rides.WIDE_SPREAD).runs
            ]
        )
        for car in (now, after)
    ]
    return complaints.judged(*told)


WHOOPS = rides.Feature(kind="whoops", at_m=None, speed_m_per_s=10.0, size=(4.5, 0.30))
ROCKS = rides.Feature(kind="rocks", at_m=None, speed_m_per_s=6.0, size=(terrain.CLASSES["F"],))
DIP = rides.Feature(kind="dip", at_m=None, speed_m_per_s=12.0, size=(0.8, 12.0))
LANDING = rides.Feature(kind="landing", at_m=None, speed_m_per_s=10.0, size=(1.0,))


def changed(**setup):
    """The demo bike's half car with something changed."""
    work = demo_report().behind.up
    return car.half_car(DampingInput.of(work), work.inputs.setup.model_copy(update=setup))


@pytest.mark.parametrize(
    ("change", "of", "feature", "wanted"),
    [
        (
            {"shock_rebound_clicks": 0, "fork_rebound_clicks": 0},
            lambda m: m.rear.packing_m,
            WHOOPS,
            "worse",
        ),  # slow rebound packs
        (
            {"shock_rebound_clicks": 22, "fork_rebound_clicks": 22},
            lambda m: m.overshoot_m,
            LANDING,
            "worse",
        ),  # quick rebound kicks
        (
            {"shock_spring_rate_n_per_m": 60000.0},
            lambda m: m.rear.travel_used_m,
            LANDING,
            "helps",
        ),  # a stiffer spring keeps travel
        (
            {"shock_piston_stack": stack_of("12x40.15 3x36.15 3x32.15 3x28.15 3x25.15")},
            lambda m: m.rear.travel_used_m,
            LANDING,
            "helps",
        ),
        ({"fork_oil_up_m": 0.02}, lambda m: m.front.travel_used_m, LANDING, "helps"),  # more oil holds up deep in
        ({"fork_oil_up_m": -0.02}, lambda m: m.front.travel_used_m, DIP, "worse"),
        ({"shock_high_speed_turns": 3.0}, lambda m: m.rear.travel_used_m, LANDING, "helps"),  # firmer on hard hits
        ({"shock_high_speed_turns": 3.0}, lambda m: m.peg_m_per_s2, ROCKS, "worse"),  # and harsher on rocks
        (
            {"shock_piston_stack": stack_of("3x40.15 36.15 32.15 28.15 25.15")},
            lambda m: m.peg_m_per_s2,
            ROCKS,
            "helps",
        ),  # a softer stack is plusher
        (
            {"fork_compression_clicks": 22, "shock_compression_clicks": 22},
            lambda m: m.rear.travel_used_m,
            WHOOPS,
            "worse",
        ),  # open compression goes deeper
        ({"shock_rebound_clicks": 0}, lambda m: m.rear.air_share, ROCKS, "not_visible"),
    ],
)
def test_what_riders_say_shows_in_the_ride(change, of, feature, wanted):
    assert seen(of, changed(), changed(**change), feature)[1] == wanted


def test_no_change_is_not_visible():
    assert seen(lambda m: m.rear.travel_used_m, changed(), changed(), WHOOPS) == (0.0, "not_visible")


def test_the_ride_stands_where_the_chassis_does():
    """One bike for both stations: the same loads, and sags apart by the air's quicker exponent only."""
    report = demo_report()
    made = car.half_car(DampingInput.of(report.behind.up))
    front, rear = made.sag_m
    assert rear == pytest.approx(report.value("chassis.rear.race_sag"), abs=1e-3)
    assert front == pytest.approx(report.value("chassis.front.race_sag"), abs=4e-3)
    assert front <= report.value("chassis.front.race_sag") + 1e-6
    loads = report.behind.up.loaded.loads(
        0.5 * report.behind.up.inputs.setup.fill_m3, share_offset=report.behind.up.springs.offsets.mean[2]
    )
    carried = made.loads_n[0] / GRAVITY_M_PER_S2 + report.behind.up.loads.unsprung(
        report.behind.up.inputs.setup, "front"
    )
    assert carried == pytest.approx(loads.front_kg, abs=0.8)


def test_a_crash_is_told_and_nothing_runs_away_unseen():
    car = handbook_car()
    wild = measure(car, ride(car, terrain.whoops(3.0, 1.6, 12), 14.0))
    assert wild.crash
    assert not wild.in_envelope


def test_split_forks_damp_with_one_leg_once_they_are_described():
    inputs = demo_inputs()
    split = inputs.bike.model_copy(update={"frame": inputs.bike.frame.model_copy(update={"fork_damping": "split"})})
    described = type(split).model_validate(
        split.model_dump(exclude_unset=True) | {"fork_damper": split.damper("fork").model_dump()}
    )
    assert (dampers.legs_of(inputs.bike), dampers.legs_of(split), dampers.legs_of(described)) == (2, 2, 1)


def test_fork_travel_along_the_leg_is_less_upright():
    car = handbook_car()
    y = ride(car, terrain.landing(0.6), 8.0).rows
    upright = y[:, 2] - y[:, 0] - car.value("to_front") * y[:, 1]
    assert y[:, COLUMN["fork"]] * cos(radians(26.5)) == pytest.approx(upright, abs=1e-12)


# frequency response, energy with dampers --------------------------------------------------------------------------------
def shaken(car, hertz, *, seconds=14.0, high_m=0.002):
    """Amplitudes of the five coordinates over a sine of ground that both wheels meet together, by a fit over whole periods at the end."""
    speed, base = 2.0, car.value("to_front") + car.value("to_rear")
    wave = base / round(base * hertz / speed) if round(base * hertz / speed) else 0.0
    hertz = speed / wave  # both wheels meet the same height: the wheelbase is a whole number of waves
    x = np.arange(0.0, speed * seconds + 3.0, terrain.GRID_M)
    path = high_m * (1 - np.cos(2 * pi * x / wave)) / 2 * np.clip(x / 2.0, 0.0, 1.0)
    start, parameters = car.at_rest()
    out = kernel.blank(int(seconds * 1000))
    kernel.ride_over(
        start, parameters, speed, 5e-4, int(seconds * 2000), 2, terrain.GRID_M, path, car.springs, car.dampers, out
    )
    t = np.arange(out.shape[0]) * 1e-3
    periods = int(4.0 * hertz)
    late = t >= t[-1] - periods / hertz
    table = np.column_stack([np.cos(2 * pi * hertz * t[late]), np.sin(2 * pi * hertz * t[late]), np.ones(late.sum())])
    fitted = np.linalg.lstsq(table, out[late, :5], rcond=None)[0]
    return hertz, np.hypot(fitted[0], fitted[1]) / (high_m / 2)


def damped_car():
    """Everything linear, damped: forces in proportion to speed."""
    straight = 1500.0 * SPEEDS
    car = quiet_car(tyre_damping=200.0, leg_damping=900.0, arm_damping=150.0)
    return car.with_dampers(straight, straight, straight, straight)


@pytest.mark.parametrize("hertz", [1.43, 2.86, 4.29, 7.15, 14.3])
def test_the_linear_bike_answers_a_sine_as_its_matrices_say(hertz):
    """Five degrees of freedom by matrices; the symmetric bike on a wave that divides its wheelbase bounces only, so pitch stays out."""
    car = damped_car()
    hertz, found = shaken(car, hertz)
    k, c, tyre, tyre_c, leg, leg_c = (
        9000.0,
        1500.0,
        150e3,
        200.0,
        car.value("leg") + car.value("arm"),
        car.value("leg_damping") + car.value("arm_damping"),
    )
    w = 2 * pi * hertz
    stiff, damp = k + 1j * w * c, leg + 1j * w * leg_c
    road = tyre + 1j * w * tyre_c
    matrix = np.array(
        [  # body, front wheel, rear wheel, rider
            [2 * stiff + damp - 80 * w**2, -stiff, -stiff, -damp],
            [-stiff, stiff + road - 14 * w**2, 0, 0],
            [-stiff, 0, stiff + road - 14 * w**2, 0],
            [-damp, 0, 0, damp - 80 * w**2],
        ]
    )
    wanted = np.abs(np.linalg.solve(matrix, np.array([0, road, road, 0])))
    assert found[[0, 2, 3, 4]] == pytest.approx(wanted, rel=0.02)
    assert found[1] < 1e-3


def test_half_the_symmetric_bike_is_a_quarter_car():
    """With the rider held fast to the body, bounce over a sine is the textbook quarter car's transmissibility."""
    straight = 1500.0 * SPEEDS
    car = quiet_car(tyre_damping=0.0, leg=4e6, leg_damping=2e4).with_dampers(straight, straight, straight, straight)
    hertz, found = shaken(car, 2.86)
    w, m, u, k, tyre = 2 * pi * hertz, 80.0, 14.0, 9000.0 + 1j * 2 * pi * hertz * 1500.0, 150e3
    wanted = abs(tyre * k / ((k - m * w**2) * (k + tyre - u * w**2) - k**2))
    assert found[0] == pytest.approx(wanted, rel=0.02)


def test_what_the_ground_gives_is_moved_stored_or_burnt():
    """Energy over whoops: change of what is moved and stored = work of the ground - what dampers, tyres and rider burn."""
    car, profile = damped_car(), terrain.whoops(4.5, 0.10, 5)
    path = terrain.tyre_path(profile.height_m)
    rows, speed, dt = ride(car, profile, 6.0, path=path).rows, 6.0, 1e-3
    body, pitch, front, rear, rider = rows[:, :5].T
    v_body, _v_pitch, v_front, v_rear, v_rider = rows[:, 5:10].T
    slopes = [
        np.interp(
            np.arange(rows.shape[0]) * dt * speed + ahead,
            np.arange(path.size) * terrain.GRID_M,
            np.gradient(path, terrain.GRID_M),
        )
        for ahead in (1.4, 0.0)
    ]
    ground = sum(rows[:, COLUMN[f"{end}_tyre"]] * s * speed for end, s in zip(("front", "rear"), slopes, strict=True))
    stroke = [(rows[:, COLUMN[n]]) for n in ("fork_v", "shock_v")]
    burnt = sum(1500.0 * s**2 for s in stroke)
    legs_v = v_body - v_rider
    burnt = burnt + (car.value("leg_damping") + car.value("arm_damping")) * legs_v**2
    pressed = [
        (rows[:, COLUMN["front_ground"]] - front, slopes[0] * speed - v_front),
        (rows[:, COLUMN["rear_ground"]] - rear, slopes[1] * speed - v_rear),
    ]
    burnt = burnt + sum(np.where(push > 0, 200.0 * rate**2, 0.0) for push, rate in pressed)
    assert (burnt >= 0).all()
    moving = 0.5 * (80 * v_body**2 + 14 * v_front**2 + 14 * v_rear**2 + 80 * v_rider**2 + 14.0 * rows[:, 6] ** 2)
    lifted = GRAVITY_M_PER_S2 * (80 * body + 14 * front + 14 * rear + 80 * rider)
    strokes = (front - body - 0.7 * pitch, rear - body + 0.7 * pitch)
    rest = rows[0, 0] - rows[0, 4]
    stored = sum(0.5 * 9000.0 * s**2 for s in strokes) + sum(0.5 * 150e3 * np.maximum(p, 0) ** 2 for p, _r in pressed)
    stored = (
        stored
        + 0.5 * car.value("leg") * np.maximum(body - rider, 0.0) ** 2
        + 0.5 * car.value("arm") * (body - rider - rest) ** 2
    )
    held = moving + lifted + stored
    worked = float(((ground - burnt)[1:] + (ground - burnt)[:-1]).sum() * dt / 2)
    assert held[-1] - held[0] == pytest.approx(worked, abs=0.02 * float(burnt.sum() * dt))
