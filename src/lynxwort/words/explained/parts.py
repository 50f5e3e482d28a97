"""Parts and measures by the names under which they stand on the pages: what each is. See glossary.Term.

Meanings by common practice, no source.
"""

from lynxwort.words import N_
from lynxwort.words.explained.term import Term

PARTS: dict[str, Term] = {
    "base_valve": Term(
        N_("base valve"),
        N_("The valve at the foot of a fork leg or in the shock's reservoir: most of the compression damping."),
        N_("foot valve, compression valve"),
        "damping/valving/shock",
    ),
    "air_chamber": Term(
        N_("main chamber"),
        N_("The air in an air fork that carries the rider, as a coil spring would."),
        N_("air fork, air spring, outer chamber"),
        "chassis/springs",
    ),
    "balance_chamber": Term(
        N_("balance chamber"),
        N_("Air that pushes the other way in an air fork: it makes the beginning soft."),
        N_("negative chamber, inner chamber"),
        "chassis/springs",
    ),
    "spacer": Term(
        N_("spacer"),
        N_("A tube inside fork or shock that keeps it from extending all the way: lowers the bike and takes travel."),
        N_("limiter, lowering spacer, travel limiter"),
        "chassis/feet",
    ),
    "anti_squat": Term(
        N_("anti-squat"),
        N_("Share of the squat under power that the chain's pull holds up."),
        N_("squat, chain pull, stands up on the gas"),
        "chassis",
    ),
    "wheelbase": Term(N_("wheelbase"), N_("Axle to axle, rider aboard."), N_("length, stretched"), "chassis"),
    "clearance": Term(
        N_("ground clearance"),
        N_("The ground to the lowest part, at race sag."),
        N_("skid plate, bash plate, height"),
        "chassis",
    ),
    "centre_of_gravity": Term(
        N_("centre of gravity"), N_("Where all weight could sit at once."), N_("centre of mass, top heavy"), "chassis"
    ),
    "ride_frequency": Term(
        N_("ride frequency"),
        N_("How often in a second an end swings on its spring: higher is firmer for what it carries."),
        N_("frequency, natural frequency, pitch"),
        "chassis/springs",
    ),
    "friction": Term(
        N_("friction"),
        N_("Force that seals and bushes take before anything moves: sag read from above and below differs by it."),
        N_("stiction, sticky, binding"),
        "chassis/sag/rear",
    ),
    "slide": Term(
        N_("slide cutaway"),
        N_("How much is cut off the slide where air enters: more is leaner from an eighth to a quarter."),
        N_("cutaway, slide, throttle valve"),
        "fuelling/jets",
    ),
    "reeds": Term(
        N_("reeds"),
        N_("Flaps that let mixture into a two-stroke's case and not back."),
        N_("reed block, petals"),
        "fuelling",
    ),
    "head": Term(
        N_("compression ratio"),
        N_("Volume before by volume after squeezing: more asks for more octane."),
        N_("head, squish, high compression"),
        "fuelling",
    ),
    "octane": Term(
        N_("octane"),
        N_("How well a fuel bears squeezing before it goes off by itself."),
        N_("RON, race fuel"),
        "fuelling",
    ),
    "airbox": Term(
        N_("airbox"),
        N_("Holds the filter. Opened, it lets more air in: the mixture grows leaner, go richer first."),
        N_("snorkel, lid, air intake"),
        "fuelling/jets",
    ),
    "air_filter": Term(
        N_("air filter"),
        N_("Foam with oil: a clogged one is richer, a torn one ruins the engine."),
        N_("filter, foam filter, cleaner"),
        "fuelling/jets",
    ),
    "ignition_map": Term(
        N_("ignition map"),
        N_("When the spark comes over the revs: a soft one comes later and pulls more gently."),
        N_("ignition, timing, advance, map switch"),
        "fuelling",
    ),
    "fuel_map": Term(
        N_("fuel map"),
        N_("How much an injector gives at each opening and rev; a trim adds or takes a share."),
        N_("mapping, ECU, injection, trims"),
        "fuelling",
    ),
    "lean_margin": Term(
        N_("lean margin"),
        N_("What is left, in richness, until a part of the throttle is leaner than the pair that ran right."),
        N_("safety, how lean, lean limit"),
        "fuelling",
    ),
    "sprocket": Term(
        N_("sprocket"),
        N_("Teeth that drive the chain: fewer in front or more behind is shorter."),
        N_("cog, pinion, teeth"),
        "drive/sprockets",
    ),
    "run_up": Term(
        N_("run-up"),
        N_("Level way before a hill in which speed is gathered."),
        N_("momentum, hit the hill"),
        "drive/metres",
    ),
    "clutch": Term(
        N_("clutch"),
        N_("Plates that slip to start and on hills: heat, and less force than they hold."),
        N_("slipping, plates, burnt clutch"),
        "kit/controls",
    ),
    "master": Term(
        N_("master"),
        N_("The pump at lever or pedal: a larger one pulls less for the same squeeze, and travels less."),
        N_("master cylinder, brake pump"),
        "kit/brakes",
    ),
    "pads": Term(
        N_("pads"),
        N_("What rubs on the rotor: sintered bite wet and hot, organic are gentle and wear."),
        N_("brake pads, linings, sintered, organic"),
        "kit/brakes",
    ),
    "bite": Term(
        N_("bite"),
        N_("Squeeze at the lever until the wheel locks on this ground: less is more grabby."),
        N_("grabby, lock up, window"),
        "kit/brakes",
    ),
    "tyre": Term(
        N_("tyre"),
        N_("Its size, knobs, inside and pressure: grip, flats and how an edge is felt."),
        N_("tire, knobbly, knobs, tread"),
        "kit/wheels",
    ),
    "coolant": Term(
        N_("coolant"),
        N_("Water and glycol: how much glycol, cap and air flow decide when it boils and freezes."),
        N_("water, antifreeze, glycol, radiator"),
        "kit/cooling",
    ),
    "radiator_cap": Term(
        N_("radiator cap"),
        N_("Keeps the coolant under pressure, which lifts the heat at which it boils. Never opened hot."),
        N_("cap, pressure cap"),
        "kit/cooling",
    ),
    "thermostat": Term(
        N_("thermostat"),
        N_("Keeps the coolant from the radiators until it is warm."),
        N_("cold running, warm up"),
        "kit/cooling",
    ),
    "pack": Term(
        N_("pack"),
        N_("What an electric bike drives with: volts times ampere-hours, less what it never gives."),
        N_("traction battery, high voltage, kWh"),
        "range/holders",
    ),
    "steering_inertia": Term(
        N_("steering, inertia"),
        N_("How hard it is to turn the bars quickly: what sits far from the steering's axis counts most."),
        N_("heavy steering, tower, lamp on the bars"),
        "kit/controls",
    ),
    "hand_arm": Term(
        N_("hands shaken"),
        N_("Shaking of the hands over a day, as the law on work measures it."),
        N_("vibration, numb hands, arm pump"),
        "kit/controls",
    ),
}

#: spelled otherwise in names and sentences -> key
SPELLED: dict[str, str] = {
    N_("shock spring"): "spring_rate", N_("fork spring"): "spring_rate", N_("fork oil"): "oil_level",
    N_("mid valve"): "mid_valve", N_("foam inserts"): "mousse", N_("front foam"): "mousse", N_("rear foam"): "mousse",
    N_("shims"): "shim_stack", N_("fuel screw"): "air_screw", N_("mixture knob"): "metering_rod",
    N_("map trim"): "fuel_map", N_("glycol"): "coolant",
    N_("exhaust insert"): "silencer", N_("fork tubes through the clamps"): "rake", N_("lean limit"): "lean_margin",
    N_("main chamber wanted"): "air_chamber", N_("metal contacts"): "bottoming", N_("high speed"): "compression",
    N_("flat behind"): "mousse", N_("flat in front"): "mousse",
}  # fmt: skip
