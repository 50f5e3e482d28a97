"""Range: fuel or charge per lap, what is wanted, chance to finish, stops, level along the race."""

from math import exp, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.coupling import walk
from lynxwort.core.derived.supply import UNMEASURED_MOST
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evidence import LogNormal
from lynxwort.core.figures import figure, step
from lynxwort.core.learned.consumption import fill_up_sd
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import TwoStroke
from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.fitted import oil_way
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.reach.finish import PER_LAP_SD, fuel_for, p_finish_cases
from lynxwort.core.physics.reach.stops import Fill
from lynxwort.core.report import Figure, Finding, Move
from lynxwort.core.units.detents import DETENTS, is_owned

#: below this chance to finish it is to act (assumption)
FINISH_ACT = 0.90
#: chance of a lap more from which it is told (assumption)
EXTRA_LAP_TOLD = 0.05
#: expansion of petrol [1/K], from memory
EXPANSION_PER_K = 9.5e-4
SOURCES = {
    "fuel": "Willans line on the simulated lap; Fenton 1960 sum of laps, Gauss-Hermite over the bike's factor; spreads: assumption",
    "energy": "motor and controller losses on the simulated lap (from memory); Fenton 1960 sum of laps; spreads: assumption",
}
#: figures of fuel alone
#: per store: figures of one lap, the race, what is wanted, what is left; what fills it, what holds it
FUEL_ONLY = ("range.fuel_per_km", "range.distance_per_fuel", "range.fuel_per_hour", "range.unusable", "range.fuel_saved_by_next_fill_up", "range.mass_full",
             "range.sag_change_full_to_empty", "range.oil_tank_margin")  # fmt: skip
NAMES = {
    "fuel": ("range.fuel_per_lap", "range.fuel_race", "range.fuel_wanted", "range.left_at_finish"),
    "energy": ("range.energy_per_lap", "range.energy_race", "range.energy_wanted", "range.energy_left"),
}
USE_INPUTS = {
    "fuel": ("setup.main_jet", "riders.entry.pace", "riders.entry.mass_in_gear_kg", "bike.engine.displacement_m3", "setup.fuel_fill_m3",
             "setup.tank_capacity_m3", "bike.frame.unusable_fuel_m3", "race.certainty"),
    "energy": ("riders.entry.pace", "riders.entry.mass_in_gear_kg", "bike.engine.peak_power_w", "setup.power_mode", "setup.pack_energy_j",
               "setup.charge_share", "bike.engine.usable_share", "race.certainty"),
}  # fmt: skip


def wanted(work: Upstream) -> float:
    """Fuel [m3] or charge [J] aboard that lasts with the wanted certainty, the unusable part included."""
    certainty = work.inputs.race.certainty
    return (
        work.cache.get("fuel_for", (certainty, work.supply.cases, work.supply.factor), lambda: fuel_for(certainty, work.supply.cases, work.supply.factor))
        + work.supply.store.unusable
    )


def chance_of(work: Upstream, aboard: NDArray[np.float64] | float, shift: float = 0.0) -> NDArray[np.float64]:
    """Chance to finish with this much aboard at the start [m3 or J], the stops as planned. shift: of the bike's factor, in its standard deviations.

    A bike that was never measured is never called surer than UNMEASURED_MOST.
    """
    chance = _reckoned(work, aboard, shift)
    return np.minimum(chance, work.supply.most_sure)


def _reckoned(work: Upstream, aboard: NDArray[np.float64] | float, shift: float = 0.0) -> NDArray[np.float64]:
    if work.supply.taken:
        taken = work.supply.taken
        return np.array([walk.chance_by(work, float(a), taken, shift) for a in np.atleast_1d(np.asarray(aboard, dtype=float))])
    factor = LogNormal(log_mean=work.supply.factor.log_mean + shift * work.supply.factor.log_sd, log_sd=work.supply.factor.log_sd)
    return p_finish_cases(aboard - work.supply.store.unusable, work.supply.cases, factor)


def _sure(work: Upstream) -> float:
    """The reckoned chance, whatever may be said of an unmeasured bike."""
    return float(_reckoned(work, work.supply.store.aboard)[0])


def least_left(work: Upstream, scale: float = 1.0) -> float:
    """The least that is left before a stop or at the finish [m3 or J], when k is scale times its median."""
    if not work.supply.taken:
        return work.supply.store.aboard - work.supply.largest_leg * scale
    return float(min(level for _m, level in _levels(work, scale)))


def _levels(work: Upstream, scale: float) -> list[tuple[float, float]]:
    """Race distance [m] and level [m3 or J] just before each stop and at the finish, k being scale times its median; negative = short by so much."""
    taken, found = work.supply.taken, []
    course, openings = walk.course_of(work, work.clock.laps), walk.passed(work, work.clock.laps)
    left, most = work.supply.store.aboard, walk.tank_of_work(work).capacity
    for k, section in enumerate(course.sections):
        left -= sum(section) * work.supply.factor.median * scale
        number = k + 1
        last = k == len(course.openings)
        if not last and taken is not None and number not in taken:
            continue
        found.append((work.clock.race_m if last else openings[k].race_m, left))
        if not last:
            fill = Fill(amount=work.supply.store.aboard) if taken is None else taken[number]
            left = min(max(left, 0.0) + fill.amount, most) if fill.add else max(min(fill.amount, most), left)
    return found


def figures(work: Upstream) -> list[Figure]:
    factor, store = work.supply.factor, work.supply.store
    pieces = work.supply.pieces(work.clock.laps)
    laps = sum(p.laps for p in pieces)
    lap, race = work.supply.round_use, sum(float(p.used[-1]) * p.laps for p in pieces)
    basis = "calibrated" if factor.used else "computed"
    spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2))
    race_spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2 / laps))
    certainty, need = work.inputs.race.certainty, wanted(work)
    chance, low, high = (float(chance_of(work, store.aboard, d)[0]) for d in (0.0, 0.5, -0.5))
    if not factor.used and chance >= UNMEASURED_MOST:  # what may be said at most is no certainty of its own
        low = min(low, UNMEASURED_MOST - (1.0 - UNMEASURED_MOST))
    lap_median, race_median, largest = lap * factor.median, race * factor.median, work.supply.largest_leg
    common: dict[str, Any] = {"inputs": USE_INPUTS[store.kind], "readings": factor.used, "basis": basis, "source": SOURCES[store.kind]}
    per_lap, whole, name_wanted, left = NAMES[store.kind]
    unit = "m3" if store.kind == "fuel" else "J"
    computed = "Willans line, x (1 + richness)" if store.kind == "fuel" else "power and losses over the lap"
    return [
        figure("range.k", factor.median, low=factor.median * exp(-Z90 * factor.log_sd), high=factor.median * exp(Z90 * factor.log_sd),
               formula="prior updated in logs by each fill-up, weighted by the chance that it is no blunder", basis=basis, readings=factor.used,
               steps=(step("prior", work.supply.prior.median, "1", "1 in tight ground to 1.15 in the open"),), source="Box and Tiao 1968; spreads: assumption"),
        figure("range.k_sd", factor.log_sd, formula="standard deviation of ln k", basis=basis, readings=factor.used, source="assumption and update"),
        figure(per_lap, lap_median, low=lap_median / spread, high=lap_median * spread,
               formula="computed lap x k", steps=(step("computed lap", lap, unit, computed), step("k", factor.median, "1")), **common),
        figure(whole, race_median, low=race_median / race_spread, high=race_median * race_spread, formula="per lap x laps", **common),
        figure(name_wanted, need, low=max(largest + store.unusable, 0.0), high=None, formula="amount at which P(finish) = certainty, + unusable",
               steps=(step("certainty", certainty, "1"), step("unusable", store.unusable, unit)), **common),
        figure("range.p_finish", chance, low=low, high=high,
               formula="sum over k of P(k x laps <= what is usable)", steps=(step("usable", store.aboard - store.unusable, unit, "aboard - unusable"),
               step("legs", len(work.supply.legs), "1", "rides between refuel points, refilled to the start level")), **common),
        figure(left, least_left(work), low=least_left(work, race_spread), high=least_left(work, 1.0 / race_spread),
               formula="aboard - longest leg; with stops planned, the least before a stop or at the finish", **common),
        figure("range.joint_risk", 1.0 - chance, low=1.0 - high, high=1.0 - low, formula="1 - P(finish): no leg may run dry", **common),
        *_stops(work, common),
        *_kinds(work, race_median, race_spread, common),
    ]  # fmt: skip


def _absent(work: Upstream, names: tuple[str, ...], reason: str) -> list[Figure]:
    return [figure(n, None, status="not_applicable", reason=reason) for n in names]


def _stops(work: Upstream, common: dict[str, Any]) -> list[Figure]:
    """The stops in force, and when the race is over."""
    moment = walk.moments(work)[-1]
    made = [figure("range.arrival.finish", moment.likely_s, low=moment.early_s, high=moment.late_s, inputs=("riders.entry.pace",),
                   formula="riding + standing at the stops in force + hand-overs", source="course simulation; spread of pace: assumption")]  # fmt: skip
    places = walk.passed(work, work.clock.most_laps)
    if not places:
        return made + _absent(work, ("range.stops", "range.stop.1.distance", "range.stop.1.fuel"), "no_refuel_point")
    found, whence = walk.planned(work)
    says = {"kept": "as planned", "best": "shortest path over stops with one shared quantile", "every": "no plan does it: filled up at every point"}[whence]
    made.append(figure("range.stops", len(found), formula=says, **common))
    if not found:
        return made + _absent(work, ("range.stop.1.distance", "range.stop.1.fuel"), "no_stop")
    first = found[0]
    made.append(figure("range.stop.1.distance", places[first.opening].race_m, formula=says, **common))
    if work.supply.store.kind == "energy":
        return made + _absent(work, ("range.stop.1.fuel",), "electric")
    spread = exp(Z90 * sqrt(work.supply.factor.log_sd**2 + PER_LAP_SD**2 / max(first.opening + 1, 1))) - 1.0
    burnt = work.supply.store.aboard - (first.level - first.added)
    return [
        *made,
        figure(
            "range.stop.1.fuel",
            first.added,
            low=max(first.added - burnt * spread, 0.0),
            high=min(first.added + burnt * spread, first.level),
            formula="level filled to - likely level on arrival",
            **common,
        ),
    ]


def _kinds(work: Upstream, race: float, spread: float, common: dict[str, Any]) -> list[Figure]:
    """What is said of fuel alone, or of charge alone."""
    store, setup = work.supply.store, work.inputs.setup
    per_m = race / work.clock.race_m
    if store.kind == "energy":
        made = [figure("range.energy_per_km", per_m, low=per_m / spread, high=per_m * spread, formula="energy of the race / distance", **common)]
        return made + _absent(work, (*NAMES["fuel"], *FUEL_ONLY), "electric")
    hours = sum(r.lap_time_s * p.laps for p in work.supply.pieces(work.clock.laps) for r in (work.clock.lap(p.rider).rides[p.stage],))
    saved = wanted(work) - after_fill_up(work)
    full, empty = (work.stand.sag("rear", race=True, fuel_m3=f)[0] for f in (setup.fill_m3, store.unusable))
    mass = work.stand.loads(setup.fill_m3, with_rider=False).total_kg
    return [
        figure("range.fuel_per_km", per_m, low=per_m / spread, high=per_m * spread, formula="fuel of the race / distance", **common),
        figure("range.distance_per_fuel", 1.0 / per_m, low=1.0 / (per_m * spread), high=spread / per_m, formula="distance / fuel of the race", **common),
        figure("range.fuel_per_hour", race / hours, low=race / hours / spread, high=race / hours * spread,
               formula="fuel of the race / riding time", **common),
        figure("range.unusable", store.unusable, formula="of the fitted tank", inputs=("bike.frame.unusable_fuel_m3",),
               source="as given; else common practice, no source", basis="computed"),
        figure("range.fuel_saved_by_next_fill_up", saved, formula="wanted now - wanted after one more known fill-up that came out as expected", **common),
        figure("range.mass_full", mass, formula="bike with what it carries and the fuel at the start, no rider",
               inputs=("bike.frame.mass_dry_kg", "setup.fuel_fill_m3"), source="sum"),
        figure("range.sag_change_full_to_empty", full - empty, formula="rear race sag with the starting fuel - with the unusable part alone",
               inputs=("setup.fuel_fill_m3", "bike.frame.fuel_front_share"), source="force balance of the spring"),
        _oil_tank(work, race, spread),
        *_absent(work, (*NAMES["energy"], "range.energy_per_km"), "burns_fuel"),
    ]  # fmt: skip


def _oil_tank(work: Upstream, race_m3: float, spread: float) -> Figure:
    """How much more fuel the oil tank would last for than the race burns."""
    engine = work.inputs.bike.engine
    if not isinstance(engine, TwoStroke) or oil_way(engine, work.inputs.setup) != "oil_tank":
        return _absent(work, ("range.oil_tank_margin",), "no_oil_tank")[0]
    lasts = None if engine.oil_tank_m3 is None else engine.oil_tank_m3 * engine.oil_tank_ratio
    return figure("range.oil_tank_margin", None if lasts is None else lasts - race_m3, low=None if lasts is None else lasts - race_m3 * spread,
                  high=None if lasts is None else lasts - race_m3 / spread, inputs=("bike.engine.oil_tank_m3", "bike.engine.oil_tank_ratio"),
                  formula="oil tank x litres of fuel per litre of oil - fuel of the race, oil filled once",
                  source="by volume; ratio: common practice, no source")  # fmt: skip


def _of_oil(known: dict[str, Figure]) -> list[Finding]:
    """What is said of an oil tank of its own."""
    oil = known["range.oil_tank_margin"]
    if oil.status == "not_applicable":
        return []
    if oil.value is None or oil.low is None:
        return [Finding(station="range", code="oil_tank_unsaid", severity="unknown", figures=(oil.id,))]
    if oil.low >= 0.0:
        return [Finding(station="range", code="oil_tank_lasts", severity="ok", figures=(oil.id, "range.fuel_race"))]
    return [Finding(station="range", code="oil_tank_short", severity="act" if oil.value < 0.0 else "look", figures=(oil.id, "range.fuel_race"))]


def used_along(work: Upstream) -> NDArray[np.float64]:
    """Likely fuel [m3] or charge [J] used from the start of a round to each place of its course, stages one after the other: shape of distance_m."""
    starts = np.concatenate([[0.0], np.cumsum([u[-1] for u in work.supply.along()])])
    each = [u[:-1] for u in work.supply.along()[:-1]] + [work.supply.along()[-1]]
    return np.concatenate([u + s for u, s in zip(each, starts, strict=False)]) * work.supply.factor.median


def level_along(work: Upstream) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Race distance [m] and fuel [m3] or charge [J] aboard: shape (k,) and (k, 3) for low, median, high of 90 %; filled as planned, and where nothing
    is planned to the starting level at every refuel point. A filling gives two points at one distance.
    """
    spread = exp(Z90 * sqrt(work.supply.factor.log_sd**2 + PER_LAP_SD**2))
    scale = work.supply.factor.median * np.array([spread, 1.0, 1.0 / spread])
    taken, most = work.supply.taken, walk.tank_of_work(work).capacity
    fills = {o.race_m: Fill(amount=work.supply.store.aboard) if taken is None else taken[o.number]
             for o in walk.passed(work, work.clock.laps) if taken is None or o.number in taken}  # fmt: skip
    level, at = np.full(3, work.supply.store.aboard), 0.0
    places, found = [0.0], [level]

    def filled(at_m: float) -> None:
        nonlocal level
        fill = fills.pop(at_m, None)
        if fill is not None:
            level = np.minimum(level + fill.amount, most) if fill.add else np.maximum(min(fill.amount, most), level)
            places.append(at_m)
            found.append(level)

    for piece in work.supply.pieces(work.clock.laps):
        length = float(piece.distance_m[-1])
        stops_here = sorted({m for m in piece.refuel_at_m if 0 < m < length})
        marks = np.unique(np.concatenate([np.linspace(0.0, length, 61)[1:], stops_here]))
        for _ in range(piece.laps):
            filled(at)
            last = 0.0
            for mark in marks:
                now = float(np.interp(mark, piece.distance_m, piece.used))
                level = np.maximum(level - (now - last) * scale, 0.0)
                last = now
                places.append(at + float(mark))
                found.append(level)
                filled(at + float(mark))
            at += length
    return np.array(places), np.array(found)


def _next_size(tunable: str, need: float) -> list[float]:
    """The smallest tank or pack on the common steps of at least this size; empty beyond any size."""
    step_size = DETENTS[tunable].step
    bought = round(-(-need * (1.0 - 1e-9) // step_size) * step_size, 6)
    return [bought] if bought <= (field_facts(Setup, tunable).high or 0.0) else []


def _tanks(work: Upstream, usable_m3: float) -> list[tuple[float, float]]:
    """The smallest owned tank [m3] that gives this much usable fuel, without one the smallest known to fit or on the common steps; with it the filling
    [m3] wanted in it. Each tank keeps its own share back.
    """
    frame, step_m3 = work.inputs.bike.frame, DETENTS["fuel_fill_m3"].step
    known = {t.capacity_m3: t.unusable_m3 for t in frame.other_tanks}

    def fill_in(held_m3: float) -> float:
        unusable = next((u for v, u in known.items() if abs(v - held_m3) < 1e-6), frame.unusable_fuel_m3)
        return round(-(-(usable_m3 + unusable - 1e-9) // step_m3) * step_m3, 6)

    owned = sorted(v for v in work.inputs.parts.owned("tank_capacity_m3") if usable_m3 + 1e-9 < v and fill_in(v) <= v + 1e-6)
    to_buy = [v for v in (*known, *_next_size("tank_capacity_m3", usable_m3 + frame.unusable_fuel_m3)) if fill_in(v) <= v + 1e-6]
    return [(v, min(fill_in(v), v)) for v in (owned[:1] or sorted(to_buy)[:1])]


def more_aboard(work: Upstream, need: float) -> tuple[tuple[Move, ...], ...]:
    """Fill or charge more when the tank or pack holds it; else the smallest one that does, in the box first."""
    setup, parts = work.inputs.setup, work.inputs.parts
    if work.supply.store.kind == "energy":
        # a pack gives only its usable share, and that share of a larger pack too
        usable_need = (need - work.supply.store.unusable) / (1.0 - work.supply.store.unusable / work.supply.store.capacity)
        step_size = DETENTS["charge_share"].step
        share = -(-(need / work.supply.store.capacity - 1e-9) // step_size) * step_size
        if share <= 1.0 + 1e-9:
            return ((Move(tunable="charge_share", value=round(min(share, 1.0), 6)),),)
        full = () if setup.charge_share in (None, 1.0) else (Move(tunable="charge_share", value=1.0),)
        owned = sorted(v for v in parts.owned("pack_energy_j") if v >= usable_need * (1.0 - 1e-9))
        packs = owned[:1] or _next_size("pack_energy_j", usable_need)
        return tuple((Move(tunable="pack_energy_j", value=v, owned=is_owned(parts, "pack_energy_j", v)), *full) for v in packs)
    step_m3 = DETENTS["fuel_fill_m3"].step
    fill = -(-(need - 1e-9) // step_m3) * step_m3
    if fill <= work.supply.store.capacity + 1e-9:
        return ((Move(tunable="fuel_fill_m3", value=round(fill, 6)),),)
    return tuple(
        (Move(tunable="tank_capacity_m3", value=v, owned=is_owned(parts, "tank_capacity_m3", v)), Move(tunable="fuel_fill_m3", value=filled))
        for v, filled in _tanks(work, need - work.supply.store.unusable)
    )


def after_fill_up(work: Upstream) -> float:
    """What would be wanted [m3 or J] after one more known fill-up that came out as expected."""
    factor = work.supply.factor
    lap = work.supply.round_use * factor.median
    error = fill_up_sd(lap, 1.0, fuel=work.supply.store.kind == "fuel", like=False)
    after = LogNormal(log_mean=factor.log_mean, log_sd=sqrt(1.0 / (1.0 / factor.log_sd**2 + 1.0 / error**2)))
    return fuel_for(work.inputs.race.certainty, work.supply.cases, after) + work.supply.store.unusable


def _of_stops(work: Upstream) -> list[Finding]:
    """What is said of the stops."""
    places = walk.passed(work, work.clock.most_laps)
    if work.supply.taken is not None and any(n > len(places) for n in work.supply.taken):
        return [Finding(station="range", code="stop_beyond", severity="look", parameters={"passings": len(places)})]
    if not places:
        return []
    found, whence = walk.planned(work)
    if whence == "every":
        return [Finding(station="range", code="no_stop_plan", severity="look", figures=("range.p_finish",), parameters={"passings": len(places)})]
    if not found:
        return [Finding(station="range", code="no_stop_needed", severity="ok", figures=("range.p_finish",))] if whence == "best" else []
    code = "stops_kept" if whence == "kept" else "stops_wanted"
    return [*_extra_lap(work), Finding(station="range", code=code, severity="ok", figures=("range.stops", "range.stop.1.distance", "range.joint_risk"),
                    parameters={"stops": len(found), "standing_time": sum(s.standing_s for s in found)})]  # fmt: skip


def _extra_lap(work: Upstream) -> list[Finding]:
    """The unlikely lap more of a race by hours: told beside the plan, which is made for the likely ones."""
    chance = sum(c for laps, c in work.clock.lap_chances if laps > work.clock.laps)
    if work.inputs.race.stages[0].hours_s is None or chance < EXTRA_LAP_TOLD or work.supply.store.kind != "fuel":
        return []
    more = work.supply.round_use * work.supply.factor.median * exp(Z90 * work.supply.factor.log_sd)
    return [Finding(station="range", code="extra_lap", severity="ok", figures=("purpose.laps", "range.p_finish"),
                    parameters={"lap": work.clock.laps + 1, "chance_share": chance, "more_m3": more})]  # fmt: skip


def room_to_expand(work: Upstream) -> float:
    """Volume [m3] by which the fuel grows from the coldest to the hottest hour beyond the room left in the tank; negative = it fits."""
    warmer = work.day.air.temperature_high_k - work.day.air.temperature_low_k
    return work.supply.store.aboard * (1.0 + EXPANSION_PER_K * warmer) - work.supply.store.capacity


def findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    certainty, kind = work.inputs.race.certainty, work.supply.store.kind
    sure = _sure(work)
    _, _, name_wanted, left = NAMES[kind]
    need = known[name_wanted].value or 0.0
    figures_of = ("range.p_finish", name_wanted, left)
    tail = "" if kind == "fuel" else "_energy"
    found = []
    if sure < certainty:
        code, proposals = ("plan_runs_dry", ()) if work.supply.taken else (f"may_run_dry{tail}", more_aboard(work, need))
        found.append(Finding(station="range", code=code, severity="act" if sure < FINISH_ACT else "look", figures=figures_of,
                             parameters={"certainty": certainty}, proposals=proposals))  # fmt: skip
    elif work.supply.factor.used:
        found.append(Finding(station="range", code=f"lasts{tail}", severity="ok", figures=figures_of, parameters={"certainty": certainty}))
    found += [*_of_stops(work), *_of_oil(known)]
    if kind == "fuel" and room_to_expand(work) > 0.0:
        found.append(Finding(station="range", code="brimmed_cold", severity="ok", parameters={"over_m3": room_to_expand(work)}))
    if not work.supply.factor.used:
        after, unusable, largest = after_fill_up(work), work.supply.store.unusable, work.supply.largest_leg
        saved = {"saved_m3" if kind == "fuel" else "saved_j": need - after}
        found.append(
            Finding(station="range", code=f"{kind}_not_measured", severity="look", figures=("range.k", name_wanted),
                    parameters={"certainty": certainty, "times_now": (need - unusable) / largest,
                                "times_after": (after - unusable) / largest} | saved))  # fmt: skip
    return found
