"""The tunables of a setup, made from the markers at its fields, and their notches: the steps in which a hand moves
them, and which are in the box.
"""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any, get_args

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import Part, field_facts
from lynxwort.core.model.bike import Bike, Engine, Item, Jetted
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.filled import FilledSetup
from lynxwort.core.model.setup.kit import ITEM, ITEM_FIELDS, OF
from lynxwort.core.model.setup.range import FULL_M3, STOP, STOP_AT, level_at, with_level
from lynxwort.core.model.tunable import SetWhole, Tunable
from lynxwort.core.report import STATIONS

TOLERANCE = 1e-6
#: of a passing's number [digits]
LONGEST_NUMBER = 3


def tunables_in(setup: type[Part]) -> dict[str, Tunable]:
    """The tunables of a class of setups by field, in the order in which they are shown: station by station, then as
    they stand there.
    """
    found = {name: m for name, info in setup.model_fields.items() for m in info.metadata if isinstance(m, Tunable)}
    return dict(sorted(found.items(), key=lambda pair: STATIONS.index(pair[1].station)))


class _Tunables(dict[str, Tunable]):
    """The tunables of a setup by field; each item that is bolted on or off is one more, told by its field and its
    id, and so is each passing of a refuel point, told by its number.
    """

    def __missing__(self, name: str) -> Tunable:
        if name.startswith(_ITEMS):
            return ITEM
        if passing_of(name):
            return STOP_AT
        raise KeyError(name)

    def __contains__(self, name: object) -> bool:
        return super().__contains__(name) or (isinstance(name, str) and bool(item_of(name) or passing_of(name)))


_ITEMS = tuple(f"{field}{OF}" for field in ITEM_FIELDS)


def item_of(tunable: str) -> str:
    """Id of the item that a tunable bolts on or off; empty for another tunable."""
    field, between, identity = tunable.partition(OF)
    return identity if between and field in ITEM_FIELDS else ""


def passing_of(tunable: str) -> int:
    """Which passing of a refuel point a tunable says the stop at; 0 for another tunable."""
    number = tunable.removeprefix(STOP) if tunable.startswith(STOP) else ""
    return int(number) if number.isascii() and number.isdecimal() and len(number) <= LONGEST_NUMBER else 0


def stop_tunable(passing: int) -> str:
    """The tunable of the stop at a passing, see setup.range.level_at."""
    return f"{STOP}{passing}"


def items_apart(now: Mapping[str, Any], then: Mapping[str, Any]) -> list[str]:
    """The tunables of items that are on in one setup and not in the other, both as plain values."""
    return [
        f"{field}{OF}{identity}"
        for field in ITEM_FIELDS
        for identity in sorted(set(now.get(field) or ()) ^ set(then.get(field) or ()))
    ]


def item_tunable(item: Item) -> str:
    """The tunable that bolts an item on, or off where the bike was weighed with it."""
    return f"{'kit_off' if item.weighed_with else 'kit_on'}{OF}{item.id}"


TUNABLES = _Tunables(tunables_in(Setup))
#: fields that a hand sets as a whole, not by notches, each with its station
WHOLES: dict[str, str] = {
    name: m.station for name, info in Setup.model_fields.items() for m in info.metadata if isinstance(m, SetWhole)
}


def kind_of(tunable: str) -> str:
    """Kind of unit of a tunable, for showing."""
    return "count" if item_of(tunable) else "fuel" if passing_of(tunable) else field_facts(Setup, tunable).kind


def fields_of(station: str) -> tuple[str, ...]:
    """Fields of a setup that are moved or set at a station."""
    return (*(t for t, m in TUNABLES.items() if m.station == station), *(f for f, s in WHOLES.items() if s == station))


def is_of_mixture(field: str) -> bool:
    """Whether a setup's field has to do with a mixture that was proven on one engine, and says nothing of another's."""
    return field in fields_of("fuelling")


@dataclass(frozen=True, slots=True, kw_only=True)
class Notch:
    """One place a tunable can move to. owned: True in the box, False to buy, None when no part is needed."""

    value: float
    owned: bool | None


def of_another_kind(bike: Bike, fields: Iterable[str]) -> list[str]:
    """Those of some setup fields that no bike of this kind has: jets on an injected one, a tank on an electric one."""
    return [f for f in fields if f in TUNABLES and bike.metering not in TUNABLES[f].engines]


def tunables_of(bike: Bike) -> tuple[str, ...]:
    """What a hand can move on this bike, in the stations' order. A single map, mode, wheel or set of gears is no
    notch.
    """
    there = [name for name, marker in TUNABLES.items() if marker.is_there(bike)]
    first = next((i for i, name in enumerate(there) if TUNABLES[name].station == ITEM.station), len(there))
    return (*there[:first], *(item_tunable(item) for item in bike.kit.items), *there[first:])


def step_of(engine: Engine, tunable: str) -> float:
    """One notch [SI] with this engine: flow-numbered jets step wider."""
    marker = TUNABLES[tunable]
    by_flow = isinstance(engine, Jetted) and engine.carburettor.jet_numbering == "flow"
    return marker.flow_step if by_flow and marker.flow_step is not None else marker.step


def is_whole(tunable: str) -> bool:
    """Whether there are only whole numbers of it: teeth, clicks, places, items."""
    if item_of(tunable) or passing_of(tunable):
        return bool(item_of(tunable))
    annotation = field_facts(Setup, tunable).annotation
    return annotation is int or int in get_args(annotation)


def bounds(bike: Bike, tunable: str) -> tuple[float, float]:
    """Lowest and highest value of a tunable [SI] on this bike: its grooves, maps and modes count."""
    if item_of(tunable):
        return 0.0, 1.0
    if passing_of(tunable):
        return -FULL_M3, FULL_M3
    facts, highest = field_facts(Setup, tunable), TUNABLES[tunable].highest(bike)
    high = facts.high if highest is None else highest
    return (facts.low if facts.low is not None else -math.inf), (high if high is not None else math.inf)


def current_value(setup: Part, tunable: str) -> float:
    """The value a tunable has now; a fill left out is a full tank. Raises KeyError when the setup has none."""
    if tunable == "fuel_fill_m3" and isinstance(setup, FilledSetup):
        return setup.fill_m3
    if identity := item_of(tunable):
        return float(identity in getattr(setup, tunable.partition(OF)[0]))
    if passing := passing_of(tunable):
        stops = getattr(setup, "stops", None)
        if stops is None:
            raise KeyError(tunable)
        return level_at(stops, passing)
    value = getattr(setup, tunable)
    marker = TUNABLES[tunable]
    if value is None and marker.unset_as:
        value = getattr(setup, marker.unset_as)
    value = marker.unset if value is None else value
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
    if tunable not in PartsBox.model_fields:
        return None
    return any(abs(v - value) <= TOLERANCE * max(1.0, abs(v)) for v in parts.owned(tunable))


def neighbour(bike: Bike, setup: Setup, parts: PartsBox, tunable: str, direction: int) -> Notch | None:
    """The next notch up (+1) or down (-1): the nearer of the next step and the next owned value; None beyond the
    bounds.
    """
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
    low, high = bounds(bike, tunable)
    if not low - 1e-12 <= value <= high + 1e-12:
        return None
    return Notch(value=round(value, 9), owned=is_owned(parts, tunable, value))


def move(setup: Setup, tunable: str, value: float) -> Setup:
    """The setup with one tunable moved. A full tank stays full when the tank changes; a fill never exceeds its
    tank.

    Raises pydantic's ValidationError for a value out of bounds, InputRefused for a part of a notch where there are
    only whole ones.
    """
    whole, identity = is_whole(tunable), item_of(tunable)
    if whole and abs(value - round(value)) > TOLERANCE:
        raise InputRefused(Refusal(path=f"setup.{tunable}", code="not_a_whole_number"))
    if identity:
        return _bolted(setup, tunable.partition(OF)[0], identity, value)
    if passing := passing_of(tunable):
        stops = with_level(setup.stops or (), passing, value)
        return Setup.model_validate(setup.model_dump(exclude_unset=True) | {"stops": stops})
    changes: dict[str, float | int] = {tunable: round(value) if whole else float(value)}
    if tunable == "tank_capacity_m3" and setup.fuel_fill_m3 is not None:
        full = abs(setup.fuel_fill_m3 - (setup.tank_capacity_m3 or 0.0)) < 1e-9
        changes["fuel_fill_m3"] = float(value) if full else min(setup.fuel_fill_m3, float(value))
    if tunable == "fuel_fill_m3":
        changes[tunable] = min(float(value), setup.tank_capacity_m3 or 0.0)
    given = setup.model_dump(exclude_unset=True)
    given["part_ids"] = {k: v for k, v in setup.part_ids.items() if k not in changes}
    if setup.assumed:  # what is set is known
        given["assumed"] = tuple(name for name in setup.assumed if name not in changes)
    return Setup.model_validate(given | changes)


def _bolted(setup: Setup, field: str, identity: str, value: float) -> Setup:
    """The setup with an item put into a list of ids (1), or taken out of it (0). Raises InputRefused for another
    value.
    """
    if round(value) not in (0, 1):
        raise InputRefused(Refusal(path=f"setup.{field}", code="out_of_bounds", low=0.0, high=1.0))
    others = tuple(i for i in getattr(setup, field) if i != identity)
    ids = tuple(sorted((*others, identity))) if round(value) else others
    return Setup.model_validate(setup.model_dump(exclude_unset=True) | {field: ids})
