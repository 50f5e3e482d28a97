"""Mixture logs: what is said of revs, throttle and lambda over time, cleaned, lag taken out, binned on a map's axes,
turned into trims.

Method: the gauge's lag is what makes lambda tell most of revs and throttle: the lag with the least spread within the
cells (a one-way analysis of variance, any text on statistics). Bilinear weights share a sample among four cells.
Two-stroke exhaust is not the trapped mixture: only differences between cells count, and nothing is ever leaned by it.
Limits of a step: assumption.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.defaults import Z90

Array = NDArray[np.float64]
#: columns a log may have: what it is, and words its heading may hold
HEADINGS = {
    "time": ("time", "zeit", "sec", "[s]", "[ms]"),
    "rpm": ("rpm", "revs", "engine speed", "drehzahl"),
    "throttle": ("throttle", "tps", "opening", "gas"),
    "lambda": ("lambda", "λ"),
    "afr": ("afr", "air/fuel", "air fuel"),
    "coolant": ("coolant", "clt", "water", "engine temp"),
}
GAUGE_AFR = 14.7
#: a gauge beyond these is not reading exhaust
LAMBDA_LOW, LAMBDA_HIGH = 0.55, 1.45
WARM_C, COLD_START_S = 60.0, 45.0
#: a throttle that moves faster than this [1/s] is a transient, and so long after [s]; shut and above idle it is
#: overrun
TRANSIENT_PER_S, SETTLE_S, SHUT = 0.6, 0.35, 0.02
#: a cell with fewer weighted samples says nothing; this many weigh as much as what was known before; most a
#: step trims
LEAST_HITS, PRIOR_HITS = 20.0, 30.0
MOST_RICHER, MOST_LEANER = 0.06, 0.03
#: what a wideband gauge itself may lie off [1] (assumption)
GAUGE_SPREAD = 0.01
_LAG_ROWS = 40_000


@dataclass(frozen=True, kw_only=True)
class Log:
    """Channels of equal length. time_s rising [s], rpm, throttle 0 to 1, lambda_seen [1]; coolant_c [°C] or None."""

    time_s: Array
    rpm: Array
    throttle: Array
    lambda_seen: Array
    coolant_c: Array | None = None


def channels(columns: dict[str, Array], names: dict[str, str], *, gauge_afr: float = GAUGE_AFR) -> Log:
    """A log [s, rpm, 1] from columns. names: heading of each. Milliseconds, percent and air/fuel on the gauge's
    scale are told apart. Raises InputRefused.
    """
    for need in ("time", "rpm", "throttle"):
        if need not in columns:
            raise InputRefused(Refusal(path="file", code="column_missing", message=need))
    if "lambda" not in columns and "afr" not in columns:
        raise InputRefused(Refusal(path="file", code="column_missing", message="lambda"))
    time = columns["time"] * (1e-3 if "ms" in names.get("time", "").lower() else 1.0)
    back = np.flatnonzero(np.diff(time) < 0.0)
    if back.size:
        raise InputRefused(Refusal(path=f"line.{int(back[0]) + 2}", code="time_not_rising"))
    throttle = columns["throttle"]
    if float(np.percentile(throttle, 99)) > 1.5:
        throttle = throttle / 100.0
    seen = columns["lambda"] if "lambda" in columns else columns["afr"] / gauge_afr
    if time.size < 50 or float(time[-1] - time[0]) < 5.0:
        raise InputRefused(Refusal(path="file", code="log_too_short"))
    if float(np.median(seen)) > 5.0:
        raise InputRefused(Refusal(path="file", code="lambda_is_afr"))
    return Log(
        time_s=time,
        rpm=columns["rpm"],
        throttle=np.clip(throttle, 0.0, 1.0),
        lambda_seen=seen,
        coolant_c=columns.get("coolant"),
    )


def warm_rows(log: Log) -> NDArray[np.bool_]:
    """Rows [1] with a warm engine: by the coolant, else after the first while of a long log."""
    warm = log.time_s > log.time_s[0] + COLD_START_S if log.coolant_c is None else log.coolant_c >= WARM_C
    if log.coolant_c is None and float(log.time_s[-1] - log.time_s[0]) < 4.0 * COLD_START_S:
        warm = np.ones(log.time_s.size, dtype=bool)
    return np.asarray(warm)


def keep(log: Log, *, idle_rpm: float) -> NDArray[np.bool_]:
    """Rows [1] that count: warm, steady, on the gas, the gauge reading exhaust."""
    warm = warm_rows(log)
    gauge = (log.lambda_seen > LAMBDA_LOW) & (log.lambda_seen < LAMBDA_HIGH)
    overrun = (log.throttle < SHUT) & (log.rpm > 1.4 * idle_rpm)
    rate = np.abs(np.gradient(log.throttle, np.maximum(log.time_s, np.arange(log.time_s.size) * 1e-9)))
    moved = np.flatnonzero(rate > TRANSIENT_PER_S)
    transient = np.zeros(log.time_s.size + 1)
    if moved.size:
        ends = np.searchsorted(log.time_s, log.time_s[moved] + SETTLE_S, side="right")
        np.add.at(transient, moved, 1.0)
        np.add.at(transient, ends, -1.0)
    return np.asarray(warm & gauge & ~overrun & (np.cumsum(transient[:-1]) <= 0) & (log.rpm > 0.6 * idle_rpm))


def _place(values: Array, axis: Array) -> tuple[NDArray[np.int64], Array]:
    """Lower index on an axis and share of the upper neighbour; values beyond its ends stay at the ends."""
    inside = np.clip(values, axis[0], axis[-1])
    low = np.clip(np.searchsorted(axis, inside, side="right") - 1, 0, axis.size - 2)
    return low, (inside - axis[low]) / (axis[low + 1] - axis[low])


@dataclass(frozen=True, kw_only=True)
class Binned:
    """A log on a map's axes. hits, error, sd: shape (revs, throttle); error [1] against the target, + = rich, nan where
    nothing fell.
    """

    hits: Array
    error: Array
    sd: Array


def target_lambda(throttle: Array, *, part: float, full: float) -> Array:
    """Lambda [1] aimed at over the throttle [1]: even to 0.4, then evenly to full."""
    return np.asarray(part + (full - part) * np.clip((np.asarray(throttle) - 0.4) / 0.6, 0.0, 1.0))


def _cells(
    rpm: Array, throttle: Array, error: Array, rpm_axis: Array, throttle_axis: Array
) -> tuple[Array, Array, Array]:
    """Sums over cells with bilinear weights: of weights, weighted errors, weighted squares."""
    (i, u), (j, v) = _place(rpm, rpm_axis), _place(throttle, throttle_axis)
    width, size = throttle_axis.size, rpm_axis.size * throttle_axis.size
    sums = np.zeros((3, size))
    for di, wi in ((0, 1.0 - u), (1, u)):
        for dj, wj in ((0, 1.0 - v), (1, v)):
            weight, cell = wi * wj, (i + di) * width + j + dj
            for k, values in enumerate((weight, weight * error, weight * error**2)):
                sums[k] += np.bincount(cell, weights=values, minlength=size)
    return sums[0], sums[1], sums[2]


def bin_log(rpm: Array, throttle: Array, error: Array, rpm_axis: Array, throttle_axis: Array) -> Binned:
    """Samples on a map's axes [rpm, 1]."""
    hits, total, squares = _cells(rpm, throttle, error, rpm_axis, throttle_axis)
    with np.errstate(invalid="ignore", divide="ignore"):
        mean = np.where(hits > 0, total / hits, np.nan)
        sd = np.sqrt(np.maximum(squares / hits - mean**2, 0.0))
    shape = (rpm_axis.size, throttle_axis.size)
    return Binned(hits=hits.reshape(shape), error=mean.reshape(shape), sd=np.where(hits > 0, sd, 0.0).reshape(shape))


def lagged(log: Log, even_s: float, slow_s: float) -> Array:
    """Lambda [1] as it was when it was made: the gauge tells it even_s + slow_s x 3000 / rpm later."""
    lag = even_s + slow_s * 3000.0 / np.maximum(log.rpm, 500.0)
    return np.interp(log.time_s + lag, log.time_s, log.lambda_seen)


def find_lag(log: Log, good: NDArray[np.bool_], rpm_axis: Array, throttle_axis: Array) -> tuple[float, float]:
    """The lag (even_s, slow_s) [s] with the least spread of lambda within the cells of revs and throttle.

    good: rows to look at. Transients and overrun belong among them: they are what tells the lag.
    """
    step = max(log.time_s.size // _LAG_ROWS, 1)
    # a thinned log must keep its course in time: a stretch from its middle
    if step > 1:
        middle = slice((log.time_s.size - _LAG_ROWS) // 2, (log.time_s.size + _LAG_ROWS) // 2)
        log = Log(
            time_s=log.time_s[middle],
            rpm=log.rpm[middle],
            throttle=log.throttle[middle],
            lambda_seen=log.lambda_seen[middle],
        )
        good = good[middle]
    rpm, throttle = log.rpm[good], log.throttle[good]
    if rpm.size < 50:
        return 0.0, 0.0

    def spread(even_s: float, slow_s: float) -> float:
        error = np.clip(lagged(log, even_s, slow_s)[good], LAMBDA_LOW, LAMBDA_HIGH)
        hits, total, squares = _cells(rpm, throttle, error, rpm_axis, throttle_axis)
        seen = hits > 0
        return float((squares[seen] - total[seen] ** 2 / hits[seen]).sum())

    tried = [(spread(e, s), e, s) for e in np.arange(0.0, 1.21, 0.08) for s in (0.0, 0.1, 0.2, 0.35)]
    _, even, slow = min(tried)
    tried = [
        (spread(max(even + e, 0.0), max(slow + s, 0.0)), max(even + e, 0.0), max(slow + s, 0.0))
        for e in np.arange(-0.08, 0.081, 0.02)
        for s in (-0.05, 0.0, 0.05)
    ]
    _, even, slow = min(tried)
    return float(even), float(slow)


def spread_of(binned: Binned) -> Array:
    """How sure each cell's error is [1], half of 90 %."""
    return np.asarray(GAUGE_SPREAD + Z90 * binned.sd / np.sqrt(np.maximum(binned.hits, 1.0)))


def proposed_trims(present: Array, binned: Binned, *, two_stroke: bool) -> Array:
    """Trims [1] of the next step: against the error, limited, weighted by the samples; cells that say nothing stay.

    Nothing is leaned further than to where the lean end of what is known of it meets the target. A two-stroke's log
    only says which cells are leaner than the rest: those are enriched, and nothing is leaned.
    """
    known = binned.hits >= LEAST_HITS
    error = np.where(known, binned.error, 0.0)
    if two_stroke:
        middle = float(np.average(error[known], weights=binned.hits[known])) if known.any() else 0.0
        error = np.where(known, np.minimum(error - middle, 0.0), 0.0)
    error = np.where(error > 0.0, np.maximum(error - spread_of(binned), 0.0), error)
    weight = np.where(known, binned.hits / (binned.hits + PRIOR_HITS), 0.0)
    step = np.clip(weight * (1.0 / (1.0 + error) - 1.0), -MOST_LEANER, MOST_RICHER)
    return np.asarray(np.clip((1.0 + present) * (1.0 + step) - 1.0, -0.4, 0.6))


def rms(error: Array, hits: Array) -> float | None:
    """Root mean square error [1] over the samples that count; None when there are too few."""
    known = hits >= LEAST_HITS
    if not known.any():
        return None
    return float(np.sqrt(np.average(error[known] ** 2, weights=hits[known])))


@dataclass(frozen=True, kw_only=True)
class Judged:
    """A log as it was understood. lag: (even_s, slow_s) [s]; kept: share of the rows that count [1]; lag_s: at the
    middle of the revs [s].
    """

    binned: Binned
    lag: tuple[float, float]
    lag_s: float
    kept: float
    rows: int


def judge(log: Log, *, rpm_axis: Array, throttle_axis: Array, part: float, full: float, idle_rpm: float) -> Judged:
    """A log cleaned, its lag [s] taken out, on a map's axes [rpm, 1] against the target. Raises InputRefused
    when nothing of it counts.
    """
    good = keep(log, idle_rpm=idle_rpm)
    if int(good.sum()) < 30:
        raise InputRefused(Refusal(path="file", code="nothing_counts"))
    lag = find_lag(log, warm_rows(log) & (log.rpm > 0.6 * idle_rpm), rpm_axis, throttle_axis)
    seen = lagged(log, *lag)[good]
    error = target_lambda(log.throttle[good], part=part, full=full) / seen - 1.0
    binned = bin_log(log.rpm[good], log.throttle[good], np.clip(error, -0.6, 1.0), rpm_axis, throttle_axis)
    middle = lag[0] + lag[1] * 3000.0 / max(float(np.median(log.rpm[good])), 500.0)
    return Judged(binned=binned, lag=lag, lag_s=middle, kept=float(good.mean()), rows=int(log.time_s.size))


def read_grid(grid: Array, rpm_axis: Array, throttle_axis: Array, rpm: Array, throttle: Array) -> Array:
    """A map's values [1] at each sample, bilinear; beyond its ends the ends stay. grid: shape (revs, throttle)."""
    (i, u), (j, v) = _place(rpm, rpm_axis), _place(throttle, throttle_axis)
    low = grid[i, j] * (1.0 - v) + grid[i, j + 1] * v
    high = grid[i + 1, j] * (1.0 - v) + grid[i + 1, j + 1] * v
    return np.asarray(low * (1.0 - u) + high * u)
