"""What Kit would change: closed forms, to be tried on everything else."""

import math
from bisect import bisect_left
from collections.abc import Callable, Sequence

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Item
from lynxwort.core.model.fitted import inside_of, items_on, tyre_on
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.kit import OF, PADS, KitSetup
from lynxwort.core.physics.kit import coolant
from lynxwort.core.report import Move
from lynxwort.core.stations.kit import braking, cooling, electrics, rolling, sounding
from lynxwort.core.stations.kit.ground import night
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import TUNABLES, current_value, is_owned, item_of, item_tunable

#: rotors that are sold [m] (common practice, no source)
SOLD_ROTORS_M = (0.24, 0.25, 0.26, 0.27, 0.28)
#: drive grip over the lap's time that another wheel must gain to be named [1]
GAINS = 0.05


def pressure(given: KitInput, end: str) -> tuple[tuple[Move, ...], ...]:
    """The pressure that the course wants, to the notch."""
    tunable = f"{end}_tyre_pressure_pa"
    step = TUNABLES[tunable].step
    return ((Move(tunable=tunable, value=round(rolling.wanted_pressure(given, end) / step) * step),),)


def wider(given: KitInput, end: str, window_n: float) -> tuple[tuple[Move, ...], ...]:
    """A larger master that gives a brake this window on the lap's slickest ground, and softer pads."""
    brake, ground, tunable = braking.fitted(given, end), braking.slickest(given), f"{end}_master_m"
    step, most = TUNABLES[tunable].step, field_facts(Setup, tunable).high or math.inf
    master = math.ceil(braking.master_for_window(given, end, window_n, ground, brake) / step - 1e-9) * step
    owned = is_owned(given.box, tunable, master)
    found = [(Move(tunable=tunable, value=round(master, 6), owned=owned),)] if master <= most else []
    if brake.pad != "organic":
        found.append((Move(tunable=f"{end}_pad", value=PADS.index("organic") + 1),))
    return tuple(found)


def cooler(given: KitInput, end: str, margin_k: float) -> tuple[tuple[Move, ...], ...]:
    """Larger rotors of which the smallest keeps its fluid this far [K] from boiling; the largest that is sold where
    none does.
    """
    tunable, now = f"{end}_rotor_m", braking.fitted(given, end).rotor_m
    for larger in (r for r in SOLD_ROTORS_M if r > now + 1e-6):
        if (
            braking.margin(given, end, braking.fitted(given, end, rotor_m=larger)) >= margin_k
            or larger == SOLD_ROTORS_M[-1]
        ):
            return ((Move(tunable=tunable, value=larger, owned=is_owned(given.box, tunable, larger)),),)
    return ()


def gripping(given: KitInput) -> tuple[tuple[Move, ...], ...]:
    """The rear wheel that grips best over the lap, when it gains enough."""
    slots = rolling.rear_slots(given)
    here, best = given.setup.rear_wheel or 1, max(slots, key=lambda s: rolling.grip_over_time(given, s))
    gain = rolling.grip_over_time(given, best) / rolling.grip_over_time(given, here) - 1.0
    return ((Move(tunable="rear_wheel", value=best, owned=True),),) if best != here and gain >= GAINS else ()


def cooler_foam(given: KitInput, end: str) -> tuple[tuple[Move, ...], ...]:
    """Other wheels that are there, whose filling carries this load."""
    tunable, bike, found = f"{end}_wheel", given.bike, []
    for slot in range(1, 2 + len(getattr(bike.frame, f"other_{end}_wheels"))):
        setup = given.setup.model_copy(update={tunable: slot})
        foam = inside_of(bike, setup, end) == "mousse"
        carries = not foam or (tyre_on(bike, setup, end).foam_for_kg or 0.0) >= given.on_wheel_kg(end)
        if carries and slot != (getattr(given.setup, tunable) or 1):
            found.append((Move(tunable=tunable, value=slot, owned=True),))
    return tuple(found[:3])


Moves = tuple[tuple[Move, ...], ...]
#: the highest cap that is offered [Pa]: it cools nothing, it only lets the engine run hotter
MOST_CAP_PA, LEAST_CRAWL = 1.4e5, 0.7


def switch(item: Item, *, on: bool) -> Move:
    """Puts an item on, or takes it off."""
    return Move(tunable=item_tunable(item), value=float(on != item.weighed_with), owned=True)


def put_on(items: tuple[Item, ...]) -> Moves:
    """Each of these put on."""
    return tuple((switch(i, on=True),) for i in items)


def _off(given: KitInput) -> list[Item]:
    """What is on the bike's list and not on."""
    on = items_on(given.bike, given.brakes)
    return [i for i in given.bike.kit.items if i not in on]


def setup_with(given: KitInput, moves: tuple[Move, ...]) -> KitSetup:
    """The kit's setup after some moves."""
    setup = given.brakes
    for m in moves:
        identity, field = item_of(m.tunable), m.tunable.partition(OF)[0]
        others = tuple(i for i in getattr(setup, field) if i != identity) if identity else ()
        setup = setup.model_copy(update={field: ((*others, identity) if m.value else others) if identity else m.value})
    return setup


def cooler_coolant(given: KitInput, margin_k: float | None, *, queue_s: float | None) -> Moves:
    """What brings the lap so far [K] from boiling, or a queue so long [s] before it: a fan or larger radiators from the
    list, fewer revs at a crawl, a cap; the smallest step of each that does, fan and pace together where none does
    alone.
    """

    def does(*moves: Move) -> bool:
        setup = setup_with(given, moves)
        if queue_s is not None:
            return cooling.queue(given, crawling=True, setup=setup).boils_s >= queue_s
        return float(cooling.warmth(given, setup=setup).margin_k.min()) >= (margin_k or 0.0)

    fans = [switch(i, on=True) for i in _off(given) if i.air_m3_per_s > 0.0]
    larger = [switch(i, on=True) for i in _off(given) if i.shifts.radiator_share > 0.0]
    waits = queue_s is not None or cooling.asked_s(given) > 0.0
    crawls = _steps(given, "crawl_share", LEAST_CRAWL) if waits else []
    found: list[tuple[Move, ...] | None] = [
        next(((m,) for m in fans if does(m)), None),
        _first([(m,) for m in crawls], does),
        next(((m,) for m in larger if does(m)), None),
    ]
    if not any(found) and fans:
        found.append(_first([(fans[0], m) for m in crawls], does))
    caps = _steps(given, "cap_pa", MOST_CAP_PA) if queue_s is not None else []
    found.append(_first([(m,) for m in caps], does))
    return tuple(f for f in found if f is not None)[:4]


def _first(steps: Sequence[tuple[Move, ...]], does: Callable[..., bool]) -> tuple[Move, ...] | None:
    """The first of some steps that does, each doing more than the one before; None when the last does not."""
    if not steps or not does(*steps[-1]):
        return None
    return steps[bisect_left(steps, True, key=lambda moves: does(*moves))]


def _steps(given: KitInput, tunable: str, end: float) -> list[Move]:
    """Notches from as it is set to an end, the nearest first."""
    now, step = current_value(given.brakes, tunable), TUNABLES[tunable].step
    count = round(abs(end - now) / step)
    toward = step if end > now else -step
    return [Move(tunable=tunable, value=round(now + toward * k, 6)) for k in range(1, count + 1)]


def warmer_coolant(given: KitInput) -> Moves:
    """A thermostat in, else radiators taped over."""
    if not current_value(given.brakes, "thermostat"):
        return ((Move(tunable="thermostat", value=1.0),),)
    now = current_value(given.brakes, "tape_share")
    return ((Move(tunable="tape_share", value=0.5),),) if now < 0.5 else ()


def frost(given: KitInput, temperature_k: float) -> Moves:
    """The least glycol that stays liquid so cold [K]."""
    for m in _steps(given, "glycol_share", 0.55):
        if coolant.freezes_at(m.value) <= temperature_k:
            return ((m,),)
    return ()


def more_current(given: KitInput) -> Moves:
    """What gives more or takes less, from the bike's list: a generator, a lamp that draws less in place of the one that
    is on, what nobody must have off; those that leave something over first.
    """
    off, on = _off(given), items_on(given.bike, given.brakes)
    tried: list[tuple[Move, ...]] = [(switch(i, on=True),) for i in off if i.shifts.generator_high_w > 0.0]
    lamps = [i for i in on if i.lamp_cd > 0.0]
    for lamp in lamps:
        less = [i for i in off if i.lamp_cd > 0.0 and i.watts_w < lamp.watts_w]
        tried += [(switch(i, on=True), switch(lamp, on=False)) for i in sorted(less, key=lambda i: i.watts_w)]
    seen_by = night(given).any() or any(s.kind == "liaison" for s in given.clock.stages)
    idle = (
        []
        if seen_by
        else [i for i in on if i.watts_w > 0.0 and i.need != "must" and i.lamp_cd == 0.0 and not i.air_m3_per_s]
    )
    tried += [(switch(i, on=False),) for i in sorted(idle, key=lambda i: -i.watts_w * i.duty_share)]
    left = {}
    for moves in tried:
        seen = electrics.balance(given, setup_with(given, moves))
        if seen is not None:
            left[moves] = seen.mean_w
    now = electrics.balance(given)
    better = [m for m in tried if now is not None and left.get(m, -1e9) > now.mean_w + 0.5]
    return tuple(sorted(better, key=lambda m: left[m] < 0.0))[:3]


def quieter(given: KitInput) -> Moves:
    """The quietest insert of the exhaust, where it is not in."""
    found = sounding.inserts(given)
    here = next((i for i in found if i.is_in), None)
    quietest = min(found, key=lambda i: i.level_db, default=None)
    if here is None or quietest is None or quietest.level_db >= here.level_db - 0.1:
        return ()
    return ((Move(tunable="exhaust_insert", value=float(quietest.slot), owned=True),),)
