"""What each station shows: its notches, their outcomes, the table behind."""

from django.utils.translation import gettext as _

from lynxwort.core.figures import FIGURES
from lynxwort.core.model.bike import FITTING_PLACES
from lynxwort.core.report import Report
from lynxwort.core.units.detents import tunables_of
from lynxwort.web.bench.services import Bench
from lynxwort.words import N_
from lynxwort.words.catalogue import FIGURE_NAMES, REASONS

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
