"""Weight on the two wheels, by moments written out anew: what is put on, the axle in its adjusters, hills and brakes."""

from dataclasses import replace
from math import atan, cos, sin

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lynxwort.core.errors import OutOfModelRange
from lynxwort.core.model.bike import Frame
from lynxwort.core.physics.chassis import linkage, loads, sag, springs
from tests.support import Published

LENGTH_M, HEIGHT_M, GRAVITY = 1.48, 0.93, 9.80665
WHEELS = loads.AxleLoads(front_kg=90.0, rear_kg=105.0)


def front(slope=0.0, forward=0.0):
    return loads.front_share_under(
        WHEELS, slope_share=slope, forward_m_per_s2=forward, cg_height_m=HEIGHT_M, wheelbase_m=LENGTH_M
    )


def test_brakes_load_the_front_wheel_by_height_over_wheelbase():
    """N_f = m g b / p + m a h / p, a of braking."""
    transfer = 90.0 / 195.0 + HEIGHT_M / LENGTH_M * 6.0 / GRAVITY
    where = "Cossalter, Motorcycle Dynamics (2006), ch. 6: load transfer under braking, formula from memory, worked out"
    Published(transfer, 1e-9, where).check(front(forward=-6.0))
    assert front() == pytest.approx(90.0 / 195.0, rel=1e-12)
    assert front(forward=3.0) < front() < front(forward=-3.0)


@given(st.floats(-0.8, 0.8), st.floats(-8.0, 5.0))
def test_moments_about_the_front_contact_say_the_same(slope, forward):
    """The rear wheel's load from the other end: what both carry across the ground is the weight across it."""
    angle, share = atan(slope), 90.0 / 195.0
    back = LENGTH_M * (1.0 - share)
    rear = (back * cos(angle) + HEIGHT_M * (sin(angle) + forward / GRAVITY)) / LENGTH_M
    assert front(slope, forward) == pytest.approx(1.0 - rear / cos(angle), abs=1e-12)


@given(st.floats(-0.03, 0.03), st.floats(5.0, 30.0))
def test_an_axle_moved_back_and_forward_again_has_moved_nothing(back, unsprung):
    moved = loads.with_axle_back(WHEELS, wheelbase_m=LENGTH_M, unsprung_rear_kg=unsprung, back_m=back)
    again = loads.with_axle_forward(moved, wheelbase_m=LENGTH_M, unsprung_rear_kg=unsprung, back_m=back)
    assert (again.front_kg, again.rear_kg) == pytest.approx((90.0, 105.0), abs=1e-9)
    # about the axle where it lies then
    about = 90.0 * LENGTH_M + (195.0 - unsprung) * back
    assert moved.front_kg == pytest.approx(about / (LENGTH_M + back), rel=1e-12)


def test_what_is_put_on_rests_on_its_own_wheel():
    frame = Frame(mass_dry_kg=105.0)
    bare = loads.axle_loads(frame, fuel_m3=0.0, rider_kg=80.0, posture="standing")
    for end, field in (
        ("front", "front_kg"),
        ("front", "front_wheel_kg"),
        ("rear", "rear_kg"),
        ("rear", "rear_wheel_kg"),
    ):
        with_it = loads.axle_loads(
            frame, fuel_m3=0.0, rider_kg=80.0, posture="standing", extras=replace(loads.NOTHING, **{field: 3.0})
        )
        more = {"front": with_it.front_kg - bare.front_kg, "rear": with_it.rear_kg - bare.rear_kg}
        assert more.pop(end) == pytest.approx(3.0)
        assert list(more.values()) == pytest.approx([0.0])


def test_a_table_in_one_ratio_has_it_at_both_ends():
    points = tuple((0.01 * i, 0.004 * i) for i in range(11))
    assert linkage.ratios(points) == pytest.approx((2.5, 2.5), rel=1e-9)


def test_a_band_is_aimed_at_its_middle():
    targets = sag.SagTargets(free_low_m=0.03, free_high_m=0.04, race_low_m=0.1, race_high_m=0.11)
    assert (targets.free_m, targets.race_m) == pytest.approx((0.035, 0.105), rel=1e-12)


@pytest.mark.parametrize(("outer", "allowed"), [(0.0398, False), (0.0402, True), (0.1698, True), (0.1702, False)])
def test_springs_are_three_to_sixteen_wires_wide(outer, allowed):
    if allowed:
        assert springs.rate_by_calliper(wire_m=0.01, outer_m=outer, turns=8.0) > 0.0
    else:
        with pytest.raises(OutOfModelRange):
            springs.rate_by_calliper(wire_m=0.01, outer_m=outer, turns=8.0)
