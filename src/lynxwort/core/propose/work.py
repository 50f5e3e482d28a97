"""What a change is at the bike: the place that is opened for it, in the order of work, and how long that takes.

Times: common practice, no source. An item's own time counts where it was said.
"""

from collections.abc import Iterable
from dataclasses import dataclass

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.box import PartsBox
from lynxwort.core.physics.kit.work import UNSAID_S
from lynxwort.core.tunables import is_owned, item_of

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
    return tunable in _OF or bool(item_of(tunable))


def place_of(tunable: str) -> str:
    """Name of the place that is opened for it."""
    return _OF[tunable].name if tunable in _OF else "items"


def owned(parts: PartsBox, tunable: str, value: float) -> bool | None:
    """Whether what it takes lies in the box; None where it takes no part."""
    return False if tunable in BOUGHT else is_owned(parts, tunable, value)


def steps_in(tunables: Iterable[str]) -> int:
    """How many steps it is to move all of these."""
    moved = set(tunables)
    return len(moved) - sum(first in moved and second in moved for first, second in TOGETHER.items())


def work_s(bike: Bike, tunables: Iterable[str]) -> float:
    """How long it takes to move all of these together [s], each place opened once."""
    moved = tuple(tunables)
    opened = {place_of(t) for t in moved}
    whole = sum(p.open_s for p in PLACES if p.name in opened and _WITHIN.get(p.name) not in opened)
    said = {i.id: i.work_s for i in bike.kit.items}

    def each(tunable: str) -> float:
        identity = item_of(tunable)
        takes = said.get(identity)
        return (UNSAID_S if takes is None else takes) if identity else _OF[tunable].each_s[tunable]

    return whole + sum(each(t) for t in moved)
