"""Figures of Drive."""

from collections.abc import Callable
from math import exp
from typing import Any

import numpy as np

from lynxwort.core.figures import figure, step
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.defaults import WALKING_SPEED_M_PER_S, Z90
from lynxwort.core.physics.drive.engine import slips_by_itself
from lynxwort.core.physics.drive.gearing import tip_diameters, tyre_speed
from lynxwort.core.physics.drive.kernel import LIMITS, STUCK_GRIP, STUCK_POWER
from lynxwort.core.physics.drive.pull import crawl_speed
from lynxwort.core.report import Figure
from lynxwort.core.stations.drive.hills import MOST_HILLS, hills
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.pulls import first_second_drop, top, top_log_sd, way_spread

#: how far the plates stand out beyond the tips of the teeth [m], from memory
CHAIN_OUTSIDE_M = 0.002
FULL_THROTTLE_FORMULA = "longest run of the lap above 97 % of full torque, shifts and gaps up to 0.4 s counted in"
RIDE_SOURCE = "course simulation (HANDBOOK 4); rolling, grip and pace by ground: from memory and assumption"
GEARING = (
    "setup.front_sprocket_teeth",
    "setup.rear_sprocket_teeth",
    "bike.transmission.primary_ratio",
    "bike.tyre.rolling_radius_m",
)


def figures(given: DriveInput) -> list[Figure]:
    ride, ride_input = given.lap.whole, given.lap.ride_input
    best, crawl, spread = top(given), crawl_speed(ride_input), way_spread(given)
    short, paces = ride.metres(STUCK_POWER), exp(Z90 * given.lap.pace_log_sd)
    drop = first_second_drop(given)
    electric = isinstance(given.engine, Electric)
    one_gear = len(ride_input.overall_ratios) == 1
    ride_inputs = (
        *GEARING,
        "riders.entry.pace",
        "riders.entry.mass_in_gear_kg",
        "bike.engine.peak_power_w",
        "bike.frame.drag_area_m2",
        *(("setup.power_mode",) if electric else ()),
    )
    wheel = (*given.learned.radius.used, *given.learned.power.used)
    rated = tyre_speed(given.tyre)
    slowest = (
        "speed at which the clutch grips x radius / first ratio"
        if slips_by_itself(given.engine)
        else "idle speed x radius / first ratio"
    )

    def ends(name: str, value: float) -> dict[str, float | None]:
        """Low and high of what the job of the ranges found; none before it has."""
        found = given.spread(name)
        return (
            {"low": None, "high": None}
            if found is None
            else {"low": max(value - found[0], 0.0), "high": value + found[1]}
        )

    top_ends = ends("drive.top_speed", best.speed_m_per_s)
    if top_ends["high"] is None:  # until the job has ridden it: to first order
        half_top = best.speed_m_per_s * Z90 * top_log_sd(given, best)
        top_ends = {"low": best.speed_m_per_s - half_top, "high": best.speed_m_per_s + half_top}
    margins = (
        {}
        if rated is None or top_ends["high"] is None
        else {"low": rated - top_ends["high"], "high": rated - (top_ends["low"] or 0.0)}
    )
    return [
        figure(
            "drive.top_speed",
            best.speed_m_per_s,
            **top_ends,
            inputs=ride_inputs,
            readings=wheel,
            basis="calibrated" if wheel else "computed",
            formula="last root of force = resistance over the gears"
            if best.limit == "power"
            else "limiter speed x radius / ratio / (1 + slip)",
            steps=(
                step("gear", best.gear, "1"),
                step("rpm", best.rpm, "rpm"),
                step("power share", given.lap.power_share.mean(), "1", "mean of the lap"),
            ),
            source="force balance; c0, c1, slip of hardpack: from memory",
        ),
        figure(
            "drive.tyre_speed_margin",
            None if rated is None else rated - best.speed_m_per_s,
            **margins,
            formula="lower of the tyre's speed symbol and what fills it - top speed",
            inputs=("bike.tyre.inside_speed_m_per_s",),
            source=(
                "UNECE R75 speed symbols (from memory); mousse: common practice, no source; the makers' figures rule"
            ),
        ),
        figure(
            "drive.crawl_speed",
            None if electric else crawl,
            status="not_applicable" if electric else "ok",
            reason="pulls_from_standstill" if electric else "",
            half=crawl * (spread + 0.05),
            inputs=() if electric else (*GEARING, "bike.engine.idle_rpm"),
            formula=slowest,
            source="kinematics",
        ),
        figure(
            "drive.metres_short",
            short,
            **ends("drive.metres_short", short),
            inputs=ride_inputs,
            formula="metres where best force at walking pace < rolling + grade + air",
            source=RIDE_SOURCE,
        ),
        figure(
            "drive.metres_grip_unknown",
            ride.metres(STUCK_GRIP),
            formula="metres where engine force suffices but default grip does not",
            source=RIDE_SOURCE,
            basis="assumed",
        ),
        figure(
            "drive.lap_time",
            ride.lap_time_s,
            low=ride.lap_time_s / paces,
            high=ride.lap_time_s * paces,
            inputs=ride_inputs,
            formula="sum of step times",
            source=RIDE_SOURCE + "; spread of pace: assumption; speeds are the model's, never a speed to ride",
        ),
        figure(
            "drive.first_second_drop",
            drop,
            status="ok" if drop is not None else "not_applicable",
            reason="" if drop is not None else "one_gear",
            inputs=("bike.engine.peak_power_w",),
            formula="peak (1 - second / first)",
            source="kinematics",
        ),
        *_shares(given),
        *_habits(given, one_gear, ends),
        *_lifts(given),
        *_hills(given),
        *_chain(given),
        figure(
            "drive.energy_residual",
            ride.energy_residual,
            low=0.0,
            high=1e-9,
            formula="|work in - losses - stored| / engine work",
            source="energy balance of the lap: a check of the simulation",
        ),
    ]


LIMIT_GROUPS = {
    "power": ("power", "revs", "stuck_power"),
    "shift": ("shift",),
    "grip": ("grip", "wheelie", "stuck_grip"),
    "pace": ("pace", "corner", "brake"),
}


def _shares(given: DriveInput) -> list[Figure]:
    """What holds the bike up, as shares of a lap's time."""
    ride = given.lap.whole
    total = ride.lap_time_s
    made = []
    for name, limits in LIMIT_GROUPS.items():
        codes = [LIMITS.index(n) for n in limits]
        share = float(ride.time_s[np.isin(ride.limit, codes)].sum()) / total
        made.append(
            figure(f"drive.share.{name}", share, formula="time of the steps so limited / lap time", source=RIDE_SOURCE)
        )
    return made


def _habits(given: DriveInput, one_gear: bool, ends: Callable[[str, float], dict[str, float | None]]) -> list[Figure]:
    """How the lap is ridden: full throttle, shifts, clutch, limiter, shaking."""
    ride, engine = given.lap.whole, given.engine
    electric = isinstance(engine, Electric)
    shifts = int((np.diff(ride.gear) != 0).sum())
    shake = None if isinstance(engine, Electric) else engine.shake_rpm
    over = None if shake is None else float(ride.time_s[ride.crank_rad_per_s * 60.0 / (2.0 * np.pi) > shake].sum())
    longest = given.lap.longest_full_throttle_s
    return [
        figure(
            "drive.longest_full_throttle",
            longest,
            **ends("drive.longest_full_throttle", longest),
            formula=FULL_THROTTLE_FORMULA,
            source=RIDE_SOURCE,
        ),
        figure(
            "drive.shifts",
            None if one_gear else shifts,
            status="not_applicable" if one_gear else "ok",
            reason="one_gear" if one_gear else "",
            formula="gear changes of the lap",
            source=RIDE_SOURCE,
        ),
        figure(
            "drive.shifts_per_km",
            None if one_gear else shifts / given.lap.around.whole.length_m,
            status="not_applicable" if one_gear else "ok",
            reason="one_gear" if one_gear else "",
            formula="gear changes / length of the lap",
            source=RIDE_SOURCE,
        ),
        figure(
            "drive.clutch_energy",
            None if electric else ride.accounts_j["clutch"],
            status="not_applicable" if electric else "ok",
            reason="no_clutch" if electric else "",
            formula="engine work - work at the gearbox while the clutch slips",
            source=RIDE_SOURCE,
        ),
        figure(
            "drive.time_at_limiter",
            float(ride.time_s[ride.limit == LIMITS.index("revs")].sum()),
            formula="time of the steps limited by revs",
            source=RIDE_SOURCE,
        ),
        figure(
            "drive.time_over_shake",
            over,
            status="not_applicable" if electric else "ok" if over is not None else "unknown",
            reason="electric" if electric else "",
            inputs=() if electric else ("bike.engine.shake_rpm",),
            formula="time above the revs from which it shakes",
            source=RIDE_SOURCE + "; hand-arm vibration is judged by its dose over the day (ISO 5349-1, in principle)",
        ),
    ]


def _lifts(given: DriveInput) -> list[Figure]:
    """How far the throttle is open, as shares of a lap's time."""
    lift, time = given.lap.lift, given.lap.whole.time_s
    absent: dict[str, Any] = {"status": "not_applicable", "reason": "electric"} if lift is None else {}
    source = RIDE_SOURCE + "; throttle as an orifice (Heywood 2018, App. C); loss at full throttle: assumption"

    def share(mask: np.ndarray) -> float:
        return float(time[mask].sum() / time.sum())

    return [
        figure(
            "drive.lift_share.low",
            None if lift is None else share(lift < 0.125),
            formula="time with it open under one eighth / lap time",
            source=source,
            **absent,
        ),
        figure(
            "drive.lift_share.high",
            None if lift is None else share(lift >= 0.75),
            formula="time with it open over three quarters / lap time",
            source=source,
            **absent,
        ),
    ]


def _chain(given: DriveInput) -> list[Figure]:
    """Links, where the axle lies, what is left of the adjuster, the case, the slack."""
    frame, front = given.frame, given.setup.front_sprocket_teeth
    fit = given.chain_fit
    where = ("bike.frame.swingarm_length_m", "bike.frame.adjuster_half_range_m", "bike.frame.chain_links", *GEARING[:2])
    source = "tangents of two circles, exact; ISO 606 (520 chain, from memory)"
    gap = None if frame.case_gap_m is None else frame.case_gap_m - 0.5 * tip_diameters(front)[1] - CHAIN_OUTSIDE_M
    move = None if fit is None else fit.axle_move_m
    return [
        figure(
            "drive.chain.links",
            None if fit is None else fit.links,
            formula="even number nearest to the middle of the adjusters",
            inputs=where,
            source=source,
        ),
        figure(
            "drive.chain.axle_move",
            move,
            half=0.001,
            formula="axle at which the chain is links x pitch long and has its play",
            inputs=where,
            source=source,
        ),
        figure(
            "drive.chain.adjuster_left",
            None if move is None else frame.adjuster_half_range_m - move,
            half=0.001,
            formula="half range - axle move",
            inputs=where,
            source=source,
        ),
        figure(
            "drive.chain.case_clearance",
            gap,
            half=0.001,
            formula="gap - largest tip radius - height of the chain outside the tip",
            inputs=("bike.frame.case_gap_m", "setup.front_sprocket_teeth"),
            source="ISO 606 tip diameter (from memory)",
        ),
        figure(
            "drive.chain.slack_on_stand",
            None if fit is None else fit.slack_on_stand_m,
            half=0.003,
            formula="length kept over the travel, wheel hanging",
            inputs=("bike.frame.chain_play_m", "bike.frame.axle_below_pivot_m", *where[:1]),
            source=source + "; never tighter than the manual's figure",
        ),
        figure("drive.wheelbase_change", move, half=0.001, formula="as the axle moves", inputs=where, source=source),
    ]


def _hills(given: DriveInput) -> list[Figure]:
    """Limit and run-up of the first hills; what the race has not does not apply."""
    known = {h.number: h for h in hills(given)}
    made = []
    source = (
        "course simulation of the hill alone; closed-form gradeability (Wong 2008), traction and wheelie "
        "limits (Cossalter 2006); grips: from memory"
    )
    for number in range(1, MOST_HILLS + 1):
        h = known.get(number)
        absent: dict[str, Any] = {"status": "not_applicable", "reason": "no_such_hill"} if h is None else {}
        g = None if h is None else h.grades
        grip = None if h is None else given.learned.grip.get(h.hill.ground)
        used = () if grip is None else grip.readings
        made.append(
            figure(
                f"drive.hill.{number}.limit",
                None if g is None else g.steepest,
                low=None if g is None else min(g.engine, g.wheelie, g.grip_low),
                high=None if g is None else min(g.engine, g.wheelie, g.grip_high),
                formula="least of engine, grip and front wheel at walking pace",
                source=source,
                readings=used,
                basis="calibrated" if used else "computed",
                steps=()
                if h is None or g is None
                else (
                    step("grade", h.hill.grade, "1", "the hill"),
                    step("engine", min(g.engine, 99.0), "1", "tan(asin(F / (m g sqrt(1 + c^2))) - atan c)"),
                    step("grip", min(g.grip, 99.0), "1", "(mu b / L - c) / (1 - mu h / L)"),
                    step("wheel lifts", g.wheelie, "1", "0.9 (L - b) / h"),
                ),
                **absent,
            )
        )
        name, speed = f"drive.hill.{number}.run_up_speed", None if h is None else h.run_up_m_per_s
        spread = None if speed is None else given.spread(name)
        status = absent or ({"status": "unknown"} if h is not None and h.run_up_m_per_s is None else {})
        made.append(
            figure(
                name,
                speed,
                low=None if spread is None else max((speed or 0.0) - spread[0], WALKING_SPEED_M_PER_S),
                high=None if spread is None else (speed or 0.0) + spread[1],
                formula="least speed at the foot from which no metre stops it, engine only",
                source=source + "; range: evaluated at the ends of what is not known",
                inputs=("setup.front_sprocket_teeth", "setup.rear_sprocket_teeth"),
                steps=()
                if h is None
                else (
                    *(
                        step(name, value, "m/s", words)
                        for name, value, words in (
                            ("good", h.run_up_good_m_per_s, "if it grips at its best"),
                            ("poor", h.run_up_poor_m_per_s, "if at its worst"),
                        )
                        if value is not None
                    ),
                    step("carried", h.carried_m_per_s, "m/s", "as said" if h.carried_said else "by the model"),
                ),
                **status,
            )
        )
    return made
