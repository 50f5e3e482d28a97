"""Figures of Range."""

from math import exp, sqrt
from typing import Any

from lynxwort.core.derived.supply import UNMEASURED_MOST
from lynxwort.core.figures import figure, step
from lynxwort.core.model.bike import TwoStroke
from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.reach.finish import PER_LAP_SD
from lynxwort.core.report import Figure
from lynxwort.core.stations.range import crewing, heat
from lynxwort.core.stations.range.chance import NAMES, after_fill_up, chance_of, least_left, wanted
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.moments import moments
from lynxwort.core.stations.range.passings import passed, planned

SOURCES = {
    "fuel": (
        "Willans line on the simulated lap; Fenton 1960 sum of laps, Gauss-Hermite over the bike's factor; "
        "spreads: assumption"
    ),
    "energy": (
        "motor and controller losses on the simulated lap (from memory); Fenton 1960 sum of laps; spreads: assumption"
    ),
}
#: figures of fuel alone
#: per store: figures of one lap, the race, what is wanted, what is left; what fills it, what holds it
FUEL_ONLY = (
    "range.fuel_per_km",
    "range.distance_per_fuel",
    "range.fuel_per_hour",
    "range.unusable",
    "range.fuel_saved_by_next_fill_up",
    "range.mass_full",
    "range.sag_change_full_to_empty",
    "range.oil_tank_margin",
)
USE_INPUTS = {
    "fuel": (
        "setup.main_jet",
        "riders.entry.pace",
        "riders.entry.mass_in_gear_kg",
        "bike.engine.displacement_m3",
        "setup.fuel_fill_m3",
        "setup.tank_capacity_m3",
        "bike.frame.unusable_fuel_m3",
        "race.certainty",
    ),
    "energy": (
        "riders.entry.pace",
        "riders.entry.mass_in_gear_kg",
        "bike.engine.peak_power_w",
        "setup.power_mode",
        "setup.pack_energy_j",
        "setup.charge_share",
        "bike.engine.usable_share",
        "race.certainty",
    ),
}


def figures(given: RangeInput) -> list[Figure]:
    factor, store = given.supply.factor, given.supply.store
    pieces = given.supply.pieces(given.clock.laps)
    laps = sum(p.laps for p in pieces)
    lap, race = given.supply.round_use, sum(float(p.used[-1]) * p.laps for p in pieces)
    basis = "calibrated" if factor.used else "computed"
    spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2))
    race_spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2 / laps))
    certainty, need = given.certainty, wanted(given)
    chance, low, high = (float(chance_of(given, store.aboard, d)[0]) for d in (0.0, 0.5, -0.5))
    if not factor.used and chance >= UNMEASURED_MOST:  # what may be said at most is no certainty of its own
        low = min(low, UNMEASURED_MOST - (1.0 - UNMEASURED_MOST))
    lap_median, race_median, largest = lap * factor.median, race * factor.median, given.supply.largest_leg
    common: dict[str, Any] = {
        "inputs": USE_INPUTS[store.kind],
        "readings": factor.used,
        "basis": basis,
        "source": SOURCES[store.kind],
    }
    per_lap, whole, name_wanted, left = NAMES[store.kind]
    unit = "m3" if store.kind == "fuel" else "J"
    computed = "Willans line, x (1 + richness)" if store.kind == "fuel" else "power and losses over the lap"
    return [
        figure(
            "range.k",
            factor.median,
            low=factor.median * exp(-Z90 * factor.log_sd),
            high=factor.median * exp(Z90 * factor.log_sd),
            formula="prior updated in logs by each fill-up, weighted by the chance that it is no blunder",
            basis=basis,
            readings=factor.used,
            steps=(step("prior", given.supply.prior.median, "1", "1 in tight ground to 1.15 in the open"),),
            source="Box and Tiao 1968; spreads: assumption",
        ),
        figure(
            "range.k_sd",
            factor.log_sd,
            formula="standard deviation of ln k",
            basis=basis,
            readings=factor.used,
            source="assumption and update",
        ),
        figure(
            per_lap,
            lap_median,
            low=lap_median / spread,
            high=lap_median * spread,
            formula="computed lap x k",
            steps=(step("computed lap", lap, unit, computed), step("k", factor.median, "1")),
            **common,
        ),
        figure(
            whole,
            race_median,
            low=race_median / race_spread,
            high=race_median * race_spread,
            formula="per lap x laps",
            **common,
        ),
        figure(
            name_wanted,
            need,
            low=max(largest + store.unusable, 0.0),
            high=None,
            formula="amount at which P(finish) = certainty, + unusable",
            steps=(step("certainty", certainty, "1"), step("unusable", store.unusable, unit)),
            **common,
        ),
        figure(
            "range.p_finish",
            chance,
            low=low,
            high=high,
            formula="sum over k of P(k x laps <= what is usable)",
            steps=(
                step("usable", store.aboard - store.unusable, unit, "aboard - unusable"),
                step("legs", len(given.supply.legs), "1", "rides between refuel points, refilled to the start level"),
            ),
            **common,
        ),
        figure(
            left,
            least_left(given),
            low=least_left(given, race_spread),
            high=least_left(given, 1.0 / race_spread),
            formula="aboard - longest leg; with stops planned, the least before a stop or at the finish",
            **common,
        ),
        figure(
            "range.joint_risk",
            1.0 - chance,
            low=1.0 - high,
            high=1.0 - low,
            formula="1 - P(finish): no leg may run dry",
            **common,
        ),
        *_stops(given, common),
        *_kinds(given, race_median, race_spread, common),
        *heat.figures(given),
        *crewing.figures(given),
    ]


def _absent(names: tuple[str, ...], reason: str) -> list[Figure]:
    return [figure(n, None, status="not_applicable", reason=reason) for n in names]


def _stops(given: RangeInput, common: dict[str, Any]) -> list[Figure]:
    """The stops in force, and when the race is over."""
    moment = moments(given)[-1]
    made = [
        figure(
            "range.arrival.finish",
            moment.likely_s,
            low=moment.early_s,
            high=moment.late_s,
            inputs=("riders.entry.pace",),
            formula="riding + standing at the stops in force + hand-overs",
            source="course simulation; spread of pace: assumption",
        )
    ]
    places = passed(given, given.clock.most_laps)
    if not places:
        return made + _absent(("range.stops", "range.stop.1.distance", "range.stop.1.fuel"), "no_refuel_point")
    found, whence = planned(given)
    says = {
        "kept": "as planned",
        "best": "shortest path over stops with one shared quantile",
        "every": "no plan does it: filled up at every point",
    }[whence]
    made.append(figure("range.stops", len(found), formula=says, **common))
    if not found:
        return made + _absent(("range.stop.1.distance", "range.stop.1.fuel"), "no_stop")
    first = found[0]
    made.append(figure("range.stop.1.distance", places[first.opening].race_m, formula=says, **common))
    if given.supply.store.kind == "energy":
        return made + _absent(("range.stop.1.fuel",), "electric")
    spread = exp(Z90 * sqrt(given.supply.factor.log_sd**2 + PER_LAP_SD**2 / max(first.opening + 1, 1))) - 1.0
    burnt = given.supply.store.aboard - (first.level - first.added)
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


def _kinds(given: RangeInput, race: float, spread: float, common: dict[str, Any]) -> list[Figure]:
    """What is said of fuel alone, or of charge alone."""
    store, setup = given.supply.store, given.setup
    per_m = race / given.clock.race_m
    if store.kind == "energy":
        made = [
            figure(
                "range.energy_per_km",
                per_m,
                low=per_m / spread,
                high=per_m * spread,
                formula="energy of the race / distance",
                **common,
            )
        ]
        return made + _absent((*NAMES["fuel"], *FUEL_ONLY), "electric")
    hours = sum(
        r.lap_time_s * p.laps
        for p in given.supply.pieces(given.clock.laps)
        for r in (given.clock.lap(p.rider, p.leg).rides[p.stage],)
    )
    saved = wanted(given) - after_fill_up(given)
    full, empty = (given.loaded.sag_m("rear", race=True, fuel_m3=f) for f in (setup.fill_m3, store.unusable))
    mass = given.loaded.loads(setup.fill_m3, with_rider=False).total_kg
    return [
        figure(
            "range.fuel_per_km",
            per_m,
            low=per_m / spread,
            high=per_m * spread,
            formula="fuel of the race / distance",
            **common,
        ),
        figure(
            "range.distance_per_fuel",
            1.0 / per_m,
            low=1.0 / (per_m * spread),
            high=spread / per_m,
            formula="distance / fuel of the race",
            **common,
        ),
        figure(
            "range.fuel_per_hour",
            race / hours,
            low=race / hours / spread,
            high=race / hours * spread,
            formula="fuel of the race / riding time",
            **common,
        ),
        figure(
            "range.unusable",
            store.unusable,
            formula="of the fitted tank",
            inputs=("bike.frame.unusable_fuel_m3",),
            source="as given; else common practice, no source",
            basis="computed",
        ),
        figure(
            "range.fuel_saved_by_next_fill_up",
            saved,
            formula="wanted now - wanted after one more known fill-up that came out as expected",
            **common,
        ),
        figure(
            "range.mass_full",
            mass,
            formula="bike with what it carries and the fuel at the start, no rider",
            inputs=("bike.frame.mass_dry_kg", "setup.fuel_fill_m3"),
            source="sum",
        ),
        figure(
            "range.sag_change_full_to_empty",
            full - empty,
            formula="rear race sag with the starting fuel - with the unusable part alone",
            inputs=("setup.fuel_fill_m3", "bike.frame.fuel_front_share"),
            source="force balance of the spring",
        ),
        _oil_tank(given, race, spread),
        *_absent((*NAMES["energy"], "range.energy_per_km"), "burns_fuel"),
    ]


def _oil_tank(given: RangeInput, race_m3: float, spread: float) -> Figure:
    """How much more fuel the oil tank would last for than the race burns."""
    engine = given.engine
    if not isinstance(engine, TwoStroke) or engine.lubrication != "oil_tank":
        return _absent(("range.oil_tank_margin",), "no_oil_tank")[0]
    lasts = None if engine.oil_tank_m3 is None else engine.oil_tank_m3 * engine.oil_tank_ratio
    return figure(
        "range.oil_tank_margin",
        None if lasts is None else lasts - race_m3,
        low=None if lasts is None else lasts - race_m3 * spread,
        high=None if lasts is None else lasts - race_m3 / spread,
        inputs=("bike.engine.oil_tank_m3", "bike.engine.oil_tank_ratio"),
        formula="oil tank x litres of fuel per litre of oil - fuel of the race, oil filled once",
        source="by volume; ratio: common practice, no source",
    )
