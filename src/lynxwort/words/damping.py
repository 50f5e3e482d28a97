"""Words of the Damping station; joined into the catalogue."""

from lynxwort.words import N_

_USUAL = N_("Usual lies between {low} and {high} with the shaft at 0.25 m/s (from memory).")
FINDINGS: dict[str, tuple[str, str, str]] = {
    "bottoms_no_click": (
        N_("{end} bottoms on {feature}; clicks will not fix this"),
        N_("{end} bottoms, no click cures it"),
        N_(
            "Metal {times} times on {feature} at {ridden_speed}. The compression adjusters fully in do not cure "
            "it, tried in the ride. Another tool, tried too, takes most of it away."
        ),
    ),
    "bottoms_anyway": (
        N_("{end} bottoms on {feature}; no click, no spring here cures it"),
        N_("{end} bottoms, nothing cures it"),
        N_(
            "Metal {times} times on {feature} at {ridden_speed}. Adjusters fully in, springs two steps stiffer "
            "and, of a fork, more oil were tried in the ride. Speed at which it does not hit: {free_speed}. "
            "Faster wants a damper valved for it."
        ),
    ),
    "bottoms_click": (
        N_("{end} bottoms on {feature}; clicks can cure it"),
        N_("{end} bottoms, clicks cure it"),
        N_(
            "Metal {times} times on {feature} at {ridden_speed}. The compression adjuster alone takes most of it "
            "away, tried in the ride."
        ),
    ),
    "packs": (
        N_("{end} packs on {feature}: {damping.END.packing} deeper than it stands"),
        N_("{end} packs"),
        N_("It does not come back between bumps. Two clicks less rebound leave {after_m}, tried in the ride."),
    ),
    "little_compression": (
        N_("{end}: little compression damping, {damping.END.zeta_compression} of critical"),
        N_("{end}: little compression damping"),
        _USUAL,
    ),
    "much_compression": (
        N_("{end}: much compression damping, {damping.END.zeta_compression}"),
        N_("{end}: much compression damping"),
        _USUAL,
    ),
    "little_rebound": (
        N_("{end}: little rebound damping, {damping.END.zeta_rebound}"),
        N_("{end}: little rebound damping"),
        _USUAL,
    ),
    "much_rebound": (
        N_("{end}: much rebound damping, {damping.END.zeta_rebound}"),
        N_("{end}: much rebound damping"),
        _USUAL,
    ),
    "shim_stress": (
        N_("Shims bend hard: {damping.stress_max}"),
        N_("shims bend hard"),
        N_(
            "Worst in the {stack}, at the fastest shaft speeds of the rides. Strip steel tires somewhere above "
            "1000 MPa (from memory): more and thinner shims of the same stiffness bend easier."
        ),
    ),
    "stack_too_high": (
        N_("{stack}: {high_m} high, the nut holds {most_m}"),
        N_("a stack too high"),
        N_(
            "Shims up to {most_m} leave the nut its thread. Thicker shims in place of several thin ones stand "
            "lower and bend harder."
        ),
    ),
    "cavitates": (
        N_("{end}: the oil may tear from {tears_from} m/s on"),
        N_("{end} cavitates"),
        N_(
            "The piston asks for more oil than the base valve lets back: a stiffer base valve, or more pressure "
            "behind it."
        ),
    ),
    "ridden_slower": (
        N_("Judged at {ridden_speed} on {feature}"),
        N_("judged slower on {feature}"),
        N_(
            "At the lap's {wanted_speed} there the bike pitches beyond what this model holds for; a rider would "
            "slow down too."
        ),
    ),
    "beyond_model": (
        N_("{feature}: beyond what the ride's model holds"),
        N_("beyond the ride's model"),
        N_("Even at {ridden_speed} it pitches as in a crash. What is said of this place is not to be leaned on."),
    ),
    "rides_well": (
        N_("Neither bottoms nor packs over this course"),
        N_("neither bottoms nor packs"),
        N_(
            "Uses {damping.front.travel_used} of the fork and {damping.rear.travel_used} of the rear travel over "
            "the course's pieces."
        ),
    ),
}
_GAS = N_(
    "A gas-charged damper is opened by a licensed shop only. Springs under load fly: use the right compressor. "
    "First ride after a change slow and alone."
)
CAUTIONS: dict[str, str] = {
    **dict.fromkeys(("bottoms_no_click", "bottoms_anyway", "shim_stress", "stack_too_high", "cavitates"), _GAS),
    **dict.fromkeys(("bottoms_click", "packs"), N_("One change at a time; first ride after it slow and alone.")),
}
FIGURE_NAMES: dict[str, str] = {
    "damping.front.zeta_compression": N_("Front compression damping, of critical"),
    "damping.front.zeta_rebound": N_("Front rebound damping, of critical"),
    "damping.rear.zeta_compression": N_("Rear compression damping, of critical"),
    "damping.rear.zeta_rebound": N_("Rear rebound damping, of critical"),
    "damping.front.travel_used": N_("Fork travel used"),
    "damping.rear.travel_used": N_("Rear travel used"), "damping.front.bottomings": N_("Fork, metal contacts"),
    "damping.rear.bottomings": N_("Rear, metal contacts"),
    "damping.front.packing": N_("Fork rides deeper than it stands by"),
    "damping.rear.packing": N_("Rear rides deeper than it stands by"),
    "damping.wheel_off_ground": N_("A wheel off the ground"), "damping.peg_acceleration": N_("Pegs shake"),
    "damping.overshoot": N_("Rises after a landing"), "damping.stress_max": N_("Hardest bent shim"),
    "damping.click_authority.low": N_("Shock compression shut, at 0.1 m/s"),
    "damping.click_authority.high": N_("Shock compression shut, at 2 m/s"),
}  # fmt: skip
TUNABLE_NAMES: dict[str, str] = {
    "fork_compression_clicks": N_("Fork compression, clicks out"),
    "fork_rebound_clicks": N_("Fork rebound, clicks out"),
    "shock_compression_clicks": N_("Shock compression, clicks out"),
    "shock_rebound_clicks": N_("Shock rebound, clicks out"),
    "shock_high_speed_turns": N_("Shock high speed, turns in"), "fork_base_stack": N_("Fork base valve, shims"),
    "fork_piston_stack": N_("Fork mid valve, shims"), "fork_rebound_stack": N_("Fork rebound, shims"),
    "shock_base_stack": N_("Shock base valve, shims"), "shock_piston_stack": N_("Shock compression, shims"),
    "shock_rebound_stack": N_("Shock rebound, shims"),
}  # fmt: skip
#: pieces of the course that a damper feels
TERMS: dict[str, str] = {
    "rocks": N_("rocks"),
    "dip": N_("a hollow"),
    "landing": N_("a landing"),
    "no_speed": N_("none of those tried"),
    **{name: words for name, words in TUNABLE_NAMES.items() if name.endswith("_stack")},
}
#: less and more of an adjuster, worded by effect
STEP_WORDS: dict[str, tuple[str, str]] = {
    **dict.fromkeys(
        ("fork_compression_clicks", "shock_compression_clicks"), (N_("a click in, firmer"), N_("a click out, softer"))
    ),
    **dict.fromkeys(
        ("fork_rebound_clicks", "shock_rebound_clicks"),
        (N_("a click in, slower back"), N_("a click out, quicker back")),
    ),
    "shock_high_speed_turns": (N_("softer on hard hits"), N_("firmer on hard hits")),
}
MESSAGES: dict[str, str] = {
    "beyond_clicks": N_("This adjuster has no such click. Clicks are counted out from fully in."),
    "face_within_ports": N_("The first shim must cover the ports."),
    "ports_order": N_("The ports' inner radius is not smaller than their outer one."),
    "rod_in_bore": N_("The rod is not thinner than the bore."),
    "too_few_points_run": N_("Too few points that tell of the oil: at least {low} at 0.05 m/s or more."),
    "shaft_too_fast": N_("No shaft goes so fast: at most {high}. Look at the unit of the speed."),
    "not_a_stack": N_(
        "Write shims from the face to the clamp as count × diameter × thickness in mm, like 3 × 24 × 0.15, "
        "22 × 0.15; 3x24.15 22.15 is read too."
    ),
}
#: what a rider feels, in plain words
COMPLAINT_WORDS: dict[str, str] = {
    "bottoms": N_("bottoms hard"), "blows_through": N_("blows through, dives"), "harsh": N_("harsh, beats the hands"),
    "packs": N_("packs, sinks from bump to bump"), "kicks": N_("kicks up, springs back"),
    "skips": N_("skips, does not follow the ground"),
}  # fmt: skip
MEASURE_WORDS: dict[str, str] = {
    "bottoms": N_("hardest push of the stop"), "blows_through": N_("travel used"), "harsh": N_("shake at the pegs"),
    "packs": N_("deeper than it stands"), "kicks": N_("rises after it"), "skips": N_("time off the ground"),
}  # fmt: skip
#: a tool used for more, for less
TOOL_WORDS: dict[str, tuple[str, str]] = {
    "clicks": (N_("clicks in"), N_("clicks out")),
    "high_speed": (N_("high speed in"), N_("high speed out")),
    "oil": (N_("more oil"), N_("less oil")),
    "spring": (N_("stiffer spring"), N_("softer spring")),
    "shim": (N_("one shim more"), N_("one shim less")),
}
SEEN: dict[str, str] = {
    "helps": N_("helps"),
    "worse": N_("the other way in this ride"),
    "not_visible": N_("not visible"),
}
CHECK_WORDS: dict[str, str] = {
    "sound": N_("Is the bike sound? Bearings, leaks, a bent tube, a dry link, wheel and head play."),
    "pressures": N_("Tyres at their pressure, fork legs bled cold, gas in the shock as its maker says."),
    "sag": N_("Both sags right? A wrong spring is felt as bad damping."),
    "clicks_counted": N_("Count every adjuster out from fully in and write it down before turning any."),
    "hot": N_("Only hot: old or foaming oil, a worn seal, gas gone. That is service, not clicks."),
    "cold": N_("Only cold: thick oil. Ride it warm before turning anything."),
}  # fmt: skip
#: what a map of clicks shows
SWEPT: dict[str, str] = {
    "stop_n": N_("hardest push of the stop, in the fork or at the shock"), "share": N_("travel used"),
    "packing_m": N_("deeper than it stands"), "air_share": N_("time off the ground"),
    "overshoot_m": N_("rises after it"), "peg_m_per_s2": N_("shake at the pegs"),
}  # fmt: skip
