"""What a bolted-on mass does to a bike: loads, height and pitch inertia, the stop that lifts the rear wheel.

References: statics; parallel axes. HANDBOOK 9, 8 (tried).
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Centre:
    """A mass [kg] with its centre ahead_m [m] of the rear axle and height_m [m] above the ground."""

    mass_kg: float
    ahead_m: float
    height_m: float

    def joined(self, other: "Centre") -> "Centre":
        """Both together."""
        whole = self.mass_kg + other.mass_kg
        return Centre(
            mass_kg=whole,
            ahead_m=(self.mass_kg * self.ahead_m + other.mass_kg * other.ahead_m) / whole,
            height_m=(self.mass_kg * self.height_m + other.mass_kg * other.height_m) / whole,
        )


def pitch_inertia_change(bike: Centre, item: Centre) -> float:
    """How much harder a bike is to pitch [kg m2] with an item of no size on it: the reduced mass of both times the
    square of their distance.
    """
    reduced = bike.mass_kg * item.mass_kg / (bike.mass_kg + item.mass_kg)
    return reduced * ((item.ahead_m - bike.ahead_m) ** 2 + (item.height_m - bike.height_m) ** 2)


def stoppie_g(whole: Centre, wheelbase_m: float) -> float:
    """Deceleration [g] at which the rear wheel leaves level ground: (L - x) / z."""
    return (wheelbase_m - whole.ahead_m) / whole.height_m


def rate_for_load(rate_n_per_m: float, *, load_kg: float, extra_kg: float) -> float:
    """Spring rate [N/m] that keeps sag and frequency under a greater load [kg] on it: rate x load ratio."""
    return rate_n_per_m * (load_kg + extra_kg) / load_kg


def equivalent_mass(turning_kg: float, gyration_share: float) -> float:
    """Mass [kg] that a turning part is to whoever drives it: m (1 + f^2), f its radius of gyration against the rolling
    radius [1].
    """
    return turning_kg * (1.0 + gyration_share**2)


def power_to_mass_change(mass_kg: float, more_kg: float) -> float:
    """What more mass takes of the power to each kilogram [1], rider aboard: m / (m + dm) - 1. Reference: definition."""
    return mass_kg / (mass_kg + more_kg) - 1.0
