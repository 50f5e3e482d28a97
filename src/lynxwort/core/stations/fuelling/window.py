"""The weather in which a setup keeps its lean limit."""

from collections.abc import Callable

from lynxwort.core.derived.mixture import jetting_of, setting_of
from lynxwort.core.model.bike import Jetted
from lynxwort.core.model.setup import FuellingSetup
from lynxwort.core.physics.air.along import lift_air
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.air.station import station_pressure
from lynxwort.core.physics.fuelling.leanness import GRID, over_grid
from lynxwort.core.physics.fuelling.richness import Jetting, air_effect, step_effect
from lynxwort.core.physics.fuelling.window import lowest_temperature
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import limits_of


def margin_in(given: FuellingInput, setup: FuellingSetup) -> Callable[[AirState], float]:
    """How far a setup stands above what would be said to be lean [1], over the whole throttle, as a function of the
    air; the proven setting must be known.
    """
    engine, proven = given.engine, given.mixture.proven
    assert proven is not None
    setting, proven_air = proven
    floor = over_grid(limits_of(given), "look")
    if isinstance(engine, Jetted) and isinstance(setting, Jetting):
        rest = (1.0 + step_effect(engine.carburettor, jetting_of(setup), setting, GRID)[1]) * (
            1.0 + given.mixture.shift(setup)[1]
        )
        return lambda air: float(((1.0 + air_effect(air, proven_air, GRID)[1]) * rest - 1.0 - floor).min())

    def margin(air: AirState) -> float:
        curve = given.mixture.curve(air, setup)
        assert curve is not None
        return float((curve.low - floor).min())

    return margin


def at_ends(given: FuellingInput) -> tuple[float, float]:
    """Lowest and highest place of the course against where the weather is read [m]."""
    read = given.day.air.reading_height_m
    return given.day.lowest_m - read, given.day.highest_m - read


def lowest_safe(given: FuellingInput, setup: FuellingSetup, pressure_pa: float) -> float | None:
    """Coldest thermometer [K] where the weather is read at which a setup keeps the lean limit over the whole course, at
    this station pressure [Pa] and the driest hour; None when it never does.
    """
    margin, ends, damp = margin_in(given, setup), at_ends(given), given.day.air.relative_humidity_low

    def least(temperature_k: float) -> float:
        air = AirState(pressure_pa=pressure_pa, temperature_k=temperature_k, relative_humidity=damp)
        return min(margin(lift_air(air, rise)) for rise in ends)

    return lowest_temperature(least)


def day_pressures(given: FuellingInput) -> tuple[float, float, float]:
    """Station pressure [Pa] where the weather is read: lowest, middle, highest of the race."""
    day, middle = given.day.air, 0.5 * (given.day.air.temperature_low_k + given.day.air.temperature_high_k)
    found = [
        station_pressure(
            day.pressure_kind,
            day.pressure_pa + k * day.pressure_spread_pa,
            height_m=day.reading_height_m,
            temperature_k=middle,
        )
        for k in (-1.0, 0.0, 1.0)
    ]
    return found[0], found[1], found[2]


def known_setting(given: FuellingInput, setup: FuellingSetup) -> bool:
    """Whether a setup's mixture can be judged at all."""
    return given.mixture.proven is not None and setting_of(setup, given.engine) is not None
