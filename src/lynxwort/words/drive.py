"""Everything that Drive says."""

from lynxwort.words import N_

FINDINGS: dict[str, tuple[str, str, str]] = {
    "short_on_climb": (
        N_("Pulls all but {drive.metres_short}, at {at}"),
        N_("short on one climb"),
        N_("On {ground} there no gear holds walking pace with the speed carried in."),
    ),
    "pulls_everywhere": (
        N_("Pulls everywhere"),
        N_("pulls everywhere"),
        N_("On every metre some gear holds more than walking pace."),
    ),
    "grip_unknown": (
        N_("Engine pulls it; grip is not known"),
        N_("grip not known, one climb"),
        N_("{drive.metres_grip_unknown} on {ground} at {at}. Walk it."),
    ),
    "hill_no_run_up": (
        N_("No run-up carries it up {hill}, {at}"),
        N_("a hill it cannot climb"),
        N_(
            "{grade} on {ground}, held up to {held_grade}. No speed at the foot does it with these sprockets. "
            "Look for another line or gear down."
        ),
    ),
    "hill_too_slow": (
        N_("{hill}, {at}, wants {run_up_speed} at its foot"),
        N_("too slow at the foot of a hill"),
        N_(
            "{carried_speed} reach it, held by {held_by}. Shorter gearing needs less run-up: see the table. "
            "Walk it before you trust it."
        ),
    ),
    "hill_tight": (
        N_("{hill}: {run_up_speed} needed, {carried_speed} there"),
        N_("little speed in hand at a hill"),
        N_("Held by {held_by} before it. One mistake in the corner and it stops. Walk it."),
    ),
    "hill_with_speed": (
        N_("{hill} goes with {run_up_speed} at its foot"),
        N_("hill goes with a run-up"),
        N_("{carried_speed} reach it. The engine can pull it so; grip is not known; walk it."),
    ),
    "hill_grip": (
        N_("Engine pulls {hill}, {at}; grip decides"),
        N_("grip decides on a hill"),
        N_(
            "{grade} on {ground}: {good_speed} at its foot if it grips well, {poor_speed} if badly; "
            "{carried_speed} reach it, held by {held_by}. Walk it, then enter whether it was climbed."
        ),
    ),
    "tyre_too_slow": (
        N_("Faster than the rear tyre is made for"),
        N_("tyre too slow"),
        N_(
            "{drive.top_speed} against a rating {drive.tyre_speed_margin} off. A foam insert melts, a tube "
            "bursts. Gear down, or another tyre or filling."
        ),
    ),
    "shakes_long": (
        N_("{drive.time_over_shake} of the lap above the shaking revs"),
        N_("shakes the hands long"),
        N_(
            "{share} of the lap. What shakes numbs: a hand's dose of a day goes with the square of the "
            "shaking and with the time. A tooth less, softer grips or a heavier bar end."
        ),
    ),
    "chain_fits": (
        N_("{drive.chain.links} links, {drive.chain.slack_on_stand} slack on the stand"),
        N_("chain: {drive.chain.links} links"),
        N_(
            "Axle {drive.chain.axle_move} from the middle of its adjusters, {drive.chain.adjuster_left} left "
            "to stretch. The manual's slack rules if it is more."
        ),
    ),
    "chain_no_stretch": (
        N_("The chain has no room to stretch"),
        N_("adjuster nearly used up"),
        N_(
            "{drive.chain.adjuster_left} of adjuster left behind the axle with {drive.chain.links} links. "
            "Take a link pair out or another sprocket."
        ),
    ),
    "chain_no_length": (
        N_("No chain length fits these sprockets"),
        N_("no chain length fits"),
        N_(
            "Every even number of links puts the axle outside its adjusters. Half a link more or less does "
            "not exist: change a sprocket by a tooth."
        ),
    ),
    "chain_other_length": (
        N_("The fitted chain does not fit these sprockets"),
        N_("chain too long or short"),
        N_("With that many links the axle lies outside its adjusters. Another chain, or other sprockets."),
    ),
    "sprocket_hits_case": (
        N_("The front sprocket comes too near the case"),
        N_("sprocket near the case"),
        N_("{drive.chain.case_clearance} left with the chain on it. Turn it by hand and look before riding."),
    ),
    "wide_first_second": (
        N_("Wide step from first to second"),
        N_("wide first to second"),
        N_("{drive.first_second_drop} lost at the shift."),
    ),
    "top_speed_revs": (
        N_("{drive.top_speed} at {rpm} rpm"),
        N_("tops at {drive.top_speed}"),
        N_("Revs end it, not power. Crawls at {drive.crawl_speed} on idle in first."),
    ),
    "top_speed_power": (
        N_("{drive.top_speed} at {rpm} rpm"),
        N_("tops at {drive.top_speed}"),
        N_("Power ends it, not revs. Crawls at {drive.crawl_speed} on idle in first."),
    ),
    "top_speed_revs_electric": (
        N_("{drive.top_speed} at {rpm} rpm of the motor"),
        N_("tops at {drive.top_speed}"),
        N_("The motor's highest speed ends it, not power."),
    ),
    "top_speed_power_electric": (
        N_("{drive.top_speed} at {rpm} rpm of the motor"),
        N_("tops at {drive.top_speed}"),
        N_("Power ends it, not the motor's speed."),
    ),
}
CAUTIONS: dict[str, str] = {
    "chain_fits": N_(
        "Never tighter than the manual's figure: a tight chain breaks bearings and cases. Engine off, fingers clear."
    ),
    "short_on_climb": N_("Speeds along the course are assumed by the model, never a speed to ride."),
    "hill_too_slow": N_(
        "Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."
    ),
    "hill_tight": N_("Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."),
    "hill_with_speed": N_(
        "Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."
    ),
    "hill_grip": N_("Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."),
    "hill_no_run_up": N_("Turn round where it is still easy: a bike that falls backwards falls on its rider."),
    "tyre_too_slow": N_("The figure on the sidewall and the makers of tyre and filling rule."),
    "shakes_long": N_("White or numb fingers are a warning: stop, warm up, see a doctor. (ISO 5349-1, in principle.)"),
    "grip_unknown": N_("Speeds along the course are assumed by the model, never a speed to ride."),
}
FIGURE_NAMES: dict[str, str] = {
    "drive.top_speed": N_("Top speed"),
    "drive.crawl_speed": N_("Crawl"),
    "drive.metres_short": N_("Does not pull"),
    "drive.metres_grip_unknown": N_("Grip not known"),
    "drive.lap_time": N_("Lap, by the model"),
    "drive.tyre_speed_margin": N_("Tyre's speed in hand"),
    "drive.lift_share.low": N_("Throttle under one eighth"),
    "drive.lift_share.high": N_("Throttle over three quarters"),
    "drive.hill.1.limit": N_("Steepest held, hill 1"),
    "drive.hill.2.limit": N_("Steepest held, hill 2"),
    "drive.hill.3.limit": N_("Steepest held, hill 3"),
    "drive.hill.1.run_up_speed": N_("Run-up, hill 1"),
    "drive.hill.2.run_up_speed": N_("Run-up, hill 2"),
    "drive.hill.3.run_up_speed": N_("Run-up, hill 3"),
    "drive.shifts": N_("Shifts per lap"),
    "drive.share.power": N_("Held up by power or revs"),
    "drive.share.grip": N_("Held up by grip"),
    "drive.share.shift": N_("In a gear change"),
    "drive.share.pace": N_("Held up by pace and corners"),
    "drive.longest_full_throttle": N_("Longest full throttle"),
    "drive.shifts_per_km": N_("Shifts per distance"),
    "drive.clutch_energy": N_("Heat in the clutch"),
    "drive.time_at_limiter": N_("Against the limiter"),
    "drive.time_over_shake": N_("Above the shaking revs"),
    "drive.chain.links": N_("Chain, links"),
    "drive.chain.axle_move": N_("Axle from the middle"),
    "drive.chain.adjuster_left": N_("Adjuster left"),
    "drive.chain.case_clearance": N_("Front sprocket to case"),
    "drive.chain.slack_on_stand": N_("Chain slack on the stand"),
    "drive.wheelbase_change": N_("Wheelbase change"),
    "drive.first_second_drop": N_("Drop, first to second"),
    "drive.energy_residual": N_("Energy out of balance"),
}
