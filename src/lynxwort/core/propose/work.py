"""What a change is at the bike: the place that is opened for it, in the order of work, and how long that takes.

Times: common practice, no source. A part's own time and an item's count where they were said.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from lynxwort.core.model.bike import OtherTank, Pack
from lynxwort.core.model.box import PartsBox, Priced
from lynxwort.core.model.fitted import pack_of
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.physics.kit.work import UNSAID_S
from lynxwort.core.tunables import TOLERANCE, is_owned, item_of, passing_of

MINUTE_S = 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """Somewhere on the bike that is opened once for all that is done there. open_s: to open and close it [s]; each_s:
    work on each thing that is moved there [s].
    """

    name: str
    open_s: float
    each_s: dict[str, float]


def _place(name: str, minutes: float, **each: float) -> Place:
    return Place(name=name, open_s=minutes * MINUTE_S, each_s={t: m * MINUTE_S for t, m in each.items()})


#: in the order of work: what others rest on comes first, the mixture before the filling, since richer burns more
PLACES = (
    _place("items", 0.0),
    _place("tank", 25.0, tank_capacity_m3=0.0),
    _place("pack", 10.0, pack_energy_j=0.0),
    _place("case", 10.0, front_sprocket_teeth=8.0),
    _place("rear_wheel", 15.0, rear_sprocket_teeth=12.0, rear_wheel=5.0, rear_rotor_m=10.0),
    _place("front_wheel", 12.0, front_wheel=3.0, front_rotor_m=10.0),
    _place("brakes", 30.0, front_master_m=20.0, rear_master_m=20.0, front_pad=10.0, rear_pad=10.0),
    _place("shock", 50.0, shock_spring_rate_n_per_m=15.0),
    _place("legs", 60.0, fork_spring_rate_n_per_m=15.0, fork_oil_up_m=6.0),
    _place("shock_ring", 6.0, shock_preload_m=6.0),
    _place("fork_caps", 2.0, fork_preload_m=4.0),
    _place("fork_air", 1.0, fork_air_pressure_pa=2.0, fork_balance_pressure_pa=2.0),
    _place("clamps", 5.0, fork_up_m=5.0),
    _place("shock_eye", 15.0, rear_up_m=15.0),
    _place(
        "clickers", 0.5, shock_compression_clicks=0.5, shock_rebound_clicks=0.5, shock_high_speed_turns=0.5,
        fork_compression_clicks=0.5, fork_rebound_clicks=0.5,
    ),
    _place("coolant", 20.0, glycol_share=10.0, cap_pa=1.0, thermostat=10.0, tape_share=2.0),
    _place(
        "carburettor", 15.0, pilot_jet=5.0, needle_clip=6.0, main_jet=4.0, metering_rod=8.0, screw_turns=1.0,
        knob_clicks=0.5,
    ),
    _place("map", 5.0, fuel_trim=3.0),
    _place("tyres", 1.0, front_tyre_pressure_pa=2.0, rear_tyre_pressure_pa=2.0),
    _place("filling", 3.0, fuel_fill_m3=0.0),
    _place("charge", 1.0, charge_share=0.0),
    _place("stops", 0.0),
    _place("riding", 0.0, crawl_share=0.0),
)  # fmt: skip
#: what needs a part that no box of ours lists: another one is bought
BOUGHT = frozenset({"cap_pa", "front_pad", "rear_pad"})
#: what is done in one step, by its first: the second is set again whenever the first is changed
TOGETHER = {
    "tank_capacity_m3": "fuel_fill_m3",
    "shock_spring_rate_n_per_m": "shock_preload_m",
    "fork_spring_rate_n_per_m": "fork_preload_m",
}
_OF = {tunable: place for place in PLACES for tunable in place.each_s}
#: places that stand open when another one does
_WITHIN = {"shock_ring": "shock", "fork_caps": "legs", "filling": "tank"}
ORDER = {place.name: i for i, place in enumerate(PLACES)}


def is_workable(tunable: str) -> bool:
    """Whether a plan may move it at all: never what fits the rider, what he carries, or what is inside the engine."""
    return tunable in _OF or bool(item_of(tunable) or passing_of(tunable))


def place_of(tunable: str) -> str:
    """Name of the place that is opened for it."""
    return _OF[tunable].name if tunable in _OF else "stops" if passing_of(tunable) else "items"


def owned(parts: PartsBox, tunable: str, value: float) -> bool | None:
    """Whether what it takes lies in the box; None where it takes no part."""
    return False if tunable in BOUGHT else is_owned(parts, tunable, value)


def steps_in(tunables: Iterable[str]) -> int:
    """How many steps it is to move all of these; the stops are planned in one."""
    moved = {"stops" if passing_of(t) else t for t in tunables}
    return len(moved) - sum(first in moved and second in moved for first, second in TOGETHER.items())


def priced(inputs: Inputs, tunable: str, value: float) -> Priced | None:
    """What was said of a part in the box, in a shop, among the tanks and packs that fit the bike; None where nothing
    was.
    """
    near = TOLERANCE * max(1.0, abs(value))
    found = next((p for p in inputs.parts.priced if p.tunable == tunable and abs(p.value - value) <= near), None)
    if found is not None:
        return found
    fits: OtherTank | Pack | None = None
    if tunable == "tank_capacity_m3":
        fits = next((t for t in inputs.bike.frame.other_tanks if abs(t.capacity_m3 - value) <= near), None)
    elif tunable == "pack_energy_j":
        fits = pack_of(inputs.bike.engine, value)
    return None if fits is None else Priced(tunable=tunable, value=value, cost=fits.cost, work_s=fits.fitting_s)


def may_buy(parts: PartsBox, tunable: str, value: float) -> bool:
    """Whether a part that is not in the box is to be had: of a kind that a shop was said to have only those are."""
    near, sold = TOLERANCE * max(1.0, abs(value)), parts.sold(tunable)
    return not sold or any(abs(v - value) <= near for v in sold)


def price(inputs: Inputs, tunable: str, after: float) -> float | None:
    """What an item that is put on costs, or a part that is not in the box; None where that was not said, or nothing is
    bought.
    """
    if identity := item_of(tunable):
        put_on = tunable.startswith("kit_on") and after
        return next((i.cost for i in inputs.bike.kit.items if i.id == identity), None) if put_on else None
    found = priced(inputs, tunable, after) if owned(inputs.parts, tunable, after) is False else None
    return None if found is None else found.cost


def work_s(inputs: Inputs, moved: Mapping[str, float]) -> float:
    """How long it takes to move all of these together, each to its value [s], each place opened once; opening is in the
    time that was said of a part.
    """
    items = {i.id: i.work_s for i in inputs.bike.kit.items}
    known = {t: items.get(item_of(t)) if item_of(t) else _said_s(inputs, t, value) for t, value in moved.items()}
    opened = {place_of(t) for t in moved}
    counted = {place_of(t) for t, takes in known.items() if takes is not None}
    open_s = sum(
        p.open_s for p in PLACES if p.name in opened and p.name not in counted and _WITHIN.get(p.name) not in opened
    )

    def each(tunable: str, takes: float | None) -> float:
        if takes is None:
            takes = UNSAID_S if item_of(tunable) else 0.0 if passing_of(tunable) else _OF[tunable].each_s[tunable]
        return takes

    return open_s + sum(each(t, takes) for t, takes in known.items())


def _said_s(inputs: Inputs, tunable: str, value: float) -> float | None:
    found = priced(inputs, tunable, value)
    return None if found is None else found.work_s
