"""Figures of Chassis: loads, sags, springs, heights, clearances, pressures."""

from lynxwort.core.figures.spec import FigureSpec, told

FIGURES: dict[str, FigureSpec] = {
    "chassis.rear.preload_turns": told(
        "1", "factor", "turns of the shock's ring from where it is to what suits the present spring, + = in"
    ),
    "chassis.front.preload_turns": told(
        "1", "factor", "turns of the fork's adjuster from where it is to what suits the present spring, + = in"
    ),
    "chassis.rear.rate_true": told("N/m", "spring_rate", "true rate of the shock spring as the sags say it"),
    "chassis.front.rate_true": told("N/m", "spring_rate", "true rate of one fork spring as the sags say it"),
    "chassis.rear.friction_band": told(
        "m", "travel", "half of how far apart the rear settles from above and below", "lower", even_abs=0.0005
    ),
    "chassis.front.friction_band": told(
        "m", "travel", "half of how far apart the fork settles from above and below", "lower", even_abs=0.0005
    ),
    "chassis.front.preload_wanted": told("m", "preload", "fork preload that goes with the wanted rate"),
    "chassis.front.air_pressure_wanted": told(
        "Pa",
        "tyre_pressure",
        "main chamber of an air-sprung fork that meets race sag (and free sag with a balance chamber)",
    ),
    "chassis.front.balance_pressure_wanted": told(
        "Pa", "tyre_pressure", "balance chamber of an air-sprung fork that goes with it"
    ),
    "chassis.front.race_sag_unbled": told(
        "m", "travel", "fork race sag at the start line with the legs still closed as at home"
    ),
    "chassis.cg_height": told("m", "length", "height of the centre of gravity, rider aboard, what rides along counted"),
    "chassis.balance": told("1", "ratio", "front ride frequency / rear ride frequency at race sag"),
    "chassis.climb_front_share": told(
        "1", "share", "share of the weight on the front wheel on the steepest climb as ridden", "higher", even_abs=0.005
    ),
    "chassis.braking_front_share": told(
        "1",
        "share",
        "share of the weight on the front wheel at the hard brakings of the lap as ridden, mean of the hardest tenth",
        "lower",
        even_abs=0.005,
    ),
    "chassis.front.clamp_clearance": told(
        "m", "travel", "front tyre to the lower clamp at full travel", "higher", even_abs=0.0005
    ),
    "chassis.front.radiator_clearance": told(
        "m", "travel", "front tyre to the radiators at full travel", "higher", even_abs=0.0005
    ),
    "chassis.front.bar_clearance": told("m", "travel", "tops of the fork tubes to the bars", "higher", even_abs=0.0005),
    "chassis.rear.guard_clearance": told(
        "m", "travel", "rear tyre to the guard at full travel", "higher", even_abs=0.0005
    ),
    "chassis.rear.seat_clearance": told(
        "m", "travel", "rear tyre to the base of the seat at full travel", "higher", even_abs=0.0005
    ),
    "chassis.rear.exhaust_clearance": told(
        "m", "travel", "rear tyre to the exhaust at full travel", "higher", even_abs=0.0005
    ),
    "chassis.seat_to_peg": told("m", "travel", "seat to pegs, the rider's knee"),
    "chassis.seat_to_bar": told("m", "travel", "seat to grips"),
    "chassis.peg_to_bar": told("m", "travel", "pegs to grips, standing"),
    "chassis.side_stand_cut": told("m", "travel", "what to take off the side stand for the same lean, + = shorter"),
    "chassis.rake": told(
        "rad",
        "tilt",
        "angle of the steering axis from the vertical, rider aboard, race sag at half the fill",
        even_abs=0.001,
    ),
    "chassis.trail": told(
        "m", "travel", "trail on the ground, rider aboard, race sag at half the fill", even_abs=0.0005
    ),
    "chassis.wheelbase": told(
        "m",
        "length",
        "axle to axle, rider aboard, race sag at half the fill, axle where these sprockets and the chain put it",
    ),
    "chassis.seat_height": told(
        "m", "travel", "seat above the ground, rider aboard, race sag at half the fill", "lower", even_abs=0.002
    ),
    "chassis.ground_clearance": told(
        "m",
        "travel",
        "lowest part between the wheels above the ground, rider aboard, race sag at half the fill",
        "higher",
        even_abs=0.002,
    ),
    "chassis.reach_margin": told(
        "m",
        "travel",
        "what is left of the leg beside the seat when the foot is flat on the ground, rider aboard",
        "higher",
        even_abs=0.002,
    ),
    "chassis.front.tyre_guard_clearance": told(
        "m", "travel", "front tyre to the guard at full travel", "higher", even_abs=0.0005
    ),
    "chassis.anti_squat": told(
        "1",
        "share",
        "share of the load transfer under drive that chain and swingarm carry, race sag, present sprockets",
    ),
    "chassis.rear.frequency": told("1/s", "frequency", "undamped ride frequency of the rear at race sag"),
    "chassis.front.frequency": told("1/s", "frequency", "undamped ride frequency of the front at race sag"),
    "chassis.rear.bottoming_drop": told(
        "m", "travel", "height of a flat drop that just uses all rear travel, springs alone", "higher", even_abs=0.005
    ),
    "chassis.front.bottoming_drop": told(
        "m",
        "travel",
        "height of a flat drop that just uses all fork travel, springs and moving air alone",
        "higher",
        even_abs=0.005,
    ),
    "chassis.tyre_pressure_at_start": told(
        "Pa", "tyre_pressure", "rear tyre by the gauge at the start line in the mean air, as set at home"
    ),
    "chassis.tyre_pressure_front_at_start": told(
        "Pa", "tyre_pressure", "front tyre by the gauge at the start line in the mean air, as set at home"
    ),
    "chassis.fork_pressure_at_start": told(
        "Pa", "tyre_pressure", "air in sealed fork legs above the outside at the start line, closed level at home"
    ),
    "chassis.rear.race_sag": told(
        "m",
        "travel",
        "vertical sag at the rear axle, rider in position, half the fill",
        "band",
        even_abs=0.0005,
        table=("chassis", "baseline"),
        card=12,
    ),
    "chassis.rear.free_sag": told(
        "m",
        "travel",
        "vertical sag at the rear axle, bike alone, half the fill",
        "band",
        even_abs=0.0005,
        table=("chassis", "baseline"),
        card=13,
    ),
    "chassis.front.race_sag": told(
        "m", "travel", "fork sag along the leg, rider in position, half the fill", "band", even_abs=0.0005, card=14
    ),
    "chassis.front.free_sag": told(
        "m", "travel", "fork sag along the leg, bike alone, half the fill", "band", even_abs=0.0005
    ),
    "chassis.rear.spring_rate_wanted": told(
        "N/m",
        "spring_rate",
        "middle of the shock spring rates sold that meet both sag bands with a preload that exists",
    ),
    "chassis.rear.preload_wanted": told("m", "preload", "shock preload that goes with the wanted rate"),
    "chassis.front.spring_rate_wanted": told(
        "N/m",
        "spring_rate",
        "middle of the fork spring rates sold, each of two, that meet both sag bands with a preload that exists",
    ),
    "chassis.rear.race_sag_full": told("m", "travel", "as race_sag, fuel as filled"),
    "chassis.rear.race_sag_empty": told("m", "travel", "as race_sag, no fuel"),
    "chassis.front.race_sag_full": told("m", "travel", "as race_sag, fuel as filled"),
    "chassis.front.race_sag_empty": told("m", "travel", "as race_sag, no fuel"),
    "chassis.axle_load.front": told("kg", "mass", "mass on the front wheel, rider aboard, fuel as filled"),
    "chassis.axle_load.rear": told("kg", "mass", "mass on the rear wheel, rider aboard, fuel as filled"),
    "chassis.axle_load.front_half": told("kg", "mass", "mass on the front wheel, rider aboard, half the fill"),
    "chassis.axle_load.rear_half": told("kg", "mass", "mass on the rear wheel, rider aboard, half the fill"),
    "chassis.axle_load.front_empty": told("kg", "mass", "mass on the front wheel, rider aboard, no fuel"),
    "chassis.axle_load.rear_empty": told("kg", "mass", "mass on the rear wheel, rider aboard, no fuel"),
}
