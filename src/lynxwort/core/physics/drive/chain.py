"""The chain: links, where the axle comes to lie, how its tightness changes over the travel, and the slack to set on the
stand.

Sprockets are taken by their pitch line, radius teeth x pitch / 2 pi, on which the tangent length is exact to a few
thousandths of a link. References: [iso606] ISO 606 (pitch, roller; dimensions of the 520 chain from memory); tangents
of two circles: elementary geometry.
"""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from lynxwort.core.errors import require_range
from lynxwort.core.model.bike.frame import Frame
from lynxwort.core.physics.drive.gearing import CHAIN_PITCH_M

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Swingarm:
    """length_m: pivot to axle; sprocket_ahead_m, sprocket_above_m: the front sprocket's centre from the pivot, ahead
    and above; axle_low_m, axle_high_m: height of the axle against the pivot, topped out and at full travel. Pivot at
    the origin, rear to the left.
    """

    length_m: float
    sprocket_ahead_m: float
    sprocket_above_m: float
    axle_low_m: float
    axle_high_m: float


def pitch_radius(teeth: int) -> float:
    """Radius [m] of the pitch line, teeth x pitch / 2 pi."""
    require_range("teeth", teeth, 6, 150, "1")
    return teeth * CHAIN_PITCH_M / (2.0 * math.pi)


def chain_length(front: int, rear: int, centre_m: float) -> float:
    """Length [m] of the taut chain around both sprockets at this distance of their centres. Open-belt tangents,
    exact.
    """
    small, large = sorted((pitch_radius(front), pitch_radius(rear)))
    require_range("centre_m", centre_m, large - small + 1e-6, 5.0, "m")
    lean = math.asin((large - small) / centre_m)
    straight = math.sqrt(centre_m**2 - (large - small) ** 2)
    return 2.0 * straight + math.pi * (large + small) + 2.0 * lean * (large - small)


def links(front: int, rear: int, centre_m: float) -> float:
    """Length in links [number]; a chain has an even whole number of them."""
    return chain_length(front, rear, centre_m) / CHAIN_PITCH_M


def centre_at(arm: Swingarm, axle_height_m: Array | float) -> Array:
    """Distance of the sprocket centres [m] with the axle at this height against the pivot [m]."""
    height = np.asarray(axle_height_m, dtype=float)
    behind = np.sqrt(arm.length_m**2 - height**2)
    return np.hypot(behind + arm.sprocket_ahead_m, height - arm.sprocket_above_m)


def taut_length(arm: Swingarm, front: int, rear: int, axle_height_m: float) -> float:
    """Length [m] of the taut chain with the axle at this height [m]."""
    return chain_length(front, rear, float(centre_at(arm, axle_height_m)))


def tightest_height(arm: Swingarm) -> float:
    """Height of the axle against the pivot [m] at which the chain is tightest: axle, pivot and front sprocket in line,
    or the nearer end of travel.
    """
    in_line = -arm.length_m * math.sin(math.atan2(arm.sprocket_above_m, arm.sprocket_ahead_m))
    return min(max(in_line, arm.axle_low_m), arm.axle_high_m)


def span(front: int, rear: int, centre_m: float) -> float:
    """Free span [m] of one run between the tangent points."""
    return math.sqrt(centre_m**2 - (pitch_radius(front) - pitch_radius(rear)) ** 2)


def extra_for_play(span_m: float, play_m: float) -> float:
    """How much longer [m] than taut a chain is that moves `play_m` [m] up and down in all at the middle of one run."""
    return math.sqrt(span_m**2 + play_m**2) - span_m


def play_for_extra(span_m: float, extra_m: float) -> float:
    """Up and down movement in all [m] at the middle of one run of a chain that is `extra_m` [m] longer than taut."""
    require_range("extra_m", extra_m, 0.0, 0.5, "m")
    return 2.0 * math.sqrt(((span_m + extra_m) ** 2 - span_m**2) / 4.0)


def play_at(arm: Swingarm, front: int, rear: int, axle_height_m: float, *, play_at_tightest_m: float) -> float:
    """Up and down movement [m] at this height of the axle [m] when `play_at_tightest_m` [m] is left where the chain is
    tightest.

    The chain keeps its length over the travel; set this with the wheel hanging to find the play to set on the stand.
    """
    tight = tightest_height(arm)
    taut = taut_length(arm, front, rear, tight)
    length = taut + extra_for_play(span(front, rear, float(centre_at(arm, tight))), play_at_tightest_m)
    here = float(centre_at(arm, axle_height_m))
    return play_for_extra(span(front, rear, here), length - chain_length(front, rear, here))


Point = tuple[float, float]


def tangents(
    centre_a: Point, radius_a_m: float, centre_b: Point, radius_b_m: float
) -> tuple[tuple[Point, Point], tuple[Point, Point]]:
    """Outer tangents of two circles [m]: for each run its points on a and on b. Elementary geometry; raises
    OutOfModelRange inside one another.
    """
    east, north = centre_b[0] - centre_a[0], centre_b[1] - centre_a[1]
    apart = math.hypot(east, north)
    require_range("centre_m", apart, abs(radius_a_m - radius_b_m) + 1e-9, 50.0, "m")
    along, lean = math.atan2(north, east), math.acos((radius_a_m - radius_b_m) / apart)

    def run(angle_rad: float) -> tuple[Point, Point]:
        normal = math.cos(angle_rad), math.sin(angle_rad)
        return (
            (centre_a[0] + radius_a_m * normal[0], centre_a[1] + radius_a_m * normal[1]),
            (centre_b[0] + radius_b_m * normal[0], centre_b[1] + radius_b_m * normal[1]),
        )

    return run(along + lean), run(along - lean)


@dataclass(frozen=True, slots=True, kw_only=True)
class ChainPose:
    """The drive at one height of the axle, pivot at the origin, rear to the left [m]. runs: each as its point on the
    front sprocket and on the rear one; play_m: up and down in all at the middle of the lower run.
    """

    name: str
    axle: Point
    runs: tuple[tuple[Point, Point], tuple[Point, Point]]
    play_m: float


def poses(arm: Swingarm, front: int, rear: int, heights: dict[str, float], *, play_m: float) -> list[ChainPose]:
    """The drive at named heights of the axle against the pivot [m], with `play_m` [m] left where it is tightest."""
    made = []
    for name, height in heights.items():
        axle = (-math.sqrt(arm.length_m**2 - height**2), height)
        runs = tangents((arm.sprocket_ahead_m, arm.sprocket_above_m), pitch_radius(front), axle, pitch_radius(rear))
        made.append(
            ChainPose(
                name=name, axle=axle, runs=runs, play_m=play_at(arm, front, rear, height, play_at_tightest_m=play_m)
            )
        )
    return made


@dataclass(frozen=True, slots=True, kw_only=True)
class ChainFit:
    """links: even number; axle_move_m: from the middle of the adjusters, + = back; slack_on_stand_m: to set with the
    wheel hanging.
    """

    links: int
    axle_move_m: float
    slack_on_stand_m: float


def axle_move_for(arm: Swingarm, front: int, rear: int, *, links: int, play_m: float) -> float:
    """How far the axle moves back [m] from the arm's length so that this chain has `play_m` [m] where it is
    tightest.
    """

    def slack(move_m: float) -> float:
        moved = replace(arm, length_m=arm.length_m + move_m)
        tight = tightest_height(moved)
        centre = float(centre_at(moved, tight))
        return (
            links * CHAIN_PITCH_M
            - chain_length(front, rear, centre)
            - extra_for_play(span(front, rear, centre), play_m)
        )

    return float(brentq(slack, -0.15, 0.15, xtol=1e-9))


def swingarm_of(frame: Frame) -> Swingarm:
    """A bike's swingarm, axle in the middle of its adjusters."""
    return Swingarm(
        length_m=frame.swingarm_length_m,
        sprocket_ahead_m=frame.sprocket_ahead_m,
        sprocket_above_m=frame.sprocket_above_m,
        axle_low_m=-frame.axle_below_pivot_m,
        axle_high_m=frame.rear_travel_m - frame.axle_below_pivot_m,
    )


def fit_chain(
    arm: Swingarm, front: int, rear: int, *, links: int | None, half_range_m: float, play_m: float
) -> ChainFit | None:
    """The fitted chain [m], or the even number of links nearest to the middle of the adjusters; None when the
    axle cannot go there.
    """
    middle = taut_length(arm, front, rear, tightest_height(arm)) / CHAIN_PITCH_M
    count = links if links is not None else 2 * round(middle / 2.0)
    if abs(count - middle) * CHAIN_PITCH_M > 0.28:
        return None
    move = axle_move_for(arm, front, rear, links=count, play_m=play_m)
    if abs(move) > half_range_m + 1e-9:
        return None
    moved = replace(arm, length_m=arm.length_m + move)
    return ChainFit(
        links=count,
        axle_move_m=move,
        slack_on_stand_m=play_at(moved, front, rear, arm.axle_low_m, play_at_tightest_m=play_m),
    )
