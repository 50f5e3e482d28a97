"""What to buy: at what price, within what money, for one race and for several; held against every set of parts there
is.
"""

import itertools

import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.box import PartsBox
from lynxwort.core.propose.plan import propose
from lynxwort.core.propose.season import season
from lynxwort.core.propose.single import as_sold, judged, moved
from lynxwort.core.propose.wish import Wish
from lynxwort.core.propose.work import work_s
from lynxwort.core.report import Move
from lynxwort.core.tunables import current_value, step_of, tunables_of
from tests.plans import brute, is_leaner
from tests.support import CACHE, demo_inputs, demo_report

FREE = ("main_jet", "rear_sprocket_teeth")
OTHERS = tuple(
    s for s in ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "kit", "trials") if s != "range"
)


def boxed(inputs, **said):
    return inputs.model_copy(update={"parts": PartsBox.model_validate(said)})


def tank_planned(inputs, **said):
    wish = Wish.model_validate({"leave": OTHERS, "purchases": 1, **said})
    return propose(inputs, wish, cache=CACHE, sensitivities=demo_report("brackenmere").sensitivities, most=60)


def test_what_a_shop_has_is_bought_at_its_price_and_within_the_money():
    """The bike that runs dry, nothing in its box."""
    bare = boxed(demo_inputs("brackenmere"))
    unsaid = tank_planned(bare)
    assert (unsaid.cost.purchases, unsaid.cost.unpriced, unsaid.cost.money) == (1, 1, 0.0)
    # with a limit of money nothing is bought of which nobody said what it costs; what fits the bike has its price
    assert tank_planned(bare, money=309.0).cost.purchases == 0
    listed = tank_planned(bare, money=310.0)
    assert (listed.cost.purchases, listed.cost.money) == (1, 310.0)
    shop = boxed(bare, priced=[{"tunable": "tank_capacity_m3", "value": 0.0155, "cost": 240.0, "work_s": 2700.0}])
    found = tank_planned(shop)
    bought = {c.tunable: (c.after, c.cost) for s in found.steps for c in s.changes if c.owned is False}
    assert bought == {"tank_capacity_m3": (0.0155, 240.0)}
    assert (found.cost.unpriced, found.cost.money) == (0, 240.0)
    # opening is in the time that was said; the tank is open when it is filled
    assert found.cost.work_s == pytest.approx(2700.0)
    assert unsaid.cost.work_s > 0.0
    assert tank_planned(shop, money=239.0).cost.purchases == 0
    assert tank_planned(shop, money=240.0).after == found.after
    # one that lies in the box costs nothing any more
    mine = boxed(bare, tank_capacity_m3=[0.0155], priced=shop.parts.model_dump()["priced"])
    assert tank_planned(mine).cost.money == 0.0
    assert mine.parts.sold("tank_capacity_m3") == ()


def test_more_money_is_never_worse():
    """The dear fan stands in the way of the tank, where a thermostat and a slower crawl cool as well."""
    sold = {
        "tank_capacity_m3": {0.0155: 240.0}, "main_jet": {168.0: 6.0, 170.0: 6.0}, "rear_sprocket_teeth": {50: 45.0},
        "shock_spring_rate_n_per_m": {54_000.0: 120.0},
    }  # fmt: skip
    priced = [{"tunable": t, "value": v, "cost": c} for t, parts in sold.items() for v, c in parts.items()]
    shop, keys = boxed(demo_inputs("brackenmere"), priced=priced), []
    for money in (150.0, 250.0):
        wish = Wish.model_validate({"purchases": 4, "money": money, "leave": ["damping"]})
        found = propose(shop, wish, cache=CACHE, sensitivities=demo_report("brackenmere").sensitivities)
        assert found.cost.money <= money
        assert found.cost.unpriced == 0
        assert not is_leaner(shop, found.setup, CACHE)
        keys.append(found.after.key)
    assert keys[1] <= keys[0] < found.before.key


def test_a_station_proposes_what_the_shop_has():
    """One tank that is enough, one that is too small: the station's proposal and the plan name the same."""
    priced = [{"tunable": "tank_capacity_m3", "value": v} for v in (0.012, 0.0155)]
    inputs = boxed(demo_inputs("brackenmere"), priced=priced)
    report = evaluate(inputs, cache=CACHE, sensitivities=demo_report("brackenmere").sensitivities)

    def tanks(of, proposals):
        return {m.value for f in of for p in proposals(f) for m in p if m.tunable == "tank_capacity_m3"}

    raw = tanks(report.of("range"), lambda f: f.proposals)
    assert raw
    assert 0.0155 not in raw
    assert tanks(judged(report.behind.up, report, "range"), lambda f: f.proposals) == {0.0155}
    bare = inputs.model_copy(update={"parts": PartsBox()})
    moves = (Move(tunable="tank_capacity_m3", value=0.015, owned=False), Move(tunable="fuel_fill_m3", value=0.015))
    assert [m.value for m in as_sold(inputs, moves)] == [0.0155, 0.0155]
    assert as_sold(bare, moves) == moves
    # a size that might be leaner than what was proposed is not put in its place; a richer one is
    jets = boxed(inputs, priced=[{"tunable": "main_jet", "value": v} for v in (157.5, 172.5)])
    leaner, richer = (Move(tunable="main_jet", value=v, owned=False) for v in (162.5, 167.5))
    assert as_sold(jets, [leaner]) == (leaner,)
    assert as_sold(jets, [richer])[0].value == 172.5
    # nothing is to be had on that side: it is left as it was proposed
    assert as_sold(inputs, [Move(tunable="tank_capacity_m3", value=0.009, owned=False)])[0].value == 0.009


def test_a_time_that_was_said_holds_the_opening_and_the_rest_of_the_place_its_own():
    inputs = demo_inputs("brackenmere")
    spring, ring, oil = "shock_spring_rate_n_per_m", "shock_preload_m", "fork_oil_up_m"
    alone = work_s(inputs, {spring: 56_000.0})
    said = boxed(inputs, priced=[{"tunable": spring, "value": 56_000.0, "work_s": 1000.0}])
    assert work_s(said, {spring: 56_000.0}) == 1000.0
    assert work_s(said, {spring: 58_000.0}) == alone
    extra = work_s(inputs, {spring: 56_000.0, ring: 0.012, oil: 0.01}) - alone
    assert work_s(said, {spring: 56_000.0, ring: 0.012, oil: 0.01}) == pytest.approx(1000.0 + extra)


def races():
    """The two-stroke with an empty box on its own race and in the mountains."""
    here, there = demo_inputs("brackenmere"), demo_inputs("gannach")
    away = {"race": there.race, "courses": there.courses}
    return [boxed(here), boxed(here.model_copy(update=away))]


@pytest.fixture(scope="module")
def bought():
    documents = races()
    leave = tuple(t for t in tunables_of(documents[0].bike) if t not in FREE)
    wish = Wish.model_validate({"leave": leave, "purchases": 2})
    return documents, season(documents, wish, sensitivities=[{}, {}], most=80)


def total(levels):
    return tuple(map(sum, zip(*levels, strict=True)))


def test_no_set_of_parts_does_better_than_the_one_that_is_told(bought):
    """Brute force: every jet within three sizes and every sprocket within three teeth, alone and in pairs, what
    is told among them; each race with the best of what it then has.
    """
    documents, found = bought
    setup, bike = documents[0].setup, documents[0].bike
    told = {len(w.parts): total(at.levels.key for at in w.races) for w in found.ways}
    mine = {(p.tunable, p.value) for w in found.ways for p in w.parts}
    near = {
        t: {current_value(setup, t) + k * step_of(bike.engine, t) for k in (-3, -2, -1, 1, 2, 3)}
        | {v for k, v in mine if k == t}
        for t in FREE
    }

    def best(**parts):
        return total(brute(boxed(d, **{k: [v] for k, v in parts.items()}), FREE, CACHE, {}) for d in documents)

    least = [best()]
    least.append(min(least[0], *(best(**{t: v}) for t in FREE for v in near[t])))
    least.append(
        min(least[1], *(best(**dict(zip(FREE, pair, strict=True))) for pair in itertools.product(*near.values())))
    )
    assert told[0] == least[0]
    for size in (1, 2):
        # a set is told only where it does better than the one before
        assert told.get(size, told[max(k for k in told if k <= size)]) == least[size], size
    assert len(told) > 1


def test_each_set_is_for_something_and_leans_in_no_race(bought):
    documents, found = bought
    totals = [total(at.levels.key for at in w.races) for w in found.ways]
    assert totals == sorted(set(totals), reverse=True)
    assert [len(w.parts) for w in found.ways] == sorted({len(w.parts) for w in found.ways})
    for way in found.ways:
        of = {(p.tunable, p.value) for p in way.parts}
        assert all(p.races for p in way.parts)
        assert way.unpriced == len(way.parts)
        for inputs, at in zip(documents, way.races, strict=True):
            assert {(c.tunable, c.after) for c in at.changes if c.owned is False} <= of
            after = moved(inputs.setup, [Move(tunable=c.tunable, value=c.after) for c in at.changes])
            assert not is_leaner(inputs, after, CACHE)
            assert at.levels.key <= found.ways[0].races[way.races.index(at)].levels.key
