"""What a rider feels of the mixture and sees on the plug, and what it may come from."""

from lynxwort.words import N_

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
