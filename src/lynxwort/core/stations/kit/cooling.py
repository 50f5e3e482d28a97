"""The engine's heat along the round: how hot the coolant gets and where, how far from boiling, how long at a crawl."""

from dataclasses import dataclass
from math import exp, inf

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.ride import Lap
from lynxwort.core.evidence import LogNormal
from lynxwort.core.figures import figure, step
from lynxwort.core.learned.kit import learn_coolant
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.fitted import items_on, shift_of
from lynxwort.core.model.race import Stage
from lynxwort.core.model.readings import CoolantReading
from lynxwort.core.model.setup.kit import KitSetup
from lynxwort.core.physics.air.along import air_at_reading
from lynxwort.core.physics.air.moist import R_DRY_J_PER_KG_K
from lynxwort.core.physics.air.standard import EXPONENT, LAPSE_K_PER_M
from lynxwort.core.physics.kit import coolant, cooling
from lynxwort.core.report import Figure
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.stations.kit.pieces import Crawl, Pieces, crawl, idle, pieces, queue_step
from lynxwort.core.tunables import current_value

Array = NDArray[np.float64]
#: a warm engine at the start [K] (assumption)
WARM_K = 343.15
#: how finely a temperature is told that a share of the time is under [K]
BIN_K = 0.01
#: rounds that are followed at most: coolant settles within one
MOST_ROUNDS = 2


def is_cooled(given: KitInput) -> bool:
    """Whether there is coolant at all."""
    return not isinstance(given.bike.engine, Electric) and given.bike.kit.cooling.radiators > 0


def stroke_of(given: KitInput) -> str:
    """ "two_stroke" or "four_stroke"."""
    return "two_stroke" if given.bike.engine.kind.endswith("two_stroke") else "four_stroke"


def radiator(given: KitInput, setup: KitSetup | None = None) -> cooling.Radiator:
    """As it is set, with what is bolted on; or with another setup of the kit."""
    facts, setup = given.bike.kit.cooling, setup or given.brakes
    share = current_value(setup, "glycol_share")
    face = facts.face_m2 * (1.0 + shift_of(given.bike, setup, "radiator_share"))
    holds = coolant.heat_held(share)
    return cooling.Radiator(
        face_m2=face * (1.0 - current_value(setup, "tape_share")),
        depth_m=facts.depth_m,
        air_share=max(1.0 + shift_of(given.bike, setup, "radiator_air_share"), 0.1),
        film_factor=coolant.film_factor(share),
        holds=holds,
        heat_j_per_k=facts.coolant_m3 * coolant.density(share) * holds + cooling.METAL_J_PER_K,
        thermostat=bool(current_value(setup, "thermostat")),
        fan_m3_per_s=sum(i.air_m3_per_s for i in items_on(given.bike, setup)),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Outside:
    """Air along the round's steps in one hour: temperature [K], pressure [Pa], density [kg/m3]."""

    air_k: Array
    pressure_pa: Array
    density: Array


def outside(given: KitInput, *, hot: float) -> Outside:
    """hot: 0 the coldest, 1 the hottest hour [1]. Thin air cools less: density goes with the place."""
    return given.once(f"outside_{hot}", lambda: _outside(given, hot))


def _outside(given: KitInput, hot: float) -> Outside:
    day, height = given.day.air, given.lap.around.whole.height_m
    read = air_at_reading(day, hot=hot, pressure_shift=0.0, humid=0.5)
    air = read.temperature_k - LAPSE_K_PER_M * (0.5 * (height[1:] + height[:-1]) - day.reading_height_m)
    pressure = read.pressure_pa * (air / read.temperature_k) ** EXPONENT
    return Outside(air_k=air, pressure_pa=pressure, density=pressure / (R_DRY_J_PER_KG_K * air))


@dataclass(frozen=True, slots=True, kw_only=True)
class Warmth:
    """Per piece of the round once it is warm: coolant [K], whether the fan ran [1], how far from boiling [K]."""

    pieces: Pieces
    coolant_k: Array
    fan: Array
    margin_k: Array


@keyed
class _Followed:
    """All that the coolant depends on."""

    lap: Lap
    day: Day
    stages: tuple[Stage, ...]
    radiator: cooling.Radiator
    share: float
    cap_pa: float
    glycol_share: float
    fan_from_k: float
    hot: float
    factor: float


def warmth(given: KitInput, *, hot: float = 1.0, setup: KitSetup | None = None, learned: bool = True) -> Warmth:
    """Along the round in the hottest hour (hot = 1) or the coldest (0), as it is set or with another setup. learned:
    with what was read of it.
    """
    setup = setup or given.brakes
    key = _Followed(
        lap=given.lap, day=given.day, stages=given.clock.stages, radiator=radiator(given, setup),
        share=current_value(setup, "crawl_share"), cap_pa=current_value(setup, "cap_pa"),
        glycol_share=current_value(setup, "glycol_share"), fan_from_k=given.bike.kit.cooling.fan_from_k, hot=hot,
        factor=factor(given).median if learned else 1.0,
    )  # fmt: skip
    return given.cache.get("coolant", key, lambda: _warmth(given, key))


def _heat(given: KitInput, fuel_w: Array, slip_w: Array, factor: float) -> Array:
    """Into the coolant [W]."""
    into = cooling.coolant_heat(fuel_w, full_power_w=given.lap.ride_input.engine.peak_power_w, stroke=stroke_of(given))
    return factor * (into + slip_w)


@keyed
class _Way:
    """All that the heat on the way and the air about it depend on."""

    lap: Lap
    day: Day
    stages: tuple[Stage, ...]
    share: float
    hot: float


def _ground_of(given: KitInput, share: float, hot: float) -> tuple[Pieces, Outside, Array]:
    """The round in pieces, the air on each of them, and what goes into the coolant [W], before anything was read."""

    def make() -> tuple[Pieces, Outside, Array]:
        way, air = pieces(given, share), outside(given, hot=hot)
        on_each = Outside(
            air_k=air.air_k[way.step], pressure_pa=air.pressure_pa[way.step], density=air.density[way.step]
        )
        # the ride's own heat is the same whatever one does in the queue
        heat, ridden = np.empty(way.time_s.size), ~way.queued
        heat[ridden] = given.cache.get(
            "coolant_heat", given.lap, lambda: _heat(given, way.fuel_w[ridden], way.slip_w[ridden], 1.0)
        )
        heat[way.queued] = _heat(given, way.fuel_w[way.queued], way.slip_w[way.queued], 1.0)
        return way, on_each, heat

    key = _Way(lap=given.lap, day=given.day, stages=given.clock.stages, share=share, hot=hot)
    return given.cache.get("coolant_way", key, make)


def _warmth(given: KitInput, key: _Followed) -> Warmth:
    way, air, heat = _ground_of(given, key.share, key.hot)
    heat = key.factor * heat
    found = cooling.along(
        key.radiator, time_s=way.time_s, heat_w=heat, speed_m_per_s=way.speed_m_per_s, rpm=way.rpm,
        air_k=air.air_k, density_kg_per_m3=air.density, fan_from_k=key.fan_from_k,
        start_k=max(WARM_K, float(air.air_k[0])), rounds=min(MOST_ROUNDS, given.clock.race_laps),
    )  # fmt: skip
    return Warmth(
        pieces=way, coolant_k=found[0], fan=found[1],
        margin_k=_boils(air.pressure_pa, key.cap_pa, key.glycol_share) - found[0],
    )  # fmt: skip


def _boils(pressure_pa: Array, cap_pa: float, glycol_share: float) -> Array:
    """Where it does not boil yet for sure [K], at each pressure outside: a mixture boils lower than Raoult has it."""
    lower = coolant.LOWER_K if glycol_share > 0.0 else 0.0
    return coolant.boils_along(pressure_pa + cap_pa, glycol_share) - lower


def factor(given: KitInput) -> LogNormal:
    """Factor on the coolant's rise over the air [1], by what was read at its hottest."""

    def of(reading: CoolantReading) -> float:
        setup = KitSetup.taken_from(reading.under.setup)
        air = given.day.air.temperature_high_k
        predicted = float(warmth(given, setup=setup, learned=False).coolant_k.max()) - air
        then = air if reading.under.air is None else reading.under.air.temperature_k
        return (reading.hottest_k - then) / max(predicted, 1.0)

    if not is_cooled(given):
        return learn_coolant([])
    mine = [r for r in given.readings if isinstance(r, CoolantReading)]
    here = [r for r in mine if r.under.course_key in (None, *given.course_keys)]
    return learn_coolant([(r.id, of(r)) for r in here])


def by_time(seen: Warmth, share: float) -> float:
    """Temperature [K] that the coolant is under for this share of the time, to BIN_K."""
    least = float(seen.coolant_k.min())
    place = ((seen.coolant_k - least) / BIN_K).astype(np.int64)
    passed = np.cumsum(np.bincount(place, weights=seen.pieces.time_s))
    return least + BIN_K * int(np.searchsorted(passed, share * passed[-1]))


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """What becomes of it in a queue that never ends: revs [rpm], heat in [W] and out [W/K], where it settles [K], time
    until it boils [s], infinite when it never does; from_k: how warm it came there.
    """

    rpm: float
    heat_w: float
    conductance_w_per_k: float
    settles_k: float
    boils_s: float
    from_k: float


def queue(given: KitInput, *, crawling: bool, setup: KitSetup | None = None) -> Standing:
    """At a walking pace, or standing at idle, in the hottest hour where the queue is, from as warm as the lap's middle;
    as it is set or with another setup.
    """
    if setup is None:
        name = "queue_crawling" if crawling else "queue_standing"
        return given.once(name, lambda: queue(given, crawling=crawling, setup=given.brakes))
    at = queue_place(given)
    how = crawl(given, at, current_value(setup, "crawl_share")) if crawling else idle(given)
    return _standing(given, how, at, setup)


def _longest(given: KitInput) -> int:
    """The stage with the longest queue, else the first."""
    stages = given.clock.stages
    return max(range(len(stages)), key=lambda i: (stages[i].crawling_s + stages[i].standing_s, -i))


def _standing(given: KitInput, how: Crawl, at: int, setup: KitSetup) -> Standing:
    air, made = outside(given, hot=1.0), radiator(given, setup)
    heat = float(_heat(given, np.asarray(how.fuel_w), np.asarray(how.slip_w), factor(given).median))
    density, share = float(air.density[at]), current_value(setup, "glycol_share")
    gives = cooling.conductance(made, density_kg_per_m3=density, speed_m_per_s=how.speed_m_per_s, rpm=how.rpm,
                                fan=made.fan_m3_per_s > 0.0)  # fmt: skip
    boils = float(_boils(air.pressure_pa[at : at + 1], current_value(setup, "cap_pa"), share)[0])
    # how one would crawl does not change how warm the lap's middle is
    lap = setup.model_copy(update={"crawl_share": given.brakes.crawl_share})
    start = max(by_time(warmth(given, setup=lap), 0.5), cooling.OPEN_K)
    outside_k = float(air.air_k[at])
    return Standing(
        rpm=how.rpm, heat_w=heat, conductance_w_per_k=gives, settles_k=cooling.settles_at(heat, gives, outside_k),
        from_k=start,
        boils_s=cooling.time_to(boils, from_k=start, heat_w=heat, conductance_w_per_k=gives,
                                heat_j_per_k=made.heat_j_per_k, air_k=outside_k),
    )  # fmt: skip


def queue_place(given: KitInput) -> int:
    """Step of the round on which the longest queue stands."""
    return queue_step(given, _longest(given))


def asked_s(given: KitInput) -> float:
    """Longest time at a walking pace in one queue [s]."""
    return max(s.crawling_s for s in given.clock.stages)


SOURCE = "shares of heat Heywood, ch. 12, exchanger Incropera eq. 11.32, both from memory; constants assumed"
_NAMES = ("hottest", "hottest_at", "boiling", "margin", "crawl_time", "crawl_settles", "stand_time", "coolest",
          "median", "freezes",
          "fan_share")  # fmt: skip


def _until(given: KitInput, name: str, *, crawling: bool, paths: tuple[str, ...]) -> Figure:
    """Time until it boils in a queue; not applicable when it never does."""
    seen, sd = queue(given, crawling=crawling), factor(given).log_sd
    if seen.boils_s == inf:
        return figure(name, None, status="not_applicable", reason="never_boils")
    return figure(
        name, seen.boils_s, low=seen.boils_s * exp(-2.0 * Z90 * sd), high=seen.boils_s * exp(2.0 * Z90 * sd),
        inputs=paths, readings=factor(given).used, basis="assumed", source=SOURCE,
        formula="tau ln((T_end - T_0) / (T_end - T_boil)), T_end = air + Q / G, tau = C / G",
        steps=(
            step("Q", seen.heat_w, "W", "fuel's heat into the coolant, half of what the clutch slips away"),
            step("G", seen.conductance_w_per_k, "W/K", "radiators, or the fan where it moves more, and cases"),
            step("T_end", seen.settles_k, "K"), step("T_0", seen.from_k, "K", "as warm as the lap's middle"),
            step("n", seen.rpm, "rpm"),
        ),
    )  # fmt: skip


def figures(given: KitInput) -> list[Figure]:
    """Of the coolant; none of a motor, or of an engine cooled by air."""
    if not is_cooled(given):
        return [figure(f"kit.cooling.{n}", None, status="not_applicable", reason="no_coolant") for n in _NAMES]
    hot, cold, known = warmth(given), warmth(given, hot=0.0), factor(given)
    top, air = float(hot.coolant_k.max()), given.day.air.temperature_high_k
    half, basis = Z90 * known.log_sd * (top - air), "calibrated" if known.used else "assumed"
    at, least = int(hot.coolant_k.argmax()), int(hot.margin_k.argmin())
    share, cap = current_value(given.brakes, "glycol_share"), current_value(given.brakes, "cap_pa")
    outer = given.day.states.thinnest.pressure_pa
    boils = coolant.boils_at(round(outer + cap, 1), share)
    lower = coolant.LOWER_K if share > 0.0 else 0.0
    paths = ("setup.cap_pa", "setup.glycol_share", "setup.tape_share", "bike.kit.cooling.width_m")
    queue_paths = ("setup.crawl_share", "bike.kit.cooling.width_m")
    time = hot.pieces.time_s
    fan = None
    if radiator(given).fan_m3_per_s > 0.0:
        fan = float((hot.fan * time).sum() / time.sum())
    return [
        figure(
            "kit.cooling.hottest", top, half=half, inputs=paths, readings=known.used, basis=basis, source=SOURCE,
            formula="C dT/dt = Q - G (T - air), Q = s (P / P_full)^-0.2 P, G = eps C_min + 3 + 1.2 v^0.8",
            steps=(
                step("Q", float(_heat(given, hot.pieces.fuel_w, hot.pieces.slip_w, known.median)[at]), "W", "there"),
                step("v", float(hot.pieces.speed_m_per_s[at]), "m/s", "there"),
            ),
        ),
        figure("kit.cooling.hottest_at", float(given.lap.around.whole.distance_m[hot.pieces.step[at]]), basis=basis,
               formula="place of the hottest coolant, queues in it", source=SOURCE),
        figure(
            "kit.cooling.boiling", boils, low=boils - lower, high=boils + 0.5, inputs=paths,
            formula="x_w p_w(T) + x_g p_g(T) = air + cap, x by moles",
            steps=(
                step("p", outer, "Pa", "thinnest air of the race"), step("cap", cap, "Pa", "as stamped, over the air"),
                step("x_g", coolant.mole_share(share), "1", "glycol in moles"),
            ),
            source="water Wagner and Pruss 1993, glycol Perry 8th ed. table 2-8, Raoult; UNIFAC lies up to 2.5 K lower",
        ),
        figure(
            "kit.cooling.margin", float(hot.margin_k[least]), half=half, inputs=paths, readings=known.used, basis=basis,
            formula="boils where it is - coolant there, 2.5 K lower than Raoult has it", source=SOURCE,
        ),
        _until(given, "kit.cooling.crawl_time", crawling=True, paths=queue_paths),
        figure(
            "kit.cooling.crawl_settles", queue(given, crawling=True).settles_k, half=half, inputs=queue_paths,
            readings=known.used, basis=basis, formula="air + Q / G", source=SOURCE,
        ),
        _until(given, "kit.cooling.stand_time", crawling=False, paths=queue_paths),
        figure("kit.cooling.coolest", float(cold.coolant_k.min()), half=0.5 * half, basis=basis, source=SOURCE,
               formula="least of the lap, warm, in the coldest hour"),
        figure(
            "kit.cooling.median", by_time(cold, 0.5), half=0.5 * half, basis=basis, source=SOURCE,
            formula="half of the lap's time is under it, in the coldest hour",
            inputs=("setup.thermostat", "setup.tape_share"),
        ),
        figure(
            "kit.cooling.freezes", coolant.freezes_at(share), half=2.0, inputs=("setup.glycol_share",),
            formula="first ice by the share of glycol in volume", source="common tables, from memory",
        ),
        figure("kit.cooling.fan_share", fan, half=0.1, basis=basis, source=SOURCE, formula="time it runs / lap")
        if fan is not None
        else figure("kit.cooling.fan_share", None, status="not_applicable", reason="no_fan"),
    ]  # fmt: skip
