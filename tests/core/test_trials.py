"""The shared check values of trials, each through the product's own functions; then what simulation says of the answers.

Source and kind stand beside each value in the file.
"""

import json
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import optimize, stats

from lynxwort.core.model.trials import Trial
from lynxwort.core.physics.trials import design, effects, growth, learning, looks, scores, timing
from lynxwort.core.standin.session import ride
from lynxwort.core.stations.trials.input import TrialsInput
from lynxwort.core.stations.trials.learnt import factors
from tests import outside
from tests.sessions import shares_of

VALUES = json.loads((Path(__file__).parents[1] / "data/trials-values.json").read_text())["values"]


def _second(labels):
    return np.array([c == "B" for c in labels])


def _least_squares_low(i):
    y, place = np.array(i["y"]), np.arange(len(i["y"]), dtype=float)
    x = np.column_stack([np.ones(y.size), _second(i["labels"]), place - place.mean()])
    beta = np.linalg.lstsq(x, y, rcond=None)[0]
    se = np.sqrt(np.sum((y - x @ beta) ** 2) / (y.size - 3) * np.linalg.inv(x.T @ x)[1, 1])
    return beta[1] - stats.t.ppf(0.95, y.size - 3) * se


def _pooled(i):
    return effects.pooled(np.array(i["effects"]), np.array(i["se"]))


def _welch(i):
    found = effects.two_sessions(np.array(i["A"], float), np.array(i["B"], float))
    # the test itself is scipy's; what the product makes of it must be the same
    own = stats.ttest_ind(i["B"], i["A"], equal_var=False)
    assert (found.share / found.se, found.df, found.p) == pytest.approx((own.statistic, own.df, own.pvalue))
    return own


def _updated(i):
    return learning.updated(i["model_s"], i["model_sd_s"], i["seen_s"], i["se_s"])


def _t90_low(i):
    d = np.array(i["differences"])
    return float(stats.ttest_1samp(d, 0).confidence_interval(0.90).low)


def _rated(i, form):
    return scores.agreement(np.array(i["targets_by_judges"], float), form)


def _bt(i, k, last=False):
    found, _se = scores.abilities(np.array(i["wins"], float))
    return found[k] / found[-1] if last else found[k]


def _bt7(i, k):
    found, _se = scores.abilities(np.array(i["wins"], float))
    return np.log(found[k] / found[i["reference"] - 1])


DIFFERENCES = {"differences": 0}
CHECKS = {
    "T.pairs.maize.t": lambda i: stats.ttest_1samp(i["differences"], 0).statistic,
    "T.pairs.maize.signflip_count": lambda i: effects.sign_flip(np.array(i["differences"], float)) * 32768,
    "T.pairs.maize.signflip_p": lambda i: effects.sign_flip(np.array(i["differences"], float)),
    "T.pairs.maize.t90_low": _t90_low,
    "T.pairs.sleep.signflip_p": lambda i: effects.sign_flip(np.array(i["B"]) - np.array(i["A"])),
    "T.welch.sleep.t": lambda i: _welch(i).statistic,
    "T.welch.sleep.df": lambda i: _welch(i).df,
    "T.welch.ex1.t": lambda i: _welch(i).statistic,
    "T.blind.tea_3_or_more": lambda i: scores.told_apart_p(3, i["cups"]),
    "T.holm.five.4": lambda i: effects.holm(i["p"])[3],
    "T.holm.five.5": lambda i: effects.holm(i["p"])[4],
    "T.power.two_sample_d05_n64": lambda i: design.power_of(
        i["d"] * np.sqrt(i["per_group"] / 2), 2 * i["per_group"] - 2, i["alpha"]
    ),
    "T.power.paired_d05_n34": lambda i: design.power_of(i["d"] * np.sqrt(i["pairs"]), i["pairs"] - 1, i["alpha"]),
    "T.drift.abba.ci90_low": _least_squares_low,
    "T.sectors.eight.Q": lambda i: _pooled(i).q,
    "T.sectors.eight.se": lambda i: _pooled(i | {"effects": i["effects"]}).se,
    "T.sectors.thirteen.Q": lambda i: _pooled(i).q,
    "T.sectors.thirteen.tau2": lambda i: _pooled(i).tau2,
    "T.sectors.thirteen.se": lambda i: 1 / np.sqrt(sum(1 / (np.array(i["se"]) ** 2 + _pooled(i).tau2))),
    "T.sectors.thirteen.se_hartung_knapp": lambda i: _pooled(i).se,
    "T.looks.default_6_pairs": lambda i: looks.nominal_levels(i["looks_pairs"], i["alpha"])[1],
    "T.looks.mixture_half_width_n8": lambda i: looks.always_valid(i["n"], i["sd"], i["tau"], i["alpha"]),
    "T.model.updated": lambda i: _updated(i).share,
    "T.model.updated_sd": lambda i: _updated(i).sd,
    "T.model.z": lambda i: _updated(i).z,
    "T.model.factor_sd": lambda i: learning.factor_of(i["predicted"], i["seen"], i["se"])[1],
    "T.scores.bt4.2": lambda i: _bt(i, 1),
    "T.scores.bt4.3": lambda i: _bt(i, 2),
    "T.scores.icc11": lambda i: _rated(i, 1),
    "T.scores.icc11_full": lambda i: _rated(i, 1),
    "T.scores.icc31": lambda i: _rated(i, 3),
    "T.scores.icc31_full": lambda i: _rated(i, 3),
    "T.scores.kendall_w": lambda i: scores.ranks_agree(np.array(i["ranks"])),
    "T.timing.crossing": lambda i: timing.crossing(i["gate"], i["from"], i["to"], i["t0_s"], i["t1_s"]),
    "T.timing.error_of_lap": lambda i: timing.between_error(
        i["along_track_sd_m"], i["speed_m_per_s"], i["correlation"]
    ),
    "T.timing.hermite": lambda i: timing.crossing_by_speed(i["s0"], i["s1"], i["v0"], i["v1"], i["dt"], i["gate"]),
    "T.day.depth_500": lambda i: growth.depth_after(i["a0_m"], i["a_max_m"], i["passes"], i["N_e"]),
    "T.day.passes_to_1_2": lambda i: growth.passes_to(i["a0_m"], i["a_max_m"], i["factor"], i["N_e"]),
}


def _by_family(name, i):
    """Values of which the file has several of one kind."""
    if name.startswith(("T.blind.triangle", "T.blind.guess")):
        return scores.right_needed(i.get("tests") or i["runs"], chance=i["chance"], level=i["alpha"])
    if name.startswith("T.power.smallest_seen"):
        return design.smallest_seen(i["pairs"], alpha=i["alpha"], power=i["power"])
    if name.startswith("T.power.pairs_"):
        return design.pairs_needed(i["lap_sd_share"], i["difference_share"], alpha=i["alpha"], power=i["power"])
    if name.startswith("T.scores.bt7"):
        return _bt7(i, int(name[-1]) - 1)
    spending = looks.cautious if "obf" in name else looks.even_handed
    return looks.boundaries(i["looks"], i["alpha"], spending)[int(name[-1]) - 1]


#: stopped after some sixty reweightings where it still moves: held to the fixed point below instead
UNFINISHED = "T.robust.t4.effect"


@pytest.mark.parametrize("value", [v for v in VALUES if v["name"] != UNFINISHED], ids=lambda v: v["name"])
def test_check_value(value):
    made = CHECKS.get(value["name"], lambda i: _by_family(value["name"], i))(value["inputs"])
    assert made == pytest.approx(
        value["expected"], rel=value["tolerance"].get("rel"), abs=value["tolerance"].get("abs")
    )
    outside.seen_value(value, made)


def test_the_robust_fit_is_where_its_equations_hold():
    """Against scipy's root of the same equations (Lange, Little, Taylor 1989). The shared value, -1.5817, lies on the
    way there: what the same steps give after 63 of them.
    """
    (value,) = [v["inputs"] for v in VALUES if v["name"] == UNFINISHED]
    y, place = np.array(value["y"]), np.arange(8.0)
    x = np.column_stack([np.ones(8), _second(value["labels"]), place - place.mean()])

    def equations(at):
        r, s2 = y - x @ at[:3], np.exp(at[3])
        w = 5.0 / (4.0 + r**2 / s2)
        return [*(x.T @ (w * r)), w @ r**2 / s2 - 5.0]

    beta, _covariance, scale = effects.fit_t4(y, x)
    held = optimize.root(equations, [101.0, -1.5, 0.3, 0.0], tol=1e-13)
    assert held.success
    assert beta[1] == pytest.approx(held.x[1], abs=1e-6)
    assert scale == pytest.approx(np.exp(0.5 * held.x[3]), rel=1e-6)
    assert effects.effect_of(y, _second(value["labels"]), place).share == pytest.approx(beta[1])


def test_the_table_of_pairs_needed():
    """TRIALS.md's table, tried there with another library: rows are the lap's sd, columns the true difference."""
    rows = {
        0.01: (None, 24, 14, 8, 5, 4),
        0.015: (None, None, 30, 14, 9, 5),
        0.02: (None, None, None, 24, 14, 8),
        0.03: (None, None, None, None, 30, 14),
    }
    for sd, wanted in rows.items():
        for share, pairs in zip((0.005, 0.0075, 0.01, 0.015, 0.02, 0.03), wanted, strict=True):
            assert design.pairs_needed(sd, share) == pairs, (sd, share)
    assert design.pairs_for_even(0.01, 0.005) == 68


def test_what_a_blind_rider_must_tell():
    """TRIALS.md: needed right at .05, and how often a rider right three times in four passes."""
    assert [scores.right_needed(n) for n in (4, 5, 8, 10, 12, 20)] == [None, 5, 7, 9, 10, 15]
    assert [scores.right_needed(n, chance=1 / 3) for n in (6, 8, 12)] == [5, 6, 8]
    assert scores.seen_when_felt(8, 0.75) == pytest.approx(0.37, abs=0.005)
    assert scores.guessed_p(7, 8) == pytest.approx(9 / 256)
    # riders who agree in all, and such as differ by chance alone: the ends of the scale
    assert scores.words_agree([0, 1, 2, 4], [0, 1, 2, 4], 5) == 1.0
    assert scores.words_agree([0, 0, 1, 1], [0, 1, 0, 1], 2) == pytest.approx(0.0)


def test_orders_balance_and_count_their_changes():
    for seed in range(20):
        blocks = design.order_of("blocks", 8, seed)
        assert blocks in ("ABBA" * 4, "BAAB" * 4)
        assert design.changes_in("ABBA" * 2) == 4
        coin = design.order_of("pairs", 8, seed)
        assert sorted(coin) == sorted("AB" * 8)
        for a, b in design.pairs_of(blocks):
            assert (blocks[a], blocks[b], abs(a - b)) == ("A", "B", 1)
    assert {design.order_of("blocks", 4, s)[0] for s in range(20)} == {"A", "B"}
    assert design.order_of("there_and_back", 1, 3) == "ABA"


@settings(max_examples=60, deadline=None)
@given(
    drift=st.floats(-0.05, 0.05),
    pairs=st.sampled_from([2, 4, 6, 8, 12]),
    base=st.floats(0.5, 2.0),
    seed=st.integers(0, 999),
)
def test_a_drift_alone_is_no_effect_and_names_do_not_matter(drift, pairs, base, seed):
    """Pure even drift gives 0 in blocks; settings named the other way round give the effect with the other sign."""
    order = design.order_of("blocks", pairs, seed)
    place, second = np.arange(len(order), dtype=float), _second(order)
    assert abs(effects.effect_of(base + drift * place, second, place).share) < 1e-9
    y = base + drift * place + np.random.default_rng(seed).normal(0, 0.01, place.size) - 0.02 * second
    found, turned = (effects.effect_of(y, s, place) for s in (second, ~second))
    assert found.share == pytest.approx(-turned.share, abs=1e-9)
    assert (found.low_share, found.high_share) == pytest.approx((-turned.high_share, -turned.low_share), abs=1e-9)


def test_there_and_back_is_the_middle_less_the_mean_of_both_ends():
    found = effects.effect_of(np.array([1.0, 0.97, 1.01]), _second("ABA"), np.arange(3.0))
    assert found.share == pytest.approx(0.97 - 1.005)
    assert found.method == "borrowed"
    assert found.se == pytest.approx(effects.PRIOR_SD * np.sqrt(1.5))  # nothing of its own: all the noise is borrowed


def test_every_level_of_looks_together_is_the_level_asked_for():
    """A million sums by themselves cross the boundaries as often as they may."""
    rng = np.random.default_rng(4)
    steps = rng.normal(size=(400_000, 8)).cumsum(axis=1)
    out = np.zeros(400_000, bool)
    for n, z in zip((4, 6, 8), looks.boundaries([0.5, 0.75, 1.0]), strict=True):
        out |= np.abs(steps[:, n - 1]) > z * np.sqrt(n)
    assert out.mean() == pytest.approx(0.10, abs=0.002)
    assert looks.nominal_levels([4, 6, 8]) == pytest.approx([0.0111, 0.0438, 0.0854], abs=1e-4)


@pytest.mark.parametrize("path", ["borrowed", "t4", "sectors", "flip"])
def test_nothing_changed_is_seldom_called_a_change(path):
    """200 sessions of each path, riders as they differ; 2,000 in the soak. Bounds are what chance leaves of 12 %."""
    says = shares_of(path, sessions=200, seed=11)
    assert says.false <= 0.12 + 3 * np.sqrt(0.12 * 0.88 / 200)
    assert says.covered >= 0.88 - 3 * np.sqrt(0.12 * 0.88 / 200)


def test_sectors_end_where_the_bike_is_fast_and_straight():
    at = np.linspace(0, 4000, 801)
    speed = np.where(np.abs(at - 1900) < 30, 22.0, 10.0)
    gates = timing.sector_gates(at, speed, np.zeros(at.size), 2)
    assert abs(gates[0] - 1900) < 31
    assert gates[-1] == 4000
    assert timing.sector_times(gates, at, at / 10.0).sum() == pytest.approx(400.0)
    assert timing.sector_count(4600, 300) == 10
    assert timing.sector_count(600, 60) == 1


def test_trials_of_a_kind_teach_what_the_models_differences_are_worth():
    """A model that promises twice what is so, found out: the truth lies in the range, which narrows with every trial."""
    order = {"order": "ABBA" * 4, "changes": 1, "kind": "gearing", "lap_s": 300.0, "hoped_share": 0.02, "question": "q"}
    trials, widths = [], []
    for k, promised in enumerate((-0.03, 0.02, -0.04, 0.03)):
        plan = Trial.model_validate(
            order | {"id": f"t{k}", "rider": "Wren", "model_share": promised, "outcome": "left"}
        )
        trials.append(plan.model_copy(update={"runs": ride(plan, k, effect_share=0.5 * promised, lap_sd=0.008)}))
        (found,) = factors(
            TrialsInput(trials=tuple(trials), days=(), rider="Wren", courses=(), laps=1, starters=1, whoops=None)
        )
        widths.append(found.high_factor - found.low_factor)
        assert found.trials == k + 1
        assert found.is_told == (k >= 2)
    assert found.low_factor < 0.5 < found.high_factor < 1.0
    assert widths == sorted(widths, reverse=True)
    assert (
        factors(TrialsInput(trials=tuple(trials), days=(), rider="Isk", courses=(), laps=1, starters=1, whoops=None))
        == []
    )
