"""Other airboxes, exhausts, inserts, reeds, filters and cylinders: what they do to the mixture.

A carburettor meters by its signal, so more air alone shifts the mixture about nothing; an opened airbox and a freer
exhaust act through inlet pressure and pulsing and lean it. How much is an assumption with a wide range until a setting
has run right with it. A map without airflow sensing shifts by the airflow change itself. All ranges: assumption.
"""

from lynxwort.core.model.bike.engine import Combustion, Injected
from lynxwort.core.model.bike.fittings import FITTING_PLACES, Fitting
from lynxwort.core.model.fitted import fitting_on
from lynxwort.core.model.setup.fuelling import FuellingSetup

#: least and most that another one leans the mixture [1] when nothing is said of it, by its place (assumption)
USUAL = {
    "airbox": (0.0, 0.06),
    "exhaust": (0.0, 0.05),
    "exhaust_insert": (-0.03, 0.01),
    "reeds": (-0.02, 0.02),
    "air_filter": (-0.02, 0.02),
    "cylinder": (-0.02, 0.02),
    "emission": (0.0, 0.03),
}


def leaner(fitting: Fitting | None) -> tuple[float, float]:
    """Least and most that a fitting leans the mixture [1]; nothing with its own."""
    if fitting is None:
        return 0.0, 0.0
    low, high = USUAL[fitting.place]
    low = low if fitting.leaner_low is None else fitting.leaner_low
    high = high if fitting.leaner_high is None else fitting.leaner_high
    return min(low, high), max(low, high)


def _airflow(fitting: Fitting | None) -> float:
    return 1.0 if fitting is None else fitting.power_scale


def mixture_shift(engine: Combustion, setup: FuellingSetup, proven: FuellingSetup) -> tuple[float, float, float]:
    """Richness [1] that what is fitted brings against what was fitted then: value, low, high. Nothing differs: nothing.

    Injection has no airflow sensor here: more air (told by the torque it brings) through the same map is leaner by as
    much.
    """
    value = low = high = 1.0
    for place in FITTING_PLACES:
        now, then = fitting_on(engine, setup, place), fitting_on(engine, proven, place)
        if now == then:
            continue
        if isinstance(engine, Injected) and (more := _airflow(now) / _airflow(then)) != 1.0:
            # less air is said or assumed, seldom measured: it never lifts the lean end
            value, low, high = value / more, low / max(more, 1.0), high / more
            continue
        (a, b), (c, d) = leaner(now), leaner(then)
        value *= (1.0 - 0.5 * (a + b)) / (1.0 - 0.5 * (c + d))
        low *= (1.0 - b) / (1.0 - c)
        high *= (1.0 - a) / (1.0 - d)
    return value - 1.0, low - 1.0, high - 1.0
