"""What a stretch of ground is worth to a bike: its ground's row of the table, moved by depth, whoops, water and use.

All of it assumption (core.model.defaults); a lap really ridden corrects the pace, a climbed or failed hill the grip.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.defaults import (
    CUT_UP,
    CUT_UP_SOFT,
    DEPTH_PACE_EXPONENT,
    DEPTH_ROLLING_EXPONENT,
    GROUND,
    TIGHTNESS_PACE,
    USUAL_DEPTH_M,
    USUAL_WHOOP_M,
    WET,
)
from lynxwort.core.model.race import GROUNDS, CriticalHill, GroundSegment

Array = NDArray[np.float64]
#: columns of a row: what the ride's kernel reads, then pace [m/s] and its spread
COLUMNS = ("c0", "c1", "mu_drive", "mu_lateral", "slip", "cap", "cv")


@dataclass(frozen=True, slots=True, kw_only=True)
class Surfaces:
    """The different surfaces of a course. rows: shape (k, 7), see COLUMNS; ground: index into GROUNDS of each, shape
    (k,).
    """

    rows: Array
    ground: NDArray[np.int64]


def surface_row(part: GroundSegment, stage_state: str = "dry") -> tuple[float, ...]:
    """c0 [1], c1 [s/m], drive and lateral grip [1], slip [1], pace [m/s], its spread [1] of one stretch."""
    c0, c1, drive, lateral, slip, cap, spread = GROUND[part.ground]
    if part.depth_m is not None and part.ground in USUAL_DEPTH_M:
        share = part.depth_m / USUAL_DEPTH_M[part.ground]
        c0, cap = c0 * share**DEPTH_ROLLING_EXPONENT, cap * share**DEPTH_PACE_EXPONENT
    if part.ground == "whoops":
        length, height = part.whoop_length_m or USUAL_WHOOP_M[0], part.whoop_height_m or USUAL_WHOOP_M[1]
        cap *= length / USUAL_WHOOP_M[0] * (USUAL_WHOOP_M[1] / height) ** 0.5
        c1 *= height / USUAL_WHOOP_M[1]
    cap *= TIGHTNESS_PACE[part.tightness]
    state = part.state or stage_state
    if state != "dry":
        rolling, grip, pace = WET[part.ground] if state == "wet" else CUT_UP.get(part.ground, CUT_UP_SOFT)
        c0, drive, lateral, cap = c0 * rolling, drive * grip, lateral * grip, cap * pace
    return c0, c1, drive, lateral, slip, min(cap, 45.0), spread


def lay_surfaces(
    middle_m: Array, ground: tuple[GroundSegment, ...], hills: tuple[CriticalHill, ...], *, default: str, state: str
) -> tuple[Surfaces, NDArray[np.int64], NDArray[np.bool_]]:
    """The surfaces of a course (units: COLUMNS), the index of each step's [1], and whether a step is said to be
    tight. Hills bring their own ground.
    """
    whole = float(middle_m[-1]) + 1.0
    looks: dict[tuple[object, ...], int] = {}
    parts: list[GroundSegment] = []
    index = np.zeros(middle_m.size, dtype=np.int64)
    tight = np.zeros(middle_m.size, dtype=bool)

    def _lay(part: GroundSegment, inside: NDArray[np.bool_]) -> None:
        if part.look not in looks:
            looks[part.look] = len(parts)
            parts.append(part)
        index[inside], tight[inside] = looks[part.look], part.tightness == "tight"

    _lay(GroundSegment(from_m=0.0, to_m=whole, ground=default), np.ones(middle_m.size, dtype=bool))  # type: ignore[arg-type]
    for part in ground:
        _lay(part, (middle_m >= part.from_m) & (middle_m < part.to_m))
    for hill in hills:
        around = next((g for g in ground if g.from_m <= hill.at_m < g.to_m and g.ground == hill.ground), None)
        _lay(
            around or GroundSegment(from_m=0.0, to_m=whole, ground=hill.ground),
            (middle_m >= hill.at_m) & (middle_m < hill.at_m + hill.length_m),
        )
    rows = np.array([surface_row(p, state) for p in parts])
    return Surfaces(rows=rows, ground=np.array([GROUNDS.index(p.ground) for p in parts], dtype=np.int64)), index, tight
