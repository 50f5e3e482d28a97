"""Figures of Damping."""

from math import cos
from typing import Any

import numpy as np

from lynxwort.core.figures import figure, step
from lynxwort.core.physics.chassis import ride_quality, sag
from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.physics.damping import damper
from lynxwort.core.physics.damping.valve import Valve, bent_under
from lynxwort.core.report import Figure
from lynxwort.core.stations.damping.dampers import ENDS, clicks_of, curve_of, damper_of, legs_of
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.damping.rides import Ridden, key_of, ridden

SOURCE = (
    "thin plates in contact (Roark), orifice flow, half car by Runge-Kutta; dampers' insides from memory "
    "until they are typed"
)
DEEPEST = "deepest stroke over the hardest of the course's pieces, mean over speeds"
#: speeds at which a damper is spoken of [m/s at the shaft]: low, middle, high
LOW_M_PER_S, JUDGED_M_PER_S, HIGH_M_PER_S = 0.1, 0.25, 2.0

#: share [1] by which a damper's forces may lie off either way: 90 % (assumption, no damper was run on a dyno)
RATIO_SPREAD = 0.2


def ratio_of(given: DampingInput, end: str, way: str, speed_m_per_s: float = JUDGED_M_PER_S) -> damper.Ratio:
    """Damping ratio of an end on one stroke at a shaft speed, rider aboard at race sag."""
    setup, bike = given.setup, given.bike
    curve = curve_of(bike, setup, ENDS[end])
    forces = curve.compression_n if way == "compression" else curve.rebound_n
    c = given.force_factor * float(damper.force_at(forces, speed_m_per_s)) / speed_m_per_s
    at, sprung = given.loaded.sag_m(end, race=True, fuel_m3=0.5 * setup.fill_m3), given.loaded.sprung(end)[0]
    if end == "front":
        legs = legs_of(bike)
        return damper.damping_ratio(
            c,
            ride_quality.leg_rate(given.springs.fork(setup, given.springs.offsets.mean), at) / legs,
            cos(bike.frame.rake_rad),
            sprung,
            legs,
        )
    shock, rate = (
        given.springs.shock(setup, given.springs.offsets.mean),
        sag.motion_rate(given.springs.shock(setup, given.springs.offsets.mean), at),
    )
    return damper.damping_ratio(c, ride_quality.wheel_rate(shock, at) / rate**2, 1.0 / rate, sprung)


def worst_stress(given: DampingInput, cases: list[Ridden]) -> tuple[float, str]:
    """Highest bending stress [Pa] of a shim at the fastest shaft speeds of the rides, and the stack's place
    ("fork_base").
    """
    return given.lap.cache.get("damping_stress", key_of(given), lambda: _worst_stress(given, cases))


def _worst_stress(given: DampingInput, cases: list[Ridden]) -> tuple[float, str]:
    found = [(0.0, "fork_base")]
    for end, name in ENDS.items():
        curve, built = curve_of(given.bike, given.setup, name), damper_of(given.bike, given.setup, name)
        fast = {
            w: max(getattr(getattr(m, end), f"{w}_m_per_s") for c in cases for m in c.runs)
            for w in ("inward", "outward")
        }
        for place, across, way in (
            ("base", curve.across_base_pa, "inward"),
            ("piston", curve.across_piston_pa, "inward"),
            ("rebound", curve.across_rebound_pa, "outward"),
        ):
            valve: Valve = getattr(built, place)
            bent, share = bent_under(valve, float(damper.force_at(across, fast[way])), built.footprint)
            found.append((float(bent.stress_pa.max()) * share, f"{name}_{place}"))
    return max(found)


def authority(given: DampingInput, speed_m_per_s: float) -> float:
    """How much more the shock holds on the way in with its compression clicker fully in than as set [1], at a shaft
    speed.
    """
    built = damper_of(given.bike, given.setup, "shock")
    _, rebound = clicks_of(given.setup, "shock")
    now, shut = (damper.curve(built, c, rebound).compression_n for c in (clicks_of(given.setup, "shock")[0], 0))
    return float(damper.force_at(shut, speed_m_per_s) / damper.force_at(now, speed_m_per_s)) - 1.0


COMMON: dict[str, Any] = {"basis": "assumed", "source": SOURCE}


def _told(name: str, value: float, formula: str, **more: Any) -> Figure:
    return figure(f"damping.{name}", value, formula=formula, **COMMON, **more)


def some(given: DampingInput, names: frozenset[str]) -> list[Figure]:
    """These figures at least: those of an end alone, where no more is asked for."""
    made = [f for end in ENDS if any(n.startswith(f"damping.{end}.") for n in names) for f in _end(given, end)]
    return figures(given) if names - {f.id for f in made} else made


def _end(given: DampingInput, end: str) -> list[Figure]:
    cases, frame, name = ridden(given), given.bike.frame, ENDS[end]
    made: list[Figure] = []
    clicks = tuple(f"setup.{name}_{way}_clicks" for way in ("compression", "rebound"))
    for way in ("compression", "rebound"):
        ratio = ratio_of(given, end, way)
        steps = (
            step("wheel damping", ratio.wheel_n_s_per_m, "N s/m"),
            step("wheel rate", ratio.wheel_rate_n_per_m, "N/m"),
        )
        made.append(
            _told(
                f"{end}.zeta_{way}",
                ratio.zeta,
                "c / (2 sqrt(k m)) at 0.25 m/s",
                low=(1.0 - RATIO_SPREAD) * ratio.zeta,
                high=(1.0 + RATIO_SPREAD) * ratio.zeta,
                inputs=clicks,
                steps=steps,
            )
        )
    travel = travel_of(frame, given.setup, end)
    deepest = [[min(getattr(m, end).travel_used_m, travel) for m in c.runs] for c in cases]
    hardest = max(deepest, key=lambda runs: float(np.mean(runs)))
    met = [c for c in cases if c.feature.kind in ("whoops", "rocks", "dip")]
    made += [
        _told(
            f"{end}.travel_used",
            float(np.mean(hardest)),
            DEEPEST,
            **({"low": min(hardest), "high": max(hardest)} if len(hardest) > 1 else {}),
        ),
        _told(
            f"{end}.bottomings",
            sum(c.mean("metal", end) for c in cases),
            "metal contacts over the pieces, mean over speeds",
        ),
        _told(
            f"{end}.packing",
            max(c.mean("packing_m", end) for c in met),
            "mean stroke while riding - standing sag, largest of the pieces",
        ),
    ]
    return made


def figures(given: DampingInput) -> list[Figure]:
    """Both ends, then what is of the whole bike."""
    cases, told = ridden(given), _told
    made = [f for end in ENDS for f in _end(given, end)]
    stress, _ = worst_stress(given, cases)
    air = max(c.mean("air_share", end) for c in cases for end in ENDS if c.feature.kind != "landing")
    rises = max((c.mean("overshoot_m") for c in cases if c.feature.kind == "landing"), default=0.0)
    return [
        *made,
        told("wheel_off_ground", air, "share of the time that a wheel carries nothing, largest of the pieces"),
        told(
            "peg_acceleration",
            max(c.mean("peg_m_per_s2") for c in cases),
            "r.m.s. through Wk (ISO 2631-1), largest of the pieces; relative only",
        ),
        told("overshoot", rises, "body above where it rests, after the landing"),
        told(
            "stress_max",
            stress,
            "6 M / t^2 at the 99.9 % shaft speed of the rides",
            low=0.8 * stress,
            high=1.2 * stress,
        ),
        told(
            "click_authority.low", authority(given, LOW_M_PER_S), "shock compression fully in / as set - 1, at 0.1 m/s"
        ),
        told(
            "click_authority.high", authority(given, HIGH_M_PER_S), "shock compression fully in / as set - 1, at 2 m/s"
        ),
    ]
