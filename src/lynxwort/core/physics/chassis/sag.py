"""Springs, sag at both ends, and the set of rates and preloads that meets both sags.

Fork sag is along the leg; rear sag is vertical at the axle; both are counted from topped out. Wheel load acts along the
leg as m g cos(rake). Reference for the trapped air: Boyle's law p V^n; n = 1.0 at rest. Sag bands: common practice, no
source.
"""

from dataclasses import dataclass
from math import cos

from scipy.optimize import brentq

from lynxwort.core.model.defaults import GRAVITY_M_PER_S2
from lynxwort.core.physics.chassis.linkage import Table, linkage_of
from lynxwort.core.physics.chassis.springs import Spring

#: outside pressure when no place is said [Pa], ISO 2533
SEA_LEVEL_PA = 101_325.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Chamber:
    """A closed chamber of air: area [m2], length at topped out [m], gauge pressure [Pa] at topped out."""

    area_m2: float
    length_m: float
    gauge_pa: float

    def force(self, in_m: float, exponent: float, outside_pa: float) -> float:
        """Force [N] above that of the air outside once the chamber is in_m [m] shorter (negative: longer)."""
        return self.area_m2 * (
            (self.gauge_pa + outside_pa) * (self.length_m / (self.length_m - in_m)) ** exponent - outside_pa
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Fork:
    """Both legs together. rate_n_per_m [N/m] is of both springs; air_area_m2 [m2] and air_length_m [m] of both air
    columns, air_gauge_pa [Pa] what they hold above the outside topped out; outside_pa: pressure of the place, which
    pushes back from outside. spring: when its rate changes on the way; top_out: rate [N/m] and length [m] of the
    springs that catch it topped out; main, balance: the chambers of an air-sprung fork, which has no coil springs.
    """

    rate_n_per_m: float
    preload_m: float
    air_area_m2: float
    air_length_m: float
    travel_m: float
    rake_rad: float
    air_gauge_pa: float = 0.0
    outside_pa: float = SEA_LEVEL_PA
    spring: Spring | None = None
    top_out: tuple[float, float] = (0.0, 0.0)
    main: Chamber | None = None
    balance: Chamber | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Shock:
    """Shock spring behind a linkage whose ratio (wheel / shock) goes from ratio_start to ratio_end over the travel.

    spring: when its rate changes on the way; table: the linkage as measured, (wheel travel, shock stroke) [m].
    """

    rate_n_per_m: float
    preload_m: float
    ratio_start: float
    ratio_end: float
    travel_m: float
    spring: Spring | None = None
    table: Table = ()


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
    """Race 33 to 35 % of travel [m], free 30 to 40 mm, with a linkage: common practice, no source."""
    return SagTargets(free_low_m=0.030, free_high_m=0.040, race_low_m=0.33 * travel_m, race_high_m=0.35 * travel_m)


def front_targets(travel_m: float) -> SagTargets:
    """Race 20 to 27 % of travel [m], free 25 to 45 mm, along the leg: common practice, no source."""
    return SagTargets(free_low_m=0.025, free_high_m=0.045, race_low_m=0.20 * travel_m, race_high_m=0.27 * travel_m)


def air_force(fork: Fork, x_m: float, exponent: float = 1.0) -> float:
    """Force [N] of the trapped air at x_m [m] of travel above that of the air outside: A [P0 (V0 / V)^n - P_here], P0
    what was closed in.
    """
    shorter = (fork.air_length_m / (fork.air_length_m - x_m)) ** exponent
    return fork.air_area_m2 * ((fork.outside_pa + fork.air_gauge_pa) * shorter - fork.outside_pa)


def top_out_force(fork: Fork, x_m: float) -> float:
    """What the top-out springs pull in [N] at x_m [m] of travel."""
    rate, length = fork.top_out
    return rate * max(length - x_m, 0.0)


def chamber_force(fork: Fork, x_m: float, exponent: float = 1.0) -> float:
    """Force [N] of the chambers of an air-sprung fork at x_m [m] of travel; 0 of any other."""
    made = fork.main.force(x_m, exponent, fork.outside_pa) if fork.main else 0.0
    return made - fork.balance.force(-x_m, exponent, fork.outside_pa) if fork.balance else made


def coil_force(fork: Fork, x_m: float) -> float:
    """Force of the coil springs [N] at x_m [m] of travel."""
    squeezed = x_m + fork.preload_m
    return fork.spring.force(squeezed) if fork.spring else fork.rate_n_per_m * squeezed


def fork_force(fork: Fork, x_m: float, exponent: float = 1.0) -> float:
    """Spring and air force along the leg [N] at x_m [m] of travel."""
    beside = air_force(fork, x_m, exponent) - top_out_force(fork, x_m)
    return beside + (chamber_force(fork, x_m, exponent) if fork.main else coil_force(fork, x_m))


def front_sag(fork: Fork, sprung_kg: float, *, exponent: float = 1.0) -> float:
    """Sag along the leg [m] under a sprung mass [kg] on the front; 0 topped out, the travel when it bottoms."""
    load = sprung_kg * GRAVITY_M_PER_S2 * cos(fork.rake_rad)
    if load <= fork_force(fork, 0.0, exponent):
        return 0.0
    if load >= fork_force(fork, fork.travel_m, exponent):
        return fork.travel_m
    return float(brentq(lambda x: fork_force(fork, x, exponent) - load, 0.0, fork.travel_m, xtol=1e-12))


def motion_rate(shock: Shock, wheel_m: float) -> float:
    """d(shock)/d(wheel) [1] at wheel travel wheel_m [m]: of the table, else linear in travel between the inverse
    ratios.
    """
    if shock.table:
        return linkage_of(shock.table).rate(wheel_m)
    start, end = 1.0 / shock.ratio_start, 1.0 / shock.ratio_end
    return start + (end - start) * wheel_m / shock.travel_m


def shock_stroke(shock: Shock, wheel_m: float) -> float:
    """Shock stroke [m] at wheel travel wheel_m [m]: the integral of motion_rate."""
    if shock.table:
        return linkage_of(shock.table).stroke(wheel_m)
    return 0.5 * (1.0 / shock.ratio_start + motion_rate(shock, wheel_m)) * wheel_m


def shock_force(shock: Shock, stroke_m: float) -> float:
    """Force of the shock spring [N] at a stroke [m]."""
    squeezed = stroke_m + shock.preload_m
    return shock.spring.force(squeezed) if shock.spring else shock.rate_n_per_m * squeezed


def shock_force_at_wheel(shock: Shock, wheel_m: float) -> float:
    """Vertical spring force at the axle [N] by virtual work."""
    return motion_rate(shock, wheel_m) * shock_force(shock, shock_stroke(shock, wheel_m))


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
    load = sprung_kg * GRAVITY_M_PER_S2 * cos(fork.rake_rad)
    return load - air_force(fork, sag_m) + top_out_force(fork, sag_m), sag_m


def rate_for_both(race: tuple[float, float], free: tuple[float, float]) -> tuple[float, float]:
    """Rate [N/m] and preload [m] that give both sags: two lines rate x (stroke + preload) = load, closed form."""
    rate = (race[0] - free[0]) / (race[1] - free[1])
    return rate, race[0] / rate - race[1]


def preload_band(
    spring: Spring, lines_low: tuple[tuple[float, float], ...], lines_high: tuple[tuple[float, float], ...]
) -> tuple[float, float]:
    """Preloads [m] with which, with this spring, every sag lies between its low line and its high line; empty when low
    > high.
    """
    most = min(spring.deflection(load) - stroke for load, stroke in lines_low)
    least = max(spring.deflection(load) - stroke for load, stroke in lines_high)
    return max(least, 0.0), most


def pressures_for_both(fork: Fork, race: tuple[float, float], free: tuple[float, float]) -> tuple[float, float | None]:
    """Gauge pressures [Pa] of main and balance chamber that give both sags, closed form; lines as of front_line (load,
    stroke).

    Without a balance chamber the main one gives the race sag alone. Raises ValueError when the fork has no chambers.
    """
    if fork.main is None:
        raise ValueError("no main chamber")

    def gains(x_m: float) -> tuple[float, float]:
        main = fork.main.area_m2 * fork.main.length_m / (fork.main.length_m - x_m)  # type: ignore[union-attr]
        balance = fork.balance.area_m2 * fork.balance.length_m / (fork.balance.length_m + x_m) if fork.balance else 0.0
        return main, balance

    def pull(load_n: float) -> float:  # the air outside pushes on both
        return load_n + fork.outside_pa * (fork.main.area_m2 - (fork.balance.area_m2 if fork.balance else 0.0))  # type: ignore[union-attr]

    a, b = gains(race[1])
    if fork.balance is None:
        return pull(race[0]) / a - fork.outside_pa, None
    c, d = gains(free[1])
    determinant = b * c - a * d
    main = (b * pull(free[0]) - d * pull(race[0])) / determinant
    balance = (a * pull(free[0]) - c * pull(race[0])) / determinant
    return main - fork.outside_pa, balance - fork.outside_pa
