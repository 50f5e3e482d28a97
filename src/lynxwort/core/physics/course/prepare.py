"""A track and its ground as even arrays that the simulation can ride."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.defaults import (
    CLIMB_UNCERTAINTY,
    CURVATURE_WAVELENGTH_M,
    CURVATURE_WAVELENGTH_OPEN_M,
    HEIGHT_WAVELENGTH_M,
    NIGHT_PACE,
    SHELTERED,
    TIGHT_WAVELENGTH_M,
    WIND_AT_RIDER,
    WIND_UNDER_TREES,
)
from lynxwort.core.model.race import GROUNDS, CriticalHill, GroundSegment, Zone
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.smooth import whittaker
from lynxwort.core.physics.course.surface import lay_surfaces

Array = NDArray[np.float64]
SPACING_M = 2.0
MOST_LENGTH_M = 1_500_000.0  #: of a course; beyond it two points lie too far apart, or it is no course. Assumption
EARTH_RADIUS_M = 6_371_008.8  #: mean radius [IUGG, Moritz 2000]
DEFAULT_GROUND = "single_track"


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A track laid on an even grid. distance_m, height_m, raw_height_m, east_m, north_m: shape (n,); gaps_m: lengths of
    jumps between pieces.
    """

    distance_m: Array
    height_m: Array
    raw_height_m: Array
    east_m: Array
    north_m: Array
    gaps_m: tuple[float, ...]
    heights: str

    @property
    def length_m(self) -> float:
        return float(self.distance_m[-1])


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """What the simulation rides, per step of the grid.

    distance_m, height_m [m], shape (n + 1,); sine [1], curvature_per_m [1/m], ground (index into GROUNDS), surface
    (index into rows), heading_rad [rad] (clockwise from north), exposure [1] to the wind, pace_share [1] of the rider's
    pace (dark, liaison), limit_m_per_s [m/s] by rule, shape (n,); rows: what each surface is worth, shape (k, 7), see
    course.surface.COLUMNS.
    """

    distance_m: Array
    height_m: Array
    sine: Array
    curvature_per_m: Array
    ground: NDArray[np.int64]
    surface: NDArray[np.int64]
    rows: Array
    heading_rad: Array
    exposure: Array
    pace_share: Array
    limit_m_per_s: Array
    climb_m: float
    climb_low_m: float
    climb_high_m: float
    raw_climb_m: float

    @property
    def length_m(self) -> float:
        return float(self.distance_m[-1])

    @property
    def spacing_m(self) -> float:
        return float(self.distance_m[1] - self.distance_m[0])


def track_distance(track: Track) -> tuple[Array, Array, Array]:
    """Distance along the original track [m], and east and north [m] of its first point; the date line is no obstacle.

    Great-circle steps (haversine) on the mean sphere: within 0.3 % of the ellipsoid.
    """
    lat = np.radians(np.asarray(track.latitude_deg))
    lon = np.unwrap(np.radians(np.asarray(track.longitude_deg)))
    chord = np.sin(np.diff(lat) / 2) ** 2 + np.cos(lat[:-1]) * np.cos(lat[1:]) * np.sin(np.diff(lon) / 2) ** 2
    steps = 2.0 * EARTH_RADIUS_M * np.arcsin(np.sqrt(chord))
    east = EARTH_RADIUS_M * (lon - lon[0]) * np.cos(lat.mean())
    north = EARTH_RADIUS_M * (lat - lat[0])
    return np.concatenate([[0.0], np.cumsum(steps)]), east, north


def lay_line(track: Track) -> Line:
    """Lay a track on an even grid of about 2 m, heights smoothed by their source. Raises InputRefused (no_length,
    course_too_long).
    """
    distance, east, north = track_distance(track)
    if distance[-1] > MOST_LENGTH_M:  # before a grid of it is made
        raise InputRefused(Refusal(path="course", code="course_too_long", high=MOST_LENGTH_M, unit="m"))
    keep = np.concatenate([[True], np.diff(distance) > 0.01])
    if distance[-1] < 100.0 or keep.sum() < 2:
        raise InputRefused(Refusal(path="course", code="no_length", low=100.0, unit="m"))
    heights = np.asarray(track.height_m) if track.height_m else np.zeros(distance.size)
    s, east, north, heights = distance[keep], east[keep], north[keep], heights[keep]
    count = max(2, round(s[-1] / SPACING_M))
    grid = np.linspace(0.0, s[-1], count + 1)
    raw = np.interp(grid, s, heights)
    spacing = grid[1]
    smooth = (
        raw
        if track.heights == "none"
        else whittaker(raw, wavelength_m=HEIGHT_WAVELENGTH_M[track.heights], spacing_m=spacing, order=2)
    )
    return Line(
        distance_m=grid,
        height_m=smooth,
        raw_height_m=raw,
        east_m=np.interp(grid, s, east),
        north_m=np.interp(grid, s, north),
        gaps_m=tuple(float(distance[b] - distance[b - 1]) for b in track.breaks),
        heights=track.heights,
    )


def rise_over_run(sine: Array | float) -> Array:
    """Grade as rise over run [1] from the sine of its angle."""
    return np.asarray(sine / np.sqrt(1.0 - np.square(sine)))


def curvature(line: Line, wavelength_m: float) -> Array:
    """Curvature [1/m] of the line after a third-difference filter."""
    spacing = line.distance_m[1]
    xy = whittaker(np.column_stack([line.east_m, line.north_m]), wavelength_m=wavelength_m, spacing_m=spacing, order=3)
    first = np.gradient(xy, spacing, axis=0)
    second = np.gradient(first, spacing, axis=0)
    speed = np.maximum(np.hypot(first[:, 0], first[:, 1]), 0.2)
    return (first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0]) / speed**3


def heading(line: Line) -> Array:
    """Direction of travel per step [rad], clockwise from north."""
    return np.asarray(np.arctan2(np.diff(line.east_m), np.diff(line.north_m)))


def _with_hills(distance_m: Array, height_m: Array, hills: tuple[CriticalHill, ...]) -> Array:
    """Heights with each hill's ramp put in and given back over twice its length, so that the rest of the course
    stays.
    """
    height = height_m.copy()
    for hill in hills:
        top = hill.at_m + hill.length_m
        low, high = np.interp([hill.at_m, top], distance_m, height_m)
        extra = hill.grade / np.hypot(1.0, hill.grade) * hill.length_m - (high - low)
        base = np.interp(distance_m, [hill.at_m, top], [low, high])
        on_hill = (distance_m >= hill.at_m) & (distance_m <= top)
        height = np.where(on_hill, base, height)
        height += np.interp(distance_m, [hill.at_m, top, top + 2.0 * hill.length_m], [0.0, extra, 0.0])
    return height


def zone_effects(middle_m: Array, zones: tuple[Zone, ...]) -> tuple[Array, Array]:
    """Share of the rider's pace [1] and the speed allowed [m/s] on each step."""
    share, limit = np.ones(middle_m.size), np.full(middle_m.size, np.inf)
    for zone in zones:
        inside = (middle_m >= zone.from_m) & (middle_m < zone.to_m)
        if zone.kind == "night":
            share[inside] = NIGHT_PACE
        else:
            limit[inside] = np.minimum(limit[inside], zone.limit_m_per_s or np.inf)
    return share, limit


@dataclass(frozen=True, slots=True, kw_only=True)
class Climb:
    """Height gained [m] after smoothing, its central 90 %, and what believing every point would give."""

    climb_m: float
    climb_low_m: float
    climb_high_m: float
    raw_climb_m: float


def climb_of(height_m: Array, line: Line) -> Climb:
    """Climb [m] of a course laid on a line, its range by the source of heights."""
    rise, raw, unsure = np.diff(height_m), np.diff(line.raw_height_m), CLIMB_UNCERTAINTY[line.heights]
    climb = float(rise[rise > 0].sum())
    return Climb(
        climb_m=climb,
        climb_low_m=climb * (1.0 - unsure),
        climb_high_m=climb * (1.0 + unsure),
        raw_climb_m=float(raw[raw > 0].sum()),
    )


def climb_by_source(track: Track) -> dict[str, Climb]:
    """What a track would climb if its heights came from each source; empty without heights."""
    lines = {s: lay_line(track.told(s)) for s in ("barometer", "satellite", "terrain")} if track.height_m else {}
    return {source: climb_of(line.height_m, line) for source, line in lines.items()}


def noisiest(line: Line, length_m: float) -> slice:
    """Nodes of the stretch of this length [m] where the recording and what is used of it differ most."""
    width = min(int(length_m / line.distance_m[1]), line.distance_m.size - 1)
    total = np.concatenate([[0.0], np.cumsum((line.raw_height_m - line.height_m) ** 2)])
    start = int(np.argmax(total[width:] - total[:-width]))
    return slice(start, start + width)


def prepare_course(
    line: Line,
    ground: tuple[GroundSegment, ...],
    hills: tuple[CriticalHill, ...],
    zones: tuple[Zone, ...] = (),
    *,
    pace_share: float = 1.0,
    state: str = "dry",
    stage: int = 0,
) -> Course:
    """Ground, slopes [1], curvature [1/m] and rules per step. pace_share: of the whole stage (a liaison);
    state: of its ground, where a stretch says nothing.

    Raises InputRefused for what lies beyond the course.
    """
    refusals = [
        Refusal(path=f"race.stages.{stage}.{where}.{i}.{key}", code="beyond_course", high=line.length_m, unit="m")
        for where, key, items in (("ground", "from_m", ground), ("hills", "at_m", hills), ("zones", "from_m", zones))
        for i, item in enumerate(items)
        if getattr(item, key) >= line.length_m
    ]
    if refusals:
        raise InputRefused(*refusals)
    distance = line.distance_m
    middle = 0.5 * (distance[1:] + distance[:-1])
    surfaces, surface, said_tight = lay_surfaces(middle, ground, hills, default=DEFAULT_GROUND, state=state)
    index = surfaces.ground[surface]
    height = _with_hills(distance, line.height_m, hills)
    share, limit = zone_effects(middle, zones)
    tight_names = {GROUNDS.index(g) for g in CURVATURE_WAVELENGTH_M}
    tight = np.isin(index, list(tight_names))
    open_curve, tight_curve = (
        curvature(line, w) for w in (CURVATURE_WAVELENGTH_OPEN_M, min(CURVATURE_WAVELENGTH_M.values()))
    )
    bend = np.where(tight, 0.5 * (tight_curve[1:] + tight_curve[:-1]), 0.5 * (open_curve[1:] + open_curve[:-1]))
    if said_tight.any():
        tightest = curvature(line, TIGHT_WAVELENGTH_M)
        bend = np.where(said_tight, 0.5 * (tightest[1:] + tightest[:-1]), bend)
    rise = np.diff(height)
    climb = climb_of(height, line)
    return Course(
        distance_m=distance,
        height_m=height,
        sine=np.clip(rise / distance[1], -0.95, 0.95),
        curvature_per_m=bend,
        ground=index,
        surface=surface,
        rows=surfaces.rows,
        heading_rad=heading(line),
        exposure=np.where(np.isin(index, [GROUNDS.index(g) for g in SHELTERED]), WIND_UNDER_TREES, WIND_AT_RIDER),
        pace_share=share * pace_share,
        limit_m_per_s=limit,
        climb_m=climb.climb_m,
        climb_low_m=climb.climb_low_m,
        climb_high_m=climb.climb_high_m,
        raw_climb_m=climb.raw_climb_m,
    )


#: arrays of a Course with one value per step that stages can be joined by
PER_STEP = ("sine", "curvature_per_m", "ground", "heading_rad", "exposure", "pace_share", "limit_m_per_s")


def join_courses(courses: Sequence[Course]) -> Course:
    """Stages one after the other as one course, each once. Heights may jump where stages meet; slopes do not."""
    if len(courses) == 1:
        return courses[0]
    starts = np.concatenate([[0.0], np.cumsum([c.length_m for c in courses])])
    joined = {name: np.concatenate([getattr(c, name) for c in courses]) for name in PER_STEP}
    firsts = np.cumsum([0, *(c.rows.shape[0] for c in courses[:-1])])
    return Course(
        distance_m=np.concatenate(
            [*(c.distance_m[:-1] + s for c, s in zip(courses, starts, strict=False)), starts[-1:]]
        ),
        height_m=np.concatenate([*(c.height_m[:-1] for c in courses), courses[-1].height_m[-1:]]),
        climb_m=sum(c.climb_m for c in courses),
        climb_low_m=sum(c.climb_low_m for c in courses),
        climb_high_m=sum(c.climb_high_m for c in courses),
        raw_climb_m=sum(c.raw_climb_m for c in courses),
        surface=np.concatenate([c.surface + f for c, f in zip(courses, firsts, strict=True)]),
        rows=np.concatenate([c.rows for c in courses]),
        **joined,
    )
