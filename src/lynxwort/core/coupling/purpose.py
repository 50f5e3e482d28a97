"""Purpose: what race, how far, what ground, what air."""

import numpy as np

from lynxwort.core.air.moist import dry_density, vapour_pressure
from lynxwort.core.coupling.build import figure, step
from lynxwort.core.coupling.stages import Work
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.report import Figure, Finding

#: thresholds, assumption: power left below which the air is a finding; length of a gap in a track
THIN_AIR_SHARE = 0.88
GAP_M = 200.0
AIR_PATHS = ("race.air.temperature_low_k", "race.air.temperature_high_k", "race.air.pressure_pa", "race.air.pressure_spread_pa",
             "race.air.relative_humidity_low", "race.air.relative_humidity_high")  # fmt: skip


def ground_shares(work: Work) -> dict[str, float]:
    """Share of the lap on each ground, largest first."""
    counts = np.bincount(work.course.ground, minlength=len(GROUNDS)) / work.course.ground.size
    return {GROUNDS[i]: float(counts[i]) for i in np.argsort(-counts, kind="stable") if counts[i] > 0}


def figures(work: Work) -> list[Figure]:
    course, line, air, laps = work.course, work.line, work.air, work.inputs.stage.laps
    density = "dry density / 1.225 kg/m3; dry density = (p - e) / (287.05 T)"
    where = "ISO 2533 (standard), Picard et al. 2008 (moist air), WMO-No. 8 (vapour)"

    def corner(state: object) -> tuple[object, ...]:
        s = air.densest if state == "densest" else air.thinnest
        return (
            step("p", s.pressure_pa, "Pa", "pressure carried hydrostatically to the place"),
            step("T", s.temperature_k, "K", "-6.5 K per km from where it was read"),
            step("e", vapour_pressure(s), "Pa", "humidity x Magnus saturation pressure", "WMO-No. 8"),
            step("rho_dry", dry_density(s), "kg/m3", "(p - e) / (287.05 T)"),
        )

    return [
        figure(work, "purpose.distance", line.length_m * laps, half=0.01 * line.length_m * laps, formula="lap x laps",
               steps=(step("lap", line.length_m, "m", "sum of great-circle steps of the track"),), inputs=("race.stages.0.laps",),
               source="haversine on the mean sphere; GPS distance within 1 % (assumption)"),
        figure(work, "purpose.lap_distance", line.length_m, half=0.01 * line.length_m, formula="sum of great-circle steps of the track",
               source="haversine on the mean sphere; GPS distance within 1 % (assumption)"),
        figure(work, "purpose.climb", None if line.heights == "none" else course.climb_m, low=course.climb_low_m, high=course.climb_high_m,
               formula="sum of rises of the smoothed heights", steps=(step("raw", course.raw_climb_m, "m", "believing every point"),),
               source="Whittaker filter by source of heights (Eilers 2003); range: assumption"),
        figure(work, "purpose.raw_climb", course.raw_climb_m, formula="sum of rises of the file's own heights", source="the course file"),
        figure(work, "purpose.lowest", course.height_m.min(), formula="least smoothed height", source="the course file"),
        figure(work, "purpose.highest", course.height_m.max(), formula="greatest smoothed height", source="the course file"),
        figure(work, "purpose.density_ratio_max", air.density_ratio_max, half=0.006, formula=density, steps=corner("densest"),
               inputs=AIR_PATHS, source=where),
        figure(work, "purpose.density_ratio_min", air.density_ratio_min, half=0.006, formula=density, steps=corner("thinnest"),
               inputs=AIR_PATHS, source=where),
        figure(work, "purpose.power_share_min", air.power_share_min, half=0.015, formula="1.18 x - 0.18, x = (Pd / 990 hPa) sqrt(298 K / T)",
               steps=corner("thinnest"), inputs=AIR_PATHS, source="SAE J1349 read as a forecast at constant friction; share of 990 hPa dry, 25 °C"),
    ]  # fmt: skip


def findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    found = [
        Finding(station="purpose", code="race_read" if work.inputs.stage.laps > 1 else "race_read_one",
                severity="ok", figures=("purpose.distance", "purpose.climb"),
                parameters={"laps": work.inputs.stage.laps}),
    ]  # fmt: skip
    if work.line.heights == "none":
        found.append(Finding(station="purpose", code="heights_missing", severity="look", figures=("purpose.climb",)))
    if not work.inputs.stage.ground:
        found.append(Finding(station="purpose", code="ground_unset", severity="look", figures=("purpose.lap_distance",)))
    if max(work.line.gaps_m, default=0.0) > GAP_M:
        found.append(Finding(station="purpose", code="track_gap", severity="look", parameters={"gap_m": max(work.line.gaps_m)}))
    thin = work.air.power_share_min < THIN_AIR_SHARE
    found.append(Finding(station="purpose", code="thin_air" if thin else "air_read", severity="look" if thin else "ok",
                         figures=("purpose.power_share_min", "purpose.density_ratio_max", "purpose.density_ratio_min"),
                         at_m=float(work.course.distance_m[int(np.argmax(work.course.height_m))])))  # fmt: skip
    return found
