"""Range: fuel per lap, fuel wanted, chance to finish, level along the race."""

from math import exp, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.coupling.build import figure, step
from lynxwort.core.coupling.stages import Work
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup
from lynxwort.core.reach.consumption import FILL_UP_SD, PER_LAP_SD, BikeFactor
from lynxwort.core.reach.finish import fuel_for, p_finish
from lynxwort.core.report import Figure, Finding, Move
from lynxwort.core.units.detents import DETENTS, is_owned

#: below this chance to finish it is to act (assumption)
FINISH_ACT = 0.90
Z90 = 1.6448536269514722
SOURCE = "Willans line on the simulated lap; Fenton 1960 sum of laps, Gauss-Hermite over the bike's factor; spreads: assumption"


def unusable(work: Work) -> float:
    return work.inputs.bike.frame.unusable_fuel_m3


def figures(work: Work, sensitivities: dict[str, tuple[float, float]]) -> list[Figure]:
    factor, setup, laps = work.factor, work.inputs.setup, work.inputs.stage.laps
    lap = float(work.fuel_along[-1])
    basis = "calibrated" if factor.used else "computed"
    spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2))
    race_spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2 / laps))
    certainty = work.inputs.race.certainty
    legs = tuple(tuple(leg) for leg in work.legs)
    wanted = work.cache.get("fuel_for", (certainty, legs, factor), lambda: fuel_for(certainty, legs, factor)) + unusable(work)
    usable = setup.fill_m3 - unusable(work)
    chance = float(p_finish(usable, work.legs, factor)[0])
    chance_range = sorted(
        float(p_finish(usable, work.legs, BikeFactor(log_mean=factor.log_mean + shift * factor.log_sd, log_sd=factor.log_sd))[0]) for shift in (-0.5, 0.5)
    )
    lap_median, largest = lap * factor.median, max(sum(leg) for leg in work.legs) * factor.median
    fuel_inputs = ("setup.main_jet", "riders.0.pace", "riders.0.mass_in_gear_kg", "bike.engine.displacement_m3", "setup.fuel_fill_m3",
                   "setup.tank_capacity_m3", "bike.frame.unusable_fuel_m3", "race.certainty")  # fmt: skip
    common: dict[str, Any] = {"inputs": fuel_inputs, "readings": factor.used, "basis": basis, "source": SOURCE}
    return [
        figure(work, "range.k", factor.median, low=factor.median * exp(-Z90 * factor.log_sd), high=factor.median * exp(Z90 * factor.log_sd),
               formula="prior updated in logs by each fill-up, weighted by the chance that it is no blunder", basis=basis, readings=factor.used,
               steps=(step("prior", work.prior.median, "1", "1 in tight ground to 1.15 in the open"),), source="Box and Tiao 1968; spreads: assumption"),
        figure(work, "range.k_sd", factor.log_sd, formula="standard deviation of ln k", basis=basis, readings=factor.used, source="assumption and update"),
        figure(work, "range.fuel_per_lap", lap_median, low=lap_median / spread, high=lap_median * spread,
               formula="computed lap x k", steps=(step("computed lap", lap, "m3", "Willans line, x (1 + richness)"), step("k", factor.median, "1")), **common),
        figure(work, "range.fuel_race", lap_median * laps, low=lap_median * laps / race_spread, high=lap_median * laps * race_spread,
               formula="fuel per lap x laps", **common),
        figure(work, "range.fuel_wanted", wanted, low=max(largest + unusable(work), 0.0), high=None, formula="fuel at which P(finish) = certainty, + unusable",
               steps=(step("certainty", certainty, "1"), step("unusable", unusable(work), "m3")), **common),
        figure(work, "range.p_finish", chance, low=chance_range[0], high=chance_range[1],
               formula="sum over k of P(k x laps <= usable fuel)", steps=(step("usable", usable, "m3", "fill - unusable"),
               step("legs", len(work.legs), "1", "rides between refuel points, refilled to the start level")), **common),
        figure(work, "range.left_at_finish", setup.fill_m3 - largest, low=setup.fill_m3 - largest * race_spread,
               high=setup.fill_m3 - largest / race_spread, formula="fill - longest leg", **common),
    ]  # fmt: skip


def level_along(work: Work) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Race distance [m] and fuel aboard [m3]: shape (k,) and (k, 3) for low, median, high of 90 %; refilled at each refuel point."""
    laps, lap = work.inputs.stage.laps, work.course.length_m
    stops = sorted(p.at_m for p in work.inputs.stage.refuel_points)
    s = np.linspace(0.0, laps * lap, 60 * laps + 1)
    ridden = np.minimum(np.floor(s / lap + 1e-9), laps - 1)
    used = np.interp(s - ridden * lap, work.course.distance_m, work.fuel_along) + ridden * work.fuel_along[-1]
    marks = [k * lap + m for k in range(laps) for m in stops if k * lap + m > 0]
    at_mark = np.interp(marks, s, used) if marks else np.array([])
    since = used - np.array([max((f for m, f in zip(marks, at_mark, strict=True) if m < x), default=0.0) for x in s])
    spread = exp(Z90 * sqrt(work.factor.log_sd**2 + PER_LAP_SD**2))
    fuel = since[:, None] * work.factor.median * np.array([spread, 1.0, 1.0 / spread])
    return s, np.maximum(work.inputs.setup.fill_m3 - fuel, 0.0)


def more_fuel(work: Work, wanted_m3: float) -> tuple[tuple[Move, ...], ...]:
    """Fill more when the tank holds it; else the smallest tank that does, in the box first."""
    setup, parts = work.inputs.setup, work.inputs.parts
    step_m3 = DETENTS["fuel_fill_m3"].step
    fill = -(-(wanted_m3 - 1e-9) // step_m3) * step_m3
    if fill <= setup.tank_capacity_m3 + 1e-9:
        return ((Move(tunable="fuel_fill_m3", value=round(fill, 6)),),)
    made = []
    owned = sorted(v for v in parts.owned("tank_capacity_m3") if v >= wanted_m3 - 1e-9)
    if owned:
        made.append((Move(tunable="tank_capacity_m3", value=owned[0], owned=True), Move(tunable="fuel_fill_m3", value=min(round(fill, 6), owned[0]))))
    step_tank = DETENTS["tank_capacity_m3"].step
    bought = round(-(-(wanted_m3 - 1e-9) // step_tank) * step_tank, 6)
    if bought <= (field_facts(Setup, "tank_capacity_m3").high or 0.0) and not owned:
        made.append((Move(tunable="tank_capacity_m3", value=bought, owned=bool(is_owned(parts, "tank_capacity_m3", bought))),
                     Move(tunable="fuel_fill_m3", value=min(round(fill, 6), bought))))  # fmt: skip
    return tuple(made)


def findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    chance, certainty = known["range.p_finish"].value or 0.0, work.inputs.race.certainty
    wanted = known["range.fuel_wanted"].value or 0.0
    figures_of = ("range.p_finish", "range.fuel_wanted", "range.left_at_finish")
    found = []
    if chance < certainty:
        found.append(Finding(station="range", code="may_run_dry", severity="act" if chance < FINISH_ACT else "look", figures=figures_of,
                             parameters={"certainty": certainty}, proposals=more_fuel(work, wanted)))  # fmt: skip
    else:
        found.append(Finding(station="range", code="lasts", severity="ok", figures=figures_of, parameters={"certainty": certainty}))
    if not work.factor.used:
        factor = work.factor
        after_sd = sqrt(1.0 / (1.0 / factor.log_sd**2 + 1.0 / FILL_UP_SD**2))
        after = fuel_for(certainty, work.legs, BikeFactor(log_mean=factor.log_mean, log_sd=after_sd)) + unusable(work)
        largest = max(sum(leg) for leg in work.legs) * factor.median
        found.append(
            Finding(station="range", code="fuel_not_measured", severity="look", figures=("range.k", "range.fuel_wanted"),
                    parameters={"certainty": certainty, "times_now": (wanted - unusable(work)) / largest,
                                "times_after": (after - unusable(work)) / largest, "saved_m3": wanted - after}))  # fmt: skip
    return found
