"""How surely it lasts, and what would be wanted."""

from math import sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.supply import Supply
from lynxwort.core.evidence import LogNormal
from lynxwort.core.learned.consumption import fill_up_sd
from lynxwort.core.physics.reach.finish import fuel_for, p_finish_cases
from lynxwort.core.physics.reach.stops import Fill
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import chance_by, course_of, passed, tank_of

NAMES = {
    "fuel": ("range.fuel_per_lap", "range.fuel_race", "range.fuel_wanted", "range.left_at_finish"),
    "energy": ("range.energy_per_lap", "range.energy_race", "range.energy_wanted", "range.energy_left"),
}


def wanted(given: RangeInput) -> float:
    """Fuel [m3] or charge [J] aboard that lasts with the wanted certainty, the unusable part included."""
    certainty = given.certainty
    return (
        given.cache.get(
            "fuel_for",
            (certainty, given.supply.cases, given.supply.factor),
            lambda: fuel_for(certainty, given.supply.cases, given.supply.factor),
        )
        + given.supply.store.unusable
    )


def chance_of(given: RangeInput, aboard: NDArray[np.float64] | float, shift: float = 0.0) -> NDArray[np.float64]:
    """Chance to finish with this much aboard at the start [m3 or J], the stops as planned. shift: of the bike's factor,
    in its standard deviations.

    A bike that was never measured is never called surer than UNMEASURED_MOST.
    """
    chance = reckoned(given, aboard, shift)
    return np.minimum(chance, given.supply.most_sure)


def reckoned(given: RangeInput, aboard: NDArray[np.float64] | float, shift: float = 0.0) -> NDArray[np.float64]:
    if given.supply.taken:
        taken = given.supply.taken
        return np.array(
            [chance_by(given, float(a), taken, shift) for a in np.atleast_1d(np.asarray(aboard, dtype=float))]
        )
    factor = LogNormal(
        log_mean=given.supply.factor.log_mean + shift * given.supply.factor.log_sd, log_sd=given.supply.factor.log_sd
    )
    return p_finish_cases(aboard - given.supply.store.unusable, given.supply.cases, factor)


def sure(given: RangeInput) -> float:
    """The reckoned chance, whatever may be said of an unmeasured bike."""
    return float(reckoned(given, given.supply.store.aboard)[0])


def least_left(given: RangeInput, scale: float = 1.0) -> float:
    """The least that is left before a stop or at the finish [m3 or J], when k is scale times its median."""
    if not given.supply.taken:
        return given.supply.store.aboard - given.supply.largest_leg * scale
    return float(min(level for _m, level in _levels(given, scale)))


def _levels(given: RangeInput, scale: float) -> list[tuple[float, float]]:
    """Race distance [m] and level [m3 or J] just before each stop and at the finish, k being scale times its median;
    negative = short by so much.
    """
    taken, found = given.supply.taken, []
    course, openings = course_of(given, given.clock.laps), passed(given, given.clock.laps)
    left, most = given.supply.store.aboard, tank_of(given).capacity
    for k, section in enumerate(course.sections):
        left -= sum(section) * given.supply.factor.median * scale
        number = k + 1
        last = k == len(course.openings)
        if not last and taken is not None and number not in taken:
            continue
        found.append((given.clock.race_m if last else openings[k].race_m, left))
        if not last:
            fill = Fill(amount=given.supply.store.aboard) if taken is None else taken[number]
            left = min(max(left, 0.0) + fill.amount, most) if fill.add else max(min(fill.amount, most), left)
    return found


def next_fill_up_sd(supply: Supply) -> float:
    """Standard deviation of the logarithm of what one more known fill-up or charge would say of the factor [1]."""
    lap = supply.round_use * supply.factor.median
    return fill_up_sd(lap, 1.0, fuel=supply.store.kind == "fuel", like=False)


def after_fill_up(given: RangeInput) -> float:
    """What would be wanted [m3 or J] after one more known fill-up that came out as expected."""
    factor, error = given.supply.factor, next_fill_up_sd(given.supply)
    after = LogNormal(log_mean=factor.log_mean, log_sd=sqrt(1.0 / (1.0 / factor.log_sd**2 + 1.0 / error**2)))
    return fuel_for(given.certainty, given.supply.cases, after) + given.supply.store.unusable
