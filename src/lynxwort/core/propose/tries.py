"""Setups looked at for a plan: each judged whole, once, by what a notch is judged by; refused where it leans or costs
too much.
"""

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, replace
from functools import cached_property

from pydantic import ValidationError

from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import ALL, evaluate
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.leaning import is_leaner
from lynxwort.core.propose.levels import Levels, levels_of, loud, risk
from lynxwort.core.propose.liking import aimed, fitted_by, minded
from lynxwort.core.propose.wish import Wish
from lynxwort.core.propose.work import MINUTE_S, is_workable, may_buy, owned, price, steps_in, work_s
from lynxwort.core.report import Finding, Report
from lynxwort.core.stations.chassis.springs import RATE_FIELD, measured_sag
from lynxwort.core.stations.range.passings import passings_in
from lynxwort.core.tunables import TUNABLES, is_of_mixture, item_of, said_value, stop_tunable, tunables_of

#: stations that go along the heat, and that ride over the bumps as well: looked at one after the other, and only where
#: the others leave a setup among the best
LATE = (frozenset({"damping", "kit"}), frozenset({"damping"}))
#: the one rate of exchange, at the last level alone: what an expected finding, a part that is bought and a change are
#: worth in work [s] (assumption)
FINDING_S, PURCHASE_S, CHANGE_S = 45.0 * MINUTE_S, 30.0 * MINUTE_S, MINUTE_S


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One thing moved, against the setup as it stood. owned: in the box; None when no part is needed; cost: price of
    what is bought, where it was said.
    """

    tunable: str
    before: float
    after: float
    owned: bool | None
    cost: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Cost:
    """What it takes to come to a setup: work [s], money for items and parts whose price was said, parts to buy, and how
    many of those have no price.
    """

    work_s: float
    money: float
    purchases: int
    unpriced: int


@dataclass(frozen=True, kw_only=True)
class Tried:
    """A setup as it turned out. changes: against the setup as it stood; leaner: whether it is, and so refused."""

    setup: Setup
    report: Report
    levels: Levels
    risk: float
    changes: tuple[Change, ...]
    cost: Cost
    leaner: bool

    @cached_property
    def key(self) -> tuple[object, ...]:
        """To compare by, smaller is better: the levels, then risk against work; the setup itself when all is even."""
        last = (
            self.risk * FINDING_S
            + self.cost.work_s
            + self.cost.purchases * PURCHASE_S
            + steps_in(c.tunable for c in self.changes) * CHANGE_S
        )
        moved = tuple((c.tunable, round(c.after, 9)) for c in self.changes)
        return (*self.levels.key, round(last, 3), len(self.changes), moved)


class Spent(Exception):
    """As many setups were looked at as may be."""


class Tries:
    """All setups that were looked at. base: as it stands, and whole: its report with what stands behind it; may: what
    may be moved, in the order of the stations.
    """

    def __init__(
        self,
        inputs: Inputs,
        wish: Wish,
        *,
        cache: StageCache,
        sensitivities: Mapping[str, tuple[float, float]],
        most: int,
        beat: Callable[[int], None],
    ) -> None:
        self.inputs, self.wish, self.cache, self._sensitivities = inputs, wish, cache, sensitivities
        self.share, self.most, self._beat, self.looked = most, most, beat, 0
        #: parts that may be bought in what is looked at now: the box comes first
        self.purchases = 0
        #: whether what takes more steps, hours or money than may be is looked at too; whether some of it was refused
        self.beyond = self.bound = False
        self._minded, self._fits = minded(wish), dict[str, tuple[float, float]]()
        self._known: dict[tuple[object, ...], Tried | None] = {}
        #: least levels of those that were not looked at to the end
        self._beaten: dict[tuple[object, ...], tuple[int, ...]] = {}
        self.whole = self.report_of(inputs.setup, ALL)
        self._fits = self.whole.ask(fitted_by, wish.school)
        passings = self.whole.ask(passings_in) if inputs.setup.stops is not None else 0
        self._tunables = (*tunables_of(inputs.bike), *(stop_tunable(n + 1) for n in range(passings)))
        base = self._judged(inputs.setup, (), None)
        assert base is not None
        self.base = self._known[self._sign(inputs.setup)] = base
        self.may = tuple(t for t in self._tunables if self._may(t))

    def _may(self, tunable: str) -> bool:
        """Whether a plan may move it. Nothing of a station that a failed check left without a verdict; what feeds an
        engine only where something ran right that it can be judged against; a spring only once a sag of its end was
        measured.
        """
        leave, marker, figures = self.wish.leave, TUNABLES[tunable], self.whole.figures
        if not is_workable(tunable) or tunable in leave or marker.station in leave:
            return False
        if marker.station in self.whole.not_judged or any(figures[n].withheld for n in marker.shows if n in figures):
            return False
        if is_of_mixture(tunable):
            lean = figures["fuelling.lean_margin_min"]
            return lean.value is not None and not lean.withheld
        end = next((e for e, field in RATE_FIELD.items() if field == tunable), None)
        if end is not None:
            return self.whole.ask(measured_sag, end)
        return bool(item_of(tunable)) or said_value(self.inputs.setup, tunable) is not None

    def _sign(self, setup: Setup) -> tuple[object, ...]:
        return tuple(said_value(setup, t) for t in self._tunables)

    def changes(self, setup: Setup) -> tuple[Change, ...]:
        """What differs from the setup as it stood."""
        found = []
        for tunable in self._tunables:
            before, after = said_value(self.inputs.setup, tunable), said_value(setup, tunable)
            if before is None or after is None or abs(after - before) <= 1e-9 * max(1.0, abs(before)):
                continue
            has = owned(self.inputs.parts, tunable, after)
            cost = price(self.inputs, tunable, after)
            found.append(Change(tunable=tunable, before=before, after=after, owned=has, cost=cost))
        return tuple(found)

    def cost(self, changes: tuple[Change, ...]) -> Cost:
        """What changes take."""
        bought = [c for c in changes if c.owned is False]
        return Cost(
            work_s=work_s(self.inputs, {c.tunable: c.after for c in changes}),
            money=sum(c.cost or 0.0 for c in changes),
            purchases=len(bought),
            unpriced=sum(c.cost is None for c in bought),
        )

    def _allowed(self, changes: tuple[Change, ...], cost: Cost) -> bool:
        can = (
            all(c.tunable in self.may for c in changes)
            and cost.purchases <= self.purchases
            and all(may_buy(self.inputs.parts, c.tunable, c.after) for c in changes if c.owned is False)
        )
        within = self.within(changes, cost)
        self.bound = self.bound or (can and not within)
        return can and (within or self.beyond)

    def within(self, changes: tuple[Change, ...], cost: Cost) -> bool:
        """Whether it takes no more steps, money and hours than may be."""
        wish = self.wish
        return (
            steps_in(c.tunable for c in changes) <= wish.changes
            and (wish.money is None or (cost.money <= wish.money + 1e-6 and not cost.unpriced))
            and (wish.work_s is None or cost.work_s <= wish.work_s + 1e-6)
        )

    def look(self, setup: Setup, *, than: Tried | None = None) -> Tried | None:
        """A setup as it turns out; None where it is refused: by the model, beyond the wish, leaner in some range of the
        throttle than as it stands and than its limit. than: where it cannot come before this one it is not looked at
        to the end, and None too. Raises Spent.
        """
        sign = self._sign(setup)
        if sign in self._known:
            known = self._known[sign]
            return known if known is None or self.beyond or self.within(known.changes, known.cost) else None
        if than is not None and self._beaten.get(sign, ()) > than.levels.key:
            return None
        changes = self.changes(setup)
        cost = self.cost(changes)
        if not self._allowed(changes, cost) or setup_misfit(self.inputs.bike, setup):
            return None
        if self.looked >= self.most:
            raise Spent
        self.looked += 1
        self._beat(self.looked)
        try:
            found = self._judged(setup, changes, than)
        except (InputRefused, ValidationError):
            self._known[sign] = None
            return None
        if found is not None:
            self._known[sign] = None if found.leaner else found
        return None if found is None or found.leaner else found

    def _judged(self, setup: Setup, changes: tuple[Change, ...], than: Tried | None) -> Tried | None:
        cost = self.cost(changes)
        if than is not None:
            for pending in LATE:
                # what is pending can only add to the levels
                least = levels_of(self.report_of(setup, ALL - pending), self._minded).key
                if least > than.levels.key:
                    self._beaten[self._sign(setup)] = least
                    return None
        report = self.report_of(setup, ALL)
        return Tried(
            setup=setup, report=replace(report, behind=None), levels=levels_of(report, self._minded),
            risk=risk(report, self.aims(report)), changes=changes, cost=cost,
            leaner=is_leaner(self.whole, report),
        )  # fmt: skip

    def aims(self, report: Report) -> dict[str, tuple[float, float]]:
        """Bands in which figures should lie for this rider: of sags, and of springs by his school."""
        return aimed(report.bands, self.wish) | self._fits

    def said(self, tried: Tried) -> tuple[Finding, ...]:
        """What asks for something there, with what would cure it."""
        return loud(self.report_of(tried.setup, ALL, explain=True).findings)

    def report_of(self, setup: Setup, need: frozenset[str], *, explain: bool = False) -> Report:
        """A setup judged by some stations. Raises InputRefused."""
        return evaluate(
            self.inputs.model_copy(update={"setup": setup}),
            cache=self.cache, sensitivities=self._sensitivities, need=need, explain=explain,
        )  # fmt: skip

    @contextmanager
    def aside(self) -> Iterator[None]:
        """What is looked at within leaves no trace: the search goes on as if nothing had been, with as many setups."""
        kept = self.looked, self.most, self.bound, dict(self._known), dict(self._beaten)
        try:
            yield
        finally:
            self.looked, self.most, self.bound, self._known, self._beaten = kept

    def every(self) -> Iterator[Tried]:
        """Those that hold within the limits, as they stand among one another."""
        held = (t for t in self._known.values() if t is not None and self.within(t.changes, t.cost))
        return iter(sorted(held, key=lambda t: t.key))
