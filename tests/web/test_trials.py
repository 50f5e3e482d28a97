"""Trials through their doors: what may be tried, what a phone sends, what is done with the answer."""

import html
import json
import uuid

import pytest

from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.changes import Moves, PutBack, take
from lynxwort.web.bikes.models import Revision, Setup
from lynxwort.web.evaluation import door
from lynxwort.web.races.models import Race
from lynxwort.web.runs.models import Trial
from tests.trials import stood_in


def text(answer):
    return html.unescape(answer.content.decode())


def bench_of(client):
    _bench, setup, race = client.base.strip("/").split("/")
    return open_bench(Setup.objects.get(pk=setup), Race.objects.get(pk=race))


@pytest.fixture
def tried(demo):
    """The demo with a tooth in the draft and a mixture that may be ridden."""
    setup = bench_of(demo).setup
    Revision.objects.filter(pk=setup.head_id).update(
        document=setup.head.document | {"setup": setup.head.document["setup"] | {"main_jet": 170.0}}
    )
    setup.draft.values = setup.head.values | {"main_jet": 170.0}
    setup.draft.save()
    moved(demo, rear_sprocket_teeth=50.0)
    return demo


def moved(client, **moves):
    draft = bench_of(client).setup.draft
    assert take(draft, draft.version, Moves(tuple(moves.items()))).done


def started(client, **plan):
    form = {"see": "30", "pairs": "4", "order": "blocks", "lap_s": "5:00"} | plan
    answer = client.post(f"{client.base}trials/plan/", form)
    assert answer.status_code == 302, text(answer)
    return Trial.objects.last()


def sent(client, trial, number, seconds, **more):
    run = {"id": str(uuid.uuid4()), "place": number, "ridden": trial.runs.count(), "botched": False}
    taps = {"start": {"steady_s": 10.0, "wall_s": 1e9, "page": "p"}, "end": {"steady_s": 10.0 + seconds, "wall_s": 1e9 + seconds, "page": "p"}}  # fmt: skip
    body = run | taps | more
    return client.post(f"{client.base}trials/run/{trial.uid}/", json.dumps(body), content_type="application/json"), body


def test_what_may_not_be_tried_says_why(demo):
    plan = f"{demo.base}trials/plan/"
    assert "there is nothing to try" in text(demo.get(plan))
    assert demo.post(plan, {"see": "30"}).status_code == 422
    moved(demo, rear_sprocket_teeth=50.0)
    # what was kept runs lean: a tooth is not tried on it either
    assert "runs leaner than it may" in text(demo.get(plan))
    assert demo.post(plan, {"see": "30"}).status_code == 422
    assert not Trial.objects.exists()


def test_a_leaner_jet_is_no_trial_and_brakes_are_never_blind(tried):
    plan = f"{tried.base}trials/plan/"
    assert "Start" in text(tried.get(plan))
    assert "Blind" not in text(tried.get(plan))  # a tooth is seen
    moved(tried, main_jet=160.0)
    assert "runs leaner than it may" in text(tried.get(plan))
    moved(tried, main_jet=170.0)
    draft = bench_of(tried).setup.draft
    take(draft, draft.version, PutBack("all"))
    moved(tried, shock_compression_clicks=8.0)
    assert "Blind" in text(tried.get(plan))
    moved(tried, shock_compression_clicks=20.0)
    assert "Blind" not in text(tried.get(plan))  # more than a few clicks


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        ({"lap_s": "soon"}, "Not a number"),
        ({"lap_s": "-5:00"}, "not known here"),
        ({"change_s": "9e9"}, "Too large"),
        ({"noise_sd": "900"}, "Too large"),
        ({"see": "7"}, "Select a valid choice"),
        ({"pairs": "400"}, "Select a valid choice"),
        ({"order": "AABB"}, "Select a valid choice"),
    ],
)
def test_a_plan_typed_wrong_is_told_where(tried, typed, words):
    form = {"see": "30", "pairs": "4", "order": "blocks", "lap_s": "5:00"} | typed
    answer = tried.post(f"{tried.base}trials/plan/", form)
    assert answer.status_code == 422
    assert words in text(answer)
    assert not Trial.objects.exists()


def test_a_phone_may_send_a_run_as_often_as_it_likes_and_nothing_else(tried):
    trial = started(tried)
    order = trial.document["order"]
    answer, body = sent(tried, trial, 0, 300.0, scores={"drive": 7}, setting="B")
    assert answer.json() == {"kept": body["id"]}
    again = tried.post(f"{tried.base}trials/run/{trial.uid}/", json.dumps(body), content_type="application/json")
    assert again.json() == answer.json()
    row = trial.runs.get()
    # which setting it was the order says, not who sends it
    assert (row.document["setting"], row.document["time_s"]) == (order[0], 300.0)
    wrong = [
        {"place": 99}, {"place": None}, {"place": True}, {"start": 5}, {"start": {"steady_s": "x"}}, {"botched": "no"},
        {"scores": {"drive": 11}}, {"scores": {"speed": 5}}, {"id": "x"}, {"ridden": -1}, {"guess": "C"},
        {"end": {"steady_s": 10.0, "wall_s": 1e9, "page": "p"}},
    ]  # fmt: skip
    for bad in wrong:
        answer, _body = sent(tried, trial, 1, 300.0, **bad)
        assert answer.status_code == (200 if "guess" in bad else 422), bad  # a trial that is not blind hears no guess
    assert trial.runs.count() == 2
    for junk in ("", "[]", "{", "nope", "x" * 9000, '{"id": NaN}'):
        answer = tried.post(f"{tried.base}trials/run/{trial.uid}/", junk, content_type="application/json")
        assert answer.status_code == 422, junk
    other, _body = sent(tried, trial, 1, 300.0)
    assert other.status_code == 200
    # a phone that slept: its wall clock counts, and the lap says so
    _answer, body = sent(tried, trial, 2, 300.0, end={"steady_s": 200.0, "wall_s": 1e9 + 301.0, "page": "p"})
    row = trial.runs.get(uid=body["id"])
    assert (row.document["time_s"], row.document["clocks_apart"]) == (301.0, True)
    # a page loaded anew begins another steady clock: no clock is doubted
    _answer, body = sent(tried, trial, 3, 300.0, end={"steady_s": 2.0, "wall_s": 1e9 + 302.0, "page": "q"})
    row = trial.runs.get(uid=body["id"])
    assert (row.document["time_s"], row.document["clocks_apart"]) == (302.0, False)
    tried.get(f"{tried.base}trials/run/")
    assert (
        tried.post(f"{tried.base}trials/run/{uuid.uuid4()}/", "{}", content_type="application/json").status_code == 404
    )


def test_runs_change_nothing_that_is_ridden(tried):
    """The job of the ranges is not asked again for each run, and no figure of another station moves."""
    before = bench_of(tried)
    trial = started(tried)
    sent(tried, trial, 0, 300.0)
    after = bench_of(tried)
    assert door.ridden_key(after.kept_inputs) == door.ridden_key(before.kept_inputs)
    assert door.input_key(after.kept_inputs) != door.input_key(before.kept_inputs)
    same = [k for k in before.report.figures if not k.startswith("trials.")]
    assert [after.report.value(k) for k in same] == [before.report.value(k) for k in same]


def test_a_watch_times_where_there_is_no_phone(tried):
    trial = started(tried)
    run = f"{tried.base}trials/run/"
    assert "Not a number" in text(tried.post(run, {"time_s": "quick"}))
    assert tried.post(run, {"time_s": "5:01.4"}).status_code == 302
    assert tried.post(run, {"time_s": "6:40", "botched": "on"}).status_code == 302
    assert tried.post(run, {"time_s": "4:59"}).status_code == 302
    rows = [r.document for r in trial.runs.all()]
    assert [(r["place"], r["time_s"], r["botched"], r["by_watch"]) for r in rows] == [
        (0, 301.4, False, True), (1, 400.0, True, True), (1, 299.0, False, True),
    ]  # fmt: skip


def test_an_answer_is_decided_once_and_only_of_what_was_ridden(tried):
    trial = started(tried)
    stood_in(trial, effect_share=0.05, lap_sd=0.004)
    page = text(tried.get(f"{tried.base}trials/answer/"))
    assert "Put back" in page
    assert any(f.code == "change_put_back" for f in bench_of(tried).report.findings)
    decide = f"{tried.base}trials/decide/"
    said = {"trial": str(trial.uid), "what": "put_back"}
    version = bench_of(tried).draft.version
    # the draft moved on: nothing is kept or put back in its name
    moved(tried, front_sprocket_teeth=13.0)
    tried.post(decide, said | {"version": bench_of(tried).draft.version})
    assert Trial.objects.get().outcome == "open"
    draft = bench_of(tried).setup.draft
    draft.values = trial.values
    draft.save()
    tried.post(decide, said | {"version": version})  # a page that is behind
    assert Trial.objects.get().outcome == "open"
    tried.post(decide, said | {"version": bench_of(tried).draft.version})
    assert Trial.objects.get().outcome == "put_back"
    assert not bench_of(tried).changed
    assert "decided already" in text(tried.post(decide, said | {"version": 1}, follow=True))
    for bad in ({"trial": "x"}, {"what": "sold"}):
        assert tried.post(decide, said | bad).status_code == 404
    assert tried.get(f"{tried.base}trials/answer/?trial=nothing").status_code == 404


def test_a_second_trial_leaves_the_first(tried):
    first = started(tried)
    second = started(tried, pairs="6")
    assert [t.outcome for t in Trial.objects.all()] == ["left", "open"]
    stood_in(second, runs=3)
    page = text(tried.get(f"{tried.base}trials/"))
    assert "being ridden" in page  # no look that is not due
    assert text(tried.get(f"{tried.base}trials/answer/?trial={first.uid}")).count("Too few runs")
    # another one's trial is nobody's business
    assert "unplanned look" in text(tried.get(f"{tried.base}trials/answer/"))


def test_two_riders_who_differ_are_told(tried):
    """The same tooth: quicker for one, slower for the other."""
    trial = started(tried)
    stood_in(trial, effect_share=-0.04, lap_sd=0.004)
    other = Trial.objects.create(
        setup=trial.setup, document=trial.document | {"rider": "Isk"}, values=trial.values, outcome="left"
    )
    stood_in(other, effect_share=0.02, lap_sd=0.004)
    page = text(tried.get(f"{tried.base}trials/"))
    assert "Suits Wren, not Isk" in page
