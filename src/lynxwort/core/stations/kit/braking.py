"""The brakes as they are: what a finger gives, where a wheel locks, how hot rotor and fluid get along the lap."""

from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.tyres import wheel_radius
from lynxwort.core.evidence import LogNormal
from lynxwort.core.learned.kit import learn_heat, learn_pull
from lynxwort.core.model.bike import Brake
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.readings import LeverReading, RotorReading
from lynxwort.core.model.setup.kit import PADS
from lynxwort.core.physics.air.along import mean_air
from lynxwort.core.physics.air.moist import moist_density
from lynxwort.core.physics.air.standard import LAPSE_K_PER_M
from lynxwort.core.physics.kit import brakes
from lynxwort.core.stations.kit.ground import ground_of
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import current_value

Array = NDArray[np.float64]
T = TypeVar("T")
#: share of the braking in front by ground (HANDBOOK 9, 2; assumption)
_HARD, _SLICK = ("hardpack",), ("mud", "rock")
#: a fluid of which nobody said when it was changed: a year old (assumption)
UNSAID_MONTHS = 12
#: rounds of heat that are followed at most
MOST_ROUNDS = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Fitted:
    """One brake as it is set: rotor and master [m], kind of pad, torque for a newton [N m/N], radius of its wheel
    [m].
    """

    rotor_m: float
    master_m: float
    pad: str
    gain_nm_per_n: float
    wheel_m: float


def facts_of(given: KitInput, end: str) -> Brake:
    """What of a brake stays."""
    return given.bike.kit.front_brake if end == "front" else given.bike.kit.rear_brake


def fitted(given: KitInput, end: str, *, rotor_m: float | None = None, master_m: float | None = None,
           pad: str | None = None, learned: bool = True) -> Fitted:  # fmt: skip
    """One brake as it is set, or with another rotor, master or pad. learned: with what a luggage scale said of it."""
    facts, setup = facts_of(given, end), given.brakes
    rotor = current_value(setup, f"{end}_rotor_m") if rotor_m is None else rotor_m
    master = current_value(setup, f"{end}_master_m") if master_m is None else master_m
    kind = pad or PADS[int(current_value(setup, f"{end}_pad")) - 1]
    plain = brakes.gain(
        friction_factor=brakes.PAD_FRICTION[kind],
        pistons_m2=brakes.piston_area(*facts.pistons_m),
        master_m2=brakes.piston_area(master),
        lever_ratio=facts.lever_ratio,
        radius_m=brakes.effective_radius(rotor),
    )
    wheel = wheel_radius(given.bike, given.setup, end)
    return Fitted(
        rotor_m=rotor,
        master_m=master,
        pad=kind,
        gain_nm_per_n=plain * (pull(given, end).median if learned else 1.0),
        wheel_m=wheel,
    )


def stoppie_g(given: KitInput) -> float:
    """Deceleration [g] at which the rear wheel leaves the ground."""
    ride_input = given.lap.ride_input
    return ride_input.cg_to_front_axle_m / ride_input.cg_height_m


def lock_g(given: KitInput, end: str, ground: str) -> float:
    """Deceleration [g] by one brake alone at which its wheel locks on a ground, or the rear wheel lifts."""
    ride_input, mu = given.lap.ride_input, ground_of(given).lateral[ground]
    lengths = {
        "wheelbase_m": ride_input.wheelbase_m,
        "to_front_m": ride_input.cg_to_front_axle_m,
        "height_m": ride_input.cg_height_m,
    }
    if end == "rear":
        return brakes.rear_lock_g(mu, **lengths)
    return min(brakes.front_lock_g(mu, **lengths), stoppie_g(given))


def window(given: KitInput, end: str, ground: str, brake: Fitted) -> float:
    """Force [N] from the bite to the lock of a wheel on a ground."""
    return brakes.window_n(
        lock_g(given, end, ground),
        mass_kg=given.lap.ride_input.mass_kg,
        wheel_m=brake.wheel_m,
        gain_nm_per_n=brake.gain_nm_per_n,
    )


def slickest(given: KitInput) -> str:
    """The ground of the lap on which a wheel locks first."""
    lateral = ground_of(given).lateral
    return min(lateral, key=lambda g: lateral[g])


@dataclass(frozen=True, slots=True, kw_only=True)
class Warmth:
    """Temperatures of rotor and fluid [K] at the end of each step of the round, once it is warm."""

    rotor_k: Array
    fluid_k: Array


def rounds(given: KitInput) -> int:
    """How often the round is followed: fluid takes a lap and more to warm through, and then stays as it is."""
    return min(given.rounds, MOST_ROUNDS)


@keyed
class _Heated:
    """All that a brake's warmth depends on."""

    lap: Lap
    rounds: int
    end: str
    rotor_m: float
    thickness_m: float
    wheel_m: float


def air_along(given: KitInput) -> Array:
    """Temperature of the air [K] on each step of the round in the hottest hour."""
    day, height = given.day.air, given.lap.around.whole.height_m
    middle = 0.5 * (height[1:] + height[:-1])
    return np.asarray(day.temperature_high_k - LAPSE_K_PER_M * (middle - day.reading_height_m))


def brake_power(given: KitInput, end: str) -> Array:
    """Heat that one brake makes in each step [W]: its share of the work of both."""
    ride, ground = given.lap.whole, given.lap.around.whole.ground
    front = np.array(
        [
            brakes.HARD_FRONT_SHARE
            if g in _HARD
            else brakes.SLICK_FRONT_SHARE
            if g in _SLICK
            else brakes.USUAL_FRONT_SHARE
            for g in GROUNDS
        ]
    )[ground]
    share = front if end == "front" else 1.0 - front
    return np.asarray(share * ride.brake_n * ride.step_m / ride.time_s)


def _taken(given: KitInput, kind: type[T], end: str) -> list[T]:
    """Readings of a kind and an end that this race can speak of."""
    return [
        r
        for r in given.readings
        if isinstance(r, kind) and r.end == end and r.under.course_key in (None, *given.course_keys)  # type: ignore[union-attr]
    ]


def pull(given: KitInput, end: str) -> LogNormal:
    """Factor on a brake's pull for a newton [1], by a luggage scale."""

    def of(reading: LeverReading) -> float:
        setup = reading.under.setup
        then = fitted(
            given, end, rotor_m=current_value(setup, f"{end}_rotor_m"), master_m=current_value(setup,
            f"{end}_master_m"),
            pad=PADS[int(current_value(setup, f"{end}_pad")) - 1], learned=False,
        )  # fmt: skip
        return window(given, end, reading.ground, then) / reading.force_n

    found = [r for r in _taken(given, LeverReading, end) if r.ground in ground_of(given).lateral]
    return learn_pull([(r.id, of(r)) for r in found])


def heat(given: KitInput, end: str) -> LogNormal:
    """Factor on the rise of a rotor and its fluid [1], by temperature crayon."""

    def of(reading: RotorReading) -> float:
        rotor = current_value(reading.under.setup, f"{end}_rotor_m")
        air = given.day.air.temperature_high_k
        predicted = float(modelled(given, end, fitted(given, end, rotor_m=rotor)).rotor_k.max()) - air
        outside = air if reading.under.air is None else reading.under.air.temperature_k
        return (reading.hottest_k - outside) / max(predicted, 1.0)

    return learn_heat([(r.id, of(r)) for r in _taken(given, RotorReading, end)])


def warmth(given: KitInput, end: str, brake: Fitted | None = None) -> Warmth:
    """How warm a brake gets along the round, with what was read of it."""
    plain, factor = modelled(given, end, brake), heat(given, end)
    if not factor.used:
        return plain
    air = air_along(given)
    return Warmth(
        rotor_k=air + factor.median * (plain.rotor_k - air), fluid_k=air + factor.median * (plain.fluid_k - air)
    )


def modelled(given: KitInput, end: str, brake: Fitted | None = None) -> Warmth:
    """How warm a brake gets along the round as it is ridden the last time: as it is set, or another."""
    brake, thickness = brake or fitted(given, end), facts_of(given, end).thickness_m
    key = _Heated(
        lap=given.lap, rounds=rounds(given), end=end, rotor_m=brake.rotor_m, thickness_m=thickness,
        wheel_m=brake.wheel_m,
    )  # fmt: skip

    def make() -> Warmth:
        ride, air, found = given.lap.whole, air_along(given), None
        start = (float(air[0]), float(air[0]))
        for _lap in range(rounds(given)):
            found = brakes.heat_along(
                time_s=ride.time_s,
                power_w=brake_power(given, end),
                speed_m_per_s=0.5 * (ride.speed_m_per_s[1:] + ride.speed_m_per_s[:-1]),
                air_k=air,
                density_kg_per_m3=moist_density(mean_air(given.day.air)),
                rotor_m=brake.rotor_m,
                thickness_m=thickness,
                wheel_m=brake.wheel_m,
                start_k=start,
            )
            start = (float(found[0][-1]), float(found[1][-1]))
        assert found is not None
        return Warmth(rotor_k=found[0], fluid_k=found[1])

    return given.cache.get("brake_warmth", key, make)


def fluid_months(given: KitInput, end: str) -> int | None:
    """Age of a brake's fluid at the start [months]; None when nobody said."""
    from_month = facts_of(given, end).fluid_from
    return None if from_month is None else max(given.month - (12 * int(from_month[:4]) + int(from_month[5:])), 0)


def boils_at(given: KitInput, end: str) -> float:
    """Where a brake's fluid boils [K] at the round's highest place."""
    months = fluid_months(given, end)
    return brakes.fluid_boils_at(
        facts_of(given, end).fluid,
        age_s=(UNSAID_MONTHS if months is None else months) / 12.0 * brakes.YEAR_S,
        pressure_pa=given.day.states.thinnest.pressure_pa,
    )


def margin(given: KitInput, end: str, brake: Fitted | None = None) -> float:
    """How far a brake's fluid stays below boiling [K]."""
    return boils_at(given, end) - float(warmth(given, end, brake).fluid_k.max())


def master_for_window(given: KitInput, end: str, window_n: float, ground: str, brake: Fitted) -> float:
    """Diameter of a master [m] that gives a brake a window on a ground: the gain goes with one over its area."""
    return brake.master_m * (window_n / window(given, end, ground, brake)) ** 0.5
