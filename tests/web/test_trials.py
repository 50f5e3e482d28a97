"""Trials through their doors: what may be tried, what a phone sends, what is done with the answer."""

import csv
import html
import io
import json
import re
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from lynxwort.core.standin.session import recorded
from lynxwort.demo import scenario
from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.changes import Moves, PutBack, take
from lynxwort.web.bikes.models import Revision, Setup
from lynxwort.web.evaluation import door
from lynxwort.web.races.models import Race
from lynxwort.web.races.tracks import add_course
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
    assert "runs leaner than" in text(demo.get(plan))
    assert demo.post(plan, {"see": "30"}).status_code == 422
    assert not Trial.objects.exists()


def test_a_leaner_jet_is_no_trial_and_brakes_are_never_blind(tried):
    plan = f"{tried.base}trials/plan/"
    assert "Start" in text(tried.get(plan))
    assert "Blind" not in text(tried.get(plan))  # a tooth is seen
    moved(tried, main_jet=168.0)  # leaner than what stood, though nothing acts on it
    assert "runs leaner than" in text(tried.get(plan))
    moved(tried, main_jet=172.0)
    assert "Start" in text(tried.get(plan))
    moved(tried, main_jet=160.0)
    assert "runs leaner than" in text(tried.get(plan))
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
    # one looks all the same, and the range says so
    page = text(tried.get(f"{tried.base}trials/answer/"))
    assert "next planned look is after 6" in page
    assert "unplanned look" not in page
    assert "unplanned look" in text(tried.get(f"{tried.base}trials/answer/?look=1"))
    report = bench_of(tried).report
    assert report.figures["trials.effect"].reason == "look_not_due"
    assert [f.code for f in report.of("trials")] == ["trial_open"]


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


def gpx(data, name="session.gpx"):
    return SimpleUploadedFile(name, data)


def test_a_session_of_nine_laps_becomes_runs(tried):
    """One file with a pause and a lap with a stand: eight laps are taken in their order, the ninth is left out; the answer pools their sectors."""
    track = scenario.track("gannach-meadow")
    course = add_course(tried.race.garage, track)
    trial = started(tried)
    order = trial.document["order"]
    true = [300.0 - 0.2 * k - 6.0 * (c == "B") for k, c in enumerate(order)]
    laps = [*true[:4], 310.0, *true[4:]]
    page = f"{tried.base}trials/session/"
    assert "One recording of the whole session" in text(tried.get(page))
    answer = tried.post(page, {"course": course.blob_id, "file": gpx(recorded(track, laps, 3, pause_in=4))})
    shown = text(answer)
    assert answer.status_code == 200, shown
    assert "9 whole laps" in shown
    assert "stood 2:" in shown
    chosen = re.findall(r'name="lap-(\d)".*?</select>', shown, re.S)
    picked = dict(re.findall(r'name="lap-(\d)">(?:(?!</select>).)*?<option value="(\d)" selected', shown, re.S))
    assert len(chosen) == 9
    assert picked == {str(k if k < 4 else k + 1): str(k) for k in range(8)}
    signed = re.search(r'name="laps" value="([^"]+)"', shown)[1]
    send = {"laps": signed} | {f"lap-{k}": v for k, v in picked.items()}
    assert tried.post(page, send | {"laps": signed[:-3]}).status_code == 422  # not what was read here
    assert not trial.runs.exists()
    assert tried.post(page, send).status_code == 302
    rows = [r.document for r in trial.runs.all()]
    assert [r["place"] for r in rows] == [*range(8)]
    assert [r["setting"] for r in rows] == list(order)
    assert all(abs(r["time_s"] - t) < 4 * r["error_s"] for r, t in zip(rows, true, strict=True))
    assert {len(r["sectors_s"]) for r in rows} == {9}
    report = bench_of(tried).report
    assert "sectors pooled" in report.figures["trials.effect"].source
    assert report.figures["trials.effect"].low < -6.0 < report.figures["trials.effect"].high
    assert any(f.code == "change_keep" for f in report.findings)
    # all are ridden: there is nothing left to take out of a file
    assert tried.get(page).status_code == 302


@pytest.mark.parametrize(
    ("data", "words"),
    [(b"nothing of the kind", "GPX"), (b"", "empty"), (b"<gpx><trk><trkseg></trkseg></trk></gpx>", "GPX")],
)
def test_a_session_that_cannot_be_read_says_why(tried, data, words):
    started(tried)
    key = tried.race.document["stages"][0]["course_key"]
    answer = tried.post(f"{tried.base}trials/session/", {"course": key, "file": gpx(data)})
    assert answer.status_code == 422
    assert words in text(answer)
    elsewhere = recorded(scenario.track("hollowood"), [400.0, 400.0], 1)
    answer = tried.post(f"{tried.base}trials/session/", {"course": key, "file": gpx(elsewhere)})
    assert answer.status_code == 422
    assert 'role="alert"' in text(answer)
    assert tried.post(f"{tried.base}trials/session/", {"course": "x", "file": gpx(elsewhere)}).status_code == 422


def test_laps_go_out_as_csv_and_a_blind_ones_settings_only_when_it_is_decided(tried):
    trial = started(tried)
    stood_in(trial, botched_share=0.3)
    address = f"{tried.base}trials/laps.csv?trial={trial.uid}"

    def read():
        return list(csv.DictReader(io.StringIO(tried.get(address).content.decode("utf-8-sig"))))

    rows = read()
    assert [r["setting"] for r in rows if r["counts"] == "yes"] == list(trial.document["order"])
    assert len(rows) == trial.runs.count() > 8
    Trial.objects.update(document=trial.document | {"blind": True})
    assert {r["setting"] for r in read()} == {""}
    Trial.objects.update(outcome="left")
    assert {r["setting"] for r in read()} == {"A", "B"}
    assert tried.get(f"{tried.base}trials/laps.csv?trial=x").status_code == 404


def test_a_typed_sheet_becomes_runs_by_its_settings(tried):
    """A sheet with a wrong line is told which; put right, each lap is offered as the next run of its own setting."""
    trial = started(tried)
    order, key = trial.document["order"], tried.race.document["stages"][0]["course_key"]
    page = f"{tried.base}trials/session/"
    rows = [f"{k},{288 - 3 * (c == 'B')}.5,{c},{'the ford' if k == 2 else ''}" for k, c in enumerate(order, start=1)]
    head = "lap,time,setting,note"
    wrong = "\n".join([head, *rows[:3], "4,quick,A,"]).encode()
    answer = tried.post(page, {"course": key, "file": gpx(wrong, "laps.csv")})
    assert answer.status_code == 422
    assert "Line 5: Not a lap time, write it like 5:01.4: quick" in text(answer)
    shuffled = "\n".join([head, *sorted(rows, key=lambda r: r.split(",")[2])]).encode()
    shown = text(tried.post(page, {"course": key, "file": gpx(shuffled, "laps.csv")}))
    assert "the ford" in shown
    picked = dict(re.findall(r'name="lap-(\d)">(?:(?!</select>).)*?<option value="(\d)" selected', shown, re.S))
    assert "".join(order[int(picked[str(k)])] for k in range(8)) == "AAAABBBB"
    signed = re.search(r'name="laps" value="([^"]+)"', shown)[1]
    assert tried.post(page, {"laps": signed} | {f"lap-{k}": v for k, v in picked.items()}).status_code == 302
    kept = {r.document["place"]: r.document["time_s"] for r in trial.runs.all()}
    assert all(kept[k] == 288.5 - 3 * (c == "B") for k, c in enumerate(order))


def test_what_is_not_held_is_said(tried):
    """Noted twice, seven degrees apart: the answer says so. Nothing typed, or nonsense, is told and not kept."""
    trial = started(tried)
    page = f"{tried.base}trials/run/"
    for typed, words in (({}, "Say one of them at least"), ({"temperature_k": "warm"}, "temperature"), ({"fuel_m3": "900 L"}, "at most")):  # fmt: skip
        answer = tried.post(page, {"conditions": "1"} | typed)
        assert answer.status_code == 422
        assert words in text(answer), typed
    for degrees in ("11", "18 °C"):
        assert tried.post(page, {"conditions": "1", "temperature_k": degrees, "fuel_m3": "6 L"}).status_code == 302
    trial.refresh_from_db()
    assert [c["temperature_k"] for c in trial.document["conditions"]] == [284.15, 291.15]
    assert "18 °C · 6.0" in text(tried.get(page))
    (found,) = [f for f in bench_of(tried).report.findings if f.code == "conditions_moved"]
    assert found.parameters == {"what": "moved_temperature_k"}


def test_two_riders_scores_stand_side_by_side(tried):
    """And what a session's sectors say is drawn along the lap."""
    trial = started(tried)
    stood_in(trial, effect_share=-0.02, lap_sd=0.004, sectors=8)
    other = Trial.objects.create(setup=trial.setup, document=trial.document | {"rider": "Isk"}, values=trial.values, outcome="left")  # fmt: skip
    stood_in(other, effect_share=0.01, lap_sd=0.004)
    page = text(tried.get(f"{tried.base}trials/answer/?trial={trial.uid}"))
    for words in ("Riders side by side", "They agree on", "Agreement of their scores", "The difference along the lap"):
        assert words in page, words
    figures = bench_of(tried).report.figures
    assert figures["trials.agreement"].value is not None
    parts = [figures[f"trials.sector.{n}.effect"].value for n in range(1, 9)]
    assert sum(parts) == pytest.approx(figures["trials.effect"].value, abs=2.5)


def tapped(client, trial, at, wall_s, ahead=0.0, name="", wrong=None):
    """A helper's tap by a phone that goes so far ahead of the van."""
    trips = [[1e9 + ahead, 1e9 + 0.02, 1e9 + ahead + 0.04]]
    body = {"id": name or str(uuid.uuid4()), "at": at, "wall_s": wall_s + ahead, "trips": trips} | (wrong or {})
    return client.post(f"{client.base}trials/line/{trial.uid}/", json.dumps(body), content_type="application/json")


def test_two_helpers_time_a_course_that_ends_elsewhere(tried):
    """Clocks seven seconds apart; a tap sent twice is one, a lap is called before its time is shown, and once."""
    trial = started(tried)
    assert "I am at the start" in text(tried.get(f"{tried.base}trials/line/"))
    assert 'data-at="finish"' in text(tried.get(f"{tried.base}trials/line/?line=finish"))
    assert tried.get(f"{tried.base}trials/clock/").json()["now"] > 1e9
    twice = str(uuid.uuid4())
    for _again in range(2):
        assert tapped(tried, trial, "start", 2000.0, ahead=7.0, name=twice).json() == {"kept": twice}
    page = f"{tried.base}trials/run/"
    assert "No lap waits" in text(tried.get(page))
    tapped(tried, trial, "finish", 2301.5)
    shown = text(tried.get(page))
    assert "Run 1 is in. Before you see its time" in shown
    assert "5:01.5" not in shown
    lap = re.search(r'name="lap" value="([^"]+)"', shown)[1]
    answer = tried.post(f"{tried.base}trials/call/", {"lap": lap, "how": "clean"}, follow=True)
    assert "Run 1 is kept: 5:01.5" in text(answer)
    answer = tried.post(f"{tried.base}trials/call/", {"lap": lap, "how": "botched"}, follow=True)
    assert "called already" in text(answer)
    (run,) = trial.runs.all()
    assert run.document["time_s"] == pytest.approx(301.5)
    assert run.document["error_s"] == pytest.approx((2 * 0.15**2 + 2 * 0.02**2) ** 0.5, abs=1e-3)
    assert tried.post(f"{tried.base}trials/call/", {"lap": lap, "how": "well"}).status_code == 404
    for wrong in (
        {"at": "middle"},
        {"wall_s": "noon"},
        {"trips": []},
        {"trips": [[1, 2]]},
        {"id": "x"},
        {"wall_s": 1e300},
    ):
        answer = tapped(tried, trial, "start", 1.0, wrong=wrong)
        assert answer.status_code == 422, wrong
        assert answer.json()["refused"]
    trial.refresh_from_db()
    assert len(trial.document["taps"]) == 2
