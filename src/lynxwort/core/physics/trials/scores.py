"""What riders say: guesses of a blind run, scores of aspects, agreement of two."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from scipy.stats import binom, binomtest, friedmanchisquare, hypergeom

Array = NDArray[np.float64]
#: how rarely guessing alone may do as well
GUESSED = 0.05


def right_needed(runs: int, *, chance: float = 0.5, level: float = GUESSED) -> int | None:
    """How many of so many guesses must be right before chance alone hardly does it; None when not even all are enough.

    Reference: binomial, one-sided; with a chance of 1/3 ISO 4120's triangle test.
    """
    return next((k for k in range(runs + 1) if float(binom.sf(k - 1, runs, chance)) <= level), None)


def guessed_p(right: int, runs: int, chance: float = 0.5) -> float:
    """How often guessing alone is right as often [1]."""
    return float(binomtest(right, runs, chance, alternative="greater").pvalue)


def told_apart_p(right: int, runs: int) -> float:
    """The same where the rider knows that half of the runs are of each: as many right of one as of the other.
    right: of those of one setting. Reference: Fisher, The Design of Experiments (1935) ch. II.
    """
    return float(hypergeom.sf(right - 1, runs, runs // 2, runs // 2))


def seen_when_felt(runs: int, right_share: float) -> float:
    """How often a rider who is right with this chance passes so many blind runs [1]."""
    needed = right_needed(runs)
    return 0.0 if needed is None else float(binom.sf(needed - 1, runs, right_share))


def abilities(wins: Array) -> tuple[Array, Array]:
    """How much each of k settings is preferred, their product 1, and the se of its logarithm: shape (k,) each. wins:
    shape (k, k), row over column; half a win is added each way where some setting was never preferred or always.

    Reference: Bradley, Terry, Biometrika 39 (1952) 324; Hunter, Ann. Statist. 32 (2004) 384.
    """
    k = wins.shape[0]
    reached = np.linalg.matrix_power((wins > 0) + np.eye(k), k) > 0
    held = wins if reached.all() else wins + 0.5 * (1.0 - np.eye(k))
    met, won, p = held + held.T, held.sum(axis=1), np.ones(k)
    for _ in range(20_000):
        before = p
        p = won / (met / (p[:, None] + p[None, :])).sum(axis=1)
        p = p / np.exp(np.log(p).mean())
        if np.max(np.abs(p - before)) < 1e-13:
            break
    between = met * p[:, None] * p[None, :] / (p[:, None] + p[None, :]) ** 2
    information = np.diag(between.sum(axis=1)) - between
    return p, np.sqrt(np.diag(np.linalg.pinv(information)))


def agreement(scores: Array, form: int = 2) -> float:
    """How far judges agree on what they scored, 1 = wholly: shape (runs, judges), no gaps. form 1: judges drawn anew
    for each run; 2: the same judges, standing for all; 3: these judges alone.

    Reference: Shrout, Fleiss, Psychol. Bull. 86 (1979) 420.
    """
    n, k = scores.shape
    mean = scores.mean()
    between = k * float(((scores.mean(axis=1) - mean) ** 2).sum()) / (n - 1)
    judges = n * float(((scores.mean(axis=0) - mean) ** 2).sum()) / (k - 1)
    total = float(((scores - mean) ** 2).sum())
    within = (total - between * (n - 1)) / (n * (k - 1))
    error = (total - between * (n - 1) - judges * (k - 1)) / ((n - 1) * (k - 1))
    if form == 1:
        return (between - within) / (between + (k - 1) * within)
    if form == 2:
        return (between - error) / (between + (k - 1) * error + k * (judges - error) / n)
    return (between - error) / (between + (k - 1) * error)


def ranks_agree(ranks: Array) -> float:
    """How far judges agree on an order, 1 = wholly: shape (judges, things). Reference: Kendall's W, by Friedman's."""
    judges, things = ranks.shape
    return float(friedmanchisquare(*ranks.T).statistic) / (judges * (things - 1))


def words_agree(first: Sequence[int], second: Sequence[int], steps: int) -> float:
    """How far two judges agree on a scale of steps from 0, beyond chance, 1 = wholly; a miss by two counts four times.

    Reference: Cohen, Psychol. Bull. 70 (1968) 213, quadratic weights.
    """
    seen = np.zeros((steps, steps))
    np.add.at(seen, (np.asarray(first), np.asarray(second)), 1.0)
    apart = np.subtract.outer(np.arange(steps), np.arange(steps)) ** 2.0
    by_chance = np.outer(seen.sum(axis=1), seen.sum(axis=0)) / seen.sum()
    expected = float((apart * by_chance).sum())
    return 1.0 - float((apart * seen).sum()) / expected if expected else 1.0
