"""Bikes by kind: each stands as such bikes do, what is assumed stays told apart, and costs its width."""

import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.bike.patterns import PATTERNS, completed, first_setup
from lynxwort.core.model.inputs import dump_inputs, load_inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.drive.gearing import radius_of_marking
from lynxwort.core.standin.unraced import unraced
from lynxwort.core.stations.range.candidates import most_sold
from lynxwort.core.tunables import move
from tests.support import demo_inputs


def stood(key: str, engine: str = "", setup: dict | None = None, **said) -> tuple[Bike, Setup]:
    pattern = PATTERNS[key]
    engine = engine or pattern.engines[0]
    sure = {k: v for k, v in pattern.setup.items() if not k.endswith("_rate_n_per_m")}
    jets = {"main_jet": 150.0} if engine.startswith("jetted") else {}
    bike = completed({"name": key, "engine": {"kind": engine} | said.get("of_engine", {})} | said.get("parts", {}), key)
    return Bike.model_validate(bike), Setup.model_validate(first_setup(sure | jets | (setup or {}), key))


@pytest.mark.parametrize("key", PATTERNS)
def test_a_usual_bike_stands_at_the_usual_sags_and_goes_as_fast_as_it_is_geared(key):
    bike, setup = stood(key)
    report = evaluate(unraced(bike, setup))
    figures = {n: f.value for n, f in report.figures.items()}
    # HANDBOOK 6: about a third of the travel behind, a fifth to a third in front, a little of both without the rider
    assert 0.28 <= figures["chassis.rear.race_sag"] / bike.frame.rear_travel_m <= 0.37
    assert 0.18 <= figures["chassis.front.race_sag"] / bike.frame.fork_travel_m <= 0.33
    assert 0.01 <= figures["chassis.rear.free_sag"] / bike.frame.rear_travel_m <= 0.18
    # no faster than the limiter in top gear by hand: v = revs x circumference / ratios
    ratio = bike.transmission.primary_ratio * bike.transmission.gear_ratios[-1]
    ratio *= setup.rear_sprocket_teeth / setup.front_sprocket_teeth
    most = getattr(bike.engine, "limiter_rpm", None) or 1.12 * bike.engine.peak_power_rpm
    by_hand = most / 60.0 * 6.2832 * radius_of_marking(bike.tyre.marking) / ratio
    assert 0.55 * by_hand < figures["drive.top_speed"] <= 1.03 * by_hand
    assert 0.05 < figures["chassis.trail"] < 0.14
    assert figures["chassis.seat_height"] < bike.frame.seat_height_m


@pytest.mark.parametrize("key", PATTERNS)
def test_what_is_assumed_survives_the_document_and_is_told_as_assumed(key):
    for engine in PATTERNS[key].engines:
        inputs = unraced(*stood(key, engine))
        again = load_inputs(dump_inputs(inputs))
        assert (again.bike, again.setup) == (inputs.bike, inputs.setup)
        assert again.bike.assumed == inputs.bike.assumed != ()
        told = {p: basis for p, _v, _u, basis in evaluate(again).figures["chassis.rear.race_sag"].inputs}
        assert told["bike.frame.mass_dry_kg"] == "assumed"
        assert told["setup.shock_spring_rate_n_per_m"] == "assumed"


def test_what_is_said_is_kept_and_narrows_the_answer():
    usual = evaluate(unraced(*stood("four_stroke_450")))
    facts = PATTERNS["four_stroke_450"]
    said = {"of_engine": {"peak_power_w": facts.facts["engine.peak_power_w"]}}
    said["parts"] = {"transmission": dict(facts.bike["transmission"]), "frame": {"mass_dry_kg": 112.0}}
    springs = {k: v for k, v in facts.setup.items() if k.endswith("_rate_n_per_m")}
    bike, setup = stood("four_stroke_450", setup=springs, **said)
    assert setup.assumed == ()
    assert not {"engine.peak_power_w", "frame.mass_dry_kg", "transmission.gear_ratios"} & set(bike.assumed)
    known = evaluate(unraced(bike, setup))

    def width(report, figure):
        f = report.figures[figure]
        return f.high - f.low

    for figure in ("chassis.rear.race_sag", "chassis.front.race_sag", "drive.top_speed", "chassis.axle_load.rear"):
        assert known.figures[figure].value == pytest.approx(usual.figures[figure].value, rel=1e-9)
        assert width(known, figure) < 0.85 * width(usual, figure), figure


def test_a_sag_reading_says_more_of_a_spring_that_nobody_read():
    """The softer the prior, the more of the miss goes to the rate: 10 % against 3 % of its logarithm."""
    moved = {}
    for assumed in (True, False):
        bike, setup = stood("two_stroke_300")
        values = setup.model_dump(exclude_unset=True) | ({} if assumed else {"assumed": ()})
        setup = Setup.model_validate(values)
        base = unraced(bike, setup)
        before = evaluate(base).figures["chassis.rear.race_sag"]
        under = {"setup": setup.model_dump(mode="json", exclude_unset=True), "fuel_aboard_m3": 0.5 * setup.fill_m3}
        reading = {"kind": "sag", "id": "a", "end": "rear", "state": "race", "value_m": before.value + 0.012}
        document = dump_inputs(base) | {"readings": [reading | {"under": under}]}
        after = evaluate(load_inputs(document)).figures["chassis.rear.race_sag"]
        moved[assumed] = after.value - before.value
        assert after.high - after.low < before.high - before.low
    assert moved[True] > moved[False] > 0.0


def test_a_spring_that_is_set_is_known_and_the_other_stays_assumed():
    _bike, setup = stood("two_stroke_300")
    moved = move(setup, "fork_spring_rate_n_per_m", 4400.0)
    assert moved.assumed == ("shock_spring_rate_n_per_m",)


def test_no_pack_is_offered_that_no_such_bike_carries():
    """A 26.5 kWh pack on a bike of 90 kg: at 150 Wh/kg it would weigh twice the bike."""
    vole, pack_kwh = demo_inputs("hollowood").bike, 1.0 / 3.6e6
    light = vole.frame.model_copy(update={"mass_dry_kg": 90.0})
    assert 5.0 < most_sold("pack_energy_j", light) * pack_kwh < 8.0
    for holder in ("pack_energy_j", "tank_capacity_m3"):
        heavier = vole.frame.model_copy(update={"mass_dry_kg": 150.0})
        assert most_sold(holder, heavier) > most_sold(holder, light)
    inputs = demo_inputs("hollowood")
    race = inputs.race.model_copy(
        update={"stages": (inputs.race.stages[0].model_copy(update={"laps": 12, "refuel_points": ()}),)}
    )
    report = evaluate(inputs.model_copy(update={"race": race}))
    offered = [m.value for f in report.findings for p in f.proposals for m in p if m.tunable == "pack_energy_j"]
    most = most_sold("pack_energy_j", inputs.bike.frame)
    assert all(v <= most or v in inputs.parts.owned("pack_energy_j") for v in offered)
    assert any(f.station == "range" and f.severity == "act" for f in report.findings)
