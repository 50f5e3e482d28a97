"""A weather service that is not one: a plausible day for a place and a date, the same for the same seed.

Climate by latitude and season, a day's curve, noise: assumption, no source, nobody's forecast. Humidity follows from a
dew point through the saturation pressure of core.physics.air ([wmo8]).
"""

from dataclasses import dataclass
from math import cos, pi

import numpy as np

from lynxwort.core.model.track import Track
from lynxwort.core.physics.air.moist import saturation_pressure

LAPSE_K_PER_M = 0.0065
#: hours of the least and the greatest warmth
COLDEST_HOUR, WARMEST_HOUR = 5.0, 15.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Forecast:
    """An invented day at one place. temperature_k, relative_humidity: hour by hour, 24 each; pressure reduced to sea
    level, with its spread; height_m: of the place they hold for.
    """

    height_m: float
    temperature_k: tuple[float, ...]
    relative_humidity: tuple[float, ...]
    sea_level_pressure_pa: float
    pressure_spread_pa: float
    wind_m_per_s: float
    wind_from_rad: float

    def over(self, *, start_s: float, length_s: float) -> dict[str, float | str]:
        """The facts of a race's air from a time of the day [s] for so long [s], as the race's own door takes them
        (model.race.RaceAir).
        """
        at = (np.arange(0.0, max(length_s / 3600.0, 0.5) + 0.01, 0.25) + start_s / 3600.0) % 24.0
        clock = np.arange(25.0)
        temperature = np.interp(at, clock, [*self.temperature_k, self.temperature_k[0]])
        humidity = np.interp(at, clock, [*self.relative_humidity, self.relative_humidity[0]])
        return {
            "temperature_low_k": float(temperature.min()),
            "temperature_high_k": float(temperature.max()),
            "relative_humidity_low": float(humidity.min()),
            "relative_humidity_high": float(humidity.max()),
            "pressure_kind": "sea_level",
            "pressure_pa": self.sea_level_pressure_pa,
            "pressure_spread_pa": self.pressure_spread_pa,
            "reading_height_m": self.height_m,
            "wind_m_per_s": self.wind_m_per_s,
            "wind_from_rad": self.wind_from_rad,
        }


def forecast(*, latitude_deg: float, height_m: float, day_of_year: int, seed: int) -> Forecast:
    """A day at a place. The same arguments give the same day."""
    rng = np.random.default_rng([seed, day_of_year, round((latitude_deg + 90.0) * 1000.0)])
    season = cos(2.0 * pi * (day_of_year - 200) / 365.25) * (1.0 if latitude_deg >= 0 else -1.0)
    mean = (
        300.0
        - 28.0 * (abs(latitude_deg) / 60.0) ** 2
        + 0.16 * abs(latitude_deg) * season
        - LAPSE_K_PER_M * height_m
        + rng.normal(0.0, 2.5)
    )
    cloud = float(rng.uniform(0.0, 1.0))
    swing = 6.5 * (1.0 - 0.7 * cloud)
    hours = np.arange(24.0)
    # a day warms over ten hours and cools over fourteen
    since = (hours - COLDEST_HOUR) % 24.0
    rising = WARMEST_HOUR - COLDEST_HOUR
    phase = np.where(since <= rising, pi * since / rising, pi + pi * (since - rising) / (24.0 - rising))
    temperature = np.clip(mean - swing * np.cos(phase) + np.cumsum(rng.normal(0.0, 0.12, 24)), 244.0, 322.0)
    dew = float(temperature.min()) - float(rng.uniform(0.3, 3.5))
    humidity = np.clip([saturation_pressure(dew) / saturation_pressure(t) for t in temperature], 0.05, 1.0)
    return Forecast(
        height_m=height_m,
        temperature_k=tuple(temperature.tolist()),
        relative_humidity=tuple(humidity.tolist()),
        sea_level_pressure_pa=float(np.clip(101_600.0 - 500.0 * cloud + rng.normal(0.0, 700.0), 97_000.0, 104_500.0)),
        pressure_spread_pa=float(rng.uniform(150.0, 500.0)),
        wind_m_per_s=float(min(4.5 * rng.weibull(2.0), 25.0)),
        wind_from_rad=float(rng.uniform(0.0, 2.0 * pi)) * (1.0 - 1e-9),
    )


#: a race's air is taken over so long from its start [s] (assumption)
RACE_S = 6.0 * 3600.0


def forecast_for(track: Track, *, day_of_year: int, seed: int) -> Forecast:
    """The invented day at the start of a course."""
    height = max(track.height_m[0], 0.0) if track.height_m else 0.0
    return forecast(latitude_deg=track.latitude_deg[0], height_m=height, day_of_year=day_of_year, seed=seed)
