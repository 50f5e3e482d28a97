"""Baseline's drawing: a lap as it was ridden against the model's."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.along import WHOLE, Part, thin
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.stations.station import Views

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedView:
    """Speed [m/s] by the model at even places of the round, shape (POINTS,), and as it was ridden over part of it,
    from_m to to_m [m].
    """

    model_m_per_s: Array
    ridden_m_per_s: Array
    from_m: float
    to_m: float


def ridden(up: Upstream, part: Part = WHOLE) -> SpeedView | None:
    """Over the round, or a part of it: this rider's newest ridden lap; None without one."""
    seen = up.road.ridden_speed()
    if seen is None:
        return None
    return SpeedView(
        model_m_per_s=thin(up.lap.whole.speed_m_per_s, part=part),
        ridden_m_per_s=thin(seen.speed_m_per_s),
        from_m=seen.from_m,
        to_m=seen.to_m,
    )


VIEWS: Views = {"ridden": ridden}
