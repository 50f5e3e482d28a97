"""Brakes: what a finger gives, where a wheel locks, how hot rotor and fluid get along a lap, at what the fluid boils.

References: even pressure on a ring, R. G. Budynas and J. K. Nisbett, Shigley's Mechanical Engineering Design, from
memory; R. Limpert, Brake Design and Safety, from memory (rotating disc); turbulent plate (the library ht agrees within
7 %); FMVSS 116 (49 CFR 571.116), figures from memory. HANDBOOK 9, 2: what is unmarked there is an assumption.
"""

from math import pi, sqrt

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.defaults import GRAVITY_M_PER_S2
from lynxwort.core.physics.kit.kernel import ROTOR_SHARE, films, heat

Array = NDArray[np.float64]
#: pad height [m], efficiency of the hydraulics, friction by pad at working heat
PAD_HEIGHT_M, EFFICIENCY = 0.026, 0.9
PAD_FRICTION = {"sintered": 0.45, "organic": 0.40, "race": 0.50}
#: friction over the rotor's temperature [K]
FADE_K = (293.15, 423.15, 573.15, 723.15)
FADE = {"sintered": (0.42, 0.45, 0.45, 0.42), "organic": (0.38, 0.45, 0.45, 0.35), "race": (0.40, 0.50, 0.50, 0.47)}
#: rotor: density [kg/m3], heat [J/(kg K)], share drilled away
ROTOR_KG_PER_M3, ROTOR_J_PER_KG_K, DRILLED = 7800.0, 480.0, 0.2
#: width of the braking band [m] from the rim inwards: the mass that warms through
BAND_M = 0.031
#: share of the braking in front: usual, on dry hard ground, on slick ground
USUAL_FRONT_SHARE, HARD_FRONT_SHARE, SLICK_FRONT_SHARE = 0.60, 0.70, 0.50
#: minimum dry and wet boiling points [K], FMVSS 116, from memory; wet = 3.7 % water
FLUIDS_K = {"dot3": (478.15, 413.15), "dot4": (503.15, 428.15), "dot5_1": (533.15, 453.15)}
WET_SHARE, UPTAKE_PER_YEAR = 0.037, 0.017
YEAR_S = 365.25 * 86_400.0
MMHG_PA, SEA_LEVEL_PA = 133.322, 101_325.0


def effective_radius(rotor_m: float, pad_height_m: float = PAD_HEIGHT_M) -> float:
    """Radius at which the pads pull [m]: R - h/2. Even pressure on the ring would say 0.5 % more."""
    return 0.5 * rotor_m - 0.5 * pad_height_m


def gain(*, friction_factor: float, pistons_m2: float, master_m2: float, lever_ratio: float, radius_m: float,
         efficiency: float = EFFICIENCY) -> float:  # fmt: skip
    """Braking torque for each newton of the finger [N m/N]: 2 mu (A side / A master) i r_e eta. pistons_m2: of one
    side.
    """
    return 2.0 * friction_factor * pistons_m2 / master_m2 * lever_ratio * radius_m * efficiency


def piston_area(*diameters_m: float) -> float:
    """Area of pistons [m2]."""
    return sum(pi / 4.0 * d * d for d in diameters_m)


def front_lock_g(grip: float, *, wheelbase_m: float, to_front_m: float, height_m: float) -> float:
    """Deceleration [g] at which the front wheel alone locks: mu (L - b) / L / (1 - mu h / L); beyond b / h the rear
    lifts first.
    """
    left = 1.0 - grip * height_m / wheelbase_m
    return grip * (wheelbase_m - to_front_m) / wheelbase_m / left if left > 1e-9 else float("inf")


def rear_lock_g(grip: float, *, wheelbase_m: float, to_front_m: float, height_m: float) -> float:
    """Deceleration [g] at which the rear wheel alone locks: mu (b / L) / (1 + mu h / L)."""
    return grip * to_front_m / wheelbase_m / (1.0 + grip * height_m / wheelbase_m)


def window_n(limit: float, *, mass_kg: float, wheel_m: float, gain_nm_per_n: float) -> float:
    """Finger force [N] from the bite to the lock: W = limit m g R / G. The wider, the finer one brakes."""
    return limit * mass_kg * GRAVITY_M_PER_S2 * wheel_m / gain_nm_per_n


def friction_at(pad: str, rotor_k: Array | float) -> Array:
    """Friction of a pad [1] on a rotor at a temperature [K]."""
    return np.asarray(np.interp(rotor_k, FADE_K, FADE[pad]))


def steadiness(pad: str, rotor_k: Array) -> float:
    """Least friction over greatest along temperatures of a rotor [K]: 1 = the same bite all lap."""
    mu = friction_at(pad, rotor_k)
    return float(mu.min() / mu.max())


def rotor_mass(rotor_m: float, thickness_m: float) -> float:
    """Mass of the braking band of a drilled rotor [kg]."""
    inner = rotor_m - 2.0 * BAND_M
    return ROTOR_KG_PER_M3 * thickness_m * pi / 4.0 * (rotor_m**2 - inner**2) * (1.0 - DRILLED)


def rotor_face(rotor_m: float) -> float:
    """Both faces of the band [m2], holes left out."""
    inner = rotor_m - 2.0 * BAND_M
    return 2.0 * pi / 4.0 * (rotor_m**2 - inner**2) * (1.0 - DRILLED)


def stop_rise(energy_j: float, *, front_share: float, rotor_kg: float) -> float:
    """Rise of a rotor [K] by one stop that gives nothing to the air."""
    return ROTOR_SHARE * front_share * energy_j / (rotor_kg * ROTOR_J_PER_KG_K)


def heat_along(
    *, time_s: Array, power_w: Array, speed_m_per_s: Array, air_k: Array, density_kg_per_m3: float, rotor_m: float,
    thickness_m: float, wheel_m: float, start_k: tuple[float, float],
) -> tuple[Array, Array]:  # fmt: skip
    """Temperatures of rotor and fluid [K] at the end of each step, shape (n,). power_w: heat that this brake makes in
    each step; air_k: per step; start_k: of rotor and fluid.

    Accuracy: rotor within 1e-3 of LSODA; laws +-15 %, the split between front and rear more.
    """
    rotor, fluid = np.empty(time_s.size), np.empty(time_s.size)
    time, power, speed, air = (np.ascontiguousarray(a) for a in (time_s, power_w, speed_m_per_s, air_k))
    fastest = max(float(speed.max()), 1.0)
    film_at = films(rotor_m, wheel_m, float(air.mean()), density_kg_per_m3, fastest)
    made = np.array([rotor_face(rotor_m), rotor_mass(rotor_m, thickness_m) * ROTOR_J_PER_KG_K])
    heat(time, power, speed, air, fastest, film_at, made, np.array(start_k), rotor, fluid)
    return rotor, fluid


def fluid_boils_at(fluid: str, *, age_s: float, pressure_pa: float = SEA_LEVEL_PA) -> float:
    """Where a fluid boils [K] after so long in a hose: it takes up water (assumption: steep at first, as the
    square root, and as much as the wet test has after two years), and boils earlier in thin air.
    """
    return with_water(fluid, UPTAKE_PER_YEAR * max(age_s, 0.0) / YEAR_S, pressure_pa)


def with_water(fluid: str, water_share: float, pressure_pa: float = SEA_LEVEL_PA) -> float:
    """Where a fluid boils [K] with a share of water [1]: dry - (dry - wet) sqrt(water / 3.7 %), and 0.039 K lower for
    each mmHg under 760, 0.04 above 190 degrees (FMVSS 116 S6.1, from memory).
    """
    dry, wet = FLUIDS_K[fluid]
    level = dry - (dry - wet) * sqrt(water_share / WET_SHARE)
    per_mmhg = 0.04 if level > 463.15 else 0.039
    return level - per_mmhg * (SEA_LEVEL_PA - pressure_pa) / MMHG_PA


def stop_distance(speed_m_per_s: float, slows_m_per_s2: float) -> float:
    """Way to a stop [m] on level ground at a steady deceleration."""
    return 0.5 * speed_m_per_s**2 / slows_m_per_s2
