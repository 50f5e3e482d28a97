"""The notches of each tunable: the steps in which a hand moves it, and which of them are in the box."""

import math
from dataclasses import dataclass

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Bike, Electric, Injected, Jetted
from lynxwort.core.model.setup import PartsBox, Setup


@dataclass(frozen=True, slots=True, kw_only=True)
class Detent:
    """step: one notch in SI; kind: of unit, for showing; part: whether a notch needs another part; metering: bikes that have it;
    unset: the value that a setup without one has.
    """

    tunable: str
    step: float
    kind: str
    part: bool
    whole: bool = False
    metering: tuple[str, ...] = ("jetted", "rod", "injected", "electric")
    unset: float | None = None


BURNS = ("jetted", "rod", "injected")
#: one notch of a flow-numbered main jet; about one 2.5 step by diameter (common practice, no source)
FLOW_JET_STEP = 10.0
#: in the order in which the stations show them; common practice, no source
DETENTS: dict[str, Detent] = {
    d.tunable: d
    for d in (
        Detent(tunable="shock_preload_m", step=0.001, kind="preload", part=False),
        Detent(tunable="shock_spring_rate_n_per_m", step=2000.0, kind="spring_rate", part=True),
        Detent(tunable="fork_preload_m", step=0.001, kind="preload", part=False),
        Detent(tunable="fork_spring_rate_n_per_m", step=200.0, kind="spring_rate", part=True),
        Detent(tunable="main_jet", step=2.5, kind="number", part=True, metering=("jetted",)),
        Detent(tunable="needle_clip", step=1, kind="count", part=False, whole=True, metering=("jetted",)),
        Detent(tunable="knob_clicks", step=1, kind="count", part=False, whole=True, metering=("rod",), unset=0),
        Detent(tunable="metering_rod", step=1, kind="count", part=True, whole=True, metering=("rod",), unset=0),
        Detent(tunable="fuel_trim", step=0.01, kind="richness", part=False, metering=("injected",), unset=0.0),
        Detent(tunable="map_slot", step=1, kind="count", part=False, whole=True, metering=("injected",), unset=1),
        Detent(tunable="front_sprocket_teeth", step=1, kind="count", part=True, whole=True),
        Detent(tunable="rear_sprocket_teeth", step=1, kind="count", part=True, whole=True),
        Detent(tunable="power_mode", step=1, kind="count", part=False, whole=True, metering=("electric",), unset=1),
        Detent(tunable="fuel_fill_m3", step=0.0005, kind="volume", part=False, metering=BURNS),
        Detent(tunable="tank_capacity_m3", step=0.001, kind="volume", part=True, metering=BURNS),
        Detent(tunable="charge_share", step=0.05, kind="share", part=False, metering=("electric",), unset=1.0),
        Detent(tunable="pack_energy_j", step=1.8e6, kind="energy", part=True, metering=("electric",)),
    )
}
TOLERANCE = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Notch:
    """One place a tunable can move to. owned: True in the box, False to buy, None when no part is needed."""

    value: float
    owned: bool | None


def tunables_of(bike: Bike) -> tuple[str, ...]:
    """What a hand can move on this bike, in the stations' order. A single map or power mode is no notch."""
    left_out = set()
    if isinstance(bike.engine, Injected) and len(bike.engine.injection.map_shifts) == 1:
        left_out.add("map_slot")
    if isinstance(bike.engine, Electric) and len(bike.engine.mode_power_shares) == 1:
        left_out.add("power_mode")
    return tuple(t for t, d in DETENTS.items() if bike.metering in d.metering and t not in left_out)


def step_of(bike: Bike, tunable: str) -> float:
    """One notch [SI] on this bike: flow-numbered jets step wider."""
    flow = tunable == "main_jet" and isinstance(bike.engine, Jetted) and bike.engine.carburettor.jet_numbering == "flow"
    return FLOW_JET_STEP if flow else DETENTS[tunable].step


def _bounds(bike: Bike, tunable: str) -> tuple[float, float]:
    """Lowest and highest value of a tunable [SI] on this bike: its grooves, maps and modes count."""
    facts, engine = field_facts(Setup, tunable), bike.engine
    high = facts.high if facts.high is not None else math.inf
    if tunable == "needle_clip" and isinstance(engine, Jetted):
        high = engine.carburettor.clip_positions
    if tunable == "map_slot" and isinstance(engine, Injected):
        high = len(engine.injection.map_shifts)
    if tunable == "power_mode" and isinstance(engine, Electric):
        high = len(engine.mode_power_shares)
    return (facts.low if facts.low is not None else -math.inf), high


def current_value(setup: Setup, tunable: str) -> float:
    """The value a tunable has now; a fill left out is a full tank. Raises KeyError when the setup has none."""
    if tunable == "fuel_fill_m3":
        return setup.fill_m3
    value = getattr(setup, tunable)
    value = DETENTS[tunable].unset if value is None else value
    if value is None:
        raise KeyError(tunable)
    return float(value)


def is_owned(parts: PartsBox, tunable: str, value: float) -> bool | None:
    """Whether this value lies in the parts box; None when the tunable needs no part."""
    if not DETENTS[tunable].part:
        return None
    return any(abs(v - value) <= TOLERANCE * max(1.0, abs(v)) for v in parts.owned(tunable))


def neighbour(bike: Bike, setup: Setup, parts: PartsBox, tunable: str, direction: int) -> Notch | None:
    """The next notch up (+1) or down (-1): the nearer of the next step and the next owned value; None beyond the bounds."""
    step_size = step_of(bike, tunable)
    now = current_value(setup, tunable)
    grid = round(now / step_size) * step_size
    on_grid = abs(grid - now) < TOLERANCE * max(1.0, abs(now))
    step = grid + direction * step_size if on_grid or (grid - now) * direction <= 0 else grid
    beyond = [v for v in parts.owned(tunable) if (v - now) * direction > TOLERANCE * max(1.0, abs(now))]
    value = min([step, *beyond], key=lambda v: abs(v - now))
    if tunable == "fuel_fill_m3":
        value = min(value, setup.tank_capacity_m3 or 0.0)
        if abs(value - now) < 1e-9:
            return None
    low, high = _bounds(bike, tunable)
    if not low - 1e-12 <= value <= high + 1e-12:
        return None
    return Notch(value=round(value, 9), owned=is_owned(parts, tunable, value))


def move(setup: Setup, tunable: str, value: float) -> Setup:
    """The setup with one tunable moved. A full tank stays full when the tank changes; a fill never exceeds its tank.

    Raises pydantic's ValidationError for a value out of bounds.
    """
    changes: dict[str, float | int] = {tunable: round(value) if DETENTS[tunable].whole else float(value)}
    if tunable == "tank_capacity_m3" and setup.fuel_fill_m3 is not None:
        full = abs(setup.fuel_fill_m3 - (setup.tank_capacity_m3 or 0.0)) < 1e-9
        changes["fuel_fill_m3"] = float(value) if full else min(setup.fuel_fill_m3, float(value))
    if tunable == "fuel_fill_m3":
        changes[tunable] = min(float(value), setup.tank_capacity_m3 or 0.0)
    given = setup.model_dump(exclude_unset=True)
    given["part_ids"] = {k: v for k, v in setup.part_ids.items() if k not in changes}
    return Setup.model_validate(given | changes)
