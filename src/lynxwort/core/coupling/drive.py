"""Drive: does it pull, how fast, how slowly, and where not."""

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import exp, hypot, sqrt
from typing import Any

import numpy as np

from lynxwort.core.coupling import hills
from lynxwort.core.coupling.build import figure, step
from lynxwort.core.derived.springs import Array
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Electric, Engine
from lynxwort.core.model.defaults import DRAG_LOG_SD, GROUND, LIMITER_ASSUMED_LOG_SD, LIMITER_GIVEN_LOG_SD, ROLLING_LOG_SD, Z90
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.drive.chain import ChainPose, poses, swingarm_of, tightest_height
from lynxwort.core.physics.drive.engine import engine_curve, slips_by_itself
from lynxwort.core.physics.drive.gearing import rpm_after_upshift, tip_diameters, tyre_speed
from lynxwort.core.physics.drive.kernel import LIMITS, STUCK_GRIP, STUCK_POWER
from lynxwort.core.physics.drive.lift import BANDS
from lynxwort.core.physics.drive.pull import TopSpeed, crawl_speed, first_gear_scale_needed, resistance, top_speed, wheel_force
from lynxwort.core.physics.drive.simulation import RideInput
from lynxwort.core.report import Figure, Finding, Move
from lynxwort.core.units.detents import is_owned

#: thresholds (assumption): metres short to act on; share of revs lost from first to second that riders complain of
SHORT_ACT_M = 100.0
WIDE_STEP_SHARE = 0.26
SHAKE_LOOK_SHARE = 0.15
GRIP_LOOK_M = 10.0
#: adjuster left for stretch, and gap to the case, below which it is to look at and to act on [m] (assumption)
ADJUSTER_LOOK_M, CASE_ACT_M = 0.004, 0.003
#: how far the plates stand out beyond the tips of the teeth [m], from memory
CHAIN_OUTSIDE_M = 0.002
#: top speed by power, drag and rolling, where power ends it: d ln speed / d ln of each (tried on bikes of 25 to 45 kW; assumption)
TOP_SPEED_ELASTICITY = (0.33, -0.27, -0.08)
FULL_THROTTLE_FORMULA = "longest run of the lap above 97 % of full torque, shifts and gaps up to 0.4 s counted in"
RIDE_SOURCE = "course simulation (HANDBOOK 4); rolling, grip and pace by ground: from memory and assumption"
GEARING = ("setup.front_sprocket_teeth", "setup.rear_sprocket_teeth", "bike.transmission.primary_ratio", "bike.tyre.rolling_radius_m")


def pulls(what: RideInput, speed_m_per_s: Array, power_share: float) -> list[Array]:
    """Full-throttle force [N] at the wheel in each gear over road speeds, at a share of the power, on hardpack."""
    curve = engine_curve(what.engine, what.mode_share)
    return [wheel_force(curve, what, r, speed_m_per_s, slip=GROUND["hardpack"][4], power_share=power_share) for r in what.overall_ratios]


def gear_spans(what: RideInput) -> list[tuple[float, float]]:
    """Road speeds [m/s] from where each gear pulls to the limiter."""
    curve = engine_curve(what.engine, what.mode_share)
    return [tuple(w / r * what.rolling_radius_m for w in (curve.engagement_rad_per_s, curve.limiter_rad_per_s)) for r in what.overall_ratios]  # type: ignore[misc]


def held_back(what: RideInput, speed_m_per_s: Array, ground: tuple[float, ...], sine: float = 0.0) -> Array:
    """Resistance [N] over road speeds on a row of the ground's table, on a slope; never below zero."""
    return np.maximum(resistance(what, ground, sine, speed_m_per_s), 0.0)


def top(work: Upstream) -> TopSpeed:
    """Top speed on level hardpack in the mean air of the course, no wind."""
    share = float(work.lap.power_share.mean())
    return work.cache.get("top_speed", (work.lap.what, share), lambda: top_speed(work.lap.what, ground="hardpack", power_share=share))


def limiter_log_sd(engine: Engine) -> float:
    """How far the rev limit may lie off [1], of its logarithm: as said, or assumed."""
    given = isinstance(engine, Electric) or engine.limiter_rpm is not None
    return LIMITER_GIVEN_LOG_SD if given else LIMITER_ASSUMED_LOG_SD


def top_log_sd(work: Upstream, best: TopSpeed) -> float:
    """How far the top speed may lie off [1], of its logarithm, to first order: wheel and limiter, or power, drag and rolling."""
    if best.limit == "revs":
        return hypot(work.road.seen.radius.log_sd, limiter_log_sd(work.inputs.bike.engine))
    by_power, by_drag, by_rolling = TOP_SPEED_ELASTICITY
    return sqrt((by_power * work.road.seen.power.log_sd) ** 2 + (by_drag * DRAG_LOG_SD) ** 2 + (by_rolling * ROLLING_LOG_SD) ** 2)


def radius_spread(work: Upstream) -> float:
    """Relative half-width of the rolling radius [1]."""
    return Z90 * work.road.seen.radius.log_sd


def drops(work: Upstream) -> list[float]:
    """Revs lost [rpm] at each upshift from the speed of peak power, first to second and on."""
    ratios, peak = work.lap.what.overall_ratios, work.inputs.bike.engine.peak_power_rpm
    return [peak - rpm_after_upshift(peak, a, b) for a, b in itertools.pairwise(ratios)]


def first_second_drop(work: Upstream) -> float | None:
    """Revs lost [rpm] from first to second at the speed of peak power; None with one gear."""
    return next(iter(drops(work)), None)


def figures(work: Upstream, sensitivities: dict[str, tuple[float, float]]) -> list[Figure]:
    ride, what = work.lap.whole, work.lap.what
    best, crawl, spread = top(work), crawl_speed(what), radius_spread(work)
    short, paces = ride.metres(STUCK_POWER), exp(Z90 * work.lap.pace_log_sd)
    drop = first_second_drop(work)
    electric = isinstance(work.inputs.bike.engine, Electric)
    one_gear = len(what.overall_ratios) == 1
    ride_inputs = (*GEARING, "riders.entry.pace", "riders.entry.mass_in_gear_kg", "bike.engine.peak_power_w", "bike.frame.drag_area_m2",
                   *(("setup.power_mode",) if electric else ()))  # fmt: skip
    wheel = (*work.road.seen.radius.used, *work.road.seen.power.used)
    rated = tyre_speed(work.inputs.bike.tyre)
    slowest = "speed at which the clutch grips x radius / first ratio" if slips_by_itself(work.inputs.bike.engine) else "idle speed x radius / first ratio"

    def ends(name: str, value: float) -> dict[str, float | None]:
        """Low and high of what the job of the ranges found; none before it has."""
        found = sensitivities.get(name)
        return {"low": None, "high": None} if found is None else {"low": max(value - found[0], 0.0), "high": value + found[1]}

    top_ends = ends("drive.top_speed", best.speed_m_per_s)
    if top_ends["high"] is None:  # until the job has ridden it: to first order
        half_top = best.speed_m_per_s * Z90 * top_log_sd(work, best)
        top_ends = {"low": best.speed_m_per_s - half_top, "high": best.speed_m_per_s + half_top}
    margins = {} if rated is None or top_ends["high"] is None else {"low": rated - top_ends["high"], "high": rated - (top_ends["low"] or 0.0)}
    return [
        figure(work, "drive.top_speed", best.speed_m_per_s, **top_ends, inputs=ride_inputs, readings=wheel,
               basis="calibrated" if wheel else "computed",
               formula="last root of force = resistance over the gears" if best.limit == "power" else "limiter speed x radius / ratio / (1 + slip)",
               steps=(step("gear", best.gear, "1"), step("rpm", best.rpm, "rpm"), step("power share", work.lap.power_share.mean(), "1", "mean of the lap")),
               source="force balance; c0, c1, slip of hardpack: from memory"),
        figure(work, "drive.tyre_speed_margin", None if rated is None else rated - best.speed_m_per_s, **margins,
               formula="lower of the tyre's speed symbol and what fills it - top speed", inputs=("bike.tyre.inside_speed_m_per_s",),
               source="UNECE R75 speed symbols (from memory); mousse: common practice, no source; the makers' figures rule"),
        figure(work, "drive.crawl_speed", None if electric else crawl, status="not_applicable" if electric else "ok",
               reason="pulls_from_standstill" if electric else "", half=crawl * (spread + 0.05), inputs=() if electric else (*GEARING, "bike.engine.idle_rpm"),
               formula=slowest, source="kinematics"),
        figure(work, "drive.metres_short", short, **ends("drive.metres_short", short), inputs=ride_inputs,
               formula="metres where best force at walking pace < rolling + grade + air", source=RIDE_SOURCE),
        figure(work, "drive.metres_grip_unknown", ride.metres(STUCK_GRIP), formula="metres where engine force suffices but default grip does not",
               source=RIDE_SOURCE, basis="assumed"),
        figure(work, "drive.lap_time", ride.lap_time_s, low=ride.lap_time_s / paces, high=ride.lap_time_s * paces, inputs=ride_inputs,
               formula="sum of step times", source=RIDE_SOURCE + "; spread of pace: assumption; speeds are the model's, never a speed to ride"),
        figure(work, "drive.first_second_drop", drop, status="ok" if drop is not None else "not_applicable",
               reason="" if drop is not None else "one_gear", inputs=("bike.engine.peak_power_w",), formula="peak (1 - second / first)", source="kinematics"),
        *_shares(work),
        *_habits(work, one_gear, ends),
        *_lifts(work),
        *hills.figures(work, sensitivities),
        *_chain(work),
        figure(work, "drive.energy_residual", ride.energy_residual, low=0.0, high=1e-9, formula="|work in - losses - stored| / engine work",
               source="energy balance of the lap: a check of the simulation"),
    ]  # fmt: skip


LIMIT_GROUPS = {
    "power": ("power", "revs", "stuck_power"), "shift": ("shift",), "grip": ("grip", "wheelie", "stuck_grip"), "pace": ("pace", "corner", "brake"),
}  # fmt: skip


def _shares(work: Upstream) -> list[Figure]:
    """What holds the bike up, as shares of a lap's time."""
    ride = work.lap.whole
    total = ride.lap_time_s
    made = []
    for name, limits in LIMIT_GROUPS.items():
        codes = [LIMITS.index(n) for n in limits]
        share = float(ride.time_s[np.isin(ride.limit, codes)].sum()) / total
        made.append(figure(work, f"drive.share.{name}", share, formula="time of the steps so limited / lap time", source=RIDE_SOURCE))
    return made


def _habits(work: Upstream, one_gear: bool, ends: Callable[[str, float], dict[str, float | None]]) -> list[Figure]:
    """How the lap is ridden: full throttle, shifts, clutch, limiter, shaking."""
    ride, engine = work.lap.whole, work.inputs.bike.engine
    electric = isinstance(engine, Electric)
    shifts = int((np.diff(ride.gear) != 0).sum())
    shake = None if isinstance(engine, Electric) else engine.shake_rpm
    over = None if shake is None else float(ride.time_s[ride.crank_rad_per_s * 60.0 / (2.0 * np.pi) > shake].sum())
    longest = work.lap.longest_full_throttle_s
    return [
        figure(work, "drive.longest_full_throttle", longest, **ends("drive.longest_full_throttle", longest), formula=FULL_THROTTLE_FORMULA,
               source=RIDE_SOURCE),
        figure(work, "drive.shifts", None if one_gear else shifts, status="not_applicable" if one_gear else "ok",
               reason="one_gear" if one_gear else "", formula="gear changes of the lap", source=RIDE_SOURCE),
        figure(work, "drive.shifts_per_km", None if one_gear else shifts / work.around.whole.length_m, status="not_applicable" if one_gear else "ok",
               reason="one_gear" if one_gear else "", formula="gear changes / length of the lap", source=RIDE_SOURCE),
        figure(work, "drive.clutch_energy", None if electric else ride.accounts_j["clutch"], status="not_applicable" if electric else "ok",
               reason="no_clutch" if electric else "", formula="engine work - work at the gearbox while the clutch slips", source=RIDE_SOURCE),
        figure(work, "drive.time_at_limiter", float(ride.time_s[ride.limit == LIMITS.index("revs")].sum()), formula="time of the steps limited by revs",
               source=RIDE_SOURCE),
        figure(work, "drive.time_over_shake", over, status="not_applicable" if electric else "ok" if over is not None else "unknown",
               reason="electric" if electric else "", inputs=() if electric else ("bike.engine.shake_rpm",), formula="time above the revs from which it shakes",
               source=RIDE_SOURCE + "; hand-arm vibration is judged by its dose over the day (ISO 5349-1, in principle)"),
    ]  # fmt: skip


def _lifts(work: Upstream) -> list[Figure]:
    """How far the throttle is open, as shares of a lap's time."""
    lift, time = work.lap.lift, work.lap.whole.time_s
    absent: dict[str, Any] = {"status": "not_applicable", "reason": "electric"} if lift is None else {}
    source = RIDE_SOURCE + "; throttle as an orifice (Heywood 2018, App. C); loss at full throttle: assumption"

    def share(mask: np.ndarray) -> float:
        return float(time[mask].sum() / time.sum())

    return [
        figure(work, "drive.lift_share.low", None if lift is None else share(lift < 0.125), formula="time with it open under one eighth / lap time",
               source=source, **absent),
        figure(work, "drive.lift_share.high", None if lift is None else share(lift >= 0.75), formula="time with it open over three quarters / lap time",
               source=source, **absent),
    ]  # fmt: skip


def chain_poses(work: Upstream) -> list[ChainPose]:
    """The drive topped out, at race sag, where it is tightest and at full travel; empty when no chain fits."""
    setup, frame = work.inputs.setup, work.inputs.bike.frame
    fit = work.loads.chain_fit(setup)
    if fit is None:
        return []
    arm = swingarm_of(frame)
    arm = replace(arm, length_m=arm.length_m + fit.axle_move_m)
    sag = work.stand.sag("rear", race=True, fuel_m3=0.5 * setup.fill_m3)[0]
    heights = {
        "topped_out": arm.axle_low_m,
        "race_sag": min(arm.axle_low_m + sag, arm.axle_high_m),
        "tightest": tightest_height(arm),
        "full_travel": arm.axle_high_m,
    }
    return poses(arm, setup.front_sprocket_teeth, setup.rear_sprocket_teeth, heights, play_m=frame.chain_play_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class Habit:
    """How a lap's time (or energy) divides. name: of the division; parts: (code, share [1]), in order, summing to 1."""

    name: str
    parts: tuple[tuple[str, float], ...]


RPM_BAND = 1500.0


def habits(work: Upstream) -> list[Habit]:
    """The lap's time by what limits, gear, revs and throttle, and the engine's work by where it went."""
    ride, total = work.lap.whole, work.lap.whole.lap_time_s
    time = ride.time_s

    def by(index: np.ndarray, names: Sequence[str]) -> tuple[tuple[str, float], ...]:
        sums = np.bincount(index, weights=time, minlength=len(names)) / total
        return tuple((n, float(s)) for n, s in zip(names, sums, strict=True) if s > 0)

    groups = list(LIMIT_GROUPS)
    table = np.array([next(k for k, g in enumerate(groups) if n in LIMIT_GROUPS[g]) for n in LIMITS])
    found = [Habit(name="limit", parts=by(table[ride.limit], groups))]
    if len(work.lap.what.overall_ratios) > 1:
        found.append(Habit(name="gear", parts=by(ride.gear - 1, [str(g + 1) for g in range(len(work.lap.what.overall_ratios))])))
    band = np.minimum(ride.crank_rad_per_s * 60.0 / (2.0 * np.pi) / RPM_BAND, 19).astype(int)
    found.append(Habit(name="rpm", parts=by(band, [f"{RPM_BAND * k:.0f}" for k in range(20)])))
    lift = work.lap.lift
    if lift is not None:
        found.append(
            Habit(name="lift", parts=by(np.clip(np.searchsorted(BANDS[1:], lift, side="right"), 0, 4), ("eighth", "quarter", "half", "three_quarters", "full")))
        )
    accounts = ride.accounts_j
    losses = {n: max(accounts[n], 0.0) for n in ("rolling", "air", "corner", "brake", "engine_brake", "slip", "clutch", "transmission")}
    whole = sum(losses.values())
    found.append(Habit(name="energy", parts=tuple((n, v / whole) for n, v in losses.items())))
    return found


def _chain(work: Upstream) -> list[Figure]:
    """Links, where the axle lies, what is left of the adjuster, the case, the slack."""
    frame, front = work.inputs.bike.frame, work.inputs.setup.front_sprocket_teeth
    fit = work.loads.chain_fit(work.inputs.setup)
    where = ("bike.frame.swingarm_length_m", "bike.frame.adjuster_half_range_m", "bike.frame.chain_links", *GEARING[:2])
    source = "tangents of two circles, exact; ISO 606 (520 chain, from memory)"
    gap = None if frame.case_gap_m is None else frame.case_gap_m - 0.5 * tip_diameters(front)[1] - CHAIN_OUTSIDE_M
    move = None if fit is None else fit.axle_move_m
    return [
        figure(work, "drive.chain.links", None if fit is None else fit.links, formula="even number nearest to the middle of the adjusters",
               inputs=where, source=source),
        figure(work, "drive.chain.axle_move", move, half=0.001, formula="axle at which the chain is links x pitch long and has its play",
               inputs=where, source=source),
        figure(work, "drive.chain.adjuster_left", None if move is None else frame.adjuster_half_range_m - move, half=0.001, formula="half range - axle move",
               inputs=where, source=source),
        figure(work, "drive.chain.case_clearance", gap, half=0.001, formula="gap - largest tip radius - height of the chain outside the tip",
               inputs=("bike.frame.case_gap_m", "setup.front_sprocket_teeth"), source="ISO 606 tip diameter (from memory)"),
        figure(work, "drive.chain.slack_on_stand", None if fit is None else fit.slack_on_stand_m, half=0.003,
               formula="length kept over the travel, wheel hanging",
               inputs=("bike.frame.chain_play_m", "bike.frame.axle_below_pivot_m", *where[:1]), source=source + "; never tighter than the manual's figure"),
        figure(work, "drive.wheelbase_change", move, half=0.001, formula="as the axle moves", inputs=where, source=source),
    ]  # fmt: skip


def problem_places(work: Upstream, code: int) -> list[tuple[float, float]]:
    """Stretches [m] of the lap with one limit code, as (from, to)."""
    mask = np.concatenate([[False], work.lap.whole.limit == code, [False]]).astype(np.int8)
    edges = np.flatnonzero(np.diff(mask))
    d = work.around.whole.distance_m
    merged: list[tuple[float, float]] = []
    for a, b in zip(edges[::2], edges[1::2], strict=True):
        if merged and d[a] - merged[-1][1] < 50.0:
            merged[-1] = (merged[-1][0], float(d[b]))
        else:
            merged.append((float(d[a]), float(d[b])))
    return merged


def scale_needed(work: Upstream) -> float:
    """Factor on the final drive with which first gear just holds walking pace on every stuck step [1]."""
    stuck = np.flatnonzero(work.lap.whole.limit == STUCK_POWER)
    worst = {(int(work.around.whole.surface[i]), round(float(work.around.whole.sine[i]), 4), round(float(work.lap.power_share[i]), 4)) for i in stuck}
    return max((first_gear_scale_needed(work.lap.what, surface=work.around.whole.rows[g], sine=s, power_share=p) for g, s, p in worst), default=1.0)


def pulling_sprockets(work: Upstream) -> tuple[tuple[Move, ...], ...]:
    """Smallest change of one sprocket that pulls everywhere: in the box first, then to buy; rear before front."""
    setup, parts = work.inputs.setup, work.inputs.parts
    need = scale_needed(work) * setup.rear_sprocket_teeth / setup.front_sprocket_teeth
    options = []
    for tunable, ratio in (
        ("rear_sprocket_teeth", lambda z: z / setup.front_sprocket_teeth),
        ("front_sprocket_teeth", lambda z: setup.rear_sprocket_teeth / z),
    ):
        facts = field_facts(Setup, tunable)
        teeth = range(int(facts.low or 0), int(facts.high or 0) + 1)
        enough = [z for z in teeth if ratio(z) >= need - 1e-9]
        for owned in (True, False):
            fits = [z for z in enough if bool(is_owned(parts, tunable, z)) is owned]
            if fits:
                z = min(fits, key=ratio)
                options.append((not owned, ratio(z), Move(tunable=tunable, value=float(z), owned=owned)))
    options.sort(key=lambda o: o[:2])
    return tuple((o[2],) for o in options[:2])


def _chain_findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    """Whether the chain fits, can stretch, and clears the case."""
    fit, gap = work.loads.chain_fit(work.inputs.setup), known["drive.chain.case_clearance"].value
    found = []
    if fit is None:
        code = "chain_no_length" if work.inputs.bike.frame.chain_links is None else "chain_other_length"
        found.append(Finding(station="drive", code=code, severity="act", figures=("drive.chain.links",)))
    elif (known["drive.chain.adjuster_left"].value or 0.0) < ADJUSTER_LOOK_M:
        found.append(Finding(station="drive", code="chain_no_stretch", severity="look", figures=("drive.chain.adjuster_left", "drive.chain.links")))
    else:
        found.append(Finding(station="drive", code="chain_fits", severity="ok", figures=("drive.chain.slack_on_stand", "drive.chain.axle_move")))
    if gap is not None and gap < CASE_ACT_M:
        found.append(Finding(station="drive", code="sprocket_hits_case", severity="act", figures=("drive.chain.case_clearance",)))
    return found


def findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    found = []
    best = top(work)
    short = problem_places(work, STUCK_POWER)
    if short:
        worst = max(short, key=lambda p: p[1] - p[0])
        i = int(np.searchsorted(work.around.whole.distance_m, worst[0], side="right")) - 1
        metres = known["drive.metres_short"].value or 0.0
        found.append(Finding(station="drive", code="short_on_climb", severity="act" if metres > SHORT_ACT_M else "look",
                             parameters={"ground": GROUNDS[int(work.around.whole.ground[i])], "places": len(short)}, at_m=worst[0],
                             figures=("drive.metres_short",), proposals=pulling_sprockets(work)))  # fmt: skip
    else:
        found.append(Finding(station="drive", code="pulls_everywhere", severity="ok", figures=("drive.metres_short",)))
    grip = problem_places(work, STUCK_GRIP)
    worst = max(grip, key=lambda p: p[1] - p[0], default=(0.0, 0.0))
    told = any(h.at_m - 100.0 < worst[0] < h.at_m + h.hill.length_m for h in hills.hills(work))  # the hill's own finding says more
    if (known["drive.metres_grip_unknown"].value or 0.0) >= GRIP_LOOK_M and not told:
        i = int(np.searchsorted(work.around.whole.distance_m, worst[0], side="right")) - 1
        found.append(Finding(station="drive", code="grip_unknown", severity="look", at_m=worst[0], figures=("drive.metres_grip_unknown",),
                             parameters={"ground": GROUNDS[int(work.around.whole.ground[i])], "places": len(grip)}))  # fmt: skip
    found += hills.findings(work)
    margin = known["drive.tyre_speed_margin"].value
    if margin is not None and margin < 0:
        found.append(Finding(station="drive", code="tyre_too_slow", severity="act", figures=("drive.tyre_speed_margin", "drive.top_speed")))
    over = known["drive.time_over_shake"].value
    if over is not None and over > SHAKE_LOOK_SHARE * work.lap.whole.lap_time_s:
        found.append(Finding(station="drive", code="shakes_long", severity="look", figures=("drive.time_over_shake",),
                             parameters={"share": over / work.lap.whole.lap_time_s}))  # fmt: skip
    drop = known["drive.first_second_drop"].value
    if drop is not None and drop / work.inputs.bike.engine.peak_power_rpm > WIDE_STEP_SHARE:
        found.append(Finding(station="drive", code="wide_first_second", severity="look", figures=("drive.first_second_drop",)))
    found += _chain_findings(work, known)
    tail = "_electric" if isinstance(work.inputs.bike.engine, Electric) else ""
    found.append(Finding(station="drive", code=f"top_speed_{best.limit}{tail}", severity="ok", figures=("drive.top_speed", "drive.crawl_speed"),
                         parameters={"gear": best.gear, "rpm": best.rpm}))  # fmt: skip
    return found
