"""How sure a plan is: draws that are what the figures' ranges say, chances that add up to the one that is told, readings
worth what decision theory says of them.
"""

from collections import Counter
from dataclasses import replace
from math import pi, sqrt

import numpy as np
import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.learned.truth import Truth
from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.readings import SagReading
from lynxwort.core.propose import cases, measuring, sure
from lynxwort.core.propose.draws import A_RIDE, draws
from lynxwort.core.propose.levels import finish_missed
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import Move
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.drive.input import DriveInput
from tests.support import CACHE, demo_inputs, demo_report

WISH = Wish.model_validate({})


def drawn_of(up, count):
    return draws(ChassisInput.of(up), DriveInput.of(up), count)


def judged(inputs, truth, *need):
    return evaluate(inputs, cache=CACHE, need=set(need), explain=False, truth=truth)


@pytest.mark.parametrize("name", ["brackenmere", "saltern"])
def test_draws_are_what_was_learned(name):
    up = demo_report(name).behind.up
    drawn = drawn_of(up, 400)
    assert drawn == drawn_of(up, 400)
    known = up.springs.offsets
    made = np.array([d.truth.offsets for d in drawn])
    sds = np.sqrt(np.diag(known.covariance))
    assert np.abs(made.mean(axis=0) - known.mean).max() < 0.01 * sds.max() + 1e-12
    assert made.std(axis=0) == pytest.approx(sds, rel=0.08)
    assert np.std([d.truth.use for d in drawn]) == pytest.approx(1.0, abs=0.01)
    assert max(abs(d.truth.richness) for d in drawn) < 1.0
    # 90 % of the dampers within what the figure says
    assert np.quantile([d.truth.damping_factor for d in drawn], (0.05, 0.95)) == pytest.approx((0.8, 1.2), abs=0.005)
    assert set(Counter(d.ride for d in drawn).values()) == {A_RIDE}
    air = up.day.air
    for d in drawn:
        assert air.temperature_low_k <= d.truth.air.temperature_low_k <= d.truth.air.temperature_high_k
        assert d.truth.air.temperature_high_k <= air.temperature_high_k
        assert abs(d.truth.air.pressure_pa - air.pressure_pa) <= air.pressure_spread_pa


def test_a_truth_that_is_what_was_learned_changes_no_value():
    inputs, up = demo_inputs(), demo_report("brackenmere").behind.up
    same = Truth(offsets=up.springs.offsets.mean, use=0.0, richness=0.0, air=up.day.air, damping_factor=1.0)
    needs = ("chassis", "range", "fuelling", "drive")
    plain, drawn = evaluate(inputs, cache=CACHE, need=set(needs)), judged(inputs, same, *needs)
    for name in ("chassis.rear.race_sag", "chassis.front.race_sag", "range.fuel_race", "drive.top_speed",
                 "fuelling.richness_full_densest"):  # fmt: skip
        assert drawn.value(name) == pytest.approx(plain.value(name), rel=1e-9), name
    # and what is known has no range but its scatter
    figure = drawn.figures["fuelling.richness_full_densest"]
    assert figure.high - figure.low < 1e-12


def test_sags_of_the_draws_spread_as_the_figure_says():
    """The figure's range is a linear one; friction, in which a bike may rest anywhere, is not drawn."""
    inputs, up = demo_inputs(), demo_report("brackenmere").behind.up
    setup = up.loaded.setup
    for end in ("front", "rear"):
        value, half = up.loaded.sag(end, race=True, fuel_m3=up.loaded.half_m3)
        sags = [
            judged(inputs, Truth(offsets=d.truth.offsets), f"chassis.{end}.race_sag").value(f"chassis.{end}.race_sag")
            for d in drawn_of(up, 100)
        ]
        expected = sqrt((half / Z90) ** 2 - up.springs.friction_m(end, setup) ** 2 / 3.0)
        assert np.mean(sags) == pytest.approx(value, abs=0.0006)
        assert np.std(sags) == pytest.approx(expected, rel=0.12)


@pytest.mark.parametrize("name", ["brackenmere", "saltern", "gannach"])
def test_chances_to_finish_add_up_to_the_one_that_is_told(name):
    """The law of total probability: ride, air and use drawn together take no more than the factor's own spread."""
    inputs, report = demo_inputs(name), demo_report(name)
    drawn = drawn_of(report.behind.up, 64)
    missed = [judged(inputs, replace(d.truth, offsets=None), "range.figures").ask(finish_missed) for d in drawn]
    assert np.mean(missed) == pytest.approx(report.ask(finish_missed), abs=0.012)


@pytest.mark.parametrize("sd", [0.1, 0.5, 1.0, 3.0])
def test_a_reading_is_worth_what_decision_theory_says(sd):
    """[raiffa1961] ch. 5: two ways, their difference k t with t normal about 0: the value of a reading of t is
    k s' / sqrt(2 pi), s' the standard deviation of the mean after it, 1 / sqrt(1 + sd^2).
    """
    rng = np.random.default_rng(3)
    is_, k = rng.standard_normal(1500), 10.0
    losses = np.array([np.zeros_like(is_), k * is_]) + 5.0
    chosen = measuring.after_reading(losses, is_, sd)
    got = losses.mean(axis=1).min() - np.mean([losses[c, np.arange(is_.size)].mean() for c in chosen])
    assert got == pytest.approx(k / sqrt(1.0 + sd**2) / sqrt(2.0 * pi), abs=0.3)


def test_a_sag_that_was_never_read_is_worth_reading_first(monkeypatch):
    """Not so once it was read again and again; a fill-up that nothing is set by is worth nothing."""
    monkeypatch.setattr(cases, "ALL", frozenset({"chassis", "range"}))
    monkeypatch.setattr(measuring, "STORES", {"fuel": ()})
    inputs = demo_inputs()
    spring = {"shock_spring_rate_n_per_m": 54_000.0, "shock_preload_m": 0.009}
    inputs = inputs.model_copy(update={"setup": inputs.setup.model_copy(update=spring)})
    others = tuple(r for r in inputs.readings if not isinstance(r, SagReading))
    under = next(r.under for r in inputs.readings if isinstance(r, SagReading)).model_copy(
        update={"setup": inputs.setup}
    )

    def told(readings):
        document = inputs.model_copy(update={"readings": readings})
        return sure.sureness(document, (), WISH, cache=CACHE, count=48)

    unread = told(others)
    first = {f.code: f for f in unread.first}
    assert "fill_up" not in first
    rear = first["sag_rear_race"]
    assert rear.then_chance > rear.now_chance + 0.1
    assert "shock_preload_m" in rear.tunables
    sag = SagReading(id="s", end="rear", state="race", value_m=0.103, under=under)
    often = told((*others, *(sag.model_copy(update={"id": f"s{n}"}) for n in range(40))))
    assert sum(f.gain for f in often.first if f.code == "sag_rear_race") < 0.5 * rear.gain
    assert unread.clear_chance <= often.clear_chance
    for found in (unread, often):
        assert found.dry_chance == pytest.approx(demo_report("brackenmere").ask(finish_missed), abs=0.03)


def test_that_it_runs_dry_is_nothing_more_where_the_plan_says_it():
    for name, says in (("brackenmere", True), ("hollowood", False)):
        judge = cases.Judge(demo_inputs(name), cache=CACHE, sensitivities={}, count=2, beat=lambda: None)
        dry = cases.Case(said={}, missed=0.9, figures={})
        assert judge.is_more(dry, 0.5) is not says
        assert not judge.is_more(dry, 0.95)


def test_what_is_bought_in_vain_is_told_and_what_is_not_is_not():
    steps = (
        (Move(tunable="main_jet", value=168.0, owned=False),),
        (Move(tunable="fork_up_m", value=0.005, owned=False),),
    )
    jet, tubes = (step[0] for step in steps)

    def judged_beside(*box):
        return sure.sureness(demo_inputs(), steps, WISH, from_box=box, cache=CACHE, count=16)

    without_jet = judged_beside(tubes)
    told = {v.tunables: v.chance for v in without_jet.vain}
    assert told["main_jet",] == 0.0  # without it every draw is too lean
    assert told["fork_up_m",] >= 0.7
    assert without_jet.box_chance == 0.0
    # the plan itself beside the plan: the same draws, every other one of them
    same = judged_beside(jet, tubes)
    assert 0.0 < same.box_chance <= 1.0
    assert 0.0 <= 16 * same.clear_chance - 8 * same.box_chance <= 8.0
