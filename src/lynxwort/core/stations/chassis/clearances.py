"""Room about the bike: what the tyres and tubes come near at full travel, the rider's triangle, what slopes and brakes
do to the wheels.
"""

from dataclasses import dataclass
from math import hypot
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from lynxwort.core.derived.springs import LOWEST_AHEAD, SEAT_AHEAD, side_view_of
from lynxwort.core.figures import figure, step
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.defaults import GRAVITY_M_PER_S2
from lynxwort.core.model.fitted import seat_up_of, shift_of
from lynxwort.core.model.setup import LoadedSetup, Setup
from lynxwort.core.physics.chassis.geometry import Attitude, Point, attitude_of
from lynxwort.core.physics.chassis.loads import front_share_under
from lynxwort.core.physics.course.prepare import rise_over_run
from lynxwort.core.physics.drive.kernel import BRAKE
from lynxwort.core.report import Figure, Finding, Move
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.station import Known
from lynxwort.core.tunables import TUNABLES, current_value

#: under this it is to act on at full travel (HANDBOOK 6)
TOUCH_ACT_M = 0.005
#: figure -> the gap among the bike's facts, topped out
GAPS = {
    "front.tyre_guard_clearance": "front_guard_gap_m",
    "front.clamp_clearance": "front_clamp_gap_m",
    "front.radiator_clearance": "front_radiator_gap_m",
    "front.bar_clearance": "bar_gap_m",
    "rear.guard_clearance": "rear_guard_gap_m",
    "rear.seat_clearance": "rear_seat_gap_m",
    "rear.exhaust_clearance": "rear_exhaust_gap_m",
}
#: the shortest braking that counts [s], and the share of the lap's brakings that are its hard ones (assumption)
LEAST_BRAKING_S, HARD_SHARE = 0.4, 0.1
#: a drop of the ride height is offered in this many of its notches
LOWER_STEPS = 2


def topped_out(given: ChassisInput, setup: LoadedSetup) -> Attitude:
    """A setup with both ends topped out."""
    return attitude_of(
        side_view_of(
            given.bike,
            given.springs.side,
            setup,
            rear_radius_m=given.radius.median,
            axle_back_m=given.loads.axle_back_m(setup),
        ),
        fork_in_m=0.0,
        rear_in_m=0.0,
    )


def clearances(given: ChassisInput, setup: LoadedSetup) -> dict[str, float | None]:
    """What is left [m] at full travel by figure; None where the gap was never measured.

    Along the leg in front, straight up behind; a bigger wheel takes room, tubes raised through the clamps bring the
    tyre nearer and the tops to the bars.
    """
    frame = given.bike.frame
    view = side_view_of(
        given.bike,
        given.springs.side,
        setup,
        rear_radius_m=given.radius.median,
        axle_back_m=given.loads.axle_back_m(setup),
    )
    bigger = {
        "front": view.front_radius_m - view.front_radius_then_m,
        "rear": view.rear_radius_m - view.rear_radius_then_m,
    }
    up, rear_up = setup.fork_up_m or 0.0, setup.rear_up_m or 0.0
    made: dict[str, float | None] = {}
    for name, field in GAPS.items():
        gap = getattr(frame, field)
        end = name.split(".", maxsplit=1)[0]
        if gap is None:
            made[name] = None
        elif field == "bar_gap_m":
            made[name] = gap + (setup.bar_up_m or 0.0) + shift_of(given.bike, setup, "bar_up_m") - up
        elif end == "front":
            made[name] = gap - frame.fork_travel_m - up - bigger["front"]
        else:  # a longer shock or shorter link keeps the wheel lower over the whole stroke
            made[name] = gap - frame.rear_travel_m + rear_up - bigger["rear"]
    return made


@dataclass(frozen=True, slots=True, kw_only=True)
class Triangle:
    """Where the rider sits, stands and holds, in world coordinates [m]."""

    seat: Point
    peg: Point
    bar: Point


def triangle(given: ChassisInput, attitude: Attitude) -> Triangle:
    """Seat, pegs and grips as the bike stands."""
    frame, setup = given.springs.side, given.setup

    def moved(field: str) -> float:
        """A setting with what the kit that is on adds to it."""
        return (getattr(setup, field) or 0.0) + shift_of(given.bike, setup, field)

    return Triangle(
        seat=attitude.place((SEAT_AHEAD * frame.wheelbase_m, frame.seat_height_m + seat_up_of(given.bike, setup))),
        peg=attitude.place((frame.peg_ahead_m, frame.peg_height_m - moved("peg_down_m"))),
        bar=attitude.place((frame.bar_ahead_m + moved("bar_ahead_m"), frame.bar_height_m + moved("bar_up_m"))),
    )


def _apart(a: Point, b: Point) -> float:
    return hypot(a[0] - b[0], a[1] - b[1])


def _hard_brakings(
    given: ChassisInput, forward: NDArray[np.float64], slope: NDArray[np.float64]
) -> tuple[float, float, float]:
    """The hard brakings of the lap: mean slope [rise / run] and speeding up [m/s2] of the hardest tenth, and where the
    hardest begins [m].

    A braking is a stretch of steps that the brakes rule; one step of the simulation is no braking.
    """
    on = np.concatenate([[False], given.lap.whole.limit == BRAKE, [False]])
    edges = np.flatnonzero(np.diff(on.astype(np.int8)))
    if not edges.size:
        return 0.0, 0.0, 0.0
    time = given.lap.whole.time_s
    # sums over each braking; what lies between two of them are the odd ones
    lasts, slow, steep = (np.add.reduceat(np.append(v, 0.0), edges)[::2] for v in (time, forward * time, slope * time))
    long = lasts >= LEAST_BRAKING_S
    if not long.any():
        return 0.0, 0.0, 0.0
    starts, slow, steep = edges[::2][long], slow[long] / lasts[long], steep[long] / lasts[long]
    hard = np.argsort(slow + GRAVITY_M_PER_S2 * steep, kind="stable")[: max(round(HARD_SHARE * starts.size), 1)]
    return (
        float(steep[hard].mean()),
        float(slow[hard].mean()),
        float(given.lap.around.whole.distance_m[starts[hard[0]]]),
    )


def hardest(given: ChassisInput) -> dict[str, tuple[float, float, float]]:
    """Steepest climb and hard braking of the course as ridden: slope [rise / run], speeding up [m/s2], place on the
    round [m].
    """

    def once() -> dict[str, tuple[float, float, float]]:
        # stage by stage: between two of them the bike stands, which is no braking
        forward = np.concatenate([np.diff(r.speed_m_per_s**2) / (2.0 * r.step_m) for r in given.lap.rides])
        slope = rise_over_run(given.lap.around.whole.sine)
        climb = int(np.argmax(slope))
        return {
            "climb": (
                float(slope[climb]),
                max(float(forward[climb]), 0.0),
                float(given.lap.around.whole.distance_m[climb]),
            ),
            "braking": _hard_brakings(given, forward, slope),
        }

    return given.once("hardest", once)


def figures(given: ChassisInput, attitude: Attitude) -> list[Figure]:
    """Clearances, triangle, load transfer, side stand."""
    setup, rider = given.setup, given.rider

    def made(name: str, value: float | None, formula: str, **more: Any) -> Figure:
        return figure(f"chassis.{name}", value, formula=formula, **more)

    found = [
        made(
            name,
            value,
            "gap topped out - travel - tubes raised + rear raised - bigger wheel",
            half=0.002,
            inputs=(f"bike.frame.{GAPS[name]}",),
            source="along the leg in front, straight up behind; a tyre grows a little at speed",
        )
        for name, value in clearances(given, setup).items()
    ]
    about = triangle(given, attitude)
    for name, a, b in (
        ("seat_to_peg", about.seat, about.peg),
        ("seat_to_bar", about.seat, about.bar),
        ("peg_to_bar", about.peg, about.bar),
    ):
        found.append(
            made(
                name,
                _apart(a, b),
                "straight line between the two",
                half=0.01,
                inputs=("bike.frame.bar_height_m", "bike.frame.peg_height_m"),
                source="the side view at race sag",
            )
        )
    loads, height = (
        given.loaded.loads(0.5 * setup.fill_m3, share_offset=given.springs.offsets.mean[2]),
        given.loads.cg_height_m(setup, rider),
    )
    for name, (slope, forward, _at) in hardest(given).items():
        front = front_share_under(
            loads, slope_share=slope, forward_m_per_s2=forward, cg_height_m=height, wheelbase_m=attitude.wheelbase_m
        )
        found.append(
            made(
                f"{name}_front_share",
                front,
                "front share - h / L (slope + a / g)",
                half=0.05,
                inputs=("bike.frame.cg_height_m",),
                steps=(step("slope", slope, "1"), step("a", forward, "m/s^2"), step("h", height, "m")),
                source="moments about the rear contact (statics)",
            )
        )
    drop = given.clearance_m - stands_free(given)
    found.append(
        made(
            "side_stand_cut",
            stand_cut(given),
            "stand x drop / height of its pivot",
            half=0.004,
            inputs=("bike.frame.side_stand_m",),
            steps=(step("drop", drop, "m", "lowest part, bike alone, against as it was built"),),
            source="similar triangles: the same lean; pivot taken at the lowest part (assumption)",
        )
    )
    return found


def stand_cut(given: ChassisInput) -> float | None:
    """By how much the side stand must be shorter [m] for the bike to lean on it as it did; None when it was not
    measured.
    """
    stand = given.bike.frame.side_stand_m
    return None if stand is None else stand * (given.clearance_m - stands_free(given)) / given.clearance_m


def stands_free(given: ChassisInput) -> float:
    """Height of the lowest part [m] that this setup gives where a setup with nothing moved would stand topped out: what
    lowering takes.
    """
    plain = topped_out(given, given.setup)
    return plain.place((LOWEST_AHEAD * given.springs.side.wheelbase_m, given.clearance_m))[1]


def both_ends(given: ChassisInput, by_m: float) -> tuple[Move, ...]:
    """Moves that lower both ends by by_m [m] (negative: raise them), rake and pitch kept: tubes through the clamps and
    the rear together.

    To the notches of a hand; empty beyond what clamps and link allow.
    """
    setup = given.setup
    rear = round(current_value(setup, "rear_up_m") - by_m, 6)
    rear_facts, fork_facts = field_facts(Setup, "rear_up_m"), field_facts(Setup, "fork_up_m")
    if not (rear_facts.low or 0.0) <= rear <= (rear_facts.high or 0.0):
        return ()
    was = topped_out(given, setup).rake_rad

    def over(fork_up_m: float) -> float:
        moved = setup.model_copy(update={"rear_up_m": rear, "fork_up_m": fork_up_m})
        return topped_out(given, moved).rake_rad - was

    low, high = fork_facts.low or 0.0, fork_facts.high or 0.0
    if over(low) * over(high) > 0.0:
        return ()
    fork = float(brentq(over, low, high, xtol=1e-6))
    return (Move(tunable="rear_up_m", value=rear), Move(tunable="fork_up_m", value=round(fork, 3)))


def lowering_effect(given: ChassisInput, moves: tuple[Move, ...]) -> tuple[float, float, float]:
    """What moves do to seat, ground clearance and the front tyre's room at full travel [m], + = more; both ends topped
    out.
    """
    setup = given.setup
    moved = setup.model_copy(update={m.tunable: m.value for m in moves})
    was, now = topped_out(given, setup), topped_out(given, moved)

    def risen(ahead_share: float, height_m: float) -> float:
        at = ahead_share * given.springs.side.wheelbase_m, height_m
        return now.place(at)[1] - was.place(at)[1]

    return (
        risen(SEAT_AHEAD, given.springs.side.seat_height_m),
        risen(LOWEST_AHEAD, given.clearance_m),
        (setup.fork_up_m or 0.0) - (moved.fork_up_m or 0.0),
    )


def findings(given: ChassisInput, known: Known) -> list[Finding]:
    """What touches, and which wheel goes light."""
    found = []
    for name in GAPS:
        value = known[f"chassis.{name}"].value
        if value is not None and value < TOUCH_ACT_M:
            found.append(
                Finding(
                    station="chassis",
                    code="part_touches",
                    severity="act",
                    figures=(f"chassis.{name}",),
                    parameters={"what": name.replace(".", "_"), "left_travel_m": value},
                )
            )
    climb, brake = known["chassis.climb_front_share"].value or 0.0, known["chassis.braking_front_share"].value or 0.0
    places = hardest(given)
    if climb < 0.05:
        found.append(
            Finding(
                station="chassis",
                code="front_light",
                severity="look",
                at_m=places["climb"][2],
                figures=("chassis.climb_front_share",),
                parameters={"grade": places["climb"][0]},
            )
        )
    if brake > 0.95:
        found.append(
            Finding(
                station="chassis",
                code="rear_light",
                severity="look",
                at_m=places["braking"][2],
                figures=("chassis.braking_front_share",),
            )
        )
    return found


def lowering_step() -> float:
    """By how much the one move lowers or raises both ends [m]."""
    return LOWER_STEPS * TUNABLES["rear_up_m"].step
