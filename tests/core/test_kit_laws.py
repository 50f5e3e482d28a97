"""Laws of Kit's second half by their invariants: what must grow, fall, balance or come back, for whatever is put in; and
the same on whole documents.
"""

import itertools
from dataclasses import replace
from math import exp, inf

import numpy as np
import pytest
from hypothesis import given as holds
from hypothesis import settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from lynxwort.core.asks import running
from lynxwort.core.derived.along import MOST_POINTS
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import Kit, needs
from lynxwort.core.model.bike.catalogue import CATALOGUE
from lynxwort.core.model.bike.electrics import FUSES_A
from lynxwort.core.model.bike.spares import SPARES
from lynxwort.core.model.days import checked_day, days_between
from lynxwort.core.model.inputs import dump_inputs, load_inputs
from lynxwort.core.model.race import Zone
from lynxwort.core.model.readings import GeneratorReading, SoundReading, Under
from lynxwort.core.physics.kit import coolant, cooling, electrics, kernel, sound, spares, work
from lynxwort.core.stations.kit import building, candidates, pieces, sounding, view
from lynxwort.core.stations.kit import cooling as heat
from lynxwort.core.stations.kit import electrics as current
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import TUNABLES, item_tunable, move
from lynxwort.words.kit import CATALOGUE as NAMES
from lynxwort.words.kit import ready
from tests.support import CACHE, demo_inputs, demo_report

quick = settings(max_examples=40, deadline=None)
pressures, shares = st.floats(5e4, 4e5), st.floats(0.0, 0.7)
radiators = st.builds(
    cooling.Radiator,
    face_m2=st.floats(0.01, 0.09),
    depth_m=st.floats(0.015, 0.05),
    air_share=st.floats(0.4, 1.1),
    film_factor=st.floats(0.6, 1.0),
    holds=st.floats(3200.0, 4205.0),
    heat_j_per_k=st.floats(6000.0, 16_000.0),
    thermostat=st.booleans(),
    fan_m3_per_s=st.sampled_from([0.0, 0.03, 0.05, 0.1]),
)


def given(inputs):
    return KitInput.of(Upstream.of(inputs, CACHE))


def lap_of(seed, n=240):
    """A made-up lap: time, heat, speed, revs, air, density."""
    rng = np.random.default_rng(seed)
    speed = np.clip(9.0 + 8.0 * np.sin(np.linspace(0.0, 9.0, n)) + rng.normal(0.0, 1.5, n), 0.0, None)
    return {
        "time_s": rng.uniform(0.2, 4.0, n),
        "heat_w": rng.uniform(500.0, 9000.0, n),
        "speed_m_per_s": speed,
        "rpm": rng.uniform(1500.0, 9000.0, n),
        "air_k": rng.uniform(275.0, 308.0, n),
        "density_kg_per_m3": rng.uniform(0.9, 1.3, n),
    }


# coolant ---------------------------------------------------------------------------------------------------------------
@quick
@holds(pressures, shares, st.floats(1.001, 1.5), st.floats(0.01, 0.2))
def test_more_pressure_and_more_glycol_boil_later(pressure, share, more, glycol):
    plain = coolant.boils_at(pressure, share)
    assert coolant.boils_at(pressure * more, share) > plain
    assert coolant.boils_at(pressure, min(share + glycol, 0.8)) > plain
    assert 0.0 <= coolant.mole_share(share) <= share
    assert coolant.freezes_at(min(share + glycol, 0.7)) <= coolant.freezes_at(share)
    # the mixture's own pressure there is the one asked for
    few = coolant.mole_share(share)
    own = (1 - few) * coolant.water_saturation(plain) + few * coolant.glycol_saturation(plain)
    assert own == pytest.approx(pressure, rel=1e-6)


@quick
@holds(st.lists(pressures, min_size=1, max_size=6), st.sampled_from([0.0, 0.3, 0.5, 0.65]))
def test_the_curve_along_a_lap_is_the_law(found, share):
    exact = [coolant.boils_at(p, share) for p in found]
    assert coolant.boils_along(np.array(found), share) == pytest.approx(exact, abs=0.01)


@quick
@holds(st.floats(0.05, 6.0), st.floats(0.0, 1.0), st.floats(1.01, 3.0))
def test_an_exchanger_gives_no_more_than_there_is(units, ratio, more):
    found = cooling.effectiveness(units, ratio)
    assert 0.0 < found < 1.0
    assert cooling.effectiveness(units * more, ratio) > found
    assert cooling.effectiveness(units, 0.0) == pytest.approx(1.0 - exp(-units))
    if ratio < 0.9:
        assert cooling.effectiveness(units, min(ratio + 0.05, 1.0)) < found


@quick
@holds(st.floats(100.0, 60_000.0), st.floats(10_000.0, 60_000.0), st.sampled_from(["two_stroke", "four_stroke"]))
def test_heat_into_the_coolant_grows_with_the_fuel_and_never_over_its_share(burnt, full, stroke):
    less, more = cooling.coolant_heat(np.array([burnt, 1.1 * burnt]), full_power_w=full, stroke=stroke)
    assert 0.0 < less < more
    assert less <= cooling.MOST_SHARE * burnt + 1e-9
    # at its highest power the share is that of the stroke
    at_full = cooling.coolant_heat(np.array(full / 0.28), full_power_w=full, stroke=stroke)
    assert float(at_full) / (full / 0.28) == pytest.approx(cooling.COOLANT_SHARE[stroke])


@quick
@holds(radiators, st.floats(0.0, 25.0), st.floats(1500.0, 9000.0), st.floats(0.8, 1.3))
def test_more_air_more_revs_and_a_larger_face_take_more(made, speed, rpm, density):
    at = {"density_kg_per_m3": density, "speed_m_per_s": speed, "rpm": rpm}
    plain = cooling.conductance(made, **at)
    assert plain > cooling.SKIN_W_PER_K
    assert cooling.conductance(made, **at | {"speed_m_per_s": speed + 3.0}) > plain
    assert cooling.conductance(made, **at | {"rpm": rpm * 1.2}) >= plain
    assert cooling.conductance(made, **at | {"density_kg_per_m3": density * 0.85}) < plain
    assert cooling.conductance(replace(made, face_m2=1.3 * made.face_m2), **at) > plain
    assert cooling.conductance(made, **at, fan=True) >= plain
    # never more than the lesser stream carries, and cases
    air = cooling.air_through(density, speed, made, fan=True) * kernel.AIR_HOLDS
    skin = cooling.SKIN_W_PER_K + cooling.SKIN_BY_SPEED * speed**0.8
    assert cooling.conductance(made, **at, fan=True) <= air + skin + 1e-9


@settings(max_examples=15, deadline=None)
@holds(radiators, st.integers(0, 99), st.floats(300.0, 380.0))
def test_the_table_steps_as_the_law_does(made, seed, start):
    lap = lap_of(seed)
    found, fan = cooling.along(made, **lap, fan_from_k=360.0, start_k=start)
    now, running, exact = start, False, []
    for i in range(found.size):
        if made.fan_m3_per_s:
            running = now > (360.0 - kernel.FAN_FALLS_K if running else 360.0)
        assert fan[i] == running
        speed = lap["speed_m_per_s"][i]
        skin = cooling.SKIN_W_PER_K + cooling.SKIN_BY_SPEED * speed**0.8
        gives = cooling.conductance(made, density_kg_per_m3=lap["density_kg_per_m3"][i], speed_m_per_s=speed,
                                    rpm=lap["rpm"][i], fan=running)  # fmt: skip
        opened = np.clip((now - cooling.OPENS_K) / (cooling.OPEN_K - cooling.OPENS_K), 0.0, 1.0)
        gives = (opened if made.thermostat else 1.0) * (gives - skin) + skin
        to = lap["air_k"][i] + lap["heat_w"][i] / gives
        now = to + (now - to) * exp(-gives * lap["time_s"][i] / made.heat_j_per_k)
        exact.append(now)
        # from what was found, so that a fan that starts a step apart is no other law
        now = found[i]
    assert np.abs(found - exact).max() < 0.05


@settings(max_examples=15, deadline=None)
@holds(radiators, st.integers(0, 99), st.integers(2, 4))
def test_later_rounds_stop_only_where_they_would_repeat_themselves(made, seed, rounds):
    lap, start = lap_of(seed), 345.0
    found, fan = cooling.along(made, **lap, fan_from_k=365.0, start_k=start, rounds=rounds)
    for _round in range(rounds):
        alone, ran = cooling.along(made, **lap, fan_from_k=365.0, start_k=start)
        start = float(alone[-1])
    assert found == pytest.approx(alone, abs=0.02)
    assert (fan == ran).mean() > 0.98


@quick
@holds(st.floats(1500.0, 12_000.0), st.floats(8.0, 60.0), st.floats(270.0, 310.0), st.floats(340.0, 370.0))
def test_a_queue_in_closed_form_is_the_stepped_one(made_w, gives, air, start):
    boils, holds_j = 400.0, 9500.0
    lasts = cooling.time_to(
        boils, from_k=start, heat_w=made_w, conductance_w_per_k=gives, heat_j_per_k=holds_j, air_k=air
    )
    settles = cooling.settles_at(made_w, gives, air)
    if settles <= boils:
        assert lasts == inf
        return
    assert settles + (start - settles) * exp(-gives * lasts / holds_j) == pytest.approx(boils)
    assert cooling.time_to(start, from_k=boils, heat_w=made_w, conductance_w_per_k=gives, heat_j_per_k=holds_j,
                           air_k=air) == 0.0  # fmt: skip


def test_a_fan_stays_on_until_it_has_fallen_seven_kelvin():
    n = 400
    still = {"time_s": np.full(n, 2.0), "speed_m_per_s": np.zeros(n), "rpm": np.full(n, 3000.0),
             "air_k": np.full(n, 295.0), "density_kg_per_m3": np.full(n, 1.2)}  # fmt: skip
    made = cooling.Radiator(face_m2=0.048, depth_m=0.022, air_share=1.0, film_factor=0.78, holds=3573.0,
                            heat_j_per_k=9500.0, thermostat=False, fan_m3_per_s=0.05)  # fmt: skip
    found, fan = cooling.along(made, **still, heat_w=np.full(n, 3000.0), fan_from_k=368.0, start_k=360.0)
    starts = np.flatnonzero(np.diff(fan) > 0)
    stops = np.flatnonzero(np.diff(fan) < 0)
    assert starts.size > 2
    assert stops.size > 1
    assert found[starts] == pytest.approx(368.0, abs=1.0)
    assert found[stops] == pytest.approx(361.0, abs=1.0)


# current ---------------------------------------------------------------------------------------------------------------
@quick
@holds(st.floats(800.0, 3000.0), st.floats(5.0, 80.0), st.floats(1.2, 3.0), st.floats(1.1, 8.0))
def test_a_generator_goes_through_its_two_points(low_rpm, low_w, more_rpm, more_w):
    made = electrics.generator(low_rpm, low_w, low_rpm * more_rpm, low_w * more_w)
    # twice the revs cannot give more than a lossless one would
    assert made is not None
    assert float(made.power(low_rpm)) == pytest.approx(low_w, rel=1e-9)
    assert float(made.power(low_rpm * more_rpm)) == pytest.approx(low_w * more_w, rel=1e-9)
    assert float(made.power(0.99 * made.cut_in_rpm)) == 0.0
    revs = np.linspace(500.0, 12_000.0, 60)
    assert (np.diff(made.power(revs)) >= 0.0).all()
    assert made.power(revs).max() < made.most_w
    more = made.with_turns(1.25)
    near = 1.05 * made.cut_in_rpm
    assert float(more.power(near)) > float(made.power(near)), "more turns, more at idle"
    assert more.most_w < made.most_w


@quick
@holds(st.lists(st.floats(-60.0, 60.0), min_size=2, max_size=60), st.floats(5e3, 2e5), st.floats(0.0, 1.0))
def test_a_battery_is_never_under_nothing_nor_over_full(net, holds_j, filled):
    time = np.full(len(net), 30.0)
    along = electrics.battery_along(time, np.array(net), holds_j=holds_j, start_j=filled * holds_j)
    assert along.min() >= 0.0
    assert along.max() <= holds_j
    emptier = electrics.battery_along(time, np.array(net) - 5.0, holds_j=holds_j, start_j=filled * holds_j)
    assert (emptier <= along + 1e-9).all()
    changes = np.diff(np.concatenate([[filled * holds_j], along]))
    given_w = np.where(np.array(net) > 0.0, electrics.CHARGES, 1.0) * np.array(net) * 30.0
    assert (np.abs(changes) <= np.abs(given_w) + 1e-6).all()


@quick
@holds(st.floats(0.1, 40.0))
def test_the_fuse_is_the_next_that_is_sold_and_never_more_than_its_wire(amps):
    found = electrics.fuse_for(amps)
    if found is None:
        assert electrics.FUSE_OVER * amps > FUSES_A[-1]
    else:
        assert found >= electrics.FUSE_OVER * amps - 1e-9
        below = [f for f in FUSES_A if f < found]
        assert not below or below[-1] < electrics.FUSE_OVER * amps
    most = [electrics.most_fuse(a * 1e-6) for a in (0.3, 0.5, 0.75, 1.0, 1.5, 2.5, 6.0)]
    assert most == sorted(most)
    assert set(most) <= set(FUSES_A)


@quick
@holds(st.floats(5.0, 300.0), st.floats(0.8, 5.0), st.floats(0.5, 3.0))
def test_one_stops_within_what_one_sees(reach, slows, react):
    speed = float(electrics.speed_by_light(reach, slows, react))
    assert speed == pytest.approx(brentq(lambda v: v * react + v * v / (2 * slows) - reach, 0.0, 200.0), rel=1e-6)
    assert float(electrics.speed_by_light(reach, slows * 0.8, react)) < speed
    assert float(electrics.speed_by_light(reach * 1.1, slows, react)) > speed


def test_cold_and_thin_copper_cost_voltage():
    for kind in electrics.BATTERIES:
        warm, cold = (electrics.resting(kind, t) for t in (293.15, 263.15))
        assert cold[1] == pytest.approx(2.0 * warm[1])
        assert electrics.resting(kind, 323.15)[1] == warm[1]
    loss = [electrics.drop(5.0, length_m=1.5, copper_m2=a * 1e-6, temperature_k=293.15) for a in (0.5, 0.75, 1.5)]
    assert loss[0] == pytest.approx(3.0 * loss[2])
    assert loss == sorted(loss, reverse=True)
    assert electrics.drop(5.0, length_m=1.5, copper_m2=1e-6, temperature_k=353.15) > electrics.drop(
        5.0, length_m=1.5, copper_m2=1e-6, temperature_k=293.15
    )
    # ASTM B258, from memory: three gauges halve the copper, six the diameter
    assert electrics.gauge_area(13) / electrics.gauge_area(10) == pytest.approx(0.5, abs=0.005)
    assert electrics.gauge_area(16) / electrics.gauge_area(10) == pytest.approx(0.25, abs=0.005)


# sound, work, spares ----------------------------------------------------------------------------------------------------
@quick
@holds(st.floats(60.0, 115.0), st.floats(30.0, 110.0), st.floats(0.3, 10.0), st.floats(0.3, 10.0))
def test_levels_come_back(level, other, near, far):
    both = sound.added([level, other])
    assert max(level, other) < both <= max(level, other) + 3.02
    assert sound.without(both, other) == pytest.approx(level, abs=1e-3 if level > other - 25.0 else 1.0)
    there = sound.at_distance(level, from_m=near, to_m=far)
    assert sound.at_distance(there, from_m=far, to_m=near) == pytest.approx(level)
    assert sound.at_distance(level, from_m=near, to_m=2.0 * near) == pytest.approx(level - 6.0206, abs=1e-4)
    assert sound.without(other, other + 1.0) is None
    quicker = sound.at_revs(level, from_rpm=4000.0, to_rpm=4100.0)
    assert quicker - level == pytest.approx(0.3, abs=0.03), "a tachometer 100 rpm off is 0.3 dB"


def test_revs_of_each_kind_of_test():
    known = {"stroke": "two_stroke", "rated_rpm": 8500.0, "limiter_rpm": 9350.0}
    for test, expected in (
        ("rated_half_metre", 4250.0),
        ("piston_speed", 13.0 * 30.0 / 0.072),
        ("stroke_revs", 306_000.0 / 72.0),
        ("two_metre_max", 9350.0),
    ):
        assert sound.revs_of_test(test, stroke_m=0.072, **known) == pytest.approx(expected)
    assert sound.revs_of_test("rated_half_metre", stroke_m=None, **known | {"rated_rpm": 4800.0}) == 3600.0
    assert sound.revs_of_test("piston_speed", stroke_m=None, **known) is None
    four = known | {"stroke": "four_stroke"}
    assert sound.revs_of_test("piston_speed", stroke_m=0.0576, **four) == pytest.approx(11.0 * 30.0 / 0.0576)
    # the law of mean piston speed, the other way round
    assert 2.0 * 0.072 * sound.piston_rpm(11.0, 0.072) / 60.0 == pytest.approx(11.0)


jobs_of = st.lists(st.tuples(st.floats(0.2, 6.0), st.floats(0.0, 12.0), st.sets(st.integers(0, 5))), min_size=1,
                   max_size=6)  # fmt: skip


@quick
@holds(jobs_of, st.floats(0.5, 9.0))
def test_a_part_that_is_later_or_a_job_more_never_ends_sooner(rows, more):
    jobs = [
        work.Job(id=str(i), takes_s=h, arrives_s=late, after=tuple(str(a) for a in sorted(before) if a < i))
        for i, (h, late, before) in enumerate(rows)
    ]
    length, slack = work.critical(jobs)
    for i, job in enumerate(jobs):
        later = [replace(j, arrives_s=j.arrives_s + more) if j.id == job.id else j for j in jobs]
        assert work.critical(later)[0] >= length - 1e-9
        assert work.critical([*jobs, work.Job(id="more", takes_s=more, after=(str(i),))])[0] >= length - 1e-9
        # within its slack a job may take longer without moving the end
        longer = [replace(j, takes_s=j.takes_s + 0.99 * slack[j.id]) if j.id == job.id else j for j in jobs]
        assert work.critical(longer)[0] == pytest.approx(length)
    assert {j.id for j in work.in_order(jobs)} == {j.id for j in jobs}


@quick
@holds(st.lists(st.tuples(st.floats(0.0, 30.0), st.integers(1, 400)), min_size=1, max_size=10), st.integers(0, 900))
def test_a_larger_bag_is_never_worse_and_what_is_worth_nothing_stays_at_home(items, capacity):
    values, grams = zip(*items, strict=True)

    def worth(size):
        return sum(values[i] for i in spares.best(values, grams, size))

    assert worth(capacity) <= worth(capacity + 100) + 1e-9
    chosen = spares.best(values, grams, capacity)
    assert len(chosen) == len(set(chosen))
    assert all(values[i] > 0.0 for i in chosen)
    # nothing that was left would still go in
    room = capacity - sum(grams[i] for i in chosen)
    left = [i for i in range(len(values)) if i not in chosen and values[i] > 1e-9]
    assert all(grams[i] > room for i in left)


@quick
@holds(st.floats(0.0, 0.5), st.floats(0.0, 90_000.0))
def test_failures_are_chances_that_grow_with_time_and_fall_with_number(rate, lasts):
    once, twice = spares.fails(rate, lasts), spares.fails(rate, lasts, times=2)
    assert 0.0 <= twice <= once < 1.0
    assert spares.fails(rate, lasts + 3600.0) >= once
    assert once == pytest.approx(1.0 - exp(-rate * lasts / 3600.0), abs=1e-12)


def test_every_rule_of_what_a_race_asks_for_can_be_reached_and_left():
    calm = needs.RaceFacts(shares={"loam": 1.0}, race_m=20_000.0, top_m_per_s=18.0, dark_m=0.0, waits_s=0.0,
                           alone_m=5000.0, road=False, plain_tubes=False)  # fmt: skip
    assert needs.wanted(calm) == []
    wild = needs.RaceFacts(shares={"rock": 0.3, "single_track": 0.4}, race_m=900_000.0, top_m_per_s=35.0,
                           dark_m=4000.0, waits_s=900.0, alone_m=200_000.0, road=True, plain_tubes=True)  # fmt: skip
    found = needs.wanted(wild)
    assert {w.why for w in found} == {r.why for r in needs.RULES} == set(ready.WHYS)
    assert [w.need for w in found] == sorted((w.need for w in found), key=lambda n: n != "must")
    known = {i.id for i in CATALOGUE}
    for rule in needs.RULES:
        assert set(rule.items) <= known
        assert all(i in NAMES for i in rule.items)
    # each by itself
    for change, why in (({"dark_m": 1.0}, "dark"), ({"road": True}, "road"), ({"waits_s": 500.0}, "waits"),
                        ({"alone_m": 70_000.0}, "alone"), ({"shares": {"rock": 0.06, "loam": 0.94}}, "rock_under")):  # fmt: skip
        musts = {w.why for w in needs.wanted(replace(calm, **change)) if w.need == "must"}
        assert musts == {why}


def test_days_are_days():
    assert checked_day(None) is None
    assert checked_day("2028-02-29") == "2028-02-29"
    for wrong in ("2027-02-29", "2027-13-01", "soon", "2027-4-2", "2027-04", "20270402", "", "2027-04-02T10:00"):
        with pytest.raises(ValueError, match="not_a_day"):
            checked_day(wrong)
    assert days_between("2027-03-28", "2027-04-02T07:30") == 5
    assert days_between("2027-04-02", "2027-03-28") == 0
    assert days_between("2027-12-31", "2028-03-01") == 61


# on whole documents -----------------------------------------------------------------------------------------------------
BIKES = ("brackenmere", "saltern", "gannach")


def set_to(inputs, **values):
    for name, value in values.items():
        inputs = inputs.model_copy(update={"setup": move(inputs.setup, name, value)})
    return inputs


@pytest.mark.parametrize("name", [*BIKES, "hollowood"])
def test_what_is_said_as_it_is_assumed_changes_nothing_to_the_last_bit(name):
    """Every new field written out with its default."""
    plain = demo_inputs(name)
    document = dump_inputs(plain)
    kit = document["bike"].setdefault("kit", {})
    whole = Kit.model_validate(kit).model_dump(mode="json")
    for part in ("cooling", "electrics", "bag_kg", "toolbox_kg", "chase_truck", "build_day_s"):
        kit[part] = whole[part]
    for item in kit["items"]:
        item |= {k: v for k, v in next(i for i in whole["items"] if i["id"] == item["id"]).items() if k not in item}
    for stage in document["race"]["stages"]:
        stage |= {"crawling_s": stage.get("crawling_s", 0.0), "standing_s": stage.get("standing_s", 0.0)}
    document["race"].setdefault("asked", [])
    if name != "hollowood":
        document["setup"] |= {
            "cap_pa": 1.1e5,
            "glycol_share": 0.5,
            "thermostat": 1,
            "tape_share": 0.0,
            "crawl_share": 1.0,
        }
    said = evaluate(load_inputs(document | {"courses": plain.courses}), cache=CACHE)
    before = evaluate(plain, cache=CACHE)
    assert {n: (f.value, f.low, f.high, f.status) for n, f in said.figures.items()} == {
        n: (f.value, f.low, f.high, f.status) for n, f in before.figures.items()
    }


@pytest.mark.parametrize("name", BIKES)
def test_each_notch_of_the_coolant_moves_what_it_should(name):
    plain = demo_inputs(name)
    now = evaluate(plain, cache=CACHE)

    def after(**values):
        return evaluate(set_to(plain, **values), cache=CACHE)

    cap, water, open_, taped = (after(**v) for v in ({"cap_pa": 1.6e5}, {"glycol_share": 0.2}, {"thermostat": 0.0},
                                                     {"tape_share": 0.5}))  # fmt: skip
    assert cap.value("kit.cooling.hottest") == now.value("kit.cooling.hottest")
    assert cap.value("kit.cooling.boiling") > now.value("kit.cooling.boiling") > water.value("kit.cooling.boiling")
    assert water.value("kit.cooling.freezes") > now.value("kit.cooling.freezes")
    assert open_.value("kit.cooling.median") < now.value("kit.cooling.median")
    assert taped.value("kit.cooling.hottest") > now.value("kit.cooling.hottest")
    assert taped.value("kit.cooling.crawl_settles") > now.value("kit.cooling.crawl_settles")
    slower = after(crawl_share=0.8)
    assert slower.value("kit.cooling.crawl_settles") < now.value("kit.cooling.crawl_settles")
    # none of it touches the ride, the mixture, or anything of another station
    for other in (cap, water, open_, taped, slower):
        moved = {n for n, f in other.figures.items() if f.value != now.figures[n].value}
        assert all(n.startswith(("kit.cooling.", "kit.elec.")) for n in moved), sorted(moved)


@pytest.mark.parametrize("name", BIKES)
def test_the_hottest_hour_is_the_hottest_and_what_was_drawn_is_what_is_told(name):
    g, report = given(demo_inputs(name)), evaluate(demo_inputs(name), cache=CACHE)
    hot, cold = heat.warmth(g), heat.warmth(g, hot=0.0)
    assert hot.coolant_k.max() >= cold.coolant_k.max()
    assert heat.by_time(hot, 0.1) <= heat.by_time(hot, 0.5) <= heat.by_time(hot, 0.9)
    seen = view.heat(g)
    assert seen.coolant_k.size <= MOST_POINTS
    assert seen.coolant_k.max() == pytest.approx(report.value("kit.cooling.hottest"))
    assert seen.boils_k.min() <= report.value("kit.cooling.boiling")
    power = view.current(g)
    assert power.net_w.size == power.last_j.size <= MOST_POINTS
    assert min(power.first_j.min(), power.last_j.min()) == pytest.approx(report.value("kit.elec.battery_low"), abs=1.0)
    assert power.last_j.max() <= power.holds_j


DRAWS = [i for i in CATALOGUE if i.watts_w and not i.air_m3_per_s]


@pytest.mark.parametrize("thing", DRAWS, ids=lambda i: i.id)
def test_whatever_draws_is_missed_by_its_watts_and_its_time(thing):
    bike = demo_inputs("saltern").bike
    listed = [i.model_dump(mode="json", exclude_unset=True) for i in bike.kit.items if i.id != thing.id]
    known = bike.kit.model_dump(mode="json", exclude_unset=True)
    own = thing.model_dump(mode="json", exclude_unset=True)
    kit = Kit.model_validate(known | {"items": [*listed, own]})
    plain = demo_inputs("saltern").model_copy(update={"bike": bike.model_copy(update={"kit": kit})})
    without, with_it = (
        current.balance(given(plain)),
        current.balance(given(set_to(plain, **{item_tunable(thing): 1.0}))),
    )
    loads = {x.name: x for x in with_it.loads}
    assert loads[thing.name].mean_w == pytest.approx(thing.watts_w * thing.duty_share, rel=1e-9)
    # the ride itself moves a little by its mass
    assert without.mean_w - with_it.mean_w == pytest.approx(thing.watts_w * thing.duty_share, abs=0.6)


@pytest.mark.parametrize(("when", "share"), [("always", 1.0), ("night", 0.0), ("stopped", None), ("hot", 0.0)])
def test_a_thing_draws_when_it_is_said_to(when, share):
    grips = {"id": "grips", "name": "grips", "mass_kg": 0.1, "ahead_m": 1.0, "height_m": 1.1, "watts_w": 30.0,
             "when": when}  # fmt: skip
    bike = demo_inputs().bike
    known = bike.kit.model_dump(mode="json", exclude_unset=True)
    inputs = demo_inputs().model_copy(
        update={
            "bike": bike.model_copy(update={"kit": Kit.model_validate(known | {"items": [*known["items"], grips]})})
        }
    )
    seen = current.balance(given(set_to(inputs, kit_on__grips=1.0)))
    way, mean = seen.pieces, next(x.mean_w for x in seen.loads if x.name == "grips")
    stood = way.time_s[way.speed_m_per_s < current.STANDS_M_PER_S].sum() / way.time_s.sum()
    assert mean == pytest.approx(30.0 * (stood if share is None else share), abs=1e-9)
    assert when != "stopped" or mean > 0.1


def test_a_queue_stands_in_its_own_stage_and_within_it():
    alpine = demo_inputs("gannach")
    stages = list(alpine.race.stages)
    stages[2] = stages[2].model_copy(update={"crawling_s": 240.0, "queue_at_m": 1e6})
    queued = alpine.model_copy(update={"race": alpine.race.model_copy(update={"stages": tuple(stages)})})
    g = given(queued)
    way, around = pieces.pieces(g, 1.0), g.lap.around
    steps = np.unique(way.step[way.queued])
    assert steps.size == 1
    assert around.stage_at(float(around.whole.distance_m[steps[0]])) == 2
    assert way.time_s[way.queued].sum() == pytest.approx(240.0)
    assert (np.diff(way.step) >= 0).all()
    assert set(way.speed_m_per_s[way.queued]) == {pieces.CRAWL_M_PER_S}
    # one sort of minutes alone is said as well as both
    for only in ({"crawling_s": 60.0, "standing_s": 0.0}, {"crawling_s": 0.0, "standing_s": 61.0}):
        race = demo_inputs().race
        stage = race.stages[0].model_copy(update=only)
        inputs = demo_inputs().model_copy(update={"race": race.model_copy(update={"stages": (stage,)})})
        found = pieces.pieces(given(inputs), 1.0)
        assert found.time_s[found.queued].sum() == pytest.approx(sum(only.values()))


def test_a_clamp_meter_that_cannot_be_right_is_not_believed():
    def told(amps):
        reading = GeneratorReading(id="clamp", under=Under(setup=demo_inputs().setup), rpm=5000.0, volts=12.0,
                                   current_a=amps)  # fmt: skip
        return current.power(given(demo_inputs().model_copy(update={"readings": (*demo_inputs().readings, reading)})))

    assert told(4.0).used == ("clamp",)
    assert told(4.0).median == pytest.approx(1.0, abs=0.01)
    wild = told(80.0)
    assert wild.doubted == ("clamp",)
    assert wild.median == pytest.approx(1.0, abs=0.1)


def test_a_sheet_of_a_fitting_that_is_gone_is_the_bikes_own():
    sheet = next(r for r in demo_inputs().readings if r.kind == "sound")
    setup = demo_inputs().setup.model_copy(update={"exhaust_insert": 2})
    engine = demo_inputs().bike.engine.model_copy(update={"fittings": ()})
    bike = demo_inputs().bike.model_copy(update={"engine": engine})
    old = SoundReading(**(sheet.model_dump() | {"under": Under(setup=setup)}))
    inputs = demo_inputs().model_copy(update={"bike": bike, "readings": (old,)})
    assert sounding.level(given(inputs)).own_db == pytest.approx(sounding.level(given(demo_inputs())).own_db)


@pytest.mark.parametrize("truck", ["none", "reached"])
def test_what_is_carried_leaves_less_to_lose_and_a_truck_less_still(truck):
    known = demo_inputs().bike.kit.model_dump(mode="json", exclude_unset=True)

    def packed(**more):
        kit = Kit.model_validate(known | {"chase_truck": truck} | more)
        bike = demo_inputs().bike.model_copy(update={"kit": kit})
        return building.pack(given(demo_inputs().model_copy(update={"bike": bike})))

    losses = [
        packed(bag_kg=b, toolbox_kg=t).left_s for b, t in ((0.0, 0.0), (0.5, 0.0), (1.5, 0.0), (1.5, 3.0), (9, 9))
    ]
    assert losses == sorted(losses, reverse=True)
    for one, other in itertools.pairwise(losses[:4]):
        assert other < one
    assert len(packed().spares) == len(SPARES)
    if truck == "reached":
        assert "" not in {c.where for c in packed(bag_kg=0.0, toolbox_kg=0.0).spares}


def test_nothing_to_be_seen_by_is_offered_off_in_the_dark():
    """A tail lamp that nobody must have: off by day if that helps, never at night; the lamp for another still is."""
    bike, race = demo_inputs().bike, demo_inputs().race
    known = bike.kit.model_dump(mode="json", exclude_unset=True)
    items = [i | {"need": "nice"} if i["id"] == "tail_lamp" else i for i in known["items"]]
    kit = Kit.model_validate(known | {"items": items})
    by_day = demo_inputs().model_copy(update={"bike": bike.model_copy(update={"kit": kit})})
    stage = race.stages[0].model_copy(update={"zones": (Zone(from_m=0.0, to_m=5000.0, kind="night"),)})
    at_night = by_day.model_copy(update={"race": race.model_copy(update={"stages": (stage,)})})

    def offered(inputs):
        return [tuple(m.tunable for m in moves) for moves in candidates.more_current(given(inputs))]

    assert ("kit_off__tail_lamp",) in offered(by_day)
    assert ("kit_off__tail_lamp",) not in offered(at_night)
    assert ("kit_on__lamp_led_12", "kit_off__lamp_led_40") in offered(at_night)
    # and what is a must is not even in the table of what each would do
    tried = {m.tunable for c in running.currents(given(demo_inputs())) for m in c.moves}
    assert "kit_off__tail_lamp" not in tried
    assert "kit_off__tail_lamp" in {m.tunable for c in running.currents(given(by_day)) for m in c.moves}


@pytest.mark.parametrize(("copper", "thin"), [(3e-7, True), (7.5e-7, False)])
def test_a_wire_too_thin_for_its_fuse_is_told_before_a_fuse_is_named(copper, thin):
    bike = demo_inputs().bike
    known = bike.kit.model_dump(mode="json", exclude_unset=True)
    items = [i | {"watts_w": 55.0} if i["id"] == "lamp_led_40" else i for i in known["items"]]
    electric = known["electrics"] | {"lamp_wire_m2": copper}
    kit = Kit.model_validate(known | {"items": items, "electrics": electric})
    found = current.wire(given(demo_inputs().model_copy(update={"bike": bike.model_copy(update={"kit": kit})})))
    assert found.current_a == pytest.approx(55.0 / 12.0)
    assert found.is_too_thin is thin
    assert found.fuse_a == 7.5
    assert 0.7 < found.light_share < 1.0


@pytest.mark.parametrize(("starts", "weak"), [(19.0, True), (21.0, False)])
def test_a_battery_holds_twenty_starts(starts, weak):
    bike = demo_inputs("saltern").bike
    known = bike.kit.model_dump(mode="json", exclude_unset=True)
    known["electrics"]["battery_j"] = starts * electrics.START_J
    inputs = demo_inputs("saltern").model_copy(
        update={"bike": bike.model_copy(update={"kit": Kit.model_validate(known)})}
    )
    found = {f.code for f in evaluate(inputs, cache=CACHE).of("kit")}
    assert ("start_weak" in found) is weak


def test_the_power_to_each_kilogram_falls_by_what_is_put_on():
    bags = set_to(demo_inputs(), kit_on__bags=1.0)
    mass = given(demo_inputs()).lap.ride_input.mass_kg
    assert building.power_to_mass(given(demo_inputs())) == 0.0
    assert building.power_to_mass(given(bags)) == pytest.approx(mass / (mass + 7.4) - 1.0, rel=1e-6)


def test_the_names_of_what_is_new_are_told():
    assert set(ready.SPARES) == {s.id for s in SPARES}
    new = {"cap_pa", "glycol_share", "thermostat", "tape_share", "crawl_share"}
    assert set(ready.TUNABLE_NAMES) == new <= set(TUNABLES)
    assert all(TUNABLES[t].station == "kit" for t in new)
    told = {n for n in demo_report().figures if n.startswith(("kit.cooling", "kit.elec", "kit.light", "kit.sound",
                                                              "kit.rules", "kit.spares"))}  # fmt: skip
    assert told <= set(ready.FIGURE_NAMES)
