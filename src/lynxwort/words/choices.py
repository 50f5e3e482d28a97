"""What may be chosen, and what a drawing tells apart, in words."""

from lynxwort.words import N_

#: where a course's heights come from
HEIGHT_SOURCES: dict[str, str] = {
    "satellite": N_("satellite receiver (phone, most devices)"),
    "barometer": N_("barometric device"),
    "terrain": N_("terrain model (drawn on a map)"),
}


#: kinds of stage
STAGE_KINDS: dict[str, str] = {"race": N_("race stage"), "test": N_("test"), "liaison": N_("liaison")}


#: what the ground is like, how it bends, what fills a tyre, how a clutch works, how a climb went
SURFACE_STATES: dict[str, str] = {"dry": N_("dry"), "wet": N_("wet"), "cut_up": N_("cut up by those before")}


TIGHTNESS: dict[str, str] = {
    "open": N_("less than the track shows"),
    "usual": N_("as usual"),
    "tight": N_("tighter than the track shows"),
}


TYRE_FILLINGS: dict[str, str] = {
    "tube": N_("a tube"),
    "heavy_tube": N_("a heavy tube"),
    "mousse": N_("a foam insert"),
    "two_chamber": N_("two chambers"),
    "tubeless": N_("air, no tube"),
}


GEOMETRY_STATES: dict[str, str] = {
    "topped_out": N_("topped out"),
    "free": N_("alone on its wheels"),
    "race": N_("rider aboard"),
}


FORK_SPRINGINGS: dict[str, str] = {"coil": N_("coil springs"), "air": N_("air")}


FORK_SPRINGS: dict[str, str] = {
    "alike": N_("one in each leg, alike"),
    "one": N_("one leg only"),
    "different": N_("different in each leg"),
}


RATE_KINDS: dict[str, str] = {"straight": N_("one rate"), "changing": N_("changes its rate: two-stage or progressive")}


FORK_DAMPINGS: dict[str, str] = {
    "both": N_("in both legs"),
    "split": N_("compression in one leg, rebound in the other"),
}


POSTURES: dict[str, str] = {"seated": N_("seated"), "standing": N_("standing"), "attack": N_("attack")}


#: what of a foot reaches the ground, and what each kind of change that lowers a bike asks for
FEET: dict[str, str] = {"flat": N_("Both feet flat"), "balls": N_("On the balls"), "toes": N_("On the toes")}
FEET_ASKS: dict[str, str] = {
    "preload": N_("Preload: let it sink as deep as both sags allow."),
    "foam": N_("Foam off the seat: nothing to buy, and less room for the knees."),
    "both_ends": N_("A lower link, and the tubes through the clamps."),
    "spacers": N_(
        "Spacers inside fork and shock: springs under load and a gas charge. A licensed shop does it, by the manual."
    ),
}

SCHOOLS: dict[str, str] = {
    "two_sag": N_("two sags"),
    "chart": N_("chart by weight"),
    "frequency": N_("ride frequency and bottoming"),
    "agrees": N_("agrees"),
    "softer": N_("softer"),
    "stiffer": N_("stiffer"),
    "chart_knows_weight_only": N_(
        "A chart knows the rider's weight only: not this bike's own weight, its link, nor how the rider stands on it."
    ),
    "sag_wants_free_travel": N_(
        "It rides quicker than it need for comfort: the sags ask for more spring to hold the bike up."
    ),
    "reserve_asks_more": N_(
        "The drop it should take without bottoming asks for more spring than the sags: more oil or damping first, "
        "then spring."
    ),
    "sag_is_soft_on_purpose": N_("By feel of the ride it could be stiffer; the sags keep travel for holes."),
}


CLUTCHES: dict[str, str] = {"manual": N_("by hand"), "automatic": N_("by itself")}


CLIMBS: dict[str, str] = {"climbed": N_("climbed"), "spun": N_("the wheel spun"), "stalled": N_("the engine gave out")}


#: kinds of engine as the forms name them
ENGINES: dict[str, str] = {
    "jetted_two_stroke": N_("Two-stroke, jetted carburettor"),
    "jetted_four_stroke": N_("Four-stroke, jetted carburettor"),
    "rod_two_stroke": N_("Two-stroke, metering-rod carburettor"),
    "rod_four_stroke": N_("Four-stroke, metering-rod carburettor"), "injected_two_stroke": N_("Two-stroke, injected"),
    "injected_four_stroke": N_("Four-stroke, injected"), "electric": N_("Electric"),
}  # fmt: skip


LIMIT_WORDS: dict[str, str] = {
    "power": N_("power"), "grip": N_("grip"), "wheelie": N_("front wheel lifts"), "pace": N_("pace"),
    "corner": N_("corner"), "brake": N_("braking"), "revs": N_("revs"), "shift": N_("gear change"),
    "stuck_power": N_("does not pull"), "stuck_grip": N_("grip not known"),
}  # fmt: skip


#: how a lap divides, and into what; a part's words stand under "division.part", bare numbers stand for themselves
HABITS: dict[str, str] = {
    "limit": N_("limit"), "limit.power": N_("power, revs"), "limit.shift": N_("shifts"), "limit.grip": N_("grip"),
    "limit.pace": N_("pace, corners, brakes"), "gear": N_("gear"), "rpm": N_("rpm from"), "lift": N_("throttle"),
    "lift.eighth": N_("under ⅛"), "lift.quarter": N_("to ¼"), "lift.half": N_("to ½"),
    "lift.three_quarters": N_("to ¾"), "lift.full": N_("above"), "energy": N_("work"),
    "energy.rolling": N_("rolling"), "energy.air": N_("air"), "energy.corner": N_("bends"),
    "energy.brake": N_("brakes"), "energy.engine_brake": N_("engine brake"), "energy.slip": N_("slip"),
    "energy.clutch": N_("clutch"), "energy.transmission": N_("gears, chain"),
}  # fmt: skip


POSES: dict[str, str] = {
    "topped_out": N_("on the stand"),
    "race_sag": N_("race sag"),
    "tightest": N_("tightest"),
    "full_travel": N_("full travel"),
}


#: verdicts of the sag clinic: heading, and by cause what to do
CLINIC: dict[str, str] = {
    "right": N_("The spring is right"),
    "preload": N_("The spring is right, the preload is not"),
    "soft": N_("The spring is too soft"),
    "stiff": N_("The spring is too stiff"),
    "unsure": N_("Not certain enough: measure again"),
    "impossible": N_("This cannot be"),
    "row_soft": N_("too soft"),
    "row_right": N_("right"),
    "row_stiff": N_("too stiff"),
    "both_in_band": N_("Both sags lie in their bands."),
    "turn_the_ring": N_("Both bands can be met by turning the preload."),
    "little_free": N_(
        "With race sag set, too little free sag is left: a soft spring squeezed hard. It feels stiff when you "
        "lift it, and is too soft."
    ),
    "much_free": N_(
        "With race sag set, too much free sag is left: a stiff spring hardly squeezed. It feels soft when you "
        "lift it, and is too stiff."
    ),
    "near_soft": N_(
        "It may be soft, but three millimetres of tape could say otherwise. Measure each twice more and take the mean."
    ),
    "near_stiff": N_(
        "It may be stiff, but three millimetres of tape could say otherwise. Measure each twice more and take the mean."
    ),
    "topped_out_free": N_(
        "Alone it stays topped out, so the two sags cannot tell the rate. Take preload off until it sags alone, "
        "and measure again."
    ),
    "swapped": N_("Lifted it stands lower than pushed down: were the two written the wrong way round?"),
    "above_topped_out": N_(
        "It stands higher on its wheels than topped out: was the wheel off the ground at the first reading?"
    ),
    "beyond_travel": N_("That is more than the travel. Check the unit and the marks."),
    "sticks": N_(
        "Pushed down and lifted lie too far apart: the fork is bent or dry, or the axle is clamped skew. Mend "
        "that first."
    ),
    "rider_weighs_nothing": N_("The rider hardly moved it. Were the two sags mixed up?"),
}

#: heading by the group that stands at the tunable's field
GROUPS: dict[str, str] = {
    "springs": N_("Springs, oil, load"), "steering": N_("Steering and heights"), "rider": N_("The rider's place"),
    "wheels": N_("Wheels, and tyres by the gauge at home"), "needle": N_("Needle, its jet, slide"),
    "items": N_("What is bolted on"), "brakes": N_("Brakes: rotors, masters, pads"), "damper": N_("Steering damper"),
    "cooling": N_("Cooling"),
    "fuel": N_("Fuel and oil"), "breath": N_("What it breathes through"), "head": N_("Head, spark, power valve"),
}  # fmt: skip
#: by figure; where a tunable moves both ends, or a figure stands alone, _OTHERWISE says it
OUTCOMES: dict[str, str] = {
    "kit.build.mass": N_("bolted on"),
    "kit.steer.kick_time": N_("a kick dies"),
    "kit.steer.inertia": N_("steers"),
    "kit.cooling.margin": N_("to boiling"),
    "kit.cooling.crawl_settles": N_("a queue settles"),
    "kit.cooling.hottest": N_("coolant"),
    "kit.brake.front.window": N_("bite to lock"),
    "kit.brake.rear.window": N_("bite to lock"),
    "kit.brake.front.rotor_temperature": N_("rotor"),
    "kit.brake.rear.rotor_temperature": N_("rotor"),
    "kit.brake.front.gain": N_("pull"),
    "kit.brake.rear.gain": N_("pull"),
    "chassis.rear.race_sag": N_("race sag"),
    "chassis.rear.free_sag": N_("free sag"),
    "chassis.front.race_sag": N_("race sag"),
    "chassis.front.free_sag": N_("free sag"),
    "chassis.rear.race_sag_full": N_("full sag"),
    "chassis.front.bottoming_drop": N_("drop bottoms it"),
    "chassis.rear.bottoming_drop": N_("drop bottoms it"),
    "chassis.cg_height": N_("weight, height"),
    "chassis.trail": N_("trail"),
    "chassis.rake": N_("rake"),
    "chassis.seat_height": N_("seat height"),
    "chassis.seat_to_peg": N_("seat to pegs"),
    "chassis.reach_margin": N_("leg to spare"),
    "chassis.peg_to_bar": N_("pegs to grips"),
    "chassis.seat_to_bar": N_("seat to grips"),
    "chassis.ground_clearance": N_("clearance"),
    "chassis.tyre_pressure_front_at_start": N_("at the start"),
    "chassis.tyre_pressure_at_start": N_("at the start"),
    **{
        f"damping.{end}.{what}": words
        for end in ("front", "rear")
        for what, words in (
            ("zeta_compression", N_("compression")),
            ("zeta_rebound", N_("rebound")),
            ("travel_used", N_("travel used")),
            ("packing", N_("deeper")),
        )
    },
    "fuelling.lean_margin.closed": N_("0–⅛"),
    "fuelling.lean_margin.eighth": N_("⅛–¼"),
    "fuelling.lean_margin.quarter": N_("¼–½"),
    "fuelling.lean_margin.half": N_("½–¾"),
    "fuelling.richness_full_thinnest": N_("high up"),
    "fuelling.lean_margin_min": N_("lean margin"),
    "fuelling.detonation_margin": N_("octane in hand"),
    "fuelling.oil_per_fill": N_("oil a fill"),
    "drive.metres_short": N_("not pulled"),
    "drive.top_speed": N_("top speed"),
    "drive.crawl_speed": N_("crawl"),
    "drive.lap_time": N_("lap"),
    "drive.clutch_energy": N_("clutch heat"),
    "range.fuel_per_lap": N_("a lap"),
    "range.p_finish": N_("to finish"),
    "range.left_at_finish": N_("left over"),
    "range.energy_left": N_("left over"),
    "range.energy_per_lap": N_("a lap"),
}
_OTHERWISE: dict[tuple[str, str], str] = {
    ("payload_left", "chassis.rear.race_sag"): N_("rear race sag"),
    ("payload_left", "chassis.front.race_sag"): N_("front race sag"),
    **{(tunable, "chassis.rear.race_sag"): N_("rear race sag") for tunable in ("charge_share", "pack_energy_j")},
}


def outcome_word(tunable: str, figure: str) -> str:
    """What a figure is called as the outcome of a notch of a tunable, untranslated."""
    return _OTHERWISE.get((tunable, figure)) or OUTCOMES[figure]


#: places of the bike that a plan opens, by core.propose.work.PLACES
PLACE_NAMES: dict[str, str] = {
    "items": N_("Bolt on and off"),
    "tank": N_("Tank"),
    "pack": N_("Battery pack"),
    "case": N_("Front sprocket"),
    "rear_wheel": N_("Rear wheel"),
    "front_wheel": N_("Front wheel"),
    "brakes": N_("Brakes"),
    "shock": N_("Shock"),
    "legs": N_("Fork legs"),
    "shock_ring": N_("Shock's preload ring"),
    "fork_caps": N_("Fork caps"),
    "fork_air": N_("Fork air"),
    "clamps": N_("Fork clamps"),
    "shock_eye": N_("Rear ride height"),
    "clickers": N_("Clickers"),
    "coolant": N_("Coolant"),
    "carburettor": N_("Carburettor"),
    "map": N_("Fuel map"),
    "tyres": N_("Tyre pressures"),
    "filling": N_("Filling"),
    "charge": N_("Charge"),
    "stops": N_("Stops"),
    "riding": N_("How it is ridden"),
}


#: what a rider likes, by core.propose.wish.Wish
FEELS: dict[str, str] = {"even": N_("no matter"), "plush": N_("plush"), "stiff": N_("firm")}


CARES: dict[str, str] = {"even": N_("no matter"), "safe": N_("that it is easy to ride"), "fast": N_("that it is quick")}
