"""Fuelling: richness in the densest and the thinnest air, lean side first, for whatever meters the fuel."""

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.air.along import air_at_reading, lift_air
from lynxwort.core.coupling.build import figure, step
from lynxwort.core.coupling.stages import Work
from lynxwort.core.fuelling.metering import MapSetting, RodSetting, clicks_wanted, trim_wanted
from lynxwort.core.fuelling.richness import FOUR_STROKE_ACT, FOUR_STROKE_LIMIT, RICH_ACT, RICH_LOOK, Jetting, lean_limit, main_jet_wanted
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Injected, Jetted, Rod
from lynxwort.core.model.setup import Setup
from lynxwort.core.report import Figure, Finding, Move
from lynxwort.core.units.detents import current_value, is_owned, move, step_of

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


def limit(work: Work) -> float:
    """Lean limit [1] for this engine on this course."""
    return lean_limit(work.inputs.bike.is_two_stroke, work.longest_full_throttle_s)


def margin(work: Work) -> float | None:
    """Least low end from half lift up over both airs, minus the limit [1]; None without a proven setting."""
    dense, thin = work.densest_curve, work.thinnest_curve
    if dense is None or thin is None:
        return None
    return min(dense.leanest_from_half(), thin.leanest_from_half()) - limit(work)


def wanted(work: Work) -> float | None:
    """Leanest value of the jet, knob or trim that keeps the limit in the air of the race; None without a proven setting or beyond reach."""
    engine, proven, dense, thin = work.inputs.bike.engine, work.proven, work.densest_curve, work.thinnest_curve
    if proven is None or dense is None or thin is None:
        return None
    setting, air = proven
    setup = work.inputs.setup
    if isinstance(engine, Jetted) and isinstance(setting, Jetting) and setup.main_jet is not None:
        draft = Jetting(main_jet=setup.main_jet, needle_clip=setup.needle_clip, premix_ratio=setup.premix_ratio)
        key = (engine.carburettor, draft, work.air.densest, setting, air, limit(work))
        return work.cache.get("main_jet_wanted", key, lambda: main_jet_wanted(*key))
    least = min(dense.leanest_from_half(), thin.leanest_from_half())
    if isinstance(engine, Rod):
        clicks = RodSetting(rod=setup.metering_rod or 0, clicks=setup.knob_clicks or 0, premix_ratio=setup.premix_ratio)
        return clicks_wanted(engine.carburettor, clicks, least, limit(work))
    return trim_wanted(MapSetting(slot=setup.map_slot or 1, trim=setup.fuel_trim or 0.0, premix_ratio=setup.premix_ratio), least, limit(work))


def _setting_inputs(work: Work) -> tuple[str, ...]:
    metering = work.inputs.bike.metering
    own = {
        "jetted": ("setup.main_jet", "setup.needle_clip"),
        "rod": ("setup.metering_rod", "setup.knob_clicks", "bike.engine.carburettor.compensation", "bike.engine.carburettor.compensated_change"),
        "injected": ("setup.map_slot", "setup.fuel_trim"),
    }[metering]
    return (*own, "setup.premix_ratio") if work.inputs.bike.is_two_stroke else own


def _nothing_metered(work: Work) -> list[Figure]:
    names = ("fuelling.lean_limit", "fuelling.richness_full_densest", "fuelling.richness_full_thinnest", "fuelling.lean_margin_min", *WANTED.values())
    return [figure(work, n, None, status="not_applicable", reason="electric") for n in names]


def figures(work: Work) -> list[Figure]:
    longest, metering = work.longest_full_throttle_s, work.inputs.bike.metering
    made = [
        figure(work, "fuelling.longest_full_throttle", longest, formula="longest run of the lap above 97 % of full torque",
               source="course simulation", half=0.3 * longest),
    ]  # fmt: skip
    if metering == "electric":
        return made + _nothing_metered(work)
    good = work.known_good
    readings = (good.id,) if good else ()
    common: dict[str, Any] = {"inputs": _setting_inputs(work), "readings": readings, "source": SOURCES[metering]}
    made.append(figure(work, "fuelling.lean_limit", limit(work), basis="assumed", formula="0; +2 % over 8 s, +4 % over 20 s full throttle; four-stroke -2 %",
                       steps=(step("t", longest, "s", "longest full throttle"),), source="assumption"))  # fmt: skip
    for name, curve in (("densest", work.densest_curve), ("thinnest", work.thinnest_curve)):
        value, low, high = curve.at_full() if curve else (None, None, None)
        made.append(figure(work, f"fuelling.richness_full_{name}", value, low=low, high=high, basis="calibrated" if curve else "computed",
                           formula=FORMULAS[metering], **common))  # fmt: skip
    least, need = margin(work), wanted(work)
    made.append(figure(work, "fuelling.lean_margin_min", least, basis="calibrated" if good else "computed", low=least, high=_high_margin(work),
                       formula="least low end from half lift up - lean limit", **common))  # fmt: skip
    for tunable, name in WANTED.items():
        if tunable != WHOLE[metering]:
            made.append(figure(work, name, None, status="not_applicable", reason=f"fed_{metering}"))
            continue
        half = 0.5 * step_of(work.inputs.bike, tunable) if need is not None else None
        made.append(figure(work, name, need, formula="root of low end - limit", half=half, **common))
    return made


def _high_margin(work: Work) -> float | None:
    dense = work.densest_curve
    return None if dense is None else float(dense.high[dense.throttle >= 0.5 - EPSILON].min()) - limit(work)


def safe_values(work: Work, need: float) -> list[float]:
    """Values of the jet, knob or trim that keep the limit: the leanest owned one first, then the leanest on the common steps."""
    tunable = WHOLE[work.inputs.bike.metering]
    step_size = step_of(work.inputs.bike, tunable)
    on_step = round(math.ceil((need - EPSILON) / step_size) * step_size, 9)
    facts = field_facts(Setup, tunable)
    if not (facts.low or 0.0) <= on_step <= (facts.high or 0.0):
        return []
    owned = sorted(v for v in work.inputs.parts.owned(tunable) if v >= need - EPSILON)
    return owned[:1] + ([on_step] if not owned or on_step < owned[0] - EPSILON else [])


def _after(work: Work, value: float) -> float:
    """Lean margin [1] with another jet, knob setting or trim."""
    setup = move(work.inputs.setup, WHOLE[work.inputs.bike.metering], value)
    trial = Work(inputs=work.inputs.model_copy(update={"setup": setup}), cache=work.cache)
    return margin(trial) or 0.0


def findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    metering = work.inputs.bike.metering
    if metering == "electric":
        return [Finding(station="fuelling", code="nothing_to_meter", severity="ok", figures=("fuelling.longest_full_throttle",))]
    if work.known_good is None:
        return [Finding(station="fuelling", code=f"no_proven_{metering}", severity="unknown", figures=("fuelling.richness_full_densest",))]
    tunable = WHOLE[metering]
    least, need = known["fuelling.lean_margin_min"].value, known[WANTED[tunable]].value
    rich = known["fuelling.richness_full_thinnest"].value
    assert least is not None
    assert rich is not None
    now = current_value(work.inputs.setup, tunable)
    values = [] if need is None else safe_values(work, need)
    moves = [Move(tunable=tunable, value=v, owned=is_owned(work.inputs.parts, tunable, v)) for v in values]
    figures_of = ("fuelling.lean_margin_min", "fuelling.richness_full_densest", WANTED[tunable])
    said = {"jet": now} if metering == "jetted" else {}
    found = []
    if least < -EPSILON:
        four_stroke_look = not work.inputs.bike.is_two_stroke and least + FOUR_STROKE_LIMIT > FOUR_STROKE_ACT
        found.append(Finding(station="fuelling", code=f"too_lean_{metering}", severity="look" if four_stroke_look else "act", figures=figures_of,
                             parameters=said, proposals=tuple((m,) for m in moves)))  # fmt: skip
    else:
        found.append(Finding(station="fuelling", code=f"lean_side_safe_{metering}", severity="ok", figures=figures_of, parameters=said))
    if rich >= RICH_LOOK:
        leaner = [m for m in moves if m.value < now - EPSILON and _after(work, m.value) >= -EPSILON]
        found.append(Finding(station="fuelling", code="rich_high_up", severity="act" if rich >= RICH_ACT else "look",
                             figures=("fuelling.richness_full_thinnest",), proposals=tuple((m,) for m in leaner[:2])))  # fmt: skip
    engine = work.inputs.bike.engine
    if isinstance(engine, Jetted) and engine.carburettor.needle is None:
        found.append(Finding(station="fuelling", code="needle_unmeasured", severity="ok", figures=("fuelling.richness_full_densest",)))
    if isinstance(engine, Injected) and "sensors" not in engine.injection.model_fields_set:
        found.append(Finding(station="fuelling", code="sensors_unasked", severity="unknown", figures=("fuelling.richness_full_thinnest",)))
    return found


def richness_along(work: Work, height_m: NDArray[np.float64]) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Lean end of richness at full throttle [1] at each height [m]: in the densest hour and, its value, in the thinnest."""
    day = work.day
    corners = (
        air_at_reading(day, hot=0.0, pressure_shift=1.0, humid=0.0),
        air_at_reading(day, hot=1.0, pressure_shift=-1.0, humid=1.0),
    )
    grid = np.linspace(float(height_m.min()), float(height_m.max()) + 1e-6, 9)
    found = []
    for corner in corners:
        curves = [work.curve(lift_air(corner, h - day.reading_height_m)) for h in grid]
        ends = [0.0 if c is None else c.at_full()[1 if corner is corners[0] else 0] for c in curves]
        found.append(np.interp(height_m, grid, ends))
    return found[0], found[1]
