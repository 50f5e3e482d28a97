"""What a rider likes weighs only where safety and the finish are even, and only as far as what is known goes."""

from dataclasses import replace
from statistics import NormalDist

import pytest

from lynxwort.core.evaluate import ALL
from lynxwort.core.propose.levels import FINISH, SAFETY, levels_of, risk
from lynxwort.core.propose.liking import CARES, FEELS, TIMES, aimed, fitted_by, minded
from lynxwort.core.propose.plan import propose
from lynxwort.core.propose.tries import Tries
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import STATIONS, Figure, Finding
from lynxwort.demo import scenario
from lynxwort.words.catalogue import FINDINGS
from lynxwort.words.choices import CARES as CARE_WORDS
from lynxwort.words.choices import FEELS as FEEL_WORDS
from tests.plans import is_leaner
from tests.support import CACHE, demo_inputs, demo_report

LIKINGS = [{"feel": f} for f in FEELS] + [{"care": c} for c in CARES]
SAG = "chassis.rear.race_sag"


def wish(**said):
    return Wish.model_validate(said)


def look(code, end="rear"):
    return Finding(station="damping", code=code, severity="look", figures=(), parameters={"end": end})


def whole(name):
    """A demo's report that can still be asked."""
    inputs = demo_inputs(name)
    tries = Tries(
        inputs, wish(), cache=CACHE, sensitivities=demo_report(name).sensitivities, most=1, beat=lambda _n: None
    )
    return tries.report_of(inputs.setup, ALL)


def test_every_liking_names_findings_that_exist_and_never_one_of_safety_or_of_the_finish():
    each = [*FEELS.values(), *CARES.values()]
    assert all(codes <= FINDINGS.keys() for codes in each)
    assert not any(codes & (SAFETY | FINISH) for codes in each)
    assert not FEELS["plush"] & FEELS["stiff"]
    assert not CARES["safe"] & CARES["fast"]
    assert {"even", *FEELS} == FEEL_WORDS.keys()
    assert {"even", *CARES} == CARE_WORDS.keys()
    assert minded(wish()) == frozenset()


@pytest.mark.parametrize("name", scenario.RACES)
def test_it_weighs_on_the_last_level_alone_and_twice_what_is_minded(name):
    report = whole(name)
    even = levels_of(report)
    for said in LIKINGS:
        codes = minded(wish(**said))
        liked = levels_of(report, codes)
        assert liked.key[:-1] == even.key[:-1]
        more = {"act": 10, "look": 3}
        told = sum(more.get(f.severity, 0) for f in report.findings if f.code in codes)
        assert liked.rest - even.rest == (TIMES - 1) * told


def test_of_two_setups_alike_the_rider_gets_the_one_he_likes():
    quiet = [f for f in whole("hollowood").findings if f.severity == "ok"]
    hard, soft = (replace(whole("hollowood"), findings=(*quiet, look(c))) for c in ("packs", "bottoms_click"))
    assert levels_of(hard) == levels_of(soft)
    for feel, better, worse in (("plush", soft, hard), ("stiff", hard, soft)):
        codes = minded(wish(feel=feel))
        assert levels_of(better, codes).key < levels_of(worse, codes).key
    # but never at the price of anything that can hurt, or of the finish
    danger = replace(soft, findings=(*soft.findings, look("trail_short"), look("fluid_close")))
    assert levels_of(hard, minded(wish(feel="plush"))).key < levels_of(danger, minded(wish(feel="plush"))).key


def test_he_aims_at_his_half_of_a_sag_as_far_as_it_is_known():
    report = whole("gannach")
    low, high = report.bands[SAG]
    halves = {f: aimed(report.bands, wish(feel=f)) for f in ("even", "plush", "stiff")}
    assert halves["even"] == report.bands
    # more sag rides deeper: plush
    assert halves["plush"][SAG] == (pytest.approx((low + high) / 2), high)
    assert halves["stiff"][SAG] == (low, pytest.approx((low + high) / 2))
    free = "chassis.rear.free_sag"
    assert halves["plush"][free] == halves["stiff"][free] == report.bands[free], "free sag tells of the spring"

    def more(apart):
        """What his half adds to the risk, of a sag near the deep end that is known so well."""
        value = high - 0.001
        figure: Figure = replace(report.figures[SAG], value=value, low=value - apart, high=value + apart)
        seen = replace(report, figures=report.figures | {SAG: figure})
        even = risk(seen, report.bands)
        return {f: risk(seen, report.bands | {SAG: halves[f][SAG]}) - even for f in FEELS}

    assert more(0.0002) == {"plush": pytest.approx(0.0, abs=1e-6), "stiff": pytest.approx(1.0, abs=1e-6)}
    # what nobody measured is nothing to aim at
    assert max(more(0.05).values()) - min(more(0.05).values()) < 0.05


@pytest.mark.parametrize("said", LIKINGS, ids=str)
def test_a_plan_made_for_a_liking_is_no_leaner_and_no_less_safe(said):
    inputs, ranges = demo_inputs("gannach"), demo_report("gannach").sensitivities
    plain, liked = (propose(inputs, wish(**w), cache=CACHE, sensitivities=ranges) for w in ({}, said))
    assert liked.after.key[:-1] <= plain.after.key[:-1]
    assert not is_leaner(inputs, liked.setup, CACHE)
    assert liked.after.key <= liked.before.key


@pytest.mark.parametrize("name", ["brackenmere", "saltern"])
def test_a_school_of_springs_weighs_in_the_risk_alone_and_by_how_likely_the_spring_is_another(name):
    report = whole(name)
    assert report.ask(fitted_by, "two_sag") == {}
    for school in ("chart", "frequency"):
        bands = report.ask(fitted_by, school)
        assert bands.keys() == {f"chassis.{end}.rate_true" for end in ("front", "rear")}
        figure, (low, high) = report.figures["chassis.rear.rate_true"], bands["chassis.rear.rate_true"]
        more = risk(report, report.bands | {"chassis.rear.rate_true": (low, high)}) - risk(report, report.bands)
        # by a normal law of the same 90 % range, in steps
        sd = (figure.high - figure.low) / (2.0 * 1.6449)
        inside = NormalDist(figure.value, sd).cdf(high) - NormalDist(figure.value, sd).cdf(low)
        assert more == pytest.approx(1.0 - inside, abs=1e-4)


def test_a_plan_by_another_school_is_no_worse_in_any_level():
    inputs, ranges = demo_inputs("brackenmere"), demo_report("brackenmere").sensitivities
    leave = [s for s in STATIONS if s != "chassis"]
    plans = {
        school: propose(inputs, wish(school=school, leave=leave), cache=CACHE, sensitivities=ranges)
        for school in ("two_sag", "chart", "frequency")
    }
    assert len({p.after.key for p in plans.values()}) == 1
