"""What to measure first: by how much the choice after a reading does better than the choice now.

Reference: [raiffa1961] H. Raiffa, R. Schlaifer, Applied statistical decision theory (1961), ch. 4 (value of sample
information); expectations are over the draws, a draw never among those that its own reading is judged by.
"""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.candidates import INNER, settled, values
from lynxwort.core.propose.cases import EVERY, Case, Judge, loss
from lynxwort.core.propose.single import moved
from lynxwort.core.propose.tries import Tries
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import Move
from lynxwort.core.stations.range.chance import next_fill_up_sd

Array = NDArray[np.float64]
#: how often a reading is drawn for each draw; gain [weights of findings] and standard errors of it below which it is
#: not worth the walk (assumption); setups that may be looked at for its ways
NOISES, LEAST_GAIN, ERRORS, WAYS = 4, 0.1, 2.0, 100


@dataclass(frozen=True, slots=True, kw_only=True)
class First:
    """A reading that is worth taking before. code: as of asks.worth; gain: expected findings less, by their weights;
    now_chance: [1] that nothing is said of what it tells of, set as is best without it; then_chance: set by it;
    tunables: what is set by it.
    """

    code: str
    gain: float
    now_chance: float
    then_chance: float
    tunables: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """What may be read before. is_: what it is in each draw; sd: of its reading, in the same unit; answers: what is set
    by it; stations: that judge those; end: of which alone it tells, "" of a fill-up.
    """

    code: str
    is_: Array
    sd: float
    answers: tuple[str, ...]
    stations: frozenset[str]
    end: str

    def right(self, case: Case, luck: float) -> bool:
        """Whether nothing is said of what it tells of: an end's springs, or whether it lasts."""
        if not self.end:
            return case.missed <= luck
        return not any(f.station in self.stations and f.parameters.get("end") == self.end for f in case.said.values())


SPRINGS = {
    "rear": ("shock_preload_m", "shock_spring_rate_n_per_m"),
    "front": ("fork_preload_m", "fork_air_pressure_pa", "fork_spring_rate_n_per_m"),
}
STORES = {"fuel": ("fuel_fill_m3", "tank_capacity_m3"), "energy": ("charge_share", "pack_energy_j")}


def readings(judge: Judge, cases: Sequence[Case]) -> Iterator[Reading]:
    """A race sag of each end, a fill-up or a charge: what asks.worth tells of besides has no answer in a setup, or
    cannot be drawn.
    """
    up = judge.up
    for end in SPRINGS:
        sags = [c.figures[f"chassis.{end}.race_sag"].value for c in cases]
        if None not in sags:
            yield Reading(
                code=f"sag_{end}_race", is_=np.array(sags, dtype=float),
                sd=up.springs.tape_sd_m(end, up.loaded.setup), answers=SPRINGS[end], stations=frozenset({"chassis"}),
                end=end,
            )  # fmt: skip
    kind, deviation = up.supply.store.kind, [d.truth.use or 0.0 for d in judge.draws]
    yield Reading(
        code="fill_up" if kind == "fuel" else "charge", is_=np.array(deviation),
        sd=next_fill_up_sd(up.supply) / up.supply.factor.log_sd, answers=STORES[kind],
        stations=frozenset({"range", "chassis"}), end="",
    )  # fmt: skip


def _options(judge: Judge, reading: Reading, wish: Wish) -> Iterator[tuple[str, Setup]]:
    """What might be set otherwise after a reading: notches around the plan, and other parts settled in their place;
    none that leans the engine.
    """
    tries = Tries(
        judge.inputs, wish, cache=judge.cache, sensitivities=judge.sensitivities, most=WAYS, beat=lambda _n: None
    )
    tries.purchases = wish.purchases
    for tunable in reading.answers:
        for value in values(tries, judge.inputs.setup, tunable) if tunable in tries.may else ():
            setup = moved(judge.inputs.setup, [Move(tunable=tunable, value=value)])
            setup = setup if tunable in INNER else settled(tries, setup)
            if tries.look(setup) is not None:
                yield tunable, setup


def _at_stake(cases: Sequence[Case], reading: Reading) -> float:
    """The most that a reading might gain: all that is said by those who judge what is set by it."""
    dry = "range" in reading.stations
    mine = [{k: f for k, f in c.said.items() if f.station in reading.stations} for c in cases]
    of_them = [replace(c, said=m, missed=c.missed if dry else 0.0) for c, m in zip(cases, mine, strict=True)]
    return float(np.mean([loss(c) for c in of_them]))


def worth_of(judge: Judge, cases: Sequence[Case], reading: Reading, wish: Wish) -> First | None:
    """A reading as it is worth; None where it is not worth its walk."""
    if _at_stake(cases, reading) < LEAST_GAIN or float(np.ptp(reading.is_)) <= 0.0:
        return None
    ways = [("", list(cases[::EVERY]))]
    for tunable, setup in _options(judge, reading, wish):
        found = judge.otherwise(setup, reading.stations, cases)
        ways += [] if found is None else [(tunable, found)]
    losses = np.array([[loss(c) for c in found] for _t, found in ways])
    luck = [d.luck for d in judge.draws[::EVERY]]
    right = np.array([list(map(reading.right, found, luck)) for _t, found in ways])
    chosen = after_reading(losses, reading.is_[::EVERY], reading.sd)
    now, column = int(losses.mean(axis=1).argmin()), np.arange(losses.shape[1])
    spared = losses[now] - np.mean([losses[c, column] for c in chosen], axis=0)
    gain, error = float(spared.mean()), float(spared.std() / np.sqrt(column.size))
    if gain < max(LEAST_GAIN, ERRORS * error):
        return None
    used = Counter(ways[i][0] for i in chosen.ravel() if i != now)
    return First(
        code=reading.code,
        gain=gain,
        now_chance=float(right[now].mean()),
        then_chance=float(np.mean([right[c, column] for c in chosen])),
        tunables=tuple(t for t, _n in used.most_common() if t),
    )


def after_reading(losses: Array, is_: Array, sd: float) -> NDArray[np.int64]:
    """What is chosen after a reading of each draw, shape (NOISES, draws): the way with the least expected loss among
    the other draws, each weighed by how well the reading fits it. losses: of each way in each draw, shape (ways,
    draws); is_: what is read, in each draw; sd: of the reading.
    """
    rng = np.random.default_rng(11)
    found = []
    for _ in range(NOISES):
        read = is_ + sd * rng.standard_normal(is_.size)
        fits = np.exp(-0.5 * ((read[:, None] - is_[None, :]) / sd) ** 2)
        np.fill_diagonal(fits, 0.0)
        # a reading that fits no other draw says nothing
        fits[fits.sum(axis=1) < 1e-12] = 1.0
        found.append((losses @ (fits / fits.sum(axis=1, keepdims=True)).T).argmin(axis=0))
    return np.array(found)
