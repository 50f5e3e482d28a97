"""Quantities by name, and the words of the trade: what each means, what else riders call it, where it is worked at.

Meanings by common practice, no source.
"""

from lynxwort.words import N_
from lynxwort.words.explained.parts import PARTS
from lynxwort.words.explained.term import Term

#: kinds of quantity as a page names them
QUANTITIES: dict[str, str] = {
    "mass": N_("Weight"), "length": N_("Length of bike or rider"), "travel": N_("Travel, sag, clearance"),
    "preload": N_("Preload, small lengths"), "bore": N_("Bores and needles"), "span": N_("Whoops"),
    "stretch": N_("A stretch of ground"), "height": N_("Height above the sea"), "distance": N_("Distance"),
    "ribbon": N_("Place on the course"), "speed": N_("Speed"), "volume": N_("What a tank holds"),
    "fuel": N_("Fuel poured or left"), "oil": N_("Oil"), "engine_size": N_("Engine size"), "power": N_("Power"),
    "torque": N_("Torque"), "rpm": N_("Revs"), "spring_rate": N_("Spring rate"), "pressure": N_("Air pressure"),
    "tyre_pressure": N_("Tyre and fork pressure"), "temperature": N_("Temperature"), "minutes": N_("Minutes"),
    "hours": N_("Hours"), "seconds": N_("Seconds"), "ratio": N_("Ratios"), "number": N_("Jets, turns, premix"),
    "count": N_("Teeth, clicks, links"), "factor": N_("Factors"), "share": N_("Shares"),
    "richness": N_("Richer or leaner by"), "grade": N_("Grade of a hill"), "bearing": N_("Where the wind comes from"),
    "angle": N_("Angles"), "energy": N_("What a pack holds"), "charge": N_("What a battery holds"),
    "voltage": N_("Volts"), "watts": N_("Watts"), "amps": N_("Amperes"), "force": N_("Force"),
    "decibel": N_("Loudness"), "engine_hours": N_("Hours of the engine"), "clearance": N_("Clearances and gaps"),
    "compression": N_("Compression"), "bolt_torque": N_("Torque of a bolt"), "cell_volts": N_("Volts between cells"),
    "seep": N_("What leaks by the hour"),
}  # fmt: skip


TERMS: dict[str, Term] = {
    "race_sag": Term(
        N_("race sag"),
        N_("How far an end sinks with the rider aboard, from topped out."),
        N_("rider sag, sag, laden sag"),
        "chassis/sag/rear",
    ),
    "free_sag": Term(
        N_("free sag"),
        N_("How far an end sinks under the bike alone."),
        N_("static sag, unladen sag, bike sag"),
        "chassis/sag/rear",
    ),
    "preload": Term(
        N_("preload"),
        N_("How far a spring is squeezed with the wheel hanging."),
        N_("collar, ring, spacer"),
        "chassis/springs",
    ),
    "spring_rate": Term(
        N_("spring rate"),
        N_("Force for each millimetre that a spring gives."),
        N_("spring stiffness, spring weight"),
        "chassis/springs",
    ),
    "bottoming": Term(
        N_("bottoming"), N_("All travel is used and metal meets."), N_("bottom out, clank, bang at the end"), "damping"
    ),
    "packing": Term(
        N_("packing"),
        N_("Rebound too slow: the wheel does not come back before the next bump, and rides lower and lower."),
        N_("pack down, jack down, harsh after some bumps"),
        "damping",
    ),
    "kicking": Term(
        N_("kicking"),
        N_("Rebound too fast, or compression too hard at speed: an end is thrown up."),
        N_("kick, buck, swap"),
        "damping/felt",
    ),
    "compression": Term(
        N_("compression"), N_("Damping while an end sinks."), N_("comp, bump damping"), "damping/valving/shock"
    ),
    "rebound": Term(
        N_("rebound"), N_("Damping while an end comes back."), N_("tension, return"), "damping/valving/shock"
    ),
    "clicks": Term(
        N_("clicks"),
        N_("Steps of an adjuster, counted out from closed."),
        N_("clickers, adjuster, turns out"),
        "damping/clicks",
    ),
    "shim_stack": Term(
        N_("shim stack"),
        N_("Thin plates on a piston that bend to let oil through."),
        N_("shims, valving, stack, revalve"),
        "damping/valving/shock",
    ),
    "mid_valve": Term(
        N_("mid-valve"),
        N_("The stack on a fork's rod that damps compression too."),
        N_("midvalve, check valve"),
        "damping/valving/shock",
    ),
    "oil_level": Term(
        N_("oil level"),
        N_("Air gap over a fork's oil: less air, stiffer at the end."),
        N_("oil height, air gap, fork oil"),
        "chassis",
    ),
    "trail": Term(
        N_("trail"),
        N_("How far the front tyre touches behind the steering axis: more is calmer."),
        N_("stability, headshake"),
        "chassis",
    ),
    "rake": Term(
        N_("rake"),
        N_("Angle of the steering from the vertical."),
        N_("head angle, fork angle, steering angle"),
        "chassis",
    ),
    "offset": Term(
        N_("offset"),
        N_("How far the clamps hold the fork before the steering axis."),
        N_("triple clamps, yokes"),
        "chassis",
    ),
    "linkage": Term(
        N_("linkage"),
        N_("Levers between wheel and shock that change its ratio along the travel."),
        N_("link, rising rate, rocker, dogbone"),
        "chassis",
    ),
    "side_stand": Term(
        N_("feet on the ground"),
        N_("How far feet reach down from the seat."),
        N_("tiptoe, short legs, lowering, seat height, reach"),
        "chassis/feet",
    ),
    "main_jet": Term(
        N_("main jet"), N_("The bore that meters fuel at full throttle."), N_("main, MJ"), "fuelling/jets"
    ),
    "pilot_jet": Term(
        N_("pilot jet"),
        N_("The bore that meters fuel at closed to an eighth."),
        N_("slow jet, idle jet, PJ"),
        "fuelling/jets",
    ),
    "needle": Term(
        N_("needle"),
        N_("Tapered rod in the slide: fuel from a quarter to three quarters."),
        N_("jet needle, clip, groove"),
        "fuelling/jets",
    ),
    "air_screw": Term(
        N_("air screw"),
        N_("Meters air to the pilot: in is richer. On the engine's side it is a fuel screw: out is richer."),
        N_("mixture screw, idle screw, fuel screw"),
        "fuelling/jets",
    ),
    "metering_rod": Term(
        N_("metering rod"), N_("One rod instead of needle and jets, set by a knob."), N_("rod, knob"), "fuelling"
    ),
    "richness": Term(
        N_("richness"),
        N_("Fuel for the air against the pair that ran right."),
        N_("mixture, AFR, air-fuel ratio, jetting, fuelling"),
        "fuelling",
    ),
    "lean": Term(
        N_("lean"),
        N_("Too little fuel for the air: hot, and it can seize. Go richer first."),
        N_("weak, pinging, hanging revs, white plug"),
        "fuelling/diagnose",
    ),
    "rich": Term(
        N_("rich"),
        N_("More fuel than it burns: it blubbers and fouls."),
        N_("fat, four-stroking, blubber, black plug, loads up"),
        "fuelling/diagnose",
    ),
    "bog": Term(
        N_("bog"),
        N_("It falters when the throttle is opened at once."),
        N_("hesitation, flat spot, stumble"),
        "fuelling/diagnose",
    ),
    "premix": Term(
        N_("premix"),
        N_("Oil mixed into the fuel of a two-stroke, as parts of fuel to one of oil."),
        N_("mix, oil ratio, pre-mix, 50:1"),
        "range/pump",
    ),
    "power_valve": Term(
        N_("power valve"),
        N_("Opens the exhaust port with the revs."),
        N_("exhaust valve, preload of the valve"),
        "fuelling",
    ),
    "detonation": Term(
        N_("detonation"),
        N_("Mixture that goes off by itself: it breaks pistons."),
        N_("knock, pinging, pinking"),
        "fuelling",
    ),
    "air_density": Term(
        N_("air density"),
        N_("How much air a litre holds: less when high, hot or damp."),
        N_("altitude, density altitude, RAD"),
        "fuelling/jets",
    ),
    "final_drive": Term(
        N_("final drive"),
        N_("Rear teeth over front teeth: more is shorter."),
        N_("gearing, sprockets, geared down, ratio"),
        "drive/sprockets",
    ),
    "crawl": Term(
        N_("crawl"), N_("Slowest speed in first gear at idle, clutch home."), N_("walking speed, lugging"), "drive"
    ),
    "pull": Term(
        N_("pull"),
        N_("Force at the rear wheel against hill, ground and air."),
        N_("thrust, tractive force, does it pull"),
        "drive",
    ),
    "shake": Term(
        N_("shaking revs"), N_("The revs at which bars and pegs buzz."), N_("vibration, buzz"), "drive/sprockets"
    ),
    "chain": Term(
        N_("chain"), N_("Links, play, and where the axle comes to lie."), N_("slack, links, slider"), "drive/chain"
    ),
    "roll_out": Term(
        N_("roll-out"),
        N_("Way for one turn of the rear wheel, rider aboard."),
        N_("rolling circumference, wheel size"),
        "baseline/readings",
    ),
    "range": Term(
        N_("range"),
        N_("How far what is aboard lasts, and how sure."),
        N_("fuel, tank, mileage, consumption, battery life"),
        "range",
    ),
    "tank": Term(
        N_("tank"),
        N_("What holds fuel, and what stays in it."),
        N_("big tank, desert tank, saddle tank, reserve"),
        "range/holders",
    ),
    "pit": Term(
        N_("stop"),
        N_("Where fuel is poured or a pack is changed."),
        N_("pit, pit stop, refuel, gas stop"),
        "range/stops",
    ),
    "leg": Term(
        N_("leg"),
        N_("What one rider rides between two hand-overs."),
        N_("stint, turn, relay, ironman, team"),
        "range/crew",
    ),
    "unsprung": Term(N_("unsprung mass"), N_("What moves with a wheel."), N_("wheel weight"), "kit/wheels"),
    "mousse": Term(
        N_("foam insert"),
        N_("Foam instead of a tube: no flats, a speed and a load it was made for."),
        N_("mousse, bib, foam"),
        "kit/wheels",
    ),
    "rotor": Term(
        N_("rotor"),
        N_("Brake disc: larger pulls harder for the same squeeze and stays cooler."),
        N_("disc, brake disk, oversize disc"),
        "kit/brakes",
    ),
    "boiling": Term(
        N_("boiling"),
        N_("Coolant or brake fluid that turns to vapour."),
        N_("overheating, steam, fade, lever to the bar"),
        "kit/cooling",
    ),
    "generator": Term(
        N_("generator"), N_("Makes watts from revs."), N_("stator, alternator, magneto, charging"), "kit/electrics"
    ),
    "silencer": Term(
        N_("silencer"),
        N_("Quietens the exhaust; an insert changes mixture and torque."),
        N_("muffler, spark arrestor, dB, noise, sound"),
        "kit/sound",
    ),
    "draft": Term(N_("draft"), N_("What you changed and did not keep yet."), N_("changes, undo"), ""),
    "keep": Term(N_("keep"), N_("Makes the draft the bike's next numbered setup."), N_("save, store"), ""),
    "reading": Term(
        N_("reading"),
        N_("Something measured, which pulls the answers towards this bike."),
        N_("measurement, calibrate, log"),
        "baseline/readings",
    ),
    "finding": Term(
        N_("finding"),
        N_("What a station says: to act on, to look at, settled or unknown."),
        N_("warning, advice, problem"),
        "",
    ),
    "notch": Term(
        N_("notch"), N_("The smallest step a hand makes: a tooth, a jet, a click."), N_("step, adjustment"), ""
    ),
    "must": Term(
        N_("rules of the day"),
        N_("What the event asks for, ticked with day and paper."),
        N_("scrutineering, tech inspection, regulations, street legal"),
        "kit/sound",
    ),
    "pit_card": Term(
        N_("pit card"), N_("One page for the start line and the pits."), N_("cheat sheet, print, setup sheet"), "card"
    ),
    "gate": Term(
        N_("gate"),
        N_("The checks before anything is tuned. What fails takes back the answers that rest on it."),
        N_("inspection, pre-ride check, safety check, scrutineering"),
        "baseline/gate",
    ),
    "engine_hours": Term(
        N_("engine hours"),
        N_("How long the engine ran, by its meter or by the rides; each part counts its own."),
        N_("hour meter, service interval, maintenance, piston hours, rebuild"),
        "baseline/service",
    ),
    "leak_down": Term(
        N_("leak-down"),
        N_("Air let into a closed cylinder: how much gets out, and where it hisses."),
        N_("compression test, cylinder leakage, blow-by"),
        "baseline/service/wear",
    ),
    "paint_mark": Term(
        N_("paint mark"),
        N_("A line over a bolt's head and what it holds: broken, the bolt moved."),
        N_("witness mark, torque stripe, threadlocker, torque list, bolts"),
        "baseline/service/bolts",
    ),
} | PARTS
