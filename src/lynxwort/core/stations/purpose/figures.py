"""Figures of Purpose."""

from math import exp

from lynxwort.core.figures import figure, step
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.air.moist import dry_density, vapour_pressure
from lynxwort.core.report import Figure
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.purpose.times import tightest

AIR_PATHS = (
    "race.air.temperature_low_k",
    "race.air.temperature_high_k",
    "race.air.pressure_pa",
    "race.air.pressure_spread_pa",
    "race.air.relative_humidity_low",
    "race.air.relative_humidity_high",
)


def _lap_bounds(given: PurposeInput) -> tuple[int, int]:
    """Central 90 % of the number of laps."""
    total, low, high = 0.0, None, given.clock.lap_chances[-1][0]
    for laps, chance in given.clock.lap_chances:
        total += chance
        if low is None and total > 0.05:
            low = laps
        if total >= 0.95 - 1e-12:
            high = laps
            break
    return low if low is not None else high, high


def figures(given: PurposeInput) -> list[Figure]:
    course, air = given.clock.around.whole, given.day.states
    density = "dry density / 1.225 kg/m3; dry density = (p - e) / (287.05 T)"
    where = "ISO 2533 (standard), Picard et al. 2008 (moist air), WMO-No. 8 (vapour)"
    measured = "haversine on the mean sphere; GPS distance within 1 % (assumption)"

    def corner(state: object) -> tuple[object, ...]:
        s = air.densest if state == "densest" else air.thinnest
        return (
            step("p", s.pressure_pa, "Pa", "pressure carried hydrostatically to the place"),
            step("T", s.temperature_k, "K", "-6.5 K per km from where it was read"),
            step("e", vapour_pressure(s), "Pa", "humidity x Magnus saturation pressure", "WMO-No. 8"),
            step("rho_dry", dry_density(s), "kg/m3", "(p - e) / (287.05 T)"),
        )

    distance, round_m = given.clock.race_m, course.length_m
    low, high = _lap_bounds(given)
    by_hours = given.format == "hours"
    electric = isinstance(given.clock.own.ride_input.engine, Electric)
    late = tightest(given)
    spread = 0.0 if late is None else late.time_s * (exp(Z90 * given.clock.pace_log_sd) - 1.0)
    lacking = any(line.heights == "none" for line in given.clock.around.lines)
    lapped = ("race.stages.0.laps", "race.stages.0.hours_s", *(("race.class_gap_s",) if by_hours else ()))
    return [
        figure(
            "purpose.distance",
            distance,
            low=0.99 * round_m * low if by_hours else 0.99 * distance,
            high=1.01 * round_m * high if by_hours else 1.01 * distance,
            formula="lap x laps, all stages",
            steps=(
                step("lap", round_m, "m", "sum of great-circle steps of the track"),
                step("laps", given.clock.laps, "1", "median" if by_hours else ""),
            ),
            inputs=lapped,
            source=measured,
        ),
        figure(
            "purpose.lap_distance",
            round_m,
            half=0.01 * round_m,
            formula="sum of great-circle steps of the track",
            source=measured,
        ),
        figure(
            "purpose.laps",
            given.clock.race_laps,
            low=low if by_hours else None,
            high=high if by_hours else None,
            formula="chance that n laps end before the time is up, from lap time and its spreads"
            if by_hours
            else "as the race says",
            inputs=lapped,
            basis="computed",
            source="lognormal lap times; spreads of pace: assumption" if by_hours else "the race",
        ),
        figure(
            "purpose.schedule_margin_min",
            None if late is None else late.spare_s,
            half=spread,
            formula="time allowed - likely time, least over the stages",
            status="not_applicable" if late is None else "ok",
            reason="" if late else "no_schedule",
            inputs=("riders.entry.pace",),
            source="course simulation; liaison at three quarters of the pace and spread of pace: assumption",
        ),
        figure(
            "purpose.climb",
            None if lacking else course.climb_m,
            low=None if lacking else course.climb_low_m,
            high=None if lacking else course.climb_high_m,
            formula="sum of rises of the smoothed heights",
            steps=(step("raw", course.raw_climb_m, "m", "believing every point"),),
            source="Whittaker filter by source of heights (Eilers 2003); range: assumption",
        ),
        figure(
            "purpose.raw_climb",
            course.raw_climb_m,
            formula="sum of rises of the file's own heights",
            source="the course file",
        ),
        figure("purpose.lowest", course.height_m.min(), formula="least smoothed height", source="the course file"),
        figure("purpose.highest", course.height_m.max(), formula="greatest smoothed height", source="the course file"),
        figure(
            "purpose.density_ratio_max",
            air.density_ratio_max,
            half=0.006,
            formula=density,
            steps=corner("densest"),
            inputs=AIR_PATHS,
            source=where,
        ),
        figure(
            "purpose.density_ratio_min",
            air.density_ratio_min,
            half=0.006,
            formula=density,
            steps=corner("thinnest"),
            inputs=AIR_PATHS,
            source=where,
        ),
        figure(
            "purpose.power_share_min",
            None if electric else air.power_share_min,
            status="not_applicable" if electric else "ok",
            reason="electric" if electric else "",
            half=0.015,
            formula="1.18 x - 0.18, x = (Pd / 990 hPa) sqrt(298 K / T)",
            steps=corner("thinnest"),
            inputs=AIR_PATHS,
            source="SAE J1349 read as a forecast at constant friction; share of 990 hPa dry, 25 °C",
        ),
    ]
