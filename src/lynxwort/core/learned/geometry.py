"""Lengths, heights and angles of the standing bike, by tape and angle gauge."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import sqrt

from lynxwort.core.learned.sag import QUESTION_SD, TAPE_SD_M
from lynxwort.core.model.bike import Frame
from lynxwort.core.model.readings import GeometryReading

#: spreads of what the facts say before it is measured, by quantity [m, rad] (assumption), and of an angle gauge
GEOMETRY_PRIOR = {"wheelbase": 0.008, "rake": 0.008, "seat_height": 0.012, "ground_clearance": 0.012}
GAUGE_SD_RAD = 0.004
FIELD_OF = {
    "wheelbase": "wheelbase_m",
    "rake": "rake_rad",
    "seat_height": "seat_height_m",
    "ground_clearance": "ground_clearance_m",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Unexplained:
    """A measured length or angle that the geometry does not explain. miss_si: measured - computed [m, rad]; because:
    what could explain it.
    """

    reading_id: str
    of: str
    miss_si: float
    because: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Geometry:
    """frame: corrected by what was measured; used: reading ids."""

    frame: Frame
    used: tuple[str, ...]
    unexplained: tuple[Unexplained, ...]


def _because(frame: Frame, of: str, miss: float) -> str:
    """What could explain a miss: the axle moved in its adjusters, tubes moved in the clamps, or a reading in another
    state.
    """
    if of == "wheelbase":
        return "axle_moved" if abs(miss) <= 2.0 * frame.adjuster_half_range_m + 0.005 else "tape"
    if of == "rake":
        return "tubes_moved" if abs(miss) <= 0.03 else "tape"
    return "other_state" if -0.45 * frame.rear_travel_m <= miss <= 0.45 * frame.rear_travel_m else "tape"


def learn_geometry(
    frame: Frame, measured: Sequence[GeometryReading], predict: Callable[[Frame, GeometryReading], float]
) -> Geometry:
    """The frame corrected by what was measured; each reading pulls by its weight, one beyond 4 sd is left out and
    questioned.

    predict: what a frame says of a reading's quantity, as the bike was when it was taken.
    """
    used, unexplained = [], []
    variance = {of: sd**2 for of, sd in GEOMETRY_PRIOR.items()}
    for r in measured:
        noise = (GAUGE_SD_RAD if r.of == "rake" else TAPE_SD_M) ** 2
        value = r.value_rad if r.of == "rake" else r.value_m
        miss = (value or 0.0) - predict(frame, r)
        if abs(miss) > QUESTION_SD * sqrt(variance[r.of] + noise):
            unexplained.append(Unexplained(reading_id=r.id, of=r.of, miss_si=miss, because=_because(frame, r.of, miss)))
            continue
        weight = variance[r.of] / (variance[r.of] + noise)
        frame = frame.model_copy(update={FIELD_OF[r.of]: getattr(frame, FIELD_OF[r.of]) + weight * miss})
        variance[r.of] *= 1.0 - weight
        used.append(r.id)
    return Geometry(frame=frame, used=tuple(used), unexplained=tuple(unexplained))
