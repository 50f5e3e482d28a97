"""Wheels: how hard they are to turn, found by a swing; what the spokes' tone says, and what it does not.

References: [cossalter2006] V. Cossalter, Motorcycle Dynamics, 2nd ed., ch. 4, from memory; N. H. Fletcher 1964 on stiff
strings, from memory. HANDBOOK 9, 1.
"""

from math import pi, sqrt

from lynxwort.core.errors import require_range
from lynxwort.core.model.defaults import GRAVITY_M_PER_S2

#: radius of gyration of what is added to a wheel against its rolling radius [1] (assumption)
GYRATION = {"tread": 0.92, "inside": 0.85, "rim": 0.75, "rotor": 0.33, "sprocket": 0.30, "hub": 0.1}
#: turning inertia of a bike's own wheels [kg m2] until one was swung (assumption)
OWN_INERTIA_KG_M2 = {"front": 0.52, "rear": 0.73}
STEEL_KG_PER_M3 = 7850.0


def inertia_by_swing(mass_kg: float, *, edge_to_axle_m: float, period_s: float) -> float:
    """Inertia [kg m2] of a wheel that swings on a knife edge inside its rim: m g l T^2 / (4 pi^2) - m l^2.

    Validity: swings under 10 degrees; ten of them timed.
    """
    require_range("period_s", period_s, 0.3, 5.0, "s")
    swing = mass_kg * GRAVITY_M_PER_S2 * edge_to_axle_m * (period_s / (2.0 * pi)) ** 2
    return swing - mass_kg * edge_to_axle_m**2


def inertia_by_strings(mass_kg: float, *, circle_m: float, string_m: float, period_s: float) -> float:
    """Inertia [kg m2] of a wheel that hangs flat on three strings: m g R^2 T^2 / (4 pi^2 L)."""
    return mass_kg * GRAVITY_M_PER_S2 * circle_m**2 * (period_s / (2.0 * pi)) ** 2 / string_m


def spokes_inertia(mass_kg: float, *, inner_m: float, outer_m: float) -> float:
    """Inertia [kg m2] of straight spokes from a hub of one radius to a rim of another."""
    return mass_kg * (inner_m**2 + inner_m * outer_m + outer_m**2) / 3.0


def gyro_torque(inertia_kg_m2: float, *, speed_m_per_s: float, radius_m: float, roll_rad_per_s: float) -> float:
    """Torque [N m] with which a turning wheel answers a roll: I v / R x roll rate."""
    return inertia_kg_m2 * speed_m_per_s / radius_m * roll_rad_per_s


def _line_kg_per_m(diameter_m: float) -> float:
    return STEEL_KG_PER_M3 * pi / 4.0 * diameter_m**2


def string_tension(tone_per_s: float, *, length_m: float, diameter_m: float) -> float:
    """Tension [N] of a spoke if it were a string: (2 L f)^2 mu. Some 2.4 times too high on a short thick one: for
    ratios between alike spokes only.
    """
    return (2.0 * length_m * tone_per_s) ** 2 * _line_kg_per_m(diameter_m)


def stiff_tone(tension_n: float, *, length_m: float, diameter_m: float, modulus_pa: float = 2e11) -> float:
    """Tone [Hz] of a clamped spoke that is stiff: f0 (1 + 2 e + (4 + pi^2 / 2) e^2)."""
    stiffness = modulus_pa * pi * diameter_m**4 / 64.0
    plain = sqrt(tension_n / _line_kg_per_m(diameter_m)) / (2.0 * length_m)
    e = sqrt(stiffness / tension_n) / length_m
    return plain * (1.0 + 2.0 * e + (4.0 + 0.5 * pi**2) * e * e)
