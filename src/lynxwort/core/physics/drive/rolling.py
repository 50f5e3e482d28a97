"""Rolling radius of a wheel from what a tape, or revs and speed, say of it."""

from math import pi


def radius_of_roll_out(distance_m: float, turns: int) -> float:
    """Rolling radius [m] from the distance [m] of some turns."""
    return distance_m / (2.0 * pi * turns)


def radius_of_pair(*, rpm: float, speed_m_per_s: float, overall_ratio: float, slip: float) -> float:
    """Rolling radius [m] from engine speed and road speed [m/s] in a known gear."""
    return speed_m_per_s * (1.0 + slip) * overall_ratio / (rpm * 2.0 * pi / 60.0)
