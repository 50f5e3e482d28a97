"""Compression against rebound over one piece of the course, a coarse map first; and which way to turn as the whoops
deepen.
"""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np

from lynxwort.core.asks.complaints import judged
from lynxwort.core.model.setup import DampingSetup
from lynxwort.core.physics.halfcar.halfcar import HalfCar
from lynxwort.core.physics.halfcar.measures import Measures
from lynxwort.core.stations.damping.car import half_car
from lynxwort.core.stations.damping.dampers import ENDS, clicks_of, damper_tables, facts_of
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.damping.rides import THREADS, WIDE_SPREAD, Feature, Ridden, features, ride_feature

#: clicks between neighbours of the maps that are ridden one after the other, the coarse one first
STEPS = (6, 2, 1)
#: speeds of a cell about the lap's
CELL_SPREAD = (0.94, 0.97, 1.0, 1.03, 1.06)
#: what a cell says: name -> unit kind; less is better of each
MEASURES: dict[str, str] = {
    "stop_n": "force",
    "share": "share",
    "packing_m": "travel",
    "air_share": "share",
    "overshoot_m": "travel",
    "peg_m_per_s2": "acceleration",
}
#: how far an adjuster is turned to see which way [clicks]
TURN = 4
#: speeds that are tried as the cure, as shares of the lap's
ENTRIES = (0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6)


def _measure(m: Measures, end: str, name: str) -> float:
    return float(getattr(m, name) if name in ("overshoot_m", "peg_m_per_s2") else getattr(getattr(m, end), name))


@dataclass(frozen=True, slots=True, kw_only=True)
class ClickCell:
    """One pair of clicks out, and the mean of each of MEASURES over the speeds."""

    compression: int
    rebound: int
    values: dict[str, float]


def pairs(compression: int, rebound: int, now: tuple[int, int]) -> list[tuple[int, int]]:
    """Pairs of clicks out up to the most of each adjuster, in the order in which they are ridden: the present one, then
    map after map.
    """
    maps = [[(c, r) for c in range(0, compression + 1, step) for r in range(0, rebound + 1, step)] for step in STEPS]
    return list(dict.fromkeys([now, *(pair for found in maps for pair in found)]))


def most_of(given: DampingInput, end: str) -> tuple[int, int]:
    """Clicks of compression and rebound from fully in to fully out, of an end ("front" or "rear")."""
    facts = facts_of(given.bike, ENDS[end])
    return facts.compression_clicks, facts.rebound_clicks


def pairs_of(given: DampingInput, end: str) -> list[tuple[int, int]]:
    """The pairs of an end of this bike."""
    return pairs(*most_of(given, end), clicks_of(given.setup, ENDS[end]))


def width_of(pair: tuple[int, int]) -> int:
    """Clicks between a pair and its neighbours on the coarsest map that has it."""
    return next(step for step in STEPS if all(c % step == 0 for c in pair))


def _turned(given: DampingInput, car: HalfCar, end: str, clicks: tuple[int, int], setup: DampingSetup) -> HalfCar:
    name = ENDS[end]
    changed = setup.model_copy(update={f"{name}_compression_clicks": clicks[0], f"{name}_rebound_clicks": clicks[1]})
    return car.with_dampers(*damper_tables(given.bike, changed))


def sweep(given: DampingInput, end: str, feature: Feature, clicks: list[tuple[int, int]]) -> Iterator[ClickCell]:
    """These pairs of clicks of an end ("front" or "rear") over one piece, as they are ridden."""
    car, setup = half_car(given), given.setup
    car.ready()

    def cell(pair: tuple[int, int]) -> ClickCell:
        runs = ride_feature(
            _turned(given, car, end, pair, setup), feature, feature.speed_m_per_s, spread=CELL_SPREAD, alone=True
        ).runs
        return ClickCell(
            compression=pair[0],
            rebound=pair[1],
            values={name: float(np.mean([_measure(m, end, name) for m in runs])) for name in MEASURES},
        )

    # the kernel lets go of the interpreter's lock, so two threads ride at once
    pool = ThreadPoolExecutor(THREADS)
    try:
        yield from pool.map(cell, clicks)
    finally:
        pool.shutdown(wait=True, cancel_futures=True)


def slopes_of(cells: list[ClickCell], name: str) -> tuple[float, float]:
    """What one click further out does to a measure, of compression and of rebound: the plane of least squares through
    the cells.
    """
    table = np.array([[1.0, c.compression, c.rebound] for c in cells])
    plane = np.linalg.lstsq(table, np.array([c.values[name] for c in cells]), rcond=None)[0]
    return float(plane[1]), float(plane[2])


@dataclass(frozen=True, slots=True, kw_only=True)
class Turn:
    """One adjuster turned: which ("compression" or "rebound"), by how many clicks out, and what each measure makes of
    it: mean change and what is seen.
    """

    way: str
    clicks: int
    changes: dict[str, tuple[float, str]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Hour:
    """The whoops after so many bikes: passes, scale against the first, height_m, whether the model holds there, whether
    a tyre comes to its rim; each measure as it is set; entry_m_per_s: the speed at which the hardest push is no more
    than it was at the start, None where it is no more anyway; past_cure: it is more, and no speed down to six
    tenths of the lap's helps; the turns.
    """

    passes: float
    scale: float
    height_m: float
    holds: bool
    rim: bool
    values: dict[str, float]
    entry_m_per_s: float | None
    past_cure: bool
    turns: tuple[Turn, ...]


def through_the_day(given: DampingInput, end: str, moments: tuple[tuple[float, float], ...]) -> list[Hour]:
    """The course's whoops as they deepen, (bikes past, how deep against the first), and what a turn of each adjuster,
    or a lower speed, does then; empty without whoops.
    """
    whoops = next((f for f in features(given) if f.kind == "whoops"), None)
    if whoops is None or not moments:
        return []

    def make() -> list[Hour]:
        car, found = half_car(given), list[Hour]()
        for passes, scale in moments:
            feature = replace(whoops, size=(whoops.size[0], whoops.size[1] * scale))
            found.append(_hour(given, car, end, feature, (passes, scale), found[0] if found else None))
        return found

    return given.lap.cache.get("damping_day", (given, end, moments), make)


def _told(car: HalfCar, feature: Feature, end: str) -> tuple[dict[str, np.ndarray], Ridden]:
    ridden = ride_feature(car, feature, feature.speed_m_per_s, spread=WIDE_SPREAD)
    return {m: np.array([_measure(r, end, m) for r in ridden.runs]) for m in MEASURES}, ridden


def _hour(
    given: DampingInput, car: HalfCar, end: str, feature: Feature, moment: tuple[float, float], first: Hour | None
) -> Hour:
    ends, now = most_of(given, end), clicks_of(given.setup, ENDS[end])
    as_set, ridden = _told(car, feature, end)
    turns = []
    for k, way in enumerate(("compression", "rebound")):
        for by in (-TURN, TURN):
            clicks = list(now)
            clicks[k] = min(max(now[k] + by, 0), ends[k])
            if clicks[k] == now[k]:
                continue
            after, _ridden = _told(_turned(given, car, end, (clicks[0], clicks[1]), given.setup), feature, end)
            changes = {m: judged(as_set[m], after[m]) for m in MEASURES}
            turns.append(Turn(way=way, clicks=clicks[k] - now[k], changes=changes))
    values = {m: float(v.mean()) for m, v in as_set.items()}
    harder = first is not None and values["stop_n"] > first.values["stop_n"]
    entry = _entry(car, end, feature, first.values["stop_n"]) if first is not None and harder else None
    return Hour(
        passes=moment[0],
        scale=moment[1],
        height_m=feature.size[1],
        holds=ridden.holds,
        rim=any(m.rim for m in ridden.runs),
        values=values,
        entry_m_per_s=entry,
        past_cure=harder and entry is None,
        turns=tuple(turns),
    )


def _entry(car: HalfCar, end: str, feature: Feature, first_n: float) -> float | None:
    """The speed at which these whoops push no harder than they did at the start; None when no speed does."""
    for share in ENTRIES:
        speed = share * feature.speed_m_per_s
        ridden = ride_feature(car, feature, speed)
        if np.mean([_measure(r, end, "stop_n") for r in ridden.runs]) <= first_n:
            return speed
    return None
