"""What was seen of this bike and rider on the road: rolling radius, power, grip of the hills, pace per ground."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

import numpy as np

from lynxwort.core.cache import Key
from lynxwort.core.evidence import LogNormal, Measured, about, learn
from lynxwort.core.model.defaults import GROUND, WALKING_SPEED_M_PER_S
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.readings import HillReading, RiddenLapReading, RollOutReading, RpmSpeedReading, TopSpeedReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.physics.air.along import DayAir
from lynxwort.core.physics.drive.gearing import overall_ratios, rear_scale, rolling_radius
from lynxwort.core.physics.drive.hills import Grip, Tried, climber, grip_needed, learn_grip, ramp_of
from lynxwort.core.physics.drive.pull import top_speed
from lynxwort.core.physics.drive.ridden import PaceFit, fit_pace, pooled
from lynxwort.core.physics.drive.rolling import (
    AT_LIMITER,
    FROM_MARKING,
    GIVEN,
    POWER_PRIOR,
    ROLL_OUT,
    RPM_SPEED,
    power_of_sighting,
    radius_of_pair,
    radius_of_roll_out,
)
from lynxwort.core.physics.drive.simulation import Ride, RideInput, simulate

if TYPE_CHECKING:
    from lynxwort.core.coupling.stages import Work

HARD = "hardpack"


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """radius [m] and power [1 of the assumed] as learned; grip by ground with the hills tried; laps: fits by reading id and rider's name;
    elsewhere: readings of courses or hills that this race has not; stalled: hills where the engine gave out though the model climbs.
    """

    radius: LogNormal
    power: LogNormal
    grip: dict[str, Grip]
    laps: tuple[tuple[str, str, PaceFit], ...]
    elsewhere: tuple[str, ...]
    stalled: tuple[str, ...]

    @property
    def grip_by_ground(self) -> tuple[float, ...]:
        """Factors on the table's drive grip by index into GROUNDS; empty when no climb says anything."""
        moved = {g: k.likely(GROUND[g][2]) / GROUND[g][2] for g, k in self.grip.items() if k.readings}
        return tuple(moved.get(g, 1.0) for g in GROUNDS) if any(v != 1.0 for v in moved.values()) else ()

    def fits_of(self, rider: Rider) -> list[PaceFit]:
        """The laps that this rider rode."""
        return [fit for _id, name, fit in self.laps if name == rider.name]

    def pace_of(self, rider: Rider) -> tuple[float, ...]:
        """Factors on this rider's pace by ground; empty without a ridden lap."""
        return pooled(self.fits_of(rider))

    @property
    def used(self) -> tuple[str, ...]:
        """Ids of all readings that shape a ride."""
        grips = tuple(i for g in self.grip.values() for i in g.readings)
        return (*self.radius.used, *self.power.used, *grips, *(i for i, _n, _f in self.laps))

    @property
    def questioned(self) -> tuple[str, ...]:
        """Ids of readings that nothing of the bike can explain."""
        return (*self.radius.doubted, *self.power.doubted, *(i for g in self.grip.values() for i in g.questioned))


def _under(work: Work, reading: HillReading | RiddenLapReading | TopSpeedReading, **learned: Any) -> RideInput:
    """The ride's input as the bike was when a reading was taken, with what was learned before."""
    under = reading.under
    return replace(work.plain_ride_input(under.setup, under.rider or work.inputs.rider, under.fuel_aboard_m3, work.day_of(under)), **learned)


def _radius(work: Work) -> LogNormal:
    bike = work.inputs.bike
    found = []
    for reading in work.live_readings:
        if isinstance(reading, RollOutReading):
            found.append(
                Measured(
                    reading_id=reading.id, value=radius_of_roll_out(reading.distance_m, reading.turns) / rear_scale(bike, reading.under.setup), log_sd=ROLL_OUT
                )
            )
        elif isinstance(reading, RpmSpeedReading):
            ratios = overall_ratios(bike, reading.under.setup)
            if reading.gear <= len(ratios):
                radius = radius_of_pair(rpm=reading.rpm, speed_m_per_s=reading.speed_m_per_s, overall_ratio=ratios[reading.gear - 1], slip=GROUND[HARD][4])
                found.append(Measured(reading_id=reading.id, value=radius / rear_scale(bike, reading.under.setup), log_sd=RPM_SPEED))
    prior = FROM_MARKING if bike.tyre.rolling_radius_m is None else GIVEN
    return learn(about(rolling_radius(bike), prior), found)


def _power(work: Work, radius: LogNormal) -> tuple[LogNormal, LogNormal]:
    """Power and, from sightings that the limiter ended, the radius once more."""
    powers, radii = [], []
    for reading in work.live_readings:
        if not isinstance(reading, TopSpeedReading):
            continue
        what = _under(work, reading, rolling_radius_m=radius.median * rear_scale(work.inputs.bike, reading.under.setup))
        share = float(np.concatenate(work.power_shares_in(work.day_of(reading.under))).mean())
        best = top_speed(what, ground=HARD, power_share=share)
        if best.limit == "revs" and reading.speed_m_per_s > 0.97 * best.speed_m_per_s:
            radii.append(Measured(reading_id=reading.id, value=radius.median * reading.speed_m_per_s / best.speed_m_per_s, log_sd=AT_LIMITER))
            continue
        more = top_speed(replace(what, power_scale=0.94), ground=HARD, power_share=share)
        elasticity = np.log(more.speed_m_per_s / best.speed_m_per_s) / np.log(0.94) if more.speed_m_per_s < best.speed_m_per_s else 0.36
        powers.append(power_of_sighting(seen_m_per_s=reading.speed_m_per_s, computed_m_per_s=best.speed_m_per_s, elasticity=float(max(elasticity, 0.2)),
                                        reading_id=reading.id))  # fmt: skip
    return learn(about(1.0, POWER_PRIOR), powers), learn(radius, radii)


def _tried(work: Work, seen_radius: float, power: float) -> tuple[dict[str, list[Tried]], list[str], list[str]]:
    """Climbs by ground, readings from elsewhere, and stalls that the model does not explain."""
    found: dict[str, list[Tried]] = {}
    elsewhere, stalled = [], []
    for reading in work.live_readings:
        if not isinstance(reading, HillReading):
            continue
        place = work.hill_place(reading)
        if place is None:
            elsewhere.append(reading.id)
            continue
        stage, hill = place
        what = _under(work, reading, rolling_radius_m=seen_radius * rear_scale(work.inputs.bike, reading.under.setup), power_scale=power)
        shares = work.power_shares_in(work.day_of(reading.under))
        ramp = ramp_of(work.courses[stage], shares[stage], what, at_m=hill.at_m, length_m=hill.length_m)
        needed = grip_needed(climber(ramp, what), reading.entry_speed_m_per_s or WALKING_SPEED_M_PER_S)
        if reading.outcome == "stalled":
            if needed is not None:
                stalled.append(reading.id)
            continue
        found.setdefault(hill.ground, []).append(Tried(reading_id=reading.id, needed=needed, outcome=reading.outcome))
    return found, elsewhere, stalled


def _laps(work: Work, base: Seen) -> tuple[tuple[tuple[str, str, PaceFit], ...], list[str]]:
    """Pace fits of ridden laps on this race's courses, and the ids of the others."""
    found, elsewhere = [], []
    keys = [s.course_key for s in work.inputs.race.stages]
    for reading in work.live_readings:
        if not isinstance(reading, RiddenLapReading):
            continue
        under = reading.under
        if under.course_key not in keys:
            elsewhere.append(reading.id)
            continue
        stage = keys.index(under.course_key)
        rider = under.rider or work.inputs.rider
        what = _under(work, reading, rolling_radius_m=base.radius.median * rear_scale(work.inputs.bike, under.setup), power_scale=base.power.median,
                      grip_by_ground=base.grip_by_ground)  # fmt: skip
        course, day = work.courses[stage], work.day_of(under)

        def with_pace(factors: tuple[float, ...], what: RideInput = what, stage: int = stage, day: DayAir = day) -> Ride:
            return simulate(work.courses[stage], work.power_shares_in(day)[stage], replace(what, pace_by_ground=factors))

        key = Key(work.course_ids[stage], day, what, reading.clock_s)
        fit = work.cache.get("pace_fit", key, lambda c=course, w=with_pace, r=reading: fit_pace(  # type: ignore[misc]
            w, distance_m=c.distance_m, ground=c.ground, clock_s=np.array(r.clock_s)))  # fmt: skip
        found.append((reading.id, rider.name, fit))
    return tuple(found), elsewhere


def seen_of(work: Work) -> Seen:
    """All that was seen, in the order in which one thing rests on another: wheel, power, grip, pace."""
    power, radius = _power(work, _radius(work))
    tried, elsewhere, stalled = _tried(work, radius.median, power.median)
    grip = {g: learn_grip(g, t) for g, t in tried.items()}
    base = Seen(radius=radius, power=power, grip=grip, laps=(), elsewhere=tuple(elsewhere), stalled=tuple(stalled))
    laps, other = _laps(work, base)
    return replace(base, laps=laps, elsewhere=(*base.elsewhere, *other))


@dataclass(frozen=True, slots=True, kw_only=True)
class RiddenSpeed:
    """Speed [m/s] at even steps of the part of the round that was ridden, from_m to to_m [m]."""

    from_m: float
    to_m: float
    speed_m_per_s: np.ndarray


def ridden_speed(work: Work) -> RiddenSpeed | None:
    """This rider's newest ridden lap, on the stage whose course it was ridden on; None without one."""
    mine = {i for i, name, _fit in work.seen.laps if name == work.inputs.rider.name}
    laps = [r for r in work.live_readings if isinstance(r, RiddenLapReading) and r.id in mine]
    if not laps:
        return None
    stage = [s.course_key for s in work.inputs.race.stages].index(laps[-1].under.course_key or "")
    clock, start, length = np.array(laps[-1].clock_s), float(work.stage_starts_m[stage]), work.courses[stage].length_m
    return RiddenSpeed(from_m=start, to_m=start + length, speed_m_per_s=length / (clock.size - 1) / np.maximum(np.diff(clock), 1e-2))
