"""What is looked at along a round: thinned to what a drawing shows."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: points of a curve along the round
POINTS = 320
#: most points of any curve of a view
MOST_POINTS = 800


def thin(values: Array, count: int = POINTS) -> Array:
    """Evenly picked values, the ends among them: shape (count,)."""
    return values[np.linspace(0, values.size - 1, count).astype(int)]


def crests(values: Array, count: int = POINTS) -> Array:
    """The highest value of each of so many stretches: shape (count,), or all of fewer values."""
    if values.size <= count:
        return values
    edges = np.linspace(0, values.size, count + 1).astype(int)
    return np.maximum.reduceat(values, edges[:-1])


def runs(codes: NDArray[np.int64]) -> list[tuple[int, int, int]]:
    """Runs of equal codes: (from, to, code)."""
    edges = np.flatnonzero(np.diff(codes)) + 1
    starts, ends = np.concatenate([[0], edges]), np.concatenate([edges, [codes.size]])
    return [(int(a), int(b), int(codes[a])) for a, b in zip(starts, ends, strict=True)]
