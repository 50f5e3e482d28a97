"""Whether a plan leans the engine: against the pair that ran right itself, in every range of the throttle."""

from dataclasses import dataclass

from lynxwort.core.judging import LEAN_MARGINS, leaned
from lynxwort.core.physics.fuelling.leanness import RangeLimit, leans
from lynxwort.core.report import Report
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import ends_of, limits_of


@dataclass(frozen=True, slots=True, kw_only=True)
class LeanEnds:
    """Least low end [1] of each range over the race's airs, empty without a proven setting, and what holds in each."""

    ends: dict[str, float]
    limits: tuple[RangeLimit, ...]


def lean_ends(given: FuellingInput) -> LeanEnds:
    """Those of a setup."""
    ends = ends_of(given)
    return LeanEnds(ends=ends, limits=limits_of(given) if ends else ())


def is_leaner(before: Report, after: Report) -> bool:
    """Whether some range is leaner than it was, and than its limit or than the pair that ran right: a four-stroke's
    limit at full lift lies below its pair, and a plan does not use that. What was known and is not any more counts too.
    """
    unknown = any(before.value(n) is not None and after.value(n) is None for n in LEAN_MARGINS)
    was, now = before.ask(lean_ends), after.ask(lean_ends)
    return unknown or leaned(before, after) or bool(was.ends and leans(was.ends, now.ends, now.limits))
