"""One file cut where the pits are: a long course as stages, so that riders may change and fuel be taken at each."""

import itertools
from collections.abc import Sequence
from typing import Any

import numpy as np

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.race import CriticalHill, GroundSegment, Stage, Zone
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import track_distance

#: the shortest piece that is a course [m]
LEAST_PIECE_M = 100.0


def pits_every(length_m: float, every_m: float, there_m: Sequence[float] = ()) -> list[float]:
    """Where pits stand, one every so far [m], none at start and finish, nor within a tenth of that of one that stands.
    Raises InputRefused for none at all.
    """
    found = [k * every_m for k in range(1, int(length_m / every_m) + 1)]
    near = 0.1 * every_m
    found = [at for at in found if at < length_m - near and all(abs(at - t) > near for t in there_m)]
    if not found:
        raise InputRefused(Refusal(path="every_m", code="too_high", high=length_m, unit="m"))
    return found


def cut_track(track: Track, at_m: Sequence[float]) -> tuple[Track, ...]:
    """The pieces of a track between these distances along it [m], ascending; a point is put in where it is cut, so
    that the pieces' lengths add up to the whole's. Raises InputRefused for a piece that is none.
    """
    along, _east, _north = track_distance(track)
    cuts = [0.0, *at_m, float(along[-1])]
    if any(b - a < LEAST_PIECE_M for a, b in itertools.pairwise(cuts)):
        raise InputRefused(Refusal(path="course", code="no_length", low=LEAST_PIECE_M, unit="m"))
    lat, lon = np.asarray(track.latitude_deg), np.degrees(np.unwrap(np.radians(np.asarray(track.longitude_deg))))
    height = np.asarray(track.height_m) if track.height_m else None
    pieces = []
    for k, (start, end) in enumerate(itertools.pairwise(cuts)):
        inside = np.flatnonzero((along > start + 1e-6) & (along < end - 1e-6))
        at = np.concatenate([[start], along[inside], [end]])
        around = (np.interp(at, along, lon) + 180.0) % 360.0 - 180.0
        made: dict[str, Any] = {
            "name": f"{track.name} {k + 1}"[:120],
            "heights": track.heights,
            "latitude_deg": tuple(np.interp(at, along, lat).tolist()),
            "longitude_deg": tuple(around.tolist()),
            "breaks": tuple(
                int(np.searchsorted(inside, b)) + 1 for b in track.breaks if start + 1e-6 < along[b] <= end + 1e-6
            ),
        }
        if height is not None:
            made["height_m"] = tuple(np.interp(at, along, height).tolist())
        pieces.append(Track.model_validate(made))
    return tuple(pieces)


def may_cut(stage: Stage) -> bool:
    """Whether a stage is one way from its start to its end: laps have their pits where they are."""
    return stage.laps == 1 and stage.hours_s is None


def cut_stage(stage: Stage, at_m: Sequence[float], length_m: float, keys: Sequence[str]) -> list[Stage]:
    """A stage of one lap as stages on the pieces, keys theirs: ground, hills, points and zones go where they lie; a
    refuel point at a cut stands at the start of the piece after it. The schedule of the whole is nobody's piece: it
    is left out. Raises InputRefused for a stage of several laps or of hours.
    """
    if not may_cut(stage):
        raise InputRefused(Refusal(path="stage.laps", code="several_laps"))
    cuts, pieces = [0.0, *at_m, length_m], []
    for k, (start_m, end_m) in enumerate(itertools.pairwise(cuts)):
        last = k == len(keys) - 1

        def here(at_m: float, start_m: float = start_m, end_m: float = end_m, last: bool = last) -> bool:
            return start_m - 1.0 <= at_m and (at_m < end_m - 1.0 or last)

        def moved(items: Sequence[Any], start_m: float = start_m, here: Any = here) -> tuple[Any, ...]:
            return tuple(i.model_copy(update={"at_m": max(i.at_m - start_m, 0.0)}) for i in items if here(i.at_m))

        queue = stage.queue_at_m
        mine = here(queue) if queue is not None else k == 0
        pieces.append(
            stage.model_copy(
                update={
                    "course_key": keys[k],
                    "name": f"{stage.name} {k + 1}".strip(),
                    "ground": _between(stage.ground, start_m, end_m),
                    "zones": _between(stage.zones, start_m, end_m),
                    "hills": tuple(_whole_hill(h, end_m - start_m) for h in moved(stage.hills)),
                    "refuel_points": moved(stage.refuel_points),
                    "crew_points": moved(stage.crew_points),
                    "allowed_s": None,
                    "crawling_s": stage.crawling_s if mine else 0.0,
                    "standing_s": stage.standing_s if mine else 0.0,
                    "queue_at_m": queue - start_m if queue is not None and mine else None,
                    "refuel_after": stage.refuel_after and last,
                    "work_after_s": stage.work_after_s if last else None,
                    "park_after": stage.park_after and last,
                }
            )
        )
    return pieces


def _whole_hill(hill: CriticalHill, length_m: float) -> CriticalHill:
    """A hill that ends with its piece at the latest."""
    return hill.model_copy(update={"length_m": max(min(hill.length_m, length_m - hill.at_m), 2.0)})


def _between(items: Sequence[GroundSegment | Zone], start_m: float, end_m: float) -> tuple[Any, ...]:
    """Stretches cut to a piece and counted from its start."""
    return tuple(
        i.model_copy(update={"from_m": max(i.from_m, start_m) - start_m, "to_m": min(i.to_m, end_m) - start_m})
        for i in items
        if min(i.to_m, end_m) - max(i.from_m, start_m) > 1.0
    )


def overlapping(hills: Sequence[CriticalHill]) -> list[tuple[int, int]]:
    """Which hills lie on the same ground: pairs of places in the list."""
    spans = sorted((h.at_m, h.at_m + h.length_m, k) for k, h in enumerate(hills))
    return [(a[2], b[2]) for i, a in enumerate(spans) for b in spans[i + 1 :] if b[0] < a[1] - 1e-6]
