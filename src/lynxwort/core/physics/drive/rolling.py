"""The rolling radius and the power this bike really has, from what was seen; core.evidence learns from it."""

from math import pi

from lynxwort.core.evidence import Measured

#: standard deviations of the logarithm. Marking: off-road tyres vary 1.5 to 3 % (common practice, no source); the others: assumption
FROM_MARKING, GIVEN, ROLL_OUT, RPM_SPEED, AT_LIMITER = 0.015, 0.003, 0.003, 0.012, 0.015
#: what a standard day's peak power is worth, and a sighting of the top speed
POWER_PRIOR, SIGHTING = 0.036, 0.015


def radius_of_roll_out(distance_m: float, turns: int) -> float:
    """Rolling radius [m] from the distance [m] of some turns."""
    return distance_m / (2.0 * pi * turns)


def radius_of_pair(*, rpm: float, speed_m_per_s: float, overall_ratio: float, slip: float) -> float:
    """Rolling radius [m] from engine speed and road speed [m/s] in a known gear."""
    return speed_m_per_s * (1.0 + slip) * overall_ratio / (rpm * 2.0 * pi / 60.0)


def power_of_sighting(*, seen_m_per_s: float, computed_m_per_s: float, elasticity: float, reading_id: str) -> Measured:
    """Power / assumed power from a top speed that power ended. elasticity: d ln speed / d ln power at the computed one [1], about 0.4."""
    return Measured(reading_id=reading_id, value=(seen_m_per_s / computed_m_per_s) ** (1.0 / elasticity), log_sd=SIGHTING / elasticity)
