"""What the runs of a trial say: effect, interval, verdict, scores, guesses."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, inf, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.trials import ASPECTS, Trial, TrialRun
from lynxwort.core.physics.trials import design, effects, learning, looks, scores
from lynxwort.core.physics.trials.effects import Effect

Array = NDArray[np.float64]

#: pairs planned from which the answer may be looked at on the way, and the looks then as shares of them
LOOKS_FROM, LOOKS = 8, (0.5, 0.75, 1.0)
#: runs from which a rider's guesses say whether it is felt; a rider's laps spread oddly from so many times the prior
FELT_FROM, NOISY_RATIO = 8, 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Lap:
    """One run as drawn: its place in the order, laps ridden before it, setting, time [s], what the fit says it would
    be [s], whether it counts.
    """

    place: int
    ridden: int
    setting: str
    time_s: float
    fitted_s: float | None
    counts: bool
    by_watch: bool
    from_file: bool
    clocks_apart: bool


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """pairs: that count; effect: at the level of this look, None with too few runs; level: of this look; verdict:
    "even", "keep", "put_back", "not_proven" or "too_few"; peeked: pairs at an unplanned look, 0 = none; p_exact: by
    flipped signs; flip: its interval [1 of a lap]; more_pairs: still needed at the spread seen, None = no number of
    pairs that anyone rides; updated: with the model's; right, told: blind runs guessed rightly, and guessed at all.
    """

    trial: Trial
    laps: tuple[Lap, ...]
    pairs: int
    mean_s: float | None
    effect: Effect | None
    level: float
    peeked: int
    verdict: str
    p_exact: float | None
    flip: tuple[float, float]
    more_pairs: int | None
    updated: learning.Updated | None
    right: int
    told: int
    scored: tuple[Scored, ...]

    @property
    def effect_s(self) -> float | None:
        """The effect on a lap [s]."""
        return None if self.effect is None or self.mean_s is None else self.effect.share * self.mean_s

    @property
    def is_due(self) -> bool:
        """Whether the answer may be looked at: at a planned look, when all is ridden, or when it is decided."""
        return self.trial.outcome != "open" or self.trial.is_ridden or self.pairs in looks_of(self.trial)

    @property
    def next_look(self) -> int:
        """After how many pairs the next planned look is."""
        return next((n for n in looks_of(self.trial) if n > self.pairs), looks_of(self.trial)[-1])

    @property
    def size_share(self) -> float:
        """The size that is told [1 of a lap]: with "keep" no more than runs and model say together."""
        seen = self.effect.share if self.effect is not None else 0.0
        return max(seen, self.updated.share) if self.verdict == "keep" and self.updated is not None else seen

    @property
    def blind_p(self) -> float | None:
        """How often guessing alone is right as often."""
        return scores.guessed_p(self.right, self.told) if self.told else None

    @property
    def is_noisy(self) -> bool:
        """Whether the laps spread far more than this rider's were taken to."""
        return self.effect is not None and self.pairs >= effects.LEAST_PAIRS and (
            self.effect.run_sd > NOISY_RATIO * self.trial.noise_sd
        )  # fmt: skip


def looks_of(trial: Trial) -> tuple[int, ...]:
    """After how many pairs the answer may be looked at: planned with the order, the last at its end."""
    pairs = len(trial.order) // 2
    if pairs < LOOKS_FROM:
        return (max(pairs, 1),)
    return tuple(sorted({ceil(pairs * share) for share in LOOKS}))


def _paired(trial: Trial) -> list[tuple[TrialRun, TrialRun]]:
    """Pairs of neighbours both of which count."""
    by_place = {r.place: r for r in trial.counted}
    return [(by_place[a], by_place[b]) for a, b in design.pairs_of(trial.order) if a in by_place and b in by_place]


def _scored(pairs: Sequence[tuple[TrialRun, TrialRun]]) -> tuple[Scored, ...]:
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


def noise_of(trials: Sequence[Trial]) -> tuple[float, float]:
    """A rider's spread of laps after drift [1 of a lap], and how many degrees of freedom of his own stand behind it."""
    squares, own = 0.0, 0.0
    for trial in trials:
        fit = _fitted(trial)
        if fit is not None and fit[0].method == "t4":
            squares, own = squares + fit[0].df * fit[0].run_sd ** 2, own + fit[0].df
    return effects.borrowed_noise(sqrt(squares / own) if own else 0.0, own), own


def _fitted(trial: Trial, alpha: float = design.ALPHA) -> tuple[Effect, Array, float] | None:
    """Effect at a level, what the fit says of each run that counts [s], mean of what stood [s]; None with too few."""
    runs = trial.counted
    second = np.array([r.setting == "B" for r in runs])
    if len(runs) < 3 or not second.any() or second.all():
        return None
    time = np.array([r.time_s for r in runs])
    mean = float(time[~second].mean())
    ridden = np.array([float(r.ridden) for r in runs])
    effect = _by_method(runs, time / mean, second, ridden, trial.noise_sd, alpha)
    drift = effect.drift_share * (ridden - ridden.mean())
    level = float(np.mean(time / mean - effect.share * second - drift))
    return effect, mean * (level + drift + effect.share * second), mean


def _by_method(
    runs: Sequence[TrialRun], y: Array, second: NDArray[np.bool_], ridden: Array, noise_sd: float, alpha: float
) -> Effect:
    """By what there is, fixed beforehand: sectors pooled where every run has the same six or more, else by the lap."""
    counts = {len(r.sectors_s) for r in runs}
    pairs = min(int(second.sum()), int((~second).sum()))
    if len(counts) != 1 or min(counts) < effects.LEAST_SECTORS or pairs < effects.LEAST_PAIRS:
        return effects.effect_of(y, second, ridden, prior_sd=noise_sd, alpha=alpha)
    times = np.array([r.sectors_s for r in runs])
    means = times[~second].mean(axis=0)
    error = np.array([r.error_s or 0.0 for r in runs])
    timing = np.sqrt((error**2).mean()) / means
    return effects.effect_of_sectors(times / means, second, ridden, timing_sd=timing, alpha=alpha)[0]


def _level_of(trial: Trial, pairs: int) -> tuple[float, int]:
    """Level of the look after so many pairs, and whether it is one that was not planned: its pairs, else 0."""
    planned = looks_of(trial)
    if pairs in planned:
        levels = looks.nominal_levels(planned) if len(planned) > 1 else [design.ALPHA]
        return levels[planned.index(pairs)], 0
    return design.ALPHA, 0 if trial.is_ridden else pairs


def answer_of(trial: Trial) -> Answer:
    """What the runs say by now, by the method that was fixed when the trial was planned."""
    paired = _paired(trial)
    level, peeked = _level_of(trial, len(paired))
    fit = _fitted(trial, level)
    laps = _laps(trial, fit[1] if fit else None)
    guessed = [r for r in trial.counted if r.guess is not None]
    common: dict[str, Any] = {
        "trial": trial, "laps": laps, "pairs": len(paired), "level": level, "scored": _scored(paired),
        "right": sum(r.guess == r.setting for r in guessed), "told": len(guessed),
    }  # fmt: skip
    if fit is None or len(paired) < 1:
        return Answer(
            **common, mean_s=None, effect=None, peeked=0, verdict="too_few", p_exact=None, flip=(-inf, inf),
            more_pairs=None, updated=None,
        )  # fmt: skip
    effect, _said, mean = fit
    differences = np.array([(b.time_s - a.time_s) / mean for a, b in paired])
    if peeked and len(paired) > 1:
        sd = max(float(differences.std(ddof=1)), trial.noise_sd)
        half = looks.always_valid(len(paired), sd, trial.hoped_share)
        effect = _widened(effect, half)
    verdict = effects.verdict_of(effect.low_share, effect.high_share, trial.even_share)
    model_sd = learning.model_sd(trial.model_share or 0.0, trial.even_share)
    return Answer(
        **common,
        mean_s=mean,
        effect=effect,
        peeked=peeked,
        verdict="not_proven" if verdict in ("keep", "put_back") and len(paired) < 2 else verdict,
        p_exact=effects.sign_flip(differences) if len(paired) <= effects.MOST_FLIPPED else None,
        flip=effects.flip_interval(differences) if len(paired) <= effects.MOST_FLIPPED else (-inf, inf),
        more_pairs=_more(effect, trial, len(paired)),
        updated=None
        if trial.model_share is None
        else learning.updated(trial.model_share, model_sd, effect.share, max(effect.se, 1e-6)),
    )


def _widened(effect: Effect, half: float) -> Effect:
    """The effect with an interval that holds whenever one looks, never narrower than its own."""
    low, high = min(effect.low_share, effect.share - half), max(effect.high_share, effect.share + half)
    return Effect(
        share=effect.share, se=effect.se, df=effect.df, low_share=low, high_share=high, run_sd=effect.run_sd,
        drift_share=effect.drift_share, method=effect.method,
    )  # fmt: skip


def _more(effect: Effect, trial: Trial, pairs: int) -> int | None:
    """Pairs still needed to see the seen effect at the seen spread; None beyond what anyone rides."""
    sd = max(effect.run_sd, 0.3 * trial.noise_sd)
    needed = design.pairs_needed(sd, max(abs(effect.share), trial.even_share))
    return None if needed is None else max(needed - pairs, 0)


def _laps(trial: Trial, fitted_s: Array | None) -> tuple[Lap, ...]:
    """All runs in the order they were ridden."""
    said = {} if fitted_s is None else dict(zip((r.id for r in trial.counted), fitted_s.tolist(), strict=True))
    counts = {r.id for r in trial.counted}
    return tuple(
        Lap(
            place=r.place, ridden=r.ridden, setting=r.setting, time_s=r.time_s, fitted_s=said.get(r.id),
            counts=r.id in counts, by_watch=r.by_watch, from_file=r.from_file, clocks_apart=r.clocks_apart,
        )
        for r in sorted(trial.runs, key=lambda r: r.ridden)
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """What a plan can show before anyone rides. smallest_share: seen four times in five; needed: pairs that see what
    is hoped for, None = more than anyone rides; even_pairs: that would prove even; blind_to_it: neither what is hoped
    nor what the model expects is large enough to be seen.
    """

    pairs: int
    smallest_share: float
    needed: int | None
    even_pairs: int
    time_s: float
    changes: int
    blind_to_it: bool


def planned(
    order: str,
    *,
    noise_sd: float,
    hoped_share: float,
    even_share: float,
    model_share: float | None,
    lap_s: float,
    turn_round_s: float,
    change_s: float,
) -> Planned:
    """What an order of runs can show of a rider whose laps spread by noise_sd [1 of a lap]."""
    pairs = len(design.pairs_of(order))
    smallest = _smallest(order, noise_sd)
    model_far = abs(model_share or 0.0) + learning.model_sd(model_share or 0.0, even_share)
    return Planned(
        pairs=pairs,
        smallest_share=smallest,
        needed=design.pairs_needed(noise_sd, hoped_share),
        even_pairs=design.pairs_for_even(noise_sd, even_share),
        time_s=design.time_needed(order, lap_s=lap_s, turn_round_s=turn_round_s, change_s=change_s),
        changes=design.changes_in(order),
        blind_to_it=smallest > even_share and smallest > model_far,
    )


def _smallest(order: str, noise_sd: float) -> float:
    """The smallest difference seen four times in five [1 of a lap]."""
    if order == "ABA":
        # one between two, the spread all borrowed
        return noise_sd * sqrt(1.5) * design.seen_at(effects.PRIOR_DF)
    pairs = len(order) // 2
    if pairs < effects.LEAST_PAIRS:
        own = max(len(order) - 3, 0)
        return noise_sd * sqrt(2.0 / pairs) * design.seen_at(effects.PRIOR_DF + own)
    return sqrt(2.0) * noise_sd * design.smallest_seen(pairs)


def planned_of(trial: Trial) -> Planned:
    """The same of a trial as it was planned."""
    return planned(
        trial.order, noise_sd=trial.noise_sd, hoped_share=trial.hoped_share, even_share=trial.even_share,
        model_share=trial.model_share, lap_s=trial.lap_s, turn_round_s=trial.turn_round_s, change_s=trial.change_s,
    )  # fmt: skip
