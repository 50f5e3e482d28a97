"""What Kit says of the heat, the current, the sound, the rules and the build."""

from lynxwort.words import N_

FINDINGS: dict[str, tuple[str, str, str]] = {
    "coolant_boils": (
        N_("The coolant boils on this lap, at {at}"),
        N_("coolant boils at {at}"),
        N_(
            "In the hottest hour; unboiled it would come to {kit.cooling.hottest}. Look at level, cap, mud in "
            "the fins, pump, head gasket, mixture; then a fan."
        ),
    ),
    "coolant_close": (
        N_("The coolant comes {kit.cooling.margin} near boiling at {at}"),
        N_("coolant {kit.cooling.margin} from boiling"),
        N_("In the hottest hour, {kit.cooling.hottest}. A fan or larger radiators cool it; a stiffer cap does not."),
    ),
    "queue_boils": (
        N_("It boils after {kit.cooling.crawl_time} at a walking pace; {asked_time} are asked"),
        N_("boils in the queue after {kit.cooling.crawl_time}"),
        N_("A fan helps most, then fewer revs, then the cap; size helps when moving. Or switch off while it stands."),
    ),
    "queue_soon": (
        N_("At a walking pace it boils after {kit.cooling.crawl_time}"),
        N_("a queue boils it after {kit.cooling.crawl_time}"),
        N_("In the hottest hour on that ground. Say in the race how long a queue may take; fewer revs, or a fan."),
    ),
    "coolant_cold": (
        N_("It runs cold: {kit.cooling.median} for half of the lap"),
        N_("runs cold: {kit.cooling.median}"),
        N_("In the coldest hour. A cold engine wears and wets its plug: a thermostat, or tape over half a radiator."),
    ),
    "coolant_freezes": (
        N_("The coolant freezes from {kit.cooling.freezes}; the night comes to {night_temperature}"),
        N_("coolant freezes from {kit.cooling.freezes}"),
        N_("Ice splits cases and radiators. More glycol, mixed before it is poured in."),
    ),
    "cap_runs_hot": (
        N_("A cap of {cap_tyre_pressure} cools nothing"),
        N_("cap {cap_tyre_pressure}: hotter, not cooler"),
        N_(
            "It lets the engine run hotter before it boils: half an octane less for each 10 K, harder on hoses "
            "and seals."
        ),
    ),
    "cooling_holds": (
        N_("The coolant holds: {kit.cooling.hottest} at {at}, {kit.cooling.margin} from boiling"),
        N_("coolant to {kit.cooling.hottest}"),
        N_("In the hottest hour. A strip on the header tank makes this surer."),
    ),
    "generator_unsaid": (
        N_("What does the generator give?"),
        N_("generator: how much?"),
        N_("Two points, at idle and at 5000 revs, by its maker or a clamp meter; then lamps and fan can be reckoned."),
    ),
    "battery_drains": (
        N_("The battery drains: {kit.elec.surplus_mean} over the lap, {kit.elec.battery_low} left"),
        N_("battery drains, {kit.elec.battery_low} left"),
        N_(
            "What is on draws more than the generator gives, queues counted in; empty after "
            "{kit.elec.laps_until_flat} laps."
        ),
    ),
    "generator_short": (
        N_("The generator falls short: {kit.elec.surplus_mean} over the lap"),
        N_("generator: {kit.elec.surplus_mean}"),
        N_("What is on draws more than it gives: lamps go dim, and what needs its voltage may stop."),
    ),
    "current_holds": (
        N_("The generator has {kit.elec.surplus_mean} to spare over the lap"),
        N_("generator: {kit.elec.surplus_mean} to spare"),
        N_("At idle {kit.elec.surplus_idle}, all that is on drawing."),
    ),
    "idle_drains": (
        N_("At idle {kit.elec.surplus_idle}, and one stands {stands_time} a lap"),
        N_("{kit.elec.surplus_idle} at idle"),
        N_("A little more idle, lamps down, or the engine off while nothing moves."),
    ),
    "lamp_wire_thin": (
        N_("The wire to the lamp loses {kit.elec.drop_headlight}"),
        N_("lamp wire loses {kit.elec.drop_headlight}"),
        N_("A filament gives a third less light for a tenth less voltage. Thicker copper, shorter, a sound ground."),
    ),
    "fuse_over_wire": (
        N_("A fuse of {fuse_amps} A is too large for the lamp's wire"),
        N_("fuse {fuse_amps} A over its wire"),
        N_("That copper takes {most_amps} A at most: in a short the wire burns before the fuse does."),
    ),
    "start_weak": (
        N_("In the cold the battery falls to {kit.elec.start_voltage} under the starter"),
        N_("starter: {kit.elec.start_voltage} in the cold"),
        N_(
            "Under 9.6 V, or with less than twenty starts in it, it may not turn. A lithium battery wakes with a "
            "minute of lamps on; carry a way to start it."
        ),
    ),
    "outruns_light": (
        N_("In the dark {kit.light.outrun} of a lap are ridden faster than the lamp shows"),
        N_("outruns its lamp over {kit.light.outrun}"),
        N_("It shows a dark obstacle at {kit.light.reach}. More light sees further; only slower stops in time."),
    ),
    "sound_unsaid": (
        N_("How loud is it? The event allows {limit_db} dB"),
        N_("sound: not measured"),
        N_("Note what a meter read, with what was on; the test is at {kit.sound.test_rpm}."),
    ),
    "stroke_unsaid": (
        N_("The event's sound test goes by the stroke, which nobody said"),
        N_("sound test: which stroke?"),
        N_("It stands in the manual; the event allows {limit_db} dB."),
    ),
    "too_loud": (
        N_("Too loud: {kit.sound.level}, the event allows {limit_db} dB"),
        N_("too loud: {kit.sound.level}"),
        N_("At {kit.sound.test_rpm}. Fresh packing takes 2 to 4 dB, a quieter insert 1 to 4; then check the jets."),
    ),
    "nearly_too_loud": (
        N_("Only {kit.sound.margin} under the event's {limit_db} dB"),
        N_("sound: {kit.sound.margin} in hand"),
        N_("A meter and the same test once more differ by 2 dB. Fresh packing, or a quieter insert."),
    ),
    "quiet_enough": (
        N_("Quiet enough: {kit.sound.level} of {limit_db} dB"),
        N_("sound {kit.sound.level}"),
        N_("At {kit.sound.test_rpm}, by the sheets there are and what is on now."),
    ),
    "sound_drowned": (
        N_("A sound sheet was drowned by its background"),
        N_("a sound sheet was drowned"),
        N_("The meter read as much with the engine off; it is left out."),
    ),
    "rules_open": (
        N_("Not seen to yet, of what the event asks for: {count}"),
        N_("rules open: {count}"),
        N_("Sound and rules has the list; each is ticked with its day."),
    ),
    "need_off": (
        N_("{item}: this race asks for it, and it is not on"),
        N_("asked for: {item}"),
        N_("{why} Say otherwise at the thing itself, with your reason, and this rests."),
    ),
    "build_late": (
        N_("The work ends after the start: {ends_time_s} of work, {start_time_s} fit"),
        N_("the work ends after the start"),
        N_("Late parts counted in. Leave something off, begin sooner, or find another evening."),
    ),
    "build_tight": (
        N_("The work is tight: {ends_time_s} of the {start_time_s} that fit"),
        N_("work: {ends_time_s} of {start_time_s}"),
        N_("Late parts counted in; the slow ride at the end is not to be left out."),
    ),
    "build_holds": (
        N_("The work fits: {ends_time_s} of {start_time_s}"),
        N_("work: {ends_time_s} of {start_time_s}"),
        N_("Late parts counted in, the slow ride at its end."),
    ),
    "build_circle": (
        N_("The order of work goes round in a circle"),
        N_("order of work: a circle"),
        N_("Two things wait for each other: change what comes before one of them."),
    ),
}
_HOT = N_("Never open a hot cap: the coolant boils out and scalds. Let it cool, a cloth over it, and turn it slowly.")
_WIRES = N_(
    "Battery off before any wire is touched. A lithium pack that swells or smells is left alone; high voltage is for "
    "licensed hands."
)
_INSERT = N_(
    "Another insert changes the mixture: check the plug and the jets before full throttle. Check your local rules."
)
_LAW = N_("What may be on the bike, on the road and in the race, your local rules say; check your local rules.")
CAUTIONS: dict[str, str] = {
    "coolant_boils": _HOT, "coolant_close": _HOT, "queue_boils": _HOT, "queue_soon": _HOT, "cap_runs_hot": _HOT,
    "coolant_freezes": N_("Glycol is poison and sweet: keep it from animals and out of the ground."),
    "battery_drains": _WIRES, "generator_short": _WIRES, "lamp_wire_thin": _WIRES, "fuse_over_wire": _WIRES,
    "start_weak": _WIRES,
    "outruns_light": N_("No figure here is a speed to ride. In the dark, slower is the only sure way."),
    "too_loud": _INSERT, "nearly_too_loud": _INSERT,
    "rules_open": _LAW, "need_off": _LAW,
    "build_late": N_("Nothing is gained by skipping the checks or the slow ride: a bike not tried is not raced."),
}  # fmt: skip
FIGURE_NAMES: dict[str, str] = {
    "kit.cooling.hottest": N_("Coolant, hottest"), "kit.cooling.hottest_at": N_("Coolant hottest at"),
    "kit.cooling.boiling": N_("Coolant boils at"), "kit.cooling.margin": N_("Coolant, to boiling"),
    "kit.cooling.crawl_time": N_("Walking pace until it boils"),
    "kit.cooling.crawl_settles": N_("A queue settles at"), "kit.cooling.stand_time": N_("Idling until it boils"),
    "kit.cooling.coolest": N_("Coolant, coldest once warm"),
    "kit.cooling.median": N_("Coolant, half of the lap under"),
    "kit.cooling.freezes": N_("Coolant freezes from"), "kit.cooling.fan_share": N_("The fan runs"),
    "kit.elec.surplus_mean": N_("Current left over, lap"), "kit.elec.surplus_idle": N_("Current left over, idle"),
    "kit.elec.battery_low": N_("Battery, least"), "kit.elec.laps_until_flat": N_("Laps until it is empty"),
    "kit.elec.stop_time": N_("Engine off, until it is empty"),
    "kit.elec.drop_headlight": N_("Lost in the lamp's wires"), "kit.elec.start_voltage": N_("Under the starter, cold"),
    "kit.light.reach": N_("The lamp shows"), "kit.light.outrun": N_("Faster than it shows"),
    "kit.sound.level": N_("Sound at the test"), "kit.sound.margin": N_("Sound, to the limit"),
    "kit.sound.test_rpm": N_("Sound test at"), "kit.rules.open": N_("Rules open"),
    "kit.build.cost": N_("The build costs"), "kit.build.hours": N_("The build's work"),
    "kit.build.hours_left": N_("Work left"), "kit.build.critical_path": N_("Longest path of the work"),
    "kit.build.missing": N_("Parts not here yet"), "kit.spares.loss_left": N_("Lost to failures, in the mean"),
}  # fmt: skip
TUNABLE_NAMES: dict[str, str] = {
    "cap_pa": N_("Radiator cap"), "glycol_share": N_("Glycol"), "thermostat": N_("Thermostat"),
    "tape_share": N_("Radiators taped"), "crawl_share": N_("Revs at a crawl"),
}  # fmt: skip
INPUT_NAMES: dict[str, str] = {
    "bike.kit.cooling.width_m": N_("radiator, width"), "bike.kit.electrics.low_w": N_("generator, first point"),
    "bike.kit.electrics.high_w": N_("generator, second point"), "bike.kit.electrics.battery_j": N_("battery"),
    "bike.kit.electrics.battery": N_("kind of battery"), "bike.kit.electrics.lamp_wire_m2": N_("lamp wire, copper"),
    "bike.kit.electrics.lamp_wire_m": N_("lamp wire, length"), "bike.kit.stroke_m": N_("stroke"),
    "bike.kit.bag_kg": N_("what the bum bag carries"), "bike.kit.toolbox_kg": N_("what the bike carries"),
    "bike.engine.idle_rpm": N_("idle"), "race.asked": N_("what the event asks for"),
    "race.sound_test": N_("kind of sound test"), "race.sound_limit_db": N_("loudest allowed"),
    "readings": N_("sound sheets"),
}  # fmt: skip
REASONS: dict[str, str] = {
    "no_coolant": N_("it has no coolant"), "never_boils": N_("it never boils there"), "no_fan": N_("no fan is on"),
    "no_generator": N_("it has no generator"), "no_battery": N_("it has no battery"),
    "never_flat": N_("it never runs empty"), "nothing_draws": N_("nothing draws"), "no_lamp": N_("no head lamp is on"),
    "no_night": N_("nothing is ridden in the dark"), "no_exhaust": N_("it has no exhaust"),
    "no_sound_limit": N_("the event's limit was not said"), "nothing_asked": N_("nobody noted what the event asks"),
    "nothing_built": N_("nothing is put on for it"),
}  # fmt: skip
#: readings where they are taken
READINGS: dict[str, tuple[str, str]] = {
    "coolant": (
        N_("The coolant's hottest"),
        N_("A strip on the header tank, or a gauge that keeps its highest, one lap at race pace; look when cold."),
    ),
    "generator": (
        N_("What the generator gives"),
        N_(
            "A clamp meter behind the rectifier, everything on that can be, at steady revs; a second one at other revs."
        ),
    ),
    "sound": (
        N_("A sound sheet"),
        N_("What a meter read behind the outlet at steady revs, and with the engine off, in the open."),
    ),
}
CATALOGUE: dict[str, str] = {
    "radiators_large": N_("larger radiators"), "lamp_halogen_35": N_("head lamp, filament 35 W"),
    "lamp_halogen_55": N_("head lamp, filament 55 W"), "lamp_led_12": N_("head lamp, diodes 12 W"),
    "lamp_led_40": N_("head lamp, diodes 40 W"), "tail_lamp": N_("tail lamp"), "brake_lamp": N_("brake lamp"),
    "horn": N_("horn"), "heated_grips": N_("heated grips"), "phone_charger": N_("phone charger"),
    "navigation": N_("navigation"), "rewound_generator": N_("rewound generator"),
}  # fmt: skip
WHENS: dict[str, str] = {
    "always": N_("all the time"), "night": N_("in the dark"), "stopped": N_("while standing"),
    "hot": N_("once it is hot"),
}  # fmt: skip
BATTERIES: dict[str, str] = {"none": N_("none"), "lead": N_("lead"), "lithium": N_("lithium")}
FEEDS: dict[str, str] = {"own_coil": N_("a coil of its own"), "battery": N_("the battery")}
LIGHTINGS: dict[str, str] = {"dc": N_("from the battery"), "ac": N_("straight from the generator")}
STARTERS: dict[str, str] = {"kick": N_("by foot"), "electric": N_("by a motor")}
#: what draws besides what is bolted on
OWN_LOADS: dict[str, str] = {"ignition": N_("ignition"), "injection": N_("injection, with its pump")}
SOUND_TESTS: dict[str, str] = {
    "rated_half_metre": N_("half a metre behind the outlet, at a share of the revs of full power"),
    "piston_speed": N_("half a metre behind, at a mean speed of the piston"),
    "stroke_revs": N_("half a metre behind, at revs told by the stroke"),
    "two_metre_max": N_("two metres behind, at the highest revs"),
}
RULES: dict[str, str] = {
    "spark_arrester": N_("spark arrester: stamp, clean screen, plug tight"), "sound_sheet": N_("sound sheet"),
    "lights": N_("lights"), "stop_lamp": N_("stop lamp by both brakes"), "plate": N_("number plate with its lamp"),
    "insurance": N_("insurance"), "mirrors": N_("mirrors"), "horn": N_("horn"),
    "side_stand": N_("side stand springs back"), "chain_guards": N_("chain and sprocket guards"),
    "throttle_closes": N_("throttle closes by itself"), "lanyard": N_("kill switch with lanyard"),
    "bar_ends": N_("bar ends plugged, lever balls"), "fuel_type": N_("fuel of the kind allowed"),
    "mat": N_("mat under the bike"), "tyres": N_("tyres and foam as allowed"), "numbers": N_("start numbers"),
    "transponder": N_("transponder"), "licence": N_("licence"), "land_permit": N_("land or club permit"),
    "permit_window": N_("within the permitted hours"), "fire_ban": N_("no fire ban in force"),
}  # fmt: skip
#: why a race asks for something, as a sentence
WHYS: dict[str, str] = {
    "dark": N_("Some of it is ridden in the dark."), "road": N_("It goes over public road between the tests."),
    "rock_under": N_("Rock reaches the cases."), "trees": N_("Trees and falls reach the levers."),
    "rock_disc": N_("Rock reaches the rear disc."), "falls": N_("A fall on rock bends radiators."),
    "pinches": N_("Rock pinches a plain tube."), "waits": N_("One waits with the engine hot."),
    "alone": N_("It is far to the next help."), "finds_way": N_("One finds the way alone."),
    "shakes": N_("Speed or rock shakes the bars."), "chain": N_("A thrown chain ends a long race."),
}  # fmt: skip
TERMS: dict[str, str] = {f"why_{code}": words for code, words in WHYS.items()} | {
    "baseline_gate": N_("checks before it is ridden"), "bed_in": N_("bed in what is new"),
    "slow_ride": N_("slow ride, then look again"),
}  # fmt: skip
SPARES: dict[str, str] = {
    "lever": N_("lever"), "tube": N_("tube with levers and pump"), "plug": N_("spark plug"),
    "link": N_("chain link"), "cable": N_("cable"), "spoke": N_("spokes"), "brake_tip": N_("brake pedal tip"),
    "fuse": N_("fuses"), "clutch": N_("clutch plates"), "radiator_hose": N_("radiator hose"),
    "bolts": N_("bolts and nuts"), "tape_ties": N_("tape and ties"), "brake_pads": N_("brake pads"),
    "air_filter": N_("air filter, oiled"),
}  # fmt: skip
WHERES: dict[str, str] = {
    "bag": N_("bum bag"), "toolbox": N_("on the bike"), "truck": N_("chase truck"), "": N_("stays"),
}  # fmt: skip
ALWAYS: dict[str, str] = {
    "water": N_("water"), "first_aid": N_("first aid"), "phone": N_("phone"), "light": N_("a light"),
}  # fmt: skip
PITS: tuple[str, ...] = (
    N_("stand"), N_("wheels"), N_("air"), N_("filters"), N_("jets"), N_("oil"), N_("brake fluid"), N_("pads"),
    N_("plugs"), N_("levers"), N_("cables"), N_("chain and sprockets"), N_("tank cap"), N_("extinguisher"), N_("mat"),
)  # fmt: skip
#: after something that changes how it runs: each step in its order
AFTER: dict[str, str] = {
    "heat_cycles": N_("Three heat cycles: warm it through at idle and half throttle, let it go cold, look for leaks."),
    "run_in": N_("Run it in as its maker says; no full throttle, changing revs, nothing held."),
    "slow_lap": N_("One slow lap: listen, feel the cases, look again at every bolt you touched."),
    "plug": N_("Plug check: a stretch at that opening, cut, clutch in, look. Light or pitted: richer, at once."),
    "full": N_("Only then full throttle, for short stretches first."),
}
MESSAGES: dict[str, str] = {
    "not_a_day": N_("A day, like 2027-04-02."),
    "watts_not_rising": N_("A generator gives more at higher revs."),
    "asked_twice": N_("The same thing is asked for twice."),
}


def thermostat_state(value: float) -> str:
    """Whether the thermostat is in, untranslated."""
    return N_("in") if value else N_("out")
