"""What Kit says of its figures. Thresholds: HANDBOOK 9, assumption."""

from collections.abc import Callable
from typing import Any

from lynxwort.core.model.fitted import inside_of, items_on, tyre_on
from lynxwort.core.physics.kit.shaking import ACTION_M_PER_S2, LIMIT_M_PER_S2
from lynxwort.core.report import Finding, Severity
from lynxwort.core.stations.kit import braking, candidates, ready, rolling
from lynxwort.core.stations.kit.figures import mass_kg
from lynxwort.core.stations.kit.ground import ground_of
from lynxwort.core.stations.kit.input import ENDS, KitInput
from lynxwort.core.stations.station import Known

PRESSURE_LOOK_PA, PRESSURE_ACT_PA = 15_000.0, 30_000.0
EDGE_LOOK_M, EDGE_ACT_M = 0.050, 0.035
CHANCE_LOOK, CHANCE_ACT = 0.15, 0.35
LOAD_LOOK, LOAD_ACT = 1.05, 1.2
CORE_OVER_LOOK_K, CORE_OVER_ACT_K, CORE_LOOK_K = 20.0, 45.0, 433.15
WINDOW_LOOK_N = 20.0
ROTOR_LOOK_K = {"sintered": 773.15, "organic": 623.15, "race": 773.15}
ROTOR_ACT_K = 873.15
FLUID_LOOK_K, FLUID_ACT_K = 40.0, 20.0
MONTHS_LOOK, MONTHS_ACT = 12, 24
SCOOP_HARD_SHARE = 0.2
CLUTCH_LOOK, CLUTCH_ACT = 1.2, 1.0
WORN_LOOK, WORN_MUD_ACT = 0.5, 0.3
HARD = ("hardpack", "gravel")
Add = Callable[..., None]


def _graver(value: float, look: float, act: float) -> Severity:
    """The gravity of a value that is better low."""
    return "act" if value > act else "look" if value > look else "ok"


def _foam(given: KitInput, end: str, add: Add) -> None:
    if inside_of(given.bike, given.setup, end) != "mousse":
        return
    core, ratio = rolling.foam(given, end), rolling.load_ratio(given, end)
    names = (f"kit.mousse.{end}.core_temperature", f"kit.mousse.{end}.load_ratio")
    if core is None or ratio is None:
        add("foam_unsaid", "unknown", figures=(names[1],), end=end)
        return
    over = core.hottest_k - core.right_k
    grave = max(
        _graver(ratio, LOAD_LOOK, LOAD_ACT), _graver(over, CORE_OVER_LOOK_K, CORE_OVER_ACT_K),
        "look" if core.hottest_k > CORE_LOOK_K else "ok", key=("ok", "look", "act").index,
    )  # fmt: skip
    code = "foam_carries" if grave == "ok" else "foam_overloaded" if ratio > LOAD_LOOK else "foam_hot"
    add(
        code, grave, figures=names, end=end, right_temperature=core.right_k,
        proposals=candidates.cooler_foam(given, end) if grave != "ok" else (),
    )  # fmt: skip


def _air(given: KitInput, end: str, add: Add) -> None:
    """Pressure, edges and flats of a tyre that is filled with air."""
    if inside_of(given.bike, given.setup, end) == "mousse":
        return
    now, wanted = getattr(given.setup, f"{end}_tyre_pressure_pa"), rolling.wanted_pressure(given, end)
    if now is not None and abs(now - wanted) > PRESSURE_LOOK_PA:
        add(
            "pressure_high" if now > wanted else "pressure_low", _graver(abs(now - wanted), 0.0, PRESSURE_ACT_PA),
            figures=(f"kit.tyre.{end}.pressure_wanted",), end=end, set_tyre_pressure=now,
            proposals=candidates.pressure(given, end),
        )  # fmt: skip
    edge, chance = rolling.strike_edge(given, end), rolling.flat_chance(given, end)
    rocky = ground_of(given).metres.get("rock", 0.0) > 0.0
    grave: Severity = "ok"
    if edge is not None and rocky:
        grave = _graver(-edge, -EDGE_LOOK_M, -EDGE_ACT_M)
    grave = max(grave, _graver(chance, CHANCE_LOOK, CHANCE_ACT), key=("ok", "look", "act").index)
    if grave != "ok":
        add(
            "rim_struck", grave, end=end, figures=(f"kit.tyre.{end}.strike_edge", f"kit.tyre.{end}.flat_chance"),
        )  # fmt: skip


def _tread(given: KitInput, add: Add) -> None:
    on, shares = tyre_on(given.bike, given.setup, "rear"), ground_of(given).time_shares
    hard = sum(shares.get(g, 0.0) for g in HARD)
    better = candidates.gripping(given)
    if on.tyre_kind == "scoop" and hard > SCOOP_HARD_SHARE:
        add("scoop_on_hard", "look", figures=("kit.tyre.grip_share",), hard_share=hard, proposals=better)
    elif better:
        add("wheel_grips_more", "look", figures=("kit.tyre.grip_share",), proposals=better)
    for end in ENDS:
        tyre = tyre_on(given.bike, given.setup, end)
        left = tyre.left_share
        if left < WORN_LOOK:
            mud = "act" if left < WORN_MUD_ACT and shares.get("mud", 0.0) > 0.0 else "look"
            add("knobs_worn", mud, figures=(), end=end, left_share=left)


def _brake(given: KitInput, end: str, known: Known, add: Add) -> None:
    brake = braking.fitted(given, end)
    window, hot = (
        known[f"kit.brake.{end}.window"].value or 0.0,
        known[f"kit.brake.{end}.rotor_temperature"].value or 0.0,
    )
    if window < WINDOW_LOOK_N:
        add(
            "brake_grabs", "look", figures=(f"kit.brake.{end}.window", f"kit.brake.{end}.gain"), end=end,
            ground=braking.slickest(given), proposals=candidates.wider(given, end, WINDOW_LOOK_N),
        )  # fmt: skip
    grave = _graver(hot, ROTOR_LOOK_K[brake.pad], ROTOR_ACT_K)
    if grave != "ok":
        at = int(braking.warmth(given, end, brake).rotor_k.argmax())
        add(
            "rotor_hot", grave, figures=(f"kit.brake.{end}.rotor_temperature",), end=end,
            at_m=float(given.lap.around.whole.distance_m[at]), pad=brake.pad,
        )  # fmt: skip
    months = braking.fluid_months(given, end)
    if months is not None and months > MONTHS_LOOK:
        add("fluid_old", _graver(months, 0.0, MONTHS_ACT), figures=("kit.brake.fluid_margin",), end=end, months=months)


def _fluid(given: KitInput, known: Known, add: Add) -> None:
    left = known["kit.brake.fluid_margin"].value or 0.0
    grave = _graver(-left, -FLUID_LOOK_K, -FLUID_ACT_K)
    if grave == "ok":
        return
    end = min(ENDS, key=lambda e: braking.margin(given, e))
    at = int(braking.warmth(given, end).fluid_k.argmax())
    add(
        "fluid_boils" if left < 0.0 else "fluid_close", grave, figures=("kit.brake.fluid_margin",), end=end,
        proposals=candidates.cooler(given, end, FLUID_LOOK_K),
        at_m=float(given.lap.around.whole.distance_m[at]),
    )  # fmt: skip


def _controls(known: Known, add: Add) -> None:
    day, holds = known["kit.hands.exposure"].value, known["kit.clutch.margin"].value
    if day is not None and day > ACTION_M_PER_S2:
        add(
            "hands_shaken",
            _graver(day, 0.0, LIMIT_M_PER_S2),
            figures=("kit.hands.exposure", "kit.hands.time_to_action"),
        )
    if holds is not None and holds < CLUTCH_LOOK:
        add("clutch_slips", _graver(-holds, -CLUTCH_LOOK, -CLUTCH_ACT), figures=("kit.clutch.margin",))


def _items(given: KitInput, add: Add) -> None:
    on = items_on(given.bike, given.setup)
    for item in given.bike.kit.items:
        if item.need == "must" and item not in on:
            add("must_off", "act", figures=(), what=item.name)
    if on:
        add("kit_on", "ok", figures=("kit.build.mass",), count=len(on), net_kg=mass_kg(given))
    else:
        add("kit_bare", "ok", figures=("kit.brake.front.window",), end="front")


def findings(given: KitInput, known: Known) -> list[Finding]:
    found: list[Finding] = []

    def add(code: str, severity: Severity, *, figures: tuple[str, ...], **more: Any) -> None:
        proposals, at_m = more.pop("proposals", ()), more.pop("at_m", None)
        found.append(
            Finding(
                station="kit", code=code, severity=severity, figures=figures, proposals=proposals, at_m=at_m,
                parameters=more,
            )
        )  # fmt: skip

    for end in ENDS:
        _foam(given, end, add)
        _air(given, end, add)
        _brake(given, end, known, add)
    _fluid(given, known, add)
    _tread(given, add)
    _controls(known, add)
    ready.findings(given, known, add)
    _items(given, add)
    order = {"act": 0, "look": 1, "unknown": 2, "ok": 3}
    return sorted(found, key=lambda f: order[f.severity])
