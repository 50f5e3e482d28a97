"""A piece of the course ridden, as pictures: where ground, wheels, body and rider are, fifty times a second."""

from dataclasses import dataclass
from math import tan

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.halfcar.halfcar import RECORD_HZ
from lynxwort.core.physics.halfcar.kernel import COLUMN, STROKES
from lynxwort.core.physics.halfcar.terrain import GRID_M
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.damping.rides import recording, ridden

Array = NDArray[np.float64]
#: pictures a second, seconds shown, and of what comes before the judged part [s]
FRAMES_HZ, SHOWN_S, BEFORE_S = 50, 5.0, 0.6
#: ground that is sent: every so many points of the grid, and so far ahead and behind [m]
GROUND_EVERY, BEHIND_M, AHEAD_M = 5, 260 * GRID_M, 8.0
#: heights and the pitch of a picture as the kernel records them
PICTURED = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Moving:
    """One ride. kind: of the piece; frames: shape (n, 8), columns place [m], body, pitch [rad], front axle, rear
    axle, rider [m], fork and rear travel used [1]; rest: columns 1 to 5 standing; ground: heights [m] from
    ground_from_m on, ground_step_m apart; to_front_m, to_rear_m: axles from the body's middle; bump_front_share and
    bump_rear_share: of the travel, from where the bump rubber works; lean_ratio: of the fork, across over up.
    """

    kind: str
    speed_m_per_s: float
    frames: Array
    rest: Array
    ground: Array
    ground_from_m: float
    ground_step_m: float
    to_front_m: float
    to_rear_m: float
    bump_front_share: float
    bump_rear_share: float
    lean_ratio: float


def kinds(given: DampingInput) -> list[str]:
    """The pieces ridden on this course."""
    return [c.feature.kind for c in ridden(given)]


def moving(given: DampingInput, kind: str, speed_m_per_s: float | None = None) -> Moving:
    """A piece of this kind ridden with this setup, at the lap's own speed where none is given; the course's first piece
    where it has none of the kind.
    """
    cases = ridden(given)
    case = next((c for c in cases if c.feature.kind == kind), cases[0])
    speed = case.speed_m_per_s if speed_m_per_s is None else speed_m_per_s
    car, ride = recording(given, case.feature, speed)
    profile, _path = case.feature.profile()
    first_row = max(ride.judged - round(BEFORE_S * RECORD_HZ), 0)
    rows = ride.rows[first_row :: round(RECORD_HZ / FRAMES_HZ)][: round(FRAMES_HZ * SHOWN_S)]
    start = first_row / RECORD_HZ * speed
    places = start + np.arange(len(rows)) / FRAMES_HZ * speed
    fork_travel, rear_travel = car.value("fork_travel"), car.value("rear_travel")
    used = rows[:, COLUMN["fork"]] / fork_travel, rows[:, COLUMN["wheel"]] / rear_travel
    first = max(int((start - BEHIND_M) / GRID_M), 0)
    last = first + int((places[-1] - start + AHEAD_M) / GRID_M)
    strokes = car.springs[STROKES]
    rubber = strokes[-1] - car.value("shock_bump_length")
    return Moving(
        kind=case.feature.kind,
        speed_m_per_s=speed,
        frames=np.column_stack([places, rows[:, :PICTURED], *used]),
        rest=ride.rows[0, :PICTURED],
        ground=profile.height_m[first:last:GROUND_EVERY],
        ground_from_m=first * GRID_M,
        ground_step_m=GROUND_EVERY * GRID_M,
        to_front_m=car.value("to_front"),
        to_rear_m=car.value("to_rear"),
        bump_front_share=1.0 - car.value("fork_bump_length") / fork_travel,
        bump_rear_share=float(np.interp(rubber, strokes, np.linspace(0.0, 1.0, len(strokes)))),
        lean_ratio=tan(car.rake_rad),
    )
