"""Everything that Chassis says."""

from lynxwort.words import N_

FINDINGS: dict[str, tuple[str, str, str]] = {
    "sag_right": (
        N_("{end}: both sags right"),
        N_("{end} sag right"),
        N_("Race {chassis.END.race_sag}, free {chassis.END.free_sag}: inside both bands."),
    ),
    "preload_off": (
        N_("{end} preload is off"),
        N_("{end} preload off"),
        N_(
            "Race {chassis.END.race_sag}, free {chassis.END.free_sag}. This spring can meet both bands with "
            "another preload. {first}"
        ),
    ),
    "spring_soft": (
        N_("{end} spring too soft"),
        N_("{end} spring too soft"),
        N_(
            "Race {chassis.END.race_sag}, free {chassis.END.free_sag}. With race sag set, free sag comes out "
            "too small: {softest_rate} to {stiffest_rate} meets both. {first}"
        ),
    ),
    "spring_stiff": (
        N_("{end} spring too stiff"),
        N_("{end} spring too stiff"),
        N_(
            "Race {chassis.END.race_sag}, free {chassis.END.free_sag}. With race sag set, free sag comes out "
            "too large: {softest_rate} to {stiffest_rate} meets both. {first}"
        ),
    ),
    "load_wants_spring": (
        N_("{end}: the load aboard takes travel in hand"),
        N_("load asks for {end} spring"),
        N_(
            "With {load_kg} there a drop of {with_drop_m} uses all travel, without it {without_drop_m}. Both "
            "sags may be right and it still bottoms: a spring stiffer by the load. {first}"
        ),
    ),
    "fuel_moves_sag": (
        N_("Fuel moves rear sag {change_m}"),
        N_("fuel moves sag {change_m}"),
        N_(
            "{chassis.rear.race_sag_full} on a full fill, {chassis.rear.race_sag_empty} empty. Bands are "
            "judged at half."
        ),
    ),
    "stance_read": (
        N_("{chassis.rake} of rake, {chassis.trail} of trail"),
        N_("rake {chassis.rake}, trail {chassis.trail}"),
        N_(
            "At race sag, wheelbase {chassis.wheelbase}. Chain and swingarm carry {chassis.anti_squat} of the "
            "squat with these sprockets."
        ),
    ),
    "trail_short": (
        N_("Only {chassis.trail} of trail for a fast course"),
        N_("little trail for the speed"),
        N_(
            "Up to {fast_speed} by the model. Under about 95 mm a bike may shake its head. Tubes lower in the "
            "clamps or the rear lower give trail."
        ),
    ),
    "part_touches": (
        N_("{what}: {left_travel_m} left at full travel"),
        N_("touches at full travel"),
        N_(
            "With the setup as it is. Tubes lower in the clamps, a longer rear, a smaller wheel or the part "
            "moved away make room."
        ),
    ),
    "trail_less_than_proven": (
        N_("{chassis.trail} of trail, {proven_travel_m} ran straight"),
        N_("less trail than ran straight"),
        N_(
            "More than 8 mm less than the setup that was steady at speed. It may shake its head: put some "
            "back, or try it slowly first."
        ),
    ),
    "balance_off": (
        N_("{end} too soft against the other end"),
        N_("ends out of balance"),
        N_(
            "Front {chassis.front.frequency}, rear {chassis.rear.frequency}. The soft end takes the dive or "
            "the squat of both."
        ),
    ),
    "front_light": (
        N_("The front wheel goes light at {at}"),
        N_("front goes light on a climb"),
        N_(
            "{chassis.climb_front_share} of the weight on it on {grade}, as ridden. Weight forward, shorter "
            "rear, or more wheelbase."
        ),
    ),
    "rear_light": (
        N_("The rear wheel goes light at {at}"),
        N_("rear goes light on the brakes"),
        N_(
            "{chassis.braking_front_share} of the weight is on the front there. Weight back; a lower front or "
            "a stiffer fork does not cure it."
        ),
    ),
    "oil_beyond": (
        N_("Fork oil outside what the maker allows"),
        N_("fork oil beyond its limits"),
        N_(
            "{gap_travel_m} below the tube's top; allowed {least_travel_m} to {most_travel_m}. Too much oil "
            "locks the fork, too little draws air."
        ),
    ),
    "fork_air_off": (
        N_("Fork air: wants {chassis.front.air_pressure_wanted}"),
        N_("fork air off"),
        N_(
            "Race {chassis.front.race_sag}, free {chassis.front.free_sag}. Balance chamber "
            "{chassis.front.balance_pressure_wanted}."
        ),
    ),
    "reach_short": (
        N_("The feet end {short_travel_m} above the ground"),
        N_("hardly reaches the ground"),
        N_(
            "Seat {chassis.seat_height} up with the rider aboard. A lower seat, or both ends lower as one "
            "move; clearance goes with it."
        ),
    ),
    "travel_limited": (
        N_("Travel limited inside: {front_travel_m} in front, {rear_travel_m} behind"),
        N_("travel limited inside"),
        N_(
            "Sags and reserve are those of the shorter travel. A preload is as read on the bike afterwards: the ring "
            "comes back by the spacer. Side stand: {chassis.side_stand_cut} shorter. Springs are under load and a "
            "shock holds gas: a licensed shop opens it, by the manual."
        ),
    ),
    "bottoms_early": (
        N_("{end}: a drop of {chassis.END.bottoming_drop} uses all travel"),
        N_("{end} bottoms early"),
        N_("By springs and air alone, {chassis.END.frequency}; damping adds. Stiffer springs or, in a fork, more oil."),
    ),
    "closed_air_rose": (
        N_("Fork air {chassis.fork_pressure_at_start} up at the start line"),
        N_("fork air up: bleed it"),
        N_(
            "Legs closed at home carry it {moved_travel_m} higher there, and harsher. Rear tyre there: "
            "{chassis.tyre_pressure_at_start}."
        ),
    ),
    "closed_air_fell": (
        N_("Fork air {chassis.fork_pressure_at_start} at the start line"),
        N_("fork air down: bleed it"),
        N_(
            "Legs closed at home hold less than outside: it sinks {moved_travel_m} more. Rear tyre there: "
            "{chassis.tyre_pressure_at_start}."
        ),
    ),
}
CAUTIONS: dict[str, str] = {
    "load_wants_spring": N_(
        "Springs are under load: stand the bike safely, use the right compressor. The manual rules."
    ),
    "closed_air_rose": N_(
        "Bleed screw only, front wheel off the ground, cold; never open an air-spring valve to bleed it: that "
        "empties the spring."
    ),
    "closed_air_fell": N_(
        "Bleed screw only, front wheel off the ground, cold; never open an air-spring valve to bleed it: that "
        "empties the spring."
    ),
    "part_touches": N_(
        "A tyre that jams in its guard locks the wheel: look at full travel, springs out or strapped, before riding."
    ),
    "trail_less_than_proven": N_("First ride after a change of steering slow and alone."),
    "oil_beyond": N_(
        "The manual's limits rule. Damper work under gas pressure belongs to a licensed shop; let air out "
        "before any cap comes off."
    ),
    "fork_air_off": N_(
        "Pump and gauge as the maker says, wheel off the ground, cold; never open a valve under pressure near the face."
    ),
    "balance_off": N_(
        "Springs are under load: bike on a stand, preload off before a spring comes out, the manual's tools."
    ),
    "trail_short": N_("First ride after a change of steering slow and alone."),
    "spring_soft": N_(
        "Springs are under load: bike on a stand, preload off before a spring comes out, the manual's tools."
    ),
    "spring_stiff": N_(
        "Springs are under load: bike on a stand, preload off before a spring comes out, the manual's tools."
    ),
}
FIGURE_NAMES: dict[str, str] = {
    "chassis.front.free_sag": N_("Front free sag"),
    "chassis.front.race_sag": N_("Front race sag"),
    "chassis.rear.free_sag": N_("Rear free sag"),
    "chassis.rear.race_sag": N_("Rear race sag"),
    "chassis.rear.race_sag_full": N_("Rear race sag, full"),
    "chassis.rear.race_sag_empty": N_("Rear race sag, empty"),
    "chassis.front.race_sag_full": N_("Front race sag, full"),
    "chassis.front.race_sag_empty": N_("Front race sag, empty"),
    "chassis.front.spring_rate_wanted": N_("Fork spring wanted, each leg"),
    "chassis.rear.spring_rate_wanted": N_("Shock spring wanted"),
    "chassis.rear.preload_wanted": N_("Shock preload that goes with it"),
    "chassis.front.preload_wanted": N_("Fork preload that goes with it"),
    "chassis.front.preload_turns": N_("Turn the fork's adjusters by"),
    "chassis.rear.preload_turns": N_("Turn the shock's ring by"),
    "chassis.front.rate_true": N_("Fork spring, true rate"),
    "chassis.rear.rate_true": N_("Shock spring, true rate"),
    "chassis.front.friction_band": N_("Fork friction, half band"),
    "chassis.rear.friction_band": N_("Rear friction, half band"),
    "chassis.front.air_pressure_wanted": N_("Fork main chamber wanted"),
    "chassis.front.balance_pressure_wanted": N_("Fork balance chamber wanted"),
    "chassis.front.race_sag_unbled": N_("Front race sag, not bled"),
    "chassis.cg_height": N_("Centre of gravity, height"),
    "chassis.balance": N_("Front frequency / rear"),
    "chassis.front.clamp_clearance": N_("Front tyre to lower clamp"),
    "chassis.front.radiator_clearance": N_("Front tyre to radiators"),
    "chassis.front.bar_clearance": N_("Fork tubes to bars"),
    "chassis.rear.guard_clearance": N_("Rear tyre to guard"),
    "chassis.rear.seat_clearance": N_("Rear tyre to seat"),
    "chassis.rear.exhaust_clearance": N_("Rear tyre to exhaust"),
    "chassis.seat_to_peg": N_("Seat to pegs"),
    "chassis.seat_to_bar": N_("Seat to grips"),
    "chassis.peg_to_bar": N_("Pegs to grips"),
    "chassis.climb_front_share": N_("On the front, steepest climb"),
    "chassis.braking_front_share": N_("On the front, hardest braking"),
    "chassis.side_stand_cut": N_("Side stand, take off"),
    "chassis.axle_load.front": N_("On the front wheel, full"),
    "chassis.axle_load.rear": N_("On the rear wheel, full"),
    "chassis.axle_load.front_half": N_("On the front wheel, half"),
    "chassis.axle_load.rear_half": N_("On the rear wheel, half"),
    "chassis.axle_load.front_empty": N_("On the front wheel, empty"),
    "chassis.axle_load.rear_empty": N_("On the rear wheel, empty"),
    "chassis.rake": N_("Rake"),
    "chassis.trail": N_("Trail"),
    "chassis.wheelbase": N_("Wheelbase"),
    "chassis.seat_height": N_("Seat, rider aboard"),
    "chassis.ground_clearance": N_("Ground clearance"),
    "chassis.reach_margin": N_("Leg to spare"),
    "chassis.anti_squat": N_("Anti-squat"),
    "chassis.rear.frequency": N_("Rear ride frequency"),
    "chassis.front.frequency": N_("Front ride frequency"),
    "chassis.rear.bottoming_drop": N_("Drop that bottoms the rear"),
    "chassis.front.bottoming_drop": N_("Drop that bottoms the fork"),
    "chassis.front.tyre_guard_clearance": N_("Front tyre to guard"),
    "chassis.tyre_pressure_at_start": N_("Rear tyre at the start"),
    "chassis.tyre_pressure_front_at_start": N_("Front tyre at the start"),
    "chassis.fork_pressure_at_start": N_("Fork air at the start"),
}
