"""The bike from the side as a closed mechanism: frame, fork, swingarm and two wheels on level ground.

Coordinates: x forward, z up, origin under the rear axle as the bike stands topped out at both ends on its own wheels;
that is the state in which rake, wheelbase, seat height and ground clearance are said. Fork compression is along the
leg, rear travel vertical at the axle in the frame. References: [cossalter2006] V. Cossalter, Motorcycle Dynamics, 2nd
ed., ch. 1 (rake, trail) and 6 (chain force and squat).
"""

from dataclasses import dataclass
from math import asin, atan2, cos, hypot, sin, sqrt

from lynxwort.core.errors import require_range

Point = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class SideView:
    """What decides the side view. offset_m: clamp offset + axle lead; axle_below_pivot_m, wheelbase_m, rake_rad: topped
    out, tubes flush, wheels it was measured with; fork_up_m: tubes raised through the clamps; offset_change_m: against
    the clamps it was measured with; rear_up_m: rear raised at the axle by shock length or link; axle_back_m: the axle
    in its adjusters, from their middle, + = back; front_radius_m, rear_radius_m: loaded radii now, front_radius_then_m,
    rear_radius_then_m: when measured.
    """

    wheelbase_m: float
    rake_rad: float
    offset_m: float
    swingarm_length_m: float
    axle_below_pivot_m: float
    front_radius_m: float
    rear_radius_m: float
    front_radius_then_m: float
    rear_radius_then_m: float
    fork_up_m: float = 0.0
    offset_change_m: float = 0.0
    rear_up_m: float = 0.0
    axle_back_m: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Attitude:
    """The bike standing. rake_rad, trail_m, wheelbase_m, pitch_rad (+ = nose up against topped out), swingarm_rad (+ =
    falls towards the axle); axles, pivot and head (where the steering axis meets the height of the bars, about) in
    world coordinates.
    """

    rake_rad: float
    trail_m: float
    wheelbase_m: float
    pitch_rad: float
    swingarm_rad: float
    rear_axle: Point
    front_axle: Point
    pivot: Point
    turn: float
    shift: Point

    def place(self, point: Point) -> Point:
        """A point of the frame, given as the bike stood when it was measured, where it is now."""
        x, z = point
        return (
            x * cos(self.turn) - z * sin(self.turn) + self.shift[0],
            x * sin(self.turn) + z * cos(self.turn) + self.shift[1],
        )


def trail(radius_m: float, rake_rad: float, offset_m: float) -> float:
    """Trail [m]: (R sin e - o) / cos e. [cossalter2006] eq. 1.1, offset as clamp offset + axle lead."""
    return (radius_m * sin(rake_rad) - offset_m) / cos(rake_rad)


def attitude_of(view: SideView, *, fork_in_m: float, rear_in_m: float) -> Attitude:
    """The bike with its fork compressed by fork_in_m along the leg and its rear wheel up by rear_in_m [m], both wheels
    on level ground.

    Raises OutOfModelRange when the swingarm cannot reach.
    """
    below = view.axle_below_pivot_m
    require_range("axle_below_pivot_m", below, -0.99 * view.swingarm_length_m, 0.99 * view.swingarm_length_m, "m")
    pivot = (sqrt(view.swingarm_length_m**2 - below**2), view.rear_radius_then_m + below)
    drop = below + view.rear_up_m - rear_in_m
    require_range("drop_m", drop, -0.99 * view.swingarm_length_m, 0.99 * view.swingarm_length_m, "m")
    rear = (pivot[0] - sqrt((view.swingarm_length_m + view.axle_back_m) ** 2 - drop**2), pivot[1] - drop)
    up = (-sin(view.rake_rad), cos(view.rake_rad))
    ahead = (cos(view.rake_rad), sin(view.rake_rad))
    slide = fork_in_m + view.fork_up_m
    front = (
        view.wheelbase_m + slide * up[0] + view.offset_change_m * ahead[0],
        view.front_radius_then_m + slide * up[1] + view.offset_change_m * ahead[1],
    )
    apart, lean = hypot(front[0] - rear[0], front[1] - rear[1]), atan2(front[1] - rear[1], front[0] - rear[0])
    turn = asin((view.front_radius_m - view.rear_radius_m) / apart) - lean
    rake = view.rake_rad + turn
    turned_rear = (rear[0] * cos(turn) - rear[1] * sin(turn), rear[0] * sin(turn) + rear[1] * cos(turn))
    shift = (-turned_rear[0], view.rear_radius_m - turned_rear[1])
    wheelbase = apart * cos(lean + turn)
    made = Attitude(
        rake_rad=rake,
        trail_m=trail(view.front_radius_m, rake, view.offset_m + view.offset_change_m),
        wheelbase_m=wheelbase,
        pitch_rad=turn,
        swingarm_rad=0.0,
        rear_axle=(0.0, view.rear_radius_m),
        front_axle=(wheelbase, view.front_radius_m),
        pivot=(0.0, 0.0),
        turn=turn,
        shift=shift,
    )
    here = made.place(pivot)
    angle = atan2(here[1] - view.rear_radius_m, here[0])
    return Attitude(
        rake_rad=rake,
        trail_m=made.trail_m,
        wheelbase_m=wheelbase,
        pitch_rad=turn,
        swingarm_rad=angle,
        rear_axle=made.rear_axle,
        front_axle=made.front_axle,
        pivot=here,
        turn=turn,
        shift=shift,
    )


def line_meeting(a: tuple[Point, Point], b: tuple[Point, Point]) -> Point | None:
    """Where two lines through pairs of points meet; None when they are parallel."""
    (x1, y1), (x2, y2) = a
    (x3, y3), (x4, y4) = b
    across = (x1 - x2) * (y3 - y4) - (y1 - y2) * (x3 - x4)
    if abs(across) < 1e-12:
        return None
    p, q = x1 * y2 - y1 * x2, x3 * y4 - y3 * x4
    return (p * (x3 - x4) - (x1 - x2) * q) / across, (p * (y3 - y4) - (y1 - y2) * q) / across


def anti_squat(
    *, pivot: Point, rear_axle: Point, chain: tuple[Point, Point], cg_height_m: float, wheelbase_m: float
) -> float:
    """Share of the load transfer under drive that the chain and the swingarm carry [1]: 1 = neither squats nor rises.

    The line from the rear contact patch to where the chain's upper run meets the swingarm's line, against the squat
    line h / L. [cossalter2006] 6.5. pivot, rear_axle and chain (two points of the upper run) in world coordinates, x
    forward.
    """
    meeting = line_meeting((pivot, rear_axle), chain)
    if meeting is None:  # parallel: the line of force has their slope
        slope = (pivot[1] - rear_axle[1]) / (pivot[0] - rear_axle[0])
    else:
        slope = meeting[1] / (meeting[0] - rear_axle[0])
    return slope / (cg_height_m / wheelbase_m)


def leg_reach(*, inseam_m: float, seat_height_m: float, seat_half_width_m: float, sole_m: float) -> float:
    """Margin [m] with which a foot reaches the ground beside the seat, + = flat with that much to spare: the leg goes
    round the seat's edge.
    """
    return inseam_m + sole_m - hypot(seat_height_m, seat_half_width_m)
