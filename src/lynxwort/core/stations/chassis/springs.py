"""The springs that meet both sags."""

from dataclasses import dataclass, replace

from lynxwort.core.derived.springs import STAMPED
from lynxwort.core.learned.sag import PRELOAD
from lynxwort.core.model.readings import SagReading
from lynxwort.core.physics.chassis import sag
from lynxwort.core.physics.chassis.fitted import leg_rate, legs_rate
from lynxwort.core.physics.chassis.springs import Spring, straight
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.tunables import TUNABLES, is_owned

#: this near a band is in it [m]: nobody measures finer
BAND_EDGE_M = 5e-4
RATE_FIELD = STAMPED
PRELOAD_FIELD = {"front": "fork_preload_m", "rear": "shock_preload_m"}
#: preloads that exist as read on the bike [m], and rates that are sold [N/m] of one of two fork springs and of a shock
#: spring (common practice, no source)
PRELOAD_EXISTS_M = {"front": (0.002, 0.012), "rear": (0.004, 0.015)}
SOLD_N_PER_M = {"front": (3200.0, 6200.0), "rear": (30_000.0, 140_000.0)}


@dataclass(frozen=True, slots=True, kw_only=True)
class SpringChoice:
    """A rate [N/m] (one fork spring or the shock spring) and the preloads [m] that meet both sags with it."""

    rate_n_per_m: float
    preload_low_m: float
    preload_high_m: float
    owned: bool

    @property
    def preload_m(self) -> float:
        """The notch nearest to the middle of the preloads."""
        return on_notch(0.5 * (self.preload_low_m + self.preload_high_m))


def on_notch(preload_m: float) -> float:
    """The nearest notch of a preload [m]."""
    notch = TUNABLES["shock_preload_m"].step
    return round(round(preload_m / notch) * notch, 9)


def line_at(given: ChassisInput, end: str, mass_kg: float, sag_m: float) -> tuple[float, float]:
    """Load on the springs [N], of both legs in front, and their stroke [m] of one end at a sag."""
    setup = given.setup
    if end == "front":
        return sag.front_line(given.springs.fork(setup), mass_kg, sag_m)
    return sag.rear_line(given.springs.shock(setup), mass_kg, sag_m)


def _preload_offset(given: ChassisInput, end: str) -> float:
    return given.springs.offsets.mean[PRELOAD[end]]


def on_air(given: ChassisInput, end: str) -> bool:
    """Whether an end stands on air, not on a coil spring."""
    return end == "front" and given.bike.frame.fork_springing == "air"


def spring_at(given: ChassisInput, end: str, rate_n_per_m: float) -> Spring:
    """The spring an end would stand on with this rate: the present one with its shape and its true rate, any other
    straight and true.
    """
    setup = given.setup
    present = abs(rate_n_per_m - getattr(setup, RATE_FIELD[end])) <= 1.0
    if end == "front":
        fork = given.springs.fork(setup, given.springs.offsets.mean)
        return (
            (fork.spring or straight(fork.rate_n_per_m))
            if present
            else straight(legs_rate(given.bike.frame, setup, rate_n_per_m))
        )
    shock = given.springs.shock(setup, given.springs.offsets.mean)
    return (shock.spring or straight(shock.rate_n_per_m)) if present else straight(rate_n_per_m)


def _band_lines(
    given: ChassisInput, end: str
) -> tuple[tuple[tuple[float, float], ...], tuple[tuple[float, float], ...]]:
    """Lines (load, stroke) of race and free sag at the low ends of their bands, and at the high ends: the same for
    every spring.
    """

    def make() -> tuple[tuple[tuple[float, float], ...], tuple[tuple[float, float], ...]]:
        race_kg, free_kg = given.loaded.sprung(end)
        t = given.springs.targets(end, given.setup)
        return (
            (line_at(given, end, race_kg, t.race_low_m), line_at(given, end, free_kg, t.free_low_m)),
            (line_at(given, end, race_kg, t.race_high_m), line_at(given, end, free_kg, t.free_high_m)),
        )

    return given.once(f"band_lines_{end}", make)


def preloads_for(given: ChassisInput, end: str, rate_n_per_m: float) -> tuple[float, float]:
    """Preloads as read on the bike [m], of those that exist, with which both sags lie in their bands at this rate; low
    > high when there is none.
    """
    low, high = sag.preload_band(spring_at(given, end, rate_n_per_m), *_band_lines(given, end))
    offset, (least, most) = _preload_offset(given, end), PRELOAD_EXISTS_M[end]
    return max(low - offset, least), min(high - offset, most)


def pressures_wanted(given: ChassisInput) -> tuple[float, float | None]:
    """Gauge pressures [Pa] of an air-sprung fork's main and balance chamber that meet the middle of the bands."""
    race_kg, free_kg = given.loaded.sprung("front")
    t = given.springs.targets("front", given.setup)
    return sag.pressures_for_both(
        given.springs.fork(given.setup, given.springs.offsets.mean),
        line_at(given, "front", race_kg, t.race_m),
        line_at(given, "front", free_kg, t.free_m),
    )


def preload_with(given: ChassisInput, end: str) -> float:
    """Preload as read on the bike [m] that suits the present spring best: the middle of what meets both sags, else what
    meets race sag.
    """
    low, high = preloads_for(given, end, getattr(given.setup, RATE_FIELD[end]))
    if low <= high:
        return 0.5 * (low + high)
    load, stroke = line_at(given, end, given.loaded.sprung(end)[0], given.springs.targets(end, given.setup).race_m)
    spring = spring_at(given, end, getattr(given.setup, RATE_FIELD[end]))
    return max(spring.deflection(load) - stroke - _preload_offset(given, end), 0.0)


def sold_rates(given: ChassisInput, end: str) -> list[float]:
    """Rates [N/m] that are sold, in their steps, and those in the box, softest first."""
    step_n, (least, most) = TUNABLES[RATE_FIELD[end]].step, SOLD_N_PER_M[end]
    legs = 2.0 if end == "front" and given.bike.frame.fork_springs == "one" else 1.0
    steps = {round(k * step_n, 6) for k in range(round(legs * least / step_n), round(legs * most / step_n) + 1)}
    return sorted(steps | set(given.box.owned(RATE_FIELD[end])))


def spring_choices(given: ChassisInput, end: str) -> list[SpringChoice]:
    """Every rate that is sold or in the box and meets both sags with a preload that exists, softest first."""
    if on_air(given, end):
        return []

    def make() -> list[SpringChoice]:
        found = []
        for rate in sold_rates(given, end):
            low, high = preloads_for(given, end, rate)
            if low <= high:
                owned = bool(is_owned(given.box, RATE_FIELD[end], rate))
                found.append(SpringChoice(rate_n_per_m=rate, preload_low_m=low, preload_high_m=high, owned=owned))
        return found

    return given.once(f"spring_choices_{end}", make)


def span(given: ChassisInput, end: str) -> tuple[float, float]:
    """Softest and stiffest rate [N/m] that meets both sags; where none does, the one that comes nearest, twice."""
    rates = [c.rate_n_per_m for c in spring_choices(given, end)]
    if rates:
        return rates[0], rates[-1]

    def apart(rate_n_per_m: float) -> float:
        low, high = preloads_for(given, end, rate_n_per_m)
        return low - high

    nearest = min(sold_rates(given, end), key=apart)
    return nearest, nearest


def wanted(given: ChassisInput, end: str) -> tuple[float, float]:
    """Middle of the rates that meet both sags [N/m] (of one fork spring or the shock's), and the middle of its preloads
    [m] as read on the bike.
    """
    rate = 0.5 * sum(span(given, end))
    low, high = preloads_for(given, end, rate)
    return rate, 0.5 * (low + high)


def one_spring(given: ChassisInput, end: str, rate_n_per_m: float, half_n_per_m: float) -> tuple[float, float]:
    """Rate and half range [N/m] of the one spring that is stamped, from those of the end: both legs of a fork work
    together.
    """
    if end == "rear":
        return rate_n_per_m, half_n_per_m
    frame, setup = given.bike.frame, given.setup
    rate = leg_rate(frame, setup, rate_n_per_m)
    return rate, leg_rate(frame, setup, rate_n_per_m + half_n_per_m) - rate


def examples(given: ChassisInput, end: str) -> list[tuple[str, float, float]]:
    """A soft, a right and a stiff spring with race sag set by preload: code, free and race sag [m]."""
    race_kg, free_kg = given.loaded.sprung(end)
    t, setup, found = given.springs.targets(end, given.setup), given.setup, []
    middle = wanted(given, end)[0]
    for code, factor in (("soft", 0.75), ("right", 1.0), ("stiff", 1.3)):
        load, stroke = line_at(given, end, race_kg, t.race_m)
        rate = middle * factor
        legs = legs_rate(given.bike.frame, setup, rate) if end == "front" else rate
        preload = load / legs - stroke
        if end == "front":
            free = sag.front_sag(
                replace(
                    given.springs.fork(setup),
                    rate_n_per_m=legs,
                    preload_m=preload,
                    spring=None,
                    main=None,
                    balance=None,
                ),
                free_kg,
            )
        else:
            free = sag.rear_sag(
                replace(given.springs.shock(setup), rate_n_per_m=legs, preload_m=preload, spring=None), free_kg
            )
        found.append((code, free, t.race_m))
    return found


def measured_sag(given: ChassisInput, end: str) -> bool:
    """Whether a sag of this end was measured and counts: without one no spring is proposed."""
    return any(
        isinstance(r, SagReading) and r.end == end and r.id in given.springs.offsets.used for r in given.readings
    )


def bands(given: ChassisInput) -> dict[str, tuple[float, float]]:
    """The bands [m] in which sag figures should lie."""
    return {
        f"chassis.{end}.{state}": (t.free_low_m, t.free_high_m)
        if state == "free_sag"
        else (t.race_low_m, t.race_high_m)
        for end in ("front", "rear")
        for t in (given.springs.targets(end, given.setup),)
        for state in ("free_sag", "race_sag")
    }


def targets(given: ChassisInput, end: str) -> sag.SagTargets:
    """Where sags of an end should lie."""
    return given.springs.targets(end, given.setup)
