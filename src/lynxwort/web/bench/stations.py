"""What each station shows: its drawings, its notches, the table behind."""

import itertools
from collections.abc import Callable
from typing import Any

import numpy as np
from django.utils.translation import gettext as _

from lynxwort.core.chassis.sag import SagTargets
from lynxwort.core.coupling import chassis, purpose
from lynxwort.core.coupling.reach import chance_of, level_along
from lynxwort.core.drive.engine import engine_curve
from lynxwort.core.drive.pull import resistance, wheel_force
from lynxwort.core.model.defaults import GROUND
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.report import Report
from lynxwort.core.units.convert import Units, convert, to_shown
from lynxwort.core.units.detents import DETENTS, current_value, tunables_of
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import charts
from lynxwort.words import N_
from lynxwort.words.catalogue import FIGURE_NAMES, REASONS, TERMS, TUNABLES
from lynxwort.words.formatting import unit_text, value_text

NOTCHES: dict[str, tuple[str, ...]] = {
    "purpose": (),
    "baseline": (),
    "chassis": ("shock_preload_m", "shock_spring_rate_n_per_m", "fork_preload_m", "fork_spring_rate_n_per_m"),
    "fuelling": ("main_jet", "needle_clip", "knob_clicks", "metering_rod", "fuel_trim", "map_slot"),
    "drive": ("front_sprocket_teeth", "rear_sprocket_teeth", "power_mode"),
    "range": ("fuel_fill_m3", "tank_capacity_m3", "charge_share", "pack_energy_j"),
}
#: outcomes of a notch: figure and what it is called there
OUTCOMES: dict[str, tuple[tuple[str, str], ...]] = {
    "shock": (("chassis.rear.race_sag", N_("race")), ("chassis.rear.free_sag", N_("free"))),
    "fork": (("chassis.front.race_sag", N_("race")), ("chassis.front.free_sag", N_("free"))),
    "mixture": (("fuelling.lean_margin_min", N_("margin")), ("fuelling.richness_full_thinnest", N_("high up"))),
    "sprocket": (("drive.top_speed", N_("top")), ("drive.crawl_speed", N_("crawl")), ("drive.metres_short", N_("short"))),
    "fuel": (("range.p_finish", N_("finish")), ("range.left_at_finish", N_("left")), ("chassis.rear.race_sag_full", N_("full sag"))),
    "charge": (("range.p_finish", N_("finish")), ("range.energy_left", N_("left")), ("chassis.rear.race_sag", N_("sag"))),
    "mode": (("drive.lap_time", N_("lap")), ("range.energy_per_lap", N_("charge")), ("range.p_finish", N_("finish"))),
}
OUTCOMES_OF = {
    "shock_preload_m": "shock", "shock_spring_rate_n_per_m": "shock", "fork_preload_m": "fork", "fork_spring_rate_n_per_m": "fork",
    "main_jet": "mixture", "needle_clip": "mixture", "front_sprocket_teeth": "sprocket", "rear_sprocket_teeth": "sprocket",
    "fuel_fill_m3": "fuel", "tank_capacity_m3": "fuel", "knob_clicks": "mixture", "metering_rod": "mixture", "fuel_trim": "mixture",
    "map_slot": "mixture", "power_mode": "mode", "charge_share": "charge", "pack_energy_j": "charge",
}  # fmt: skip
#: figures in the table behind each station's drawing
TABLE: dict[str, tuple[str, ...]] = {
    "purpose": ("purpose.distance", "purpose.lap_distance", "purpose.laps", "purpose.schedule_margin_min", "purpose.climb", "purpose.raw_climb", "purpose.lowest", "purpose.highest",
                "purpose.density_ratio_max", "purpose.density_ratio_min", "purpose.power_share_min"),
    "baseline": ("baseline.readings_used", "chassis.rear.race_sag", "chassis.rear.free_sag", "range.k"),
    "chassis": ("chassis.rear.race_sag", "chassis.rear.free_sag", "chassis.front.race_sag", "chassis.front.free_sag",
                "chassis.rear.spring_rate_wanted", "chassis.rear.preload_wanted", "chassis.front.spring_rate_wanted",
                "chassis.rear.race_sag_full", "chassis.rear.race_sag_empty", "chassis.front.race_sag_full", "chassis.front.race_sag_empty",
                "chassis.axle_load.front", "chassis.axle_load.rear", "chassis.axle_load.front_half", "chassis.axle_load.rear_half",
                "chassis.axle_load.front_empty", "chassis.axle_load.rear_empty"),
    "fuelling": ("fuelling.richness_full_densest", "fuelling.richness_full_thinnest", "fuelling.lean_margin_min", "fuelling.lean_limit",
                 "fuelling.main.wanted", "fuelling.knob.wanted", "fuelling.trim.wanted", "fuelling.longest_full_throttle"),
    "drive": ("drive.top_speed", "drive.crawl_speed", "drive.metres_short", "drive.metres_grip_unknown", "drive.lap_time", "drive.shifts",
              "drive.shifts_per_km", "drive.first_second_drop",
              "drive.share.power", "drive.share.grip", "drive.share.pace", "drive.longest_full_throttle", "drive.time_at_limiter", "drive.time_over_shake",
              "drive.clutch_energy", "drive.chain.links", "drive.chain.axle_move", "drive.chain.adjuster_left", "drive.chain.slack_on_stand",
              "drive.chain.case_clearance", "drive.wheelbase_change", "drive.energy_residual"),
    "range": ("range.fuel_per_lap", "range.fuel_race", "range.fuel_wanted", "range.p_finish", "range.left_at_finish", "range.energy_per_lap",
              "range.energy_race", "range.energy_wanted", "range.energy_left", "range.energy_per_km", "range.k", "range.k_sd"),
}  # fmt: skip


def _shown(values: Any, kind: str, preset: Units | str) -> np.ndarray:
    zero, one = to_shown(0.0, kind, preset).value, to_shown(1.0, kind, preset).value
    return zero + (one - zero) * np.asarray(values, dtype=float)


def draw_purpose(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """The course from above, and its ground by share."""
    work = bench.report.work
    stage = 0 if at_m is None else work.stage_at(at_m)
    line, ground = work.lines[stage], work.courses[stage].ground
    step = max(line.distance_m.size // 1500, 1)
    edges = np.flatnonzero(np.diff(ground)) + 1
    starts = np.concatenate([[0], edges, [ground.size]])
    runs = [(int(a // step), int(b // step), GROUNDS[int(ground[a])]) for a, b in itertools.pairwise(starts)]
    at = None
    if at_m is not None:
        on_stage = at_m - float(work.stage_starts_m[stage])
        at = (float(np.interp(on_stage, line.distance_m, line.east_m)), float(np.interp(on_stage, line.distance_m, line.north_m)))
    title = _("From above") if len(work.courses) == 1 else _("From above: %(stage)s") % {"stage": ribbons.stage_name(work, stage)}
    shares = [(code, _(TERMS[code]), value) for code, value in purpose.ground_shares(work).items()]
    return {
        "drawings": [(title, charts.plan(line.east_m[::step], line.north_m[::step], runs, at, _("The course from above")))],
        "shares": shares,
        "stages": purpose.stage_times(work) if len(work.courses) > 1 else [],
    }


def draw_chassis(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Travel rulers and the springs that meet both sags."""
    work, kept = bench.report.work, bench.kept
    rows = []
    for end, name in (("rear", _("Rear")), ("front", _("Front"))):
        t: SagTargets = work.targets(end)
        frame = work.inputs.bike.frame
        row: dict[str, Any] = {"name": name, "travel": float(_shown(frame.rear_travel_m if end == "rear" else frame.fork_travel_m, "travel", preset))}
        for state, low, high, words in (("free", t.free_low_m, t.free_high_m, _("free")), ("race", t.race_low_m, t.race_high_m, _("race"))):
            name_of = f"chassis.{end}.{state}_sag"
            f, g = bench.report.figures[name_of], kept.figures[name_of]
            ghost = None if g.value == f.value else float(_shown(g.value, "travel", preset))
            row[state] = (*(float(_shown(v, "travel", preset)) for v in (f.value, f.low, f.high, low, high)), ghost)
            row[f"{state}_name"], row[f"{state}_words"] = words, value_text(f.value or 0.0, "travel", preset)
        rows.append(row)
    options = [
        (*(float(_shown(v, k, preset)) for v, k in ((c.rate_n_per_m, "spring_rate"), (c.preload_low_m, "preload"), (c.preload_high_m, "preload"))), c.owned)
        for c in chassis.spring_choices(work, "rear")
    ]

    def point(inputs: Any) -> tuple[float, float]:
        return float(_shown(inputs.setup.shock_spring_rate_n_per_m, "spring_rate", preset)), float(_shown(inputs.setup.shock_preload_m, "preload", preset))

    now, was = point(bench.inputs), point(bench.kept_inputs)
    return {
        "drawings": [
            (_("Travel, topped out at the left"), charts.rulers(rows, unit=unit_text("travel", preset), label=_("Sag in the travel, front and rear"))),
            (_("Shock springs that meet both sags"), charts.solutions(
                options, now, was if was != now else None, x_axis=_("shock spring, %(u)s") % {"u": unit_text("spring_rate", preset)},
                y_axis=_("preload, %(u)s") % {"u": unit_text("preload", preset)}, label=_("Shock springs and preloads that meet both sags"))),
        ],
        "solution_key": True,
    }  # fmt: skip


def draw_fuelling(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Richness along the throttle at the densest and the thinnest air."""
    work = bench.report.work
    if work.inputs.bike.metering == "electric":
        return {"drawings": [], "empty": _("The motor burns no fuel, so there is nothing to jet, map or trim here."), "elsewhere": ("drive", "range")}
    dense, thin = work.densest_curve, work.thinnest_curve
    if dense is None or thin is None:
        return {"drawings": [], "empty": _("No mixture is known to run right on this bike yet, so nothing can be compared. Enter one under Baseline."),
                "elsewhere": ("baseline",)}  # fmt: skip
    curves = [(100 * c.value, 100 * c.low, 100 * c.high, css, words)
              for c, css, words in ((dense, "densest", _("cold low point")), (thin, "thinnest", _("hot high point")))]  # fmt: skip
    kept = bench.kept.work.densest_curve
    if kept is not None and bench.changed and not np.allclose(kept.value, dense.value):
        curves.append((100 * kept.value, 100 * kept.value, 100 * kept.value, "ghost", _("as kept, cold")))
    limit = 100 * (bench.report.value("fuelling.lean_limit") or 0.0)
    drawing = charts.richness(
        list(dense.throttle), curves, limit, axis=_("too lean"), unit=_("% richer than the proven pair, over throttle"), label=_("Richness along the throttle")
    )
    return {"drawings": [(_("Richness along the throttle"), drawing)]}


def draw_drive(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Pull per gear against resistance, and the gear ladder."""
    work, kept = bench.report.work, bench.kept.work
    what, share = work.what, float(work.power_share.mean())
    curve = engine_curve(what.engine, what.mode_share)
    top = 1.1 * curve.limiter_rad_per_s / what.overall_ratios[-1] * what.rolling_radius_m
    speed = np.linspace(0.3, top, 240)
    per_n, per_v = convert(1.0, "N", to_shown(1, "force", preset).unit), convert(1.0, "m/s", to_shown(1, "speed", preset).unit)
    forces = [per_n * wheel_force(curve, what, r, speed, slip=GROUND["hardpack"][4], power_share=share) for r in what.overall_ratios]
    changed = (kept.what.overall_ratios, kept.what.mode_share) != (what.overall_ratios, what.mode_share)
    ghosts = (
        [
            per_n * wheel_force(engine_curve(what.engine, kept.what.mode_share), kept.what, r, speed, slip=GROUND["hardpack"][4], power_share=share)
            for r in kept.what.overall_ratios
        ]
        if changed
        else []
    )
    place, lines = None, [(per_n * resistance(what, "hardpack", 0.0, speed), "res-a", _("hardpack")),
                          (per_n * resistance(what, "sand", 0.0, speed), "res-b", _("sand"))]  # fmt: skip
    if at_m is not None:
        i = work.step_at(at_m)
        ground, sine = GROUNDS[int(work.course.ground[i])], float(work.course.sine[i])
        here = per_n * resistance(what, ground, sine, speed)
        lines.append((np.maximum(here, 0.0), "res-here", _("at %(place)s") % {"place": value_text(at_m, "distance", preset)}))
        v = float(work.ride.speed_m_per_s[i])
        place = (per_v * v, max(float(np.interp(v, speed, here)), 0.0))
    unit_v = unit_text("speed", preset)
    pull = charts.pull(per_v * speed, forces, ghosts, lines, place, axis=unit_v, force_axis=_("%(u)s at the wheel, full throttle") % {"u": unit_text("force", preset)},
                       label=_("Pull in each gear against resistance"))  # fmt: skip

    def bars(ratios: tuple[float, ...]) -> list[tuple[float, float]]:
        return [(per_v * curve.engagement_rad_per_s / r * what.rolling_radius_m, per_v * curve.limiter_rad_per_s / r * what.rolling_radius_m) for r in ratios]

    ladder = charts.ladder(bars(what.overall_ratios), bars(kept.what.overall_ratios) if changed else [], axis=unit_v, label=_("Speeds of each gear"))
    return {
        "drawings": [(_("Pull and resistance, level ground unless said"), pull), (_("Gear ladder, from where it pulls to the limiter"), ladder)],
        "ghosted": changed,
    }


def draw_range(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Level over the race with its spread, and certainty against fuel or charge."""
    work = bench.report.work
    store = work.store
    fuel = store.kind == "fuel"
    kind, unit = ("volume", "m^3") if fuel else ("energy", "J")
    distance, level = level_along(work)
    per_d, per_v = convert(1.0, "m", to_shown(1, "distance", preset).unit), convert(1.0, unit, to_shown(1, kind, preset).unit)
    pieces = [(c.length_m, p.laps) for c, p in zip(work.courses, work.pieces(work.laps), strict=True)]
    laps = [float(per_d * d) for d in np.cumsum([length for length, count in pieces for _k in range(count)])]
    shown_unit = unit_text(kind, preset)
    over_race = charts.level(
        per_d * distance, per_v * level, per_v * store.capacity, per_v * store.unusable, laps, x_axis=unit_text("distance", preset),
        y_axis=_("%(u)s aboard") % {"u": shown_unit}, words=(_("likely"), _("good day"), _("unusable")),
        lap_words=_("lap %s") if len(pieces) == 1 else "%s", label=_("Fuel aboard over the race") if fuel else _("Charge aboard over the race"),
    )  # fmt: skip
    amounts = np.linspace(0.6 * work.largest_leg, 2.1 * work.largest_leg, 60) + store.unusable
    kept = bench.kept.work
    ghost = 100 * chance_of(kept, amounts) if bench.changed else None
    sure = charts.certainty(
        per_v * amounts, 100 * chance_of(work, amounts), ghost,
        (float(np.clip(per_v * store.aboard, per_v * amounts[0], per_v * amounts[-1])), 100 * (bench.report.value("range.p_finish") or 0.0)),
        100 * work.inputs.race.certainty, x_axis=_("%(u)s at the start") % {"u": shown_unit}, y_axis=_("% sure to finish"),
        label=_("Certainty against fuel") if fuel else _("Certainty against charge"),
    )  # fmt: skip
    titles = (
        (_("Fuel over the race"), _("How sure, against fuel at the start")) if fuel else (_("Charge over the race"), _("How sure, against charge at the start"))
    )
    return {"drawings": [(titles[0], over_race), (titles[1], sure)]}


def draw_baseline(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """What is on the bike, as kept."""
    setup = bench.kept_inputs.setup
    tunables = tunables_of(bench.kept_inputs.bike)
    fitted = [(t, _(TUNABLES[t]), value_text(current_value(setup, t), DETENTS[t].kind, preset), t in setup.model_fields_set) for t in tunables]
    return {"drawings": [], "fitted": fitted}


DRAW: dict[str, Callable[[Bench, str, float | None], dict[str, Any]]] = {
    "purpose": draw_purpose,
    "baseline": draw_baseline,
    "chassis": draw_chassis,
    "fuelling": draw_fuelling,
    "drive": draw_drive,
    "range": draw_range,
}


def table_rows(report: Report, station: str) -> list[tuple[str, str]]:
    """Names and ids of the figures behind a station's drawing; what does not apply to this bike or race is left out."""
    return [(_(FIGURE_NAMES[name]), name) for name in TABLE[station] if report.figures[name].status != "not_applicable"]


def left_out(report: Report, station: str) -> list[tuple[str, str]]:
    """Names of figures that do not apply, each with the reason."""
    figures = [(name, report.figures[name]) for name in TABLE[station]]
    return [(_(FIGURE_NAMES[name]), _(REASONS[f.reason])) for name, f in figures if f.status == "not_applicable"]


def notches_of(bench: Bench, station: str) -> list[str]:
    """The tunables of a station that this bike has."""
    have = tunables_of(bench.inputs.bike)
    return [t for t in NOTCHES[station] if t in have]
