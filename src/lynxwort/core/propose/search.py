"""The search: from the setup as it stands, settled first, a few of the best carried on from round to round; then every
change that changes nothing put back.

Deterministic: the same document and wish give the same plan. Stopped at any time, the best so far is whole.
"""

import itertools
from collections.abc import Callable, Iterable, Iterator

from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.candidates import near, notches, settled
from lynxwort.core.propose.single import moved
from lynxwort.core.propose.tries import Change, Spent, Tried, Tries
from lynxwort.core.propose.work import ORDER, PLACES, TOGETHER, place_of, work_s
from lynxwort.core.report import Move
from lynxwort.core.tunables import passing_of

Way = Callable[[Tries, Tried], Iterator[Setup]]
Stands = Callable[[Tried], None]

#: setups carried on from a round, and rounds at most
BEAM, ROUNDS = 3, 24
#: an expected finding that a change must take away to stay where no finding hangs on it (PROPOSE 2)
SHARPEN = 0.5
#: share of the money or hours from which a thing is dear; how many of those it is searched without, each in its turn
DEAR, DETOURS = 0.2, 2
#: setups that may be looked at after the search, to leave away what need not be
MORE = 160


def best_of(tries: Tries, *, stands: Stands | None = None) -> Iterator[Tried]:
    """The best so far, whenever there is a better one; the last is the plan's. It ends early when as many were looked
    at as may be. What may be bought is looked at from where the box alone leads, so that it is never worse,
    and half as long. stands: called with what is settled by the closed forms, with what one proposal after the other
    leads to from there, before the search is wide, and with what is better then.
    """
    best = tries.base
    yield best
    try:
        for purchases in sorted({0, tries.wish.purchases}):
            tries.purchases, tries.most = purchases, tries.looked + tries.share // (2 if purchases else 1)
            for better in _searched(tries, best, stands):
                best = better
                yield best
        if tries.bound:
            tries.most = tries.looked + tries.share // 2
            for better in itertools.chain(_from_beyond(tries, best), _spent_otherwise(tries, best)):
                best = min(best, better, key=lambda t: t.key)
                yield best
    except Spent:
        best = min([best, *itertools.islice(tries.every(), 1)], key=lambda t: t.key)
    yield shrunk(tries, best)


def _from_beyond(tries: Tries, best: Tried) -> Iterator[Tried]:
    """Better setups within the limits, from what would be done without them: the way to the best three steps may lead
    over seven. Raises Spent.
    """
    tries.beyond = True
    try:
        at = best
        for better in carried(tries, best):
            at = better
        tries.most = max(tries.most, tries.looked + MORE)
        while not tries.within(at.changes, at.cost):
            less = a_step_less(tries, at)
            if less is None:
                return
            at = less
    finally:
        tries.beyond = False
    if at.key < best.key:
        yield at
        yield from carried(tries, at)


def a_step_less(tries: Tries, at: Tried) -> Tried | None:
    """The best with one step of it put back; None where none holds. Raises Spent."""
    looked = (without(tries, at, (c.tunable for c in group)) for group in groups(at))
    return min((t for t in looked if t is not None), key=lambda t: t.key, default=None)


def _spent_otherwise(tries: Tries, best: Tried) -> Iterator[Tried]:
    """Better setups, each without one of the things that take the most of what is short: what is dear may stand in the
    way of several that are cheap.
    """
    may = tries.may
    for tunable in dear(tries, best)[:DETOURS]:
        start = next((t for t in tries.every() if all(c.tunable != tunable for c in t.changes)), None)
        if start is None:
            continue
        tries.may, tries.most = tuple(t for t in may if t != tunable), tries.looked + tries.share
        try:
            for better in carried(tries, start):
                if better.key < best.key:
                    best = better
                    yield best
        finally:
            tries.may = may


def dear(tries: Tries, at: Tried) -> list[str]:
    """What takes a good part of the money or of the hours that there are, the dearest first."""
    wish, found = tries.wish, dict[str, float]()
    for c in at.changes:
        money = 0.0 if not wish.money else (c.cost or 0.0) / wish.money
        hours = 0.0 if not wish.work_s else work_s(tries.inputs, {c.tunable: c.after}) / wish.work_s
        if max(money, hours) >= DEAR:
            found[c.tunable] = max(money, hours)
    return sorted(found, key=lambda t: (-found[t], t))


def groups(at: Tried) -> list[tuple[Change, ...]]:
    """Changes by step, in the order of work."""
    of = {c.tunable: c for c in at.changes}
    partner = {second for first, second in TOGETHER.items() if first in of}
    found = [
        (change, *([of[TOGETHER[t]]] if TOGETHER.get(t) in of else []))
        for t, change in of.items()
        if t not in partner and not passing_of(t)
    ]
    stops = tuple(change for t, change in of.items() if passing_of(t))
    found += [stops] if stops else []
    inside = {t: i for place in PLACES for i, t in enumerate(place.each_s)}
    return sorted(found, key=lambda g: (ORDER[place_of(g[0].tunable)], inside.get(g[0].tunable, 0), g[0].tunable))


def carried(tries: Tries, start: Tried) -> Iterator[Tried]:
    """Better and better setups from one that was looked at, as long as setups may be looked at."""
    try:
        yield from _searched(tries, start)
    except Spent:
        return


def kept(tries: Tries, best: Tried, before: Setup) -> Tried:
    """The setup that was planned before, as long as no level is better without it and hardly anything is less sure: a
    plan that half the work was done for does not turn with every reading.
    """
    tries.most, tries.purchases = tries.looked + 1, tries.wish.purchases
    old = tries.look(before)
    stays = old is not None and old.levels.key <= best.levels.key and old.risk < best.risk + SHARPEN
    return old if old is not None and stays else best


def _searched(tries: Tries, start: Tried, stands: Stands | None = None) -> Iterator[Tried]:
    """Better and better setups from one that was looked at. Raises Spent."""
    front = [start]
    for better in _climbed(tries, start):
        front.insert(0, better)
        if stands is not None and len(front) == 2:
            stands(better)
        yield better
    best, front = front[0], [*front[:1], *front[-2:]]
    if stands is not None and best is not start:
        stands(best)  # known already where nothing came after the settling
    ways: tuple[Way, ...] = (near, notches)
    done = {way: set[int]() for way in ways}
    for _round in range(ROUNDS):
        for way in ways:
            # the many notches only once nothing that is proposed does better
            front = _carried_on(tries, front, way, done[way])
            if front[0].key < best.key:
                break
        if front[0].key >= best.key:
            return
        best = front[0]
        if stands is not None:
            stands(best)
        yield best


def _climbed(tries: Tries, at: Tried) -> Iterator[Tried]:
    """Settled, then one proposal after the other taken that does better, as one would by hand: the first answer. Raises
    Spent.
    """
    found = tries.look(settled(tries, at.setup))
    while found is not None:
        if found.key < at.key:
            at = found
            yield at
        found = next((t for s in near(tries, at) if (t := tries.look(s, than=at)) is not None and t.key < at.key), None)


def _carried_on(tries: Tries, front: list[Tried], way: Way, done: set[int]) -> list[Tried]:
    """The best of a front and of what can be reached from it this way. done: those that were gone on from."""
    kept = {t.key: t for t in front}
    for at in front:
        if id(at) in done:
            continue
        done.add(id(at))
        for setup in way(tries, at):
            ranked = sorted(kept)
            found = tries.look(setup, than=kept[ranked[BEAM - 1]] if len(ranked) >= BEAM else None)
            if found is not None:
                kept[found.key] = found
    return [kept[k] for k in sorted(kept)[:BEAM]]


def without(tries: Tries, at: Tried, dropped: Iterable[str]) -> Tried | None:
    """A setup with some of its changes put back; None where that is refused. Raises Spent."""
    gone = set(dropped)
    back = [Move(tunable=c.tunable, value=c.before) for c in at.changes if c.tunable in gone]
    return tries.look(moved(at.setup, back))


def shrunk(tries: Tries, best: Tried, *, at_once: int = 2) -> Tried:
    """Changes, then pairs of them, put back as long as no level hurts and the risk hardly does. at_once: how many."""
    tries.most = tries.looked + MORE
    try:
        while True:
            better: Tried | None = None
            for size in range(1, at_once + 1):
                for gone in itertools.combinations(best.changes, size):
                    found = without(tries, best, (c.tunable for c in gone))
                    if found is None:
                        continue
                    spared = found.levels.key <= best.levels.key and found.risk < best.risk + SHARPEN * size
                    if (spared or found.key < best.key) and (better is None or found.key < better.key):
                        better = found
                if better is not None:
                    break
            if better is None:
                return best
            best = better
    except Spent:
        return best
