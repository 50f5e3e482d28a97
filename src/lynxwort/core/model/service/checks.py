"""The checks of the baseline gate: to which bikes each applies, what a fail falsifies, when nobody may ride.

Limits are common practice, no source, where nothing else is said; the manual goes before them.
"""

from dataclasses import dataclass
from typing import Literal

CheckName = Literal[
    "frame", "throttle", "brakes", "spokes", "air_leak", "compression", "filter", "fuel_flow", "head_bearing",
    "other_bearings", "fork_straight", "fork_seals", "shock_seal", "sag_settles", "chain", "tyres", "coolant",
    "charging", "valves", "cables", "lanyard", "pack_mounts", "connector", "cells", "motor_bolts",
    "papers", "claimed", "plug", "borescope", "crank_play", "oil_magnet", "bolts_paint",
]  # fmt: skip

HOUR_S = 3600.0
#: what a fail leaves nothing of, where nobody may ride
EVERYTHING = frozenset({"purpose", "chassis", "damping", "fuelling", "drive", "range", "kit", "trials"})
BURNS = ("two_stroke", "four_stroke")


@dataclass(frozen=True, slots=True, kw_only=True)
class Check:
    """One check. strokes: kinds of engine it is of, empty for all; needs: "coolant" or "battery" where it is only of a
    bike with one; withdraws: stations ("fuelling"), figures, or families of them ("damping.front.") that a fail
    falsifies; do_not_ride: nobody rides until it passes; bought: only of a bike that was bought. Its number, when it
    has one: unit, kind, and from where on [SI] it is looked at or fails: look, fail (a value over it), or lowest and
    highest (a value outside fails). work_s: to put it right (assumption); where: part of the drawn bike.
    """

    name: CheckName
    strokes: tuple[str, ...] = ()
    needs: str = ""
    withdraws: frozenset[str] = frozenset()
    do_not_ride: bool = False
    bought: bool = False
    unit: str = ""
    kind: str = ""
    look: float | None = None
    fail: float | None = None
    lowest: float | None = None
    highest: float | None = None
    work_s: float = HOUR_S
    where: str = "frame"


def _of(*names: str) -> frozenset[str]:
    return frozenset(names)


_SAG = tuple(f"chassis.{end}.{what}" for end in ("front", "rear") for what in ("race_sag", "free_sag", "friction_band"))
_FULL = (
    "fuelling.richness_full_densest", "fuelling.richness_full_thinnest", "fuelling.lean_margin.full",
    "fuelling.lean_margin_min", "fuelling.flow_margin", "fuelling.main.wanted",
)  # fmt: skip
_POWER = ("drive.top_speed", "drive.lap_time", "drive.share.", "drive.metres_short", "drive.hill.")
_RATES = tuple(
    f"chassis.{end}.{what}"
    for end in ("front", "rear")
    for what in ("rate_true", "friction_band", "spring_rate_wanted", "preload_wanted")
)
CHECKS: tuple[Check, ...] = (
    Check(name="frame", withdraws=EVERYTHING, do_not_ride=True, work_s=4 * HOUR_S, where="frame"),
    Check(name="throttle", withdraws=EVERYTHING, do_not_ride=True, where="handlebar"),
    Check(name="brakes", withdraws=_of("trials", "kit.brake."), do_not_ride=True, where="front axle"),
    Check(
        name="spokes", withdraws=_of("trials"), do_not_ride=True, unit="m", kind="preload", look=0.002, fail=0.004,
        work_s=2 * HOUR_S, where="rear axle",
    ),
    Check(
        name="air_leak", strokes=("two_stroke",), withdraws=_of("fuelling", "range.k", "range.k_sd"), unit="Pa",
        kind="tyre_pressure", fail=5000.0, work_s=4 * HOUR_S, where="cylinder",
    ),
    Check(name="compression", strokes=BURNS, withdraws=_of("fuelling", *_POWER), work_s=5 * HOUR_S, where="cylinder"),
    Check(name="filter", strokes=BURNS, withdraws=_of("fuelling"), where="seat"),
    Check(name="fuel_flow", strokes=BURNS, withdraws=_of(*_FULL), where="tank"),
    Check(
        name="head_bearing", withdraws=_of("chassis.trail", "chassis.rake", "kit.steer.", "damping.front."),
        work_s=2 * HOUR_S, where="fork, upper tube",
    ),
    Check(
        name="other_bearings", withdraws=_of("damping", *_SAG), unit="m", kind="bore", fail=0.0005, work_s=3 * HOUR_S,
        where="rear axle",
    ),
    Check(
        name="fork_straight", unit="m", kind="bore", fail=0.0002, work_s=4 * HOUR_S, where="fork, upper tube",
        withdraws=_of(*(n for n in _SAG if ".front." in n), "damping.front."),
    ),
    Check(name="fork_seals", withdraws=_of("damping.front."), work_s=2 * HOUR_S, where="fork, upper tube"),
    Check(name="shock_seal", withdraws=_of("damping.rear."), work_s=3 * HOUR_S, where="shock"),
    Check(name="sag_settles", withdraws=_of(*_RATES), unit="m", kind="travel", fail=0.020, where="shock"),
    Check(name="chain", withdraws=_of("drive.chain."), work_s=1.5 * HOUR_S, where="front sprocket"),
    Check(
        name="tyres", unit="Pa", kind="tyre_pressure", look=15_000.0, fail=30_000.0, work_s=0.5 * HOUR_S,
        withdraws=_of("drive.top_speed", "drive.crawl_speed", "drive.tyre_speed_margin", "damping", "trials"),
        where="front axle",
    ),
    Check(
        name="coolant", strokes=BURNS, needs="coolant", work_s=2 * HOUR_S, where="cylinder",
        withdraws=_of(*_FULL, "fuelling.detonation_margin", "kit.cooling."),
    ),
    Check(
        name="charging", strokes=BURNS, needs="battery", withdraws=_of("kit.elec.", "kit.light."), unit="V",
        kind="volts", lowest=13.8, highest=14.8, where="cylinder",
    ),
    Check(
        name="valves", strokes=("four_stroke",), work_s=3 * HOUR_S, where="cylinder",
        withdraws=_of("fuelling.lean_margin.closed", "fuelling.pilot.wanted", "kit.elec.start_voltage"),
    ),
    Check(name="cables", strokes=("electric",), withdraws=EVERYTHING, do_not_ride=True, where="motor"),
    Check(name="lanyard", strokes=("electric",), withdraws=EVERYTHING, do_not_ride=True, where="handlebar"),
    Check(name="pack_mounts", strokes=("electric",), withdraws=EVERYTHING, do_not_ride=True, where="pack"),
    Check(name="connector", strokes=("electric",), withdraws=EVERYTHING, do_not_ride=True, where="pack"),
    Check(
        name="cells", strokes=("electric",), withdraws=_of("range"), unit="V", kind="cell_volts", look=0.03, fail=0.05,
        work_s=2 * HOUR_S, where="pack",
    ),
    Check(name="motor_bolts", strokes=("electric",), withdraws=_of("drive"), where="motor"),
    Check(name="papers", bought=True, work_s=0.0),
    Check(name="claimed", bought=True, work_s=0.0),
    Check(
        name="plug", strokes=BURNS, bought=True, withdraws=_of("fuelling"), work_s=0.5 * HOUR_S, where="cylinder"
    ),
    Check(
        name="borescope", strokes=BURNS, bought=True, withdraws=_of("fuelling"), work_s=4 * HOUR_S, where="cylinder"
    ),
    Check(
        name="crank_play", strokes=BURNS, bought=True, withdraws=_of("fuelling", *_POWER), work_s=9 * HOUR_S,
        where="cylinder",
    ),
    Check(name="oil_magnet", strokes=BURNS, bought=True, where="cylinder"),
    Check(name="bolts_paint", bought=True),
)  # fmt: skip
BY_NAME = {c.name: c for c in CHECKS}
