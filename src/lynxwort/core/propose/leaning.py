"""Whether a plan leans the engine: against the pair that ran right itself, in every range of the throttle."""

from dataclasses import dataclass

from lynxwort.core.judging import LEAN_MARGINS, leaned
from lynxwort.core.physics.fuelling.leanness import RangeLimit, leans
from lynxwort.core.physics.fuelling.richness import RICH_LOOK
from lynxwort.core.report import Report
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import curves_of, ends_of, limits_of


@dataclass(frozen=True, slots=True, kw_only=True)
class LeanEnds:
    """Least low end [1] of each range over the race's airs, empty without a proven setting, and what holds in each."""

    ends: dict[str, float]
    limits: tuple[RangeLimit, ...]


def lean_ends(given: FuellingInput) -> LeanEnds:
    """Those of a setup."""
    ends = ends_of(given)
    return LeanEnds(ends=ends, limits=limits_of(given) if ends else ())


@dataclass(frozen=True, slots=True, kw_only=True)
class Apart:
    """Why no one setting is neither too lean nor too rich. air_share: by how much more [1] the mixture is at full
    throttle in the thinnest air than its lean end where it is leanest; allowed_share: by how much it might be.
    """

    air_share: float
    allowed_share: float


def apart(given: FuellingInput) -> Apart | None:
    """What the air, with what is not known of the mixture, does to it at full throttle, where that is more than lies
    between too lean and too rich; else None.

    There a jet, needle, rod, trim, knob, oil or another fuel is one factor on the mixture in every air. So it moves
    both ends alike, and their ratio stays (air_effect and step_effect of physics.fuelling.richness are factors).
    """
    curves, thin = curves_of(given), given.richness.thinnest
    if thin is None or given.mixture.map_ratios(given.setup):
        return None  # whoever switches maps has more than one setting
    full = next(r for r in limits_of(given) if r.name == "full")
    air = (1.0 + float(thin.value[-1])) / (1.0 + min(float(c.low[-1]) for c in curves)) - 1.0
    allowed = (1.0 + RICH_LOOK) / (1.0 + full.look) - 1.0
    return Apart(air_share=air, allowed_share=allowed) if air > allowed else None


def is_leaner(before: Report, after: Report) -> bool:
    """Whether some range is leaner than it was, and than its limit or than the pair that ran right: a four-stroke's
    limit at full lift lies below its pair, and a plan does not use that. What was known and is not any more counts too.
    """
    unknown = any(before.value(n) is not None and after.value(n) is None for n in LEAN_MARGINS)
    was, now = before.ask(lean_ends), after.ask(lean_ends)
    return unknown or leaned(before, after) or bool(was.ends and leans(was.ends, now.ends, now.limits))
