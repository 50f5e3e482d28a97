"""What each station shows: its drawings, its notches, the table behind."""

import itertools
import json
from collections.abc import Callable
from typing import Any

import numpy as np
from django.urls import reverse
from django.utils.translation import gettext as _

from lynxwort.core.coupling import chassis, drive, hills, jetbox, leanness, purpose, room, stance
from lynxwort.core.coupling.reach import chance_of, level_along
from lynxwort.core.figures import FIGURES
from lynxwort.core.model.bike import FITTING_PLACES
from lynxwort.core.model.defaults import GROUND
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.chassis.sag import SagTargets
from lynxwort.core.physics.drive.chain import pitch_radius, swingarm_of
from lynxwort.core.physics.drive.hills import needs_run_up
from lynxwort.core.report import Report
from lynxwort.core.units.convert import Units, convert, to_shown
from lynxwort.core.units.detents import DETENTS, said_value, tunables_of
from lynxwort.web.bench import needles, valving
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import charts
from lynxwort.words import N_
from lynxwort.words.catalogue import FIGURE_NAMES, HABITS, POSES, REASONS, TERMS, TUNABLES
from lynxwort.words.formatting import plain_number, unit_text, value_text

NOTCHES: dict[str, tuple[str, ...]] = {
    "purpose": (),
    "baseline": (),
    "chassis": (
        "shock_preload_m",
        "shock_spring_rate_n_per_m",
        "shock_second_rate_n_per_m",
        "shock_second_from_m",
        "shock_second_at_m",
        "fork_preload_m",
        "fork_spring_rate_n_per_m",
        "fork_other_rate_n_per_m",
        "fork_second_rate_n_per_m",
        "fork_second_from_m",
        "fork_second_at_m",
        "fork_air_pressure_pa",
        "fork_balance_pressure_pa",
        "fork_oil_up_m",
        "payload_left",
        "fork_up_m",
        "rear_up_m",
        "offset_change_m",
        "seat_up_m",
        "bar_up_m",
        "bar_ahead_m",
        "peg_down_m",
        "front_wheel",
        "front_tyre_pressure_pa",
        "rear_wheel",
        "rear_tyre_pressure_pa",
    ),
    "damping": ("shock_compression_clicks", "shock_rebound_clicks", "shock_high_speed_turns", "fork_compression_clicks", "fork_rebound_clicks"),
    "fuelling": (
        "main_jet",
        "needle_clip",
        "pilot_jet",
        "screw_turns",
        "knob_clicks",
        "metering_rod",
        "fuel_trim",
        "map_slot",
        "needle",
        "needle_jet_bore_m",
        "slide_cutaway",
        "premix_ratio",
        "fuel",
        "fuel_octane",
        "airbox",
        "exhaust",
        "exhaust_insert",
        "reeds",
        "air_filter",
        "cylinder",
        "head_insert",
        "ignition_map",
        "power_valve_turns",
    ),
    "drive": ("front_sprocket_teeth", "rear_sprocket_teeth", "power_mode", "gearbox"),
    "range": ("fuel_fill_m3", "tank_capacity_m3", "charge_share", "pack_energy_j"),
}
#: headings above the first notch of a group, where a station has many
NOTCH_GROUPS: tuple[tuple[str, str], ...] = (
    ("shock_preload_m", N_("Springs, oil, load")), ("fork_up_m", N_("Steering and heights")), ("seat_up_m", N_("The rider's place")),
    ("front_wheel", N_("Wheels, and tyres by the gauge at home")), ("needle", N_("Needle, its jet, slide")), ("premix_ratio", N_("Fuel and oil")),
    ("airbox", N_("What it breathes through")), ("head_insert", N_("Head, spark, power valve")),
)  # fmt: skip
#: outcomes of a notch: figure and what it is called there
OUTCOMES: dict[str, tuple[tuple[str, str], ...]] = {
    "shock": (("chassis.rear.race_sag", N_("race")), ("chassis.rear.free_sag", N_("free"))),
    "steering": (("chassis.trail", N_("trail")), ("chassis.rake", N_("rake")), ("chassis.seat_height", N_("seat"))),
    "oil": (("chassis.front.bottoming_drop", N_("drop")), ("chassis.front.race_sag", N_("race"))),
    "load": (("chassis.rear.race_sag", N_("rear")), ("chassis.front.race_sag", N_("front")), ("chassis.cg_height", N_("weight up"))),
    "knee": (("chassis.seat_height", N_("seat")), ("chassis.seat_to_peg", N_("to pegs")), ("chassis.reach_margin", N_("leg"))),
    "arms": (("chassis.peg_to_bar", N_("to pegs")), ("chassis.seat_to_bar", N_("to seat"))),
    "wheel": (("chassis.trail", N_("trail")), ("chassis.ground_clearance", N_("clear"))),
    "driven_wheel": (("drive.top_speed", N_("top")), ("chassis.trail", N_("trail")), ("chassis.ground_clearance", N_("clear"))),
    "front_tyre": (("chassis.tyre_pressure_front_at_start", N_("there")),),
    "rear_tyre": (("chassis.tyre_pressure_at_start", N_("there")),),
    "fork": (("chassis.front.race_sag", N_("race")), ("chassis.front.free_sag", N_("free"))),
    **{
        f"{end}_valving": (
            (f"damping.{end}.zeta_compression", N_("in")),
            (f"damping.{end}.zeta_rebound", N_("out")),
            (f"damping.{end}.travel_used", N_("used")),
            (f"damping.{end}.packing", N_("deeper")),
        )
        for end in ("front", "rear")
    },
    "small": (("fuelling.lean_margin.closed", N_("0–⅛")), ("fuelling.lean_margin.eighth", N_("⅛–¼")), ("fuelling.lean_margin.quarter", N_("¼–½"))),
    "clip": (
        ("fuelling.lean_margin.quarter", N_("¼–½")),
        ("fuelling.lean_margin.half", N_("½–¾")),
        ("fuelling.richness_full_thinnest", N_("high up")),
    ),
    "fuel_kind": (("fuelling.lean_margin_min", N_("margin")), ("fuelling.detonation_margin", N_("octane in hand")), ("range.fuel_per_lap", N_("a lap"))),
    "octane": (("fuelling.detonation_margin", N_("octane in hand")),),
    "breath": (("fuelling.lean_margin_min", N_("margin")), ("fuelling.richness_full_thinnest", N_("high up")), ("drive.metres_short", N_("short"))),
    "head": (("fuelling.detonation_margin", N_("octane in hand")), ("drive.metres_short", N_("short")), ("drive.top_speed", N_("top"))),
    "valve": (("drive.metres_short", N_("short")), ("drive.lap_time", N_("lap")), ("drive.clutch_energy", N_("clutch"))),
    "oil_mix": (("fuelling.lean_margin_min", N_("margin")), ("fuelling.oil_per_fill", N_("a fill"))),
    "mixture": (("fuelling.lean_margin_min", N_("margin")), ("fuelling.richness_full_thinnest", N_("high up"))),
    "sprocket": (("drive.top_speed", N_("top")), ("drive.crawl_speed", N_("crawl")), ("drive.metres_short", N_("short"))),
    "fuel": (("range.p_finish", N_("finish")), ("range.left_at_finish", N_("left")), ("chassis.rear.race_sag_full", N_("full sag"))),
    "charge": (("range.p_finish", N_("finish")), ("range.energy_left", N_("left")), ("chassis.rear.race_sag", N_("sag"))),
    "mode": (("drive.lap_time", N_("lap")), ("range.energy_per_lap", N_("charge")), ("range.p_finish", N_("finish"))),
}
OUTCOMES_OF = {
    "shock_preload_m": "shock", "shock_spring_rate_n_per_m": "shock", "fork_preload_m": "fork", "fork_spring_rate_n_per_m": "fork",
    **{f"shock_second_{x}": "shock" for x in ("rate_n_per_m", "from_m", "at_m")}, **{f"fork_second_{x}": "fork" for x in ("rate_n_per_m", "from_m", "at_m")},
    **dict.fromkeys(("fork_compression_clicks", "fork_rebound_clicks"), "front_valving"),
    **dict.fromkeys(("shock_compression_clicks", "shock_rebound_clicks", "shock_high_speed_turns"), "rear_valving"),
    "fork_other_rate_n_per_m": "fork", "fork_air_pressure_pa": "fork", "fork_balance_pressure_pa": "fork", "fork_oil_up_m": "oil", "payload_left": "load",
    "seat_up_m": "knee", "peg_down_m": "knee", "bar_up_m": "arms", "bar_ahead_m": "arms", "front_wheel": "wheel", "rear_wheel": "driven_wheel",
    **dict.fromkeys(("pilot_jet", "screw_turns", "slide_cutaway"), "small"), "needle": "clip", "needle_jet_bore_m": "clip", "premix_ratio": "oil_mix",
    "fuel": "fuel_kind", "fuel_octane": "octane", "head_insert": "head", "ignition_map": "head", "power_valve_turns": "valve", **dict.fromkeys(FITTING_PLACES, "breath"),
    "main_jet": "mixture", "needle_clip": "clip", "front_sprocket_teeth": "sprocket", "rear_sprocket_teeth": "sprocket",
    "fuel_fill_m3": "fuel", "tank_capacity_m3": "fuel", "knob_clicks": "mixture", "metering_rod": "mixture", "fuel_trim": "mixture",
    "map_slot": "mixture", "front_tyre_pressure_pa": "front_tyre", "rear_tyre_pressure_pa": "rear_tyre", "fork_up_m": "steering", "rear_up_m": "steering", "offset_change_m": "steering", "power_mode": "mode", "gearbox": "sprocket", "charge_share": "charge", "pack_energy_j": "charge",
}  # fmt: skip
#: figures in the table behind each station's drawing
TABLE: dict[str, tuple[str, ...]] = {
    "purpose": ("purpose.distance", "purpose.lap_distance", "purpose.laps", "purpose.schedule_margin_min", "purpose.climb", "purpose.raw_climb", "purpose.lowest", "purpose.highest",
                "purpose.density_ratio_max", "purpose.density_ratio_min", "purpose.power_share_min"),
    "baseline": ("baseline.readings_used", "chassis.rear.race_sag", "chassis.rear.free_sag", "range.k"),
    "chassis": (*(f"chassis.{n}" for n in (
        "rear.preload_turns", "front.preload_turns", "rear.rate_true", "front.rate_true", "rear.friction_band", "front.friction_band", "front.preload_wanted",
        "front.air_pressure_wanted", "front.balance_pressure_wanted", "front.race_sag_unbled", "cg_height", "balance", "climb_front_share",
        "braking_front_share", "front.clamp_clearance", "front.radiator_clearance", "front.bar_clearance", "rear.guard_clearance", "rear.seat_clearance",
        "rear.exhaust_clearance", "seat_to_peg", "seat_to_bar", "peg_to_bar", "side_stand_cut")),
                "chassis.rake", "chassis.trail", "chassis.wheelbase", "chassis.seat_height", "chassis.ground_clearance", "chassis.reach_margin",
                "chassis.front.tyre_guard_clearance", "chassis.anti_squat", "chassis.rear.frequency", "chassis.front.frequency",
                "chassis.rear.bottoming_drop", "chassis.front.bottoming_drop", "chassis.tyre_pressure_at_start", "chassis.tyre_pressure_front_at_start",
                "chassis.fork_pressure_at_start", "chassis.rear.race_sag", "chassis.rear.free_sag", "chassis.front.race_sag", "chassis.front.free_sag",
                "chassis.rear.spring_rate_wanted", "chassis.rear.preload_wanted", "chassis.front.spring_rate_wanted",
                "chassis.rear.race_sag_full", "chassis.rear.race_sag_empty", "chassis.front.race_sag_full", "chassis.front.race_sag_empty",
                "chassis.axle_load.front", "chassis.axle_load.rear", "chassis.axle_load.front_half", "chassis.axle_load.rear_half",
                "chassis.axle_load.front_empty", "chassis.axle_load.rear_empty"),
    "damping": tuple(f for f in FIGURES if f.startswith("damping.")),
    "fuelling": ("fuelling.richness_full_densest", "fuelling.richness_full_thinnest", "fuelling.richness_half_densest", "fuelling.richness_quarter_densest",
                 "fuelling.lean_margin_min", "fuelling.lean_margin.closed", "fuelling.lean_margin.eighth", "fuelling.lean_margin.quarter",
                 "fuelling.lean_margin.half", "fuelling.lean_margin.full", "fuelling.lean_limit", "fuelling.window.temperature_low", "fuelling.needle.wanted", "fuelling.pilot.wanted",
                 "fuelling.oil_per_fill", "fuelling.trim_rms", "fuelling.detonation_margin", "fuelling.flow_margin", "fuelling.main.wanted", "fuelling.knob.wanted", "fuelling.trim.wanted", "fuelling.longest_full_throttle"),
    "drive": ("drive.top_speed", "drive.tyre_speed_margin", "drive.crawl_speed", "drive.metres_short", "drive.metres_grip_unknown",
              *(f"drive.hill.{n}.{what}" for n in (1, 2, 3) for what in ("run_up_speed", "limit")), "drive.lap_time", "drive.shifts",
              "drive.shifts_per_km", "drive.first_second_drop",
              "drive.share.power", "drive.share.shift", "drive.share.grip", "drive.share.pace", "drive.lift_share.low", "drive.lift_share.high", "drive.longest_full_throttle", "drive.time_at_limiter", "drive.time_over_shake",
              "drive.clutch_energy", "drive.chain.links", "drive.chain.axle_move", "drive.chain.adjuster_left", "drive.chain.slack_on_stand",
              "drive.chain.case_clearance", "drive.wheelbase_change", "drive.energy_residual"),
    "range": ("range.fuel_per_lap", "range.fuel_race", "range.fuel_wanted", "range.p_finish", "range.left_at_finish", "range.energy_per_lap",
              "range.energy_race", "range.energy_wanted", "range.energy_left", "range.energy_per_km", "range.k", "range.k_sd", "range.joint_risk", "range.stops",
              "range.stop.1.distance", "range.stop.1.fuel", "range.arrival.finish", "range.fuel_per_km", "range.distance_per_fuel", "range.fuel_per_hour",
              "range.unusable", "range.fuel_saved_by_next_fill_up", "range.mass_full", "range.sag_change_full_to_empty"),
}  # fmt: skip


def _shown(values: Any, kind: str, preset: Units | str) -> np.ndarray:
    zero, one = to_shown(0.0, kind, preset).value, to_shown(1.0, kind, preset).value
    return zero + (one - zero) * np.asarray(values, dtype=float)


def draw_purpose(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """The course from above, and its ground by share."""
    work = bench.report.work
    stage = 0 if at_m is None else work.around.stage_at(at_m)
    line, ground = work.around.lines[stage], work.around.courses[stage].ground
    step = max(line.distance_m.size // 1500, 1)
    edges = np.flatnonzero(np.diff(ground)) + 1
    starts = np.concatenate([[0], edges, [ground.size]])
    runs = [(int(a // step), int(b // step), GROUNDS[int(ground[a])]) for a, b in itertools.pairwise(starts)]
    at = None
    if at_m is not None:
        on_stage = at_m - float(work.around.starts_m[stage])
        at = (float(np.interp(on_stage, line.distance_m, line.east_m)), float(np.interp(on_stage, line.distance_m, line.north_m)))
    title = _("From above") if len(work.around.courses) == 1 else _("From above: %(stage)s") % {"stage": ribbons.stage_name(work, stage)}
    shares = [(code, _(TERMS[code]), value) for code, value in purpose.ground_shares(work).items()]
    return {
        "drawings": [(title, charts.plan(line.east_m[::step], line.north_m[::step], runs, at, _("The course from above")))],
        "shares": shares,
        "stages": purpose.stage_times(work) if len(work.around.courses) > 1 else [],
    }


def draw_chassis(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Travel rulers and the springs that meet both sags."""
    work, kept = bench.report.work, bench.kept
    rows = []
    for end, name in (("rear", _("Rear")), ("front", _("Front"))):
        t: SagTargets = work.springs.targets(end)
        frame = work.inputs.bike.frame
        row: dict[str, Any] = {"name": name, "travel": float(_shown(frame.rear_travel_m if end == "rear" else frame.fork_travel_m, "travel", preset))}
        for state, low, high, words in (("free", t.free_low_m, t.free_high_m, _("free")), ("race", t.race_low_m, t.race_high_m, _("race"))):
            name_of = f"chassis.{end}.{state}_sag"
            f, g = bench.report.figures[name_of], kept.figures[name_of]
            ghost = None if g.value == f.value else float(_shown(g.value, "travel", preset))
            row[state] = (*(float(_shown(v, "travel", preset)) for v in (f.value, f.low, f.high, low, high)), ghost)
            row[f"{state}_name"], row[f"{state}_words"] = words, value_text(f.value or 0.0, "travel", preset)
        race = bench.report.value(f"chassis.{end}.race_sag") or 0.0
        travel = frame.rear_travel_m if end == "rear" else frame.fork_travel_m
        drop = value_text(bench.report.value(f"chassis.{end}.bottoming_drop") or 0.0, "travel", preset)
        row["reserve"] = _("reserve %(left)s, a drop of %(drop)s") % {"left": value_text(max(travel - race, 0.0), "travel", preset), "drop": drop}
        rows.append(row)
    options = [
        (*(float(_shown(v, k, preset)) for v, k in ((c.rate_n_per_m, "spring_rate"), (c.preload_low_m, "preload"), (c.preload_high_m, "preload"))), c.owned)
        for c in chassis.spring_choices(work, "rear")
    ]

    def point(inputs: Any) -> tuple[float, float]:
        return float(_shown(inputs.setup.shock_spring_rate_n_per_m, "spring_rate", preset)), float(_shown(inputs.setup.shock_preload_m, "preload", preset))

    now, was = point(bench.inputs), point(bench.kept_inputs)
    changed = stance.outline(work) != stance.outline(kept.work)
    why = reverse("bench:why", kwargs={"setup": bench.setup.pk, "race": bench.race.pk, "figure": "FIGURE"})
    side = charts.bike(
        stance.outline(work), stance.outline(kept.work) if changed else None, label=_("The bike from the side at race sag"),
        dims={n: _dimension(bench, why, f, words, preset) for n, f, words in DIMENSIONS},
    )  # fmt: skip
    carried = stance.squat_over_travel(work)
    kept_carried = stance.squat_over_travel(kept.work)
    at = bench.report.value("chassis.rear.race_sag") or 0.0
    pull = charts.over_travel(
        [float(_shown(x, "travel", preset)) for x, _y in carried], [100 * y for _x, y in carried],
        None if carried == kept_carried else [100 * y for _x, y in kept_carried],
        (float(_shown(at, "travel", preset)), 100 * (bench.report.value("chassis.anti_squat") or 0.0)),
        x_axis=_("rear travel, %(u)s") % {"u": unit_text("travel", preset)}, y_axis=_("% of the squat carried"), words=_("race sag"),
        label=_("What chain and swingarm carry over the travel"))  # fmt: skip
    return {
        "ghosted": changed,
        "drawings": [
            (_("Rider aboard at race sag, to scale"), side),
            (_("Chain pull over the travel, present sprockets"), pull),
            (_("Travel, topped out at the left"), charts.rulers(rows, unit=unit_text("travel", preset), label=_("Sag in the travel, front and rear"))),
            (_("Shock springs that meet both sags"), charts.solutions(
                options, now, was if was != now else None, x_axis=_("shock spring, %(u)s") % {"u": unit_text("spring_rate", preset)},
                y_axis=_("preload, %(u)s") % {"u": unit_text("preload", preset)}, label=_("Shock springs and preloads that meet both sags"))),
        ],
        "solution_key": True,
        "both_ends": _both_ends(bench, preset),
    }  # fmt: skip


#: dimensions on the side view: place, figure, words
DIMENSIONS = (
    ("wheelbase", "chassis.wheelbase", N_("wheelbase %(v)s")), ("trail", "chassis.trail", N_("trail %(v)s")), ("rake", "chassis.rake", N_("rake %(v)s")),
    ("seat", "chassis.seat_height", N_("seat %(v)s")), ("clearance", "chassis.ground_clearance", "%(v)s"), ("knee", "chassis.seat_to_peg", "%(v)s"),
    ("arms", "chassis.seat_to_bar", "%(v)s"), ("stance", "chassis.peg_to_bar", "%(v)s"),
)  # fmt: skip


def _dimension(bench: Bench, why: str, figure: str, words: str, preset: Units | str) -> charts.Dimension:
    """A dimension of the drawing that opens its Why."""
    value = bench.report.value(figure) or 0.0
    text = value_text(value, FIGURES[figure].kind, preset)
    said = _(words) % {"v": text}
    return charts.Dimension(words=said, name=_(FIGURE_NAMES[figure]), figure=figure, value=value, url=why.replace("FIGURE", figure))


def _both_ends(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """Both ends lower or higher as one move: its moves, and what it gives and takes."""
    work, step_m, rows = bench.report.work, room.lowering_step(), []
    for by, words in ((step_m, _("Both ends %(v)s lower")), (-step_m, _("Both ends %(v)s higher"))):
        moves = room.both_ends(work, by)
        if not moves:
            continue
        seat, clear, tyre = room.lowering_effect(work, moves)
        rows.append({"words": words % {"v": value_text(step_m, "travel", preset)}, "moves": json.dumps([[m.tunable, m.value] for m in moves]),
                     "seat": value_text(seat, "travel", preset), "clearance": value_text(clear, "travel", preset), "tyre": value_text(tyre, "travel", preset)})  # fmt: skip
    return rows


def draw_fuelling(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Richness along the throttle at the densest and the thinnest air."""
    work = bench.report.work
    if work.inputs.bike.metering == "electric":
        return {"drawings": [], "empty": _("The motor burns no fuel, so there is nothing to jet, map or trim here."), "elsewhere": ("drive", "range")}
    dense, thin = work.richness.densest, work.richness.thinnest
    if dense is None or thin is None:
        return {"drawings": [], "empty": _("No mixture is known to run right on this bike yet, so nothing can be compared. Enter one under Baseline."),
                "elsewhere": ("baseline",)}  # fmt: skip
    curves = [(100 * c.value, 100 * c.low, 100 * c.high, css, words)
              for c, css, words in ((dense, "densest", _("cold low point")), (thin, "thinnest", _("hot high point")))]  # fmt: skip
    kept = bench.kept.work.richness.densest
    if kept is not None and bench.changed and not np.allclose(kept.value, dense.value):
        curves.append((100 * kept.value, 100 * kept.value, 100 * kept.value, "ghost", _("as kept, cold")))
    floors = [(r.low, r.high, 100 * r.look) for r in leanness.limits_of(work)]
    drawing = charts.richness(
        list(dense.throttle), curves, floors, axis=_("too lean"), unit=_("% richer than the proven pair, over throttle"), label=_("Richness along the throttle"),
        used_share=list(jetbox.lift_weights(work)), share_words=_("how much of the lap"),
    )  # fmt: skip
    drawings = [(_("Richness along the throttle"), drawing)]
    found = needles.needle_at(work, at_m, preset)
    drawings += [found] if found else []
    return {"drawings": drawings}


def draw_drive(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Pull per gear against resistance, and the gear ladder."""
    work, kept = bench.report.work, bench.kept.work
    what, share = work.lap.what, float(work.lap.power_share.mean())
    spans = drive.gear_spans(what)
    speed = np.linspace(0.3, 1.1 * spans[-1][1], 240)
    per_n, per_v = convert(1.0, "N", to_shown(1, "force", preset).unit), convert(1.0, "m/s", to_shown(1, "speed", preset).unit)
    changed = (kept.lap.what.overall_ratios, kept.lap.what.mode_share) != (what.overall_ratios, what.mode_share)
    forces = [per_n * f for f in drive.pulls(what, speed, share)]
    ghosts = [per_n * f for f in drive.pulls(kept.lap.what, speed, share)] if changed else []
    lines = [(per_n * drive.held_back(what, speed, GROUND[g]), css, _(TERMS[g])) for g, css in (("hardpack", "res-a"), ("sand", "res-b"))]
    place = None
    if at_m is not None:
        i = work.around.step_at(at_m)
        here = per_n * drive.held_back(what, speed, work.around.whole.rows[work.around.whole.surface[i]], float(work.around.whole.sine[i]))
        lines.append((here, "res-here", _("at %(place)s") % {"place": value_text(at_m, "distance", preset)}))
        v = float(work.lap.whole.speed_m_per_s[i])
        place = (per_v * v, float(np.interp(v, speed, here)))
    unit_v = unit_text("speed", preset)
    pull = charts.pull(per_v * speed, forces, ghosts, lines, place, axis=unit_v, force_axis=_("%(u)s at the wheel, full throttle") % {"u": unit_text("force", preset)},
                       label=_("Pull in each gear against resistance"))  # fmt: skip

    def bars(spans: list[tuple[float, float]]) -> list[tuple[float, float]]:
        return [(per_v * low, per_v * high) for low, high in spans]

    lost = ["", *(_("%(rpm)s rpm lost") % {"rpm": plain_number(d, 0)} for d in drive.drops(work))]
    ladder = charts.ladder(bars(spans), bars(drive.gear_spans(kept.lap.what)) if changed else [], lost, axis=unit_v, label=_("Speeds of each gear"))
    habits = _habits(bench)
    drawings = [
        (_("Pull and resistance, level ground unless said"), pull),
        (_("Gear ladder, from where it pulls to the limiter"), ladder),
        (_("How the lap is ridden, by time; the engine's work, by where it goes"), charts.shares(habits, label=_("How the lap is ridden"))),
    ]
    chain = _chain(bench, preset)
    if chain:
        drawings.append((_("Chain and swingarm through the travel, to scale"), chain))
    return {"drawings": drawings, "ghosted": changed, "hills": _hills(bench), "habits": habits}


def _habits(bench: Bench) -> list[tuple[str, list[tuple[str, float, str]]]]:
    """What the lap consists of: name of each division, its parts in words with their shares and looks."""
    rows = []
    for habit in drive.habits(bench.report.work):
        css = (lambda code, i: f"limit-{code}") if habit.name == "limit" else (lambda code, i: f"tint-{i % 6}")
        parts = [(_(HABITS.get(f"{habit.name}.{code}", code)), share, css(code, i)) for i, (code, share) in enumerate(habit.parts)]
        rows.append((_(HABITS[habit.name]), parts))
    return rows


def _chain(bench: Bench, preset: Units | str) -> Any:
    """The chain through the travel; nothing when none fits."""
    work, setup = bench.report.work, bench.inputs.setup
    poses = drive.chain_poses(work)
    if not poses:
        return None

    shown = [
        ({"race_sag": "now", "tightest": "tight"}.get(p.name, "far"), p.axle, p.runs,
         _("%(where)s, play %(play)s") % {"where": _(POSES[p.name]), "play": value_text(p.play_m, "travel", preset)})
        for p in poses
    ]  # fmt: skip
    arm = swingarm_of(work.inputs.bike.frame)
    radii = pitch_radius(setup.front_sprocket_teeth), pitch_radius(setup.rear_sprocket_teeth)
    return charts.chain(shown, sprocket=(arm.sprocket_ahead_m, arm.sprocket_above_m), radii=radii,
                        words={"pivot": _("pivot"), "scale": value_text(0.1, "travel", preset)}, label=_("Chain and swingarm through the travel"))  # fmt: skip


def _hills(bench: Bench) -> dict[str, Any] | None:
    """Critical hills, and the run-up that each pair of sprockets needs."""
    work = bench.report.work
    found = hills.hills(work)
    if not found:
        return None
    rows = [{"front": f, "rear": r, "owned": owned, "now": r == bench.inputs.setup.rear_sprocket_teeth,
             "speeds": [(v, needs_run_up(v)) for v in speeds],
             "moves": f'[["rear_sprocket_teeth", {r}]]'} for (f, r, owned), speeds in hills.run_ups(work)]  # fmt: skip
    return {"hills": found, "rows": rows}


def draw_range(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Level over the race with its spread, and certainty against fuel or charge."""
    work = bench.report.work
    store = work.supply.store
    fuel = store.kind == "fuel"
    kind, unit = ("volume", "m^3") if fuel else ("energy", "J")
    distance, level = level_along(work)
    per_d, per_v = convert(1.0, "m", to_shown(1, "distance", preset).unit), convert(1.0, unit, to_shown(1, kind, preset).unit)
    pieces = [(float(p.distance_m[-1]), p.laps) for p in work.clock.pieces(work.clock.laps)]
    laps = [float(per_d * d) for d in np.cumsum([length for length, count in pieces for _k in range(count)])]
    shown_unit = unit_text(kind, preset)
    over_race = charts.level(
        per_d * distance, per_v * level, per_v * store.capacity, per_v * store.unusable, laps, x_axis=unit_text("distance", preset),
        y_axis=_("%(u)s aboard") % {"u": shown_unit}, words=(_("likely"), _("good day"), _("unusable")),
        lap_words=_("lap %s") if len(work.around.courses) == 1 else "%s", label=_("Fuel aboard over the race") if fuel else _("Charge aboard over the race"),
    )  # fmt: skip
    amounts = np.linspace(0.6 * work.supply.largest_leg, 2.1 * work.supply.largest_leg, 60) + store.unusable
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
    said = [(t, said_value(setup, t)) for t in tunables]
    fitted = [(t, _(TUNABLES[t]), value_text(v, DETENTS[t].kind, preset), t in setup.model_fields_set) for t, v in said if v is not None]
    return {"drawings": [], "fitted": fitted}


DRAW: dict[str, Callable[[Bench, str, float | None], dict[str, Any]]] = {
    "purpose": draw_purpose,
    "baseline": draw_baseline,
    "chassis": draw_chassis,
    "damping": valving.draw_damping,
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
