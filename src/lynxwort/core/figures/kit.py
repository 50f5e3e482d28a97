"""Figures of Kit: what is bolted on, what the tyres take, how the brakes work and how hot it all gets."""

from lynxwort.core.figures.spec import FigureSpec, told


def _of_end(end: str) -> dict[str, FigureSpec]:
    """What is said of each end alike."""
    return {
        f"kit.tyre.{end}.pressure_wanted": told(
            "Pa", "tyre_pressure", f"cold gauge pressure that this course wants of the {end} tyre under its load", "",
        ),
        f"kit.tyre.{end}.strike_edge": told(
            "m", "travel", f"square edge that the {end} tyre takes before the rim, at the pace there", "higher",
            even_abs=0.001,
        ),
        f"kit.tyre.{end}.flat_ratio": told(
            "1", "factor", f"how much likelier the {end} rim is struck than at the reference pressure", "lower",
            even_rel=0.02,
        ),
        f"kit.tyre.{end}.flat_chance": told(
            "1", "share", f"chance of a flat by a strike, {end}, over the whole race", "lower", even_abs=0.005
        ),
        f"kit.tyre.{end}.rate": told("N/m", "spring_rate", f"rate of the {end} tyre: carcass and air, or foam"),
        f"kit.mousse.{end}.core_temperature": told(
            "K", "temperature", f"hottest core of the {end} foam over the whole race, in the hottest hour", "lower",
            even_abs=1.0,
        ),
        f"kit.mousse.{end}.load_ratio": told(
            "1", "factor", f"load on the {end} wheel against what its foam was made for", "lower", even_abs=0.005
        ),
        f"kit.brake.{end}.gain": told(
            "N*m/N", "gain", f"torque of the {end} brake for each newton of the finger or foot", even_rel=0.005
        ),
        f"kit.brake.{end}.window": told(
            "N", "force", f"force from bite to lock, {end}, on the lap's slickest ground", "higher", even_abs=0.5
        ),
        f"kit.brake.{end}.rotor_temperature": told(
            "K", "temperature", f"hottest {end} rotor of the lap, in the hottest hour", "lower", even_abs=3.0
        ),
    }  # fmt: skip


FIGURES: dict[str, FigureSpec] = {
    "kit.build.mass": told("kg", "mass", "what is bolted on, against the bike as weighed", "lower", even_abs=0.05),
    **_of_end("front"),
    **_of_end("rear"),
    "kit.wheel.inertia": told("kg*m^2", "inertia", "turning inertia of both wheels", "lower", even_rel=0.005),
    "kit.wheel.gyro_torque": told(
        "N*m", "torque", "torque with which the front wheel answers a roll of 1 rad/s at the lap's mean speed"
    ),
    "kit.tyre.grip_share": told(
        "1", "share", "drive grip of the rear tyre over the lap's time against the best wheel owned", "higher",
        even_abs=0.005,
    ),
    "kit.steer.inertia": told("kg*m^2", "inertia", "inertia about the steering axis", "lower", even_rel=0.005),
    "kit.steer.kick_time": told("s", "seconds", "time in which a kick at the bars falls to a third", "lower",
    even_rel=0.01),
    "kit.bars.isolation": told(
        "1", "share", "motion that the bars' soft mounts let through over the lap, against hard ones", "lower",
        even_abs=0.01,
    ),
    "kit.hands.exposure": told(
        "m/s^2", "acceleration", "shaking of the hands over the race as a working day of eight hours, A(8)", "lower",
        even_rel=0.01,
    ),
    "kit.hands.time_to_action": told("s", "hours", "riding until the day's action value of shaking is reached",
    "higher"),
    "kit.clutch.margin": told(
        "1", "factor", "torque that the clutch holds over the most it is asked for", "higher", even_rel=0.01
    ),
    "kit.brake.fluid_margin": told(
        "K", "kelvin", "boiling point of the older fluid at the highest place minus the hottest fluid", "higher",
        even_abs=1.0,
    ),
    "kit.brake.steadiness": told(
        "1", "share", "least friction of the front pads over the greatest along the lap", "higher", even_abs=0.005
    ),
    "kit.brake.energy_per_km": told("J/m", "energy_rate", "energy that the brakes take per distance of the lap"),
    "kit.brake.stop_distance": told(
        "m", "stretch", "way to a stop from the lap's top speed with both brakes, on the ground where it is reached",
        "lower", even_rel=0.01,
    ),
    "kit.cooling.hottest": told(
        "K", "temperature", "hottest coolant of the lap, its queues in it, in the hottest hour", "lower", even_abs=1.0
    ),
    "kit.cooling.hottest_at": told("m", "ribbon", "where on the lap the coolant is hottest"),
    "kit.cooling.boiling": told(
        "K", "temperature", "where the coolant boils under its cap at the highest place", "higher", even_abs=0.5
    ),
    "kit.cooling.margin": told(
        "K", "kelvin", "least distance of the coolant from boiling along the lap", "higher", even_abs=1.0
    ),
    "kit.cooling.crawl_time": told(
        "s", "minutes", "walking pace in the hottest hour until the coolant boils", "higher", even_rel=0.02
    ),
    "kit.cooling.crawl_settles": told(
        "K", "temperature", "where the coolant would settle in a queue at a walking pace that never ends", "lower",
        even_abs=1.0,
    ),
    "kit.cooling.stand_time": told(
        "s", "minutes", "standing at idle in the hottest hour until the coolant boils", "higher", even_rel=0.02
    ),
    "kit.cooling.coolest": told("K", "temperature", "coldest coolant of the lap once warm, in the coldest hour"),
    "kit.cooling.median": told(
        "K", "temperature", "coolant under which it is for half of the lap's time, in the coldest hour"
    ),
    "kit.cooling.freezes": told("K", "temperature", "where the coolant begins to freeze", "lower", even_abs=0.5),
    "kit.cooling.fan_share": told("1", "share", "share of the lap's time in which the fan runs"),
    "kit.elec.surplus_mean": told(
        "W", "watts", "what generator less loads leaves over the lap, in the mean", "higher", even_abs=0.5
    ),
    "kit.elec.surplus_idle": told(
        "W", "watts", "the same at idle, all that is on drawing, the fan not", "higher", even_abs=0.5
    ),
    "kit.elec.battery_low": told(
        "J", "charge", "the least that is ever in the battery over the race", "higher", even_rel=0.01
    ),
    "kit.elec.laps_until_flat": told("1", "number", "laps until the battery is empty", "higher", even_rel=0.01),
    "kit.elec.stop_time": told(
        "s", "minutes", "what is on drawing from a full battery, the engine off, until it is empty", "higher",
        even_rel=0.02,
    ),
    "kit.elec.drop_headlight": told("V", "volts", "voltage lost in the wires to the head lamp", "lower",
    even_abs=0.02),
    "kit.elec.start_voltage": told(
        "V", "volts", "battery under a starter in the coldest hour", "higher", even_abs=0.05
    ),
    "kit.light.reach": told("m", "stretch", "how far the head lamp shows a dark obstacle", "higher", even_rel=0.02),
    "kit.light.outrun": told(
        "m", "stretch", "metres of a lap in the dark ridden faster than one stops within what one sees", "lower",
        even_rel=0.02,
    ),
    "kit.sound.level": told(
        "1", "decibel", "level at the event's test with what is on", "lower", even_abs=0.3
    ),
    "kit.sound.margin": told("1", "decibel", "the event's limit less the level", "higher", even_abs=0.3),
    "kit.sound.test_rpm": told("rpm", "rpm", "revs at which the event tests it"),
    "kit.rules.open": told("1", "count", "things the event asks for that nobody has seen to yet", "lower"),
    "kit.build.cost": told("1", "number", "cost of the build, as planned", "lower", even_rel=0.005),
    "kit.build.hours": told("s", "hours", "work of the build, as planned", "lower", even_rel=0.005),
    "kit.build.hours_left": told("s", "hours", "work that is left, with what ends every build", "lower",
    even_rel=0.005),
    "kit.build.critical_path": told("s", "hours", "longest path of the work, late parts waited for", "lower",
    even_rel=0.005),
    "kit.build.missing": told("1", "count", "things of the build that are not here yet", "lower"),
    "kit.spares.loss_left": told(
        "s", "minutes", "time that failures cost in the mean, with what bag, bike and truck carry", "lower",
        even_rel=0.01,
    ),
}  # fmt: skip
