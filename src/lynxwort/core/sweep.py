"""The sprocket table: what each pair one owns, or could buy, would do on this race.

In tight ground a table sorted by lap time alone recommends tall gearing falsely, so there is no best: near-equals are
marked, and a pair is proposed only when it mends something named (metres that do not pull, time against the limiter)
beyond that figure's own uncertainty.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from lynxwort.core.cache import StageCache
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.report import Report
from lynxwort.core.stations.range.chance import NAMES
from lynxwort.core.stations.range.view import store
from lynxwort.core.tunables import is_owned

#: lap times within this share of the shortest are near-equal (HANDBOOK 4); share of a lap against the limiter worth
#: mending (assumption)
NEAR_EQUAL = 0.003
LIMITER_SHARE = 0.01
MOST = 40
FRONT, REAR = "front_sprocket_teeth", "rear_sprocket_teeth"


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """One pair of sprockets. owned: both in the box or on the bike; values: figure -> value in SI, None where it does
    not apply.
    """

    front: int
    rear: int
    owned: bool
    kept: bool
    values: dict[str, float | None]

    @property
    def ratio(self) -> float:
        return self.rear / self.front


def columns(kind: str) -> tuple[str, ...]:
    """Figures of the table, by the kind of store: "fuel" or "energy"."""
    return (
        "drive.top_speed",
        "drive.crawl_speed",
        "drive.metres_short",
        "drive.time_at_limiter",
        "drive.time_over_shake",
        "drive.clutch_energy",
        "drive.shifts",
        NAMES[kind][0],
        "drive.lap_time",
    )


def meets(row: Row, top_m_per_s: float | None, shaking_s: float | None) -> bool:
    """Whether a pair is as wished: at least this top speed, at most so long a lap above the revs from which it shakes;
    None: not wished. Never without a wish, nor where what was wished is unknown.
    """
    top, shakes = row.values.get("drive.top_speed"), row.values.get("drive.time_over_shake")
    fast = top_m_per_s is None or (top is not None and top >= top_m_per_s)
    calm = shaking_s is None or (shakes is not None and shakes <= shaking_s)
    return fast and calm and (top_m_per_s is not None or shaking_s is not None)


def combinations(inputs: Inputs) -> list[tuple[int, int]]:
    """Pairs to try, owned ones first, then the nearest to buy; at most MOST. The pair on the bike is among them."""
    setup, parts = inputs.setup, inputs.parts
    now = (setup.front_sprocket_teeth, setup.rear_sprocket_teeth)

    def reach(tunable: str, centre: int, width: int) -> set[int]:
        facts = field_facts(Setup, tunable)
        near = {z for z in range(centre - width, centre + width + 1) if (facts.low or 0) <= z <= (facts.high or 0)}
        return near | {round(v) for v in parts.owned(tunable)}

    pairs = {(f, r) for f in reach(FRONT, now[0], 1) for r in reach(REAR, now[1], 4)}

    def order(pair: tuple[int, int]) -> tuple[bool, bool, float]:
        return pair != now, not _owned(inputs, *pair), abs(pair[1] / pair[0] - now[1] / now[0])

    return sorted(pairs, key=order)[:MOST]


def _owned(inputs: Inputs, front: int, rear: int) -> bool:
    """Whether both lie in the box or sit on the bike."""
    setup, parts = inputs.setup, inputs.parts
    return (front == setup.front_sprocket_teeth or bool(is_owned(parts, FRONT, front))) and (
        rear == setup.rear_sprocket_teeth or bool(is_owned(parts, REAR, rear))
    )


def sweep(inputs: Inputs, cache: StageCache | None = None) -> Iterator[Row]:
    """The rows one by one, the pair on the bike first. Raises InputRefused."""
    cache = cache or StageCache()
    now = (inputs.setup.front_sprocket_teeth, inputs.setup.rear_sprocket_teeth)
    for front, rear in combinations(inputs):
        setup = inputs.setup.model_copy(update={FRONT: front, REAR: rear})
        report = evaluate(inputs.model_copy(update={"setup": setup}), cache=cache)
        values = {name: report.value(name) for name in columns(report.ask(store).kind)}
        yield Row(front=front, rear=rear, owned=_owned(inputs, front, rear), kept=(front, rear) == now, values=values)


def near_equal(rows: Sequence[Row]) -> set[tuple[int, int]]:
    """Pairs whose lap time is near-equal to the shortest."""
    times = {(r.front, r.rear): r.values["drive.lap_time"] or 0.0 for r in rows}
    least = min(times.values(), default=0.0)
    return {pair for pair, time in times.items() if time <= least * (1.0 + NEAR_EQUAL)}


def equal_ratios(rows: Sequence[Row]) -> dict[tuple[int, int], list[tuple[int, int]]]:
    """Pairs of the very same ratio; they differ in chain, clearance, wear and chain pull."""
    groups: dict[Fraction, list[tuple[int, int]]] = {}
    for row in rows:
        groups.setdefault(Fraction(row.rear, row.front), []).append((row.front, row.rear))
    return {pair: [p for p in group if p != pair] for group in groups.values() for pair in group if len(group) > 1}


def proposal(rows: Sequence[Row], report: Report) -> Row | None:
    """The smallest change that mends something named beyond its uncertainty, the box first; None when nothing does. Lap
    time is never a reason.

    report: of the pair on the bike, whose interval of metres short counts (3 m when it is not known yet).
    """
    kept = next(r for r in rows if r.kept)
    short = report.figures["drive.metres_short"]
    spread = max(3.0, 0.5 * ((short.high or 0.0) - (short.low or 0.0)) if short.high is not None else 0.0)
    time = kept.values["drive.lap_time"] or 0.0

    def gain(row: Row, name: str) -> float:
        return (kept.values[name] or 0.0) - (row.values[name] or 0.0)

    def mends(row: Row) -> bool:
        if gain(row, "drive.metres_short") > spread:
            return True
        return gain(row, "drive.time_at_limiter") > LIMITER_SHARE * time and gain(row, "drive.metres_short") > -3.0

    able = [r for r in rows if not r.kept and mends(r)]
    return min(
        able,
        key=lambda r: (not r.owned, -gain(r, "drive.metres_short") > -3.0, abs(r.ratio - kept.ratio)),
        default=None,
    )


def schools(rows: Sequence[Row]) -> dict[str, Row]:
    """Keep, the next shorter gearing and the next taller one, side by side."""
    kept = next(r for r in rows if r.kept)
    step = 0.9 / kept.front
    shorter = [r for r in rows if r.ratio > kept.ratio + step]
    taller = [r for r in rows if r.ratio < kept.ratio - step]
    found = {"keep": kept}
    if shorter:
        found["down"] = min(shorter, key=lambda r: (not r.owned, r.ratio))
    if taller:
        found["up"] = min(taller, key=lambda r: (not r.owned, -r.ratio))
    return found
