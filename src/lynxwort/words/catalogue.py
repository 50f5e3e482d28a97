"""Findings in words. Per code: the answer (a heading), the rail's line, and the reason.

`{drive.metres_short}` is a figure, `{at}` the finding's place, `{gap_m}` a parameter whose ending names its unit,
`{end}`, `{ground}` and the like are looked up in TERMS.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass

from lynxwort.core.figures import FIGURES
from lynxwort.core.model.bike import Bike
from lynxwort.core.report import Finding, Leaves, Report
from lynxwort.core.tunables import item_of, passing_of
from lynxwort.core.units.convert import Units
from lynxwort.words import N_, baseline, chassis, damping, drive, fuelling, kit, purpose, service, trials
from lynxwort.words import range as reach
from lynxwort.words.formatting import DAY, day_text, plain_number, value_text

FINDINGS: dict[str, tuple[str, str, str]] = (
    purpose.FINDINGS
    | baseline.FINDINGS
    | chassis.FINDINGS
    | drive.FINDINGS
    | reach.FINDINGS
    | damping.FINDINGS
    | fuelling.FINDINGS
    | kit.FINDINGS
    | trials.FINDINGS
    | service.FINDINGS
)

#: Beside these codes stands the usual caution.
CAUTIONS: dict[str, str] = (
    purpose.CAUTIONS
    | baseline.CAUTIONS
    | chassis.CAUTIONS
    | drive.CAUTIONS
    | reach.CAUTIONS
    | fuelling.CAUTIONS
    | damping.CAUTIONS
    | kit.CAUTIONS
    | trials.CAUTIONS
    | service.CAUTIONS
)

TERMS: dict[str, str] = {
    "measure_sag_first": N_("Not measured at this end: measure both sags first, then judge the spring."),
    "rear": N_("Rear"), "front": N_("Front"), "free": N_("free"), "race": N_("race"),
    "rear_free": N_("rear free sag"), "rear_race": N_("rear race sag"), "front_free": N_("front free sag"),
    "front_race": N_("front race sag"), "hardpack": N_("hardpack"), "gravel": N_("gravel"), "loam": N_("loam"),
    "sand": N_("sand"), "deep_sand": N_("deep sand"), "mud": N_("mud"), "rock": N_("rock"), "whoops": N_("whoops"),
    "single_track": N_("single track"), "unnamed_hill": N_("the climb"), "no_speed": N_("no speed"),
    "held_corner": N_("a corner"), "held_pace": N_("pace"), "held_power": N_("power"), "roll_out": N_("roll-out"),
    "rpm_speed": N_("revs and speed"), "top_speed": N_("top speed"), "hill": N_("a climb"),
    "front_tyre_guard_clearance": N_("Front tyre to the guard"),
    "front_clamp_clearance": N_("Front tyre to the lower clamp"),
    "front_radiator_clearance": N_("Front tyre to the radiators"),
    "front_bar_clearance": N_("Fork tubes to the bars"), "rear_guard_clearance": N_("Rear tyre to the guard"),
    "rear_seat_clearance": N_("Rear tyre to the seat"), "rear_exhaust_clearance": N_("Rear tyre to the exhaust"),
    "wheelbase": N_("Wheelbase"), "rake": N_("Rake"), "seat_height": N_("Seat height"),
    "ground_clearance": N_("Ground clearance"),
    "axle_moved": N_("The axle moved in its adjusters explains as much: look there first."),
    "tubes_moved": N_("Tubes moved in the clamps, or a gauge not on the tube, explain as much."),
    "other_state": N_("Another state than said explains as much: topped out, alone on its wheels, rider aboard?"),
    "tape": N_("Check the unit, the marks and the digits."),
} | damping.TERMS | fuelling.TERMS | kit.TERMS | trials.TERMS | service.TERMS  # fmt: skip

STATION_NAMES: dict[str, str] = {
    "purpose": N_("Purpose"), "baseline": N_("Baseline"), "chassis": N_("Chassis"), "damping": N_("Damping"),
    "fuelling": N_("Fuelling"), "drive": N_("Drive"), "range": N_("Range"), "kit": N_("Kit"),
    "trials": N_("Trials"), "card": N_("Pit card"),
}  # fmt: skip

TUNABLE_NAMES: dict[str, str] = {
    "shock_preload_m": N_("Shock preload"), "shock_spring_rate_n_per_m": N_("Shock spring"),
    "fork_preload_m": N_("Fork preload"), "fork_spring_rate_n_per_m": N_("Fork spring, each leg"),
    "main_jet": N_("Main jet"), "needle_clip": N_("Needle clip"), "front_sprocket_teeth": N_("Front sprocket"),
    "rear_sprocket_teeth": N_("Rear sprocket"), "fuel_fill_m3": N_("Fuel at the start"),
    "fork_other_rate_n_per_m": N_("Fork spring, other leg"), "fork_second_rate_n_per_m": N_("Fork spring comes to"),
    "fork_second_from_m": N_("Fork spring changes from"), "fork_second_at_m": N_("Fork spring changed at"),
    "shock_second_rate_n_per_m": N_("Shock spring comes to"), "shock_second_from_m": N_("Shock spring changes from"),
    "shock_second_at_m": N_("Shock spring changed at"), "fork_oil_up_m": N_("Fork oil, level raised"),
    "fork_air_pressure_pa": N_("Fork main chamber"), "fork_balance_pressure_pa": N_("Fork balance chamber"),
    "fork_spacer_m": N_("Spacer in the fork legs"), "shock_spacer_m": N_("Spacer in the shock"),
    "payload_left": N_("Things left at home"), "front_wheel": N_("Front wheel fitted"),
    "rear_wheel": N_("Rear wheel fitted"), "bar_up_m": N_("Bars raised"), "bar_ahead_m": N_("Bars ahead"),
    "peg_down_m": N_("Pegs lowered"), "seat_up_m": N_("Seat raised"),
    "fork_up_m": N_("Fork tubes through the clamps"), "rear_up_m": N_("Rear raised at the axle"),
    "offset_change_m": N_("Clamp offset, change"), "front_tyre_pressure_pa": N_("Front tyre"),
    "rear_tyre_pressure_pa": N_("Rear tyre"), "tank_capacity_m3": N_("Tank"), "premix_ratio": N_("Premix"),
    "metering_rod": N_("Metering rod"), "knob_clicks": N_("Mixture knob"), "map_slot": N_("Fuel map"),
    "fuel_trim": N_("Map trim"), "power_mode": N_("Power mode"), "gearbox": N_("Gears fitted"),
    "charge_share": N_("Charge at the start"), "pack_energy_j": N_("Pack"),
} | damping.TUNABLE_NAMES | fuelling.TUNABLE_NAMES | reach.TUNABLE_NAMES | kit.TUNABLE_NAMES  # fmt: skip


def tunable_word(tunable: str, bike: Bike) -> str:
    """What a tunable is called on a bike, untranslated: an item by its own name."""
    if passing_of(tunable):
        return N_("Refuelling stop")
    item = bike.kit.item(item_of(tunable))
    return item.name if item else TUNABLE_NAMES.get(tunable, item_of(tunable))


#: kinds of part in the box
PART_KINDS: dict[str, str] = {
    **{
        k: TUNABLE_NAMES[k]
        for k in (
            "front_sprocket_teeth",
            "rear_sprocket_teeth",
            "main_jet",
            "fork_spring_rate_n_per_m",
            "shock_spring_rate_n_per_m",
            "tank_capacity_m3",
            "metering_rod",
            "pack_energy_j",
            "front_rotor_m",
            "rear_rotor_m",
            "front_master_m",
        )
    },
    "pilot_jet": N_("Pilot jet"),
    "needle": N_("Needle"),
    "wheel": N_("Wheel"),
    "shim": N_("Shim"),
    "kit": N_("To bolt on, by its weight; its name as the mark"),
}

#: names of figures where they stand in tables and ledgers
FIGURE_NAMES: dict[str, str] = (
    purpose.FIGURE_NAMES
    | baseline.FIGURE_NAMES
    | chassis.FIGURE_NAMES
    | drive.FIGURE_NAMES
    | reach.FIGURE_NAMES
    | damping.FIGURE_NAMES
    | fuelling.FIGURE_NAMES
    | kit.FIGURE_NAMES
    | trials.FIGURE_NAMES
    | service.FIGURE_NAMES
)

#: names of inputs in the Why drawer, by path
INPUT_NAMES: dict[str, str] = kit.INPUT_NAMES | service.INPUT_NAMES | {
    "race.stages.0.laps": N_("laps"), "race.air.temperature_low_k": N_("coldest hour"),
    "race.air.temperature_high_k": N_("hottest hour"), "race.air.pressure_pa": N_("pressure as read"),
    "race.air.pressure_spread_pa": N_("pressure may move by"), "race.air.relative_humidity_low": N_("driest hour"),
    "race.air.relative_humidity_high": N_("dampest hour"), "race.certainty": N_("wanted certainty"),
    "race.crew.drives": N_("the crew's drives"),
    "rider.mass_in_gear_kg": N_("rider in gear"), "rider.pace": N_("pace"),
    "bike.frame.mass_dry_kg": N_("bike without fuel"), "bike.frame.front_share": N_("share on the front wheel"),
    "bike.frame.fuel_front_share": N_("share of fuel on the front wheel"), "bike.frame.drag_area_m2": N_("drag area"),
    "bike.frame.unusable_fuel_m3": N_("fuel that stays in the tank"),
    "bike.frame.fork_friction_n": N_("fork friction"), "bike.frame.shock_friction_n": N_("shock friction"),
    "bike.frame.fork_preload_pitch_m": N_("one turn of the fork's adjuster"),
    "bike.frame.shock_preload_pitch_m": N_("one turn of the shock's ring"),
    "bike.frame.front_clamp_gap_m": N_("tyre to lower clamp, topped out"),
    "bike.frame.front_radiator_gap_m": N_("tyre to radiators, topped out"),
    "bike.frame.bar_gap_m": N_("tubes to bars, flush"),
    "bike.frame.rear_guard_gap_m": N_("rear tyre to guard, topped out"),
    "bike.frame.rear_seat_gap_m": N_("rear tyre to seat, topped out"),
    "bike.frame.rear_exhaust_gap_m": N_("rear tyre to exhaust, topped out"),
    "bike.frame.bar_height_m": N_("grips, height topped out"),
    "bike.frame.peg_height_m": N_("pegs, height topped out"), "bike.frame.side_stand_m": N_("side stand, length"),
    "bike.frame.swingarm_length_m": N_("swingarm, pivot to axle"),
    "bike.frame.adjuster_half_range_m": N_("adjusters, each way"), "bike.frame.chain_links": N_("links fitted"),
    "bike.frame.case_gap_m": N_("sprocket centre to case"),
    "bike.frame.chain_play_m": N_("play where it is tightest"),
    "bike.frame.axle_below_pivot_m": N_("axle below the pivot"), "bike.frame.home_height_m": N_("height at home"),
    "bike.frame.home_temperature_k": N_("temperature at home"), "bike.frame.rake_rad": N_("rake, topped out"),
    "bike.frame.wheelbase_m": N_("wheelbase, topped out"), "bike.frame.clamp_offset_m": N_("clamp offset"),
    "bike.frame.axle_lead_m": N_("axle ahead of the legs"), "bike.frame.seat_height_m": N_("seat, topped out"),
    "bike.frame.cg_height_m": N_("centre of gravity, height"),
    "bike.frame.ground_clearance_m": N_("clearance, topped out"),
    "bike.frame.seat_half_width_m": N_("half of the seat's width"),
    "bike.frame.front_guard_gap_m": N_("tyre to guard, topped out"),
    "bike.tyre.inside_speed_m_per_s": N_("filling made for"), "bike.engine.shake_rpm": N_("shakes from"),
    "bike.engine.pack_kg": N_("mass of the pack"), "bike.engine.motor_kg": N_("mass of the motor"),
    "bike.engine.continuous_power_w": N_("continuous power of the motor"),
    "bike.engine.internal_ohm": N_("inner resistance of the pack"),
    "bike.engine.peak_power_w": N_("highest power"), "bike.engine.peak_power_rpm": N_("speed of highest power"),
    "bike.engine.idle_rpm": N_("idle"), "race.stages.0.hours_s": N_("hours"),
    "race.class_gap_s": N_("own class after the first"),
    "race.starters": N_("bikes on the course"),
    "bike.engine.usable_share": N_("usable share of the pack"),
    "bike.engine.carburettor.compensation": N_("evens out of the air's change"),
    "bike.engine.carburettor.compensated_change": N_("up to a change of density of"),
    "bike.engine.displacement_m3": N_("engine size"), "bike.transmission.primary_ratio": N_("primary ratio"),
    "bike.tyre.rolling_radius_m": N_("rolling radius"),
} | fuelling.INPUT_NAMES  # fmt: skip


def input_name(path: str) -> str:
    """What an input is called: a tunable, a named input, or its path in plain words."""
    field = path.rsplit(".", 1)[-1]
    path = re.sub(r"^riders\.\d+\.", "rider.", path)
    if path.startswith("setup.") and field in TUNABLE_NAMES:
        return TUNABLE_NAMES[field]
    return INPUT_NAMES.get(path, field.replace("_", " "))


#: how a step is labelled when less and more would mislead
STEP_WORDS: dict[str, tuple[str, str]] = {
    "fork_oil_up_m": (N_("less oil"), N_("more oil, stiffer deep in")),
    "fork_spacer_m": (N_("more travel, front up"), N_("less travel, front down")),
    "shock_spacer_m": (N_("more travel, rear up"), N_("less travel, rear down")),
    "payload_left": (N_("one more along"), N_("one more left")), "bar_ahead_m": (N_("bars back"), N_("bars ahead")),
    "peg_down_m": (N_("pegs up"), N_("pegs down")),
    "fork_up_m": (N_("tubes down, front up"), N_("tubes up, front down")),
    "rear_up_m": (N_("rear down"), N_("rear up")), "offset_change_m": (N_("more trail"), N_("less trail")),
    "needle_clip": (N_("needle down, leaner"), N_("needle up, richer")),
    "metering_rod": (N_("leaner rod"), N_("richer rod")), "knob_clicks": (N_("a click leaner"), N_("a click richer")),
    "fuel_trim": (N_("leaner"), N_("richer")), "power_mode": (N_("stronger"), N_("weaker")),
} | damping.STEP_WORDS | fuelling.STEP_WORDS  # fmt: skip

#: why a figure does not apply, by the code it carries
REASONS: dict[str, str] = {
    "electric": N_("an electric motor burns no fuel"), "burns_fuel": N_("this bike burns fuel"),
    "fed_jetted": N_("this engine is fed through jets"), "fed_rod": N_("this engine is fed through a metering rod"),
    "fed_injected": N_("this engine is fed by injection"), "one_gear": N_("there is one gear"),
    "no_clutch": N_("there is no clutch"), "pulls_from_standstill": N_("an electric motor pulls from a standstill"),
    "pack_keeps_mass": N_("a pack weighs the same full and empty"), "fork_on_air": N_("this fork stands on air"),
    "fork_on_coils": N_("this fork stands on coil springs"),
    "no_balance_chamber": N_("this fork has no balance chamber"), "no_such_hill": N_("the course has no such hill"),
    "no_schedule": N_("this race has no schedule"),
} | fuelling.REASONS | reach.REASONS | kit.REASONS | trials.REASONS | service.REASONS  # fmt: skip


#: what a change did to a figure; how a figure or an input came about; verdicts
JUDGEMENTS: dict[str, str] = {
    "better": N_("better"),
    "worse": N_("worse"),
    "even": N_("the same"),
    "changed": N_("changed"),
}
BASES: dict[str, str] = {
    "computed": N_("computed"),
    "calibrated": N_("calibrated"),
    "assumed": N_("assumed"),
    "measured": N_("measured"),
    "given": N_("given"),
}
#: what a proposal may leave
LEFT: dict[str, str] = {f"lean_{name}": words for name, words in fuelling.RANGES.items()} | {
    "rich_full": N_("full throttle high up")
}
LEAF_WORDS: dict[str, str] = {
    "ok": N_("settled"),
    "look": N_("look"),
    "act": N_("act"),
    "unknown": N_("unknown"),
    "pending": N_("working"),
}


_PARAMETER_KINDS = (
    ("tilt_rad", "tilt"),
    ("race_m", "distance"),
    ("_share", "share"),
    ("run_s", "engine_hours"),
    ("left_s", "engine_hours"),
    ("earliest_s", "engine_hours"),
    ("_of_lap", "chance"),
    ("_seconds", "seconds"),
    ("limit_k", "temperature"),
    ("bore_m", "bore"),
    ("pressure_high", "pressure"),
    ("_m3", "volume"),
    ("_kg", "mass"),
    ("_rate", "spring_rate"),
    ("_m", "travel"),
    ("_j", "energy"),
    ("allowed_time_s", "minutes"),
    ("standing_time", "duration"),
    ("time_s", "hours"),
    ("_speed", "speed"),
    ("_richness", "richness"),
    ("_time", "duration"),
    ("tyre_pressure", "tyre_pressure"),
    ("_temperature", "temperature"),
)
_COARSE = {
    "gap_m": "stretch", "certainty": "share", "grade": "share", "held_grade": "share", "share": "share",
    "high_m": "bore", "most_m": "bore", "most_m3": "fuel",
}  # fmt: skip
_HOLE = re.compile(r"\{([a-zA-Z0-9_.]+)\}")


@dataclass(frozen=True, slots=True)
class Words:
    """A finding in words: answer (heading), rail (short), text (reason), caution (or empty)."""

    answer: str
    rail: str
    text: str
    caution: str


def identity(text: str) -> str:
    """No translation."""
    return text


def figure_text(report: Report, name: str, preset: Units | str, translate: Callable[[str], str] = identity) -> str:
    """One figure with its unit; "unknown" when it has no value."""
    figure = report.figures.get(name)  # a report as kept or as stood may lack what was not known then
    value = None if figure is None else figure.value
    return translate(N_("unknown")) if value is None else value_text(value, FIGURES[name].kind, preset)


def _parameter(name: str, value: float | str, preset: Units | str, translate: Callable[[str], str]) -> str:
    if isinstance(value, str):
        if DAY.match(value):
            return day_text(value, translate)
        words = translate(TERMS.get(value, value))
        # inside a sentence: a heading's first letter is made large again where it begins one
        return words[:1].lower() + words[1:] if value.startswith(service.KINDS) else words
    if name in _COARSE:
        return value_text(value, _COARSE[name], preset)
    for ending, kind in _PARAMETER_KINDS:
        if name.endswith(ending):
            return value_text(value, kind, preset)
    whole = abs(value - round(value)) < 1e-9 or name == "rpm"
    return plain_number(value, 0 if whole else 1)


def say(
    finding: Finding, report: Report, preset: Units | str = "metric", translate: Callable[[str], str] = identity
) -> Words:
    """A finding in words, in the rider's units. Raises KeyError for a code without words."""
    end = str(finding.parameters.get("end", ""))

    def fill(template: str) -> str:
        def hole(match: re.Match[str]) -> str:
            name = match.group(1).replace(".END.", f".{end}.")
            if name in FIGURES:
                return figure_text(report, name, preset, translate)
            if name == "at" and finding.at_m is not None:
                return value_text(finding.at_m, "distance", preset)
            return _parameter(name, finding.parameters[name], preset, translate)

        text = _HOLE.sub(hole, translate(template))
        return text[:1].upper() + text[1:]

    answer, rail, text = FINDINGS[finding.code]
    line = fill(rail)
    return Words(
        answer=fill(answer),
        rail=line[:1].lower() + line[1:],
        text=fill(text),
        caution=translate(CAUTIONS.get(finding.code, "")),
    )


def leaves_text(leaves: Leaves, preset: Units | str = "metric", translate: Callable[[str], str] = identity) -> str:
    """What a proposal leaves, in words."""
    if not leaves.what:
        return (
            translate(N_("settles it"))
            if leaves.severity == "ok"
            else translate(N_("lessens it: %(left)s")) % {"left": translate(LEAF_WORDS[leaves.severity])}
        )
    left = translate(N_("leaves %(what)s at %(value)s")) % {
        "what": translate(LEFT[leaves.what]),
        "value": value_text(leaves.value_si, "richness", preset),
    }
    return left if leaves.severity == "ok" else f"{left}: {translate(LEAF_WORDS[leaves.severity])}"
