"""What riders score of a trial's two settings, and how far two of them agree."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lynxwort.core.model.trials import ASPECTS, Trial, TrialRun
from lynxwort.core.physics.trials import design, effects
from lynxwort.core.physics.trials.scores import agreement


@dataclass(frozen=True, slots=True, kw_only=True)
class Scored:
    """An aspect as it was scored: means of what stood and of the change, by how much they differ, p by flipped signs,
    corrected for the number of aspects.
    """

    aspect: str
    stood_mean: float
    change_mean: float
    pairs: int
    p: float


def paired(trial: Trial) -> list[tuple[TrialRun, TrialRun]]:
    """Pairs of neighbours both of which count."""
    by_place = {r.place: r for r in trial.counted}
    return [(by_place[a], by_place[b]) for a, b in design.pairs_of(trial.order) if a in by_place and b in by_place]


def scored(pairs: Sequence[tuple[TrialRun, TrialRun]]) -> tuple[Scored, ...]:
    found = []
    for aspect in ASPECTS:
        both = [(a.scores[aspect], b.scores[aspect]) for a, b in pairs if aspect in a.scores and aspect in b.scores]  # type: ignore[index]
        if both:
            stood, change = np.array(both, float).T
            d = change - stood
            p = effects.sign_flip(d[: effects.MOST_FLIPPED]) if d.any() else 1.0
            found.append((aspect, float(stood.mean()), float(change.mean()), len(both), p))
    together = effects.holm([p for *_rest, p in found])
    return tuple(
        Scored(aspect=a, stood_mean=s, change_mean=c, pairs=n, p=p)
        for (a, s, c, n, _p), p in zip(found, together, strict=True)
    )


#: rated runs of each rider, and aspects, from which their agreement is a number
LEAST_RATED, LEAST_ASPECTS = 6, 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Agreed:
    """How two riders' scores of one change agree. same, of: aspects on which both like the same better, of those that
    both scored and neither called even; icc: of what the change did to each, None with too few runs or aspects; rows:
    aspect, and of each rider the mean of what stood and of the change.
    """

    same: int
    of: int
    icc: float | None
    rows: tuple[tuple[str, tuple[float, float], tuple[float, float]], ...]


def agreed(first: Trial, second: Trial) -> Agreed:
    """Two riders' scores side by side, never averaged over the riders."""
    both, rows = [scored(paired(t)) for t in (first, second)], []
    theirs = {s.aspect: (s.stood_mean, s.change_mean) for s in both[1]}
    for s in both[0]:
        if s.aspect in theirs:
            rows.append((s.aspect, (s.stood_mean, s.change_mean), theirs[s.aspect]))
    moved = [((b - a) * (d - c)) for _aspect, (a, b), (c, d) in rows]
    rated = min(sum(bool(r.scores) for r in t.counted) for t in (first, second))
    cells = np.array([[b - a, d - c] for _aspect, (a, b), (c, d) in rows])
    enough = rated >= LEAST_RATED and len(rows) >= LEAST_ASPECTS and bool(np.ptp(cells) > 0)
    return Agreed(
        same=sum(m > 0 for m in moved), of=sum(m != 0 for m in moved),
        icc=agreement(cells) if enough else None, rows=tuple(rows),
    )  # fmt: skip
