"""Springs, sag at both ends, and the set of rates and preloads that meets both sags.

Fork sag is along the leg; rear sag is vertical at the axle; both are counted from topped out. Wheel load acts along the leg
as m g cos(rake). Reference for the trapped air: Boyle's law p V^n; n = 1.0 at rest. Sag bands: common practice, no source.
"""

from dataclasses import dataclass
from math import cos, pi

from scipy.optimize import brentq

from lynxwort.core.model.bike import Frame
from lynxwort.core.model.defaults import GRAVITY_M_PER_S2

ATMOSPHERE_PA = 101_325.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Fork:
    """Both legs together. rate_n_per_m [N/m] is of both springs; air_area_m2 [m2] and air_length_m [m] of both air columns."""

    rate_n_per_m: float
    preload_m: float
    air_area_m2: float
    air_length_m: float
    travel_m: float
    rake_rad: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Shock:
    """Shock spring behind a linkage whose ratio (wheel / shock) goes from ratio_start to ratio_end over the travel."""

    rate_n_per_m: float
    preload_m: float
    ratio_start: float
    ratio_end: float
    travel_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SagTargets:
    """Bands of free and race sag [m] for one end. Common practice, no source."""

    free_low_m: float
    free_high_m: float
    race_low_m: float
    race_high_m: float

    @property
    def free_m(self) -> float:
        return 0.5 * (self.free_low_m + self.free_high_m)

    @property
    def race_m(self) -> float:
        return 0.5 * (self.race_low_m + self.race_high_m)


def rear_targets(travel_m: float) -> SagTargets:
    """Race 33 to 35 % of travel, free 30 to 40 mm, with a linkage."""
    return SagTargets(free_low_m=0.030, free_high_m=0.040, race_low_m=0.33 * travel_m, race_high_m=0.35 * travel_m)


def front_targets(travel_m: float) -> SagTargets:
    """Race 20 to 27 % of travel, free 25 to 45 mm, along the leg."""
    return SagTargets(free_low_m=0.025, free_high_m=0.045, race_low_m=0.20 * travel_m, race_high_m=0.27 * travel_m)


def fork_of(frame: Frame, *, leg_rate_n_per_m: float, preload_m: float) -> Fork:
    """The fork of a frame with this spring in each leg."""
    return Fork(
        rate_n_per_m=2.0 * leg_rate_n_per_m,
        preload_m=preload_m,
        air_area_m2=2.0 * pi / 4.0 * frame.fork_air_diameter_m**2,
        air_length_m=frame.fork_travel_m + frame.fork_air_gap_m,
        travel_m=frame.fork_travel_m,
        rake_rad=frame.rake_rad,
    )


def air_force(fork: Fork, x_m: float, exponent: float = 1.0) -> float:
    """Force [N] of the trapped air at x_m [m] of travel above that of the atmosphere."""
    return ATMOSPHERE_PA * fork.air_area_m2 * ((fork.air_length_m / (fork.air_length_m - x_m)) ** exponent - 1.0)


def fork_force(fork: Fork, x_m: float, exponent: float = 1.0) -> float:
    """Spring and air force along the leg [N] at x_m [m] of travel."""
    return fork.rate_n_per_m * (x_m + fork.preload_m) + air_force(fork, x_m, exponent)


def front_sag(fork: Fork, sprung_kg: float, *, exponent: float = 1.0) -> float:
    """Sag along the leg [m] under a sprung mass [kg] on the front; 0 topped out, the travel when it bottoms."""
    load = sprung_kg * GRAVITY_M_PER_S2 * cos(fork.rake_rad)
    if load <= fork_force(fork, 0.0, exponent):
        return 0.0
    if load >= fork_force(fork, fork.travel_m, exponent):
        return fork.travel_m
    return float(brentq(lambda x: fork_force(fork, x, exponent) - load, 0.0, fork.travel_m, xtol=1e-12))


def motion_rate(shock: Shock, wheel_m: float) -> float:
    """d(shock)/d(wheel) [1] at wheel travel wheel_m [m]: linear in travel between the inverse ratios."""
    start, end = 1.0 / shock.ratio_start, 1.0 / shock.ratio_end
    return start + (end - start) * wheel_m / shock.travel_m


def shock_stroke(shock: Shock, wheel_m: float) -> float:
    """Shock stroke [m] at wheel travel wheel_m [m]: the integral of motion_rate."""
    return 0.5 * (1.0 / shock.ratio_start + motion_rate(shock, wheel_m)) * wheel_m


def shock_force_at_wheel(shock: Shock, wheel_m: float) -> float:
    """Vertical spring force at the axle [N] by virtual work."""
    return motion_rate(shock, wheel_m) * shock.rate_n_per_m * (shock_stroke(shock, wheel_m) + shock.preload_m)


def rear_sag(shock: Shock, sprung_kg: float) -> float:
    """Sag at the axle [m] under a sprung mass [kg] on the rear; 0 topped out, the travel when it bottoms."""
    load = sprung_kg * GRAVITY_M_PER_S2
    if load <= shock_force_at_wheel(shock, 0.0):
        return 0.0
    if load >= shock_force_at_wheel(shock, shock.travel_m):
        return shock.travel_m
    return float(brentq(lambda w: shock_force_at_wheel(shock, w) - load, 0.0, shock.travel_m, xtol=1e-12))


def rear_line(shock: Shock, sprung_kg: float, sag_m: float) -> tuple[float, float]:
    """Load along the shock [N] and its stroke [m] at a sag: rate x (stroke + preload) = load."""
    return sprung_kg * GRAVITY_M_PER_S2 / motion_rate(shock, sag_m), shock_stroke(shock, sag_m)


def front_line(fork: Fork, sprung_kg: float, sag_m: float) -> tuple[float, float]:
    """Load left to the springs along the leg [N] and their stroke [m] at a sag."""
    return sprung_kg * GRAVITY_M_PER_S2 * cos(fork.rake_rad) - air_force(fork, sag_m), sag_m


def rate_for_both(race: tuple[float, float], free: tuple[float, float]) -> tuple[float, float]:
    """Rate [N/m] and preload [m] that give both sags: two lines rate x (stroke + preload) = load, closed form."""
    rate = (race[0] - free[0]) / (race[1] - free[1])
    return rate, race[0] / rate - race[1]


def preload_band(rate_n_per_m: float, lines_low: tuple[tuple[float, float], ...], lines_high: tuple[tuple[float, float], ...]) -> tuple[float, float]:
    """Preloads [m] with which, at this rate, every sag lies between its low line and its high line; empty when low > high."""
    most = min(load / rate_n_per_m - stroke for load, stroke in lines_low)
    least = max(load / rate_n_per_m - stroke for load, stroke in lines_high)
    return max(least, 0.0), most
