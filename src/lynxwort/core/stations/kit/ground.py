"""What ground the lap is, by time and by way, and what a tyre or a brake finds on it."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.drive.simulation import surface_table
from lynxwort.core.physics.kit.tyres import DODGED_M_PER_S, EDGED
from lynxwort.core.stations.kit.input import KitInput

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class GroundOf:
    """time_shares: of the lap's time by ground; metres: of the lap by ground; lateral: the least lateral grip met on
    each [1]; edged_m: metres of ground with edges, edged_m_per_s: the mean pace there, as one dodges.
    """

    time_shares: dict[str, float]
    metres: dict[str, float]
    lateral: dict[str, float]
    edged_m: float
    edged_m_per_s: float | None


def ground_of(given: KitInput) -> GroundOf:
    """Made once for a lap."""
    return given.once("ground", lambda: given.cache.get("kit_ground", given.lap, lambda: _ground(given)))


def _ground(given: KitInput) -> GroundOf:
    course, ride = given.lap.around.whole, given.lap.whole
    times = np.bincount(course.ground, weights=ride.time_s, minlength=len(GROUNDS))
    metres = np.bincount(course.ground, weights=ride.step_m, minlength=len(GROUNDS))
    table = surface_table(course, given.lap.ride_input).reshape(-1, 5)
    here = [i for i in range(len(GROUNDS)) if metres[i] > 0.0]
    lateral = {GROUNDS[i]: float(table[np.unique(course.surface[course.ground == i]), 3].min()) for i in here}
    edged = np.isin(course.ground, [GROUNDS.index(g) for g in EDGED])
    edged_s, edged_m = float(ride.time_s[edged].sum()), float(ride.step_m[edged].sum())
    return GroundOf(
        time_shares={GROUNDS[i]: float(times[i] / times.sum()) for i in here},
        metres={GROUNDS[i]: float(metres[i]) for i in here},
        lateral=lateral,
        edged_m=edged_m,
        edged_m_per_s=min(edged_m / edged_s, DODGED_M_PER_S) if edged_s > 0.0 else None,
    )


def night(given: KitInput) -> NDArray[np.bool_]:
    """Which steps of the round lie in the dark."""
    return given.once("night", lambda: _night(given))


def _night(given: KitInput) -> NDArray[np.bool_]:
    around, dark = given.lap.around, np.zeros(given.lap.around.whole.sine.size, dtype=bool)
    middle = 0.5 * (around.whole.distance_m[1:] + around.whole.distance_m[:-1])
    for start, stage in zip(around.starts_m, given.clock.stages, strict=False):
        for zone in stage.zones:
            if zone.kind == "night":
                dark |= (middle >= start + zone.from_m) & (middle < start + zone.to_m)
    return dark
