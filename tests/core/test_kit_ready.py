"""The second half of Kit against the outside: coolant by CoolProp, ht and LSODA, the generator by phasors, the work by
networkx, the bag by scipy's milp; and in the whole, on the demo's bikes.
"""

import itertools
from dataclasses import replace
from math import inf, pi

import networkx
import numpy as np
import pytest
from CoolProp.CoolProp import PropsSI
from ht import effectiveness_NTU_method
from ht.hx import effectiveness_from_NTU
from hypothesis import given as holds
from hypothesis import settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import Bounds, LinearConstraint, milp

from lynxwort.core.asks import after, running
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import Kit
from lynxwort.core.model.bike.catalogue import CATALOGUE
from lynxwort.core.model.readings import CoolantReading, GeneratorReading, SoundReading, Under
from lynxwort.core.physics.kit import coolant, cooling, electrics, sound, spares, work
from lynxwort.core.propose.single import judged
from lynxwort.core.stations.kit import building, pieces, sounding
from lynxwort.core.stations.kit import cooling as heat
from lynxwort.core.stations.kit import electrics as current
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import move
from tests.support import CACHE, demo_inputs, demo_report

STOCK = cooling.Radiator(face_m2=0.048, depth_m=0.022, air_share=1.0, film_factor=coolant.film_factor(0.5),
                         holds=coolant.heat_held(0.5), heat_j_per_k=9500.0, thermostat=True, fan_m3_per_s=0.05)  # fmt: skip


def given(inputs):
    return KitInput.of(Upstream.of(inputs, CACHE))


def with_kit(name="brackenmere", inputs=None, on=(), off=(), **kit):
    inputs = inputs or demo_inputs(name)
    known = inputs.bike.kit.model_dump(mode="json", exclude_unset=True)
    setup = inputs.setup.model_copy(update={"kit_on": (*inputs.setup.kit_on, *on), "kit_off": off})
    bike = inputs.bike.model_copy(update={"kit": Kit.model_validate(known | kit)})
    return inputs.model_copy(update={"bike": bike, "setup": setup})


def set_to(inputs, **values):
    return inputs.model_copy(update={"setup": inputs.setup.model_copy(update=values)})


def staged(inputs, **changes):
    stages = (inputs.race.stages[0].model_copy(update=changes), *inputs.race.stages[1:])
    return inputs.model_copy(update={"race": inputs.race.model_copy(update={"stages": stages})})


def test_water_and_mixture_boil_and_hold_heat_as_coolprop_has_them():
    for t in (330.0, 373.15, 410.0):
        assert coolant.water_saturation(t) == pytest.approx(PropsSI("P", "T", t, "Q", 0, "Water"), rel=1e-4)
    for share in (0.3, 0.5):
        assert coolant.heat_held(share) == pytest.approx(
            PropsSI("C", "T", 363.15, "P", 3e5, f"INCOMP::MEG[{mass_share(share):.4f}]"), rel=0.02
        )
        # 50 % freezes at -37 to -40, 30 % at -16: CoolProp's own freezing line within 3 K
        frozen = PropsSI("T_freeze", "T", 300.0, "P", 3e5, f"INCOMP::MEG[{mass_share(share):.4f}]")
        assert coolant.freezes_at(share) == pytest.approx(frozen, abs=3.0)
    # the handbook's table, sea level: no cap, 1.1 and 1.8 bar for water, 30 and 50 %
    for cap, row in ((0.0, (100, 104, 108)), (1.1e5, (122, 126, 131)), (1.8e5, (131, 136, 141))):
        found = [coolant.boils_at(101_325.0 + cap, s) - 273.15 for s in (0.0, 0.3, 0.5)]
        assert found == pytest.approx(row, abs=1.0)


def mass_share(share):
    """Mass share of glycol by its volume share."""
    return share * 1113.2 / (share * 1113.2 + (1 - share) * 998.2)


def test_the_exchanger_against_ht():
    for units, ratio in ((0.4, 0.05), (1.6, 0.2), (0.8, 0.8), (3.0, 0.4)):
        ours = cooling.effectiveness(units, ratio)
        assert ours == pytest.approx(effectiveness_from_NTU(units, ratio, "crossflow approximate"), rel=1e-9)
        assert ours == pytest.approx(effectiveness_from_NTU(units, ratio, "crossflow"), rel=0.02)
    # a whole radiator by ht's own method: heat that goes over at 60 K
    air, pumped = cooling.air_through(1.2, 10.0, STOCK, fan=False), 0.25
    gives = cooling.conductance(STOCK, density_kg_per_m3=1.2, speed_m_per_s=10.0, rpm=6000.0)
    through = gives - cooling.SKIN_W_PER_K - cooling.SKIN_BY_SPEED * 10.0**0.8
    wall = 1.0 / (1.0 / 420.0 + 1.0 / (900.0 * STOCK.film_factor))
    theirs = effectiveness_NTU_method(mh=pumped, mc=air, Cph=STOCK.holds, Cpc=1006.0, Thi=353.15, Tci=293.15, UA=wall,
                                      subtype="crossflow approximate")  # fmt: skip
    assert through == pytest.approx(theirs["Q"] / 60.0, rel=1e-9)


def test_the_fan_is_never_added_to_the_air_of_the_way():
    slow = [cooling.air_through(1.2, v, STOCK, fan=True) for v in (0.0, 1.0, 3.0)]
    assert slow == pytest.approx([1.2 * 0.05] * 3)
    assert cooling.air_through(1.2, 12.0, STOCK, fan=True) == cooling.air_through(1.2, 12.0, STOCK, fan=False)
    # and so in the kernel: at speed a fan that runs changes nothing
    lap = {"time_s": np.full(50, 4.0), "heat_w": np.full(50, 20_000.0), "speed_m_per_s": np.full(50, 12.0),
           "rpm": np.full(50, 6000.0), "air_k": np.full(50, 300.0), "density_kg_per_m3": np.full(50, 1.2),
           "fan_from_k": 340.0, "start_k": 350.0}  # fmt: skip
    (with_fan, ran), (without, _) = (cooling.along(r, **lap) for r in (STOCK, replace(STOCK, fan_m3_per_s=0.0)))
    assert ran.all()
    assert with_fan == pytest.approx(without, abs=1e-12)
    # tried in the handbook, crawling at 1 m/s: 21.7 W/K, with the fan 54.1
    crawl = {"density_kg_per_m3": 1.16, "speed_m_per_s": 1.0, "rpm": 3230.0}
    assert cooling.conductance(STOCK, **crawl) == pytest.approx(21.7, rel=0.03)
    assert cooling.conductance(STOCK, **crawl, fan=True) == pytest.approx(54.1, rel=0.05)
    heats = float(cooling.coolant_heat(np.array(12_050.0), full_power_w=33_000.0, stroke="two_stroke"))
    assert heats == pytest.approx(4216.6, rel=0.01)


def test_coolant_along_a_lap_against_lsoda():
    """scipy's LSODA on the balance as the handbook writes it, thermostat open and shutting."""
    rng = np.random.default_rng(4)
    n = 300
    time, speed = np.full(n, 4.0), np.clip(8.0 + 6.0 * np.sin(np.linspace(0, 12, n)), 0.4, None)
    made, rpm = rng.uniform(1500.0, 9000.0, n), rng.uniform(2500.0, 7000.0, n)
    air, density = np.full(n, 288.0), np.full(n, 1.2)
    still = replace(STOCK, fan_m3_per_s=0.0)
    found, fan = cooling.along(still, time_s=time, heat_w=made, speed_m_per_s=speed, rpm=rpm, air_k=air,
                               density_kg_per_m3=density, fan_from_k=368.0, start_k=340.0)  # fmt: skip
    state, exact = 340.0, []

    def balance(_t, y, i):
        skin = cooling.SKIN_W_PER_K + cooling.SKIN_BY_SPEED * speed[i] ** 0.8
        gives = cooling.conductance(still, density_kg_per_m3=1.2, speed_m_per_s=speed[i], rpm=rpm[i])
        opened = np.clip((y[0] - cooling.OPENS_K) / (cooling.OPEN_K - cooling.OPENS_K), 0.0, 1.0)
        return [(made[i] - (opened * (gives - skin) + skin) * (y[0] - 288.0)) / 9500.0]

    for i in range(n):
        state = solve_ivp(balance, (0.0, 4.0), [state], args=(i,), method="LSODA", rtol=1e-8).y[0, -1]
        exact.append(state)
    assert fan.sum() == 0.0
    assert np.abs(found - exact).max() < 0.02 * (max(exact) - 288.0)
    # a fan keeps it under, and runs only then
    cooled, ran = cooling.along(STOCK, time_s=time, heat_w=made + 3000.0, speed_m_per_s=np.full(n, 1.0), rpm=rpm,
                                air_k=air, density_kg_per_m3=density, fan_from_k=368.0, start_k=340.0)  # fmt: skip
    assert 0.2 < ran.mean() < 1.0
    assert cooled[:20].max() < 368.0 or ran[0] == 0.0


def test_what_helps_a_queue_in_the_handbooks_order_and_thin_air_hurts():
    """Fan over pace over cap over size at a crawl; height costs more by its air than by its boiling point."""
    seen = {tuple((m.tunable, m.value) for m in h.moves): h for h in running.heats(given(demo_inputs()))}
    now, fan = seen[()], seen[("kit_on__fan", 1.0),]
    pace, cap, water = (seen[(n, v),] for n, v in (("crawl_share", 0.8), ("cap_pa", 1.8e5), ("glycol_share", 0.0)))
    assert fan.crawl_s > pace.crawl_s > cap.crawl_s > now.crawl_s > water.crawl_s
    assert cap.hottest_k == pytest.approx(now.hottest_k), "a cap cools nothing"
    assert seen[("thermostat", 0.0),].median_k < 330.0 < now.median_k
    large = next(i for i in CATALOGUE if i.id == "radiators_large").model_dump(mode="json", exclude_unset=True)
    bigger = with_kit(items=[large], on=("radiators_large",))
    longer = heat.queue(given(bigger), crawling=True).boils_s
    assert now.crawl_s < longer < pace.crawl_s

    def up(metres):
        air = demo_inputs().race.air.model_copy(
            update={"pressure_kind": "station", "pressure_pa": 101_325.0 * (1 - metres / 44_330.0) ** 5.256}
        )
        return demo_inputs().model_copy(update={"race": demo_inputs().race.model_copy(update={"air": air})})

    low, high = (heat.queue(given(up(m)), crawling=True) for m in (0.0, 1830.0))
    assert high.boils_s < low.boils_s
    assert high.conductance_w_per_k < low.conductance_w_per_k


def test_a_queue_is_a_piece_of_the_lap_where_it_is_slowest_and_the_ride_knows_nothing_of_it():
    bare = staged(demo_inputs(), crawling_s=0.0, standing_s=0.0)
    queued = staged(demo_inputs(), crawling_s=300.0, standing_s=60.0, queue_at_m=9000.0)
    plain, more = (pieces.pieces(given(i), 1.0) for i in (bare, queued))
    assert more.time_s.sum() - plain.time_s.sum() == pytest.approx(360.0)
    course = given(bare).lap.around.whole
    at = course.distance_m[more.step[more.queued]]
    assert at.min() == at.max() == pytest.approx(9000.0, abs=course.spacing_m)
    before, after_it = (evaluate(i, cache=CACHE) for i in (bare, queued))
    same = [n for n in before.figures if not n.startswith(("kit.cooling", "kit.elec"))]
    assert {n: before.value(n) for n in same} == {n: after_it.value(n) for n in same}
    assert after_it.value("kit.cooling.hottest") > before.value("kit.cooling.hottest")
    assert after_it.value("kit.elec.surplus_mean") < before.value("kit.elec.surplus_mean")


def test_a_coolant_reading_narrows_it_and_struck_out_all_returns():
    plain = given(demo_inputs())
    hottest = float(heat.warmth(plain).coolant_k.max())
    reading = CoolantReading(id="strip", under=Under(setup=demo_inputs().setup), hottest_k=hottest - 12.0)
    told = demo_inputs().model_copy(update={"readings": (*demo_inputs().readings, reading)})
    before, now = demo_report(), evaluate(told, cache=CACHE)
    name = "kit.cooling.hottest"
    assert hottest - 12.0 < now.value(name) < hottest
    width = [r.figures[name].high - r.figures[name].low for r in (before, now)]
    assert width[1] < 0.5 * width[0]
    assert now.figures[name].readings == ("strip",)
    out = told.model_copy(
        update={"readings": (*demo_inputs().readings, reading.model_copy(update={"struck_out": True}))}
    )
    assert evaluate(out, cache=CACHE).value(name) == before.value(name)


def test_the_generator_by_phasors():
    """EMF proportional to revs behind a reactance proportional to revs, into a fixed voltage in phase with its
    current."""
    made = electrics.generator(1600.0, 36.0, 5000.0, 90.0)
    for n in (1600.0, 2000.0, 5000.0, 9000.0):
        emf, reactance = 12.0 * n / made.cut_in_rpm, 12.0**2 / made.most_w * n / made.cut_in_rpm
        amps = np.sqrt(emf**2 - 12.0**2) / reactance
        assert abs(12.0 + 1j * amps * reactance) == pytest.approx(emf)
        assert float(made.power(n)) == pytest.approx(12.0 * amps, rel=1e-9)
    assert float(made.power(1400.0)) == 0.0
    assert electrics.generator(1600.0, 90.0, 5000.0, 36.0) is None
    # trade fact: rewound to 90 W it runs a 55 W head lamp, not the fan too
    left = float(made.power(5000.0)) - 55.0 - 5.0 - 20.0
    assert left > 0.0 > left - 35.0


def test_the_battery_is_judged_at_its_lowest_not_by_the_mean():
    """Half of the lap charges what the other half takes: the mean says even, the battery runs empty."""
    time, net = np.full(200, 10.0), np.where(np.arange(200) < 100, -30.0, 30.0)
    along = electrics.battery_along(time, net, holds_j=18_000.0, start_j=18_000.0)
    assert (net * time).sum() == 0.0
    assert along.min() == 0.0
    assert along.max() <= 18_000.0
    # nothing is lost but a tenth of what is charged
    small = electrics.battery_along(time, 0.1 * net, holds_j=1e6, start_j=5e5)
    assert small[-1] - 5e5 == pytest.approx(-0.1 * 3.0 * 1000.0, rel=1e-9)


def test_the_demos_lamp_drains_its_battery_and_the_list_has_the_cure():
    """KIT 10: 48 W against a 40 W lamp, tail and ignition: some -18 W, 18 Wh gone within a lap; the rewound generator
    has some 22 W to spare, a 12 W lamp some 10."""
    without = staged(demo_inputs(), crawling_s=0.0, standing_s=0.0)
    seen = current.balance(given(without))
    assert seen.mean_w == pytest.approx(-18.0, abs=1.5)
    assert current.lowest(seen) == 0.0
    cures = {c.moves[0].tunable: c.mean_w for c in running.currents(given(without)) if c.moves}
    assert cures["kit_on__rewound_generator"] == pytest.approx(22.0, abs=2.5)
    assert cures["kit_on__lamp_led_12"] == pytest.approx(10.0, abs=2.0)
    (found,) = (f for f in judged(Upstream.of(without, CACHE), evaluate(without, cache=CACHE), "kit")
                if f.code == "battery_drains")  # fmt: skip
    assert {m.tunable for moves in found.proposals for m in moves} >= {
        "kit_on__rewound_generator",
        "kit_on__lamp_led_12",
    }
    for moves in found.proposals:
        setup = without.setup
        for m in moves:
            setup = move(setup, m.tunable, m.value)
        left = evaluate(without.model_copy(update={"setup": setup}), cache=CACHE)
        assert left.value("kit.elec.surplus_mean") > 0.0
        assert "battery_drains" not in {f.code for f in left.of("kit")}


def test_the_fan_takes_from_the_battery_what_it_gives_the_coolant():
    fan = with_kit(on=("fan",))
    before, now = demo_report(), evaluate(fan, cache=CACHE)
    assert now.value("kit.cooling.hottest") < before.value("kit.cooling.hottest")
    assert now.value("kit.elec.surplus_mean") < before.value("kit.elec.surplus_mean")
    draws = next(x for x in current.balance(given(fan)).loads if x.fan)
    assert draws.mean_w == pytest.approx(35.0 * now.value("kit.cooling.fan_share"), rel=1e-9)


def test_lamps_on_alternating_current_leave_the_battery_alone():
    known = demo_inputs().bike.kit.electrics.model_dump(mode="json", exclude_unset=True)
    direct, straight = (current.balance(given(with_kit(electrics=known | {"lighting": w}))) for w in ("dc", "ac"))
    assert straight.mean_w > direct.mean_w
    assert straight.draws_w == pytest.approx(direct.draws_w)
    clamp = GeneratorReading(id="clamp", under=Under(setup=demo_inputs().setup), rpm=5000.0, volts=12.5, current_a=3.4)
    told = demo_inputs().model_copy(update={"readings": (*demo_inputs().readings, clamp)})
    assert current.power(given(told)).median == pytest.approx(42.5 / 48.0, abs=0.03)


def test_levels_are_added_by_power_and_what_is_on_moves_them():
    assert sound.added([90.0, 90.0]) == pytest.approx(93.0103, abs=1e-4)
    # by pressures: squares add
    pressures = np.sqrt(sum((2e-5 * 10 ** (v / 20)) ** 2 for v in (88.0, 94.0)))
    assert sound.added([88.0, 94.0]) == pytest.approx(20 * np.log10(pressures / 2e-5))
    own = sounding.level(given(demo_inputs()))
    quiet = sounding.level(given(set_to(demo_inputs(), exhaust_insert=2)))
    assert quiet.level_db - own.level_db == pytest.approx(-2.5)
    # a sheet taken with the insert in says the same of the bike
    sheet = next(r for r in demo_inputs().readings if r.kind == "sound")
    under = Under(setup=demo_inputs().setup.model_copy(update={"exhaust_insert": 2}))
    other = sheet.model_copy(update={"under": under, "level_db": sheet.level_db - 2.5})
    again = demo_inputs().model_copy(update={"readings": (other,)})
    assert sounding.level(given(again)).own_db == pytest.approx(own.own_db, abs=0.1)
    # twice the same sheet is not louder, and a loud and a quiet one are not met in the middle
    louder = SoundReading(**(sheet.model_dump() | {"id": "again", "under": sheet.under, "level_db": 99.5}))
    two = demo_inputs().model_copy(update={"readings": (sheet, louder)})
    assert sounding.level(given(two)).own_db > 0.5 * (sounding.level(given(demo_inputs())).own_db * 2 + 6.0)
    # the same bike by each kind of test
    levels = [v for _rpm, v in sounding.by_test(given(demo_inputs()))]
    assert 3.0 < max(levels) - min(levels) < 12.0


def test_an_insert_for_a_quiet_event_is_never_offered_where_it_leans_a_range():
    louder = demo_inputs().model_copy(update={"race": demo_inputs().race.model_copy(update={"sound_limit_db": 91.0})})
    report = evaluate(louder, cache=CACHE)
    (found,) = (f for f in judged(Upstream.of(louder, CACHE), report, "kit") if f.code == "too_loud")
    for moves in found.proposals:
        after_it = evaluate(louder.model_copy(update={"setup": move(louder.setup, moves[0].tunable, moves[0].value)}),
                            cache=CACHE)  # fmt: skip
        worse = [n for n in report.figures if n.startswith("fuelling.lean_margin")
                 and (after_it.value(n) or 0.0) < min(report.value(n) or 0.0, 0.0) - 1e-9]  # fmt: skip
        assert worse == []
        assert after_it.value("kit.sound.level") < report.value("kit.sound.level")


JOBS = st.lists(
    st.tuples(st.floats(0.2, 8.0), st.floats(0.0, 20.0), st.sets(st.integers(0, 7))), min_size=1, max_size=8
)


@settings(max_examples=60, deadline=None)
@holds(JOBS)
def test_the_longest_path_by_networkx_and_one_pair_of_hands(rows):
    jobs = [
        work.Job(id=str(i), takes_s=h, arrives_s=late, after=tuple(str(a) for a in sorted(before) if a < i))
        for i, (h, late, before) in enumerate(rows)
    ]
    graph = networkx.DiGraph()
    for job in jobs:
        graph.add_edge("start", f"{job.id}<", weight=job.arrives_s)
        graph.add_edge(f"{job.id}<", f"{job.id}>", weight=job.takes_s)
        for a in job.after:
            graph.add_edge(f"{a}>", f"{job.id}<", weight=0.0)
    length, slack = work.critical(jobs)
    assert length == pytest.approx(networkx.dag_longest_path_length(graph))
    assert min(slack.values()) == pytest.approx(0.0, abs=1e-9)
    plan = work.plan(jobs)
    ends = {p.job.id: p.to_s for p in plan}
    assert sorted(ends) == sorted(j.id for j in jobs)
    assert plan[-1].to_s >= length - 1e-9
    for before, behind in itertools.pairwise(plan):
        assert behind.from_s >= before.to_s - 1e-9
    for p in plan:
        assert p.from_s >= p.job.arrives_s - 1e-9
        assert all(ends[a] <= p.from_s + 1e-9 for a in p.job.after)


def test_the_handbooks_late_shock_costs_half_an_hour():
    hours = {"strip": 2.0, "guard": 1.0, "stator": 4.0, "harness": 3.0, "light": 2.0, "tank": 1.5, "shock": 2.5,
             "test": 1.0}  # fmt: skip
    follows = {"guard": ("strip",), "stator": ("strip",), "harness": ("stator",), "light": ("harness",),
               "tank": ("strip",), "shock": ("strip",), "test": ("guard", "light", "tank", "shock")}  # fmt: skip
    jobs = [work.Job(id=n, takes_s=h, after=follows.get(n, ())) for n, h in hours.items()]
    length, slack = work.critical(jobs)
    assert (length, slack["shock"]) == (12.0, 6.5)
    late = [replace(j, arrives_s=9.0) if j.id == "shock" else j for j in jobs]
    assert work.critical(late)[0] - length == pytest.approx(0.5)
    with pytest.raises(work.InACircle):
        work.plan([work.Job(id="a", takes_s=1.0, after=("b",)), work.Job(id="b", takes_s=1.0, after=("a",))])


@settings(max_examples=40, deadline=None)
@holds(st.lists(st.tuples(st.floats(0.1, 20.0), st.integers(5, 900)), min_size=1, max_size=12), st.integers(0, 2000))
def test_the_bag_by_scipys_milp_and_greedy_is_never_better(items, capacity):
    values, grams = zip(*items, strict=True)
    chosen = spares.best(values, grams, capacity)
    assert sum(grams[i] for i in chosen) <= capacity
    found = milp(-np.array(values), constraints=LinearConstraint([grams], ub=capacity), integrality=np.ones(len(items)),
                 bounds=Bounds(0, 1))  # fmt: skip
    ours = sum(values[i] for i in chosen)
    assert ours == pytest.approx(-found.fun, rel=1e-6, abs=1e-6)
    assert sum(values[i] for i in spares.by_gram(values, grams, capacity)) <= ours + 1e-9


def test_failures_by_poisson_and_what_a_guard_saves():
    rng = np.random.default_rng(1)
    drawn = rng.poisson(0.02 * 6.0, 400_000)
    for times in (1, 2):
        assert spares.fails(0.02, 6.0 * 3600.0, times=times) == pytest.approx((drawn >= times).mean(), abs=2e-3)
    bare = building.pack(given(with_kit(off=("hand_guards_wrap",))))
    guarded = building.pack(given(demo_inputs()))
    chance = [next(c.chance for c in p.spares if c.spare.id == "lever") for p in (bare, guarded)]
    assert chance[1] == pytest.approx(0.5 * chance[0], rel=0.05)
    assert guarded.bag_kg <= 1.5 + 1e-9
    assert guarded.toolbox_kg <= 3.0 + 1e-9
    roomy = building.pack(given(with_kit(bag_kg=9.0)))
    assert roomy.left_s <= guarded.left_s


def test_a_build_in_progress_and_what_comes_after_an_engine_was_changed():
    desert = demo_inputs("saltern")
    seen = building.build(given(desert))
    assert seen.mass_kg == pytest.approx(0.0)
    assert (seen.cost, seen.spent) == (465.0, 227.0)
    assert seen.missing == ("clutch plates, new",)
    assert "wheel_bearings" not in {p.job.id for p in seen.plan}, "what is done is done"
    assert [p.job.id for p in seen.plan[-3:]] == ["baseline_gate", "bed_in", "slow_ride"]
    late = next(p for p in seen.plan if p.job.id == "clutch_plates")
    assert late.waits
    assert late.from_s == pytest.approx(7 * 7200.0)
    inputs = demo_inputs()
    assert after.changed(inputs.bike, inputs.setup, inputs.readings) == ()
    jetted = inputs.setup.model_copy(update={"main_jet": 170.0})
    assert after.steps(after.changed(inputs.bike, jetted, inputs.readings)) == ("slow_lap", "plug", "full")
    topped = jetted.model_copy(update={"head_insert": 2})
    assert after.steps(after.changed(inputs.bike, topped, inputs.readings))[0] == "heat_cycles"


def test_what_a_race_asks_for_and_the_owner_overrules_with_a_reason():
    def codes(inputs):
        return {f.code for f in evaluate(inputs, cache=CACHE).of("kit")}

    plate = demo_inputs().bike.kit.item("skid_plate_alloy")
    off = with_kit(off=("skid_plate_alloy",))
    assert "must_off" in codes(off)
    nice = [i.model_dump(mode="json", exclude_unset=True) for i in demo_inputs().bike.kit.items]
    loose = [i | {"need": "nice"} if i["id"] == plate.id else i for i in nice]
    assert "need_off" in codes(with_kit(off=("skid_plate_alloy",), items=loose))
    said = [i | {"need": "nice", "because": "the cases are plated"} if i["id"] == plate.id else i for i in nice]
    assert "need_off" not in codes(with_kit(off=("skid_plate_alloy",), items=said))


def test_the_electric_bike_has_neither_coolant_nor_generator_nor_sound():
    report = demo_report("hollowood")
    for name in ("kit.cooling.margin", "kit.elec.surplus_mean", "kit.sound.level"):
        assert report.figures[name].status == "not_applicable"
    assert report.value("kit.light.reach") == pytest.approx((50_000.0 / 3.0) ** 0.5)
    assert running.heats(given(demo_inputs("hollowood"))) == []


def test_light_and_copper():
    """KIT 4: 6, 12, 25 and 50 thousand candela at 0.35 g, and a loss by the resistance of a cylinder of copper."""
    slows = 0.35 * 9.80665
    for cd, metres, km_h in ((6e3, 45, 47), (12e3, 63, 59), (25e3, 91, 73), (50e3, 129, 90)):
        far = electrics.reach(cd)
        assert far == pytest.approx(metres, abs=0.6)
        v = float(electrics.speed_by_light(far, slows))
        assert 3.6 * v == pytest.approx(km_h, abs=1.0)
        assert v * 1.5 + v * v / (2 * slows) == pytest.approx(far)
    ohm = (1e-6 / 58.0) * 3.0 / (pi / 4 * (0.977e-3) ** 2)
    assert electrics.drop(5.0, length_m=1.5, copper_m2=0.75e-6, temperature_k=293.15) == pytest.approx(
        5 * ohm, rel=1e-3
    )
    # IEC 60028 and ISO 8820-3 by name: 1/58 ohm mm2/m, the next rating over 1.3 of the load
    assert [electrics.fuse_for(a) for a in (0.5, 4.2, 8.0, 31.0)] == [1.0, 7.5, 15.0, None]
    assert electrics.most_fuse(0.75e-6) == 10.0
    assert heat.queue(given(demo_inputs("saltern")), crawling=False).boils_s == inf
