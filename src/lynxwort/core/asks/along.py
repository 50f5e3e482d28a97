"""The round as it is looked along: what happens at one place."""

from dataclasses import dataclass

import numpy as np

from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.course.prepare import rise_over_run
from lynxwort.core.physics.drive.kernel import LIMITS
from lynxwort.core.physics.drive.simulation import Ride
from lynxwort.core.stations.drive.input import DriveInput


def length_m(up: Upstream) -> float:
    """Length of the round [m]."""
    return up.around.whole.length_m


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """What is at a place of the round and what the model does there. stage: its index; throttle_share: of full opening,
    None of a motor.
    """

    at_m: float
    stage: int
    ground: str
    grade: float
    gear: int
    geared: bool
    rpm: float
    speed_m_per_s: float
    throttle_share: float | None
    limit: str


def _place(given: DriveInput, ride: Ride, at_m: float, i: int) -> Place:
    around, lift = given.lap.around, given.lap.lift
    return Place(
        at_m=at_m,
        stage=around.stage_at(at_m),
        ground=GROUNDS[int(around.whole.ground[i])],
        grade=float(rise_over_run(float(around.whole.sine[i]))),
        gear=int(ride.gear[i]),
        geared=len(given.lap.ride_input.overall_ratios) > 1,
        rpm=float(ride.crank_rad_per_s[i]) * 60.0 / (2.0 * np.pi),
        speed_m_per_s=float(ride.speed_m_per_s[i]),
        throttle_share=None if lift is None else float(lift[i]),
        limit=LIMITS[int(ride.limit[i])],
    )


def place(given: DriveInput, at_m: float) -> Place:
    """One place of the round [m]."""
    return _place(given, given.lap.whole, at_m, given.lap.around.step_at(at_m))


def places(given: DriveInput, count: int, reach_m: tuple[float, float] | None = None) -> list[Place]:
    """Evenly spaced places of the round, or of a reach of it, its ends among them."""
    course = given.lap.around.whole
    at = np.linspace(*(reach_m or (0.0, course.length_m)), count)
    steps = np.minimum(np.searchsorted(course.distance_m, at, side="right") - 1, course.sine.size - 1)
    return [_place(given, given.lap.whole, a, i) for a, i in zip(at.tolist(), steps.tolist(), strict=True)]


def lap_of(given: DriveInput) -> Lap:
    """The round as it is ridden, as a key of what is made of it."""
    return given.lap


def document(up: Upstream) -> Inputs:
    """The document that a report speaks of."""
    return up.inputs
