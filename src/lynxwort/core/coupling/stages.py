"""The stages of `evaluate` in their fixed order, each a function of its own small input, each cached by it."""

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import exp, sqrt
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import Key, StageCache
from lynxwort.core.coupling.mixture import Setting, log_cells, over_log, run_of, setting_of, state_of
from lynxwort.core.coupling.seen import Seen, seen_of
from lynxwort.core.coupling.team import stints_of, team_lap_time
from lynxwort.core.coupling.weighed import Geometry, Weighed, geometry_of, weighed_of
from lynxwort.core.evidence import LogNormal
from lynxwort.core.model.bike import Electric, Engine, Frame, Injected, Injection, Jetted, Rod, TorquePoint
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3, LAP_TIME_LOG_SD, LIAISON_PACE, PACE_LOG_SD, RIDDEN_PACE_LOG_SD
from lynxwort.core.model.fitted import unusable_of
from lynxwort.core.model.inputs import Inputs, setup_misfit
from lynxwort.core.model.race import GROUNDS, CriticalHill
from lynxwort.core.model.readings import (
    ChargeReading,
    DynoReading,
    FillUpReading,
    GeometryReading,
    HillReading,
    KnownGoodReading,
    LogReading,
    Reading,
    SagReading,
    TiltReading,
    Under,
    WeighingReading,
)  # fmt: skip
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.air.along import DayAir, RaceAirStates, mean_air, power_share_along, race_air_states
from lynxwort.core.physics.air.moist import AirState, moist_density
from lynxwort.core.physics.air.standard import standard_pressure
from lynxwort.core.physics.chassis import sag
from lynxwort.core.physics.chassis.calibrate import OTHER_RATE, PRELOAD, RATE, SCALE_SD_KG, SHARE, TAPE_SD_M, Evidence, Offsets, calibrate, half_width
from lynxwort.core.physics.chassis.fitted import fork_of_setup, shock_of_setup
from lynxwort.core.physics.chassis.loads import (
    NOTHING,
    RIDER_CG_M,
    AxleLoads,
    Extras,
    axle_loads,
    cg_to_front_axle,
    extras_of,
    joint_height,
    wheel_change_kg,
    with_axle_back,
)
from lynxwort.core.physics.course.prepare import Course, Line, join_courses, lay_line, prepare_course
from lynxwort.core.physics.drive.chain import ChainFit, fit_chain, swingarm_of
from lynxwort.core.physics.drive.gearing import overall_ratios, rear_scale, rolling_radius
from lynxwort.core.physics.drive.simulation import Ride, RideInput, join_rides, simulate
from lynxwort.core.physics.drive.tuning import engine_as_set
from lynxwort.core.physics.fuelling.breathing import mixture_shift
from lynxwort.core.physics.fuelling.fuels import fuel_of, jet_richness, volume_factor
from lynxwort.core.physics.fuelling.jets import premix_petrol_share
from lynxwort.core.physics.fuelling.metering import MapSetting, RodSetting, map_curve, rod_curve
from lynxwort.core.physics.fuelling.richness import NO_SHIFT, Jetting, RichnessCurve, Three, richness_curve
from lynxwort.core.physics.reach.consumption import FillUp, fill_up_sd, learn_factor, pack_heat, pack_ohm, prior_factor
from lynxwort.core.physics.reach.finish import Piece, lap_chances, legs_over, sections_over, use_between
from lynxwort.core.physics.reach.legs import Stint
from lynxwort.core.physics.reach.stops import Fill

Array = NDArray[np.float64]
T = TypeVar("T")
#: temperature from which a pack gives all it has [K] (assumption)
PACK_WARM_K = 293.15
#: readings of the standing bike
STANDING = (SagReading, WeighingReading, TiltReading, GeometryReading)
#: the setup's field with the stamped rate of an end's spring
STAMPED = {"front": "fork_spring_rate_n_per_m", "rear": "shock_spring_rate_n_per_m"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Store:
    """What the bike carries to burn or draw, in m3 of fuel or J of charge. kind: "fuel" or "energy"; unusable: never reaches the engine."""

    kind: str
    aboard: float
    unusable: float
    capacity: float


@dataclass(frozen=True, kw_only=True)
class Work:
    """One evaluation: inputs, and every stage's result, computed once and cached by the stage's own input."""

    inputs: Inputs
    cache: StageCache

    @cached_property
    def _memo(self) -> dict[str, Any]:
        return {}

    def once(self, name: str, make: Callable[[], T]) -> T:
        """Something computed once for this evaluation, whoever asks."""
        if name not in self._memo:
            self._memo[name] = make()
        return self._memo[name]  # type: ignore[no-any-return]

    # course and air ---------------------------------------------------------------------------------------------------
    @cached_property
    def lines(self) -> tuple[Line, ...]:
        """The track of each stage."""
        tracks = [self.inputs.courses[s.course_key] for s in self.inputs.race.stages]
        return tuple(self.cache.get("line", t.content_key(), lambda t=t: lay_line(t)) for t in tracks)  # type: ignore[misc]

    @cached_property
    def course_ids(self) -> tuple[Key, ...]:
        return tuple(Key(self.inputs.courses[s.course_key].content_key(), s.ground, s.hills, s.zones, s.kind, s.state) for s in self.inputs.race.stages)

    @cached_property
    def courses(self) -> tuple[Course, ...]:
        """Each stage's course, once."""

        def prepare(i: int) -> Course:
            stage = self.inputs.race.stages[i]
            pace = LIAISON_PACE if stage.kind == "liaison" else 1.0
            return self.cache.get(
                "course",
                self.course_ids[i],
                lambda: prepare_course(self.lines[i], stage.ground, stage.hills, stage.zones, pace_share=pace, state=stage.state, stage=i),
            )

        return tuple(prepare(i) for i in range(len(self.course_ids)))

    @cached_property
    def course(self) -> Course:
        """The whole round: every stage once, in order."""
        return self.cache.get("round", self.course_ids, lambda: join_courses(self.courses))

    @cached_property
    def stage_starts_m(self) -> Array:
        """Where each stage begins on the round [m], and the round's end: shape (stages + 1,)."""
        return np.concatenate([[0.0], np.cumsum([c.length_m for c in self.courses])])

    def stage_at(self, at_m: float) -> int:
        """Index of the stage at a place of the round [m]."""
        return min(int(np.searchsorted(self.stage_starts_m, at_m, side="right")) - 1, len(self.courses) - 1)

    def step_at(self, at_m: float) -> int:
        """Index of the step at a place of the round [m]."""
        return min(max(int(np.searchsorted(self.course.distance_m, at_m, side="right")) - 1, 0), self.course.sine.size - 1)

    @cached_property
    def day(self) -> DayAir:
        air = self.inputs.race.air
        height = air.reading_height_m
        return DayAir(
            pressure_kind=air.pressure_kind,
            pressure_pa=air.pressure_pa,
            pressure_spread_pa=air.pressure_spread_pa,
            reading_height_m=float(self.course.height_m[0]) if height is None else height,
            temperature_low_k=air.temperature_low_k,
            temperature_high_k=air.temperature_high_k,
            relative_humidity_low=air.relative_humidity_low,
            relative_humidity_high=air.relative_humidity_high,
        )

    @cached_property
    def air(self) -> RaceAirStates:
        low, high = float(self.course.height_m.min()), float(self.course.height_m.max())
        return self.cache.get("air", (self.day, low, high), lambda: race_air_states(self.day, lowest_m=low, highest_m=high))

    @property
    def power_shares(self) -> tuple[Array, ...]:
        """Share of standard power along each stage."""
        return self.power_shares_in(self.day)

    def power_shares_in(self, day: DayAir) -> tuple[Array, ...]:
        """Share of standard power along each stage in the mean air of a day; an electric motor keeps its own."""
        electric = isinstance(self.inputs.bike.engine, Electric)

        def along(i: int) -> Array:
            height = self.courses[i].height_m
            if electric:
                return np.ones(height.size - 1)
            middle = 0.5 * (height[1:] + height[:-1])
            return power_share_along(mean_air(day), reading_height_m=day.reading_height_m, height_m=middle)

        return tuple(
            self.cache.get("power_share", (self.course_ids[i], day, electric), lambda i=i: along(i))  # type: ignore[misc]
            for i in range(len(self.courses))
        )

    def day_of(self, under: Under) -> DayAir:
        """The day on which a reading was taken, read where the race's weather is; that of the race when its air was not noted."""
        if under.air is None:
            return self.day
        air = under.air
        return DayAir(
            pressure_kind="station", pressure_pa=air.pressure_pa, pressure_spread_pa=0.0, reading_height_m=self.day.reading_height_m,
            temperature_low_k=air.temperature_k, temperature_high_k=air.temperature_k, relative_humidity_low=air.relative_humidity,
            relative_humidity_high=air.relative_humidity,
        )  # fmt: skip

    @cached_property
    def power_share(self) -> Array:
        """Share of standard power along the round."""
        return self.power_shares[0] if len(self.power_shares) == 1 else np.concatenate(self.power_shares)

    # loads and sag ----------------------------------------------------------------------------------------------------
    @cached_property
    def weighed(self) -> Weighed:
        """What the scales say."""
        return weighed_of(self)

    @property
    def frame(self) -> Frame:
        """The frame with its weight as weighed."""
        return self.weighed.frame

    @cached_property
    def geometry(self) -> Geometry:
        """What tape and angle gauge say."""
        return geometry_of(self)

    @property
    def side(self) -> Frame:
        """The frame as weighed and measured."""
        return self.geometry.frame

    def extras(self, setup: Setup) -> Extras:
        """What a setup adds to the bike as weighed."""
        return extras_of(self.frame, self.inputs.bike.engine, setup)

    def chain_fit(self, setup: Setup) -> ChainFit | None:
        """How the chain fits a setup's sprockets; None when no even number of links lies within the adjusters."""
        frame = self.inputs.bike.frame
        arm, front, rear = swingarm_of(frame), setup.front_sprocket_teeth, setup.rear_sprocket_teeth
        links, half_range, play = frame.chain_links, frame.adjuster_half_range_m, frame.chain_play_m
        key = (arm, front, rear, links, half_range, play)
        return self.cache.get("chain", key, lambda: fit_chain(arm, front, rear, links=links, half_range_m=half_range, play_m=play))

    def axle_back_m(self, setup: Setup) -> float:
        """Where the rear axle lies in its adjusters [m] with a setup's sprockets, from their middle, + = back; the middle when no chain fits."""

        def make() -> float:
            fit = self.chain_fit(setup)
            return 0.0 if fit is None else fit.axle_move_m

        return self.once(f"axle {setup.front_sprocket_teeth} {setup.rear_sprocket_teeth}", make)

    def loads_of(self, setup: Setup, rider: Rider | None, fuel_m3: float, share_offset: float = 0.0, *, axle_in_middle: bool = False) -> AxleLoads:
        """Mass on each wheel [kg]; rider None: the bike alone. axle_in_middle: whatever the chain says of where the axle lies."""
        made = axle_loads(
            self.frame,
            fuel_m3=fuel_m3,
            rider_kg=rider.mass_in_gear_kg if rider else 0.0,
            posture=rider.posture if rider else "standing",
            share_offset=share_offset,
            extras=self.extras(setup),
        )
        back = 0.0 if axle_in_middle else self.axle_back_m(setup)
        if back == 0.0:
            return made
        return with_axle_back(made, wheelbase_m=self.frame.wheelbase_m, unsprung_rear_kg=self.unsprung(setup, "rear"), back_m=back)

    def loads(self, fuel_m3: float, *, with_rider: bool = True, share_offset: float = 0.0) -> AxleLoads:
        return self.loads_of(self.inputs.setup, self.inputs.rider if with_rider else None, fuel_m3, share_offset)

    def cg_height_m(self, setup: Setup, rider: Rider) -> float:
        """Height of the centre of gravity [m], rider aboard: as given, or from a tilted weighing; what rides along counts."""
        extras, frame, alone = self.extras(setup), self.frame, self.weighed.cg_height_m
        carried = frame.mass_dry_kg + rider.mass_in_gear_kg
        height = frame.cg_height_m if alone is None else joint_height([(frame.mass_dry_kg, alone), (rider.mass_in_gear_kg, RIDER_CG_M[rider.posture])])
        if extras is NOTHING or extras.height_moment_kg_m == 0.0:
            return height
        items = extras.front_kg + extras.rear_kg
        return (carried * height + extras.height_moment_kg_m) / (carried + items)

    def unsprung(self, setup: Setup, end: str) -> float:
        """Mass that moves with a wheel [kg]; a heavier wheel counts."""
        frame = self.inputs.bike.frame
        return (frame.unsprung_front_kg if end == "front" else frame.unsprung_rear_kg) + wheel_change_kg(frame, setup, end)

    def sprung_of(self, end: str, setup: Setup, rider: Rider | None, fuel_m3: float, share_offset: float) -> float:
        """Sprung mass [kg] at one end."""
        loads = self.loads_of(setup, rider, fuel_m3, share_offset)
        return (loads.front_kg if end == "front" else loads.rear_kg) - self.unsprung(setup, end)

    def sag_at(
        self, end: str, setup: Setup, rider: Rider | None, fuel_m3: float, offsets: Sequence[float] | Array, *, outside_pa: float | None = None
    ) -> float:
        """Sag [m] of one end; rider None: free sag. offsets: as of chassis.calibrate; outside_pa: where it is measured, None = at the race."""
        sprung = self.sprung_of(end, setup, rider, fuel_m3, float(offsets[2]))
        if end == "rear":
            return sag.rear_sag(self.shock(setup, offsets), sprung)
        return sag.front_sag(self.fork(setup, offsets, outside_pa), sprung)

    @property
    def outside_pa(self) -> float:
        """Pressure [Pa] where the weather of the race is read, in its mean air: what pushes on a fork from outside."""
        return self.air.middle_at_reading.pressure_pa

    def outside_of(self, under: Under) -> float:
        """Pressure [Pa] outside when a reading was taken: of its air, else that of home."""
        return standard_pressure(self.inputs.bike.frame.home_height_m) if under.air is None else under.air.pressure_pa

    def fork(self, setup: Setup, offsets: Sequence[float] | Array | None = None, outside_pa: float | None = None) -> sag.Fork:
        """The fork with this setup's springs and air, bled where outside_pa [Pa] presses (None = at the race); offsets: as learned."""
        preload, rate = (0.0, 1.0) if offsets is None else (float(offsets[PRELOAD["front"]]), exp(float(offsets[self.rate_place("front", setup)])))
        outside = self.outside_pa if outside_pa is None else outside_pa
        return fork_of_setup(self.inputs.bike.frame, setup, preload_offset_m=preload, rate_scale=rate, outside_pa=outside)

    def sprung_masses(self, end: str) -> tuple[float, float]:
        """Sprung mass [kg] at one end: rider in position, and bike alone, at half the fill and with the calibrated share."""
        setup, half, offset = self.inputs.setup, 0.5 * self.inputs.setup.fill_m3, self.offsets.mean[2]
        return self.once(f"sprung_{end}", lambda: (self.sprung_of(end, setup, self.inputs.rider, half, offset), self.sprung_of(end, setup, None, half, 0.0)))

    def shock(self, setup: Setup, offsets: Sequence[float] | Array | None = None) -> sag.Shock:
        """The shock with this setup's spring; offsets: as learned."""
        preload, rate = (0.0, 1.0) if offsets is None else (float(offsets[PRELOAD["rear"]]), exp(float(offsets[self.rate_place("rear", setup)])))
        return shock_of_setup(self.inputs.bike.frame, setup, preload_offset_m=preload, rate_scale=rate)

    @cached_property
    def measured_rates(self) -> dict[str, float]:
        """Stamped rate [N/m] of the spring that the newest sag of each end was measured with."""
        sags = [r for r in self.live_readings if isinstance(r, SagReading)]
        return {r.end: getattr(r.under.setup, STAMPED[r.end]) for r in sags}

    def rate_place(self, end: str, setup: Setup) -> int:
        """Which offset holds the true rate of a setup's spring: what was measured speaks of that spring only, not of another in its place."""
        measured = self.measured_rates.get(end)
        return (RATE if measured is not None and abs(getattr(setup, STAMPED[end]) - measured) <= 1.0 else OTHER_RATE)[end]

    def rests_on(self, end: str, setup: Setup) -> tuple[int, int, int]:
        """The offsets that a sag of an end rests on."""
        return PRELOAD[end], SHARE, self.rate_place(end, setup)

    def friction_m(self, end: str, setup: Setup) -> float:
        """Half band of friction [m] at one end: as measured by settling from above and below, else friction / wheel rate."""
        frame = self.inputs.bike.frame
        apart = [r.apart_m for r in self.live_readings if isinstance(r, SagReading) and r.end == end and r.apart_m is not None]
        if apart:
            return 0.5 * sum(apart) / len(apart)
        if end == "front":
            return frame.fork_friction_n / self.fork(setup).rate_n_per_m
        ratio = 0.5 * (frame.link_ratio_start + frame.link_ratio_end)
        return frame.shock_friction_n * ratio / setup.shock_spring_rate_n_per_m

    @cached_property
    def offsets(self) -> Offsets:
        bike, marks = self.inputs.bike, tuple(r.model_dump_json() for r in self.live_readings if isinstance(r, STANDING))
        key = Key(bike.frame, bike.engine, self.inputs.rider, marks)
        return self.cache.get("offsets", key, lambda: calibrate([e for r in self.live_readings if (e := self._evidence(r)) is not None]))

    def _evidence(self, reading: Reading) -> Evidence | None:
        """What a sag or a weighing with the rider aboard says of the offsets."""
        under = reading.under
        if isinstance(reading, SagReading):
            rider = (under.rider or self.inputs.rider) if reading.state == "race" else None
            end, setup, fuel, outside = reading.end, under.setup, under.fuel_aboard_m3, self.outside_of(under)
            sd = sqrt(TAPE_SD_M**2 + (0.5 * self.friction_m(end, setup)) ** 2)
            return Evidence(
                reading_id=reading.id, value=reading.value_m, of=self.rests_on(end, setup), sd=sd,
                predict=lambda o: self.sag_at(end, setup, rider, fuel, o, outside_pa=outside),
            )  # fmt: skip
        if isinstance(reading, WeighingReading) and reading.rider_aboard:
            who = under.rider or self.inputs.rider
            fuel = under.fuel_aboard_m3
            return Evidence(
                reading_id=reading.id, value=reading.rear_kg, of=(SHARE,), sd=SCALE_SD_KG,
                predict=lambda o: self.loads_of(under.setup, who, fuel, float(o[2])).rear_kg,
            )  # fmt: skip
        return None

    def present_sag(self, end: str, *, race: bool, fuel_m3: float) -> tuple[float, float]:
        """Sag [m] of the present setup and half of its 90 % interval."""
        rider = self.inputs.rider if race else None
        setup = self.inputs.setup

        def predict(o: Sequence[float] | Array) -> float:
            return self.sag_at(end, setup, rider, fuel_m3, o)

        def make() -> tuple[float, float]:
            return predict(self.offsets.mean), half_width(predict, self.offsets, self.rests_on(end, setup), self.friction_m(end, setup))

        return self.once(f"sag {end} {race} {fuel_m3!r}", make)

    def targets(self, end: str) -> sag.SagTargets:
        frame = self.inputs.bike.frame
        return sag.front_targets(frame.fork_travel_m) if end == "front" else sag.rear_targets(frame.rear_travel_m)

    # ride -------------------------------------------------------------------------------------------------------------
    @cached_property
    def live_readings(self) -> tuple[Reading, ...]:
        """Readings that are not struck out."""
        return tuple(r for r in self.inputs.readings if not r.struck_out)

    def hill_place(self, reading: HillReading) -> tuple[int, CriticalHill] | None:
        """Stage and hill that a climb speaks of; None when this race does not have it."""
        for i, stage in enumerate(self.inputs.race.stages):
            if reading.under.course_key in (None, stage.course_key):
                hill = next((h for h in stage.hills if abs(h.at_m - reading.at_m) < 5.0), None)
                if hill is not None:
                    return i, hill
        return None

    @cached_property
    def seen(self) -> Seen:
        """What the readings say of this bike's wheel, power, grip and of its rider's pace."""
        return seen_of(self)

    def ride_input(self, setup: Setup, rider: Rider, fuel_m3: float, day: DayAir | None = None) -> RideInput:
        """The ride's input, with all that was seen. day: whose air, None = of the race."""
        seen, plain = self.seen, self.plain_ride_input(setup, rider, fuel_m3, day)
        return replace(
            plain,
            rolling_radius_m=seen.radius.median * rear_scale(self.inputs.bike, setup),
            power_scale=seen.power.median,
            grip_by_ground=seen.grip_by_ground,
            pace_by_ground=seen.pace_of(rider),
        )

    def plain_ride_input(self, setup: Setup, rider: Rider, fuel_m3: float, day: DayAir | None = None) -> RideInput:
        """The ride's input before anything was seen."""
        bike = self.inputs.bike
        # the axle in the middle of its adjusters: pairs of sprockets of one ratio ride the same
        loads = self.loads_of(setup, rider, fuel_m3, axle_in_middle=True)
        wheelbase = self.side.wheelbase_m
        modes = bike.engine.mode_power_shares if isinstance(bike.engine, Electric) else (1.0,)
        return RideInput(
            engine=self.engine_of(setup),
            overall_ratios=overall_ratios(bike, setup),
            efficiency=bike.transmission.efficiency,
            rolling_radius_m=rolling_radius(bike) * rear_scale(bike, setup),
            mass_kg=loads.total_kg,
            cg_to_front_axle_m=cg_to_front_axle(loads, wheelbase),
            wheelbase_m=wheelbase,
            cg_height_m=self.cg_height_m(setup, rider),
            drag_area_m2=bike.frame.drag_area_m2,
            air_density_kg_per_m3=moist_density(mean_air(day or self.day)),
            pace=rider.pace,
            seed=self.inputs.seed,
            wind_m_per_s=self.inputs.race.air.wind_m_per_s,
            wind_from_rad=self.inputs.race.air.wind_from_rad,
            mode_share=modes[min((setup.power_mode or 1), len(modes)) - 1],
        )

    @cached_property
    def dyno_run(self) -> tuple[tuple[TorquePoint, ...], Setup] | None:
        """The newest chosen run: torque at the crank on a standard day, and the setup it was taken with."""
        chosen = [r for r in self.live_readings if isinstance(r, DynoReading) and r.chosen]
        if not chosen or isinstance(self.inputs.bike.engine, Electric):
            return None
        return run_of(chosen[-1], self.inputs.bike), chosen[-1].under.setup

    def engine_of(self, setup: Setup) -> Engine:
        """The engine with its torque as this setup has it; an electric motor is as it is."""
        engine = self.inputs.bike.engine
        return engine if isinstance(engine, Electric) else engine_as_set(engine, setup, self.dyno_run)  # type: ignore[return-value]

    def rides_of(self, what: RideInput, day: DayAir | None = None) -> tuple[Ride, ...]:
        """Each stage ridden once. day: whose air, None = of the race."""
        day = day or self.day
        key, shares = Key(day, what), self.power_shares_in(day)

        def one(i: int) -> Ride:
            return self.cache.get("ride", (self.course_ids[i], key), lambda: simulate(self.courses[i], shares[i], what))

        return tuple(one(i) for i in range(len(self.courses)))

    def ride_of(self, what: RideInput) -> Ride:
        """The whole round ridden once."""
        return self.cache.get("round_ride", (self.course_ids, self.day, what), lambda: join_rides(self.rides_of(what)))

    @cached_property
    def what(self) -> RideInput:
        """The ride's input at half the fill: the mean of the race."""
        return self.ride_input(self.inputs.setup, self.inputs.rider, 0.5 * self.inputs.setup.fill_m3)

    @cached_property
    def rides(self) -> tuple[Ride, ...]:
        """Each stage ridden once, as the bike stands."""
        return self.rides_of(self.what)

    @cached_property
    def ride(self) -> Ride:
        """The whole round ridden once, as the bike stands."""
        return self.rides[0] if len(self.rides) == 1 else self.ride_of(self.what)

    @cached_property
    def longest_full_throttle_s(self) -> float:
        """Over the stages, none running into the next [s]."""
        return self.cache.get("longest", Key(self.course_ids, self.day, self.what), lambda: max(r.longest_full_throttle_s for r in self.rides))

    @cached_property
    def lap_chances(self) -> tuple[tuple[int, float], ...]:
        """How many times the round is ridden, with the chance of each: one number by laps, a distribution by hours."""
        stage = self.inputs.race.stages[0]
        if stage.hours_s is None:
            return ((stage.laps if len(self.courses) == 1 else 1, 1.0),)
        lap_time = self.ride.lap_time_s if self.inputs.race.relay is None else team_lap_time(self)
        return lap_chances(stage.hours_s, lap_time, common_sd=self.pace_log_sd, lap_sd=LAP_TIME_LOG_SD)

    @property
    def pace_log_sd(self) -> float:
        """How far the day's pace may lie off [1], of its logarithm: one and the same for a lap, an arrival and the finish."""
        return RIDDEN_PACE_LOG_SD if self.what.pace_by_ground else PACE_LOG_SD

    @cached_property
    def laps(self) -> int:
        """The likeliest middle: the median number of laps of the first stage (of the round, with one stage)."""
        total = 0.0
        for laps, chance in self.lap_chances:
            total += chance
            if total >= 0.5 - 1e-12:
                return laps
        return self.lap_chances[-1][0]

    # fuelling ---------------------------------------------------------------------------------------------------------
    @cached_property
    def known_good(self) -> KnownGoodReading | None:
        """The newest known-good setting that is not struck out, has its air and is of this bike's kind."""
        engine = self.inputs.bike.engine
        good = [r for r in self.inputs.readings if isinstance(r, KnownGoodReading) and not r.struck_out and r.under.air]
        good = [r for r in good if setting_of(r.under.setup, engine) is not None]
        return good[-1] if good else None

    @cached_property
    def proven(self) -> tuple[Setting, AirState] | None:
        """The proven setting and its air."""
        good = self.known_good
        if good is None or good.under.air is None:
            return None
        setting = setting_of(good.under.setup, self.inputs.bike.engine)
        return None if setting is None else (setting, state_of(good.under.air))

    def curve(self, air: AirState, setup: Setup | None = None) -> RichnessCurve | None:
        """Richness of a setup (the draft) in some air; None without a proven setting."""
        engine = self.inputs.bike.engine
        draft = setting_of(setup or self.inputs.setup, engine)
        if self.proven is None or draft is None:
            return None
        proven, proven_air = self.proven
        shift = self.shift_of(setup or self.inputs.setup)
        if isinstance(draft, Jetting) and isinstance(proven, Jetting) and isinstance(engine, Jetted):
            return richness_curve(engine.carburettor, draft, air, proven, proven_air, shift)
        if isinstance(draft, RodSetting) and isinstance(proven, RodSetting) and isinstance(engine, Rod):
            return rod_curve(engine.carburettor, draft, air, proven, proven_air, shift)
        if isinstance(draft, MapSetting) and isinstance(proven, MapSetting) and isinstance(engine, Injected):
            curve = map_curve(engine.injection, draft, air, proven, proven_air, shift, engine.peak_power_rpm)
            return self.switched(self.logged(curve, engine.injection, draft, air, setup or self.inputs.setup), setup or self.inputs.setup)
        return None

    def map_ratios(self, setup: Setup) -> dict[str, float]:
        """Kind of ground of this race -> fuel there / fuel of the map in use [1], where the rider switches to another map."""
        engine = self.inputs.bike.engine
        if not isinstance(engine, Injected) or not setup.map_by_ground:
            return {}
        shifts, here = engine.injection.map_shifts, {GROUNDS[int(g)] for c in self.courses for g in np.unique(c.ground)}
        own = 1.0 + shifts[(setup.map_slot or 1) - 1]
        return {g: (1.0 + shifts[slot - 1]) / own for g, slot in setup.map_by_ground.items() if g in here}

    def switched(self, curve: RichnessCurve, setup: Setup) -> RichnessCurve:
        """The curve with its ends over all maps that the rider switches to on this race."""
        ratios = [1.0, *self.map_ratios(setup).values()]
        low, high = (1.0 + curve.low) * min(ratios) - 1.0, (1.0 + curve.high) * max(ratios) - 1.0
        return curve if len(ratios) == 1 else replace(curve, low=low, high=high)

    def shift_of(self, setup: Setup) -> Three:
        """Richness [1] that other fittings (and, without jets, another fuel) bring against the proven setting: value, low, high."""
        if setup is self.inputs.setup:
            return self.once("own_shift", lambda: self._shift_of(setup))
        return self._shift_of(setup)

    def _shift_of(self, setup: Setup) -> Three:
        good, engine = self.known_good, self.inputs.bike.engine
        if good is None or isinstance(engine, Electric):
            return NO_SHIFT
        then = good.under.setup
        fuel = 0.0 if isinstance(engine, Jetted) else jet_richness(fuel_of(setup.fuel), fuel_of(then.fuel))
        value, low, high = ((1.0 + s) * (1.0 + fuel) - 1.0 for s in mixture_shift(engine, setup, then))
        return value, low, high

    @cached_property
    def log(self) -> LogReading | None:
        """The newest mixture log of this bike; None without one."""
        engine = self.inputs.bike.engine
        if not isinstance(engine, Injected):
            return None
        logs = [r for r in self.live_readings if isinstance(r, LogReading) and not setup_misfit(self.inputs.bike, r.under.setup)]
        return logs[-1] if logs else None

    def logged(self, curve: RichnessCurve, injection: Injection, draft: MapSetting, air: AirState, setup: Setup) -> RichnessCurve:
        """The curve with what a log of a four-stroke says in place, where it says enough: richness against the target."""
        log = self.log
        if log is None or self.inputs.bike.is_two_stroke:
            return curve
        then = log.under.setup
        plain = MapSetting(slot=then.map_slot or 1, trim=then.fuel_trim or 0.0, premix_ratio=then.premix_ratio)
        value, low, high = ((1.0 + s) for s in mixture_shift(self.inputs.bike.engine, setup, then))  # type: ignore[arg-type]
        fuel = jet_richness(fuel_of(setup.fuel), fuel_of(then.fuel))
        shift = ((1.0 + fuel) * value - 1.0, (1.0 + fuel) * low - 1.0, (1.0 + fuel) * high - 1.0)
        moved = map_curve(injection, replace(draft, trims=()), air, plain, state_of(log.under.air) if log.under.air else air, shift)
        return over_log(curve, moved, log_cells(injection, log), injection, then.map_trims, setup.map_trims)

    @cached_property
    def densest_curve(self) -> RichnessCurve | None:
        return self.curve(self.air.densest)

    @cached_property
    def thinnest_curve(self) -> RichnessCurve | None:
        return self.curve(self.air.thinnest)

    # fuel or charge ---------------------------------------------------------------------------------------------------
    @cached_property
    def store(self) -> Store:
        """What is carried, by the kind of engine."""
        setup, engine = self.inputs.setup, self.inputs.bike.engine
        if isinstance(engine, Electric):
            pack = setup.pack_energy_j or 0.0
            charge = 1.0 if setup.charge_share is None else setup.charge_share
            colder = max(PACK_WARM_K - self.day.temperature_low_k, 0.0)
            usable = engine.usable_share * max(1.0 - engine.cold_share_per_k * colder, 0.1)
            return Store(kind="energy", aboard=pack * charge, unusable=pack * (1.0 - usable), capacity=pack)
        unusable = unusable_of(self.inputs.bike.frame, setup)
        return Store(kind="fuel", aboard=setup.fill_m3, unusable=unusable, capacity=setup.tank_capacity_m3 or 0.0)

    def use_of(self, ride: Ride, setup: Setup, stage: int | None = None, *, as_ridden: DayAir | None = None) -> Array:
        """Fuel [m3] or energy [J] per step in the mean air, factor 1. Richer mixture burns more in proportion. stage: whose ride it is.

        A leaner mixture than the proven one saves nothing, so nobody leans to get home; as_ridden: the day of a fill-up, whose use is reckoned as it was.
        """
        engine = self.inputs.bike.engine
        if isinstance(engine, Electric):
            volts = engine.nominal_voltage_v
            ohm = pack_ohm(volts, setup.pack_energy_j or 1.0) if engine.internal_ohm is None else engine.internal_ohm
            return ride.energy_j + pack_heat(ride.energy_j, ride.time_s, volts, ohm)
        richer = self.richer_mix(mean_air(as_ridden or self.day), setup, as_ridden=as_ridden is not None)
        use = ride.fuel_kg / FUEL_DENSITY_KG_PER_M3 * volume_factor(fuel_of(setup.fuel)) * (1.0 + richer)
        ratios = self.map_ratios(setup) if stage is not None else {}
        return use * np.array([ratios.get(g, 1.0) for g in GROUNDS])[self.courses[stage or 0].ground] if ratios else use

    def richer_mix(self, air: AirState, setup: Setup, *, as_ridden: bool = False) -> float:
        """How much more of what is in the tank goes through the jets than with the proven setting [1], mean over the lower half of the throttle.

        Oil in the mix leans the engine and saves no litre: jets pass mix, whatever is in it.
        """
        curve = self.curve(air, setup)
        if curve is None or self.proven is None:
            return 0.0
        oil = premix_petrol_share(setup.premix_ratio) / premix_petrol_share(self.proven[0].premix_ratio)
        mix = (1.0 + curve.value[curve.throttle <= 0.5]) / oil - 1.0
        return float((mix if as_ridden else np.maximum(mix, 0.0)).mean())

    def rides_by(self, rider: int) -> tuple[Ride, ...]:
        """Each stage ridden once by one of the riders, the bike as it stands."""
        if rider == self.inputs.race.entries[0].rider:
            return self.rides
        what = self.ride_input(self.inputs.setup, self.inputs.riders[rider], 0.5 * self.inputs.setup.fill_m3)
        return self.once(f"rides_by_{rider}", lambda: self.rides_of(what))

    def use_by(self, rider: int) -> tuple[Array, ...]:
        """Cumulative use over one lap of each stage by one of the riders at factor 1, each shape (n + 1,)."""
        setup = self.inputs.setup
        return self.once(
            f"use_by_{rider}", lambda: tuple(np.concatenate([[0.0], np.cumsum(self.use_of(r, setup, i))]) for i, r in enumerate(self.rides_by(rider)))
        )

    @property
    def use_along(self) -> tuple[Array, ...]:
        """Cumulative use over one lap of each stage at factor 1, each shape (n + 1,)."""
        return self.use_by(self.inputs.race.entries[0].rider)

    @cached_property
    def round_use(self) -> float:
        """Use of the round, each stage once, at factor 1."""
        return float(sum(u[-1] for u in self.use_along))

    @cached_property
    def fill_ups(self) -> tuple[list[FillUp], list[str]]:
        """Fill-ups (or charges) with what the model computes for the same ride, and the ids of those on another course."""
        kind = ChargeReading if self.store.kind == "energy" else FillUpReading
        keys = [s.course_key for s in self.inputs.race.stages]
        usable, other = [], []
        for reading in self.inputs.readings:
            if reading.struck_out or not isinstance(reading, kind):
                continue
            under = reading.under
            if under.course_key is not None and under.course_key not in keys:
                other.append(reading.id)
                continue
            index = 0 if under.course_key is None else keys.index(under.course_key)
            rider = under.rider or self.inputs.rider
            measured = reading.energy_j if isinstance(reading, ChargeReading) else reading.fuel_m3
            fuel = 0.0 if isinstance(reading, ChargeReading) else 0.5 * max(under.fuel_aboard_m3, reading.fuel_m3)
            day, like = self.day_of(under), False
            if isinstance(reading, FillUpReading) and reading.from_m is not None and reading.to_m is not None:
                computed, like = self._use_between(reading.from_m, reading.to_m, under, fuel, day), True
                if computed <= 0.0:
                    other.append(reading.id)
                    continue
            else:
                ride = self.rides_of(self.ride_input(under.setup, rider, fuel, day), day)[index]
                computed = float(self.use_of(ride, under.setup, index, as_ridden=day).sum()) * reading.laps
            error = fill_up_sd(measured, reading.laps, fuel=kind is FillUpReading, like=like)
            usable.append(FillUp(reading_id=reading.id, measured=measured, computed=computed, log_sd=error))
        return usable, other

    def _use_between(self, from_m: float, to_m: float, under: Under, fuel_m3: float, day: DayAir) -> float:
        """Use [m3 or J] between two distances of this race [m] at factor 1, as it was ridden; of a relay, by those who ride there."""
        along: dict[int, list[Array]] = {}

        def used(piece: Piece) -> Array:
            rider = self.inputs.riders[piece.rider] if self.relay is not None else under.rider or self.inputs.rider
            if piece.rider not in along:
                rides = self.rides_of(self.ride_input(under.setup, rider, fuel_m3, day), day)
                along[piece.rider] = [np.concatenate([[0.0], np.cumsum(self.use_of(r, under.setup, i, as_ridden=day))]) for i, r in enumerate(rides)]
            return along[piece.rider][piece.stage]

        return use_between([replace(p, used=used(p)) for p in self.pieces(self.laps)], from_m, to_m)

    @cached_property
    def prior(self) -> LogNormal:
        if self.store.kind == "energy":
            return prior_factor(0.0)
        ride = self.ride
        return prior_factor(float((ride.time_s * (ride.throttle_share > 0.97)).sum() / ride.time_s.sum()))

    @cached_property
    def factor(self) -> LogNormal:
        return learn_factor(self.prior, self.fill_ups[0])

    # the race as it goes ----------------------------------------------------------------------------------------------
    @cached_property
    def relay(self) -> tuple[Stint, ...] | None:
        """Who rides which laps (or stages) of a team that shares the race; None of one rider. Raises InputRefused when the rules leave one to nobody."""
        return stints_of(self) if self.inputs.race.relay is not None else None

    def rider_of(self, unit: int) -> int:
        """Who rides a lap of the race (with several stages, a stage), counted from 0; laps beyond the plan are the last rider's."""
        if self.relay is None:
            return self.inputs.race.entries[0].rider
        return next((s.rider for s in self.relay if s.first <= unit <= s.last), self.relay[-1].rider)

    def pieces(self, laps: int) -> list[Piece]:
        """The race as pieces in order: each stage with its laps (`laps` of a single stage); of a relay, each rider's laps in a row."""
        stages, found = self.inputs.race.stages, []
        for i, stage in enumerate(stages):
            count = laps if len(stages) == 1 else stage.laps
            riders = [self.rider_of(lap if len(stages) == 1 else i) for lap in range(count)]
            for rider, run in itertools.groupby(riders):
                found.append(
                    Piece(used=self.use_by(rider)[i], distance_m=self.courses[i].distance_m, laps=len(list(run)), stage=i, rider=rider,
                          refuel_at_m=tuple(p.at_m for p in stage.refuel_points))
                )  # fmt: skip
            found[-1] = replace(found[-1], refuel_after=stage.refuel_after)
        return found

    @cached_property
    def taken(self) -> dict[int, Fill] | None:
        """What is done at which passing of a refuel point, as planned; None without a plan: filled to the starting level at each."""
        stops, store = self.inputs.setup.stops, self.store
        if stops is None:
            return None
        full = store.capacity if store.kind == "fuel" else store.aboard
        fills = {}
        for s in stops:
            fuel = store.kind == "fuel"
            adds = fuel and s.add_m3 is not None
            amount = s.add_m3 if adds else s.to_level_m3 if fuel and s.to_level_m3 is not None else full
            fills[s.passing] = Fill(amount=min(amount or 0.0, full), add=adds)
        return fills

    def fills_of_extra(self, laps: int) -> dict[int, Fill]:
        """What is done at the passings beyond the likely laps, when there is time for more: filled up. Nothing without a plan, or for fewer laps."""
        if self.taken is None or laps <= self.laps:
            return {}
        planned, whole = (len(sections_over(self.pieces(n))) - 1 for n in (self.laps, laps))
        full = self.store.capacity if self.store.kind == "fuel" else self.store.aboard
        return {n: Fill(amount=full) for n in range(planned + 1, whole + 1)}

    def taken_of(self, laps: int) -> dict[int, Fill] | None:
        """What is done at which passing of a race of so many laps; None without a plan."""
        return None if self.taken is None else self.taken | self.fills_of_extra(laps)

    @cached_property
    def cases(self) -> tuple[tuple[float, tuple[tuple[float, ...], ...]], ...]:
        """How the race may go: the chance of each number of laps, and its legs between two fillings."""
        return tuple((chance, tuple(tuple(leg) for leg in legs_over(self.pieces(laps), self.taken_of(laps)) if leg)) for laps, chance in self.lap_chances)

    @cached_property
    def legs(self) -> tuple[tuple[float, ...], ...]:
        """The legs at the median number of laps."""
        return tuple(tuple(leg) for leg in legs_over(self.pieces(self.laps), self.taken) if leg)

    @cached_property
    def largest_leg(self) -> float:
        """Likely use of the longest leg."""
        return max(sum(leg) for leg in self.legs) * self.factor.median
