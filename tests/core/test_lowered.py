"""Travel limited inside, and feet on the ground: the same mechanism seen from a shorter end, and lists that keep their word."""

from dataclasses import replace

import pytest

from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import LinkPoint
from lynxwort.core.model.inputs import load_inputs
from lynxwort.core.physics.chassis import sag
from lynxwort.core.physics.chassis.fitted import fork_of_setup, shock_of_setup, spacer_for, travel_of, travel_taken
from lynxwort.core.stations.chassis import feet
from lynxwort.core.stations.chassis.springs import targets
from tests.core.test_springing import TABLE
from tests.support import demo_inputs, setup_with


@pytest.mark.parametrize("linkage", [(), tuple(LinkPoint(wheel_m=w, shock_m=s) for w, s in TABLE)])
def test_a_spacer_with_the_ring_left_where_it_was_changes_nothing_but_where_it_tops_out(linkage):
    """Same ring, same seat of the spring: a spacer of s squeezes the spring by s at top-out, so that with s more of preload
    as read the wheel stands where it stood, and less travel is left by what the wheel comes up. A work of statics, no model."""
    frame = demo_inputs().bike.frame.model_copy(update={"linkage": linkage})
    plain, spaced = (
        setup_with(),
        setup_with(shock_spacer_m=0.012, shock_preload_m=demo_inputs().setup.shock_preload_m + 0.012),
    )
    taken = travel_taken(frame, spaced, "rear")
    assert spacer_for(frame, taken) == pytest.approx(0.012)
    assert travel_of(frame, spaced, "rear") == pytest.approx(frame.rear_travel_m - taken)
    whole, short = shock_of_setup(frame, plain), shock_of_setup(frame, spaced)
    # a table is made of lines again after the cut: within 0.2 mm of sag
    near = 1e-9 if not linkage else 2e-4
    assert sag.rear_sag(short, 95.0) + taken == pytest.approx(sag.rear_sag(whole, 95.0), abs=near)
    assert sag.shock_force_at_wheel(short, short.travel_m) == pytest.approx(
        sag.shock_force_at_wheel(whole, whole.travel_m), rel=1e-9 if not linkage else 2e-3
    )
    legs = setup_with(fork_spacer_m=0.03, fork_preload_m=demo_inputs().setup.fork_preload_m + 0.03)
    dry = [replace(fork_of_setup(frame, s), air_area_m2=0.0) for s in (plain, legs)]
    assert sag.front_sag(dry[1], 80.0) + 0.03 == pytest.approx(sag.front_sag(dry[0], 80.0), abs=1e-9)
    # the trapped air is closed in topped out: less of it in the shorter leg, by Boyle stiffer from there
    wet = [fork_of_setup(frame, s) for s in (plain, legs)]
    assert sag.air_force(wet[1], wet[1].travel_m) < sag.air_force(wet[0], wet[0].travel_m)
    assert wet[1].air_length_m - wet[1].travel_m == pytest.approx(wet[0].air_length_m - wet[0].travel_m)


def with_rider(inseam_m, **changes):
    inputs = demo_inputs()
    return inputs.model_copy(
        update={"riders": (inputs.rider.model_copy(update={"inseam_m": inseam_m}),), "setup": setup_with(**changes)}
    )


def test_a_bike_limited_inside_stands_lower_and_keeps_its_full_travel_room():
    """Both ends alike: rake kept, seat down, side stand too long; nothing comes nearer at full travel; bands are shares of
    the travel that is left (33 to 35 % behind, 20 to 27 % in front: common practice, no source)."""
    given = demo_inputs()
    frame = given.bike.frame
    inputs = with_rider(0.80)
    inputs = inputs.model_copy(
        update={
            "bike": given.bike.model_copy(
                update={"frame": frame.model_copy(update={"side_stand_m": 0.33, "front_guard_gap_m": 0.32})}
            )
        }
    )
    low = inputs.model_copy(update={"setup": setup_with(shock_spacer_m=0.011, fork_spacer_m=0.035)})
    before, after = evaluate(inputs), evaluate(low)

    def moved(name):
        return after.figures[f"chassis.{name}"].value - before.figures[f"chassis.{name}"].value

    assert moved("rake") == pytest.approx(0.0, abs=0.006)
    assert -0.04 < moved("seat_height") < -0.02
    assert moved("ground_clearance") == pytest.approx(moved("seat_height"), abs=0.006)
    assert moved("side_stand_cut") > 0.01
    assert moved("front.tyre_guard_clearance") == pytest.approx(0.0, abs=1e-12)
    assert moved("rear.bottoming_drop") < 0
    assert moved("front.bottoming_drop") < 0
    left = travel_of(frame, low.setup, "rear")
    assert after.ask(targets, "rear").race_high_m == pytest.approx(0.35 * left)
    assert any(f.code == "travel_limited" for f in after.findings)
    assert not any(f.code == "travel_limited" for f in before.findings)


def test_a_spacer_beyond_a_third_of_the_travel_is_refused():
    document = demo_inputs().model_dump(mode="json")
    document["setup"]["shock_spacer_m"] = 0.0399
    frame = document["bike"]["frame"]
    frame["linkage"] = []
    frame["rear_travel_m"] = 0.2
    with pytest.raises(InputRefused) as refused:
        load_inputs(document)
    assert [(r.path, r.code) for r in refused.value.refusals] == [("setup.shock_spacer_m", "spacer_beyond_travel")]


def test_each_list_reaches_what_it_says_and_none_takes_less_work():
    """Every list, taken on the whole bike by evaluate: the foot comes down as told, nothing touches. No single kind of
    change that takes less work reaches the level."""
    inputs = with_rider(0.66)
    report = evaluate(inputs)
    levels = {level.name: level for level in report.ask(feet.levels)}
    margin = report.figures["chassis.reach_margin"].value
    assert feet.level_of(margin) == "none"
    works = []
    for name, raised in feet.RAISED_M.items():
        cheapest = levels[name].cheapest
        assert levels[name].reached == (margin >= -raised)
        if cheapest is None:
            continue
        then = evaluate(inputs.model_copy(update={"setup": setup_with(**{m.tunable: m.value for m in cheapest.moves})}))
        assert then.figures["chassis.reach_margin"].value == pytest.approx(cheapest.margin_m, abs=1e-9)
        assert cheapest.margin_m >= -raised
        assert then.figures["chassis.seat_height"].value == pytest.approx(cheapest.seat_m, abs=1e-9)
        assert then.figures["chassis.ground_clearance"].value == pytest.approx(cheapest.clearance_m, abs=1e-9)
        works.append(cheapest.work_s)
        for foam in (0.01, 0.02, 0.03, 0.04):
            if cheapest.work_s > 3600 * feet.HOURS["foam"] + 1:
                softer = evaluate(inputs.model_copy(update={"setup": setup_with(seat_up_m=-foam)}))
                assert softer.figures["chassis.reach_margin"].value < -raised
    assert works == sorted(works, reverse=True)  # flat, balls, toes: the lower the heel, the more work
    assert len(works) >= 2
    assert evaluate(with_rider(None)).ask(feet.levels) is None
    assert all(level.reached for level in evaluate(with_rider(0.98)).ask(feet.levels))
