"""The jet window: how cold it may get at a pressure before a set of jets is too lean on a course, and which sets to
try.

The margin rises with temperature (thinner air is richer through the same jets), so its root is the trigger: colder than
that, take the richer set. One 2.5 step on a 165 is worth about 12 °C by the series model and 17 °C by the fourth root
(HANDBOOK 2, tried).
"""

from collections.abc import Callable

from scipy.optimize import brentq

#: thermometer between which a window is sought [K]
COLDEST_K, HOTTEST_K = 243.15, 323.15


def lowest_temperature(margin_at: Callable[[float], float]) -> float | None:
    """Coldest thermometer [K] at which margin_at(temperature) still is not negative; COLDEST_K when it never is, None
    when it always is.
    """
    if margin_at(COLDEST_K) >= 0.0:
        return COLDEST_K
    if margin_at(HOTTEST_K) < 0.0:
        return None
    return float(brentq(margin_at, COLDEST_K, HOTTEST_K, xtol=0.02))


def per_height(number: float, step: float, rise_m: float, metres_per_step: float) -> float:
    """A jet by the rule "one size so many metres": number less one step per metres_per_step [m], to the nearest
    step.
    """
    return number - step * round(rise_m / metres_per_step)
