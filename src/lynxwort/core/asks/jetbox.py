"""The jet box: every set of jets one owns on this course, its window of weather, the five schools, the smallest
purchase.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil

import numpy as np

from lynxwort.core.derived.mixture import jetting_of
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Injection, Jetted, MeteringRodCarburettor
from lynxwort.core.model.setup import FuellingSetup
from lynxwort.core.physics.air.along import air_at_reading, lift_air
from lynxwort.core.physics.air.moist import AirState, dry_density
from lynxwort.core.physics.air.standard import density_altitude, standard_pressure
from lynxwort.core.physics.fuelling.fuels import oil_in_mix
from lynxwort.core.physics.fuelling.jets import pilot_weight
from lynxwort.core.physics.fuelling.leanness import EPSILON, LOWER, lean_end
from lynxwort.core.physics.fuelling.metering import RodSetting, map_air_effect, rod_curve
from lynxwort.core.physics.fuelling.richness import Jetting, RichnessCurve, main_jet_wanted, richness_curve
from lynxwort.core.physics.fuelling.window import COLDEST_K, per_height
from lynxwort.core.physics.reach.finish import fuel_for
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import (
    FAR_GROOVES,
    FAR_SIZES,
    TURNS_HIGH,
    TURNS_LOW,
    becomes_number,
    limit_of,
    limits_of,
)
from lynxwort.core.stations.fuelling.window import at_ends, day_pressures, lowest_safe
from lynxwort.core.tunables import step_of

#: metres a size of jet is said to be good for: between the fourth root's and the series model's (HANDBOOK 2)
METRES_PER_SIZE = 540.0
#: how much colder than the race's coldest hour "jet safe and leave it" allows for [K] (assumption)
SAFE_COLDER_K = 10.0
#: sets that are looked at, mains to buy about what is wanted, and what makes a purchase worth it [1 of richness,
#: weighted] (assumption)
MOST_SETS, BUY_STEPS, WORTH_BUYING = 400, 2, 0.012
#: a lean place below half lift weighs so much more than a rich one (assumption)
LEAN_WEIGHT = 4.0


def lift_weights(given: FuellingInput) -> np.ndarray:
    """Share of the lap's time at each opening of the richness curve's grid [1]; the closed throttle meters nothing."""

    def make() -> np.ndarray:
        lift, time = given.lap.lift, given.lap.whole.time_s
        grid = np.linspace(0.0, 1.0, 41)
        if lift is None:
            return np.full(grid.size, 1.0 / grid.size)
        open_ = lift > 0.005
        sums = np.bincount(np.clip(np.round(lift[open_] * 40).astype(int), 0, 40), weights=time[open_], minlength=41)
        return np.asarray(sums / max(float(sums.sum()), 1e-9))

    return given.once("lift_weights", make)


@dataclass(frozen=True, slots=True, kw_only=True)
class JetSet:
    """A set of jets on this course. margin: lean end from half lift up against the limit; low_margin: below half lift,
    against what is looked at; leans: whether it runs some range leaner than the proven pair would in this air; rich:
    most richness from half lift up in the thinnest air; cost: how far off it is over the openings that the course uses,
    weighted [1]; to_buy: numbers that are not in the box; lowest_k: coldest safe thermometer at the highest pressure of
    the race, None when never.
    """

    jetting: Jetting
    margin: float
    low_margin: float
    leans: bool
    rich: float
    cost: float
    to_buy: tuple[tuple[str, float], ...]
    lowest_k: float | None
    changes: int

    @property
    def safe(self) -> bool:
        return self.margin >= -EPSILON and self.low_margin >= -EPSILON and not self.leans


#: what a set is made of
PARTS = ("main_jet", "needle", "needle_clip", "pilot_jet", "screw_turns")


def setup_with(setup: FuellingSetup, jetting: Jetting) -> FuellingSetup:
    """A setup with these jets."""
    return setup.model_copy(update={name: getattr(jetting, name) for name in PARTS})


def _cost(given: FuellingInput, dense: RichnessCurve, thin: RichnessCurve) -> float:
    """How far off the mixture is over the openings that this course uses [1]."""
    weights = lift_weights(given)
    rich = np.maximum(np.maximum(dense.value, thin.value), 0.0)
    lean = np.maximum(-np.minimum(dense.low, thin.low), 0.0)
    return float((weights * (rich + LEAN_WEIGHT * lean)).sum())


def _curves(given: FuellingInput, jetting: Jetting) -> list[RichnessCurve]:
    """Richness of jets with what else is on, in the densest and in the thinnest air."""
    carburettor, setting, air = given.proven_jets
    shift = given.mixture.shift(given.setup)
    return [
        richness_curve(carburettor, jetting, a, setting, air, shift)
        for a in (given.day.states.densest, given.day.states.thinnest)
    ]


def _proven_low(given: FuellingInput) -> np.ndarray:
    """Lean end [1] over the throttle of the proven jets with what else is on, in the densest air."""

    def make() -> np.ndarray:
        return _curves(given, given.proven_jets[1])[0].low

    return given.once("proven_low", make)


def _judge(given: FuellingInput, jetting: Jetting, mains: set[float], pilots: set[float]) -> JetSet:
    now = jetting_of(given.setup)
    dense, thin = _curves(given, jetting)
    buy = [("main_jet", jetting.main_jet)] if jetting.main_jet not in mains else []
    if jetting.pilot_jet is not None and jetting.pilot_jet not in pilots:
        buy.append(("pilot_jet", jetting.pilot_jet))
    half, low = thin.throttle >= 0.5 - EPSILON, np.minimum(dense.low, thin.low)
    return JetSet(
        jetting=jetting,
        margin=float(low[half].min()) - limit_of(given),
        rich=float(thin.value[half].max()),
        cost=_cost(given, dense, thin),
        low_margin=min(lean_end((dense, thin), r) - r.look for r in limits_of(given) if r.name in LOWER),
        leans=bool((low < np.minimum(_proven_low(given), 0.0) - 1e-6).any()),
        to_buy=tuple(buy),
        lowest_k=None,
        changes=sum(getattr(jetting, n) != getattr(now, n) for n in PARTS),
    )


def sets_of(given: FuellingInput, *, buying: bool = False) -> list[JetSet]:
    """Every set of main jet, needle, clip, pilot and screw from the box (with one main jet to buy when buying), best
    first: safe, then least off, then least changed. A main more than two sizes leaner, or a clip two grooves leaner,
    than what the proven pair becomes in this air is not among them. Empty without a proven setting or without jets.
    """
    engine, setup = given.engine, given.setup
    if not isinstance(engine, Jetted) or given.mixture.proven is None or setup.main_jet is None:
        return []
    now = jetting_of(setup)
    carburettor, setting, _air = given.proven_jets
    mains = {round(v, 6) for v in (*given.box.main_jet, setup.main_jet)}
    pilots = {round(v, 6) for v in (*given.box.pilot_jet, *((setup.pilot_jet,) if setup.pilot_jet is not None else ()))}
    tried_mains = set(mains)
    if buying:
        need, step = _main_needed(given), step_of(given.engine, "main_jet")
        if need is not None:
            tried_mains |= {round((ceil(need / step - 1e-9) + k) * step, 6) for k in range(-1, BUY_STEPS)}
    needles = range(1, 2 + len(carburettor.needles))
    leanest = becomes_number(given, setting.main_jet)[1] - FAR_SIZES * step_of(given.engine, "main_jet") - 1e-6
    clips = range(max(round(setting.needle_clip - FAR_GROOVES), 1), carburettor.clip_positions + 1)
    grid = itertools.product(sorted(m for m in tried_mains if m >= leanest), needles, clips)
    best = _pilot_and_screw(given, now, pilots)
    found = [
        _judge(given, replace(best, main_jet=m, needle=n, needle_clip=c), mains, pilots)
        for m, n, c in itertools.islice(grid, MOST_SETS)
    ]
    return sorted(
        found, key=lambda s: (not s.safe, -s.margin if not s.safe else 0.0, round(s.cost, 3), s.changes, bool(s.to_buy))
    )


def _pilot_and_screw(given: FuellingInput, now: Jetting, pilots: set[float]) -> Jetting:
    """The jets as they are with the pilot of the box and the place of the screw that suit best: they hardly meet main
    and clip, so are chosen by themselves.

    The screw stays within the turns in which it works, and moves only where that is worth more than leaving it.
    """

    def make() -> Jetting:
        sizes: list[float | None] = sorted(pilots) if now.pilot_jet is not None else [None]  # type: ignore[assignment]
        turns = {now.screw_turns}
        if now.pilot_jet is not None:
            turns |= {TURNS_LOW + 0.25 * k for k in range(round((TURNS_HIGH - TURNS_LOW) / 0.25) + 1)}
        tried = [replace(now, pilot_jet=p, screw_turns=t) for p in sizes for t in turns]
        return min(
            tried,
            key=lambda j: (
                round(_pilot_off(given, j), 3),
                (j.pilot_jet != now.pilot_jet) + (j.screw_turns != now.screw_turns),
                abs((j.screw_turns or 0.0) - (now.screw_turns or 0.0)),
            ),
        )

    return given.once("pilot_and_screw", make)


def _pilot_off(given: FuellingInput, jetting: Jetting) -> float:
    """How far off the pilot is where it meters [1]; lean weighs more."""
    dense, thin = _curves(given, jetting)
    weight = pilot_weight(dense.throttle)
    rich, lean = np.maximum(thin.value, 0.0), np.maximum(-dense.low, 0.0)
    return float((weight * (rich + LEAN_WEIGHT * lean)).sum() / weight.sum())


def _main_needed(given: FuellingInput) -> float | None:
    carburettor, setting, air = given.proven_jets
    shift = given.mixture.shift(given.setup)[1]
    return main_jet_wanted(
        carburettor, jetting_of(given.setup), given.day.states.densest, setting, air, max(limit_of(given), 0.0), shift
    )


def with_window(given: FuellingInput, chosen: JetSet) -> JetSet:
    """A set with its coldest safe thermometer at the highest pressure of the race."""
    return replace(
        chosen, lowest_k=lowest_safe(given, setup_with(given.setup, chosen.jetting), day_pressures(given)[2])
    )


def ladder(given: FuellingInput, most: int = 6) -> list[JetSet]:
    """One set for each main jet of the box, safest first: what to put in when it gets colder than planned.

    The best safe set of each main jet; where none is safe, that jet with the needle as it hangs.
    """
    now, best = jetting_of(given.setup), dict[float, JetSet]()
    for found in sets_of(given):
        as_it_hangs = (found.jetting.needle, found.jetting.needle_clip) == (now.needle, now.needle_clip)
        if found.safe or as_it_hangs:
            best.setdefault(found.jetting.main_jet, found)
    rows = [with_window(given, s) for s in best.values()]
    rows = [r for r in rows if r.lowest_k is not None]
    return sorted(rows, key=lambda r: (r.lowest_k, r.jetting.main_jet))[:most]  # type: ignore[arg-type, return-value]


def purchase(given: FuellingInput) -> JetSet | None:
    """The set with one main jet to buy, when it does clearly better than the box; None when the box will do."""
    owned, bought = sets_of(given), [s for s in sets_of(given, buying=True) if s.to_buy]
    if not bought or not bought[0].safe:
        return None
    if not owned or not owned[0].safe:
        return bought[0]
    return bought[0] if owned[0].cost - bought[0].cost > WORTH_BUYING else None


@dataclass(frozen=True, slots=True, kw_only=True)
class MainByAir:
    """The main jet for some air. number: None where none does it; below_too: pilot and needle must go richer as well, a
    main jet does not reach the openings below half.
    """

    number: float | None
    below_too: bool


def mains_by_air(
    given: FuellingInput, heights_m: Sequence[float], temperatures_k: Sequence[float], humidity: float
) -> list[list[MainByAir]]:
    """The smallest main jet by height [m] and temperature [K] that is nowhere leaner than the pair that ran right, its
    needle and clip as they were, by its lean side, on the standard day's pressure at this share of humidity; where no
    main jet reaches the openings below half, from there up, and that is said. For those who ask only where a pair ran
    right.
    """
    carburettor, setting, air = given.proven_jets
    shift, step = given.mixture.shift(given.setup), step_of(given.engine, "main_jet")

    def one(height_m: float, temperature_k: float) -> MainByAir:
        here = AirState(
            pressure_pa=standard_pressure(height_m), temperature_k=temperature_k, relative_humidity=humidity
        )
        wanted = main_jet_wanted(carburettor, setting, here, setting, air, 0.0, shift[1])
        number = None if wanted is None else round(ceil(wanted / step - 1e-6) * step, 6)

        def leans_below(main_jet: float) -> bool:
            curve = richness_curve(carburettor, replace(setting, main_jet=main_jet), here, setting, air, shift)
            return float(curve.low[curve.throttle < 0.5 - EPSILON].min()) < -1e-6

        # a smaller jet is felt a little below half as well: where that would lean the pair, it stays larger
        while number is not None and number < setting.main_jet and leans_below(number):
            number = round(min(number + step, setting.main_jet), 6)
        return MainByAir(number=number, below_too=leans_below(setting.main_jet if number is None else number))

    return [[one(h, t) for t in temperatures_k] for h in heights_m]


@dataclass(frozen=True, slots=True, kw_only=True)
class School:
    """What one school would do on this course. number: main jet, None when it turns none; margin, rich: [1] as of
    JetSet.
    """

    name: str
    number: float | None
    margin: float
    rich: float


def schools(given: FuellingInput) -> list[School]:
    """The five schools side by side; empty without a proven setting with jets."""
    if not isinstance(given.engine, Jetted) or given.mixture.proven is None or given.setup.main_jet is None:
        return []
    carburettor, setting, air = given.proven_jets
    step, limit = step_of(given.engine, "main_jet"), limit_of(given)
    shift, now = given.mixture.shift(given.setup), jetting_of(given.setup)

    def jets(name: str, number: float | None) -> School | None:
        if number is None:
            return None
        return _school(name, number, _curves(given, replace(now, main_jet=number)), limit)

    best = next((s for s in sets_of(given) if s.safe), None)
    colder = replace(given.day.air, temperature_low_k=max(given.day.air.temperature_low_k - SAFE_COLDER_K, COLDEST_K))
    coldest = lift_air(air_at_reading(colder, hot=0.0, pressure_shift=1.0, humid=0.0), at_ends(given)[0])
    safe = main_jet_wanted(carburettor, now, coldest, setting, air, max(limit, 0.0), shift[1])
    rise = (
        density_altitude(dry_density(given.day.states.middle_at_reading))
        + 0.5 * sum(at_ends(given))
        - density_altitude(dry_density(air))
    )
    rows = [
        jets("physics", best.jetting.main_jet if best else _main_needed(given)),
        jets("per_height", per_height(setting.main_jet, step, rise, METRES_PER_SIZE)),
        jets("safe", None if safe is None else ceil(safe / step - 1e-9) * step),
    ]
    rod, seeing = MeteringRodCarburettor(), Injection(sensors="pressure_temperature")
    at_rest = RodSetting(rod=0, clicks=0, premix_ratio=now.premix_ratio)
    rows.append(
        _school(
            "self_compensating",
            None,
            [rod_curve(rod, at_rest, a, at_rest, air) for a in (given.day.states.densest, given.day.states.thinnest)],
            limit,
        )
    )
    ends = [map_air_effect(seeing, a, air) for a in (given.day.states.densest, given.day.states.thinnest)]
    rows.append(
        School(name="injection", number=None, margin=min(e[1] for e in ends) - limit, rich=max(e[0] for e in ends))
    )
    return [r for r in rows if r is not None]


def _school(name: str, number: float | None, curves: list[RichnessCurve], limit: float) -> School:
    half = curves[0].throttle >= 0.5 - 1e-9
    return School(
        name=name,
        number=number,
        margin=min(c.leanest_from_half() for c in curves) - limit,
        rich=max(float(c.value[half].max()) for c in curves),
    )


def window_lines(
    given: FuellingInput, setups: list[tuple[str, FuellingSetup]], count: int = 7
) -> tuple[np.ndarray, list[tuple[str, np.ndarray]]]:
    """Pressures [Pa] about those of the race, and per setup the coldest safe thermometer [K] at each; nan where it is
    never safe.
    """
    low, _, high = day_pressures(given)
    pressures = np.linspace(low - 1500.0, high + 1500.0, count)
    found = []
    for name, setup in setups:
        values = [lowest_safe(given, setup, float(p)) for p in pressures]
        found.append((name, np.array([np.nan if v is None else v for v in values])))
    return pressures, found


@dataclass(frozen=True, slots=True, kw_only=True)
class Can:
    """A can of ready fuel: petrol and oil to pour in [m3]."""

    petrol_m3: float
    oil_m3: float


def cans(up: Upstream, can_m3: float) -> list[Can]:
    """Cans of can_m3 [m3] for the whole race: what its longest leg wants with the certainty asked, taken over all legs;
    the last one as needed.
    """
    wanted = fuel_for(up.inputs.race.certainty, up.supply.cases, up.supply.factor)
    whole = (
        wanted * sum(sum(leg) for leg in up.supply.legs) / max(sum(leg) for leg in up.supply.legs)
        + up.supply.store.unusable
    )
    ratio, found = up.inputs.setup.premix_ratio, list[Can]()
    while whole > 1e-6 and len(found) < 60:
        mix = min(can_m3, whole)
        oil = 0.0 if ratio is None else oil_in_mix(mix, ratio)
        found.append(Can(petrol_m3=mix - oil, oil_m3=oil))
        whole -= mix
    return found
