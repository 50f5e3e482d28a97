"""What riders usually change where an engine breathes: what is on the list moves nothing, what is put on moves what it says."""

import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import Fitting
from lynxwort.core.model.bike.fittings import USUAL_CHANGES, usual_for
from lynxwort.core.model.fitted import swept_of
from lynxwort.core.physics.fuelling.breathing import mixture_shift
from tests.support import demo_inputs


def with_usual(code, *, on):
    """The first demo with one usual change among what fits, on or off."""
    inputs = demo_inputs()
    change = next(c for c in USUAL_CHANGES if c.code == code)
    engine = inputs.bike.engine
    fitting = Fitting.model_validate(change.fitting(code, engine.displacement_m3))
    bike = inputs.bike.model_copy(
        update={"engine": engine.model_copy(update={"fittings": (*engine.fittings, fitting)})}
    )
    slot = 1 + len(bike.engine.fittings_of(change.place))
    setup = inputs.setup.model_copy(update={change.place: slot} if on else {})
    return change, inputs.model_copy(update={"bike": bike, "setup": setup})


@pytest.mark.parametrize("code", [c.code for c in USUAL_CHANGES])
def test_a_usual_change_moves_nothing_until_it_is_on_and_never_flatters_the_mixture(code):
    """On, it leans the engine by what is said of it (likely: the middle), its range widens the lean end and never lifts it; a
    pull at the dyno would say better. Off, every figure stands to the last bit."""
    plain = evaluate(demo_inputs())
    change, off = with_usual(code, on=False)
    assert {n: f.value for n, f in evaluate(off).figures.items()} == {n: f.value for n, f in plain.figures.items()}
    _change, on = with_usual(code, on=True)
    report = evaluate(on)
    now, was = (r.figures["fuelling.richness_full_densest"] for r in (report, plain))
    likely = 0.5 * sum(change.leaner)
    assert (1.0 + now.value) / (1.0 + was.value) == pytest.approx(1.0 - likely, abs=2e-3)
    # its worst is its leanest: the low end goes down by that, whatever the likely says
    assert (1.0 + now.low) / (1.0 + was.low) <= 1.0 - change.leaner[1] + 0.02
    assert now.low <= now.value - 0.4 * (change.leaner[1] - change.leaner[0])
    power = report.value("drive.top_speed") / plain.value("drive.top_speed") - 1.0
    assert power * (change.power[1] - 1.0) >= -1e-9
    assert change.power[0] <= change.power[1] <= change.power[2]


@pytest.mark.parametrize("code", [c.code for c in USUAL_CHANGES])
def test_what_is_put_on_and_taken_off_again_has_shifted_nothing(code):
    """There and back is once: the likely by itself, the leanest there by the richest back."""
    _change, on = with_usual(code, on=True)
    engine, off = on.bike.engine, demo_inputs().setup
    there, back = mixture_shift(engine, on.setup, off), mixture_shift(engine, off, on.setup)
    assert (1.0 + there[0]) * (1.0 + back[0]) == pytest.approx(1.0, abs=1e-12)
    assert (1.0 + there[1]) * (1.0 + back[2]) == pytest.approx(1.0, abs=1e-12)
    assert back[1] <= back[0] <= back[2]


def test_less_air_that_is_only_assumed_never_lifts_the_lean_end_of_a_map():
    """Injection without airflow sensing: a quiet insert is likely richer, and may as well be no richer at all."""
    inputs = demo_inputs("saltern")
    change = next(c for c in USUAL_CHANGES if c.code == "quiet_insert")
    engine = inputs.bike.engine
    fitting = Fitting.model_validate(change.fitting("quiet", engine.displacement_m3))
    fitted = engine.model_copy(update={"fittings": (*engine.fittings, fitting)})
    slot = 1 + len(fitted.fittings_of("exhaust_insert"))
    then = inputs.setup
    value, low, _high = mixture_shift(fitted, then.model_copy(update={"exhaust_insert": slot}), then)
    assert value > 0.0
    assert low <= 0.0
    # and taking it off again is leaner by all that it may have been
    assert mixture_shift(fitted, then, then.model_copy(update={"exhaust_insert": slot}))[1] < 0.0


def test_a_big_bore_sweeps_more_and_drags_and_burns_more():
    """Swept volume by its share; friction by volume (HANDBOOK 4), so that a lap at the same pace burns more."""
    change, on = with_usual("big_bore", on=True)
    engine = on.bike.engine
    assert swept_of(engine, on.setup) == pytest.approx(change.swept_share * engine.displacement_m3)
    assert swept_of(engine, demo_inputs().setup) == engine.displacement_m3
    plain, big = evaluate(demo_inputs()), evaluate(on)
    assert big.value("range.fuel_per_lap") > plain.value("range.fuel_per_lap")


def test_reeds_are_a_two_strokes_and_an_electric_bike_breathes_nothing():
    assert usual_for("electric") == ()
    assert {c.place for c in usual_for("injected_two_stroke")} - {c.place for c in usual_for("jetted_four_stroke")} == {
        "reeds"
    }
