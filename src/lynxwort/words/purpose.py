"""Everything that Purpose says."""

from lynxwort.words import N_

FINDINGS: dict[str, tuple[str, str, str]] = {
    "race_read": (
        N_("{purpose.distance} in {laps} laps"),
        N_("{purpose.distance}, {laps} laps"),
        N_("Each lap {purpose.lap_distance}, climbing {purpose.climb}."),
    ),
    "race_read_one": (
        N_("{purpose.distance} in one lap"),
        N_("{purpose.distance}, one lap"),
        N_("It climbs {purpose.climb}."),
    ),
    "race_read_hours": (
        N_("{time_s}, about {purpose.laps} laps"),
        N_("{time_s}, about {laps} laps"),
        N_(
            "The lap under way when the time is up is the last. Each {purpose.lap_distance}, climbing "
            "{purpose.climb}; about {purpose.distance} in all."
        ),
    ),
    "race_read_tests": (
        N_("{tests} tests, {liaisons} liaisons: {purpose.distance}"),
        N_("{tests} tests, {purpose.distance}"),
        N_("They climb {purpose.climb} together. Liaisons are reckoned at three quarters of the rider's pace."),
    ),
    "race_read_stages": (
        N_("{stages} stages, {purpose.distance}"),
        N_("{stages} stages, {purpose.distance}"),
        N_("They climb {purpose.climb} together."),
    ),
    "schedule_holds": (
        N_("The schedule holds: {purpose.schedule_margin_min} in hand"),
        N_("schedule holds"),
        N_("Tightest at {stage}, {allowed_time_s} allowed."),
    ),
    "schedule_tight": (
        N_("{stage}: {purpose.schedule_margin_min} in hand"),
        N_("schedule tight at {stage}"),
        N_("{allowed_time_s} allowed. The model's pace is only likely: a puncture or a queue takes more."),
    ),
    "rules_read": (
        N_("Rules of the day: {count} asked for, {left} not seen to"),
        N_("rules: {left} of {count} open"),
        N_("The list, with days and papers, stands in Kit under Sound and rules. Check your local rules."),
    ),
    "heights_missing": (
        N_("The track has no heights"),
        N_("no heights in the track"),
        N_("Climb, air and pull are reckoned as if it were level. Load a track with heights."),
    ),
    "ground_unset": (
        N_("Ground not said yet"),
        N_("ground not said"),
        N_("The whole lap counts as single track. Say where it is sand, rock or gravel."),
    ),
    "track_gap": (
        N_("The track jumps {gap_m}"),
        N_("track has a gap"),
        N_("Two pieces were joined by a straight line. Check that the file holds the whole lap."),
    ),
    "thin_air": (
        N_("Only {purpose.power_share_min} of the power at the top in the hottest hour"),
        N_("{purpose.power_share_min} power at the top"),
        N_(
            "Share of a standard day, at the highest place in the hottest hour. Air from "
            "{purpose.density_ratio_max} to {purpose.density_ratio_min} of standard density."
        ),
    ),
    "air_read": (
        N_("{purpose.power_share_min} of the power left at the top in the hottest hour"),
        N_("{purpose.power_share_min} power at the top"),
        N_(
            "Air from {purpose.density_ratio_max} of standard density at the coldest low point to "
            "{purpose.density_ratio_min} at the hottest high point."
        ),
    ),
    "air_and_motor": (
        N_("Thin air does not weaken the motor"),
        N_("air matters for drag only"),
        N_(
            "Air from {purpose.density_ratio_max} to {purpose.density_ratio_min} of standard density changes "
            "drag, not power."
        ),
    ),
}
CAUTIONS: dict[str, str] = {}
FIGURE_NAMES: dict[str, str] = {
    "purpose.distance": N_("Whole race"),
    "purpose.lap_distance": N_("One lap"),
    "purpose.climb": N_("Climb per lap"),
    "purpose.laps": N_("Laps"),
    "purpose.schedule_margin_min": N_("In hand on the schedule"),
    "purpose.raw_climb": N_("Climb if every point were believed"),
    "purpose.lowest": N_("Lowest"),
    "purpose.highest": N_("Highest"),
    "purpose.density_ratio_max": N_("Densest air, share of standard"),
    "purpose.density_ratio_min": N_("Thinnest air, share of standard"),
    "purpose.power_share_min": N_("Power left at the top, hottest hour"),
}
