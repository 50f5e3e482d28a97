"""Range's drawings: what is aboard, the level along the race, the stints of a team."""

from dataclasses import dataclass
from math import exp, sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.along import MOST_POINTS, POINTS, WHOLE, Part, thin
from lynxwort.core.derived.use import Store
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.reach.charge import Swap
from lynxwort.core.physics.reach.finish import PER_LAP_SD
from lynxwort.core.physics.reach.legs import Stint
from lynxwort.core.physics.reach.stops import Fill
from lynxwort.core.stations.range.chance import chance_of
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.moments import moments
from lynxwort.core.stations.range.passings import passed, tank_of
from lynxwort.core.stations.station import Views


@dataclass(frozen=True, slots=True, kw_only=True)
class RiddenStint:
    """A stint of one rider, which of his legs it is, the time [s] and the amount of fuel [m3] or charge [J] that it
    takes, rear sag [m] under the rider as it is turned for him, half the fill in; begins_m, begins_s: where on the race
    and when after its start it likely begins; rested_s: since the rider's last one, None before the first.
    """

    stint: Stint
    leg: int
    time_s: float
    amount: float
    sag_m: float
    begins_m: float
    begins_s: float
    rested_s: float | None


def ridden_stints(given: RangeInput) -> list[RiddenStint]:
    """Every stint of a relay, in order; empty without one."""
    found = list[RiddenStint]()
    clock = moments(given)
    over = [m for m in clock if m.kind == "hand_over"]
    begins = [(0.0, 0.0), *((m.race_m, m.likely_s + m.standing_s) for m in over)]
    ends = [*(m.likely_s for m in over), clock[-1].likely_s]
    off = dict[int, float]()
    for k, (stint, leg) in enumerate(zip(given.clock.stints or (), given.clock.legs, strict=True)):
        stages = range(stint.first, stint.last + 1)
        laps = (
            [(0, 1)] * len(stages)
            if len(given.clock.around.courses) == 1
            else [(i, given.clock.stages[i].laps) for i in stages]
        )
        time = sum(given.clock.lap(stint.rider, leg).rides[i].lap_time_s * n for i, n in laps)
        used = sum(float(given.supply.along(stint.rider, leg)[i][-1]) * n for i, n in laps) * given.supply.factor.median
        setup = given.setup_of(stint.rider, leg)
        sag = given.loaded.springs.sag(
            "rear", setup, given.clock.who(stint.rider), 0.5 * setup.fill_m3, given.loaded.springs.offsets.mean
        )
        began = off.get(stint.rider)
        found.append(
            RiddenStint(
                stint=stint,
                leg=leg,
                time_s=time,
                amount=used,
                sag_m=sag,
                begins_m=begins[k][0],
                begins_s=begins[k][1],
                rested_s=None if began is None else begins[k][1] - began,
            )
        )
        off[stint.rider] = ends[k]
    return found


def used_along(given: RangeInput) -> NDArray[np.float64]:
    """Likely fuel [m3] or charge [J] used from the start of a round to each place of its course, stages one after the
    other: shape of distance_m.
    """
    starts = np.concatenate([[0.0], np.cumsum([u[-1] for u in given.supply.along()])])
    each = [u[:-1] for u in given.supply.along()[:-1]] + [given.supply.along()[-1]]
    return np.concatenate([u + s for u, s in zip(each, starts, strict=False)]) * given.supply.factor.median


def aboard_at(given: RangeInput, race_m: float) -> float:
    """Likely fuel [m3] or charge [J] aboard at a distance of the race [m]."""
    places, levels = given.once("level_along", lambda: level_along(given))
    return float(np.interp(race_m, places, levels[:, 1]))


def level_along(given: RangeInput) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Race distance [m] and fuel [m3] or charge [J] aboard: shape (k,) and (k, 3) for low, median, high of 90 %; filled
    as planned, and where nothing is planned to the starting level at every refuel point. A filling gives two points at
    one distance.
    """
    spread = exp(Z90 * sqrt(given.supply.factor.log_sd**2 + PER_LAP_SD**2))
    scale = given.supply.factor.median * np.array([spread, 1.0, 1.0 / spread])
    taken, most = given.supply.taken, tank_of(given).capacity
    fills = {
        o.race_m: Fill(amount=given.supply.store.aboard) if taken is None else taken[o.number]
        for o in passed(given, given.clock.laps)
        if taken is None or o.number in taken
    }
    level, at = np.full(3, given.supply.store.aboard), 0.0
    # as many marks as a view may have points, shared among the laps, with room for the stops
    per_lap = max(min(61, 3 * MOST_POINTS // (4 * max(given.clock.laps, 1))), 2)
    places, found = [0.0], [level]

    def filled(at_m: float) -> None:
        nonlocal level
        fill = fills.pop(at_m, None)
        if fill is not None:
            level = np.minimum(level + fill.amount, most) if fill.add else np.maximum(min(fill.amount, most), level)
            places.append(at_m)
            found.append(level)

    for piece in given.supply.pieces(given.clock.laps):
        length = float(piece.distance_m[-1])
        stops_here = sorted({m for m in piece.refuel_at_m if 0 < m < length})
        marks = np.unique(np.concatenate([np.linspace(0.0, length, per_lap)[1:], stops_here]))
        for _ in range(piece.laps):
            filled(at)
            last = 0.0
            for mark in marks:
                now = float(np.interp(mark, piece.distance_m, piece.used))
                level = np.maximum(level - (now - last) * scale, 0.0)
                last = now
                places.append(at + float(mark))
                found.append(level)
                filled(at + float(mark))
            at += length
    return np.array(places), np.array(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelAlong:
    """What is likely left aboard [m3 or J] along the round. laps: of one stage lap by lap, the first LAPS_DRAWN; of
    several the round, once: shape (POINTS,) each; most: the highest level of the race; rate: what each of STRETCHES
    even stretches takes per metre, rates: at the drawn places.
    """

    laps: tuple[NDArray[np.float64], ...]
    most: float
    rate: NDArray[np.float64]
    rates: NDArray[np.float64]


LAPS_DRAWN, STRETCHES = 6, 80


def level_view(given: RangeInput, part: Part = WHOLE) -> LevelAlong:
    """Level along the round lap by lap, and what each stretch takes; of several stages of a part of it."""
    whole, course, aboard = used_along(given), given.clock.around.whole, given.supply.store.aboard
    if len(given.clock.around.courses) == 1:
        places, level = level_along(given)
        length, most = course.length_m, max(aboard, float(level.max()))
        starts = [lap * length for lap in range(min(given.clock.laps, LAPS_DRAWN))]
        laps = tuple(np.interp(np.linspace(start, start + length, POINTS), places, level[:, 1]) for start in starts)
    else:
        laps, most = (aboard - thin(whole, part=part),), aboard
    begins, ends = (float(course.distance_m[round(share * (course.distance_m.size - 1))]) for share in part)
    edges = np.linspace(begins, ends, STRETCHES + 1)
    rate = np.diff(np.interp(edges, course.distance_m, whole)) / np.diff(edges)
    rates = np.interp(np.linspace(0.0, 1.0, POINTS), (np.arange(STRETCHES) + 0.5) / STRETCHES, rate)
    return LevelAlong(laps=laps, most=most, rate=rate, rates=rates)


def store(given: RangeInput) -> Store:
    """What is aboard, and what holds it."""
    return given.supply.store


def laps(given: RangeInput) -> int:
    """Laps of the round, at the median."""
    return given.clock.laps


def lap_ends(given: RangeInput) -> list[float]:
    """Race distances [m] at which each lap of each stage ends, at the median number of laps."""
    lengths = [
        given.clock.around.courses[run.stage].length_m
        for run in given.clock.runs(given.clock.laps)
        for _ in range(run.laps)
    ]
    return np.cumsum(lengths).tolist()


@dataclass(frozen=True, slots=True, kw_only=True)
class ChanceView:
    """Chance to finish [1] against what is aboard at the start [m3 or J], about what the longest leg is likely to take:
    shape (60,); aboard: of it, what is drawn as now.
    """

    amounts: NDArray[np.float64]
    chance: NDArray[np.float64]
    aboard: float


def amounts_about(given: RangeInput, count: int = 60) -> NDArray[np.float64]:
    """Amounts aboard [m3 or J] about what the longest leg is likely to take: over which certainty is drawn."""
    leg = given.supply.largest_leg
    return np.linspace(0.6 * leg, 2.1 * leg, count) + given.supply.store.unusable


def chances(given: RangeInput) -> ChanceView:
    """Chance to finish against what is aboard at the start."""
    amounts = amounts_about(given)
    return ChanceView(
        amounts=amounts,
        chance=chance_of(given, amounts),
        aboard=float(np.clip(given.supply.store.aboard, amounts[0], amounts[-1])),
    )


def most_laps(given: RangeInput) -> int:
    """The most laps that are likely at all."""
    return given.clock.most_laps


def shared(given: RangeInput) -> bool:
    """Whether a team shares the race."""
    return given.clock.stints is not None


def factor(given: RangeInput) -> LogNormal:
    """This bike's factor on computed use."""
    return given.supply.factor


def rear_sag(given: RangeInput, fuel_m3: float) -> float:
    """Rear race sag [m] with this much fuel aboard."""
    return given.loaded.sag_m("rear", race=True, fuel_m3=fuel_m3)


def stints(given: RangeInput) -> list[tuple[Stint, str]] | None:
    """Who rides which laps (or stages) of a team, by name; None of one rider."""
    return None if given.clock.stints is None else [(s, given.clock.who(s.rider).name) for s in given.clock.stints]


def held_share(given: RangeInput, level: float) -> float:
    """How full the tank or pack is at a level [1]."""
    return level / given.supply.store.capacity


def rounds(given: RangeInput) -> tuple[Swap, ...] | None:
    """What goes round of a few packs at every passing; None where a full one is at hand each time."""
    return given.supply.rounds


VIEWS: Views = {
    "along": level_view,
    "level": level_along,
    "lap_ends": lap_ends,
    "chance": chances,
    "store": store,
    "stints": ridden_stints,
}
