"""One plan across all stations: the shortest list of changes found that leaves least to say, in the order of work, none
of which leans the engine on the way.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace

from pydantic import ValidationError

from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import ALL, evaluate
from lynxwort.core.judging import Consequence, consequences
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.leaning import Apart, apart, is_leaner
from lynxwort.core.propose.levels import Levels, is_elsewhere, loud
from lynxwort.core.propose.search import a_step_less, best_of, groups, kept, shrunk, without
from lynxwort.core.propose.single import RICH, grade, key_of, moved
from lynxwort.core.propose.tries import Change, Cost, Spent, Tried, Tries
from lynxwort.core.propose.wish import Wish
from lynxwort.core.propose.work import ORDER, place_of, steps_in, work_s
from lynxwort.core.report import Finding, Move, Report

#: setups that are looked at for a plan
MOST = 500
#: whole plans that are told while a better one is looked for
FIRST = 2
Beat = Callable[[int, "Tried | None"], None]


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """What is done at one place of the bike. place: see work.PLACES; work_s: alone [s]; settles: findings that come
    back, or grow worse, without it; worse: figures that are worse with it; needed: it cannot be left out alone, since
    what remains does not fit or leans; waits: it comes after what is usually done later, since before it would lean.
    """

    place: str
    changes: tuple[Change, ...]
    work_s: float
    settles: tuple[Finding, ...]
    worse: tuple[Consequence, ...]
    needed: bool
    waits: bool = False

    @property
    def tunables(self) -> tuple[str, ...]:
        return tuple(c.tunable for c in self.changes)


@dataclass(frozen=True, slots=True, kw_only=True)
class Alternative:
    """Another way that was looked at: the best in so many steps, or with nothing bought."""

    steps: int
    changes: tuple[Change, ...]
    cost: Cost
    levels: Levels


@dataclass(frozen=True, slots=True, kw_only=True)
class GivenUp:
    """What a finding that is left would cost. instead: what would be said then, or be graver, in the best setup in
    which it is not said; None where no setup that was looked at is without it. shown: for too rich and too lean, what
    shows that no setting whatever is without both; None where nothing does.
    """

    finding: Finding
    instead: tuple[Finding, ...] | None
    shown: Apart | None = None


@dataclass(frozen=True, kw_only=True)
class Plan:
    """before, after: levels of the setup as it stands and with all steps; settled: findings that are gone then, left:
    those that are not, new: those that only then are there; given_up: of each that is left or new, what it would cost,
    by all that was looked at; shorter: the best found in fewer steps, the fewest first; from_box: the best found
    without buying, where the plan buys; looked: setups looked at; held: whether it is the one that was made
    before, where another would do as well.
    """

    steps: tuple[Step, ...]
    setup: Setup
    cost: Cost
    before: Levels
    after: Levels
    risk_before: float
    risk_after: float
    settled: tuple[Finding, ...]
    left: tuple[Finding, ...]
    new: tuple[Finding, ...]
    given_up: tuple[GivenUp, ...]
    shorter: tuple[Alternative, ...]
    from_box: Alternative | None
    looked: int
    effects: tuple[Consequence, ...]
    held: bool = False

    @property
    def moves(self) -> tuple[Move, ...]:
        """All of it, in the order of work."""
        return tuple(Move(tunable=c.tunable, value=c.after, owned=c.owned) for step in self.steps for c in step.changes)


def propose(
    inputs: Inputs,
    wish: Wish | None = None,
    *,
    cache: StageCache | None = None,
    sensitivities: Mapping[str, tuple[float, float]] | None = None,
    most: int = MOST,
    beat: Beat | None = None,
    first: Callable[["Plan"], None] | None = None,
    before: Sequence[Move] = (),
) -> Plan:
    """The plan for a document. sensitivities: ranges of what rests on the ride, see evaluate; most: setups looked at
    from the box, and half as many with what may be bought; before: moves of a plan that was made before something was
    read or changed, which is held on to as long as it is as good; beat: called at every setup with how many were
    looked at and the best so far, may raise to stop; first: called with a whole plan as soon as there is one, and
    with one that is better once proposals lead no further; the rest of the search is the same without. Raises
    InputRefused where the setup as it stands cannot be judged.
    """
    found: list[Tried] = []
    most_looked = 0

    def beaten(looked: int) -> None:
        nonlocal most_looked
        most_looked = max(looked, most_looked)
        if beat is not None:
            beat(most_looked, found[-1] if found else None)

    tries = Tries(
        inputs, wish or Wish.model_validate({}),
        cache=cache or StageCache(size=400), sensitivities=sensitivities or {}, most=most, beat=beaten,
    )  # fmt: skip
    told: list[Tried] = []

    def stands(at: Tried) -> None:
        if first is None or len(told) >= FIRST or any(t is at for t in told):
            return
        with tries.aside():
            whole = planned(tries, shrunk(tries, at, at_once=1), thin=False)
        if whole.steps:
            told.append(at)
            first(whole)

    for better in best_of(tries, stands=stands):
        found.append(better)
    best = found[-1]
    try:
        held = kept(tries, best, moved(inputs.setup, before)) if before else best
    except (InputRefused, ValidationError):
        held = best
    return replace(planned(tries, held), held=held is not best)


def leans(before: Report, inputs: Inputs, moves: Iterable[Move], cache: StageCache) -> bool:
    """Whether some of a plan's moves alone would leave a range of the throttle leaner than it is, and than its limit.
    Raises InputRefused, pydantic's ValidationError.
    """
    setup = moved(inputs.setup, moves)
    after = evaluate(inputs.model_copy(update={"setup": setup}), cache=cache, need={"fuelling.figures"}, explain=False)
    return is_leaner(before, after)


def by_place(inputs: Inputs, moves: Iterable[Move]) -> dict[str, tuple[tuple[str, ...], float]]:
    """What is moved at each place of the bike, and how long all of it takes there, the place opened once [s]."""
    found: dict[str, dict[str, float]] = {}
    for m in moves:
        found.setdefault(place_of(m.tunable), {})[m.tunable] = m.value
    return {place: (tuple(moved_), work_s(inputs, moved_)) for place, moved_ in found.items()}


def planned(tries: Tries, best: Tried, *, thin: bool = True) -> Plan:
    """The steps to a setup that was found, in their order, with what each is for. thin: shorter ways are looked for."""
    tries.most = tries.looked + (len(best.changes) + 4) ** 2
    base = tries.base
    steps = _told_order(_step(tries, best, changes) for changes in _ordered(tries, best))
    gone, left, new = _compared(tries.said(base), tries.said(best))
    if thin:
        _thinned(tries, best)
    every = [t for t in tries.every() if t.changes]
    return Plan(
        steps=steps, setup=best.setup, cost=best.cost, before=base.levels, after=best.levels, risk_before=base.risk,
        risk_after=best.risk, settled=gone, left=left, new=new,
        given_up=tuple(_given_up(tries, best, every, f) for f in (*new, *left) if not is_elsewhere(f)),
        shorter=_shorter(base, best, every),
        from_box=_from_box(base, best, every),
        looked=tries.looked, effects=tuple(consequences(base.report, best.report)),
    )  # fmt: skip


def _told_order(steps: Iterable[Step]) -> tuple[Step, ...]:
    """Steps, those told that come after one which the order of work has later."""
    told, last = list[Step](), -1
    for step in steps:
        told.append(replace(step, waits=ORDER[step.place] < last))
        last = max(last, ORDER[step.place])
    return tuple(told)


def _given_up(tries: Tries, best: Tried, every: list[Tried], finding: Finding) -> GivenUp:
    """What settling a finding would cost."""
    mine, shown = key_of(finding), None
    if finding.code == RICH or finding.code.startswith("too_lean_"):
        shown = tries.report_of(best.setup, ALL, explain=True).ask(apart)
    without_it = next((t for t in every if all(key_of(f) != mine for f in loud(t.report.findings))), None)
    if without_it is None:
        return GivenUp(finding=finding, instead=None, shown=shown)
    now = {key_of(f): grade(f) for f in tries.said(best)}
    instead = tuple(f for f in tries.said(without_it) if grade(f) > now.get(key_of(f), -1))
    return GivenUp(finding=finding, instead=instead, shown=shown)


Findings = tuple[Finding, ...]


def _compared(before: Findings, after: Findings) -> tuple[Findings, Findings, Findings]:
    """What asks for something: gone, left, new."""
    then, now = ({key_of(f): f for f in findings} for findings in (before, after))
    return (
        tuple(f for k, f in then.items() if k not in now),
        tuple(f for k, f in now.items() if k in then),
        tuple(f for k, f in now.items() if k not in then),
    )


def _alternative(tried: Tried) -> Alternative:
    return Alternative(steps=_long(tried), changes=tried.changes, cost=tried.cost, levels=tried.levels)


def _from_box(base: Tried, best: Tried, every: list[Tried]) -> Alternative | None:
    """The best without buying, where something is bought and that does better than nothing."""
    first = next((t for t in every if not t.cost.purchases), None)
    return _alternative(first) if best.cost.purchases and first and first.levels.key < base.levels.key else None


def _long(tried: Tried) -> int:
    """How many steps it is."""
    return steps_in(c.tunable for c in tried.changes)


def _shorter(base: Tried, best: Tried, every: list[Tried]) -> tuple[Alternative, ...]:
    """In one step, in two, and so on, as long as each does better than those before it."""
    found, least = [], base.levels.key
    for count in range(1, _long(best)):
        first = next((t for t in every if _long(t) == count), None)
        if first is not None and first.levels.key < least:
            found.append(_alternative(first))
            least = first.levels.key
    return tuple(found)


def _thinned(tries: Tries, best: Tried) -> None:
    """Looks at the plan with a step less, at the best of those with one less again, and so on: what is beaten on the
    search's way is not looked at to the end, and a shorter way may be among it.
    """
    at: Tried | None = best
    with suppress(Spent):
        while at is not None and _long(at) > 1:
            at = a_step_less(tries, at)


def _ordered(tries: Tries, best: Tried) -> list[tuple[Change, ...]]:
    """The steps one after the other so that none on the way leans a range below what it was and its limit: what would
    waits for what makes it richer, and is one step with the rest of its place where nothing does.
    """
    left, done, setup = groups(best), list[tuple[Change, ...]](), tries.base.setup
    while left:
        for group in left:
            after = moved(setup, moves_of(group))
            if not is_leaner(tries.whole, tries.report_of(after, frozenset({"fuelling.figures"}))):
                done.append(group)
                left.remove(group)
                setup = after
                break
        else:
            done.append(tuple(c for group in left for c in group))
            break
    return done


def moves_of(changes: tuple[Change, ...]) -> tuple[Move, ...]:
    """Changes as moves."""
    return tuple(Move(tunable=c.tunable, value=c.after, owned=c.owned) for c in changes)


def _step(tries: Tries, best: Tried, changes: tuple[Change, ...]) -> Step:
    """A step with what hangs on it."""
    tunables, takes_s = tuple(c.tunable for c in changes), work_s(tries.inputs, {c.tunable: c.after for c in changes})
    try:
        left_out = without(tries, best, tunables)
    except Spent:
        left_out = None
    settles, worse = tuple[Finding, ...](), tuple[Consequence, ...]()
    if left_out is not None:
        now = {key_of(f): grade(f) for f in tries.said(best)}
        settles = tuple(f for f in tries.said(left_out) if grade(f) > now.get(key_of(f), -1))
        told = consequences(left_out.report, best.report)
        worse = tuple(c for c in told if c.judgement == "worse")
    return Step(
        place=place_of(tunables[0]), changes=changes, work_s=takes_s, settles=settles,
        worse=worse, needed=left_out is None,
    )  # fmt: skip
