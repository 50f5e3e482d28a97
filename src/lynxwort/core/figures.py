"""The register of figures: meaning, unit, what better means, and when two values are even. docs/figures.md is checked
against it.
"""

import re
from dataclasses import dataclass
from typing import Any, Literal

from lynxwort.core.report import Figure, Step

Better = Literal["higher", "lower", "band", "target", "margin", ""]


@dataclass(frozen=True, slots=True, kw_only=True)
class FigureSpec:
    """unit: SI; kind: for showing; better: which way is better ("target": nearer 0 but never leaner than a limit,
    "margin": up to 0); even_rel, even_abs: differences below are even; table: stations in whose table it stands, None =
    its own; card: its place among those on the pit card.
    """

    unit: str
    kind: str
    meaning: str
    better: Better = ""
    even_rel: float = 0.0
    even_abs: float = 0.0
    table: tuple[str, ...] | None = None
    card: int | None = None


def _f(unit: str, kind: str, meaning: str, better: Better = "", **more: Any) -> FigureSpec:
    return FigureSpec(unit=unit, kind=kind, meaning=meaning, better=better, **more)


FIGURES: dict[str, FigureSpec] = {
    "purpose.distance": _f("m", "distance", "whole race, all laps, along the original track"),
    "purpose.lap_distance": _f(
        "m", "distance", "one lap along the original track; with several stages each of them once"
    ),
    "purpose.laps": _f("1", "count", "laps of the race, all stages; by hours the median of their distribution"),
    "purpose.schedule_margin_min": _f(
        "s",
        "minutes",
        "time allowed minus likely time, least over the stages on a schedule",
        "higher",
        even_abs=20.0,
        card=17,
    ),
    "purpose.climb": _f("m", "height", "height gained per lap after smoothing by the source of heights"),
    "purpose.raw_climb": _f("m", "height", "height gained per lap if every point of the file were believed"),
    "purpose.lowest": _f("m", "height", "lowest place of the course"),
    "purpose.highest": _f("m", "height", "highest place of the course"),
    "purpose.density_ratio_max": _f(
        "1", "share", "dry-air density / 1.225 kg/m3: lowest place, coldest, highest pressure, driest"
    ),
    "purpose.density_ratio_min": _f(
        "1", "share", "dry-air density / 1.225 kg/m3: highest place, hottest, lowest pressure, dampest"
    ),
    "purpose.power_share_min": _f(
        "1",
        "share",
        "share of standard power (990 hPa dry, 25 °C) left in the thinnest air, forecast at constant friction",
        card=18,
    ),
    "baseline.readings_used": _f("1", "count", "readings that shape this report"),
    "chassis.rear.preload_turns": _f(
        "1", "factor", "turns of the shock's ring from where it is to what suits the present spring, + = in"
    ),
    "chassis.front.preload_turns": _f(
        "1", "factor", "turns of the fork's adjuster from where it is to what suits the present spring, + = in"
    ),
    "chassis.rear.rate_true": _f("N/m", "spring_rate", "true rate of the shock spring as the sags say it"),
    "chassis.front.rate_true": _f("N/m", "spring_rate", "true rate of one fork spring as the sags say it"),
    "chassis.rear.friction_band": _f(
        "m", "travel", "half of how far apart the rear settles from above and below", "lower", even_abs=0.0005
    ),
    "chassis.front.friction_band": _f(
        "m", "travel", "half of how far apart the fork settles from above and below", "lower", even_abs=0.0005
    ),
    "chassis.front.preload_wanted": _f("m", "preload", "fork preload that goes with the wanted rate"),
    "chassis.front.air_pressure_wanted": _f(
        "Pa",
        "tyre_pressure",
        "main chamber of an air-sprung fork that meets race sag (and free sag with a balance chamber)",
    ),
    "chassis.front.balance_pressure_wanted": _f(
        "Pa", "tyre_pressure", "balance chamber of an air-sprung fork that goes with it"
    ),
    "chassis.front.race_sag_unbled": _f(
        "m", "travel", "fork race sag at the start line with the legs still closed as at home"
    ),
    "chassis.cg_height": _f("m", "length", "height of the centre of gravity, rider aboard, what rides along counted"),
    "chassis.balance": _f("1", "ratio", "front ride frequency / rear ride frequency at race sag"),
    "chassis.climb_front_share": _f(
        "1", "share", "share of the weight on the front wheel on the steepest climb as ridden", "higher", even_abs=0.005
    ),
    "chassis.braking_front_share": _f(
        "1",
        "share",
        "share of the weight on the front wheel at the hard brakings of the lap as ridden, mean of the hardest tenth",
        "lower",
        even_abs=0.005,
    ),
    "chassis.front.clamp_clearance": _f(
        "m", "travel", "front tyre to the lower clamp at full travel", "higher", even_abs=0.0005
    ),
    "chassis.front.radiator_clearance": _f(
        "m", "travel", "front tyre to the radiators at full travel", "higher", even_abs=0.0005
    ),
    "chassis.front.bar_clearance": _f("m", "travel", "tops of the fork tubes to the bars", "higher", even_abs=0.0005),
    "chassis.rear.guard_clearance": _f(
        "m", "travel", "rear tyre to the guard at full travel", "higher", even_abs=0.0005
    ),
    "chassis.rear.seat_clearance": _f(
        "m", "travel", "rear tyre to the base of the seat at full travel", "higher", even_abs=0.0005
    ),
    "chassis.rear.exhaust_clearance": _f(
        "m", "travel", "rear tyre to the exhaust at full travel", "higher", even_abs=0.0005
    ),
    "chassis.seat_to_peg": _f("m", "travel", "seat to pegs, the rider's knee"),
    "chassis.seat_to_bar": _f("m", "travel", "seat to grips"),
    "chassis.peg_to_bar": _f("m", "travel", "pegs to grips, standing"),
    "chassis.side_stand_cut": _f("m", "travel", "what to take off the side stand for the same lean, + = shorter"),
    "chassis.rake": _f(
        "rad",
        "tilt",
        "angle of the steering axis from the vertical, rider aboard, race sag at half the fill",
        even_abs=0.001,
    ),
    "chassis.trail": _f("m", "travel", "trail on the ground, rider aboard, race sag at half the fill", even_abs=0.0005),
    "chassis.wheelbase": _f(
        "m",
        "length",
        "axle to axle, rider aboard, race sag at half the fill, axle where these sprockets and the chain put it",
    ),
    "chassis.seat_height": _f(
        "m", "travel", "seat above the ground, rider aboard, race sag at half the fill", "lower", even_abs=0.002
    ),
    "chassis.ground_clearance": _f(
        "m",
        "travel",
        "lowest part between the wheels above the ground, rider aboard, race sag at half the fill",
        "higher",
        even_abs=0.002,
    ),
    "chassis.reach_margin": _f(
        "m",
        "travel",
        "what is left of the leg beside the seat when the foot is flat on the ground, rider aboard",
        "higher",
        even_abs=0.002,
    ),
    "chassis.front.tyre_guard_clearance": _f(
        "m", "travel", "front tyre to the guard at full travel", "higher", even_abs=0.0005
    ),
    "chassis.anti_squat": _f(
        "1",
        "share",
        "share of the load transfer under drive that chain and swingarm carry, race sag, present sprockets",
    ),
    "chassis.rear.frequency": _f("1/s", "frequency", "undamped ride frequency of the rear at race sag"),
    "chassis.front.frequency": _f("1/s", "frequency", "undamped ride frequency of the front at race sag"),
    "chassis.rear.bottoming_drop": _f(
        "m", "travel", "height of a flat drop that just uses all rear travel, springs alone", "higher", even_abs=0.005
    ),
    "chassis.front.bottoming_drop": _f(
        "m",
        "travel",
        "height of a flat drop that just uses all fork travel, springs and moving air alone",
        "higher",
        even_abs=0.005,
    ),
    "chassis.tyre_pressure_at_start": _f(
        "Pa", "tyre_pressure", "rear tyre by the gauge at the start line in the mean air, as set at home"
    ),
    "chassis.tyre_pressure_front_at_start": _f(
        "Pa", "tyre_pressure", "front tyre by the gauge at the start line in the mean air, as set at home"
    ),
    "chassis.fork_pressure_at_start": _f(
        "Pa", "tyre_pressure", "air in sealed fork legs above the outside at the start line, closed level at home"
    ),
    "chassis.rear.race_sag": _f(
        "m",
        "travel",
        "vertical sag at the rear axle, rider in position, half the fill",
        "band",
        even_abs=0.0005,
        table=("chassis", "baseline"),
        card=12,
    ),
    "chassis.rear.free_sag": _f(
        "m",
        "travel",
        "vertical sag at the rear axle, bike alone, half the fill",
        "band",
        even_abs=0.0005,
        table=("chassis", "baseline"),
        card=13,
    ),
    "chassis.front.race_sag": _f(
        "m", "travel", "fork sag along the leg, rider in position, half the fill", "band", even_abs=0.0005, card=14
    ),
    "chassis.front.free_sag": _f(
        "m", "travel", "fork sag along the leg, bike alone, half the fill", "band", even_abs=0.0005
    ),
    "chassis.rear.spring_rate_wanted": _f(
        "N/m",
        "spring_rate",
        "middle of the shock spring rates sold that meet both sag bands with a preload that exists",
    ),
    "chassis.rear.preload_wanted": _f("m", "preload", "shock preload that goes with the wanted rate"),
    "chassis.front.spring_rate_wanted": _f(
        "N/m",
        "spring_rate",
        "middle of the fork spring rates sold, each of two, that meet both sag bands with a preload that exists",
    ),
    "chassis.rear.race_sag_full": _f("m", "travel", "as race_sag, fuel as filled"),
    "chassis.rear.race_sag_empty": _f("m", "travel", "as race_sag, no fuel"),
    "chassis.front.race_sag_full": _f("m", "travel", "as race_sag, fuel as filled"),
    "chassis.front.race_sag_empty": _f("m", "travel", "as race_sag, no fuel"),
    "chassis.axle_load.front": _f("kg", "mass", "mass on the front wheel, rider aboard, fuel as filled"),
    "chassis.axle_load.rear": _f("kg", "mass", "mass on the rear wheel, rider aboard, fuel as filled"),
    "chassis.axle_load.front_half": _f("kg", "mass", "mass on the front wheel, rider aboard, half the fill"),
    "chassis.axle_load.rear_half": _f("kg", "mass", "mass on the rear wheel, rider aboard, half the fill"),
    "chassis.axle_load.front_empty": _f("kg", "mass", "mass on the front wheel, rider aboard, no fuel"),
    "chassis.axle_load.rear_empty": _f("kg", "mass", "mass on the rear wheel, rider aboard, no fuel"),
    "damping.front.zeta_compression": _f(
        "1",
        "ratio",
        "damping ratio of the front on compression, at the wheel, shaft at 0.25 m/s, rider aboard at race sag",
    ),
    "damping.front.zeta_rebound": _f(
        "1", "ratio", "damping ratio of the front on rebound, at the wheel, shaft at 0.25 m/s, rider aboard at race sag"
    ),
    "damping.front.travel_used": _f(
        "m", "travel", "deepest front travel over the course's hardest piece, along the leg"
    ),
    "damping.front.bottomings": _f(
        "1", "number", "metal contacts of the front over the course's pieces, each ridden once", "lower", even_abs=0.3
    ),
    "damping.front.packing": _f(
        "m", "travel", "how much deeper the front rides than it stands, worst piece", "lower", even_abs=0.002
    ),
    "damping.rear.zeta_compression": _f(
        "1",
        "ratio",
        "damping ratio of the rear on compression, at the wheel, shaft at 0.25 m/s, rider aboard at race sag",
    ),
    "damping.rear.zeta_rebound": _f(
        "1", "ratio", "damping ratio of the rear on rebound, at the wheel, shaft at 0.25 m/s, rider aboard at race sag"
    ),
    "damping.rear.travel_used": _f(
        "m", "travel", "deepest rear travel over the course's hardest piece, vertical at the axle"
    ),
    "damping.rear.bottomings": _f(
        "1", "number", "metal contacts of the rear over the course's pieces, each ridden once", "lower", even_abs=0.3
    ),
    "damping.rear.packing": _f(
        "m", "travel", "how much deeper the rear rides than it stands, worst piece", "lower", even_abs=0.002
    ),
    "damping.wheel_off_ground": _f(
        "1",
        "share",
        "share of the time that a wheel carries nothing, worst piece but the landing",
        "lower",
        even_abs=0.02,
    ),
    "damping.peg_acceleration": _f(
        "m/s^2",
        "acceleration",
        "vertical acceleration of the pegs through Wk, r.m.s., worst piece; relative only",
        "lower",
        even_rel=0.03,
    ),
    "damping.overshoot": _f(
        "m", "travel", "how far the body rises beyond where it rests after a landing", "lower", even_abs=0.005
    ),
    "damping.stress_max": _f(
        "Pa",
        "stress",
        "highest bending stress of a shim at the fastest shaft speeds of the rides",
        "lower",
        even_rel=0.05,
    ),
    "damping.click_authority.low": _f(
        "1", "share", "how much more the shock holds with its compression clicker fully in, at 0.1 m/s"
    ),
    "damping.click_authority.high": _f(
        "1", "share", "how much more the shock holds with its compression clicker fully in, at 2 m/s"
    ),
    "fuelling.richness_full_densest": _f(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, full lift, densest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.richness_full_thinnest": _f(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, full lift, thinnest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.richness_half_densest": _f(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, half lift, densest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.richness_quarter_densest": _f(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, quarter lift, densest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.lean_margin_min": _f(
        "1",
        "richness",
        "lean end of the range from half lift up minus the lean limit, least over the air of the race; + = safe",
        "margin",
        even_abs=0.002,
        card=11,
    ),
    **{
        f"fuelling.lean_margin.{name}": _f(
            "1",
            "richness",
            (
                f"lean end of the range over throttle {at} minus its limit, least over the air of the race; below "
                f"half lift the limit is the proven pair; + = safe"
            ),
            "margin",
            even_abs=0.002,
        )
        for name, at in (
            ("closed", "closed to 1/8"),
            ("eighth", "1/8 to 1/4"),
            ("quarter", "1/4 to 1/2"),
            ("half", "1/2 to 3/4"),
            ("full", "3/4 to full"),
        )
    },
    "fuelling.lean_limit": _f("1", "richness", "least richness allowed from half lift up, lean end of the range"),
    "fuelling.window.temperature_low": _f(
        "K",
        "temperature",
        (
            "coldest thermometer where the weather is read at which the whole course stays above the lean limit, at "
            "the highest pressure of the race and the driest hour"
        ),
        "lower",
        even_abs=0.5,
    ),
    "fuelling.needle.wanted": _f(
        "1",
        "number",
        (
            "leanest clip from the top, between grooves too, that keeps the proven pair and the lean limit from half "
            "to three quarters of lift in the densest air"
        ),
    ),
    "fuelling.pilot.wanted": _f(
        "1",
        "number",
        "leanest pilot jet whose lean end keeps to the proven pair with the throttle shut in the densest air",
    ),
    "fuelling.oil_per_fill": _f("m^3", "oil", "oil in the fuel at the start"),
    "fuelling.trim_rms": _f(
        "1",
        "richness",
        "root mean square error of the map against its target by the newest log, with the trims as they are",
        "lower",
        even_abs=0.002,
    ),
    "fuelling.detonation_margin": _f(
        "1",
        "number",
        "octane numbers in hand against the known-good pair, least over the air of the race, + = safer",
        "higher",
        even_abs=0.2,
    ),
    "fuelling.flow_margin": _f(
        "1",
        "share",
        "measured fuel delivery over the most that full throttle asks for, less one",
        "higher",
        even_abs=0.01,
    ),
    "fuelling.main.wanted": _f(
        "1",
        "number",
        (
            "leanest main jet that keeps the proven pair and the lean limit from three quarters of lift up in the "
            "densest air"
        ),
        card=8,
    ),
    "fuelling.knob.wanted": _f(
        "1",
        "number",
        (
            "leanest knob setting, in clicks from the base, that keeps the proven pair and the lean limit over the "
            "whole throttle in the air of the race"
        ),
        card=9,
    ),
    "fuelling.trim.wanted": _f(
        "1",
        "richness",
        (
            "leanest trim of the map that keeps the proven pair and the lean limit over the whole throttle in the air "
            "of the race"
        ),
        card=10,
    ),
    "fuelling.longest_full_throttle": _f("s", "seconds", "longest unbroken full throttle of a lap"),
    "drive.top_speed": _f(
        "m/s",
        "speed",
        "level hardpack, mean air of the course: force = resistance or limiter",
        "higher",
        even_rel=0.002,
        card=15,
    ),
    "drive.tyre_speed_margin": _f(
        "m/s", "speed", "what the rear tyre and its filling are made for, minus top speed", "higher", even_abs=0.3
    ),
    "drive.crawl_speed": _f("m/s", "speed", "first gear at idle, clutch home", "lower", even_rel=0.002),
    "drive.metres_short": _f(
        "m",
        "stretch",
        "metres per lap where no gear at or above engagement rpm holds walking pace",
        "lower",
        even_abs=3.0,
        card=16,
    ),
    "drive.metres_grip_unknown": _f(
        "m",
        "stretch",
        "metres per lap where the engine pulls but the default grip does not hold walking pace",
        "lower",
        even_abs=10.0,
    ),
    **{
        name: spec
        for n in (1, 2, 3)
        for name, spec in (
            (
                f"drive.hill.{n}.run_up_speed",
                _f(
                    "m/s",
                    "speed",
                    (
                        f"critical hill {n} of the round: least speed at its foot that carries the bike up, by "
                        f"engine; walking pace when none is needed"
                    ),
                    "lower",
                    even_abs=0.2,
                ),
            ),
            (
                f"drive.hill.{n}.limit",
                _f(
                    "1",
                    "share",
                    (
                        f"critical hill {n} of the round: steepest slope of its ground, rise / run, held at walking "
                        f"pace; the least of engine, grip and front wheel"
                    ),
                ),
            ),
        )
    },
    "drive.lap_time": _f(
        "s", "duration", "one lap from a standing start at the given pace; under 0.5 % is even", "lower", even_rel=0.005
    ),
    "drive.shifts": _f("1", "count", "gear changes per lap", "lower", even_rel=0.02),
    "drive.shifts_per_km": _f("1/m", "per_distance", "gear changes per distance", "lower", even_rel=0.02),
    "drive.first_second_drop": _f("rpm", "rpm", "drop from first to second at the speed of peak power"),
    "drive.share.power": _f("1", "share", "share of a lap's time in which power or revs hold the bike up"),
    "drive.share.shift": _f("1", "share", "share of a lap's time in which a gear change holds the bike up"),
    "drive.share.grip": _f("1", "share", "share of a lap's time in which grip or a lifting front wheel holds it up"),
    "drive.share.pace": _f("1", "share", "share of a lap's time in which pace, corners, rules or braking hold it up"),
    "drive.lift_share.low": _f("1", "share", "share of the lap's time with the throttle open under one eighth"),
    "drive.lift_share.high": _f("1", "share", "share of the lap's time with the throttle open over three quarters"),
    "drive.longest_full_throttle": _f("s", "seconds", "longest unbroken full throttle of a lap"),
    "drive.time_at_limiter": _f("s", "seconds", "time per lap against the rev limit", "lower", even_abs=1.0),
    "drive.time_over_shake": _f(
        "s", "seconds", "time per lap above the revs from which the bike shakes", "lower", even_rel=0.02, even_abs=1.0
    ),
    "drive.clutch_energy": _f("J", "work", "heat put into the clutch per lap", "lower", even_rel=0.02),
    "drive.chain.links": _f("1", "count", "even number of links that fits these sprockets within the adjusters"),
    "drive.chain.axle_move": _f(
        "m", "preload", "axle from the middle of its adjusters, + = back, chain at the right play"
    ),
    "drive.chain.adjuster_left": _f(
        "m", "preload", "adjuster left behind the axle for the chain to stretch", "higher", even_abs=0.0005
    ),
    "drive.chain.slack_on_stand": _f(
        "m",
        "travel",
        (
            "up and down in all at the middle of the lower run, wheel hanging, that leaves the wanted play where the "
            "chain is tightest"
        ),
    ),
    "drive.chain.case_clearance": _f(
        "m", "preload", "gap between the front sprocket's teeth with the chain on it and the case"
    ),
    "drive.wheelbase_change": _f("m", "preload", "wheelbase against the axle in the middle of its adjusters"),
    "drive.energy_residual": _f("1", "tiny", "imbalance of the lap's energy / engine work"),
    "range.fuel_per_lap": _f(
        "m^3",
        "fuel",
        "fuel of one lap at this jetting in the mean air, times the bike's factor, median",
        "lower",
        even_rel=0.003,
        card=4,
    ),
    "range.fuel_race": _f("m^3", "fuel", "fuel of the whole race, median", "lower", even_rel=0.003, card=3),
    "range.fuel_wanted": _f(
        "m^3",
        "fuel",
        "fuel aboard that finishes (or reaches every refuel point) with the wanted certainty, unusable fuel included",
        "lower",
        even_rel=0.003,
        card=1,
    ),
    "range.p_finish": _f(
        "1",
        "share",
        "chance that what is aboard lasts to the finish or every refuel point",
        "higher",
        even_abs=0.002,
        card=2,
    ),
    "range.left_at_finish": _f(
        "m^3", "fuel", "fuel left at the finish or the emptiest refuel point, median, unusable part included"
    ),
    "range.energy_per_lap": _f(
        "J",
        "energy",
        "charge of one lap drawn from the pack, times the bike's factor, median",
        "lower",
        even_rel=0.003,
        card=7,
    ),
    "range.energy_race": _f("J", "energy", "charge of the whole race, median", "lower", even_rel=0.003, card=6),
    "range.energy_wanted": _f(
        "J",
        "energy",
        "charge aboard that finishes with the wanted certainty, the part not to be drawn included",
        "lower",
        even_rel=0.003,
        card=5,
    ),
    "range.energy_left": _f(
        "J", "energy", "charge left at the finish, median, the part not to be drawn included", "higher", even_rel=0.003
    ),
    "range.energy_per_km": _f(
        "J/m", "energy_rate", "charge per distance over the race, median", "lower", even_rel=0.003
    ),
    "range.k": _f("1", "ratio", "this bike's factor on computed fuel, median", table=("range", "baseline")),
    "range.k_sd": _f("1", "ratio", "spread of that factor, standard deviation of its logarithm"),
    "range.joint_risk": _f(
        "1", "share", "chance that some leg runs dry: 1 - the chance to finish", "lower", even_abs=0.002
    ),
    "range.stops": _f(
        "1", "count", "stops in force: as kept, else those of the quickest plan that meets the wanted certainty"
    ),
    "range.stop.1.distance": _f("m", "distance", "race distance of the first stop in force"),
    "range.stop.1.fuel": _f("m^3", "fuel", "fuel that the first stop in force is likely to take"),
    "range.arrival.finish": _f(
        "s", "duration", "likely time from the start to the finish, standing and hand-overs counted"
    ),
    "range.fuel_per_km": _f("m^3/m", "consumption", "fuel per distance over the race, median"),
    "range.distance_per_fuel": _f("m/m^3", "economy", "distance per fuel over the race, median"),
    "range.fuel_per_hour": _f(
        "m^3/s", "fuel_flow", "fuel per riding time over the race, median: slow ground is told by it"
    ),
    "range.unusable": _f("m^3", "fuel", "fuel of the fitted tank that never reaches the engine"),
    "range.fuel_saved_by_next_fill_up": _f(
        "m^3", "fuel", "how much less fuel would be wanted after one more known fill-up"
    ),
    "range.mass_full": _f("kg", "mass", "bike with what it carries and the fuel at the start, no rider"),
    "range.sag_change_full_to_empty": _f(
        "m", "preload", "rear race sag with the fuel at the start minus with the unusable fuel alone"
    ),
    "range.oil_tank_margin": _f(
        "m^3",
        "fuel",
        "fuel that an oil tank of its own lasts for minus the fuel of the race, oil filled once",
        "higher",
        even_rel=0.01,
        table=(),
    ),
}

#: figures of the pit card, in its order
ON_CARD: tuple[str, ...] = tuple(
    sorted((n for n, spec in FIGURES.items() if spec.card), key=lambda n: FIGURES[n].card or 0)
)


def table_of(station: str) -> list[str]:
    """The figures of the table behind a station, its own first."""
    mine = [
        n
        for n, spec in FIGURES.items()
        if n.startswith(f"{station}.") and (spec.table is None or station in spec.table)
    ]
    return mine + [
        n for n, spec in FIGURES.items() if not n.startswith(f"{station}.") and spec.table and station in spec.table
    ]


#: shares that cannot leave 0 to 1, nor their ranges
SHARES = re.compile(
    r"(\.share\.|lift_share\.|_front_share$|^damping\.wheel_off_ground$|^range\.(p_finish|joint_risk)$)"
)


def figure(name: str, value: float | None, *, half: float | None = None, **more: Any) -> Figure:
    """A figure of the register. half: half of its 90 % interval. inputs may be paths. An unknown value has status
    unknown.
    """
    spec = FIGURES[name]
    if "inputs" in more:
        more["paths"] = tuple(more.pop("inputs"))
    if value is None:
        more.setdefault("status", "unknown")
    elif half is not None:
        more.setdefault("low", value - half)
        more.setdefault("high", value + half)
    if SHARES.search(name) and value is not None:
        value = min(max(value, 0.0), 1.0)
        more |= {end: min(max(more[end], 0.0), 1.0) for end in ("low", "high") if more.get(end) is not None}
    return Figure(id=name, value=None if value is None else float(value), unit=spec.unit, **more)


def step(symbol: str, value: float, unit: str, formula: str = "", source: str = "") -> Step:
    """One step of the working."""
    return Step(symbol=symbol, value=float(value), unit=unit, formula=formula, source=source)
