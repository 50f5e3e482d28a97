"""What pulls and what holds back, over road speeds and along the lap."""

import itertools
from math import hypot, sqrt

import numpy as np

from lynxwort.core.derived.springs import Array
from lynxwort.core.model.bike import Electric, Engine
from lynxwort.core.model.defaults import (
    DRAG_LOG_SD,
    GEARS_OF_KIND_LOG_SD,
    GROUND,
    LIMITER_ASSUMED_LOG_SD,
    LIMITER_GIVEN_LOG_SD,
    ROLLING_LOG_SD,
    Z90,
)
from lynxwort.core.physics.drive.engine import engine_curve
from lynxwort.core.physics.drive.gearing import rpm_after_upshift, speed_at
from lynxwort.core.physics.drive.pull import TopSpeed, resistance, top_speed, wheel_force
from lynxwort.core.physics.drive.simulation import RideInput
from lynxwort.core.stations.drive.input import DriveInput

#: top speed by power, drag and rolling, where power ends it: d ln speed / d ln of each (tried on bikes of 25 to 45 kW;
#: assumption)
TOP_SPEED_ELASTICITY = (0.33, -0.27, -0.08)


def pulls(ride_input: RideInput, speed_m_per_s: Array, power_share: float) -> list[Array]:
    """Full-throttle force [N] at the wheel in each gear over road speeds, at a share of the power, on hardpack."""
    curve = engine_curve(ride_input.engine, ride_input.mode_share)
    return [
        wheel_force(curve, ride_input, r, speed_m_per_s, slip=GROUND["hardpack"][4], power_share=power_share)
        for r in ride_input.overall_ratios
    ]


def gear_spans(ride_input: RideInput) -> list[tuple[float, float]]:
    """Road speeds [m/s] from where each gear pulls to the limiter."""
    curve = engine_curve(ride_input.engine, ride_input.mode_share)
    low, high = curve.engagement_rad_per_s, curve.limiter_rad_per_s
    radius = ride_input.rolling_radius_m
    return [(speed_at(low, r, radius), speed_at(high, r, radius)) for r in ride_input.overall_ratios]


def held_back(ride_input: RideInput, speed_m_per_s: Array, ground: tuple[float, ...], sine: float = 0.0) -> Array:
    """Resistance [N] over road speeds on a row of the ground's table, on a slope; never below zero."""
    return np.maximum(resistance(ride_input, ground, sine, speed_m_per_s), 0.0)


def top(given: DriveInput) -> TopSpeed:
    """Top speed on level hardpack in the mean air of the course, no wind."""
    share = float(given.lap.power_share.mean())
    return given.lap.cache.get(
        "top_speed",
        (given.lap.ride_input, share),
        lambda: top_speed(given.lap.ride_input, ground="hardpack", power_share=share),
    )


def limiter_log_sd(engine: Engine) -> float:
    """How far the rev limit may lie off [1], of its logarithm: as said, or assumed."""
    given = isinstance(engine, Electric) or engine.limiter_rpm is not None
    return LIMITER_GIVEN_LOG_SD if given else LIMITER_ASSUMED_LOG_SD


def way_log_sd(given: DriveInput) -> float:
    """How far the way for each turn of the crank may lie off [1], of its logarithm: by the wheel, and by gears that
    nobody counted.
    """
    return hypot(given.learned.radius.log_sd, GEARS_OF_KIND_LOG_SD if given.gears_of_kind else 0.0)


def top_log_sd(given: DriveInput, best: TopSpeed) -> float:
    """How far the top speed may lie off [1], of its logarithm, to first order: wheel and limiter, or power, drag and
    rolling.
    """
    if best.limit == "revs":
        return hypot(way_log_sd(given), limiter_log_sd(given.engine))
    by_power, by_drag, by_rolling = TOP_SPEED_ELASTICITY
    return sqrt(
        (by_power * given.learned.power.log_sd) ** 2 + (by_drag * DRAG_LOG_SD) ** 2 + (by_rolling * ROLLING_LOG_SD) ** 2
    )


def way_spread(given: DriveInput) -> float:
    """Relative half-width of the way for each turn of the crank [1]."""
    return Z90 * way_log_sd(given)


def drops(given: DriveInput) -> list[float]:
    """Revs lost [rpm] at each upshift from the speed of peak power, first to second and on."""
    ratios, peak = given.lap.ride_input.overall_ratios, given.engine.peak_power_rpm
    return [peak - rpm_after_upshift(peak, a, b) for a, b in itertools.pairwise(ratios)]


def first_second_drop(given: DriveInput) -> float | None:
    """Revs lost [rpm] from first to second at the speed of peak power; None with one gear."""
    return next(iter(drops(given)), None)


def problem_places(given: DriveInput, code: int) -> list[tuple[float, float]]:
    """Stretches [m] of the lap with one limit code, as (from, to)."""
    mask = np.concatenate([[False], given.lap.whole.limit == code, [False]]).astype(np.int8)
    edges = np.flatnonzero(np.diff(mask))
    d = given.lap.around.whole.distance_m
    merged: list[tuple[float, float]] = []
    for a, b in zip(edges[::2], edges[1::2], strict=True):
        if merged and d[a] - merged[-1][1] < 50.0:
            merged[-1] = (merged[-1][0], float(d[b]))
        else:
            merged.append((float(d[a]), float(d[b])))
    return merged
