"""Everything that Kit says."""

from lynxwort.words import N_
from lynxwort.words.kit import ready

FINDINGS: dict[str, tuple[str, str, str]] = {
    "foam_unsaid": (
        N_("{end}: nobody said what load the foam was made for"),
        N_("{end} foam: made for what load?"),
        N_("Ask its maker for the load on the wheel, rider aboard, never for a bike's weight; then its heat is told."),
    ),
    "foam_carries": (
        N_("{end} foam carries it: {kit.mousse.END.core_temperature} at its core"),
        N_("{end} foam: {kit.mousse.END.core_temperature}"),
        N_("The hottest of the whole race. The load on it is {kit.mousse.END.load_ratio} of what it was made for."),
    ),
    "foam_overloaded": (
        N_("{end} foam is too light: {kit.mousse.END.core_temperature} at its core"),
        N_("{end} foam too light: {kit.mousse.END.core_temperature}"),
        N_(
            "It carries {kit.mousse.END.load_ratio} of what it was made for, collapses and heats; foam made for this "
            "load would come to {right_temperature}. Foam for a heavier bike, a slower pace, or tubes."
        ),
    ),
    "foam_hot": (
        N_("{end} foam gets hot: {kit.mousse.END.core_temperature} at its core"),
        N_("{end} foam hot: {kit.mousse.END.core_temperature}"),
        N_("It is made for this load; the pace heats it. Slower on the long fast pieces, or tubes there."),
    ),
    "pressure_high": (
        N_("{end} tyre is hard for this course: it wants {kit.tyre.END.pressure_wanted}"),
        N_("{end} tyre wants {kit.tyre.END.pressure_wanted}"),
        N_(
            "Set to {set_tyre_pressure}, cold. By the ground, its load and what fills it; less grip, more shaking else."
        ),
    ),
    "pressure_low": (
        N_("{end} tyre is soft for this course: it wants {kit.tyre.END.pressure_wanted}"),
        N_("{end} tyre wants {kit.tyre.END.pressure_wanted}"),
        N_("Set to {set_tyre_pressure}, cold. By the ground, its load and what fills it; the rim is struck sooner."),
    ),
    "rim_struck": (
        N_("{end} rim is struck over {kit.tyre.END.strike_edge}"),
        N_("{end} rim struck over {kit.tyre.END.strike_edge}"),
        N_("So high a square edge comes through at the pace there. A flat over the race: {kit.tyre.END.flat_chance}."),
    ),
    "scoop_on_hard": (
        N_("A scoop tyre on {hard_share} of hard ground"),
        N_("scoop on hard ground"),
        N_("It drives in sand alone: on hard ground it neither holds nor brakes, and wears in an hour."),
    ),
    "wheel_grips_more": (
        N_("Another of your wheels grips more here"),
        N_("another wheel grips more"),
        N_("The one that is in has {kit.tyre.grip_share} of the best one's drive grip over the lap's time."),
    ),
    "hands_shaken": (
        N_("Hands shaken: {kit.hands.exposure} over the day"),
        N_("hands shaken {kit.hands.exposure}"),
        N_(
            "By the reading, as a working day of eight hours; action is asked from 2.5, more than 5 is never allowed "
            "at "
            "work. Softer mounts only help above 1.4 times their own frequency; rest, grips and gloves do."
        ),
    ),
    "clutch_slips": (
        N_("The clutch holds {kit.clutch.margin} of what is asked of it"),
        N_("clutch holds {kit.clutch.margin} of it"),
        N_(
            "Stiffer springs hold more and pull as much harder at the lever; worn or burnt plates hold less than new "
            "ones."
        ),
    ),
    "knobs_worn": (
        N_("{end} knobs are down to {left_share}"),
        N_("{end} knobs at {left_share}"),
        N_("Soft ground wants their height; rounded edges let go early on hard ground too."),
    ),
    "brake_grabs": (
        N_("{end} brake locks {kit.brake.END.window} after it bites"),
        N_("{end} brake: {kit.brake.END.window} to the lock"),
        N_(
            "On {ground}. Fewer fingers, softer pads, or a larger master: less pull for each newton, more room to feel."
        ),
    ),
    "rotor_hot": (
        N_("{end} rotor comes to {kit.brake.END.rotor_temperature}"),
        N_("{end} rotor {kit.brake.END.rotor_temperature}"),
        N_("Beyond what {pad} pads like: they glaze and fade. A larger rotor, or the other brake used more."),
    ),
    "fluid_old": (
        N_("{end} brake fluid is {months} months old"),
        N_("{end} brake fluid {months} months old"),
        N_("It draws water through the hose and boils earlier every month. Change it, and note when."),
    ),
    "fluid_close": (
        N_("{end} brake fluid comes {kit.brake.fluid_margin} near boiling"),
        N_("{end} fluid {kit.brake.fluid_margin} from boiling"),
        N_("Fresh fluid of a higher grade, a larger rotor, or gentler on the long descents."),
    ),
    "fluid_boils": (
        N_("{end} brake fluid would boil on this lap"),
        N_("{end} brake fluid boils"),
        N_("Boiling fluid is no brake: fresh fluid of a higher grade, a larger rotor, gentler on the long descents."),
    ),
    "must_off": (
        N_("{what} is a must and is not on"),
        N_("{what}: a must, not on"),
        N_("You said the race cannot be started without it."),
    ),
    "kit_bare": (
        N_("Nothing is bolted on"),
        N_("nothing bolted on"),
        N_(
            "Tyres and brakes are told all the same: {kit.brake.front.window} from bite to lock in front. Items has "
            "what is usual."
        ),
    ),
    "kit_on": (
        N_("Bolted on: {count} in all, {net_kg}"),
        N_("bolted on: {count}, {net_kg}"),
        N_("Against the bike as it was weighed. Each sits at its place and moves loads, sag and springs from there."),
    ),
} | ready.FINDINGS
_BRAKES = N_(
    "Brakes: work on them only as the manual says, bed in new pads, try them at walking pace first; never mix fluids, "
    "and never leave a rotor under the thickness stamped on it."
)
CAUTIONS: dict[str, str] = {
    "brake_grabs": _BRAKES,
    "rotor_hot": _BRAKES,
    "hands_shaken": N_("Numb or white fingers after a ride are for a doctor, not for a spanner."),
    "fluid_old": _BRAKES,
    "fluid_boils": _BRAKES,
    "fluid_close": _BRAKES,
    "foam_overloaded": N_("Foam is for closed courses, not for the road, and has a speed of its own that rules."),
    "foam_hot": N_("Foam is for closed courses, not for the road, and has a speed of its own that rules."),
    "pressure_high": N_("Never under what the tyre's maker allows; with a tube at low pressure a rim lock."),
    "must_off": N_("What a race asks for, its rules say; check your local rules."),
} | ready.CAUTIONS


FIGURE_NAMES: dict[str, str] = {
    "kit.build.mass": N_("Bolted on"),
    "kit.tyre.front.pressure_wanted": N_("Front tyre wants"), "kit.tyre.rear.pressure_wanted": N_("Rear tyre wants"),
    "kit.tyre.front.strike_edge": N_("Edge to the front rim"), "kit.tyre.rear.strike_edge": N_("Edge to the rear rim"),
    "kit.tyre.front.flat_ratio": N_("Front rim struck, against usual"),
    "kit.tyre.rear.flat_ratio": N_("Rear rim struck, against usual"),
    "kit.tyre.front.flat_chance": N_("Flat in front, whole race"),
    "kit.tyre.rear.flat_chance": N_("Flat behind, whole race"),
    "kit.tyre.front.rate": N_("Front tyre, rate"), "kit.tyre.rear.rate": N_("Rear tyre, rate"),
    "kit.mousse.front.core_temperature": N_("Front foam, hottest"),
    "kit.mousse.rear.core_temperature": N_("Rear foam, hottest"),
    "kit.mousse.front.load_ratio": N_("Front foam, load against made for"),
    "kit.mousse.rear.load_ratio": N_("Rear foam, load against made for"),
    "kit.brake.front.gain": N_("Front brake, pull per newton"),
    "kit.brake.rear.gain": N_("Rear brake, pull per newton"),
    "kit.brake.front.window": N_("Front, bite to lock"), "kit.brake.rear.window": N_("Rear, bite to lock"),
    "kit.brake.front.rotor_temperature": N_("Front rotor, hottest"),
    "kit.brake.rear.rotor_temperature": N_("Rear rotor, hottest"),
    "kit.wheel.inertia": N_("Both wheels, inertia"), "kit.wheel.gyro_torque": N_("Front wheel resists a roll by"),
    "kit.tyre.grip_share": N_("Rear grip against the best wheel"),
    "kit.brake.fluid_margin": N_("Brake fluid, to boiling"),
    "kit.steer.inertia": N_("Steering, inertia"), "kit.steer.kick_time": N_("A kick at the bars dies in"),
    "kit.bars.isolation": N_("Soft mounts let through"), "kit.hands.exposure": N_("Hands shaken, as a day of 8 h"),
    "kit.hands.time_to_action": N_("Hands: riding until action"),
    "kit.clutch.margin": N_("Clutch holds, of what is asked"),
    "kit.brake.steadiness": N_("Front pads keep of their bite"), "kit.brake.energy_per_km": N_("The brakes take"),
    "kit.brake.stop_distance": N_("Stop from the lap's top speed"),
} | ready.FIGURE_NAMES  # fmt: skip
TUNABLE_NAMES: dict[str, str] = {
    "kit_on": N_("Kit put on"), "kit_off": N_("Kit taken off"), "front_rotor_m": N_("Front rotor"),
    "rear_rotor_m": N_("Rear rotor"), "front_master_m": N_("Front master"), "rear_master_m": N_("Rear master"),
    "damper_clicks": N_("Steering damper, clicks"),
    "front_pad": N_("Front pads"), "rear_pad": N_("Rear pads"),
} | ready.TUNABLE_NAMES  # fmt: skip
INPUT_NAMES: dict[str, str] = {
    "bike.kit.front_wheel_inertia_kg_m2": N_("front wheel, inertia"),
    "bike.kit.rear_wheel_inertia_kg_m2": N_("rear wheel, inertia"),
    "bike.kit.front_tyre.foam_for_kg": N_("front foam made for"),
    "bike.kit.rear_tyre.foam_for_kg": N_("rear foam made for"),
    "bike.kit.bar_mount_hz": N_("bar mounts"),
    "bike.kit.clutch_plates": N_("clutch plates"),
    "bike.kit.clutch_spring_n": N_("clutch springs, force"),
} | ready.INPUT_NAMES
PADS: dict[str, str] = {"sintered": N_("sintered"), "organic": N_("organic"), "race": N_("race compound")}
REASONS: dict[str, str] = {
    "no_air": N_("it is filled with foam"),
    "no_foam": N_("it is filled with air"),
    "no_edges": N_("this course has no rock, single track or whoops"),
    "no_damper": N_("no steering damper is on"),
    "bars_bolted_hard": N_("the bars are bolted hard"),
    "one_wheel": N_("there is one rear wheel only"),
} | ready.REASONS
TYRE_KINDS: dict[str, str] = {
    "middling_knobby": N_("middling knobby"), "hard_knobby": N_("knobby for hard ground"),
    "soft_knobby": N_("knobby for soft ground"), "scoop": N_("scoop"), "gummy": N_("sticky compound"),
    "trials": N_("trials tread"), "rally": N_("rally tread"),
}  # fmt: skip
FLUIDS: dict[str, str] = {"dot3": "DOT 3", "dot4": "DOT 4", "dot5_1": "DOT 5.1"}
GROUPS: dict[str, str] = {
    "protection": N_("protection"), "controls": N_("controls"), "wheels": N_("wheels"), "brakes": N_("brakes"),
    "carrying": N_("carrying"), "cooling": N_("cooling"), "electrics": N_("electrics"), "other": N_("other"),
}  # fmt: skip
PLACES: dict[str, str] = {
    "sprung": N_("the frame"), "steered": N_("what steers"), "front_wheel": N_("the front wheel"),
    "rear_wheel": N_("the rear wheel"),
}  # fmt: skip
NEEDS: dict[str, str] = {"must": N_("must have"), "nice": N_("nice to have")}
#: readings where they are taken: what it is, how it is done
READINGS: dict[str, tuple[str, str]] = {
    "rotor": (
        N_("A rotor's hottest"),
        N_(
            "Crayon marks or strips of rising temperatures across the rotor, one lap at race pace; look once it is "
            "cold."
        ),
    ),
    "lever": (
        N_("Force that locks a wheel"),
        N_("A luggage scale on the lever where the finger sits, rolling at walking pace on level ground, someone by."),
    ),
    "flats": (
        N_("Flats, and how far"),
        N_(
            "How many through to the rim, none counts too, over how much rock, single track and whoops, with this tyre."
        ),
    ),
    "swing": (
        N_("A wheel swung"),
        N_("Out of the bike, hung with the inside of its rim on a knife edge: ten swings of a hand's breadth, timed."),
    ),
    "hands": (
        N_("Shaking at the grips"),
        N_("By a meter made for hands and arms, on a lap at race pace. A phone stops at about 6000 revs."),
    ),
} | ready.READINGS
#: what the bike page of Kit offers to bolt on, by the catalogue's ids
CATALOGUE: dict[str, str] = {
    "skid_plate_alloy": N_("skid plate, alloy"), "skid_plate_plastic": N_("skid plate, plastic"),
    "pipe_guard": N_("pipe guard"), "radiator_braces": N_("radiator braces"),
    "hand_guards_wrap": N_("hand guards, wraparound"), "hand_guards_flag": N_("hand guards, flag"),
    "disc_guard_front": N_("disc guard, front"), "disc_guard_rear": N_("disc guard, rear"),
    "case_saver": N_("case saver"), "chain_guide": N_("chain guide"), "linkage_guard": N_("linkage guard"),
    "steering_damper": N_("steering damper"), "clamps": N_("wider clamps"), "bars": N_("bars and mounts"),
    "flex_bars": N_("flexing bars"), "pegs_low": N_("pegs, wide and low"), "seat_tall": N_("seat, tall"),
    "left_brake": N_("left-hand rear brake"), "tower": N_("tower and navigation"), "bags": N_("bags and tools"),
    "fan": N_("fan"), "side_stand_cut": N_("side stand cut"), "heavy_tube_front": N_("heavy tube, front"),
    "heavy_tube_rear": N_("heavy tube, rear"), "street_lights": N_("street lights"),
} | ready.CATALOGUE  # fmt: skip
TERMS: dict[str, str] = (
    {"sintered": N_("sintered"), "organic": N_("organic")}
    | ready.TERMS
    | {f"item_{identity}": words for identity, words in CATALOGUE.items()}
)
#: three schools of hand guards, side by side
SCHOOLS: tuple[tuple[str, str], ...] = (
    (N_("wraparound"), N_("Strong, holds the levers in a fall; may trap a wrist, and adds weight far out.")),
    (N_("flag"), N_("Light, breaks away; keeps twigs and wind off, not trees.")),
    (N_("on the lever's perch"), N_("Lightest, turns with the lever; little against a blow.")),
)
MESSAGES: dict[str, str] = {
    "not_a_slug": N_("A short name of small letters, figures and underscores."),
    "not_a_month": N_("Year and month, like 2026-03."),
    "ids_alike": N_("Two things have the same short name."),
    "not_a_kit_line": N_("Each line is name; kg; mm ahead of the rear axle; mm above the ground, as the heading says."),
} | ready.MESSAGES


def item_state(tunable: str, value: float | None) -> str:
    """Whether an item is on by the value of its tunable, untranslated."""
    return N_("on") if bool(value) != tunable.startswith("kit_off") else N_("off")
