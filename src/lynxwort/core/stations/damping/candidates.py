"""What may stop an end from bottoming, each tried in the ride."""

from collections.abc import Iterator
from dataclasses import dataclass

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup
from lynxwort.core.report import Move
from lynxwort.core.stations.damping.car import half_car
from lynxwort.core.stations.damping.dampers import ENDS, clicks_of
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.damping.rides import SLOWER, SLOWER_MOST, Ridden, key_of, ride_feature
from lynxwort.core.tunables import TUNABLES, is_owned

#: metal contacts on one piece, mean over its runs, to speak of and to act on (assumption)
METAL_LOOK, METAL_ACT = 0.3, 2.0


def _cures(given: DampingInput, end: str) -> Iterator[tuple[tuple[Move, ...], bool]]:
    """Moves that may stop an end from bottoming, the cheapest first; whether it is the clicker's."""
    setup, bike, parts = given.setup, given.bike, given.box
    name = ENDS[end]
    if clicks_of(setup, name)[0] > 0:
        yield (Move(tunable=f"{name}_compression_clicks", value=0),), True
    if end == "rear" and bike.shock_damper.high_speed_turns > (setup.shock_high_speed_turns or 0.0):
        yield (Move(tunable="shock_high_speed_turns", value=bike.shock_damper.high_speed_turns),), True
    if end == "front":
        room = bike.frame.fork_air_gap_m - (setup.fork_oil_up_m or 0.0) - bike.frame.fork_oil_least_m
        for up in (0.010, 0.020, 0.030):
            if up <= room + 1e-9:
                yield (Move(tunable="fork_oil_up_m", value=round((setup.fork_oil_up_m or 0.0) + up, 4)),), False
    spring = "fork_spring_rate_n_per_m" if end == "front" else "shock_spring_rate_n_per_m"
    if end == "rear" or bike.frame.fork_springing == "coil":
        stiffer = sorted(v for v in parts.owned(spring) if v > getattr(setup, spring) + 1.0)[:2]
        for count in (1, 2):
            stiffer.append(getattr(setup, spring) + count * TUNABLES[spring].step)
        for value in sorted(dict.fromkeys(round(v, 3) for v in stiffer)):
            yield (Move(tunable=spring, value=value, owned=is_owned(parts, spring, value)),), False


@dataclass(frozen=True, slots=True, kw_only=True)
class Cure:
    """A move tried in the simulation. better: share of the bottoming gone; clicker: whether no tool but a screwdriver
    is needed.
    """

    moves: tuple[Move, ...]
    clicker: bool
    metal: float
    stop_n: float


def cures(given: DampingInput, end: str, case: Ridden) -> list[Cure]:
    """What each move makes of the piece over which an end bottoms, tried one at a time, in the order of _cures."""

    def make() -> list[Cure]:
        found = []
        for moves, clicker in _cures(given, end):
            changes = {m.tunable: int(m.value) if m.tunable.endswith("clicks") else m.value for m in moves}
            low, high = (getattr(field_facts(Setup, next(iter(changes))), b) for b in ("low", "high"))
            if any(not (low <= v <= high) for v in changes.values()):
                continue
            tried = ride_feature(
                half_car(given, given.setup.model_copy(update=changes)), case.feature, case.speed_m_per_s
            )
            found.append(
                Cure(moves=moves, clicker=clicker, metal=tried.mean("metal", end), stop_n=tried.mean("stop_n", end))
            )
        return found

    return given.lap.cache.get("damping_cures", (*key_of(given), given.box, end), make)


def free_speed(given: DampingInput, end: str, case: Ridden) -> float | None:
    """Speed [m/s], by tenths slower, at which an end no longer bottoms on a piece; None when it does at all that were
    tried.
    """

    def make() -> float | None:
        car = half_car(given)
        slower = (case.speed_m_per_s * SLOWER**k for k in range(1, SLOWER_MOST + 1))
        return next((v for v in slower if ride_feature(car, case.feature, v).mean("metal", end) < METAL_LOOK), None)

    return given.lap.cache.get("damping_free_speed", (*key_of(given), end, case.feature), make)


def helps(cure: Cure, metal: float) -> bool:
    """Whether a cure takes more than half of the metal contacts away."""
    return cure.metal < 0.5 * metal - 1e-9
