"""The notches of each tunable: the steps in which a hand moves it, and which of them are in the box."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import Part, field_facts
from lynxwort.core.model.bike import FITTING_PLACES, Bike, Electric, Engine, Injected, Jetted
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.damper import MIDDLE_CLICKS, PLACES
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.filled import FilledSetup


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
#: fuels that a setup can name (core.fuelling.fuels.FUELS)
FUEL_COUNT = 7
#: in the order in which the stations show them; common practice, no source
DETENTS: dict[str, Detent] = {
    d.tunable: d
    for d in (
        Detent(tunable="shock_preload_m", step=0.001, kind="preload", part=False),
        Detent(tunable="shock_spring_rate_n_per_m", step=2000.0, kind="spring_rate", part=True),
        Detent(tunable="fork_preload_m", step=0.001, kind="preload", part=False),
        Detent(tunable="fork_spring_rate_n_per_m", step=200.0, kind="spring_rate", part=True),
        Detent(tunable="fork_other_rate_n_per_m", step=200.0, kind="spring_rate", part=False),
        *(
            Detent(tunable=f"{end}_second_{what}", step=step, kind=kind, part=False, unset=unset)
            for end, rate, at in (("fork", 200.0, 0.15), ("shock", 2000.0, 0.03))
            for what, step, kind, unset in (("rate_n_per_m", rate, "spring_rate", None), ("from_m", 0.005, "travel", 0.0), ("at_m", 0.005, "travel", at))
        ),
        Detent(tunable="fork_oil_up_m", step=0.005, kind="travel", part=False, unset=0.0),
        Detent(tunable="fork_air_pressure_pa", step=10_000.0, kind="tyre_pressure", part=False, unset=8.0e5),
        Detent(tunable="fork_balance_pressure_pa", step=10_000.0, kind="tyre_pressure", part=False, unset=6.0e5),
        Detent(tunable="payload_left", step=1, kind="count", part=False, whole=True, unset=0),
        Detent(tunable="fork_up_m", step=0.005, kind="travel", part=False, unset=0.0),
        Detent(tunable="rear_up_m", step=0.005, kind="travel", part=False, unset=0.0),
        Detent(tunable="offset_change_m", step=0.002, kind="travel", part=False, unset=0.0),
        Detent(tunable="front_wheel", step=1, kind="count", part=False, whole=True, unset=1),
        Detent(tunable="rear_wheel", step=1, kind="count", part=False, whole=True, unset=1),
        Detent(tunable="seat_up_m", step=0.01, kind="travel", part=False, unset=0.0),
        Detent(tunable="bar_up_m", step=0.005, kind="travel", part=False, unset=0.0),
        Detent(tunable="bar_ahead_m", step=0.005, kind="travel", part=False, unset=0.0),
        Detent(tunable="peg_down_m", step=0.005, kind="travel", part=False, unset=0.0),
        Detent(tunable="front_tyre_pressure_pa", step=5000.0, kind="tyre_pressure", part=False, unset=90_000.0),
        Detent(tunable="rear_tyre_pressure_pa", step=5000.0, kind="tyre_pressure", part=False, unset=85_000.0),
        *(
            Detent(tunable=f"{end}_{way}_clicks", step=1, kind="count", part=False, whole=True, unset=MIDDLE_CLICKS)
            for end in ("fork", "shock")
            for way in ("compression", "rebound")
        ),
        Detent(tunable="shock_high_speed_turns", step=0.25, kind="factor", part=False, unset=0.0),
        Detent(tunable="main_jet", step=2.5, kind="number", part=True, metering=("jetted",)),
        Detent(tunable="needle_clip", step=1, kind="count", part=False, whole=True, metering=("jetted",)),
        Detent(tunable="needle", step=1, kind="count", part=False, whole=True, metering=("jetted",), unset=1),
        Detent(tunable="needle_jet_bore_m", step=2e-5, kind="bore", part=False, metering=("jetted",)),
        Detent(tunable="pilot_jet", step=2.5, kind="number", part=True, metering=("jetted",)),
        Detent(tunable="screw_turns", step=0.25, kind="factor", part=False, metering=("jetted",), unset=1.5),
        Detent(tunable="slide_cutaway", step=0.5, kind="number", part=False, metering=("jetted",)),
        Detent(tunable="knob_clicks", step=1, kind="count", part=False, whole=True, metering=("rod",), unset=0),
        Detent(tunable="metering_rod", step=1, kind="count", part=True, whole=True, metering=("rod",), unset=0),
        Detent(tunable="fuel_trim", step=0.01, kind="richness", part=False, metering=("injected",), unset=0.0),
        Detent(tunable="map_slot", step=1, kind="count", part=False, whole=True, metering=("injected",), unset=1),
        Detent(tunable="premix_ratio", step=5.0, kind="number", part=False, metering=BURNS),
        Detent(tunable="fuel", step=1, kind="count", part=False, whole=True, metering=BURNS, unset=1),
        Detent(tunable="fuel_octane", step=1.0, kind="number", part=False, metering=BURNS),
        *(
            Detent(tunable=place, step=1, kind="count", part=False, whole=True, metering=BURNS, unset=1)
            for place in (*FITTING_PLACES, "head_insert", "ignition_map")
        ),
        Detent(tunable="power_valve_turns", step=0.25, kind="factor", part=False, metering=BURNS, unset=0.0),
        Detent(tunable="front_sprocket_teeth", step=1, kind="count", part=True, whole=True),
        Detent(tunable="rear_sprocket_teeth", step=1, kind="count", part=True, whole=True),
        Detent(tunable="gearbox", step=1, kind="count", part=False, whole=True, unset=1),
        Detent(tunable="power_mode", step=1, kind="count", part=False, whole=True, metering=("electric",), unset=1),
        Detent(tunable="fuel_fill_m3", step=0.0005, kind="volume", part=False, metering=BURNS),
        Detent(tunable="tank_capacity_m3", step=0.001, kind="volume", part=True, metering=BURNS),
        Detent(tunable="charge_share", step=0.05, kind="share", part=False, metering=("electric",), unset=1.0),
        Detent(tunable="pack_energy_j", step=1.8e6, kind="energy", part=True, metering=("electric",)),
    )
}
#: rates that are the main spring's until they are said
AS_MAIN_RATE = {
    "fork_other_rate_n_per_m": "fork_spring_rate_n_per_m", "fork_second_rate_n_per_m": "fork_spring_rate_n_per_m",
    "shock_second_rate_n_per_m": "shock_spring_rate_n_per_m",
}  # fmt: skip
TOLERANCE = 1e-6
#: fields of a setup that a hand sets as a whole, not by notches
STACKS: tuple[str, ...] = tuple(f"{end}_{place}_stack" for end in ("fork", "shock") for place in PLACES)
WHOLES: tuple[str, ...] = ("map_trims", "map_by_ground", "stops", *STACKS)


@dataclass(frozen=True, slots=True, kw_only=True)
class Notch:
    """One place a tunable can move to. owned: True in the box, False to buy, None when no part is needed."""

    value: float
    owned: bool | None


def _engine_choices(engine: Engine) -> list[tuple[bool, tuple[str, ...]]]:
    """Whether each choice is there on an engine that burns fuel."""
    if isinstance(engine, Electric):
        return []
    found: list[tuple[bool, tuple[str, ...]]] = [(bool(engine.fittings_of(place)), (place,)) for place in FITTING_PLACES]
    found += [(bool(engine.head_inserts), ("head_insert",)), (bool(engine.ignition_maps), ("ignition_map",)),
              (engine.power_valve == "adjustable", ("power_valve_turns",)), (engine.kind.endswith("two_stroke"), ("premix_ratio",))]  # fmt: skip
    if isinstance(engine, Jetted):
        found.append((bool(engine.carburettor.needles), ("needle",)))
    return found


def slots_of(bike: Bike) -> dict[str, int]:
    """How many places each slot of this bike has, its own counted."""
    engine = bike.engine
    clicks = {f"{end}_{way}_clicks": getattr(bike.damper(end), f"{way}_clicks") for end in ("fork", "shock") for way in ("compression", "rebound")}
    found = clicks | {"gearbox": 1 + len(bike.transmission.others), "front_wheel": 1 + len(bike.frame.other_front_wheels),
             "rear_wheel": 1 + len(bike.frame.other_rear_wheels), "payload_left": len(bike.frame.payload), "fuel": FUEL_COUNT}  # fmt: skip
    if isinstance(engine, Electric):
        return found | {"power_mode": len(engine.mode_power_shares)}
    found |= {place: 1 + len(engine.fittings_of(place)) for place in FITTING_PLACES}
    found |= {"head_insert": 1 + len(engine.head_inserts), "ignition_map": 1 + len(engine.ignition_maps)}
    if isinstance(engine, Jetted):
        found |= {"needle": 1 + len(engine.carburettor.needles), "needle_clip": engine.carburettor.clip_positions}
    if isinstance(engine, Injected):
        found["map_slot"] = len(engine.injection.map_shifts)
    return found


def _left_out(bike: Bike) -> set[str]:
    """Tunables that make no notch on this bike."""
    frame, engine = bike.frame, bike.engine
    out: set[str] = set()
    air = frame.fork_springing == "air"
    choices = (
        (bool(bike.transmission.others), ("gearbox",)), (bool(frame.other_front_wheels), ("front_wheel",)), (bool(frame.other_rear_wheels), ("rear_wheel",)),
        (bike.shock_damper.high_speed_turns > 0.0, ("shock_high_speed_turns",)),
        (bool(frame.payload), ("payload_left",)), (not air, ("fork_spring_rate_n_per_m", "fork_preload_m")),
        (not air and frame.fork_springs == "different", ("fork_other_rate_n_per_m",)), (air, ("fork_air_pressure_pa",)),
        (air and frame.fork_balance_area_m2 is not None, ("fork_balance_pressure_pa",)),
        (not air and frame.fork_rate_is == "changing", ("fork_second_rate_n_per_m", "fork_second_from_m", "fork_second_at_m")),
        (frame.shock_rate_is == "changing", ("shock_second_rate_n_per_m", "shock_second_from_m", "shock_second_at_m")),
        (not (isinstance(engine, Injected) and len(engine.injection.map_shifts) == 1), ("map_slot",)),
        (not (isinstance(engine, Electric) and len(engine.mode_power_shares) == 1), ("power_mode",)),
        *_engine_choices(engine),
    )  # fmt: skip
    for there, tunables in choices:
        if not there:
            out.update(tunables)
    return out


def of_another_kind(bike: Bike, fields: Iterable[str]) -> list[str]:
    """Those of some setup fields that no bike of this kind has: jets on an injected one, a tank on an electric one."""
    return [f for f in fields if f in DETENTS and bike.metering not in DETENTS[f].metering]


def tunables_of(bike: Bike) -> tuple[str, ...]:
    """What a hand can move on this bike, in the stations' order. A single map, mode, wheel or set of gears is no notch."""
    left_out = _left_out(bike)
    return tuple(t for t, d in DETENTS.items() if bike.metering in d.metering and t not in left_out)


def step_of(engine: Engine, tunable: str) -> float:
    """One notch [SI] with this engine: flow-numbered jets step wider."""
    flow = tunable == "main_jet" and isinstance(engine, Jetted) and engine.carburettor.jet_numbering == "flow"
    return FLOW_JET_STEP if flow else DETENTS[tunable].step


def _bounds(bike: Bike, tunable: str) -> tuple[float, float]:
    """Lowest and highest value of a tunable [SI] on this bike: its grooves, maps and modes count."""
    facts = field_facts(Setup, tunable)
    high = slots_of(bike).get(tunable, facts.high if facts.high is not None else math.inf)
    if tunable == "shock_high_speed_turns":
        high = bike.shock_damper.high_speed_turns
    return (facts.low if facts.low is not None else -math.inf), high


def current_value(setup: Part, tunable: str) -> float:
    """The value a tunable has now; a fill left out is a full tank. Raises KeyError when the setup has none."""
    if tunable == "fuel_fill_m3" and isinstance(setup, FilledSetup):
        return setup.fill_m3
    value = getattr(setup, tunable)
    if value is None and tunable in AS_MAIN_RATE:
        value = getattr(setup, AS_MAIN_RATE[tunable])
    value = DETENTS[tunable].unset if value is None else value
    if value is None:
        raise KeyError(tunable)
    return float(value)


def said_value(setup: Setup, tunable: str) -> float | None:
    """The value a tunable has now; None when it was never said."""
    try:
        return current_value(setup, tunable)
    except KeyError:
        return None


def is_owned(parts: PartsBox, tunable: str, value: float) -> bool | None:
    """Whether this value lies in the parts box; None when the tunable needs no part."""
    if not DETENTS[tunable].part:
        return None
    return any(abs(v - value) <= TOLERANCE * max(1.0, abs(v)) for v in parts.owned(tunable))


def neighbour(bike: Bike, setup: Setup, parts: PartsBox, tunable: str, direction: int) -> Notch | None:
    """The next notch up (+1) or down (-1): the nearer of the next step and the next owned value; None beyond the bounds."""
    step_size = step_of(bike.engine, tunable)
    now = said_value(setup, tunable)
    if now is None:
        return None
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

    Raises pydantic's ValidationError for a value out of bounds, InputRefused for a part of a notch where there are only whole ones.
    """
    whole = DETENTS[tunable].whole
    if whole and abs(value - round(value)) > TOLERANCE:
        raise InputRefused(Refusal(path=f"setup.{tunable}", code="not_a_whole_number"))
    changes: dict[str, float | int] = {tunable: round(value) if whole else float(value)}
    if tunable == "tank_capacity_m3" and setup.fuel_fill_m3 is not None:
        full = abs(setup.fuel_fill_m3 - (setup.tank_capacity_m3 or 0.0)) < 1e-9
        changes["fuel_fill_m3"] = float(value) if full else min(setup.fuel_fill_m3, float(value))
    if tunable == "fuel_fill_m3":
        changes[tunable] = min(float(value), setup.tank_capacity_m3 or 0.0)
    given = setup.model_dump(exclude_unset=True)
    given["part_ids"] = {k: v for k, v in setup.part_ids.items() if k not in changes}
    return Setup.model_validate(given | changes)
