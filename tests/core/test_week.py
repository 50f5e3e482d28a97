"""The week before a race: laid backward, against every order there is, against networkx, and across a change of clocks."""

import itertools
import json
from datetime import UTC, datetime, timedelta

import networkx
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from lynxwort.cli.main import main
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import Item
from lynxwort.core.model.inputs import dump_inputs
from lynxwort.core.model.race import Awaited, Chore, Race, WeekPlan, evening_clock
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.physics.kit.work import Job
from lynxwort.core.physics.service.week import latest_starts, lay
from lynxwort.core.stations.baseline.asked import week_seen
from lynxwort.core.stations.baseline.week import FIRST_TIME, RUN_IN_S
from tests.logged import H, a_log, check, meter, part
from tests.support import CACHE, demo_inputs, setup_with


@st.composite
def works(draw):
    """Up to six jobs, each after some of those before it, with parts that come some day."""
    n = draw(st.integers(1, 6))
    jobs = [
        Job(
            id=f"j{k}", takes_s=draw(st.integers(1, 9)) * 600.0,
            after=tuple(f"j{a}" for a in range(k) if draw(st.booleans())),
        )
        for k in range(n)
    ]  # fmt: skip
    ready = {j.id: draw(st.integers(0, 50)) * 600.0 for j in jobs}
    return jobs, ready


def lateness(order, ready):
    """The greatest lateness of an order, packed to the end."""
    now, worst = sum(j.takes_s for j in order), float("-inf")
    for job in order:
        worst, now = max(worst, now - ready[job.id]), now - job.takes_s
    return worst


@given(works())
@settings(max_examples=150, deadline=None)
def test_no_other_order_is_less_late(work):
    jobs, ready = work
    laid = lay(jobs, ready)
    allowed = [
        order
        for order in itertools.permutations(jobs)
        if all(a in {o.id for o in order[:k]} for k, j in enumerate(order) for a in j.after)
    ]
    assert tuple(one.job for one in laid) in allowed
    assert -min(one.in_hand_s for one in laid) == pytest.approx(min(lateness(o, ready) for o in allowed))
    # packed: each ends where the next begins, the last at the end
    assert [one.ends_s for one in laid] == pytest.approx([*(one.begins_s for one in laid[1:]), 0.0])
    # one pair of hands never begins later than hands enough must
    assert all(one.begins_s >= one.latest_s - 1e-9 for one in laid)


@given(works())
@settings(max_examples=60, deadline=None)
def test_how_late_by_the_longest_way_of_networkx(work):
    jobs, _ready = work
    graph = networkx.DiGraph()
    for job in jobs:
        graph.add_edge(job.id, "end", weight=job.takes_s)
        graph.add_weighted_edges_from((a, job.id, next(j.takes_s for j in jobs if j.id == a)) for a in job.after)
    latest = latest_starts(jobs)
    for job in jobs:
        # LF = min LS of what follows, LS = LF - hours (TRIALS 7), counted back from the end
        longest = max(
            networkx.path_weight(graph, path, "weight") for path in networkx.all_simple_paths(graph, job.id, "end")
        )
        assert latest[job.id] == pytest.approx(longest)


def weekly(*lines, **week):
    made = a_log(demo_inputs(), *lines)
    return made.model_copy(update={"race": made.race.model_copy(update={"week": WeekPlan(**week)})})


def seen(inputs):
    return evaluate(inputs, cache=CACHE, need=("baseline",)).ask(week_seen)


PISTON = (meter(118), part("piston", 70))


def test_engine_work_brings_an_hour_of_running_in_after_the_checks():
    week = seen(weekly(*PISTON)).week
    assert [p.task.id for p in week.planned] == ["part:piston", "baseline_gate", "run_in", "bed_in", "slow_ride"]
    # three hours by practice, half as long again the first time; an hour of checks, one of running in, an hour more
    assert week.work_s == pytest.approx(FIRST_TIME * 3 * H + 1 * H + RUN_IN_S + 1 * H)
    known = seen(weekly(meter(118), part("piston", 0, fate="sound", ended_s=70 * H), part("piston", 70))).week
    assert known.work_s == pytest.approx(3 * H + 3 * H)
    assert not seen(weekly(meter(118), part("piston", 116))).week.planned


def test_evenings_end_before_the_race_and_leave_out_the_days_away():
    inputs = weekly(*PISTON, begins="2027-04-12", away=("2027-04-16",))
    assert inputs.race.start.startswith("2027-04-18")
    found = seen(inputs)
    assert found.evenings == ("2027-04-12", "2027-04-13", "2027-04-14", "2027-04-15", "2027-04-17")
    blocks = [(b.day, b.from_s, b.to_s) for p in found.week.planned for b in p.blocks]
    # 7.5 h in evenings of three: an hour and a half of the third from the end on
    assert blocks[0] == ("2027-04-14", 1.5 * H, 3 * H)
    assert blocks[-1][::2] == ("2027-04-17", 3 * H)
    assert all(0.0 <= a < b <= 3 * H for _d, a, b in blocks)
    assert sum(b - a for _d, a, b in blocks) == pytest.approx(found.week.work_s)
    assert found.week.slack_s == pytest.approx(5 * 3 * H - 7.5 * H)
    begins = evening_clock("2027-04-14", "18:00", inputs.race.time_zone, 1.5 * H)
    assert found.week.latest_start_s == pytest.approx((inputs.race.own_start - begins).total_seconds())
    # leaving two days earlier takes two evenings
    sooner = seen(weekly(*PISTON, begins="2027-04-12", leaves="2027-04-16")).week
    assert sooner.planned[-1].blocks[-1].day == "2027-04-15"
    assert sooner.slack_s == pytest.approx(4 * 3 * H - 7.5 * H)


def test_a_part_that_comes_too_late_is_told_with_the_plan_without_it():
    late = Awaited(job="part:piston", arrives="2027-04-17")
    found = seen(weekly(*PISTON, part("brake_fluid", fitted_day="2024-04-01"), begins="2027-04-12", awaited=(late,)))
    assert [p.task.id for p in found.week.late] == ["part:piston"]
    assert found.week.slack_s < 0.0
    left = found.without
    assert not left.late
    assert left.slack_s > 0.0
    # no engine work, nothing to run in
    assert [p.task.id for p in left.planned] == ["part:brake_fluid", "baseline_gate", "bed_in", "slow_ride"]
    # on its own evening it is just in time
    for day, is_late in (("2027-04-15", False), ("2027-04-16", True)):
        one = seen(weekly(*PISTON, begins="2027-04-12", awaited=(Awaited(job="part:piston", arrives=day),)))
        assert bool(one.week.late) == is_late
        assert one.week.planned[0].begins == "2027-04-15"


def test_what_is_not_ordered_yet_is_ordered_so_many_days_before_its_work():
    waits = (Awaited(job="part:piston", order_days=4),)
    week = seen(weekly(*PISTON, begins="2027-04-09", awaited=waits)).week
    assert (week.planned[0].begins, week.planned[0].order_by, week.planned[0].comes) == (
        "2027-04-15", "2027-04-11", "2027-04-13",
    )  # fmt: skip
    assert not week.late
    assert seen(weekly(*PISTON, begins="2027-04-12", awaited=waits)).week.late


def test_chores_at_the_end_come_after_all_and_done_ones_are_gone():
    chores = (
        Chore(id="van", name="load the van", at_the_end=True),
        Chore(id="wash", name="wash it"),
        Chore(id="plate", name="number plates", done=True),
    )
    week = seen(weekly(chores=chores)).week
    assert [p.task.id for p in week.planned] == ["chore:wash", "baseline_gate", "bed_in", "slow_ride", "chore:van"]


def test_a_late_chore_and_what_must_come_after_a_late_thing_are_left_out_too():
    late = seen(
        weekly(
            begins="2027-04-12", chores=(Chore(id="seat", name="foam for the seat"), Chore(id="wash", name="wash it")),
            awaited=(Awaited(job="chore:seat", arrives="2027-04-18"),),
        )
    )  # fmt: skip
    assert [p.task.id for p in late.week.late] == ["chore:seat"]
    assert late.without.planned[0].task.id == "chore:wash"
    items = tuple(
        Item(id=i, name=i, mass_kg=0.1, ahead_m=0.5, height_m=0.5, after=after, arrives=day)
        for i, after, day in (("plate", (), "2027-04-18"), ("guard", ("plate",), None), ("fan", (), None))
    )
    bike = demo_inputs().bike
    kit = bike.kit.model_copy(update={"items": items})
    built = demo_inputs().model_copy(
        update={"bike": bike.model_copy(update={"kit": kit}), "setup": setup_with(kit_on=("plate", "guard", "fan"))}
    )
    found = seen(built)
    assert [p.task.id for p in found.week.late] == ["item:plate"]
    assert {p.task.id for p in found.without.planned} == {"item:fan", "baseline_gate", "bed_in", "slow_ride"}


def test_what_mends_a_failed_check_is_never_left_out():
    late = Awaited(job="check:frame", arrives="2027-04-17")
    broken = seen(weekly(*PISTON, check("frame", "fail", work_s=6 * H), begins="2027-04-12", awaited=(late,)))
    assert [p.task.id for p in broken.week.late] == ["check:frame"]
    assert (broken.held, broken.without) == (True, None)
    # one that only wants a look may wait
    looked = seen(weekly(*PISTON, check("frame", "look", work_s=6 * H), begins="2027-04-12", awaited=(late,)))
    assert not looked.held
    assert "check:frame" not in {p.task.id for p in looked.without.planned}


def test_an_evening_across_a_change_of_clocks():
    # London goes forward on 2027-03-28 at one in the morning: eight hours after six in the evening it is three
    there = evening_clock("2027-03-27", "18:00", "Europe/London", 8 * H)
    assert (there.hour, there.utcoffset()) == (3, timedelta(hours=1))
    assert there.astimezone(UTC) == datetime(2027, 3, 28, 2, tzinfo=UTC)


@pytest.mark.parametrize(
    ("facts", "code"),
    [
        ({"begins": "next week"}, "not_a_day"),
        ({"away": ("2027-02-30",)}, "not_a_day"),
        ({"evening_at": "six"}, "not_an_hour"),
        ({"evening_s": 60.0}, "too_low"),
    ],
)
def test_what_is_no_day_or_hour_is_refused(facts, code):
    with pytest.raises(ValidationError) as refused:
        WeekPlan(**facts)
    assert [r.code for r in refusals_of(refused.value, root=WeekPlan)] == [code]


def test_the_verb_says_what_the_page_does(tmp_path, capsys):
    file = tmp_path / "setup.json"
    waits = (Awaited(job="part:piston", order_days=4),)
    file.write_text(json.dumps(dump_inputs(weekly(*PISTON, begins="2027-04-12", awaited=waits))))
    assert main(["week", str(file), "--today", "2027-04-12"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["week"]["planned"][0]["task"]["id"] == "part:piston"
    assert told["passed"] == ["part:piston"]
    assert [p["task"]["id"] for p in told["without"]["planned"]] == []
    assert told["figures"]["service.week.latest_start"]["value"] == told["week"]["latest_start_s"]
    assert main(["week", str(file), "--today", "soon"]) == 2
    assert json.loads(capsys.readouterr().out)["errors"][0]["code"] == "not_a_day"


@pytest.mark.parametrize("start", ["0001-01-02T09:00", "9999-12-31T23:00", "1969-12-31T09:00"])
def test_a_race_at_the_end_of_the_calendar_is_refused(start):
    race = demo_inputs().race.model_dump(mode="json", exclude_unset=True)
    with pytest.raises(ValidationError, match="not_a_moment"):
        Race.model_validate(race | {"start": start})
