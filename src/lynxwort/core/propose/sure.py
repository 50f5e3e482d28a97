"""How sure a plan is: judged over draws of all that is only known within a range; what may come true, what is bought in
vain, what to measure first.
"""

import itertools
from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lynxwort.core.cache import StageCache
from lynxwort.core.evaluate import ALL
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.cases import EVERY, Case, Judge, Key, loss
from lynxwort.core.propose.draws import DRAWS
from lynxwort.core.propose.measuring import First, readings, worth_of
from lynxwort.core.propose.single import grade, moved
from lynxwort.core.propose.wish import Wish
from lynxwort.core.propose.work import price
from lynxwort.core.report import Finding, Move
from lynxwort.core.tunables import current_value

#: findings told of that may come true, and least chance of one [1]
MOST_LIKELY, LEAST_CHANCE = 6, 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class Likely:
    """A finding that the plan does not say and that may come true, or be graver, with its chance [1]. figures: of its
    station in one such case [SI].
    """

    finding: Finding
    chance: float
    figures: dict[str, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Vain:
    """A step that is bought, and the chance [1] that without it no more would be said."""

    tunables: tuple[str, ...]
    chance: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Sureness:
    """draws: how many; clear_chance: [1] that nothing is said then that the plan does not say itself; dry_chance: that
    it runs dry; likely: what may come true, the likeliest first; first: what to measure first, the most worth first;
    vain: what may be bought for nothing; box_chance: that nothing more is said in the best setup without buying [1],
    None where nothing is bought, or it was not asked.
    """

    draws: int
    clear_chance: float
    dry_chance: float
    likely: tuple[Likely, ...]
    first: tuple[First, ...]
    vain: tuple[Vain, ...]
    box_chance: float | None


def sureness(
    inputs: Inputs,
    steps: Sequence[Sequence[Move]],
    wish: Wish,
    *,
    cache: StageCache | None = None,
    sensitivities: Mapping[str, tuple[float, float]] | None = None,
    from_box: Sequence[Move] | None = None,
    count: int = DRAWS,
    beat: Callable[[int], None] | None = None,
) -> Sureness:
    """How sure a plan is. inputs: as the bike stands; steps: of the plan; wish: within which it was made; from_box:
    moves to the best setup without buying, where the plan buys; beat: called with how many cases were looked at, may
    raise to stop. Raises InputRefused where the planned setup cannot be judged.
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
    # what is set by a reading may buy what the plan left to buy
    spent = sum(price(inputs, m.tunable, m.value) or 0.0 for m in moves)
    more = wish.model_copy(
        update={
            "purchases": max(wish.purchases - sum(m.owned is False for m in moves), 0),
            "money": None if wish.money is None else max(wish.money - spent, 0.0),
        }
    )
    alone = None if from_box is None else judge.clear_otherwise(moved(before, from_box), cases)
    told = (worth_of(judge, cases, reading, more) for reading in readings(judge, cases))
    return Sureness(
        draws=count,
        clear_chance=judge.clear(cases),
        dry_chance=float(np.mean([c.missed for c in cases])),
        likely=tuple(_likely(judge, cases)),
        first=tuple(sorted((f for f in told if f is not None), key=lambda f: -f.gain)),
        box_chance=alone,
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
    known = {k: grade(f) for k, f in judge.plan.said.items()}
    counted, shown = Counter[Key](), dict[Key, tuple[Finding, Case]]()
    for case in cases:
        for key, finding in case.said.items():
            if grade(finding) > known.get(key, -1):
                counted[key] += 1
                shown.setdefault(key, (finding, case))
    for key, times in counted.most_common(MOST_LIKELY):
        if times / len(cases) >= LEAST_CHANCE:
            finding, case = shown[key]
            mine = (f for f in case.figures.values() if f.id.startswith(f"{finding.station}."))
            figures = {f.id: f.value for f in mine if f.value is not None}
            yield Likely(finding=finding, chance=times / len(cases), figures=figures)
