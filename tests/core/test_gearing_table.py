"""The chain over its travel, and the sprocket table: what it may and may not recommend."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.core import sweep
from lynxwort.core.evaluate import evaluate
from lynxwort.core.physics.drive import chain
from tests.support import CACHE, demo_inputs, demo_report


def hull_length(front: int, rear: int, centre_m: float) -> float:
    """Perimeter of the convex hull of two circles as polygons: an independent way to the taut chain."""
    turn = np.linspace(0.0, 2.0 * np.pi, 20_001)[:-1]
    circles = [
        np.column_stack([x + r * np.cos(turn), r * np.sin(turn)])
        for x, r in ((0.0, chain.pitch_radius(rear)), (centre_m, chain.pitch_radius(front)))
    ]
    from scipy.spatial import ConvexHull

    return float(ConvexHull(np.vstack(circles)).area)  # in two dimensions scipy calls the perimeter "area"


@given(front=st.integers(12, 17), rear=st.integers(38, 54), centre=st.floats(0.58, 0.75))
@settings(max_examples=15, deadline=None)
def test_chain_tangents_agree_with_a_polygon_hull(front, rear, centre):
    assert chain.chain_length(front, rear, centre) == pytest.approx(hull_length(front, rear, centre), rel=1e-7)
    pitch = chain.CHAIN_PITCH_M
    by_standard = 2.0 * centre / pitch + 0.5 * (front + rear) + ((rear - front) / (2.0 * np.pi)) ** 2 * pitch / centre
    assert chain.links(front, rear, centre) == pytest.approx(by_standard, abs=0.004)  # ISO 606's approximation


ARM = chain.Swingarm(length_m=0.59, sprocket_ahead_m=0.075, sprocket_above_m=0.005, axle_low_m=-0.17, axle_high_m=0.14)


@given(front=st.integers(12, 15), rear=st.integers(44, 54), play=st.floats(0.01, 0.04))
@settings(max_examples=30, deadline=None)
def test_the_fitted_chain_keeps_its_length_and_its_play_over_the_travel(front, rear, play):
    fit = chain.fit_chain(ARM, front, rear, links=None, half_range_m=0.02, play_m=play)
    if fit is None:
        return
    assert fit.links % 2 == 0
    moved = chain.replace(ARM, length_m=ARM.length_m + fit.axle_move_m)
    plays = [
        chain.play_at(moved, front, rear, h, play_at_tightest_m=play)
        for h in np.linspace(ARM.axle_low_m, ARM.axle_high_m, 25)
    ]
    assert min(plays) >= play - 1e-6
    assert fit.slack_on_stand_m == pytest.approx(plays[0], abs=1e-9)
    for height in (ARM.axle_low_m, 0.0, ARM.axle_high_m):
        extra = fit.links * chain.CHAIN_PITCH_M - chain.taut_length(moved, front, rear, height)
        assert extra > 0


def test_a_tooth_moves_the_axle_as_the_handbook_says():
    """HANDBOOK 3: about 4 mm a tooth, 20 to 134 mm of slack by the sprocket's height: no universal figure."""
    moves = [chain.axle_move_for(ARM, 13, rear, links=114, play_m=0.02) for rear in (48, 49, 50)]
    assert -np.diff(moves) == pytest.approx([0.004, 0.004], abs=0.0006)


def test_shares_of_what_limits_sum_to_one_and_the_chain_is_told():
    for name in ("brackenmere", "saltern", "gannach", "hollowood"):
        report = demo_report(name)
        assert sum(report.value(f"drive.share.{g}") for g in ("power", "shift", "grip", "pace")) == pytest.approx(1.0)
        assert report.value("drive.chain.links") % 2 == 0
        assert report.value("drive.chain.adjuster_left") + report.value("drive.chain.axle_move") == pytest.approx(0.020)
    shaking = demo_inputs().bike.engine.model_copy(update={"shake_rpm": 7000.0})
    bike = demo_inputs().bike.model_copy(update={"engine": shaking})
    over = evaluate(demo_inputs().model_copy(update={"bike": bike}), cache=CACHE).value("drive.time_over_shake")
    assert 0 < over < demo_report().value("drive.lap_time")


# the table --------------------------------------------------------------------------------------------------------------
@pytest.fixture(scope="module")
def rows():
    return list(sweep.sweep(demo_inputs(), CACHE))


def test_the_table_holds_the_box_and_the_pair_on_the_bike(rows):
    assert len(rows) == sweep.MOST
    assert rows[0].kept
    pairs = {(r.front, r.rear) for r in rows}
    assert {(f, r) for f in (13, 14) for r in (48, 50, 52)} <= pairs
    for row in rows:
        if (row.front, row.rear) == (13, 50):
            assert row.owned
            setup = demo_inputs().setup.model_copy(update={"front_sprocket_teeth": 13, "rear_sprocket_teeth": 50})
            alone = evaluate(demo_inputs().model_copy(update={"setup": setup}), cache=CACHE)
            assert {n: alone.value(n) for n in row.values} == row.values


def test_a_proposal_mends_what_does_not_pull_with_the_smallest_owned_change(rows):
    best = sweep.proposal(rows, demo_report())
    assert (best.front, best.rear, best.owned) == (14, 50, True)
    assert best.values["drive.metres_short"] == 0
    found = sweep.schools(rows)
    assert found["down"].ratio > found["keep"].ratio > found["up"].ratio


def test_in_tight_ground_nothing_is_proposed_and_lap_time_is_no_reason():
    """On the forest demo, and on the forest with the two-stroke, whatever the lap times say."""
    inputs = demo_inputs("hollowood")
    table = list(sweep.sweep(inputs, CACHE))
    assert sweep.proposal(table, evaluate(inputs, depth="full", cache=CACHE)) is None
    mixed = demo_inputs().model_copy(update={"race": inputs.race, "courses": inputs.courses, "readings": ()})
    table = list(sweep.sweep(mixed, CACHE))
    fastest = min(table, key=lambda r: r.values["drive.lap_time"])
    assert fastest.values["drive.lap_time"] <= next(r for r in table if r.kept).values["drive.lap_time"]
    assert sweep.proposal(table, evaluate(mixed, depth="full", cache=CACHE)) is None
    assert len(sweep.near_equal(table)) > 5


def test_equal_ratios_are_marked_and_ride_the_same():
    inputs = demo_inputs()
    parts = inputs.parts.model_copy(update={"front_sprocket_teeth": (12.0, 13.0), "rear_sprocket_teeth": (48.0, 52.0)})
    setup = inputs.setup.model_copy(update={"front_sprocket_teeth": 13, "rear_sprocket_teeth": 52})
    table = list(sweep.sweep(inputs.model_copy(update={"parts": parts, "setup": setup}), CACHE))
    equal = sweep.equal_ratios(table)
    assert (12, 48) in equal[13, 52]
    same = {(r.front, r.rear): r.values for r in table if (r.front, r.rear) in ((12, 48), (13, 52))}
    assert same[12, 48] == pytest.approx(same[13, 52], rel=1e-12)
