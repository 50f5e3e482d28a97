"""Ride frequency and bottoming reserve of one end, from its spring and trapped air alone.

Frequency: sqrt(k / m) / 2 pi with the rate at the race sag. Bottoming: the height of a flat drop whose energy the
springs take up over the whole travel, m g (h + z) = work of the springs; damping adds to it. Air moves with n = 1.25
(HANDBOOK 6: 1.2 to 1.3).
"""

from math import cos, pi, sqrt

from scipy.integrate import quad

from lynxwort.core.model.defaults import GRAVITY_M_PER_S2
from lynxwort.core.physics.chassis.sag import Fork, Shock, fork_force, shock_force_at_wheel, shock_stroke
from lynxwort.core.physics.chassis.springs import straight

MOVING_EXPONENT = 1.25
_STEP_M = 1e-4


def wheel_rate(shock: Shock, wheel_m: float) -> float:
    """Vertical rate at the axle [N/m] at a wheel travel [m]: the slope of the force, the linkage's own slope
    included.
    """
    low, high = max(wheel_m - _STEP_M, 0.0), min(wheel_m + _STEP_M, shock.travel_m)
    return (shock_force_at_wheel(shock, high) - shock_force_at_wheel(shock, low)) / (high - low)


def leg_rate(fork: Fork, x_m: float, exponent: float = MOVING_EXPONENT) -> float:
    """Rate along the legs [N/m] at a fork travel [m], air moving."""
    low, high = max(x_m - _STEP_M, 0.0), min(x_m + _STEP_M, fork.travel_m)
    return (fork_force(fork, high, exponent) - fork_force(fork, low, exponent)) / (high - low)


def frequency(rate_n_per_m: float, sprung_kg: float) -> float:
    """Undamped frequency [1/s] of a mass on a rate."""
    return sqrt(rate_n_per_m / sprung_kg) / (2.0 * pi)


def rear_frequency(shock: Shock, sprung_kg: float, sag_m: float) -> float:
    """Ride frequency of the rear [1/s]."""
    return frequency(wheel_rate(shock, sag_m), sprung_kg)


def front_frequency(fork: Fork, sprung_kg: float, sag_m: float) -> float:
    """Ride frequency of the front [1/s]: the body sinks x cos(rake), so its vertical rate is the legs' / cos^2."""
    return frequency(leg_rate(fork, sag_m) / cos(fork.rake_rad) ** 2, sprung_kg)


def rear_bottoming_drop(shock: Shock, sprung_kg: float) -> float:
    """Height [m] of a flat drop that just uses all rear travel, springs alone, no less than 0."""
    spring, stroke = shock.spring or straight(shock.rate_n_per_m), shock_stroke(shock, shock.travel_m)
    work = spring.energy(stroke + shock.preload_m) - spring.energy(
        shock.preload_m
    )  # virtual work: the link stores nothing
    return max(work / (sprung_kg * GRAVITY_M_PER_S2) - shock.travel_m, 0.0)


def front_bottoming_drop(fork: Fork, sprung_kg: float) -> float:
    """Height [m] of a flat drop that just uses all fork travel, springs and moving air, no less than 0."""
    work = quad(
        lambda x: fork_force(fork, x, MOVING_EXPONENT),
        0.0,
        fork.travel_m,
        points=[fork.top_out[1]] if fork.top_out[1] else None,
    )[0]
    return max(float(work) / (sprung_kg * GRAVITY_M_PER_S2) - fork.travel_m * cos(fork.rake_rad), 0.0)
