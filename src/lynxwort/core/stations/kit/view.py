"""Kit's drawings: how warm rotors, fluid, foam and coolant are along the lap, and what is in the battery."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.along import WHOLE, Part, crests
from lynxwort.core.stations.kit import braking, cooling, electrics, rolling
from lynxwort.core.stations.kit.input import ENDS, KitInput
from lynxwort.core.stations.kit.pieces import Pieces
from lynxwort.core.stations.station import Views

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class WarmthView:
    """Temperatures [K] over even stretches of the round, the hottest of each, shape (POINTS,): front and rear rotor,
    the warmer fluid, and the hotter foam where there is any, as it is the last time round.
    """

    front_rotor_k: Array
    rear_rotor_k: Array
    fluid_k: Array
    foam_k: Array | None
    foam_first_k: Array | None


def warmth(given: KitInput, part: Part = WHOLE) -> WarmthView:
    """Along the round, or a part of it."""
    brakes = {end: braking.warmth(given, end) for end in ENDS}
    foam = [core for end in ENDS if (core := rolling.foam(given, end)) is not None]
    hottest = max(foam, key=lambda c: c.hottest_k, default=None)
    return WarmthView(
        front_rotor_k=crests(brakes["front"].rotor_k, part=part),
        rear_rotor_k=crests(brakes["rear"].rotor_k, part=part),
        fluid_k=crests(max((b.fluid_k for b in brakes.values()), key=lambda f: float(f.max())), part=part),
        foam_k=None if hottest is None else crests(hottest.last_k, part=part),
        foam_first_k=None if hottest is None else crests(hottest.first_k, part=part),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class CoolantView:
    """Coolant, and where it boils [K] over even stretches of the round in the hottest hour, its queues in it, shape
    (POINTS,); fan: whether it runs there.
    """

    coolant_k: Array
    boils_k: Array
    fan: Array


def _by_step(pieces: Pieces, values: Array, steps: int) -> Array:
    """The highest value on each step of the round, its queues in it."""
    out = np.full(steps, -np.inf)
    np.maximum.at(out, pieces.step, values)
    return out


def heat(given: KitInput, part: Part = WHOLE) -> CoolantView | None:
    """Along the round, or a part of it; None of what has no coolant."""
    if not cooling.is_cooled(given):
        return None
    seen, steps = cooling.warmth(given), given.lap.around.whole.sine.size
    return CoolantView(
        coolant_k=crests(_by_step(seen.pieces, seen.coolant_k, steps), part=part),
        boils_k=-crests(-_by_step(seen.pieces, seen.coolant_k + seen.margin_k, steps), part=part),
        fan=crests(_by_step(seen.pieces, seen.fan, steps), part=part),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class CurrentView:
    """Over even stretches of the round: battery [J] the first and the last time round, or None without one, and what
    generator less loads leave over [W], shape (POINTS,); holds_j: of the battery.
    """

    first_j: Array | None
    last_j: Array | None
    net_w: Array
    holds_j: float | None


def current(given: KitInput, part: Part = WHOLE) -> CurrentView | None:
    """Along the round, or a part of it; None while nobody said what the generator gives."""
    seen, steps = electrics.balance(given), given.lap.around.whole.sine.size
    if seen is None:
        return None

    def lowest(values: Array) -> Array:
        return -crests(_by_step(seen.pieces, -values, steps), part=part)

    batteries = seen.battery_j
    return CurrentView(
        first_j=None if batteries is None else lowest(batteries[0]),
        last_j=None if batteries is None else lowest(batteries[-1]),
        net_w=lowest(seen.net_w),
        holds_j=given.bike.kit.electrics.battery_j,
    )


VIEWS: Views = {"warmth": warmth, "heat": heat, "current": current}
