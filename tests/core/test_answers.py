"""What a trial's runs say beside the lap: sectors, several of one day, two riders' scores, a typed sheet."""

import json

import numpy as np
import pytest

from lynxwort.cli.main import main
from lynxwort.core.errors import InputRefused
from lynxwort.core.model.trials import ASPECTS, Trial
from lynxwort.core.physics.course.export import write_gpx
from lynxwort.core.physics.course.gpx import read_ridden
from lynxwort.core.physics.trials.lapsheet import read_sheet
from lynxwort.core.physics.trials.timing import clock_offset, pair_taps
from lynxwort.core.standin.session import recorded, ride
from lynxwort.core.stations.trials.answer import answer_among, answer_of
from lynxwort.core.stations.trials.compare import compared
from lynxwort.core.stations.trials.scored import agreed
from lynxwort.demo import scenario

PLAN = {"rider": "Wren", "changes": 1, "kind": "gearing", "order": "ABBAABBA", "lap_s": 288.0, "hoped_share": 0.02}


def ridden(seed, effect=0.0, name="t", question="rear_sprocket_teeth=50", **more):
    facts = {k: more.pop(k) for k in ("day", "rider", "outcome", "order") if k in more}
    trial = Trial.model_validate(PLAN | {"id": name, "question": question, "day": "2026-10-24"} | facts)
    return trial.model_copy(update={"runs": ride(trial, seed, effect_share=effect, **{"lap_sd": 0.008} | more)})


def swapped(trial):
    """The same times with the two settings' names exchanged."""
    other = {"A": "B", "B": "A"}
    runs = tuple(r.model_copy(update={"setting": other[r.setting]}) for r in trial.runs)
    return trial.model_copy(update={"runs": runs, "order": "".join(other[c] for c in trial.order)})


def test_sectors_say_where_it_was_won():
    """The stand-in gains in the second half alone: there the sectors are quicker, before it they are even."""
    first, second = [], []
    for seed in range(30):
        said = answer_of(ridden(seed, -0.03, sectors=8, lap_sd=0.004))
        assert [s.number for s in said.sectors] == list(range(1, 9))
        first.append(sum(s.effect_s for s in said.sectors[:4]))
        second.append(sum(s.effect_s for s in said.sectors[4:]))
    assert np.mean(first) == pytest.approx(0.0, abs=0.6)
    assert np.mean(second) == pytest.approx(-0.03 * 288.0, abs=0.6)
    assert said.along[0].sum_s == said.along[0].half_s == 0.0
    assert said.along[-1].sum_s == pytest.approx(sum(s.effect_s for s in said.sectors))
    assert np.all(np.diff([a.half_s for a in said.along]) > 0)
    there, back = answer_of(ridden(3, -0.03, sectors=8)), answer_of(swapped(ridden(3, -0.03, sectors=8)))
    for a, b in zip(there.sectors, back.sectors, strict=True):
        assert np.sign(a.effect_s) == -np.sign(b.effect_s)
    assert answer_of(ridden(3, -0.03)).sectors == ()


def test_a_sector_is_seldom_named_for_nothing():
    """Of laps that nothing changed, at most one in ten has any sector that is named, all sectors together."""
    named = sum(any(s.is_named for s in answer_of(ridden(seed, sectors=8)).sectors) for seed in range(150))
    assert named / 150 <= 0.10 + 3 * np.sqrt(0.09 / 150)


def test_one_of_several_is_judged_with_all_of_them():
    """What is proven alone need not be among five; another day's, another rider's or another thing's trial counts not."""
    last = next(t for k in range(99) if 0.03 < answer_of(t := ridden(k, -0.01, name="last")).effect.p < 0.09)
    assert answer_of(last).verdict == "keep"
    nothing = [ridden(60 + k, name=f"n{k}", question=f"rear_sprocket_teeth={k}", outcome="left") for k in range(45, 49)]
    said = answer_among(last, [*nothing, last])
    assert (said.verdict, said.several, said.is_one_of_several) == ("not_proven", 5, True)
    assert said.several_p == pytest.approx(min(5 * answer_of(last).effect.p, 1.0))
    assert answer_among(last, [last, *nothing[::-1]]) == said
    for other in ({"day": "2026-10-25"}, {"rider": "Isk"}, {"question": "main_jet=1"}):
        assert answer_among(last, [t.model_copy(update=other) for t in nothing]).verdict == "keep"
    sure = ridden(1, -0.05, name="sure")
    assert answer_among(sure, nothing).verdict == "keep"


def scored(trial, by_setting):
    runs = tuple(r.model_copy(update={"scores": by_setting[r.setting]}) for r in trial.runs)
    return trial.model_copy(update={"runs": runs})


def test_riders_agree_wholly_or_not_at_all():
    mine = {
        "A": dict(zip(ASPECTS, (3, 4, 5, 6, 7), strict=True)),
        "B": dict(zip(ASPECTS, (5, 5, 4, 8, 7), strict=True)),
    }
    other = {"A": mine["B"], "B": mine["A"]}
    first = scored(ridden(1), mine)
    wholly = agreed(first, scored(ridden(2, rider="Isk"), mine))
    assert (wholly.same, wholly.of) == (4, 4)  # the fifth aspect neither finds changed
    assert wholly.icc == pytest.approx(1.0)
    turned = agreed(first, scored(ridden(2, rider="Isk"), other))
    assert (turned.same, turned.of) == (0, 4)
    assert turned.icc < 0.0
    assert agreed(first, scored(ridden(2, order="ABBA"), mine)).icc is None  # four runs are too few for a number
    assert agreed(first, first.model_copy(update={"runs": ()})).rows == ()


@pytest.mark.parametrize(
    ("text", "times"),
    [
        ("lap,time,setting,note\n1,5:01.4,a,the ford\n2,301,B\n", [301.4, 301.0]),
        ("note;setting;time\n;B;5:01,4\n;;4 min\n", [301.4, 240.0]),
        ("\ufeff1,4:59\n\n2,300.5,A\n", [299.0, 300.5]),
        ("lap\trun\ttime s\n1\t1\t287.312\n", [287.312]),
    ],
)
def test_a_sheet_of_laps_is_read_as_it_was_typed(text, times):
    assert [lap.time_s for lap in read_sheet(text)] == pytest.approx(times)


@pytest.mark.parametrize(
    ("text", "code", "path"),
    [
        ("lap,time\n1,4:59\n2,soon\n", "not_a_lap_time", "line.3"),
        ("1,-300\n", "not_a_lap_time", "line.1"),
        ("1,1\n", "not_a_lap_time", "line.1"),
        ("1,4:59,A\n2,4:58,C\n", "not_a_setting", "line.2"),
        ("lap,time\n", "no_rows", "file"),
        ("", "no_rows", "file"),
        ("1,300\n" * 201, "too_many_rows", "file"),
        ("\n" * 5_000_000, "too_many_rows", "file"),
    ],
)
def test_a_sheet_that_cannot_be_read_says_where(text, code, path):
    with pytest.raises(InputRefused) as refused:
        read_sheet(text)
    assert [(r.code, r.path) for r in refused.value.refusals] == [(code, path)]


def test_two_sessions_are_told_apart_by_welch():
    """Shifted laps are found shifted, the other way round with the other sign; one lap is too few."""
    first, second = ridden(4), ridden(5)
    there, back = compared((first, "A"), (second, "A")), compared((second, "A"), (first, "A"))
    assert np.sign(there.effect.share) == -np.sign(back.effect.share)
    slow = second.model_copy(
        update={"runs": tuple(r.model_copy(update={"time_s": r.time_s * 1.05}) for r in second.runs)}
    )
    far = compared((first, "A"), (slow, "A"))
    assert (far.verdict, far.first.laps) == ("slower", 4)
    assert far.effect.share == pytest.approx((1 + there.effect.share) * 1.05 - 1)
    few = first.model_copy(update={"runs": first.runs[:1]})
    assert compared((few, "A"), (second, "A")).verdict == "too_few"


def test_a_session_goes_out_as_gpx_lap_by_lap(tmp_path, capsys):
    """Read back, its laps are the same, and each has a segment of its own."""
    track = scenario.track("gannach-meadow")
    (tmp_path / "lap.gpx").write_bytes(write_gpx(track))
    (tmp_path / "in.gpx").write_bytes(recorded(track, [300.0, 290.0, 310.0], 1))
    heard = []
    for file, more in (("in.gpx", ["--gpx", str(tmp_path / "out.gpx")]), ("out.gpx", [])):
        assert main(["laps", str(tmp_path / file), "--course", str(tmp_path / "lap.gpx"), *more]) == 0
        heard.append(json.loads(capsys.readouterr().out))
    assert [lap["time_s"] for lap in heard[0]] == pytest.approx([lap["time_s"] for lap in heard[1]], abs=0.01)
    cut, _times = read_ridden((tmp_path / "out.gpx").read_bytes())
    assert len(cut.breaks) == len(heard[0]) - 1


def test_two_clocks_are_set_by_the_quickest_trip():
    """A phone that goes three seconds before the van's clock; a slow answer may shift it by no more than its error."""
    offset, error = clock_offset([(103.0, 100.9, 104.6), (110.0, 107.02, 110.06), (120.0, 117.5, 121.0)])
    assert offset == pytest.approx(-3.01)
    assert error == pytest.approx(0.03)
    rng = np.random.default_rng(1)
    for _ in range(200):
        there, back, lies = rng.exponential(0.05), rng.exponential(0.05), rng.normal(0, 5)
        trip = (lies, there, lies + there + back)
        offset, error = clock_offset([trip])
        assert abs(offset + lies) <= error + 1e-12


def test_taps_at_both_ends_make_laps():
    """A start that nobody ended and an end that nobody started make none; two riders do not cross."""
    assert pair_taps([10.0, 100.0, 400.0], [310.0, 690.0]) == [(1, 0), (2, 1)]
    assert pair_taps([], [5.0]) == []
    assert pair_taps([5.0], [4.0]) == []
    assert pair_taps([300.0, 10.0], [290.0, 20.0, 590.0]) == [(1, 1), (0, 2)]
