"""Findings in words. Per code: the answer (a heading), the rail's line, and the reason.

`{drive.metres_short}` is a figure, `{at}` the finding's place, `{gap_m}` a parameter whose ending names its unit,
`{end}`, `{ground}` and the like are looked up in TERMS.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass

from lynxwort.core.figures import FIGURES
from lynxwort.core.report import Finding, Report
from lynxwort.core.units.convert import Units
from lynxwort.words import N_
from lynxwort.words.formatting import plain_number, value_text

FINDINGS: dict[str, tuple[str, str, str]] = {
    "race_read": (N_("{purpose.distance} in {laps} laps"), N_("{purpose.distance}, {laps} laps"),
                  N_("Each lap {purpose.lap_distance}, climbing {purpose.climb}.")),
    "race_read_one": (N_("{purpose.distance} in one lap"), N_("{purpose.distance}, one lap"), N_("It climbs {purpose.climb}.")),
    "race_read_hours": (N_("{time_s}, about {purpose.laps} laps"), N_("{time_s}, about {laps} laps"),
                        N_("The lap under way when the time is up is the last. Each {purpose.lap_distance}, climbing {purpose.climb}; about {purpose.distance} in all.")),
    "race_read_tests": (N_("{tests} tests, {liaisons} liaisons: {purpose.distance}"), N_("{tests} tests, {purpose.distance}"),
                        N_("They climb {purpose.climb} together. Liaisons are reckoned at three quarters of the rider's pace.")),
    "race_read_stages": (N_("{stages} stages, {purpose.distance}"), N_("{stages} stages, {purpose.distance}"), N_("They climb {purpose.climb} together.")),
    "schedule_holds": (N_("The schedule holds: {purpose.schedule_margin_min} in hand"), N_("schedule holds"),
                       N_("Tightest at {stage}, {allowed_time_s} allowed.")),
    "schedule_tight": (N_("{stage}: {purpose.schedule_margin_min} in hand"), N_("schedule tight at {stage}"),
                       N_("{allowed_time_s} allowed. The model's pace is only likely: a puncture or a queue takes more.")),
    "heights_missing": (N_("The track has no heights"), N_("no heights in the track"),
                        N_("Climb, air and pull are reckoned as if it were level. Load a track with heights.")),
    "ground_unset": (N_("Ground not said yet"), N_("ground not said"),
                     N_("The whole lap counts as single track. Say where it is sand, rock or gravel.")),
    "track_gap": (N_("The track jumps {gap_m}"), N_("track has a gap"),
                  N_("Two pieces were joined by a straight line. Check that the file holds the whole lap.")),
    "thin_air": (N_("Only {purpose.power_share_min} of the power at the top"), N_("{purpose.power_share_min} power at the top"),
                 N_("Share of a standard day, at the highest place in the hottest hour. Air from {purpose.density_ratio_max} to {purpose.density_ratio_min} of standard density.")),
    "air_read": (N_("{purpose.power_share_min} of the power left at the top"), N_("{purpose.power_share_min} power at the top"),
                 N_("Air from {purpose.density_ratio_max} of standard density at the coldest low point to {purpose.density_ratio_min} at the hottest high point.")),
    "air_and_motor": (N_("Thin air does not weaken the motor"), N_("air matters for drag only"),
                      N_("Air from {purpose.density_ratio_max} to {purpose.density_ratio_min} of standard density changes drag, not power.")),
    "readings_used": (N_("{count} readings shape the answers"), N_("{count} readings in use"), N_("Strike one out and everything returns to what it was without it.")),
    "sag_missing": (N_("{count} sags not measured yet"), N_("{count} sags not measured"),
                    N_("Measure {first} next: three millimetres of tape narrow the spring by about a step.")),
    "fill_up_missing": (N_("No fill-up measured"), N_("no fill-up measured"), N_("One known fill-up narrows the fuel more than anything else.")),
    "charge_missing": (N_("No charge measured"), N_("no charge measured"), N_("One known charge after known laps narrows the range more than anything else.")),
    "known_good_missing": (N_("No mixture known to run right"), N_("no proven mixture"),
                           N_("Enter the setting the engine ran right with, and the air of that day. Until then the mixture is unknown.")),
    "sag_questioned": (N_("A sag that does not fit: {value_m}"), N_("one sag is doubtful"),
                       N_("{end} {state} sag of {value_m} lies beyond what this bike can explain. Measure again; check the units and where zero was. It is not used.")),
    "fill_up_doubted": (N_("A fill-up that does not fit"), N_("one fill-up is doubtful"),
                        N_("Far from what this engine can burn. Check the figure and the bike: it may be a leak. It hardly counts.")),
    "fill_up_elsewhere": (N_("A fill-up from another course"), N_("fill-up from elsewhere"), N_("It can only be used on the course it was ridden on.")),
    "sag_right": (N_("{end}: both sags right"), N_("{end} sag right"),
                  N_("Race {chassis.END.race_sag}, free {chassis.END.free_sag}: inside both bands.")),
    "preload_off": (N_("{end} preload is off"), N_("{end} preload off"),
                    N_("Race {chassis.END.race_sag}, free {chassis.END.free_sag}. This spring can meet both bands with another preload.")),
    "spring_soft": (N_("{end} spring too soft"), N_("{end} spring too soft"),
                    N_("Race {chassis.END.race_sag}, free {chassis.END.free_sag}. With race sag set, free sag comes out too small: wants {chassis.END.spring_rate_wanted}.")),
    "spring_stiff": (N_("{end} spring too stiff"), N_("{end} spring too stiff"),
                     N_("Race {chassis.END.race_sag}, free {chassis.END.free_sag}. With race sag set, free sag comes out too large: wants {chassis.END.spring_rate_wanted}.")),
    "fuel_moves_sag": (N_("Fuel moves rear sag {change_m}"), N_("fuel moves sag {change_m}"),
                       N_("{chassis.rear.race_sag_full} on a full fill, {chassis.rear.race_sag_empty} empty. Bands are judged at half.")),
    "no_proven_jetted": (N_("Mixture unknown: no proven jetting"), N_("no proven jetting"),
                       N_("Start from the manual's jets in the manual's air and enter them under Baseline once the engine ran right. Never go leaner on a guess.")),
    "too_lean_jetted": (N_("Main {jet} too lean at the cold low point"), N_("main {jet} too lean"),
                 N_("Lean end {fuelling.lean_margin_min} against the limit from half throttle up; wants at least main {fuelling.main.wanted}. A lean two-stroke seizes.")),
    "lean_side_safe_jetted": (N_("Main {jet} safe on the lean side"), N_("main {jet} safe at the start"),
                       N_("Lean end {fuelling.lean_margin_min} above the limit in the densest air of the race. Warm the engine fully before holding it open.")),
    "no_proven_rod": (N_("Mixture unknown: no proven setting"), N_("no proven setting"),
                      N_("Start from the manual's rod and knob and enter them under Baseline once the engine ran right. Never go leaner on a guess.")),
    "too_lean_rod": (N_("Too lean at the cold low point"), N_("too lean in the cold"),
                     N_("Lean end {fuelling.lean_margin_min} against the limit; wants the knob at {fuelling.knob.wanted} clicks or more. What it evens out by itself is counted.")),
    "lean_side_safe_rod": (N_("Knob safe on the lean side"), N_("knob safe all day"),
                           N_("Lean end {fuelling.lean_margin_min} above the limit over the air of the race, its own compensation counted. Warm the engine fully first.")),
    "no_proven_injected": (N_("Mixture unknown: no proven map"), N_("no proven map"),
                           N_("Start from the maker's map and enter it under Baseline once the engine ran right. Never go leaner on a guess.")),
    "too_lean_injected": (N_("The map runs too lean in the densest air"), N_("map too lean"),
                          N_("Lean end {fuelling.lean_margin_min} against the limit; wants a trim of {fuelling.trim.wanted} or more.")),
    "lean_side_safe_injected": (N_("The map is safe on the lean side"), N_("map safe at the start"),
                                N_("Lean end {fuelling.lean_margin_min} above the limit in the densest air of the race. Warm the engine fully first.")),
    "sensors_unasked": (N_("What the injection senses is not said"), N_("sensors not said"),
                        N_("A unit that senses no air goes rich with height; one with pressure and temperature hardly moves. Say it under the bike's facts.")),
    "nothing_to_meter": (N_("Electric: nothing to meter"), N_("electric, nothing to meter"),
                         N_("Power modes stand under Drive, the pack and its charge under Range. Longest full throttle {fuelling.longest_full_throttle}: watch the motor's temperature there.")),
    "rich_high_up": (N_("Rich at the hot high point"), N_("rich high up"),
                     N_("{fuelling.richness_full_thinnest} at full throttle up there. A leaner step is offered only if the cold low point stays safe.")),
    "needle_unmeasured": (N_("Needle not measured"), N_("needle not measured"),
                          N_("Steps are judged by their lean end. A calliper on needle and jet would narrow it.")),
    "short_on_climb": (N_("Pulls all but {drive.metres_short}, at {at}"), N_("short on one climb"),
                       N_("On {ground} there no gear holds walking pace with the speed carried in.")),
    "pulls_everywhere": (N_("Pulls everywhere"), N_("pulls everywhere"), N_("On every metre some gear holds more than walking pace.")),
    "grip_unknown": (N_("Engine pulls it; grip is not known"), N_("grip not known, one climb"),
                     N_("{drive.metres_grip_unknown} on {ground} at {at}. Walk it.")),
    "chain_fits": (N_("{drive.chain.links} links, {drive.chain.slack_on_stand} slack on the stand"), N_("chain: {drive.chain.links} links"),
                   N_("Axle {drive.chain.axle_move} from the middle of its adjusters, {drive.chain.adjuster_left} left to stretch. The manual's slack rules if it is more.")),
    "chain_no_stretch": (N_("The chain has no room to stretch"), N_("adjuster nearly used up"),
                         N_("{drive.chain.adjuster_left} of adjuster left behind the axle with {drive.chain.links} links. Take a link pair out or another sprocket.")),
    "chain_no_length": (N_("No chain length fits these sprockets"), N_("no chain length fits"),
                        N_("Every even number of links puts the axle outside its adjusters. Half a link more or less does not exist: change a sprocket by a tooth.")),
    "chain_other_length": (N_("The fitted chain does not fit these sprockets"), N_("chain too long or short"),
                           N_("With that many links the axle lies outside its adjusters. Another chain, or other sprockets.")),
    "sprocket_hits_case": (N_("The front sprocket comes too near the case"), N_("sprocket near the case"),
                           N_("{drive.chain.case_clearance} left with the chain on it. Turn it by hand and look before riding.")),
    "wide_first_second": (N_("Wide step from first to second"), N_("wide first to second"), N_("{drive.first_second_drop} lost at the shift.")),
    "top_speed_revs": (N_("{drive.top_speed} at {rpm} rpm"), N_("tops at {drive.top_speed}"), N_("Revs end it, not power. Crawls at {drive.crawl_speed} on idle in first.")),
    "top_speed_power": (N_("{drive.top_speed} at {rpm} rpm"), N_("tops at {drive.top_speed}"), N_("Power ends it, not revs. Crawls at {drive.crawl_speed} on idle in first.")),
    "top_speed_revs_electric": (N_("{drive.top_speed} at {rpm} rpm of the motor"), N_("tops at {drive.top_speed}"), N_("The motor's highest speed ends it, not power.")),
    "top_speed_power_electric": (N_("{drive.top_speed} at {rpm} rpm of the motor"), N_("tops at {drive.top_speed}"), N_("Power ends it, not the motor's speed.")),
    "may_run_dry": (N_("Finishes {range.p_finish}, wants {certainty}"), N_("finishes {range.p_finish}, wants {certainty}"),
                    N_("{range.fuel_wanted} aboard would be {certainty} sure; {range.left_at_finish} left on an average day.")),
    "lasts": (N_("Fuel lasts: {range.p_finish} sure"), N_("lasts, {range.p_finish} sure"),
              N_("{range.fuel_wanted} would do; {range.left_at_finish} left on an average day.")),
    "fuel_not_measured": (N_("Not measured on this bike"), N_("fuel not measured"),
                          N_("{certainty} sure needs {times_now} times the likely fuel. One known fill-up cuts that to {times_after}: {saved_m3} less to carry.")),
    "may_run_dry_energy": (N_("Finishes {range.p_finish}, wants {certainty}"), N_("finishes {range.p_finish}, wants {certainty}"),
                           N_("{range.energy_wanted} aboard would be {certainty} sure; {range.energy_left} left on an average day.")),
    "lasts_energy": (N_("The charge lasts: {range.p_finish} sure"), N_("lasts, {range.p_finish} sure"),
                     N_("{range.energy_wanted} would do; {range.energy_left} left on an average day. {range.energy_per_km} over the race.")),
    "energy_not_measured": (N_("Not measured on this bike"), N_("charge not measured"),
                            N_("{certainty} sure needs {times_now} times the likely charge. One known charge cuts that to {times_after}: {saved_j} less to carry.")),
}  # fmt: skip

#: Beside these codes stands the usual caution.
CAUTIONS: dict[str, str] = {
    "too_lean_jetted": N_("A symptom, a plug colour or a crisper feel is no reason to go leaner: it is crispest just before it seizes. The manual rules."),
    "too_lean_rod": N_("A symptom, a plug colour or a crisper feel is no reason to go leaner. The manual rules."),
    "too_lean_injected": N_("A symptom, a plug colour or a crisper feel is no reason to go leaner. The manual rules."),
    "rich_high_up": N_("Never chase crispness on the lean side."),
    "may_run_dry": N_("Fuel and its vapour burn: outdoors, engine cold, approved cans, nobody smoking. Do not brim a cold tank."),
    "may_run_dry_energy": N_(
        "High voltage can kill: a pack is swapped and charged as its maker says, by who is trained for it; never open it, never charge a damaged or frozen pack."
    ),
    "lasts_energy": N_("High voltage can kill: charge and swap the pack as its maker says; never open it."),
    "chain_fits": N_("Never tighter than the manual's figure: a tight chain breaks bearings and cases. Engine off, fingers clear."),
    "spring_soft": N_("Springs are under load: bike on a stand, preload off before a spring comes out, the manual's tools."),
    "spring_stiff": N_("Springs are under load: bike on a stand, preload off before a spring comes out, the manual's tools."),
    "short_on_climb": N_("Speeds along the course are assumed by the model, never a speed to ride."),
    "grip_unknown": N_("Speeds along the course are assumed by the model, never a speed to ride."),
}

TERMS: dict[str, str] = {
    "rear": N_("Rear"), "front": N_("Front"), "free": N_("free"), "race": N_("race"),
    "rear_free": N_("rear free sag"), "rear_race": N_("rear race sag"), "front_free": N_("front free sag"), "front_race": N_("front race sag"),
    "hardpack": N_("hardpack"), "gravel": N_("gravel"), "loam": N_("loam"), "sand": N_("sand"), "deep_sand": N_("deep sand"), "mud": N_("mud"),
    "rock": N_("rock"), "whoops": N_("whoops"), "single_track": N_("single track"),
}  # fmt: skip

STATION_NAMES: dict[str, str] = {
    "purpose": N_("Purpose"), "baseline": N_("Baseline"), "chassis": N_("Chassis"), "fuelling": N_("Fuelling"), "drive": N_("Drive"),
    "range": N_("Range"), "card": N_("Pit card"),
}  # fmt: skip

TUNABLES: dict[str, str] = {
    "shock_preload_m": N_("Shock preload"), "shock_spring_rate_n_per_m": N_("Shock spring"), "fork_preload_m": N_("Fork preload"),
    "fork_spring_rate_n_per_m": N_("Fork spring, each leg"), "main_jet": N_("Main jet"), "needle_clip": N_("Needle clip"),
    "front_sprocket_teeth": N_("Front sprocket"), "rear_sprocket_teeth": N_("Rear sprocket"), "fuel_fill_m3": N_("Fuel at the start"),
    "tank_capacity_m3": N_("Tank"), "premix_ratio": N_("Premix"), "metering_rod": N_("Metering rod"), "knob_clicks": N_("Mixture knob"),
    "map_slot": N_("Fuel map"), "fuel_trim": N_("Map trim"), "power_mode": N_("Power mode"), "charge_share": N_("Charge at the start"), "pack_energy_j": N_("Pack"),
}  # fmt: skip

#: kinds of part in the box
PART_KINDS: dict[str, str] = {
    **{k: TUNABLES[k] for k in ("front_sprocket_teeth", "rear_sprocket_teeth", "main_jet", "fork_spring_rate_n_per_m", "shock_spring_rate_n_per_m",
       "tank_capacity_m3", "metering_rod", "pack_energy_j")},
    "pilot_jet": N_("Pilot jet"), "needle": N_("Needle"), "wheel": N_("Wheel"), "shim": N_("Shim"),
}  # fmt: skip

#: names of figures where they stand in tables and ledgers
FIGURE_NAMES: dict[str, str] = {
    "purpose.distance": N_("Whole race"), "purpose.lap_distance": N_("One lap"), "purpose.climb": N_("Climb per lap"),
    "purpose.laps": N_("Laps"), "purpose.schedule_margin_min": N_("In hand on the schedule"), "fuelling.knob.wanted": N_("Leanest safe knob setting"),
    "fuelling.trim.wanted": N_("Leanest safe trim"), "range.energy_per_lap": N_("Charge per lap"), "range.energy_race": N_("Charge, whole race"),
    "range.energy_wanted": N_("Charge wanted"), "range.energy_per_km": N_("Charge per distance"), "range.energy_left": N_("Charge left at the end"),
    "purpose.raw_climb": N_("Climb if every point were believed"), "purpose.lowest": N_("Lowest"), "purpose.highest": N_("Highest"),
    "purpose.density_ratio_max": N_("Densest air, share of standard"), "purpose.density_ratio_min": N_("Thinnest air, share of standard"),
    "purpose.power_share_min": N_("Power left in the thinnest air"), "baseline.readings_used": N_("Readings in use"),
    "chassis.front.free_sag": N_("Front free sag"), "chassis.front.race_sag": N_("Front race sag"), "chassis.rear.free_sag": N_("Rear free sag"),
    "chassis.rear.race_sag": N_("Rear race sag"), "chassis.rear.race_sag_full": N_("Rear race sag, full"), "chassis.rear.race_sag_empty": N_("Rear race sag, empty"),
    "chassis.front.race_sag_full": N_("Front race sag, full"), "chassis.front.race_sag_empty": N_("Front race sag, empty"),
    "chassis.front.spring_rate_wanted": N_("Fork spring wanted, each leg"), "chassis.rear.spring_rate_wanted": N_("Shock spring wanted"),
    "chassis.rear.preload_wanted": N_("with shock preload"), "chassis.axle_load.front": N_("On the front wheel, full"), "chassis.axle_load.rear": N_("On the rear wheel, full"),
    "chassis.axle_load.front_half": N_("On the front wheel, half"), "chassis.axle_load.rear_half": N_("On the rear wheel, half"),
    "chassis.axle_load.front_empty": N_("On the front wheel, empty"), "chassis.axle_load.rear_empty": N_("On the rear wheel, empty"),
    "fuelling.richness_full_densest": N_("Full throttle, densest air"), "fuelling.richness_full_thinnest": N_("Full throttle, thinnest air"),
    "fuelling.lean_limit": N_("Lean limit"), "fuelling.lean_margin_min": N_("Lean margin"), "fuelling.main.wanted": N_("Leanest safe main jet"),
    "fuelling.longest_full_throttle": N_("Longest full throttle"), "drive.top_speed": N_("Top speed"), "drive.crawl_speed": N_("Crawl"),
    "drive.metres_short": N_("Does not pull"), "drive.metres_grip_unknown": N_("Grip not known"), "drive.lap_time": N_("Lap, by the model"),
    "drive.shifts": N_("Shifts per lap"), "drive.share.power": N_("Held up by power or revs"), "drive.share.grip": N_("Held up by grip"),
    "drive.share.pace": N_("Held up by pace and corners"), "drive.longest_full_throttle": N_("Longest full throttle"), "drive.shifts_per_km": N_("Shifts per distance"),
    "drive.clutch_energy": N_("Heat in the clutch"), "drive.time_at_limiter": N_("Against the limiter"), "drive.time_over_shake": N_("Above the shaking revs"),
    "drive.chain.links": N_("Chain, links"), "drive.chain.axle_move": N_("Axle from the middle"), "drive.chain.adjuster_left": N_("Adjuster left"),
    "drive.chain.case_clearance": N_("Front sprocket to case"), "drive.chain.slack_on_stand": N_("Chain slack on the stand"), "drive.wheelbase_change": N_("Wheelbase change"),
 "drive.first_second_drop": N_("Drop, first to second"), "drive.energy_residual": N_("Energy out of balance"),
    "range.k": N_("This bike's factor"), "range.k_sd": N_("its spread"), "range.fuel_per_lap": N_("Fuel per lap"), "range.fuel_race": N_("Fuel, whole race"),
    "range.fuel_wanted": N_("Fuel wanted"), "range.p_finish": N_("Finishes"), "range.left_at_finish": N_("Left at the end"),
}  # fmt: skip

#: names of inputs in the Why drawer, by path
INPUT_NAMES: dict[str, str] = {
    "race.stages.0.laps": N_("laps"), "race.air.temperature_low_k": N_("coldest hour"), "race.air.temperature_high_k": N_("hottest hour"),
    "race.air.pressure_pa": N_("pressure as read"), "race.air.pressure_spread_pa": N_("pressure may move by"),
    "race.air.relative_humidity_low": N_("driest hour"), "race.air.relative_humidity_high": N_("dampest hour"), "race.certainty": N_("wanted certainty"),
    "riders.0.mass_in_gear_kg": N_("rider in gear"), "riders.0.pace": N_("pace"), "bike.frame.mass_dry_kg": N_("bike without fuel"),
    "bike.frame.front_share": N_("share on the front wheel"), "bike.frame.fuel_front_share": N_("share of fuel on the front wheel"),
    "bike.frame.drag_area_m2": N_("drag area"), "bike.frame.unusable_fuel_m3": N_("fuel that stays in the tank"),
    "bike.frame.swingarm_length_m": N_("swingarm, pivot to axle"), "bike.frame.adjuster_half_range_m": N_("adjusters, each way"), "bike.frame.chain_links": N_("links fitted"),
    "bike.frame.case_gap_m": N_("sprocket centre to case"), "bike.frame.chain_play_m": N_("play where it is tightest"), "bike.frame.axle_below_pivot_m": N_("axle below the pivot"),
    "bike.engine.shake_rpm": N_("shakes from"), "bike.engine.peak_power_w": N_("highest power"), "bike.engine.peak_power_rpm": N_("speed of highest power"), "bike.engine.idle_rpm": N_("idle"),
    "race.stages.0.hours_s": N_("hours"), "bike.engine.usable_share": N_("usable share of the pack"), "bike.engine.carburettor.compensation": N_("evens out of the air's change"),
    "bike.engine.carburettor.compensated_change": N_("up to a change of density of"), "bike.engine.displacement_m3": N_("engine size"), "bike.transmission.primary_ratio": N_("primary ratio"), "bike.tyre.rolling_radius_m": N_("rolling radius"),
}  # fmt: skip


def input_name(path: str) -> str:
    """What an input is called: a tunable, a named input, or its path in plain words."""
    field = path.rsplit(".", 1)[-1]
    return TUNABLES.get(field) if path.startswith("setup.") and field in TUNABLES else INPUT_NAMES.get(path, field.replace("_", " "))  # type: ignore[return-value]


#: how a step is labelled when less and more would mislead
STEP_WORDS: dict[str, tuple[str, str]] = {
    "needle_clip": (N_("needle down, leaner"), N_("needle up, richer")), "metering_rod": (N_("leaner rod"), N_("richer rod")),
    "knob_clicks": (N_("a click leaner"), N_("a click richer")), "fuel_trim": (N_("leaner"), N_("richer")), "power_mode": (N_("stronger"), N_("weaker")),
}  # fmt: skip

#: why a figure does not apply, by the code it carries
REASONS: dict[str, str] = {
    "electric": N_("an electric motor burns no fuel"), "burns_fuel": N_("this bike burns fuel"), "fed_jetted": N_("this engine is fed through jets"),
    "fed_rod": N_("this engine is fed through a metering rod"), "fed_injected": N_("this engine is fed by injection"), "one_gear": N_("there is one gear"), "no_clutch": N_("there is no clutch"),
    "pulls_from_standstill": N_("an electric motor pulls from a standstill"), "pack_keeps_mass": N_("a pack weighs the same full and empty"),
    "no_schedule": N_("this race has no schedule"),
}  # fmt: skip

#: what to measure, by code of coupling.worth: what to do, how
MEASURES: dict[str, tuple[str, str]] = {
    "known_good": (N_("The setting it ran right with"), N_("Jets, knob or map, and the air of that day: engine warm, under load, no air leak.")),
    "fill_up": (N_("A fill-up"), N_("Fill to a mark, ride known laps, fill to the same mark.")),
    "charge": (N_("A charge"), N_("Charge full, ride known laps, read what goes back in.")),
    "sag_rear_race": (N_("Rear race sag"), N_("Rider in gear and in position, someone holding the bike; the mean of settling from above and below.")),
    "sag_rear_free": (N_("Rear free sag"), N_("Bike alone, upright; the mean of settling from above and below.")),
    "sag_front_race": (N_("Front race sag"), N_("Rider in gear and in position; along the fork leg.")),
    "sag_front_free": (N_("Front free sag"), N_("Bike alone, upright; along the fork leg.")),
    "roll_out": (N_("Rear wheel roll-out"), N_("Chalk the tyre, rider aboard, roll one turn, measure; divide by 2 pi. It stands among the bike's facts.")),
    "needle": (N_("The needle and its jet"), N_("A calliper: bore, straight part, where the taper begins, taper. They stand among the bike's facts.")),
    "sensors": (N_("What the injection senses"), N_("From the manual: air temperature, pressure, mixture. It stands among the bike's facts.")),
}  # fmt: skip

#: what a change did to a figure; how a figure or an input came about; verdicts
JUDGEMENTS: dict[str, str] = {"better": N_("better"), "worse": N_("worse"), "even": N_("even"), "changed": N_("changed")}
BASES: dict[str, str] = {
    "computed": N_("computed"), "calibrated": N_("calibrated"), "assumed": N_("assumed"), "measured": N_("measured"), "given": N_("given"),
}  # fmt: skip
LEAF_WORDS: dict[str, str] = {"ok": N_("settled"), "look": N_("look"), "act": N_("act"), "unknown": N_("unknown")}

#: kinds of stage
STAGE_KINDS: dict[str, str] = {"race": N_("race stage"), "test": N_("test"), "liaison": N_("liaison")}

#: kinds of engine as the forms name them
ENGINES: dict[str, str] = {
    "jetted_two_stroke": N_("Two-stroke, jetted carburettor"), "jetted_four_stroke": N_("Four-stroke, jetted carburettor"),
    "rod_two_stroke": N_("Two-stroke, metering-rod carburettor"), "rod_four_stroke": N_("Four-stroke, metering-rod carburettor"),
    "injected_two_stroke": N_("Two-stroke, injected"), "injected_four_stroke": N_("Four-stroke, injected"), "electric": N_("Electric"),
}  # fmt: skip

LIMIT_WORDS: dict[str, str] = {
    "power": N_("power"), "grip": N_("grip"), "wheelie": N_("front wheel lifts"), "pace": N_("pace"), "corner": N_("corner"),
    "brake": N_("braking"), "revs": N_("revs"), "stuck_power": N_("does not pull"), "stuck_grip": N_("grip not known"),
}  # fmt: skip

_PARAMETER_KINDS = (("_m3", "volume"), ("_m", "travel"), ("_j", "energy"), ("allowed_time_s", "minutes"), ("time_s", "hours"))
_COARSE = {"gap_m": "stretch", "certainty": "share"}
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
    value = report.figures[name].value
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


def say(finding: Finding, report: Report, preset: Units | str = "metric", translate: Callable[[str], str] = identity) -> Words:
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
    return Words(answer=fill(answer), rail=line[:1].lower() + line[1:], text=fill(text), caution=translate(CAUTIONS.get(finding.code, "")))
