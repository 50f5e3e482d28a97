"""Figures of Fuelling."""

from collections.abc import Sequence
from typing import Any

import numpy as np

from lynxwort.core.derived.mixture import jetting_of
from lynxwort.core.figures import figure, step
from lynxwort.core.learned.mixture import log_cells, log_error
from lynxwort.core.model.bike import Combustion, Electric, Injected, Jetted
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3
from lynxwort.core.model.fitted import compression_of, ignition_on, oil_way, squish_of
from lynxwort.core.model.readings import FlowReading
from lynxwort.core.model.setup import FuellingSetup
from lynxwort.core.physics.air.moist import dry_density
from lynxwort.core.physics.drive.engine import engine_curve, fuel_flow
from lynxwort.core.physics.fuelling import detonation
from lynxwort.core.physics.fuelling.fuels import fuel_of, oil_in_mix, volume_factor
from lynxwort.core.physics.fuelling.leanness import NAMES, UPPER, WITHIN
from lynxwort.core.physics.fuelling.logs import rms, spread_of
from lynxwort.core.physics.fuelling.richness import Jetting, RichnessCurve, clip_wanted, pilot_wanted
from lynxwort.core.report import Figure
from lynxwort.core.stations.fuelling.candidates import main_wanted, whole_wanted
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import ends_of, limit_of, limits_of, margins_of
from lynxwort.core.stations.fuelling.window import day_pressures, known_setting, lowest_safe
from lynxwort.core.tunables import step_of

FORMULAS = {
    "jetted": (
        "(1 + air)(1 + jets) - 1; air = sqrt(moist) / dry against the proven air, jets = effective area "
        "against the proven jets"
    ),
    "rod": "(1 + air left)(1 + rod)(1 + knob) - 1; air left = sqrt(moist) / dry less what the carburettor evens out",
    "injected": "(1 + air left)(1 + map)(1 + trim) - 1; air left = 1 / density, less what the sensors correct",
}
SOURCES = {
    "jetted": "orifices in series; carburettor altitude law (Taylor 1985); pilot share and limits: assumption",
    "rod": "carburettor altitude law (Taylor 1985); own compensation and its limit: assumption",
    "injected": "fuel per cycle fixed by throttle and revs (Heywood ch. 7, from memory); limits: assumption",
}
#: what one turns first to change the mixture as a whole, by how the engine is fed
WHOLE = {"jetted": "main_jet", "rod": "knob_clicks", "injected": "fuel_trim"}
WANTED = {
    "main_jet": "fuelling.main.wanted",
    "knob_clicks": "fuelling.knob.wanted",
    "fuel_trim": "fuelling.trim.wanted",
}

MARGINS = {name: f"fuelling.lean_margin.{name}" for name in NAMES}


def margin(given: FuellingInput) -> float | None:
    """Least low end from half lift up over both airs, minus the limit [1]; None without a proven setting."""
    found = margins_of(given)
    return min(found[n] for n in UPPER) if found else None


def wanted(given: FuellingInput) -> float | None:
    """Leanest value of the jet (at full lift), knob or trim (everywhere) that keeps to the proven pair and the limit in
    the air of the race; None without a proven setting or beyond reach.
    """
    engine, proven, ends = given.engine, given.mixture.proven, ends_of(given)
    if proven is None or not ends:
        return None
    setup = given.setup
    if isinstance(engine, Jetted) and isinstance(proven[0], Jetting) and setup.main_jet is not None:
        return main_wanted(given, setup.needle_clip, from_lift=limits_of(given)[-1].low)
    return whole_wanted(given, ends, NAMES)


def _setting_inputs(given: FuellingInput) -> tuple[str, ...]:
    metering = given.metering
    own = {
        "jetted": ("setup.main_jet", "setup.needle_clip", "setup.pilot_jet", "setup.screw_turns"),
        "rod": (
            "setup.metering_rod",
            "setup.knob_clicks",
            "bike.engine.carburettor.compensation",
            "bike.engine.carburettor.compensated_change",
        ),
        "injected": ("setup.map_slot", "setup.fuel_trim"),
    }[metering]
    return (*own, "setup.premix_ratio", "setup.fuel") if given.two_stroke else (*own, "setup.fuel")


#: figures that only engines with jets have; that only injection has
JETS_ONLY = ("fuelling.needle.wanted", "fuelling.pilot.wanted")
OTHERS = (
    "fuelling.richness_quarter_densest",
    "fuelling.richness_half_densest",
    "fuelling.window.temperature_low",
    "fuelling.oil_per_fill",
    "fuelling.trim_rms",
    "fuelling.detonation_margin",
    "fuelling.flow_margin",
)


def _nothing_metered(given: FuellingInput) -> list[Figure]:
    names = (
        "fuelling.lean_limit",
        "fuelling.richness_full_densest",
        "fuelling.richness_full_thinnest",
        "fuelling.lean_margin_min",
        *MARGINS.values(),
        *WANTED.values(),
        *JETS_ONLY,
        *OTHERS,
    )
    return [figure(n, None, status="not_applicable", reason="electric") for n in names]


def figures(given: FuellingInput) -> list[Figure]:
    longest, metering = given.lap.longest_full_throttle_s, given.metering
    made = [
        figure(
            "fuelling.longest_full_throttle",
            longest,
            formula="longest run of the lap above 97 % of full torque, gaps up to 0.4 s counted in",
            source="course simulation; its range stands under Drive",
        )
    ]
    if metering == "electric":
        return made + _nothing_metered(given)
    good = given.mixture.good
    readings = (good.id,) if good else ()
    common: dict[str, Any] = {"inputs": _setting_inputs(given), "readings": readings, "source": SOURCES[metering]}
    made.append(
        figure(
            "fuelling.lean_limit",
            limit_of(given),
            basis="assumed",
            formula=(
                "0; +2 % over 8 s, +4 % over 20 s of full throttle, when longer than it was proven with; "
                "four-stroke -2 %"
            ),
            steps=(step("t", longest, "s", "longest full throttle"),),
            source="assumption",
        )
    )
    for name, curve in (("densest", given.richness.densest), ("thinnest", given.richness.thinnest)):
        value, low, high = curve.at_full() if curve else (None, None, None)
        made.append(
            figure(
                f"fuelling.richness_full_{name}",
                value,
                low=low,
                high=high,
                basis="calibrated" if curve else "computed",
                formula=FORMULAS[metering],
                **common,
            )
        )
    least, need = margin(given), wanted(given)
    made.append(
        figure(
            "fuelling.lean_margin_min",
            least,
            basis="calibrated" if good else "computed",
            low=least,
            high=_high_margin(given, UPPER),
            formula="least low end from half lift up - lean limit",
            **common,
        )
    )
    margins = margins_of(given)
    for name, figure_id in MARGINS.items():
        made.append(
            figure(
                figure_id,
                margins.get(name),
                basis="calibrated" if good else "computed",
                low=margins.get(name),
                high=_high_margin(given, (name,)),
                formula="least low end of the range - its limit (below half lift the proven pair)",
                **common,
            )
        )
    for tunable, name in WANTED.items():
        if tunable != WHOLE[metering]:
            made.append(figure(name, None, status="not_applicable", reason=f"fed_{metering}"))
            continue
        half = 0.5 * step_of(given.engine, tunable) if need is not None else None
        made.append(figure(name, need, formula="root of low end - limit", half=half, **common))
    dense = given.richness.densest
    for name, at in (("quarter", 0.25), ("half", 0.5)):
        value, low, high = (None, None, None) if dense is None else _at(dense, at)
        made.append(
            figure(
                f"fuelling.richness_{name}_densest",
                value,
                low=low,
                high=high,
                basis="calibrated" if good else "computed",
                formula=FORMULAS[metering],
                **common,
            )
        )
    return [*made, *_circuits(given, common), _window(given, common), *_beside(given, readings)]


def _at(curve: RichnessCurve, throttle: float) -> tuple[float, float, float]:
    """Value, low and high at one opening."""
    return tuple(float(np.interp(throttle, curve.throttle, v)) for v in (curve.value, curve.low, curve.high))  # type: ignore[return-value]


def _circuits(given: FuellingInput, common: dict[str, Any]) -> list[Figure]:
    """What needle and pilot should be; of engines with jets."""
    engine, proven = given.engine, given.mixture.proven
    if not isinstance(engine, Jetted):
        return [figure(n, None, status="not_applicable", reason=f"fed_{given.metering}") for n in JETS_ONLY]
    clip = pilot = None
    if proven is not None and isinstance(proven[0], Jetting):
        arguments = (engine.carburettor, jetting_of(given.setup), given.day.states.densest, proven[0], proven[1])
        shift, least = given.mixture.shift(given.setup)[1], max(limit_of(given), 0.0)
        clip = given.cache.get("clip_wanted", (*arguments, least, shift), lambda: clip_wanted(*arguments, least, shift))
        pilot = pilot_wanted(*arguments, shift)
    return [
        figure(
            "fuelling.needle.wanted",
            clip,
            half=0.5 if clip else None,
            formula="root of low end from half to three quarters of lift",
            **common,
        ),
        figure(
            "fuelling.pilot.wanted",
            pilot,
            half=1.5 if pilot else None,
            formula="area for the low end, throttle hardly open, to stand at the pair",
            **common,
        ),
    ]


def _window(given: FuellingInput, common: dict[str, Any]) -> Figure:
    """How cold it may get with what is fitted."""
    coldest = lowest_safe(given, given.setup, day_pressures(given)[2]) if known_setting(given, given.setup) else None
    if coldest is None and known_setting(given, given.setup):
        common = common | {"status": "not_applicable", "reason": "safe_in_no_air"}
    return figure(
        "fuelling.window.temperature_low",
        coldest,
        formula="root of the lean margin over the course",
        steps=(step("p", day_pressures(given)[2], "Pa", "highest of the race where it is read"),),
        **common,
    )


def knock_margin(given: FuellingInput) -> tuple[float, float] | None:
    """Octane numbers in hand against the proven setting, least over the airs of the race, and half of the range; None
    without one.
    """
    engine, good = given.engine, given.mixture.good
    if (
        good is None
        or given.mixture.proven is None
        or isinstance(engine, Electric)
        or given.richness.densest is None
        or given.richness.thinnest is None
    ):
        return None
    proven_air, setup, then = given.mixture.proven[1], given.setup, good.under.setup

    def knock(at: FuellingSetup, temperature_k: float, density_kg_per_m3: float, richness: float) -> detonation.Knock:
        ignition = ignition_on(engine, at)
        return detonation.Knock(
            octane=at.fuel_octane or fuel_of(at.fuel).octane,
            ratio=compression_of(engine, at),
            advance_rad=0.0 if ignition is None else ignition.advance_rad,
            temperature_k=temperature_k,
            relative_density=density_kg_per_m3 / dry_density(proven_air),
            squish_m=squish_of(engine, at),
            richness=richness,
        )

    base = knock(then, proven_air.temperature_k, dry_density(proven_air), 0.0)
    found = [
        detonation.margin(knock(setup, air.temperature_k, dry_density(air), float(curve.value[-1])), base)
        for air, curve in (
            (given.day.states.densest, given.richness.densest),
            (given.day.states.thinnest, given.richness.thinnest),
        )
    ]
    return min(found)


def full_throttle_flow(given: FuellingInput) -> float:
    """Most fuel the engine asks for [m3/s]: full throttle in the densest air, at this mixture, times the bike's own
    factor.
    """
    engine = given.lap.ride_input.engine
    assert isinstance(engine, Combustion)
    curve = engine_curve(engine)  # type: ignore[arg-type]
    speed = np.arange(float(curve.torque_nm.size)) * curve.step_rad_per_s
    full = curve.torque_nm * given.day.states.power_share_max
    kg = float(np.max(fuel_flow(engine, full, speed, full)))
    richer = 0.0 if given.richness.densest is None else max(float(given.richness.densest.value[-1]), 0.0)
    return kg / FUEL_DENSITY_KG_PER_M3 * volume_factor(fuel_of(given.setup.fuel)) * (1.0 + richer) * given.factor.median


def _beside(given: FuellingInput, readings: tuple[str, ...]) -> list[Figure]:
    """Oil, the map's error, detonation, fuel delivery."""
    setup, engine = given.setup, given.engine
    ratio, way = setup.premix_ratio, oil_way(engine, setup)
    oil = None if ratio is None else oil_in_mix(given.fill_m3, ratio)
    absent: dict[str, Any] = (
        {}
        if way in ("premix", "unsaid") or ratio is not None
        else {"status": "not_applicable", "reason": "own_oil_tank" if way == "oil_tank" else "four_stroke_oil"}
    )
    made = [
        figure(
            "fuelling.oil_per_fill",
            oil,
            **absent,
            inputs=("setup.premix_ratio", "setup.fuel_fill_m3"),
            formula="fill / (R + 1)",
            source="parts by volume",
        )
    ]
    knock = knock_margin(given)
    value, half = knock or (None, None)
    made.append(
        figure(
            "fuelling.detonation_margin",
            value,
            half=half,
            readings=readings,
            basis="calibrated" if knock else "computed",
            inputs=("setup.fuel_octane", "setup.head_insert", "setup.ignition_map", "bike.engine.compression_ratio"),
            formula=(
                "octane in hand - 4 per ratio - 1 per degree of spark - 0.1 per K - 15 per density + 30 per "
                "richness, against what ran right"
            ),
            source="from memory and assumption: relative only",
        )
    )
    flows = [r for r in given.readings if isinstance(r, FlowReading)]
    wanted_flow = full_throttle_flow(given)
    made.append(
        figure(
            "fuelling.flow_margin",
            flows[-1].volume_m3 / flows[-1].duration_s / wanted_flow - 1.0 if flows else None,
            half=0.15 if flows else None,
            readings=tuple(r.id for r in flows[-1:]),
            basis="measured" if flows else "computed",
            formula="measured flow / most the engine asks for - 1",
            steps=(step("asked", 6e4 * wanted_flow, "L/min", "full throttle, densest air"),),
            source="Willans line; measured at low head",
        )
    )
    if not isinstance(engine, Injected):
        return [*made, figure("fuelling.trim_rms", None, status="not_applicable", reason=f"fed_{given.metering}")]
    log, left, half = given.mixture.log, None, None
    if log is not None:
        cells = log_cells(engine.injection, log)
        left = rms(log_error(cells, engine.injection, log.under.setup.map_trims, setup.map_trims), cells.hits)
        half = float(np.median(spread_of(cells)[cells.hits > 0])) if left is not None else None
    made.append(
        figure(
            "fuelling.trim_rms",
            left,
            low=None if left is None else max(left - (half or 0.0), 0.0),
            high=None if left is None else left + (half or 0.0),
            readings=(log.id,) if log else (),
            basis="measured" if log else "computed",
            formula=(
                "root mean square over the cells of (1 + error)(1 + trim now)/(1 + trim then) - 1, weighted by samples"
            ),
            source="the newest log; gauge 1 %: assumption",
        )
    )
    return made


def _high_margin(given: FuellingInput, names: Sequence[str]) -> float | None:
    dense = given.richness.densest
    if dense is None:
        return None
    return min(float(dense.high[WITHIN[r.name]].min()) - r.limit for r in limits_of(given) if r.name in names)
