"""Words of the Fuelling station; joined into the catalogue."""

from lynxwort.words import N_

#: ranges of the throttle
RANGES: dict[str, str] = {
    "closed": N_("closed to ⅛ throttle"),
    "eighth": N_("⅛ to ¼ throttle"),
    "quarter": N_("¼ to ½ throttle"),
    "half": N_("½ to ¾ throttle"),
    "full": N_("¾ to full throttle"),
}

FINDINGS: dict[str, tuple[str, str, str]] = {
    "no_proven_jetted": (
        N_("Mixture unknown: no proven jetting"),
        N_("no proven jetting"),
        N_(
            "Start from the manual's jets in the manual's air and enter them under Baseline once the engine "
            "ran right. Never go leaner on a guess."
        ),
    ),
    "too_lean_jetted": (
        N_("Main {jet} too lean at the cold low point"),
        N_("main {jet} too lean"),
        N_(
            "Against the limit {fuelling.lean_margin.half} from half to ¾ throttle, "
            "{fuelling.lean_margin.full} above; {part} rules where it is leanest. Full throttle wants main "
            "{fuelling.main.wanted} or more, half the clip. {risk}"
        ),
    ),
    "lean_side_safe_jetted": (
        N_("Main {jet} safe on the lean side"),
        N_("main {jet} safe at the start"),
        N_(
            "Over the whole throttle; from half up {fuelling.lean_margin_min} above the limit in the densest "
            "air of the race. Warm the engine fully before holding it open."
        ),
    ),
    "no_proven_rod": (
        N_("Mixture unknown: no proven setting"),
        N_("no proven setting"),
        N_(
            "Start from the manual's rod and knob and enter them under Baseline once the engine ran right. "
            "Never go leaner on a guess."
        ),
    ),
    "too_lean_rod": (
        N_("Too lean at the cold low point"),
        N_("too lean in the cold"),
        N_(
            "Lean end {fuelling.lean_margin_min} against the limit; wants the knob at {fuelling.knob.wanted} "
            "clicks or more. What it evens out by itself is counted. {risk}"
        ),
    ),
    "lean_side_safe_rod": (
        N_("Knob safe on the lean side"),
        N_("knob safe all day"),
        N_(
            "Lean end {fuelling.lean_margin_min} above the limit over the air of the race, its own "
            "compensation counted. Warm the engine fully first."
        ),
    ),
    "no_proven_injected": (
        N_("Mixture unknown: no proven map"),
        N_("no proven map"),
        N_(
            "Start from the maker's map and enter it under Baseline once the engine ran right. Never go "
            "leaner on a guess."
        ),
    ),
    "too_lean_injected": (
        N_("The map runs too lean in the densest air"),
        N_("map too lean"),
        N_(
            "Lean end {fuelling.lean_margin_min} against the limit from half throttle up, "
            "{fuelling.lean_margin.quarter} from ¼ to ½, {fuelling.lean_margin.closed} closed; the whole "
            "wants a trim of {fuelling.trim.wanted} or more. {risk}"
        ),
    ),
    "lean_side_safe_injected": (
        N_("The map is safe on the lean side"),
        N_("map safe at the start"),
        N_(
            "Over the whole throttle; from half up {fuelling.lean_margin_min} above the limit in the densest "
            "air of the race. Warm the engine fully first."
        ),
    ),
    "sensors_unasked": (
        N_("What the injection senses is not said"),
        N_("sensors not said"),
        N_(
            "A unit that senses no air goes rich with height; one with pressure and temperature hardly moves. "
            "Say it under the bike's facts."
        ),
    ),
    "nothing_to_meter": (
        N_("Electric: nothing to meter"),
        N_("electric, nothing to meter"),
        N_(
            "Power modes stand under Drive, the pack and its charge under Range. Longest full throttle "
            "{fuelling.longest_full_throttle}: watch the motor's temperature there."
        ),
    ),
    "rich_high_up": (
        N_("Rich at the hot high point"),
        N_("rich high up"),
        N_(
            "{fuelling.richness_full_thinnest} at full throttle up there. A leaner step is offered only if it "
            "mends something and no part of the throttle falls below what ran right at the cold low point; "
            "then a plug check."
        ),
    ),
    "needle_unmeasured": (
        N_("Needle not measured"),
        N_("needle not measured"),
        N_("Steps are judged by their lean end. A calliper on needle and jet would narrow it."),
    ),
    "lubrication_unasked": (
        N_("Where does its oil come from?"),
        N_("oil not said"),
        N_(
            "A two-stroke runs on oil in its fuel or from an oil tank of its own; neither is said. Type the "
            "premix ratio, or say the oil tank under the bike's facts."
        ),
    ),
    "oil_tank_unsaid": (
        N_("What the oil tank holds is not said"),
        N_("oil tank's size not said"),
        N_("Say under the bike's facts how much it holds and how much fuel it lasts for."),
    ),
    "oil_tank_lasts": (
        N_("The oil tank outlasts the fuel"),
        N_("oil outlasts the fuel"),
        N_("Filled once it is good for {range.oil_tank_margin} more than the {range.fuel_race} of this race."),
    ),
    "oil_tank_short": (
        N_("The oil tank empties before the fuel"),
        N_("oil runs out first"),
        N_(
            "It lasts {range.oil_tank_margin} against the {range.fuel_race} of this race. Top it up at a stop; "
            "carry oil."
        ),
    ),
    "lean_below_half": (
        N_("Lean at {range}: {lean_richness}"),
        N_("lean at {range}"),
        N_("Lean end {lean_richness} against what ran right, where {part} rules. {risk}"),
    ),
    "far_from_proven": (
        N_("{tunable} {value} is far from what ran right"),
        N_("{tunable} far from what ran right"),
        N_(
            "What ran right becomes about {nearest} in the air of this race. Beyond two sizes, two grooves or one "
            "and a half turns of it the reckoning is stretched: check the number, the part and for leaks."
        ),
    ),
    "screw_at_its_end": (
        N_("Screw {turns} turns out: another pilot jet is wanted"),
        N_("screw says another pilot"),
        N_(
            "Under one turn or over two and a half it hardly works any more. Set it to one and a half and change "
            "the pilot instead: {fuelling.pilot.wanted} by the proven pair."
        ),
    ),
    "float_off": (
        N_("Float height {off_bore_m} off the manual"),
        N_("float height off"),
        N_("Fuel height moves the whole mixture. Set it before any jet; then the proven pair counts again."),
    ),
    "detonation_near": (
        N_("Nearer to detonation: {fuelling.detonation_margin} octane in hand"),
        N_("nearer to detonation"),
        N_(
            "Against what ran right, by compression, spark, fuel, squish and this air. A head built for height, "
            "taken lower, does this. Better fuel, the other head, or later spark."
        ),
    ),
    "flow_short": (
        N_("Fuel delivery only {fuelling.flow_margin} over what full throttle asks"),
        N_("fuel delivery short"),
        N_(
            "Tap, filter, vent hose and float needle first: an engine that starves at the top runs lean, whatever "
            "the jet."
        ),
    ),
    "window": (
        N_("Safe down to {fuelling.window.temperature_low} at {pressure_high}"),
        N_("safe to {fuelling.window.temperature_low}"),
        N_("Colder, or a higher pressure: put the next richer set in. The table of sets says which."),
    ),
    "map_off": (
        N_("The map is {fuelling.trim_rms} off its target"),
        N_("map off its target"),
        N_("By the newest log, weighted by how often each cell was ridden. Take the proposed trims, ride, log again."),
    ),
    "map_on_target": (
        N_("The map is on its target"),
        N_("map on target"),
        N_("{fuelling.trim_rms} off by the newest log, within what a gauge can tell."),
    ),
    "felt": (
        N_("Felt: {what}"),
        N_("a symptom to follow"),
        N_("The diagnosis ranks what it may come from and what to look at first."),
    ),
    "fuel_care": (
        N_("{what}: handle with care"),
        N_("fuel to handle with care"),
        N_("Its octane and its jets are another matter than petrol's: they are reckoned, from memory."),
    ),
}
CAUTIONS: dict[str, str] = {
    "too_lean_jetted": N_(
        "A symptom, a plug colour or a crisper feel is no reason to go leaner: it is crispest just before it "
        "seizes. The manual rules."
    ),
    "too_lean_rod": N_("A symptom, a plug colour or a crisper feel is no reason to go leaner. The manual rules."),
    "too_lean_injected": N_("A symptom, a plug colour or a crisper feel is no reason to go leaner. The manual rules."),
    "rich_high_up": N_(
        "Never chase crispness on the lean side. After a leaner step: warm it fully, hold it open only "
        "briefly, and read a new plug first."
    ),
    "lean_below_half": N_(
        "A lean pilot or needle hangs the idle, stalls, and overheats on long descents, where nobody listens "
        "for it. The manual rules."
    ),
    "detonation_near": N_(
        "Detonation melts pistons in seconds. Do not ride on when it rattles. The manual's fuel and timing rule."
    ),
    "flow_short": N_("Catch the fuel in an approved can, outdoors, engine cold, nobody smoking."),
    "lubrication_unasked": N_("Plain petrol without oil seizes a two-stroke within minutes. The manual's ratio rules."),
    "oil_tank_short": N_("A two-stroke that runs out of oil seizes. Oil as the manual has it, filler and vent clean."),
    "felt": N_(
        "A symptom, a plug colour or a crisper feel is no reason to go leaner: it is crispest just before it seizes."
    ),
    "map_off": N_(
        "A gauge lies with misfires, leaks and leaded fuel. Trims are limited per step; never lean at full "
        "throttle by a log alone."
    ),
    "fuel_care": N_(
        "Methanol and race fuels are poisonous through the skin and burn unseen or hold lead: gloves, outdoors, "
        "approved cans. Local rules may forbid them."
    ),
}
TERMS: dict[str, str] = {
    "part_pilot": N_("the pilot circuit"), "part_needle": N_("the needle"), "part_main": N_("the main jet"),
    "part_knob": N_("the knob"), "part_map": N_("the map"), "between_closed_closed": N_("closed to ⅛ throttle"),
    "between_closed_eighth": N_("closed to ¼ throttle"), "between_closed_quarter": N_("closed to ½ throttle"),
    "between_eighth_eighth": N_("⅛ to ¼ throttle"), "between_eighth_quarter": N_("⅛ to ½ throttle"),
    "between_quarter_quarter": N_("¼ to ½ throttle"), "risk_two_stroke": N_("A lean two-stroke seizes."),
    "risk_four_stroke": N_("A lean four-stroke runs hot and burns valves and piston."),
    "far_main_jet": N_("main jet"), "far_pilot_jet": N_("pilot jet"), "far_screw_turns": N_("screw"),
    "far_needle_clip": N_("clip"), "far_metering_rod": N_("metering rod"),
    "bogs_then_clears": N_("bogs, then clears"), "gasps": N_("gasps when it is opened"),
    "blubbers": N_("blubbers, four-strokes"), "hangs_idle": N_("idle hangs"),
    "surges": N_("surges at a steady small throttle"), "stutters_at_top": N_("stutters at the top"),
    "flat_at_top": N_("flat at the top"), "pops_closed": N_("pops on closed throttle"), "runs_hot": N_("runs hot"),
    "rattles": N_("rattles under load"), "fouls_plugs": N_("fouls plugs"), "hard_to_start": N_("hard to start"),
    "snatches": N_("snatches off idle"), "hesitates": N_("hesitates"), "methanol": N_("methanol"),
}  # fmt: skip
TUNABLE_NAMES: dict[str, str] = {
    "needle": N_("Needle fitted"), "needle_jet_bore_m": N_("Needle jet, bore"), "pilot_jet": N_("Pilot jet"),
    "screw_turns": N_("Air or fuel screw, turns out"), "slide_cutaway": N_("Slide cutaway"), "fuel": N_("Fuel"),
    "fuel_octane": N_("Octane of the fuel"), "airbox": N_("Airbox"), "exhaust": N_("Exhaust"),
    "exhaust_insert": N_("Exhaust insert"), "reeds": N_("Reeds"), "air_filter": N_("Air filter"),
    "cylinder": N_("Cylinder"), "emission": N_("Emission parts"), "head_insert": N_("Head"),
    "ignition_map": N_("Ignition map"), "power_valve_turns": N_("Power valve preload, turns"),
    "map_trims": N_("Map, cell by cell"), "map_by_ground": N_("Map by ground"),
}  # fmt: skip
FIGURE_NAMES: dict[str, str] = {
    "fuelling.knob.wanted": N_("Leanest safe knob setting"),
    "fuelling.trim.wanted": N_("Leanest safe trim"),
    "fuelling.richness_full_densest": N_("Full throttle, densest air"),
    "fuelling.richness_full_thinnest": N_("Full throttle, thinnest air"),
    "fuelling.lean_limit": N_("Lean limit"),
    "fuelling.lean_margin_min": N_("Lean margin"),
    "fuelling.main.wanted": N_("Leanest safe main jet"),
    "fuelling.longest_full_throttle": N_("Longest full throttle"),
    "fuelling.richness_quarter_densest": N_("Quarter throttle, densest air"),
    "fuelling.richness_half_densest": N_("Half throttle, densest air"),
    "range.oil_tank_margin": N_("Fuel the oil tank lasts beyond the race"),
    "fuelling.lean_margin.closed": N_("Lean margin, closed to ⅛"),
    "fuelling.lean_margin.eighth": N_("Lean margin, ⅛ to ¼"),
    "fuelling.lean_margin.quarter": N_("Lean margin, ¼ to ½"), "fuelling.lean_margin.half": N_("Lean margin, ½ to ¾"),
    "fuelling.lean_margin.full": N_("Lean margin, ¾ to full"),
    "fuelling.needle.wanted": N_("Clip wanted, from the top"), "fuelling.pilot.wanted": N_("Pilot jet wanted"),
    "fuelling.window.temperature_low": N_("Safe down to"), "fuelling.oil_per_fill": N_("Oil in one fill"),
    "fuelling.trim_rms": N_("Map off its target"), "fuelling.detonation_margin": N_("Octane in hand"),
    "fuelling.flow_margin": N_("Fuel delivery in hand"),
}  # fmt: skip
INPUT_NAMES: dict[str, str] = {
    "bike.engine.oil_tank_m3": N_("oil tank holds"),
    "bike.engine.oil_tank_ratio": N_("fuel to one of oil"),
    "bike.engine.compression_ratio": N_("compression ratio"),
}
STEP_WORDS: dict[str, tuple[str, str]] = {
    "slide_cutaway": (N_("less cut away, richer"), N_("more cut away, leaner")),
    "needle_jet_bore_m": (N_("leaner"), N_("richer")),
    "pilot_jet": (N_("leaner off idle"), N_("richer off idle")),
    "premix_ratio": (N_("more oil, leaner"), N_("less oil, richer")),
    "power_valve_turns": (N_("opens earlier"), N_("opens later, harder hit")),
}
REASONS: dict[str, str] = {
    "own_oil_tank": N_("it has an oil tank of its own"),
    "no_oil_tank": N_("it has no oil tank of its own"),
    "safe_in_no_air": N_("too lean in any air up to 50 °C"),
    "four_stroke_oil": N_("a four-stroke's oil is not in its fuel"),
}
READINGS: dict[str, tuple[str, str]] = {
    "flow": (
        N_("Fuel delivery"),
        N_(
            "Hose off at the carburettor or pump, tank nearly empty, cap as ridden: how much in how long. "
            "Outdoors, engine cold, approved can, nobody smoking."
        ),
    ),
    "feel": (N_("What was felt"), N_("It ranks what to look at. It is never a reason to go leaner.")),
    "dyno": (N_("A dynamometer run"), N_("From the sheet's file. The chosen run becomes the bike's curve.")),
    "afr_log": (N_("A mixture log"), N_("From the logger's file. It says how far each cell of the map is off.")),
}
#: fuels by name
FUELS: dict[str, str] = {
    "petrol": N_("petrol, no ethanol"), "e5": N_("E5"), "e10": N_("E10"), "e20": N_("E20"), "e85": N_("E85"),
    "methanol": N_("methanol"), "race": N_("race fuel"),
}  # fmt: skip
#: an air screw's and a fuel screw's steps, less and more turns out
SCREW_STEPS: dict[str, tuple[str, str]] = {
    "air": (N_("in, richer"), N_("out, leaner")),
    "fuel": (N_("in, leaner"), N_("out, richer")),
}
SCREWS: dict[str, str] = {"air": N_("air screw: in is richer"), "fuel": N_("fuel screw: out is richer")}
PUMPS: dict[str, str] = {"none": N_("none"), "pump": N_("accelerator pump")}
LUBRICATIONS: dict[str, str] = {"premix": N_("oil mixed into the fuel"), "oil_tank": N_("an oil tank of its own")}
#: what a two-stroke's can, label and card say of its oil where there is none in the fuel
OIL_WAYS: dict[str, str] = {"oil_tank": N_("no oil in: own oil tank"), "unsaid": N_("oil not said: ask before filling")}
POWER_VALVES: dict[str, str] = {"none": N_("none, or nothing to turn"), "adjustable": N_("preload can be turned")}
PLACES: dict[str, str] = {
    "airbox": N_("airbox"), "exhaust": N_("exhaust"), "exhaust_insert": N_("exhaust insert"), "reeds": N_("reeds"),
    "air_filter": N_("air filter"), "cylinder": N_("cylinder"), "emission": N_("emission parts"),
}  # fmt: skip
JET_SCHOOLS: dict[str, tuple[str, str]] = {
    "physics": (
        N_("rejet for the day, by physics"),
        N_("The best set of the box for this course and this air. The one this page follows."),
    ),
    "per_height": (
        N_("one size so many metres"),
        N_(
            "One 2.5 step per 540 m of density height from where it ran right. It knows neither damp nor how long "
            "it is held open."
        ),
    ),
    "safe": (N_("jet safe and leave it"), N_("Safe even ten degrees colder than planned; rich and soft high up.")),
    "self_compensating": (
        N_("a metering rod that evens out by itself"),
        N_("No rejet over a day like this, by the trade; what is left is shown."),
    ),
    "injection": (N_("injection that senses pressure and temperature"), N_("It follows the air; only damp is left.")),
}
DYNO_STANDARDS: dict[str, str] = {
    "none": N_("as measured, uncorrected"),
    "sae_j1349": N_("SAE J1349"),
    "iso_1585": N_("ISO 1585"),
    "din_70020": N_("DIN 70020"),
}
DYNO_PLACES: dict[str, str] = {"wheel": N_("at the wheel"), "crank": N_("at the crank")}
MESSAGES: dict[str, str] = {
    "axis_not_rising": N_("Revs and openings of a map must rise."),
    "leaner_order": N_("The most must not be less than the least."),
    "beyond_fittings": N_("Fewer of these fit this bike."),
    "beyond_needles": N_("Fewer needles fit this carburettor."),
    "trims_of_another_map": N_("These trims belong to a map with other rows and columns."),
    "no_table": N_(
        "No table in this file: two columns of numbers at least, apart by commas, semicolons, tabs or spaces."
    ),
    "no_rows": N_("No row of the file is whole."),
    "column_missing": N_("A column is missing: {message}. Say which it is."),
    "time_not_rising": N_("Time runs backwards in this row. One recording, in order."),
    "log_too_short": N_("Too short: at least five seconds and fifty rows."),
    "nothing_counts": N_("Hardly a row counts: warm, steady, on the gas, the gauge reading exhaust."),
    "lambda_is_afr": N_("These are air/fuel numbers, not lambda. Choose the other column, or say the gauge's scale."),
    "not_a_number_there": N_("A word where a number should be: {message}"),
    "run_too_short": N_("A run needs at least four steps of revs."),
    "not_a_fitting_line": N_(
        "Write each line as place; name; leans by % from; to; torque factor, like airbox; no lid; 1; 5; 1.02."
    ),
    "not_a_head_line": N_("Write each line as name; compression; squish in mm, like high; 8.4; 1.3."),
    "not_an_ignition_line": N_(
        "Write each line as name; degrees earlier; torque factor low; high, like soft; -3; 0.97; 0.94."
    ),
    "not_a_needle_line": N_(
        "Write each line as name; bore of the jet; distance=diameter in mm, like N2; 2.90; 0=2.74 10=2.74 30=1.90."
    ),
    "not_a_ground_line": N_("Write each line as ground and map, like rock 2."),
}
