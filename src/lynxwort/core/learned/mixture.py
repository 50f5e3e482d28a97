"""What a mixture log says of the map's cells, in place of what was assumed."""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.bike import Injection
from lynxwort.core.model.readings import LogReading
from lynxwort.core.physics.fuelling.logs import LEAST_HITS, Binned, spread_of
from lynxwort.core.physics.fuelling.richness import RichnessCurve


def log_cells(injection: Injection, log: LogReading) -> Binned:
    """A log's cells on the map's axes; cells that lie on none of them are left out."""
    rpm, throttle = list(injection.rpm_axis), list(injection.throttle_axis)
    shape = len(rpm), len(throttle)
    hits, error, sd = np.zeros(shape), np.full(shape, np.nan), np.zeros(shape)
    for cell in log.cells:
        if cell.rpm in rpm and cell.throttle in throttle:
            at = rpm.index(cell.rpm), throttle.index(cell.throttle)
            hits[at], error[at], sd[at] = cell.hits, cell.error, cell.sd
    return Binned(hits=hits, error=error, sd=sd)


def over_log(
    curve: RichnessCurve,
    moved: RichnessCurve,
    cells: Binned,
    injection: Injection,
    then: tuple[float, ...],
    now: tuple[float, ...],
) -> RichnessCurve:
    """A curve whose openings that a log knows say what the log says, moved by what has changed since.

    moved: richness that all but the cells' own trims bring against the log's setting; then, now: trims of the cells.
    """
    shape = cells.hits.shape
    known: NDArray[np.bool_] = np.array(cells.hits >= LEAST_HITS, dtype=bool)
    if not known.any():
        return curve
    step = (1.0 + (np.reshape(now, shape) if now else np.zeros(shape))) / (
        1.0 + (np.reshape(then, shape) if then else np.zeros(shape))
    )
    left = np.where(known, (1.0 + np.where(known, cells.error, 0.0)) * step - 1.0, 0.0)
    spread = np.where(known, spread_of(cells), 0.0)
    weight = np.where(known, cells.hits, 0.0)
    columns: NDArray[np.bool_] = np.any(known, axis=0)  # type: ignore[assignment]
    total = np.maximum(weight.sum(axis=0), 1e-9)
    ends = (
        (left * weight).sum(axis=0) / total,
        np.where(known, left - spread, np.inf).min(axis=0),
        np.where(known, left + spread, -np.inf).max(axis=0),
    )
    axis, throttle = np.asarray(injection.throttle_axis), curve.throttle
    below = np.clip(np.searchsorted(axis, throttle, side="right") - 1, 0, axis.size - 2)
    seen = columns[below] & columns[below + 1]
    made = []
    for own, move, end in zip(
        (curve.value, curve.low, curve.high), (moved.value, moved.low, moved.high), ends, strict=True
    ):
        told = (1.0 + np.interp(throttle, axis, np.where(columns, end, 0.0))) * (1.0 + move) - 1.0
        made.append(np.where(seen, told, own))
    return RichnessCurve(throttle=throttle, value=made[0], low=made[1], high=made[2])


def log_error(cells: Binned, injection: Injection, then: tuple[float, ...], now: tuple[float, ...]) -> np.ndarray:
    """Error [1] that is left in each cell with these trims, from what was logged with those; nan where nothing was
    logged.
    """
    shape = cells.hits.shape
    step = (1.0 + (np.reshape(now, shape) if now else np.zeros(shape))) / (
        1.0 + (np.reshape(then, shape) if then else np.zeros(shape))
    )
    return np.asarray((1.0 + cells.error) * step - 1.0)
