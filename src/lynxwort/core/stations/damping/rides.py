"""The pieces of the course that a damper feels, and the rides over them."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from lynxwort.core.model.defaults import USUAL_WHOOP_M
from lynxwort.core.model.setup import SuspensionSetup
from lynxwort.core.physics.halfcar import terrain
from lynxwort.core.physics.halfcar.halfcar import SWEEP_STEP_S, HalfCar, Recording, ride
from lynxwort.core.physics.halfcar.measures import Measures, measure
from lynxwort.core.stations.damping.car import CarInput, half_car
from lynxwort.core.stations.damping.input import DampingInput

#: test pieces that every lap has somewhere: a hollow and a landing (assumption) [m]
DIP_M, LANDING_M = (0.6, 12.0), 0.6
DIP_MOST_M_PER_S, LANDING_MOST_M_PER_S = 14.0, 10.0
ROCK_CLASS, ROCK_LENGTH_M = "F", 24.0
WHOOP_COUNT = 13
#: rides that go on side by side
THREADS = 2
_RIDERS = ThreadPoolExecutor(THREADS, thread_name_prefix="ride")
#: speeds ridden about the lap's own, as shares of it
SPREAD = (0.96, 1.0, 1.04)
#: pieces that are smooth and met once: one speed tells as much
SMOOTH = ("dip", "landing")
WIDE_SPREAD = tuple(0.92 + 0.02 * k for k in range(9))
SLOWER, SLOWER_MOST = 0.9, 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Feature:
    """Something to ride over. kind: "whoops", "rocks", "dip" or "landing"; at_m: where on the round, None = anywhere;
    size: what the terrain is made of.
    """

    kind: str
    at_m: float | None
    speed_m_per_s: float
    size: tuple[float, ...]

    def profile(self, seed: int = 1) -> tuple[terrain.Profile, terrain.Array]:
        """The ground, and what the tyre passes on of it."""
        return _ground(self.kind, self.size, seed if self.kind == "rocks" else 1)


@lru_cache(maxsize=64)
def _ground(kind: str, size: tuple[float, ...], seed: int) -> tuple[terrain.Profile, terrain.Array]:
    if kind == "whoops":
        made = terrain.whoops(size[0], size[1], WHOOP_COUNT)
    elif kind == "rocks":
        made = terrain.rocks(size[0], ROCK_LENGTH_M, seed)
    else:
        made = terrain.dip(size[0], size[1]) if kind == "dip" else terrain.landing(size[0])
    return made, terrain.tyre_path(made.height_m)


def features(given: DampingInput) -> list[Feature]:
    """What of this course a damper feels: its hardest whoops, its fastest rocks, a hollow and a landing at the lap's
    median speed.
    """
    return given.lap.cache.get("features", given.lap, lambda: _features(given))


def _features(given: DampingInput) -> list[Feature]:
    whoops: list[tuple[float, Feature]] = []
    rocky: list[Feature] = []
    for i, stage in enumerate(given.lap.around.given):
        course, ridden = given.lap.around.courses[i], given.lap.rides[i]
        for part in stage.ground:
            if part.ground not in ("whoops", "rock"):
                continue
            inside = (course.distance_m >= part.from_m) & (course.distance_m <= part.to_m)
            if not inside.any():
                continue
            speed = round(max(float(ridden.speed_m_per_s[inside].mean()), 2.0), 1)
            at = float(given.lap.around.starts_m[i]) + 0.5 * (part.from_m + part.to_m)
            if part.ground == "rock":
                rocky.append(Feature(kind="rocks", at_m=at, speed_m_per_s=speed, size=(terrain.CLASSES[ROCK_CLASS],)))
                continue
            length, height = part.whoop_length_m or USUAL_WHOOP_M[0], part.whoop_height_m or USUAL_WHOOP_M[1]
            whoops.append(
                (
                    speed**2 * height / length**2,
                    Feature(kind="whoops", at_m=at, speed_m_per_s=speed, size=(length, height)),
                )
            )
    usual = round(float(np.median(given.lap.whole.speed_m_per_s)), 1)
    found = [max(whoops, key=lambda w: w[0])[1]] if whoops else []
    found += [max(rocky, key=lambda f: f.speed_m_per_s)] if rocky else []
    dip = Feature(kind="dip", at_m=None, speed_m_per_s=min(usual, DIP_MOST_M_PER_S), size=DIP_M)
    return [
        *found,
        dip,
        Feature(kind="landing", at_m=None, speed_m_per_s=min(usual, LANDING_MOST_M_PER_S), size=(LANDING_M,)),
    ]


@dataclass(frozen=True, slots=True, kw_only=True)
class Ridden:
    """A feature ridden at some speeds about the lap's; at a lower one where the model does not hold at the lap's."""

    feature: Feature
    speed_m_per_s: float
    runs: tuple[Measures, ...]

    def mean(self, name: str, end: str | None = None) -> float:
        """Mean of one measure over the runs."""
        return float(np.mean([getattr(m if end is None else getattr(m, end), name) for m in self.runs]))

    @property
    def slower(self) -> bool:
        return self.speed_m_per_s < self.feature.speed_m_per_s - 1e-9

    @property
    def holds(self) -> bool:
        return all(m.in_envelope for m in self.runs)


def ride_feature(
    car: HalfCar, feature: Feature, speed_m_per_s: float, *, spread: tuple[float, ...] = SPREAD, alone: bool = False
) -> Ridden:
    """One feature at speeds about this one; rocks with another ground each time. alone: on this thread only, for those
    who have threads of their own.
    """

    def one(k: int) -> Measures:
        profile, path = feature.profile(k + 1)
        return measure(car, ride(car, profile, speed_m_per_s * spread[k], step_s=SWEEP_STEP_S, path=path))

    car.ready()
    apart = map if alone or len(spread) == 1 else _RIDERS.map  # the kernel lets go of the interpreter's lock
    return Ridden(feature=feature, speed_m_per_s=speed_m_per_s, runs=tuple(apart(one, range(len(spread)))))


def within(car: HalfCar, feature: Feature) -> Ridden:
    """One feature at the lap's speed, or slower by tenths until the model holds."""
    speed = feature.speed_m_per_s
    for _ in range(SLOWER_MOST):
        found = ride_feature(car, feature, speed, spread=(1.0,) if feature.kind in SMOOTH else SPREAD)
        if found.holds:
            break
        speed *= SLOWER
    return found


def key_of(given: DampingInput, setup: SuspensionSetup | None = None) -> tuple[CarInput, tuple[Feature, ...]]:
    """Everything that a ride over the features reads."""
    if setup is None:
        return given.once("car", lambda: CarInput.of(given)), tuple(features(given))
    return CarInput.of(given, setup), tuple(features(given))


def ridden(given: DampingInput, setup: SuspensionSetup | None = None) -> list[Ridden]:
    """Every feature ridden with a setup."""
    key = key_of(given, setup)

    def make() -> list[Ridden]:
        car = key[0].car()
        return [within(car, f) for f in key[1]]

    return given.lap.cache.get("damping_ride", key, make)


def recording(given: DampingInput, feature: Feature, speed_m_per_s: float) -> tuple[HalfCar, Recording]:
    """One ride over a feature with every step, for pictures."""
    car = half_car(given)
    profile, path = feature.profile()
    return car, ride(car, profile, speed_m_per_s, path=path)
