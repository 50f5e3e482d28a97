"""Parts with a clock: how long each lasts where the manual does not say, and what wears it faster.

All of it is from memory and practice, no source; every interval can be typed, and the manual goes first.
"""

from dataclasses import dataclass
from typing import Literal, get_args

PartKind = Literal[
    "piston", "crank", "oil", "valves", "cam_chain", "clutch", "reeds", "plug", "filter", "fork_oil", "shock_oil",
    "greasing", "brake_fluid", "coolant", "wheel_bearings", "mousse", "power_valve", "packing", "chain", "pads",
    "spokes", "reduction_oil", "pack_connector", "motor_bearings",
]  # fmt: skip
PART_KINDS: tuple[str, ...] = get_args(PartKind)

HOUR_S = 3600.0
TWO, FOUR, BURNS, MOTOR = ("two_stroke",), ("four_stroke",), ("two_stroke", "four_stroke"), ("electric",)


@dataclass(frozen=True, slots=True, kw_only=True)
class Lasts:
    """strokes: kinds of engine it is of, empty for all; race_h, trail_h: hours between, and small_race_h, small_trail_h
    those of a small engine (125 two-stroke, 250 four-stroke); first_h: the first one of a new part; months: between,
    whatever it ran, look_months: when it is looked at; shape: of its failures, None where their spread is not known or
    a failure ends no race; sand_factor, mud_factor, full_factor: by what time in sand, in mud, or at full throttle
    counts; voids: checks of the gate that work on it makes void; takes_s: to change it (assumption).
    """

    strokes: tuple[str, ...] = ()
    race_h: float | None = None
    trail_h: float | None = None
    small_race_h: float | None = None
    small_trail_h: float | None = None
    first_h: float | None = None
    months: int | None = None
    look_months: int | None = None
    shape: float | None = None
    sand_factor: float = 1.0
    mud_factor: float = 1.0
    full_factor: float = 1.0
    voids: tuple[str, ...] = ()
    takes_s: float = HOUR_S


#: engines up to this size count as small [m3], by stroke (assumption: between the classes)
SMALL_M3 = {"two_stroke": 200e-6, "four_stroke": 300e-6}
INTERVALS: dict[tuple[PartKind, str], Lasts] = {
    ("piston", "two_stroke"): Lasts(
        strokes=TWO,
        race_h=40,
        trail_h=80,
        small_race_h=20,
        small_trail_h=40,
        shape=3.0,
        sand_factor=1.3,
        full_factor=1.3,
        takes_s=3 * HOUR_S,
    ),
    ("piston", "four_stroke"): Lasts(
        strokes=FOUR,
        race_h=60,
        trail_h=100,
        small_race_h=30,
        small_trail_h=60,
        shape=3.0,
        sand_factor=1.3,
        full_factor=1.3,
        takes_s=5 * HOUR_S,
    ),
    ("crank", "two_stroke"): Lasts(
        strokes=TWO, race_h=90, trail_h=160, small_race_h=50, small_trail_h=80, shape=2.5, takes_s=9 * HOUR_S
    ),
    ("crank", "four_stroke"): Lasts(strokes=FOUR, race_h=110, trail_h=200, shape=2.5, takes_s=12 * HOUR_S),
    ("oil", "two_stroke"): Lasts(strokes=TWO, race_h=10, trail_h=20, takes_s=0.5 * HOUR_S),
    ("oil", "four_stroke"): Lasts(strokes=FOUR, race_h=8, trail_h=15, takes_s=0.5 * HOUR_S),
    ("valves", "four_stroke"): Lasts(strokes=FOUR, race_h=15, trail_h=40, takes_s=2 * HOUR_S),
    ("cam_chain", "four_stroke"): Lasts(strokes=FOUR, race_h=60, trail_h=120, shape=3.0, takes_s=3 * HOUR_S),
    ("clutch", ""): Lasts(strokes=BURNS, race_h=40, trail_h=80, sand_factor=1.5),
    ("reeds", "two_stroke"): Lasts(strokes=TWO, race_h=30, trail_h=30),
    ("plug", "two_stroke"): Lasts(strokes=TWO, race_h=20, trail_h=40, takes_s=0.25 * HOUR_S),
    ("plug", "four_stroke"): Lasts(strokes=FOUR, race_h=30, trail_h=60, takes_s=0.5 * HOUR_S),
    ("filter", ""): Lasts(strokes=BURNS, race_h=5, trail_h=6, sand_factor=3.0, takes_s=0.5 * HOUR_S),
    ("fork_oil", ""): Lasts(race_h=25, trail_h=50, first_h=8, takes_s=2 * HOUR_S),
    ("shock_oil", ""): Lasts(race_h=40, trail_h=80, takes_s=3 * HOUR_S),
    ("greasing", ""): Lasts(race_h=25, trail_h=50, mud_factor=2.0, takes_s=3 * HOUR_S),
    ("brake_fluid", ""): Lasts(months=24, look_months=12, voids=("brakes",)),
    ("coolant", ""): Lasts(strokes=BURNS, months=24),
    ("wheel_bearings", ""): Lasts(race_h=60, trail_h=120, shape=1.5, mud_factor=2.0, takes_s=2 * HOUR_S),
    ("mousse", ""): Lasts(race_h=10, trail_h=25, takes_s=1.5 * HOUR_S, voids=("spokes",)),
    ("power_valve", "two_stroke"): Lasts(strokes=TWO, race_h=20, trail_h=40, takes_s=1.5 * HOUR_S),
    ("packing", ""): Lasts(strokes=BURNS, race_h=20, trail_h=30, takes_s=0.75 * HOUR_S),
    ("chain", ""): Lasts(race_h=40, trail_h=80, sand_factor=2.0, mud_factor=2.0),
    ("pads", ""): Lasts(race_h=25, trail_h=50, mud_factor=3.0, takes_s=0.5 * HOUR_S, voids=("brakes",)),
    ("spokes", ""): Lasts(race_h=10, trail_h=10, first_h=0.5, takes_s=0.5 * HOUR_S, voids=("spokes",)),
    ("reduction_oil", "electric"): Lasts(strokes=MOTOR, race_h=50, trail_h=100, takes_s=0.5 * HOUR_S),
    ("pack_connector", "electric"): Lasts(strokes=MOTOR, race_h=10, trail_h=20, voids=("connector",)),
    ("motor_bearings", "electric"): Lasts(strokes=MOTOR, race_h=200, trail_h=400, mud_factor=2.0, takes_s=4 * HOUR_S),
}
#: when a new build's spokes are gone over [h]: then every ten hours
NEW_SPOKES_H = (0.5, 1.0, 3.0, 5.0)


def lasts_of(kind: str, stroke: str) -> Lasts | None:
    """Of a part on a bike with such an engine; None where it has none."""
    found = INTERVALS.get((kind, stroke)) or INTERVALS.get((kind, ""))  # type: ignore[arg-type]
    return found if found is not None and (not found.strokes or stroke in found.strokes) else None
