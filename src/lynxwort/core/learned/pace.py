"""Pace per ground from a lap really ridden: the simulation is ridden again until each ground takes the time it took.

The scatter of the bins about the fitted pace gives the range; a day more or less adds to it (assumption).
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.drive.simulation import Ride

Array = NDArray[np.float64]
#: least ridden on a ground to say anything of it [m]; spread from day to day [1]; bounds of a believable factor.
#: Assumption
LEAST_M, DAY_LOG_SD, BOUNDS = 300.0, 0.03, (0.4, 2.0)
ROUNDS = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class PaceFit:
    """Factors on the rider's pace by index into GROUNDS, 1 where nothing is known. low, high: central 90 %; metres
    ridden on each; at_bound: grounds whose factor ran to the edge of what is believable; ridden_s, computed_s: lap time
    before and after the fit.
    """

    factor: tuple[float, ...]
    low: tuple[float, ...]
    high: tuple[float, ...]
    metres: tuple[float, ...]
    at_bound: tuple[str, ...]
    ridden_s: float
    assumed_s: float
    computed_s: float


def bin_times(clock_s: Array, distance_m: Array, borders_m: Array) -> Array:
    """Time in each bin [s] from a clock at places along the lap. Shape (borders - 1,)."""
    return np.diff(np.interp(borders_m, distance_m, clock_s))


def fit_pace(
    ride_with: Callable[[tuple[float, ...]], Ride], *, distance_m: Array, ground: NDArray[np.int64], clock_s: Array
) -> PaceFit:
    """Fit the pace by ground. ride_with: the simulation under factors; distance_m (n + 1), ground (n): the course;
    clock_s: at even steps of the lap.
    """
    places = np.linspace(0.0, distance_m[-1], clock_s.size)
    clock = clock_s - clock_s[0]
    borders = np.linspace(0.0, distance_m[-1], max(int(distance_m[-1] / 100.0), 2) + 1)
    took = np.maximum(bin_times(clock, places, borders), 1e-3)
    middle = 0.5 * (borders[1:] + borders[:-1])
    step = np.clip(np.searchsorted(distance_m, middle) - 1, 0, ground.size - 1)
    on = ground[step]
    # a bin with two grounds says nothing sure of either
    mixed = np.array(
        [
            np.ptp(ground[max(a, 0) : b]) > 0 if b > a else False
            for a, b in zip(
                np.searchsorted(distance_m, borders[:-1]), np.searchsorted(distance_m, borders[1:]) - 1, strict=True
            )
        ]
    )
    count = len(GROUNDS)
    metres = np.array([float((borders[1] - borders[0]) * ((on == g) & ~mixed).sum()) for g in range(count)])
    known = [g for g in range(count) if metres[g] >= LEAST_M]
    factor = np.ones(count)

    def model(values: Array) -> tuple[Ride, Array]:
        ride = ride_with(tuple(values.tolist()))
        return ride, bin_times(np.concatenate([[0.0], np.cumsum(ride.time_s)]), distance_m, borders)

    first, times = model(factor)
    for _ in range(ROUNDS):
        for g in known:
            here = (on == g) & ~mixed
            factor[g] = np.clip(factor[g] * (times[here].sum() / took[here].sum()) ** 1.15, *BOUNDS)
        last, times = model(factor)
    low, high = factor.copy(), factor.copy()
    for g in known:
        scatter = np.log(times[(on == g) & ~mixed] / took[(on == g) & ~mixed])
        # neighbouring bins share their bends: count every other one
        spread = (
            np.sqrt(scatter.var(ddof=1) / max(scatter.size / 2.0, 1.0) + DAY_LOG_SD**2) if scatter.size > 1 else 0.3
        )
        low[g], high[g] = factor[g] * np.exp(-Z90 * spread), factor[g] * np.exp(Z90 * spread)
    return PaceFit(
        factor=tuple(factor.tolist()),
        low=tuple(low.tolist()),
        high=tuple(high.tolist()),
        metres=tuple(metres.tolist()),
        at_bound=tuple(GROUNDS[g] for g in known if not BOUNDS[0] * 1.001 < factor[g] < BOUNDS[1] * 0.999),
        ridden_s=float(clock[-1]),
        assumed_s=first.lap_time_s,
        computed_s=last.lap_time_s,
    )


def pooled(fits: list[PaceFit]) -> tuple[float, ...]:
    """Factors of several laps, each ground by the metres ridden on it; empty without a lap."""
    if not fits:
        return ()
    weight = np.array([f.metres for f in fits]) + 1e-9
    logs = np.log([f.factor for f in fits])
    return tuple(np.exp((weight * logs).sum(axis=0) / weight.sum(axis=0)).tolist())
