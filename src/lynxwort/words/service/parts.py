"""Parts with a clock, what is measured of wear, bolts, in words."""

from lynxwort.words import N_

#: kind of part -> its name, what is done
PARTS: dict[str, tuple[str, str]] = {
    "piston": (N_("Piston and rings"), N_("changed")),
    "crank": (N_("Crank and rod"), N_("rebuilt")),
    "oil": (N_("Engine oil"), N_("changed")),
    "valves": (N_("Valve clearance"), N_("checked")),
    "cam_chain": (N_("Cam chain"), N_("changed")),
    "clutch": (N_("Clutch plates"), N_("measured")),
    "reeds": (N_("Reeds"), N_("changed")),
    "plug": (N_("Spark plug"), N_("changed")),
    "filter": (N_("Air filter"), N_("washed and oiled")),
    "fork_oil": (N_("Fork oil"), N_("changed")),
    "shock_oil": (N_("Shock oil and gas"), N_("changed by a licensed shop")),
    "greasing": (N_("Linkage, head, swingarm"), N_("greased")),
    "brake_fluid": (N_("Brake fluid"), N_("changed and bled")),
    "coolant": (N_("Coolant"), N_("changed")),
    "wheel_bearings": (N_("Wheel bearings"), N_("changed")),
    "mousse": (N_("Mousses"), N_("changed")),
    "power_valve": (N_("Power valve"), N_("cleaned")),
    "packing": (N_("Silencer packing"), N_("repacked")),
    "chain": (N_("Chain and sprockets"), N_("changed")),
    "pads": (N_("Brake pads"), N_("changed and bedded in")),
    "spokes": (N_("Spokes"), N_("gone over")),
    "reduction_oil": (N_("Reduction oil"), N_("changed")),
    "pack_connector": (N_("Pack connector"), N_("looked at and cleaned")),
    "motor_bearings": (N_("Motor bearings"), N_("changed by a licensed shop")),
}

#: measure -> its name, how it is taken
MEASURES: dict[str, tuple[str, str]] = {
    "rod_play": (N_("Rod, side play"), N_("Feeler gauge between rod and web.")),
    "big_end": (
        N_("Big end, up and down"),
        N_("At top dead centre: lift and push the piston; anything felt is the end."),
    ),
    "ring_gap": (N_("Ring end gap"), N_("Ring square in the bore, feeler gauge. New it is 0.3 to 0.4 % of the bore.")),
    "piston_clearance": (N_("Piston clearance"), N_("Bore less skirt, measured where the manual says.")),
    "bore_taper": (N_("Bore taper"), N_("Bore gauge at the top and at the bottom.")),
    "compression": (N_("Compression"), N_("Warm, throttle open, battery full, the same gauge. Ignition made safe.")),
    "leak_down": (
        N_("Leak-down"),
        N_("At top dead centre, crank held: it turns by itself. Listen: exhaust, intake, case, coolant."),
    ),
    "valve_intake": (N_("Intake valve, tightest"), N_("Cold, at top dead centre, feeler gauge.")),
    "valve_exhaust": (N_("Exhaust valve, tightest"), N_("Cold, at top dead centre, feeler gauge.")),
    "chain_length": (N_("Chain, 20 links"), N_("Pulled tight, pin to pin over 20 links: 317.5 mm when new.")),
    "tight_spots": (N_("Chain, tight spots"), N_("Turn the wheel by hand, engine off.")),
    "hooked_tooth": (N_("Sprocket teeth"), N_("Look from the side: even, or hooked like a wave.")),
    "rotor_front": (N_("Front rotor"), N_("Thinnest place; the least is stamped on it.")),
    "rotor_rear": (N_("Rear rotor"), N_("Thinnest place; the least is stamped on it.")),
    "pad_front": (N_("Front pads, lining"), N_("The thinner one.")),
    "pad_rear": (N_("Rear pads, lining"), N_("The thinner one.")),
    "knob_front": (N_("Front knobs, height"), N_("In the middle, as a share of new.")),
    "knob_rear": (N_("Rear knobs, height"), N_("In the middle, as a share of new.")),
    "reed_gap": (N_("Reed gap"), N_("Feeler gauge at the tip; a chip is the end.")),
    "coolant_lost": (N_("Coolant lost"), N_("What was topped up, by the hours since. Cold only.")),
    "oil_seen": (N_("Oil, what is in it"), N_("Through a paint filter and over a magnet.")),
    "spokes_front": (
        N_("Front spokes, tones"),
        N_("Tap those of one side and one length, the crossing damped by a finger."),
    ),
    "spokes_rear": (
        N_("Rear spokes, tones"),
        N_("Tap those of one side and one length, the crossing damped by a finger."),
    ),
}
SEEN: dict[str, str] = {
    "not_felt": N_("nothing felt"),
    "felt": N_("felt"),
    "none": N_("none"),
    "some": N_("some"),
    "clean": N_("clean"),
    "glitter": N_("metal glitter"),
    "flakes": N_("flakes"),
}
STATES: dict[str, str] = {
    "overdue": N_("overdue"),
    "exceeds_during_race": N_("due during the race"),
    "soon": N_("due soon"),
    "fine": N_("fine"),
    "unknown": N_("unknown"),
}
WORN: dict[str, str] = {"ok": N_("fine"), "look": N_("look"), "act": N_("act"), "unknown": N_("no limit known")}
THREADS: dict[str, str] = {"dry": N_("dry"), "oiled": N_("oiled"), "locked": N_("with threadlocker")}
LOCKERS: dict[str, str] = {
    "none": N_("none"),
    "removable": N_("removable (medium)"),
    "high_strength": N_("high strength"),
}
MARKS: dict[str, str] = {"none": N_("no mark"), "true": N_("in line"), "moved": N_("moved")}
PLACES: dict[str, str] = {
    "rotor": N_("rotor"),
    "sprocket": N_("sprocket"),
    "stand": N_("side stand"),
    "axle": N_("axle"),
    "pinch": N_("pinch bolt"),
    "calliper": N_("calliper"),
    "banjo": N_("banjo of a hose"),
    "engine_mount": N_("engine mount"),
    "linkage": N_("linkage"),
    "subframe": N_("subframe"),
    "clamp": N_("fork clamp"),
    "motor": N_("motor or controller"),
    "pack": N_("pack mount"),
    "other": N_("elsewhere"),
}
BASES: dict[str, str] = {
    "typed": N_("typed"),
    "track": N_("from a track"),
    "course": N_("laps of the course"),
    "meter": N_("hour meter"),
}
FATES: dict[str, str] = {
    "sound": N_("it came off sound"),
    "worn": N_("it was worn to its limit"),
    "failed": N_("it failed"),
}
