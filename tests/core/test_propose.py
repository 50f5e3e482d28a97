"""A proposal is evaluated before it is shown: it settles or lessens what it speaks of, leans nothing below its limit, and brings nothing to act on."""

from dataclasses import replace

import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.judging import leaned
from lynxwort.core.propose import single
from lynxwort.core.report import SEVERITIES, STATIONS, Leaves, Move
from tests import snapshot
from tests.support import CACHE, demo_inputs, demo_report


def shown(report):
    return [(station, f) for station in STATIONS for f in report.ask(single.judged, report, station)]


def test_every_proposal_that_is_shown_holds_over_many_bikes_and_races():
    count = dropped = 0
    for name, report in snapshot.reports():
        inputs = report.behind.up.inputs
        for station, finding in shown(report):
            dropped += sum(len(f.proposals) for f in report.of(station) if f.code == finding.code) > len(
                finding.proposals
            )
            assert len(finding.leaves) == len(finding.proposals)
            for moves, left in zip(finding.proposals, finding.leaves, strict=True):
                count += 1
                after = evaluate(
                    inputs.model_copy(update={"setup": single.moved(inputs.setup, moves)}),
                    cache=CACHE,
                    sensitivities=report.sensitivities,
                )
                assert not leaned(report, after), (name, finding.code)
                worst = max(
                    (
                        SEVERITIES.index(f.severity)
                        for f in after.of(station)
                        if single.key_of(f) == single.key_of(finding)
                    ),
                    default=0,
                )
                assert worst < SEVERITIES.index(finding.severity) or worst <= SEVERITIES.index(left.severity), (
                    name,
                    finding.code,
                )
                before = {s for s, v in report.verdicts.items() if v == "act"}
                assert left.what == "rich_full" or {s for s, v in after.verdicts.items() if v == "act"} <= before, (
                    name,
                    finding.code,
                )
    assert count > 10
    assert dropped > 0


@pytest.mark.parametrize(
    ("station", "code", "moves"),
    [
        ("drive", "short_on_climb", (("main_jet", 160.0),)),  # leans the engine
        ("drive", "short_on_climb", (("shock_preload_m", 0.011),)),  # leaves its finding
        (
            "chassis",
            "spring_soft",
            (("shock_spring_rate_n_per_m", 54000.0), ("shock_preload_m", 0.009), ("main_jet", 200.0)),
        ),  # fouls
        (
            "range",
            "may_run_dry",
            (("tank_capacity_m3", 0.0145), ("fuel_fill_m3", 0.0145), ("pilot_jet", 30.0)),
        ),  # lasts by leaning
        ("drive", "short_on_climb", (("rear_sprocket_teeth", 500),)),  # there is no such sprocket
        ("drive", "short_on_climb", (("needle", 5),)),  # nor such a needle
    ],
)
def test_a_candidate_that_does_not_hold_is_not_shown(station, code, moves):
    report = demo_report()
    finding = next(f for f in report.of(station) if f.code == code)
    planted = tuple(Move(tunable=t, value=v) for t, v in moves)
    for leaves in ((), (Leaves(severity="ok"),)):
        tried = report.ask(
            single.held, report, replace(finding, proposals=(planted, *finding.proposals), leaves=leaves)
        )
        assert planted not in tried.proposals
        assert set(tried.proposals) == set(finding.proposals)


def test_out_of_lean_into_rich_is_shown_and_said():
    report = demo_report("saltern")
    finding = next(f for f in report.ask(single.judged, report, "fuelling") if f.code == "too_lean_injected")
    assert finding.proposals
    assert (finding.leaves[0].severity, finding.leaves[0].what) == ("act", "rich_full")
    assert finding.leaves[0].value_si > 0.05


def test_a_proposal_that_only_lessens_says_what_it_leaves():
    inputs = demo_inputs()
    report = evaluate(
        inputs.model_copy(update={"setup": single.moved(inputs.setup, [Move(tunable="pilot_jet", value=40.0)])}),
        cache=CACHE,
    )
    found = [f for f in report.ask(single.judged, report, "fuelling") if f.proposals]
    assert found
    for f in found:
        assert all(
            SEVERITIES.index(left.severity) < SEVERITIES.index(f.severity) or left.what == "rich_full"
            for left in f.leaves
        )
