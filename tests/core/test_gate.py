"""The gate: what each check takes back, and that a re-check gives it back exactly."""

import itertools
import json

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.cli.main import main
from lynxwort.core.evaluate import evaluate
from lynxwort.core.figures import FIGURES
from lynxwort.core.judging import consequences, leaned, runs_lean
from lynxwort.core.model.inputs import dump_inputs
from lynxwort.core.model.service.checks import BY_NAME, CHECKS
from lynxwort.core.propose.single import judged
from lynxwort.core.report import read_report, station_of
from lynxwort.core.stations.baseline.asked import gate_seen
from tests.logged import H, a_log, check, meter, part
from tests.support import CACHE, demo_inputs

#: a demo of each kind of engine
KINDS = {"two_stroke": "brackenmere", "four_stroke": "saltern", "electric": "hollowood"}
CASES = [
    (kind, c.name, c.bought) for kind in KINDS for c in CHECKS if not c.strokes or kind in c.strokes
]  # fmt: skip


def report(kind, *lines, **about):
    return evaluate(a_log(demo_inputs(KINDS[kind]), *lines, **about), cache=CACHE)


def states(found):
    return {c.check.name: (c.state, c.lapsed) for c in found.ask(gate_seen).checks}


@pytest.mark.parametrize(("kind", "name", "bought"), CASES)
def test_a_fail_takes_back_what_it_falsifies_and_a_re_check_gives_it_back_to_the_last_bit(kind, name, bought):
    had = [c.name for c in CHECKS if c.name in states(report(kind, check(name), bought=bought))]
    if name not in had:
        # no coolant, no battery: the bike has no such check
        assert BY_NAME[name].needs
        return
    sound = report(kind, check(name), bought=bought)
    failed = report(kind, check(name), check(name, "fail"), bought=bought)
    taken = {k for k, f in failed.figures.items() if f.withheld}
    falsified = BY_NAME[name].withdraws

    def hit(figure):
        return any(
            w in (figure, station_of(figure)) or (w.endswith(".") and figure.startswith(w)) for w in falsified
        )  # fmt: skip

    ok = {k for k, f in sound.figures.items() if f.status == "ok"}
    assert taken == {k for k in ok if hit(k)}
    for figure in taken:
        # its value is kept for the return, and nothing reads it as sure
        assert failed.figures[figure].value == sound.figures[figure].value
        assert failed.figures[figure].status == "unknown"
        assert failed.figures[figure].reason == f"gate.{name}"
    assert any(f.severity == "act" and f.parameters.get("check") == f"check.{name}" for f in failed.of("baseline"))
    acts = {(f.station, f.code) for f in sound.findings if f.severity == "act"}
    assert acts <= {(f.station, f.code) for f in failed.findings if f.severity == "act"}, "no warning is softened"
    for station in falsified & set(sound.verdicts):
        assert failed.verdicts[station] == ("act" if sound.verdicts[station] == "act" else "unknown")
        assert failed.not_judged[station] == name
        assert not any(f.proposals for f in failed.of(station))
    again = report(kind, check(name), check(name, "fail"), check(name), bought=bought)
    assert again.to_json() == sound.to_json()
    assert read_report(failed.to_json()).not_judged == failed.not_judged


def test_every_name_that_a_check_withdraws_is_one_there_is():
    stations = {station_of(name) for name in FIGURES}
    for c in CHECKS:
        for name in c.withdraws:
            assert name in stations or name in FIGURES or any(f.startswith(name) for f in FIGURES if name[-1] == "."), (
                name
            )


def test_what_is_not_checked_withdraws_nothing_and_a_look_is_a_doubt():
    plain = evaluate(demo_inputs(), cache=CACHE)
    begun = report("two_stroke", check("chain", "look"))
    mine = {k: f for k, f in plain.figures.items() if station_of(k) != "baseline"}
    assert {k: begun.figures[k] for k in mine} == mine
    assert begun.doubted == ("chain",)
    assert not begun.not_judged
    assert begun.verdicts["drive"] == plain.verdicts["drive"]


def test_the_number_goes_before_the_button_when_it_is_worse():
    assert states(report("two_stroke", check("spokes", value_si=0.0045)))["spokes"][0] == "fail"
    assert states(report("two_stroke", check("spokes", value_si=0.0025)))["spokes"][0] == "look"
    assert states(report("two_stroke", check("spokes", "fail", value_si=0.0)))["spokes"][0] == "fail"
    assert states(report("two_stroke", check("tyres", value_si=20_000.0)))["tyres"][0] == "look"


def test_a_pass_lapses_and_a_fail_never():
    ride = ("ride", {"time_s": 2 * H, "day": "2027-04-10"})
    of = {
        "hours": [check("chain"), meter(3), meter(14)],
        "crash": [check("chain"), ("ride", {"time_s": H, "crashed": True})],
        "day": [check("brakes"), ride],
        "work": [check("brakes"), part("pads")],
    }
    for why, lines in of.items():
        name = lines[0][1]["check"]
        assert states(report("two_stroke", *lines))[name] == ("unchecked", why)
        failed = [check(name, "fail"), *lines[1:]]
        assert states(report("two_stroke", *failed))[name] == ("fail", "")
    assert states(report("two_stroke", check("chain"), ride))["chain"] == ("pass", "")
    assert states(report("two_stroke", ride, check("brakes")))["brakes"] == ("pass", "")
    # ridden on the race's own day: it was checked for that one
    today = ("ride", {"time_s": H, "day": demo_inputs().race.start[:10]})
    assert states(report("two_stroke", check("brakes"), today))["brakes"] == ("pass", "")


def test_neighbours_still_propose_and_never_lean_behind_a_fail():
    """What is withdrawn proposes nothing; what others propose is held against the margins that were kept."""
    failed = a_log(demo_inputs(), check("air_leak", "fail"))
    said = evaluate(failed, cache=CACHE)
    assert all(not f.proposals for f in said.of("fuelling"))
    drive = said.ask(judged, said, "drive")
    plain = evaluate(demo_inputs(), cache=CACHE)
    assert [f.proposals for f in drive] == [f.proposals for f in plain.ask(judged, plain, "drive")]


def test_hours_to_sound_add_up_and_only_of_a_bike_that_was_bought():
    lines = [
        check("frame", "fail", work_s=3 * H, cost=90.0), check("head_bearing", "look", cost=42.0), check("brakes"),
    ]  # fmt: skip
    bought = report("electric", *lines, bought=True)
    seen = bought.ask(gate_seen)
    assert (seen.sound.work_s, seen.sound.cost, seen.sound.before_s) == (5 * H, 132.0, 3 * H)
    assert bought.value("service.hours_to_sound") == 5 * H
    assert report("electric", *lines).figures["service.hours_to_sound"].status == "not_applicable"
    # nobody rides: everything is taken back, and said first
    assert set(bought.not_judged) == set(itertools.chain(bought.verdicts)) - {"baseline"}
    assert bought.of("baseline")[0].code == "gate_no_riding"


@settings(max_examples=25, deadline=None, derandomize=True)
@given(st.sets(st.sampled_from([c.name for c in CHECKS if not c.bought and not c.needs]), min_size=2, max_size=5))
def test_several_that_failed_take_back_what_each_does_and_no_more(names):
    """Whatever their order; with one of them mended only what the others falsify stays taken."""
    names = sorted(names)

    def withheld(failed):
        found = report("two_stroke", *(check(n, "fail") for n in failed))
        return {k for k, f in found.figures.items() if f.withheld}, found

    each = [withheld([n])[0] for n in names]
    together, said = withheld(names)
    assert together == set().union(*each)
    turned, again = withheld(names[::-1])
    assert turned == together
    assert again.verdicts == said.verdicts
    assert again.not_judged.keys() == said.not_judged.keys()
    mended, _found = withheld(names[1:])
    assert mended == set().union(*each[1:])
    plain = evaluate(demo_inputs(), cache=CACHE)
    assert {k: f.value for k, f in said.figures.items() if k in together} == {
        k: f.value for k, f in plain.figures.items() if k in together
    }
    assert runs_lean(said) == runs_lean(plain)


def test_what_is_not_judged_is_called_neither_better_nor_even_in_the_ledger():
    draft = demo_inputs().setup.model_copy(update={"main_jet": 170.0})
    failed = [
        a_log(i, check("compression", "fail"))
        for i in (demo_inputs(), demo_inputs().model_copy(update={"setup": draft}))
    ]
    before, after = (evaluate(i, cache=CACHE) for i in failed)
    found = consequences(before, after)
    assert found
    assert {c.judgement for c in found if after.figures[c.figure].withheld} <= {"worse", "changed"}
    leaner = demo_inputs().setup.model_copy(update={"main_jet": 150.0})
    worse = evaluate(
        a_log(demo_inputs().model_copy(update={"setup": leaner}), check("compression", "fail")), cache=CACHE
    )
    assert leaned(before, worse)
    assert "worse" in {c.judgement for c in consequences(before, worse) if c.figure.startswith("fuelling.")}


def test_the_verb_prints_the_same_as_the_pages(tmp_path, capsys):
    inputs = a_log(demo_inputs(), meter(118), part("piston", 80), check("air_leak", "fail"))
    file = tmp_path / "bike.json"
    file.write_text(json.dumps(dump_inputs(inputs)))
    assert main(["service", str(file)]) == 0
    said = json.loads(capsys.readouterr().out)
    assert said["hours_s"] == 118 * H
    (due,) = said["due"]
    assert (due["kind"], due["state"]) == ("piston", "exceeds_during_race")
    assert said["not_judged"] == {"fuelling": "air_leak"}
    assert {c["check"]: c["state"] for c in said["gate"]}["air_leak"] == "fail"
    assert said["figures"]["baseline.gate.failed"] == 1


@pytest.mark.parametrize("kind", KINDS)
def test_a_bike_without_a_log_is_judged_as_ever_and_says_what_is_not_checked(kind):
    """Nothing was written down: no figure of service, no finding, and what nobody rides without is named all the same."""
    found = evaluate(demo_inputs(KINDS[kind]), cache=CACHE)
    assert {f.reason for k, f in found.figures.items() if k.startswith("service.") and ".week." not in k} == {"no_log"}
    assert not found.doubted
    assert {"frame", "throttle", "brakes"} <= set(found.ask(gate_seen).before_riding)
    assert "gate_unchecked" not in {f.code for f in found.of("baseline")}
    empty = report(kind)
    assert "gate_unchecked" in {f.code for f in empty.of("baseline")}
    assert empty.value("service.hours_bike") == 0.0
