"""Fuelling: richness in the densest and the thinnest air, lean side first, for whatever meters the fuel."""

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import Key
from lynxwort.core.coupling import jetbox, leanness, rejet
from lynxwort.core.derived.mixture import jetting_of
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.figures import figure, step
from lynxwort.core.learned.mixture import log_cells, log_error
from lynxwort.core.model.bike import FITTING_PLACES, Combustion, Electric, Engine, Injected, Jetted
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3
from lynxwort.core.model.fitted import compression_of, ignition_on, oil_way, squish_of
from lynxwort.core.model.readings import FeelReading, FlowReading, KnownGoodReading, LogReading
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.air.along import air_at_reading, lift_air
from lynxwort.core.physics.air.moist import dry_density
from lynxwort.core.physics.drive.engine import engine_curve, fuel_flow
from lynxwort.core.physics.fuelling import detonation
from lynxwort.core.physics.fuelling.fuels import fuel_of, oil_in_mix, volume_factor
from lynxwort.core.physics.fuelling.leanness import LOWER, NAMES, UPPER, WITHIN
from lynxwort.core.physics.fuelling.logs import rms, spread_of
from lynxwort.core.physics.fuelling.richness import Jetting, RichnessCurve, clip_wanted, pilot_wanted
from lynxwort.core.physics.fuelling.window import COLDEST_K
from lynxwort.core.report import Figure, Finding
from lynxwort.core.units.detents import current_value, step_of

FORMULAS = {
    "jetted": "(1 + air)(1 + jets) - 1; air = sqrt(moist) / dry against the proven air, jets = effective area against the proven jets",
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
WANTED = {"main_jet": "fuelling.main.wanted", "knob_clicks": "fuelling.knob.wanted", "fuel_trim": "fuelling.trim.wanted"}
EPSILON = 1e-9
#: octane numbers in hand, upper end, below which it is to look at, and to act on; flow in hand wanted over full throttle; float height off [m] (assumption)
KNOCK_LOOK, KNOCK_ACT, FLOW_LOOK, FLOAT_OFF_M = 0.0, -2.0, 0.25, 0.001
#: remaining error of a map to look at [1] (assumption)
TRIM_LOOK = 0.02

limit = leanness.limit_of
MARGINS = {name: f"fuelling.lean_margin.{name}" for name in NAMES}


def margin(work: Upstream) -> float | None:
    """Least low end from half lift up over both airs, minus the limit [1]; None without a proven setting."""
    found = leanness.margins_of(work)
    return min(found[n] for n in UPPER) if found else None


def wanted(work: Upstream) -> float | None:
    """Leanest value of the jet (at full lift), knob or trim (everywhere) that keeps to the proven pair and the limit in the air of the race; None without
    a proven setting or beyond reach.
    """
    engine, proven, ends = work.inputs.bike.engine, work.mixture.proven, leanness.ends_of(work)
    if proven is None or not ends:
        return None
    setup = work.inputs.setup
    if isinstance(engine, Jetted) and isinstance(proven[0], Jetting) and setup.main_jet is not None:
        return rejet.main_wanted(work, setup.needle_clip, from_lift=leanness.limits_of(work)[-1].low)
    return rejet.whole_wanted(work, ends, NAMES)


def _setting_inputs(work: Upstream) -> tuple[str, ...]:
    metering = work.inputs.bike.metering
    own = {
        "jetted": ("setup.main_jet", "setup.needle_clip", "setup.pilot_jet", "setup.screw_turns"),
        "rod": ("setup.metering_rod", "setup.knob_clicks", "bike.engine.carburettor.compensation", "bike.engine.carburettor.compensated_change"),
        "injected": ("setup.map_slot", "setup.fuel_trim"),
    }[metering]
    return (*own, "setup.premix_ratio", "setup.fuel") if work.inputs.bike.is_two_stroke else (*own, "setup.fuel")


#: figures that only engines with jets have; that only injection has
JETS_ONLY = ("fuelling.needle.wanted", "fuelling.pilot.wanted")
OTHERS = ("fuelling.richness_quarter_densest", "fuelling.richness_half_densest", "fuelling.window.temperature_low", "fuelling.oil_per_fill",
          "fuelling.trim_rms", "fuelling.detonation_margin", "fuelling.flow_margin")  # fmt: skip


def _nothing_metered(work: Upstream) -> list[Figure]:
    names = ("fuelling.lean_limit", "fuelling.richness_full_densest", "fuelling.richness_full_thinnest", "fuelling.lean_margin_min", *MARGINS.values(),
             *WANTED.values(), *JETS_ONLY, *OTHERS)  # fmt: skip
    return [figure(n, None, status="not_applicable", reason="electric") for n in names]


#: what of the setup this station reads
FIELDS = (
    "main_jet", "needle_clip", "needle", "needle_jet_bore_m", "pilot_jet", "screw_turns", "slide_cutaway", "metering_rod", "knob_clicks", "map_slot",
    "fuel_trim", "map_trims", "fuel", "fuel_octane", *FITTING_PLACES, "head_insert", "ignition_map", "power_valve_turns", "premix_ratio",
)  # fmt: skip
KINDS = (KnownGoodReading, FlowReading, FeelReading, LogReading)


def _key(work: Upstream) -> Key:
    """Everything that figures and findings of this station rest on."""
    inputs, height = work.inputs, work.around.whole.height_m
    values = tuple(getattr(inputs.setup, f) for f in FIELDS)
    marks = tuple(r.model_dump_json() for r in inputs.readings if isinstance(r, KINDS))
    return Key(inputs.bike.engine, work.lap.what.engine, values, tuple(sorted(work.mixture.map_ratios(inputs.setup).items())), inputs.setup.fill_m3, marks,
               inputs.parts, work.day.air, float(height.min()), float(height.max()), limit(work),
               work.lap.longest_full_throttle_s, work.supply.factor.median)  # fmt: skip


def figures(work: Upstream) -> list[Figure]:
    return work.cache.get("fuelling_figures", _key(work), lambda: _figures(work))


def findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    return work.cache.get("fuelling_findings", _key(work), lambda: _findings(work, known))


def _figures(work: Upstream) -> list[Figure]:
    longest, metering = work.lap.longest_full_throttle_s, work.inputs.bike.metering
    made = [
        figure("fuelling.longest_full_throttle", longest, formula="longest run of the lap above 97 % of full torque, gaps up to 0.4 s counted in",
               source="course simulation; its range stands under Drive"),
    ]  # fmt: skip
    if metering == "electric":
        return made + _nothing_metered(work)
    good = work.mixture.good
    readings = (good.id,) if good else ()
    common: dict[str, Any] = {"inputs": _setting_inputs(work), "readings": readings, "source": SOURCES[metering]}
    made.append(figure("fuelling.lean_limit", limit(work), basis="assumed",
                       formula="0; +2 % over 8 s, +4 % over 20 s of full throttle, when longer than it was proven with; four-stroke -2 %",
                       steps=(step("t", longest, "s", "longest full throttle"),), source="assumption"))  # fmt: skip
    for name, curve in (("densest", work.richness.densest), ("thinnest", work.richness.thinnest)):
        value, low, high = curve.at_full() if curve else (None, None, None)
        made.append(figure(f"fuelling.richness_full_{name}", value, low=low, high=high, basis="calibrated" if curve else "computed",
                           formula=FORMULAS[metering], **common))  # fmt: skip
    least, need = margin(work), wanted(work)
    made.append(figure("fuelling.lean_margin_min", least, basis="calibrated" if good else "computed", low=least, high=_high_margin(work, UPPER),
                       formula="least low end from half lift up - lean limit", **common))  # fmt: skip
    margins = leanness.margins_of(work)
    for name, figure_id in MARGINS.items():
        made.append(figure(figure_id, margins.get(name), basis="calibrated" if good else "computed", low=margins.get(name),
                           high=_high_margin(work, (name,)), formula="least low end of the range - its limit (below half lift the proven pair)",
                           **common))  # fmt: skip
    for tunable, name in WANTED.items():
        if tunable != WHOLE[metering]:
            made.append(figure(name, None, status="not_applicable", reason=f"fed_{metering}"))
            continue
        half = 0.5 * step_of(work.inputs.bike, tunable) if need is not None else None
        made.append(figure(name, need, formula="root of low end - limit", half=half, **common))
    dense = work.richness.densest
    for name, at in (("quarter", 0.25), ("half", 0.5)):
        value, low, high = (None, None, None) if dense is None else _at(dense, at)
        made.append(figure(f"fuelling.richness_{name}_densest", value, low=low, high=high, basis="calibrated" if good else "computed",
                           formula=FORMULAS[metering], **common))  # fmt: skip
    return [*made, *_circuits(work, common), _window(work, common), *_beside(work, readings)]


def _at(curve: RichnessCurve, throttle: float) -> tuple[float, float, float]:
    """Value, low and high at one opening."""
    return tuple(float(np.interp(throttle, curve.throttle, v)) for v in (curve.value, curve.low, curve.high))  # type: ignore[return-value]


def _circuits(work: Upstream, common: dict[str, Any]) -> list[Figure]:
    """What needle and pilot should be; of engines with jets."""
    engine, proven = work.inputs.bike.engine, work.mixture.proven
    if not isinstance(engine, Jetted):
        return [figure(n, None, status="not_applicable", reason=f"fed_{work.inputs.bike.metering}") for n in JETS_ONLY]
    clip = pilot = None
    if proven is not None and isinstance(proven[0], Jetting):
        arguments = (engine.carburettor, jetting_of(work.inputs.setup), work.day.states.densest, proven[0], proven[1])
        shift, least = work.mixture.shift(work.inputs.setup)[1], max(limit(work), 0.0)
        clip = work.cache.get("clip_wanted", (*arguments, least, shift), lambda: clip_wanted(*arguments, least, shift))
        pilot = pilot_wanted(*arguments, shift)
    return [
        figure("fuelling.needle.wanted", clip, half=0.5 if clip else None, formula="root of low end from half to three quarters of lift", **common),
        figure("fuelling.pilot.wanted", pilot, half=1.5 if pilot else None, formula="area for the low end, throttle hardly open, to stand at the pair",
               **common),
    ]  # fmt: skip


def _window(work: Upstream, common: dict[str, Any]) -> Figure:
    """How cold it may get with what is fitted."""
    coldest = jetbox.lowest_safe(work, work.inputs.setup, jetbox.day_pressures(work)[2]) if jetbox.known_setting(work, work.inputs.setup) else None
    if coldest is None and jetbox.known_setting(work, work.inputs.setup):
        common = common | {"status": "not_applicable", "reason": "safe_in_no_air"}
    return figure("fuelling.window.temperature_low", coldest, formula="root of the lean margin over the course",
                  steps=(step("p", jetbox.day_pressures(work)[2], "Pa", "highest of the race where it is read"),), **common)  # fmt: skip


def knock_margin(work: Upstream) -> tuple[float, float] | None:
    """Octane numbers in hand against the proven setting, least over the airs of the race, and half of the range; None without one."""
    engine, good = work.inputs.bike.engine, work.mixture.good
    if good is None or work.mixture.proven is None or isinstance(engine, Electric) or work.richness.densest is None or work.richness.thinnest is None:
        return None
    proven_air, setup, then = work.mixture.proven[1], work.inputs.setup, good.under.setup

    def knock(at: Setup, temperature_k: float, density_kg_per_m3: float, richness: float) -> detonation.Knock:
        ignition = ignition_on(engine, at)
        return detonation.Knock(
            octane=at.fuel_octane or fuel_of(at.fuel).octane, ratio=compression_of(engine, at), advance_rad=0.0 if ignition is None else ignition.advance_rad,
            temperature_k=temperature_k, relative_density=density_kg_per_m3 / dry_density(proven_air), squish_m=squish_of(engine, at), richness=richness,
        )  # fmt: skip

    base = knock(then, proven_air.temperature_k, dry_density(proven_air), 0.0)
    found = [detonation.margin(knock(setup, air.temperature_k, dry_density(air), float(curve.value[-1])), base)
             for air, curve in ((work.day.states.densest, work.richness.densest), (work.day.states.thinnest, work.richness.thinnest))]  # fmt: skip
    return min(found)


def full_throttle_flow(work: Upstream) -> float:
    """Most fuel the engine asks for [m3/s]: full throttle in the densest air, at this mixture, times the bike's own factor."""
    engine = work.lap.what.engine
    assert isinstance(engine, Combustion)
    curve = engine_curve(engine)  # type: ignore[arg-type]
    speed = np.arange(float(curve.torque_nm.size)) * curve.step_rad_per_s
    full = curve.torque_nm * work.day.states.power_share_max
    kg = float(np.max(fuel_flow(engine, full, speed, full)))
    richer = 0.0 if work.richness.densest is None else max(float(work.richness.densest.value[-1]), 0.0)
    return kg / FUEL_DENSITY_KG_PER_M3 * volume_factor(fuel_of(work.inputs.setup.fuel)) * (1.0 + richer) * work.supply.factor.median


def _beside(work: Upstream, readings: tuple[str, ...]) -> list[Figure]:
    """Oil, the map's error, detonation, fuel delivery."""
    setup, engine = work.inputs.setup, work.inputs.bike.engine
    ratio, way = setup.premix_ratio, oil_way(engine, setup)
    oil = None if ratio is None else oil_in_mix(setup.fill_m3, ratio)
    absent: dict[str, Any] = {} if way in ("premix", "unsaid") or ratio is not None else {
        "status": "not_applicable", "reason": "own_oil_tank" if way == "oil_tank" else "four_stroke_oil"}  # fmt: skip
    made = [figure("fuelling.oil_per_fill", oil, **absent, inputs=("setup.premix_ratio", "setup.fuel_fill_m3"),
                   formula="fill / (R + 1)", source="parts by volume")]  # fmt: skip
    knock = knock_margin(work)
    value, half = knock or (None, None)
    made.append(figure("fuelling.detonation_margin", value, half=half, readings=readings, basis="calibrated" if knock else "computed",
                       inputs=("setup.fuel_octane", "setup.head_insert", "setup.ignition_map", "bike.engine.compression_ratio"),
                       formula="octane in hand - 4 per ratio - 1 per degree of spark - 0.1 per K - 15 per density + 30 per richness, against what ran right",
                       source="from memory and assumption: relative only"))  # fmt: skip
    flows = [r for r in work.live_readings if isinstance(r, FlowReading)]
    wanted_flow = full_throttle_flow(work)
    made.append(figure("fuelling.flow_margin", flows[-1].volume_m3 / flows[-1].duration_s / wanted_flow - 1.0 if flows else None,
                       half=0.15 if flows else None, readings=tuple(r.id for r in flows[-1:]), basis="measured" if flows else "computed",
                       formula="measured flow / most the engine asks for - 1", steps=(step("asked", 6e4 * wanted_flow, "L/min", "full throttle, densest air"),),
                       source="Willans line; measured at low head"))  # fmt: skip
    if not isinstance(engine, Injected):
        return [*made, figure("fuelling.trim_rms", None, status="not_applicable", reason=f"fed_{work.inputs.bike.metering}")]
    log, left, half = work.mixture.log, None, None
    if log is not None:
        cells = log_cells(engine.injection, log)
        left = rms(log_error(cells, engine.injection, log.under.setup.map_trims, setup.map_trims), cells.hits)
        half = float(np.median(spread_of(cells)[cells.hits > 0])) if left is not None else None
    made.append(figure("fuelling.trim_rms", left, low=None if left is None else max(left - (half or 0.0), 0.0),
                       high=None if left is None else left + (half or 0.0), readings=(log.id,) if log else (), basis="measured" if log else "computed",
                       formula="root mean square over the cells of (1 + error)(1 + trim now)/(1 + trim then) - 1, weighted by samples",
                       source="the newest log; gauge 1 %: assumption"))  # fmt: skip
    return made


def _high_margin(work: Upstream, names: Sequence[str]) -> float | None:
    dense = work.richness.densest
    if dense is None:
        return None
    return min(float(dense.high[WITHIN[r.name]].min()) - r.limit for r in leanness.limits_of(work) if r.name in names)


def _findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    metering = work.inputs.bike.metering
    if metering == "electric":
        return [Finding(station="fuelling", code="nothing_to_meter", severity="ok", figures=("fuelling.longest_full_throttle",))]
    if work.mixture.good is None:
        return [Finding(station="fuelling", code=f"no_proven_{metering}", severity="unknown", figures=("fuelling.richness_full_densest",)),
                *_beside_findings(work, known)]  # fmt: skip
    return [*_lean_findings(work), *_rich_findings(work, known), *_far_findings(work), *_beside_findings(work, known)]


def _lean_findings(work: Upstream) -> list[Finding]:
    """Half and full lift as a pair; each part below half lift that runs some ranges lean; or that all is safe."""
    metering, limits, ends = work.inputs.bike.metering, leanness.limits_of(work), leanness.ends_of(work)
    tunable = WHOLE[metering]
    said: dict[str, float | str] = {"jet": current_value(work.inputs.setup, tunable)} if metering == "jetted" else {}
    risk = {"risk": "risk_two_stroke" if work.inputs.bike.is_two_stroke else "risk_four_stroke"}
    upper = leanness.worst(ends, limits, UPPER)
    lean, found = leanness.lean_of(work, LOWER), list[Finding]()
    figures_of = ("fuelling.lean_margin_min", "fuelling.richness_full_densest", WANTED[tunable])
    if upper != "ok":
        # one knob or trim moves the whole, so one finding says it all
        names = UPPER if metering == "jetted" else (*UPPER, *(r.name for r in lean))
        upper, lean = leanness.worst(ends, limits, names), lean if metering == "jetted" else []
        moves, leaves = rejet.richer(work, names)
        at = min((r for r in limits if r.name in UPPER), key=lambda r: ends[r.name] - r.limit)
        found.append(Finding(station="fuelling", code=f"too_lean_{metering}", severity=upper, figures=(*figures_of, *(MARGINS[n] for n in names)),
                             parameters={**said, **risk, "part": f"part_{leanness.part_that_rules(work, at)}"}, proposals=tuple(moves),
                             leaves=tuple(leaves)))  # fmt: skip
    elif not lean:
        found.append(Finding(station="fuelling", code=f"lean_side_safe_{metering}", severity="ok", figures=(*figures_of, *MARGINS.values()), parameters=said))
    for part, ranges in rejet.lower_groups(work, lean):
        names = tuple(r.name for r in ranges)
        leanest = min(ranges, key=lambda r: ends[r.name] - r.limit)
        moves, leaves = rejet.richer(work, names)
        found.append(Finding(
            station="fuelling", code="lean_below_half", severity=leanness.worst(ends, limits, names), figures=tuple(MARGINS[n] for n in names),
            parameters={**risk, "part": f"part_{part}", "range": f"between_{ranges[0].name}_{ranges[-1].name}",
                        "lean_richness": ends[leanest.name] - leanest.limit},
            proposals=tuple(moves), leaves=tuple(leaves),
        ))  # fmt: skip
    return found


def _rich_findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    rich = known["fuelling.richness_full_thinnest"].value
    assert rich is not None
    severity = rejet.rich_severity(rich)
    if severity == "ok":
        return []
    moves, leaves = rejet.leaner(work)
    return [Finding(station="fuelling", code="rich_high_up", severity=severity, figures=("fuelling.richness_full_thinnest", "fuelling.lean_margin_min"),
                    proposals=tuple(moves), leaves=tuple(leaves))]  # fmt: skip


def _far_findings(work: Upstream) -> list[Finding]:
    """What stands far from what ran right, and a screw that says another pilot jet is wanted."""
    found = [
        Finding(station="fuelling", code="far_from_proven", severity="look", figures=("fuelling.richness_full_densest",),
                parameters={"tunable": f"far_{tunable}", "value": value, "nearest": round(nearest, 1)})
        for tunable, value, nearest in leanness.far_from_proven(work)
    ]  # fmt: skip
    turns = work.inputs.setup.screw_turns
    if isinstance(work.inputs.bike.engine, Jetted) and turns is not None and not leanness.TURNS_LOW - 1e-9 <= turns <= leanness.TURNS_HIGH + 1e-9:
        found.append(Finding(station="fuelling", code="screw_at_its_end", severity="look", figures=("fuelling.lean_margin.closed", "fuelling.pilot.wanted"),
                             parameters={"turns": turns}))  # fmt: skip
    return found


def _hardware(engine: Engine, add: Callable[..., None]) -> None:
    """What of carburettor or injection is not measured, not said, or off."""
    if isinstance(engine, Jetted):
        if engine.carburettor.needle is None:
            add("needle_unmeasured", "ok", "richness_full_densest")
        measured, right = engine.carburettor.float_height_m, engine.carburettor.float_height_right_m
        if measured is not None and right is not None and abs(measured - right) > FLOAT_OFF_M:
            add("float_off", "look", "richness_full_densest", off_bore_m=abs(measured - right))
    if isinstance(engine, Injected) and engine.injection.sensors is None:
        add("sensors_unasked", "unknown", "richness_full_thinnest")


def _beside_findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    """What is not measured, detonation, flow, window, the map's error, what was felt."""
    engine, setup, found = work.inputs.bike.engine, work.inputs.setup, list[Finding]()

    def add(code: str, severity: Any, *names: str, **parameters: float | str) -> None:
        found.append(Finding(station="fuelling", code=code, severity=severity, figures=tuple(f"fuelling.{n}" for n in names), parameters=parameters))

    def value(name: str) -> float | None:
        return known[f"fuelling.{name}"].value

    _hardware(engine, add)
    if oil_way(engine, setup) == "unsaid":
        add("lubrication_unasked", "look", "oil_per_fill")
    knock, flow, left = known["fuelling.detonation_margin"], value("flow_margin"), value("trim_rms")
    if knock.value is not None and (knock.high or 0.0) < KNOCK_LOOK - EPSILON:
        add("detonation_near", "act" if (knock.high or 0.0) < KNOCK_ACT else "look", "detonation_margin")
    if flow is not None and flow < FLOW_LOOK:
        add("flow_short", "act" if flow < 0.0 else "look", "flow_margin")
    coldest = value("window.temperature_low")
    if coldest is not None and coldest > COLDEST_K + 0.1 and work.mixture.good is not None:
        add("window", "ok", "window.temperature_low", pressure_high=jetbox.day_pressures(work)[2])
    if left is not None:
        add("map_off" if left > TRIM_LOOK else "map_on_target", "look" if left > TRIM_LOOK else "ok", "trim_rms")
    feels = [r for r in work.live_readings if isinstance(r, FeelReading)]
    if feels:
        add("felt", "look", "richness_full_densest", what=feels[-1].symptom)
    if setup.fuel in (6, 7):
        add("fuel_care", "look", "richness_full_densest", what=fuel_of(setup.fuel).name)
    return found


def richness_along(work: Upstream, height_m: NDArray[np.float64]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Lean end of richness at full throttle [1] at each height [m]: in the densest hour and, its value, in the thinnest."""
    day = work.day.air
    corners = (
        air_at_reading(day, hot=0.0, pressure_shift=1.0, humid=0.0),
        air_at_reading(day, hot=1.0, pressure_shift=-1.0, humid=1.0),
    )
    grid = np.linspace(float(height_m.min()), float(height_m.max()) + 1e-6, 9)
    found = []
    for corner in corners:
        curves = [work.mixture.curve(lift_air(corner, h - day.reading_height_m), work.inputs.setup) for h in grid]
        ends = [0.0 if c is None else c.at_full()[1 if corner is corners[0] else 0] for c in curves]
        found.append(np.interp(height_m, grid, ends))
    return found[0], found[1]
