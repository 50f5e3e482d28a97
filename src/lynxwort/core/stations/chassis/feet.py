"""Feet on the ground: flat, on the balls, on the toes, and the least work that gets there."""

import itertools
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil, cos

from lynxwort.core.derived.springs import LOWEST_AHEAD, SEAT_AHEAD
from lynxwort.core.model.fitted import seat_up_of
from lynxwort.core.physics.chassis.fitted import spacer_for, travel_of, travel_taken
from lynxwort.core.physics.chassis.geometry import leg_reach
from lynxwort.core.report import Move
from lynxwort.core.stations.chassis import clearances
from lynxwort.core.stations.chassis.attitude import SOLE_M, attitude_at_sag, height_of
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import (
    PRELOAD_FIELD,
    RATE_FIELD,
    on_air,
    on_notch,
    preload_with,
    preloads_for,
)
from lynxwort.core.tunables import TUNABLES, bounds, current_value

#: how far the heels may be off the ground [m] (assumption: a foot of 0.152 of the stature, Drillis and Contini 1966,
#: from memory, on its ball at some 30 degrees; a stiff boot bends less)
RAISED_M = {"flat": 0.0, "balls": 0.10, "toes": 0.15}
#: hours of work that each kind of change takes (common practice, no source), in the order of a list
HOURS = {"preload": 0.3, "foam": 2.0, "both_ends": 2.5, "spacers": 6.0}
#: what is tried of each [m]: foam off the seat, both ends by link and tubes, the rear wheel's travel taken inside
FOAM_M, BOTH_M, TAKEN_M = (0.0, 0.01, 0.02, 0.03, 0.04), (0.0, 0.01, 0.02, 0.03), (0.0, 0.015, 0.03, 0.045, 0.06)
#: settings that a list may move
MOVED = (*PRELOAD_FIELD.values(), "seat_up_m", "rear_up_m", "fork_up_m", "shock_spacer_m", "fork_spacer_m")


@dataclass(frozen=True, slots=True, kw_only=True)
class Lowered:
    """One list of changes: kinds, in the order of HOURS; what it gives [m]: margin of a foot set flat, seat, lowest
    part, travel left front and rear, and how much the side stand loses (None = not measured).
    """

    kinds: tuple[str, ...]
    moves: tuple[Move, ...]
    work_s: float
    margin_m: float
    seat_m: float
    clearance_m: float
    travels_m: tuple[float, float]
    stand_cut_m: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """Flat, balls or toes: reached now or not; the cheapest list that reaches it, None when none of them does."""

    name: str
    reached: bool
    cheapest: Lowered | None


def level_of(margin_m: float) -> str:
    """What reaches the ground with this margin [m]: "flat", "balls", "toes", or "none"."""
    return next((name for name, raised_m in RAISED_M.items() if margin_m >= -raised_m), "none")


def levels(given: ChassisInput) -> list[Level] | None:
    """Flat, balls and toes, each with the list of least work that reaches it and lets nothing touch; None without the
    rider's inseam.
    """
    if given.rider.inseam_m is None:
        return None
    now = _margin(given)
    wanted = [name for name, raised_m in RAISED_M.items() if now < -raised_m]
    found = dict[str, Lowered]()
    for work_h, kinds, update in sorted(_tried(given), key=lambda t: (t[0], len(t[2]))):
        if len(found) == len(wanted):
            break
        there = _then(given, update, deep="preload" in kinds)
        margin_m = _margin(there)
        reached = [n for n in wanted if n not in found and margin_m >= -RAISED_M[n]]
        if reached and not _touches(there):
            found |= dict.fromkeys(reached, _lowered(given, there, kinds, work_h, margin_m))
    return [Level(name=name, reached=name not in wanted, cheapest=found.get(name)) for name in RAISED_M]


def _margin(given: ChassisInput) -> float:
    """How much of the leg is to spare [m] with a foot flat beside the seat at race sag; negative: the heel is up."""
    frame, inseam_m = given.springs.side, given.rider.inseam_m
    assert inseam_m is not None
    return leg_reach(
        inseam_m=inseam_m, seat_height_m=_seat(given), seat_half_width_m=frame.seat_half_width_m, sole_m=SOLE_M
    )


def _seat(given: ChassisInput) -> float:
    frame = given.springs.side
    high_m = frame.seat_height_m + seat_up_of(given.bike, given.setup)
    return height_of(given, attitude_at_sag(given), SEAT_AHEAD, high_m)


def _tried(given: ChassisInput) -> Iterator[tuple[float, tuple[str, ...], dict[str, float]]]:
    """Every list with its hours, its kinds and the settings it makes but preloads."""
    setup, bike = given.setup, given.bike
    both = {by_m: {m.tunable: m.value for m in clearances.both_ends(given, by_m)} for by_m in BOTH_M if by_m}
    for deep, foam_m, both_m, taken_m in itertools.product((False, True), FOAM_M, BOTH_M, TAKEN_M):
        if both_m and not both[both_m]:
            continue
        # another travel wants its sag set anew: spacers bring the preloads with them
        parts = {"preload": deep or taken_m, "foam": foam_m, "both_ends": both_m, "spacers": taken_m}
        kinds = tuple(k for k, part in parts.items() if part)
        update = dict(both[both_m]) if both_m else {}
        if foam_m:
            update["seat_up_m"] = round(current_value(setup, "seat_up_m") - foam_m, 6)
        if taken_m:
            update |= _spacers(given, taken_m)
        if kinds and all(low <= update[n] <= high for n in update for low, high in (bounds(bike, n),)):
            yield sum(HOURS[k] for k in kinds), kinds, update


def _spacers(given: ChassisInput, taken_m: float) -> dict[str, float]:
    """Spacers [m] to the notch that take so much more of the rear wheel's travel, and as much in front: rake stays."""
    setup, frame = given.setup, given.bike.frame
    wanted = {
        "shock_spacer_m": spacer_for(frame, travel_taken(frame, setup, "rear") + taken_m),
        "fork_spacer_m": current_value(setup, "fork_spacer_m") + taken_m / cos(frame.rake_rad),
    }
    return {name: round(round(v / TUNABLES[name].step) * TUNABLES[name].step, 6) for name, v in wanted.items()}


def _then(given: ChassisInput, update: dict[str, float], *, deep: bool) -> ChassisInput:
    """The bike so changed; deep: with the preloads that let both ends sink as far as their bands allow, to the notch,
    where the present spring meets them at all.
    """

    def standing(more: dict[str, float]) -> ChassisInput:
        setup = given.setup.model_copy(update=update | more)
        return replace(given, loaded=replace(given.loaded, setup=setup))

    there, preloads = standing({}), dict[str, float]()
    if not deep:
        return there
    for end, field in PRELOAD_FIELD.items():
        if on_air(there, end):
            continue
        low, high = preloads_for(there, end, getattr(there.setup, RATE_FIELD[end]))
        notch_m = TUNABLES[field].step
        least = round(ceil(low / notch_m - 1e-9) * notch_m, 6)
        preloads[field] = least if least <= high else on_notch(preload_with(there, end))
    return standing(preloads)


def _touches(given: ChassisInput) -> bool:
    """Whether something touches at full travel that was measured."""
    left = clearances.clearances(given, given.setup).values()
    return any(v is not None and v < clearances.TOUCH_ACT_M for v in left)


def _lowered(
    given: ChassisInput, there: ChassisInput, kinds: tuple[str, ...], work_h: float, margin_m: float
) -> Lowered:
    """What a list gives."""
    now, then = given.setup, there.setup
    moved = [f for f in MOVED if getattr(now, f) != getattr(then, f)]
    clear = height_of(there, attitude_at_sag(there), LOWEST_AHEAD, there.clearance_m)
    front, rear = (travel_of(there.bike.frame, then, end) for end in ("front", "rear"))
    return Lowered(
        kinds=kinds,
        moves=tuple(Move(tunable=f, value=getattr(then, f)) for f in moved),
        work_s=3600.0 * work_h,
        margin_m=margin_m,
        seat_m=_seat(there),
        clearance_m=clear,
        travels_m=(front, rear),
        stand_cut_m=clearances.stand_cut(there),
    )
