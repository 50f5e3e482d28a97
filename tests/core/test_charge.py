"""Packs that go round, charging between rides, and what motor and pack get warm with: against scipy, closed forms and a second-by-second double."""

from functools import cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.race import GroundSegment, RefuelPoint
from lynxwort.core.physics.drive.engine import motor_loss
from lynxwort.core.physics.reach import charge, heat
from lynxwort.core.stations.range import charging
from lynxwort.core.stations.range import heat as warm
from lynxwort.core.stations.range.input import RangeInput
from tests.support import demo_inputs

PACK_J = 18.7e6


def charger(power_w=3300.0, taper=0.8, rest_s=0.0):
    return charge.Charger(power_w=power_w, taper_share=taper, rest_s=rest_s)


@given(
    share=st.floats(0.0, 0.97), power=st.floats(300.0, 9000.0), taper=st.floats(0.4, 0.95), hours=st.floats(0.0, 6.0)
)
@settings(max_examples=60, deadline=None)
def test_a_charge_is_the_solution_of_its_equation_and_runs_backwards(share, power, taper, hours):
    """d(share)/dt = P/E up to the taper, and falling with what is missing from there: scipy's LSODA; its inverse."""
    unit = charger(power, taper)
    now = charge.charged(share, PACK_J, unit, 3600.0 * hours)
    asked = solve_ivp(
        lambda _t, s: [power / PACK_J * min(1.0, (1.0 - s[0]) / (1.0 - taper))],
        (0.0, 3600.0 * hours + 1e-9), [share], method="LSODA", rtol=1e-9, atol=1e-11, max_step=120.0,
    )  # fmt: skip
    assert now == pytest.approx(float(asked.y[0, -1]), abs=2e-6)
    assert share - 1e-12 <= now <= 1.0
    if share < now < 0.9999:
        assert charge.time_to(share, now, PACK_J, unit) == pytest.approx(3600.0 * hours, rel=1e-5, abs=0.05)


def test_a_small_generator_rules_a_large_charger():
    assert charge.into_pack(3300.0, None) == 3300.0
    assert charge.into_pack(3300.0, 2000.0) == pytest.approx(1840.0)
    assert charge.into_pack(1200.0, 6000.0) == 1200.0


def double(rides, stops, aboard, count, unit):
    """The same, second by second, with packs that know how full they are: written apart from the core."""
    packs = [[PACK_J, 0.0] for _ in range(count - 1)]  # charge, ready from
    now, found = 0, []
    for (time_s, use), stop in zip(rides, stops, strict=True):
        for _ in range(round(time_s)):
            now += 1
            for pack in packs:  # the oldest that is not full has the charger, and keeps it while it rests
                if pack[0] < 0.99 * PACK_J:
                    if unit and now > pack[1]:
                        missing = 1.0 - pack[0] / PACK_J
                        pack[0] += unit.power_w * min(1.0, missing / (1.0 - unit.taper_share))
                    break
        aboard = max(aboard - use, 0.0)
        hair = 0.002 * PACK_J  # nobody changes packs for less
        best = [k for k, pack in enumerate(packs) if pack[0] > max(p[0] for p in packs) - hair]
        if stop and best and packs[best[0]][0] > aboard + hair:
            out = packs.pop(best[0])
            packs.append([aboard, now + (unit.rest_s if unit else 0.0)])
            aboard = out[0]
        found.append(aboard)
    return found


@given(
    legs=st.lists(st.tuples(st.integers(600, 4000), st.floats(0.1, 0.9), st.booleans()), min_size=1, max_size=7),
    count=st.integers(1, 4),
    power=st.sampled_from((None, 800.0, 3300.0)),
    rest=st.sampled_from((0.0, 900.0)),
)
@settings(max_examples=60, deadline=None)
def test_packs_go_round_as_a_second_by_second_double_says(legs, count, power, rest):
    unit = None if power is None else charger(power, rest_s=rest)
    rides, stops = [(float(t), u * PACK_J) for t, u, _s in legs], [s for _t, _u, s in legs]
    found = charge.swaps(rides, stops, aboard_j=PACK_J, pack_j=PACK_J, count=count, charger=unit)
    assert [s.level_j for s in found] == pytest.approx(double(rides, stops, PACK_J, count, unit), abs=0.004 * PACK_J)
    put_in = 0.0 if power is None else power * sum(t for t, _u in rides)
    assert sum(s.level_j - s.left_j for s in found) <= (count - 1) * PACK_J + put_in + 1.0
    assert all(s.swapped == (s.level_j > s.left_j) for s in found)


def test_one_lump_warms_as_scipy_says_and_continuous_power_is_what_it_holds():
    rng = np.random.default_rng(5)
    time, power = rng.uniform(0.5, 4.0, 400), rng.uniform(0.0, 5000.0, 400)
    gives, air = rng.uniform(5.0, 40.0, 400), np.full(400, 303.0)
    found = heat.warmed(time, power, gives, air, holds_j_per_k=5400.0, start_k=303.0)
    edges = np.concatenate([[0.0], np.cumsum(time)])
    hot = 303.0
    for i in range(400):
        hot = solve_ivp(lambda _t, y, i=i: [(power[i] - gives[i] * (y[0] - air[i])) / 5400.0], (edges[i], edges[i + 1]), [hot],
                        method="LSODA", rtol=1e-9, atol=1e-9).y[0, -1]  # fmt: skip
    assert found[-1] == pytest.approx(hot, abs=1e-5)
    # what its plate calls continuous is what settles at the limit, in the air it is rated in and at the speed
    still = np.full(9000, heat.RATED_M_PER_S)
    settled = heat.warmed(
        np.ones(9000), np.full(9000, 1500.0), heat.motor_gives(still, 1500.0), np.full(9000, heat.RATED_AIR_K),
        holds_j_per_k=5400.0, start_k=heat.RATED_AIR_K,
    )  # fmt: skip
    assert settled[-1] == pytest.approx(heat.MOTOR_LIMIT_K, abs=0.01)


@cache
def ridden(ground=None, laps=8, **engine):
    """The electric demo over more laps with a place to swap at its line."""
    inputs = demo_inputs("hollowood")
    stage = inputs.race.stages[0]
    changes = {"laps": laps, "refuel_points": (RefuelPoint(at_m=0.0),)}
    if ground:
        changes |= {"ground": (GroundSegment(from_m=0.0, to_m=1e6, ground=ground),), "hills": ()}
    race = inputs.race.model_copy(update={"stages": (stage.model_copy(update=changes),)})
    bike = inputs.bike.model_copy(update={"engine": inputs.bike.engine.model_copy(update=engine)})
    return evaluate(inputs.model_copy(update={"race": race, "bike": bike}))


def test_a_race_on_few_packs_is_less_sure_the_fewer_and_the_weaker_the_charger():
    """A full one for every swap is the best there is; each pack more and each watt more never makes it less sure."""

    def sure(**engine):
        return ridden(**{"charger_w": None, "generator_w": None} | engine).value("range.p_finish")

    always, none = sure(), sure(packs_alike=1)
    two = [sure(packs_alike=2, charger_w=w) for w in (200.0, 800.0, 6000.0)]
    assert none <= two[0] <= two[1] <= two[2] <= always
    assert none < two[2]
    assert sure(packs_alike=2) <= sure(packs_alike=3) <= sure(packs_alike=8)
    assert sure(packs_alike=8) == pytest.approx(always)  # eight laps, eight packs
    assert sure(packs_alike=2, charger_w=6000.0, generator_w=220.0) == pytest.approx(
        sure(packs_alike=2, charger_w=202.4)
    )
    codes = {f.code for f in ridden(laps=14, packs_alike=2, charger_w=200.0).findings}
    assert "packs_run_dry" in codes
    assert "packs_go_round" in {f.code for f in ridden(packs_alike=8).findings}


def test_a_motor_beyond_its_limit_is_told_and_the_share_told_holds_it():
    """An hour at full pace. A smaller continuous power, a hotter day or a weaker pack never run cooler; the share of the torque
    that is told, ridden everywhere, tops out at the limit: run again with it."""
    open_ground = ridden("hardpack")
    assert any(f.code == "stays_cool" for f in open_ground.findings)
    weak, stronger = (ridden("hardpack", continuous_power_w=w) for w in (1500.0, 3000.0))
    assert any(f.code == "motor_derates" for f in weak.findings)
    holds, more = (r.value("range.motor_holds") for r in (weak, stronger))
    assert 0.2 < holds < more < 1.0
    assert stronger.value("range.motor_hottest") < weak.value("range.motor_hottest")
    given = RangeInput.of(weak.behind.up)
    way, engine, air = warm._way(given), given.engine, given.day.temperature_high_k
    omega = engine.peak_power_rpm * 2 * np.pi / 60
    gives = heat.motor_gives(way.speed, float(motor_loss(np.asarray(1500.0 / omega), np.asarray(omega))))
    again = heat.warmed(
        way.time_s, motor_loss(holds * way.torque, way.omega), gives, np.full(way.time_s.size, air),
        holds_j_per_k=heat.MOTOR_KG_PER_W * engine.peak_power_w * heat.MOTOR_J_PER_KG_K, start_k=air,
    )  # fmt: skip
    assert again.max() == pytest.approx(heat.MOTOR_LIMIT_K, abs=0.5)
    tired = ridden("deep_sand", internal_ohm=0.9)
    assert tired.value("range.pack_hottest") > open_ground.value("range.pack_hottest") + 1.0
    assert any(
        f.code == "pack_derates" for f in ridden("deep_sand", internal_ohm=1.0, packs_alike=1, pack_kg=8.0).findings
    )


def test_a_break_of_so_long_gives_so_much():
    """Longer never less; what the table says is what charge and rest say; nothing without a charger."""
    report = ridden(packs_alike=1, charger_w=1800.0, generator_w=None)
    table = report.ask(charging.breaks)
    shares = [row.share for row in table.rows]
    assert shares == sorted(shares)
    assert table.rows[0].share >= table.left_share - 1e-12
    row = next(r for r in table.rows if r.break_s > table.rest_s + 600.0)
    again = charge.charged(table.left_share, 18.72e6, charger(1800.0), row.break_s - table.rest_s)
    assert row.share == pytest.approx(again)
    assert table.full_s > table.rest_s
    assert ridden(packs_alike=1, charger_w=None).ask(charging.breaks).rows == ()
    assert ridden(packs_alike=1, charger_w=1800.0, generator_w=900.0).ask(charging.breaks).full_s > table.full_s
