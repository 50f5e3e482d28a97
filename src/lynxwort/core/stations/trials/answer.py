"""What the runs of a trial say: effect, interval, verdict, scores, guesses."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import ceil, inf, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.trials import Trial, TrialRun
from lynxwort.core.physics.trials import design, effects, learning, looks, scores
from lynxwort.core.physics.trials.effects import Effect
from lynxwort.core.stations.trials.scored import Scored, paired, scored

Array = NDArray[np.float64]

#: pairs planned from which the answer may be looked at on the way, and the looks then as shares of them
LOOKS_FROM, LOOKS = 8, (0.5, 0.75, 1.0)
#: a timing error of more than so much of a run's spread is coarse
COARSE_SHARE = 0.5
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
class Sector:
    """What the change did in a sector: its mean time as it stood [s], share: effect [1 of the sector's time], its 90 %
    range, p: corrected for the number of sectors.
    """

    number: int
    mean_s: float
    share: float
    low_share: float
    high_share: float
    p: float

    @property
    def effect_s(self) -> float:
        return self.share * self.mean_s

    @property
    def is_named(self) -> bool:
        """Whether it may be named alone; else it only seems to be there."""
        return self.p <= design.ALPHA


@dataclass(frozen=True, slots=True, kw_only=True)
class Along:
    """After so long of a lap [s], what the change has gained or lost by then [s], and half its 90 % range."""

    time_s: float
    sum_s: float
    half_s: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """sectors: where the lap was cut alike in all runs; several: trials of the question on that day, this among them;
    several_p: of this one among them by Holm, None when it is alone; pairs: that count; effect: at the level of this
    look, None with too few runs; level: of this look; verdict: "even", "keep", "put_back", "not_proven" or "too_few";
    peeked: pairs at an unplanned look, 0 = none; p_exact: by flipped signs; flip: its interval [1 of a lap];
    more_pairs: still needed at the spread seen, None = no number of pairs that anyone rides; updated: with the model's;
    right, told: blind runs guessed rightly, and guessed at all.
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
    sectors: tuple[Sector, ...] = ()
    several: int = 1
    several_p: float | None = None

    @property
    def along(self) -> tuple[Along, ...]:
        """The difference as it grows along the lap, from its start on; none where the runs are not cut alike."""
        time, sum_s, square = 0.0, 0.0, 0.0
        found = [Along(time_s=0.0, sum_s=0.0, half_s=0.0)] if self.sectors else []
        for s in self.sectors:
            time, sum_s = time + s.mean_s, sum_s + s.effect_s
            # the sectors' errors are their own: squares add
            square += (0.5 * (s.high_share - s.low_share) * s.mean_s) ** 2
            found.append(Along(time_s=time, sum_s=sum_s, half_s=sqrt(square)))
        return tuple(found)

    @property
    def is_one_of_several(self) -> bool:
        """Whether it would be called a difference alone, and not among all that were tried."""
        return self.several_p is not None and self.several_p > design.ALPHA and self.effect is not None and (
            verdict_alone(self) in ("keep", "put_back")
        )  # fmt: skip

    @property
    def timing_s(self) -> float | None:
        """How far a lap's time may lie off by how it was taken [s]; None where no run says."""
        return timing_of(self.trial)

    @property
    def is_coarse(self) -> bool:
        """Whether timing is much of what hides a difference; of one that is proven, or even, it hides nothing."""
        if self.verdict != "not_proven" or self.timing_s is None or self.effect is None or self.mean_s is None:
            return False
        # a sector's time has as much error as a lap's, and its spread is a sector's
        parts = len(self.sectors) or 1
        return self.timing_s > COARSE_SHARE * self.effect.run_sd * self.mean_s / sqrt(parts)

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


def timing_of(trial: Trial) -> float | None:
    """Root mean square of how far the laps' times may lie off [s]; None where no run says."""
    errors = [r.error_s for r in trial.counted if r.error_s is not None]
    return sqrt(sum(e * e for e in errors) / len(errors)) if errors else None


def verdict_alone(said: Answer) -> str:
    """The verdict of a trial's own interval."""
    e = said.effect
    return "too_few" if e is None else effects.verdict_of(e.low_share, e.high_share, said.trial.even_share)


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
    if not _are_cut(runs, second):
        return effects.effect_of(y, second, ridden, prior_sd=noise_sd, alpha=alpha)
    return _of_sectors(runs, second, ridden, alpha)[0]


def _are_cut(runs: Sequence[TrialRun], second: NDArray[np.bool_]) -> bool:
    """Whether all runs have the same sectors, and enough of them."""
    counts = {len(r.sectors_s) for r in runs}
    pairs = min(int(second.sum()), int((~second).sum()))
    return len(counts) == 1 and min(counts) >= effects.LEAST_SECTORS and pairs >= effects.LEAST_PAIRS


def _of_sectors(
    runs: Sequence[TrialRun], second: NDArray[np.bool_], ridden: Array, alpha: float
) -> tuple[Effect, Array, Array]:
    """Sectors pooled, each one's effect, se and p, and its mean time as it stood [s]."""
    times = np.array([r.sectors_s for r in runs])
    means = times[~second].mean(axis=0)
    error = np.array([r.error_s or 0.0 for r in runs])
    timing = np.sqrt((error**2).mean()) / means
    whole, _pooled, each = effects.effect_of_sectors(times / means, second, ridden, timing_sd=timing, alpha=alpha)
    return whole, each, means


def _sectors(trial: Trial) -> tuple[Sector, ...]:
    """Each sector's effect, none where the runs are not cut alike."""
    runs = trial.counted
    second = np.array([r.setting == "B" for r in runs])
    if not runs or not _are_cut(runs, second):
        return ()
    _whole, each, means = _of_sectors(runs, second, np.array([float(r.ridden) for r in runs]), design.ALPHA)
    together = effects.holm(each[:, 2].tolist())
    far = each[:, 3]
    return tuple(
        Sector(
            number=k + 1, mean_s=float(means[k]), share=float(each[k, 0]), low_share=float(each[k, 0] - far[k]),
            high_share=float(each[k, 0] + far[k]), p=together[k],
        )
        for k in range(means.size)
    )  # fmt: skip


def _level_of(trial: Trial, pairs: int) -> tuple[float, int]:
    """Level of the look after so many pairs, and whether it is one that was not planned: its pairs, else 0."""
    planned = looks_of(trial)
    if pairs in planned:
        levels = looks.nominal_levels(planned) if len(planned) > 1 else [design.ALPHA]
        return levels[planned.index(pairs)], 0
    return design.ALPHA, 0 if trial.is_ridden else pairs


def answer_of(trial: Trial) -> Answer:
    """What the runs say by now, by the method that was fixed when the trial was planned."""
    pairs = paired(trial)
    level, peeked = _level_of(trial, len(pairs))
    fit = _fitted(trial, level)
    laps = _laps(trial, fit[1] if fit else None)
    guessed = [r for r in trial.counted if r.guess is not None]
    common: dict[str, Any] = {
        "trial": trial, "laps": laps, "pairs": len(pairs), "level": level, "scored": scored(pairs),
        "right": sum(r.guess == r.setting for r in guessed), "told": len(guessed), "sectors": _sectors(trial),
    }  # fmt: skip
    if fit is None or len(pairs) < 1:
        return Answer(
            **common, mean_s=None, effect=None, peeked=0, verdict="too_few", p_exact=None, flip=(-inf, inf),
            more_pairs=None, updated=None,
        )  # fmt: skip
    effect, _said, mean = fit
    differences = np.array([(b.time_s - a.time_s) / mean for a, b in pairs])
    if peeked and len(pairs) > 1:
        sd = max(float(differences.std(ddof=1)), trial.noise_sd)
        half = looks.always_valid(len(pairs), sd, trial.hoped_share)
        effect = _widened(effect, half)
    verdict = effects.verdict_of(effect.low_share, effect.high_share, trial.even_share)
    model_sd = learning.model_sd(trial.model_share or 0.0, trial.even_share)
    return Answer(
        **common,
        mean_s=mean,
        effect=effect,
        peeked=peeked,
        verdict="not_proven" if verdict in ("keep", "put_back") and len(pairs) < 2 else verdict,
        p_exact=effects.sign_flip(differences) if len(pairs) <= effects.MOST_FLIPPED else None,
        flip=effects.flip_interval(differences) if len(pairs) <= effects.MOST_FLIPPED else (-inf, inf),
        more_pairs=_more(effect, trial, len(pairs)),
        updated=None
        if trial.model_share is None
        else learning.updated(trial.model_share, model_sd, effect.share, max(effect.se, 1e-6)),
    )


def question_fields(question: str) -> tuple[str, ...]:
    """What is asked about: the fields that change, whatever to."""
    return tuple(sorted(part.split("=")[0].strip() for part in question.split(";")))


def answer_among(trial: Trial, others: Sequence[Trial]) -> Answer:
    """The same, judged with all that the rider tried of the question on that day: of many, one shows a difference by
    chance alone. others: any trials, this one may be among them.
    """
    said = answer_of(trial)
    asked = (trial.rider, trial.day, question_fields(trial.question))
    family = [
        a for o in others
        if trial.day and o.id != trial.id and (o.rider, o.day, question_fields(o.question)) == asked
        and (a := answer_of(o)).is_due and a.effect is not None
    ]  # fmt: skip
    if said.effect is None or not family:
        return said
    together = effects.holm([said.effect.p, *(a.effect.p for a in family if a.effect is not None)])
    proven = together[0] <= design.ALPHA or said.verdict not in ("keep", "put_back")
    return replace(
        said, several=len(together), several_p=together[0], verdict=said.verdict if proven else "not_proven"
    )  # fmt: skip


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
