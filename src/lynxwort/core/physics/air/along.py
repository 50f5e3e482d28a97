"""Air along a course: -6.5 K/km, hydrostatic, vapour ratio constant and capped at saturation."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.air.moist import AirState, dry_density, dry_pressure, saturation_pressure, vapour_pressure
from lynxwort.core.physics.air.power import forecast_share
from lynxwort.core.physics.air.standard import EXPONENT, LAPSE_K_PER_M
from lynxwort.core.physics.air.station import hydrostatic_pressure, station_pressure


@dataclass(frozen=True, slots=True, kw_only=True)
class DayAir:
    """The air of a race at the place of reading: pressure of a kind with its spread, two temperatures, two
    humidities.
    """

    pressure_kind: str
    pressure_pa: float
    pressure_spread_pa: float
    reading_height_m: float
    temperature_low_k: float
    temperature_high_k: float
    relative_humidity_low: float
    relative_humidity_high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class RaceAirStates:
    """densest, thinnest: corners of the race (lowest x coldest x highest pressure x driest, and the opposite); middle:
    the mean hour.
    """

    densest: AirState
    thinnest: AirState
    middle_at_reading: AirState
    density_ratio_max: float
    density_ratio_min: float
    power_share_min: float
    power_share_max: float


def lift_air(air: AirState, rise_m: float) -> AirState:
    """The same air rise_m [m] higher: vapour ratio kept, capped at saturation."""
    temperature = air.temperature_k - LAPSE_K_PER_M * rise_m
    pressure = hydrostatic_pressure(air.pressure_pa, temperature_k=air.temperature_k, rise_m=rise_m)
    humidity = vapour_pressure(air) * pressure / air.pressure_pa / saturation_pressure(temperature)
    return AirState(pressure_pa=pressure, temperature_k=temperature, relative_humidity=min(1.0, humidity))


def air_at_reading(day: DayAir, *, hot: float, pressure_shift: float, humid: float) -> AirState:
    """Air where it was read. hot, humid: 0 cold/dry to 1 hot/damp [1]; pressure_shift: -1 to 1 of the spread."""
    temperature = day.temperature_low_k + hot * (day.temperature_high_k - day.temperature_low_k)
    pressure = station_pressure(
        day.pressure_kind,
        day.pressure_pa + pressure_shift * day.pressure_spread_pa,
        height_m=day.reading_height_m,
        temperature_k=temperature,
    )
    humidity = day.relative_humidity_low + humid * (day.relative_humidity_high - day.relative_humidity_low)
    return AirState(pressure_pa=pressure, temperature_k=temperature, relative_humidity=humidity)


def mean_air(day: DayAir) -> AirState:
    """Air of the mean hour where it is read."""
    return air_at_reading(day, hot=0.5, pressure_shift=0.0, humid=0.5)


def race_air_states(day: DayAir, *, lowest_m: float, highest_m: float) -> RaceAirStates:
    """The corners of the race's air between the lowest and the highest place of its course [m]."""
    densest = lift_air(air_at_reading(day, hot=0.0, pressure_shift=1.0, humid=0.0), lowest_m - day.reading_height_m)
    thinnest = lift_air(air_at_reading(day, hot=1.0, pressure_shift=-1.0, humid=1.0), highest_m - day.reading_height_m)
    return RaceAirStates(
        densest=densest,
        thinnest=thinnest,
        middle_at_reading=mean_air(day),
        density_ratio_max=dry_density(densest) / 1.225,
        density_ratio_min=dry_density(thinnest) / 1.225,
        power_share_min=float(forecast_share(dry_pressure(thinnest), thinnest.temperature_k)),
        power_share_max=float(forecast_share(dry_pressure(densest), densest.temperature_k)),
    )


def power_share_along(
    middle_at_reading: AirState, *, reading_height_m: float, height_m: NDArray[np.float64]
) -> NDArray[np.float64]:
    """Share of standard power [1] at each height [m] in the mean air of the day."""
    rise = height_m - reading_height_m
    temperature = middle_at_reading.temperature_k - LAPSE_K_PER_M * rise
    pressure = middle_at_reading.pressure_pa * (temperature / middle_at_reading.temperature_k) ** EXPONENT
    t = temperature - 273.15
    saturated = 611.2 * np.exp(17.62 * t / (243.12 + t))
    vapour = np.minimum(vapour_pressure(middle_at_reading) * pressure / middle_at_reading.pressure_pa, saturated)
    return np.asarray(forecast_share(pressure - vapour, temperature))
