"""Bars, steering and clutch: inertia about the steering axis, how long a kick lasts, what a clutch holds.

References: rigid bodies; R. G. Budynas and J. K. Nisbett, Shigley's Mechanical Engineering Design, from memory (plate
clutch, even pressure). HANDBOOK 9, 6: constants are assumptions.
"""

from collections.abc import Iterable

#: what steers with its wheel and no item on it [kg m2]
STEERED_KG_M2 = 0.65
#: a steering damper from its lightest to its heaviest click [N m s/rad]
DAMPER_LEAST, DAMPER_MOST = 3.0, 8.0
#: friction of clutch plates in oil
CLUTCH_FRICTION = 0.12


def steered_inertia(items: Iterable[tuple[float, float]]) -> float:
    """Inertia about the steering axis [kg m2] with items on it, each (mass [kg], distance from the axis [m])."""
    return STEERED_KG_M2 + sum(m * r * r for m, r in items)


def damping_of(turned_share: float) -> float:
    """Damping of a steering damper [N m s/rad] at a share of its clicks [1]."""
    return DAMPER_LEAST + (DAMPER_MOST - DAMPER_LEAST) * min(max(turned_share, 0.0), 1.0)


def kick_time(inertia_kg_m2: float, damping_nm_per_rad_per_s: float) -> float:
    """Time [s] in which a kick at the bars falls to 1/e: I / c."""
    return inertia_kg_m2 / damping_nm_per_rad_per_s


def clutch_torque(*, plates: int, spring_n: float, outer_m: float, inner_m: float) -> float:
    """Torque that a clutch holds [N m]: mu F n r, two faces a plate, r = 2/3 (Ro^3 - Ri^3) / (Ro^2 - Ri^2)."""
    outer, inner = 0.5 * outer_m, 0.5 * inner_m
    radius = 2.0 / 3.0 * (outer**3 - inner**3) / (outer**2 - inner**2)
    return CLUTCH_FRICTION * spring_n * 2.0 * plates * radius
