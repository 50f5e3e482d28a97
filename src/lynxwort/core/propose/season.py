"""What to buy for several races: one set of parts, the least of it that does better in the sum over all of them, each
race set up from the box with that set in it.

Sets are made of what the plan of one race would buy. What was looked at for the plans ranks them; the best are
confirmed by a search of each race.
"""

import itertools
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from pydantic import ValidationError

from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.propose.candidates import settled
from lynxwort.core.propose.levels import Levels, loud
from lynxwort.core.propose.search import best_of, carried
from lynxwort.core.propose.single import key_of, moved
from lynxwort.core.propose.tries import Change, Tried, Tries
from lynxwort.core.propose.wish import Wish
from lynxwort.core.propose.work import price
from lynxwort.core.report import Finding, Move

#: setups looked at for the plan of one race; for one race with one set of parts
MOST, CONFIRM = 240, 40
#: parts that sets are made of; sets of each size that are confirmed
POOL, TOP = 8, 2
#: parts of a set where nothing was said, and at most: with each more there are many more sets (assumption)
PARTS, MOST_PARTS = 2, 3
Key = tuple[str, float]
Beat = Callable[[int], None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Bought:
    """A part of a set. value [SI]; cost: own money, where it was said; races: those that are worse off without it."""

    tunable: str
    value: float
    cost: float | None
    races: tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class At:
    """One race with a set of parts. levels: the best that was found; changes: against the setup as it stands; settled:
    what the set settles that the box alone does not; left: what still asks for something.
    """

    levels: Levels
    changes: tuple[Change, ...]
    settled: tuple[Finding, ...]
    left: tuple[Finding, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """A set of parts with what each race makes of it; money: of those with a price; unpriced: how many have none."""

    parts: tuple[Bought, ...]
    money: float
    unpriced: int
    races: tuple[At, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Season:
    """ways: from the box alone first, then the best of each number of parts, each better in the sum over the races than
    those before it; before: levels of each race as the bike stands; looked: setups looked at.
    """

    before: tuple[Levels, ...]
    ways: tuple[Way, ...]
    looked: int


def season(
    races: Sequence[Inputs],
    wish: Wish,
    *,
    sensitivities: Sequence[Mapping[str, tuple[float, float]]] = (),
    most: int = MOST,
    beat: Beat | None = None,
) -> Season:
    """What to buy for races of one bike. wish: its limits hold for each race, those of parts and money for the set, of
    MOST_PARTS at most; sensitivities: ranges of what rests on the ride, by race; beat: called with how many setups were
    looked at, may raise to stop. Raises InputRefused where the setup as it stands cannot be judged on a race.
    """
    count = itertools.count(1)

    def beaten(_looked: int) -> None:
        looked = next(count)
        if beat is not None:
            beat(looked)

    ranges = list(sensitivities) or [{} for _ in races]
    plans = [_Raced(i, wish, r, most, beaten) for i, r in zip(races, ranges, strict=True)]
    pool = _pool(plans)
    for plan in plans:
        plan.fill(pool)
    sizes = [_sets(races[0], pool, size, wish) for size in range(1, min(wish.purchases, MOST_PARTS) + 1)]
    for sets in sizes:
        for chosen in sorted(sets, key=lambda s: _rank(plans, s))[:TOP]:
            for plan in plans:
                plan.confirm(chosen)
    # only now, since what was found for a set may do with less of it
    told = [frozenset[Key]()]
    for sets in sizes:
        # of equal ones the one that adds to the smaller set: who bought that has bought nothing for naught
        best = min(sets, key=partial(_choice, plans, told[-1]), default=told[-1])
        if _total(plans, best) < _total(plans, told[-1]):
            told.append(best)
    ways = [_way(plans, of, races[0]) for of in told]
    return Season(before=tuple(p.tries.base.levels for p in plans), ways=tuple(ways), looked=next(count) - 1)


class _Raced:
    """One race: what was looked at, with what each setup takes from a shop."""

    def __init__(
        self, inputs: Inputs, wish: Wish, ranges: Mapping[str, tuple[float, float]], most: int, beat: Beat
    ) -> None:
        self.wish, self.ranges, self.beat = wish, ranges, beat
        self.tries = Tries(inputs, wish, cache=StageCache(size=400), sensitivities=ranges, most=most, beat=beat)
        for _better in best_of(self.tries):
            pass

    def seen(self) -> Iterator[tuple[Tried, frozenset[Key]]]:
        """All that was looked at, the best first."""
        return ((t, bought_in(t)) for t in self.tries.every())

    def best(self, of: frozenset[Key]) -> Tried:
        """The best that buys nothing else."""
        return next(t for t, bought in self.seen() if bought <= of)

    def fill(self, pool: Iterable[Key]) -> None:
        """Each part of the others' plans on what the box alone leads to, settled."""
        tries, box = self.tries, self.best(frozenset())
        tries.purchases, tries.most = 1, tries.looked + POOL
        for tunable, value in pool:
            if tunable in tries.may:
                try:
                    after = moved(box.setup, [Move(tunable=tunable, value=value)])
                except (InputRefused, ValidationError):
                    continue
                tries.look(settled(tries, after))

    def confirm(self, chosen: frozenset[Key]) -> None:
        """The race searched with the set in the box, from where what was looked at leads. What is bought there is told
        by the first search: that it lies in the box is only supposed.
        """
        inputs, start = self.tries.inputs, self.best(chosen)
        lies = {t: (*inputs.parts.owned(t), *(v for k, v in chosen if k == t)) for t, _v in chosen}
        boxed = {t: values for t, values in lies.items() if t in type(inputs.parts).model_fields}
        tries = Tries(
            inputs.model_copy(update={"parts": inputs.parts.model_copy(update=boxed)}),
            self.wish.model_copy(update={"purchases": 0}),
            cache=self.tries.cache, sensitivities=self.ranges, most=CONFIRM, beat=self.beat,
        )  # fmt: skip
        known = tries.look(start.setup)
        if known is None:
            return
        # as it would be bought: of the same parts
        again = self.tries
        again.purchases, again.most = len(chosen), again.looked + CONFIRM
        for better in carried(tries, known):
            again.look(better.setup)


def bought_in(tried: Tried) -> frozenset[Key]:
    """What a setup takes that does not lie in the box."""
    return frozenset((c.tunable, round(c.after, 9)) for c in tried.changes if c.owned is False)


def _pool(plans: Sequence[_Raced]) -> tuple[Key, ...]:
    """The parts of the best setups that do better than the box alone, of each race in turn."""
    rows = []
    for plan in plans:
        least = plan.best(frozenset()).levels.key
        better = (sorted(bought) for t, bought in plan.seen() if bought and t.levels.key < least)
        rows.append(dict.fromkeys(k for keys in better for k in keys))
    turns = itertools.chain.from_iterable(itertools.zip_longest(*rows))
    return tuple(itertools.islice(dict.fromkeys(k for k in turns if k is not None), POOL))


def _total(plans: Sequence[_Raced], of: frozenset[Key]) -> tuple[int, ...]:
    """Levels summed over the races, each with the best that buys nothing else."""
    levels = (p.best(of).levels.key for p in plans)
    return tuple(map(sum, zip(*levels, strict=True)))


def _rank(plans: Sequence[_Raced], of: frozenset[Key]) -> tuple[Any, ...]:
    """To compare sets of one size by: what is left to say, then what has a price, then that price."""
    costs = [price(plans[0].tries.inputs, t, v) for t, v in of]
    return _total(plans, of), costs.count(None), sum(c or 0.0 for c in costs), sorted(of)


def _choice(plans: Sequence[_Raced], smaller: frozenset[Key], of: frozenset[Key]) -> tuple[Any, ...]:
    """As _rank, but that of equal ones those that hold a smaller set go first."""
    total, *rest = _rank(plans, of)
    return total, not smaller <= of, *rest


def _sets(inputs: Inputs, pool: Iterable[Key], size: int, wish: Wish) -> list[frozenset[Key]]:
    """All sets of so many parts that may be had for the money."""
    sets = (frozenset(s) for s in itertools.combinations(pool, size))
    return [s for s in sets if _affordable(inputs, s, wish)]


def _affordable(inputs: Inputs, of: frozenset[Key], wish: Wish) -> bool:
    """Whether one set may be had for the money; no tunable twice."""
    costs = [price(inputs, t, v) for t, v in of]
    within = wish.money is None or (None not in costs and sum(c or 0.0 for c in costs) <= wish.money + 1e-6)
    return within and len({t for t, _v in of}) == len(of)


def _way(plans: Sequence[_Raced], of: frozenset[Key], inputs: Inputs) -> Way:
    """What a set comes to in each race."""
    races, costs = [], {k: price(inputs, *k) for k in of}
    for plan in plans:
        alone, best = plan.best(frozenset()), plan.best(of)
        left = loud(best.report.findings)
        still = {key_of(f) for f in left}
        gone = tuple(f for f in loud(alone.report.findings) if key_of(f) not in still)
        races.append(At(levels=best.levels, changes=best.changes, settled=gone, left=left))
    parts = tuple(
        Bought(
            tunable=t, value=v, cost=costs[t, v],
            races=tuple(i for i, p in enumerate(plans) if p.best(of).levels.key < p.best(of - {(t, v)}).levels.key),
        )
        for t, v in sorted(of)
    )  # fmt: skip
    said = [c for c in costs.values() if c is not None]
    return Way(parts=parts, money=sum(said), unpriced=len(of) - len(said), races=tuple(races))
