"""Hours on a bike and on its parts: what the meter, the rider and the log say, put in line."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import track_distance

#: rides between two readings of the meter that add up to so much more or less than it are looked at [1] (TRIALS 5)
GAP_SHARE = 0.15
#: slower than this a bike stands; a track silent for longer says nothing of that time (assumption)
STILL_M_PER_S, LONGEST_GAP_S = 0.5, 60.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Ridden:
    """One ride as it was written down: how long [s], None when only the meter was read; the meter at its end [s], None
    when it was not read.
    """

    time_s: float | None
    meter_s: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """Hours of the bike [s] from one to another. ride: place of the ride in what was given, None for hours that the
    meter ran and nobody wrote down; use: of its place, which those hours share.
    """

    from_s: float
    to_s: float
    ride: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Timeline:
    """spans: in order, from 0 to now; gaps: places of meter readings that rides do not add up to, each with how far
    they are off [1, + = the meter ran longer]; after_s: hours of the bike after each ride [s].
    """

    spans: tuple[Span, ...]
    gaps: tuple[tuple[int, float], ...]
    after_s: tuple[float, ...]

    @property
    def now_s(self) -> float:
        """Hours of the bike now [s]."""
        return self.spans[-1].to_s if self.spans else 0.0


def timeline(rides: Sequence[Ridden]) -> Timeline:
    """The meter rules: a reading sets the sum, and the rides since the last one are stretched to it. The first reading
    begins with whatever ran before it; one lower than the last is another meter, which goes on from there.
    """
    spans: list[Span] = []
    gaps: list[tuple[int, float]] = []
    after: list[float] = []
    waiting: list[tuple[int, float]] = []
    now = since = offset = 0.0
    read = False

    def lay(factor: float) -> None:
        nonlocal now
        for place, time in waiting:
            spans.append(Span(from_s=now, to_s=now + time * factor, ride=place))
            now += time * factor
            after[place] = now
        waiting.clear()

    for i, ride in enumerate(rides):
        after.append(0.0)
        if ride.time_s:
            waiting.append((i, ride.time_s))
        if ride.meter_s is None:
            continue
        ridden = sum(time for _place, time in waiting)
        if read and ride.meter_s + offset < since:
            offset = since + ridden - ride.meter_s
        target, known = ride.meter_s + offset, read
        if not known:
            # what ran before anyone wrote it down
            before = max(target - ridden, 0.0)
            if before > 0.0:
                spans.append(Span(from_s=0.0, to_s=before, ride=None))
            now = since = before
        between = target - since
        if not ride.time_s and between > ridden:
            waiting.append((i, between - ridden))
        elif ridden > 0.0 and known and abs(between - ridden) > GAP_SHARE * max(between, ridden):
            gaps.append((i, between / ridden - 1.0))
        total = sum(time for _place, time in waiting)
        lay(between / total if total > 0.0 and between > 0.0 else 1.0)
        now, since, read = max(target, now), max(target, now), True
        after[i] = now
    lay(1.0)
    for i, value in enumerate(after):
        after[i] = value or (after[i - 1] if i else 0.0)
    return Timeline(spans=tuple(spans), gaps=tuple(gaps), after_s=tuple(after))


def moving_time(track: Track, at_s: NDArray[np.float64]) -> float:
    """How long a recorded track moved [s]; at_s: time of each of its points, shape (n,)."""
    way_m, steps_s = np.diff(track_distance(track)[0]), np.diff(at_s)
    moved = (steps_s > 0.0) & (steps_s < LONGEST_GAP_S) & (way_m > STILL_M_PER_S * steps_s)
    return float(steps_s[moved].sum())


def run_since(line: Timeline, fitted_s: float, factors: Sequence[float], *, until_s: float | None = None) -> float:
    """What a part has run [s] since it was fitted at so many hours of the bike, each ride by its use factor (one for
    each ride), until it came off, or now.
    """
    end = line.now_s if until_s is None else until_s
    total = 0.0
    for span in line.spans:
        over = min(span.to_s, end) - max(span.from_s, fitted_s)
        if over > 0.0:
            total += over * (1.0 if span.ride is None else factors[span.ride])
    return total


def use_factor(shares: Sequence[tuple[float, float]]) -> float:
    """By what a ride wears more than plain hours: shares of its time [1] with the factor there, multiplied."""
    found = 1.0
    for share, factor in shares:
        found *= 1.0 + share * (factor - 1.0)
    return found
