"""Whether the crew is where it is wanted before the rider is: its drives as typed, against the race on the clock."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

from lynxwort.core.figures import figure
from lynxwort.core.model.race import CrewPlan
from lynxwort.core.report import Figure, Finding
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.moments import Moment, moments
from lynxwort.core.stations.range.passings import planned

#: less in hand than this is looked at [s] (assumption)
TIGHT_S = 600.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """Of two moments in turn that the crew is wanted at, whether it is at the second in time. start, end: their places,
    empty for the paddock; there_s: when it can stand ready there, likely, after the start; slack_s: likely arrival less
    that; low_s, high_s: of the slack, at the early and late pace. None where the drive was not typed.
    """

    start: str
    end: str
    moment: Moment
    there_s: float | None
    slack_s: float | None
    low_s: float | None
    high_s: float | None

    @property
    def is_late(self) -> bool:
        """Whether the rider is likely to be there first."""
        return self.slack_s is not None and self.slack_s < 0.0


def wanted_at(given: RangeInput, clock: Sequence[Moment]) -> list[Moment]:
    """Moments that the crew is wanted at: the start, stops in force, crew points, hand-overs and work. At the finish
    a rider can wait.
    """
    stops = {s.opening + 1 for s in planned(given)[0]}
    return [
        m
        for m in clock
        if m.kind in ("start", "crew", "hand_over", "work") or (m.kind == "refuel" and m.number in stops)
    ]


def place_of(moment: Moment) -> str:
    """Where the crew stands for a moment; empty for the paddock."""
    return moment.name if moment.kind in ("refuel", "crew") else ""


def reaches(given: RangeInput, crew: CrewPlan, clock: Sequence[Moment]) -> list[Reach]:
    """Each drive that the race asks of one crew, in its order; what is at the same place again is no drive."""
    takes = {frozenset((d.start, d.end)): d.takes_s for d in crew.drives}
    found = []
    for a, b in itertools.pairwise(wanted_at(given, clock)):
        start, end = place_of(a), place_of(b)
        if start == end:
            continue
        drive = takes.get(frozenset((start, end)))
        away = None if drive is None else a.standing_s + drive + crew.ready_s
        slacks = (
            None
            if away is None
            else (b.early_s - a.early_s - away, b.likely_s - a.likely_s - away, b.late_s - a.late_s - away)
        )
        found.append(
            Reach(
                start=start, end=end, moment=b, there_s=None if away is None else a.likely_s + away,
                slack_s=slacks[1] if slacks else None, low_s=min(slacks) if slacks else None,
                high_s=max(slacks) if slacks else None,
            )
        )  # fmt: skip
    return found


def drives(given: RangeInput) -> list[Reach]:
    """Those of the race as planned, typed or not."""
    return reaches(given, given.crew or CrewPlan(), moments(given))


def judged(given: RangeInput) -> list[Reach]:
    """Those of the race as planned whose drive was typed."""
    if given.crew is None or not given.crew.drives:
        return []
    return [r for r in drives(given) if r.slack_s is not None]


def tightest(given: RangeInput) -> Reach | None:
    """The one with the least in hand."""
    return min(judged(given), key=lambda r: r.slack_s or 0.0, default=None)


def figures(given: RangeInput) -> list[Figure]:
    """The least that the crew has in hand."""
    least = tightest(given)
    if least is None:
        return [figure("range.crew_slack_min", None, status="not_applicable", reason="no_drive")]
    return [
        figure(
            "range.crew_slack_min", least.slack_s, low=least.low_s, high=least.high_s, inputs=("race.crew.drives",),
            formula="least of likely arrival - (likely leaving of the place before + drive + until ready)",
            source="drives as typed; spread of pace: assumption",
        )
    ]  # fmt: skip


def findings(given: RangeInput) -> list[Finding]:
    """What is said of the drives: the first that is too late, else the tightest. at_m: on the round."""
    told = next((r for r in judged(given) if r.is_late), tightest(given))
    if told is None or told.slack_s is None or told.slack_s >= TIGHT_S:
        return []
    return [
        Finding(
            station="range", code="crew_late" if told.is_late else "crew_tight",
            severity="act" if told.is_late else "look",
            figures=("range.crew_slack_min",),
            at_m=float(given.clock.around.starts_m[told.moment.stage]) + told.moment.at_m,
            parameters={"short_time": abs(told.slack_s), "lap": told.moment.lap},
        )
    ]  # fmt: skip
