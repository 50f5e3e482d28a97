"""What each thing would do to the heat and to the current, side by side: coolant on the lap and in a queue, what the
generator leaves over.
"""

from dataclasses import dataclass

from lynxwort.core.model.fitted import items_on
from lynxwort.core.physics.kit import coolant
from lynxwort.core.report import Move
from lynxwort.core.stations.kit import candidates, cooling, electrics
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import current_value

#: what is tried of the coolant [their own units], where it is not as it is set
TRIED: tuple[tuple[str, float], ...] = (
    ("crawl_share", 0.8),
    ("cap_pa", 1.8e5),
    ("glycol_share", 0.0),
    ("glycol_share", 0.5),
    ("thermostat", 0.0),
    ("tape_share", 0.5),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Heat:
    """Moves to it, none for as it is set; hottest coolant and least distance from boiling on the lap [K]; walking pace
    until it boils [s], infinite when it never does; how warm half of the lap is in the coldest hour [K].
    """

    moves: tuple[Move, ...]
    hottest_k: float
    margin_k: float
    crawl_s: float
    median_k: float


def heats(given: KitInput) -> list[Heat]:
    """As it is set; each fan and radiator of the list the other way round; fewer revs at a crawl, a stiff cap, water,
    half glycol, no thermostat, tape. Water only where it does not freeze in the coldest hour.
    """
    if not cooling.is_cooled(given):
        return []
    on, listed = items_on(given.bike, given.brakes), given.bike.kit.items
    own = [i for i in listed if i.air_m3_per_s or i.shifts.radiator_share or i.shifts.radiator_air_share]
    found: list[tuple[Move, ...]] = [(), *((candidates.switch(i, on=i not in on),) for i in own)]
    for tunable, value in TRIED:
        freezes = tunable == "glycol_share" and coolant.freezes_at(value) > given.day.air.temperature_low_k
        if abs(current_value(given.brakes, tunable) - value) > 1e-9 and not freezes:
            found.append((Move(tunable=tunable, value=value),))
    return [_heat(given, moves) for moves in found]


def _heat(given: KitInput, moves: tuple[Move, ...]) -> Heat:
    setup = candidates.setup_with(given, moves)
    hot = cooling.warmth(given, setup=setup)
    return Heat(
        moves=moves,
        hottest_k=float(hot.coolant_k.max()),
        margin_k=float(hot.margin_k.min()),
        crawl_s=cooling.queue(given, crawling=True, setup=setup).boils_s,
        median_k=cooling.by_time(cooling.warmth(given, hot=0.0, setup=setup), 0.5),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Current:
    """Moves to it, none for as it is set; what is left over in the mean [W]; the least in the battery [J], None without
    one.
    """

    moves: tuple[Move, ...]
    mean_w: float
    battery_low_j: float | None


def currents(given: KitInput) -> list[Current]:
    """As it is set, and what gives more or draws less from the bike's list, each lamp that is off in place of the one
    that is on, the fan the other way round; a must stays on.
    """
    on = items_on(given.bike, given.brakes)
    lamps = [i for i in on if i.lamp_cd > 0.0]
    found: list[tuple[Move, ...]] = [()]
    for item in given.bike.kit.items:
        swaps = item.lamp_cd > 0.0 and item not in on
        if (item.lamp_cd > 0.0 and not swaps) or (item in on and item.need == "must"):
            continue
        if item.watts_w or item.shifts.generator_high_w:
            others = tuple(candidates.switch(lamp, on=False) for lamp in lamps) if swaps else ()
            found.append((candidates.switch(item, on=item not in on), *others))
    made = []
    for moves in found:
        seen = electrics.balance(given, candidates.setup_with(given, moves) if moves else None)
        if seen is not None:
            made.append(Current(moves=moves, mean_w=seen.mean_w, battery_low_j=electrics.lowest(seen)))
    return made
