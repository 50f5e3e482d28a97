"""The day: whoops that deepen, and what a rider's log of clicks says."""

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from lynxwort.core.model.race import GroundSegment
from lynxwort.core.model.trials import RiddenDay
from lynxwort.core.physics.trials import growth
from lynxwort.core.stations.trials import day as days
from lynxwort.core.stations.trials.input import TrialsInput
from lynxwort.demo import scenario


def given(*logged, **more):
    """A race of six laps over whoops, forty bikes on it."""
    facts = {"courses": ("here",), "laps": 6, "starters": 40, "whoops": (0.35, 5.0), "rider": "Wren"} | more
    return TrialsInput(trials=(), days=tuple(logged), **facts)


def logged(*clicks, name="a", **facts):
    told = [
        {"id": f"{name}{k}", "lap": lap, "end": end, "way": way, "clicks": n, "why": why}
        for k, (lap, end, way, n, why) in enumerate(clicks)
    ]
    plain = {"id": name, "rider": "Wren", "name": "practice", "starters": 40, "whoop_height_m": 0.35, "laps": 8}
    return RiddenDay.model_validate(plain | {"clicks": told, "course_key": "there"} | facts)


def test_whoops_grow_as_their_law_says():
    """Against scipy's own integration of da/dN = a/N_e (1 - a/a_max)."""
    grown = growth.Growth(first_m=0.35, most_m=0.7, scale=250.0, measured=False)
    law = solve_ivp(
        lambda _n, a: a / 250.0 * (1 - a / 0.7), (0, 600), [0.35], rtol=1e-10, atol=1e-12, dense_output=True
    )
    for n in (40.0, 100.0, 333.0, 600.0):
        assert grown.depth_m(n) == pytest.approx(law.sol(n)[0], rel=1e-8)
        assert grown.passes_at(grown.ratio(n)) == pytest.approx(n)
    assert growth.deepest(0.35, 4.0) == pytest.approx(0.64)
    assert grown.passes_at(2.0) == float("inf")
    assert growth.passes_scale("rock") == float("inf")
    # water holds the ground, mud gives it away
    assert (
        growth.passes_scale("loam", muddy=True)
        < growth.passes_scale("loam")
        < growth.passes_scale("loam", watered=True)
    )


def test_two_readings_of_the_tape_say_how_fast():
    """The worked pair of TRIALS 4, then any rate found again from depths that follow it."""
    assert growth.scale_of_tapes(0.35, 0.7, [(40, 0.37), (420, 0.52)]) == pytest.approx(395.0, abs=0.5)
    for scale in (35.0, 250.0, 4000.0):
        tapes = [(n, growth.depth_after(0.35, 0.7, n, scale)) for n in (50, 300, 500)]
        assert growth.scale_of_tapes(0.35, 0.7, tapes) == pytest.approx(scale, rel=1e-5)
    taped = logged(tapes=[{"lap": 1, "depth_m": 0.37}, {"lap": 10, "depth_m": 0.52}], starters=42, course_key="here")
    assert days.growth_here(given(taped)).measured
    # the tape of another course says nothing of this one
    assert not days.growth_here(given(taped, courses=("elsewhere",))).measured


def test_a_click_is_proposed_when_the_whoops_are_as_deep_as_then():
    """Logged after three laps behind eighty bikes: with forty it takes six laps, with a hundred and twenty two."""
    day = logged((3, "rear", "rebound", -2, "packs"), starters=80)
    laps = {n: days.learned(given(day, starters=n, laps=9))[0].lap for n in (40, 80, 120)}
    assert laps == {40: 6, 80: 3, 120: 2}
    assert days.learned(given(day, laps=5))[0].lap is None
    (one,) = days.learned(given(day))
    assert (one.end, one.way, one.clicks, one.logs, one.why) == ("rear", "rebound", -2.0, 1, "packs")
    # on a course without whoops after as many laps as it was
    assert days.learned(given(day, whoops=None))[0].lap == 3


def test_what_was_put_back_within_two_laps_is_forgotten():
    turned = ((2, "front", "compression", -2, "harsh"), (4, "front", "compression", 2, "blows_through"))
    assert days.learned(given(logged(*turned))) == []
    later = (turned[0], (5, *turned[1][1:]))
    (one,) = days.learned(given(logged(*later)))
    # kept for three laps, then turned back: two logs that do not agree, and nothing is proposed
    assert (one.logs, one.agrees, one.lap) == (2, False, None)
    half = (turned[0], (3, "front", "compression", 1, "blows_through"))
    assert days.learned(given(logged(*half)))[0].clicks == -1.0


def test_only_the_riders_own_days_on_such_soil_speak():
    clicks = ((3, "rear", "rebound", -2, "packs"),)
    others = [logged(*clicks, name="b", rider="Isk"), logged(*clicks, name="c", soil="sand")]
    assert days.learned(given(*others)) == []
    assert len(days.learned(given(logged(*clicks, name="e", soil="loam")))) == 1  # as what is not said
    mine = [logged((k + 2, "rear", "rebound", -k, "packs"), name=f"d{k}") for k in (1, 2, 4)]
    (one,) = days.learned(given(*others, *mine))
    assert (one.clicks, one.least, one.most, one.logs) == (-2.0, -4, -1, 3)
    assert days.learned(given(*others, *mine), "d4")[0].logs == 2
    struck = mine[0].model_copy(update={"clicks": (mine[0].clicks[0].model_copy(update={"struck_out": True}),)})
    assert days.learned(given(struck)) == []


def test_laps_of_a_day_show_what_was_turned_before_each():
    day = logged((0, "rear", "rebound", 1, "other"), (9, "front", "rebound", -1, "harsh"))
    laps = days.laps_of(day)
    assert [lap.number for lap in laps] == list(range(1, 11))
    assert [len(lap.clicks) for lap in laps] == [1, *[0] * 8, 1]
    assert np.all(np.diff([lap.depth_m for lap in laps]) > 0)
    assert laps[4].passes == 160.0
    assert {lap.depth_m for lap in days.laps_of(logged(whoop_height_m=None))} == {None}


def test_a_day_begins_as_the_race_is():
    """Its whoops are the deepest of all stages, and it is of the course that has them."""
    inputs = scenario.inputs("brackenmere")
    begun = days.begun(inputs)
    assert (begun.rider, begun.name, begun.laps) == (inputs.rider.name, inputs.race.name, 0)
    stage = inputs.race.stages[0]
    ground = (
        GroundSegment(from_m=0, to_m=100, ground="whoops", whoop_height_m=0.3),
        GroundSegment(from_m=100, to_m=200, ground="whoops", whoop_height_m=0.6, whoop_length_m=7.0),
    )
    race = inputs.race.model_copy(update={"stages": (stage.model_copy(update={"ground": ground}),)})
    begun = days.begun(inputs.model_copy(update={"race": race}))
    assert (begun.whoop_height_m, begun.whoop_length_m) == (0.6, 7.0)
