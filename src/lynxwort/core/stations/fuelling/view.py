"""Fuelling's drawings: the mixture along the round, the map cell by cell, the needle in its jet."""

from dataclasses import dataclass
from math import pi, sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.along import WHOLE, Part, thin
from lynxwort.core.derived.mixture import jetting_of
from lynxwort.core.learned.mixture import log_cells, log_error
from lynxwort.core.model.bike import Injected, Injection, Jetted
from lynxwort.core.model.readings import LogReading
from lynxwort.core.physics.air.along import DayAir, air_at_reading, lift_air
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.fuelling import logs
from lynxwort.core.physics.fuelling.jets import annulus_area, jet_area, needle_diameter
from lynxwort.core.physics.fuelling.leanness import RangeLimit
from lynxwort.core.physics.fuelling.richness import RichnessCurve, needle_in
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import limits_of
from lynxwort.core.stations.station import Views


@dataclass(frozen=True, slots=True, kw_only=True)
class MapCell:
    """error: richness left against the target [1], None where too little was logged; spread: half of its 90 % range
    [1]; hits: weighted samples; trim: in use [1]; step: proposed on top of it [1].
    """

    error: float | None
    spread: float | None
    hits: float
    trim: float
    step: float


def injection_of(given: FuellingInput) -> Injection:
    """The injection. Raises ValueError of a bike without one."""
    engine = given.engine
    if not isinstance(engine, Injected):
        raise ValueError("no injection")
    return engine.injection


def trims_grid(made: Injection, trims: tuple[float, ...]) -> np.ndarray:
    """Trims as a grid of revs by throttle [1]; none are zeros."""
    shape = len(made.rpm_axis), len(made.throttle_axis)
    return np.reshape(trims, shape) if trims else np.zeros(shape)


def map_cells(given: FuellingInput) -> list[list[MapCell]] | None:
    """The map's cells; None of an engine without a map."""
    return map_table(given) if isinstance(given.engine, Injected) else None


def map_table(given: FuellingInput) -> list[list[MapCell]]:
    """Rows of revs, columns of throttle."""
    made, log, now = injection_of(given), given.mixture.log, given.setup.map_trims
    trims = trims_grid(made, now)
    if log is None:
        return [[MapCell(error=None, spread=None, hits=0.0, trim=float(t), step=0.0) for t in row] for row in trims]
    cells = log_cells(made, log)
    left, spread = log_error(cells, made, log.under.setup.map_trims, now), logs.spread_of(cells)
    wanted = logs.proposed_trims(
        trims, logs.Binned(hits=cells.hits, error=left, sd=cells.sd), two_stroke=given.two_stroke
    )

    def cell(i: int, j: int) -> MapCell:
        hits = float(cells.hits[i, j])
        known = hits >= logs.LEAST_HITS
        return MapCell(
            error=float(left[i, j]) if known else None,
            spread=float(spread[i, j]) if known else None,
            hits=hits,
            trim=float(trims[i, j]),
            step=float((1.0 + wanted[i, j]) / (1.0 + trims[i, j]) - 1.0),
        )

    return [[cell(i, j) for j in range(trims.shape[1])] for i in range(trims.shape[0])]


def trims_wanted(given: FuellingInput) -> tuple[float, ...]:
    """Trims of the next step by the newest log, row by row."""
    return tuple(round((1.0 + c.trim) * (1.0 + c.step) - 1.0, 4) for row in map_table(given) for c in row)


@dataclass(frozen=True, kw_only=True)
class RichnessAlong:
    """Richness at full throttle along the round [1], shape (POINTS,): its lean end in the densest hour, its value in
    the thinnest.
    """

    densest: NDArray[np.float64]
    thinnest: NDArray[np.float64]


def richness_along(given: FuellingInput, part: Part = WHOLE) -> RichnessAlong | None:
    """Richness at full throttle along the round, or a part of it; None without a proven setting."""
    if not proven(given):
        return None
    day, height_m = given.day.air, thin(given.lap.around.whole.height_m, part=part)
    corners = (
        air_at_reading(day, hot=0.0, pressure_shift=1.0, humid=0.0),
        air_at_reading(day, hot=1.0, pressure_shift=-1.0, humid=1.0),
    )
    grid = np.linspace(float(height_m.min()), float(height_m.max()) + 1e-6, 9)
    found = []
    for corner in corners:
        curves = [given.mixture.curve(lift_air(corner, h - day.reading_height_m), given.setup) for h in grid]
        ends = [0.0 if c is None else c.at_full()[1 if corner is corners[0] else 0] for c in curves]
        found.append(np.interp(height_m, grid, ends))
    return RichnessAlong(densest=found[0], thinnest=found[1])


@dataclass(frozen=True, kw_only=True)
class NeedleView:
    """The needle in its jet at one lift. share: of full lift [1]; below_m: distances below the mouth of the jet [m]
    with diameter_m there [m]; gap_m2, main_m2: areas of ring and main jet [m2]; needle_share: how far the ring, not the
    main jet, rules the flow [1].
    """

    share: float
    lift_m: float
    below_m: np.ndarray
    diameter_m: np.ndarray
    bore_m: float
    jet_m: float
    gap_m2: float
    main_m2: float
    at_mouth_m: float
    measured: bool

    @property
    def needle_share(self) -> float:
        return self.main_m2**2 / (self.main_m2**2 + self.gap_m2**2)


def needle_view(given: FuellingInput, at_m: float | None = None) -> NeedleView | None:
    """The needle as it stands at a place of the round [m], at a third of lift without one; None without a jetted
    carburettor.
    """
    engine, setup = given.engine, given.setup
    if not isinstance(engine, Jetted) or setup.main_jet is None:
        return None
    carburettor, jetting, along = engine.carburettor, jetting_of(setup), given.lap.lift
    share = 1.0 / 3.0 if at_m is None or along is None else float(along[given.lap.around.step_at(at_m)])
    lift, middle, needle = (
        share * carburettor.full_lift_m,
        (carburettor.clip_positions + 1) // 2,
        needle_in(carburettor, jetting),
    )
    # a point so far below the mouth is what a slide so much higher would bring there
    below = np.linspace(-16e-3, 34e-3, 51)
    main = jet_area(jetting.main_jet, carburettor.jet_numbering)
    return NeedleView(
        share=share,
        lift_m=lift,
        below_m=below,
        diameter_m=needle_diameter(needle, lift + below, setup.needle_clip, middle),
        bore_m=needle.jet_bore_m,
        jet_m=sqrt(4.0 * main / pi),
        gap_m2=float(annulus_area(needle, np.array([lift]), setup.needle_clip, middle)[0]),
        main_m2=main,
        at_mouth_m=float(needle_diameter(needle, np.array([lift]), setup.needle_clip, middle)[0]),
        measured=carburettor.needle is not None or jetting.needle > 1,
    )


def proven(given: FuellingInput) -> bool:
    """Whether some setting is known to run right on this bike."""
    return given.mixture.good is not None


@dataclass(frozen=True, kw_only=True)
class RichnessView:
    """Richness along the throttle in the densest and the thinnest air; limits: ranges with what is looked at."""

    densest: RichnessCurve
    thinnest: RichnessCurve
    limits: tuple[RangeLimit, ...]

    def same_as(self, other: "RichnessView") -> bool:
        """Whether the other's mixture is the same."""
        return np.allclose(self.densest.value, other.densest.value)


def richness_view(given: FuellingInput) -> RichnessView | None:
    """Richness along the throttle in the densest and the thinnest air, with its limits; None without a proven
    setting.
    """
    dense, thin = given.richness.densest, given.richness.thinnest
    return (
        None if dense is None or thin is None else RichnessView(densest=dense, thinnest=thin, limits=limits_of(given))
    )


def race_air(given: FuellingInput) -> DayAir:
    """The race's air where it was read."""
    return given.day.air


def middle_air(given: FuellingInput) -> AirState:
    """The mean hour of the race where the weather is read."""
    return given.day.states.middle_at_reading


def newest_log(given: FuellingInput) -> LogReading | None:
    """The newest mixture log of this bike."""
    return given.mixture.log


VIEWS: Views = {"along": richness_along, "richness": richness_view, "needle": needle_view, "map": map_cells}
