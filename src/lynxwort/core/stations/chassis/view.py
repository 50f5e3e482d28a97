"""Chassis's drawings: the bike from the side, what the chain carries, the springs that meet both sags."""

from dataclasses import dataclass
from math import cos, sin

from lynxwort.core.derived.springs import LOWEST_AHEAD
from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.physics.chassis.geometry import Point, attitude_of
from lynxwort.core.physics.chassis.sag import SagTargets
from lynxwort.core.stations.chassis import clearances
from lynxwort.core.stations.chassis.attitude import attitude_at_sag, sags, side_view, squat
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import SpringChoice, spring_choices, targets
from lynxwort.core.stations.station import Views


def sag_targets(given: ChassisInput) -> dict[str, SagTargets]:
    """Where the sags of each end should lie."""
    return {end: targets(given, end) for end in ("rear", "front")}


def choices(given: ChassisInput) -> dict[str, list[SpringChoice]]:
    """Springs of each end that meet both sags with a preload that exists."""
    return {end: spring_choices(given, end) for end in ("rear", "front")}


@dataclass(frozen=True, slots=True, kw_only=True)
class Outline:
    """The bike as lines [m], x forward from under the rear axle: what a drawing needs of an attitude."""

    rear: Point
    front: Point
    rear_radius_m: float
    front_radius_m: float
    pivot: Point
    leg_top: Point
    axis_top: Point
    seat: Point
    peg: Point
    bar: Point
    lowest: Point
    trail_m: float
    rake_rad: float


#: length of leg drawn above the axle [m]
LEG_M = 0.86


def outline(given: ChassisInput) -> Outline:
    """The bike at race sag as lines."""
    frame, attitude = given.springs.side, attitude_at_sag(given)
    front_in, _rear = sags(given)
    up = -sin(attitude.rake_rad), cos(attitude.rake_rad)
    length = LEG_M - front_in
    back = frame.clamp_offset_m + side_view(given, given.setup).offset_change_m + frame.axle_lead_m
    top = attitude.front_axle[0] + length * up[0], attitude.front_axle[1] + length * up[1]
    axis = top[0] - back * cos(attitude.rake_rad), top[1] - back * sin(attitude.rake_rad)
    about = clearances.triangle(given, attitude)
    return Outline(
        rear=attitude.rear_axle,
        front=attitude.front_axle,
        rear_radius_m=attitude.rear_axle[1],
        front_radius_m=attitude.front_axle[1],
        pivot=attitude.pivot,
        leg_top=top,
        axis_top=axis,
        seat=about.seat,
        peg=about.peg,
        bar=about.bar,
        lowest=attitude.place((LOWEST_AHEAD * frame.wheelbase_m, given.clearance_m)),
        trail_m=attitude.trail_m,
        rake_rad=attitude.rake_rad,
    )


def travel(given: ChassisInput, end: str) -> float:
    """Travel [m] of an end as it is set."""
    return travel_of(given.bike.frame, given.setup, end)


def squat_over_travel(given: ChassisInput, count: int = 13) -> list[tuple[float, float]]:
    """Rear travel [m] and anti-squat [1] over it with the present sprockets, fork at race sag."""
    view, front = side_view(given, given.setup), sags(given)[0]
    travels = [travel(given, "rear") * i / (count - 1) for i in range(count)]
    return [(rear, squat(given, attitude_of(view, fork_in_m=front, rear_in_m=rear))) for rear in travels]


VIEWS: Views = {"outline": outline, "squat": squat_over_travel, "sags": sag_targets, "springs": choices}
