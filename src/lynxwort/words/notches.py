"""What stands over a group of notches, and what a figure is called where it is the outcome of one."""

from lynxwort.words import N_

#: heading by the group that stands at the tunable's field
GROUPS: dict[str, str] = {
    "springs": N_("Springs, oil, load"), "steering": N_("Steering and heights"), "rider": N_("The rider's place"),
    "wheels": N_("Wheels, and tyres by the gauge at home"), "needle": N_("Needle, its jet, slide"),
    "fuel": N_("Fuel and oil"), "breath": N_("What it breathes through"), "head": N_("Head, spark, power valve"),
}  # fmt: skip
#: by figure; where a tunable moves both ends, or a figure stands alone, _OTHERWISE says it
OUTCOMES: dict[str, str] = {
    "chassis.rear.race_sag": N_("race"),
    "chassis.rear.free_sag": N_("free"),
    "chassis.front.race_sag": N_("race"),
    "chassis.front.free_sag": N_("free"),
    "chassis.rear.race_sag_full": N_("full sag"),
    "chassis.front.bottoming_drop": N_("drop"),
    "chassis.cg_height": N_("weight up"),
    "chassis.trail": N_("trail"),
    "chassis.rake": N_("rake"),
    "chassis.seat_height": N_("seat"),
    "chassis.seat_to_peg": N_("to pegs"),
    "chassis.reach_margin": N_("leg"),
    "chassis.peg_to_bar": N_("to pegs"),
    "chassis.seat_to_bar": N_("to seat"),
    "chassis.ground_clearance": N_("clear"),
    "chassis.tyre_pressure_front_at_start": N_("there"),
    "chassis.tyre_pressure_at_start": N_("there"),
    **{
        f"damping.{end}.{what}": words
        for end in ("front", "rear")
        for what, words in (
            ("zeta_compression", N_("in")),
            ("zeta_rebound", N_("out")),
            ("travel_used", N_("used")),
            ("packing", N_("deeper")),
        )
    },
    "fuelling.lean_margin.closed": N_("0–⅛"),
    "fuelling.lean_margin.eighth": N_("⅛–¼"),
    "fuelling.lean_margin.quarter": N_("¼–½"),
    "fuelling.lean_margin.half": N_("½–¾"),
    "fuelling.richness_full_thinnest": N_("high up"),
    "fuelling.lean_margin_min": N_("margin"),
    "fuelling.detonation_margin": N_("octane in hand"),
    "fuelling.oil_per_fill": N_("a fill"),
    "drive.metres_short": N_("short"),
    "drive.top_speed": N_("top"),
    "drive.crawl_speed": N_("crawl"),
    "drive.lap_time": N_("lap"),
    "drive.clutch_energy": N_("clutch"),
    "range.fuel_per_lap": N_("a lap"),
    "range.p_finish": N_("finish"),
    "range.left_at_finish": N_("left"),
    "range.energy_left": N_("left"),
    "range.energy_per_lap": N_("charge"),
}
_OTHERWISE: dict[tuple[str, str], str] = {
    ("payload_left", "chassis.rear.race_sag"): N_("rear"),
    ("payload_left", "chassis.front.race_sag"): N_("front"),
    **{(tunable, "chassis.rear.race_sag"): N_("sag") for tunable in ("charge_share", "pack_energy_j")},
}


def outcome_word(tunable: str, figure: str) -> str:
    """What a figure is called as the outcome of a notch of a tunable, untranslated."""
    return _OTHERWISE.get((tunable, figure)) or OUTCOMES[figure]
