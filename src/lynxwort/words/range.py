"""Everything that Range says."""

from lynxwort.words import N_

FINDINGS: dict[str, tuple[str, str, str]] = {
    "may_run_dry": (
        N_("Finishes {range.p_finish}, wants {certainty}"),
        N_("finishes {range.p_finish}, wants {certainty}"),
        N_("{range.fuel_wanted} aboard would be {certainty} sure; {range.left_at_finish} left on an average day."),
    ),
    "no_tank_carries": (
        N_("No tank carries this race: {range.fuel_race}"),
        N_("no tank carries it"),
        N_("Such a bike takes {most_m3} at most. Add refuel points to the course: the stops are planned from them."),
    ),
    "no_pack_carries": (
        N_("No pack carries this race: {range.energy_race}"),
        N_("no pack carries it"),
        N_(
            "Such a bike takes {most_j} at most. Add places to swap to the course, and say how many packs there are: "
            "the swaps are planned from them."
        ),
    ),
    "lasts": (
        N_("Fuel lasts: {range.p_finish} sure"),
        N_("lasts, {range.p_finish} sure"),
        N_("{range.fuel_wanted} would do; {range.left_at_finish} left on an average day."),
    ),
    "may_run_dry_energy": (
        N_("Finishes {range.p_finish}, wants {certainty}"),
        N_("finishes {range.p_finish}, wants {certainty}"),
        N_("{range.energy_wanted} aboard would be {certainty} sure; {range.energy_left} left on an average day."),
    ),
    "lasts_energy": (
        N_("The charge lasts: {range.p_finish} sure"),
        N_("lasts, {range.p_finish} sure"),
        N_(
            "{range.energy_wanted} would do; {range.energy_left} left on an average day. "
            "{range.energy_per_km} over the race."
        ),
    ),
    "plan_runs_dry": (
        N_("The stops as planned finish {range.p_finish}, wants {certainty}"),
        N_("stops: {range.p_finish}, wants {certainty}"),
        N_("Some leg is filled for too little. The stop plan shows which, and the quickest plan that holds."),
    ),
    "packs_run_dry": (
        N_("The packs as they go round finish {range.p_finish}, wants {certainty}"),
        N_("packs: {range.p_finish}, wants {certainty}"),
        N_(
            "One comes back before it is charged enough. One pack more, a stronger charger or generator, a weaker "
            "power mode, or another passing to swap at."
        ),
    ),
    "packs_go_round": (
        N_("{range.stops} swaps; the emptiest pack goes out {least_share} full, at {race_m}"),
        N_("packs go round, {least_share} at least"),
        N_("Each is charged while the other is ridden, once it has rested. Some leg runs dry: {range.joint_risk}."),
    ),
    "motor_derates": (
        N_("Motor too hot at {race_m}: {range.motor_hottest}"),
        N_("motor hot at {race_m}"),
        N_(
            "Beyond {limit_k} its controller takes power back. Ridden with {range.motor_holds} of this torque it stays "
            "there: a weaker mode, lower gearing, less sand at full pull. The lap is reckoned without that loss."
        ),
    ),
    "pack_derates": (
        N_("Pack too hot at {race_m}: {range.pack_hottest}"),
        N_("pack hot at {race_m}"),
        N_(
            "Beyond {limit_k} its guard takes power back. Ridden with {range.pack_holds} of this power it stays there: "
            "a weaker mode, a larger pack, or a swap before. The lap is reckoned without that loss."
        ),
    ),
    "motor_near_limit": (
        N_("Motor near its limit at {race_m}: {range.motor_hottest}"),
        N_("motor near its limit"),
        N_("Its limit is taken as {limit_k}. Its sheet says its continuous power, and that narrows this."),
    ),
    "pack_near_limit": (
        N_("Pack near its limit at {race_m}: {range.pack_hottest}"),
        N_("pack near its limit"),
        N_("Its limit is taken as {limit_k}. Shade and moving air before the start help; ice water does not."),
    ),
    "stays_cool": (
        N_("Motor {range.motor_hottest}, pack {range.pack_hottest}: both keep their power"),
        N_("motor and pack stay cool"),
        N_("At the hottest of the race, in its hottest hour. The maker's limits stand above these assumed ones."),
    ),
    "stops_wanted": (
        N_("{range.stops} stops would do, the first at {range.stop.1.distance}"),
        N_("{range.stops} stops, first at {range.stop.1.distance}"),
        N_(
            "The least standing time that meets the wanted certainty over all legs together: {standing_time} in "
            "all. See the stop plan."
        ),
    ),
    "stops_kept": (
        N_("{range.stops} stops planned, the first at {range.stop.1.distance}"),
        N_("{range.stops} stops planned"),
        N_("Some leg runs dry with a chance of {range.joint_risk}; standing {standing_time} in all."),
    ),
    "marked_swapped": (
        N_("A marked wheel would be swapped for a rider"),
        N_("marked wheel would be swapped"),
        N_(
            "The event marks the wheels: who replaces a marked part is out. Leave the wheel in for all riders, or ask "
            "the organiser what is meant by a wheel. See Crew, what is turned for each."
        ),
    ),
    "turning_outlasts": (
        N_("Turning for a rider takes {turning_time}, a hand-over {hand_over_time}"),
        N_("turning outlasts a hand-over"),
        N_(
            "The clock waits for it where it happens. Who rides what was chosen with the shorter time: type the longer "
            "as the team's hand-over, or turn less. See Crew, what is turned for each."
        ),
    ),
    "extra_lap": (
        N_("Lap {lap} is possible: {chance_share}"),
        N_("lap {lap} possible"),
        N_(
            "The stops are planned for the likely laps. When there is time for one more, fill up once more as it "
            "begins: up to {more_m3}."
        ),
    ),
    "no_stop_needed": (
        N_("No stop is needed: {range.p_finish}"),
        N_("no stop needed"),
        N_("What is aboard at the start lasts as surely as wanted."),
    ),
    "no_stop_plan": (
        N_("No stop plan holds with this tank"),
        N_("no stop plan holds"),
        N_(
            "Filled up at all {passings} passings it would still not last as surely as wanted: a larger tank, "
            "more fuel at the start, or one more place to fuel."
        ),
    ),
    "crew_late": (
        N_("The crew cannot be at {at} in time"),
        N_("crew cannot reach a stop"),
        N_(
            "In lap {lap} it is ready {short_time} after the rider comes, by the drives you typed. A second car, "
            "another place, or the rider carries what is needed there."
        ),
    ),
    "crew_tight": (
        N_("The crew is at {at} only just in time"),
        N_("crew only just in time"),
        N_("In lap {lap} {short_time} in hand, by the drives you typed: one closed gate and it is late."),
    ),
    "stop_beyond": (
        N_("A planned stop lies beyond the last refuel point"),
        N_("a stop that is not there"),
        N_("This race has {passings} passings of a refuel point. Plan the stops anew."),
    ),
    "brimmed_cold": (
        N_("Filled cold, it would overflow by {over_m3} in the heat"),
        N_("do not brim a cold tank"),
        N_("Petrol grows by about a thousandth a kelvin (from memory). Leave that much room, or fill in the heat."),
    ),
}
CAUTIONS: dict[str, str] = {
    "may_run_dry": N_(
        "Fuel and its vapour burn: outdoors, engine cold, approved cans, nobody smoking. Do not brim a cold tank."
    ),
    "no_tank_carries": N_(
        "Fuel and its vapour burn: outdoors, engine cold, approved cans, nobody smoking. Fuel is carried in tanks only."
    ),
    "no_pack_carries": N_("High voltage can kill: a pack is swapped by who is trained for it; never open it."),
    "may_run_dry_energy": N_(
        "High voltage can kill: a pack is swapped and charged as its maker says, by who is trained for it; "
        "never open it, never charge a damaged or frozen pack."
    ),
    "packs_run_dry": N_(
        "High voltage can kill: a pack is swapped and charged as its maker says, by who is trained for it; "
        "never open it, never charge a damaged, hot or frozen pack."
    ),
    "packs_go_round": N_(
        "High voltage can kill: a pack is swapped and charged as its maker says, by who is trained for it; "
        "never open it, never charge a damaged, hot or frozen pack."
    ),
    "pack_derates": N_(
        "A pack that smells, swells or smokes: away from it, outdoors, and call the fire service. Never charge it hot."
    ),
    "motor_derates": N_("Motor, controller and brake are hot enough to burn skin."),
    "lasts_energy": N_("High voltage can kill: charge and swap the pack as its maker says; never open it."),
    "stops_wanted": N_(
        "Engine off, outdoors, approved cans, nobody smoking, an extinguisher at hand. The organiser's refuelling "
        "rules stand above the plan."
    ),
    "stops_kept": N_(
        "Engine off, outdoors, approved cans, nobody smoking, an extinguisher at hand. The organiser's refuelling "
        "rules stand above the plan."
    ),
    "brimmed_cold": N_("Spilt fuel on a hot pipe burns."),
    "plan_runs_dry": N_(
        "Engine off, outdoors, approved cans, nobody smoking, an extinguisher at hand. The organiser's refuelling "
        "rules stand above the plan."
    ),
}
FIGURE_NAMES: dict[str, str] = {
    "range.energy_per_lap": N_("Charge per lap"),
    "range.energy_race": N_("Charge, whole race"),
    "range.energy_wanted": N_("Charge wanted"),
    "range.energy_per_km": N_("Charge per distance"),
    "range.energy_left": N_("Charge left at the end"),
    "range.motor_hottest": N_("Motor, hottest"), "range.motor_holds": N_("Torque the motor holds"),
    "range.pack_hottest": N_("Pack, hottest"), "range.pack_holds": N_("Power the pack holds"),
    "range.k": N_("Burns, against the model"),
    "range.k_sd": N_("Spread of that"),
    "range.fuel_per_lap": N_("Fuel per lap"),
    "range.fuel_race": N_("Fuel, whole race"),
    "range.fuel_wanted": N_("Fuel wanted"),
    "range.p_finish": N_("Finishes"),
    "range.left_at_finish": N_("Left at the end"),
    "range.joint_risk": N_("Runs dry somewhere"), "range.stops": N_("Stops"),
    "range.stop.1.distance": N_("First stop at"), "range.stop.1.fuel": N_("Taken at the first stop"),
    "range.arrival.finish": N_("At the finish after"), "range.fuel_per_km": N_("Consumption"),
    "range.crew_slack_min": N_("Crew has in hand"),
    "range.distance_per_fuel": N_("Distance per fuel"), "range.fuel_per_hour": N_("Fuel per hour"),
    "range.unusable": N_("Fuel that stays in the tank"),
    "range.fuel_saved_by_next_fill_up": N_("The next fill-up saves"), "range.mass_full": N_("Bike with its fuel"),
    "range.sag_change_full_to_empty": N_("Rear sag, full to empty"),
}  # fmt: skip
REASONS: dict[str, str] = {
    "no_drive": N_("no drive of the crew was typed"),
    "no_refuel_point": N_("this race has no refuel point"),
    "no_stop": N_("no stop is needed"),
}
TUNABLE_NAMES: dict[str, str] = {"stops": N_("Stops"), "turned": N_("Turned for each rider")}
MESSAGES: dict[str, str] = {
    "relay_nobody": N_("By these rules some lap is left to nobody: more riders, longer stints or less rest."),
    "relay_alone": N_("A relay needs two riders or more."),
    "gap_beyond_hours": N_("The class would start when the race is over: ten minutes must be left to ride."),
    "turned_twice": N_("Each rider stands once among what is turned."),
    "turned_beyond": N_("One rider's settings go beyond what this bike has: its clicks, wheels or spacers."),
    "stops_not_in_order": N_("Stops stand in the order in which they are passed."),
    "put_too_little": N_("That is less than it takes to reach the level: more than {low} must have gone in."),
    "tank_under_unusable": N_("More stays in this tank than it holds."),
    "not_a_tank_line": N_(
        "Write a tank as name; litres; litres that stay; share on the front wheel; kg heavier; cost; minutes."
    ),
    "not_a_pack_line": N_(
        "Write a pack as name; kWh, or volts x ampere hours; kg; share on the rear wheel; mm the seat rises; "
        "cost; minutes."
    ),
    "not_a_passing": N_("This race has no such passing of a refuel point."),
    "drive_nowhere": N_("A drive leads from one place to another."),
    "driven_twice": N_("Each drive is said once; there and back count the same."),
    "not_on_the_sheet": N_("This is no row of the sheet, or no hour. Load the page anew."),
}
#: moments of the race on the clock
#: what an event may mark -> what it is called
MARKED_WORDS: dict[str, str] = {
    "frame": N_("frame"), "engine": N_("engine cases"), "cylinder": N_("cylinder"), "wheels": N_("wheels"),
    "fork": N_("fork legs"), "swingarm": N_("swingarm"), "silencer": N_("silencer"), "control_box": N_("control box"),
}  # fmt: skip
MOMENTS: dict[str, str] = {
    "start": N_("start"), "refuel": N_("fuel"), "crew": N_("crew"), "hand_over": N_("hand-over"),
    "work": N_("work on the bike"), "park": N_("closed park"),
    "finish": N_("finish"), "swap": N_("pack"),
}  # fmt: skip
LIGHTS: dict[str, str] = {"day": N_("day"), "twilight": N_("twilight"), "dark": N_("dark")}
