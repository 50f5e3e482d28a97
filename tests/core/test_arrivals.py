"""Hours on the course and what they say of the hours to come."""

from math import exp, log

import numpy as np
import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.physics.reach.arrivals import MOST_SD, pace_given
from lynxwort.core.stations.range import crewing
from lynxwort.core.stations.range import moments as clocked
from lynxwort.core.stations.range.input import RangeInput
from tests.core.test_findings import driven
from tests.support import demo_inputs, demo_report

LAP = {"pace_sd": 0.12, "lap_sd": 0.03, "lap_s": 3000.0}


def given_of(name):
    return RangeInput.of(demo_report(name).behind.up)


def test_the_pace_given_what_was_ridden_is_that_of_the_integral():
    """Against Bayes' rule on a grid, 20,001 paces wide."""
    ridden, took = [2800.0, 3100.0, 700.0], [3000.0, 3250.0, 760.0]
    grid = np.linspace(-0.6, 0.6, 20_001)
    density = np.exp(-0.5 * (grid / 0.12) ** 2)
    for r, t in zip(ridden, took, strict=True):
        density *= np.exp(-0.5 * (log(t / r) - grid) ** 2 / (0.03**2 * 3000.0 / r))
    density /= density.sum()
    mean = float((density * grid).sum())
    found = pace_given(ridden, took, **LAP)
    assert found.mean == pytest.approx(mean, abs=1e-9)
    assert found.sd == pytest.approx(float(np.sqrt((density * (grid - mean) ** 2).sum())), rel=1e-6)
    assert pace_given([], [], **LAP).mean == 0.0
    assert pace_given([], [], **LAP).sd == pytest.approx(0.12)


def test_nine_hours_in_ten_lie_where_they_are_said():
    """20,000 races of the same model: two legs are seen, the third is told."""
    dice, inside, early = np.random.default_rng(7), 0, 0
    legs, races = np.array([2500.0, 3200.0, 5200.0]), 20_000
    lap_sd = 0.03 * np.sqrt(3000.0 / legs)
    paces = dice.normal(0.0, 0.12, races)
    took = legs * np.exp(paces[:, None] + dice.normal(0.0, 1.0, (races, 3)) * lap_sd)
    for row in took:
        low, _likely, high = pace_given(legs[:2], row[:2], **LAP).ahead(5200.0)
        inside += low <= row[2] <= high
        early += row[2] < low
    # three standard deviations of a share of 0.90 over 20,000 are 0.0064; what is off beyond two is held back, which a
    # few in a hundred feel
    assert inside / races == pytest.approx(0.90, abs=0.015)
    assert early / races == pytest.approx(0.05, abs=0.012)


def test_a_fall_moves_what_comes_by_its_time_and_hardly_the_pace():
    fallen = pace_given([3000.0], [3000.0 + 1800.0], **LAP)
    assert fallen.mean == pytest.approx(MOST_SD * np.hypot(0.12, 0.03) * 0.12**2 / (0.12**2 + 0.03**2))
    assert exp(fallen.mean) < 1.3
    # whether it was a fall or a bog is not known: late holds both
    _early, likely, late = fallen.ahead(3000.0)
    assert likely < 1.3 * 3000.0
    assert late > 0.98 * 4800.0


@pytest.mark.parametrize("name", ["brackenmere", "saltern", "gannach"])
def test_what_came_as_likely_leaves_the_likely_hours_and_narrows_the_rest(name):
    given = given_of(name)
    before = clocked.moments(given)
    assert clocked.live(given, {}) == before
    assert len({m.key for m in before}) == len(before)
    # one that tells something: half a lap and more
    lap_s = given.clock.lap_time_s
    first = next(m for m in before if m.likely_s > 0.5 * lap_s and m.kind != "finish")
    after = clocked.live(given, {first.key: first.likely_s})
    for old, new in zip(before, after, strict=True):
        by_hours = old.kind == "finish" and given.clock.stages[0].hours_s is not None
        assert by_hours or new.likely_s == pytest.approx(old.likely_s, abs=1.0)
        assert new.early_s <= new.likely_s <= new.late_s
        # where a stage begins by the schedule there was little left to narrow
        if old.likely_s > first.likely_s and not by_hours and name != "gannach":
            assert new.late_s - new.early_s < old.late_s - old.early_s + 1.0
    came = next(m for m in after if m.key == first.key)
    assert came.early_s == came.late_s == first.likely_s


def test_an_hour_late_moves_all_that_follow_and_one_in_the_wrong_row_moves_nothing():
    given = given_of("brackenmere")
    before = clocked.moments(given)
    rows = [m for m in before if m.kind not in ("start", "finish")]
    late = clocked.live(given, {rows[0].key: rows[0].likely_s * 1.1})
    for old, new in zip(before, late, strict=True):
        if old.likely_s > rows[0].likely_s:
            # slower so far is slower from here on, and never by more than so far
            assert old.likely_s < new.likely_s <= old.likely_s * 1.1 + 1.0
        elif old.likely_s < rows[0].likely_s:
            assert new == old
    # a start ten minutes late is no pace
    start = clocked.live(given, {before[0].key: 600.0})
    assert all(n.likely_s == pytest.approx(o.likely_s + 600.0) for o, n in zip(before, start, strict=True))
    # the second tapped before the first: passed over
    wrong = {rows[0].key: rows[0].likely_s, rows[1].key: rows[0].likely_s - 60.0}
    assert clocked.live(given, wrong) == clocked.live(given, {rows[0].key: rows[0].likely_s})
    # more hours, narrower
    two = clocked.live(given, {m.key: m.likely_s for m in rows[:2]})
    one = clocked.live(given, {rows[0].key: rows[0].likely_s})
    assert two[-1].late_s - two[-1].early_s < one[-1].late_s - one[-1].early_s


def test_the_crew_is_ready_when_it_left_drove_and_stood_ready():
    """By hand: from ford to quarry gate the rider takes so long; the crew 25 minutes and 5 until it stands ready."""
    report = evaluate(driven(1500.0))
    given = RangeInput.of(report.behind.up)
    clock = clocked.moments(given)
    ford, gate = (next(m for m in clock if m.name == name) for name in ("ford", "quarry gate"))
    least = crewing.tightest(given)
    by_hand = {(r.start, r.end): r for r in reversed(crewing.drives(given))}["ford", "quarry gate"]
    assert by_hand.slack_s == pytest.approx(gate.likely_s - ford.likely_s - ford.standing_s - 1500.0 - 300.0)
    assert by_hand.there_s == pytest.approx(gate.likely_s - by_hand.slack_s)
    assert least.slack_s == min(r.slack_s for r in crewing.drives(given) if r.slack_s is not None)
    assert report.value("range.crew_slack_min") == least.slack_s
    assert least.low_s < least.slack_s < least.high_s
    # one minute more on the road is one minute less in hand, and back is as far as there
    slower = evaluate(driven(1560.0))
    assert slower.value("range.crew_slack_min") == pytest.approx(least.slack_s - 60.0)
    back = [r for r in crewing.drives(given) if (r.start, r.end) == ("quarry gate", "ford")]
    assert back
    assert all(r.slack_s is not None for r in back)
    # nothing typed, nothing judged, and nothing else of the report moves
    bare = evaluate(demo_inputs())
    assert bare.figures["range.crew_slack_min"].status == "not_applicable"
    assert {f.code for f in report.findings} - {f.code for f in bare.findings} == {"crew_tight"}
    assert all(report.value(n) == bare.value(n) for n in bare.figures if n != "range.crew_slack_min")
    # a rider who is slow gives the crew more time
    late = {
        r.moment.key: r
        for r in crewing.reaches(given, given.crew, clocked.live(given, {ford.key: 1.15 * ford.likely_s}))
    }
    assert late[gate.key].slack_s > by_hand.slack_s
