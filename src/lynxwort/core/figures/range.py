"""Figures of Range: fuel or charge, certainty, stops."""

from lynxwort.core.figures.spec import FigureSpec, told

FIGURES: dict[str, FigureSpec] = {
    "range.fuel_per_lap": told(
        "m^3",
        "fuel",
        "fuel of one lap at this jetting in the mean air, times the bike's factor, median",
        "lower",
        even_rel=0.003,
        card=4,
    ),
    "range.fuel_race": told("m^3", "fuel", "fuel of the whole race, median", "lower", even_rel=0.003, card=3),
    "range.fuel_wanted": told(
        "m^3",
        "fuel",
        "fuel aboard that finishes (or reaches every refuel point) with the wanted certainty, unusable fuel included",
        "lower",
        even_rel=0.003,
        card=1,
    ),
    "range.p_finish": told(
        "1",
        "share",
        "chance that what is aboard lasts to the finish or every refuel point",
        "higher",
        even_abs=0.002,
        card=2,
    ),
    "range.left_at_finish": told(
        "m^3", "fuel", "fuel left at the finish or the emptiest refuel point, median, unusable part included"
    ),
    "range.energy_per_lap": told(
        "J",
        "energy",
        "charge of one lap drawn from the pack, times the bike's factor, median",
        "lower",
        even_rel=0.003,
        card=7,
    ),
    "range.energy_race": told("J", "energy", "charge of the whole race, median", "lower", even_rel=0.003, card=6),
    "range.energy_wanted": told(
        "J",
        "energy",
        "charge aboard that finishes with the wanted certainty, the part not to be drawn included",
        "lower",
        even_rel=0.003,
        card=5,
    ),
    "range.energy_left": told(
        "J", "energy", "charge left at the finish, median, the part not to be drawn included", "higher", even_rel=0.003
    ),
    "range.energy_per_km": told(
        "J/m", "energy_rate", "charge per distance over the race, median", "lower", even_rel=0.003
    ),
    "range.k": told("1", "ratio", "this bike's factor on computed fuel, median", table=("range", "baseline")),
    "range.k_sd": told("1", "ratio", "spread of that factor, standard deviation of its logarithm"),
    "range.joint_risk": told(
        "1", "share", "chance that some leg runs dry: 1 - the chance to finish", "lower", even_abs=0.002
    ),
    "range.stops": told(
        "1", "count", "stops in force: as kept, else those of the quickest plan that meets the wanted certainty"
    ),
    "range.stop.1.distance": told("m", "distance", "race distance of the first stop in force"),
    "range.stop.1.fuel": told("m^3", "fuel", "fuel that the first stop in force is likely to take"),
    "range.arrival.finish": told(
        "s", "duration", "likely time from the start to the finish, standing and hand-overs counted"
    ),
    "range.crew_slack_min": told(
        "s", "duration", "least time that the crew has in hand before the rider comes, over all its drives", "higher"
    ),
    "range.fuel_per_km": told("m^3/m", "consumption", "fuel per distance over the race, median"),
    "range.distance_per_fuel": told("m/m^3", "economy", "distance per fuel over the race, median"),
    "range.fuel_per_hour": told(
        "m^3/s", "fuel_flow", "fuel per riding time over the race, median: slow ground is told by it"
    ),
    "range.unusable": told("m^3", "fuel", "fuel of the fitted tank that never reaches the engine"),
    "range.fuel_saved_by_next_fill_up": told(
        "m^3", "fuel", "how much less fuel would be wanted after one more known fill-up"
    ),
    "range.mass_full": told("kg", "mass", "bike with what it carries and the fuel at the start, no rider"),
    "range.sag_change_full_to_empty": told(
        "m", "preload", "rear race sag with the fuel at the start minus with the unusable fuel alone"
    ),
    "range.oil_tank_margin": told(
        "m^3",
        "fuel",
        "fuel that an oil tank of its own lasts for minus the fuel of the race, oil filled once",
        "higher",
        even_rel=0.01,
        table=(),
    ),
    "range.motor_hottest": told(
        "K",
        "temperature",
        "hottest that the motor's winding gets over the race, in the hottest hour",
        "lower",
        even_abs=1.0,
    ),
    "range.motor_holds": told(
        "1", "share", "share of the torque ridden that keeps the motor at its limit", "higher", even_abs=0.005
    ),
    "range.pack_hottest": told(
        "K", "temperature", "hottest that the pack gets between two swaps, in the hottest hour", "lower", even_abs=0.5
    ),
    "range.pack_holds": told(
        "1", "share", "share of the power ridden that keeps the pack at its limit", "higher", even_abs=0.005
    ),
}
