"""What is asked for is made, and no more: stations, figures alone, views; each curve short enough for a drawing."""

import json
from dataclasses import replace

import numpy as np
import pytest

from lynxwort.core.cache import StageCache
from lynxwort.core.derived.along import MOST_POINTS
from lynxwort.core.evaluate import ALL, VIEWS, evaluate, figures_needed
from lynxwort.core.judging import consequences
from lynxwort.core.report import plain
from lynxwort.core.tunables import TUNABLES, move, neighbour, tunables_of
from lynxwort.demo import scenario
from tests.support import CACHE, demo_inputs, demo_report

RACES = tuple(scenario.SCENARIOS)


def longest(value):
    """The longest list inside plain data."""
    if isinstance(value, dict):
        return max(map(longest, value.values()), default=0)
    return max(len(value), *map(longest, value), 0) if isinstance(value, list) else 0


@pytest.mark.parametrize("race", RACES)
def test_every_view_is_plain_and_short_and_its_words_are_its_docstring(race):
    told = evaluate(demo_inputs(race), cache=CACHE, need=VIEWS)
    assert set(told.views) == set(VIEWS)
    for name, seen in told.views.items():
        data = json.loads(json.dumps(plain(seen), allow_nan=False))
        assert longest(data) <= MOST_POINTS, name
        assert VIEWS[name].__doc__


def test_what_was_not_asked_is_pending_and_what_was_is_the_same():
    whole = demo_report()
    part = evaluate(
        demo_inputs(),
        cache=StageCache(),
        sensitivities=whole.sensitivities,
        need={"chassis", "drive.figures", "views.drive.pull"},
    )
    asked = {n for n in whole.figures if n.startswith(("chassis.", "drive."))}
    assert {n: f for n, f in part.figures.items() if n in asked} == {n: whole.figures[n] for n in asked}
    assert {f.status for n, f in part.figures.items() if n not in asked} == {"pending"}
    assert set(part.figures) == set(whole.figures)
    assert part.of("chassis") == whole.of("chassis")
    assert {f.station for f in part.findings} == {"chassis"}
    assert (part.verdicts["chassis"], part.verdicts["drive"]) == (whole.verdicts["chassis"], "unknown")
    assert list(part.views) == ["views.drive.pull"]
    assert "views" not in part.to_json()
    with pytest.raises(ValueError, match="nothing is called"):
        evaluate(demo_inputs(), cache=CACHE, need={"drive.pull"})
    assert "damping_ride" not in part.behind.up.cache.misses


@pytest.mark.parametrize("race", RACES)
def test_the_outcomes_of_a_notch_are_judged_by_part_of_it_as_by_all_of_it(race):
    inputs, now = demo_inputs(race), demo_report(race)
    for tunable in tunables_of(inputs.bike):
        notch = neighbour(inputs.bike, inputs.setup, inputs.parts, tunable, 1) or neighbour(
            inputs.bike, inputs.setup, inputs.parts, tunable, -1
        )
        if notch is None or TUNABLES[tunable].station == "damping":
            continue
        moved, shown = (
            inputs.model_copy(update={"setup": move(inputs.setup, tunable, notch.value)}),
            TUNABLES[tunable].shows,
        )
        whole, part = (evaluate(moved, cache=CACHE, need=need) for need in (ALL, figures_needed(shown)))
        judged = ([replace(c, half_width=None) for c in consequences(now, r, shown)] for r in (part, whole))
        # no cell shows a range
        assert next(judged) == next(judged), tunable


def test_a_thinned_level_keeps_its_ends_and_its_stops():
    seen = evaluate(demo_inputs(), cache=CACHE, need={"views.range.level", "views.range.lap_ends"}).views
    places, level = seen["views.range.level"]
    assert places[-1] == pytest.approx(seen["views.range.lap_ends"][-1])
    assert np.all(np.diff(places) >= 0.0)
    assert np.all(level[:, 0] <= level[:, 1] + 1e-12)
    assert np.all(level[:, 1] <= level[:, 2] + 1e-12)


def test_what_may_wait_is_pending_until_it_is_known_and_nothing_else_differs():
    inputs, cache = demo_inputs("saltern"), StageCache()
    waits = evaluate(inputs, cache=cache, if_known=("damping",))
    assert waits.is_pending("damping")
    assert waits.verdicts["damping"] == "unknown"
    assert not any(waits.is_pending(station) for station in ALL - {"damping"})
    whole = evaluate(inputs, cache=cache)
    rest = {k: f for k, f in whole.figures.items() if not k.startswith("damping.")}
    assert {k: waits.figures[k] for k in rest} == rest
    # known by now: a jet leaves the ride over the bumps as it is, a click does not
    assert evaluate(inputs, cache=cache, if_known=("damping",)).to_json() == whole.to_json()

    def moved(tunable: str, value: float):
        setup = move(inputs.setup, tunable, value)
        return evaluate(inputs.model_copy(update={"setup": setup}), cache=cache, if_known=("damping",))

    assert not moved("fuel_trim", 0.02).is_pending("damping")
    assert moved("shock_rebound_clicks", 3).is_pending("damping")
