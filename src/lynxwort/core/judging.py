"""What one setup does against another: better, worse, even, or only changed."""

from dataclasses import dataclass
from typing import Literal

from lynxwort.core.figures import FIGURES
from lynxwort.core.report import Report

Judgement = Literal["better", "worse", "even", "changed"]


#: what the ledger says first, in this order
HEADLINES = (
    "range.p_finish",
    "fuelling.lean_margin_min",
    "fuelling.lean_margin.closed",
    "fuelling.lean_margin.eighth",
    "fuelling.lean_margin.quarter",
    "drive.metres_short",
    "chassis.rear.race_sag",
    "chassis.front.race_sag",
    "chassis.trail",
    "drive.top_speed",
    "drive.crawl_speed",
    "range.fuel_per_lap",
    "range.energy_per_lap",
    "purpose.schedule_margin_min",
    "drive.lap_time",
    "fuelling.richness_full_thinnest",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Consequence:
    """What a draft does to one figure. judgement: better, worse, even or changed (no better way); half_width: of the
    after value.
    """

    figure: str
    before: float
    after: float
    judgement: Judgement
    half_width: float | None
    basis: str


def _outside_band(report: Report, figure: str, value: float) -> float | None:
    band = report.bands.get(figure)
    return None if band is None else max(band[0] - value, value - band[1], 0.0)


LEAN_MARGINS = tuple(name for name in FIGURES if name.startswith("fuelling.lean_margin."))


def runs_lean(report: Report) -> bool:
    """Whether some range of the throttle stands below its lean limit."""
    return any(
        (f.value or 0.0) < 0.0
        for f in (report.figures.get(n) for n in (*LEAN_MARGINS, "fuelling.lean_margin_min"))
        if f is not None
    )


def leaned(before: Report, after: Report) -> bool:
    """Whether a change took some range of the throttle further below its lean limit."""
    pairs = ((before.figures.get(n), after.figures.get(n)) for n in LEAN_MARGINS)
    return any((b.value or 0.0) < min(a.value or 0.0, 0.0) - 1e-9 for a, b in pairs if a is not None and b is not None)


def still_lean(figure: str, after: float | None) -> bool:
    """Whether a margin is missing still, however much better it became."""
    return after is not None and after < 0.0 and FIGURES[figure].better == "margin"


def _toward_target(before: float, after: float, lean: bool) -> Judgement:
    """Nearer 0 is better; a leaner step is never called so while a range runs below its limit, nor when it passes below
    0 itself.
    """
    if abs(after) >= abs(before):
        return "worse"
    return "changed" if after < before and (lean or after < 0.0) else "better"


def _toward_margin(before: float, after: float) -> Judgement:
    """More margin is better as long as it was missing and is there then; less lean but still lean is not, and once both
    are safe it is another mixture.
    """
    if after < before and after < 0.0:
        return "worse"
    return "better" if before < 0.0 <= after else "changed"


def _judge(name: str, before: Report, after: Report, was: float, now: float) -> Judgement:
    """What a change did to one figure. Where it leans some range below its limit, nothing of mixture or fuel is called
    better.
    """
    found = _alone(name, before, after, was, now)
    return (
        "changed" if found == "better" and name.startswith(("range.", "fuelling.")) and leaned(before, after) else found
    )


def _alone(name: str, before: Report, after: Report, was: float, now: float) -> Judgement:
    """A figure by itself: a difference under its own threshold is even."""
    spec = FIGURES[name]
    if abs(now - was) <= max(spec.even_abs, spec.even_rel * abs(was)):
        return "even"
    if spec.better == "target":
        return _toward_target(was, now, runs_lean(after))
    if spec.better == "margin":
        return _toward_margin(was, now)
    if spec.better == "band":
        off_before, off_after = _outside_band(before, name, was), _outside_band(after, name, now)
        gain = None if off_before is None or off_after is None else off_before - off_after
        return (
            "changed" if gain is None else "even" if abs(gain) <= spec.even_abs else "better" if gain > 0 else "worse"
        )
    if not spec.better:
        return "changed"
    return "better" if (now > was) == (spec.better == "higher") else "worse"


def consequences(before: Report, after: Report, figures: tuple[str, ...] = HEADLINES) -> list[Consequence]:
    """What changed between two reports, judged."""
    found = []
    for name in figures:
        a, b = before.figures.get(name), after.figures.get(name)
        if a is None or b is None or a.value is None or b.value is None or a.value == b.value:
            continue
        half = None if b.low is None or b.high is None else 0.5 * (b.high - b.low)
        judgement = _judge(name, before, after, a.value, b.value)
        if (a.withheld or b.withheld) and judgement != "worse":
            # what is not judged is called neither better nor the same
            judgement = "changed"
        found.append(
            Consequence(figure=name, before=a.value, after=b.value, judgement=judgement, half_width=half, basis=b.basis)
        )
    return found
