"""The checks of the gate in words."""

from lynxwort.words import N_

#: check -> its name, how it is done, what a fail is
CHECKS: dict[str, tuple[str, str, str]] = {
    "frame": (
        N_("Frame, pegs, bolts"),
        N_(
            "Wash it. Look along welds, peg mounts, subframe and engine mounts; rust lines and "
            "lifted paint show cracks."
        ),
        N_("A crack, or an engine bolt loose or gone."),
    ),
    "throttle": (
        N_("Throttle, kill switch"),
        N_("Engine off: open and let go with the bar left, right and straight. Then start it and press the switch."),
        N_("It sticks, comes back slowly, or the switch does not stop the engine."),
    ),
    "brakes": (
        N_("Brakes"),
        N_("Pull hard for ten seconds. Look at lever, fluid, hoses, pads, rotors and their bolts."),
        N_(
            "The lever comes to the bar or sinks, fluid shows, a pad is down to 1 mm, a rotor under its stamp or loose."
        ),
    ),
    "spokes": (
        N_("Spokes and rim"),
        N_("Spin the wheel past a fixed point; feel every spoke; look round each nipple hole. Number: the run-out."),
        N_("Three loose in a row, a dead one, a crack, or 4 mm of run-out; 2 mm is looked at."),
    ),
    "air_leak": (
        N_("No air leak"),
        N_(
            "Close the exhaust and intake. Hand pump with a gauge to 0.4 bar, never over 0.5: more pushes seals out. "
            "Soapy water on boots, base, seals. Number: lost in a minute."
        ),
        N_("It loses more than 0.05 bar in a minute."),
    ),
    "compression": (
        N_("Compression"),
        N_("Warm, throttle open, battery full, decompressor known; ignition made safe. Then leak-down if it fell."),
        N_("A fifth below what this gauge read before, or more than a quarter leaks down."),
    ),
    "filter": (
        N_("Filter and airbox"),
        N_("Filter out: look for a grease line all round the seal, and wipe the boot inside with a white cloth."),
        N_("Dust past the filter. Then look at the piston before anything else."),
    ),
    "fuel_flow": (
        N_("Fuel flow, float, vent"),
        N_(
            "Cold, in the open, no flame or spark near: run the tap into a measured can; float by "
            "the manual; vent free."
        ),
        N_("Less than 1.1 times what full throttle wants, or the float off its height."),
    ),
    "head_bearing": (
        N_("Head bearing"),
        N_("Front wheel off the ground: turn slowly from stop to stop, then pull the fork legs to and fro."),
        N_("A notch in the middle, or play."),
    ),
    "other_bearings": (
        N_("Wheels, swingarm, linkage"),
        N_(
            "On a stand: rock each wheel at the rim, push the swingarm sideways, lift the rear "
            "wheel. Number: play at the rim."
        ),
        N_("Play over 0.5 mm at the rim, or felt in swingarm or linkage."),
    ),
    "fork_straight": (
        N_("Fork straight"),
        N_(
            "Axle out: it slides through both legs by hand. Roll each tube on a flat plate. Number: how far it is bent."
        ),
        N_("Bent by more than 0.2 mm, or the axle does not slide."),
    ),
    "fork_seals": (
        N_("Fork seals"),
        N_("Clean the tubes, push through ten times, wipe with a finger."),
        N_("Oil on the tube."),
    ),
    "shock_seal": (
        N_("Shock seal and gas"),
        N_(
            "Push the seat down, let go. Gas in it is under high pressure: it is opened and filled "
            "by licensed hands only."
        ),
        N_("Oil at the shaft, or the shaft does not come back."),
    ),
    "sag_settles": (
        N_("Sag settles"),
        N_("Measure sag after pushing down, then after lifting. Number: how far the two lie apart."),
        N_("More than 20 mm apart: something sticks."),
    ),
    "chain": (
        N_("Chain and sprockets"),
        N_(
            "Engine off, never near a turning wheel: pull the chain off the back of the sprocket, "
            "feel for tight spots, look at teeth."
        ),
        N_("Stretched by 1.7 %, a tight spot, a hooked tooth, a worn cush drive."),
    ),
    "tyres": (
        N_("Tyre pressures, age"),
        N_("Cold, by the gauge you set up with. Look at the date and for cuts. Number: how far off the set pressure."),
        N_("Off by 0.3 bar; 0.15 is looked at."),
    ),
    "coolant": (
        N_("Coolant"),
        N_("Cold only: hot it is under pressure and scalds. Level, hoses, pump's drain hole, cap's seal."),
        N_("It loses coolant, or the cap does not hold."),
    ),
    "charging": (
        N_("Charging"),
        N_("In the open, engine warm, 5000 rpm, volts at the battery. Number: volts."),
        N_("Under 13.8 or over 14.8 V."),
    ),
    "valves": (
        N_("Valves in clearance"),
        N_("Cold, at top dead centre, by the manual. Write each down under Wear."),
        N_("One under its limit."),
    ),
    "cables": (
        N_("Cables not chafed"),
        N_(
            "Pack off and locked out by the manual. Look at every orange cable where it bends or "
            "touches. Do not open anything."
        ),
        N_("Chafed, cut or pinched. Only licensed hands mend high voltage."),
    ),
    "lanyard": (
        N_("Kill lanyard"),
        N_("Rear wheel off the ground: switch on, pull the lanyard, try the throttle."),
        N_("The motor still turns."),
    ),
    "pack_mounts": (
        N_("Pack mounts"),
        N_("Lift and shake the pack; look at its bolts and paint marks."),
        N_("It moves."),
    ),
    "connector": (
        N_("Connector and latch"),
        N_("Switched off: latch closes by itself, no brown or melted spot, no water."),
        N_("The latch is loose, or anything burnt or wet. Do not switch it on."),
    ),
    "cells": (
        N_("Cells even"),
        N_("From the pack's own display, at rest and after a hard climb. Number: highest less lowest, in volts."),
        N_("More than 0.05 V apart; 0.03 is looked at."),
    ),
    "motor_bolts": (
        N_("Motor, controller bolts"),
        N_("Look at paint marks; spanner on, do not turn what is locked."),
        N_("One moved."),
    ),
    "papers": (
        N_("Papers"),
        N_("Frame and engine numbers against the papers, proof of sale, no stamp ground off."),
        N_("A number that does not match: walk away, ask the authority."),
    ),
    "claimed": (
        N_("Hours against wear"),
        N_("Pegs, grips, lever ends, chain, rotors: do they look as old as the hours claimed?"),
        N_("Far more worn than claimed."),
    ),
    "plug": (
        N_("Spark plug"),
        N_("Out and read it: colour, metal specks, thread."),
        N_("Metal on it, or a stripped thread."),
    ),
    "borescope": (
        N_("Piston by borescope"),
        N_("Plug out, piston down: skirt and bore all round, for cracks and scuffs. Take a picture."),
        N_("A crack in the skirt, a scuff, a broken ring land."),
    ),
    "crank_play": (
        N_("Crank, two ways"),
        N_("At top dead centre push the piston down, then rock the rod sideways; hold the crank's end and lift."),
        N_("Any up and down that is felt; side play over the manual's."),
    ),
    "oil_magnet": (N_("Oil through a magnet"), N_("Drain it warm through a magnet and a paint filter."), N_("Flakes.")),
    "bolts_paint": (
        N_("Bolts"),
        N_("Heads rounded, threads stripped, marks moved, wrong bolts."),
        N_("One that carries is wrong or stripped."),
    ),
}

RESULTS: dict[str, str] = {"pass": N_("Sound"), "look": N_("Look again"), "fail": N_("Failed")}
LAPSED: dict[str, str] = {
    "hours": N_("passed, ten hours ago or more"),
    "crash": N_("passed, but it fell since"),
    "day": N_("passed for another day"),
    "work": N_("passed, but it was worked on since"),
}
