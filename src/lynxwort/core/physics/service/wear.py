"""What is worn, and when it reaches its limit.

Reference: compression of an ideal gas; straight line with the prediction interval of one more observation by
[montgomery2012] Introduction to Linear Regression Analysis, 2.5; a string by Mersenne; a bar under tension by
Euler and Bernoulli, its ends pinned or clamped.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, cosh, inf, pi, sin, sinh, sqrt

import numpy as np
from scipy.optimize import brentq
from scipy.special import stdtrit

SEA_LEVEL_PA = 101_325.0
#: of a chain roller to the next [m]; of a steel spoke (stainless differs little) [kg/m3, Pa]
CHAIN_PITCH_M, STEEL_KG_PER_M3, STEEL_PA = 0.015875, 7850.0, 200e9
#: share of predictions between the ends of an interval [1]
LEVEL = 0.90


def at_sea_level(gauge_pa: float, station_pa: float) -> float:
    """A compression gauge's reading [Pa] where the air has a pressure, as it would read at the sea: gauge =
    p (r^n - 1), so it goes as the air's pressure.
    """
    return gauge_pa * SEA_LEVEL_PA / station_pa


def chain_stretch(measured_m: float, links: int) -> float:
    """Of so many links pulled tight [1]."""
    return measured_m / (links * CHAIN_PITCH_M) - 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Trend:
    """A straight line through measurements: where it is now, its slope for each second; limit_s: hours [s] at which the
    line reaches the limit, inf when it never does; earliest_s: at which the nearer end of the prediction interval
    does, None with fewer than three measurements.
    """

    slope_per_s: float
    limit_s: float
    earliest_s: float | None


def trend(hours_s: Sequence[float], values: Sequence[float], limit: float) -> Trend | None:
    """None with fewer than two measurements at different hours."""
    t, y = np.asarray(hours_s, dtype=float), np.asarray(values, dtype=float)
    if t.size < 2 or np.ptp(t) <= 0.0:
        return None
    slope, height = np.polyfit(t, y, 1)
    if abs(slope) * np.ptp(t) < 1e-9 * max(float(np.abs(y).max()), 1e-12):
        slope = 0.0
    down = limit < height + slope * t.mean()
    heads_there = slope < 0.0 if down else slope > 0.0
    reached = float((limit - height) / slope) if heads_there else inf
    return Trend(slope_per_s=float(slope), limit_s=reached, earliest_s=_earliest(t, y, limit, down=down))


def _earliest(t: np.ndarray, y: np.ndarray, limit: float, *, down: bool) -> float | None:
    """Where the end of the prediction interval that is nearer the limit meets it, from the last measurement on."""
    if t.size < 3:
        return None
    slope, height = np.polyfit(t, y, 1)
    spread = float(((t - t.mean()) ** 2).sum())
    sd = sqrt(float(((y - height - slope * t) ** 2).sum()) / (t.size - 2))
    z, sign = float(stdtrit(t.size - 2, 0.5 + 0.5 * LEVEL)), 1.0 if down else -1.0

    def left(at_s: float) -> float:
        half = z * sd * sqrt(1.0 + 1.0 / t.size + (at_s - t.mean()) ** 2 / spread)
        return sign * (height + slope * at_s - limit) - half

    start = float(t.max())
    if left(start) <= 0.0:
        return start
    far = start + max(float(np.ptp(t)), 1.0)
    while left(far) > 0.0:
        if far > start + 1e3 * float(np.ptp(t)):
            return inf
        far = start + 2.0 * (far - start)
    return float(brentq(left, start, far))


def faster_than_before(hours_s: Sequence[float], values: Sequence[float], *, factor: float = 2.0) -> bool:
    """Whether the newest step wears so many times faster than the line before it, and more than it scatters."""
    if len(values) < 4:
        return False
    t, y = np.asarray(hours_s, dtype=float), np.asarray(values, dtype=float)
    slope, height = np.polyfit(t[:-1], y[:-1], 1)
    sd = sqrt(float(((y[:-1] - height - slope * t[:-1]) ** 2).sum()) / max(t.size - 3, 1))
    step = (y[-1] - y[-2]) / (t[-1] - t[-2]) if t[-1] > t[-2] else 0.0
    return bool(
        step * slope > 0.0 and abs(step) > factor * abs(slope) and abs(y[-1] - height - slope * t[-1]) > 2.0 * sd
    )


def string_hz(
    tension_n: float, length_m: float, diameter_m: float, density_kg_per_m3: float = STEEL_KG_PER_M3
) -> float:
    """Tone of a string without stiffness [1/s]."""
    return sqrt(tension_n / (density_kg_per_m3 * 0.25 * pi * diameter_m**2)) / (2.0 * length_m)


def _stiff(diameter_m: float) -> float:
    return STEEL_PA * pi * diameter_m**4 / 64.0


def pinned_hz(tension_n: float, length_m: float, diameter_m: float) -> float:
    """Tone of a bar under tension with ends that turn [1/s]."""
    stiff = pi**2 * _stiff(diameter_m) / (tension_n * length_m**2)
    return string_hz(tension_n, length_m, diameter_m) * sqrt(1.0 + stiff)


def clamped_hz(tension_n: float, length_m: float, diameter_m: float) -> float:
    """Tone of a bar under tension with ends that cannot turn [1/s]: the least root of its frequency equation."""
    ei, line = _stiff(diameter_m), STEEL_KG_PER_M3 * 0.25 * pi * diameter_m**2
    s = tension_n * length_m**2 / ei

    def _missing(b: float) -> float:
        a = sqrt(s + b * b)
        return 2.0 * a * b * (1.0 / cosh(a) - cos(b)) + (a * a - b * b) * sin(b) * sinh(a) / cosh(a)

    # between that of a bar pinned and that of one clamped without tension
    b = brentq(_missing, pi * 1.0001, 4.7300408 * 1.0001)
    return b * sqrt(s + b * b) * sqrt(ei / line) / (2.0 * pi * length_m**2)


def evenness(tones_hz: Sequence[float]) -> tuple[float, int]:
    """How far the most uneven of the tones of one side lies from their median [1, + = higher], and its place."""
    middle = float(np.median(tones_hz))
    off = [tone / middle - 1.0 for tone in tones_hz]
    place = max(range(len(off)), key=lambda i: abs(off[i]))
    return off[place], place
