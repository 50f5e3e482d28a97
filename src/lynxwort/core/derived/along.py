"""What is looked at along a round: thinned to what a drawing shows."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: points of a curve along the round
POINTS = 320
#: most points of any curve of a view
MOST_POINTS = 800


#: a part of a round: the shares of its points at which it begins and ends [1]
Part = tuple[float, float]
WHOLE: Part = (0.0, 1.0)


def thin(values: Array, count: int = POINTS, *, part: Part = WHOLE) -> Array:
    """Evenly picked values of a part, its ends among them: shape (count,)."""
    last = values.size - 1
    return values[np.linspace(part[0] * last, part[1] * last, count).astype(int)]


def crests(values: Array, count: int = POINTS, *, part: Part = WHOLE) -> Array:
    """The highest value of each of so many stretches of a part: shape (count,), or all of fewer values."""
    values = values[int(part[0] * values.size) : max(round(part[1] * values.size), int(part[0] * values.size) + 1)]
    if values.size <= count:
        return values
    edges = np.linspace(0, values.size, count + 1).astype(int)
    return np.maximum.reduceat(values, edges[:-1])


def runs(codes: NDArray[np.int64]) -> list[tuple[int, int, int]]:
    """Runs of equal codes: (from, to, code)."""
    edges = np.flatnonzero(np.diff(codes)) + 1
    starts, ends = np.concatenate([[0], edges]), np.concatenate([edges, [codes.size]])
    return [(int(a), int(b), int(codes[a])) for a, b in zip(starts, ends, strict=True)]
