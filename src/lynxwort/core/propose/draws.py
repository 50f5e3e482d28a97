"""How all may truly be that a plan rests on: draws of every range that is stated, seeded and always the same.

Each quantity is drawn in strata [mckay1979], normal where its range was learned as one, even where it is a span between
ends. The ride and the air are drawn together and used for several draws each: to ride is what costs.

Reference: [mckay1979] M. D. McKay, R. J. Beckman, W. J. Conover, Technometrics 21 (1979) 239.
"""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

from lynxwort.core.derived.springs import LoadedBike
from lynxwort.core.learned.sag import ASSUMED_RATE_SD
from lynxwort.core.learned.truth import Truth
from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.air.along import DayAir
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.damping.figures import RATIO_SPREAD
from lynxwort.core.stations.drive.doubt import drawn, log_sds
from lynxwort.core.stations.drive.input import DriveInput

Array = NDArray[np.float64]
#: draws, and how many of them share a ride and its air (200 draws: PROPOSE 2; the rides: assumption)
DRAWS, A_RIDE = 200, 8
#: share of the forecast's span by which the day's own coldest and warmest may stay within it (assumption)
WITHIN = 0.3
#: least factor on a damper's forces that is drawn
LEAST_DAMPING = 0.3


@dataclass(frozen=True, slots=True, kw_only=True)
class Draw:
    """truth: how it is; ride: number of its ride and air; luck: it runs dry where the chance to [1] lies over this."""

    truth: Truth
    ride: int
    luck: float


def _even(rng: np.random.Generator, count: int) -> Array:
    return rng.permutation((np.arange(count) + 0.5) / count)


def _normal(rng: np.random.Generator, count: int) -> Array:
    return rng.permutation(ndtri((np.arange(count) + 0.5) / count))


def offsets(bike: LoadedBike, rng: np.random.Generator, count: int) -> Array:
    """Of springs and of the rider's share, shape (count, 7): as learned, a spring of which nothing was read or learned
    as far off as such ones may be.
    """
    known = bike.springs.offsets
    covariance = np.array(known.covariance)
    for end in ("front", "rear"):
        places = list(bike.springs.unread(end, bike.setup))
        covariance[places, places] = ASSUMED_RATE_SD**2
    values, vectors = np.linalg.eigh(covariance)
    strata = np.stack([_normal(rng, count) for _ in values], axis=1)
    made: Array = np.array(known.mean) + (strata * np.sqrt(np.maximum(values, 0.0))) @ vectors.T
    return made


def airs(day: DayAir, rng: np.random.Generator, count: int) -> list[DayAir]:
    """The day as it comes, within what is forecast."""
    span = WITHIN * (day.temperature_high_k - day.temperature_low_k)
    warmer, cooler, pressure = (_even(rng, count) for _ in range(3))
    return [
        replace(
            day,
            temperature_low_k=day.temperature_low_k + span * float(a),
            temperature_high_k=day.temperature_high_k - span * float(b),
            pressure_pa=day.pressure_pa + (2.0 * float(p) - 1.0) * day.pressure_spread_pa,
            pressure_spread_pa=0.0,
        )
        for a, b, p in zip(warmer, cooler, pressure, strict=True)
    ]


def draws(given: ChassisInput, driven: DriveInput, count: int = DRAWS, seed: int = 7) -> tuple[Draw, ...]:
    """Draws of all that may be otherwise, those of one ride one after the other. given, driven: the bike as it stands,
    the day, and the ride as it is known.
    """
    rng, rides = np.random.default_rng(seed), -(-count // A_RIDE)
    springs, use, luck = offsets(given.loaded, rng, count), _normal(rng, count), _even(rng, count)
    mixture, dampers = 2.0 * _even(rng, count) - 1.0, 1.0 + RATIO_SPREAD / Z90 * _normal(rng, count)
    factors, days = drawn(log_sds(driven), rides, seed), airs(given.day.air, rng, rides)
    return tuple(
        Draw(
            truth=Truth(
                offsets=tuple(springs[i].tolist()),
                use=float(use[i]),
                richness=float(mixture[i]),
                air=days[i // A_RIDE],
                ride=tuple(factors[i // A_RIDE].items()),
                damping_factor=max(float(dampers[i]), LEAST_DAMPING),
            ),
            ride=i // A_RIDE,
            luck=float(luck[i]),
        )
        for i in range(count)
    )
