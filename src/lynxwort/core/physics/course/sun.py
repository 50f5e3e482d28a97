"""Where the sun stands: low-precision solar position, good to about a minute of time.

Reference: [meeus1998] J. Meeus, Astronomical Algorithms, 2nd ed., ch. 25 (low accuracy, 0.01 degrees). Refraction by
the usual 0.833 degrees at rise and set; civil twilight 6 degrees.
"""

from math import asin, atan2, cos, radians, sin

#: the sun's centre at rise and set, and at the end of civil twilight [rad]
HORIZON_RAD, TWILIGHT_RAD = radians(-0.833), radians(-6.0)


def solar_elevation(julian_d: float, latitude_rad: float, longitude_rad: float) -> float:
    """Height of the sun's centre above the horizon [rad], no refraction. julian_d: in universal time [d]; longitude
    east positive [rad].
    """
    t = (julian_d - 2_451_545.0) / 36_525.0
    mean = radians((280.46646 + 36_000.76983 * t) % 360.0)
    anomaly = radians((357.52911 + 35_999.05029 * t) % 360.0)
    centre = radians(
        (1.914602 - 0.004817 * t) * sin(anomaly) + 0.019993 * sin(2.0 * anomaly) + 0.000289 * sin(3.0 * anomaly)
    )
    longitude = mean + centre
    obliquity = radians(23.439291 - 0.0130042 * t)
    declination = asin(sin(obliquity) * sin(longitude))
    # right ascension by its tangent's two parts, sidereal time by the mean sun
    y, x = cos(obliquity) * sin(longitude), cos(longitude)
    ascension = atan2(y, x)
    sidereal = radians((280.46061837 + 360.98564736629 * (julian_d - 2_451_545.0)) % 360.0)
    hour = sidereal + longitude_rad - ascension
    return asin(sin(latitude_rad) * sin(declination) + cos(latitude_rad) * cos(declination) * cos(hour))


def light_at(julian_d: float, latitude_rad: float, longitude_rad: float) -> str:
    """What light there is at a Julian day [d] and a place [rad]: "day", "twilight" or "dark"."""
    height = solar_elevation(julian_d, latitude_rad, longitude_rad)
    return "day" if height > HORIZON_RAD else "twilight" if height > TWILIGHT_RAD else "dark"
