"""Everything that Baseline says."""

from lynxwort.words import N_, fuelling, kit

FINDINGS: dict[str, tuple[str, str, str]] = {
    "readings_used": (
        N_("{count} readings shape the answers"),
        N_("{count} readings in use"),
        N_("Strike one out and everything returns to what it was without it."),
    ),
    "sag_missing": (
        N_("{count} sags not measured yet"),
        N_("{count} sags not measured"),
        N_("Measure {first} next: three millimetres of tape narrow the spring by about a step."),
    ),
    "fill_up_missing": (
        N_("No fill-up measured"),
        N_("no fill-up measured"),
        N_("One known fill-up narrows the fuel more than anything else."),
    ),
    "charge_missing": (
        N_("No charge measured"),
        N_("no charge measured"),
        N_("One known charge after known laps narrows the range more than anything else."),
    ),
    "known_good_missing": (
        N_("No mixture known to run right"),
        N_("no proven mixture"),
        N_("Enter the setting the engine ran right with, and the air of that day. Until then the mixture is unknown."),
    ),
    "sag_questioned": (
        N_("A sag that does not fit: {value_m}"),
        N_("one sag is doubtful"),
        N_(
            "{end} {state} sag of {value_m} lies beyond what this bike can explain. Measure again; check the "
            "units and where zero was. It is not used."
        ),
    ),
    "fill_up_doubted": (
        N_("A fill-up that does not fit"),
        N_("one fill-up is doubtful"),
        N_("Far from what this engine can burn. Check the figure and the bike: it may be a leak. It hardly counts."),
    ),
    "fill_up_elsewhere": (
        N_("A fill-up from another course"),
        N_("fill-up from elsewhere"),
        N_("It can only be used on the course it was ridden on."),
    ),
    "weighing_doubted": (
        N_("A weighing that does not fit"),
        N_("one weighing is doubtful"),
        N_(
            "Far from what this bike can weigh or where its weight can sit. Scales level, bike upright, fuel "
            "as said? It is not used."
        ),
    ),
    "length_questioned": (
        N_("{what} measured {off_m} off"),
        N_("one length is doubtful"),
        N_("The side view cannot explain it. {because} It is not used."),
    ),
    "angle_questioned": (
        N_("{what} measured {off_tilt_rad} off"),
        N_("one angle is doubtful"),
        N_("The side view cannot explain it. {because} It is not used."),
    ),
    "hills_contradict": (
        N_("Climbs that cannot both be true"),
        N_("climbs contradict"),
        N_(
            "On {ground} one hill was climbed and another spun on, with grips the other way round. Neither is "
            "used. Was one wet?"
        ),
    ),
    "seen_questioned": (
        N_("A reading that nothing explains"),
        N_("one reading is doubtful"),
        N_("{what}: too far from what this bike can be. Check unit, gear and digits; it is not used."),
    ),
    "stalled_unexplained": (
        N_("It stalled where the model climbs"),
        N_("stalls unexplained"),
        N_(
            "The engine gave out on a hill it should pull. Look for what costs power: jetting, filter, "
            "clutch, compression."
        ),
    ),
    "ridden_lap_used": (
        N_("A ridden lap sets the pace"),
        N_("pace from a ridden lap"),
        N_(
            "Ridden in {ridden_time}, the model said {model_time} before. Pace is now this rider's on "
            "{grounds} kinds of ground."
        ),
    ),
    "seen_elsewhere": (
        N_("Readings from another course"),
        N_("readings from elsewhere"),
        N_("{count} of them speak of a course or hill that this race has not. They wait for one that has."),
    ),
    "fuel_not_measured": (
        N_("Not measured on this bike"),
        N_("fuel not measured"),
        N_(
            "{certainty} sure needs {times_now} times the likely fuel. One known fill-up cuts that to "
            "{times_after}: {saved_m3} less to carry."
        ),
    ),
    "energy_not_measured": (
        N_("Not measured on this bike"),
        N_("charge not measured"),
        N_(
            "{certainty} sure needs {times_now} times the likely charge. One known charge cuts that to "
            "{times_after}: {saved_j} less to carry."
        ),
    ),
}
CAUTIONS: dict[str, str] = {}
FIGURE_NAMES: dict[str, str] = {"baseline.readings_used": N_("Readings in use")}


#: what to measure, by code of asks.worth: what to do, how
MEASURES: dict[str, tuple[str, str]] = {
    "known_good": (
        N_("The setting it ran right with"),
        N_("Jets, knob or map, and the air of that day: engine warm, under load, no air leak."),
    ),
    "fill_up": (N_("A fill-up"), N_("Fill to a mark, ride known laps, fill to the same mark.")),
    "charge": (N_("A charge"), N_("Charge full, ride known laps, read what goes back in.")),
    "sag_rear_race": (
        N_("Rear race sag"),
        N_("Rider in gear and in position, someone holding the bike; the mean of settling from above and below."),
    ),
    "sag_rear_free": (N_("Rear free sag"), N_("Bike alone, upright; the mean of settling from above and below.")),
    "sag_front_race": (N_("Front race sag"), N_("Rider in gear and in position; along the fork leg.")),
    "sag_front_free": (N_("Front free sag"), N_("Bike alone, upright; along the fork leg.")),
    "roll_out": (N_("Rear wheel roll-out"), N_("Chalk the tyre, rider aboard, roll some turns, measure.")),
    "needle": (
        N_("The needle and its jet"),
        N_("A calliper: bore, straight part, where the taper begins, taper. They stand among the bike's facts."),
    ),
    "sensors": (
        N_("What the injection senses"),
        N_("From the manual: air temperature, pressure, mixture. It stands among the bike's facts."),
    ),
}


#: readings where they are taken: what it is, how it is done
READINGS: dict[str, tuple[str, str]] = (
    {
        "sag": (
            N_("A sag"),
            N_(
                "From topped out: push down, let it settle, measure; lift, let it settle, measure; the mean. Bike "
                "upright, someone holding it."
            ),
        ),
        "weighing": (
            N_("Each wheel on a scale"),
            N_(
                "Two level scales or one and a block as high: bike upright, fuel as said. With the rider aboard it "
                "tells how the rider's weight is shared."
            ),
        ),
        "tilt": (
            N_("A tilted weighing"),
            N_(
                "Suspension strapped, bike alone, one axle raised on a block, held upright by two: read the scale "
                "under the other wheel. It tells how high the weight sits. A bike on a block falls over: strap it."
            ),
        ),
        "geometry": (
            N_("A measured length or angle"),
            N_("Tape or angle gauge. It corrects the side view, or is questioned with what could explain it."),
        ),
        "steady": (
            N_("It ran straight at speed"),
            N_("Note the setup that was steady, and how fast. Less trail than that is pointed out."),
        ),
        "fill_up": (
            N_("A fill-up"),
            N_("Fill to a mark, ride, fill to the same mark. Outdoors, engine cold, approved can, nobody smoking."),
        ),
        "charge": (
            N_("A charge"),
            N_(
                "Charge full, ride, charge full again and read what went in. As the pack's maker says; never a "
                "damaged, wet or frozen pack."
            ),
        ),
        "known_good": (
            N_("A setting that ran right"),
            N_(
                "Only what ran right under load, engine warm, no air leak: boots, seals and filter checked first. "
                "Never go leaner on a feeling."
            ),
        ),
        "roll_out": (
            N_("A roll-out of the rear wheel"),
            N_("Chalk the tyre, rider aboard, tyre pressure as ridden; roll some whole turns straight on, measure."),
        ),
        "rpm_speed": (
            N_("Revs and speed together"),
            N_("Steady, hard level ground, clutch home: read both off a recording, not while riding."),
        ),
        "top_speed": (
            N_("A top speed seen"),
            N_(
                "Off a recording, on hard level ground long enough to stop gaining, no wind. Only where it is allowed "
                "and clear; never for the sake of the figure."
            ),
        ),
        "hill": (
            N_("A climb that was tried"),
            N_("It tells the grip of this ground on hills like that. Walk a hill before you try it."),
        ),
        "ridden_lap": (
            N_("A lap really ridden"),
            N_("The recording of a whole lap with times. It sets this rider's pace, ground by ground."),
        ),
    }
    | fuelling.READINGS
    | kit.READINGS
)
