"""Findings in words. Per code: the answer (a heading), the rail's line, and the reason.

`{drive.metres_short}` is a figure, `{at}` the finding's place, `{gap_m}` a parameter whose ending names its unit,
`{end}`, `{ground}` and the like are looked up in TERMS.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass

from lynxwort.core.figures import FIGURES
from lynxwort.core.report import Finding, Leaves, Report
from lynxwort.core.units.convert import Units
from lynxwort.words import N_, damping, fuelling, stops
from lynxwort.words.formatting import plain_number, value_text

FINDINGS: dict[str, tuple[str, str, str]] = (
    {
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
            N_(
                "Enter the setting the engine ran right with, and the air of that day. Until then the mixture is "
                "unknown."
            ),
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
            N_(
                "Far from what this engine can burn. Check the figure and the bike: it may be a leak. It hardly counts."
            ),
        ),
        "fill_up_elsewhere": (
            N_("A fill-up from another course"),
            N_("fill-up from elsewhere"),
            N_("It can only be used on the course it was ridden on."),
        ),
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
        "reach_short": (
            N_("The foot ends {chassis.reach_margin} from the ground"),
            N_("hardly reaches the ground"),
            N_(
                "Seat {chassis.seat_height} up with the rider aboard. A lower seat, or both ends lower as one "
                "move; clearance goes with it."
            ),
        ),
        "bottoms_early": (
            N_("{end}: a drop of {chassis.END.bottoming_drop} uses all travel"),
            N_("{end} bottoms early"),
            N_(
                "By springs and air alone, {chassis.END.frequency}; damping adds. Stiffer springs or, in a fork, "
                "more oil."
            ),
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
        "no_proven_jetted": (
            N_("Mixture unknown: no proven jetting"),
            N_("no proven jetting"),
            N_(
                "Start from the manual's jets in the manual's air and enter them under Baseline once the engine "
                "ran right. Never go leaner on a guess."
            ),
        ),
        "too_lean_jetted": (
            N_("Main {jet} too lean at the cold low point"),
            N_("main {jet} too lean"),
            N_(
                "Against the limit {fuelling.lean_margin.half} from half to ¾ throttle, "
                "{fuelling.lean_margin.full} above; {part} rules where it is leanest. Full throttle wants main "
                "{fuelling.main.wanted} or more, half the clip. {risk}"
            ),
        ),
        "lean_side_safe_jetted": (
            N_("Main {jet} safe on the lean side"),
            N_("main {jet} safe at the start"),
            N_(
                "Over the whole throttle; from half up {fuelling.lean_margin_min} above the limit in the densest "
                "air of the race. Warm the engine fully before holding it open."
            ),
        ),
        "no_proven_rod": (
            N_("Mixture unknown: no proven setting"),
            N_("no proven setting"),
            N_(
                "Start from the manual's rod and knob and enter them under Baseline once the engine ran right. "
                "Never go leaner on a guess."
            ),
        ),
        "too_lean_rod": (
            N_("Too lean at the cold low point"),
            N_("too lean in the cold"),
            N_(
                "Lean end {fuelling.lean_margin_min} against the limit; wants the knob at {fuelling.knob.wanted} "
                "clicks or more. What it evens out by itself is counted. {risk}"
            ),
        ),
        "lean_side_safe_rod": (
            N_("Knob safe on the lean side"),
            N_("knob safe all day"),
            N_(
                "Lean end {fuelling.lean_margin_min} above the limit over the air of the race, its own "
                "compensation counted. Warm the engine fully first."
            ),
        ),
        "no_proven_injected": (
            N_("Mixture unknown: no proven map"),
            N_("no proven map"),
            N_(
                "Start from the maker's map and enter it under Baseline once the engine ran right. Never go "
                "leaner on a guess."
            ),
        ),
        "too_lean_injected": (
            N_("The map runs too lean in the densest air"),
            N_("map too lean"),
            N_(
                "Lean end {fuelling.lean_margin_min} against the limit from half throttle up, "
                "{fuelling.lean_margin.quarter} from ¼ to ½, {fuelling.lean_margin.closed} closed; the whole "
                "wants a trim of {fuelling.trim.wanted} or more. {risk}"
            ),
        ),
        "lean_side_safe_injected": (
            N_("The map is safe on the lean side"),
            N_("map safe at the start"),
            N_(
                "Over the whole throttle; from half up {fuelling.lean_margin_min} above the limit in the densest "
                "air of the race. Warm the engine fully first."
            ),
        ),
        "sensors_unasked": (
            N_("What the injection senses is not said"),
            N_("sensors not said"),
            N_(
                "A unit that senses no air goes rich with height; one with pressure and temperature hardly moves. "
                "Say it under the bike's facts."
            ),
        ),
        "nothing_to_meter": (
            N_("Electric: nothing to meter"),
            N_("electric, nothing to meter"),
            N_(
                "Power modes stand under Drive, the pack and its charge under Range. Longest full throttle "
                "{fuelling.longest_full_throttle}: watch the motor's temperature there."
            ),
        ),
        "rich_high_up": (
            N_("Rich at the hot high point"),
            N_("rich high up"),
            N_(
                "{fuelling.richness_full_thinnest} at full throttle up there. A leaner step is offered only if it "
                "mends something and no part of the throttle falls below what ran right at the cold low point; "
                "then a plug check."
            ),
        ),
        "needle_unmeasured": (
            N_("Needle not measured"),
            N_("needle not measured"),
            N_("Steps are judged by their lean end. A calliper on needle and jet would narrow it."),
        ),
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
        "may_run_dry": (
            N_("Finishes {range.p_finish}, wants {certainty}"),
            N_("finishes {range.p_finish}, wants {certainty}"),
            N_("{range.fuel_wanted} aboard would be {certainty} sure; {range.left_at_finish} left on an average day."),
        ),
        "lasts": (
            N_("Fuel lasts: {range.p_finish} sure"),
            N_("lasts, {range.p_finish} sure"),
            N_("{range.fuel_wanted} would do; {range.left_at_finish} left on an average day."),
        ),
        "fuel_not_measured": (
            N_("Not measured on this bike"),
            N_("fuel not measured"),
            N_(
                "{certainty} sure needs {times_now} times the likely fuel. One known fill-up cuts that to "
                "{times_after}: {saved_m3} less to carry."
            ),
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
        "energy_not_measured": (
            N_("Not measured on this bike"),
            N_("charge not measured"),
            N_(
                "{certainty} sure needs {times_now} times the likely charge. One known charge cuts that to "
                "{times_after}: {saved_j} less to carry."
            ),
        ),
    }
    | damping.FINDINGS
    | fuelling.FINDINGS
    | stops.FINDINGS
)

#: Beside these codes stands the usual caution.
CAUTIONS: dict[str, str] = (
    {
        "load_wants_spring": N_(
            "Springs are under load: stand the bike safely, use the right compressor. The manual rules."
        ),
        "too_lean_jetted": N_(
            "A symptom, a plug colour or a crisper feel is no reason to go leaner: it is crispest just before it "
            "seizes. The manual rules."
        ),
        "too_lean_rod": N_("A symptom, a plug colour or a crisper feel is no reason to go leaner. The manual rules."),
        "too_lean_injected": N_(
            "A symptom, a plug colour or a crisper feel is no reason to go leaner. The manual rules."
        ),
        "rich_high_up": N_(
            "Never chase crispness on the lean side. After a leaner step: warm it fully, hold it open only "
            "briefly, and read a new plug first."
        ),
        "lean_below_half": N_(
            "A lean pilot or needle hangs the idle, stalls, and overheats on long descents, where nobody listens "
            "for it. The manual rules."
        ),
        "may_run_dry": N_(
            "Fuel and its vapour burn: outdoors, engine cold, approved cans, nobody smoking. Do not brim a cold tank."
        ),
        "may_run_dry_energy": N_(
            "High voltage can kill: a pack is swapped and charged as its maker says, by who is trained for it; "
            "never open it, never charge a damaged or frozen pack."
        ),
        "lasts_energy": N_("High voltage can kill: charge and swap the pack as its maker says; never open it."),
        "chain_fits": N_(
            "Never tighter than the manual's figure: a tight chain breaks bearings and cases. Engine off, fingers "
            "clear."
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
            "A tyre that jams in its guard locks the wheel: look at full travel, springs out or strapped, before "
            "riding."
        ),
        "trail_less_than_proven": N_("First ride after a change of steering slow and alone."),
        "oil_beyond": N_(
            "The manual's limits rule. Damper work under gas pressure belongs to a licensed shop; let air out "
            "before any cap comes off."
        ),
        "fork_air_off": N_(
            "Pump and gauge as the maker says, wheel off the ground, cold; never open a valve under pressure near "
            "the face."
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
        "short_on_climb": N_("Speeds along the course are assumed by the model, never a speed to ride."),
        "hill_too_slow": N_(
            "Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."
        ),
        "hill_tight": N_(
            "Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."
        ),
        "hill_with_speed": N_(
            "Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."
        ),
        "hill_grip": N_(
            "Speeds are assumed by the model, never a speed to ride. A hill is walked before it is charged."
        ),
        "hill_no_run_up": N_("Turn round where it is still easy: a bike that falls backwards falls on its rider."),
        "tyre_too_slow": N_("The figure on the sidewall and the makers of tyre and filling rule."),
        "shakes_long": N_(
            "White or numb fingers are a warning: stop, warm up, see a doctor. (ISO 5349-1, in principle.)"
        ),
        "grip_unknown": N_("Speeds along the course are assumed by the model, never a speed to ride."),
    }
    | fuelling.CAUTIONS
    | stops.CAUTIONS
    | damping.CAUTIONS
)

TERMS: dict[str, str] = {
    "measure_sag_first": N_("Not measured at this end: measure both sags first, then judge the spring."),
    "rear": N_("Rear"), "front": N_("Front"), "free": N_("free"), "race": N_("race"),
    "rear_free": N_("rear free sag"), "rear_race": N_("rear race sag"), "front_free": N_("front free sag"),
    "front_race": N_("front race sag"), "hardpack": N_("hardpack"), "gravel": N_("gravel"), "loam": N_("loam"),
    "sand": N_("sand"), "deep_sand": N_("deep sand"), "mud": N_("mud"), "rock": N_("rock"), "whoops": N_("whoops"),
    "single_track": N_("single track"), "unnamed_hill": N_("the climb"), "no_speed": N_("no speed"),
    "held_corner": N_("a corner"), "held_pace": N_("pace"), "held_power": N_("power"), "roll_out": N_("roll-out"),
    "rpm_speed": N_("revs and speed"), "top_speed": N_("top speed"), "hill": N_("a climb"),
    "front_tyre_guard_clearance": N_("Front tyre to the guard"),
    "front_clamp_clearance": N_("Front tyre to the lower clamp"),
    "front_radiator_clearance": N_("Front tyre to the radiators"),
    "front_bar_clearance": N_("Fork tubes to the bars"), "rear_guard_clearance": N_("Rear tyre to the guard"),
    "rear_seat_clearance": N_("Rear tyre to the seat"), "rear_exhaust_clearance": N_("Rear tyre to the exhaust"),
    "wheelbase": N_("Wheelbase"), "rake": N_("Rake"), "seat_height": N_("Seat height"),
    "ground_clearance": N_("Ground clearance"),
    "axle_moved": N_("The axle moved in its adjusters explains as much: look there first."),
    "tubes_moved": N_("Tubes moved in the clamps, or a gauge not on the tube, explain as much."),
    "other_state": N_("Another state than said explains as much: topped out, alone on its wheels, rider aboard?"),
    "tape": N_("Check the unit, the marks and the digits."),
} | damping.TERMS | fuelling.TERMS  # fmt: skip

STATION_NAMES: dict[str, str] = {
    "purpose": N_("Purpose"), "baseline": N_("Baseline"), "chassis": N_("Chassis"), "damping": N_("Damping"),
    "fuelling": N_("Fuelling"), "drive": N_("Drive"), "range": N_("Range"), "card": N_("Pit card"),
}  # fmt: skip

TUNABLE_NAMES: dict[str, str] = {
    "shock_preload_m": N_("Shock preload"), "shock_spring_rate_n_per_m": N_("Shock spring"),
    "fork_preload_m": N_("Fork preload"), "fork_spring_rate_n_per_m": N_("Fork spring, each leg"),
    "main_jet": N_("Main jet"), "needle_clip": N_("Needle clip"), "front_sprocket_teeth": N_("Front sprocket"),
    "rear_sprocket_teeth": N_("Rear sprocket"), "fuel_fill_m3": N_("Fuel at the start"),
    "fork_other_rate_n_per_m": N_("Fork spring, other leg"), "fork_second_rate_n_per_m": N_("Fork spring comes to"),
    "fork_second_from_m": N_("Fork spring changes from"), "fork_second_at_m": N_("Fork spring changed at"),
    "shock_second_rate_n_per_m": N_("Shock spring comes to"), "shock_second_from_m": N_("Shock spring changes from"),
    "shock_second_at_m": N_("Shock spring changed at"), "fork_oil_up_m": N_("Fork oil, level raised"),
    "fork_air_pressure_pa": N_("Fork main chamber"), "fork_balance_pressure_pa": N_("Fork balance chamber"),
    "payload_left": N_("Things left at home"), "front_wheel": N_("Front wheel fitted"),
    "rear_wheel": N_("Rear wheel fitted"), "bar_up_m": N_("Bars raised"), "bar_ahead_m": N_("Bars ahead"),
    "peg_down_m": N_("Pegs lowered"), "seat_up_m": N_("Seat raised"),
    "fork_up_m": N_("Fork tubes through the clamps"), "rear_up_m": N_("Rear raised at the axle"),
    "offset_change_m": N_("Clamp offset, change"), "front_tyre_pressure_pa": N_("Front tyre"),
    "rear_tyre_pressure_pa": N_("Rear tyre"), "tank_capacity_m3": N_("Tank"), "premix_ratio": N_("Premix"),
    "metering_rod": N_("Metering rod"), "knob_clicks": N_("Mixture knob"), "map_slot": N_("Fuel map"),
    "fuel_trim": N_("Map trim"), "power_mode": N_("Power mode"), "gearbox": N_("Gears fitted"),
    "charge_share": N_("Charge at the start"), "pack_energy_j": N_("Pack"),
} | damping.TUNABLE_NAMES | fuelling.TUNABLE_NAMES | stops.TUNABLE_NAMES  # fmt: skip

#: kinds of part in the box
PART_KINDS: dict[str, str] = {
    **{
        k: TUNABLE_NAMES[k]
        for k in (
            "front_sprocket_teeth",
            "rear_sprocket_teeth",
            "main_jet",
            "fork_spring_rate_n_per_m",
            "shock_spring_rate_n_per_m",
            "tank_capacity_m3",
            "metering_rod",
            "pack_energy_j",
        )
    },
    "pilot_jet": N_("Pilot jet"),
    "needle": N_("Needle"),
    "wheel": N_("Wheel"),
    "shim": N_("Shim"),
}

#: names of figures where they stand in tables and ledgers
FIGURE_NAMES: dict[str, str] = {
    "purpose.distance": N_("Whole race"), "purpose.lap_distance": N_("One lap"), "purpose.climb": N_("Climb per lap"),
    "purpose.laps": N_("Laps"), "purpose.schedule_margin_min": N_("In hand on the schedule"),
    "fuelling.knob.wanted": N_("Leanest safe knob setting"), "fuelling.trim.wanted": N_("Leanest safe trim"),
    "range.energy_per_lap": N_("Charge per lap"), "range.energy_race": N_("Charge, whole race"),
    "range.energy_wanted": N_("Charge wanted"), "range.energy_per_km": N_("Charge per distance"),
    "range.energy_left": N_("Charge left at the end"), "purpose.raw_climb": N_("Climb if every point were believed"),
    "purpose.lowest": N_("Lowest"), "purpose.highest": N_("Highest"),
    "purpose.density_ratio_max": N_("Densest air, share of standard"),
    "purpose.density_ratio_min": N_("Thinnest air, share of standard"),
    "purpose.power_share_min": N_("Power left at the top, hottest hour"),
    "baseline.readings_used": N_("Readings in use"), "chassis.front.free_sag": N_("Front free sag"),
    "chassis.front.race_sag": N_("Front race sag"), "chassis.rear.free_sag": N_("Rear free sag"),
    "chassis.rear.race_sag": N_("Rear race sag"), "chassis.rear.race_sag_full": N_("Rear race sag, full"),
    "chassis.rear.race_sag_empty": N_("Rear race sag, empty"),
    "chassis.front.race_sag_full": N_("Front race sag, full"),
    "chassis.front.race_sag_empty": N_("Front race sag, empty"),
    "chassis.front.spring_rate_wanted": N_("Fork spring wanted, each leg"),
    "chassis.rear.spring_rate_wanted": N_("Shock spring wanted"),
    "chassis.rear.preload_wanted": N_("with shock preload"), "chassis.front.preload_wanted": N_("with fork preload"),
    "chassis.front.preload_turns": N_("Turn the fork's adjusters by"),
    "chassis.rear.preload_turns": N_("Turn the shock's ring by"),
    "chassis.front.rate_true": N_("Fork spring, true rate"), "chassis.rear.rate_true": N_("Shock spring, true rate"),
    "chassis.front.friction_band": N_("Fork friction, half band"),
    "chassis.rear.friction_band": N_("Rear friction, half band"),
    "chassis.front.air_pressure_wanted": N_("Fork main chamber wanted"),
    "chassis.front.balance_pressure_wanted": N_("Fork balance chamber wanted"),
    "chassis.front.race_sag_unbled": N_("Front race sag, not bled"),
    "chassis.cg_height": N_("Centre of gravity, height"), "chassis.balance": N_("Front frequency / rear"),
    "chassis.front.clamp_clearance": N_("Front tyre to lower clamp"),
    "chassis.front.radiator_clearance": N_("Front tyre to radiators"),
    "chassis.front.bar_clearance": N_("Fork tubes to bars"), "chassis.rear.guard_clearance": N_("Rear tyre to guard"),
    "chassis.rear.seat_clearance": N_("Rear tyre to seat"),
    "chassis.rear.exhaust_clearance": N_("Rear tyre to exhaust"), "chassis.seat_to_peg": N_("Seat to pegs"),
    "chassis.seat_to_bar": N_("Seat to grips"), "chassis.peg_to_bar": N_("Pegs to grips"),
    "chassis.climb_front_share": N_("On the front, steepest climb"),
    "chassis.braking_front_share": N_("On the front, hardest braking"),
    "chassis.side_stand_cut": N_("Side stand, take off"), "chassis.axle_load.front": N_("On the front wheel, full"),
    "chassis.axle_load.rear": N_("On the rear wheel, full"),
    "chassis.axle_load.front_half": N_("On the front wheel, half"),
    "chassis.axle_load.rear_half": N_("On the rear wheel, half"),
    "chassis.axle_load.front_empty": N_("On the front wheel, empty"),
    "chassis.axle_load.rear_empty": N_("On the rear wheel, empty"),
    "fuelling.richness_full_densest": N_("Full throttle, densest air"),
    "fuelling.richness_full_thinnest": N_("Full throttle, thinnest air"), "fuelling.lean_limit": N_("Lean limit"),
    "fuelling.lean_margin_min": N_("Lean margin"), "fuelling.main.wanted": N_("Leanest safe main jet"),
    "fuelling.longest_full_throttle": N_("Longest full throttle"), "drive.top_speed": N_("Top speed"),
    "drive.crawl_speed": N_("Crawl"), "drive.metres_short": N_("Does not pull"),
    "drive.metres_grip_unknown": N_("Grip not known"), "drive.lap_time": N_("Lap, by the model"),
    "chassis.rake": N_("Rake"), "chassis.trail": N_("Trail"), "chassis.wheelbase": N_("Wheelbase"),
    "chassis.seat_height": N_("Seat, rider aboard"), "chassis.ground_clearance": N_("Ground clearance"),
    "chassis.reach_margin": N_("Leg to spare"), "chassis.anti_squat": N_("Anti-squat"),
    "chassis.rear.frequency": N_("Rear ride frequency"), "chassis.front.frequency": N_("Front ride frequency"),
    "chassis.rear.bottoming_drop": N_("Drop that bottoms the rear"),
    "chassis.front.bottoming_drop": N_("Drop that bottoms the fork"),
    "chassis.front.tyre_guard_clearance": N_("Front tyre to guard"),
    "chassis.tyre_pressure_at_start": N_("Rear tyre at the start"),
    "chassis.tyre_pressure_front_at_start": N_("Front tyre at the start"),
    "chassis.fork_pressure_at_start": N_("Fork air at the start"),
    "drive.tyre_speed_margin": N_("Tyre's speed in hand"), "drive.lift_share.low": N_("Throttle under one eighth"),
    "drive.lift_share.high": N_("Throttle over three quarters"), "drive.hill.1.limit": N_("Steepest held, hill 1"),
    "drive.hill.2.limit": N_("Steepest held, hill 2"), "drive.hill.3.limit": N_("Steepest held, hill 3"),
    "drive.hill.1.run_up_speed": N_("Run-up, hill 1"), "drive.hill.2.run_up_speed": N_("Run-up, hill 2"),
    "drive.hill.3.run_up_speed": N_("Run-up, hill 3"), "drive.shifts": N_("Shifts per lap"),
    "drive.share.power": N_("Held up by power or revs"), "drive.share.grip": N_("Held up by grip"),
    "drive.share.shift": N_("In a gear change"), "drive.share.pace": N_("Held up by pace and corners"),
    "drive.longest_full_throttle": N_("Longest full throttle"), "drive.shifts_per_km": N_("Shifts per distance"),
    "drive.clutch_energy": N_("Heat in the clutch"), "drive.time_at_limiter": N_("Against the limiter"),
    "drive.time_over_shake": N_("Above the shaking revs"), "drive.chain.links": N_("Chain, links"),
    "drive.chain.axle_move": N_("Axle from the middle"), "drive.chain.adjuster_left": N_("Adjuster left"),
    "drive.chain.case_clearance": N_("Front sprocket to case"),
    "drive.chain.slack_on_stand": N_("Chain slack on the stand"), "drive.wheelbase_change": N_("Wheelbase change"),
    "drive.first_second_drop": N_("Drop, first to second"), "drive.energy_residual": N_("Energy out of balance"),
    "range.k": N_("This bike's factor"), "range.k_sd": N_("its spread"), "range.fuel_per_lap": N_("Fuel per lap"),
    "range.fuel_race": N_("Fuel, whole race"), "range.fuel_wanted": N_("Fuel wanted"),
    "range.p_finish": N_("Finishes"), "range.left_at_finish": N_("Left at the end"),
} | damping.FIGURE_NAMES | fuelling.FIGURE_NAMES | stops.FIGURE_NAMES  # fmt: skip

#: names of inputs in the Why drawer, by path
INPUT_NAMES: dict[str, str] = {
    "race.stages.0.laps": N_("laps"), "race.air.temperature_low_k": N_("coldest hour"),
    "race.air.temperature_high_k": N_("hottest hour"), "race.air.pressure_pa": N_("pressure as read"),
    "race.air.pressure_spread_pa": N_("pressure may move by"), "race.air.relative_humidity_low": N_("driest hour"),
    "race.air.relative_humidity_high": N_("dampest hour"), "race.certainty": N_("wanted certainty"),
    "rider.mass_in_gear_kg": N_("rider in gear"), "rider.pace": N_("pace"),
    "bike.frame.mass_dry_kg": N_("bike without fuel"), "bike.frame.front_share": N_("share on the front wheel"),
    "bike.frame.fuel_front_share": N_("share of fuel on the front wheel"), "bike.frame.drag_area_m2": N_("drag area"),
    "bike.frame.unusable_fuel_m3": N_("fuel that stays in the tank"),
    "bike.frame.fork_friction_n": N_("fork friction"), "bike.frame.shock_friction_n": N_("shock friction"),
    "bike.frame.fork_preload_pitch_m": N_("one turn of the fork's adjuster"),
    "bike.frame.shock_preload_pitch_m": N_("one turn of the shock's ring"),
    "bike.frame.front_clamp_gap_m": N_("tyre to lower clamp, topped out"),
    "bike.frame.front_radiator_gap_m": N_("tyre to radiators, topped out"),
    "bike.frame.bar_gap_m": N_("tubes to bars, flush"),
    "bike.frame.rear_guard_gap_m": N_("rear tyre to guard, topped out"),
    "bike.frame.rear_seat_gap_m": N_("rear tyre to seat, topped out"),
    "bike.frame.rear_exhaust_gap_m": N_("rear tyre to exhaust, topped out"),
    "bike.frame.bar_height_m": N_("grips, height topped out"),
    "bike.frame.peg_height_m": N_("pegs, height topped out"), "bike.frame.side_stand_m": N_("side stand, length"),
    "bike.frame.swingarm_length_m": N_("swingarm, pivot to axle"),
    "bike.frame.adjuster_half_range_m": N_("adjusters, each way"), "bike.frame.chain_links": N_("links fitted"),
    "bike.frame.case_gap_m": N_("sprocket centre to case"),
    "bike.frame.chain_play_m": N_("play where it is tightest"),
    "bike.frame.axle_below_pivot_m": N_("axle below the pivot"), "bike.frame.home_height_m": N_("height at home"),
    "bike.frame.home_temperature_k": N_("temperature at home"), "bike.frame.rake_rad": N_("rake, topped out"),
    "bike.frame.wheelbase_m": N_("wheelbase, topped out"), "bike.frame.clamp_offset_m": N_("clamp offset"),
    "bike.frame.axle_lead_m": N_("axle ahead of the legs"), "bike.frame.seat_height_m": N_("seat, topped out"),
    "bike.frame.cg_height_m": N_("centre of gravity, height"),
    "bike.frame.ground_clearance_m": N_("clearance, topped out"),
    "bike.frame.seat_half_width_m": N_("half of the seat's width"),
    "bike.frame.front_guard_gap_m": N_("tyre to guard, topped out"),
    "bike.tyre.inside_speed_m_per_s": N_("filling made for"), "bike.engine.shake_rpm": N_("shakes from"),
    "bike.engine.peak_power_w": N_("highest power"), "bike.engine.peak_power_rpm": N_("speed of highest power"),
    "bike.engine.idle_rpm": N_("idle"), "race.stages.0.hours_s": N_("hours"),
    "bike.engine.usable_share": N_("usable share of the pack"),
    "bike.engine.carburettor.compensation": N_("evens out of the air's change"),
    "bike.engine.carburettor.compensated_change": N_("up to a change of density of"),
    "bike.engine.displacement_m3": N_("engine size"), "bike.transmission.primary_ratio": N_("primary ratio"),
    "bike.tyre.rolling_radius_m": N_("rolling radius"),
} | fuelling.INPUT_NAMES  # fmt: skip


def input_name(path: str) -> str:
    """What an input is called: a tunable, a named input, or its path in plain words."""
    field = path.rsplit(".", 1)[-1]
    path = re.sub(r"^riders\.\d+\.", "rider.", path)
    if path.startswith("setup.") and field in TUNABLE_NAMES:
        return TUNABLE_NAMES[field]
    return INPUT_NAMES.get(path, field.replace("_", " "))


#: how a step is labelled when less and more would mislead
STEP_WORDS: dict[str, tuple[str, str]] = {
    "fork_oil_up_m": (N_("less oil"), N_("more oil, stiffer deep in")),
    "payload_left": (N_("one more along"), N_("one more left")), "bar_ahead_m": (N_("bars back"), N_("bars ahead")),
    "peg_down_m": (N_("pegs up"), N_("pegs down")),
    "fork_up_m": (N_("tubes down, front up"), N_("tubes up, front down")),
    "rear_up_m": (N_("rear down"), N_("rear up")), "offset_change_m": (N_("more trail"), N_("less trail")),
    "needle_clip": (N_("needle down, leaner"), N_("needle up, richer")),
    "metering_rod": (N_("leaner rod"), N_("richer rod")), "knob_clicks": (N_("a click leaner"), N_("a click richer")),
    "fuel_trim": (N_("leaner"), N_("richer")), "power_mode": (N_("stronger"), N_("weaker")),
} | damping.STEP_WORDS | fuelling.STEP_WORDS  # fmt: skip

#: why a figure does not apply, by the code it carries
REASONS: dict[str, str] = {
    "electric": N_("an electric motor burns no fuel"), "burns_fuel": N_("this bike burns fuel"),
    "fed_jetted": N_("this engine is fed through jets"), "fed_rod": N_("this engine is fed through a metering rod"),
    "fed_injected": N_("this engine is fed by injection"), "one_gear": N_("there is one gear"),
    "no_clutch": N_("there is no clutch"), "pulls_from_standstill": N_("an electric motor pulls from a standstill"),
    "pack_keeps_mass": N_("a pack weighs the same full and empty"), "fork_on_air": N_("this fork stands on air"),
    "fork_on_coils": N_("this fork stands on coil springs"),
    "no_balance_chamber": N_("this fork has no balance chamber"), "no_such_hill": N_("the course has no such hill"),
    "no_schedule": N_("this race has no schedule"),
} | fuelling.REASONS | stops.REASONS  # fmt: skip

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

#: where a course's heights come from
HEIGHT_SOURCES: dict[str, str] = {
    "satellite": N_("satellite receiver (phone, most devices)"),
    "barometer": N_("barometric device"),
    "terrain": N_("terrain model (drawn on a map)"),
}

#: readings where they are taken: what it is, how it is done
READINGS: dict[str, tuple[str, str]] = {
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
} | fuelling.READINGS

#: what a change did to a figure; how a figure or an input came about; verdicts
JUDGEMENTS: dict[str, str] = {
    "better": N_("better"),
    "worse": N_("worse"),
    "even": N_("even"),
    "changed": N_("changed"),
}
BASES: dict[str, str] = {
    "computed": N_("computed"),
    "calibrated": N_("calibrated"),
    "assumed": N_("assumed"),
    "measured": N_("measured"),
    "given": N_("given"),
}
#: what a proposal may leave
LEFT: dict[str, str] = {f"lean_{name}": words for name, words in fuelling.RANGES.items()} | {
    "rich_full": N_("full throttle high up")
}
LEAF_WORDS: dict[str, str] = {"ok": N_("settled"), "look": N_("look"), "act": N_("act"), "unknown": N_("unknown")}

#: kinds of stage
STAGE_KINDS: dict[str, str] = {"race": N_("race stage"), "test": N_("test"), "liaison": N_("liaison")}

#: what the ground is like, how it bends, what fills a tyre, how a clutch works, how a climb went
SURFACE_STATES: dict[str, str] = {"dry": N_("dry"), "wet": N_("wet"), "cut_up": N_("cut up by those before")}
TIGHTNESS: dict[str, str] = {
    "open": N_("less than the track shows"),
    "usual": N_("as usual"),
    "tight": N_("tighter than the track shows"),
}
TYRE_FILLINGS: dict[str, str] = {
    "tube": N_("a tube"),
    "heavy_tube": N_("a heavy tube"),
    "mousse": N_("a foam insert"),
    "two_chamber": N_("two chambers"),
    "tubeless": N_("air, no tube"),
}
GEOMETRY_STATES: dict[str, str] = {
    "topped_out": N_("topped out"),
    "free": N_("alone on its wheels"),
    "race": N_("rider aboard"),
}
FORK_SPRINGINGS: dict[str, str] = {"coil": N_("coil springs"), "air": N_("air")}
FORK_SPRINGS: dict[str, str] = {
    "alike": N_("one in each leg, alike"),
    "one": N_("one leg only"),
    "different": N_("different in each leg"),
}
RATE_KINDS: dict[str, str] = {"straight": N_("one rate"), "changing": N_("changes its rate: two-stage or progressive")}
FORK_DAMPINGS: dict[str, str] = {
    "both": N_("in both legs"),
    "split": N_("compression in one leg, rebound in the other"),
}
POSTURES: dict[str, str] = {"seated": N_("seated"), "standing": N_("standing"), "attack": N_("attack")}
SCHOOLS: dict[str, str] = {
    "two_sag": N_("two sags"),
    "chart": N_("chart by weight"),
    "frequency": N_("ride frequency and bottoming"),
    "agrees": N_("agrees"),
    "softer": N_("softer"),
    "stiffer": N_("stiffer"),
    "chart_knows_weight_only": N_(
        "A chart knows the rider's weight only: not this bike's own weight, its link, nor how the rider stands on it."
    ),
    "sag_wants_free_travel": N_(
        "It rides quicker than it need for comfort: the sags ask for more spring to hold the bike up."
    ),
    "reserve_asks_more": N_(
        "The drop it should take without bottoming asks for more spring than the sags: more oil or damping first, "
        "then spring."
    ),
    "sag_is_soft_on_purpose": N_("By feel of the ride it could be stiffer; the sags keep travel for holes."),
}
#: verdicts of the sag clinic: heading, and by cause what to do
CLINIC: dict[str, str] = {
    "right": N_("The spring is right"),
    "preload": N_("The spring is right, the preload is not"),
    "soft": N_("The spring is too soft"),
    "stiff": N_("The spring is too stiff"),
    "unsure": N_("Not certain enough: measure again"),
    "impossible": N_("This cannot be"),
    "row_soft": N_("too soft"),
    "row_right": N_("right"),
    "row_stiff": N_("too stiff"),
    "both_in_band": N_("Both sags lie in their bands."),
    "turn_the_ring": N_("Both bands can be met by turning the preload."),
    "little_free": N_(
        "With race sag set, too little free sag is left: a soft spring squeezed hard. It feels stiff when you "
        "lift it, and is too soft."
    ),
    "much_free": N_(
        "With race sag set, too much free sag is left: a stiff spring hardly squeezed. It feels soft when you "
        "lift it, and is too stiff."
    ),
    "near_soft": N_(
        "It may be soft, but three millimetres of tape could say otherwise. Measure each twice more and take the mean."
    ),
    "near_stiff": N_(
        "It may be stiff, but three millimetres of tape could say otherwise. Measure each twice more and take the mean."
    ),
    "topped_out_free": N_(
        "Alone it stays topped out, so the two sags cannot tell the rate. Take preload off until it sags alone, "
        "and measure again."
    ),
    "swapped": N_("Lifted it stands lower than pushed down: were the two written the wrong way round?"),
    "above_topped_out": N_(
        "It stands higher on its wheels than topped out: was the wheel off the ground at the first reading?"
    ),
    "beyond_travel": N_("That is more than the travel. Check the unit and the marks."),
    "sticks": N_(
        "Pushed down and lifted lie too far apart: the fork is bent or dry, or the axle is clamped skew. Mend "
        "that first."
    ),
    "rider_weighs_nothing": N_("The rider hardly moved it. Were the two sags mixed up?"),
}
CLUTCHES: dict[str, str] = {"manual": N_("by hand"), "automatic": N_("by itself")}
CLIMBS: dict[str, str] = {"climbed": N_("climbed"), "spun": N_("the wheel spun"), "stalled": N_("the engine gave out")}

#: kinds of engine as the forms name them
ENGINES: dict[str, str] = {
    "jetted_two_stroke": N_("Two-stroke, jetted carburettor"),
    "jetted_four_stroke": N_("Four-stroke, jetted carburettor"),
    "rod_two_stroke": N_("Two-stroke, metering-rod carburettor"),
    "rod_four_stroke": N_("Four-stroke, metering-rod carburettor"), "injected_two_stroke": N_("Two-stroke, injected"),
    "injected_four_stroke": N_("Four-stroke, injected"), "electric": N_("Electric"),
}  # fmt: skip

LIMIT_WORDS: dict[str, str] = {
    "power": N_("power"), "grip": N_("grip"), "wheelie": N_("front wheel lifts"), "pace": N_("pace"),
    "corner": N_("corner"), "brake": N_("braking"), "revs": N_("revs"), "shift": N_("gear change"),
    "stuck_power": N_("does not pull"), "stuck_grip": N_("grip not known"),
}  # fmt: skip

#: how a lap divides, and into what; a part's words stand under "division.part", bare numbers stand for themselves
HABITS: dict[str, str] = {
    "limit": N_("limit"), "limit.power": N_("power, revs"), "limit.shift": N_("shifts"), "limit.grip": N_("grip"),
    "limit.pace": N_("pace, corners, brakes"), "gear": N_("gear"), "rpm": N_("rpm from"), "lift": N_("throttle"),
    "lift.eighth": N_("under ⅛"), "lift.quarter": N_("to ¼"), "lift.half": N_("to ½"),
    "lift.three_quarters": N_("to ¾"), "lift.full": N_("above"), "energy": N_("work"),
    "energy.rolling": N_("rolling"), "energy.air": N_("air"), "energy.corner": N_("bends"),
    "energy.brake": N_("brakes"), "energy.engine_brake": N_("engine brake"), "energy.slip": N_("slip"),
    "energy.clutch": N_("clutch"), "energy.transmission": N_("gears, chain"),
}  # fmt: skip
POSES: dict[str, str] = {
    "topped_out": N_("on the stand"),
    "race_sag": N_("race sag"),
    "tightest": N_("tightest"),
    "full_travel": N_("full travel"),
}

_PARAMETER_KINDS = (
    ("tilt_rad", "tilt"),
    ("bore_m", "bore"),
    ("pressure_high", "pressure"),
    ("_m3", "volume"),
    ("_kg", "mass"),
    ("_rate", "spring_rate"),
    ("_m", "travel"),
    ("_j", "energy"),
    ("allowed_time_s", "minutes"),
    ("standing_time", "duration"),
    ("time_s", "hours"),
    ("_speed", "speed"),
    ("_richness", "richness"),
    ("_time", "duration"),
)
_COARSE = {
    "gap_m": "stretch", "certainty": "share", "grade": "share", "held_grade": "share", "share": "share",
    "chance_share": "share", "high_m": "bore", "most_m": "bore",
}  # fmt: skip
_HOLE = re.compile(r"\{([a-zA-Z0-9_.]+)\}")


@dataclass(frozen=True, slots=True)
class Words:
    """A finding in words: answer (heading), rail (short), text (reason), caution (or empty)."""

    answer: str
    rail: str
    text: str
    caution: str


def identity(text: str) -> str:
    """No translation."""
    return text


def figure_text(report: Report, name: str, preset: Units | str, translate: Callable[[str], str] = identity) -> str:
    """One figure with its unit; "unknown" when it has no value."""
    figure = report.figures.get(name)  # a report as kept or as stood may lack what was not known then
    value = None if figure is None else figure.value
    return translate(N_("unknown")) if value is None else value_text(value, FIGURES[name].kind, preset)


def _parameter(name: str, value: float | str, preset: Units | str, translate: Callable[[str], str]) -> str:
    if isinstance(value, str):
        return translate(TERMS.get(value, value))
    if name in _COARSE:
        return value_text(value, _COARSE[name], preset)
    for ending, kind in _PARAMETER_KINDS:
        if name.endswith(ending):
            return value_text(value, kind, preset)
    whole = abs(value - round(value)) < 1e-9 or name == "rpm"
    return plain_number(value, 0 if whole else 1)


def say(
    finding: Finding, report: Report, preset: Units | str = "metric", translate: Callable[[str], str] = identity
) -> Words:
    """A finding in words, in the rider's units. Raises KeyError for a code without words."""
    end = str(finding.parameters.get("end", ""))

    def fill(template: str) -> str:
        def hole(match: re.Match[str]) -> str:
            name = match.group(1).replace(".END.", f".{end}.")
            if name in FIGURES:
                return figure_text(report, name, preset, translate)
            if name == "at" and finding.at_m is not None:
                return value_text(finding.at_m, "distance", preset)
            return _parameter(name, finding.parameters[name], preset, translate)

        text = _HOLE.sub(hole, translate(template))
        return text[:1].upper() + text[1:]

    answer, rail, text = FINDINGS[finding.code]
    line = fill(rail)
    return Words(
        answer=fill(answer),
        rail=line[:1].lower() + line[1:],
        text=fill(text),
        caution=translate(CAUTIONS.get(finding.code, "")),
    )


def leaves_text(leaves: Leaves, preset: Units | str = "metric", translate: Callable[[str], str] = identity) -> str:
    """What a proposal leaves, in words."""
    if not leaves.what:
        return (
            translate(N_("settles it"))
            if leaves.severity == "ok"
            else translate(N_("lessens it: %(left)s")) % {"left": translate(LEAF_WORDS[leaves.severity])}
        )
    left = translate(N_("leaves %(what)s at %(value)s")) % {
        "what": translate(LEFT[leaves.what]),
        "value": value_text(leaves.value_si, "richness", preset),
    }
    return left if leaves.severity == "ok" else f"{left}: {translate(LEAF_WORDS[leaves.severity])}"
