"""The map of an injected bike cell by cell: what the newest log leaves of its error, what is trimmed, what to trim next."""

from dataclasses import dataclass

import numpy as np

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.learned.mixture import log_cells, log_error
from lynxwort.core.model.bike import Injected, Injection
from lynxwort.core.physics.fuelling import logs


@dataclass(frozen=True, slots=True, kw_only=True)
class MapCell:
    """error: richness left against the target [1], None where too little was logged; spread: half of its 90 % range [1]; hits: weighted samples;
    trim: in use [1]; step: proposed on top of it [1].
    """

    error: float | None
    spread: float | None
    hits: float
    trim: float
    step: float


def injection_of(work: Upstream) -> Injection:
    """The injection. Raises ValueError of a bike without one."""
    engine = work.inputs.bike.engine
    if not isinstance(engine, Injected):
        raise ValueError("no injection")
    return engine.injection


def trims_grid(made: Injection, trims: tuple[float, ...]) -> np.ndarray:
    """Trims as a grid of revs by throttle [1]; none are zeros."""
    shape = len(made.rpm_axis), len(made.throttle_axis)
    return np.reshape(trims, shape) if trims else np.zeros(shape)


def map_table(work: Upstream) -> list[list[MapCell]]:
    """Rows of revs, columns of throttle."""
    made, log, now = injection_of(work), work.mixture.log, work.inputs.setup.map_trims
    trims = trims_grid(made, now)
    if log is None:
        return [[MapCell(error=None, spread=None, hits=0.0, trim=float(t), step=0.0) for t in row] for row in trims]
    cells = log_cells(made, log)
    left, spread = log_error(cells, made, log.under.setup.map_trims, now), logs.spread_of(cells)
    wanted = logs.proposed_trims(trims, logs.Binned(hits=cells.hits, error=left, sd=cells.sd), two_stroke=work.inputs.bike.is_two_stroke)

    def cell(i: int, j: int) -> MapCell:
        hits = float(cells.hits[i, j])
        known = hits >= logs.LEAST_HITS
        return MapCell(error=float(left[i, j]) if known else None, spread=float(spread[i, j]) if known else None, hits=hits, trim=float(trims[i, j]),
                       step=float((1.0 + wanted[i, j]) / (1.0 + trims[i, j]) - 1.0))  # fmt: skip

    return [[cell(i, j) for j in range(trims.shape[1])] for i in range(trims.shape[0])]


def trims_wanted(work: Upstream) -> tuple[float, ...]:
    """Trims of the next step by the newest log, row by row."""
    return tuple(round((1.0 + c.trim) * (1.0 + c.step) - 1.0, 4) for row in map_table(work) for c in row)
