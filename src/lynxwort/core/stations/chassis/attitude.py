"""How the bike stands at race sag: steering, heights, reach, chain pull, reserve, closed air."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from lynxwort.core.derived.day import outside_of
from lynxwort.core.derived.springs import LOWEST_AHEAD, SEAT_AHEAD, side_view_of
from lynxwort.core.figures import figure, step
from lynxwort.core.model.fitted import seat_up_of
from lynxwort.core.model.setup import LoadedSetup
from lynxwort.core.physics.air.standard import standard_pressure
from lynxwort.core.physics.chassis import ride_quality, sag
from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.physics.chassis.geometry import Attitude, SideView, anti_squat, attitude_of, leg_reach
from lynxwort.core.physics.chassis.pressure import gauge_at
from lynxwort.core.physics.drive.chain import pitch_radius, tangents
from lynxwort.core.report import Figure, Finding, Move, Severity
from lynxwort.core.stations.chassis import clearances
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.station import Known
from lynxwort.core.tunables import current_value

#: a boot's sole [m] (assumption); thresholds, assumption: trail on a fast course (HANDBOOK 6), reach, tyre to guard,
#: bottoming, rise of closed air
SOLE_M = 0.03
FAST_M_PER_S, SHORT_TRAIL_M = 100.0 / 3.6, 0.095
REACH_LOOK_M, CLOSED_AIR_LOOK_PA = -0.10, 8_000.0
#: less trail than what ran straight (HANDBOOK 6); front ride frequency / rear (assumption: air makes a fork quicker)
LESS_THAN_PROVEN_M, BALANCE_LOW, BALANCE_HIGH = 0.008, 1.2, 1.8
DROP_LOOK_M = {"front": 0.30, "rear": 0.10}
SOURCE = (
    "closed mechanism of frame, fork, swingarm and wheels (Cossalter 2006, ch. 1); dimensions as given or from memory"
)
PLACES = (
    "bike.frame.rake_rad",
    "bike.frame.wheelbase_m",
    "bike.frame.clamp_offset_m",
    "bike.frame.axle_lead_m",
    "setup.fork_up_m",
    "setup.rear_up_m",
    "setup.offset_change_m",
)


def side_view(given: ChassisInput, setup: LoadedSetup) -> SideView:
    """What decides the side view of a setup."""
    return side_view_of(
        given.bike,
        given.springs.side,
        setup,
        rear_radius_m=given.radius.median,
        axle_back_m=given.loads.axle_back_m(setup),
    )


def sags(given: ChassisInput) -> tuple[float, float]:
    """Race sag [m] front and rear at half the fill."""
    half = 0.5 * given.setup.fill_m3
    return tuple(given.loaded.sag_m(end, race=True, fuel_m3=half) for end in ("front", "rear"))  # type: ignore[return-value]


def attitude_at_sag(given: ChassisInput) -> Attitude:
    """The bike at race sag, rider aboard, half the fill."""

    def make() -> Attitude:
        front, rear = sags(given)
        return attitude_of(side_view(given, given.setup), fork_in_m=front, rear_in_m=rear)

    return given.once("attitude", make)


def height_of(given: ChassisInput, attitude: Attitude, ahead_share: float, height_m: float) -> float:
    """Height now [m] of a point of the frame that stood at height_m [m], this share of the wheelbase before the rear
    axle.
    """
    return attitude.place((ahead_share * given.springs.side.wheelbase_m, height_m))[1]


def squat(given: ChassisInput, attitude: Attitude) -> float:
    """Anti-squat [1] of an attitude with the present sprockets."""
    frame, setup = given.springs.side, given.setup
    view = side_view(given, setup)
    pivot = (
        (view.swingarm_length_m**2 - view.axle_below_pivot_m**2) ** 0.5,
        view.rear_radius_then_m + view.axle_below_pivot_m,
    )
    sprocket = attitude.place((pivot[0] + frame.sprocket_ahead_m, pivot[1] + frame.sprocket_above_m))
    # rear sprocket to front one, wheel behind: the run on the left of the way from rear to front is the upper one
    upper, _lower = tangents(
        attitude.rear_axle, pitch_radius(setup.rear_sprocket_teeth), sprocket, pitch_radius(setup.front_sprocket_teeth)
    )
    return anti_squat(
        pivot=attitude.pivot,
        rear_axle=attitude.rear_axle,
        chain=upper,
        cg_height_m=given.loads.cg_height_m(setup, given.rider),
        wheelbase_m=attitude.wheelbase_m,
    )


def _pressure(given: ChassisInput, gauge_pa: float) -> float:
    """Gauge pressure [Pa] at the start line of air closed at home."""
    frame, now = given.bike.frame, given.day.states.middle_at_reading
    return gauge_at(
        gauge_pa,
        outside_then_pa=standard_pressure(frame.home_height_m),
        outside_now_pa=now.pressure_pa,
        temperature_then_k=frame.home_temperature_k,
        temperature_now_k=now.temperature_k,
    )


def figures(given: ChassisInput) -> list[Figure]:
    """Figures of the attitude."""
    frame, setup, rider = given.springs.side, given.setup, given.rider
    front, rear = sags(given)
    attitude = attitude_at_sag(given)
    steps = (
        step("fork in", front, "m", "race sag along the leg"),
        step("rear in", rear, "m", "race sag at the axle"),
        step("pitch", attitude.pitch_rad, "rad"),
    )
    seat = height_of(given, attitude, SEAT_AHEAD, frame.seat_height_m + seat_up_of(given.bike, setup))
    reach = (
        None
        if rider.inseam_m is None
        else leg_reach(
            inseam_m=rider.inseam_m, seat_height_m=seat, seat_half_width_m=frame.seat_half_width_m, sole_m=SOLE_M
        )
    )
    sprung = {end: given.loaded.sprung(end)[0] for end in ("front", "rear")}
    fork, shock = (
        given.springs.fork(setup, given.springs.offsets.mean),
        given.springs.shock(setup, given.springs.offsets.mean),
    )
    rates = {
        "front": ride_quality.front_frequency(fork, sprung["front"], front),
        "rear": ride_quality.rear_frequency(shock, sprung["rear"], rear),
    }
    held = _pressure(given, 0.0)
    unbled = sag.front_sag(replace(fork, air_gauge_pa=max(held, -0.5 * fork.outside_pa)), sprung["front"])
    by_tape = given.springs.geometry.used
    spring_source = "springs and trapped air alone (Boyle, n = 1.25 moving); damping adds to the reserve"

    def made(name: str, value: float | None, formula: str, **more: Any) -> Figure:
        return figure(f"chassis.{name}", value, formula=formula, **more)

    return [
        made(
            "rake",
            attitude.rake_rad,
            "given rake + pitch",
            half=0.006,
            steps=steps,
            inputs=PLACES,
            readings=by_tape,
            source=SOURCE,
        ),
        made(
            "trail",
            attitude.trail_m,
            "(R sin e - o) / cos e",
            half=0.005,
            steps=(*steps, step("rake", attitude.rake_rad, "rad")),
            inputs=PLACES,
            readings=by_tape,
            source=SOURCE,
        ),
        made(
            "wheelbase",
            attitude.wheelbase_m,
            "axle to axle on the ground",
            half=0.008,
            steps=steps,
            inputs=PLACES,
            readings=by_tape,
            source=SOURCE,
        ),
        made(
            "seat_height",
            seat,
            "where the seat has come to",
            half=0.01,
            steps=steps,
            inputs=("bike.frame.seat_height_m",),
            source=SOURCE,
        ),
        made(
            "ground_clearance",
            height_of(given, attitude, LOWEST_AHEAD, given.clearance_m),
            "where the lowest part has come to",
            half=0.01,
            steps=steps,
            inputs=("bike.frame.ground_clearance_m",),
            source=SOURCE,
        ),
        made(
            "reach_margin",
            reach,
            "inseam + sole - sqrt(seat^2 + half width^2)",
            half=0.02,
            inputs=("bike.frame.seat_half_width_m",),
            source="straight leg beside the seat; sole 30 mm: assumption",
        ),
        made(
            "anti_squat",
            squat(given, attitude),
            "slope of contact patch to where chain meets swingarm / (h / L)",
            half=0.1,
            inputs=(
                "setup.front_sprocket_teeth",
                "setup.rear_sprocket_teeth",
                "bike.frame.cg_height_m",
                "bike.frame.swingarm_length_m",
            ),
            source="Cossalter 2006, 6.5",
        ),
        made("rear.frequency", rates["rear"], "sqrt(k / m) / 2 pi at race sag", source=spring_source),
        made("front.frequency", rates["front"], "sqrt(k / (m cos^2 e)) / 2 pi at race sag", source=spring_source),
        made(
            "balance",
            rates["front"] / rates["rear"],
            "front frequency / rear frequency",
            source="springs and moving air alone; the front a good deal quicker (assumption)",
        ),
        made(
            "front.race_sag_unbled",
            unbled,
            "as race sag, legs still closed as at home",
            half=0.004,
            inputs=("bike.frame.home_height_m",),
            source="closed air at constant volume, then Boyle's law in the legs",
        ),
        made(
            "rear.bottoming_drop",
            ride_quality.rear_bottoming_drop(shock, sprung["rear"]),
            "work of the spring / m g - travel",
            source=spring_source,
        ),
        made(
            "front.bottoming_drop",
            ride_quality.front_bottoming_drop(fork, sprung["front"]),
            "work of spring and air / m g - travel cos e",
            source=spring_source,
        ),
        *clearances.figures(given, attitude),
        *(
            made(
                name,
                _pressure(given, gauge),
                "(p + p0) T / T0 - p1",
                half=2_000.0,
                inputs=("bike.frame.home_height_m", "bike.frame.home_temperature_k"),
                source="closed air at constant volume (Gay-Lussac); ISO 2533 at home",
            )
            for name, gauge in (
                ("tyre_pressure_at_start", current_value(setup, "rear_tyre_pressure_pa")),
                ("tyre_pressure_front_at_start", current_value(setup, "front_tyre_pressure_pa")),
                ("fork_pressure_at_start", 0.0),
            )
        ),
    ]


def proven_trail(given: ChassisInput) -> float | None:
    """Trail [m] of the newest setup that was noted to run straight at speed; None without one."""
    steady = given.steady
    if steady is None:
        return None
    under = steady.under
    rider, fuel = under.rider or given.rider, under.fuel_aboard_m3 or 0.5 * under.setup.fill_m3
    outside = outside_of(under, given.bike.frame.home_height_m)
    front, rear = (
        given.springs.sag(end, under.setup, rider, fuel, given.springs.offsets.mean, outside_pa=outside)
        for end in ("front", "rear")
    )
    return attitude_of(side_view(given, under.setup), fork_in_m=front, rear_in_m=rear).trail_m


def _steady(given: ChassisInput, trail: float, add: Callable[..., None]) -> None:
    proven = proven_trail(given)
    if proven is not None and trail < proven - LESS_THAN_PROVEN_M:
        add("trail_less_than_proven", "look", "trail", proven_travel_m=proven)


def findings(given: ChassisInput, known: Known) -> list[Finding]:
    """What the attitude says."""
    found = []

    def value(name: str) -> float | None:
        return known[f"chassis.{name}"].value

    def add(
        code: str,
        severity: Severity,
        *names: str,
        proposals: tuple[tuple[Move, ...], ...] = (),
        **parameters: float | str,
    ) -> None:
        found.append(
            Finding(
                station="chassis",
                code=code,
                severity=severity,
                figures=tuple(f"chassis.{n}" for n in names),
                parameters=parameters,
                proposals=proposals,
            )
        )

    fastest = float(given.lap.whole.speed_m_per_s.max())
    trail = value("trail") or 0.0
    if fastest > FAST_M_PER_S and trail < SHORT_TRAIL_M:
        add("trail_short", "look", "trail", "rake", fast_speed=fastest)
    else:
        add("stance_read", "ok", "rake", "trail", "wheelbase", "anti_squat")
    _steady(given, trail, add)
    left = {end: travel_of(given.bike.frame, given.setup, end) for end in ("front", "rear")}
    if left != {"front": given.bike.frame.fork_travel_m, "rear": given.bike.frame.rear_travel_m}:
        add(
            "travel_limited",
            "ok",
            "seat_height",
            "side_stand_cut",
            front_travel_m=left["front"],
            rear_travel_m=left["rear"],
        )
    reach = value("reach_margin")
    if reach is not None and reach < REACH_LOOK_M:
        lower = clearances.both_ends(given, clearances.lowering_step())
        add(
            "reach_short",
            "look",
            "reach_margin",
            "seat_height",
            "ground_clearance",
            proposals=(lower,) if lower else (),
            short_travel_m=-reach,
        )
    found += clearances.findings(given, known)
    balance = value("balance") or 1.0
    if not BALANCE_LOW <= balance <= BALANCE_HIGH:
        add(
            "balance_off",
            "look",
            "balance",
            "front.frequency",
            "rear.frequency",
            end="front" if balance < BALANCE_LOW else "rear",
        )
    for end in ("rear", "front"):
        if (value(f"{end}.bottoming_drop") or 0.0) < DROP_LOOK_M[end]:
            add("bottoms_early", "look", f"{end}.bottoming_drop", f"{end}.frequency", end=end)
    risen = value("fork_pressure_at_start") or 0.0
    if abs(risen) > CLOSED_AIR_LOOK_PA:
        rides_m = (known["chassis.front.race_sag"].value or 0.0) - (value("front.race_sag_unbled") or 0.0)
        add(
            "closed_air_rose" if risen > 0 else "closed_air_fell",
            "look",
            "fork_pressure_at_start",
            "tyre_pressure_at_start",
            moved_travel_m=abs(rides_m),
        )
    return found
