"""Figures of Drive: speed, climbs, the lap, gears and chain."""

from lynxwort.core.figures.spec import FigureSpec, told

FIGURES: dict[str, FigureSpec] = {
    "drive.top_speed": told(
        "m/s",
        "speed",
        "level hardpack, mean air of the course: force = resistance or limiter",
        "higher",
        even_rel=0.002,
        card=15,
    ),
    "drive.tyre_speed_margin": told(
        "m/s", "speed", "what the rear tyre and its filling are made for, minus top speed", "higher", even_abs=0.3
    ),
    "drive.crawl_speed": told("m/s", "speed", "first gear at idle, clutch home", "lower", even_rel=0.002),
    "drive.metres_short": told(
        "m",
        "stretch",
        "metres per lap where no gear at or above engagement rpm holds walking pace",
        "lower",
        even_abs=3.0,
        card=16,
    ),
    "drive.metres_grip_unknown": told(
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
                told(
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
                told(
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
    "drive.lap_time": told(
        "s", "duration", "one lap from a standing start at the given pace; under 0.5 % is even", "lower", even_rel=0.005
    ),
    "drive.shifts": told("1", "count", "gear changes per lap", "lower", even_rel=0.02),
    "drive.shifts_per_km": told("1/m", "per_distance", "gear changes per distance", "lower", even_rel=0.02),
    "drive.first_second_drop": told("rpm", "rpm", "drop from first to second at the speed of peak power"),
    "drive.share.power": told("1", "share", "share of a lap's time in which power or revs hold the bike up"),
    "drive.share.shift": told("1", "share", "share of a lap's time in which a gear change holds the bike up"),
    "drive.share.grip": told("1", "share", "share of a lap's time in which grip or a lifting front wheel holds it up"),
    "drive.share.pace": told("1", "share", "share of a lap's time in which pace, corners, rules or braking hold it up"),
    "drive.lift_share.low": told("1", "share", "share of the lap's time with the throttle open under one eighth"),
    "drive.lift_share.high": told("1", "share", "share of the lap's time with the throttle open over three quarters"),
    "drive.longest_full_throttle": told("s", "seconds", "longest unbroken full throttle of a lap"),
    "drive.time_at_limiter": told("s", "seconds", "time per lap against the rev limit", "lower", even_abs=1.0),
    "drive.time_over_shake": told(
        "s", "seconds", "time per lap above the revs from which the bike shakes", "lower", even_rel=0.02, even_abs=1.0
    ),
    "drive.clutch_energy": told("J", "work", "heat put into the clutch per lap", "lower", even_rel=0.02),
    "drive.chain.links": told("1", "count", "even number of links that fits these sprockets within the adjusters"),
    "drive.chain.axle_move": told(
        "m", "preload", "axle from the middle of its adjusters, + = back, chain at the right play"
    ),
    "drive.chain.adjuster_left": told(
        "m", "preload", "adjuster left behind the axle for the chain to stretch", "higher", even_abs=0.0005
    ),
    "drive.chain.slack_on_stand": told(
        "m",
        "travel",
        (
            "up and down in all at the middle of the lower run, wheel hanging, that leaves the wanted play where the "
            "chain is tightest"
        ),
    ),
    "drive.chain.case_clearance": told(
        "m", "preload", "gap between the front sprocket's teeth with the chain on it and the case"
    ),
    "drive.wheelbase_change": told("m", "preload", "wheelbase against the axle in the middle of its adjusters"),
    "drive.energy_residual": told("1", "tiny", "imbalance of the lap's energy / engine work"),
}
