"""How lean is too lean, range by range of the throttle: an engine is not safe because its top half is.

From half lift up a two-stroke never runs leaner than the pair that ran right, and richer where full throttle is held
longer than it was proven for. Below half lift the pair is the limit too, but small misses are only looked at: 2 % is 12
K, every dawn, while a pilot size is 12 to 15 %; a lean pilot hangs, stalls, and overheats on long descents. All
thresholds: assumption, editable.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.fuelling.richness import LIFT_POINTS, RichnessCurve

Array = NDArray[np.float64]
Severity = Literal["ok", "look", "act"]
EPSILON = 1e-9
#: held full throttle of a two-stroke: seconds beyond which, richness wanted
TWO_STROKE_LIMITS = ((20.0, 0.04), (8.0, 0.02), (0.0, 0.0))
FOUR_STROKE_LIMIT, FOUR_STROKE_ACT = -0.02, -0.04
#: look and act below half lift: throttle hardly open, and from an eighth up
CLOSED_LOOK, CLOSED_ACT, LOW_LOOK, LOW_ACT = -0.04, -0.08, -0.02, -0.05
#: the ranges that riders and jets speak of, with the openings between which they lie [1]
RANGES = (
    ("closed", 0.0, 0.125),
    ("eighth", 0.125, 0.25),
    ("quarter", 0.25, 0.5),
    ("half", 0.5, 0.75),
    ("full", 0.75, 1.0),
)
NAMES = tuple(name for name, _low, _high in RANGES)
UPPER, LOWER = ("half", "full"), ("closed", "eighth", "quarter")


@dataclass(frozen=True, slots=True, kw_only=True)
class RangeLimit:
    """One range. low, high: its openings [1]; limit: what its margin is measured against; wanted: what a proposal
    keeps, never under the pair; look, act: lean ends below which it is to look at, to act on; all [1 of richness].
    """

    name: str
    low: float
    high: float
    limit: float
    wanted: float
    look: float
    act: float

    def severity(self, lean_end: float) -> Severity:
        """What a lean end [1] of this range is."""
        return "act" if lean_end < self.act - EPSILON else "look" if lean_end < self.look - EPSILON else "ok"


def lean_limit(two_stroke: bool, longest_full_throttle_s: float, proven_full_throttle_s: float | None = None) -> float:
    """Least richness allowed on the lean end from half lift up [1]. Two-strokes: richer where full throttle is held
    longer [s] than the pair was proven with [s].
    """
    if not two_stroke:
        return FOUR_STROKE_LIMIT
    held = (
        0.0
        if proven_full_throttle_s is not None and longest_full_throttle_s <= proven_full_throttle_s + EPSILON
        else longest_full_throttle_s
    )
    return next(limit for seconds, limit in TWO_STROKE_LIMITS if held > seconds or seconds == 0.0)


def range_limits(two_stroke: bool, limit: float) -> tuple[RangeLimit, ...]:
    """The ranges with what holds in each. limit: of lean_limit [1]."""

    def one(name: str, low: float, high: float) -> RangeLimit:
        if name in UPPER:
            act = limit if two_stroke else FOUR_STROKE_ACT
            return RangeLimit(name=name, low=low, high=high, limit=limit, wanted=max(limit, 0.0), look=limit, act=act)
        look, act = (CLOSED_LOOK, CLOSED_ACT) if name == "closed" else (LOW_LOOK, LOW_ACT)
        return RangeLimit(name=name, low=low, high=high, limit=0.0, wanted=0.0, look=look, act=act)

    return tuple(one(*r) for r in RANGES)


#: openings at which every curve is told, and which of them lie in each range, its ends counted
GRID = np.linspace(0.0, 1.0, LIFT_POINTS)
WITHIN = {
    name: slice(int(np.searchsorted(GRID, low - EPSILON)), int(np.searchsorted(GRID, high + EPSILON)))
    for name, low, high in RANGES
}


def over_grid(limits: Sequence[RangeLimit], which: str) -> Array:
    """One of a range's values ("limit", "wanted", "look") at each opening of the curves' grid [1]; where two ranges
    meet the stricter holds.
    """
    made = np.full(GRID.size, -np.inf)
    for item in limits:
        inside = WITHIN[item.name]
        made[inside] = np.maximum(made[inside], getattr(item, which))
    return made


def ends_of_lows(lows: Array, limits: Sequence[RangeLimit]) -> dict[str, Array]:
    """Least of low ends [1] on the curves' grid within each range; lows: shape (..., throttle)."""
    return {r.name: lows[..., WITHIN[r.name]].min(axis=-1) for r in limits}


def lean_end(curves: Sequence[RichnessCurve], item: RangeLimit) -> float:
    """Least low end [1] over several airs within a range."""
    return min(float(c.low[WITHIN[item.name]].min()) for c in curves)


def leanest_at(curves: Sequence[RichnessCurve], item: RangeLimit) -> float:
    """Opening [1] at which a range is leanest, the widest of equals."""
    inside = WITHIN[item.name]
    low = np.minimum.reduce([c.low[inside] for c in curves])
    return float(GRID[inside][np.flatnonzero(low <= low.min() + 1e-6)[-1]])


def lean_ends(curves: Sequence[RichnessCurve], limits: Sequence[RangeLimit]) -> dict[str, float]:
    """Least low end [1] of each range."""
    return {r.name: lean_end(curves, r) for r in limits}


def leans(before: dict[str, float], after: dict[str, float], limits: Sequence[RangeLimit]) -> bool:
    """Whether a change leans some range below what is wanted there: lean ends [1] before and after, by range."""
    return any(after[r.name] < min(r.wanted, before[r.name]) - EPSILON for r in limits)
