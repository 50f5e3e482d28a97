"""What was seen of this bike and its riders on the road, and the ride's input with all of it: radius, power, grip of
the hills, pace per ground.
"""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import StageCache, keyed
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.mount import Mount
from lynxwort.core.derived.ride import Lap, power_shares
from lynxwort.core.derived.track import Round
from lynxwort.core.evidence import LogNormal, Measured, learn
from lynxwort.core.learned.grip import Grip, Tried, learn_grip
from lynxwort.core.learned.pace import PaceFit, fit_pace, pooled
from lynxwort.core.learned.power import learn_power, power_of_sighting
from lynxwort.core.learned.radius import AT_LIMITER, ROLL_OUT, RPM_SPEED, learn_radius
from lynxwort.core.learned.truth import moved
from lynxwort.core.model.bike import Bike, Electric
from lynxwort.core.model.defaults import GROUND, WALKING_SPEED_M_PER_S
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import GROUNDS, CriticalHill
from lynxwort.core.model.readings import HillReading, RiddenLapReading, RollOutReading, RpmSpeedReading, TopSpeedReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import ChassisSetup, Setup
from lynxwort.core.physics.air.along import DayAir
from lynxwort.core.physics.drive.gearing import overall_ratios, rear_scale, rolling_radius
from lynxwort.core.physics.drive.hills import climber, grip_needed, ramp_of
from lynxwort.core.physics.drive.pull import top_speed
from lynxwort.core.physics.drive.rolling import radius_of_pair, radius_of_roll_out
from lynxwort.core.physics.drive.simulation import Ride, RideInput, simulate

HARD = "hardpack"
Drawn = tuple[tuple[str, float], ...]
RoadReading = HillReading | RiddenLapReading | RollOutReading | RpmSpeedReading | TopSpeedReading


@dataclass(frozen=True, slots=True, kw_only=True)
class RoadLearned:
    """radius [m] and power [1 of the assumed] as learned; grips: by ground, with the hills tried; laps: fits by reading
    id and rider's name; elsewhere: readings of courses or hills that this race has not; stalled: hills where the engine
    gave out though the model climbs.
    """

    radius: LogNormal
    power: LogNormal
    grips: tuple[tuple[str, Grip], ...]
    laps: tuple[tuple[str, str, PaceFit], ...]
    elsewhere: tuple[str, ...]
    stalled: tuple[str, ...]

    @property
    def grip(self) -> dict[str, Grip]:
        """By ground."""
        return dict(self.grips)

    @property
    def grip_by_ground(self) -> tuple[float, ...]:
        """Factors on the table's drive grip by index into GROUNDS; empty when no climb says anything."""
        moved = {g: k.likely(GROUND[g][2]) / GROUND[g][2] for g, k in self.grips if k.readings}
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
        grips = tuple(i for _g, k in self.grips for i in k.readings)
        return (*self.radius.used, *self.power.used, *grips, *(i for i, _n, _f in self.laps))

    @property
    def questioned(self) -> tuple[str, ...]:
        """Ids of readings that nothing of the bike can explain."""
        return (*self.radius.doubted, *self.power.doubted, *(i for _g, k in self.grips for i in k.questioned))


@dataclass(frozen=True, slots=True, kw_only=True)
class RiddenSpeed:
    """Speed [m/s] at even steps of the part of the round that was ridden, from_m to to_m [m]."""

    from_m: float
    to_m: float
    speed_m_per_s: NDArray[np.float64]


@keyed
class Road:
    """course_keys: of the stages; rider: who rode where a reading does not say; readings: of the road, that count;
    drawn: factors on what is not known of the ride, see Truth.
    """

    mount: Mount
    around: Round
    course_keys: tuple[str, ...]
    rider: Rider
    readings: tuple[RoadReading, ...]
    day: Day
    drawn: Drawn = ()

    @classmethod
    def of(cls, inputs: Inputs, mount: Mount, around: Round, day: Day, drawn: Drawn = ()) -> "Road":
        found = tuple(r for r in inputs.readings if isinstance(r, RoadReading) and not r.struck_out)
        keys = tuple(s.course_key for s in inputs.race.stages)
        return cls(
            mount=mount, around=around, course_keys=keys, rider=inputs.rider, readings=found, day=day, drawn=drawn
        )

    @property
    def bike(self) -> Bike:
        return self.mount.bike

    @property
    def cache(self) -> StageCache:
        return self.around.cache

    @cached_property
    def learned(self) -> RoadLearned:
        """All that was seen, in the order in which one thing rests on another: wheel, power, grip, pace."""
        power, radius = self._power(self._radius())
        tried, elsewhere, stalled = self._tried(radius.median, power.median)
        grips = tuple((g, learn_grip(g, t)) for g, t in tried.items())
        base = RoadLearned(
            radius=radius, power=power, grips=grips, laps=(), elsewhere=tuple(elsewhere), stalled=tuple(stalled)
        )
        laps, other = self._laps(base)
        return replace(base, laps=laps, elsewhere=(*base.elsewhere, *other))

    def ride_input(self, setup: Setup, rider: Rider, fuel_m3: float, day: DayAir | None = None) -> RideInput:
        """The ride's input, with all that was seen. day: whose air, None = of the race."""
        seen, plain = self.learned, self.mount.ride_input(setup, rider, fuel_m3, day)
        found = replace(
            plain,
            rolling_radius_m=seen.radius.median * self._scale(setup),
            power_scale=seen.power.median,
            grip_by_ground=seen.grip_by_ground,
            pace_by_ground=seen.pace_of(rider),
        )
        return moved(found, dict(self.drawn))

    def lap(self, setup: Setup, rider: Rider, fuel_m3: float, day: DayAir | None = None) -> Lap:
        """The round as this rider rides it with this setup."""
        return self.lap_of(self.ride_input(setup, rider, fuel_m3, day), day)

    def lap_of(self, ride_input: RideInput, day: DayAir | None = None) -> Lap:
        """The round ridden with this input."""
        return Lap(around=self.around, day=day or self.day.air, ride_input=ride_input)

    def hill_place(self, reading: HillReading) -> tuple[int, CriticalHill] | None:
        """Stage and hill that a climb speaks of; None when this race does not have it."""
        for i, key in enumerate(self.course_keys):
            if reading.under.course_key in (None, key):
                hill = next((h for h in self.around.given[i].hills if abs(h.at_m - reading.at_m) < 5.0), None)
                if hill is not None:
                    return i, hill
        return None

    def ridden_speed(self) -> RiddenSpeed | None:
        """This rider's newest ridden lap, on the stage whose course it was ridden on; None without one."""
        mine = {i for i, name, _fit in self.learned.laps if name == self.rider.name}
        laps = [r for r in self.readings if isinstance(r, RiddenLapReading) and r.id in mine]
        if not laps:
            return None
        stage = self.course_keys.index(laps[-1].under.course_key or "")
        clock, start, length = (
            np.array(laps[-1].clock_s),
            float(self.around.starts_m[stage]),
            self.around.courses[stage].length_m,
        )
        return RiddenSpeed(
            from_m=start,
            to_m=start + length,
            speed_m_per_s=length / (clock.size - 1) / np.maximum(np.diff(clock), 1e-2),
        )

    def _scale(self, setup: ChassisSetup) -> float:
        """Radius of the rear wheel that is in against the bike's own [1]."""
        return rear_scale(self.bike.frame, self.bike.tyre, setup)

    # what each kind of reading says
    # ------------------------------------------------------------------------------------
    def _shares(self, day: DayAir) -> tuple[NDArray[np.float64], ...]:
        return power_shares(self.around, day, electric=isinstance(self.bike.engine, Electric))

    def _under(self, reading: HillReading | RiddenLapReading | TopSpeedReading, **learned: Any) -> RideInput:
        """The ride's input as the bike was when a reading was taken, with what was learned before."""
        under = reading.under
        return replace(
            self.mount.ride_input(
                under.setup, under.rider or self.rider, under.fuel_aboard_m3, self.day.when(under), under.aboard
            ),
            **learned,
        )

    def _radius(self) -> LogNormal:
        found = []
        for reading in self.readings:
            if isinstance(reading, RollOutReading):
                radius = radius_of_roll_out(reading.distance_m, reading.turns) / self._scale(reading.under.setup)
                found.append(Measured(reading_id=reading.id, value=radius, log_sd=ROLL_OUT))
            elif isinstance(reading, RpmSpeedReading):
                ratios = overall_ratios(self.bike.transmission, reading.under.setup)
                if reading.gear <= len(ratios):
                    radius = radius_of_pair(
                        rpm=reading.rpm,
                        speed_m_per_s=reading.speed_m_per_s,
                        overall_ratio=ratios[reading.gear - 1],
                        slip=GROUND[HARD][4],
                    )
                    found.append(
                        Measured(
                            reading_id=reading.id, value=radius / self._scale(reading.under.setup), log_sd=RPM_SPEED
                        )
                    )
        return learn_radius(
            rolling_radius(self.bike.tyre), typed=self.bike.tyre.rolling_radius_m is not None, found=found
        )

    def _power(self, radius: LogNormal) -> tuple[LogNormal, LogNormal]:
        """Power and, from sightings that the limiter ended, the radius once more."""
        powers, radii = [], []
        for reading in self.readings:
            if not isinstance(reading, TopSpeedReading):
                continue
            ride_input = self._under(reading, rolling_radius_m=radius.median * self._scale(reading.under.setup))
            share = float(np.concatenate(self._shares(self.day.when(reading.under))).mean())
            best = top_speed(ride_input, ground=HARD, power_share=share)
            if best.limit == "revs" and reading.speed_m_per_s > 0.97 * best.speed_m_per_s:
                radii.append(
                    Measured(
                        reading_id=reading.id,
                        value=radius.median * reading.speed_m_per_s / best.speed_m_per_s,
                        log_sd=AT_LIMITER,
                    )
                )
                continue
            more = top_speed(replace(ride_input, power_scale=0.94), ground=HARD, power_share=share)
            elasticity = (
                np.log(more.speed_m_per_s / best.speed_m_per_s) / np.log(0.94)
                if more.speed_m_per_s < best.speed_m_per_s
                else 0.36
            )
            powers.append(
                power_of_sighting(
                    seen_m_per_s=reading.speed_m_per_s,
                    computed_m_per_s=best.speed_m_per_s,
                    elasticity=float(max(elasticity, 0.2)),
                    reading_id=reading.id,
                )
            )
        return learn_power(powers, of_kind=self.mount.power_of_kind), learn(radius, radii)

    def _tried(self, radius_m: float, power: float) -> tuple[dict[str, list[Tried]], list[str], list[str]]:
        """Climbs by ground, readings from elsewhere, and stalls that the model does not explain."""
        found: dict[str, list[Tried]] = {}
        elsewhere, stalled = [], []
        for reading in self.readings:
            if not isinstance(reading, HillReading):
                continue
            place = self.hill_place(reading)
            if place is None:
                elsewhere.append(reading.id)
                continue
            stage, hill = place
            ride_input = self._under(
                reading, rolling_radius_m=radius_m * self._scale(reading.under.setup), power_scale=power
            )
            shares = self._shares(self.day.when(reading.under))
            ramp = ramp_of(
                self.around.courses[stage], shares[stage], ride_input, at_m=hill.at_m, length_m=hill.length_m
            )
            needed = grip_needed(climber(ramp, ride_input), reading.entry_speed_m_per_s or WALKING_SPEED_M_PER_S)
            if reading.outcome == "stalled":
                if needed is not None:
                    stalled.append(reading.id)
                continue
            found.setdefault(hill.ground, []).append(
                Tried(
                    reading_id=reading.id,
                    # of the ground under a middling tyre: what another one gripped is its own
                    needed=None if needed is None else needed / ride_input.tyre_on(hill.ground),
                    outcome=reading.outcome,
                )
            )
        return found, elsewhere, stalled

    def _laps(self, base: RoadLearned) -> tuple[tuple[tuple[str, str, PaceFit], ...], list[str]]:
        """Pace fits of ridden laps on this race's courses, and the ids of the others."""
        found, elsewhere = [], []
        for reading in self.readings:
            if not isinstance(reading, RiddenLapReading):
                continue
            under = reading.under
            if under.course_key not in self.course_keys:
                elsewhere.append(reading.id)
                continue
            stage = self.course_keys.index(under.course_key)
            ride_input = self._under(
                reading,
                rolling_radius_m=base.radius.median * self._scale(under.setup),
                power_scale=base.power.median,
                grip_by_ground=base.grip_by_ground,
            )
            found.append((reading.id, (under.rider or self.rider).name, self._fitted(reading, stage, ride_input)))
        return tuple(found), elsewhere

    def _fitted(self, reading: RiddenLapReading, stage: int, ride_input: RideInput) -> PaceFit:
        """The pace by ground with which the model rides a lap as it was ridden."""
        course, day = self.around.courses[stage], self.day.when(reading.under)

        def with_pace(factors: tuple[float, ...]) -> Ride:
            return simulate(course, self._shares(day)[stage], replace(ride_input, pace_by_ground=factors))

        key = (self.around.given[stage], day, ride_input, reading.clock_s)
        return self.cache.get(
            "pace_fit",
            key,
            lambda: fit_pace(
                with_pace, distance_m=course.distance_m, ground=course.ground, clock_s=np.array(reading.clock_s)
            ),
        )
