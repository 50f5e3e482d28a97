"""What a change did, of timed runs: robust fit with drift, exact sign flip, sectors pooled, the verdict.

Times come as shares of the mean of what stands, so an effect is a share of a lap [1].
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import floor, hypot, inf, sqrt

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline
from scipy.stats import permutation_test, t, ttest_ind

from lynxwort.core.physics.trials.design import ALPHA

Array = NDArray[np.float64]

#: what a rider's laps are taken to spread until they are known: sd as a share of the lap, with so many degrees of
#: freedom. Assumption: a good amateur 1 %, a trail rider 2 to 3 %
PRIOR_SD, PRIOR_DF = 0.015, 4.0
#: degrees of freedom of the t by which runs are weighed
NU = 4.0
#: reweightings at most
MOST_STEPS = 20_000
#: fewer pairs than this borrow the rider's noise; from so many sectors these are pooled
LEAST_PAIRS, LEAST_SECTORS = 4, 6
#: drift is a line below so many runs, a parabola below the second, then a natural spline
CURVED_FROM, SPLINE_FROM = 10, 16
#: sign flips are counted out up to so many pairs, an interval of them needs so many
MOST_FLIPPED, LEAST_FLIPPED = 20, 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """share: second setting less first [1 of a lap], se and df of it; low_share, high_share: at the level asked for;
    run_sd: of one run after drift [1]; drift_share: from one run to the next [1]; method: "t4", "borrowed", "sectors"
    or "welch".
    """

    share: float
    se: float
    df: float
    low_share: float
    high_share: float
    run_sd: float
    drift_share: float
    method: str

    @property
    def p(self) -> float:
        """How often chance alone does as much, two-sided."""
        return chance_of(self.share, self.se, self.df)


def chance_of(share: float, se: float, df: float) -> float:
    """Two-sided p of an effect with its se by Student's t [1]."""
    return float(2.0 * t.sf(abs(share) / max(se, 1e-15), df))


def drift_terms(place: Array) -> Array:
    """Columns of what drifts with the place in the session, centred; chosen by the number of runs alone. Shape
    (n, 1 to 3).
    """
    n, at = place.size, place - place.mean()
    if n < CURVED_FROM:
        return at[:, None]
    if n < SPLINE_FROM:
        return np.column_stack([at, at**2 - (at**2).mean()])
    knots = np.quantile(at, np.linspace(0.0, 1.0, 4))
    return np.asarray(CubicSpline(knots, np.eye(4), bc_type="natural")(at))[:, 1:]


def _columns(is_second: NDArray[np.bool_], place: Array) -> Array:
    return np.column_stack([np.ones(place.size), is_second.astype(float), drift_terms(place)])


def _line(place: Array, fitted: Array) -> float:
    """The drift from one run to the next: the line through what drifts."""
    at = place - place.mean()
    return float(at @ fitted / (at @ at)) if at.any() else 0.0


def fit_t4(y: Array, x: Array) -> tuple[Array, Array, float]:
    """Coefficients, their covariance and the scale of a linear model with t noise of 4 degrees of freedom.

    y: shape (n,); x: shape (n, p), n > p. Reference: Lange, Little, Taylor, JASA 84 (1989) 881; the scale with n - p.
    """
    n, p = x.shape
    beta: Array = np.asarray(np.linalg.lstsq(x, y, rcond=None)[0], dtype=float)
    scale2 = float(np.sum((y - x @ beta) ** 2)) / (n - p)
    tiny = 1e-24 * float(y @ y) + 1e-300
    for _ in range(MOST_STEPS):
        weight = (NU + 1.0) / (NU + (y - x @ beta) ** 2 / max(scale2, tiny))
        before, heavy = scale2, x * weight[:, None]
        beta = np.asarray(np.linalg.solve(heavy.T @ x, heavy.T @ y), dtype=float)
        scale2 = float(weight @ (y - x @ beta) ** 2) / (n - p)
        # one lap far off is let go slowly: a few dozen steps are not enough
        if abs(scale2 - before) <= 1e-10 * before + tiny:
            break
    covariance = scale2 * (NU + 3.0) / (NU + 1.0) * np.linalg.pinv(x.T @ x)
    return beta, covariance, sqrt(scale2)


def borrowed_noise(sd: float, df: float, *, prior_sd: float = PRIOR_SD, prior_df: float = PRIOR_DF) -> float:
    """Sd of a run with the rider's noise borrowed, to be used with prior_df + df degrees of freedom.

    Reference: Gelman et al., Bayesian Data Analysis (2013) 2.6; Smyth, Stat. Appl. Genet. 3 (2004) 3.
    """
    return sqrt((prior_df * prior_sd**2 + df * sd**2) / (prior_df + df))


def effect_of(
    y: Array, is_second: NDArray[np.bool_], place: Array, *, prior_sd: float = PRIOR_SD, alpha: float = ALPHA
) -> Effect:
    """The effect on the lap by the method fixed beforehand: robust from LEAST_PAIRS runs of each, else with borrowed
    noise. y: times as shares of the mean of what stands; place: laps ridden on the track. Three runs at least, two of
    them alike.
    """
    x = _columns(is_second, place)
    n, p = x.shape
    pairs = min(int(is_second.sum()), int((~is_second).sum()))
    if pairs >= LEAST_PAIRS:
        beta, covariance, scale = fit_t4(y, x)
        df, method, se = float(n - p), "t4", sqrt(float(covariance[1, 1]))
    else:
        beta = np.asarray(np.linalg.lstsq(x, y, rcond=None)[0], dtype=float)
        left = n - int(np.linalg.matrix_rank(x))
        own = sqrt(float(np.sum((y - x @ beta) ** 2)) / left) if left else 0.0
        scale, df = borrowed_noise(own, left, prior_sd=prior_sd), PRIOR_DF + left
        method, se = "borrowed", scale * sqrt(float(np.linalg.pinv(x.T @ x)[1, 1]))
    far = float(t.ppf(1.0 - 0.5 * alpha, df)) * se
    share = float(beta[1])
    drift = _line(place, x[:, 2:] @ beta[2:])
    return Effect(
        share=share, se=se, df=df, low_share=share - far, high_share=share + far, run_sd=scale, drift_share=drift,
        method=method,
    )  # fmt: skip


def sign_flip(differences: Array) -> float:
    """Exact two-sided p: the share of all ways to give the pairs' differences their signs whose sum lies as far out.

    Reference: Fisher, The Design of Experiments (1935) ch. III. Raises ValueError beyond MOST_FLIPPED pairs.
    """
    if differences.size > MOST_FLIPPED:
        raise ValueError(f"at most {MOST_FLIPPED} pairs")
    if differences.size == 1:
        return 1.0
    found = permutation_test(
        (differences,), lambda d, axis: np.abs(d.sum(axis=axis)), permutation_type="samples", vectorized=True,
        n_resamples=np.inf, batch=1 << 14, alternative="greater",
    )  # fmt: skip
    return float(found.pvalue)


def flip_interval(differences: Array, alpha: float = ALPHA) -> tuple[float, float]:
    """Interval of the mean difference without any shape of noise: means of all subsets, the outermost dropped;
    infinite below LEAST_FLIPPED pairs. Reference: Hartigan, JASA 64 (1969) 1303.
    """
    n = differences.size
    if n < LEAST_FLIPPED:
        return -inf, inf
    inside = (np.arange(1, 1 << n)[:, None] >> np.arange(n)) & 1
    means = np.sort(inside @ differences / inside.sum(axis=1))
    drop = floor(0.5 * alpha * (1 << n))
    return float(means[drop - 1]), float(means[-drop])


@dataclass(frozen=True, slots=True, kw_only=True)
class Pooled:
    """Sectors together: mean, se, df = k - 1; q and tau2: how far they differ beyond their errors; shrunk: each drawn
    towards the mean by how little it is known, shape (k,).
    """

    mean: float
    se: float
    df: float
    q: float
    tau2: float
    shrunk: tuple[float, ...]


def pooled(effects: Array, se: Array) -> Pooled:
    """Effects of k >= 2 sectors with their standard errors, as one. The se is the larger of the usual and of
    Hartung and Knapp's.

    Reference: DerSimonian, Laird, Control. Clin. Trials 7 (1986) 177; Hartung, Knapp, Stat. Med. 20 (2001) 3875.
    """
    k, w = effects.size, 1.0 / se**2
    fixed = float(w @ effects / w.sum())
    q = float(w @ (effects - fixed) ** 2)
    tau2 = max(0.0, (q - (k - 1)) / float(w.sum() - (w**2).sum() / w.sum()))
    w = 1.0 / (se**2 + tau2)
    mean = float(w @ effects / w.sum())
    own = sqrt(1.0 / float(w.sum()))
    spread = sqrt(float(w @ (effects - mean) ** 2) / ((k - 1) * float(w.sum())))
    drawn = se**2 / (se**2 + tau2)
    shrunk = drawn * mean + (1.0 - drawn) * effects
    return Pooled(
        mean=mean, se=max(own, spread), df=float(k - 1), q=q, tau2=tau2, shrunk=tuple(float(s) for s in shrunk)
    )


def effect_of_sectors(
    y: Array, is_second: NDArray[np.bool_], place: Array, *, timing_sd: Array | None = None, alpha: float = ALPHA
) -> tuple[Effect, Pooled, Array]:
    """The effect of sectors pooled, and each sector's effect, se, p and half range, shape (k, 4). y: shape (n, k), each
    sector as a share of its own mean of what stands; timing_sd: error of a sector's time, as a share of it, shape (k,).
    """
    x, k = _columns(is_second, place), y.shape[1]
    fits = [fit_t4(y[:, s], x) for s in range(k)]
    error = np.zeros(k) if timing_sd is None else timing_sd
    per_run = float(np.linalg.pinv(x.T @ x)[1, 1])
    known = [(float(b[1]), sqrt(c[1, 1] + per_run * e**2)) for (b, c, _s), e in zip(fits, error, strict=True)]
    df = float(y.shape[0] - x.shape[1])
    half = float(t.ppf(1.0 - 0.5 * alpha, df))
    each = np.array([(share, se, chance_of(share, se, df), half * se) for share, se in known])
    whole = pooled(each[:, 0], np.maximum(each[:, 1], 1e-12))
    far = float(t.ppf(1.0 - 0.5 * alpha, whole.df)) * whole.se
    drift = float(np.mean([_line(place, x[:, 2:] @ b[2:]) for b, _c, _s in fits]))
    effect = Effect(
        share=whole.mean, se=whole.se, df=whole.df, low_share=whole.mean - far, high_share=whole.mean + far,
        run_sd=float(np.mean([s for _b, _c, s in fits])) / sqrt(k), drift_share=drift, method="sectors",
    )  # fmt: skip
    return effect, whole, each


def two_sessions(first: Array, second: Array, *, alpha: float = ALPHA) -> Effect:
    """Laps of a second session less those of a first, as a share of the first's mean. It knows of no drift, no track
    and no air: two laps of each at least.

    Reference: Welch, Biometrika 34 (1947) 28.
    """
    mean = float(first.mean())
    found = ttest_ind(second / mean, first / mean, equal_var=False)
    ends = found.confidence_interval(1.0 - alpha)
    share = float(second.mean()) / mean - 1.0
    se = sqrt(float(second.var(ddof=1)) / second.size + float(first.var(ddof=1)) / first.size) / mean
    return Effect(
        share=share, se=se, df=float(found.df), low_share=float(ends.low), high_share=float(ends.high),
        run_sd=sqrt(0.5 * float(first.var(ddof=1) + second.var(ddof=1))) / mean, drift_share=0.0, method="welch",
    )  # fmt: skip


def verdict_of(low_share: float, high_share: float, even_share: float) -> str:
    """What an interval of the effect says: "even", "keep", "put_back" or "not_proven"."""
    if -even_share <= low_share and high_share <= even_share:
        return "even"
    if high_share < 0.0:
        return "keep"
    return "put_back" if low_share > 0.0 else "not_proven"


def holm(p: Sequence[float]) -> list[float]:
    """P values of several questions of one day together, in the order given. Reference: Holm, Scand. J. Statist. 6
    (1979) 65.
    """
    found, most = [0.0] * len(p), 0.0
    for rank, k in enumerate(sorted(range(len(p)), key=lambda i: p[i])):
        most = max(most, min(1.0, (len(p) - rank) * p[k]))
        found[k] = most
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Apart:
    """How far two riders' effects lie apart: t, df, p."""

    t: float
    df: float
    p: float


def apart(first: Effect, second: Effect) -> Apart:
    """Whether a change does the same for two riders: their difference by Welch's degrees of freedom."""
    error = hypot(first.se, second.se)
    df = error**4 / (first.se**4 / first.df + second.se**4 / second.df)
    far = (first.share - second.share) / error
    return Apart(t=far, df=df, p=float(2.0 * t.sf(abs(far), df)))
