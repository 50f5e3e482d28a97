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
    "cylinder": N_("Cylinder"), "head_insert": N_("Head"), "ignition_map": N_("Ignition map"),
    "power_valve_turns": N_("Power valve preload, turns"), "map_trims": N_("Map, cell by cell"),
    "map_by_ground": N_("Map by ground"),
}  # fmt: skip
FIGURE_NAMES: dict[str, str] = {
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
    "air_filter": N_("air filter"), "cylinder": N_("cylinder"),
}  # fmt: skip
ZONES: dict[str, str] = {
    "closed": N_("closed"),
    "eighth": N_("hardly open, to ⅛"),
    "quarter": N_("about ¼"),
    "half": N_("about ½"),
    "full": N_("¾ to full"),
}
HOT: dict[str, str] = {"any": N_("hot or cold"), "cold": N_("cold"), "hot": N_("hot")}
LOADS: dict[str, str] = {"any": N_("any"), "light": N_("light"), "hard": N_("hard")}
PLUGS: dict[str, str] = {
    "unseen": N_("not looked at"), "white": N_("white"), "tan": N_("tan"), "black_dry": N_("black and dry"),
    "black_oily": N_("black and oily"), "speckled": N_("speckled"),
}  # fmt: skip
#: what a symptom may come from: what it is, what to look at
CAUSES: dict[str, tuple[str, str]] = {
    "air_leak": (
        N_("Air leak"),
        N_(
            "Boots, crank seals, base gasket, a sealed airbox: pressure test as the manual has it, soapy water on "
            "the joints. Never a spray that burns near a warm engine."
        ),
    ),
    "filter": (N_("Clogged air filter"), N_("Clean, oil as the maker says; the seat greased.")),
    "fuel_low": (
        N_("Fuel height low"),
        N_("Float height by the manual, needle not sticking, vent hoses free and not under water."),
    ),
    "fuel_high": (N_("Fuel height high"), N_("Float height by the manual, needle and seat tight, float not soaked.")),
    "flow": (
        N_("Fuel delivery short"),
        N_("Cap vent, tap, filters, hose kinks, pump: measure what runs out before any jet."),
    ),
    "reeds": (N_("Chipped or open reeds"), N_("Hold them to the light: no gap, no fray.")),
    "plug": (
        N_("Plug or ignition"),
        N_("New plug of the right heat range, cap and lead, kill switch; then coil and stator."),
    ),
    "cable": (
        N_("Throttle cable or slide sticks"),
        N_("Free play with the bars at both locks; slide clean and unworn."),
    ),
    "pilot_lean": (
        N_("Pilot circuit lean"),
        N_("Pilot jet clean first. Then the screw to richer, then the pilot jet."),
    ),
    "pilot_rich": (
        N_("Pilot circuit rich"),
        N_("Choke shut and sealing? Fuel height first. Only then a trial against the proven pair."),
    ),
    "cutaway_lean": (
        N_("Slide cut away too far"),
        N_("Between one eighth and three eighths only. A slide of a lower number, or the clip up in effect."),
    ),
    "needle_lean": (N_("Needle too lean"), N_("Needle and jet not worn? Then needle up, one groove.")),
    "needle_rich": (N_("Needle too rich"), N_("Worn needle jet reads rich. Measure both before any clip.")),
    "main_lean": (N_("Main jet too small"), N_("Fuel delivery first. Then the next larger main.")),
    "main_rich": (
        N_("Main jet too large"),
        N_(
            "It stutters rich, and starving feels the same: delivery first. A leaner main only against the limit "
            "on this page."
        ),
    ),
    "rod_lean": (N_("Knob or rod too lean"), N_("Knob two clicks to richer, ride, look again.")),
    "rod_rich": (N_("Knob or rod too rich"), N_("Choke shut? Rod worn? Only then a click against the proven setting.")),
    "pump": (
        N_("Accelerator pump"),
        N_(
            "Squirt begins at once, hits the gap, lasts as measured: diaphragm, timing, leak jet. A bog that "
            "gasps wants more, one that blubbers less."
        ),
    ),
    "map_lean": (
        N_("Map too lean there"),
        N_("Injector and fuel pressure first. Then that region richer; a log tells how much."),
    ),
    "map_rich": (
        N_("Map too rich there"),
        N_("Sensors, pressure, filter first; a log tells. Nothing is leaned by feel."),
    ),
    "overrun_fuel": (
        N_("Overrun cut and re-entry"),
        N_(
            "Where the map cuts fuel and gives it back: idle speed, throttle play, the cells at closed throttle a "
            "little richer."
        ),
    ),
    "exhaust_leak": (N_("Exhaust leak"), N_("Springs, O-rings, joint at the cylinder: air drawn in there pops.")),
    "valve_stuck": (
        N_("Power valve sticks"),
        N_("Moves freely through its whole way when the engine is revved? Clean, then its preload."),
    ),
    "detonation": (N_("Detonation"), N_("Stop. Fuel, timing, squish, head for this height, mixture at full throttle.")),
    "cooling": (N_("Cooling"), N_("Coolant level and loss, cap, mud in the radiators, fan; then mixture and timing.")),
}
BEFORE_ANY_JET: dict[str, str] = {
    "air_leak": N_("air leaks: boots, crank seals, a sealed airbox"), "filter": N_("air filter clean and seated"),
    "fuel_height": N_("fuel height by the manual"), "reeds": N_("reeds closed and whole"),
    "plug": N_("a good plug of the right heat range"), "cable": N_("throttle cable free at both locks"),
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
