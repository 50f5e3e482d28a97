"""The tyres as they are: pressure, edges, flats, foam, grip."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived import tyres as on
from lynxwort.core.derived.clock import Clock
from lynxwort.core.model.fitted import inside_of, tyre_on
from lynxwort.core.model.readings import FlatsReading
from lynxwort.core.model.setup import LoadedSetup
from lynxwort.core.physics.kit import mousse, tyres
from lynxwort.core.stations.kit.braking import air_along
from lynxwort.core.stations.kit.ground import ground_of
from lynxwort.core.stations.kit.input import KitInput

Array = NDArray[np.float64]


def wanted_pressure(given: KitInput, end: str) -> float:
    """Cold pressure that the course wants [Pa], for what fills the tyre and the load on it."""
    ground = ground_of(given)
    bar = tyres.wanted_bar(
        ground.time_shares, end, rock_m=ground.metres.get("rock", 0.0), lap_m=sum(ground.metres.values())
    )
    cold = max(bar - tyres.INSIDE_LESS_BAR[inside_of(given.bike, given.setup, end)], 0.3) * tyres.BAR_PA
    return tyres.pressure_for_load(
        cold, end=end, radius_m=on.wheel_radius(given.bike, given.setup, end), load_kg=given.on_wheel_kg(end)
    )


def set_pressure(given: KitInput, end: str) -> float:
    """Cold pressure as it is set [Pa]; of foam what it is worth."""
    return on.cold_pressure(given.loads, given.setup, given.rider, end)


def rate(given: KitInput, end: str) -> float:
    """Rate of a tyre as it is [N/m]."""
    return on.tyre_rate(given.loads, given.setup, given.rider, end)


def load_ratio(given: KitInput, end: str) -> float | None:
    """Load on the wheel against that which its foam was made for [1]; None when that was not said."""
    return on.load_ratio(given.loads, given.setup, given.rider, end)


def _edge(given: KitInput, end: str, rate_n_per_m: float) -> float | None:
    """Highest edge [m] that a tyre of a rate takes before its rim at the pace on edged ground; None without such
    ground.
    """
    speed = ground_of(given).edged_m_per_s
    if speed is None:
        return None
    energy = tyres.strike_energy(tyres.EDGE_SHARE * rate_n_per_m, tyres.TO_RIM_M[end], tyres.LEG_N[end])
    unsprung = given.loaded.springs.loads.unsprung(given.setup, end)
    return tyres.strike_edge(
        energy, unsprung_kg=unsprung, radius_m=on.wheel_radius(given.bike, given.setup, end), speed_m_per_s=speed
    )


def strike_edge(given: KitInput, end: str) -> float | None:
    """The same of the tyre as it is."""
    return _edge(given, end, rate(given, end))


def _ratio(given: KitInput, end: str, setup: LoadedSetup) -> float | None:
    """How much likelier a setup's rim is struck than one at the reference pressure [1]."""
    now = _edge(given, end, on.tyre_rate(given.loads, setup, given.rider, end))
    reference = (0.90 if end == "front" else 0.85) * tyres.BAR_PA
    then = _edge(given, end, tyres.tyre_rate(reference, end=end, radius_m=on.wheel_radius(given.bike, setup, end)))
    return None if now is None or then is None else tyres.flat_ratio(now, then)


def flat_ratio(given: KitInput, end: str) -> float | None:
    """How much likelier the rim is struck than with a plain tyre at the reference pressure [1]."""
    return _ratio(given, end, given.setup)


@dataclass(frozen=True, slots=True, kw_only=True)
class Flats:
    """Flats per metre of edged ground with the reference tyre, how many were counted, by which readings."""

    per_m: float
    hits: int
    used: tuple[str, ...]


def flats_of(given: KitInput, end: str) -> Flats:
    """What the rider's own flats say."""
    hits, ridden, used = 0, 0.0, []
    for reading in given.readings:
        if not isinstance(reading, FlatsReading) or reading.end != end:
            continue
        setup = reading.under.setup
        ratio, pinches = _ratio(given, end, setup), tyres.PINCHES[inside_of(given.bike, setup, end)]
        if ratio is not None and pinches > 0.0:
            hits, ridden = hits + reading.flats, ridden + reading.distance_m * ratio * pinches
            used.append(reading.id)
    return Flats(per_m=tyres.flats_per_m(hits=hits, distance_m=ridden), hits=hits, used=tuple(used))


def flat_chance(given: KitInput, end: str, scale: float = 1.0) -> float:
    """Chance of a flat by a strike over the race [1]. scale: on the rate of flats."""
    ratio = flat_ratio(given, end)
    if ratio is None:
        return 0.0
    share = ground_of(given).edged_m / given.lap.around.whole.length_m
    pinches = tyres.PINCHES[inside_of(given.bike, given.setup, end)]
    flats = flats_of(given, end).per_m * scale * ratio * pinches * share * given.clock.race_m
    return float(-np.expm1(-flats))


@dataclass(frozen=True, slots=True, kw_only=True)
class Core:
    """Core of the foam [K] along the round the first and the last time it is ridden, the hottest of the whole race, and
    the hottest of the same race on foam made for this load.
    """

    first_k: Array
    last_k: Array
    hottest_k: float
    right_k: float


@keyed
class _Ridden:
    """All that the warmth of foam depends on."""

    clock: Clock
    end: str
    load_kg: float
    made_for_kg: float


def foam(given: KitInput, end: str) -> Core | None:
    """How hot the foam gets over the whole race; None of another filling, or when nobody said what it was made for."""
    made_for, load = tyre_on(given.bike, given.setup, end).foam_for_kg, given.on_wheel_kg(end)
    if inside_of(given.bike, given.setup, end) != "mousse" or made_for is None:
        return None

    def along(made_for_kg: float) -> tuple[Array, Array, float]:
        ride, air = given.lap.whole, air_along(given)
        speed = 0.5 * (ride.speed_m_per_s[1:] + ride.speed_m_per_s[:-1])
        first, last = mousse.core(ride.time_s, speed, air, load_kg=load, made_for_kg=made_for_kg, laps=given.rounds)
        return first, last, max(float(first.max()), float(last.max()))

    def make() -> Core:
        first, last, hottest = along(made_for)
        right = hottest if made_for >= load else along(load)[2]
        return Core(first_k=first, last_k=last, hottest_k=hottest, right_k=right)

    key = _Ridden(clock=given.clock, end=end, load_kg=load, made_for_kg=made_for)
    return given.cache.get("foam", key, make)


def grip_over_time(given: KitInput, slot: int) -> float:
    """Drive grip of a rear wheel by its slot against a middling tyre, over the lap's time [1]."""
    setup = given.setup.model_copy(update={"rear_wheel": slot})
    tyre = tyre_on(given.bike, setup, "rear")
    return sum(
        share * tyres.grips(tyre.tyre_kind, ground, left_share=tyre.left_share, wet=given.wet)[0]
        for ground, share in ground_of(given).time_shares.items()
    )


def rear_slots(given: KitInput) -> list[int]:
    """Slots of all rear wheels that are there."""
    return list(range(1, 2 + len(given.bike.frame.other_rear_wheels)))
