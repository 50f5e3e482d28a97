"""Kit in the whole: what an item does at its place, what it must not do, and that the brakes' heat is the ride's."""

import numpy as np
import pytest

from lynxwort.core.asks.brakes import choices
from lynxwort.core.derived.tyres import wheel_radius
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evaluate import evaluate
from lynxwort.core.learned.kit import flats_range
from lynxwort.core.model.bike import Kit
from lynxwort.core.model.bike.catalogue import CATALOGUE
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.fitted import aboard_of
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.readings import FlatsReading, HandsReading, LeverReading, RotorReading, SwingReading, Under
from lynxwort.core.physics.kit import brakes, masses, tyres
from lynxwort.core.stations.drive.hills import grips_of
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.kit import braking
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import TUNABLES, current_value, item_of, item_tunable, move, neighbour, tunables_of
from tests.support import CACHE, demo_inputs, demo_report

TOWER, BAGS = ({i.id: i for i in CATALOGUE}[name] for name in ("tower", "bags"))


def with_kit(name="brackenmere", on=(), off=(), **kit):
    """A demo with facts of its kit; on, off: ids of items."""
    inputs = demo_inputs(name)
    bike = inputs.bike.model_copy(update={"kit": Kit.model_validate(kit)})
    setup = inputs.setup.model_copy(update={"kit_on": on, "kit_off": off})
    return inputs.model_copy(update={"bike": bike, "setup": setup})


def item(found, **changes):
    return found.model_dump(mode="json", exclude_unset=True) | changes


def report(inputs):
    return evaluate(inputs, cache=CACHE)


def given(inputs):
    return KitInput.of(Upstream.of(inputs, CACHE))


def figures(of, *but):
    return {k: (f.value, f.low, f.high, f.status) for k, f in of.figures.items() if not k.startswith(but or ("-",))}


def test_an_item_that_is_off_changes_no_figure_to_the_last_bit():
    listed = [item(i) for i in CATALOGUE]
    plain = figures(report(with_kit()))
    assert figures(report(with_kit(items=listed))) == plain
    assert figures(report(with_kit(items=listed, on=("gone_since",)))) == plain
    on = report(with_kit(items=listed, on=tuple(i.id for i in CATALOGUE)))
    assert on.value("kit.build.mass") == pytest.approx(sum(i.net_kg for i in CATALOGUE))


def test_a_tower_weighs_at_its_place_and_old_sags_stay_true():
    """KIT.md 8, tried there: 6 kg at 1.25 / 1.10 m put 5.07 kg on the front wheel; what was read before it was bolted on
    is not rewritten by it.
    """
    bare, laden = given(with_kit(items=[item(TOWER)])), given(with_kit(items=[item(TOWER)], on=("tower",)))
    loads = [g.loaded.loads(g.loaded.half_m3) for g in (bare, laden)]
    assert loads[1].front_kg - loads[0].front_kg == pytest.approx(5.0676, abs=5e-3)  # the chain has moved the axle
    assert loads[1].total_kg - loads[0].total_kg == pytest.approx(6.0)
    # learned of the same readings: the same offsets, whatever is on now
    assert laden.loaded.springs.offsets.mean == bare.loaded.springs.offsets.mean
    before, after = report(with_kit()), report(with_kit(items=[item(TOWER)], on=("tower",)))
    for name, sense in (("chassis.front.race_sag", 1), ("chassis.front.bottoming_drop", -1), ("chassis.cg_height", 1)):
        assert sense * (after.value(name) - before.value(name)) > 0.0
    # its wind: 0.03 m2
    drag = [
        Upstream.of(i, CACHE).lap.ride_input.drag_area_m2
        for i in (with_kit(), with_kit(items=[item(TOWER)], on=("tower",)))
    ]
    assert drag[1] - drag[0] == pytest.approx(0.03)
    assert "load_wants_spring" in {f.code for f in after.of("chassis") if f.parameters.get("end") == "front"}


def test_bags_on_measured_sags_are_answered_with_a_spring_and_its_preload():
    """KIT.md 8: the two sags alone cannot see a load that rides along at both; rate by the load, preload for the sag."""
    laden = report(with_kit(items=[item(BAGS)], on=("bags",)))
    (found,) = (f for f in laden.of("chassis") if f.code == "load_wants_spring" and f.parameters["end"] == "rear")
    moves = {m.tunable: m.value for m in found.proposals[0]}
    rate, load = demo_inputs().setup.shock_spring_rate_n_per_m, given(with_kit()).loaded.sprung("rear")[0]
    wanted = masses.rate_for_load(rate, load_kg=load, extra_kg=found.parameters["load_kg"])
    assert moves["shock_spring_rate_n_per_m"] == pytest.approx(wanted, abs=2000.0)
    tried = report(
        with_kit(items=[item(BAGS)], on=("bags",)).model_copy(
            update={"setup": with_kit(items=[item(BAGS)], on=("bags",)).setup.model_copy(update=moves)}
        )
    )
    assert tried.value("chassis.rear.bottoming_drop") > laden.value("chassis.rear.bottoming_drop")
    low, high = tried.bands["chassis.rear.race_sag"]
    assert low <= tried.value("chassis.rear.race_sag") <= high


def test_a_reading_keeps_what_was_on_whatever_comes_on_later():
    """Read with the bags on, they belong to the reading: taking them off today leaves what was learned as it was."""
    bags = item(BAGS)
    with_bags = aboard_of(*(lambda i: (i.bike, i.setup))(with_kit(items=[bags], on=("bags",))))

    def learned(on):
        inputs = with_kit(items=[bags], on=on)
        readings = tuple(
            r.model_copy(update={"under": r.under.model_copy(update={"aboard": with_bags})}) for r in inputs.readings
        )
        return given(inputs.model_copy(update={"readings": readings})).loaded.springs.offsets.mean

    assert learned(()) == learned(("bags",))
    assert learned(()) != given(with_kit(items=[bags])).loaded.springs.offsets.mean


def test_an_item_that_was_on_when_weighed_is_counted_once():
    weighed = item(BAGS, weighed_with=True)
    plain, on, off = (
        report(with_kit()),
        report(with_kit(items=[weighed])),
        report(with_kit(items=[weighed], off=("bags",))),
    )
    assert figures(on, "kit.") == figures(plain, "kit.")
    assert off.value("kit.build.mass") == pytest.approx(-8.0)
    assert off.value("chassis.rear.race_sag") < plain.value("chassis.rear.race_sag") - 0.005


@pytest.mark.parametrize("end", ["front", "rear"])
def test_what_is_on_a_wheel_is_not_sprung_and_no_payload(end):
    """A heavy tube: its whole mass is unsprung, the springs carry none of it, and it turns."""
    tube = next(i for i in CATALOGUE if i.id == f"heavy_tube_{end}")
    bare, laden = (given(with_kit(items=[item(tube)], on=on)) for on in ((), (tube.id,)))
    springs = [g.loaded.springs for g in (bare, laden)]
    unsprung = [s.loads.unsprung(g.setup, end) for s, g in zip(springs, (bare, laden), strict=True)]
    assert unsprung[1] - unsprung[0] == pytest.approx(tube.mass_kg)
    sprung = [g.loaded.sprung(end)[0] for g in (bare, laden)]
    assert sprung[1] == pytest.approx(sprung[0], abs=1e-9)
    more = laden.lap.ride_input.wheel_inertia_kg_m2 - bare.lap.ride_input.wheel_inertia_kg_m2
    radius = wheel_radius(bare.bike, bare.setup, end)
    assert more == pytest.approx(tube.mass_kg * (0.85 * radius) ** 2, rel=1e-9)


def test_items_are_notches():
    inputs = with_kit(items=[item(TOWER), item(BAGS, weighed_with=True)])
    mine = [t for t in tunables_of(inputs.bike) if item_of(t)]
    assert mine == ["kit_on__tower", "kit_off__bags"] == [item_tunable(i) for i in inputs.bike.kit.items]
    for tunable in mine:
        assert TUNABLES[tunable].station == "kit"
        assert current_value(inputs.setup, tunable) == 0.0
        up = neighbour(inputs.bike, inputs.setup, PartsBox(), tunable, 1)
        assert up.value == 1.0
        assert neighbour(inputs.bike, inputs.setup, PartsBox(), tunable, -1) is None
        there = move(inputs.setup, tunable, 1.0)
        assert current_value(there, tunable) == 1.0
        assert move(there, tunable, 0.0).model_dump() == inputs.setup.model_dump()


def test_the_rotors_take_what_the_ride_brakes():
    """Energy: the two brakes' heat is the ride's own account of braking, step by step, and a warmer lap none else."""
    for name in ("brackenmere", "saltern", "gannach", "hollowood"):
        g = given(demo_inputs(name))
        ride = g.lap.whole
        made = sum(float((braking.brake_power(g, end) * ride.time_s).sum()) for end in ("front", "rear"))
        assert made == pytest.approx(ride.accounts_j["brake"], rel=1e-9)
        energy = demo_report(name).value("kit.brake.energy_per_km") * g.lap.around.whole.length_m
        assert energy == pytest.approx(ride.accounts_j["brake"], rel=1e-9)


@pytest.mark.parametrize(
    ("name", "rotor", "fluid"),
    [("brackenmere", (387.0, 335.0), (100.0, 93.0)), ("saltern", (507.0, 439.0), (149.0, 138.0)),
     ("gannach", (348.0, 302.0), None)],
)  # fmt: skip
def test_rotor_and_fluid_as_tried_in_the_handbook(name, rotor, fluid):
    """KIT.md 2, tried apart from this code: 240 and 280 mm, 25 degrees, six tenths in front, one lap from cold."""
    ride = given(demo_inputs(name)).lap.whole
    power = 0.6 * ride.brake_n * ride.step_m / ride.time_s
    for i, diameter in enumerate((0.24, 0.28)):
        hot, wet = brakes.heat_along(
            time_s=ride.time_s, power_w=power, speed_m_per_s=0.5 * (ride.speed_m_per_s[1:] + ride.speed_m_per_s[:-1]),
            air_k=np.full(power.size, 298.15), density_kg_per_m3=1.17, rotor_m=diameter, thickness_m=0.003, wheel_m=0.345,
            start_k=(298.15, 298.15),
        )  # fmt: skip
        assert hot.max() - 273.15 == pytest.approx(rotor[i], rel=0.05)
        if fluid:
            assert wet.max() - 273.15 == pytest.approx(fluid[i], rel=0.05)


def test_a_larger_rotor_grabs_and_a_larger_master_gives_the_window_back():
    """Both sides of "larger feels less grabby": alone it narrows the window by its gain, with the master that keeps it the
    window is as it was, to the notch, and the rotor cooler.
    """
    now, larger, kept, *_rest = choices(given(demo_inputs()), "front")
    assert (larger.rotor_m, kept.rotor_m, kept.keeps) == (0.28, 0.28, True)
    assert larger.slick_n / now.slick_n == pytest.approx(1.0 / 1.1869, rel=1e-3)
    assert kept.slick_n == pytest.approx(now.slick_n, rel=0.06)
    assert kept.rotor_k == larger.rotor_k < now.rotor_k - 40.0
    assert larger.fluid_margin_k > now.fluid_margin_k
    assert [m.tunable for m in kept.moves] == ["front_rotor_m", "front_master_m"]


def test_foam_for_a_light_bike_under_a_heavy_one_is_to_act_on_and_tubes_settle_it():
    heavy, light = (
        report(with_kit("saltern", rear_tyre={"inside": "mousse", "foam_for_kg": kg})) for kg in (170.0, 80.0)
    )
    hot = [r.value("kit.mousse.rear.core_temperature") for r in (heavy, light)]
    assert hot[1] > hot[0] + 45.0
    assert light.verdicts["kit"] == "act"
    assert light.value("kit.mousse.rear.load_ratio") > 1.2
    assert report(with_kit("saltern", rear_tyre={"inside": "tube"})).figures["kit.mousse.rear.load_ratio"].status == (
        "not_applicable"
    )


def test_tyres_grip_by_ground_in_the_ride_and_on_its_hills():
    """A scoop climbs sand with a quarter more grip and brakes hard ground with less; a middling one is the table."""
    plain, scoop = (Upstream.of(with_kit(rear_tyre={"tyre_kind": k}), CACHE) for k in ("middling_knobby", "scoop"))
    assert plain.lap.ride_input.tyre_by_ground == ()
    assert scoop.lap.ride_input.tyre_on("deep_sand") == 1.25
    assert scoop.lap.ride_input.tyre_on("hardpack") == 0.80
    hills = [grips_of(DriveInput.of(up), "deep_sand") for up in (plain, scoop)]
    assert hills[1] == pytest.approx([1.25 * grip for grip in hills[0]])
    on_sand = plain.around.whole.ground == GROUNDS.index("sand")
    times = [up.lap.whole.time_s[on_sand].sum() for up in (plain, scoop)]
    assert times[1] < times[0]


def test_a_step_twice_as_long_ends_where_two_end():
    """The step is exponential: its length does not decide where a rotor settles."""
    n = 12_000
    time, power = np.full(n, 0.5), np.full(n, 900.0)
    more = {
        "density_kg_per_m3": 1.2,
        "rotor_m": 0.24,
        "thickness_m": 0.003,
        "wheel_m": 0.345,
        "start_k": (298.0, 298.0),
    }
    found = brakes.heat_along(
        time_s=time, power_w=power, speed_m_per_s=np.full(n, 10.0), air_k=np.full(n, 298.0), **more
    )
    half = brakes.heat_along(
        time_s=2.0 * time[::2],
        power_w=power[::2],
        speed_m_per_s=np.full(n // 2, 10.0),
        air_k=np.full(n // 2, 298.0),
        **more,
    )
    assert found[0][-1] == pytest.approx(half[0][-1], abs=0.05)


def read(kind, setup=(), **known):
    """The demo with one more reading, taken under its setup with some changes."""
    inputs = demo_inputs()
    under = Under(setup=inputs.setup.model_copy(update=dict(setup)))
    return inputs.model_copy(update={"readings": (*inputs.readings, kind(id="mine", under=under, **known))})


def width(of, name):
    figure = of.figures[name]
    return figure.high - figure.low


HOT = demo_report().value("kit.brake.front.rotor_temperature")
READ = {
    "kit.brake.front.rotor_temperature": (RotorReading, {"end": "front", "hottest_k": HOT - 60.0}, -1),
    "kit.brake.front.gain": (LeverReading, {"end": "front", "ground": "hardpack", "force_n": 50.0}, 1),
    "kit.tyre.front.flat_chance": (FlatsReading, {"end": "front", "flats": 0, "distance_m": 3e6}, -1),
    "kit.wheel.inertia": (
        SwingReading, {"end": "rear", "mass_kg": 9.0, "edge_to_axle_m": 0.28, "ten_swings_s": 14.77}, -1,
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", READ)
def test_a_reading_narrows_its_figure_moves_it_toward_itself_and_struck_out_all_returns(name):
    kind, known, toward = READ[name]
    inputs = read(kind, **known)
    before, after = demo_report(), report(inputs)
    assert width(after, name) < width(before, name)
    assert toward * (after.value(name) - before.value(name)) > 0.0
    assert "mine" in after.figures[name].readings
    assert inputs.readings[-1].narrows == name
    struck = tuple(r.model_copy(update={"struck_out": r.id == "mine"}) for r in inputs.readings)
    assert figures(report(inputs.model_copy(update={"readings": struck}))) == figures(report(demo_inputs()))


def test_a_rotor_read_with_another_rotor_speaks_of_this_one_too():
    """A crayon on a 280 says how hot this rider brakes: the same factor on the 240."""
    large = choices(given(demo_inputs()), "front")[1].rotor_k
    as_told = report(read(RotorReading, setup={"front_rotor_m": 0.28}, end="front", hottest_k=large))
    name = "kit.brake.front.rotor_temperature"
    assert as_told.value(name) == pytest.approx(demo_report().value(name), abs=0.5)


def test_own_flats_against_the_posterior_by_numbers():
    """Gamma and Poisson by a grid: mean and 90 % interval of the rate after two flats in 400 km of the reference tyre."""
    rates = np.linspace(1e-9, 3e-5, 400_001)
    weight = np.exp(-rates * 1.5e6) * (rates * 4e5) ** 2 * np.exp(-rates * 4e5)
    share = np.cumsum(weight) / weight.sum()
    mean = float((rates * weight).sum() / weight.sum())
    assert tyres.flats_per_m(hits=2, distance_m=4e5) == pytest.approx(mean, rel=1e-3)
    low, high = flats_range(2)
    assert low * mean == pytest.approx(rates[np.searchsorted(share, 0.05)], rel=1e-3)
    assert high * mean == pytest.approx(rates[np.searchsorted(share, 0.95)], rel=1e-3)


def test_guards_steer_heavier_a_damper_stills_and_a_clutch_holds():
    """KIT.md 6: wraparound guards 1 kg at .38 m are +.14 kg m2 on .65; a kick dies in I / c; +10 % of spring is +10 % of
    torque; soft mounts help above sqrt 2 only.
    """
    guards = next(i for i in CATALOGUE if i.id == "hand_guards_wrap")
    damper = next(i for i in CATALOGUE if i.id == "steering_damper")
    on = with_kit(items=[item(guards), item(damper)], on=("hand_guards_wrap", "steering_damper"))
    steers = [report(i).value("kit.steer.inertia") for i in (with_kit(), on)]
    assert steers[1] / steers[0] == pytest.approx(1.22, abs=0.005)
    stiff = on.model_copy(update={"setup": on.setup.model_copy(update={"damper_clicks": 20})})
    kicks = [report(i).value("kit.steer.kick_time") for i in (on, stiff)]
    assert kicks == pytest.approx([steers[1] / 3.0, steers[1] / 8.0])
    held = [report(with_kit(clutch_plates=8, clutch_spring_n=n)).value("kit.clutch.margin") for n in (1500.0, 1650.0)]
    assert held[1] / held[0] == pytest.approx(1.1)
    soft, softer = (report(with_kit(bar_mount_hz=hz)).value("kit.bars.isolation") for hz in (120.0, 20.0))
    assert softer < 0.2 < 1.0 < soft


def test_hands_by_the_standard():
    """ISO 5349-1, partial exposures: an hour and more of racing at 6 m/s2 as a day of eight hours."""
    seen = report(read(HandsReading, shaking_m_per_s2=6.0))
    hours = demo_report().value("range.arrival.finish") / 3600.0
    assert seen.value("kit.hands.exposure") == pytest.approx(6.0 * (hours / 8.0) ** 0.5, rel=0.06)
    assert seen.value("kit.hands.time_to_action") == pytest.approx(8 * 3600.0 * (2.5 / 6.0) ** 2)
