"""What is turned for each rider of a team: against the bike set up for that rider alone."""

from datetime import datetime, timedelta
from itertools import product

import pytest

from lynxwort.core.asks import compromise
from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.inputs import load_inputs
from lynxwort.core.model.race import Relay
from lynxwort.core.model.setup import QUICK, Setup
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.moments import moments
from lynxwort.core.stations.range.view import ridden_stints
from tests.support import demo_inputs

NAMES = {"rear": ("chassis.rear.race_sag", "chassis.rear.free_sag"), "front": ("chassis.front.race_sag", "chassis.front.free_sag")}  # fmt: skip


def team(*turned, relay=True, name="brackenmere"):
    """The demo's rider and a heavier one on its bike. turned: values of each rider, in their order."""
    inputs = demo_inputs(name)
    heavy = inputs.rider.model_copy(update={"name": "Bryn", "mass_in_gear_kg": 104.0})
    entries = [{"rider": r, "values": values} for r, values in zip((inputs.rider.name, "Bryn"), turned, strict=False)]
    setup = Setup.model_validate(inputs.setup.model_dump(exclude_unset=True) | {"turned": entries})
    race = inputs.race.model_copy(update={"relay": Relay(hand_over_s=60.0) if relay else None})
    return inputs.model_copy(update={"riders": (inputs.rider, heavy), "race": race, "setup": setup})


def test_each_rider_has_the_sags_of_a_bike_set_up_for_that_rider_alone():
    """And the preload that is told is the nearest one that lies in the band: every other millimetre tried."""
    found = evaluate(team({}, {"shock_preload_m": 0.014, "fork_preload_m": 0.003}))
    for told in found.ask(compromise.turned_for):
        alone = found.ask(compromise.report_for, told.rider)
        for end in told.ends:
            race, free = NAMES[end.end]
            assert end.race_m == pytest.approx(alone.value(race), abs=1e-9)
            assert end.free_m == pytest.approx(alone.value(free), abs=1e-9)
    light, heavy = found.ask(compromise.turned_for)
    # one figure, one value: the crew's sheet says the same
    for stint in found.ask(ridden_stints):
        assert stint.sag_m == pytest.approx((light, heavy)[stint.stint.rider].ends[1].race_m, abs=1e-12)
    assert not light.turned
    # who is not in the team has nothing turned for him, and nobody has it in his place
    other = found.behind.up.inputs
    renamed = tuple(r.model_copy(update={"name": f"not {r.name}"}) for r in other.riders)
    assert not any(t.turned for t in evaluate(other.model_copy(update={"riders": renamed})).ask(compromise.turned_for))
    assert heavy.turned == (("shock_preload_m", 0.012, 0.014), ("fork_preload_m", 0.006, 0.003))
    assert heavy.time_s == QUICK["shock_preload_m"] + QUICK["fork_preload_m"]
    for told, index in product((light, heavy), (0, 1)):
        end, field = told.ends[index], ("fork_preload_m", "shock_preload_m")[index]
        least = min(
            (round(x.off_m, 3), abs(mm / 1000 - end.preload_m))
            for mm in range(16)
            for x in [evaluate(team(*[{}] * told.rider, {field: mm / 1000})).ask(compromise.turned_for)[told.rider].ends[index]]
        )  # fmt: skip
        assert (round(end.off_then_m, 3), abs(end.wanted_m - end.preload_m)) <= least
    rear = heavy.ends[1]
    assert rear.spring == "soft"
    assert rear.off_then_m < rear.off_m


def test_a_wheel_of_ones_own_is_ridden_by_its_rider_alone():
    """Lap time and use of each are those of the bike with that wheel under that rider; the other's stay."""
    base, found = (evaluate(team(*t)) for t in ((), ({}, {"rear_wheel": 2, "rear_tyre_pressure_pa": 60_000.0})))
    clocks = [r.behind.up.clock for r in (base, found)]
    alone = found.ask(compromise.report_for, 1)
    assert clocks[1].lap(1).whole.lap_time_s == pytest.approx(alone.behind.up.clock.own.whole.lap_time_s, rel=1e-12)
    assert clocks[1].lap(1).whole.lap_time_s != pytest.approx(clocks[0].lap(1).whole.lap_time_s, rel=1e-6)
    assert clocks[1].lap(0).whole.lap_time_s == clocks[0].lap(0).whole.lap_time_s
    # of one rider nothing is turned, whatever stands there
    one, plain = (evaluate(team(*t, relay=False)) for t in (({"rear_wheel": 2},), ()))
    assert {k: f.value for k, f in one.figures.items()} == {k: f.value for k, f in plain.figures.items()}


def test_the_clock_waits_for_what_is_turned_and_says_so():
    """At each hand-over the longer of the team's own time and of what is turned there, the same there and back."""
    for values, longest in (({}, 60.0), ({"shock_compression_clicks": 8}, 60.0), ({"rear_wheel": 2}, 210.0)):
        report = evaluate(team({}, values))
        given = RangeInput.of(report.behind.up)
        over = [m for m in moments(given) if m.kind == "hand_over"]
        assert over
        assert {m.standing_s for m in over} == {longest}
        assert any(f.code == "turning_outlasts" for f in report.findings) == (longest > 60.0)
        assert given.clock.hand_over_time((0, 1), (1, 1)) == given.clock.hand_over_time((1, 1), (0, 2))


def test_what_is_turned_for_one_leg_is_ridden_on_that_leg_alone():
    """Each leg's time and use are those of the rider who has that on every leg; said of every leg, nothing changes."""
    setup = team().setup.model_dump(exclude_unset=True)
    one = {"rider": team().rider.name, "leg": 2, "values": {"rear_wheel": 2, "shock_rebound_clicks": 9}}

    def ridden(*turned):
        inputs = team(relay=True)
        short = inputs.race.model_copy(update={"relay": Relay(hand_over_s=60.0, longest_stint_s=5000.0)})
        update = {"setup": Setup.model_validate(setup | {"turned": turned}), "race": short}
        return evaluate(inputs.model_copy(update=update)).ask(ridden_stints)

    plain, every = ridden(), ridden(one | {"leg": 0})
    legs = [(s.stint.rider, s.leg) for s in plain]
    assert legs == [(0, 1), (1, 1), (0, 2)]
    found = ridden(one)
    assert [(s.stint, s.leg) for s in found] == [(s.stint, s.leg) for s in plain]
    for whose, was, now, then in zip(legs, plain, found, every, strict=True):
        like = then if whose == (0, 2) else was
        assert (now.time_s, now.amount, now.sag_m) == (like.time_s, like.amount, like.sag_m), whose
        assert (then.time_s != was.time_s) == (whose[0] == 0)
    # a leg's own goes before what is said of every one, and leaves the rest of it
    both = ridden(one | {"leg": 0}, one | {"values": {"rear_wheel": 1}})
    assert [s.time_s for s in both if s.leg == 2] == [
        s.time_s for s, whose in zip(plain, legs, strict=True) if whose == (0, 2)
    ]


def test_a_class_that_starts_later_rides_a_race_that_is_shorter_and_later():
    """Three hours, ten minutes behind the first: to the last bit two hours fifty that start ten minutes later."""
    inputs = demo_inputs("saltern")
    (stage,) = inputs.race.stages
    gap = inputs.model_copy(update={"race": inputs.race.model_copy(update={"class_gap_s": 600.0})})
    later = datetime.fromisoformat(inputs.race.start) + timedelta(minutes=10)
    shorter = stage.model_copy(update={"hours_s": stage.hours_s - 600.0})
    alone = {"start": later.isoformat(timespec="minutes"), "stages": (shorter,)}
    same = inputs.model_copy(update={"race": inputs.race.model_copy(update=alone)})
    found, asked = evaluate(gap), evaluate(same)
    assert {k: (f.value, f.low, f.high) for k, f in found.figures.items()} == {
        k: (f.value, f.low, f.high) for k, f in asked.figures.items()
    }
    assert found.findings == asked.findings
    assert gap.race.start_julian == same.race.start_julian
    clocks = [[(m.kind, m.likely_s, m.light) for m in r.ask(moments)] for r in (found, asked)]
    assert clocks[0] == clocks[1]
    document = inputs.model_dump(mode="json", exclude_unset=True)
    document["race"]["class_gap_s"] = stage.hours_s - 300.0
    with pytest.raises(InputRefused) as refused:
        load_inputs(document)
    assert {r.code for r in refused.value.refusals} == {"gap_beyond_hours"}


@pytest.mark.parametrize(
    ("turned", "code"),
    [
        ([{"rider": "Wren", "values": {"main_jet": 150}}], "not_a_choice"),
        ([{"rider": "Wren", "values": {"shock_rebound_clicks": 38}}], "turned_beyond"),
        ([{"rider": "Wren", "values": {"rear_wheel": 5}}], "turned_beyond"),
        ([{"rider": "Wren", "values": {"shock_preload_m": 3.0}}], "too_high"),
        ([{"rider": "Bryn", "values": {}}, {"rider": "Bryn", "values": {}}], "turned_twice"),
    ],
)
def test_what_cannot_be_turned_is_refused(turned, code):
    """Above all a jet: what leans one engine is no rider's setting."""
    document = demo_inputs().model_dump(mode="json", exclude_unset=True)
    document["setup"]["turned"] = turned
    with pytest.raises(InputRefused) as refused:
        load_inputs(document)
    assert code in {r.code for r in refused.value.refusals}
