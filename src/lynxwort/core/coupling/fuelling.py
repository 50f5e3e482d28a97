"""Fuelling: richness in the densest and the thinnest air, lean side first."""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.air.along import air_at_reading, lift_air
from lynxwort.core.coupling.build import figure, step
from lynxwort.core.coupling.stages import Work, jetting_of, state_of
from lynxwort.core.fuelling.richness import FOUR_STROKE_ACT, FOUR_STROKE_LIMIT, RICH_ACT, RICH_LOOK, lean_limit, main_jet_wanted
from lynxwort.core.report import Figure, Finding, Move
from lynxwort.core.units.detents import DETENTS, is_owned, move

FORMULA = "(1 + air)(1 + jets) - 1; air = sqrt(moist) / dry against the proven air, jets = effective area against the proven jets"
SOURCE = "orifices in series; carburettor altitude law (Taylor 1985); pilot share and limits: assumption"
EPSILON = 1e-9


def limit(work: Work) -> float:
    """Lean limit [1] for this engine on this course."""
    return lean_limit(work.inputs.bike.is_two_stroke, work.longest_full_throttle_s)


def margin(work: Work) -> float | None:
    """Least low end from half lift up over both airs, minus the limit [1]; None without a proven pair."""
    dense, thin = work.densest_curve, work.thinnest_curve
    if dense is None or thin is None:
        return None
    return min(dense.leanest_from_half(), thin.leanest_from_half()) - limit(work)


def figures(work: Work) -> list[Figure]:
    good = work.known_good
    readings = (good.id,) if good else ()
    inputs = ("setup.main_jet", "setup.needle_clip", "setup.premix_ratio")
    longest = work.longest_full_throttle_s
    made = [
        figure(work, "fuelling.longest_full_throttle", longest, formula="longest run of the lap above 97 % of full torque",
               source="course simulation", half=0.3 * longest),
        figure(work, "fuelling.lean_limit", limit(work), basis="assumed", formula="0; +2 % over 8 s, +4 % over 20 s full throttle; four-stroke -2 %",
               steps=(step("t", longest, "s", "longest full throttle"),), source="assumption"),
    ]  # fmt: skip
    for name, curve in (("densest", work.densest_curve), ("thinnest", work.thinnest_curve)):
        value, low, high = curve.at_full() if curve else (None, None, None)
        made.append(figure(work, f"fuelling.richness_full_{name}", value, low=low, high=high, basis="calibrated" if curve else "computed",
                           formula=FORMULA, inputs=inputs, readings=readings, source=SOURCE))  # fmt: skip
    least = margin(work)
    wanted = None
    if good is not None and good.under.air is not None and work.densest_curve is not None:
        proven = state_of(good.under.air)
        key = (work.inputs.bike.engine.carburettor, jetting_of(work.inputs.setup), work.air.densest, jetting_of(good.under.setup), proven, limit(work))
        wanted = work.cache.get("main_jet_wanted", key, lambda: main_jet_wanted(*key))
    made.append(figure(work, "fuelling.lean_margin_min", least, basis="calibrated" if good else "computed", low=least, high=_high_margin(work),
                       formula="least low end from half lift up - lean limit", inputs=inputs, readings=readings, source=SOURCE))  # fmt: skip
    made.append(figure(work, "fuelling.main.wanted", wanted, formula="root of low end - limit over the jet number",
                       inputs=inputs, readings=readings, source=SOURCE, half=0.5 * DETENTS["main_jet"].step if wanted else None))  # fmt: skip
    return made


def _high_margin(work: Work) -> float | None:
    dense = work.densest_curve
    return None if dense is None else float(dense.high[dense.throttle >= 0.5 - EPSILON].min()) - limit(work)


def safe_jets(work: Work, wanted: float) -> list[float]:
    """Main jets that keep the limit: the leanest owned one first, then the leanest on the common steps."""
    step_size = DETENTS["main_jet"].step
    owned = sorted(v for v in work.inputs.parts.owned("main_jet") if v >= wanted - EPSILON)
    bought = -(-(wanted - EPSILON) // step_size) * step_size
    return owned[:1] + ([bought] if not owned or bought < owned[0] - EPSILON else [])


def _after(work: Work, jet: float) -> float:
    """Lean margin [1] with another main jet."""
    inputs = work.inputs.model_copy(update={"setup": move(work.inputs.setup, "main_jet", jet)})
    trial = Work(inputs=inputs, cache=work.cache)
    return margin(trial) or 0.0


def findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    if work.known_good is None:
        return [Finding(station="fuelling", code="no_proven_pair", severity="unknown", figures=("fuelling.richness_full_densest",))]
    least, wanted = known["fuelling.lean_margin_min"].value, known["fuelling.main.wanted"].value
    rich = known["fuelling.richness_full_thinnest"].value
    assert least is not None
    assert rich is not None
    parts, now = work.inputs.parts, work.inputs.setup.main_jet
    jets = [Move(tunable="main_jet", value=j, owned=is_owned(parts, "main_jet", j)) for j in (safe_jets(work, wanted) if wanted else [])]
    figures_of = ("fuelling.lean_margin_min", "fuelling.richness_full_densest", "fuelling.main.wanted")
    found = []
    if least < -EPSILON:
        four_stroke_look = not work.inputs.bike.is_two_stroke and least + FOUR_STROKE_LIMIT > FOUR_STROKE_ACT
        found.append(Finding(station="fuelling", code="too_lean", severity="look" if four_stroke_look else "act", figures=figures_of,
                             parameters={"jet": now}, proposals=tuple((j,) for j in jets)))  # fmt: skip
    else:
        found.append(Finding(station="fuelling", code="lean_side_safe", severity="ok", figures=figures_of, parameters={"jet": now}))
    if rich >= RICH_LOOK:
        leaner = [j for j in jets if j.value < now - EPSILON and _after(work, j.value) >= -EPSILON]
        found.append(Finding(station="fuelling", code="rich_high_up", severity="act" if rich >= RICH_ACT else "look",
                             figures=("fuelling.richness_full_thinnest",), proposals=tuple((j,) for j in leaner[:2])))  # fmt: skip
    if work.inputs.bike.engine.carburettor.needle is None:
        found.append(Finding(station="fuelling", code="needle_unmeasured", severity="ok", figures=("fuelling.richness_full_densest",)))
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
