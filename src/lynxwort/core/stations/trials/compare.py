"""Two sessions side by side: other riders, other bikes, another year."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from lynxwort.core.model.trials import ASPECTS, RiddenDay, Setting, Trial
from lynxwort.core.physics.trials.effects import Effect, two_sessions, verdict_of
from lynxwort.core.stations.trials.day import growth_of

#: laps of each session before they are compared
LEAST_LAPS = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Session:
    """The laps of a trial with one of its settings that count: mean and spread [s], scores by aspect as means."""

    laps: int
    mean_s: float | None
    sd_s: float | None
    scores: dict[str, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared:
    """Two sessions; effect: second less first, None with too few laps; verdict: "quicker", "slower", "even",
    "not_proven" or "too_few".
    """

    first: Session
    second: Session
    effect: Effect | None
    verdict: str


def _times(trial: Trial, setting: Setting) -> list[float]:
    return [r.time_s for r in trial.counted if r.setting == setting]


def _session(trial: Trial, setting: Setting) -> Session:
    times, runs = _times(trial, setting), [r for r in trial.counted if r.setting == setting]
    scored = {a: [r.scores[a] for r in runs if a in r.scores] for a in ASPECTS}  # type: ignore[index]
    return Session(
        laps=len(times),
        mean_s=float(np.mean(times)) if times else None,
        sd_s=float(np.std(times, ddof=1)) if len(times) > 1 else None,
        scores={a: float(np.mean(v)) for a, v in scored.items() if v},
    )


def compared(first: tuple[Trial, Setting], second: tuple[Trial, Setting]) -> Compared:
    """Laps of two sessions by Welch: all that differs between them is in it, bike, rider, track and air."""
    told = [_session(*of) for of in (first, second)]
    common = {"first": told[0], "second": told[1]}
    if min(s.laps for s in told) < LEAST_LAPS:
        return Compared(**common, effect=None, verdict="too_few")
    effect = two_sessions(*(np.array(_times(*of)) for of in (first, second)))
    said = verdict_of(effect.low_share, effect.high_share, first[0].even_share)
    words = {"keep": "quicker", "put_back": "slower"}
    return Compared(**common, effect=effect, verdict=words.get(said, said))


@dataclass(frozen=True, slots=True, kw_only=True)
class DayTold:
    """A day as it is put beside another: bikes past in all, whoops in the morning and at its end [m], None without any;
    clicks that were turned and not struck out.
    """

    day: RiddenDay
    passes: int
    morning_m: float | None
    evening_m: float | None
    clicks: int


def told_days(days: Sequence[RiddenDay]) -> list[DayTold]:
    """Days side by side."""
    found = []
    for day in days:
        growth, passes = growth_of(day), day.laps * day.starters
        found.append(
            DayTold(
                day=day,
                passes=passes,
                morning_m=None if growth is None else growth.first_m,
                evening_m=None if growth is None else growth.depth_m(float(passes)),
                clicks=sum(not c.struck_out for c in day.clicks),
            )
        )
    return found
