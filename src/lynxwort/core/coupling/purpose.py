"""Purpose: what race, how far, what ground, what air, what schedule."""

from dataclasses import dataclass
from math import exp

import numpy as np

from lynxwort.core.coupling.build import figure, step
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.air.moist import dry_density, vapour_pressure
from lynxwort.core.report import Figure, Finding

#: thresholds, assumption: power left below which the air is a finding; length of a gap in a track; share of the time allowed to have in hand
THIN_AIR_SHARE = 0.88
GAP_M = 200.0
SCHEDULE_IN_HAND = 0.15
AIR_PATHS = ("race.air.temperature_low_k", "race.air.temperature_high_k", "race.air.pressure_pa", "race.air.pressure_spread_pa",
             "race.air.relative_humidity_low", "race.air.relative_humidity_high")  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class StageTime:
    """One stage of the day. from_m: where it begins on the round; time_s: likely, all its laps; start_s: after the race's start."""

    index: int
    name: str
    kind: str
    from_m: float
    length_m: float
    laps: int
    time_s: float
    allowed_s: float | None
    start_s: float

    @property
    def just_inside_m(self) -> float:
        """A place of the round that is surely on this stage [m]."""
        return self.from_m + 1.0

    @property
    def spare_s(self) -> float | None:
        return None if self.allowed_s is None else self.allowed_s - self.time_s


def ground_shares(work: Upstream) -> dict[str, float]:
    """Share of the round on each ground, largest first."""
    counts = np.bincount(work.around.whole.ground, minlength=len(GROUNDS)) / work.around.whole.ground.size
    return {GROUNDS[i]: float(counts[i]) for i in np.argsort(-counts, kind="stable") if counts[i] > 0}


def stage_times(work: Upstream) -> list[StageTime]:
    """The stages in order with their likely times; each starts when the one before is over or its allowed time is up."""
    found, start = [], 0.0
    for i, (stage, ride) in enumerate(zip(work.inputs.race.stages, work.lap.rides, strict=True)):
        laps = work.clock.laps if len(work.around.courses) == 1 else stage.laps
        time = ride.lap_time_s * laps
        found.append(StageTime(index=i, name=stage.name, kind=stage.kind, from_m=float(work.around.starts_m[i]), length_m=work.around.courses[i].length_m,
                               laps=laps, time_s=time, allowed_s=stage.allowed_s, start_s=start))  # fmt: skip
        start += time if stage.allowed_s is None else stage.allowed_s
    return found


def tightest(work: Upstream) -> StageTime | None:
    """The scheduled stage with least time in hand; None without a schedule."""
    if not any(s.allowed_s for s in work.inputs.race.stages):
        return None
    return min((s for s in stage_times(work) if s.spare_s is not None), key=lambda s: s.spare_s or 0.0, default=None)


def race_distance(work: Upstream) -> float:
    """All laps of all stages [m], at the median number of laps."""
    return sum(float(p.distance_m[-1]) * p.laps for p in work.clock.pieces(work.clock.laps))


def _lap_bounds(work: Upstream) -> tuple[int, int]:
    """Central 90 % of the number of laps."""
    total, low, high = 0.0, None, work.clock.lap_chances[-1][0]
    for laps, chance in work.clock.lap_chances:
        total += chance
        if low is None and total > 0.05:
            low = laps
        if total >= 0.95 - 1e-12:
            high = laps
            break
    return low if low is not None else high, high


def figures(work: Upstream) -> list[Figure]:
    course, air = work.around.whole, work.day.states
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

    distance, round_m = race_distance(work), course.length_m
    low, high = _lap_bounds(work)
    by_hours = work.inputs.race.format == "hours"
    electric = isinstance(work.inputs.bike.engine, Electric)
    late = tightest(work)
    spread = 0.0 if late is None else late.time_s * (exp(Z90 * work.lap.pace_log_sd) - 1.0)
    lacking = any(line.heights == "none" for line in work.around.lines)
    return [
        figure(work, "purpose.distance", distance, low=0.99 * round_m * low if by_hours else 0.99 * distance,
               high=1.01 * round_m * high if by_hours else 1.01 * distance, formula="lap x laps, all stages",
               steps=(step("lap", round_m, "m", "sum of great-circle steps of the track"), step("laps", work.clock.laps, "1", "median" if by_hours else "")),
               inputs=("race.stages.0.laps", "race.stages.0.hours_s"), source=measured),
        figure(work, "purpose.lap_distance", round_m, half=0.01 * round_m, formula="sum of great-circle steps of the track", source=measured),
        figure(work, "purpose.laps", sum(p.laps for p in work.clock.pieces(work.clock.laps)), low=low if by_hours else None, high=high if by_hours else None,
               formula="chance that n laps end before the time is up, from lap time and its spreads" if by_hours else "as the race says",
               inputs=("race.stages.0.laps", "race.stages.0.hours_s"), basis="computed",
               source="lognormal lap times; spreads of pace: assumption" if by_hours else "the race"),
        figure(work, "purpose.schedule_margin_min", None if late is None else late.spare_s, half=spread,
               formula="time allowed - likely time, least over the stages", status="not_applicable" if late is None else "ok",
               reason="" if late else "no_schedule", inputs=("riders.entry.pace",),
               source="course simulation; liaison at three quarters of the pace and spread of pace: assumption"),
        figure(work, "purpose.climb", None if lacking else course.climb_m, low=None if lacking else course.climb_low_m,
               high=None if lacking else course.climb_high_m, formula="sum of rises of the smoothed heights",
               steps=(step("raw", course.raw_climb_m, "m", "believing every point"),),
               source="Whittaker filter by source of heights (Eilers 2003); range: assumption"),
        figure(work, "purpose.raw_climb", course.raw_climb_m, formula="sum of rises of the file's own heights", source="the course file"),
        figure(work, "purpose.lowest", course.height_m.min(), formula="least smoothed height", source="the course file"),
        figure(work, "purpose.highest", course.height_m.max(), formula="greatest smoothed height", source="the course file"),
        figure(work, "purpose.density_ratio_max", air.density_ratio_max, half=0.006, formula=density, steps=corner("densest"),
               inputs=AIR_PATHS, source=where),
        figure(work, "purpose.density_ratio_min", air.density_ratio_min, half=0.006, formula=density, steps=corner("thinnest"),
               inputs=AIR_PATHS, source=where),
        figure(work, "purpose.power_share_min", None if electric else air.power_share_min, status="not_applicable" if electric else "ok",
               reason="electric" if electric else "", half=0.015, formula="1.18 x - 0.18, x = (Pd / 990 hPa) sqrt(298 K / T)",
               steps=corner("thinnest"), inputs=AIR_PATHS, source="SAE J1349 read as a forecast at constant friction; share of 990 hPa dry, 25 °C"),
    ]  # fmt: skip


def _read(work: Upstream) -> Finding:
    """What race it is, by its format."""
    stages, kind = work.inputs.race.stages, work.inputs.race.format
    parameters: dict[str, float | str] = {"laps": work.clock.laps}
    code = {"hours": "race_read_hours", "tests": "race_read_tests", "stages": "race_read_stages"}.get(
        kind, "race_read" if work.clock.laps > 1 else "race_read_one"
    )
    if kind == "hours":
        parameters["time_s"] = stages[0].hours_s or 0.0
    if kind == "tests":
        parameters |= {"tests": sum(s.kind == "test" for s in stages), "liaisons": sum(s.kind == "liaison" for s in stages)}
    if kind == "stages":
        parameters["stages"] = len(stages)
    return Finding(station="purpose", code=code, severity="ok", figures=("purpose.distance", "purpose.climb"), parameters=parameters)


def findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    found = [_read(work)]
    late = tightest(work)
    if late is not None and late.spare_s is not None and late.allowed_s is not None:
        tight = late.spare_s < SCHEDULE_IN_HAND * late.allowed_s
        found.append(Finding(station="purpose", code="schedule_tight" if tight else "schedule_holds", figures=("purpose.schedule_margin_min",),
                             severity="act" if late.spare_s < 0 else "look" if tight else "ok", at_m=late.from_m,
                             parameters={"stage": late.name or str(late.index + 1), "allowed_time_s": late.allowed_s}))  # fmt: skip
    if any(line.heights == "none" for line in work.around.lines):
        found.append(Finding(station="purpose", code="heights_missing", severity="look", figures=("purpose.climb",)))
    if any(not s.ground for s in work.inputs.race.stages):
        found.append(Finding(station="purpose", code="ground_unset", severity="look", figures=("purpose.lap_distance",)))
    gap = max((g for line in work.around.lines for g in line.gaps_m), default=0.0)
    if gap > GAP_M:
        found.append(Finding(station="purpose", code="track_gap", severity="look", parameters={"gap_m": gap}))
    thin = work.day.states.power_share_min < THIN_AIR_SHARE
    electric = isinstance(work.inputs.bike.engine, Electric)
    found.append(Finding(station="purpose", code="air_and_motor" if electric else "thin_air" if thin else "air_read",
                         severity="look" if thin and not electric else "ok",
                         figures=("purpose.density_ratio_min" if electric else "purpose.power_share_min", "purpose.density_ratio_max"),
                         at_m=float(work.around.whole.distance_m[int(np.argmax(work.around.whole.height_m))])))  # fmt: skip
    return found
