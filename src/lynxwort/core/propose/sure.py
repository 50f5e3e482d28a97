"""How sure a plan is: judged over draws of all that is only known within a range; what is bought in vain; and what to
measure first, by how much the choice after a reading does better than the choice now.

Reference: [raiffa1961] H. Raiffa, R. Schlaifer, Applied statistical decision theory (1961), ch. 4 (value of sample
information); expectations are over the draws, a draw never among those that its own reading is judged by.
"""

import itertools
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import ALL, evaluate
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.candidates import INNER, settled, values
from lynxwort.core.propose.draws import DRAWS, Draw, draws
from lynxwort.core.propose.levels import ELSEWHERE, FINISH, SAFETY, WEIGHTS, finish_missed, is_elsewhere, loud
from lynxwort.core.propose.single import key_of, moved
from lynxwort.core.propose.tries import Tries
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import SEVERITIES, Figure, Finding, Move, Report
from lynxwort.core.stations.range.chance import next_fill_up_sd
from lynxwort.core.tunables import current_value

Array = NDArray[np.float64]
Key = tuple[object, ...]
#: what a finding of safety counts more than another, and to run dry [weights of findings] (PROPOSE, prototype)
SAFETY_TIMES, DRY = 2.0, 20.0
#: findings told of that may come true, and least chance of one [1]
MOST_LIKELY, LEAST_CHANCE = 6, 0.02
#: how often a reading is drawn for each draw; gain [weights of findings] and standard errors of it below which it is
#: not worth the walk (assumption); every which draw is looked at for it
NOISES, LEAST_GAIN, ERRORS, EVERY = 4, 0.1, 2.0, 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Likely:
    """A finding that the plan does not say and that may come true, or be graver, with its chance [1]. figures: of its
    station in one such case [SI].
    """

    finding: Finding
    chance: float
    figures: dict[str, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class First:
    """A reading that is worth taking before. code: as of asks.worth; gain: expected findings less, by their weights;
    now: chance [1] that nothing is said of what it tells of, set as is best without it; then: set by it; tunables: what
    is set by it.
    """

    code: str
    gain: float
    now: float
    then: float
    tunables: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Vain:
    """A step that is bought, and the chance [1] that without it no more would be said."""

    tunables: tuple[str, ...]
    chance: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Sureness:
    """draws: how many; clear: chance [1] that nothing is said then that the plan does not say itself; dry: that it runs
    dry; likely: what may come true, the likeliest first; first: what to measure first, the most worth first; vain:
    what may be bought for nothing.
    """

    draws: int
    clear: float
    dry: float
    likely: tuple[Likely, ...]
    first: tuple[First, ...]
    vain: tuple[Vain, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """A setup in one draw: findings that ask for something by key, the chance [1] that it runs dry, its figures."""

    said: Mapping[Key, Finding]
    missed: float
    figures: Mapping[str, Figure]


def _grade(finding: Finding) -> int:
    return SEVERITIES.index(finding.severity)


def _said(report: Report) -> dict[Key, Finding]:
    return {key_of(f): f for f in loud(report.findings) if f.code not in FINISH and not is_elsewhere(f)}


def _case(report: Report) -> Case:
    return Case(said=_said(report), missed=report.ask(finish_missed), figures=report.figures)


def loss(case: Case) -> float:
    """What is said in a case, by its weights, and its chance to run dry."""
    said = sum(WEIGHTS[f.severity] * (SAFETY_TIMES if f.code in SAFETY else 1.0) for f in case.said.values())
    return said + DRY * case.missed


class Judge:
    """A document's setups over draws. beat: called at every case."""

    def __init__(
        self,
        inputs: Inputs,
        *,
        cache: StageCache,
        sensitivities: Mapping[str, tuple[float, float]],
        count: int,
        beat: Callable[[], None],
    ) -> None:
        self.inputs, self.cache, self.sensitivities, self._beat = inputs, cache, sensitivities, beat
        whole = evaluate(inputs, cache=cache, sensitivities=sensitivities)
        self.up = whole.behind.up
        self.draws = draws(self.up, count)
        self.plan = _case(whole)

    def cases(self, setup: Setup) -> list[Case]:
        """A setup in each draw. Raises InputRefused."""
        return [_case(self._report(setup, d, ALL)) for d in self.draws]

    def otherwise(self, setup: Setup, stations: frozenset[str], cases: Sequence[Case]) -> list[Case] | None:
        """A setup in every so many draws, judged by some stations alone: the others say what they said in `cases`, of
        all draws. None where some draw has no answer for it.
        """
        try:
            return [
                self._of(setup, d, stations, was) for d, was in zip(self.draws[::EVERY], cases[::EVERY], strict=True)
            ]
        except InputRefused:
            return None

    def _of(self, setup: Setup, draw: Draw, stations: frozenset[str], was: Case) -> Case:
        report = self._report(setup, draw, stations)
        missed = report.ask(finish_missed) if "range" in stations else was.missed
        others = {k: f for k, f in was.said.items() if f.station not in stations}
        return replace(was, said=others | _said(report), missed=missed)

    def _report(self, setup: Setup, draw: Draw, stations: frozenset[str]) -> Report:
        self._beat()
        return evaluate(
            self.inputs.model_copy(update={"setup": setup}), cache=self.cache, sensitivities=self.sensitivities,
            need=stations - ELSEWHERE, explain=False, truth=draw.truth,
        )  # fmt: skip

    def is_more(self, case: Case, luck: float) -> bool:
        """Whether something is said in a case, or graver, that the plan itself does not say."""
        known = {k: _grade(f) for k, f in self.plan.said.items()}
        return case.missed > luck or any(_grade(f) > known.get(k, -1) for k, f in case.said.items())

    def clear(self, cases: Sequence[Case]) -> float:
        """Share of the draws in which nothing more is said [1]."""
        return float(np.mean([not self.is_more(c, d.luck) for c, d in zip(cases, self.draws, strict=True)]))


def sureness(
    inputs: Inputs,
    steps: Sequence[Sequence[Move]],
    wish: Wish,
    *,
    cache: StageCache | None = None,
    sensitivities: Mapping[str, tuple[float, float]] | None = None,
    count: int = DRAWS,
    beat: Callable[[int], None] | None = None,
) -> Sureness:
    """How sure a plan is. inputs: as the bike stands; steps: of the plan; wish: within which it was made; beat: called
    with how many cases were looked at, may raise to stop. Raises InputRefused where the planned setup cannot be judged.
    """
    before, moves, looked = inputs.setup, [m for step in steps for m in step], itertools.count(1)

    def beaten() -> None:
        if beat is not None:
            beat(next(looked))

    judge = Judge(
        inputs.model_copy(update={"setup": moved(before, moves)}),
        cache=cache or StageCache(size=400), sensitivities=sensitivities or {}, count=count, beat=beaten,
    )  # fmt: skip
    cases = judge.cases(judge.inputs.setup)
    bought = [step for step in steps if any(m.owned is False for m in step)]
    told = (_first(judge, cases, reading, wish) for reading in readings(judge, cases))
    return Sureness(
        draws=count,
        clear=judge.clear(cases),
        dry=float(np.mean([c.missed for c in cases])),
        likely=tuple(_likely(judge, cases)),
        first=tuple(sorted((f for f in told if f is not None), key=lambda f: -f.gain)),
        vain=tuple(v for step in bought if (v := _vain(judge, cases, before, step)) is not None),
    )


def _vain(judge: Judge, cases: Sequence[Case], before: Setup, step: Sequence[Move]) -> Vain | None:
    """The chance that a step is bought for nothing; None where the rest does not do without it."""
    back = [Move(tunable=m.tunable, value=current_value(before, m.tunable)) for m in step]
    without = judge.otherwise(moved(judge.inputs.setup, back), ALL, cases)
    if without is None:
        return None
    spared = [loss(b) <= loss(a) + 1e-9 for a, b in zip(cases[::EVERY], without, strict=True)]
    return Vain(tunables=tuple(m.tunable for m in step), chance=float(np.mean(spared)))


def _likely(judge: Judge, cases: Sequence[Case]) -> Iterator[Likely]:
    known = {k: _grade(f) for k, f in judge.plan.said.items()}
    counted, shown = Counter[Key](), dict[Key, tuple[Finding, Case]]()
    for case in cases:
        for key, finding in case.said.items():
            if _grade(finding) > known.get(key, -1):
                counted[key] += 1
                shown.setdefault(key, (finding, case))
    for key, times in counted.most_common(MOST_LIKELY):
        if times / len(cases) >= LEAST_CHANCE:
            finding, case = shown[key]
            mine = (f for f in case.figures.values() if f.id.startswith(f"{finding.station}."))
            figures = {f.id: f.value for f in mine if f.value is not None}
            yield Likely(finding=finding, chance=times / len(cases), figures=figures)


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
        judge.inputs, wish, cache=judge.cache, sensitivities=judge.sensitivities, most=DRAWS, beat=lambda _n: None
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


def _first(judge: Judge, cases: Sequence[Case], reading: Reading, wish: Wish) -> First | None:
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
        now=float(right[now].mean()),
        then=float(np.mean([right[c, column] for c in chosen])),
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
