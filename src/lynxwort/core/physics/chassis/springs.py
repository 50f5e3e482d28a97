"""Springs: rate from dimensions, and springs whose rate changes on the way.

References: [shigley] Shigley's Mechanical Engineering Design, eq. 10-9, example 10-1; two springs in series until the
soft one stands coil on coil.
"""

from dataclasses import dataclass
from math import sqrt

from lynxwort.core.errors import require_range

SHEAR_MODULUS_PA = 79.3e9  #: chrome-silicon and music wire, [shigley] table 10-5, from memory


def coil_rate(
    *, wire_m: float, mean_coil_m: float, active_turns: float, shear_modulus_pa: float = SHEAR_MODULUS_PA
) -> float:
    """Rate [N/m] of a helical compression spring from wire [m], mean coil diameter [m] and active turns."""
    return shear_modulus_pa * wire_m**4 / (8.0 * mean_coil_m**3 * active_turns)


def rate_by_calliper(*, wire_m: float, outer_m: float, turns: float, ground_ends: bool = True) -> float:
    """Rate [N/m] from what a calliper reads: wire, outer diameter [m] and all turns; squared ends take two turns out
    ([shigley] table 10-1).

    Raises OutOfModelRange for a spring index beyond 3 to 16 or under one active turn.
    """
    mean = outer_m - wire_m
    require_range("spring_index", mean / wire_m, 3.0, 16.0, "1")
    active = turns - (2.0 if ground_ends else 0.0)
    require_range("active_turns", active, 1.0, 200.0, "1")
    return coil_rate(wire_m=wire_m, mean_coil_m=mean, active_turns=active)


@dataclass(frozen=True, slots=True, kw_only=True)
class Spring:
    """A spring by its rate at rest [N/m], the rate it comes to, and the deflections [m] over which the one passes into
    the other.

    from_m = to_m: a soft part that goes solid at once (two-stage); from_m = 0: the rate rises evenly (progressive);
    equal rates: straight.
    """

    rate_n_per_m: float
    second_n_per_m: float
    from_m: float = 0.0
    to_m: float = 0.0

    def force(self, deflection_m: float) -> float:
        """Force [N] at a deflection from free length [m]."""
        rise, x = self.second_n_per_m - self.rate_n_per_m, deflection_m
        if x <= self.from_m or rise == 0.0:
            return self.rate_n_per_m * x
        if x < self.to_m:
            return self.rate_n_per_m * x + 0.5 * rise * (x - self.from_m) ** 2 / (self.to_m - self.from_m)
        return self.rate_n_per_m * x + rise * (x - 0.5 * (self.from_m + self.to_m))

    def energy(self, deflection_m: float) -> float:
        """Work stored [J] at a deflection from free length [m]: the integral of force."""
        rise, x = self.second_n_per_m - self.rate_n_per_m, deflection_m
        stored = 0.5 * self.rate_n_per_m * x * x
        if x <= self.from_m or rise == 0.0:
            return stored
        if x < self.to_m:
            return stored + rise * (x - self.from_m) ** 3 / (6.0 * (self.to_m - self.from_m))
        span, middle = self.to_m - self.from_m, 0.5 * (self.from_m + self.to_m)
        return stored + 0.5 * rise * ((x - middle) ** 2 + span**2 / 12.0)

    def deflection(self, force_n: float) -> float:
        """Deflection [m] under a force [N]: the inverse of force."""
        k, rise = self.rate_n_per_m, self.second_n_per_m - self.rate_n_per_m
        if rise == 0.0 or force_n <= k * self.from_m:
            return force_n / k
        if force_n >= self.force(self.to_m):
            return (force_n + rise * 0.5 * (self.from_m + self.to_m)) / self.second_n_per_m
        bend = rise / (self.to_m - self.from_m)
        past = force_n - k * self.from_m
        return self.from_m + (-k + sqrt(k * k + 2.0 * bend * past)) / bend

    def alongside(self, rate_n_per_m: float) -> "Spring":
        """This spring with a straight one beside it."""
        both = (self.rate_n_per_m + rate_n_per_m, self.second_n_per_m + rate_n_per_m)
        return Spring(rate_n_per_m=both[0], second_n_per_m=both[1], from_m=self.from_m, to_m=self.to_m)


def straight(rate_n_per_m: float) -> Spring:
    """A spring of one rate [N/m]."""
    return Spring(rate_n_per_m=rate_n_per_m, second_n_per_m=rate_n_per_m)


def stacked(*, soft_n_per_m: float, main_n_per_m: float, soft_stroke_m: float) -> Spring:
    """Two springs end to end; the soft one stands coil on coil after soft_stroke_m [m] of its own."""
    first = soft_n_per_m * main_n_per_m / (soft_n_per_m + main_n_per_m)
    at = soft_n_per_m * soft_stroke_m / first
    return Spring(rate_n_per_m=first, second_n_per_m=main_n_per_m, from_m=at, to_m=at)
