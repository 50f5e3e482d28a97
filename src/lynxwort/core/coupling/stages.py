"""The stages of `evaluate` in their fixed order, each a function of its own small input, each cached by it."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.air.along import DayAir, RaceAirStates, power_share_along, race_air_states
from lynxwort.core.air.moist import AirState, moist_density
from lynxwort.core.cache import Key, StageCache
from lynxwort.core.chassis import sag
from lynxwort.core.chassis.calibrate import Offsets, SagEvidence, calibrate, half_width
from lynxwort.core.chassis.loads import AxleLoads, axle_loads, cg_to_front_axle, pack_change_kg
from lynxwort.core.course.prepare import Course, Line, join_courses, lay_line, prepare_course
from lynxwort.core.drive.gearing import overall_ratios, rolling_radius
from lynxwort.core.drive.kernel import STUCK_POWER
from lynxwort.core.drive.simulation import Ride, RideInput, join_rides, simulate
from lynxwort.core.fuelling.metering import MapSetting, RodSetting, map_curve, rod_curve
from lynxwort.core.fuelling.richness import Jetting, RichnessCurve, richness_curve
from lynxwort.core.model.bike import Electric, Engine, Injected, Jetted, Rod
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3, LAP_TIME_LOG_SD, LIAISON_PACE, PACE_LOG_SD
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import Air, ChargeReading, FillUpReading, KnownGoodReading, SagReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup
from lynxwort.core.reach.consumption import BikeFactor, FillUp, learn, prior_factor
from lynxwort.core.reach.finish import Piece, lap_chances, legs_over

Array = NDArray[np.float64]
T = TypeVar("T")
Setting = Jetting | RodSetting | MapSetting


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
        return tuple(Key(self.inputs.courses[s.course_key].content_key(), s.ground, s.hills, s.zones, s.kind) for s in self.inputs.race.stages)

    @cached_property
    def courses(self) -> tuple[Course, ...]:
        """Each stage's course, once."""

        def prepare(i: int) -> Course:
            stage = self.inputs.race.stages[i]
            pace = LIAISON_PACE if stage.kind == "liaison" else 1.0
            return self.cache.get(
                "course", self.course_ids[i], lambda: prepare_course(self.lines[i], stage.ground, stage.hills, stage.zones, pace_share=pace, stage=i)
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

    @cached_property
    def power_shares(self) -> tuple[Array, ...]:
        """Share of standard power along each stage; an electric motor keeps its own."""
        electric = isinstance(self.inputs.bike.engine, Electric)

        def along(i: int) -> Array:
            height = self.courses[i].height_m
            if electric:
                return np.ones(height.size - 1)
            middle = 0.5 * (height[1:] + height[:-1])
            return power_share_along(self.air.middle_at_reading, reading_height_m=self.day.reading_height_m, height_m=middle)

        return tuple(
            self.cache.get("power_share", (self.course_ids[i], self.day, electric), lambda i=i: along(i))  # type: ignore[misc]
            for i in range(len(self.courses))
        )

    @cached_property
    def power_share(self) -> Array:
        """Share of standard power along the round."""
        return self.power_shares[0] if len(self.power_shares) == 1 else np.concatenate(self.power_shares)

    # loads and sag ----------------------------------------------------------------------------------------------------
    def loads(self, fuel_m3: float, *, with_rider: bool = True, share_offset: float = 0.0) -> AxleLoads:
        rider = self.inputs.rider
        return axle_loads(
            self.inputs.bike.frame,
            fuel_m3=fuel_m3,
            rider_kg=rider.mass_in_gear_kg if with_rider else 0.0,
            posture=rider.posture,
            share_offset=share_offset,
            pack_change_kg=self.pack_change_kg(self.inputs.setup),
        )

    def pack_change_kg(self, setup: Setup) -> float:
        return pack_change_kg(self.inputs.bike.engine, setup.pack_energy_j)

    def sag_at(self, end: str, setup: Setup, rider: Rider | None, fuel_m3: float, offsets: Array) -> float:
        """Sag [m] of one end; rider None: free sag. offsets: fork preload, shock preload, rider's rear share."""
        frame = self.inputs.bike.frame
        loads = axle_loads(
            frame,
            fuel_m3=fuel_m3,
            rider_kg=rider.mass_in_gear_kg if rider else 0.0,
            posture=rider.posture if rider else "standing",
            share_offset=float(offsets[2]),
            pack_change_kg=self.pack_change_kg(setup),
        )
        if end == "front":
            fork = sag.fork_of(frame, leg_rate_n_per_m=setup.fork_spring_rate_n_per_m, preload_m=setup.fork_preload_m + float(offsets[0]))
            return sag.front_sag(fork, loads.front_kg - frame.unsprung_front_kg)
        return sag.rear_sag(self.shock(setup, float(offsets[1])), loads.rear_kg - frame.unsprung_rear_kg)

    def shock(self, setup: Setup, preload_offset_m: float = 0.0) -> sag.Shock:
        frame = self.inputs.bike.frame
        return sag.Shock(
            rate_n_per_m=setup.shock_spring_rate_n_per_m,
            preload_m=setup.shock_preload_m + preload_offset_m,
            ratio_start=frame.link_ratio_start,
            ratio_end=frame.link_ratio_end,
            travel_m=frame.rear_travel_m,
        )

    def friction_m(self, end: str, setup: Setup) -> float:
        """Half band of friction [m] at one end: friction / wheel rate."""
        frame = self.inputs.bike.frame
        if end == "front":
            return frame.fork_friction_n / (2.0 * setup.fork_spring_rate_n_per_m)
        ratio = 0.5 * (frame.link_ratio_start + frame.link_ratio_end)
        return frame.shock_friction_n * ratio / setup.shock_spring_rate_n_per_m

    @cached_property
    def offsets(self) -> Offsets:
        evidence = []
        for reading in self.inputs.readings:
            if reading.struck_out or not isinstance(reading, SagReading):
                continue
            under = reading.under
            rider = (under.rider or self.inputs.rider) if reading.state == "race" else None
            evidence.append(
                SagEvidence(
                    reading_id=reading.id,
                    value_m=reading.value_m,
                    predict=lambda o, r=reading, who=rider: self.sag_at(r.end, r.under.setup, who, r.under.fuel_aboard_m3, o),  # type: ignore[misc]
                    friction_m=self.friction_m(reading.end, under.setup),
                )
            )
        return calibrate(evidence)

    def present_sag(self, end: str, *, race: bool, fuel_m3: float) -> tuple[float, float]:
        """Sag [m] of the present setup and half of its 90 % interval."""
        rider = self.inputs.rider if race else None
        setup = self.inputs.setup

        def predict(o: Array) -> float:
            return self.sag_at(end, setup, rider, fuel_m3, o)

        value = predict(np.array(self.offsets.mean))
        return value, half_width(predict, self.offsets, self.friction_m(end, setup))

    def targets(self, end: str) -> sag.SagTargets:
        frame = self.inputs.bike.frame
        return sag.front_targets(frame.fork_travel_m) if end == "front" else sag.rear_targets(frame.rear_travel_m)

    # ride -------------------------------------------------------------------------------------------------------------
    def ride_input(self, setup: Setup, rider: Rider, fuel_m3: float) -> RideInput:
        bike = self.inputs.bike
        loads = axle_loads(bike.frame, fuel_m3=fuel_m3, rider_kg=rider.mass_in_gear_kg, posture=rider.posture, pack_change_kg=self.pack_change_kg(setup))
        modes = bike.engine.mode_power_shares if isinstance(bike.engine, Electric) else (1.0,)
        return RideInput(
            engine=bike.engine,
            overall_ratios=overall_ratios(bike, setup),
            efficiency=bike.transmission.efficiency,
            rolling_radius_m=rolling_radius(bike),
            mass_kg=loads.total_kg,
            cg_to_front_axle_m=cg_to_front_axle(loads, bike.frame.wheelbase_m),
            wheelbase_m=bike.frame.wheelbase_m,
            cg_height_m=bike.frame.cg_height_m,
            drag_area_m2=bike.frame.drag_area_m2,
            air_density_kg_per_m3=moist_density(self.air.middle_at_reading),
            pace=rider.pace,
            seed=self.inputs.seed,
            mode_share=modes[min((setup.power_mode or 1), len(modes)) - 1],
        )

    def rides_of(self, what: RideInput) -> tuple[Ride, ...]:
        """Each stage ridden once."""

        key = Key(self.day, what)

        def one(i: int) -> Ride:
            return self.cache.get("ride", (self.course_ids[i], key), lambda: simulate(self.courses[i], self.power_shares[i], what))

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
        return lap_chances(stage.hours_s, self.ride.lap_time_s, common_sd=PACE_LOG_SD, lap_sd=LAP_TIME_LOG_SD)

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
        if isinstance(draft, Jetting) and isinstance(proven, Jetting) and isinstance(engine, Jetted):
            return richness_curve(engine.carburettor, draft, air, proven, proven_air)
        if isinstance(draft, RodSetting) and isinstance(proven, RodSetting) and isinstance(engine, Rod):
            return rod_curve(engine.carburettor, draft, air, proven, proven_air)
        if isinstance(draft, MapSetting) and isinstance(proven, MapSetting) and isinstance(engine, Injected):
            return map_curve(engine.injection, draft, air, proven, proven_air)
        return None

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
            return Store(kind="energy", aboard=pack * charge, unusable=pack * (1.0 - engine.usable_share), capacity=pack)
        return Store(kind="fuel", aboard=setup.fill_m3, unusable=self.inputs.bike.frame.unusable_fuel_m3, capacity=setup.tank_capacity_m3 or 0.0)

    def use_of(self, ride: Ride, setup: Setup) -> Array:
        """Fuel [m3] or energy [J] per step in the mean air, factor 1. Richer mixture burns more in proportion."""
        if isinstance(self.inputs.bike.engine, Electric):
            return ride.energy_j
        curve = self.curve(self.air.middle_at_reading, setup)
        richer = 0.0 if curve is None else float(curve.value[curve.throttle <= 0.5].mean())
        return ride.fuel_kg / FUEL_DENSITY_KG_PER_M3 * (1.0 + richer)

    @cached_property
    def use_along(self) -> tuple[Array, ...]:
        """Cumulative use over one lap of each stage at factor 1, each shape (n + 1,)."""
        return tuple(np.concatenate([[0.0], np.cumsum(self.use_of(r, self.inputs.setup))]) for r in self.rides)

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
            ride = self.rides_of(self.ride_input(under.setup, rider, fuel))[index]
            per_lap = float(self.use_of(ride, under.setup).sum())
            usable.append(FillUp(reading_id=reading.id, measured=measured, computed=per_lap * reading.laps))
        return usable, other

    @cached_property
    def prior(self) -> BikeFactor:
        if self.store.kind == "energy":
            return prior_factor(0.0)
        ride = self.ride
        return prior_factor(float((ride.time_s * (ride.throttle_share > 0.97)).sum() / ride.time_s.sum()))

    @cached_property
    def factor(self) -> BikeFactor:
        return learn(self.prior, self.fill_ups[0])

    def pieces(self, laps: int) -> list[Piece]:
        """The race as pieces in order: each stage with its laps (`laps` of a single stage)."""
        stages = self.inputs.race.stages
        return [
            Piece(
                used=self.use_along[i],
                distance_m=self.courses[i].distance_m,
                laps=laps if len(stages) == 1 else stage.laps,
                refuel_at_m=tuple(p.at_m for p in stage.refuel_points),
                refuel_after=stage.refuel_after,
            )
            for i, stage in enumerate(stages)
        ]

    @cached_property
    def cases(self) -> tuple[tuple[float, tuple[tuple[float, ...], ...]], ...]:
        """How the race may go: the chance of each number of laps, and its legs between two fillings."""
        return tuple((chance, tuple(tuple(leg) for leg in legs_over(self.pieces(laps)))) for laps, chance in self.lap_chances)

    @cached_property
    def legs(self) -> tuple[tuple[float, ...], ...]:
        """The legs at the median number of laps."""
        return tuple(tuple(leg) for leg in legs_over(self.pieces(self.laps)))

    @cached_property
    def largest_leg(self) -> float:
        """Likely use of the longest leg."""
        return max(sum(leg) for leg in self.legs) * self.factor.median


def state_of(air: Air) -> AirState:
    """The air of a reading as the air model takes it."""
    return AirState(pressure_pa=air.pressure_pa, temperature_k=air.temperature_k, relative_humidity=air.relative_humidity)


def setting_of(setup: Setup, engine: Engine) -> Setting | None:
    """The part of a setup that the mixture depends on; None when it is not of this engine's kind."""
    if isinstance(engine, Jetted):
        return None if setup.main_jet is None else Jetting(main_jet=setup.main_jet, needle_clip=setup.needle_clip, premix_ratio=setup.premix_ratio)
    if isinstance(engine, Rod):
        return RodSetting(rod=setup.metering_rod or 0, clicks=setup.knob_clicks or 0, premix_ratio=setup.premix_ratio)
    if isinstance(engine, Injected):
        slot = setup.map_slot or 1
        fits = slot <= len(engine.injection.map_shifts)
        return MapSetting(slot=slot, trim=setup.fuel_trim or 0.0, premix_ratio=setup.premix_ratio) if fits else None
    return None


#: one-sided 90 % perturbations of what the ride rests on: name of the scale, amount (assumption)
PERTURBATIONS = (("rolling_scale", 0.25), ("power_scale", 0.06), ("grip_scale", 0.15), ("pace_scale", 0.08))


def ride_sensitivities(work: Work) -> dict[str, tuple[float, float]]:
    """Half-widths below and above of figures that rest on the ride: relative for time and fuel, metres for metres short."""
    base = work.ride
    squares = {"drive.lap_time": [0.0, 0.0], "range.use_per_lap": [0.0, 0.0]}
    short = [base.metres(STUCK_POWER)]
    for name, amount in PERTURBATIONS:
        for sign in (-1.0, 1.0):
            scaled: dict[str, Any] = {name: 1.0 + sign * amount}
            ride = work.ride_of(replace(work.what, **scaled))
            short.append(ride.metres(STUCK_POWER))
            for key, now, was in (
                ("drive.lap_time", ride.lap_time_s, base.lap_time_s),
                ("range.use_per_lap", ride.lap_use, base.lap_use),
            ):
                change = now / was - 1.0
                squares[key][1 if change > 0 else 0] += change**2
    result = {k: (v[0] ** 0.5, v[1] ** 0.5) for k, v in squares.items()}
    result["drive.metres_short"] = (short[0] - min(short), max(short) - short[0])
    return result
