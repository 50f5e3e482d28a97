"""How warm motor and pack get over the race, and how much of the torque they hold."""

import itertools
from dataclasses import dataclass
from math import pi
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from lynxwort.core.figures import figure, step
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.fitted import pack_kg_of
from lynxwort.core.physics.drive.engine import motor_loss
from lynxwort.core.physics.reach import heat
from lynxwort.core.physics.reach.pack import pack_heat, pack_ohm
from lynxwort.core.report import Figure, Finding
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import passed

Array = NDArray[np.float64]
NAMES = ("range.motor_hottest", "range.motor_holds", "range.pack_hottest", "range.pack_holds")
#: spread of the rise over the air, least share that is looked for (assumptions)
RISE_SPREAD, LEAST_SHARE = 0.25, 0.2
#: beyond the limit, and near it
CODES = {"motor": ("motor_derates", "motor_near_limit"), "pack": ("pack_derates", "pack_near_limit")}
#: this near a limit it is told [K] (assumption)
NEAR_K = 15.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Warm:
    """hottest_k: over the race; race_m: where; limit_k; holds: share of the torque (motor) or of the power (pack) as
    ridden that keeps it at its limit [1], 1 = all of it.
    """

    hottest_k: float
    race_m: float
    limit_k: float
    holds: float


@dataclass(frozen=True, slots=True, kw_only=True)
class _Way:
    """The race step by step: time [s], speed [m/s], motor torque [N m] and speed [rad/s], charge drawn [J], distance
    [m]; swaps: steps from which another pack is aboard.
    """

    time_s: Array
    speed: Array
    torque: Array
    omega: Array
    drawn_j: Array
    race_m: Array
    swaps: tuple[int, ...]


def _way(given: RangeInput) -> _Way:
    parts, begins = [], 0.0
    for run in given.clock.runs(given.clock.laps):
        ride, course = given.clock.lap(run.rider, run.leg).rides[run.stage], given.clock.around.courses[run.stage]
        for _ in range(run.laps):
            v = ride.speed_m_per_s
            parts.append(
                (ride.time_s, 0.5 * (v[1:] + v[:-1]), ride.torque_nm, ride.crank_rad_per_s, ride.energy_j,
                 begins + np.cumsum(ride.step_m))
            )  # fmt: skip
            begins += course.length_m
    time_s, speed, torque, omega, drawn, race_m = (np.concatenate(p) for p in zip(*parts, strict=True))
    # where another pack goes in: everywhere, unless something else is said
    taken, laps = given.supply.taken, given.clock.laps
    at = [p.race_m for p in passed(given, laps) if taken is None or p.number in taken]
    return _Way(
        time_s=time_s, speed=speed, torque=torque, omega=omega, drawn_j=drawn * given.supply.factor.median,
        race_m=race_m, swaps=tuple(int(np.searchsorted(race_m, m)) for m in at),
    )  # fmt: skip


def _hottest(way: _Way, rises: Array, limit_k: float, hold: Any) -> Warm:
    at = int(np.argmax(rises))
    hottest = float(rises[at])
    holds = 1.0
    if hottest > limit_k:
        holds = (
            LEAST_SHARE
            if hold(LEAST_SHARE) >= limit_k
            else float(brentq(lambda s: hold(s) - limit_k, LEAST_SHARE, 1.0, xtol=1e-3))
        )
    return Warm(hottest_k=hottest, race_m=float(way.race_m[at]), limit_k=limit_k, holds=holds)


def motor(given: RangeInput) -> Warm:
    """The motor over the race in the day's hottest air."""
    engine, way, air = given.engine, given.once("way", lambda: _way(given)), given.day.temperature_high_k
    assert isinstance(engine, Electric)
    continuous = engine.continuous_power_w or heat.CONTINUOUS_SHARE * engine.peak_power_w
    omega = engine.peak_power_rpm * 2.0 * pi / 60.0
    lost = float(motor_loss(np.asarray(continuous / omega), np.asarray(omega)))
    gives = heat.motor_gives(way.speed, lost)
    kg = engine.motor_kg or heat.MOTOR_KG_PER_W * engine.peak_power_w

    def along(share: float) -> Array:
        return heat.warmed(
            way.time_s, motor_loss(share * way.torque, way.omega), gives, np.full(way.time_s.size, air),
            holds_j_per_k=kg * heat.MOTOR_J_PER_KG_K, start_k=air,
        )  # fmt: skip

    return _hottest(way, along(1.0), heat.MOTOR_LIMIT_K, lambda s: float(along(s).max()))


def pack(given: RangeInput) -> Warm:
    """The pack over the race in the day's hottest air; another one starts as cool as the air."""
    engine, way, air = given.engine, given.once("way", lambda: _way(given)), given.day.temperature_high_k
    assert isinstance(engine, Electric)
    energy = given.setup.pack_energy_j or 1.0
    kg, volts = pack_kg_of(engine, energy), engine.nominal_voltage_v
    ohm = pack_ohm(volts, energy) if engine.internal_ohm is None else engine.internal_ohm
    lost, gives = (
        pack_heat(way.drawn_j, way.time_s, volts, ohm) / np.maximum(way.time_s, 1e-9),
        heat.pack_gives(way.speed, kg),
    )
    cuts = [0, *way.swaps, way.time_s.size]

    def along(share: float) -> Array:
        return np.concatenate(
            [
                heat.warmed(
                    way.time_s[a:b], share**2 * lost[a:b], gives[a:b], np.full(b - a, air),
                    holds_j_per_k=kg * heat.PACK_J_PER_KG_K, start_k=air,
                )
                for a, b in itertools.pairwise(cuts)
                if b > a
            ]
        )  # fmt: skip

    return _hottest(way, along(1.0), heat.PACK_LIMIT_K, lambda s: float(along(s).max()))


def both(given: RangeInput) -> dict[str, Warm]:
    """Motor and pack."""
    return given.once("warm", lambda: {"motor": motor(given), "pack": pack(given)})


def figures(given: RangeInput) -> list[Figure]:
    """How warm, and what share of the torque or power is held; none of an engine that burns fuel."""
    if not isinstance(given.engine, Electric):
        return [figure(n, None, status="not_applicable", reason="burns_fuel") for n in NAMES]
    made, air = list[Figure](), given.day.temperature_high_k
    inputs = {
        "motor": ("bike.engine.continuous_power_w", "bike.engine.motor_kg", "bike.engine.peak_power_w"),
        "pack": ("bike.engine.internal_ohm", "bike.engine.pack_kg", "setup.pack_energy_j"),
    }
    for name, warm in both(given).items():
        rise, held = warm.hottest_k - air, "torque" if name == "motor" else "power"
        common: dict[str, Any] = {"inputs": (*inputs[name], "riders.entry.mass_in_gear_kg"), "basis": "assumed"}
        made += [
            figure(
                f"range.{name}_hottest", warm.hottest_k, half=RISE_SPREAD * rise,
                formula="C dT/dt = loss - G (T - air) over the whole race, each step exact",
                steps=(step("air", air, "K", "hottest hour"), step("limit", warm.limit_k, "K", "assumption"),
                       step("at", warm.race_m, "m", "of the race")),
                source="one lump each; continuous power holds the motor at its limit (assumption)",
                **common,
            ),
            figure(
                f"range.{name}_holds", warm.holds,
                formula=f"share of the {held} ridden that keeps it at its limit",
                source="copper loss by the torque squared" if name == "motor" else "current squared x resistance",
                **common,
            ),
        ]  # fmt: skip
    return made


def findings(given: RangeInput) -> list[Finding]:
    """Whether motor or pack takes power back."""
    if not isinstance(given.engine, Electric):
        return []
    found = []
    for name, warm in both(given).items():
        names = (f"range.{name}_hottest", f"range.{name}_holds")
        if warm.hottest_k > warm.limit_k - NEAR_K:
            over = warm.hottest_k > warm.limit_k
            found.append(
                Finding(
                    station="range",
                    code=CODES[name][0 if over else 1],
                    severity="look",
                    figures=names,
                    parameters={"race_m": warm.race_m, "limit_k": warm.limit_k},
                )
            )
    if not found:
        found.append(Finding(station="range", code="stays_cool", severity="ok", figures=(NAMES[0], NAMES[2])))
    return found
