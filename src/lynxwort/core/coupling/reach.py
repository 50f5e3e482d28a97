"""Range: fuel or charge per lap, what is wanted, chance to finish, level along the race."""

from math import exp, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.coupling.build import Z90, figure, step
from lynxwort.core.coupling.purpose import race_distance
from lynxwort.core.coupling.stages import Work
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup
from lynxwort.core.reach.consumption import FILL_UP_SD, PER_LAP_SD, BikeFactor
from lynxwort.core.reach.finish import fuel_for, p_finish_cases
from lynxwort.core.report import Figure, Finding, Move
from lynxwort.core.units.detents import DETENTS, is_owned

#: below this chance to finish it is to act (assumption)
FINISH_ACT = 0.90
SOURCES = {
    "fuel": "Willans line on the simulated lap; Fenton 1960 sum of laps, Gauss-Hermite over the bike's factor; spreads: assumption",
    "energy": "motor and controller losses on the simulated lap (from memory); Fenton 1960 sum of laps; spreads: assumption",
}
#: per store: figures of one lap, the race, what is wanted, what is left; what fills it, what holds it
NAMES = {
    "fuel": ("range.fuel_per_lap", "range.fuel_race", "range.fuel_wanted", "range.left_at_finish"),
    "energy": ("range.energy_per_lap", "range.energy_race", "range.energy_wanted", "range.energy_left"),
}
USE_INPUTS = {
    "fuel": ("setup.main_jet", "riders.0.pace", "riders.0.mass_in_gear_kg", "bike.engine.displacement_m3", "setup.fuel_fill_m3",
             "setup.tank_capacity_m3", "bike.frame.unusable_fuel_m3", "race.certainty"),
    "energy": ("riders.0.pace", "riders.0.mass_in_gear_kg", "bike.engine.peak_power_w", "setup.power_mode", "setup.pack_energy_j",
               "setup.charge_share", "bike.engine.usable_share", "race.certainty"),
}  # fmt: skip


def wanted(work: Work) -> float:
    """Fuel [m3] or charge [J] aboard that lasts with the wanted certainty, the unusable part included."""
    certainty = work.inputs.race.certainty
    return work.cache.get("fuel_for", (certainty, work.cases, work.factor), lambda: fuel_for(certainty, work.cases, work.factor)) + work.store.unusable


def chance_of(work: Work, aboard: NDArray[np.float64] | float, factor: BikeFactor | None = None) -> NDArray[np.float64]:
    """Chance to finish with this much aboard [m3 or J]."""
    return p_finish_cases(aboard - work.store.unusable, work.cases, factor or work.factor)


def figures(work: Work, sensitivities: dict[str, tuple[float, float]]) -> list[Figure]:
    factor, store = work.factor, work.store
    pieces = work.pieces(work.laps)
    laps = sum(p.laps for p in pieces)
    lap, race = work.round_use, sum(float(p.used[-1]) * p.laps for p in pieces)
    basis = "calibrated" if factor.used else "computed"
    spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2))
    race_spread = exp(Z90 * sqrt(factor.log_sd**2 + PER_LAP_SD**2 / laps))
    certainty, need = work.inputs.race.certainty, wanted(work)
    shifted = [BikeFactor(log_mean=factor.log_mean + d * factor.log_sd, log_sd=factor.log_sd) for d in (0.5, -0.5)]
    chance, low, high = (float(chance_of(work, store.aboard, f)[0]) for f in (factor, *shifted))
    lap_median, race_median, largest = lap * factor.median, race * factor.median, work.largest_leg
    common: dict[str, Any] = {"inputs": USE_INPUTS[store.kind], "readings": factor.used, "basis": basis, "source": SOURCES[store.kind]}
    per_lap, whole, name_wanted, left = NAMES[store.kind]
    unit = "m3" if store.kind == "fuel" else "J"
    computed = "Willans line, x (1 + richness)" if store.kind == "fuel" else "power and losses over the lap"
    per_km = race_median / race_distance(work)
    made = [
        figure(work, "range.k", factor.median, low=factor.median * exp(-Z90 * factor.log_sd), high=factor.median * exp(Z90 * factor.log_sd),
               formula="prior updated in logs by each fill-up, weighted by the chance that it is no blunder", basis=basis, readings=factor.used,
               steps=(step("prior", work.prior.median, "1", "1 in tight ground to 1.15 in the open"),), source="Box and Tiao 1968; spreads: assumption"),
        figure(work, "range.k_sd", factor.log_sd, formula="standard deviation of ln k", basis=basis, readings=factor.used, source="assumption and update"),
        figure(work, per_lap, lap_median, low=lap_median / spread, high=lap_median * spread,
               formula="computed lap x k", steps=(step("computed lap", lap, unit, computed), step("k", factor.median, "1")), **common),
        figure(work, whole, race_median, low=race_median / race_spread, high=race_median * race_spread, formula="per lap x laps", **common),
        figure(work, name_wanted, need, low=max(largest + store.unusable, 0.0), high=None, formula="amount at which P(finish) = certainty, + unusable",
               steps=(step("certainty", certainty, "1"), step("unusable", store.unusable, unit)), **common),
        figure(work, "range.p_finish", chance, low=low, high=high,
               formula="sum over k of P(k x laps <= what is usable)", steps=(step("usable", store.aboard - store.unusable, unit, "aboard - unusable"),
               step("legs", len(work.legs), "1", "rides between refuel points, refilled to the start level")), **common),
        figure(work, left, store.aboard - largest, low=store.aboard - largest * race_spread, high=store.aboard - largest / race_spread,
               formula="aboard - longest leg", **common),
    ]  # fmt: skip
    if store.kind == "energy":
        ends = {"low": per_km / race_spread, "high": per_km * race_spread}
        made.append(figure(work, "range.energy_per_km", per_km, **ends, formula="energy of the race / distance", **common))
        return made + [figure(work, n, None, status="not_applicable", reason="electric") for n in NAMES["fuel"]]
    return made + [figure(work, n, None, status="not_applicable", reason="burns_fuel") for n in (*NAMES["energy"], "range.energy_per_km")]


def level_along(work: Work) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Race distance [m] and fuel [m3] or charge [J] aboard: shape (k,) and (k, 3) for low, median, high of 90 %; refilled where it may be."""
    places, used, marks = [0.0], [0.0], [0.0]
    at, spent = 0.0, 0.0
    for piece in work.pieces(work.laps):
        length = float(piece.distance_m[-1])
        for _ in range(piece.laps):
            s = np.linspace(0.0, length, 61)[1:]
            places += list(at + s)
            used += list(spent + np.interp(s, piece.distance_m, piece.used))
            marks += [spent + float(np.interp(m, piece.distance_m, piece.used)) for m in piece.refuel_at_m if at + m > 0]
            at, spent = at + length, spent + float(piece.used[-1])
        if piece.refuel_after:
            marks.append(spent)
    total = np.array(used)
    ordered = np.sort(np.array(marks))
    since = total - ordered[np.maximum(np.searchsorted(ordered, total, side="left") - 1, 0)]
    spread = exp(Z90 * sqrt(work.factor.log_sd**2 + PER_LAP_SD**2))
    burnt = since[:, None] * work.factor.median * np.array([spread, 1.0, 1.0 / spread])
    return np.array(places), np.maximum(work.store.aboard - burnt, 0.0)


def _holders(work: Work, tunable: str, need: float) -> list[float]:
    """The smallest owned tank or pack that holds it; without one the smallest on the common steps."""
    owned = sorted(v for v in work.inputs.parts.owned(tunable) if v >= need * (1.0 - 1e-9))
    step_size = DETENTS[tunable].step
    bought = round(-(-need * (1.0 - 1e-9) // step_size) * step_size, 6)
    return owned[:1] or ([bought] if bought <= (field_facts(Setup, tunable).high or 0.0) else [])


def more_aboard(work: Work, need: float) -> tuple[tuple[Move, ...], ...]:
    """Fill or charge more when the tank or pack holds it; else the smallest one that does, in the box first."""
    setup, parts = work.inputs.setup, work.inputs.parts
    if work.store.kind == "energy":
        # a pack gives only its usable share, and that share of a larger pack too
        usable_need = (need - work.store.unusable) / (1.0 - work.store.unusable / work.store.capacity)
        step_size = DETENTS["charge_share"].step
        share = -(-(need / work.store.capacity - 1e-9) // step_size) * step_size
        if share <= 1.0 + 1e-9:
            return ((Move(tunable="charge_share", value=round(min(share, 1.0), 6)),),)
        full = () if setup.charge_share in (None, 1.0) else (Move(tunable="charge_share", value=1.0),)
        return tuple(
            (Move(tunable="pack_energy_j", value=v, owned=is_owned(parts, "pack_energy_j", v)), *full) for v in _holders(work, "pack_energy_j", usable_need)
        )
    step_m3 = DETENTS["fuel_fill_m3"].step
    fill = -(-(need - 1e-9) // step_m3) * step_m3
    if fill <= work.store.capacity + 1e-9:
        return ((Move(tunable="fuel_fill_m3", value=round(fill, 6)),),)
    return tuple(
        (Move(tunable="tank_capacity_m3", value=v, owned=is_owned(parts, "tank_capacity_m3", v)), Move(tunable="fuel_fill_m3", value=min(round(fill, 6), v)))
        for v in _holders(work, "tank_capacity_m3", need)
    )


def after_fill_up(work: Work) -> float:
    """What would be wanted [m3 or J] after one more known fill-up that came out as expected."""
    factor = work.factor
    after = BikeFactor(log_mean=factor.log_mean, log_sd=sqrt(1.0 / (1.0 / factor.log_sd**2 + 1.0 / FILL_UP_SD**2)))
    return fuel_for(work.inputs.race.certainty, work.cases, after) + work.store.unusable


def findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    chance, certainty, kind = known["range.p_finish"].value or 0.0, work.inputs.race.certainty, work.store.kind
    _, _, name_wanted, left = NAMES[kind]
    need = known[name_wanted].value or 0.0
    figures_of = ("range.p_finish", name_wanted, left)
    tail = "" if kind == "fuel" else "_energy"
    found = []
    if chance < certainty:
        found.append(Finding(station="range", code=f"may_run_dry{tail}", severity="act" if chance < FINISH_ACT else "look", figures=figures_of,
                             parameters={"certainty": certainty}, proposals=more_aboard(work, need)))  # fmt: skip
    else:
        found.append(Finding(station="range", code=f"lasts{tail}", severity="ok", figures=figures_of, parameters={"certainty": certainty}))
    if not work.factor.used:
        after, unusable, largest = after_fill_up(work), work.store.unusable, work.largest_leg
        saved = {"saved_m3" if kind == "fuel" else "saved_j": need - after}
        found.append(
            Finding(station="range", code=f"{kind}_not_measured", severity="look", figures=("range.k", name_wanted),
                    parameters={"certainty": certainty, "times_now": (need - unusable) / largest,
                                "times_after": (after - unusable) / largest} | saved))  # fmt: skip
    return found
