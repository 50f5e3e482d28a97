"""Damping: dampers as set, damping ratios, the ride over this course's ground, and what would cure what it shows."""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import lru_cache
from math import cos
from typing import Any

import numpy as np

from lynxwort.core.cache import Key
from lynxwort.core.coupling import chassis
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.figures import figure, step
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.damper import MIDDLE_CLICKS, PLACES, STOCK_STACKS, DamperFacts, StackShim, ValveSeat
from lynxwort.core.model.defaults import USUAL_WHOOP_M
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.chassis import ride_quality, sag
from lynxwort.core.physics.damping import damper, stack
from lynxwort.core.physics.damping.orifices import Needle
from lynxwort.core.physics.damping.valve import Valve, bent_under
from lynxwort.core.physics.halfcar import terrain
from lynxwort.core.physics.halfcar.halfcar import BAR_AHEAD_M, GYRATION_M, SWEEP_STEP_S, HalfCar, Recording, ride
from lynxwort.core.physics.halfcar.measures import Measures, measure
from lynxwort.core.report import Figure, Finding, Move, Severity
from lynxwort.core.units.detents import DETENTS, is_owned

ENDS = {"front": "fork", "rear": "shock"}
SOURCE = "thin plates in contact (Roark), orifice flow, half car by Runge-Kutta; dampers' insides from memory until they are typed"
DEEPEST = "deepest stroke over the hardest of the course's pieces, mean over speeds"
#: speeds at which a damper is spoken of [m/s at the shaft]: low, middle, high
LOW_M_PER_S, JUDGED_M_PER_S, HIGH_M_PER_S = 0.1, 0.25, 2.0
#: bands of the damping ratio (from memory, judgement)
BANDS = {"compression": (0.15, 0.35), "rebound": (0.35, 0.65)}
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
#: what is called packing: deeper than it stands by this share of the travel (assumption)
PACKING_SHARE = 0.09
#: metal contacts on one piece, mean over its runs, to speak of and to act on (assumption)
METAL_LOOK, METAL_ACT = 0.3, 2.0
STRESS_LOOK_PA = 1.0e9
CHECK_SHIM, CHECK_CLAMP_M, CHECK_PORTS_M = stack.Shim(0.024, 0.0001), 0.012, (0.0075, 0.0105)
CLICK_FIELDS = ("fork_compression_clicks", "fork_rebound_clicks", "shock_compression_clicks", "shock_rebound_clicks", "shock_high_speed_turns")
STACK_FIELDS = tuple(f"{end}_{place}_stack" for end in ENDS.values() for place in PLACES)


# dampers ----------------------------------------------------------------------------------------------------------------
def shims_of(setup: Setup, end: str, place: str) -> tuple[StackShim, ...]:
    """The shims of one valve of "fork" or "shock"; stock ones when nobody said."""
    return getattr(setup, f"{end}_{place}_stack") or STOCK_STACKS[f"{end}_{place}"]


def stack_in(shims: tuple[StackShim, ...], seat: ValveSeat) -> stack.Stack:
    """Shims on their seat."""
    leaves = tuple(stack.Shim(s.diameter_m, s.thickness_m) for s in shims for _ in range(s.count))
    return stack.Stack(shims=leaves, clamp_m=seat.clamp_m, ports_m=(seat.port_inner_m, seat.port_outer_m))


def _valve(setup: Setup, end: str, place: str, facts: DamperFacts, opens_pa: float = 0.0) -> Valve:
    seat: ValveSeat = getattr(facts, place)
    return Valve(stack=stack_in(shims_of(setup, end, place), seat), port_area_m2=seat.port_area_m2, float_m=seat.float_m, opens_pa=opens_pa)


def facts_of(bike: Bike, end: str) -> DamperFacts:
    """What stays in the damper of "fork" or "shock"."""
    return bike.damper(end)


def damper_of(bike: Bike, setup: Setup, end: str) -> damper.Damper:
    """The damper of "fork" or "shock" with this setup's shims and high-speed adjuster."""
    facts = facts_of(bike, end)
    turns = (setup.shock_high_speed_turns or 0.0) if end == "shock" else 0.0
    soft = stack.Stack(shims=(CHECK_SHIM,), clamp_m=CHECK_CLAMP_M, ports_m=CHECK_PORTS_M)
    return damper.Damper(
        bore_m=facts.bore_m,
        rod_m=facts.rod_m,
        reservoir_pa=facts.reservoir_pa,
        base=_valve(setup, end, "base", facts, turns * facts.pa_per_turn),
        piston=_valve(setup, end, "piston", facts),
        rebound=_valve(setup, end, "rebound", facts),
        check=Valve(stack=soft, port_area_m2=110e-6, float_m=1e-3),
        compression_needle=Needle(
            bore_m=facts.needle_bore_m, half_angle_rad=facts.needle_half_angle_rad, m_per_click=facts.needle_m_per_click, fixed_m2=facts.needle_fixed_m2
        ),
        rebound_needle=Needle(
            bore_m=facts.rebound_needle_bore_m,
            half_angle_rad=facts.needle_half_angle_rad,
            m_per_click=facts.needle_m_per_click,
            fixed_m2=facts.rebound_fixed_m2,
        ),
        footprint=facts.footprint,
    )


def clicks_of(setup: Setup, end: str) -> tuple[int, int]:
    """Clicks out of compression and rebound."""
    found = (getattr(setup, f"{end}_{way}_clicks") for way in ("compression", "rebound"))
    return tuple(MIDDLE_CLICKS if c is None else c for c in found)  # type: ignore[return-value]


def curve_of(bike: Bike, setup: Setup, end: str) -> damper.Curve:
    """Force against shaft speed of one damper as it is set."""
    return damper.curve(damper_of(bike, setup, end), *clicks_of(setup, end))


def legs_of(bike: Bike) -> int:
    """Fork legs whose damper works on each stroke; a stock damper nobody described stands for both."""
    return 1 if bike.frame.fork_damping == "split" and bike.fork_damper is not None else 2


def tables_of(bike: Bike, setup: Setup, end: str) -> tuple[damper.Array, damper.Array]:
    """Force tables of all legs of "fork" or of the "shock", in and out, over damper.SPEEDS."""
    curve, legs = curve_of(bike, setup, end), legs_of(bike) if end == "fork" else 1
    return legs * curve.compression_n, legs * curve.rebound_n


def damper_tables(bike: Bike, setup: Setup) -> tuple[damper.Array, damper.Array, damper.Array, damper.Array]:
    """Force tables of fork and shock, in and out, over damper.SPEEDS."""
    return (*tables_of(bike, setup, "fork"), *tables_of(bike, setup, "shock"))


# the half car -----------------------------------------------------------------------------------------------------------
def half_car(work: Upstream, setup: Setup | None = None) -> HalfCar:
    """The bike with its rider, half the fill aboard, as chassis and dampers have it."""
    setup = setup or work.inputs.setup
    bike, rider, fuel, offset = work.inputs.bike, work.inputs.rider, 0.5 * setup.fill_m3, work.springs.offsets.mean[2]
    # the axle in the middle of its adjusters: a tooth moves two hundred grams, and no ride is done again for them
    alone, whole = work.loads.on_wheels(setup, None, fuel, axle_in_middle=True), work.loads.on_wheels(setup, rider, fuel, offset, axle_in_middle=True)
    wheels = {end: work.loads.unsprung(setup, end) for end in ENDS}
    sprung, base = alone.total_kg - sum(wheels.values()), work.springs.side.wheelbase_m
    to_rear = base * (alone.front_kg - wheels["front"]) / sprung
    stands = base * (whole.front_kg - alone.front_kg) / rider.mass_in_gear_kg
    fork, shock = work.springs.fork(setup, work.springs.offsets.mean), work.springs.shock(setup, work.springs.offsets.mean)
    fork_in, fork_out, shock_in, shock_out = damper_tables(bike, setup)
    return HalfCar(
        values={
            "sprung": sprung,
            "inertia": sprung * GYRATION_M**2,
            "front_unsprung": wheels["front"],
            "rear_unsprung": wheels["rear"],
            "rider": rider.mass_in_gear_kg,
            "to_front": base - to_rear,
            "to_rear": to_rear,
            "peg": stands - to_rear,
            "bar": BAR_AHEAD_M,
            "fork_travel": bike.frame.fork_travel_m,
            "fork_friction": bike.frame.fork_friction_n,
            "shock_friction": bike.frame.shock_friction_n,
            "rear_travel": bike.frame.rear_travel_m,
        },
        rake_rad=bike.frame.rake_rad,
        fork_spring=lambda s: sag.fork_force(fork, s, ride_quality.MOVING_EXPONENT),
        shock_spring=lambda s: sag.shock_force(shock, s),
        ratio=lambda w: sag.motion_rate(shock, w),
        fork_in=fork_in,
        fork_out=fork_out,
        shock_in=shock_in,
        shock_out=shock_out,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Feature:
    """Something to ride over. kind: "whoops", "rocks", "dip" or "landing"; at_m: where on the round, None = anywhere; size: what the terrain is made of."""

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


def features(work: Upstream) -> list[Feature]:
    """What of this course a damper feels: its hardest whoops, its fastest rocks, a hollow and a landing at the lap's median speed."""
    return work.once("features", lambda: _features(work))


def _features(work: Upstream) -> list[Feature]:
    whoops: list[tuple[float, Feature]] = []
    rocky: list[Feature] = []
    for i, stage in enumerate(work.inputs.race.stages):
        course, ridden = work.around.courses[i], work.lap.rides[i]
        for part in stage.ground:
            if part.ground not in ("whoops", "rock"):
                continue
            inside = (course.distance_m >= part.from_m) & (course.distance_m <= part.to_m)
            if not inside.any():
                continue
            speed = round(max(float(ridden.speed_m_per_s[inside].mean()), 2.0), 1)
            at = float(work.around.starts_m[i]) + 0.5 * (part.from_m + part.to_m)
            if part.ground == "rock":
                rocky.append(Feature(kind="rocks", at_m=at, speed_m_per_s=speed, size=(terrain.CLASSES[ROCK_CLASS],)))
                continue
            length, height = part.whoop_length_m or USUAL_WHOOP_M[0], part.whoop_height_m or USUAL_WHOOP_M[1]
            whoops.append((speed**2 * height / length**2, Feature(kind="whoops", at_m=at, speed_m_per_s=speed, size=(length, height))))
    usual = round(float(np.median(work.lap.whole.speed_m_per_s)), 1)
    found = [max(whoops, key=lambda w: w[0])[1]] if whoops else []
    found += [max(rocky, key=lambda f: f.speed_m_per_s)] if rocky else []
    dip = Feature(kind="dip", at_m=None, speed_m_per_s=min(usual, DIP_MOST_M_PER_S), size=DIP_M)
    return [*found, dip, Feature(kind="landing", at_m=None, speed_m_per_s=min(usual, LANDING_MOST_M_PER_S), size=(LANDING_M,))]


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


def ride_feature(car: HalfCar, feature: Feature, speed_m_per_s: float, *, spread: tuple[float, ...] = SPREAD, alone: bool = False) -> Ridden:
    """One feature at speeds about this one; rocks with another ground each time. alone: on this thread only, for those who have threads of their own."""

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


def key_of(work: Upstream, setup: Setup | None = None) -> Key:
    """Everything that a ride over the features reads."""
    return work.once("damping_key", lambda: _key_of(work, None)) if setup is None else _key_of(work, setup)


def _key_of(work: Upstream, setup: Setup | None) -> Key:
    chosen = setup or work.inputs.setup
    other = work if setup is None else work.with_setup(setup)
    bike = work.inputs.bike
    stacks = tuple(shims_of(chosen, end, place) for end in ENDS.values() for place in PLACES)
    clicks = tuple(getattr(chosen, f) for f in CLICK_FIELDS)
    return Key(
        chassis.spring_key(other),
        work.day.outside_pa,
        work.springs.side.wheelbase_m,
        bike.fork_damper,
        bike.shock_damper,
        stacks,
        clicks,
        tuple(features(work)),
    )


def teeth(work: Upstream) -> tuple[int, int]:
    """Sprockets: they move the axle, and so the sag at which damping ratios are told, though not the ride."""
    return work.inputs.setup.front_sprocket_teeth, work.inputs.setup.rear_sprocket_teeth


def ridden(work: Upstream, setup: Setup | None = None) -> list[Ridden]:
    """Every feature ridden with a setup."""

    def make() -> list[Ridden]:
        car = half_car(work, setup)
        return [within(car, f) for f in features(work)]

    return work.cache.get("damping_ride", key_of(work, setup), make)


def recording(work: Upstream, feature: Feature, speed_m_per_s: float) -> tuple[HalfCar, Recording]:
    """One ride over a feature with every step, for pictures."""
    car = half_car(work)
    profile, path = feature.profile()
    return car, ride(car, profile, speed_m_per_s, path=path)


# figures ----------------------------------------------------------------------------------------------------------------
def ratio_of(work: Upstream, end: str, way: str, speed_m_per_s: float = JUDGED_M_PER_S) -> damper.Ratio:
    """Damping ratio of an end on one stroke at a shaft speed, rider aboard at race sag."""
    setup, bike = work.inputs.setup, work.inputs.bike
    curve = curve_of(bike, setup, ENDS[end])
    forces = curve.compression_n if way == "compression" else curve.rebound_n
    c = float(damper.force_at(forces, speed_m_per_s)) / speed_m_per_s
    at, sprung = work.stand.sag(end, race=True, fuel_m3=0.5 * setup.fill_m3)[0], work.stand.sprung(end)[0]
    if end == "front":
        legs = legs_of(bike)
        return damper.damping_ratio(
            c, ride_quality.leg_rate(work.springs.fork(setup, work.springs.offsets.mean), at) / legs, cos(bike.frame.rake_rad), sprung, legs
        )
    shock, rate = work.springs.shock(setup, work.springs.offsets.mean), sag.motion_rate(work.springs.shock(setup, work.springs.offsets.mean), at)
    return damper.damping_ratio(c, ride_quality.wheel_rate(shock, at) / rate**2, 1.0 / rate, sprung)


def worst_stress(work: Upstream, cases: list[Ridden]) -> tuple[float, str]:
    """Highest bending stress [Pa] of a shim at the fastest shaft speeds of the rides, and the stack's place ("fork_base")."""
    return work.cache.get("damping_stress", key_of(work), lambda: _worst_stress(work, cases))


def _worst_stress(work: Upstream, cases: list[Ridden]) -> tuple[float, str]:
    found = [(0.0, "fork_base")]
    for end, name in ENDS.items():
        curve, built = curve_of(work.inputs.bike, work.inputs.setup, name), damper_of(work.inputs.bike, work.inputs.setup, name)
        fast = {w: max(getattr(getattr(m, end), f"{w}_m_per_s") for c in cases for m in c.runs) for w in ("inward", "outward")}
        for place, across, way in (
            ("base", curve.across_base_pa, "inward"),
            ("piston", curve.across_piston_pa, "inward"),
            ("rebound", curve.across_rebound_pa, "outward"),
        ):
            valve: Valve = getattr(built, place)
            bent, share = bent_under(valve, float(damper.force_at(across, fast[way])), built.footprint)
            found.append((float(bent.stress_pa.max()) * share, f"{name}_{place}"))
    return max(found)


def authority(work: Upstream, speed_m_per_s: float) -> float:
    """How much more the shock holds on the way in with its compression clicker fully in than as set [1], at a shaft speed."""
    built = damper_of(work.inputs.bike, work.inputs.setup, "shock")
    _, rebound = clicks_of(work.inputs.setup, "shock")
    now, shut = (damper.curve(built, c, rebound).compression_n for c in (clicks_of(work.inputs.setup, "shock")[0], 0))
    return float(damper.force_at(shut, speed_m_per_s) / damper.force_at(now, speed_m_per_s)) - 1.0


def figures(work: Upstream) -> list[Figure]:
    return work.cache.get("damping_figures", Key(key_of(work), teeth(work), work.inputs.race.stages), lambda: _figures(work))


def _figures(work: Upstream) -> list[Figure]:
    cases, frame = ridden(work), work.inputs.bike.frame
    common: dict[str, Any] = {"basis": "assumed", "source": SOURCE}

    def told(name: str, value: float, formula: str, **more: Any) -> Figure:
        return figure(f"damping.{name}", value, formula=formula, **common, **more)

    made = []
    for end, name in ENDS.items():
        clicks = tuple(f"setup.{name}_{way}_clicks" for way in ("compression", "rebound"))
        for way in ("compression", "rebound"):
            ratio = ratio_of(work, end, way)
            steps = (step("wheel damping", ratio.wheel_n_s_per_m, "N s/m"), step("wheel rate", ratio.wheel_rate_n_per_m, "N/m"))
            made.append(
                told(f"{end}.zeta_{way}", ratio.zeta, "c / (2 sqrt(k m)) at 0.25 m/s", low=0.8 * ratio.zeta, high=1.2 * ratio.zeta, inputs=clicks, steps=steps)
            )
        travel = frame.fork_travel_m if end == "front" else frame.rear_travel_m
        deepest = [[min(getattr(m, end).travel_used_m, travel) for m in c.runs] for c in cases]
        hardest = max(deepest, key=lambda runs: float(np.mean(runs)))
        met = [c for c in cases if c.feature.kind in ("whoops", "rocks", "dip")]
        made += [
            told(f"{end}.travel_used", float(np.mean(hardest)), DEEPEST, **({"low": min(hardest), "high": max(hardest)} if len(hardest) > 1 else {})),
            told(f"{end}.bottomings", sum(c.mean("metal", end) for c in cases), "metal contacts over the pieces, mean over speeds"),
            told(f"{end}.packing", max(c.mean("packing_m", end) for c in met), "mean stroke while riding - standing sag, largest of the pieces"),
        ]  # fmt: skip
    stress, _ = worst_stress(work, cases)
    air = max(c.mean("air_share", end) for c in cases for end in ENDS if c.feature.kind != "landing")
    rises = max((c.mean("overshoot_m") for c in cases if c.feature.kind == "landing"), default=0.0)
    return [
        *made,
        told("wheel_off_ground", air, "share of the time that a wheel carries nothing, largest of the pieces"),
        told("peg_acceleration", max(c.mean("peg_m_per_s2") for c in cases), "r.m.s. through Wk (ISO 2631-1), largest of the pieces; relative only"),
        told("overshoot", rises, "body above where it rests, after the landing"),
        told("stress_max", stress, "6 M / t^2 at the 99.9 % shaft speed of the rides", low=0.8 * stress, high=1.2 * stress),
        told("click_authority.low", authority(work, LOW_M_PER_S), "shock compression fully in / as set - 1, at 0.1 m/s"),
        told("click_authority.high", authority(work, HIGH_M_PER_S), "shock compression fully in / as set - 1, at 2 m/s"),
    ]


# what would cure it -----------------------------------------------------------------------------------------------------
def _cures(work: Upstream, end: str) -> Iterator[tuple[tuple[Move, ...], bool]]:
    """Moves that may stop an end from bottoming, the cheapest first; whether it is the clicker's."""
    setup, bike, parts = work.inputs.setup, work.inputs.bike, work.inputs.parts
    name = ENDS[end]
    if clicks_of(setup, name)[0] > 0:
        yield (Move(tunable=f"{name}_compression_clicks", value=0),), True
    if end == "rear" and bike.shock_damper.high_speed_turns > (setup.shock_high_speed_turns or 0.0):
        yield (Move(tunable="shock_high_speed_turns", value=bike.shock_damper.high_speed_turns),), True
    if end == "front":
        room = bike.frame.fork_air_gap_m - (setup.fork_oil_up_m or 0.0) - bike.frame.fork_oil_least_m
        for up in (0.010, 0.020, 0.030):
            if up <= room + 1e-9:
                yield (Move(tunable="fork_oil_up_m", value=round((setup.fork_oil_up_m or 0.0) + up, 4)),), False
    spring = "fork_spring_rate_n_per_m" if end == "front" else "shock_spring_rate_n_per_m"
    if end == "rear" or bike.frame.fork_springing == "coil":
        stiffer = sorted(v for v in parts.owned(spring) if v > getattr(setup, spring) + 1.0)[:2]
        for count in (1, 2):
            stiffer.append(getattr(setup, spring) + count * DETENTS[spring].step)
        for value in sorted(dict.fromkeys(round(v, 3) for v in stiffer)):
            yield (Move(tunable=spring, value=value, owned=is_owned(parts, spring, value)),), False


@dataclass(frozen=True, slots=True, kw_only=True)
class Cure:
    """A move tried in the simulation. better: share of the bottoming gone; clicker: whether no tool but a screwdriver is needed."""

    moves: tuple[Move, ...]
    clicker: bool
    metal: float
    stop_n: float


def cures(work: Upstream, end: str, case: Ridden) -> list[Cure]:
    """What each move makes of the piece over which an end bottoms, tried one at a time, in the order of _cures."""

    def make() -> list[Cure]:
        found = []
        for moves, clicker in _cures(work, end):
            changes = {m.tunable: int(m.value) if m.tunable.endswith("clicks") else m.value for m in moves}
            low, high = (getattr(field_facts(Setup, next(iter(changes))), b) for b in ("low", "high"))
            if any(not (low <= v <= high) for v in changes.values()):
                continue
            tried = ride_feature(half_car(work, work.inputs.setup.model_copy(update=changes)), case.feature, case.speed_m_per_s)
            found.append(Cure(moves=moves, clicker=clicker, metal=tried.mean("metal", end), stop_n=tried.mean("stop_n", end)))
        return found

    return work.cache.get("damping_cures", Key(key_of(work), work.inputs.parts, end), make)


def free_speed(work: Upstream, end: str, case: Ridden) -> float | None:
    """Speed [m/s], by tenths slower, at which an end no longer bottoms on a piece; None when it does at all that were tried."""

    def make() -> float | None:
        car = half_car(work)
        slower = (case.speed_m_per_s * SLOWER**k for k in range(1, SLOWER_MOST + 1))
        return next((v for v in slower if ride_feature(car, case.feature, v).mean("metal", end) < METAL_LOOK), None)

    return work.cache.get("damping_free_speed", Key(key_of(work), end, case.feature), make)


def helps(cure: Cure, metal: float) -> bool:
    """Whether a cure takes more than half of the metal contacts away."""
    return cure.metal < 0.5 * metal - 1e-9


def _finding(code: str, severity: Severity, figures: tuple[str, ...], parameters: dict[str, Any], **more: Any) -> Finding:
    return Finding(station="damping", code=code, severity=severity, figures=figures, parameters=parameters, **more)


def _bottoming(work: Upstream, cases: list[Ridden], end: str) -> list[Finding]:
    where = max(cases, key=lambda c: c.mean("metal", end))
    now = where.mean("metal", end)
    if now < METAL_LOOK:
        return []
    tried = cures(work, end, where)
    by_clicks = any(helps(c, now) for c in tried if c.clicker)
    good = [c for c in tried if helps(c, now) and c.clicker is by_clicks]
    ranked = sorted(good, key=lambda c: (not all(m.owned is not False for m in c.moves), c.metal))
    of_each: dict[str, Cure] = {}
    for cure in ranked:
        of_each.setdefault(cure.moves[0].tunable, cure)
    best = list(of_each.values())[:2]
    code = "bottoms_click" if by_clicks else "bottoms_no_click" if best else "bottoms_anyway"
    parameters: dict[str, Any] = {"end": end, "times": now, "feature": where.feature.kind, "ridden_speed": where.speed_m_per_s}
    if not best:
        parameters["free_speed"] = free_speed(work, end, where) or "no_speed"
    severity: Severity = "act" if now >= METAL_ACT else "look"
    figures = (f"damping.{end}.bottomings", f"damping.{end}.travel_used")
    return [_finding(code, severity, figures, parameters, at_m=where.feature.at_m, proposals=tuple(c.moves for c in best))]


def _packing(work: Upstream, cases: list[Ridden], end: str) -> list[Finding]:
    travel = work.inputs.bike.frame.fork_travel_m if end == "front" else work.inputs.bike.frame.rear_travel_m
    where = max((c for c in cases if c.feature.kind in ("whoops", "rocks")), key=lambda c: c.mean("packing_m", end), default=None)
    if where is None or where.mean("packing_m", end) < PACKING_SHARE * travel:
        return []
    tunable = f"{ENDS[end]}_rebound_clicks"
    more = min(clicks_of(work.inputs.setup, ENDS[end])[1] + 2, facts_of(work.inputs.bike, ENDS[end]).rebound_clicks)
    opener = work.inputs.setup.model_copy(update={tunable: more})
    after = max(c.mean("packing_m", end) for c in ridden(work, opener) if c.feature.kind in ("whoops", "rocks"))
    proposals = ((Move(tunable=tunable, value=more),),) if after < where.mean("packing_m", end) - 1e-4 else ()
    parameters = {"end": end, "feature": where.feature.kind, "after_m": after}
    return [_finding("packs", "look", (f"damping.{end}.packing",), parameters, at_m=where.feature.at_m, proposals=proposals)]


def _ratios(known: dict[str, Figure]) -> list[Finding]:
    found = []
    for end in ENDS:
        for way, (low, high) in BANDS.items():
            name = f"damping.{end}.zeta_{way}"
            zeta = known[name].value or 0.0
            if not 0.8 * low <= zeta <= 1.25 * high:
                code = f"{'little' if zeta < low else 'much'}_{way}"
                found.append(_finding(code, "look", (name,), {"end": end, "low": f"{low:g}", "high": f"{high:g}"}))
    return found


def _too_high(work: Upstream) -> list[Finding]:
    found = []
    for name in ENDS.values():
        for place in PLACES:
            seat: ValveSeat = getattr(facts_of(work.inputs.bike, name), place)
            high = stack_in(shims_of(work.inputs.setup, name, place), seat).height_m
            if seat.height_most_m is not None and high > seat.height_most_m + 1e-9:
                told = {"stack": f"{name}_{place}_stack", "high_m": high, "most_m": seat.height_most_m}
                found.append(_finding("stack_too_high", "act", (), told))
    return found


def findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    return work.cache.get("damping_findings", Key(key_of(work), teeth(work), work.inputs.race.stages, work.inputs.parts), lambda: _findings(work, known))


def _findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    cases = ridden(work)
    found = [f for end in ENDS for f in (*_bottoming(work, cases, end), *_packing(work, cases, end))]
    found += _ratios(known)
    stress, place = worst_stress(work, cases)
    if stress > STRESS_LOOK_PA:
        found.append(_finding("shim_stress", "look", ("damping.stress_max",), {"stack": f"{place}_stack"}))
    found += _too_high(work)
    for end, name in ENDS.items():
        curve = curve_of(work.inputs.bike, work.inputs.setup, name)
        fastest = max(getattr(m, end).inward_m_per_s for c in cases for m in c.runs)
        if curve.cavitates_m_per_s is not None and curve.cavitates_m_per_s < fastest:
            found.append(_finding("cavitates", "look", (), {"end": end, "tears_from": curve.cavitates_m_per_s}))
    for case in cases:
        if case.slower or not case.holds:
            told = {"feature": case.feature.kind, "ridden_speed": case.speed_m_per_s, "wanted_speed": case.feature.speed_m_per_s}
            found.append(_finding("ridden_slower" if case.holds else "beyond_model", "look", (), told, at_m=case.feature.at_m))
    if not found:
        found.append(_finding("rides_well", "ok", ("damping.front.travel_used", "damping.rear.travel_used"), {}))
    return found
